"""A best point is claimed only where the scores speak for it, whatever the shape of the hump."""

import numpy as np
import pytest

from brasspenny.core.judging import Score
from brasspenny.core.judging.peak import find_peak

RUNGS = np.array([13, 14, 15, 16, 17, 18.0])
SHAPES = {
    "parabola": (lambda x: -0.35 * (x - 15.4) ** 2, 15.4),
    "lopsided": (lambda x: np.where(x < 14.2, -2.9 * np.maximum(14.2 - x, 0) ** 1.2, -0.55 * (x - 14.2)), 14.2),
    "rising": (lambda x: 0.45 * (x - 13), None),
}


def panel(shape, seed, tasters=6, brews=2):
    """Six rungs, two brews, six tasters with their own offsets, slopes and tastes."""
    rng, y = np.random.default_rng(seed), shape(RUNGS)
    scores, at = [], {}
    of_brew = rng.normal(0, 0.25, (6, brews))
    for j in range(tasters):
        offset, slope, own = rng.normal(0, 0.8), rng.normal(0, 0.25), rng.normal(0, 0.4, 6)
        for i, b in np.ndindex(6, brews):
            value = 5.5 + offset + y[i] - y.mean() + slope * (RUNGS[i] - 15.5) / 2.5 + own[i] + of_brew[i, b] + rng.normal(0, 0.8)
            setup, brew = "ABCDEF"[i], f"{i}{b}"
            scores.append(Score("1", f"T{j}", setup, brew, "", float(np.clip(round(2 * value) / 2, 1, 9))))
            at[setup, brew] = RUNGS[i]
    return scores, at


@pytest.mark.parametrize("name", ["parabola", "lopsided"])
def test_the_true_best_lies_inside_what_is_claimed(name):
    """A parabola alone missed every lopsided hump: steep on one side, gentle on the other."""
    shape, best = SHAPES[name]
    found = [find_peak(*panel(shape, 500 + seed), same_within=0.3) for seed in range(6)]
    claimed = [p for p in found if p.kind == "peak"]
    assert len(claimed) >= 4 and sum(p.interval[0] <= best <= p.interval[1] for p in claimed) >= len(claimed) - 1


def test_what_only_rises_has_no_best_point_inside():
    found = [find_peak(*panel(SHAPES["rising"][0], 700 + seed), same_within=0.3) for seed in range(6)]
    assert all(p.kind != "peak" for p in found) and any(p.kind == "no_peak" and p.rising == "high" for p in found)


def test_the_band_holds_over_the_whole_range():
    p = find_peak(*panel(SHAPES["lopsided"][0], 511), same_within=0.3)
    widths = np.array(p.curve.high) - np.array(p.curve.low)
    assert (widths > 0.2).all() and all(low <= y <= high for low, y, high in zip(p.curve.low, p.curve.y, p.curve.high, strict=True))
