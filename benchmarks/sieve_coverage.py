"""How often the stated 95 % intervals of sieve samples hold the truth, over seeded stacks shaken from known grinds.

    python benchmarks/sieve_coverage.py [stacks]

The truth of a measure is what this stack reads on average (thousands of shakings without a scale's steps). Beside it, the median of the grind
itself: what log-linear reading between apertures is off by. Prints figures; passes nothing and fails nothing.
"""

from __future__ import annotations

import sys
from collections import defaultdict

import numpy as np

from brasspenny.core.grinding.samples import Grind, Sample, compare, taken_together
from brasspenny.core.grinding.sieve import Weibull, sieve
from brasspenny.devices.sieves import shake

UM = (300.0, 500.0, 800.0, 1100.0, 1400.0)
BAND = (300.0, 800.0)
CODES = ("in_band", "in_band_in", "fines", "coarse", "d50", "recovery")
REPLICATES, SETTINGS = 3, ((560.0, 2.3), (620.0, 2.3), (680.0, 2.3), (600.0, 2.0), (660.0, 2.0), (720.0, 2.0))


def grind(d50_um: float, evenness: float) -> Weibull:
    return Weibull(d50_um / Weibull(1.0, evenness, 0.0).median_um, evenness, 0.0)


def truths() -> list[dict[str, float]]:
    """Of each setting: the mean reading of 3000 shakings weighed to a milligram."""
    out = []
    for d50_um, evenness in SETTINGS:
        read = defaultdict(list)
        for seed in range(3000):
            found = sieve(25.0, shake(grind(d50_um, evenness), UM, 25.0, 10_000_000 + seed, scale_step_g=0.001), BAND, fit=False)
            for code, value in values(found).items():
                read[code].append(value)
        out.append({code: float(np.mean(v)) for code, v in read.items()})
    return out


def values(found) -> dict[str, float]:
    return {
        "in_band": found.in_band.of_recovered.value,
        "in_band_in": found.in_band.of_mass_in.value,
        "fines": found.fines.of_recovered.value,
        "coarse": found.coarse.of_recovered.value,
        "d50": found.percentiles[1].at_um.value,
        "recovery": found.recovery.value,
    }


def main(stacks: int) -> None:
    truth = truths()
    held, matched, per_cent, count, n_pairs, seed = defaultdict(int), 0, 0, 0, 0, 0
    while count < stacks:
        samples = []
        for i, (d50_um, evenness) in enumerate(SETTINGS):
            for r in range(REPLICATES):
                seed += 1
                samples.append(Sample(f"{i}.{r}", Grind(f"{i}", 1.0, "", UM), 25.0, shake(grind(d50_um, evenness), UM, 25.0, seed)))
        groups = taken_together(samples, BAND)
        for g, known in zip(groups, truth, strict=True):
            count += 1
            for code in CODES:
                low, high = g.figure(code).interval
                held[code] += low <= known[code] <= high
        for a, b in ((0, 1), (1, 2), (0, 3), (2, 4), (3, 4), (4, 5)):
            found = compare(groups[a], groups[b])
            n_pairs += 1
            low, high = found.changes["in_band"].points.interval
            matched += low <= 100 * (truth[b]["in_band"] - truth[a]["in_band"]) <= high
            low, high = found.changes["in_band"].per_cent.interval
            per_cent += low <= 100 * (truth[b]["in_band"] / truth[a]["in_band"] - 1) <= high
    print(f"{count} grinds of {REPLICATES} replicates, {len(SETTINGS)} to a bench, 5 sieves, 25 g, scale steps of 0.1 g")
    for code in CODES:
        print(f"  {code:12s} 95 % interval holds the truth in {100 * held[code] / count:5.1f} %")
    print(f"  difference of in-band, points    {100 * matched / n_pairs:5.1f} % of {n_pairs} pairs")
    print(f"  difference of in-band, per cent  {100 * per_cent / n_pairs:5.1f} %")
    off = [100 * (known["d50"] / d50_um - 1) for (d50_um, _), known in zip(SETTINGS, truth, strict=True)]
    print(f"  the stack's own median against the grind's: {min(off):+.1f} to {max(off):+.1f} % (log-linear between apertures)")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 600)
