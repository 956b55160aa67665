"""Who does something, when, and with which randomness: handed from the edge inwards, so that nothing deeper looks at
a clock or draws from a hidden generator."""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from datetime import datetime

ID_ALPHABET = "abcdefghjkmnpqrstvwxyz23456789"
ID_LENGTH = 12


@dataclass(frozen=True)
class Act:
    """who: a person's id or None; now: aware UTC; rng: the system's own randomness, or a seeded one in tests. touched: (trial, kind of
    row, action) of every change written down in it, for what must follow once it is done."""

    who: str | None
    now: datetime
    rng: random.Random
    touched: set[tuple[str, str, str]] = field(default_factory=set)

    def new_id(self) -> str:
        """A random wire id: says nothing of order or content."""
        return "".join(self.rng.choices(ID_ALPHABET, k=ID_LENGTH))
