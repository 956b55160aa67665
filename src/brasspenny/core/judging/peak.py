"""Liking against one number: where is the best point, and is it inside what was tested? docs/judging.md §10.

A parabola alone claims a point for every hump, and misses that of a lopsided one every time. So three shapes are averaged by how well the scores speak for them: the parabola,
humps of two half-parabolas, and tents of two straight sides, each with its top anywhere. Where they disagree the interval is wide, or nothing is claimed.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..errors import BadScores
from .columns import fit_columns, fit_each_at
from .measures import Measure
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
    next_value: one step beyond that end; next_gain: its liking less the best tested level's, mean and SD, as far as the curve holds. chances: setup → the chance that it is the best of
    those tested, by the same draws as the interval."""

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
    chances: Mapping[str, float]


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
    b = found.draws(DRAWS, SEED)[1]
    shapes = _shapes(cups, x, found, scale=(high - low) / 8)
    inside, best = (np.concatenate(parts) for parts in zip(*(shape.best() for shape in shapes), strict=True))
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
        curve=_curve(shapes, cups.grand_mean, own, low, high),
        next_value=next_value,
        next_gain=None if next_value is None else _gain(b, (next_value - middle) / half),
        chances=_chances(shapes, cups, x),
    )


def _chances(shapes: Sequence[_Shape], cups, x: np.ndarray) -> dict[str, float]:
    """Each setup at the mean of its brews' numbers."""
    setup = np.asarray(cups.brew_setup)[cups.brew]
    at = np.array([x[setup == k].mean() if (setup == k).any() else np.nan for k in range(len(cups.setups))])
    tested = np.flatnonzero(~np.isnan(at))
    best = np.concatenate([shape.lines(at[tested]).argmax(1) for shape in shapes])
    counts = np.bincount(best, minlength=len(tested)) / len(best)
    return {cups.setups[k]: float(share) for k, share in zip(tested, counts, strict=True)}


def said(peak: Peak, measure: Measure) -> str:
    """What the curve says, in words.

    >>> from .measures import MEASURE
    >>> curve = Curve((), (), (), ())
    >>> said(Peak("peak", 15.4, (14.9, 15.9), 0.99, "", 6, (13, 18), 0, (0, 0), curve, None, None, {}), MEASURE["ratio"])
    'Liked best at ratio 1:15.4 (1:14.9 to 1:15.9).'
    """
    number, what = measure.say, measure.what_before
    tested, ends = f"{number(peak.tested[0])} to {number(peak.tested[1])}", f"{number(peak.interval[0])} to {number(peak.interval[1])}"
    match peak.kind:
        case "peak":
            return f"Liked best at {what}{number(peak.best)} ({ends})."
        case "no_peak":
            towards = peak.tested[1] if peak.rising == "high" else peak.tested[0]
            return f"No peak inside the tested range: liking still rises towards {number(towards)}. Try {number(peak.next_value)}."
        case "too_few_levels":
            return f"{peak.distinct} levels of {measure.label.lower()}: the curve is drawn, but they cannot locate a peak."
        case _:
            return f"The best {measure.label.lower()} is not located between {tested}: anywhere from {ends}."


def levels_of(values: Sequence[float], same_within: float) -> int:
    """How many levels sorted values make when steps no wider than same_within are one.

    >>> levels_of([13.0, 13.1, 14.0, 15.0], 0.2)
    3
    """
    return 0 if not len(values) else 1 + sum(b - a > same_within for a, b in zip(values, list(values)[1:], strict=False))


# --- shapes ------------------------------------------------------------------------------------------------------------------------

TOPS = np.linspace(-0.9, 0.9, 19)
"""Where a hump or a tent may have its top, on −1…1."""
PARABOLA_PRIOR = 0.5
LEAST_WEIGHT = 0.002


@dataclass(frozen=True)
class _Shape:
    """One shape's share of the draws. top: None for the parabola; power: 2 a hump, 1 a tent; size: what its columns were divided by."""

    top: float | None
    power: int
    size: np.ndarray
    intercept: np.ndarray
    b: np.ndarray

    def best(self) -> tuple[np.ndarray, np.ndarray]:
        """Per draw: is the best point strictly inside, and where it is on −1…1."""
        if self.top is None:
            return _best(self.b)
        ends = np.stack([(_sides(np.array([end]), self.top, self.power) / self.size @ self.b.T)[0] for end in (-1.0, 1.0)])
        at = np.argmax(np.stack([np.zeros(len(self.b)), *ends]), axis=0)
        return at == 0, np.where(at == 0, self.top, np.where(at == 1, -1.0, 1.0))

    def lines(self, z: np.ndarray) -> np.ndarray:
        columns = np.stack([z, z**2], axis=1) if self.top is None else _sides(z, self.top, self.power) / self.size
        return self.intercept[:, None] + self.b @ columns.T


def _sides(z: np.ndarray, top: float, power: int) -> np.ndarray:
    """Distances below and above the top, raised."""
    return np.stack([np.maximum(top - z, 0) ** power, np.maximum(z - top, 0) ** power], axis=1)


def _shapes(cups, x: np.ndarray, parabola, *, scale: float) -> list[_Shape]:
    """Every shape the scores speak for, with draws by its weight; each top is as likely beforehand as the next."""
    each = np.log((1 - PARABOLA_PRIOR) / (2 * len(TOPS)))
    humps = []
    for power in (2, 1):
        for top in TOPS:
            columns = _sides(x, float(top), power)
            size = np.sqrt((columns**2).mean(0))
            if (size > 1e-9).all():
                humps.append((float(top), power, size, columns / size))
    found = fit_each_at(cups, [columns for *_, columns in humps], x[:, None], parabola.nodes, scale=scale)
    fits = [(None, 2, np.ones(2), parabola, np.log(PARABOLA_PRIOR))]
    fits += [(top, power, size, fit, each) for (top, power, size, _), fit in zip(humps, found, strict=True)]
    own = np.sqrt(np.array([(x**2).mean(), (x**4).mean()]))
    log_weight = np.array([fit.log_evidence + prior for _, _, _, fit, prior in fits])
    log_weight[0] += np.log(own).sum()  # the parabola's columns are not divided by their size
    weight = np.exp(log_weight - log_weight.max())
    weight /= weight.sum()
    out = []
    for (top, power, size, fit, _), share in zip(fits, weight, strict=True):
        if share >= LEAST_WEIGHT:
            intercept, b = fit.draws(max(2, 2 * round(share * DRAWS / 2)), SEED)
            out.append(_Shape(top, power, size, intercept, b))
    return out


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


def _curve(shapes: Sequence[_Shape], grand_mean: float, own, low: float, high: float) -> Curve:
    z = np.linspace(-1, 1, CURVE_POINTS)
    lines = np.clip(np.concatenate([shape.lines(z) for shape in shapes]) + grand_mean, low, high)
    ends = np.percentile(lines, (LOW_P, HIGH_P), axis=0)
    return Curve(*(tuple(float(v) for v in row) for row in (own(z), lines.mean(0), *ends)))
