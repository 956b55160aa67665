"""HTTP shapes of the verdict."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ..http import Answer
from ..measuring.schemas import Pooled


class SetupJudged(Answer):
    setup: str
    name: str
    n_scores: int
    mean: float | None
    interval: list[float] | None
    probability_best: float | None
    expected_regret: float | None
    brew_ratio: float | None
    tds: Pooled | None
    extraction_yield: Pooled | None
    total_time_s: float | None


class DifferenceShown(Answer):
    a: str
    b: str
    estimate: float
    interval: list[float]
    p_value: float
    p_adjusted: float
    p_permutation: float
    probability_practically_equal: float


class VerdictShown(Answer):
    kind: Literal["clear", "tie", "not_enough"]
    choice: str | None
    tied: list[str]
    dropped: list[str]
    headline: str
    text: str


class LeanShown(Answer):
    setup: str | None
    expected_regret: float | None
    text: str


class CaveatShown(Answer):
    code: str
    text: str
    cure: str


class TasterRow(Answer):
    """A taster's mean liking of each setup, by letter."""

    taster: str
    means: dict[str, float]


class JudgedAnswer(Answer):
    attribute: str
    flights: int
    tasters: int
    brews: int
    smallest_difference: float
    setups: list[SetupJudged]
    differences: list[DifferenceShown]
    verdict: VerdictShown
    lean: LeanShown
    caveats: list[CaveatShown]
    by_taster: list[TasterRow]
    judged_at: datetime


class EarlierVerdict(Answer):
    judged_at: datetime
    sighted: bool
    headline: str


class VerdictAnswer(Answer):
    """blind and sighted are kept apart; earlier: what was said before a correction."""

    blind: JudgedAnswer | None
    sighted: JudgedAnswer | None
    flights_open: int
    flights_to_flip: int
    earlier: list[EarlierVerdict]


class ScatterAnswer(Answer):
    """SDs in points of the 9-point scale. own: from this bench's blind flights; source says so in words."""

    taster_setup: float
    brew: float
    noise: float
    own: bool
    source: str
