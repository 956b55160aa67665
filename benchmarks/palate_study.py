"""Thresholds of made-up tasters found again: coverage of 95 % intervals, bias, and how much a cup tells when the next step is chosen instead of a fixed series.

Give how many tasters (300 by default). Their thresholds differ by a factor of e^0.7 either way, their slopes and lapses too.
"""

from __future__ import annotations

import random
import sys
import time

import numpy as np

from brasspenny.core.judging.discrimination import GUESS_RATE, proportion_correct
from brasspenny.core.palate.series import AXES, fixed_order
from brasspenny.core.palate.threshold import D_75, Belief, Presented, next_step

STEPS = AXES["strength"].ready
METHODS = ("two_afc", "triangle")
ENDS = (8, 12, 24, 48)
LONGEST = 96


def taster(rng: random.Random) -> tuple[float, float, float]:
    """(step with d′ = 1, slope, lapse)."""
    return 8.0 * np.exp(rng.gauss(0, 0.7)), 1.2 * np.exp(rng.gauss(0, 0.3)), rng.choice((0, 0, 0.02, 0.05))


def chance(truth, step, method) -> float:
    x1, slope, lapse = truth
    return (1 - lapse) * proportion_correct(method, min(8.0, (step / x1) ** slope)) + lapse * GUESS_RATE[method]


def run(tasters: int, method: str, adaptive: bool) -> dict[int, list[tuple[float, float, float, float]]]:
    """presentations → (truth, told, low, high) of each taster."""
    told_at = ENDS if adaptive else range(min(ENDS), LONGEST + 1)
    out: dict[int, list] = {n: [] for n in told_at}
    for i in range(tasters):
        rng = random.Random(f"{i}:{method}")
        truth = taster(rng)
        belief = Belief(8.0)
        for n in range(1, max(told_at) + 1):
            step = next_step(belief, STEPS, method) if adaptive else fixed_order(STEPS, n, str(i))
            belief.tell(Presented(step, rng.random() < chance(truth, step, method), method))
            if n in out:
                out[n].append((truth[0] * D_75 ** (1 / truth[1]), *belief.threshold()))
    return out


def main() -> None:
    tasters = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    for method in METHODS:
        found = {}
        for adaptive in (True, False):
            began = time.monotonic()
            found[adaptive] = run(tasters, method, adaptive)
            print(f"{method}, {'adaptive' if adaptive else 'fixed'}: {tasters} tasters in {time.monotonic() - began:.0f} s")
            for n in ENDS:
                rows = found[adaptive][n]
                t, m, low, high = (np.log(np.array(x)) for x in zip(*rows, strict=True))
                inside = np.mean((low <= t) & (t <= high))
                print(
                    f"  {n:3} presentations: coverage {inside:.3f}, median bias {100 * (np.exp(np.median(m - t)) - 1):+.1f} %,"
                    f" interval ×{np.exp(np.median(high - low)):.1f}, typical error ×{np.exp(np.sqrt(np.mean((m - t) ** 2))):.2f}"
                )
        width = {a: {n: np.mean([np.log(high / low) for *_, low, high in rows]) for n, rows in found[a].items()} for a in found}
        for n in ENDS:
            needed = next((m for m, w in sorted(width[False].items()) if w <= width[True][n]), None)
            told = f"{needed} ({needed / n:.2f} times)" if needed else f"more than {LONGEST}"
            print(f"  for the interval that {n} adaptive presentations leave, the fixed series needs {told}")


if __name__ == "__main__":
    main()
