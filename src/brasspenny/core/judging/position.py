"""Does the place in the order move liking? Each score less its taster's and its setup's mean, averaged by position."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..extraction.uncertainty import t_975
from .scores import Score


@dataclass(frozen=True)
class Place:
    """effect: points above the average place, with its 95 % half-width."""

    position: int
    effect: float
    half_width: float
    n: int


def position_effects(placed: Sequence[tuple[Score, int]]) -> tuple[Place, ...]:
    """placed: (score, position from 1). Least squares of score = block + setup + position; empty without at least two positions and some freedom."""
    positions = sorted({p for _, p in placed})
    blocks = sorted({(s.flight, s.taster, s.pass_) for s, _ in placed})
    setups = sorted({s.setup for s, _ in placed})
    n, p = len(placed), len(positions)
    if p < 2:
        return ()
    x = np.zeros((n, len(blocks) + len(setups) - 1 + p - 1))
    for row, (s, at) in enumerate(placed):
        x[row, blocks.index((s.flight, s.taster, s.pass_))] = 1
        if setups.index(s.setup):
            x[row, len(blocks) + setups.index(s.setup) - 1] = 1
        if positions.index(at):
            x[row, len(blocks) + len(setups) - 1 + positions.index(at) - 1] = 1
    y = np.array([s.score for s, _ in placed])
    freedom = n - np.linalg.matrix_rank(x)
    if freedom < 1:
        return ()
    inverse = np.linalg.pinv(x.T @ x)
    beta = inverse @ x.T @ y
    s2 = float(((y - x @ beta) ** 2).sum()) / freedom
    centre = np.zeros((p, x.shape[1]))
    for i in range(1, p):
        centre[i, len(blocks) + len(setups) - 1 + i - 1] = 1
    centre -= centre.mean(0)
    counts: dict[int, int] = defaultdict(int)
    for _, at in placed:
        counts[at] += 1
    t = t_975(freedom)
    return tuple(
        Place(at, float(row @ beta), float(t * math.sqrt(max(0.0, s2 * row @ inverse @ row))), counts[at]) for at, row in zip(positions, centre, strict=True)
    )
