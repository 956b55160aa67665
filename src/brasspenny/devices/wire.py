"""A real scale over a wire, as told in docs/scale-wire.md §1: lines of text, one reading each. No maker's protocol: what an ordinary serial or network scale can be set to print."""

from __future__ import annotations

import ipaddress
import re
import select
import socket
from collections import deque
from collections.abc import Iterator

from ..core import figures

UNITS_G = {"": 1.0, "g": 1.0, "kg": 1000.0, "oz": 28.349523125, "lb": 453.59237}
LINE = re.compile(r"(?:[A-Za-z]{1,3}[,:;]\s*){0,3}([+-]?)\s*(\d{1,6}(?:[.,]\d{1,4})?|[.,]\d{1,4})\s*(kg|g|oz|lb)?\s*", re.ASCII | re.IGNORECASE)
LONGEST_LINE = 80
MOST_G = 100_000.0


def read_line(text: str) -> float | None:
    """The mass of a line, g; None where it is none (a greeting, an error, an empty line).

    >>> read_line("  120.5 g"), read_line("ST, +0,1250 kg"), read_line("- 3.1"), read_line("Err 2")
    (120.5, 125.0, -3.1, None)
    """
    m = LINE.fullmatch(text.strip()[:LONGEST_LINE])
    if m is None:
        return None
    grams = float(m[2].replace(",", ".")) * UNITS_G[(m[3] or "").lower()]
    return (-grams if m[1] == "-" else grams) if grams <= MOST_G else None


def write_line(grams: float) -> str:
    """As the simulator says it.

    >>> write_line(-3.14), read_line(write_line(120.5))
    ('-3.1 g', 120.5)
    """
    return f"{figures.grams_fine(grams)} g"


# --- over the network -----------------------------------------------------------------------------------------------------------------

CONNECTS_WITHIN_S, SILENT_S = 4.0, 0.5
LOCAL_NETWORKS = tuple(map(ipaddress.ip_network, ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "fc00::/7", "127.0.0.0/8", "::1/128")))
"""Where a scale may stand. Link-local addresses are left out: services of a machine's own surroundings answer there."""
ADDRESS = re.compile(r"(?P<host>[0-9a-fA-F.]{3,15}|\[[0-9a-fA-F:.%]{2,45}\]|localhost):(?P<port>[0-9]{1,5})")


def place_of(address: str) -> tuple[str, int]:
    """Host and port of a scale's address. Raises ValueError with a sentence: it is none, or it lies beyond the local network.

    >>> place_of("192.168.1.40:7070"), place_of("localhost:7070")
    (('192.168.1.40', 7070), ('127.0.0.1', 7070))
    """
    m = ADDRESS.fullmatch(address)
    if m is None:
        raise ValueError("This is no address of a scale. Give such as 192.168.1.40:7070.")
    host = "127.0.0.1" if m["host"] == "localhost" else m["host"].strip("[]")
    try:
        at = ipaddress.ip_address(host)
    except ValueError:
        raise ValueError("This is no address of a scale. Give such as 192.168.1.40:7070.") from None
    if not any(at in network for network in LOCAL_NETWORKS):
        raise ValueError("This address is not of a local network. Give one such as 192.168.1.40:7070.")
    if not 1024 <= int(m["port"]) <= 65535:
        raise ValueError("A scale's port is from 1024 to 65535.")
    return host, int(m["port"])


def is_this_machine(address: str) -> bool:
    """Whether a scale's address, as `place_of` takes it, is one of the machine that the program runs on."""
    host, _ = place_of(address)
    if ipaddress.ip_address(host).is_loopback:
        return True
    with socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET, socket.SOCK_STREAM) as probe:
        try:
            probe.bind((host, 0))  # only an address of one's own can be bound
        except OSError:
            return False
    return True


class Attempts:
    """How often something is tried: `may_try` is False once it was tried `most` times within `within_s`."""

    def __init__(self, most: int, within_s: float) -> None:
        self._at: deque[float] = deque(maxlen=most)
        self._within_s = within_s

    def may_try(self, now_s: float) -> bool:
        if len(self._at) == self._at.maxlen and now_s - self._at[0] < self._within_s:
            return False
        self._at.append(now_s)
        return True


def lines_from(address: str) -> Iterator[str]:
    """What a scale writes, line by line, until it closes; "" after each half second of silence, so that who waits can see whether anybody still listens. Raises OSError, and ValueError as `place_of`."""
    with socket.create_connection(place_of(address), timeout=CONNECTS_WITHIN_S) as link:
        waiting = b""
        while True:
            if not select.select([link], [], [], SILENT_S)[0]:
                yield ""
                continue
            said = link.recv(4096)
            if not said:
                return
            *whole, waiting = (waiting + said).split(b"\n")
            waiting = waiting[-LONGEST_LINE:]
            yield from (line.decode("ascii", "replace").strip()[:LONGEST_LINE] for line in whole)
