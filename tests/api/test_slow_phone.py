"""One rude phone cannot stop a bench: what drips is cut, what idles is cut, streams leave room, and the server's own refusals are told like all others."""

import json
import socket
import time
from itertools import islice
from threading import Thread

import pytest

from brasspenny import http, processes, server


@pytest.fixture
def impatient(monkeypatch):
    """A server of a plain app that loses patience within a second, at a port of its own."""
    for name, value in {"ARRIVE_S": 1, "IDLE_S": 1, "LOOK_EVERY_S": 0.2, "MOST_OF_ADDRESS": 6}.items():
        monkeypatch.setattr(server, name, value)
    asked = []

    def app(environ, start_response):
        asked.append(environ["PATH_INFO"])
        until = time.monotonic() + 30
        while environ["PATH_INFO"] == "/long" and not environ["waitress.client_disconnected"]():
            assert time.monotonic() < until
            time.sleep(0.02)
        if environ["PATH_INFO"] == "/long":
            asked.append("answered")
        start_response("200 OK", [("Content-Length", "2")])
        return [b"ok"]

    listening = processes.listen("127.0.0.1", 0)
    running = server.made(app, listening, threads=2)
    looping = Thread(target=running.run, daemon=True)
    looping.start()
    yield listening.getsockname(), asked
    running.end()
    looping.join(timeout=30)
    assert not looping.is_alive()
    for channel in list(running._map.values()):
        channel.close()


HEAD = b"POST /slow HTTP/1.1\r\nHost: localhost\r\nContent-Length: 5000\r\n"


@pytest.mark.parametrize(
    "begun", [b"", HEAD, HEAD + b"\r\n", b"GET /quick HTTP/1.1\r\nHost: localhost\r\n\r\n"], ids=["silent", "head", "body", "idle after an answer"]
)
def test_what_drips_or_idles_is_cut_and_reaches_no_thread(impatient, begun):
    address, asked = impatient
    with socket.create_connection(address, timeout=30) as phone:
        phone.sendall(begun)
        phone.setblocking(False)
        drips, until = b"x" if begun.startswith(b"POST") else b"", time.monotonic() + 30
        while time.monotonic() < until:
            try:
                if phone.recv(100) == b"":
                    break
            except BlockingIOError:
                pass
            except ConnectionResetError:
                break
            try:
                phone.send(drips)
            except OSError:
                break
            time.sleep(0.1)
        else:
            pytest.fail("it was never cut")
    assert "/slow" not in asked


def test_dripping_phones_hold_no_thread_and_one_address_holds_so_many_sockets(impatient):
    address, asked = impatient
    phones = [socket.create_connection(address, timeout=30) for _ in range(5)]
    for phone in phones:
        phone.sendall(HEAD)
    with socket.create_connection(address, timeout=30) as quick:  # two threads, five phones that drip
        quick.sendall(b"GET /quick HTTP/1.1\r\nHost: localhost\r\n\r\n")
        assert quick.recv(200).startswith(b"HTTP/1.1 200") and asked == ["/quick"]
        with socket.create_connection(address, timeout=30) as seventh:
            seventh.sendall(b"GET /never HTTP/1.1\r\nHost: localhost\r\n\r\n")
            try:
                got = seventh.recv(200)
            except OSError:  # reset for what it had sent
                got = b""
            assert got == b"" and "/never" not in asked
    for phone in phones:
        phone.close()


@pytest.mark.parametrize(
    ("sent", "status"),
    [
        (b"POST /x HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99999999\r\n\r\n", 413),
        (b"GET /x HTTP/1.1\r\nHost: localhost\r\nX: " + b"y" * 40_000 + b"\r\n\r\n", 431),
        (b"GET /x HTTP/1.1\r\nnonsense\r\n\r\n", 400),
    ],
)
def test_what_the_server_refuses_by_itself_is_a_problem_like_every_other(impatient, sent, status):
    address, asked = impatient
    with socket.create_connection(address, timeout=30) as phone:
        phone.sendall(sent)
        answer = b""
        while b"\r\n\r\n" not in answer or not answer.endswith(b"}"):
            more = phone.recv(4000)
            assert more, answer
            answer += more
    head, _, body = answer.partition(b"\r\n\r\n")
    said = json.loads(body)
    assert f" {status} ".encode() in head and b"application/problem+json" in head and said["status"] == status and said["detail"]
    assert asked == []


def test_streams_take_half_of_the_threads_and_the_others_are_told_to_come_back(app, monkeypatch):
    monkeypatch.setattr(http, "_slots", type(http._slots)(2))

    def lines():
        while True:
            yield "data: 1\n\n"

    with app.app_context():
        streams = [http.streamed(lines()).response for _ in range(3)]
        assert [next(iter(s)) for s in streams] == ["data: 1\n\n", "data: 1\n\n", http.FULL]
        assert list(islice(streams[2], 5)) == []
        streams[0].close()
        assert next(iter(http.streamed(lines()).response)) == "data: 1\n\n", "a place given up is free again"
        streams[1].close()


def test_work_that_takes_long_can_tell_that_its_client_left(impatient):
    address, asked = impatient
    with socket.create_connection(address, timeout=30) as phone:
        phone.sendall(b"GET /long HTTP/1.1\r\nHost: localhost\r\n\r\n")
        wait_for(lambda: asked == ["/long"])
        time.sleep(0.3)
        assert asked == ["/long"], "who waits is waited with"
    wait_for(lambda: asked == ["/long", "answered"])


def wait_for(condition):
    until = time.monotonic() + 30
    while not condition():
        assert time.monotonic() < until
        time.sleep(0.02)
