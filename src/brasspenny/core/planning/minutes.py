"""How long a brew takes, for every place that asks: what a plan, a next step and the value of a setup all count with."""

from __future__ import annotations

CLEAN_PAPER_MIN, CLEAN_LASTING_MIN = 1.0, 3.0
"""Clearing away: a paper thrown out, or a mesh, press-pot or press rinsed. Ours."""
SIEVE_SAMPLE_MIN, TIMED_DOSE_MIN = 8.0, 3.0
"""A stack shaken and its heaps weighed; a dose ground by the clock, weighed in and out. Ours."""
WEIGH_AND_READ_MIN = 3.0
"""What a brew of a comparison takes besides: weighing in and out, three samples read. Ours."""


def cup_minutes(*, dose_g: float, grind_g_s: float | None, brew_s: float, lasting: bool) -> float:
    """Grind, brew and clean, minutes: a cup on any day. grind_g_s: the grinder's rate, None when unknown (then grinding is left out).
    lasting: nothing is thrown away.

    >>> round(cup_minutes(dose_g=18, grind_g_s=0.45, brew_s=165, lasting=False), 2)
    4.42
    """
    grind_s = dose_g / grind_g_s if grind_g_s else 0.0
    return (grind_s + brew_s) / 60 + (CLEAN_LASTING_MIN if lasting else CLEAN_PAPER_MIN)


def trial_brew_minutes(cup: float) -> float:
    """A brew of a comparison: the cup's own minutes (see cup_minutes), weighed and read.

    >>> round(trial_brew_minutes(4.42), 2)
    7.42
    """
    return cup + WEIGH_AND_READ_MIN
