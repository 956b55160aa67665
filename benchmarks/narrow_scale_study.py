"""What the priors of scatter are worth where a panel uses little of its scale, and what they cost at worst.

First the true winners called by whole-point panels in four ways of using the scale, judged with the priors drawn in to what the panel uses, without, and with an ordinal link; then, over a grid
of panels and scatters from nought to twice the usual, how often one of two equal setups is called, and how often the 95 % interval of their difference holds. Give how many panels
of each kind (240 by default; the grid takes ten times as many).
"""

from __future__ import annotations

import sys
from itertools import product

import numpy as np
from scipy.special import ndtri

from brasspenny.core.distributions import ndtr
from brasspenny.core.judging import Score, judge, posterior
from brasspenny.core.judging.learnt import CLEAR_EACH
from brasspenny.core.planning.power import posterior_of

USUAL = (0.6, 0.3, 1.15)
SIZES = ((4, 2, 2), (4, 3, 2), (6, 3, 2), (6, 4, 2), (8, 3, 3), (10, 4, 2), (12, 3, 2), (6, 2, 4))
"""Tasters, setups, brews of each."""
USES = {
    "as usual": (6.0, 1.0, 1, 9),
    "three steps": (6.0, 0.6, 5, 7),
    "ceiling": (8.2, 1.0, 1, 9),
    "floor": (1.9, 1.0, 1, 9),
    "unlike ranges": (6.0, 1.0, 1, 9),
}
"""Middle, how much scores are drawn together about it, lowest and highest point given. With unlike ranges each taster draws them together by 0.3 to 1."""
LEAD = 1.5


def main() -> None:
    panels = int(sys.argv[1]) if len(sys.argv) > 1 else 240
    print(f"{panels} panels a line; one setup {LEAD} better before its scores are drawn together, or all equal")
    print("use of the scale   called right: as drawn in, as if usual, ordinal link   a winner among equals: drawn in, as if usual, ordinal link")
    for use in USES:
        right, false = (np.mean([each_way(use, seed, lead) for seed in range(panels)], axis=0) for lead in (LEAD, 0.0))
        print(f"{use:16} " + "".join(f"{share:14.3f}" for share in (*right, *false)))
    worst_cells(10 * panels)


def each_way(use: str, seed: int, lead: float) -> tuple[bool, ...]:
    """Whether a winner is called (the right one, where there is one): with the panel's own use of the scale, as if it were usual, and on the steps' own scale."""
    scores = panel(use, seed, lead)
    drawn_in, measured = judge(scores).verdict, posterior.scale_used
    posterior.scale_used = lambda cups, *, low, high: 1.0
    try:
        usual, ordinal = judge(scores).verdict, judge(on_a_latent_scale(scores)).verdict
    finally:
        posterior.scale_used = measured
    return tuple(v.choice == "S0" if lead else v.kind == "clear" for v in (drawn_in, usual, ordinal))


def on_a_latent_scale(scores: list[Score]) -> list[Score]:
    """An ordinal probit link, its thresholds put where the panel's own scores say (ridits): each step becomes the mean of the normal slice it stands for, in
    usual points."""
    points = np.array([x.score for x in scores])
    steps, counts = np.unique(points, return_counts=True)
    edges = np.r_[-np.inf, ndtri(np.cumsum(counts)[:-1] / len(points)), np.inf]
    heights = np.exp(-(edges**2) / 2) / np.sqrt(2 * np.pi)
    at = dict(zip(steps, 5 + 1.5 * (heights[:-1] - heights[1:]) * len(points) / counts, strict=True))
    return [x._replace(score=float(np.clip(at[x.score], 1, 9))) for x in scores]


def panel(use: str, seed: int, lead: float) -> list[Score]:
    tasters, setups, brews = SIZES[seed % len(SIZES)]
    middle, together, lowest, highest = USES[use]
    rng = np.random.default_rng([seed, list(USES).index(use)])
    effects = np.r_[lead, np.zeros(setups - 1)][None, :, None]
    y = rng.normal(0, 0.8, (tasters, 1, 1)) + effects + rng.normal(0, USUAL[0], (tasters, setups, 1)) + rng.normal(0, USUAL[1], (1, setups, brews))
    own = rng.uniform(0.3, 1.0, (tasters, 1, 1)) if use == "unlike ranges" else together
    y = middle + own * (y + rng.normal(0, USUAL[2], (tasters, setups, brews)))
    y = np.clip(np.rint(y), lowest, highest)
    return [Score("", f"T{t}", f"S{s}", f"{s}.{b}", "", float(y[t, s, b])) for t in range(tasters) for s in range(setups) for b in range(brews)]


def worst_cells(panels: int) -> None:
    """Whole points from 1 to 9 about 6; two setups equal, any others two points lower. In closed form, by the usual priors."""
    found = []
    for cell in product((2, 3, 6, 12), (2, 3, 6), (1, 2, 4), (0.0, 0.6, 1.2), (0.0, 0.3, 0.6), (0.3, 1.15, 2.3)):
        if cell[0] > 2 or cell[2] > 1:
            found.append((cell, *false_and_held(panels, *cell)))
    print(f"\n{panels} panels in each of {len(found)} cells (tasters, setups, brews, then the scatters of tasters × setups, brews and noise)")
    print(f"false winners: on average {np.mean([f for _, f, _ in found]):.3f}; worst {told(sorted(found, key=lambda x: -x[1]), 1)}")
    print(f"coverage: on average {np.mean([c for *_, c in found]):.3f}; worst {told(sorted(found, key=lambda x: x[2]), 2)}")


def false_and_held(panels: int, j: int, k: int, r: int, leaning: float, brew: float, noise: float) -> tuple[float, float]:
    rng = np.random.default_rng([j, k, r, *(int(100 * x) for x in (leaning, brew, noise))])
    y = 6 + rng.normal(0, 0.8, (panels, j, 1, 1)) + rng.normal(0, leaning, (panels, j, k, 1)) - 2.0 * (np.arange(k) > 1)[None, None, :, None]
    y = np.clip(np.rint(y + rng.normal(0, brew, (panels, 1, k, r)) + rng.normal(0, noise, (panels, j, k, r))), 1, 9)
    cell, pour, setup, taster = y.mean(3, keepdims=True), y.mean(1, keepdims=True), y.mean((1, 3), keepdims=True), y.mean((2, 3), keepdims=True)
    leanings = r * ((cell - setup - taster + y.mean((1, 2, 3), keepdims=True)) ** 2).sum((1, 2, 3))
    pours, rest = j * ((pour - setup) ** 2).sum((1, 2, 3)), ((y - cell - pour + setup) ** 2).sum((1, 2, 3))
    squares = (((j - 1) * (k - 1), leanings), (k * (r - 1), pours), (k * (j - 1) * (r - 1), rest))
    weight, v = posterior_of(squares, k, j, r)
    means, sd = np.sort(setup[:, 0, :2, 0], axis=1), np.sqrt(2 * v)[None]
    ahead = (weight * ndtr((means[:, 1:] - means[:, :1]) / sd)).sum(1)
    return float((ahead >= CLEAR_EACH).mean()), float((ahead < 0.975).mean())


def told(cells: list[tuple], which: int) -> str:
    return "; ".join(f"{cell[which]:.3f} {cell[0]}" for cell in cells[:4])


if __name__ == "__main__":
    main()
