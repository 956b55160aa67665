"""Sieve samples as they are kept: replicates taken together, two grinds compared, a dial's line, the setting to try next. docs/formulas.md §5.

Replicates are samples of one dial, setting, coffee and stack. How far replicates of one stack lie apart is learnt from all of them together: it
is the hand and the sieves that scatter, whichever grinder filled them. Sizes are taken in logarithms, shares as they are. An interval is of what
this stack would read on average: what lies between two apertures is read log-linearly, and a finer stack reads it better.
Sources: Student's t with a pooled standard deviation; ratios by first-order propagation of their logarithm.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from .. import figures
from ..distributions import stdtrit
from .settings import GrinderScale
from .sieve import TARGETS, Z_975, Figure, Fraction, Sieved, Weibull, fitted, is_within, sieve
from .tables import MOST_ROWS

FEWEST_FREEDOM = 2
"""Below so many degrees of freedom Student's t says next to nothing: then the scale's own doubt is told, and that it is only that."""
USUAL_MOVE_STEPS = 3
"""How far to turn a dial of which no line is known yet."""
MOST_BEYOND = 0.5
"""A line is followed beyond its ends by half its length at most."""


@dataclass(frozen=True)
class Grind:
    """Where a sample came from; replicates have the same. simulated: made up, and never one of what was weighed."""

    dial_id: str
    setting: float
    coffee_id: str
    apertures_um: tuple[float, ...]
    simulated: bool = False


@dataclass(frozen=True)
class Sample:
    """One shaken stack, or a table read in (fractions of 100 g: nothing was weighed here). day: ISO."""

    id: str
    grind: Grind
    mass_in_g: float
    fractions: tuple[Fraction, ...]
    scale_step_g: float = 0.1
    day: str = ""
    table: bool = False

    @cached_property
    def stack(self) -> str:
        """What its replicates' scatter is learnt with."""
        shaken = "table" if self.table else "/".join(f"{a:g}" for a in self.grind.apertures_um)
        return f"simulated {shaken}" if self.grind.simulated else shaken


@dataclass(frozen=True)
class Measure:
    """logs: its scatter is relative."""

    code: str
    label: str
    logs: bool
    of: Callable[[Sieved], Figure | None]


def _located(share: float) -> Callable[[Sieved], Figure | None]:
    return lambda s: next(p.at_um for p in s.percentiles if p.share == share)


MEASURES = (
    Measure("recovery", "Recovery", False, lambda s: s.recovery),
    Measure("fines", "Fines", False, lambda s: s.fines.of_recovered),
    Measure("in_band", "In band", False, lambda s: s.in_band.of_recovered),
    Measure("coarse", "Coarse", False, lambda s: s.coarse.of_recovered),
    Measure("fines_in", "Fines, of mass in", False, lambda s: s.fines.of_mass_in),
    Measure("in_band_in", "In band, of mass in", False, lambda s: s.in_band.of_mass_in),
    Measure("coarse_in", "Coarse, of mass in", False, lambda s: s.coarse.of_mass_in),
    *(Measure(f"d{round(100 * p)}", f"d{round(100 * p)}", True, _located(p)) for p in TARGETS),
    Measure("span", "Span", True, lambda s: s.span),
)
BY_CODE = {m.code: m for m in MEASURES}


@dataclass(frozen=True)
class Scatter:
    """How far replicates lie apart, one standard deviation (of logarithms where the measure is taken so); from how many degrees of freedom, and samples."""

    sd: float
    freedom: int
    samples: int


@dataclass(frozen=True)
class Pooled:
    """A measure of one grind. scatter: None where too few replicates are known and the interval is the scale's alone; se: standard error on the
    measure's own footing (logarithm or not)."""

    measure: Measure
    value: float
    se: float
    count: int
    scatter: Scatter | None

    @property
    def t(self) -> float:
        return float(stdtrit(self.scatter.freedom, 0.975)) if self.scatter else Z_975

    @property
    def figure(self) -> Figure:
        half = self.t * self.se
        if self.measure.logs:
            return Figure(self.value, (self.value * math.exp(-half), self.value * math.exp(half)))
        top = math.inf if self.measure.code == "recovery" else 1.0
        return Figure(self.value, (max(0.0, self.value - half), min(top, self.value + half)))


@dataclass(frozen=True)
class Sampled:
    """One grind's replicates, each as sieved with the band asked for (None where its stack cannot show that band), and what they say together."""

    grind: Grind
    samples: tuple[Sample, ...]
    sieved: tuple[Sieved, ...]
    holds_band: bool
    pooled: Mapping[str, Pooled]
    stack: str

    def figure(self, code: str) -> Figure | None:
        found = self.pooled.get(code)
        return found.figure if found else None

    @property
    def d50_um(self) -> float | None:
        found = self.pooled.get("d50")
        return found.value if found else None


def usual_band(apertures_um: Sequence[float]) -> tuple[float, float]:
    """From the finest sieve to the coarsest of two or three, else to the one in the middle. apertures_um: two or more, without the pan's.

    >>> usual_band((400, 900)), usual_band((300, 500, 800, 1100))
    ((400, 900), (300, 800))
    """
    return apertures_um[0], apertures_um[-1] if len(apertures_um) <= 3 else apertures_um[len(apertures_um) // 2]


def taken_together(samples: Sequence[Sample], band_um: tuple[float, float]) -> list[Sampled]:
    """Every grind of these samples, replicates together, in order of dial, setting and first day. band_um: from, to; a stack that cannot show it
    gives percentiles only."""
    groups: dict[Grind, list[Sample]] = defaultdict(list)
    for s in samples:
        groups[s.grind].append(s)
    read = {grind: _read(group, band_um) for grind, group in groups.items()}
    scatter = _scatters([(group[0].stack, read[grind]) for grind, group in groups.items()])
    out = []
    for grind, group in groups.items():
        holds = is_within(grind.apertures_um, band_um)
        pooled = {m.code: p for m in MEASURES if (holds or not _of_band(m)) and (p := _pooled(m, read[grind], scatter.get((group[0].stack, m.code))))}
        out.append(Sampled(grind, tuple(group), tuple(read[grind]), holds, pooled, group[0].stack))
    return sorted(out, key=lambda g: (g.grind.dial_id, g.grind.setting, g.samples[0].day, g.samples[0].id))


def telling(groups: Sequence[Sampled]) -> list[Sampled]:
    """Those to go by: of each dial what was weighed, and what is simulated only where nothing was."""
    weighed = {g.grind.dial_id for g in groups if not g.grind.simulated}
    return [g for g in groups if not g.grind.simulated or g.grind.dial_id not in weighed]


def _of_band(m: Measure) -> bool:
    return m.code.split("_")[0] in ("fines", "in", "coarse")


def _read(group: Sequence[Sample], band_um: tuple[float, float]) -> list[Sieved]:
    apertures = group[0].grind.apertures_um
    band = band_um if is_within(apertures, band_um) else usual_band(apertures)
    return [sieve(s.mass_in_g, s.fractions, band, scale_step_g=s.scale_step_g, fit=False, most=MOST_ROWS + 1) for s in group]


def _footing(m: Measure, value: float) -> float:
    return math.log(max(value, 1e-9)) if m.logs else value


def _scatters(groups: Sequence[tuple[str, Sequence[Sieved]]]) -> dict[tuple[str, str], Scatter]:
    """(stack, measure) → the scatter within groups, over all groups of that stack. A measure too few replicates show takes the largest known of its footing."""
    squares, freedom, samples = defaultdict(float), defaultdict(int), defaultdict(int)
    for stack, group in groups:
        for m in MEASURES:
            values = [_footing(m, f.value) for s in group if (f := m.of(s))]
            if len(values) >= 2:
                squares[stack, m.code] += float(np.var(values) * len(values))
                freedom[stack, m.code] += len(values) - 1
                samples[stack, m.code] += len(values)
    own = {key: Scatter(math.sqrt(squares[key] / n), n, samples[key]) for key, n in freedom.items() if n >= FEWEST_FREEDOM}
    out = dict(own)
    for stack in {key[0] for key in own}:
        for m in MEASURES:
            alike = [s for (at, code), s in own.items() if at == stack and BY_CODE[code].logs == m.logs]
            if (stack, m.code) not in own and alike:
                out[stack, m.code] = max(alike, key=lambda s: s.sd)
    return out


def _pooled(m: Measure, group: Sequence[Sieved], scatter: Scatter | None) -> Pooled | None:
    known = [f for s in group if (f := m.of(s))]
    if not known or len(known) < len(group):
        return None
    values = [_footing(m, f.value) for f in known]
    by_scale = math.sqrt(float(np.mean([_scale_sd(m, f) ** 2 for f in known])))
    sd = max(scatter.sd if scatter else 0.0, by_scale)
    mean = float(np.mean(values))
    return Pooled(m, math.exp(mean) if m.logs else mean, sd / math.sqrt(len(values)), len(values), scatter)


def _scale_sd(m: Measure, f: Figure) -> float:
    sd = (f.interval[1] - f.interval[0]) / 2 / Z_975
    return sd / max(f.value, 1e-9) if m.logs else sd


# --- two grinds -------------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Change:
    """b less a. points: of shares in points of 100, of sizes in µm; per_cent: of a's, None where a's is nought."""

    measure: Measure
    points: Figure
    per_cent: Figure | None


@dataclass(frozen=True)
class Comparison:
    """matched: whether the two medians agree within their interval; None where a stack only bounds one of them. changes: by measure code."""

    matched: bool | None
    median: Change | None
    changes: Mapping[str, Change]
    said: str


def compare(a: Sampled, b: Sampled) -> Comparison:
    """b against a. Shares are only compared as evenness where the medians agree: else one is simply coarser."""
    changes = {code: _change(a.pooled[code], b.pooled[code]) for code in BY_CODE if code in a.pooled and code in b.pooled}
    median = changes.get("d50")
    matched = None if median is None else median.points.interval[0] <= 0 <= median.points.interval[1]
    return Comparison(matched, median, changes, _said(a, b, matched, median))


def _change(a: Pooled, b: Pooled) -> Change:
    freedom = min((p.scatter.freedom for p in (a, b) if p.scatter), default=0) if (a.scatter and b.scatter) else 0
    t = float(stdtrit(freedom, 0.975)) if freedom else Z_975
    scale = 1.0 if a.measure.logs else 100.0
    va, vb = scale * a.value, scale * b.value
    sa, sb = (scale * p.se * (p.value if p.measure.logs else 1.0) for p in (a, b))
    half = t * math.hypot(sa, sb)
    points = Figure(vb - va, (vb - va - half, vb - va + half))
    if va <= 0 or vb <= 0:
        return Change(a.measure, points, None)
    ratio, half_log = vb / va, t * math.hypot(sa / va, sb / vb)
    per_cent = Figure(100 * (ratio - 1), (100 * (ratio * math.exp(-half_log) - 1), 100 * (ratio * math.exp(half_log) - 1)))
    return Change(a.measure, points, per_cent)


def _said(a: Sampled, b: Sampled, matched: bool | None, median: Change | None) -> str:
    if matched is None:
        return "Whether the two are matched cannot be told: a median is only bounded. Three sieves or more locate it."
    low, high = (figures.signed(end, figures.um) for end in median.points.interval)
    off = f"{figures.um(abs(median.points.value))} µm ({low} to {high})"
    if matched:
        return f"Matched: the medians agree within their interval, {off} apart."
    return f"Not matched: the second is {off} {'coarser' if median.points.value > 0 else 'finer'}. Shares at unlike medians say nothing of evenness."


# --- a dial's line ------------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Line:
    """Median against setting on one dial: d50 = at_zero_um + slope_um · setting. per_step: µm one step of the dial is worth, coarser counted up."""

    at_zero_um: float
    slope_um: float
    settings: tuple[float, float]
    per_step: Figure
    count: int

    def at(self, setting: float) -> float:
        return self.at_zero_um + self.slope_um * setting

    def setting_for(self, d50_um: float) -> float | None:
        """None where that lies too far beyond what was sampled."""
        if not self.slope_um:
            return None
        found = (d50_um - self.at_zero_um) / self.slope_um
        low, high = self.settings
        beyond = MOST_BEYOND * (high - low)
        return found if low - beyond <= found <= high + beyond else None


def line_of(groups: Sequence[Sampled], dial: GrinderScale) -> Line | None:
    """Through every located median of one dial; None below two settings, or where coarser on the dial is not coarser in the sieve."""
    points = [(g.grind.setting, g.pooled["d50"]) for g in groups if "d50" in g.pooled]
    settings = sorted({x for x, _ in points})
    if len(settings) < 2:
        return None
    x = np.array([x for x, _ in points])
    y = np.array([p.value for _, p in points])
    se = np.array([max(p.se * p.value, 1e-6) for _, p in points])
    design = np.column_stack([np.ones_like(x), x])
    covariance = np.linalg.inv(design.T @ (design / se[:, None] ** 2))
    at_zero, slope = covariance @ (design.T @ (y / se**2))
    half = float(_line_t(points, float((((y - at_zero - slope * x) / se) ** 2).sum())) * math.sqrt(covariance[1, 1])) * dial.grain
    step = float(slope) * dial.grain * (1 if dial.direction == "larger_is_coarser" else -1)
    if step <= 0:
        return None
    return Line(float(at_zero), float(slope), (settings[0], settings[-1]), Figure(step, (step - half, step + half)), len(points))


def _line_t(points: Sequence[tuple[float, Pooled]], chi_squared: float) -> float:
    """Student's t for the slope; points further off the line than their own doubt widen it (Birge's ratio)."""
    own = max(p.t for _, p in points)
    freedom = len(points) - 2
    off = math.sqrt(chi_squared / freedom) if freedom else 1.0
    return own if off <= 1 else max(own, float(stdtrit(freedom, 0.975))) * off


@dataclass(frozen=True)
class ToTry:
    """The setting of the second grinder to sample next, as it can be set, and why."""

    setting: float
    why: str


def to_try(target: Sampled, groups: Sequence[Sampled], dial: GrinderScale) -> ToTry | None:
    """Where the second dial comes nearest the first grind's median. groups: all of the second dial's. None where a median is missing, or nothing nearer can be set."""
    here = [g for g in groups if g.d50_um is not None]
    if target.d50_um is None or not here:
        return None
    nearest = min(here, key=lambda g: abs(g.d50_um - target.d50_um))
    line = line_of(here, dial)
    wanted = line.setting_for(target.d50_um) if line else None
    if wanted is not None:
        setting = dial.nearest(wanted)
        if any(abs(g.grind.setting - setting) < 1e-9 for g in here):
            return None
        return ToTry(
            setting,
            f"By the line of {line.count} settings, one step is {figures.um(line.per_step.value)} µm: {dial.write(setting)} should read {figures.um(line.at(setting))} µm.",
        )
    towards = "coarser" if target.d50_um > nearest.d50_um else "finer"
    setting = dial.turned(nearest.grind.setting, towards, USUAL_MOVE_STEPS)
    if abs(setting - nearest.grind.setting) < 1e-9:
        return None
    return ToTry(setting, f"What a step of this dial is worth is not known yet: {USUAL_MOVE_STEPS} steps {towards} will tell.")


@dataclass(frozen=True)
class Spread:
    """Half-widths of a match, in numbers of each dial. None where no line of that dial is known: then the kind's own floor holds."""

    a: float | None
    b: float | None


def spread_of(a: Sampled, b: Sampled, line_a: Line | None, line_b: Line | None, dial_a: GrinderScale, dial_b: GrinderScale) -> Spread:
    """How far off a match made from two grinds may be: the interval of the difference of their medians and its own size, on either dial; half a step at least."""
    median = _change(a.pooled["d50"], b.pooled["d50"]).points
    off_um = max(abs(end) for end in median.interval)

    def on(line: Line | None, dial: GrinderScale) -> float | None:
        return max(off_um / abs(line.slope_um), dial.grain / 2) if line else None

    return Spread(on(line_a, dial_a), on(line_b, dial_b))


def said_of(group: Sampled) -> str:
    """How many replicates, and what the interval rests on."""
    n = len(group.samples)
    known = group.pooled.get("d50") or group.pooled.get("in_band") or group.pooled["recovery"]
    count = f"{n} replicates" if n > 1 else "one sample"
    if known.scatter is None:
        return f"{count}; the interval is the scale's alone, two or three replicates say more"
    return f"{count}; scatter learnt from {figures.count(known.scatter.samples)} samples on this stack"


def distribution_of(group: Sampled) -> Weibull | None:
    """The Weibull curve through the replicates' heaps together; None from too few fractions."""
    heaps = tuple(Fraction(f.aperture_um, sum(s.fractions[i].mass_g for s in group.samples)) for i, f in enumerate(group.samples[0].fractions))
    return fitted(heaps)


def grind_at(groups: Sequence[Sampled], setting: float, dial: GrinderScale) -> Weibull | None:
    """The distribution at a setting of one dial: that of the nearest setting sampled, with the median its line has there. groups: of this dial. None where no sample has a
    fitted curve, or the setting lies too far beyond them."""
    fits = [(abs(g.grind.setting - setting), g, w) for g in groups if (w := distribution_of(g))]
    if not fits:
        return None
    away, nearest, found = min(fits, key=lambda f: (f[0], f[1].samples[0].id))
    if away < 1e-9:
        return found
    line = line_of([g for _, g, _ in fits], dial)
    if line is None:
        return None
    (low, high), median = line.settings, line.at(setting)
    beyond = MOST_BEYOND * (high - low)
    if not low - beyond <= setting <= high + beyond or median <= 0:
        return None
    return Weibull(found.size_um * median / line.at(nearest.grind.setting), found.evenness, found.misfit)
