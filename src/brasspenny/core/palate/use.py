"""What thresholds say elsewhere: whether a ladder's step can be tasted, and how closely strengths are worth matching. docs/palate.md §4."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from itertools import pairwise
from statistics import fmean

from .. import figures
from ..extraction.dilution import MATCHED_WITHIN_TDS_PCT

LEAST_TDS_PCT = 0.01
"""What a refractometer shows."""


def matched_within_tds_pct(best_tells_pct: float | None, tds_pct: float) -> float:
    """How far apart two strengths near tds_pct may lie and still be one, % TDS: the usual 0.05, or less where somebody of this panel may tell less apart (the low end of the best taster's
    interval, % of strength). A dull panel never loosens it: others will drink it.

    >>> matched_within_tds_pct(None, 1.4), matched_within_tds_pct(8.0, 1.4), matched_within_tds_pct(2.0, 1.4)
    (0.05, 0.05, 0.03)
    """
    return MATCHED_WITHIN_TDS_PCT if best_tells_pct is None else min(MATCHED_WITHIN_TDS_PCT, max(LEAST_TDS_PCT, round(best_tells_pct * tds_pct / 100, 2)))


def step_not_told(rungs: Sequence[tuple[float, float]], tells_pct: float | None) -> str:
    """Where neighbours on a ladder of ratios differ in strength by less than this panel tells apart; "" where they do not, or nobody was measured.
    rungs: (brew ratio, % TDS as read or expected) of each setup; setups of one ratio, of another filter say, are one rung. tells_pct: % of strength.

    >>> step_not_told([(15, 1.40), (16, 1.32)], 9.0)
    '1:15.0 to 1:16.0 changes strength by 0.08 %; this panel tells 0.12 % apart.'
    """
    if tells_pct is None:
        return ""
    by_ratio: dict[float, list[float]] = defaultdict(list)
    for ratio, tds_pct in rungs:
        by_ratio[round(ratio, 2)].append(tds_pct)
    middles = sorted((ratio, fmean(strengths)) for ratio, strengths in by_ratio.items())
    steps = [(a, b, abs(s - t), (s + t) / 2) for (a, s), (b, t) in pairwise(middles)]
    if not steps:
        return ""
    a, b, apart, strength = min(steps, key=lambda x: x[2] / x[3])
    told = tells_pct * strength / 100
    if apart >= told:
        return ""
    return f"{figures.ratio(a)} to {figures.ratio(b)} changes strength by {figures.tds(apart)} %; this panel tells {figures.tds(told)} % apart."
