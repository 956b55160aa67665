"""Equal yields called different: how often, by the step of the scale, the readings a brew and the brews a side.

    PYTHONPATH=src .venv/bin/python benchmarks/false_different.py [PAIRS A CELL, 2000 by default]

Both sides have one true yield; each brew of several lies about it by 0.3 points. Masses are rounded to the scale's step, readings scatter by 0.015 % TDS and are rounded to 0.01;
the one refractometer is off by up to its accuracy in all of them. Exits 1 where a cell is above 5 % by more than three standard errors.
"""

from __future__ import annotations

import math
import sys

import numpy as np

from brasspenny.core.extraction.comparing import compare_yields
from brasspenny.core.extraction.measure import Brew
from brasspenny.core.extraction.uncertainty import Instrument

SCALES_G, READINGS = (0.01, 0.1, 0.5, 1.0), (1, 2, 3)
BREWS = ((1, 1), (2, 2), (3, 3), (5, 5), (1, 2), (1, 3), (1, 5))
DOSE_G, WATER_G, KEPT_G_G, EY_PCT = 18.0, 290.0, 2.1, 20.0
BREW_SD_PCT, READING_SD_PCT = 0.3, 0.015


def side(rng: np.random.Generator, brews: int, readings: int, step_g: float, offset_pct: float, brew_sd_pct: float) -> list[tuple[Brew, list[float]]]:
    out = []
    for _ in range(brews):
        dose, water = DOSE_G + rng.uniform(-0.5, 0.5), WATER_G + rng.uniform(-3, 3)
        ey = EY_PCT + rng.normal(0, brew_sd_pct)
        drink = water - KEPT_G_G * dose + rng.normal(0, 2)
        tds = ey * dose / drink
        read = [max(0.01, round(tds + offset_pct + rng.normal(0, READING_SD_PCT), 2)) for _ in range(readings)]
        weighed = [max(step_g, round(round(m / step_g) * step_g, 6)) for m in (dose, water, drink)]
        out.append((Brew(*weighed), read))
    return out


def share_false(pairs: int, brews: tuple[int, int], readings: int, step_g: float, *, seed: int = 30) -> float:
    """Of so many pairs of equal setups, the share called different."""
    rng = np.random.default_rng([seed, *brews, readings, round(100 * step_g)])
    instrument = Instrument(0.03, 0.01, step_g)
    spread = BREW_SD_PCT if max(brews) > 1 else 0.0
    false = 0
    for _ in range(pairs):
        off = rng.uniform(-0.03, 0.03)
        first, second = (side(rng, n, readings, step_g, off, spread) for n in brews)
        false += compare_yields(("A", first), ("B", second), yield_basis="in_cup", instrument=instrument).verdict == "different"
    return false / pairs


def main(pairs: int) -> int:
    bad = 0
    print(f"{'brews':>8} {'readings':>9} " + " ".join(f"{f'{s:g} g':>8}" for s in SCALES_G))
    for brews in BREWS:
        for readings in READINGS:
            shares = [share_false(pairs, brews, readings, step) for step in SCALES_G]
            bad += sum(share > 0.05 + 3 * math.sqrt(0.05 * 0.95 / pairs) for share in shares)
            print(f"{f'{brews[0]} v {brews[1]}':>8} {readings:>9} " + " ".join(f"{100 * share:7.1f}%" for share in shares), flush=True)
    print(f"{bad} cells above 5 %")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 2000))
