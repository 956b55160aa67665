"""What a learnt prior for the scatter is worth: benches of six earlier panels each, then new panels with one setup truly better, with random setups, and with all equal.

Give how many benches (150 by default). Scatter differs between benches by ×e^±0.35 and between the panels of one by ×e^±0.2; "noisier" is a bench whose
new panel scatters twice as much as its past. Compared: the same panel judged by the default prior and by the learnt one.
"""

from __future__ import annotations

import sys
from collections import defaultdict

import numpy as np
from judging_study import panel

from brasspenny.core.judging import judge
from brasspenny.core.judging.learnt import learn
from brasspenny.core.judging.scores import cups_of

USUAL = np.array([0.6, 0.3, 1.15])
PAST, LEAD = 6, 1.5
SIZES = ((2, 2, 2), (4, 2, 2), (4, 3, 2), (6, 3, 2))
"""Tasters, setups, brews of the new panel."""


def main() -> None:
    benches = int(sys.argv[1]) if len(sys.argv) > 1 else 150
    counts: dict[tuple, np.ndarray] = defaultdict(lambda: np.zeros(5))
    rng = np.random.default_rng(11)
    for _ in range(benches):
        own = USUAL * np.exp(rng.normal(0, 0.35, 3))
        past = []
        for _ in range(PAST):
            tasters, setups = int(rng.integers(3, 7)), int(rng.integers(2, 4))
            past.append(cups_of(panel(rng, rng.normal(0, 0.6, setups), tasters, 2, own * np.exp(rng.normal(0, 0.2, 3))), low=1, high=9))
        learnt = learn(past, scale=1)
        for size in SIZES:
            for kind, times in (("one better", 1.0), ("random", 1.0), ("equal", 1.0), ("noisier", 2.0)):
                new(rng, counts, size, kind, own * times * np.exp(rng.normal(0, 0.2, 3)), learnt)
    print("tasters setups brews  setups        called right   called wrong   covered     (default / learnt prior)")
    for (size, kind), c in sorted(counts.items()):
        n, *rest = c
        right, wrong, covered = rest[0:3:1][:3] if False else (c[1], c[2], c[3])
        print(f"{size[0]:7} {size[1]:6} {size[2]:5}  {kind}")
    return counts


if __name__ == "__main__":
    main()
