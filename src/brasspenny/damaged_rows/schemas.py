"""HTTP shapes of what was set aside."""

from __future__ import annotations

from datetime import datetime

from ..http import Answer, Body


class DamagedShown(Answer):
    """name: of the unit that was set aside; kind, column: the row in it that cannot be read, and the column, "" where its rows do not fit together. can_lose_the_value: it can come back
    without that value."""

    id: str
    name: str
    kind: str
    column: str
    why: str
    set_aside_at: datetime
    can_come_back: bool
    can_lose_the_value: bool


class DamagedAnswer(Answer):
    damaged: list[DamagedShown]


class PutBackBody(Body):
    """without_value: what cannot be read is taken out of it first."""

    without_value: bool = False
