"""Where a trial stands along its progress, and what to do next. docs/formulas.md §8."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..figures import counted
from .caveats import Station

State = Literal["done", "current", "todo", "stuck"]


@dataclass(frozen=True)
class Counts:
    """Live rows of one trial. brewed: setups with a run; read: runs with a strength; the flights by status; drafted: brews drafted and
    not made yet, drafted_unpoured: all made, and so many poured in no flight."""

    setups: int = 0
    brewed: int = 0
    runs: int = 0
    read: int = 0
    flights_open: int = 0
    flights_closed: int = 0
    flights_flipped: int = 0
    cracks: int = 0
    drafted: int = 0
    drafted_unpoured: int = 0


@dataclass(frozen=True)
class Stop:
    station: Station
    label: str
    state: State
    note: str


def progress(counts: Counts) -> tuple[Stop, ...]:
    """The six stations in order; exactly one is current, unless the verdict is in."""
    flights = counts.flights_open + counts.flights_closed + counts.flights_flipped
    stops = [
        ("ask", "Ask", True, "asked"),
        (
            "set_up",
            "Set up",
            counts.setups >= 2 and not counts.cracks,
            counted(counts.setups, "setup") if not counts.cracks else counted(counts.cracks, "crack"),
        ),
        ("brew", "Brew", counts.setups >= 2 and counts.brewed >= counts.setups, counted(counts.runs, "brew")),
        ("measure", "Measure", counts.runs > 0 and counts.read == counts.runs and counts.brewed >= counts.setups, f"{counts.read} of {counts.runs} read"),
        ("taste", "Taste", flights > 0 and counts.flights_flipped == flights, _flights_note(counts)),
        ("verdict", "Verdict", counts.flights_flipped > 0 and counts.flights_flipped == flights, "flipped" if counts.flights_flipped else ""),
    ]
    out, current = [], False
    for station, label, done, note in stops:
        if done:
            state: State = "done"
        elif station == "set_up" and counts.cracks and counts.setups >= 2:
            state = "stuck"
        else:
            state = "todo" if current else "current"
            current = True
        out.append(Stop(station, label, state, note))
    return tuple(out)


def _flights_note(counts: Counts) -> str:
    if counts.flights_closed:
        return f"{counts.flights_closed} to flip"
    if counts.flights_open:
        return f"{counts.flights_open} open"
    return counted(counts.flights_flipped, "flight") if counts.flights_flipped else ""


def _drafted(n: int) -> str:
    return "the drafted brew" if n == 1 else f"the {n} drafted brews"


def next_action(counts: Counts) -> tuple[Station, str]:
    """The one thing to do next, as a verb phrase, and where. Ready cups come before unfinished paperwork."""
    if counts.flights_closed:
        return "taste", "Enter the marks and flip the pennies"
    if counts.flights_open:
        return "taste", "Taste the open flight, then close it"
    if counts.setups < 2:
        return "set_up", "Describe the first setup" if not counts.setups else "Copy it and change one thing"
    if counts.drafted:
        return "brew", f"Make {_drafted(counts.drafted)}"
    if counts.drafted_unpoured:
        return "taste", f"Pour {_drafted(counts.drafted_unpoured)}"
    if counts.flights_flipped:
        return "verdict", "Read the verdict"
    if counts.brewed < counts.setups:
        return "brew", "Log the first brew" if not counts.runs else f"Brew the {counted(counts.setups - counts.brewed, 'setup')} still missing"
    if counts.read < counts.runs:
        return "measure", f"Read {counted(counts.runs - counts.read, 'brew')} with the refractometer"
    return "taste", "Make a blind flight"
