"""Ports and addresses of this machine: whether one is free, whose it is, and what phones call us."""

from __future__ import annotations

import getpass
import os
import socket
import time
from pathlib import Path

from . import prefork


class Refused(Exception):
    """A plain sentence for the person at the terminal."""


def refuse_taken(host: str, port: int) -> None:
    """Raises Refused with what is wrong and what to do, where this address cannot be listened on."""
    if not 1 <= port <= 65535:
        raise Refused(f"{port} is not a port. Give one from 1024 to 65535 with --port.")
    try:
        family, _, _, _, address = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE)[0]
    except OSError:
        raise Refused(f"{host} is not an address of this machine. Give 127.0.0.1, ::1 or 0.0.0.0 with --host.") from None
    until = time.monotonic() + STILL_CLOSING_S
    while (pid := _listener(port)) and _is_closing(pid) and time.monotonic() < until:
        time.sleep(0.1)
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(address)
        except PermissionError:
            raise Refused(f"Port {port} needs more rights than {getpass.getuser()} has. Choose one above 1023 with --port.") from None
        except OSError as error:
            pid = _listener(port)
            whose = f"{Path(f'/proc/{pid}/comm').read_text().strip()}, process {pid}, listens there" if pid else error.strerror
            raise Refused(f"Port {port} on {host} cannot be used ({whose}). Choose another with --port {port + 1 if port < 65535 else 8765}.") from None


STILL_CLOSING_S = 10


def _is_closing(pid: int) -> bool:
    """Whether it serves a bench whose start was killed: then it is on its way out, and the port is free in a moment."""
    try:
        serves = Path(f"/proc/{pid}/comm").read_text().strip() == prefork.CALLED or b"brasspenny.server" in Path(f"/proc/{pid}/cmdline").read_bytes()
        parent = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[1]
        return serves and b"brasspenny.cli" not in Path(f"/proc/{parent}/cmdline").read_bytes()
    except OSError:
        return True  # gone while it was looked at


def _listener(port: int) -> int:
    """The process that listens on a port, as far as this user may see; 0 when none is seen."""
    sockets = set()
    for table in ("tcp", "tcp6"):
        for row in Path(f"/proc/net/{table}").read_text().splitlines()[1:] if Path(f"/proc/net/{table}").exists() else []:
            _, local, _, state, *rest = row.split()
            if state == "0A" and int(local.rpartition(":")[2], 16) == port:
                sockets.add(f"socket:[{rest[5]}]")
    for process in sorted(Path("/proc").glob("[0-9]*"), key=lambda p: int(p.name)):
        try:
            if any(os.readlink(fd) in sockets for fd in (process / "fd").iterdir()):
                return int(process.name)
        except OSError:
            continue
    return 0


def in_address(host: str) -> str:
    """As a host stands in an address: IPv6 in brackets.

    >>> in_address("::1"), in_address("127.0.0.1")
    ('[::1]', '127.0.0.1')
    """
    return f"[{host}]" if ":" in host else host


def own_address() -> str:
    """This machine's address on its network, without sending anything; loopback when it has none."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))
            return probe.getsockname()[0]
        except OSError:
            return "127.0.0.1"
