"""HTTP shapes of the calculators about tasting: discrimination."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..core.judging.discrimination import MOST_TRIALS
from ..core.vocabulary import DiscriminationMethod
from ..http import Answer, Body
from .schemas import Interval, example

Alpha = Annotated[float, Field(gt=0, lt=0.5, description="one-sided level of significance")]
Share = Annotated[float, Field(gt=0, lt=1)]


class DiscriminationBody(Body):
    """n independent trials of one method, correct of them right."""

    model_config = example({"method": "triangle", "n": 15, "correct": 9})
    method: DiscriminationMethod
    n: Annotated[int, Field(ge=1, le=MOST_TRIALS)]
    correct: Annotated[int, Field(ge=0, le=MOST_TRIALS)]
    alpha: Alpha = 0.05


class DiscriminationAnswer(Answer):
    """Shares 0 to 1; intervals 95 %, exact. d_prime and the upper end of its interval are null where no finite value fits: all right.
    min_correct: null when even all right could be luck."""

    p_value: float
    guess_rate: float
    proportion_correct: float
    distinguishers: float
    distinguishers_interval: Interval
    d_prime: float | None
    d_prime_interval: list[float | None]
    min_correct: int | None
    text: str


class DiscriminationPlanBody(Body):
    """distinguishers: share that really can tell (for a difference), or that must not be exceeded (for similarity)."""

    model_config = example({"method": "triangle", "distinguishers": 0.4})
    method: DiscriminationMethod
    distinguishers: Share = 0.4
    alpha: Alpha = 0.05
    power: Share = 0.8


class DiscriminationPlanAnswer(Answer):
    """n trials with min_correct right show a difference with that power. similar_n trials with at most most_correct right show that no
    more than that share can tell, when really nobody can. null: more than 3,000."""

    n: int | None
    min_correct: int | None
    power: float
    similar_n: int | None
    most_correct: int | None
    similar_power: float
