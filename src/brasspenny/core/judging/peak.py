"""Liking against one number: where is the best point, and is it inside what was tested? docs/judging.md §10."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..errors import BadScores
from .columns import fit_columns
from .scores import Score, cups_of

Kind = Literal["peak", "no_peak", "not_located", "too_few_levels"]
FEWEST_LEVELS = 4
PEAK_AT_LEAST, INSIDE_AT_MOST, END_AT_LEAST = 0.95, 0.10, 0.90
DRAWS, SEED, CURVE_POINTS = 20_000, 3, 33
LOW_P, HIGH_P = 2.5, 97.5


@dataclass(frozen=True)
class Curve:
    """Liking along the tested range with its 95 % band of the panel's mean curve, taster offsets aside."""

    x: tuple[float, ...]
    y: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]


@dataclass(frozen=True)
class Peak:
    """best: within the tested range, median and 95 % interval, in the number's own unit. inside: P(a peak strictly inside).
    rising: "high", "low" or "" — the end towards which liking still rises when there is no peak. distinct: levels tested.
    next_value: one step beyond that end; next_gain: its liking less the best tested level's, mean and SD, as far as the curve holds."""

    kind: Kind
    best: float
    interval: tuple[float, float]
    inside: float
    rising: str
    distinct: int
    tested: tuple[float, float]
    slope: float
    slope_interval: tuple[float, float]
    curve: Curve
    next_value: float | None
    next_gain: tuple[float, float] | None


def find_peak(scores: Sequence[Score], at: Mapping[tuple[str, str], float], *, low: float = 1, high: float = 9, same_within: float = 0.0) -> Peak:
    """The best point of an attribute over a number.

    at: (setup, brew) → the number (ratio, % TDS, % EY …); scores without one are left out. same_within: values this close
    are one level. Slope: points per unit over the whole range, of the straight part. Raises BadScores with fewer than
    three levels or a range of nought.
    """
    kept = [s for s in scores if (s.setup, s.brew) in at]
    values = sorted({at[s.setup, s.brew] for s in kept})
    distinct = levels_of(values, same_within)
    if distinct < 3 or values[-1] - values[0] <= 0:
        raise BadScores(
            "x",
            f"{distinct} tested value{'' if distinct == 1 else 's'} make{'s' if distinct == 1 else ''} no curve.",
            "Test at least three, five or six to find a peak.",
        )
    cups = cups_of(kept, low=low, high=high)
    middle, half = (values[0] + values[-1]) / 2, (values[-1] - values[0]) / 2
    x = (np.array([at[k] for k in cups.brew_keys])[cups.brew] - middle) / half
    found = fit_columns(cups, np.stack([x, x**2], axis=1), x[:, None], scale=(high - low) / 8)
    intercept, b = found.draws(DRAWS, SEED)
    inside, best = _best(b)
    is_inside, at_high, at_low = float(inside.mean()), float((best == 1).mean()), float((best == -1).mean())
    kind, rising = _kind(is_inside, at_high, at_low, distinct)

    def own(z):
        return middle + half * z

    slopes = b[:, 0] / half
    next_value = _step_beyond(values, distinct, rising)
    return Peak(
        kind=kind,
        best=float(own(np.median(best))),
        interval=(float(own(np.percentile(best, LOW_P))), float(own(np.percentile(best, HIGH_P)))),
        inside=is_inside,
        rising=rising,
        distinct=distinct,
        tested=(values[0], values[-1]),
        slope=float(slopes.mean()),
        slope_interval=(float(np.percentile(slopes, LOW_P)), float(np.percentile(slopes, HIGH_P))),
        curve=_curve(intercept + cups.grand_mean, b, own, low, high),
        next_value=next_value,
        next_gain=None if next_value is None else _gain(b, (next_value - middle) / half),
    )


def said(peak: Peak, *, what: str, unit: str = "", places: int = 1, prefix: str = "") -> str:
    """What the curve says, in words. what: "ratio"; prefix: "1:" before the number.

    >>> curve = Curve((), (), (), ())
    >>> said(Peak("peak", 15.4, (14.9, 15.9), 0.99, "", 6, (13, 18), 0, (0, 0), curve, None, None), what="ratio", prefix="1:")
    'Liked best at ratio 1:15.4 (1:14.9 to 1:15.9).'
    """

    def number(value: float) -> str:
        return f"{prefix}{value:.{places}f}{unit}"

    tested, ends = f"{number(peak.tested[0])} to {number(peak.tested[1])}", f"{number(peak.interval[0])} to {number(peak.interval[1])}"
    match peak.kind:
        case "peak":
            return f"Liked best at {what} {number(peak.best)} ({ends})."
        case "no_peak":
            towards = peak.tested[1] if peak.rising == "high" else peak.tested[0]
            return f"No peak inside the tested range: liking still rises towards {number(towards)}. Try {number(peak.next_value)}."
        case "too_few_levels":
            return f"{peak.distinct} levels of {what}: the curve is drawn, but they cannot locate a peak."
        case _:
            return f"The best {what} is not located between {tested}: anywhere from {ends}."


def levels_of(values: Sequence[float], same_within: float) -> int:
    """How many levels sorted values make when steps no wider than same_within are one.

    >>> levels_of([13.0, 13.1, 14.0, 15.0], 0.2)
    3
    """
    return 0 if not len(values) else 1 + sum(b - a > same_within for a, b in zip(values, list(values)[1:], strict=False))


def _best(b: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Per draw of (slope, bend): is there a peak strictly inside, and the best point on −1…1."""
    slope, bend = b[:, 0], b[:, 1]
    with np.errstate(divide="ignore", invalid="ignore"):
        turn = np.where(bend < 0, -slope / (2 * bend), np.nan)
    inside = np.abs(turn) < 1
    return inside, np.where(inside, turn, np.where(slope >= 0, 1.0, -1.0))


def _kind(inside: float, at_high: float, at_low: float, distinct: int) -> tuple[Kind, str]:
    if distinct < FEWEST_LEVELS:
        return "too_few_levels", ""
    if inside >= PEAK_AT_LEAST:
        return "peak", ""
    if inside <= INSIDE_AT_MOST and max(at_high, at_low) >= END_AT_LEAST:
        return "no_peak", "high" if at_high > at_low else "low"
    return "not_located", ""


def _step_beyond(values: Sequence[float], distinct: int, rising: str) -> float | None:
    step = (values[-1] - values[0]) / (distinct - 1)
    return {"high": values[-1] + step, "low": values[0] - step}.get(rising)


def _gain(b: np.ndarray, z: float) -> tuple[float, float]:
    end = 1.0 if z > 0 else -1.0
    gained = b[:, 0] * (z - end) + b[:, 1] * (z**2 - 1)
    return float(gained.mean()), float(gained.std())


def _curve(intercept: np.ndarray, b: np.ndarray, own, low: float, high: float) -> Curve:
    z = np.linspace(-1, 1, CURVE_POINTS)
    lines = np.clip(intercept[:, None] + b[:, :1] * z + b[:, 1:] * z**2, low, high)
    ends = np.percentile(lines, (LOW_P, HIGH_P), axis=0)
    return Curve(*(tuple(float(v) for v in row) for row in (own(z), lines.mean(0), *ends)))
