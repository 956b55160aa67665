"""A line through a ratio ladder with its band, only over the range that was tested. docs/formulas.md §4, §10."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from .uncertainty import t_975

BAND_POINTS = 25
FEWEST_RATIOS, LEAST_SPAN = 3, 0.8
"""Ratios closer than half a one are one ratio brewed by hand, and less than this apart make no ladder."""


@dataclass(frozen=True)
class Ladder:
    """ratios, values, lows, highs: along the tested range; slope: per whole ratio (1:16 → 1:17) with its 95 % half-width; degree 1 or 2."""

    degree: int
    ratios: tuple[float, ...]
    values: tuple[float, ...]
    lows: tuple[float, ...]
    highs: tuple[float, ...]
    slope: float
    slope_half_width: float


def fit_ladder(points: Sequence[tuple[float, float]], *, curved: bool = False) -> Ladder | None:
    """Least squares of (brew ratio, value), one point a brew: a straight line, or a parabola when `curved` and there are five ratios.

    The band is of the line itself (95 %, Student's t). None with fewer than three distinct ratios or no freedom left: two
    ratios make a line through anything. Nothing is drawn beyond the lowest and highest ratio tested.
    """
    x, y = (np.array([p[i] for p in points], dtype=float) for i in (0, 1))
    distinct = len({round(2 * r) for r in x})
    degree = 2 if curved and distinct >= 5 else 1
    freedom = len(x) - degree - 1
    if distinct < FEWEST_RATIOS or freedom < 1 or x.max() - x.min() < LEAST_SPAN:
        return None
    centre = x.mean()
    design = np.vander(x - centre, degree + 1, increasing=True)
    inverse = np.linalg.inv(design.T @ design)
    beta = inverse @ design.T @ y
    residual = y - design @ beta
    s2 = float(residual @ residual) / freedom
    at = np.linspace(x.min(), x.max(), BAND_POINTS)
    rows = np.vander(at - centre, degree + 1, increasing=True)
    t = t_975(freedom)
    half = t * np.sqrt(np.maximum(0.0, s2 * np.einsum("ij,jk,ik->i", rows, inverse, rows)))
    line = rows @ beta
    return Ladder(
        degree=degree,
        ratios=tuple(map(float, at)),
        values=tuple(map(float, line)),
        lows=tuple(map(float, line - half)),
        highs=tuple(map(float, line + half)),
        slope=float(beta[1]),
        slope_half_width=float(t * math.sqrt(s2 * inverse[1, 1])),
    )


def said(ladder: Ladder, *, what: str, unit: str, places: int) -> str:
    """What one step of the ladder does, in words; says so when the interval holds 0.

    >>> said(Ladder(1, (15, 17), (1.5, 1.3), (), (), -0.1, 0.02), what="Strength", unit="% TDS", places=2)
    'Strength falls by 0.10 ± 0.02 % TDS a ratio, between 1:15.0 and 1:17.0.'
    """
    span = f"between {figures.ratio(ladder.ratios[0])} and {figures.ratio(ladder.ratios[-1])}"
    if abs(ladder.slope) <= ladder.slope_half_width:
        slope = f"{ladder.slope:+.{places}f}".replace("-", "−")
        return f"{what} does not clearly move {span}: {slope} ± {ladder.slope_half_width:.{places}f} {unit} a ratio."
    verb = "rises" if ladder.slope > 0 else "falls"
    half = ladder.slope_half_width
    more = places if half >= 0.5 * 10**-places else places + 1
    return f"{what} {verb} by {abs(ladder.slope):.{more}f} ± {half:.{more}f} {unit} a ratio, {span}."
