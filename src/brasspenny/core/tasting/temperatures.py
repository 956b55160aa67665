"""Temperatures taken at the table: what a thermometer can hardly have read, and what is wrong with the cups. docs/formulas.md §9."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence

from .. import figures
from ..kit.heat import SCALDS_C
from ..vocabulary import PASSES

MOST_SPREAD_C = 3.0
"""Cups further apart than this are tasted for their heat."""
FASTEST_TAU_S = 300.0
"""A thin cup in a draught; anything slower cools less."""
SLACK_C = 3.0
"""Two thermometers, two depths of one cup."""


def unlikely(before_c: float, now_c: float, *, apart_s: float, ambient_c: float) -> str:
    """Why a reading is asked for again, '' when it may well be. apart_s ≥ 0: since the reading before.

    >>> unlikely(58, 31, apart_s=8, ambient_c=21)
    '58 °C, then 31 °C 8 s later: no cup cools so fast.'
    >>> unlikely(70, 55, apart_s=420, ambient_c=21), unlikely(70, 71, apart_s=60, ambient_c=21)
    ('', '')
    """
    least = ambient_c + (before_c - ambient_c) * math.exp(-apart_s / FASTEST_TAU_S) - SLACK_C
    if now_c < min(least, before_c):
        return f"{figures.heat_whole(before_c)}, then {figures.heat_whole(now_c)} {_after(apart_s)} later: no cup cools so fast."
    if now_c > before_c + SLACK_C:
        return f"{figures.heat_whole(before_c)}, then {figures.heat_whole(now_c)} {_after(apart_s)} later: a cup does not warm up."
    return ""


def _after(seconds: float) -> str:
    return f"{round(seconds)} s" if seconds < 100 else f"{round(seconds / 60)} min"


def spread_c(readings: Sequence[tuple[str, float]]) -> float | None:
    """The most that cups read at one moment were apart. readings: (moment, °C) of single cups.

    >>> spread_c([("9:00", 61), ("9:00", 55.5), ("9:05", 52)])
    5.5
    """
    at: dict[str, list[float]] = defaultdict(list)
    for moment, cup_c in readings:
        at[moment].append(cup_c)
    return max((max(cups) - min(cups) for cups in at.values()), default=None)


def below(cup_c: float, asked: Collection[str]) -> tuple[str, ...]:
    """Passes whose range lies above the cups: they are over."""
    return tuple(p.code for p in PASSES if p.code in asked and cup_c < p.to_c)


def cups_said(cups: Mapping[str, float], asked: Collection[str]) -> tuple[str, ...]:
    """What is wrong with the cups as they stand, said as soon as they are read. cups: code → °C.

    >>> cups_said({"417": 52.0, "736": 46.0}, ["warm"])
    ('Cup 736 is 6 °C cooler than cup 417: a hotter cup tastes of less. Pour again, or wait for the next pass.',)
    """
    if not cups:
        return ()
    coldest, hottest = min(cups, key=cups.get), max(cups, key=cups.get)
    out = []
    apart = cups[hottest] - cups[coldest]
    if apart > MOST_SPREAD_C:
        out.append(
            f"Cup {coldest} is {figures.heat_apart_whole(apart)} cooler than cup {hottest}: a hotter cup tastes of less. Pour again, or wait for the next pass."
        )
    lowest = {p.code: p.to_c for p in PASSES}
    for code in sorted(cups):
        over = below(cups[code], asked)
        if over and len(over) == len([p for p in asked if p]):
            limit = min(lowest[p] for p in over)
            out.append(f"Cup {code} is at {figures.heat_whole(cups[code])}, below the {figures.heat_whole(limit)} its last pass ends at.")
    if cups[hottest] > SCALDS_C:
        out.append(f"Cup {hottest} is at {figures.heat_whole(cups[hottest])}: above {figures.heat(SCALDS_C)} scalds. Let the cups cool.")
    return tuple(out)
