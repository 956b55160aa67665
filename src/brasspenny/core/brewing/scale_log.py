"""A scale's log as text: a file of time and mass, as real scales and people write it. What it says is in `curve`. docs/formulas.md §7, §11."""

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
NUMBER = re.compile(r"[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)$")


@dataclass(frozen=True)
class ScaleLog:
    """t_s from the first row, g as read, both in order of time. notes: what was left out or repaired, in words."""

    t_s: np.ndarray
    mass_g: np.ndarray
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
    notes = [f"{figures.counted(len(bad), 'row')} could not be read, the first is row {bad[0]}."] if bad else []
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
