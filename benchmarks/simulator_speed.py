"""How long the simulator takes. Target: 1,000 predictions ≤ 1 s. Run: PYTHONPATH=src python benchmarks/simulator_speed.py"""

from __future__ import annotations

import time
from dataclasses import replace

import numpy as np

from brasspenny.core.brewing.curve import read_curve as segment
from brasspenny.core.brewing.scale_log import read_log
from brasspenny.core.recipe.starters import STARTERS
from brasspenny.core.simulator.brews import GroundTo, brew_of
from brasspenny.core.simulator.fitting import Observed, fit
from brasspenny.core.simulator.model import simulate, simulate_course


def took(what: str, work) -> None:
    began = time.perf_counter()
    work()
    print(f"{what}: {1000 * (time.perf_counter() - began):.0f} ms")


def main() -> None:
    usual = [brew_of(s.recipe, grind=GroundTo(700)) for s in STARTERS]
    simulate(usual)  # first-call costs are paid once
    rng = np.random.default_rng(1)
    many = [replace(usual[i % len(usual)], grind_um=float(rng.uniform(450, 1100)), dose_g=float(rng.uniform(12, 30))) for i in range(1000)]
    took("1,000 predictions, all kinds of brewer", lambda: simulate(many))
    took("1,000 predictions of one recipe", lambda: simulate([usual[1]] * 1000))
    took("one prediction with its course", lambda: simulate_course(usual[1]))
    seen = [Observed(o.tds_pct, o.beverage_g, o.total_s) for o in simulate(many[:8])]
    took("learning from 8 brews", lambda: fit(many[:8], seen))
    course = simulate_course(usual[1])[1]
    text = "\n".join(f"{t:.1f},{g:.1f}" for t, g in zip(course.t_s, course.poured_g, strict=True))
    took("a scale's log read and cut into pours", lambda: segment(read_log(text)))


if __name__ == "__main__":
    main()
