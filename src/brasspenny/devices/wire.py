"""A real scale over a wire, as told in docs/scale-wire.md §1: lines of text, one reading each. No maker's protocol: what an ordinary serial or network scale can be set to print."""

from __future__ import annotations

import ipaddress
import re
import select
import socket
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
    if not (at.is_private or at.is_loopback or at.is_link_local) or at.is_unspecified or at.is_multicast:
        raise ValueError("This address is not of a local network. Give one such as 192.168.1.40:7070.")
    if not 1024 <= int(m["port"]) <= 65535:
        raise ValueError("A scale's port is from 1024 to 65535.")
    return host, int(m["port"])


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
