"""HTTP shapes of the cards."""

from __future__ import annotations

from ..http import Answer
from ..kit.schemas import KitKind


class CardLine(Answer):
    """One thing known. said: with its unit and interval; note: what it rests on."""

    label: str
    said: str
    note: str


class CardTrial(Answer):
    """A trial this was compared in, blind. said: how it was liked beside its rivals."""

    trial_id: str
    number: int
    question: str
    said: str


class KitCard(Answer):
    """parts: of a grinder with burr sets, theirs: id → name. sampled: one of its samples, to open the Grind room at; '' without."""

    id: str
    kind: KitKind
    name: str
    lines: list[CardLine]
    unknown: list[str]
    matches: list[str]
    trials: list[CardTrial]
    parts: dict[str, str]
    sampled: str
    brews: int
    in_band_note: str
