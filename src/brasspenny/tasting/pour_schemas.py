"""HTTP shapes of the runner's pour sheet: the one place where a code stands beside a brew before the flip."""

from __future__ import annotations

from ..http import Answer
from .schemas import Status


class PourCup(Answer):
    """add_water_g: to stir into its server before it is poured, so that all are one strength; null where there is nothing to do."""

    code: str
    round: int
    mark: int
    letter: str
    label: str
    add_water_g: float | None


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
