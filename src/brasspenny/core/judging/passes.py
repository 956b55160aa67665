"""Means as the cups cool, pass by pass."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ..vocabulary import PASSES
from .scores import Score

PASS_ORDER = tuple(p.code for p in PASSES)


def means_by_pass(scores: Sequence[Score]) -> dict[str, dict[str, float]]:
    """setup → pass → mean, in the order of cooling.

    >>> means_by_pass([Score("", "Ada", "A", "1", "cool", 6), Score("", "Ada", "A", "1", "hot", 8)])
    {'A': {'hot': 8.0, 'cool': 6.0}}
    """
    sums: dict[str, dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        sums[s.setup][s.pass_].append(s.score)
    order = {p: i for i, p in enumerate(PASS_ORDER)}
    return {k: {p: sum(v) / len(v) for p, v in sorted(by.items(), key=lambda x: (order.get(x[0], 9), x[0]))} for k, by in sums.items()}


def leaders_by_pass(scores: Sequence[Score]) -> dict[str, str]:
    """Pass → the setup with the highest mean there; in the order of cooling."""
    by: dict[str, dict[str, float]] = defaultdict(dict)
    for setup, passes in means_by_pass(scores).items():
        for p, mean in passes.items():
            by[p][setup] = mean
    ordered = sorted(by, key=lambda p: (PASS_ORDER.index(p) if p in PASS_ORDER else 9, p))
    return {p: max(sorted(by[p]), key=by[p].get) for p in ordered}
