"""Each taster's own mean of each setup: plain means, for looking at, not for deciding."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from .scores import Score


def taster_means(scores: Sequence[Score]) -> dict[str, dict[str, float]]:
    """taster → setup → mean score over their cups.

    >>> taster_means([Score("", "Ada", "A", "1", "", 6), Score("", "Ada", "A", "2", "", 8)])
    {'Ada': {'A': 7.0}}
    """
    gathered: dict[str, dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        gathered[s.taster][s.setup].append(s.score)
    return {taster: {setup: sum(v) / len(v) for setup, v in by_setup.items()} for taster, by_setup in gathered.items()}
