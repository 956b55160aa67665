"""How sure a strength or a yield is. docs/formulas.md §3.

Type A is the scatter of repeated readings, s/√n. Type B is what the instrument itself may be off by: accuracy
half-width a/√3 (rectangular) and resolution r/√12. Parts add in squares; the 95 % half-width uses Student's t with
Welch–Satterthwaite degrees of freedom, type B counting as infinitely many.
Where it stops being true: straight-line error propagation, good while u is a few per cent of the value.
Sources: Satterthwaite 1946, Biometrics; Welch 1947, Biometrika.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from scipy.special import stdtrit

OUTLIER_FROM_MEDIAN_TDS_PCT = 0.06
OUTLIER_SHARE = 0.02
USUAL_REPEATABILITY_PCT = 0.015
"""Of one reading: between the 0.01 and 0.02 % TDS that samples stirred and cooled alike come to."""


PRIOR_DF = 4
"""How many readings' worth the usual repeatability counts as, beside a bench's own."""
FEWEST_DF = 20
"""Fewer of the bench's own readings say no more than the usual does."""


@dataclass(frozen=True)
class Repeatability:
    """What a bench's own drinks, each read more than once, say of one reading. sd_pct: SD, % TDS; drinks: how many."""

    sd_pct: float
    drinks: int


def repeatability_of(sum_of_squares: float, drinks: int, df: int) -> Repeatability | None:
    """SD of one reading of one drink about its own mean, from the pooled sum of squares of ≥ 2 readings a drink, (% TDS)²; df: readings beyond each drink's first. None while df < 20.

    The posterior mean of the variance under a scaled inverse χ² prior around the usual 0.015 % with 4 degrees of freedom, to the thousandth and never
    below 0.005: readings that all round alike do not make an instrument exact.

    >>> repeatability_of(40 * 0.03**2, 20, 40).sd_pct, repeatability_of(0.0, 20, 40).sd_pct, repeatability_of(0.01, 5, 10)
    (0.029, 0.005, None)
    """
    if df < FEWEST_DF:
        return None
    variance = (PRIOR_DF * USUAL_REPEATABILITY_PCT**2 + sum_of_squares) / (PRIOR_DF + df)
    return Repeatability(max(0.005, round(math.sqrt(variance), 3)), drinks)


@dataclass(frozen=True)
class Instrument:
    """accuracy_pct: half-width a, % TDS; resolution_pct: step r, % TDS; scale_resolution_g: step of the scale, g; repeatability_pct: SD of one reading of one drink about its own mean, %
    TDS, for a drink that was read once."""

    accuracy_pct: float = 0.03
    resolution_pct: float = 0.01
    scale_resolution_g: float = 0.1
    repeatability_pct: float = USUAL_REPEATABILITY_PCT

    @property
    def u_mass_g(self) -> float:
        return self.scale_resolution_g / math.sqrt(12)

    @property
    def u_accuracy_pct(self) -> float:
        return self.accuracy_pct / math.sqrt(3)


@dataclass(frozen=True)
class Estimate:
    """A value with its standard uncertainty u, degrees of freedom (inf allowed) and 95 % half-width, all in one unit."""

    value: float
    u: float
    df: float

    @property
    def half_width(self) -> float:
        return t_975(self.df) * self.u

    @property
    def interval(self) -> tuple[float, float]:
        return self.value - self.half_width, self.value + self.half_width


@dataclass(frozen=True)
class Strength:
    """Mean of the readings with its standard uncertainty and its type A part; of one reading that is the instrument's repeatability, with no freedom of its own (0)."""

    tds_pct: float
    u_tds_pct: float
    u_scatter_pct: float
    scatter_df: int

    @property
    def estimate(self) -> Estimate:
        scatter = [(self.u_scatter_pct, float(self.scatter_df))] if self.scatter_df else []
        return Estimate(self.tds_pct, self.u_tds_pct, effective_df(self.u_tds_pct, scatter))


def why_wide(n_brews: int, between_half_width: float | None, shared_half_width: float) -> str:
    """Of an interval of two brews that is wide for want of a third.

    >>> why_wide(2, 0.22, 0.03), why_wide(3, 0.22, 0.03), why_wide(2, 0.01, 0.03)
    ('Two brews cannot give a narrower range; a third would.', '', '')
    """
    wide = n_brews == 2 and between_half_width is not None and between_half_width > shared_half_width
    return "Two brews cannot give a narrower range; a third would." if wide else ""


def t_975(df: float) -> float:
    """97.5 % point of Student's t; df ≥ 1 or inf (then the normal's).

    >>> round(t_975(math.inf), 3), round(t_975(2), 3)
    (1.96, 4.303)
    """
    return 1.959963984540054 if math.isinf(df) or df > 1e9 else float(stdtrit(df, 0.975))


def strength_of(readings_pct: Sequence[float], instrument: Instrument) -> Strength:
    """Mean strength of ≥ 1 readings of one drink, %, with u(c) = √(s²/n + a²/3 + r²/12); s of a lone reading is the instrument's repeatability.

    >>> round(strength_of([1.41, 1.43, 1.42], Instrument()).u_tds_pct, 3)
    0.018
    """
    n, mean = len(readings_pct), statistics.fmean(readings_pct)
    u_a = math.sqrt(math.fsum((c - mean) ** 2 for c in readings_pct) / (n - 1) / n) if n > 1 else instrument.repeatability_pct
    u_b = math.hypot(instrument.u_accuracy_pct, instrument.resolution_pct / math.sqrt(12))
    return Strength(mean, math.hypot(u_a, u_b), u_a, n - 1)


def outliers(readings_pct: Sequence[float]) -> list[int]:
    """Positions of readings farther from the median than `outlier_from_tds_pct`, when there are ≥ 3. They ask for a repeat; none is dropped.

    >>> outliers([1.40, 1.41, 1.52]), outliers([9.00, 9.10, 9.02])
    ([2], [])
    """
    if len(readings_pct) < 3:
        return []
    middle = statistics.median(readings_pct)
    return [i for i, c in enumerate(readings_pct) if abs(c - middle) > outlier_from_tds_pct(middle) + 1e-9]


def outlier_from_tds_pct(middle_tds_pct: float) -> float:
    """How far from the median a reading is doubted: 0.06 % of a drink of usual strength, in proportion of one stronger than 3 %, whose samples differ by more.

    >>> outlier_from_tds_pct(1.4), outlier_from_tds_pct(9.0)
    (0.06, 0.18)
    """
    return max(OUTLIER_FROM_MEDIAN_TDS_PCT, OUTLIER_SHARE * middle_tds_pct)


def effective_df(u: float, parts: Sequence[tuple[float, float]]) -> float:
    """Welch–Satterthwaite: u⁴ / Σ(uᵢ⁴/νᵢ) over parts (uᵢ, νᵢ); inf when no part has finite freedom."""
    below = sum(part**4 / df for part, df in parts if part > 0 and not math.isinf(df))
    return u**4 / below if below > 0 else math.inf


def in_cup_estimate(strength: Strength, *, beverage_g: float, dose_g: float, instrument: Instrument) -> Estimate:
    """In-cup yield E = c·B/D with its uncertainty, % of the dose. Masses in g, > 0.

    >>> e = in_cup_estimate(strength_of([1.41, 1.43, 1.42], Instrument()), beverage_g=248, dose_g=18, instrument=Instrument())
    >>> round(e.value, 2), round(e.u, 3), round(e.half_width, 1)
    (19.56, 0.257, 0.5)
    """
    value = strength.tds_pct * beverage_g / dose_g
    slope_c = beverage_g / dose_g
    u = math.hypot(slope_c * strength.u_tds_pct, strength.tds_pct / dose_g * instrument.u_mass_g, value / dose_g * instrument.u_mass_g)
    return _with_df(value, u, slope_c, strength)


def full_liquor_estimate(
    strength: Strength, *, brew_water_g: float, dose_g: float, beverage_g: float | None, bypass_g: float, instrument: Instrument
) -> Estimate:
    """Full-liquor yield with its uncertainty, % of the dose; bypass is undone first: B and Y matter only then, and without bypass B may be unknown."""
    beverage_g = beverage_g if bypass_g else 1.0
    left_g = beverage_g - bypass_g
    c0 = strength.tds_pct * beverage_g / left_g / 100
    value = 100 * c0 * brew_water_g / ((1 - c0) * dose_g)
    slope_c0 = brew_water_g / dose_g / (1 - c0) ** 2  # % of yield per % of undiluted strength
    slope_c = slope_c0 * beverage_g / left_g
    parts = [slope_c * strength.u_tds_pct, value / brew_water_g * instrument.u_mass_g, value / dose_g * instrument.u_mass_g]
    if bypass_g > 0:
        parts.append(slope_c0 * strength.tds_pct * bypass_g / left_g**2 * instrument.u_mass_g)
        parts.append(slope_c0 * strength.tds_pct * beverage_g / left_g**2 * instrument.u_mass_g)
    return _with_df(value, math.hypot(*parts), slope_c, strength)


def _with_df(value: float, u: float, slope_c: float, strength: Strength) -> Estimate:
    scatter = [(slope_c * strength.u_scatter_pct, float(strength.scatter_df))] if strength.scatter_df else []
    return Estimate(value, u, effective_df(u, scatter))


# --- several brews of one setup, and differences ------------------------------------------------------------------


@dataclass(frozen=True)
class Pooled:
    """Mean over brews of one setup. between_u: scatter from brew to brew over √n (None for one brew);
    shared_u: what the one instrument may be off by in all of them, which no number of brews removes."""

    estimate: Estimate
    n_brews: int
    between_u: float | None
    shared_u: float


def pool_brews(brews: Sequence[Estimate], *, shared_u: float) -> Pooled:
    """Mean of ≥ 1 brews. With replicates the between-brew scatter carries the interval (it holds the readings'
    scatter already), and the shared instrument part is added once; brews that agree by luck are no surer than their own readings and masses make them. One brew keeps its own uncertainty.

    brews: values in one unit and on one yield basis; shared_u: standard uncertainty all brews share, same unit. Source: docs/formulas.md §3.
    """
    values = [brew.value for brew in brews]
    n = len(values)
    if n == 1:
        return Pooled(brews[0], 1, None, shared_u)
    between_u = statistics.stdev(values) / math.sqrt(n)
    own_u = math.sqrt(math.fsum(max(0.0, brew.u**2 - shared_u**2) for brew in brews)) / n
    scatter = (between_u, n - 1.0) if between_u >= own_u else (own_u, min(brew.df for brew in brews))
    u = math.hypot(scatter[0], shared_u)
    return Pooled(Estimate(statistics.fmean(values), u, effective_df(u, [scatter])), n, between_u, shared_u)


def strength_difference(first: Strength, second: Strength, instrument: Instrument) -> Estimate:
    """first − second in % TDS read with one instrument: its accuracy error is in both and cancels."""
    parts = _own_parts(first, 1, instrument) + _own_parts(second, 1, instrument)
    u = math.hypot(*(p for p, _ in parts))
    return Estimate(first.tds_pct - second.tds_pct, u, effective_df(u, parts))


def in_cup_difference(first: Strength, first_drink_out: float, second: Strength, second_drink_out: float, instrument: Instrument) -> Estimate:
    """Difference of two in-cup yields, points, read with one instrument.

    `*_drink_out` are beverage ratios B/D. The shared accuracy error a cancels but for a·|B₁/D₁ − B₂/D₂|.

    >>> i = Instrument(accuracy_pct=0.03, resolution_pct=0, scale_resolution_g=0, repeatability_pct=0)
    >>> d = in_cup_difference(strength_of([1.5], i), 11.0, strength_of([1.2], i), 16.0, i)
    >>> round(d.u * math.sqrt(3), 2)
    0.15
    """
    rest = instrument.u_accuracy_pct * abs(first_drink_out - second_drink_out)
    parts = [(rest, math.inf), *_own_parts(first, first_drink_out, instrument), *_own_parts(second, second_drink_out, instrument)]
    u = math.hypot(*(p for p, _ in parts))
    return Estimate(first.tds_pct * first_drink_out - second.tds_pct * second_drink_out, u, effective_df(u, parts))


def _own_parts(strength: Strength, slope: float, instrument: Instrument) -> list[tuple[float, float]]:
    scatter_df = float(strength.scatter_df) if strength.scatter_df else math.inf
    return [(slope * strength.u_scatter_pct, scatter_df), (slope * instrument.resolution_pct / math.sqrt(12), math.inf)]
