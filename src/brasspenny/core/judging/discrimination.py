"""Is there any difference? Exact tests of discrimination, how many can tell, and how far apart the cups are. docs/formulas.md §9, §10.

Each trial is right or wrong; without any difference it is right with the method's guess rate. p is exact binomial, the proportion
of distinguishers has a Clopper–Pearson interval, and d′ comes from each method's own psychometric function (equal-variance
normal). Where it stops being true: trials of one taster are not independent, so with repeats the claim is about those tasters.
Sources: Clopper & Pearson 1934, Biometrika; Ennis 1993, J. Sens. Stud.; Ennis & Jesionka 2011, J. Sens. Stud. (tetrad).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import assert_never

import numpy as np

from .. import figures
from ..distributions import at_least, at_most, crossing, fewest_significant, ndtr, share_interval
from ..errors import Inconsistent, OutOfDomain
from ..vocabulary import TEST_METHODS, DiscriminationMethod

METHODS: tuple[DiscriminationMethod, ...] = tuple(m.code for m in TEST_METHODS if m.guess_rate is not None)
GUESS_RATE: dict[DiscriminationMethod, float] = {m.code: m.guess_rate for m in TEST_METHODS if m.guess_rate is not None}
METHOD_LABELS: dict[DiscriminationMethod, str] = {m.code: m.label[:1].lower() + m.label[1:] for m in TEST_METHODS if m.guess_rate is not None}
MOST_TRIALS = 10_000
LARGEST_D_PRIME = 12.0
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(200)


def _integral(f: Callable[[np.ndarray], np.ndarray], low: float, high: float) -> float:
    """∫ f(z)·φ(z) dz between bounds, Gauss–Legendre: smooth integrands, error below 1e-10 here."""
    z = low + (high - low) * (_NODES + 1) / 2
    return float((high - low) / 2 * np.sum(_WEIGHTS * f(z) * np.exp(-z * z / 2)) / math.sqrt(2 * math.pi))


def proportion_correct(method: DiscriminationMethod, d_prime: float) -> float:
    """Share of right answers at a sensitivity d′ ≥ 0.

    >>> [round(proportion_correct("triangle", d), 3) for d in (0, 1, 2)]
    [0.333, 0.418, 0.605]
    """
    d = d_prime
    match method:
        case "two_afc":
            return float(ndtr(d / math.sqrt(2)))
        case "duo_trio":
            a, b = float(ndtr(d / math.sqrt(2))), float(ndtr(d / math.sqrt(6)))
            return 1 - a - b + 2 * a * b
        case "triangle":
            return 2 * _integral(lambda z: ndtr(-z * math.sqrt(3) + d * math.sqrt(2 / 3)) + ndtr(-z * math.sqrt(3) - d * math.sqrt(2 / 3)), 0.0, 10.0)
        case "three_afc":
            return _integral(lambda z: ndtr(z + d) ** 2, -10.0, 10.0)
        case "tetrad":
            return 1 - 2 * _integral(lambda z: 2 * ndtr(z) * ndtr(z - d) - ndtr(z - d) ** 2, -10.0, 10.0)
        case _:
            assert_never(method)


def d_prime_of(method: DiscriminationMethod, correct: float) -> float | None:
    """The sensitivity that gives this share of right answers: 0 at chance or below, None when no finite one does.

    >>> round(d_prime_of("duo_trio", 0.5825), 2)
    1.0
    """
    if correct <= GUESS_RATE[method]:
        return 0.0
    if correct >= proportion_correct(method, LARGEST_D_PRIME):
        return None
    return crossing(lambda d: proportion_correct(method, d) - correct, 0.0, LARGEST_D_PRIME)


@cache
def min_correct(method: DiscriminationMethod, n: int, alpha: float = 0.05) -> int | None:
    """Least number right of n that is significant at alpha, one-sided; None when even n of n is not.

    >>> [min_correct("triangle", n) for n in (6, 8, 10, 12, 18, 24, 36)]
    [5, 6, 7, 8, 10, 13, 18]
    """
    k = int(fewest_significant(n, GUESS_RATE[method], alpha))
    return k if k <= n else None


@dataclass(frozen=True)
class Discriminated:
    """p_value: of so many right by guessing; shares 0 to 1; d_prime and its upper end None where unbounded (all right)."""

    p_value: float
    guess_rate: float
    proportion_correct: float
    distinguishers: float
    distinguishers_interval: tuple[float, float]
    d_prime: float | None
    d_prime_interval: tuple[float, float | None]
    min_correct: int | None
    text: str


def discriminate(method: DiscriminationMethod, n: int, correct: int, *, alpha: float = 0.05) -> Discriminated:
    """n independent trials, correct of them right. Intervals are 95 %, exact. Raises OutOfDomain, Inconsistent.

    >>> round(discriminate("triangle", 15, 9).p_value, 3)
    0.031
    """
    _check(n, alpha)
    if not 0 <= correct <= n:
        raise Inconsistent("correct", f"{correct} of {n} cannot be right.", f"Give 0 to {n}.", correct)
    guess = GUESS_RATE[method]
    p = float(at_least(correct, n, guess))
    low, high = share_interval(correct, n)
    needed = min_correct(method, n, alpha)
    share = correct / n
    return Discriminated(
        p_value=p,
        guess_rate=guess,
        proportion_correct=share,
        distinguishers=_distinguishers(share, guess),
        distinguishers_interval=(_distinguishers(low, guess), _distinguishers(high, guess)),
        d_prime=d_prime_of(method, share),
        d_prime_interval=(d_prime_of(method, low) or 0.0, d_prime_of(method, high)),
        min_correct=needed,
        text=_text(method, n, correct, p, alpha, needed, _distinguishers(high, guess)),
    )


def _check(n: int, alpha: float) -> None:
    if not 1 <= n <= MOST_TRIALS:
        raise OutOfDomain("n", f"{n} trials cannot be judged.", f"Give 1 to {MOST_TRIALS:,}.", n)
    if not 0 < alpha < 0.5:
        raise OutOfDomain("alpha", f"{alpha:g} is no level of significance.", "Give above 0, below 0.5; 0.05 is usual.", alpha)


def _distinguishers(correct: float, guess: float) -> float:
    return max(0.0, (correct - guess) / (1 - guess))


def _text(method: DiscriminationMethod, n: int, correct: int, p: float, alpha: float, needed: int | None, most: float) -> str:
    name = METHOD_LABELS[method]
    if n == 1:
        return f"One single {name} proves nothing: {trials_to_show(method)} right in a row would."
    if needed is None:
        return f"{n} trials are too few: even all right could be luck. {trials_to_show(method)} right in a row would do."
    if p <= alpha:
        return f"{correct} of {n} right: more than luck gives (p = {figures.p_value(p)}). There is a difference somebody tells."
    return f"{correct} of {n} right: luck gives as many (p = {figures.p_low(p)}); {needed} would have shown a difference. Up to {figures.share(most)} may tell them apart."


def trials_to_show(method: DiscriminationMethod, alpha: float = 0.05) -> int:
    """Trials that would be significant if all were right.

    >>> trials_to_show("triangle"), trials_to_show("two_afc")
    (3, 5)
    """
    return math.ceil(math.log(alpha) / math.log(GUESS_RATE[method]) - 1e-12)


# --- planning ----------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Planned:
    """n: trials; min_correct: so many right show a difference; power: chance of that when the share given can tell. similar_n and
    most_correct: trials, and right answers at most, that show no more than that share can tell, when really nobody can."""

    n: int | None
    min_correct: int | None
    power: float
    similar_n: int | None
    most_correct: int | None
    similar_power: float


LONGEST_PLAN = 3000


def plan(method: DiscriminationMethod, *, distinguishers: float, alpha: float = 0.05, power: float = 0.8) -> Planned:
    """How many trials, for a difference and for similarity. distinguishers: share that really can tell, 0 to 1 exclusive.

    The fewest n from which on the power stays (it saws up and down with n). None beyond 3,000.

    >>> plan("triangle", distinguishers=0.5).n
    16
    """
    _check(1, alpha)
    for field, value in (("distinguishers", distinguishers), ("power", power)):
        if not 0 < value < 1:
            raise OutOfDomain(field, f"{value:g} is no share.", "Give above 0, below 1.", value)
    guess = GUESS_RATE[method]
    right = guess + distinguishers * (1 - guess)
    ns = np.arange(2, LONGEST_PLAN + 1)
    shows = at_least(fewest_significant(ns, guess, alpha), ns, right)
    most = ns - fewest_significant(ns, 1 - right, alpha)
    alike = np.where(most >= 0, at_most(most, ns, guess), 0.0)
    i, j = _from_where_on(shows >= power), _from_where_on(alike >= power)
    return Planned(
        n=None if i is None else int(ns[i]),
        min_correct=None if i is None else min_correct(method, int(ns[i]), alpha),
        power=float(shows[i if i is not None else -1]),
        similar_n=None if j is None else int(ns[j]),
        most_correct=None if j is None else int(most[j]),
        similar_power=float(alike[j if j is not None else -1]),
    )


def _from_where_on(holds: np.ndarray) -> int | None:
    """First position after which it never fails again."""
    fails = np.flatnonzero(~holds)
    first = 0 if not len(fails) else int(fails[-1]) + 1
    return first if first < len(holds) else None
