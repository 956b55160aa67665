"""What a taster can tell apart: a belief about their threshold, narrowed by every answer, and the step that would narrow it most. docs/palate.md §1.

A step x separates two cups by d′ = (x / x₁)^s, where x₁ is the step with d′ = 1 and s how steeply telling grows. A share λ of the answers is a lapse:
right as often as a guess. P(right) = (1 − λ) P(d′) + λ g, with P and g those of the method (core/judging/discrimination.py). The three are
integrated over a grid, so that an interval speaks of the threshold whatever the slope and the lapses. The next step is the one whose answer is expected
to tell most about threshold and slope (L. Kontsevich and C. Tyler, Vision Research, 1999; lapse as N. Prins, Journal of Vision, 2013).
"""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import dataclass
from functools import lru_cache
from math import exp, log, sqrt
from typing import Literal

import numpy as np

from .. import figures
from ..distributions import ndtri
from ..judging.discrimination import GUESS_RATE, proportion_correct
from .series import AXES, PalateAxis, SeriesMethod, geometric_middle, in_words, range_in_words

PRIOR_SD_LN, PRIOR_SLOPE, PRIOR_SLOPE_SD_LN = 0.8, 1.2, 0.35
"""Before any answer: a threshold within a factor of five either way, a slope of about one."""
LAPSES, LAPSE_WEIGHTS = np.array([0.0, 0.02, 0.06, 0.12]), np.array([0.35, 0.35, 0.2, 0.1])
SPAN_SDS, THRESHOLDS, SLOPES = 4.5, 91, 13
FIRST_ANSWER = 8
"""Presentations before a threshold is told at all."""
NARROW_ENOUGH = 2.5
"""Upper end over lower: then more presentations are a luxury."""
D_75 = sqrt(2) * float(ndtri(0.75))
"""d′ with which 75 % of 2-AFC answers are right."""


@dataclass(frozen=True)
class Presented:
    """One answer. step: how far apart the cups were; right: whether the cup was found."""

    step: float
    right: bool
    method: SeriesMethod = "two_afc"


@lru_cache(maxsize=4)
def _table(method: SeriesMethod) -> tuple[np.ndarray, np.ndarray]:
    d = np.linspace(0, 8, 321)
    return d, np.array([proportion_correct(method, float(x)) for x in d])


class Belief:
    """Weights over thresholds × slopes × lapses; made anew by every answer."""

    def __init__(self, middle: float) -> None:
        """middle: the step half of people may tell, before anybody answered."""
        spread = np.linspace(-SPAN_SDS, SPAN_SDS, THRESHOLDS)
        self.x1 = middle * np.exp(PRIOR_SD_LN * spread)
        slopes = np.linspace(-2.5, 2.5, SLOPES)
        self.slope = PRIOR_SLOPE * np.exp(PRIOR_SLOPE_SD_LN * slopes)
        self.weight = np.exp(-0.5 * spread**2)[:, None, None] * np.exp(-0.5 * slopes**2)[None, :, None] * LAPSE_WEIGHTS[None, None, :]
        self.weight /= self.weight.sum()
        self._right: dict[tuple[float, SeriesMethod], np.ndarray] = {}

    def imagined(self) -> Belief:
        """Return a copy to be told made-up answers; it shares the grid and what was computed from it."""
        return copy(self)

    def right(self, step: float, method: SeriesMethod) -> np.ndarray:
        """P(right) at every point of the grid, which no answer changes: computed once for each step."""
        if (step, method) not in self._right:
            known, share = _table(method)
            d = (step / self.x1[:, None]) ** self.slope[None, :]
            found = np.interp(d, known, share)[:, :, None]
            self._right[step, method] = (1 - LAPSES) * found + LAPSES * GUESS_RATE[method]
        return self._right[step, method]

    def tell(self, answer: Presented) -> None:
        p = self.right(answer.step, answer.method)
        self.weight = self.weight * (p if answer.right else 1 - p)
        self.weight /= self.weight.sum()

    def expected_gain(self, step: float, method: SeriesMethod) -> float:
        """How much of what is not known about threshold and slope an answer at this step is expected to take away, nats."""
        now = self.weight.sum(2)
        yes = np.einsum("tsl,tsl->ts", self.weight, self.right(step, method))
        no = now - yes
        p = yes.sum()
        return _entropy(now) - p * _entropy(yes / p) - (1 - p) * _entropy(no / (1 - p))

    def threshold(self, d_prime: float = D_75) -> tuple[float, float, float]:
        """Median and 95 % interval of the step with this d′."""
        steps = (self.x1[:, None] * d_prime ** (1 / self.slope[None, :])).ravel()
        weights = self.weight.sum(2).ravel()
        order = np.argsort(steps)
        below = np.cumsum(weights[order]) - weights[order] / 2
        low, middle, high = np.exp(np.interp((0.025, 0.5, 0.975), below, np.log(steps[order])))
        return float(middle), float(low), float(high)

    def curve(self, steps: Sequence[float], method: SeriesMethod) -> list[tuple[float, float, float, float]]:
        """(step, expected share right, and its 95 % band) for drawing."""
        out = []
        for step in steps:
            p, w = self.right(step, method).ravel(), self.weight.ravel()
            order = np.argsort(p)
            below = np.cumsum(w[order]) - w[order] / 2
            low, high = np.interp((0.025, 0.975), below, p[order])
            out.append((float(step), float(p @ w), float(low), float(high)))
        return out


def _entropy(weights: np.ndarray) -> float:
    return float(-np.sum(weights * np.log(np.maximum(weights, 1e-300))))


def middle_of(axis: PalateAxis, steps: Sequence[float]) -> float:
    """Where the belief begins: what is usual on this axis, else the middle of the steps on offer."""
    return AXES[axis].usual or geometric_middle(steps)


def belief_of(axis: PalateAxis, steps: Sequence[float], answers: Sequence[Presented]) -> Belief:
    """After these answers. steps: every step that was on offer."""
    belief = Belief(middle_of(axis, steps))
    for answer in answers:
        belief.tell(answer)
    return belief


def next_step(belief: Belief, steps: Sequence[float], method: SeriesMethod) -> float:
    """The step on offer whose answer tells most; the larger of equals, which is kinder to the taster."""
    return max(sorted(steps, reverse=True), key=lambda step: round(belief.expected_gain(step, method), 12))


def expected_interval(belief: Belief, steps: Sequence[float], method: SeriesMethod, more: int, *, seed: int = 1, tries: int = 24) -> tuple[float, float]:
    """What the interval of the threshold is expected to be after so many more: the middle of what made-up answers of tasters as believed lead to."""
    rng = random.Random(seed)
    flat = belief.weight.ravel()
    lows, highs = [], []
    for _ in range(tries):
        at = np.unravel_index(rng.choices(range(len(flat)), weights=flat)[0], belief.weight.shape)
        later = belief.imagined()
        for _ in range(more):
            step = next_step(later, steps, method)
            later.tell(Presented(step, rng.random() < later.right(step, method)[at], method))
        _, low, high = later.threshold()
        lows.append(log(low))
        highs.append(log(high))
    return exp(float(np.median(lows))), exp(float(np.median(highs)))


Standing = Literal["too_few", "guessing", "wide", "narrow"]
NO_ANSWER: frozenset[Standing] = frozenset({"too_few", "guessing"})
"""Nothing is known of what they tell, and nothing follows from it."""
GUESSES_P = 0.2


@dataclass(frozen=True)
class Threshold:
    """One taster on one axis. told, interval: the step told apart 75 % of the time in 2-AFC; d_prime_1: the step with d′ = 1 and its interval; both in the
    axis' unit. tds: told and interval in % TDS at this strength, None where it is not known. standing: whether it is worth acting on (guessing: as many right as a guess
    would have, or less than the largest step presented is told apart); text says it."""

    axis: PalateAxis
    answers: int
    told: float
    interval: tuple[float, float]
    d_prime_1: float
    d_prime_1_interval: tuple[float, float]
    tds: tuple[float, float, float] | None
    standing: Standing
    text: str
    more: str


def threshold(
    axis: PalateAxis,
    steps: Sequence[float],
    answers: Sequence[Presented],
    *,
    tds_pct: float | None = None,
    method: SeriesMethod = "two_afc",
    more: int = 4,
    outlook: bool = True,
) -> Threshold:
    """A taster's threshold from all their answers on this axis. tds_pct: of the undiluted brew, for steps of strength; outlook: say what more would do.
    Worked out once for the same answers: the room is looked at again and again while a series is on."""
    return _threshold(axis, tuple(steps), tuple(answers), tds_pct, method, more, outlook, figures.units())


@lru_cache(maxsize=512)
def _threshold(
    axis: PalateAxis, steps: tuple[float, ...], answers: tuple[Presented, ...], tds_pct: float | None, method: SeriesMethod, more: int, outlook: bool, _: object
) -> Threshold:
    belief = belief_of(axis, steps, answers)
    told, low, high = belief.threshold()
    one, one_low, one_high = belief.threshold(1.0)
    standing = _standing(answers, told, high / low)
    text = f"Tells {in_words(axis, told, tds_pct)} apart three times in four ({range_in_words(axis, low, high)})."
    if standing == "too_few":
        text = f"{len(answers)} of {FIRST_ANSWER} presentations for a first answer."
    elif standing == "guessing":
        text = f"Not measured: {sum(a.right for a in answers)} of {len(answers)} right, as a guess may have. Begin again with larger steps."
    after = ""
    if outlook and standing != "narrow":
        count = max(more, FIRST_ANSWER - len(answers))
        to_low, to_high = expected_interval(belief, steps, method, count)
        after = f"{count} more would narrow it to about {range_in_words(axis, to_low, to_high)}."
    strong = axis == "strength" and tds_pct
    return Threshold(
        axis,
        len(answers),
        told,
        (low, high),
        one,
        (one_low, one_high),
        tuple(x * tds_pct / 100 for x in (told, low, high)) if strong else None,
        standing,
        text,
        after,
    )


def _standing(answers: Sequence[Presented], told: float, width: float) -> Standing:
    if len(answers) < FIRST_ANSWER:
        return "too_few"
    if told > max(a.step for a in answers) or _p_of_guessing(answers) > GUESSES_P:
        return "guessing"
    return "wide" if width > NARROW_ENOUGH else "narrow"


def _p_of_guessing(answers: Sequence[Presented]) -> float:
    """P(as many right or more) of one who guesses: cups may have been found by chances of two kinds."""
    chances = np.array([1.0])
    for a in answers:
        g = GUESS_RATE[a.method]
        chances = np.convolve(chances, [1 - g, g])
    return float(chances[sum(a.right for a in answers) :].sum())


@dataclass(frozen=True)
class PanelThreshold:
    """Of everybody with an answer: the middle threshold, how far the others lie from it (a factor), how many they are."""

    middle: float
    spread: float
    tasters: int
    text: str


def panel_tells(axis: PalateAxis, steps: Sequence[float], answers: Mapping[str, Sequence[Presented]]) -> float | None:
    """The middle threshold of everybody with an answer, by taster; None where nobody has one yet."""
    told = panel(axis, [threshold(axis, steps, given, outlook=False) for given in answers.values()])
    return told.middle if told else None


def best_tells(axis: PalateAxis, steps: Sequence[float], answers: Mapping[str, Sequence[Presented]]) -> float | None:
    """The low end of the best taster's interval: a step that somebody at the table may well tell apart. None where nobody has an answer yet."""
    found = [t for given in answers.values() if (t := threshold(axis, steps, given, outlook=False)).standing not in NO_ANSWER]
    return min(found, key=lambda t: t.told).interval[0] if found else None


def panel(axis: PalateAxis, thresholds: Sequence[Threshold], tds_pct: float | None = None) -> PanelThreshold | None:
    """None where nobody has an answer yet."""
    told = [log(t.told) for t in thresholds if t.standing not in NO_ANSWER]
    if not told:
        return None
    middle = exp(float(np.median(told)))
    spread = exp(float(np.median(np.abs(np.array(told) - log(middle))))) if len(told) > 1 else 1.0
    text = f"{'Half of the ' if len(told) > 1 else ''}{len(told)} taster{'s' if len(told) > 1 else ''} here tell{'' if len(told) > 1 else 's'} {in_words(axis, middle, tds_pct)} apart."
    return PanelThreshold(middle, spread, len(told), text)


ALIKE_FACTOR, ALIKE_CHANCE = 1.6, 0.7


def stand_ins(beliefs: dict[str, Belief]) -> list[tuple[str, str, float]]:
    """Pairs whose thresholds are within a factor of 1.6 of each other with a probability of 70 % or more, likeliest first."""
    laws = {name: _law(belief) for name, belief in beliefs.items()}
    found = []
    names = sorted(laws)
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            (x, p), (y, q) = laws[a], laws[b]
            near = np.abs(x[:, None] - y[None, :]) <= log(ALIKE_FACTOR)
            chance = float(p @ near @ q)
            if chance >= ALIKE_CHANCE:
                found.append((a, b, chance))
    return sorted(found, key=lambda f: -f[2])


def _law(belief: Belief) -> tuple[np.ndarray, np.ndarray]:
    """ln of the 75 % step and its probabilities, on 200 points."""
    steps = np.log(belief.x1[:, None] * D_75 ** (1 / belief.slope[None, :])).ravel()
    ends = np.linspace(steps.min(), steps.max(), 201)
    weights, _ = np.histogram(steps, bins=ends, weights=belief.weight.sum(2).ravel())
    return (ends[1:] + ends[:-1]) / 2, weights
