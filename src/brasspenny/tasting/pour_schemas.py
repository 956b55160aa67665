"""HTTP shapes of the runner's pour sheet: the one place where a code stands beside a brew before the flip."""

from __future__ import annotations

from ..http import Answer
from .schemas import Status


class PourCup(Answer):
    code: str
    round: int
    mark: int
    letter: str
    label: str


class PourSeat(Answer):
    """A taster's cups in the order they are to be set down."""

    taster: str
    order: list[str]


class PourReference(Answer):
    round: int
    label: str


class PourAnswer(Answer):
    bench: str
    flight: int
    status: Status
    method_label: str
    commitment: str
    cups: list[PourCup]
    seats: list[PourSeat]
    references: list[PourReference]
