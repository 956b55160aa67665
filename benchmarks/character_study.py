"""Panels to which all cups are alike: how often anything is said of character, and of temperature; and how often a real difference is.

    PYTHONPATH=src .venv/bin/python benchmarks/character_study.py [PANELS A CELL, 200 by default]

Exits 1 where a null cell is above 5 % by more than three standard errors.
"""

from __future__ import annotations

import math
import sys

import numpy as np

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.character import characters
from brasspenny.core.judging.passes import changing_leaders, cooling

ATTRIBUTES, PASSES = ("acidity", "sweetness", "bitterness", "body", "clarity", "aroma", "finish"), ("hot", "warm", "cool")
WORDS = {a: (a.capitalize(), "low", "high") for a in ATTRIBUTES}
CELLS = ((4, 2, 2), (8, 2, 2), (8, 4, 1), (12, 3, 2), (12, 6, 1))
"""Tasters, setups, brews of each."""


def panel(
    rng: np.random.Generator,
    tasters: int,
    setups: int,
    brews: int,
    *,
    leads: dict[int, float] | None = None,
    passes: tuple[str, ...] = PASSES,
    cooling: float = 0.0,
):
    """Scores of one attribute: every taster's level, leaning and scatter, each brew's own, and nothing between setups but leads. cooling: what the first setup loses from pass to pass."""
    scatter = rng.normal(0, 0.6, (tasters, setups)), rng.normal(0, 0.3, (setups, brews)), rng.normal(0, 0.8, tasters)
    out = []
    for t in range(tasters):
        for s in range(setups):
            for b in range(brews):
                for i, p in enumerate(passes):
                    mean = 5.5 + scatter[0][t, s] + scatter[1][s, b] + scatter[2][t] + (leads or {}).get(s, 0.0) - (cooling * i if s == 0 else 0.0)
                    out.append(Score("1", f"T{t}", "ABCDEF"[s], f"{s}{b}", p, float(np.clip(round(2 * (mean + rng.normal(0, 1.15))) / 2, 0, 10))))
    return out


def of_temperature(rng: np.random.Generator, cell: tuple[int, int, int], *, cools: float = 0.0) -> bool:
    """Whether anything is said of how a setup changes while it cools."""
    liking = panel(rng, *cell, cooling=cools)
    return any(c.shown for changes in cooling(liking).values() for c in changes) or bool(changing_leaders(liking))


def of_character(rng: np.random.Generator, cell: tuple[int, int, int], *, leads: dict[int, float] | None = None) -> bool:
    """Whether any setup is said to stand out in an attribute."""
    judged = {a: judge(panel(rng, *cell, leads=leads, passes=("warm",)), attribute=a, low=0, high=10) for a in ATTRIBUTES}
    return any(c.traits for c in characters(judged, panel(rng, *cell, passes=("warm",)), {}, WORDS))


def share(panels: int, told, cell: tuple[int, int, int], *, seed: int = 5, **how) -> float:
    rng = np.random.default_rng([seed, *cell])
    return sum(told(rng, cell, **how) for _ in range(panels)) / panels


def main(panels: int) -> int:
    bad = 0
    print("tasters, setups, brews   nothing differs: character, temperature   2 points of everything: character   1 point a pass: temperature")
    for cell in CELLS:
        nulls = (share(panels, of_character, cell), share(10 * panels, of_temperature, cell))
        bad += sum(x > 0.05 + 3 * math.sqrt(0.05 * 0.95 / n) for x, n in zip(nulls, (panels, 10 * panels), strict=True))
        led, cools = share(max(20, panels // 5), of_character, cell, leads={0: 2.0}), share(panels, of_temperature, cell, cools=1.0)
        print(f"{cell!s:>14} {100 * nulls[0]:16.1f} % {100 * nulls[1]:8.1f} % {100 * led:24.0f} % {100 * cools:28.0f} %", flush=True)
    print(f"{bad} null cells above 5 %")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 200))
