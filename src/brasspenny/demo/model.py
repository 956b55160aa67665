"""Where the demo's numbers come from: a brew and a palate, stated, small and seeded.

A brew: the bed keeps ρ g/g of water, gives up E % of the dose, and what runs out weighs B = W − ρD + ED, with all of
E·D in it. The refractometer reads c = ED/B with an offset and noise, and shows two decimals.
A palate: taster + setup + taster × setup + brew + noise, rounded to whole points and cut off at the ends of the scale.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

READING_OFFSET_PCT, READING_NOISE_PCT = 0.006, 0.008
YIELD_SCATTER_PCT, RETAINED_SCATTER = 0.18, 0.04


@dataclass(frozen=True)
class BrewedCup:
    """What the scale, the watch and the refractometer showed: g, s, % TDS."""

    dose_g: float
    brew_water_g: float
    beverage_g: float
    readings_pct: tuple[float, ...]
    pour_end_s: float
    total_time_s: float


def brew(rng: np.random.Generator, *, dose_g: float, brew_water_g: float, ey_pct: float, retained: float, drawdown_s: float, readings: int) -> BrewedCup:
    """One brew by hand. ey_pct: mean in-cup yield of this setup, % of the dose; retained: g/g."""
    dose = round(dose_g + rng.normal(0, 0.04), 1)
    water = round(brew_water_g + rng.normal(0, 0.6), 1)
    solids = (ey_pct + rng.normal(0, YIELD_SCATTER_PCT)) / 100 * dose
    beverage = water - (retained + rng.normal(0, RETAINED_SCATTER)) * dose + solids
    strength = 100 * solids / beverage
    read = [round(strength + READING_OFFSET_PCT + rng.normal(0, READING_NOISE_PCT), 2) for _ in range(readings)]
    pour_end = 100 + rng.normal(0, 2)
    return BrewedCup(dose, water, round(beverage, 1), tuple(read), float(round(pour_end)), float(round(pour_end + drawdown_s + rng.normal(0, 3))))


@dataclass(frozen=True)
class Palate:
    """Standard deviations in points, and each taster's and taster × setup's own shift once drawn."""

    tasters: dict[str, float]
    leanings: dict[tuple[str, str], float]
    noise: float

    @classmethod
    def draw(cls, rng: np.random.Generator, tasters: list[str], setups: list[str], *, taster_sd: float, leaning_sd: float, noise: float) -> Palate:
        shifts = {t: rng.normal(0, taster_sd) for t in tasters}
        return cls(shifts, {(t, s): rng.normal(0, leaning_sd) for t in tasters for s in setups}, noise)

    def score(self, rng: np.random.Generator, taster: str, setup: str, centre: float, *, low: int, high: int) -> float:
        raw = centre + self.tasters[taster] + self.leanings[taster, setup] + rng.normal(0, self.noise)
        return float(np.clip(round(raw), low, high))
