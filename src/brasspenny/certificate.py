"""A certificate of the bench's own, so that browsers on this network may keep a page for a reload without network and keep the screen awake.

An authority is made once in the data folder and never leaves it; it vouches for a certificate of this machine's names and addresses, made anew
when they change or when it runs out. A phone that trusts the authority trusts this bench, and nothing else that it did not trust before: the authority
is bound to private addresses and local names.
"""

from __future__ import annotations

import ipaddress
import os
import socket
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_DAYS, CERTIFICATE_DAYS, RENEW_DAYS = 3650, 397, 30
PRIVATE = ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "127.0.0.0/8", "169.254.0.0/16", "100.64.0.0/10", "fc00::/7", "fe80::/10", "::1/128")
LOCAL_NAMES = ("localhost", "local", "lan", "home.arpa", "internal")


@dataclass(frozen=True)
class Files:
    """Where the certificate with its chain, its key, and the authority to be trusted lie."""

    chain: Path
    key: Path
    authority: Path


def settle(data: Path, names: Iterable[str], now: datetime | None = None) -> Files:
    """The certificate for these names and addresses, made where there is none that is good for all of them for a while longer."""
    now = now or datetime.now(UTC)
    folder = data / "tls"
    folder.mkdir(exist_ok=True, mode=0o700)
    files = Files(folder / "certificate.pem", folder / "key.pem", folder / "authority.pem")
    wanted = sorted({*names, "localhost", "127.0.0.1"})
    authority, authority_key = _authority(files.authority, folder / "authority-key.pem", wanted, now)
    if not _is_good(files, authority, wanted, now):
        _certify(files, authority, authority_key, wanted, now)
    return files


def names_of_this_machine(address: str) -> list[str]:
    """Its address, and what it calls itself where that can stand in a certificate."""
    host = socket.gethostname()
    return [address, host, f"{host}.local"] if host.isascii() else [address]


def _authority(path: Path, key_path: Path, wanted: list[str], now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    if path.exists() and key_path.exists():
        held = x509.load_pem_x509_certificate(path.read_bytes())
        if held.not_valid_after_utc > now + timedelta(days=CERTIFICATE_DAYS) and all(_permits(held, _named(n)) for n in wanted):
            return held, serialization.load_pem_private_key(key_path.read_bytes(), None)
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Brass Penny, this bench only, {now:%d %b %Y}")])
    bound = x509.NameConstraints(_bounds(wanted), None)
    made = (
        _begun(name, name, key, now, AUTHORITY_DAYS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(bound, critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write(key_path, _pem(key), private=True)
    _write(path, made.public_bytes(serialization.Encoding.PEM))
    return made, key


def _bounds(wanted: list[str]) -> list[x509.GeneralName]:
    """Private networks and local names, and whatever this machine is called beside."""
    own = [_named(n).value for n in wanted]
    networks = [*map(ipaddress.ip_network, PRIVATE)]
    networks += [ipaddress.ip_network(n) for n in own if not isinstance(n, str) and not any(n in net for net in networks)]
    return [*(x509.IPAddress(n) for n in networks), *(x509.DNSName(n) for n in dict.fromkeys([*LOCAL_NAMES, *(n for n in own if isinstance(n, str))]))]


def _permits(authority: x509.Certificate, name: x509.GeneralName) -> bool:
    """Whether it may vouch for this name; where the machine has moved to another kind of address, it may not, and is made anew."""
    allowed = authority.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
    if isinstance(name.value, str):
        return any(isinstance(a.value, str) and (name.value == a.value or name.value.endswith(f".{a.value}")) for a in allowed)
    return any(not isinstance(a.value, str) and name.value in a.value for a in allowed)


def _certify(files: Files, authority: x509.Certificate, authority_key: ec.EllipticCurvePrivateKey, wanted: list[str], now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Brass Penny")])
    made = (
        _begun(name, authority.subject, key, now, CERTIFICATE_DAYS)
        .add_extension(x509.SubjectAlternativeName([_named(n) for n in wanted]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(authority_key.public_key()), critical=False)
        .sign(authority_key, hashes.SHA256())
    )
    _write(files.key, _pem(key), private=True)
    _write(files.chain, made.public_bytes(serialization.Encoding.PEM) + authority.public_bytes(serialization.Encoding.PEM))


def _begun(subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePrivateKey, now: datetime, days: int) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + timedelta(days=days))
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, key_cert_sign=signs, crl_sign=signs, content_commitment=False, key_encipherment=False, data_encipherment=False,
        key_agreement=False, encipher_only=False, decipher_only=False,
    )  # fmt: skip


def _named(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _is_good(files: Files, authority: x509.Certificate, wanted: list[str], now: datetime) -> bool:
    if not (files.chain.exists() and files.key.exists()):
        return False
    held = x509.load_pem_x509_certificate(files.chain.read_bytes())
    try:
        held.verify_directly_issued_by(authority)
    except Exception:  # of whatever kind: it is made anew
        return False
    said = held.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return held.not_valid_after_utc > now + timedelta(days=RENEW_DAYS) and set(said) == {_named(n) for n in wanted}


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())


def _write(path: Path, content: bytes, *, private: bool = False) -> None:
    """Whole or not at all; a key for its owner alone."""
    half = path.with_suffix(".half")
    with os.fdopen(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600 if private else 0o644), "wb") as out:
        out.write(content)
    half.replace(path)


STEPS = (
    "Open {link}authority.pem on the phone, past the browser's warning this once.",
    "Where the phone speaks of a profile: Settings, Profile downloaded, Install; then switch it on under General, About, Certificate trust settings.",
    "Where it speaks of a CA certificate: Settings, Security, Install a certificate; choose the file.",
    "Close the browser and open the bench again: no warning is left.",
)
"""How a phone comes to trust it."""
