"""A few of the model's parameters learnt from own brews, with what is left over. docs/formulas.md §11."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from scipy.optimize import least_squares

from ..errors import NotEnoughKnowns
from .model import USUAL, BrewIn, Outcome, Parameters, simulate

Learnt = Literal["soluble", "bed_s", "held_g_g"]
LEARNT: tuple[Learnt, ...] = ("soluble", "bed_s", "held_g_g")
"""How much there is to dissolve, how the bed resists, what it keeps: strength, time and mass each speak for one."""
SPREADS = {"tds_pct": 0.03, "beverage_g": 3.0, "total_s": 8.0}
"""Residuals are counted in these: what repeated brews differ by."""
PRIOR_LOG_SD = 0.35
DIFF_STEP = 0.02
"""Wide enough that times, which move in steps of half a second, are seen to move."""
MOST_TRIES = 20
"""Of the search; it settles within ten, and may not keep somebody waiting."""
BOUNDS: dict[Learnt, tuple[float, float]] = {"soluble": (0.18, 0.4), "bed_s": (2.0, 80.0), "held_g_g": (1.2, 3.5)}


@dataclass(frozen=True)
class Observed:
    """What one of those brews came to; None where it was not measured."""

    tds_pct: float | None = None
    beverage_g: float | None = None
    total_s: float | None = None


@dataclass(frozen=True)
class Residual:
    """One brew: observed minus predicted."""

    tds_pct: float | None
    beverage_g: float | None
    total_s: float | None


@dataclass(frozen=True)
class Fitted:
    """parameters with the learnt ones replaced; residuals brew by brew; before and after: root mean square of the scaled residuals."""

    parameters: Parameters
    residuals: tuple[Residual, ...]
    before: float
    after: float


def fit(brews: Sequence[BrewIn], observed: Sequence[Observed], *, start: Parameters = USUAL) -> Fitted:
    """Least squares over the learnt parameters, drawn gently to where they started (a log-normal of 0.35).

    At least three brews with a strength, mass or time each. Raises NotEnoughKnowns.
    """
    if len(brews) < 3 or len(brews) != len(observed) or any(o == Observed() for o in observed):
        raise NotEnoughKnowns("runs", f"{len(brews)} brews are too few to learn from.", "Give three or more, each with a strength, a mass or a time.")
    origin = np.log([getattr(start, name) for name in LEARNT])
    low, high = (np.log([BOUNDS[name][i] for name in LEARNT]) for i in (0, 1))

    def left(x: np.ndarray) -> np.ndarray:
        outcomes = simulate(brews, _with(start, x))
        return np.concatenate([_scaled(outcomes, observed), (x - origin) / PRIOR_LOG_SD])

    found = least_squares(left, np.clip(origin, low + 1e-6, high - 1e-6), bounds=(low, high), diff_step=DIFF_STEP, max_nfev=MOST_TRIES)
    best = _with(start, found.x)
    outcomes = simulate(brews, best)
    return Fitted(
        best,
        tuple(_residual(o, seen) for o, seen in zip(outcomes, observed, strict=True)),
        _rms(_scaled(simulate(brews, start), observed)),
        _rms(_scaled(outcomes, observed)),
    )


def _with(start: Parameters, x: np.ndarray) -> Parameters:
    return replace(start, **dict(zip(LEARNT, map(float, np.exp(x)), strict=True)))


def _scaled(outcomes: Sequence[Outcome], observed: Sequence[Observed]) -> np.ndarray:
    rows = [
        (getattr(seen, name) - getattr(outcome, name)) / spread
        for outcome, seen in zip(outcomes, observed, strict=True)
        for name, spread in SPREADS.items()
        if getattr(seen, name) is not None
    ]
    return np.array(rows)


def _residual(outcome: Outcome, seen: Observed) -> Residual:
    return Residual(**{name: None if getattr(seen, name) is None else getattr(seen, name) - getattr(outcome, name) for name in SPREADS})


def _rms(x: np.ndarray) -> float:
    return float(np.sqrt(np.mean(x**2)))
