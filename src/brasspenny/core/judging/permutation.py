"""Sign flips of taster-level differences: did the panel tell these very cups apart? docs/judging.md §3 and §5.

Where it stops being true: it is blind to brew-to-brew scatter, so it says nothing about another brew.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from .scores import Cups

EXACT_UP_TO = 16
FLIPS = 99_999
SEED = 7


def sign_flip_p(cups: Cups, a: int, b: int) -> float:
    """Two-sided p of mean difference a − b over tasters (a taster's blocks averaged); exact to 16 tasters, else seeded."""
    d = _taster_differences(cups, a, b)
    if len(d) == 0:
        return 1.0
    if len(d) <= EXACT_UP_TO:
        return float((np.abs(_half_of_all_signs(len(d)) @ d) >= abs(d.sum()) - 1e-9).mean())
    signs = np.random.default_rng(SEED).choice((-1, 1), size=(FLIPS, len(d)))
    return float((1 + (np.abs(signs @ d) >= abs(d.sum()) - 1e-9).sum()) / (FLIPS + 1))


def _taster_differences(cups: Cups, a: int, b: int) -> np.ndarray:
    """Of each taster who had both in one block."""
    first, second = _block_means(cups, a), _block_means(cups, b)
    both = ~np.isnan(first) & ~np.isnan(second)
    tasters, count = cups.block_taster[both], len(cups.tasters)
    blocks = np.bincount(tasters, minlength=count)
    sums = np.bincount(tasters, weights=(first - second)[both], minlength=count)
    return sums[blocks > 0] / blocks[blocks > 0]


def _block_means(cups: Cups, setup: int) -> np.ndarray:
    """NaN where a block had none of it."""
    here, blocks = cups.setup == setup, len(cups.block_taster)
    counts = np.bincount(cups.block[here], minlength=blocks)
    sums = np.bincount(cups.block[here], weights=cups.y[here], minlength=blocks)
    return np.where(counts > 0, sums / np.maximum(counts, 1), np.nan)


@cache
def _half_of_all_signs(n: int) -> np.ndarray:
    """The last one +1 throughout: turning all signs round changes no absolute sum. (2^(n−1), n)."""
    return 1.0 - 2 * ((np.arange(2 ** (n - 1))[:, None] >> np.arange(n)) & 1)
