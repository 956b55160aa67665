"""Guesses of which is which, counted against chance. docs/formulas.md §9, §10."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from scipy.stats import binom

SHOWN_P = 0.05


@dataclass(frozen=True)
class Guessed:
    """chance: of one guess being right; p_value: of so many right by guessing, each guess on its own."""

    right: int
    made: int
    chance: float
    p_value: float
    text: str


def count_guesses(guesses: Sequence[tuple[str, str]], options: int) -> Guessed:
    """guesses: (what was said, what it was), at least one; options: setups to choose from, two or more.

    >>> count_guesses([("A", "A"), ("B", "A")], 2).text
    '1 of 2 guesses of which is which were right: about what guessing gives (1 expected).'
    """
    right, made, chance = sum(said == was for said, was in guesses), len(guesses), 1 / options
    p = float(binom.sf(right - 1, made, chance))
    verdict = "more than guessing gives" if p <= SHOWN_P else "about what guessing gives"
    text = f"{right} of {made} guesses of which is which were right: {verdict} ({made * chance:.3g} expected)."
    return Guessed(right, made, chance, p, text)
