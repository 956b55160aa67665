"""A panel's scores from somebody's own table, written as flights that were tasted elsewhere."""

from __future__ import annotations

import re
import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from ..act import Act
from ..core.importing.scores import Poured, ReadFlight, ReadSetup, Tasting
from ..core.tasting.codes import draw_codes
from ..core.tasting.sheets import WORDS
from ..core.vocabulary import ATTRIBUTES, PASSES, Blinding
from ..history import service as history
from ..store.models import Flight, FlightBrew, FlightCup, Person, Run, Score, Setup, Sheet, SheetCup, Trial
from ..store.seen_devices import hash_of_token
from ..store.writing import insert
from ..trials import service as trials
from ..trials.revisions import State, blank
from .writing import KIT_KINDS, KitOfTable, readings_of, run_of, utc

SAID_SO = uuid.UUID("6d0a3c54-5a1e-4b8e-9f57-1a6d0a7a1c55")
"""The space of the names that rows of such tables get: the same row of the same question is the same score."""
OWN_CODE = re.compile(r"[1-9]\d\d", re.ASCII)


def uuids_of(question: str, flight: ReadFlight) -> dict[tuple[int, str], str]:
    """(place of the tasting in the flight, attribute) → the score's own id: by what it says of what, whatever else stands in the table."""
    day = flight.day.date().isoformat() if flight.day else ""
    out = {}
    for i, t in enumerate(flight.tastings):
        for attribute, said in (*((a, repr(round(value, 2))) for a, value in t.scores.items()), *(((WORDS, t.words),) if t.words else ())):
            name = (
                f"{question}\x1f{flight.name}\x1f{day}\x1f{t.taster}\x1f{t.setup}\x1f{t.brew}\x1f{t.cup}\x1f{t.pass_name}\x1f{attribute}\x1f{said}".casefold()
            )
            out[i, attribute] = str(uuid.uuid5(SAID_SO, name))
    return out


@dataclass
class WrittenScores:
    flights: int = 0
    brews: int = 0
    scores: int = 0


def people_by_name() -> dict[str, str]:
    """Folded name → person."""
    return {p.name.casefold(): p.id for p in Person.select().where(Person.deleted_at.is_null())}


def write_flights(trial: Trial, setups: Sequence[ReadSetup], flights: Sequence[ReadFlight], blinding: Blinding, act: Act) -> WrittenScores:
    """Inside the caller's transaction, the trial locked."""
    written = WrittenScores()
    by_name = _setups(trial, setups, flights, act)
    people = _people(flights, act)
    number = Flight.select().where(Flight.trial == trial.id).count()
    for n, read in enumerate(flights, start=number + 1):
        runs = _runs(trial, read.poured, by_name, act)
        flight = _flight(trial, n, read, blinding, act)
        history.add(flight, act=act, trial_id=trial.id)
        cups = _cups(flight, read, runs, act)
        written.scores += _sheets(trial, flight, read, cups, people, act)
        written.flights, written.brews = written.flights + 1, written.brews + len(runs)
    return written


def _setups(trial: Trial, setups: Sequence[ReadSetup], flights: Sequence[ReadFlight], act: Act) -> dict[str, Setup]:
    """Name → the trial's setup of that name, made where it has none: with the amounts of its first brew."""
    there = {s.name.casefold(): s for s in Setup.select().where((Setup.trial == trial.id) & Setup.deleted_at.is_null())}
    first: dict[str, Poured] = {}
    for poured in (p for f in flights for p in f.poured):
        first.setdefault(poured.setup, poured)
    made_of, out = KitOfTable(act), {}
    for setup in setups:
        if setup.name not in first:
            continue
        if setup.name.casefold() not in there:
            brew = first[setup.name].brew
            named = {k: made_of.spelt(k, v) if k in KIT_KINDS else v for k, v in setup.values.items()}
            amounts = {name: getattr(brew, name) for name in ("dose_g", "brew_water_g", "bypass_g", "temperature_c")}
            state = State(blank()).changed(named | amounts)
            there[setup.name.casefold()] = trials.put_in(trial, state, act, name=setup.name, letter=setup.letter, new_kit=KIT_KINDS)
        out[setup.name] = Setup.get_by_id(there[setup.name.casefold()].id)
    return out


def _people(flights: Sequence[ReadFlight], act: Act) -> dict[str, str]:
    known, out = people_by_name(), {}
    for name in dict.fromkeys(t for f in flights for t in f.tasters):
        if name.casefold() not in known:
            person = Person(id=act.new_id(), name=name, created_at=act.now)
            history.add(person, act=act, trial_id=None)
            known[name.casefold()] = person.id
        out[name] = known[name.casefold()]
    return out


def _runs(trial: Trial, poured: Sequence[Poured], setups: Mapping[str, Setup], act: Act) -> dict[tuple[str, str], Run]:
    """(setup, brew) as the table calls them → the brew, numbered on from what the setup has."""
    out: dict[tuple[str, str], Run] = {}
    readings = []
    for p in poured:
        setup = setups[p.setup]
        setup.brews_given += 1
        run = run_of(p.brew, setup, setup.revision_id, act, number=setup.brews_given, purpose="evidence")
        out[p.setup, p.label] = run
        readings += readings_of(p.brew, run, act)
    history.add_many(list(out.values()), act=act, trial_id=trial.id)
    history.add_many(readings, act=act, trial_id=trial.id)
    for setup in {setups[p.setup].id: setups[p.setup] for p in poured}.values():
        Setup.update(brews_given=setup.brews_given).where(Setup.id == setup.id).execute()
    return out


def _flight(trial: Trial, number: int, read: ReadFlight, blinding: Blinding, act: Act) -> Flight:
    at = _at(read, act)
    scored = {a for t in read.tastings for a in t.scores}
    return Flight(
        id=act.new_id(),
        trial=trial.id,
        number=number,
        blinding=blinding,
        status="flipped",
        method="scores",
        attributes=[a.code for a in ATTRIBUTES if a.code in scored],
        passes=[p.code for p in PASSES if p.code in read.passes] or [""],
        options={},
        host_tastes=False,
        cup_readings=[],
        created_at=act.now,
        closed_at=at,
        flipped_at=at,
        created_by=act.who,
    )


def _at(read: ReadFlight, act: Act) -> datetime:
    return utc(read.day) or act.now


def _cups(flight: Flight, read: ReadFlight, runs: Mapping[tuple[str, str], Run], act: Act) -> dict[tuple[str, str, str], str]:
    """(setup, brew, cup) → cup id. A cup keeps the code it had on the table where it was one. These codes stand on no table here, so they use up none of the trial's."""
    laid = [(p.setup, p.label, cup) for p in read.poured for cup in p.cups]
    own = [cup for _, _, cup in laid]
    keep = len(set(own)) == len(own) and all(OWN_CODE.fullmatch(c) for c in own)
    codes = own if keep else draw_codes(len(laid), act.rng)
    ids = {place: act.new_id() for place in laid}
    brews = [{"id": act.new_id(), "flight": flight.id, "run": runs[s, b].id, "mark": mark, "round_no": 1} for mark, (s, b, _) in enumerate(laid, start=1)]
    cups = [
        {"id": ids[s, b, c], "flight": flight.id, "code": code, "run": runs[s, b].id, "mark": mark, "round_no": 1}
        for mark, ((s, b, c), code) in enumerate(zip(laid, codes, strict=True), start=1)
    ]
    for model, rows in ((FlightBrew, brews), (FlightCup, cups)):
        insert(model, rows)
    return ids


def _sheets(trial: Trial, flight: Flight, read: ReadFlight, cups: Mapping[tuple[str, str, str], str], people: Mapping[str, str], act: Act) -> int:
    """A sheet for each taster, without a link that opens it. How many scores stand on them."""
    ids, at = uuids_of(trial.question, read), _at(read, act)
    by_taster: dict[str, list[tuple[int, Tasting]]] = defaultdict(list)
    for i, t in enumerate(read.tastings):
        by_taster[t.taster].append((i, t))
    sheets, order, scores = [], [], []
    for name, rows in by_taster.items():
        sheet = {"id": act.new_id(), "flight": flight.id, "person": people[name], "issue": 1, "late": False, "created_at": act.now, "revoked_at": act.now}
        sheets.append(sheet | {"token_hash": hash_of_token(act.new_id() + act.new_id())})
        places = {cups[t.setup, t.brew, t.cup]: t.position for _, t in rows}
        order += [{"id": act.new_id(), "sheet": sheet["id"], "cup": cup, "position": place} for cup, place in places.items()]
        for i, t in rows:
            said = [(a, value, "") for a, value in t.scores.items()] + ([(WORDS, None, t.words[:500])] if t.words else [])
            scores += [
                {
                    "id": act.new_id(), "sheet": sheet["id"], "cup": cups[t.setup, t.brew, t.cup], "attribute": a, "pass_name": t.pass_name, "value": value,
                    "text": text, "uuid": ids[i, a], "seq": 1, "received_at": at,
                }
                for a, value, text in said
            ]  # fmt: skip
    for model, rows in ((Sheet, sheets), (SheetCup, order), (Score, scores)):
        insert(model, rows)
    return sum(row["value"] is not None for row in scores)
