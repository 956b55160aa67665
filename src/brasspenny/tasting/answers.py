"""Answers of methods other than scores, once the key is known: right or wrong, who preferred what, in which order."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from ..core.judging.discrimination import Discriminated, discriminate
from ..core.tasting.flights import DISCRIMINATION, is_right
from ..core.tasting.sheets import NO_PREFERENCE, PICK
from ..store.models import Flight, FlightCup, Person, Run, Score, Sheet
from .schemas import SIGHTED


@dataclass(frozen=True)
class Picked:
    """One taster's answer in one round. right: None where there is no right or wrong; tie: no preference."""

    flight: Flight
    person_id: str
    person: str
    round: int
    codes: tuple[str, ...]
    runs: dict[str, str]
    right: bool | None
    tie: bool


def picked_in(flights: Sequence[Flight]) -> list[Picked]:
    """All answers of flipped flights, in a fixed order."""
    ids = [f.id for f in flights if f.status == "flipped"]
    if not ids:
        return []
    brews: dict[tuple[str, int], dict[str, str]] = defaultdict(dict)
    for cup in FlightCup.select().where(FlightCup.flight.in_(ids) & FlightCup.run.is_null(False)):
        brews[cup.flight_id, cup.round_no][cup.code] = cup.run_id
    by_id = {f.id: f for f in flights}
    rows = (
        Score.select(Sheet.flight, Sheet.person, Person.name, FlightCup.round_no, Score.text)
        .join(Sheet)
        .join(Person)
        .switch(Score)
        .join(FlightCup)
        .where(Sheet.flight.in_(ids) & (Score.attribute == PICK) & (Score.text != ""))
        .order_by(Sheet.flight, Person.name, FlightCup.round_no)
        .tuples()
    )
    return [_picked(by_id[flight], person_id, person, number, text, brews[flight, number]) for flight, person_id, person, number, text in rows]


def _picked(flight: Flight, person_id: str, person: str, number: int, text: str, runs: dict[str, str]) -> Picked:
    tie = text == NO_PREFERENCE
    codes = () if tie else tuple(text.split(","))
    right = None
    if flight.method in DISCRIMINATION:
        reference = flight.options.get("references", {}).get(str(number))
        stronger = _same_setup_in(runs, flight.options.get("stronger_run_id")) if flight.method == "two_afc" else None
        right = is_right(flight.method, codes, runs, reference=reference, stronger=stronger)
    return Picked(flight, person_id, person, number, codes, runs, right, tie)


def _same_setup_in(runs: dict[str, str], expected: str | None) -> str | None:
    """The brew of the round whose setup is expected to have more: replicate brews take their turn in rounds."""
    setups = dict(Run.select(Run.id, Run.setup).where(Run.id.in_([*runs.values(), expected or ""])).tuples())
    return next((run for run in runs.values() if setups.get(run) == setups.get(expected)), None)


@dataclass(frozen=True)
class ToldApart:
    """The answers of one method, sighted or blind, pooled over flights. tasters: how many people gave them."""

    method: str
    sighted: bool
    flights: int
    tasters: int
    correct: int
    n: int
    found: Discriminated


def tell_apart(flights: Sequence[Flight]) -> list[ToldApart]:
    """Per method, blind first; replicate answers of one taster are counted and said, not hidden."""
    grouped: dict[tuple[str, bool], list[Picked]] = defaultdict(list)
    for one in picked_in(flights):
        if one.right is not None:
            grouped[one.flight.method, one.flight.blinding in SIGHTED].append(one)
    out = []
    for (method, sighted), rows in sorted(grouped.items(), key=lambda x: (x[0][1], x[0][0])):
        right = sum(r.right for r in rows)
        out.append(
            ToldApart(
                method, sighted, len({r.flight.id for r in rows}), len({r.person_id for r in rows}), right, len(rows), discriminate(method, len(rows), right)
            )
        )
    return out


def told_apart(trial_id: str) -> bool | None:
    """Whether a blind discrimination flight of the trial showed a difference; None without answers."""
    flights = list(Flight.select().where((Flight.trial == trial_id) & Flight.deleted_at.is_null() & Flight.method.in_(sorted(DISCRIMINATION))))
    found = [t for t in tell_apart(flights) if not t.sighted]
    return None if not found else any(t.found.p_value <= 0.05 for t in found)
