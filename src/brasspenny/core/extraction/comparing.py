"""Two setups' brews compared: is the difference of their yields, or strengths, more than scatter? docs/formulas.md §3.

With replicates the scatter from brew to brew carries the interval, and never less than what masses and readings are good for: yields read to one step of a
coarse scale can lie on one another by chance. With single brews masses, readings and resolution carry it, and the answer is about those two brews. A single brew
against n others borrows their scatter, with n − 1 degrees of freedom in all. One instrument reads both, so of its accuracy error a only a·|slope₁ − slope₂| stays.
"Different" means that the 95 % interval of the difference leaves out 0; "same" that it holds 0 and stays within the margin;
"cannot tell" everything else.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .. import figures
from ..errors import NotEnoughKnowns, PennyError
from ..vocabulary import YieldBasis
from .measure import Brew, Measured, measure
from .uncertainty import Estimate, Instrument, Pooled, effective_df, pool_brews, t_975
from .yields import YIELD_BASIS_LABELS

Verdict = Literal["different", "same", "cannot_tell"]
MARGIN_EY_PCT = 1.0
"""Yields closer than this are one yield for any purpose of the job; strengths have their own margin in `dilution`."""


@dataclass(frozen=True)
class Side:
    """One setup's brews: pooled yield and strength; readings_u: the readings' own scatter on its mean."""

    name: str
    n_brews: int
    ey: Pooled
    tds: Pooled
    readings_u: float


@dataclass(frozen=True)
class Comparison:
    """difference and tds_difference: first − second, points. single: a side has one brew, so nothing is said of the next pour."""

    first: Side
    second: Side
    difference: Estimate
    tds_difference: Estimate
    verdict: Verdict
    text: str
    single: bool


@dataclass(frozen=True)
class _Brewed:
    """A brew's yield and strength with how the yield answers to a point of strength (its slope), its readings' own scatter, and what its masses leave open in the yield."""

    ey: Estimate
    tds: Estimate
    slope: float
    scatter_u: float
    scatter_df: float
    masses_u: float


def compare_yields(
    first: tuple[str, Sequence[tuple[Brew, Sequence[float]]]],
    second: tuple[str, Sequence[tuple[Brew, Sequence[float]]]],
    *,
    yield_basis: YieldBasis,
    instrument: Instrument,
    margin_ey_pct: float = MARGIN_EY_PCT,
) -> Comparison:
    """Each side: its name and its brews as (masses, readings in % TDS). Yields on one basis, never mixed.

    Raises OutOfDomain, Inconsistent, NotEnoughKnowns at "first.brews.0.…". Source: docs/formulas.md §3.
    """
    sides = [_brewed(f"{where}.brews", brews, yield_basis, instrument) for where, (_, brews) in (("first", first), ("second", second))]
    pooled = [_side(name, brews, instrument) for (name, _), brews in zip((first, second), sides, strict=True)]
    ey = _difference(*sides, instrument, slope=lambda b: b.slope, value=lambda b: b.ey.value, masses=lambda b: b.masses_u)
    tds = _difference(*sides, instrument, slope=lambda b: 1.0, value=lambda b: b.tds.value, masses=lambda b: 0.0)
    verdict = judge_difference(ey, margin_ey_pct)
    single = min(len(s) for s in sides) == 1
    return Comparison(*pooled, ey, tds, verdict, _text(first[0], second[0], ey, verdict, yield_basis, single), single)


def judge_difference(difference: Estimate, margin: float) -> Verdict:
    """By its 95 % interval: leaves out 0, stays within the margin around 0, or neither.

    >>> judge_difference(Estimate(0.3, 0.2, math.inf), 1.0), judge_difference(Estimate(0.3, 0.6, math.inf), 1.0)
    ('same', 'cannot_tell')
    """
    low, high = difference.interval
    if low > 0 or high < 0:
        return "different"
    return "same" if -margin <= low and high <= margin else "cannot_tell"


def _brewed(where: str, brews: Sequence[tuple[Brew, Sequence[float]]], yield_basis: YieldBasis, instrument: Instrument) -> list[_Brewed]:
    out = []
    for i, (brew, readings) in enumerate(brews):
        at = f"{where}.{i}"
        if not readings:
            raise NotEnoughKnowns(f"{at}.tds_readings_pct", "this brew has no reading.", "Give at least one; three are better.")
        try:
            m = measure(brew, readings, instrument)
        except PennyError as error:
            raise error.at(f"{at}.{error.field}") from error
        ey = m.yield_in(yield_basis)
        if ey is None:
            missing = "beverage_g" if brew.beverage_g is None and (yield_basis == "in_cup" or brew.bypass_g) else "brew_water_g"
            raise NotEnoughKnowns(
                f"{at}.{missing}", f"the {YIELD_BASIS_LABELS[yield_basis].lower()} needs it.", "Weigh it, or compare by the other yield method."
            )
        out.append(_one(m, ey, brew, yield_basis))
    return out


def _one(m: Measured, ey: Estimate, brew: Brew, yield_basis: YieldBasis) -> _Brewed:
    if yield_basis == "in_cup":
        slope = ey.value / m.strength.tds_pct if m.strength.tds_pct else brew.beverage_g / brew.dose_g
    else:
        c0 = m.tds_undiluted_pct / 100
        slope = brew.brew_water_g / brew.dose_g / (1 - c0) ** 2 * (brew.beverage_g / (brew.beverage_g - brew.bypass_g) if brew.bypass_g else 1.0)
    df = float(m.strength.scatter_df) if m.strength.scatter_df else math.inf
    masses_u = math.sqrt(max(0.0, ey.u**2 - (slope * m.strength.u_tds_pct) ** 2))
    return _Brewed(ey, m.strength.estimate, slope, m.strength.u_scatter_pct, df, masses_u)


def _side(name: str, brews: Sequence[_Brewed], instrument: Instrument) -> Side:
    slope = statistics.fmean(b.slope for b in brews)
    readings_u = math.sqrt(sum((b.slope * b.scatter_u) ** 2 for b in brews)) / len(brews)
    return Side(
        name=name,
        n_brews=len(brews),
        ey=pool_brews([b.ey for b in brews], shared_u=slope * instrument.u_accuracy_pct),
        tds=pool_brews([b.tds for b in brews], shared_u=instrument.u_accuracy_pct),
        readings_u=readings_u,
    )


def _difference(first: Sequence[_Brewed], second: Sequence[_Brewed], instrument: Instrument, *, slope, value, masses) -> Estimate:
    rest = instrument.u_accuracy_pct * abs(statistics.fmean(map(slope, first)) - statistics.fmean(map(slope, second)))
    parts = [(rest, math.inf), *_scatter_parts(first, second, instrument, slope, value, masses)]
    u = math.hypot(*(p for p, _ in parts))
    return Estimate(statistics.fmean(map(value, first)) - statistics.fmean(map(value, second)), u, effective_df(u, parts))


def _scatter_parts(first: Sequence[_Brewed], second: Sequence[_Brewed], instrument: Instrument, slope, value, masses) -> list[tuple[float, float]]:
    """The uncorrelated parts of the difference of the two means, each with its degrees of freedom."""
    own = [_own_u(side, instrument, slope, masses) for side in (first, second)]
    several = [side for side in (first, second) if len(side) > 1]
    if not several:
        return [part for side in (first, second) for part in _parts_of_one(side[0], instrument, slope, masses)]
    if len(several) == 1:  # one scatter, seen once, stands for both means
        (side,) = several
        s, n = statistics.stdev(map(value, side)), len(side)
        return [_wider((s * math.sqrt(1 + 1 / n), n - 1), (math.hypot(*own), math.inf))]
    found = [(statistics.stdev(map(value, side)) / math.sqrt(len(side)), float(len(side) - 1)) for side in (first, second)]
    u = math.hypot(*(part for part, _ in found))
    return found if t_975(effective_df(u, found)) * u >= t_975(math.inf) * math.hypot(*own) else [(math.hypot(*own), math.inf)]


def _wider(*parts: tuple[float, float]) -> tuple[float, float]:
    return max(parts, key=lambda part: t_975(part[1]) * part[0])


def _own_u(side: Sequence[_Brewed], instrument: Instrument, slope, masses) -> float:
    """What masses and readings alone leave open in the mean of a side."""
    return math.sqrt(sum(part**2 for b in side for part, _ in _parts_of_one(b, instrument, slope, masses))) / len(side)


def _parts_of_one(b: _Brewed, instrument: Instrument, slope, masses) -> list[tuple[float, float]]:
    return [(slope(b) * b.scatter_u, b.scatter_df), (slope(b) * instrument.resolution_pct / math.sqrt(12), math.inf), (masses(b), math.inf)]


def _text(first: str, second: str, d: Estimate, verdict: Verdict, yield_basis: YieldBasis, single: bool) -> str:
    what = YIELD_BASIS_LABELS[yield_basis].lower()
    shown = f"{figures.points(abs(d.value))} ± {figures.points(d.half_width)} points"
    more = first if d.value >= 0 else second
    said = {
        "different": f"{more} has the higher {what}, by {shown}.",
        "same": f"One {what} for both: they differ by {shown}.",
        "cannot_tell": f"Cannot tell: they differ by {shown}, which holds 0 and more than matters. Read again, or brew each once more.",
    }[verdict]
    return said + (" A side has a single brew, so this is about these brews and not about the setups." if single else "")
