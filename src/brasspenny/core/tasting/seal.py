"""The sealed key of a flight: a commitment shown before tasting, opened at the flip, so that anyone can check that it was not changed.

commitment = SHA-256 of "nonce|code=mark;code=mark…" in UTF-8, codes in order, the nonce 256 random bits in hex. Without the
nonce, the few possible keys could be tried one by one; with it the hash tells nothing.
"""

from __future__ import annotations

import hashlib
import hmac
from collections.abc import Mapping


def key_text(key: Mapping[str, int], nonce: str) -> str:
    """What the commitment is of. key: code → mark.

    >>> key_text({"736": 2, "418": 1}, "00ff")
    '00ff|418=1;736=2'
    """
    return f"{nonce}|" + ";".join(f"{code}={mark}" for code, mark in sorted(key.items()))


def commitment(key: Mapping[str, int], nonce: str) -> str:
    """64 hex digits."""
    return hashlib.sha256(key_text(key, nonce).encode()).hexdigest()


def holds(key: Mapping[str, int], nonce: str, committed: str) -> bool:
    return hmac.compare_digest(commitment(key, nonce), committed)
