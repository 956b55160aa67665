"""The physics of one bed: wetting, pours in, drainage through bed and filter, two-speed extraction, heat. docs/formulas.md §11.

The slurry is one well-mixed liquid of water and solids. Equations, in the order they are worked each step of ½ s:
  wetted share        w = 1 − e^(−L/(0.8·D))                            L: liquid in the slurry, D: dose, g
  grind               five classes of equal mass, d_k = d·e^(σ·z_k), z_k the normal quantiles 0.1, 0.3 … 0.9: fines to boulders
  extraction          dSᵢₖ/dt = −kᵢₖ·θ(T)·w·Sᵢₖ·(1 − c/c_sat)           fast (surface, share ∝ d_k^−½) and slow (core, k ∝ 1/d_k²)
  temperature factor  θ(T) = e^(0.025·(T − 93))
  drainage            q = (L − h·D)₊ / R,  R = R_bed·(D/18)·(700/d)^1.6·μ(T) + R_filter,  μ(T) = e^(−0.012·(T − 93))
  held liquid         h = h₀·(700/d)^0.08·(1 + 0.8·e^(−t/20 s))           g a gram of bed keeps; a fresh bed swells and holds on to more
  heat                pours mix by mass, the slurry cools to the room with its own time constant
Masses only move: what leaves one store enters another, so water and solids balance to rounding.
Where it stops being true: plug flow and channels do not exist here, the bed drains by its median alone, evaporation
is ignored, a bed is as deep as its dose. It moves the right way with each knob; its numbers are no measurement.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

import numpy as np

from ..limits import check

STEP_S = 0.5
LONGEST_S = 1800.0
MEDIUM_UM, HOT_C, USUAL_DOSE_G = 700.0, 93.0, 18.0
SATURATION = 0.25
BED_HEAT = 0.4
"""Heat capacity of dry coffee against water's."""
FRESH_SHARE, FRESH_S = 0.8, 20.0
CLASSES_Z = np.array([-1.2816, -0.5244, 0.0, 0.5244, 1.2816])[:, None]
USUAL_LOG_SD = 0.45
"""Of a good grinder: d10 and d90 at about half and twice the median."""
STILL_G_S = 0.05
"""Slower than this the drips have stopped."""


@dataclass(frozen=True)
class Parameters:
    """soluble: share of the dose that could ever dissolve; fast_share: of it, at the surface of a medium grind; fast_per_s and
    slow_per_s: rates at 93 °C and 700 µm; bed_s: resistance of 18 g of medium bed, s; filter_s: of the filter; held_g_g: liquid a
    gram of medium bed keeps; cooling_s: time constant of the slurry; room_c."""

    soluble: float = 0.285
    fast_share: float = 0.52
    fast_per_s: float = 1 / 14
    slow_per_s: float = 1 / 190
    bed_s: float = 10.5
    filter_s: float = 6.0
    held_g_g: float = 2.1
    cooling_s: float = 1500.0
    room_c: float = 22.0


USUAL = Parameters()


@dataclass(frozen=True)
class PourIn:
    """Water in: g of it evenly between start_s and end_s, at temperature_c."""

    start_s: float
    end_s: float
    grams: float
    temperature_c: float


@dataclass(frozen=True)
class BrewIn:
    """One brew to simulate. grind_um: median by mass, grind_log_sd: spread σ of ln(size); closed_until_s: nothing drains before (immersion, valve); lift_s: the brewer is
    taken off then (None: it drips out); decanted: at the end everything above what the bed holds is poured or pressed off.
    filter_factor: times the usual filter's resistance, 0 for none; bypass_g: added to the drink."""

    dose_g: float
    grind_um: float
    pours: tuple[PourIn, ...]
    closed_until_s: float = 0.0
    lift_s: float | None = None
    decanted: bool = False
    filter_factor: float = 1.0
    bypass_g: float = 0.0
    ends_s: float = 0.0
    grind_log_sd: float = USUAL_LOG_SD


@dataclass(frozen=True)
class Outcome:
    """What came out: drink with its bypass, g; % TDS of it; yields, %; s from the first water (None: never dripped).
    kept_water_g, kept_solids_g, left_solids_g: in the bed's liquid, and undissolved; they close the balance."""

    beverage_g: float
    tds_pct: float
    ey_in_cup_pct: float
    ey_full_liquor_pct: float
    retained_water_ratio: float
    first_drip_s: float | None
    last_drip_s: float | None
    drawdown_s: float | None
    total_s: float
    slurry_c: float
    kept_water_g: float
    kept_solids_g: float
    left_solids_g: float


@dataclass(frozen=True)
class Course:
    """The brew over time, for curves and simulated instruments: s, g poured, g in the server, °C of the slurry, % TDS of the server."""

    t_s: np.ndarray
    poured_g: np.ndarray
    server_g: np.ndarray
    slurry_c: np.ndarray
    server_tds_pct: np.ndarray


def simulate(brews: Sequence[BrewIn], parameters: Parameters | Sequence[Parameters] = USUAL) -> list[Outcome]:
    """All brews at once. parameters: one for all, or one each. Raises OutOfDomain naming the field of the brew.

    1,000 brews take well under a second (benchmarks/). Source: docs/formulas.md §11.
    """
    outcomes, _ = _run(brews, parameters, with_course=False)
    return outcomes


def simulate_course(brew: BrewIn, parameters: Parameters = USUAL) -> tuple[Outcome, Course]:
    """One brew with its course in steps of ½ s."""
    outcomes, course = _run([brew], parameters, with_course=True)
    return outcomes[0], course


def _run(brews: Sequence[BrewIn], parameters: Parameters | Sequence[Parameters], *, with_course: bool) -> tuple[list[Outcome], Course | None]:
    for brew in brews:
        check(dose_g=brew.dose_g, grind_um=brew.grind_um, bypass_g=brew.bypass_g)
    p = _columns(parameters, len(brews))
    bed = _Bed(brews, p)
    water_in, heat_in = _inflow(brews, bed.steps)
    course = _Recorder(bed.steps) if with_course else None
    i = -1
    for i in range(bed.steps):
        bed.step(i, water_in[i], heat_in[i])
        if course:
            course.note(i, bed)
        if bed.over.all():
            break
    bed.decant()
    return bed.outcomes(), course.course(i + 1) if course else None


def _columns(parameters: Parameters | Sequence[Parameters], n: int) -> dict[str, np.ndarray]:
    rows = [parameters] * n if isinstance(parameters, Parameters) else list(parameters)
    return {f.name: np.array([getattr(row, f.name) for row in rows], dtype=float) for f in fields(Parameters)}


def _inflow(brews: Sequence[BrewIn], steps: int) -> tuple[np.ndarray, np.ndarray]:
    """Water, g, and its heat, g·°C, that arrive in each step of each brew; a pour's sum is exact."""
    edges = np.arange(steps + 1) * STEP_S
    water, heat = np.zeros((steps, len(brews))), np.zeros((steps, len(brews)))
    for k, brew in enumerate(brews):
        for pour in brew.pours:
            lasts = max(pour.end_s - pour.start_s, STEP_S)
            share = np.diff(np.clip((edges - pour.start_s) / lasts, 0, 1))
            water[:, k] += pour.grams * share
            heat[:, k] += pour.grams * share * pour.temperature_c
    return water, heat


class _Bed:
    """All brews' stores as arrays, moved on step by step."""

    def __init__(self, brews: Sequence[BrewIn], p: dict[str, np.ndarray]) -> None:
        self.brews, self.p = brews, p
        column = lambda name: np.array([getattr(b, name) for b in brews], dtype=float)  # noqa: E731
        self.dose, self.grind, self.bypass = column("dose_g"), column("grind_um"), column("bypass_g")
        self.opens = column("closed_until_s")
        self.lifts = np.array([np.inf if b.lift_s is None else b.lift_s for b in brews])
        self.decanted = np.array([b.decanted for b in brews])
        last = max((max((x.end_s for x in b.pours), default=0.0) for b in brews), default=0.0)
        ends = max(max(b.ends_s, b.closed_until_s) for b in brews)
        self.steps = int(np.ceil(min(LONGEST_S, max(last, ends) + 420.0) / STEP_S))
        size = self.grind / MEDIUM_UM
        each = size * np.exp(column("grind_log_sd") * CLASSES_Z)  # classes by brews
        fast_share = np.clip(p["fast_share"] * each**-0.5, 0.05, 0.95)
        stored = p["soluble"] * self.dose / len(CLASSES_Z)
        self.fast, self.slow = stored * fast_share, stored * (1 - fast_share)
        self.slow_rate = p["slow_per_s"] / each**2
        self.held = p["held_g_g"] * size**-0.08 * self.dose
        self.bed_s = p["bed_s"] * self.dose / USUAL_DOSE_G * size**-1.6
        self.filter_s = p["filter_s"] * column("filter_factor")
        zero = np.zeros(len(brews))
        self.water, self.solids, self.out_water, self.out_solids, self.poured = (zero.copy() for _ in range(5))
        self.temperature = p["room_c"].copy()
        self.first, self.last = np.full(len(brews), np.nan), np.full(len(brews), np.nan)
        self.pour_start = np.array([min((x.start_s for x in b.pours), default=0.0) for b in brews])
        self.pour_end = np.array([max((x.end_s for x in b.pours), default=0.0) for b in brews])
        self.over, self.dripping = np.zeros(len(brews), dtype=bool), np.zeros(len(brews), dtype=bool)
        self.stop = np.array([max(b.ends_s, b.closed_until_s) for b in brews])

    def step(self, i: int, water_in: np.ndarray, heat_in: np.ndarray) -> None:
        now = (i + 1) * STEP_S
        self._pour(water_in, heat_in)
        self._extract(self.water + self.solids, ~self.over)
        self._drain(now)
        ends = np.where(self.decanted, now >= self.stop, (now >= self.lifts) | ((now > self.opens) & ~self.dripping))
        self.over |= (now >= self.pour_end) & ends  # each brew by its own drips, so that none depends on the others of its batch

    def _pour(self, water_in: np.ndarray, heat_in: np.ndarray) -> None:
        thermal = self.water + self.solids + BED_HEAT * self.dose
        self.temperature = (thermal * self.temperature + heat_in) / (thermal + water_in)
        self.temperature += ~self.over * (self.p["room_c"] - self.temperature) * STEP_S / self.p["cooling_s"]
        self.water += water_in
        self.poured += water_in

    def _extract(self, liquid: np.ndarray, on: np.ndarray) -> None:
        wetted = 1 - np.exp(-liquid / (0.8 * self.dose))
        strength = np.divide(self.solids, liquid, out=np.zeros_like(liquid), where=liquid > 1e-12)
        push = np.exp(0.025 * (self.temperature - HOT_C)) * wetted * np.maximum(0.0, 1 - strength / SATURATION) * on * STEP_S
        fast = self.fast * -np.expm1(-self.p["fast_per_s"] * push)
        slow = self.slow * -np.expm1(-self.slow_rate * push)
        self.fast -= fast
        self.slow -= slow
        self.solids += (fast + slow).sum(axis=0)

    def _drain(self, now: float) -> None:
        liquid = self.water + self.solids
        resistance = self.bed_s * np.exp(-0.012 * (self.temperature - HOT_C)) + self.filter_s
        open_ = ~self.over & (now > self.opens) & ~self.decanted & (now <= self.lifts)
        held = self.held * (1 + FRESH_SHARE * np.exp(-np.maximum(0.0, now - self.pour_start) / FRESH_S))
        flow = np.where(open_, np.maximum(0.0, liquid - held) * -np.expm1(-STEP_S / resistance), 0.0)
        share = np.divide(flow, liquid, out=np.zeros_like(liquid), where=liquid > 1e-12)
        self._move(share)
        self.dripping = flow / STEP_S > STILL_G_S
        self.first = np.where(np.isnan(self.first) & self.dripping, now, self.first)
        self.last = np.where(self.dripping, now, self.last)

    def _move(self, share: np.ndarray) -> None:
        """A share of the slurry's liquid into the server, water and solids alike."""
        water, solids = share * self.water, share * self.solids
        self.water -= water
        self.solids -= solids
        self.out_water += water
        self.out_solids += solids

    def decant(self) -> None:
        liquid = self.water + self.solids
        over = np.where(self.decanted, np.maximum(0.0, liquid - self.held), 0.0)
        self._move(np.divide(over, liquid, out=np.zeros_like(liquid), where=liquid > 1e-12))

    def outcomes(self) -> list[Outcome]:
        drink = self.out_water + self.out_solids + self.bypass
        safe = np.maximum(drink, 1e-12)
        dissolved = self.out_solids + self.solids
        undiluted = np.divide(self.out_solids, np.maximum(self.out_water + self.out_solids, 1e-12))
        full = np.divide(undiluted * self.poured, (1 - undiluted) * self.dose, where=undiluted < 1, out=np.zeros_like(drink))
        total = np.where(self.decanted, self.stop, np.where(np.isfinite(self.lifts), self.lifts, np.where(np.isnan(self.last), self.pour_end, self.last)))
        out = []
        for k in range(len(self.brews)):
            first, last = (None if np.isnan(x[k]) else float(x[k]) for x in (self.first, self.last))
            out.append(
                Outcome(
                    beverage_g=float(drink[k]),
                    tds_pct=float(100 * self.out_solids[k] / safe[k]),
                    ey_in_cup_pct=float(100 * self.out_solids[k] / self.dose[k]),
                    ey_full_liquor_pct=float(100 * full[k]),
                    retained_water_ratio=float(self.water[k] / self.dose[k]),
                    first_drip_s=first,
                    last_drip_s=last,
                    drawdown_s=None if last is None else max(0.0, last - float(self.pour_end[k])),
                    total_s=float(total[k]),
                    slurry_c=float(self.temperature[k]),
                    kept_water_g=float(self.water[k]),
                    kept_solids_g=float(dissolved[k] - self.out_solids[k]),
                    left_solids_g=float((self.fast[:, k] + self.slow[:, k]).sum()),
                )
            )
        return out


class _Recorder:
    def __init__(self, steps: int) -> None:
        self.t = (np.arange(steps) + 1) * STEP_S
        self.rows = np.zeros((steps, 4))

    def note(self, i: int, bed: _Bed) -> None:
        out = bed.out_water[0] + bed.out_solids[0]
        self.rows[i] = bed.poured[0], out, bed.temperature[0], 100 * bed.out_solids[0] / out if out > 1e-9 else 0.0

    def course(self, steps: int) -> Course:
        return Course(self.t[:steps], *(self.rows[:steps, k] for k in range(4)))
