"""Every simulated instrument of one brew behind one door: scale, thermometer, kettle, refractometer. Pure functions of plan,
seed and elapsed time; physics from the simulator, noise only in the readings."""

from __future__ import annotations

import bisect
import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..core.recipe.model import Recipe, ending_of, timeline
from ..core.recipe.readings import stands
from ..core.simulator.brews import USUAL_GRIND, USUAL_WATER_C, GroundTo, brew_of
from ..core.simulator.model import Course, Outcome, PourIn, simulate_course
from .scale import Mistake, PlannedPour, SimulatedScale, Transfer

STEADY_KG = 12.0
LOOKS_S, TAKEN_OFF_S = 1.0, 4.0
"""How long after the last drip, and after a press, this hand takes the brewer off."""
KETTLE_TAU_S, KETTLE_ROOM_C = 2400.0, 21.0


@dataclass(frozen=True)
class SimulatedInstruments:
    """Made by `instruments_of`. source marks every reading."""

    scale: SimulatedScale
    outcome: Outcome
    course: Course
    kettle_c: float
    pressing: tuple[float, float] | None
    seed: int
    source: str = "simulated"

    def slurry_c(self, elapsed_s: float) -> float | None:
        """Thermometer in the slurry, steps of 0.1 °C; None before any water."""
        at = bisect.bisect_right(self.course.t_s, elapsed_s) - 1
        if at < 0 or elapsed_s <= 0:
            return None
        return round(float(self.course.slurry_c[at]) + self._noise("slurry", elapsed_s, 0.2), 1)

    def kettle_now_c(self, elapsed_s: float) -> float:
        """Kettle off its base, steps of 0.1 °C."""
        left = math.exp(-max(0.0, elapsed_s) / KETTLE_TAU_S)
        return round(KETTLE_ROOM_C + (self.kettle_c - KETTLE_ROOM_C) * left + self._noise("kettle", elapsed_s, 0.1), 1)

    def press_kg(self, elapsed_s: float) -> float | None:
        """Bathroom scale under a press: rises within two seconds to a steady force; None while nothing is pressed."""
        if self.pressing is None or not self.pressing[0] <= elapsed_s <= self.pressing[1]:
            return None
        return round(max(0.0, STEADY_KG * min(1.0, (elapsed_s - self.pressing[0]) / 2) + self._noise("press", elapsed_s, 0.8)), 1)

    def beverage_g(self) -> float:
        """The server on the scale, steps of 0.1 g."""
        return round(self.outcome.beverage_g, 1)

    def tds_pct(self, sample: int) -> float:
        """Refractometer resolution of 0.01 %: sample after sample of the mixed drink."""
        return round(max(0.0, self.outcome.tds_pct + random.Random(f"{self.seed} sample {sample}").gauss(0, 0.012)), 2)

    def _noise(self, what: str, elapsed_s: float, sd: float) -> float:
        return random.Random(f"{self.seed} {what} {math.floor(elapsed_s)}").gauss(0, sd)


STAYS_G = 1.6
"""What clings to the jug that is poured over."""


def _transfer(recipe: Recipe, pours: Sequence[PlannedPour], seed: int) -> Transfer | None:
    move = next((t for t, s in zip(timeline(recipe), stands(recipe), strict=True) if t.step.kind == "transfer" and s.slurry_g), None)
    if move is None:
        return None
    poured = sum(p.grams for p in SimulatedScale(pours, seed).as_poured() if p.start_s < move.start_s)
    return Transfer(move.start_s, poured + stands(recipe)[move.index].extra_g - STAYS_G)


def instruments_of(recipe: Recipe, pours: Sequence[PlannedPour], *, seed: int, mistake: Mistake = "", grind: GroundTo = USUAL_GRIND) -> SimulatedInstruments:
    """The instruments of a brew along this recipe by a hand that makes one mistake or none. pours: the plan's, onto the coffee."""
    scale = SimulatedScale(pours, seed, mistake=mistake, transfer=_transfer(recipe, pours, seed))
    brew = brew_of(recipe, grind=grind)
    poured = scale.as_poured()
    heat = [p.temperature_c for p in brew.pours] or [USUAL_WATER_C]
    real = tuple(PourIn(p.start_s, p.end_s, p.grams, heat[min(i, len(heat) - 1)]) for i, p in enumerate(poured))
    outcome, course = simulate_course(replace(brew, pours=real or brew.pours))
    end = ending_of(recipe)
    over_s = outcome.total_s + LOOKS_S if end.kind == "drips_stop" else end.at_s + (TAKEN_OFF_S if end.kind == "pressed" else 0.0)
    scale = replace(scale, lifted_s=max(over_s, max((p.end_s for p in poured), default=0.0) + 1.0))
    pressing = next(((t.start_s, t.end_s) for t in timeline(recipe) if t.step.kind == "press"), None)
    return SimulatedInstruments(scale, outcome, course, recipe.temperature_c or USUAL_WATER_C, pressing, seed)
