"""Drills: short exercises with cups somebody made up and shuffled, counted against what a guesser gets.

The cups carry marks underneath, A, B and so on; shuffled, they stand in a row, and nobody in the room knows the order until they are turned over. What a guesser gets
is counted exactly: every order of the cups is as likely as another. How well a taster does is how far their answers lean from guessing to all right, one number θ: an
outcome with score s is e^(θs) times as likely as for a guesser (for two cups this is a plain share; for orders C. Mallows, Biometrika, 1957). θ is integrated with every
expected share of the full score equally likely before. docs/palate.md §5.
"""

from __future__ import annotations

import random
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from itertools import combinations
from math import comb
from typing import Literal

import numpy as np

from ..errors import Inconsistent, OutOfDomain
from ..figures import per_cent, points

DrillKind = Literal["stronger", "odd", "order", "match"]
MARKS = "ABCDEFGH"


@dataclass(frozen=True)
class Kind:
    """question: to the taster. fewest, most: drinks that are made. declares: what the host names of each; counted: what a score counts."""

    code: DrillKind
    word: str
    question: str
    fewest: int
    most: int
    declares: str
    counted: str


DRILL_KINDS = (
    Kind("stronger", "Name the stronger", "Which is stronger?", 2, 2, "the weaker first, then the stronger", "right"),
    Kind("odd", "Find the odd one", "Which is odd?", 2, 2, "two that differ", "right"),
    Kind("order", "Put cups in order", "From least to most: touch them in order.", 3, 6, "from least to most", "pairs in order"),
    Kind("match", "Match words to cups", "Which word is which cup?", 3, 8, "a word for each cup", "words on their cup"),
)
KINDS: dict[str, Kind] = {k.code: k for k in DRILL_KINDS}
THETA = np.linspace(-9, 14, 1601)
LUCK = 0.05


def checked_cups(kind: DrillKind, names: Sequence[str]) -> tuple[str, ...]:
    """Raises OutOfDomain or Inconsistent at `cups`."""
    k = KINDS[kind]
    if not k.fewest <= len(names) <= k.most:
        count = f"{k.fewest}" if k.fewest == k.most else f"{k.fewest} to {k.most}"
        raise OutOfDomain("cups", f"This drill takes {count} cups.", f"Name {count}: {k.declares}.", len(names))
    if len({n.casefold() for n in names}) < len(names):
        raise Inconsistent("cups", "Two cups have the same name.", "Name each by what is in it.")
    return tuple(names)


def in_a_row(kind: DrillKind, drinks: int) -> int:
    """Cups that stand before a taster: one drink of two is poured twice where the odd one is sought."""
    return drinks + 1 if kind == "odd" else drinks


def full_score(kind: DrillKind, drinks: int) -> int:
    return len(guesses(kind, in_a_row(kind, drinks))) - 1


def set_out(kind: DrillKind, drinks: int, rng: random.Random) -> list[str]:
    """Marks of the cups of one round, in the order they are poured: of the odd one, which drink is poured twice is drawn."""
    if kind == "odd":
        twice = rng.choice(MARKS[:2])
        return sorted([twice, *MARKS[:2]])
    return list(MARKS[:drinks])


def checked_answer(kind: DrillKind, cups: int, answer: Sequence[int]) -> tuple[int, ...]:
    """answer: the place of the one picked; places from least to most; or, place by place, the number of the word. From 0, from the left. Raises at `answer`."""
    whole = kind in ("order", "match")
    fits = sorted(answer) == list(range(cups)) if whole else len(answer) == 1 and 0 <= answer[0] < cups
    if not fits:
        raise Inconsistent("answer", "This is no whole answer.", "Give every cup its own." if whole else "Choose one cup.")
    return tuple(answer)


def checked_marks(set_out: Sequence[str], marks: Sequence[str]) -> tuple[str, ...]:
    """Marks from the left, once they are turned over. Raises at `marks`."""
    if sorted(marks) != sorted(set_out):
        raise Inconsistent("marks", f"The marks of this round are {', '.join(sorted(set_out))}.", "Read each cup again from the left.")
    return tuple(marks)


def score(kind: DrillKind, answer: Sequence[int], marks: Sequence[str]) -> int:
    """What was right, in what the kind counts.

    >>> score("stronger", [1], "AB"), score("odd", [0], "ABB"), score("order", [2, 0, 1], "BCA"), score("match", [0, 2, 1], "ABC")
    (1, 1, 3, 1)
    """
    if kind == "stronger":
        return int(marks[answer[0]] == MARKS[1])
    if kind == "odd":
        return int(list(marks).count(marks[answer[0]]) == 1)
    if kind == "match":
        return sum(MARKS.index(mark) == word for mark, word in zip(marks, answer, strict=True))
    return sum(marks[first] < marks[later] for first, later in combinations(answer, 2))


@lru_cache(maxsize=32)
def guesses(kind: DrillKind, cups: int) -> tuple[float, ...]:
    """How likely a guesser gets each score, from 0 up.

    >>> guesses("odd", 3), [round(6 * p) for p in guesses("order", 3)], [round(24 * p) for p in guesses("match", 4)]
    ((0.6666666666666667, 0.3333333333333333), [1, 2, 2, 1], [9, 8, 6, 0, 1])
    """
    if kind in ("stronger", "odd"):
        return 1 - 1 / cups, 1 / cups
    counts = _by_pairs_in_order(cups) if kind == "order" else _by_words_in_place(cups)
    return tuple(n / sum(counts) for n in counts)


def _by_pairs_in_order(n: int) -> list[int]:
    """Orders of n by how many pairs stand right: one cup after another finds its place among those before."""
    counts = [1]
    for cups in range(2, n + 1):
        counts = [sum(counts[max(0, s - cups + 1) : s + 1]) for s in range(len(counts) + cups - 1)]
    return counts


def _by_words_in_place(n: int) -> list[int]:
    out_of_place = [1, 0]
    for k in range(2, n + 1):
        out_of_place.append((k - 1) * (out_of_place[-1] + out_of_place[-2]))
    return [comb(n, k) * out_of_place[n - k] for k in range(n + 1)]


@dataclass(frozen=True)
class Drilled:
    """What all finished rounds of one drill say. share: of the full score, in the long run, with its 95 % interval; by_luck: how likely a guesser does as well."""

    rounds: int
    right: int
    of: int
    guessed: float
    share: float
    interval: tuple[float, float]
    by_luck: float
    text: str


def drilled(kind: DrillKind, drinks: int, scores: Sequence[int]) -> Drilled | None:
    """drinks: as they were declared; scores: of each round. None before the first round is finished."""
    if not scores:
        return None
    chance = np.array(guesses(kind, in_a_row(kind, drinks)))
    full, right = len(chance) - 1, sum(scores)
    of, guessed = full * len(scores), float(chance @ np.arange(full + 1)) * len(scores)
    luck = np.ones(1)
    for _ in scores:
        luck = np.convolve(luck, chance)
    by_luck = float(luck[right:].sum())
    shares, weight = _posterior(chance, right, len(scores))
    below = np.cumsum(weight) - weight / 2
    low, middle, high = (float(np.interp(p, below, shares)) for p in (0.025, 0.5, 0.975))
    return Drilled(len(scores), right, of, guessed, middle, (low, high), by_luck, _said(KINDS[kind], right, of, guessed, by_luck, low, high))


def _posterior(chance: np.ndarray, right: int, rounds: int) -> tuple[np.ndarray, np.ndarray]:
    """Expected shares of the full score, rising, and their weights."""
    at = np.arange(len(chance))
    law = np.where(chance > 0, chance, 0) * np.exp(np.outer(THETA, at - at[-1] / 2))
    total = law.sum(1)
    shares = (law @ at) / total / at[-1]
    log = THETA * (right - rounds * at[-1] / 2) - rounds * np.log(total)
    weight = np.exp(log - log.max()) * np.gradient(shares)
    return shares, weight / weight.sum()


def _said(k: Kind, right: int, of: int, guessed: float, by_luck: float, low: float, high: float) -> str:
    luck = (
        f"A guesser does as well once in {max(2, round(1 / by_luck)):,} times.".replace(",", "\u202f")
        if by_luck <= 0.5
        else "A guesser does as well more often than not."
    )
    sure = "" if by_luck <= LUCK else " That could still be luck."
    return f"{right} of {of} {k.counted}; guessing gives {points(guessed)}. {luck}{sure} In the long run between {per_cent(100 * low)} and {per_cent(100 * high)} %."


def weeks_in_a_row(days: Collection[date], today: date) -> int:
    """Weeks with a finished round, without a gap, up to this one; a week that has only begun breaks nothing.

    >>> weeks_in_a_row([date(2026, 3, 2), date(2026, 3, 12)], date(2026, 3, 18))
    2
    """
    weeks = {_monday(d) for d in days}
    at = _monday(today)
    if at not in weeks:
        at -= timedelta(days=7)
    count = 0
    while at in weeks:
        count, at = count + 1, at - timedelta(days=7)
    return count


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())
