"""“It would settle the question N times in 10”: said, against how often it then did.

    PYTHONPATH=src .venv/bin/python benchmarks/settling_study.py [PANELS A DESIGN, 120 by default]

Scatters are drawn from the usual priors, leads of setups from a normal of 0.5 points; the step is one more flight of two brews by the same tasters, which is then tasted and judged with the first.
"""

from __future__ import annotations

import sys

import numpy as np

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.next_steps import FLIGHT_BREWS, next_steps

DESIGNS = ((4, 2, 2), (8, 2, 2), (8, 3, 2), (6, 4, 1), (12, 2, 3))
"""Tasters, setups, brews of each in the first flight."""


class Panel:
    def __init__(self, rng: np.random.Generator, tasters: int, setups: int) -> None:
        self.rng, self.tasters, self.setups = rng, tasters, setups
        self.noise = float(np.exp(rng.normal(np.log(1.15), 0.25)))
        self.brew_sd = abs(rng.normal(0, 0.35))
        self.leaning = rng.normal(0, abs(rng.normal(0, 0.7)), (tasters, setups))
        self.level, self.lead = rng.normal(0, 0.8, tasters), rng.normal(0, 0.5, setups)

    def flight(self, name: str, brews: int) -> list[Score]:
        out = []
        for s in range(self.setups):
            for b in range(brews):
                brew = self.rng.normal(0, self.brew_sd)
                for t in range(self.tasters):
                    mean = 5.8 + self.lead[s] + self.leaning[t, s] + self.level[t] + brew
                    value = np.clip(round(2 * (mean + self.rng.normal(0, self.noise))) / 2, 1, 9)
                    out.append(Score(name, f"T{t}", "ABCD"[s], f"{name}{s}{b}", "", float(value)))
        return out


def said_and_happened(panels: int, design: tuple[int, int, int], *, seed: int = 1) -> tuple[np.ndarray, np.ndarray]:
    """Of panels whose first flight left the question open."""
    tasters, setups, brews = design
    rng = np.random.default_rng([seed, *design])
    said, happened = [], []
    while len(said) < panels:
        panel = Panel(rng, tasters, setups)
        first = panel.flight("1", brews)
        found = judge(first)
        if found.verdict.kind != "not_enough":
            continue
        each = dict.fromkeys("ABCD"[:setups], 18.0)
        step = next(s for s in next_steps(first, dose_g=each, minutes=each, dropped=found.verdict.dropped) if s.code == "one_more_flight")
        said.append(step.settles)
        happened.append(judge([*first, *panel.flight("2", FLIGHT_BREWS)]).verdict.kind != "not_enough")
    return np.array(said), np.array(happened, dtype=float)


def main(panels: int) -> None:
    print("tasters, setups, brews    said   happened   Brier")
    whole = []
    for design in DESIGNS:
        said, happened = said_and_happened(panels, design)
        whole.append((said, happened))
        print(f"{design!s:>20} {said.mean():9.3f} {happened.mean():10.3f} {((said - happened) ** 2).mean():7.3f}", flush=True)
    said, happened = (np.concatenate(x) for x in zip(*whole, strict=True))
    print(f"{'all':>20} {said.mean():9.3f} {happened.mean():10.3f} {((said - happened) ** 2).mean():7.3f}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 120)
