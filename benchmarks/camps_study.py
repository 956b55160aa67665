"""How often a group of drinkers who like the opposite is found: the table of core/judging/segments.py.

Of each size of panel: a fifth, or half, of the tasters turn the first and the last setup round (1.5 points up and down; the others down and up), usual scatter, whole points.
Give how many panels a cell (100 by default).
"""

from __future__ import annotations

import sys
import time
from itertools import product

import numpy as np

from brasspenny.core.judging import Score
from brasspenny.core.judging.segments import find_segments

LEANING, BREW, NOISE = 0.3, 0.3, 1.15
"""SDs: what leanings are left within a group, brews, single scores."""
TURN = 1.5


def panel(rng: np.random.Generator, tasters: int, setups: int, brews: int, turned: int) -> list[Score]:
    liking = np.zeros((tasters, setups))
    liking[:, 0], liking[:, -1] = TURN, -TURN
    liking[:turned] *= -1
    y = 5.5 + rng.normal(0, 0.8, (tasters, 1, 1)) + (liking + rng.normal(0, LEANING, liking.shape))[:, :, None]
    y = np.clip(np.rint(y + rng.normal(0, BREW, (1, setups, brews)) + rng.normal(0, NOISE, (tasters, setups, brews))), 1, 9)
    return [Score("", f"T{t:02}", f"S{s}", f"{s}.{b}", "", float(y[t, s, b])) for t in range(tasters) for s in range(setups) for b in range(brews)]


def main(panels: int) -> None:
    print(f"{panels} panels a cell; scores a setup, tasters: found of a fifth, of half; none there (a group said)")
    for setups, brews, tasters in product((2, 4), (1, 2), (8, 10, 12, 16, 24)):
        begun, rng = time.monotonic(), np.random.default_rng([setups, brews, tasters])
        shares = [
            np.mean([bool(find_segments(panel(rng, tasters, setups, brews, turned)).segments) for _ in range(panels)])
            for turned in (round(tasters / 5), tasters // 2, 0)
        ]
        print(setups, brews, tasters, *(f"{x:.2f}" for x in shares), f"{time.monotonic() - begun:.0f} s", flush=True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
