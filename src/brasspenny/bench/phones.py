"""Letting phones on this network in: a passphrase that is made, and what the terminal then says."""

from __future__ import annotations

import io
import secrets

import segno

from ..http import utc_now
from .service import has_passphrase, set_first_passphrase, set_passphrase

WORDS = (
    "anchor", "ballast", "barrel", "beacon", "bollard", "bosun", "bowline", "brass", "bucket", "buoy", "cabin", "canvas", "capstan", "chart", "cleat", "cocoa",
    "compass", "copper", "cork", "crate", "davit", "deck", "ferry", "fender", "flag", "galley", "gull", "halyard", "harbour", "hatch", "hull", "jetty",
    "kettle", "ladder", "lamp", "lantern", "locker", "mast", "moor", "net", "oar", "paint", "parrot", "pilot", "plank", "pulley", "quay", "rivet",
    "rope", "rudder", "sail", "sextant", "shoal", "signal", "skiff", "spindle", "stern", "tide", "tiller", "towline", "tug", "wharf", "whistle", "winch",
)  # fmt: skip


def made_passphrase() -> str:
    """Four words and four digits: 37 bits, told over a counter and typed on a phone once."""
    return "-".join([*(secrets.choice(WORDS) for _ in range(4)), f"{secrets.randbelow(10_000):04}"])


def let_in(*, anew: bool) -> str:
    """The passphrase that was made; "" where the bench keeps its own. anew: one is made in any case (inside a connection)."""
    if has_passphrase() and not anew:
        return ""
    made = made_passphrase()
    set_passphrase(made, utc_now())
    return made


def let_in_others() -> str:
    """The same while the bench is open on its own machine, where nobody is locked out: the passphrase that was made, "" where it has one."""
    made = made_passphrase()
    return made if set_first_passphrase(made) else ""


def said(address: str, passphrase: str) -> str:
    """For the terminal: the passphrase, and the bench's address as a code."""
    if "//127." in address:
        return "  This machine is on no network now, so no phone can reach it. Join one, then start again.\n"
    code = io.StringIO()
    segno.make(address, error="m").terminal(out=code, border=2, compact=True)
    told = f"  Passphrase              {passphrase}" if passphrase else "  The passphrase is the one you have set; ./penny passphrase sets another."
    return f"{told}\n  A host's phone or tablet on this network: point its camera here. Tasters need only their own link.\n{code.getvalue()}"
