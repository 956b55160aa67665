"""What brews teach of a brewer or a filter: times, scatter from brew to brew, how it holds back. docs/formulas.md §5.

Sources: medians with their range; the pooled standard deviation within setups.
"""

from __future__ import annotations

import math
import statistics
from collections import defaultdict
from collections.abc import Hashable, Iterable, Sequence
from dataclasses import dataclass

from .. import figures
from ..units import write_duration

FORGIVING_EY, PARTICULAR_EY = 0.35, 0.8
"""Standard deviation of the yield from brew to brew, points: a brewer below the first is forgiving, above the second particular. Ours."""
FEWEST_FOR_A_WORD = 6
SHORT_S = 60.0
NEWTON_PER_KG = 9.81


@dataclass(frozen=True)
class Times:
    """Of several brews, s."""

    median_s: float
    low_s: float
    high_s: float
    brews: int

    def said(self) -> str:
        """Short times in tenths of a second.

        >>> Times(161.0, 155.0, 170.0, 4).said(), Times(20.1, 19.8, 20.4, 3).said()
        ('2:41 (2:35 to 2:50)', '20.1 s (19.8 to 20.4)')
        """
        if self.high_s < SHORT_S:
            return f"{figures.seconds_fine(self.median_s)} s" + (
                f" ({figures.seconds_fine(self.low_s)} to {figures.seconds_fine(self.high_s)})" if self.brews > 1 else ""
            )
        return write_duration(self.median_s) + (f" ({write_duration(self.low_s)} to {write_duration(self.high_s)})" if self.brews > 1 else "")


def times_of(seconds: Iterable[float | None]) -> Times | None:
    known = sorted(s for s in seconds if s is not None)
    return Times(statistics.median(known), known[0], known[-1], len(known)) if known else None


@dataclass(frozen=True)
class BrewScatter:
    """Standard deviation within setups, from so many brews of so many setups."""

    sd: float
    brews: int
    setups: int


def scatter_within(values: Sequence[tuple[Hashable, float]]) -> BrewScatter | None:
    """values: (setup, value). None without two brews of any setup.

    >>> scatter_within([("a", 1.0), ("a", 3.0), ("b", 5.0)])
    BrewScatter(sd=1.4142135623730951, brews=2, setups=1)
    """
    groups: dict[Hashable, list[float]] = defaultdict(list)
    for setup, value in values:
        groups[setup].append(value)
    repeated = [g for g in groups.values() if len(g) > 1]
    freedom = sum(len(g) - 1 for g in repeated)
    if not freedom:
        return None
    squares = sum((x - statistics.fmean(g)) ** 2 for g in repeated for x in g)
    return BrewScatter(math.sqrt(squares / freedom), sum(map(len, repeated)), len(repeated))


def forgiving_word(scatter: BrewScatter) -> str:
    """What the scatter of the yield says of a brewer; '' from too few brews.

    >>> forgiving_word(BrewScatter(0.2, 8, 2)), forgiving_word(BrewScatter(1.1, 8, 2)), forgiving_word(BrewScatter(0.2, 3, 1))
    ('forgiving', 'particular', '')
    """
    if scatter.brews < FEWEST_FOR_A_WORD:
        return ""
    return "forgiving" if scatter.sd <= FORGIVING_EY else "particular" if scatter.sd >= PARTICULAR_EY else "middling"


def scatter_said(scatter: BrewScatter) -> str:
    """
    >>> scatter_said(BrewScatter(0.2, 8, 2))
    '± 0.4 points of yield from brew to brew: forgiving'
    """
    word = forgiving_word(scatter)
    return f"± {figures.ey(2 * scatter.sd)} points of yield from brew to brew" + (f": {word}" if word else "")
