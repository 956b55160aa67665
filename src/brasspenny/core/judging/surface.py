"""The panel's own surface over strength and yield: where on the chart its cups are liked. docs/formulas.md §10, docs/judging.md §10.

A quadratic in (EY, TDS) with taster effects. It guesses outside what was brewed, and where its own error is large: said cell by cell.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.spatial import Delaunay, QhullError

from .columns import fit_columns
from .scores import Score, cups_of

FEWEST_POINTS = 8
CELLS = 24
GUESSING_ABOVE = 1.0
"""Half-width against the middle of the chart, points of nine, above which a cell is a guess."""
MARGIN_SHARE = 0.05


@dataclass(frozen=True)
class Surface:
    """liking[i][j] at tds[i] and ey[j]; guess[i][j]: outside the tested points or too unsure. best: the surest good cell inside (ey, tds) or None."""

    ey: tuple[float, ...]
    tds: tuple[float, ...]
    liking: tuple[tuple[float, ...], ...]
    guess: tuple[tuple[bool, ...], ...]
    points: int
    best: tuple[float, float] | None


def panel_surface(scores: Sequence[Score], at: Mapping[tuple[str, str], tuple[float, float]], *, low: float = 1, high: float = 9) -> Surface | None:
    """at: (setup, brew) → (% EY, % TDS). None with fewer than 8 distinct points, or when they lie on one line."""
    kept = [s for s in scores if (s.setup, s.brew) in at]
    points = sorted({at[s.setup, s.brew] for s in kept})
    if len(points) < FEWEST_POINTS:
        return None
    xy = np.array(points)
    centre, half = (xy.max(0) + xy.min(0)) / 2, (xy.max(0) - xy.min(0)) / 2
    if (half <= 0).any():
        return None
    try:
        hull = Delaunay((xy - centre) / half)
    except QhullError:
        return None
    cups = cups_of(kept, low=low, high=high)
    z = ((np.array([at[k] for k in cups.brew_keys]) - centre) / half)[cups.brew]
    found = fit_columns(cups, _features(z), z, scale=(high - low) / 8)
    reach = 1 + 2 * MARGIN_SHARE
    axis = np.linspace(-reach, reach, CELLS)
    grid = np.stack([np.tile(axis, CELLS), np.repeat(axis, CELLS)], axis=1)
    load = _features(grid)
    mean = found.weight @ (found.mean @ load.T)
    var = found.weight @ np.einsum("gp,npq,gq->ng", load, found.cov, load) + found.weight @ (found.mean @ load.T - mean) ** 2
    liking = np.clip(mean + found.weight @ found.intercept + cups.grand_mean, low, high)
    guess = (hull.find_simplex(grid) < 0) | (1.96 * np.sqrt(var) > GUESSING_ABOVE * (high - low) / 8)
    best = None if guess.all() else int(np.where(guess, -np.inf, liking).argmax())
    ey, tds = centre[0] + half[0] * axis, centre[1] + half[1] * axis
    shape = (CELLS, CELLS)
    return Surface(
        ey=tuple(map(float, ey)),
        tds=tuple(map(float, tds)),
        liking=tuple(tuple(map(float, row)) for row in liking.reshape(shape)),
        guess=tuple(tuple(map(bool, row)) for row in guess.reshape(shape)),
        points=len(points),
        best=None if best is None else (float(ey[best % CELLS]), float(tds[best // CELLS])),
    )


def _features(z: np.ndarray) -> np.ndarray:
    x, y = z[:, 0], z[:, 1]
    return np.stack([x, y, x * x, y * y, x * y], axis=1)
