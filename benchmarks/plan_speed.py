"""How long planning takes. Targets: check and read a recipe < 10 ms each, schedule of 8 brews ≤ 3 s, power ≤ 2 s.
Run: PYTHONPATH=src python benchmarks/plan_speed.py"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace

from brasspenny.core.planning import power
from brasspenny.core.planning.schedule.advice import schedule_and_explain
from brasspenny.core.planning.schedule.jobs import Resources, Vessel, job_from_recipe
from brasspenny.core.recipe.lint import lint
from brasspenny.core.recipe.model import timeline
from brasspenny.core.recipe.reading import read
from brasspenny.core.recipe.starters import STARTERS

RECIPE = read(
    "18 g, 288 g at 93, rinse the filter, bloom 45 for 40 s, then to 170 from 0:40 over 20 s, then to 288 from 1:20 over 25 s, drips stop, done by 2:45"
)


def took(what: str, work: Callable[[], object], times: int) -> None:
    runs = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        runs.append(1000 * (time.perf_counter() - began))
    print(f"{what}: median {statistics.median(runs):.1f} ms, worst {max(runs):.1f} ms of {times}")


def day(server_tau_s: float, **kit) -> None:
    asked = [
        job_from_recipe(f"{'ABCD'[i % 4]}{i // 4 + 1}", str(i), RECIPE.recipe, brewer="flat", grinder="mill", grind_s=40, hand_grinder=True) for i in range(8)
    ]
    usual = Resources(heat_s=260, reheat_s=70, brewers={"flat": 2}, servers={"server": Vessel("server", server_tau_s)}, cup=Vessel("cup", 950), cups_each=6)
    began = time.perf_counter()
    found = schedule_and_explain(asked, replace(usual, **kit))
    spread = f"{found.schedule.spread_c:.1f} °C apart" if found.schedule else "none keeps every cup warm enough"
    print(f"  server τ {server_tau_s / 60:.0f} min, {kit or 'as usual'}: {time.perf_counter() - began:.2f} s, {spread}; {len(found.remedies)} remedies")


def main() -> None:
    longest = max(STARTERS, key=lambda s: len(s.text))
    took("read a recipe", lambda: read(longest.text), 200)
    took("read 20,000 characters", lambda: read(("pour to 100 g, " * 1333)[:20_000].replace("pour", "sing")), 20)
    took("check a recipe", lambda: lint(longest.recipe), 200)
    took("its timeline", lambda: timeline(longest.recipe), 200)
    took("power, 4 setups × 8 tasters × 2 brews", lambda: power.power(setups=4, tasters=8, replicates=2), 3)
    took("one power curve over 12 tasters", lambda: power.curve(setups=4, brews=2), 3)
    began = time.perf_counter()
    import ortools.sat.python.cp_model  # noqa: F401

    print(f"loading the solver, once a process: {time.perf_counter() - began:.2f} s")
    print("schedule of 8 brews, and what would help:")
    day(2400)
    day(11_000)
    day(2400, hands=2, kettles=2)
    day(2400, kettles=2, brewers={"flat": 3})


if __name__ == "__main__":
    main()
