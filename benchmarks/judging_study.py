"""The longer study behind the verdict: false winners, coverage and dropped bests over mixed panels, peaks and groups falsely found.

Run: PYTHONPATH=src python benchmarks/judging_study.py [panels a cell, default 400]. Scores are whole points clipped to 1..9.
Expected (usual SDs): false winners at most about 0.05, coverage at least 0.95, a true best dropped at most 0.01."""

from __future__ import annotations

import sys
from itertools import product

import numpy as np

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.peak import find_peak
from brasspenny.core.judging.segments import find_segments

USUAL, WORST = (0.6, 0.3, 1.15), (1.0, 0.6, 1.3)


def panel(rng, effects, tasters: int, brews: int, sds) -> list[Score]:
    taster_setup, brew, noise = sds
    k = len(effects)
    y = 6 + np.array(effects)[None, :, None] + rng.normal(0, 0.8, (tasters, 1, 1)) + rng.normal(0, taster_setup, (tasters, k, 1))
    y = np.clip(np.round(y + rng.normal(0, brew, (1, k, brews)) + rng.normal(0, noise, (tasters, k, brews))), 1, 9)
    return [Score("", f"T{t}", f"S{s}", f"{s}.{b}", "", float(y[t, s, b])) for t in range(tasters) for s in range(k) for b in range(brews)]


def verdicts(rng, count: int) -> None:
    print("tasters setups brews  SDs     false winner  coverage  true best dropped")
    for (tasters, setups, brews), (name, sds) in product([(2, 2, 2), (4, 3, 2), (8, 2, 2), (8, 4, 3), (12, 3, 1)], (("usual", USUAL), ("worst", WORST))):
        false = covered = dropped = 0
        for _ in range(count):
            false += judge(panel(rng, [0] * setups, tasters, brews, sds)).verdict.kind == "clear"
            effects = rng.normal(0, 0.5, setups)
            found = judge(panel(rng, effects, tasters, brews, sds))
            d = found.differences[0]
            covered += d.interval[0] <= effects[0] - effects[1] <= d.interval[1]
            dropped += f"S{effects.argmax()}" in found.verdict.dropped
        print(f"{tasters:7} {setups:6} {brews:5}  {name:6} {false / count:12.3f} {covered / count:9.3f} {dropped / count:18.3f}")


def peaks(rng, count: int) -> None:
    x = np.linspace(-1, 1, 6)
    print("\nliking over six levels, 8 tasters     peak   no peak   coverage of the best point")
    for name, curve, best in (("flat", 0 * x, None), ("straight, 1 per half range", x, 1.0), ("peak in the middle, edges 2 lower", -2 * x**2, 0.0)):
        kinds, covered = [], 0
        for _ in range(count):
            scores = panel(rng, curve, 8, 2, USUAL)
            found = find_peak(scores, {(s.setup, s.brew): float(x[int(s.setup[1:])]) for s in scores})
            kinds.append(found.kind)
            covered += best is not None and found.interval[0] - 1e-9 <= best <= found.interval[1] + 1e-9
        shown = "" if best is None else f"{covered / count:9.3f}"
        print(f"{name:36} {kinds.count('peak') / count:6.3f} {kinds.count('no_peak') / count:9.3f}   {shown}")


def groups(rng, count: int) -> None:
    print("\ntwo groups of drinkers found (4 setups, 2 brews)   none there   A over B by 4 in one half, under in the other")
    for tasters in (8, 12):
        none = sum(bool(find_segments(panel(rng, [0] * 4, tasters, 2, USUAL)).segments) for _ in range(count)) / count
        found = sum(bool(find_segments(_opposed(rng, tasters)).segments) for _ in range(count)) / count
        print(f"{tasters:3} tasters {none:48.3f} {found:12.3f}")


def _opposed(rng, tasters: int) -> list[Score]:
    scores = panel(rng, [0] * 4, tasters, 2, USUAL)
    swing = {"S0": 2, "S1": -2}
    half = tasters // 2
    return [
        Score(s.flight, s.taster, s.setup, s.brew, "", float(np.clip(s.score + swing.get(s.setup, 0) * (1 if int(s.taster[1:]) < half else -1), 1, 9)))
        for s in scores
    ]


if __name__ == "__main__":
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 400
    generator = np.random.default_rng(7)
    verdicts(generator, count)
    peaks(generator, count)
    groups(generator, count)
