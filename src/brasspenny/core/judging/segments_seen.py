"""Which groups of drinkers a panel of this size could have shown. docs/judging.md §11.

Measured by benchmarks/camps_study.py: how often `find_segments` shows a group that turns the best and the worst setup round (1.5 points each way), usual scatter.
"""

from __future__ import annotations

import numpy as np

from .. import figures

TASTERS = (8, 10, 12, 16, 24)
HALF = {  # by (three setups or more, two brews of each or more)
    (False, False): (0.34, 0.32, 0.40, 0.50, 0.66),
    (False, True): (0.50, 0.70, 0.78, 0.92, 0.99),
    (True, False): (0.12, 0.26, 0.32, 0.32, 0.66),
    (True, True): (0.50, 0.76, 0.86, 0.95, 0.99),
}
FIFTH = {
    (False, False): (0.0, 0.02, 0.02, 0.2, 0.35),
    (False, True): (0.0, 0.0, 0.02, 0.5, 0.78),
    (True, False): (0.0, 0.03, 0.03, 0.04, 0.08),
    (True, True): (0.0, 0.02, 0.03, 0.45, 0.71),
}
OFTEN = 0.7


def could_have_shown(*, tasters: int, setups: int, brews: int) -> str:
    """Said where no group shows: that none is seen is no proof that there is none. tasters: who scored every setup, 8 or more; brews: of one setup by one taster, at least."""
    kind = (setups >= 3, brews >= 2)
    half, fifth = (float(np.interp(tasters, TASTERS, by[kind])) for by in (HALF, FIFTH))
    more = next((t for t, share in zip(TASTERS, FIFTH[kind], strict=True) if share >= OFTEN), None)
    needs = (
        f" It takes about {more} tasters to see them 7 times in 10."
        if more and tasters < more
        else ""
        if fifth >= OFTEN
        else " More than 24 tasters, with two brews of each, would."
    )
    return f"Half of these {tasters} who like the opposite (1.5 points up and down) would be seen {_times(half)}; a fifth {_times(fifth)}.{needs}"


def _times(share: float) -> str:
    tenths = int(figures.rounded(10 * share, 0))
    return "hardly ever" if tenths == 0 else "almost always" if tenths == 10 else f"{tenths} {'time' if tenths == 1 else 'times'} in 10"
