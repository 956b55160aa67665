"""What a ladder claims on six shapes: how often a best point is claimed, and how often the true one lies inside. Give panels a shape (40 by default).

Six rungs, six tasters, two brews. A plateau counts any of its points; what has no best point inside should claim none.
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from pathlib import Path

import numpy as np

from brasspenny.core.judging.peak import find_peak

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.core.test_peak_shapes import panel

SHAPES = {
    "parabola": (lambda x: -0.35 * (x - 15.4) ** 2, (15.4, 15.4)),
    "lopsided hump": (lambda x: np.where(x < 14.2, -2.9 * np.maximum(14.2 - x, 0) ** 1.2, -0.55 * (x - 14.2)), (14.2, 14.2)),
    "peak at a third": (lambda x: -0.22 * (x - 14.7) ** 2, (14.7, 14.7)),
    "plateau": (lambda x: np.where(x < 15, -0.9 * (15 - x), np.where(x > 16.5, -0.9 * (x - 16.5), 0)), (15, 16.5)),
    "rising": (lambda x: 0.45 * (x - 13), None),
    "saturating": (lambda x: 1.6 * (1 - np.exp(-(x - 13) / 1.5)), None),
}


def main() -> None:
    panels = int(sys.argv[1]) if len(sys.argv) > 1 else 40
    began = time.monotonic()
    for name, (shape, best) in SHAPES.items():
        found = [find_peak(*panel(shape, 1000 + seed), same_within=0.3) for seed in range(panels)]
        claimed = [p for p in found if p.kind == "peak"]
        covered = sum(best is not None and p.interval[0] <= best[1] and p.interval[1] >= best[0] for p in claimed)
        print(f"{name:16s} claimed {len(claimed):3d} of {panels}, true best inside {covered:3d}   {dict(Counter(p.kind for p in found))}", flush=True)
    print(f"{(time.monotonic() - began) / panels / len(SHAPES):.2f} s a panel")


if __name__ == "__main__":
    main()
