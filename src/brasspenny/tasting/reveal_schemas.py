"""HTTP shapes of what a taster learns after the flip."""

from __future__ import annotations

from ..http import Answer


class RevealedCup(Answer):
    """letter, setup: what it was. liking: their own, mean over the passes; panel: everybody's mean; place, panel_place: the same of a ranking. guessed: the letter they guessed, "" for none; right: null without a guess."""

    code: str
    letter: str
    setup: str
    liking: float | None
    panel: float | None
    place: float | None
    panel_place: float | None
    guessed: str
    right: bool | None


class RevealAnswer(Answer):
    """Cups in the taster's own order. picks: what they chose in rounds, in words; panel_right: how the panel did, '' where there is no right or wrong."""

    flight: int
    taster: str
    flipped: bool
    tasters: int
    cups: list[RevealedCup]
    picks: list[str]
    panel_right: str
