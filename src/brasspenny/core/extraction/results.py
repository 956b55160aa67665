"""Brews of one setup brought together: what the measured side of a comparison shows. docs/formulas.md §3, §10."""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ..vocabulary import YieldBasis
from .measure import Brew, Measured
from .uncertainty import Instrument, Pooled, pool_brews
from .yields import TYPICAL_RETAINED_WATER_RATIO


@dataclass(frozen=True)
class SetupMeasured:
    """None where no brew of the setup has the number. brew_ratio: the R of 1:R, all water; total_time_s: mean, s;
    readings_u: the part of the yield's uncertainty that is the scatter of readings, points."""

    n_brews: int
    tds: Pooled | None
    extraction_yield: Pooled | None
    brew_ratio: float | None
    total_time_s: float | None
    readings_u: float


def pool_setup(brews: Sequence[tuple[Brew, Measured, float | None]], *, yield_basis: YieldBasis, instrument: Instrument) -> SetupMeasured:
    """Means over the brews of one setup with intervals that hold brew-to-brew scatter once there are two.

    brews: (masses, measured, total time in s or None). YieldBasis decides which yield is pooled; the other is left alone.
    """
    read = [(b, m) for b, m, _ in brews if m.strength]
    yielded = [(b, m) for b, m in read if m.yield_in(yield_basis)]
    tds = [m.strength.estimate for _, m in read]
    slopes = [_slope(b, m, yield_basis) for b, m in yielded]
    ratios = [m.brew_ratio for _, m, _ in brews if m.brew_ratio is not None]
    times = [t for _, _, t in brews if t is not None]
    return SetupMeasured(
        n_brews=len(brews),
        tds=pool_brews(tds, shared_u=instrument.u_accuracy_pct) if tds else None,
        extraction_yield=pool_brews([m.yield_in(yield_basis) for _, m in yielded], shared_u=statistics.fmean(slopes) * instrument.u_accuracy_pct)
        if yielded
        else None,
        brew_ratio=statistics.fmean(ratios) if ratios else None,
        total_time_s=statistics.fmean(times) if times else None,
        readings_u=math.sqrt(sum((k * m.strength.u_scatter_pct) ** 2 for k, (_, m) in zip(slopes, yielded, strict=True))) / max(1, len(yielded)),
    )


def _slope(brew: Brew, m: Measured, yield_basis: YieldBasis) -> float:
    """Points of yield per % of strength, from the numbers at hand (the yield is nearly proportional to the strength)."""
    return m.yield_in(yield_basis).value / m.strength.tds_pct if m.strength.tds_pct else m.beverage_ratio


def typical_retained(ratios: Iterable[float | None]) -> float:
    """The retained water ratio the chart's ratio lines use: the median of these brews, None where one does not tell it, else the usual 2.1 g/g."""
    seen = [ratio for ratio in ratios if ratio is not None and 0 < ratio < 5]
    return statistics.median(seen) if seen else TYPICAL_RETAINED_WATER_RATIO


def served_tds_pct(*, tds_pct: float, beverage_g: float, added_water_g: float, read_again_pct: float | None) -> float:
    """Strength of the cup as it was served: read again after thinning, else by its masses, %.

    >>> round(served_tds_pct(tds_pct=1.52, beverage_g=210, added_water_g=21.3, read_again_pct=None), 2)
    1.38
    """
    return read_again_pct if read_again_pct is not None else tds_pct * beverage_g / (beverage_g + added_water_g)
