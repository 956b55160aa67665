"""Flights: made, watched, closed, flipped. One function reads the key, and only once the flip has made it known."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from ..act import Act
from ..brewing import service as brewing
from ..core.codes import draw_codes, order_is_balanced, taster_orders
from ..history import service as history
from ..people import service as people
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.connection import database
from ..store.models import Flight, FlightBrew, FlightCup, Person, Run, Score, Setup, Sheet, SheetCup
from ..trials import service as trials
from . import cooling
from . import schemas as s
from .links import hash_of, token_of

DELETED_BREW = ("?", "deleted brew")


@dataclass(frozen=True)
class LinkMaker:
    """The bench's secret and the address its links begin with."""

    secret: bytes
    base: str

    def link(self, sheet: Sheet) -> str | None:
        return None if sheet.revoked_at else f"{self.base}/t/{token_of(self.secret, sheet.id, sheet.issue)}"


def open_flight(flight_id: str) -> Flight:
    flight = Flight.get_or_none((Flight.id == flight_id) & Flight.deleted_at.is_null())
    if flight is None:
        raise NotFound("flight")
    trials.open_trial(flight.trial_id)
    return flight


def open_sheet(sheet_id: str) -> Sheet:
    sheet = Sheet.get_or_none(Sheet.id == sheet_id)
    if sheet is None:
        raise NotFound("sheet")
    open_flight(sheet.flight_id)
    return sheet


# --- making --------------------------------------------------------------------------------------------------------------


@database.atomic()
def make_flight(trial_id: str, sent: s.FlightBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    trial = trials.open_trial(trial_id)
    runs = _runs_of(trial.id, sent.run_ids)
    tasters = [people.open_person(p) for p in _once(sent.taster_ids, "taster_ids", "taster")]
    flight = Flight(
        id=act.new_id(),
        trial=trial.id,
        number=Flight.select().where(Flight.trial == trial.id).count() + 1,
        blinding=sent.blinding,
        status="open",
        attributes=list(dict.fromkeys(sent.attributes)),
        cup_temperature_c=sent.cup_temperature_c,
        cup_readings=cooling.with_reading([], sent.cup_temperature_c, act),
        created_at=act.now,
        created_by=act.who,
    )
    history.add(flight, act=act, trial_id=trial.id)
    for mark, run in enumerate(runs, start=1):
        FlightBrew.create(id=act.new_id(), flight=flight.id, run=run.id, mark=mark)
    cups = _lay_cups(flight, runs, act)
    orders = taster_orders([c.code for c in cups], len(tasters), act.rng)
    for person, order in zip(tasters, orders, strict=True):
        _lay_sheet(flight, person, order, cups, links, act)
    return read_flight(flight.id, links)


def _once(ids: list[str], field: str, what: str) -> list[str]:
    if len(set(ids)) < len(ids):
        raise Unprocessable(field, f"The same {what} is in it twice.", "Name each once.")
    return ids


def _runs_of(trial_id: str, run_ids: list[str]) -> list[Run]:
    runs = [brewing.open_run(run_id) for run_id in _once(run_ids, "run_ids", "brew")]
    if any(run.trial_id != trial_id for run in runs):
        raise Unprocessable("run_ids", "One of the brews is of another trial.", "Choose brews of this trial.")
    if any(run.purpose == "dial_in" for run in runs):
        raise Unprocessable("run_ids", "A dial-in brew is not evidence.", "Pour brews that were logged to count.")
    if len({run.setup_id for run in runs}) < 2:
        raise Unprocessable("run_ids", "All the brews are of one setup, so nothing is compared.", "Add a brew of another setup.")
    letters = {setup.id: setup.letter for setup, _ in queries.setups_with_revisions(trial_id)}
    return sorted(runs, key=lambda run: (letters.get(run.setup_id, "~"), run.number))


def _lay_cups(flight: Flight, runs: list[Run], act: Act) -> list[FlightCup]:
    """Codes for the cups. In a blind flight they belong to no brew yet; in an open one to the brews in turn."""
    used = {c.code for c in FlightCup.select(FlightCup.code).join(Flight).where(Flight.trial == flight.trial_id)}
    codes = draw_codes(len(runs), act.rng, used=used)
    known = flight.blinding == "open"
    return [FlightCup.create(id=act.new_id(), flight=flight.id, code=code, run=run.id if known else None) for code, run in zip(codes, runs, strict=True)]


def _lay_sheet(flight: Flight, person: Person, order: list[str], cups: list[FlightCup], links: LinkMaker, act: Act) -> Sheet:
    sheet_id, by_code = act.new_id(), {c.code: c for c in cups}
    sheet = Sheet.create(id=sheet_id, flight=flight.id, person=person.id, issue=1, token_hash=hash_of(token_of(links.secret, sheet_id, 1)), created_at=act.now)
    for position, code in enumerate(order, start=1):
        SheetCup.create(id=act.new_id(), sheet=sheet.id, cup=by_code[code].id, position=position)
    return sheet


@database.atomic()
def add_taster(flight_id: str, sent: s.TasterBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """A late joiner gets an order of their own."""
    flight = _still_open(open_flight(flight_id))
    person = people.open_person(sent.person_id)
    if Sheet.select().where((Sheet.flight == flight.id) & (Sheet.person == person.id)).exists():
        raise Conflict("person_id", f"{person.name} has a sheet in this flight.", "Give them a new link instead.")
    if Sheet.select().where(Sheet.flight == flight.id).count() >= 12:
        raise Conflict("person_id", "A flight seats twelve tasters.", "Make another flight.")
    cups = list(flight.cups)
    _lay_sheet(flight, person, taster_orders([c.code for c in cups], 1, act.rng)[0], cups, links, act)
    history.record(flight, "add_taster", act=act, trial_id=flight.trial_id, after={"taster": person.name})
    return read_flight(flight.id, links)


@database.atomic()
def edit_flight(flight_id: str, sent: s.FlightPatch, rev: int, links: LinkMaker, act: Act) -> s.FlightAnswer:
    flight = open_flight(flight_id)
    values = {n: getattr(sent, n) for n in sent.model_fields_set}
    if sent.cup_temperature_c is not None:
        values["cup_readings"] = cooling.with_reading(flight.cup_readings, sent.cup_temperature_c, act)
    history.edit(flight, values, rev=rev, act=act, trial_id=flight.trial_id)
    return read_flight(flight.id, links)


@database.atomic()
def remove_flight(flight_id: str, act: Act) -> str:
    flight = open_flight(flight_id)
    return history.remove(flight, act=act, trial_id=flight.trial_id)


@database.atomic()
def renew_link(sheet_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """A new link; the old one stops working at once."""
    sheet = open_sheet(sheet_id)
    issue = sheet.issue + 1
    Sheet.update(issue=issue, token_hash=hash_of(token_of(links.secret, sheet.id, issue)), revoked_at=None).where(Sheet.id == sheet.id).execute()
    history.record(sheet.flight, "renew_link", act=act, trial_id=sheet.flight.trial_id, after={"taster": sheet.person.name})
    return read_flight(sheet.flight_id, links)


@database.atomic()
def withdraw_link(sheet_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    sheet = open_sheet(sheet_id)
    Sheet.update(revoked_at=act.now).where(Sheet.id == sheet.id).execute()
    history.record(sheet.flight, "withdraw_link", act=act, trial_id=sheet.flight.trial_id, after={"taster": sheet.person.name})
    return read_flight(sheet.flight_id, links)


# --- ending --------------------------------------------------------------------------------------------------------------


def _still_open(flight: Flight) -> Flight:
    if flight.status != "open":
        raise Conflict("", "This flight is closed: its scores are locked.", "Make another flight.")
    return flight


@database.atomic()
def close_flight(flight_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """Lock all scores. An open flight's key was in sight all along, so it is flipped at once."""
    flight = _still_open(Flight.select().where(Flight.id == open_flight(flight_id).id).for_update().get())
    if not Score.select().join(Sheet).where((Sheet.flight == flight.id) & Score.value.is_null(False)).exists():
        raise Conflict("", "Nobody has scored a cup yet.", "Wait for the first scores, or delete the flight.")
    sighted = flight.blinding == "open"
    Flight.update(status="flipped" if sighted else "closed", closed_at=act.now, flipped_at=act.now if sighted else None, rev=flight.rev + 1).where(
        Flight.id == flight.id
    ).execute()
    history.record(flight, "close", act=act, trial_id=flight.trial_id)
    return read_flight(flight.id, links)


@database.atomic()
def flip(flight_id: str, sent: s.FlipBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """Enter which mark was under which code and make the key known, in one step: before it the program knows nothing.

    A mark typed wrongly is corrected by flipping again; the history keeps what was entered before.
    """
    flight = Flight.select().where(Flight.id == open_flight(flight_id).id).for_update().get()
    if flight.blinding != "shuffle":
        raise Conflict("", "This flight was tasted with labels in sight; there is no key to enter.", "Read the verdict.")
    if flight.status == "open":
        raise Conflict("", "Scores are not locked yet.", "Close the flight first; then turn the cups.")
    brews = {b.mark: b.run_id for b in flight.brews}
    cups = {c.code: c for c in flight.cups}
    entered = {m.code: m.mark for m in sent.marks}
    _check_marks(sent, entered, set(cups), set(brews))
    before = _key_in_words(flight) if flight.status == "flipped" else None
    for code, mark in entered.items():
        FlightCup.update(run=brews[mark]).where(FlightCup.id == cups[code].id).execute()
    Flight.update(status="flipped", flipped_at=act.now, rev=flight.rev + 1).where(Flight.id == flight.id).execute()
    history.record(flight, "flip" if before is None else "correct_marks", act=act, trial_id=flight.trial_id, before=before, after=_marks_in_words(entered))
    return read_flight(flight.id, links)


def _check_marks(sent: s.FlipBody, entered: dict[str, int], codes: set[str], marks: set[int]) -> None:
    if len(entered) < len(sent.marks) or set(entered) != codes:
        missing = ", ".join(sorted(codes - set(entered))) or "one is entered twice or is not of this flight"
        raise Unprocessable("marks", f"Every code needs its mark: {missing}.", "Turn each cup and enter the mark under its card.")
    if set(entered.values()) != marks:
        raise Unprocessable("marks", "Each mark stands under exactly one code.", f"Enter each of {', '.join(map(str, sorted(marks)))} once.")


def _marks_in_words(entered: dict[str, int]) -> dict[str, str]:
    return {code: f"mark {mark}" for code, mark in sorted(entered.items())}


def _key_in_words(flight: Flight) -> dict[str, str]:
    mark_of = {b.run_id: b.mark for b in flight.brews}
    return _marks_in_words({c.code: mark_of[c.run_id] for c in flight.cups})


# --- watching ------------------------------------------------------------------------------------------------------------


def key_of(flight: Flight, cups: Iterable[FlightCup]) -> dict[str, str]:
    """Cup id → run id: the one reader of the key. Empty for a blind flight before its flip, whoever asks."""
    if flight.blinding == "shuffle" and flight.status != "flipped":
        return {}
    return {c.id: c.run_id for c in cups if c.run_id}


def read_flights(trial_id: str, links: LinkMaker) -> s.FlightsAnswer:
    trials.open_trial(trial_id)
    return s.FlightsAnswer(flights=_shapes(queries.live_flights(trial_id), trial_id, links))


def read_flight(flight_id: str, links: LinkMaker) -> s.FlightAnswer:
    flight = open_flight(flight_id)
    return _shapes([flight], flight.trial_id, links)[0]


def _shapes(flights: list[Flight], trial_id: str, links: LinkMaker) -> list[s.FlightAnswer]:
    """All flights of a trial in a handful of queries. Cups by code, sheets by name: nothing in an order that could tell."""
    if not flights:
        return []
    ids = [f.id for f in flights]
    by_cup, by_sheet = queries.liking_counts(trial_id)
    labels = run_labels(trial_id)
    cups = _by_flight(FlightCup.select().where(FlightCup.flight.in_(ids)).order_by(FlightCup.code))
    sheets = _by_flight(Sheet.select(Sheet, Person).join(Person).where(Sheet.flight.in_(ids)).order_by(Person.name))
    brews = _by_flight(FlightBrew.select().where(FlightBrew.flight.in_(ids)).order_by(FlightBrew.mark))
    out = []
    for flight in flights:
        key = key_of(flight, cups[flight.id])
        shown = [_shape_cup(cup, by_cup[cup.id], labels.get(key[cup.id], DELETED_BREW) if cup.id in key else (None, None)) for cup in cups[flight.id]]
        marks = [s.MarkShown(mark=b.mark, run_id=b.run_id, letter=at[0], label=at[1]) for b in brews[flight.id] for at in [labels.get(b.run_id, DELETED_BREW)]]
        seats = [s.SheetShown(id=x.id, person_id=x.person_id, name=x.person.name, scored=by_sheet[x.id], link=links.link(x)) for x in sheets[flight.id]]
        out.append(_shape(flight, shown, marks, seats))
    return out


def _by_flight(rows) -> dict[str, list]:
    out: dict[str, list] = defaultdict(list)
    for row in rows:
        out[row.flight_id].append(row)
    return out


def _shape_cup(cup: FlightCup, scored: int, at: tuple[str | None, str | None]) -> s.CupShown:
    return s.CupShown(code=cup.code, scored=scored, letter=at[0], label=at[1])


def _shape(flight: Flight, cups: list[s.CupShown], marks: list[s.MarkShown], sheets: list[s.SheetShown]) -> s.FlightAnswer:
    return s.FlightAnswer(
        id=flight.id,
        trial_id=flight.trial_id,
        number=flight.number,
        blinding=flight.blinding,
        status=flight.status,
        attributes=flight.attributes,
        cup_temperature_c=flight.cup_temperature_c,
        passes=cooling.passes(flight),
        cups=cups,
        marks=marks,
        sheets=sheets,
        touches=len(cups) * (2 + len(flight.attributes)),
        balanced=order_is_balanced(len(cups), len(sheets)),
        created_at=flight.created_at,
        closed_at=flight.closed_at,
        flipped_at=flight.flipped_at,
        rev=flight.rev,
    )


def run_labels(trial_id: str) -> dict[str, tuple[str, str]]:
    """Run id → (letter, "A2 · Thick crêpe")."""
    rows = queries.setups_with_revisions(trial_id)
    names = trials.display_names(trials.open_trial(trial_id), rows)
    letters = {setup.id: setup.letter for setup, _ in rows}
    runs = Run.select(Run.id, Run.setup, Run.number).join(Setup).where((Run.trial == trial_id) & Setup.deleted_at.is_null())
    return {run.id: (letters[run.setup_id], f"{letters[run.setup_id]}{run.number} · {names[run.setup_id]}") for run in runs}
