"""A certificate of the bench's own, and serving by it: browsers check it as they check any, and no phone's greeting holds another up."""

import contextlib
import ipaddress
import socket
import ssl
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from threading import Thread

import pytest
from cryptography import x509

from brasspenny import certificate, processes, server

NOW = datetime(2026, 11, 28, tzinfo=UTC)
NAMES = ["192.168.7.4", "lightship"]


def test_it_is_made_once_kept_while_good_and_made_anew_when_the_address_changes(tmp_path):
    files = certificate.settle(tmp_path, NAMES, NOW)
    first, authority = files.chain.read_bytes(), files.authority.read_bytes()
    held = x509.load_pem_x509_certificate(first)
    named = held.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert ipaddress.ip_address("192.168.7.4") in named.get_values_for_type(x509.IPAddress) and "localhost" in named.get_values_for_type(x509.DNSName)
    assert certificate.settle(tmp_path, NAMES, NOW + timedelta(days=300)).chain.read_bytes() == first
    assert certificate.settle(tmp_path, NAMES, NOW + timedelta(days=380)).chain.read_bytes() != first, "a month before it runs out"
    certificate.settle(tmp_path, ["192.168.7.9"], NOW)
    assert files.chain.read_bytes() != first and files.authority.read_bytes() == authority, "phones that trust the bench go on doing so"
    assert [p.stat().st_mode & 0o777 for p in (files.key, tmp_path / "tls/authority-key.pem", tmp_path / "tls")] == [0o600, 0o600, 0o700]


def test_the_authority_vouches_for_this_network_alone(tmp_path):
    held = x509.load_pem_x509_certificate(certificate.settle(tmp_path, NAMES, NOW).authority.read_bytes())
    bound = held.extensions.get_extension_for_class(x509.NameConstraints)
    allowed = [n.value for n in bound.value.permitted_subtrees]
    networks = [n for n in allowed if not isinstance(n, str)]
    assert bound.critical and not any(ipaddress.ip_address("93.184.216.34") in n for n in networks) and "com" not in allowed


def test_a_machine_with_an_address_of_another_kind_is_vouched_for_all_the_same(tmp_path):
    before = certificate.settle(tmp_path, NAMES, NOW).authority.read_bytes()
    files = certificate.settle(tmp_path, ["203.0.113.8", "lightship"], NOW)
    assert files.authority.read_bytes() != before, "it has to be trusted anew"
    bound = x509.load_pem_x509_certificate(files.authority.read_bytes()).extensions.get_extension_for_class(x509.NameConstraints).value
    assert ipaddress.ip_network("203.0.113.8/32") in [n.value for n in bound.permitted_subtrees]
    assert certificate.settle(tmp_path, ["203.0.113.8", "lightship"], NOW).authority.read_bytes() == files.authority.read_bytes()


def test_what_is_broken_on_the_disk_is_made_anew(tmp_path):
    files = certificate.settle(tmp_path, NAMES, NOW)
    files.key.unlink()
    other = tmp_path / "other"
    other.mkdir()
    files.chain.write_bytes(certificate.settle(other, NAMES, NOW).chain.read_bytes())  # another authority's
    certificate.settle(tmp_path, NAMES, NOW)
    ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(files.chain, files.key)


@pytest.fixture
def served(tmp_path):
    """A plain app over TLS at a port of its own: (address, what trusts it)."""
    files = certificate.settle(tmp_path, [])
    asked = []

    def app(environ, start_response):
        body = environ["wsgi.input"].read()
        asked.append((environ["wsgi.url_scheme"], len(body)))
        start_response("200 OK", [("Content-Length", str(len(body) + 300_000))])
        return [body, b"z" * 300_000]

    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(files.chain, files.key)
    listening = processes.listen("127.0.0.1", 0)
    running = server.made(app, listening, threads=4, tls=context)
    looping = Thread(target=running.run, daemon=True)
    looping.start()
    yield listening.getsockname(), ssl.create_default_context(cafile=files.authority), asked
    running.end()
    looping.join(timeout=30)
    for channel in list(running._map.values()):
        channel.close()


def posted(address, trusts, size):
    with trusts.wrap_socket(socket.create_connection(address, timeout=30), server_hostname="localhost") as phone:
        phone.sendall(b"POST / HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\nContent-Length: %d\r\n\r\n" % size + b"x" * size)
        got = b""
        while more := phone.recv(65_536):
            got += more
    head, _, body = got.partition(b"\r\n\r\n")
    assert head.startswith(b"HTTP/1.1 200"), head[:200]
    return body


def test_large_and_small_go_both_ways_whole_while_others_are_slow_to_greet(served):
    address, trusts, asked = served
    silent = [socket.create_connection(address, timeout=30) for _ in range(5)]
    with ThreadPoolExecutor(6) as phones:
        for size, body in phones.map(lambda size: (size, posted(address, trusts, size)), [0, 1, 16_384, 16_385, 100_000, 700_000] * 3):
            assert body == b"x" * size + b"z" * 300_000
    assert len(asked) == 18 and {scheme for scheme, _ in asked} == {"https"}
    for phone in silent:
        phone.close()


def test_who_does_not_speak_tls_is_cut_and_who_trusts_others_refuses(served):
    address, trusts, asked = served
    with socket.create_connection(address, timeout=30) as plain:
        plain.sendall(b"GET / HTTP/1.1\r\nHost: localhost\r\n\r\n")
        with contextlib.suppress(ConnectionResetError):
            assert b"200" not in plain.recv(1000)
    with pytest.raises(ssl.SSLCertVerificationError):
        ssl.create_default_context().wrap_socket(socket.create_connection(address, timeout=30), server_hostname="localhost")
    assert asked == [] and posted(address, trusts, 3)[:3] == b"xxx", "and the next is served"
