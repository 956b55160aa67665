"""Sign flips of taster-level differences: did the panel tell these very cups apart? docs/judging.md §3 and §5.

Where it stops being true: it is blind to brew-to-brew scatter, so it says nothing about another brew.
"""

from __future__ import annotations

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
        signs = 1 - 2 * ((np.arange(2 ** len(d))[:, None] >> np.arange(len(d))) & 1)
        return float((np.abs(signs @ d) >= abs(d.sum()) - 1e-9).mean())
    signs = np.random.default_rng(SEED).choice((-1, 1), size=(FLIPS, len(d)))
    return float((1 + (np.abs(signs @ d) >= abs(d.sum()) - 1e-9).sum()) / (FLIPS + 1))


def _taster_differences(cups: Cups, a: int, b: int) -> np.ndarray:
    out = []
    for j in range(len(cups.tasters)):
        in_blocks = []
        for block in np.flatnonzero(cups.block_taster == j):
            here = cups.block == block
            first, second = cups.y[here & (cups.setup == a)], cups.y[here & (cups.setup == b)]
            if len(first) and len(second):
                in_blocks.append(first.mean() - second.mean())
        if in_blocks:
            out.append(np.mean(in_blocks))
    return np.array(out)
