"""A scale's log cut into pours: a file of time and mass, as real scales write it, cleaned and segmented. docs/formulas.md §7, §11.

A pour is a stretch in which the reading rises at pouring speed. The reading is first freed of single wild values
(median of five), then its slope is taken over half a second either side; slopes above 0.8 g/s begin a pour and below
0.4 g/s end it, and stretches less than 1.5 s apart are one. Starts and masses are then read from the levels before and after.
Where it stops being true: pours slower than about 1 g/s look like drift, and two pours closer than 1.5 s like one.
"""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from ..errors import Inconsistent, NotEnoughKnowns, OutOfDomain

MOST_ROWS = 200_000
LONGEST_S = 4 * 3600.0
GAP_S = 2.0
JUMP_G = 40.0
BEGINS_G_S, ENDS_G_S, JOIN_S, LEAST_G = 0.8, 0.4, 1.5, 2.0
LEVEL_S = 1.5
NUMBER = re.compile(r"[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)$")


@dataclass(frozen=True)
class ScaleLog:
    """t_s from the first row, g as read, both in order of time. notes: what was left out or repaired, in words."""

    t_s: np.ndarray
    mass_g: np.ndarray
    notes: tuple[str, ...]


@dataclass(frozen=True)
class PourSegment:
    """One pour: when it began and ended, s; what it added and what the scale read afterwards, g; mean rate, g/s."""

    start_s: float
    end_s: float
    added_g: float
    to_g: float
    rate_g_s: float


@dataclass(frozen=True)
class Gap:
    """A stretch without readings: the brew went on, nothing is made up for it."""

    start_s: float
    end_s: float


@dataclass(frozen=True)
class Segmented:
    pours: tuple[PourSegment, ...]
    gaps: tuple[Gap, ...]
    notes: tuple[str, ...]


def read_log(text: str) -> ScaleLog:
    """A log from text: two columns, time in s (or m:ss) and mass in g, separated by comma, semicolon or tab; a heading is allowed,
    and decimal commas where the separator is another one. Rows that are no numbers are left out and counted.

    At most 200,000 rows and four hours. Raises NotEnoughKnowns (no two usable rows), OutOfDomain, Inconsistent (a clock that
    runs backwards by more than a second).
    """
    lines = text.lstrip("\ufeff").splitlines()
    if len(lines) > MOST_ROWS:
        raise OutOfDomain("text", f"{len(lines):,} rows are too many.", f"Give at most {MOST_ROWS:,}: one brew.")
    times, masses, bad = [], [], []
    for i, row in enumerate(csv.reader(io.StringIO("\n".join(lines)), delimiter=_delimiter(lines))):
        if not any(cell.strip() for cell in row):
            continue
        pair = _pair(row)
        if pair is None:
            if i > 0:
                bad.append(i + 1)
            continue
        times.append(pair[0])
        masses.append(pair[1])
    if len(times) < 2:
        raise NotEnoughKnowns("text", "no two rows of time and mass were found.", "Give two columns: seconds and grams.")
    return _ordered(np.array(times), np.array(masses), bad)


def _delimiter(lines: Sequence[str]) -> str:
    sample = "\n".join(lines[:20])
    return max((";", "\t", ","), key=lambda d: (sum(d in line for line in lines[:20]), d != ",", sample.count(d)))


def _pair(row: Sequence[str]) -> tuple[float, float] | None:
    cells = [c.strip().removesuffix("g").removesuffix("s").strip() for c in row[:2]]
    if len(cells) < 2:
        return None
    minutes = re.fullmatch(r"(\d{1,3}):([0-5]?\d(?:[.,]\d+)?)", cells[0])
    t = 60 * float(minutes[1]) + float(minutes[2].replace(",", ".")) if minutes else _number(cells[0])
    m = _number(cells[1])
    return None if t is None or m is None or not (math.isfinite(t) and math.isfinite(m)) or abs(m) > 1e6 or abs(t) > 1e12 else (t, m)


def _number(text: str) -> float | None:
    return float(text.replace(",", ".")) if NUMBER.fullmatch(text) else None


def _ordered(t: np.ndarray, m: np.ndarray, bad: list[int]) -> ScaleLog:
    notes = [f"{len(bad)} row{'' if len(bad) == 1 else 's'} could not be read, the first is row {bad[0]}."] if bad else []
    back = np.diff(t)
    if (back < -1).any():
        at = int(np.argmax(back < -1)) + 2
        raise Inconsistent("text", f"the clock runs backwards at reading {at}.", "The log may hold two brews: cut it into one a file.")
    if t[-1] - t[0] > LONGEST_S:
        raise OutOfDomain("text", f"the log spans {figures.hours((t[-1] - t[0]) / 3600)} h.", "Times are in seconds; four hours at most.")
    order = np.argsort(t, kind="stable")
    t, m = t[order] - t[order][0], m[order]
    fresh = np.concatenate([[True], np.diff(t) > 0])
    if not fresh.all():
        notes.append(f"{int((~fresh).sum())} readings share a time with the one before and are left out.")
    return ScaleLog(t[fresh], m[fresh], tuple(notes))


def segment(log: ScaleLog) -> Segmented:
    """The pours of a log, its gaps, and notes of wild values.

    Masses are differences of levels, so a scale that was not zeroed does not matter; a reading that falls (server lifted) ends nothing.
    """
    t, raw = log.t_s, log.mass_g
    if len(t) < 5:
        raise NotEnoughKnowns("text", f"{len(t)} readings are too few to find a pour in.", "Give a log of at least five.")
    m = _without_wild(raw)
    notes = list(log.notes)
    wild = int((np.abs(raw - m) > JUMP_G).sum())
    if wild:
        notes.append(f"{wild} wild reading{'' if wild == 1 else 's'} left out.")
    gaps = tuple(Gap(float(t[i]), float(t[i + 1])) for i in np.flatnonzero(np.diff(t) > GAP_S))
    rate = _slope(t, m)
    pours = [p for a, b in _stretches(t, rate) if (p := _pour(t, m, a, b)) and p.added_g >= LEAST_G]
    return Segmented(tuple(pours), gaps, tuple(notes))


def _without_wild(m: np.ndarray) -> np.ndarray:
    padded = np.pad(m, 2, mode="edge")
    return np.median(np.lib.stride_tricks.sliding_window_view(padded, 5), axis=1)


def _slope(t: np.ndarray, m: np.ndarray, half_s: float = 0.5) -> np.ndarray:
    """g/s by least squares over the readings within half_s of each (at least one neighbour either side)."""
    low = np.minimum(np.searchsorted(t, t - half_s), np.maximum(np.arange(len(t)) - 1, 0))
    high = np.maximum(np.searchsorted(t, t + half_s, side="right"), np.minimum(np.arange(len(t)) + 2, len(t)))
    sums = [np.concatenate([[0.0], np.cumsum(x)]) for x in (np.ones_like(t), t, m, t * t, t * m)]
    n, st, sm, stt, stm = (s[high] - s[low] for s in sums)
    below = n * stt - st * st
    return np.divide(n * stm - st * sm, below, out=np.zeros_like(t), where=below > 1e-9)


def _stretches(t: np.ndarray, rate: np.ndarray) -> list[tuple[int, int]]:
    """(first, last) indices of pouring, with hysteresis, near ones joined."""
    out: list[tuple[int, int]] = []
    begun = None
    for i, r in enumerate(rate):
        if begun is None and r > BEGINS_G_S:
            begun = i
        elif begun is not None and r < ENDS_G_S:
            if out and t[begun] - t[out[-1][1]] < JOIN_S:
                begun = out.pop()[0]
            out.append((begun, i))
            begun = None
    if begun is not None:
        out.append((begun, len(t) - 1))
    return out


def _pour(t: np.ndarray, m: np.ndarray, a: int, b: int) -> PourSegment | None:
    before = m[(t >= t[a] - LEVEL_S - 0.5) & (t <= t[a] - 0.5)]
    after = m[(t >= t[b]) & (t <= t[b] + LEVEL_S)]
    base = float(np.median(before)) if len(before) else float(m[a])
    top = float(np.median(after)) if len(after) else float(m[b])
    noise = max(0.3, 3 * float(np.std(before)) if len(before) > 2 else 0.3)
    near = np.flatnonzero((t >= t[a] - 1.5) & (t <= t[b] + 0.5))
    rising = near[m[near] > base + noise]
    falling = near[m[near] < top - noise]
    if not len(rising) or not len(falling):
        return None
    start, end = float(t[rising[0]]), float(t[min(falling[-1] + 1, len(t) - 1)])
    if end <= start:
        return None
    added = top - base
    return PourSegment(start, end, added, top, added / (end - start))
