"""Guesses of which is which, counted against chance. docs/formulas.md §9, §10.

A taster who matches cups to setups gives one matching, not so many independent guesses: with two cups, who has one right has both. So chance is every way each
taster could have laid the setups they named onto the cups they had.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations
from math import ceil, factorial, log

import numpy as np

from .. import figures

SHOWN_P = 0.05
MOST_ORDERS = 5040
SEED = 23


@dataclass(frozen=True)
class Guess:
    """sitting: one taster in one flight."""

    sitting: str
    said: str
    was: str


@dataclass(frozen=True)
class Guessed:
    """right of made: single guesses; whole of matchings: tasters whose every cup was right. chance: of one guess being right; p_value: of so many right by laying the named
    setups onto the cups blindly."""

    right: int
    made: int
    whole: int
    matchings: int
    chance: float
    p_value: float
    text: str


def count_guesses(guesses: Sequence[Guess], options: int) -> Guessed:
    """guesses: at least one; options: setups to choose from, two or more.

    >>> five = [Guess(str(i), a, a) for i in range(5) for a in "AB"] + [Guess("5", "A", "B"), Guess("5", "B", "A")]
    >>> found = count_guesses(five, 2)
    >>> found.whole, found.matchings, round(found.p_value, 2)
    (5, 6, 0.11)
    """
    sittings: dict[str, list[Guess]] = defaultdict(list)
    for g in guesses:
        sittings[g.sitting].append(g)
    right, made = sum(g.said == g.was for g in guesses), len(guesses)
    whole = sum(all(g.said == g.was for g in s) for s in sittings.values())
    p = _p_of(list(sittings.values()), options, right)
    return Guessed(right, made, whole, len(sittings), 1 / options, p, _text(list(sittings.values()), options, whole, right, made, p))


def _p_of(sittings: Sequence[Sequence[Guess]], options: int, right: int) -> float:
    law = np.array([1.0])
    for guesses in sittings:
        law = np.convolve(law, _law(guesses, options))
    return float(min(1.0, law[right:].sum()))


def _law(guesses: Sequence[Guess], options: int) -> np.ndarray:
    """Chances of 0, 1, … right for one taster who lays what they named onto their cups blindly; one cup alone is a guess among all setups."""
    n = len(guesses)
    if n == 1:
        return np.array([1 - 1 / options, 1 / options])
    said, was = [g.said for g in guesses], [g.was for g in guesses]
    if factorial(n) <= MOST_ORDERS:
        orders = list(permutations(range(n)))
    else:
        rng = np.random.default_rng(SEED)
        orders = [tuple(rng.permutation(n)) for _ in range(MOST_ORDERS)]
    counted = Counter(sum(said[i] == was[k] for k, i in enumerate(order)) for order in orders)
    return np.array([counted[k] / len(orders) for k in range(n + 1)])


def _text(sittings: Sequence[Sequence[Guess]], options: int, whole: int, right: int, made: int, p: float) -> str:
    if made == 1:
        need = ceil(log(SHOWN_P) / log(1 / options))
        return f"One guess, {'right' if right else 'wrong'}: it proves nothing. {need} right ones in a row, by as many tasters, would."
    counted = f"{whole} of {len(sittings)} tasters matched every cup" if len(sittings) > 1 else f"{right} of {made} cups of one taster were guessed right"
    verdict = "more than guessing gives" if p <= SHOWN_P else "no more than guessing may give"
    chance = "p < 0.001" if p < 0.001 else f"p = {figures.p_low(p) if p > SHOWN_P else figures.p_value(p)}"
    return f"{counted}: {verdict} ({chance})."
