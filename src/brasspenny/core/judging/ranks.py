"""Rankings: Friedman's statistic with its exact permutation p, and Kendall's W. docs/judging.md §7.

Both are one statistic, so one p. Like every permutation p it concerns these very cups, not the equipment.
Sources: Friedman 1937, JASA; Kendall & Babington Smith 1939, Ann. Math. Stat.; Iman & Davenport 1980, Commun. Stat. (why not its F).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations
from math import factorial

import numpy as np

from .. import figures
from ..distributions import midranks
from ..errors import BadScores
from .scores import Score

ENUMERATE_UP_TO = 20_000
SHUFFLES, SEED = 9_999, 11
TIED_RANKS = 0.05
"""Mean places no further apart are one place."""


@dataclass(frozen=True)
class Ranked:
    """setups by mean rank, best (1) first. agreement: Kendall's W, 0 to 1. exact: every shuffle was counted. left_out: rows that did not rank every setup."""

    setups: tuple[str, ...]
    mean_ranks: tuple[float, ...]
    rows: int
    left_out: int
    q: float
    agreement: float
    p_value: float
    exact: bool
    text: str


def rank_setups(scores: Sequence[Score], *, best_is_high: bool = True) -> Ranked:
    """Setups ranked within each sitting (flight, taster); cups of one setup in a sitting count by their mean.

    scores: liking, or with best_is_high=False the ranks themselves (1 best). Sittings without every setup are left out
    and counted. Raises BadScores when fewer than two setups or no whole sitting is left.
    """
    sittings: dict[tuple[str, str], dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        sittings[s.flight, s.taster][s.setup].append(s.score)
    setups = sorted({s.setup for s in scores})
    whole = [[float(np.mean(row[name])) for name in setups] for _, row in sorted(sittings.items()) if len(row) == len(setups)]
    if len(setups) < 2 or not whole:
        raise BadScores("setup", "there is no sitting in which every setup was ranked, or only one setup.", "Let each taster rank all setups.")
    table = np.array(whole)
    q, agreement, p, exact = friedman(-table if best_is_high else table)
    means = midranks(-table if best_is_high else table).mean(0)
    order = np.argsort(means, kind="stable")
    names = tuple(setups[i] for i in order)
    return Ranked(
        names, tuple(float(means[i]) for i in order), len(whole), len(sittings) - len(whole), q, agreement, p, exact, _text(names, sorted(means), p, agreement)
    )


def as_scores(ranks: Sequence[Score]) -> tuple[list[Score], int]:
    """Places turned round, so that more is better: 1 for the last of k to k for the first; and k."""
    last = round(max(r.score for r in ranks))
    return [r._replace(score=last + 1 - r.score) for r in ranks], last


def friedman(values: np.ndarray) -> tuple[float, float, float, bool]:
    """Q, W, permutation p, and whether p is exact. values (J, K): anything whose order within a row is meant; midranks for ties.

    Given the ranks, Q rises with the sum of squared rank sums alone, so that is what the shuffles compare.
    """
    ranks = midranks(values)
    j, k = ranks.shape
    spread = (ranks**2).sum() - j * k * (k + 1) ** 2 / 4
    if spread <= 0:  # all tied in every row
        return 0.0, 0.0, 1.0, True
    sums = ranks.sum(0)
    q = float((k - 1) * ((sums - j * (k + 1) / 2) ** 2).sum() / spread)
    seen = (sums**2).sum() - 1e-9
    exact = factorial(k) ** (j - 1) <= ENUMERATE_UP_TO
    if exact:
        shuffled = ranks[:1]
        for row in ranks[1:]:
            shuffled = (shuffled[:, None, :] + np.array(list(permutations(row)))[None]).reshape(-1, k)
        p = float(((shuffled**2).sum(1) >= seen).mean())
    else:
        rng = np.random.default_rng(SEED)
        shuffled = rng.permuted(np.broadcast_to(ranks, (SHUFFLES, j, k)).copy(), axis=2).sum(1)
        p = float((1 + ((shuffled**2).sum(1) >= seen).sum()) / (SHUFFLES + 1))
    return q, q / (j * (k - 1)), p, exact


def _text(names: Sequence[str], means: Sequence[float], p: float, agreement: float) -> str:
    first = [n for n, m in zip(names, means, strict=True) if m - means[0] <= TIED_RANKS]
    came = f"{figures.joined(first)} came first {'together' if len(first) > 1 else 'on average'}"
    alike = "They ranked these cups alike" if p <= 0.05 else "Their rankings are no more alike than chance"
    chance = "p < 0.001" if p < 0.001 else f"p = {figures.p_value(p)}"
    return f"{alike} (agreement {figures.agreement(agreement)} of 1, {chance}); {came}. This is about these cups, not the equipment."
