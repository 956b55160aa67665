"""What a learnt prior for the scatter is worth: benches of six earlier panels each, then new panels with one setup truly better, with random setups, and with all equal.

Give how many benches (150 by default). Scatter differs between benches by ×e^±0.35 and between the panels of one by ×e^±0.2; "noisier" is a bench whose
new panel scatters twice as much as its past, "brews apart" one whose brews do three times as much. Compared: the same panel judged by the default prior and by the learnt one.
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
    counts: dict[tuple, np.ndarray] = defaultdict(lambda: np.zeros((2, 4)))
    rng = np.random.default_rng(11)
    for _ in range(benches):
        own = USUAL * np.exp(rng.normal(0, 0.35, 3))
        past = [a_past_panel(rng, own * np.exp(rng.normal(0, 0.2, 3))) for _ in range(PAST)]
        learnt = learn(past, scale=1)
        for size in SIZES:
            for kind, times in KINDS.items():
                counts[size, kind] += one_panel(rng, size, kind, own * np.array(times) * np.exp(rng.normal(0, 0.2, 3)), learnt)
    print(f"{benches} benches; each pair of figures: by the default prior, by the learnt one")
    print("tasters setups brews  setups         called right    called wrong    coverage")
    for (size, kind), c in counts.items():
        tell(f"{size[0]:7} {size[1]:6} {size[2]:5}  {kind:12}", c)
    for kind in KINDS:
        tell(f"{'all sizes':20}  {kind:12}", sum(c for (_, k), c in counts.items() if k == kind))


KINDS = {"one better": (1, 1, 1), "random": (1, 1, 1), "equal": (1, 1, 1), "noisier": (2, 2, 2), "brews apart": (1, 3, 1)}
"""What the new panel's scatters are multiplied by: taster × setup, brew, noise."""


def a_past_panel(rng, sds):
    tasters, setups = int(rng.integers(3, 7)), int(rng.integers(2, 4))
    return cups_of(panel(rng, rng.normal(0, 0.6, setups), tasters, 2, sds), low=1, high=9)


def one_panel(rng, size, kind: str, sds, learnt) -> np.ndarray:
    """Of each prior: panels, called right, called wrong, intervals that hold the truth."""
    tasters, setups, brews = size
    effects = np.zeros(setups)
    if kind in ("one better", "noisier", "brews apart"):
        effects[0] = LEAD
    elif kind == "random":
        effects = rng.normal(0, 0.8, setups)
    scores = panel(rng, effects, tasters, brews, sds)
    out = []
    for prior in (None, learnt):
        found = judge(scores, learnt=prior)
        clear = found.verdict.kind == "clear"
        right = clear and effects[int(found.verdict.choice[1:])] == effects.max() and kind != "equal"
        at = {f"S{i}": e for i, e in enumerate(effects)}
        held = np.mean([d.interval[0] <= at[d.a] - at[d.b] <= d.interval[1] for d in found.differences])
        out.append([1, right, clear and not right, held])
    return np.array(out, dtype=float)


def tell(head: str, c: np.ndarray) -> None:
    (n, *default), (_, *learnt) = c
    pairs = "   ".join(f"{a / n:6.3f} {b / n:6.3f}" for a, b in zip(default, learnt, strict=True))
    print(f"{head} {pairs}")


if __name__ == "__main__":
    main()
