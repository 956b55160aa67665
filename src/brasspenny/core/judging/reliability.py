"""How far a taster's two scores of one hidden duplicate lie apart. docs/judging.md §9. Shown, never used to drop or down-weight anybody.

Sources: Rossi 2001, Food Qual. Prefer. (repeatability and reproducibility of panels).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from ..distributions import chi2_quantile_above, f_above
from .scores import Score

FEWEST_TO_FLAG = 4
FLAG_P = 0.05
HALVES = 2
"""Scores come in half points: distances are whole numbers of them."""


@dataclass(frozen=True)
class Repeat:
    """repeat_sd: points, 95 % interval, None without a duplicate. noisy_p: is this taster noisier than the others (times the
    number of tasters); chance_p: are the duplicates closer than any two cups would be. flagged from four duplicates on."""

    taster: str
    duplicates: int
    repeat_sd: float | None
    interval: tuple[float, float] | None
    noisy_p: float | None
    chance_p: float | None
    flagged: bool
    text: str


def repeats(scores: Sequence[Score], *, step: float = 1.0) -> tuple[Repeat, ...]:
    """One row a taster who met a blind duplicate: two scores of the same (flight, setup, brew, pass). step: of the scale, points."""
    cells: dict[str, dict[tuple, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        cells[s.taster][s.flight, s.pass_, s.setup, s.brew].append(s.score)
    pairs = {taster: [(key, v[0] - v[1]) for key, v in sorted(by.items()) if len(v) > 1] for taster, by in sorted(cells.items())}
    pairs = {taster: found for taster, found in pairs.items() if found}
    return tuple(_one(taster, pairs, cells[taster], step) for taster in pairs)


def _one(taster: str, pairs: dict[str, list], cells: dict[tuple, list[float]], step: float) -> Repeat:
    d = np.array([x for _, x in pairs[taster]])
    m, squares = len(d), float((d**2).sum())
    sd = float(np.sqrt(squares / (2 * m)))
    least = step**2 / 12
    low, high = (float(np.sqrt(max(squares / 2, 0.0) / chi2_quantile_above(m, p))) for p in (0.025, 0.975))
    noisy = _noisy(taster, pairs, squares / (2 * m), least) if len(pairs) > 1 else None
    chance = _closer_than_chance(pairs[taster], cells)
    flagged = m >= FEWEST_TO_FLAG and noisy is not None and noisy <= FLAG_P
    return Repeat(taster, m, sd, (low, high), noisy, chance, flagged, _text(m, sd, flagged))


def _noisy(taster: str, pairs: dict[str, list], variance: float, least: float) -> float:
    others = [x for name, found in pairs.items() if name != taster for _, x in found]
    pooled = max(float(np.square(others).sum()) / (2 * len(others)), least)
    p = float(f_above(len(pairs[taster]), len(others), max(variance, 0.0) / pooled))
    return min(1.0, p * len(pairs))


def _closer_than_chance(found: list, cells: dict[tuple, list[float]]) -> float:
    """P(the sum of |d| is so small) had each duplicate been any two of that taster's cups in the same flight and pass; by convolution."""
    law = np.ones(1)
    for (flight, pass_, *_), _ in found:
        cups = np.array([x for key, v in cells.items() if key[:2] == (flight, pass_) for x in v])
        gaps = np.rint(HALVES * np.abs(cups[:, None] - cups[None])[np.triu_indices(len(cups), 1)]).astype(int)
        law = np.convolve(law, np.bincount(gaps) / len(gaps))
    total = int(np.rint(HALVES * sum(abs(x) for _, x in found)))
    return float(law[: total + 1].sum())


def _text(m: int, sd: float, flagged: bool) -> str:
    if m == 1:
        return "One duplicate says nothing of a taster yet."
    if flagged:
        return f"Scores the same brew {figures.points(sd)} points apart, more than the others do. Their scores count all the same."
    return f"Scores the same brew about {figures.points(sd)} points apart."
