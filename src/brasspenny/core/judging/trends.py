"""What becomes of each attribute along a ladder: a straight line through it, and how sure its slope is. docs/judging.md §10.

A hump has no trend, and none is claimed for it: the line is then level within its interval.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from ..errors import BadScores
from .columns import fit_columns
from .measures import Measure
from .peak import levels_of
from .scores import Score, cups_of

FEWEST_LEVELS = 3
DRAWS, SEED = 8_000, 5


@dataclass(frozen=True)
class Trend:
    """change: of the attribute from the lowest to the highest number tested, points of its own scale, with its 95 % interval. shown: the interval leaves out nought."""

    attribute: str
    change: float
    interval: tuple[float, float]
    tested: tuple[float, float]

    @property
    def shown(self) -> bool:
        return self.interval[0] > 0 or self.interval[1] < 0


def find_trend(attribute: str, scores: Sequence[Score], at: Mapping[str, float], *, low: float, high: float, same_within: float = 0.0) -> Trend:
    """at: brew → its number; scores of other brews are left out. low, high: the attribute's scale. Raises BadScores below three levels."""
    kept = [s for s in scores if s.brew in at]
    values = sorted({at[s.brew] for s in kept})
    if levels_of(values, same_within) < FEWEST_LEVELS:
        raise BadScores("x", "fewer than three values show no trend.", "Test at least three.")
    cups = cups_of(kept, low=low, high=high)
    middle, half = (values[0] + values[-1]) / 2, (values[-1] - values[0]) / 2
    x = ((np.array([at[brew] for _, brew in cups.brew_keys])[cups.brew] - middle) / half)[:, None]
    change = 2 * fit_columns(cups, x, x, scale=(high - low) / 8).draws(DRAWS, SEED)[1][:, 0]
    ends = np.percentile(change, (2.5, 97.5))
    return Trend(attribute, float(change.mean()), (float(ends[0]), float(ends[1])), (values[0], values[-1]))


def say_trends(trends: Sequence[Trend], labels: Mapping[str, str], measure: Measure) -> tuple[str, ...]:
    """One sentence for each attribute that is shown to change, the largest change first, and one for the rest.

    >>> from .measures import MEASURE
    >>> falls = Trend("acidity", -2.14, (-3.0, -1.2), (13, 18))
    >>> level = Trend("body", 0.3, (-0.5, 1.1), (13, 18))
    >>> say_trends([level, falls], {"acidity": "Acidity", "body": "Body"}, MEASURE["ratio"])
    ('Acidity falls from 1:13.0 to 1:18.0, by 2.1 points (1.2 to 3.0).', 'No steady change is shown in body.')
    """
    out = []
    for t in sorted((t for t in trends if t.shown), key=lambda t: -abs(t.change)):
        least, most = sorted(abs(end) for end in t.interval)
        verb = "rises" if t.change > 0 else "falls"
        span = f"from {measure.say(t.tested[0])} to {measure.say(t.tested[1])}"
        out.append(f"{labels[t.attribute]} {verb} {span}, by {figures.points(abs(t.change))} points ({figures.points(least)} to {figures.points(most)}).")
    level = [labels[t.attribute].lower() for t in trends if not t.shown]
    if level:
        *first, last = level
        out.append(f"No steady change is shown in {', '.join(first)} or {last}." if first else f"No steady change is shown in {last}.")
    return tuple(out)
