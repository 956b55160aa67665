"""Flights: watched, closed, flipped. One function reads the key, and only once the flip has made it known."""

from __future__ import annotations

from datetime import datetime

import peewee as pw

from ..act import Act
from ..core.tasting.sheets import PICK
from ..core.trial.value import ELSEWHERE
from ..history import service as history
from ..links import LinkMaker, token_of
from ..people import service as people
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import blind_keys, queries, seen_devices
from ..store.models import Bench, Flight, FlightBrew, Person, Run, Score, Setup, Sheet
from ..store.seen_devices import hash_of_token
from ..store.writing import use_case
from ..trials import service as trials
from . import cooling, events, making, seals, shapes
from . import schemas as s

__all__ = ["LinkMaker", "read_flight", "read_flights"]


def open_flight(flight_id: str) -> Flight:
    flight = Flight.get_or_none((Flight.id == flight_id) & Flight.deleted_at.is_null())
    if flight is None:
        raise NotFound("flight")
    trials.open_trial(flight.trial_id)
    return flight


def _locked(flight_id: str) -> Flight:
    """The flight, held until this transaction ends."""
    return Flight.select().where(Flight.id == open_flight(flight_id).id).for_update().get()


def open_sheet(sheet_id: str) -> Sheet:
    sheet = Sheet.get_or_none(Sheet.id == sheet_id)
    if sheet is None:
        raise NotFound("sheet")
    open_flight(sheet.flight_id)
    return sheet


def read_flights(trial_id: str, links: LinkMaker, now: datetime) -> s.FlightsAnswer:
    trial = trials.open_trial(trial_id)
    return s.FlightsAnswer(flights=shapes.shape_flights(queries.live_flights(trial_id), trial, links, now))


def read_flight(flight_id: str, links: LinkMaker, now: datetime) -> s.FlightAnswer:
    flight = open_flight(flight_id)
    return shapes.shape_flights([flight], flight.trial, links, now)[0]


# --- the table -----------------------------------------------------------------------------------------------------------


@use_case
def make_flight(trial_id: str, sent: s.FlightBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    flight = making.make_flight(trial_id, sent, links, act)
    return read_flight(flight.id, links, act.now)


@use_case
def add_taster(flight_id: str, sent: s.TasterBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """A late joiner gets an order of their own."""
    flight = _still_open(open_flight(flight_id))
    person = people.open_person(sent.person_id)
    seats = list(Sheet.select().where(Sheet.flight == flight.id))
    if any(x.person_id == person.id for x in seats):
        raise Conflict("person_id", f"{person.name} has a sheet in this flight.", "Give them a new link instead.")
    if seen_devices.saw_key(flight.id, [person.id]):
        raise Conflict("person_id", f"A device {person.name} uses has shown what is poured in this flight.", "Seat somebody who has not seen it.")
    if len(seats) >= 12:
        raise Conflict("person_id", "A flight seats twelve tasters.", "Make another flight.")
    cups = list(flight.cups)
    making.lay_sheet(flight, person, making.late_order(flight, cups, act), cups, links, act, late=True)
    if person.id == flight.created_by and not flight.host_tastes:
        Flight.update(host_tastes=True).where(Flight.id == flight.id).execute()
    history.record(flight, "add_taster", act=act, trial_id=flight.trial_id, after={"taster": person.name})
    events.note(flight.id, "seat", act)
    return read_flight(flight.id, links, act.now)


@use_case
def edit_flight(flight_id: str, sent: s.FlightPatch, rev: int, links: LinkMaker, act: Act) -> s.FlightAnswer:
    flight = open_flight(flight_id)
    values = {n: getattr(sent, n) for n in sent.model_fields_set}
    if values.get("host_tastes", True) is not True:
        raise Unprocessable("host_tastes", "Who has said they taste stays blind until the flip.", "Leave it as it is.")
    if values.get("host_tastes") and (getattr(seals_of(flight), "seen_by_host_at", None) or seen_devices.saw_key(flight.id, _host_of(flight, act))):
        raise Conflict("host_tastes", "The pour sheet was opened here, so it is too late to taste blind.", "Let others taste.")
    tastes = values.pop("host_tastes", None)
    history.edit(flight, values, rev=rev, act=act, trial_id=flight.trial_id)
    if tastes and not flight.host_tastes:
        Flight.update(host_tastes=True, rev=Flight.rev + 1).where(Flight.id == flight.id).execute()
        history.record(flight, "host_tastes", act=act, trial_id=flight.trial_id)  # an action of its own: it cannot be undone
    events.note(flight.id, "seat", act)
    return read_flight(flight.id, links, act.now)


@use_case
def read_temperature(flight_id: str, sent: s.TemperatureBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """One reading of the flight, or one of each cup. What can hardly be is asked for again before it is kept."""
    flight = _still_open(_locked(flight_id))
    if sent.cup_c is None and not sent.cups:
        raise Unprocessable("cup_c", "Nothing was read.", "Enter a temperature, such as 58, or one of each cup.")
    if sent.cup_c is not None and sent.cups:
        raise Unprocessable("cup_c", "Both the whole flight and single cups were read.", "Enter one temperature, or one of each cup.")
    known = {c.code for c in flight.cups}
    for i, one in enumerate(sent.cups):
        if one.code not in known:
            raise Unprocessable(f"cups.{i}.code", f"There is no cup {one.code} in this flight.", "Enter a code that stands on the table.")
    cups = {one.code: one.cup_c for one in sent.cups}
    if not sent.sure:
        cooling.refuse_unlikely(flight, cups or {"": sent.cup_c}, Bench.get_by_id(1).ambient_c, act)
    readings = cooling.with_cups(flight.cup_readings, cups, act) if cups else cooling.with_reading(flight.cup_readings, sent.cup_c, act)
    return _keep_readings(flight, readings, "read_temperature", links, act)


@use_case
def take_back_temperature(flight_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """The newest reading was none."""
    flight = _still_open(_locked(flight_id))
    if not flight.cup_readings:
        raise Conflict("", "No temperature was read in this flight.", "Read one.")
    return _keep_readings(flight, cooling.without_newest(flight.cup_readings), "take_back_temperature", links, act)


def _keep_readings(flight: Flight, readings: list[dict], action: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    newest = cooling.newest_c(readings)
    Flight.update(cup_readings=readings, cup_temperature_c=newest, rev=Flight.rev + 1).where(Flight.id == flight.id).execute()
    history.record(flight, action, act=act, trial_id=flight.trial_id, after={"cup_c": newest})
    events.note(flight.id, "temperature", act)
    return read_flight(flight.id, links, act.now)


def _host_of(flight: Flight, act: Act) -> list[str]:
    return [person for person in (flight.created_by, act.who) if person]


def seals_of(flight: Flight):
    return shapes.seals_by_flight([flight.id]).get(flight.id)


@use_case
def open_pass(flight_id: str, sent: s.PassBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """Open a pass early, or for want of a thermometer."""
    flight = _still_open(_locked(flight_id))
    if sent.name not in flight.passes:
        raise Unprocessable("name", "That pass is not asked for in this flight.", f"Open {', '.join(flight.passes)}.")
    Flight.update(opened={**flight.opened, sent.name: act.now.isoformat()}, rev=flight.rev + 1).where(Flight.id == flight.id).execute()
    history.record(flight, "open_pass", act=act, trial_id=flight.trial_id, after={"pass": sent.name})
    events.note(flight.id, "pass", act)
    return read_flight(flight.id, links, act.now)


@use_case
def set_shuffled(flight_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """The servers stand shuffled behind their code cards: from now on nobody can know which cup is which. Said twice, the first time counts."""
    flight = _still_open(_locked(flight_id))
    if flight.blinding != "shuffle":
        raise Conflict("", "Nothing is shuffled in this flight.", "Pour by its sheet.")
    if flight.shuffled_at is None:
        Flight.update(shuffled_at=act.now, rev=Flight.rev + 1).where(Flight.id == flight.id).execute()
        history.record(flight, "shuffled", act=act, trial_id=flight.trial_id)
        events.note(flight.id, "pass", act)
    return read_flight(flight.id, links, act.now)


@use_case
def remove_flight(flight_id: str, act: Act) -> str:
    flight = open_flight(flight_id)
    if flight.status == "flipped":
        history.record(flight, "verdict_then", act=act, trial_id=flight.trial_id, after={"verdict": queries.latest_headline(flight.trial_id)})
    return history.remove(flight, act=act, trial_id=flight.trial_id)


def _its_brews_are_there(flight: Flight) -> None:
    trials.open_trial(flight.trial_id)
    gone = [
        b
        for b in FlightBrew.select(FlightBrew, Run, Setup).join(Run).join(Setup).where(FlightBrew.flight == flight.id)
        if b.run.deleted_at or b.run.setup.deleted_at
    ]
    if gone:
        raise Conflict("", f"{len(gone)} of its brews were deleted since.", "Bring those brews back first.")


def _sits_still(flight: Flight, values: dict) -> None:
    """What was said of the cups' temperature can be taken back; who tastes cannot."""
    if "host_tastes" in values and flight.host_tastes:
        raise Conflict("host_tastes", "Who has said they taste stays blind until the flip.", "Leave it as it is.")


history.guard("flight", restore=_its_brews_are_there, edit=_sits_still)


@use_case
def renew_link(sheet_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """A new link; the old one stops working at once."""
    sheet = open_sheet(sheet_id)
    issue = sheet.issue + 1
    Sheet.update(issue=issue, token_hash=hash_of_token(token_of(links.secret, sheet.id, issue)), revoked_at=None).where(Sheet.id == sheet.id).execute()
    return _noted(sheet, "renew_link", links, act)


@use_case
def withdraw_link(sheet_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    sheet = open_sheet(sheet_id)
    Sheet.update(revoked_at=act.now).where(Sheet.id == sheet.id).execute()
    return _noted(sheet, "withdraw_link", links, act)


@use_case
def leave(sheet_id: str, sent: s.LeftBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """A taster leaves the table (or comes back). What they scored counts; the flight says what it costs."""
    sheet = open_sheet(sheet_id)
    _still_open(open_flight(sheet.flight_id))
    Sheet.update(left_at=act.now if sent.left else None).where(Sheet.id == sheet.id).execute()
    return _noted(sheet, "leave" if sent.left else "come_back", links, act)


def _noted(sheet: Sheet, action: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    flight, person = Flight.get_by_id(sheet.flight_id), Person.get_by_id(sheet.person_id)
    history.record(flight, action, act=act, trial_id=flight.trial_id, after={"taster": person.name})
    events.note(flight.id, "seat", act)
    return read_flight(flight.id, links, act.now)


# --- ending --------------------------------------------------------------------------------------------------------------


def _still_open(flight: Flight) -> Flight:
    if flight.status != "open":
        raise Conflict("", "This flight is closed: its scores are locked.", "Make another flight.")
    return flight


@use_case
def close_flight(flight_id: str, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """Lock all scores. Where the key was in sight all along, the flight is flipped at once."""
    flight = _still_open(_locked(flight_id))
    said = Score.value.is_null(False) | ((Score.attribute == PICK) & (Score.text != ""))
    if not Score.select().join(Sheet).where((Sheet.flight == flight.id) & said).exists():
        raise Conflict("", "Nobody has scored a cup yet.", "Wait for the first scores, or delete the flight.")
    sighted = flight.blinding in s.SIGHTED
    last = Score.select(pw.fn.MAX(Score.received_at)).join(Sheet).where(Sheet.flight == flight.id).scalar()
    at = max(act.now, last) if last else act.now  # a clock that was set back locks nothing before the last score
    Flight.update(status="flipped" if sighted else "closed", closed_at=at, flipped_at=at if sighted else None, rev=flight.rev + 1).where(
        Flight.id == flight.id
    ).execute()
    history.record(flight, "close", act=act, trial_id=flight.trial_id)
    events.note(flight.id, "close", act)
    return read_flight(flight.id, links, act.now)


@use_case
def flip(flight_id: str, sent: s.FlipBody, links: LinkMaker, act: Act) -> s.FlightAnswer:
    """Make the key known: by the marks found under the cards, or by opening the runner's seal.

    A mark typed wrongly is corrected by flipping again; the history keeps what was entered before.
    """
    flight = _locked(flight_id)
    if flight.blinding in s.SIGHTED:
        raise Conflict("", "This flight was tasted with labels in sight; there is no key to enter.", "Read the verdict.")
    if flight.blinding in ELSEWHERE:
        raise Conflict("", "This flight was tasted elsewhere; which cup was which came with its scores.", "Read the verdict.")
    if flight.status == "open":
        raise Conflict("", "Scores are not locked yet.", "Close the flight first; then turn the cups.")
    brews, cups = {b.mark: b for b in flight.brews}, {c.code: c for c in flight.cups}
    if flight.blinding == "runner":
        if sent.marks or flight.status == "flipped":
            raise Conflict("marks", "A runner's key is in its seal; no mark is entered.", "Read the verdict.")
        entered = seals.unseal(flight, links)
    else:
        entered = {m.code: m.mark for m in sent.marks}
        _check_marks(sent, entered, cups, brews)
    before = _key_in_words(flight) if flight.status == "flipped" else None
    if before == _marks_in_words(entered):
        return read_flight(flight.id, links, act.now)  # the same pennies turned by two hands at once, or once more
    blind_keys.write({cups[code].id: (brews[mark].run_id, mark) for code, mark in entered.items()})
    Flight.update(status="flipped", flipped_at=max(act.now, flight.closed_at), rev=flight.rev + 1).where(Flight.id == flight.id).execute()
    after = _marks_in_words(entered) | ({} if before is None else {"verdict": queries.latest_headline(flight.trial_id)})
    history.record(flight, "flip" if before is None else "correct_marks", act=act, trial_id=flight.trial_id, before=before, after=after)
    events.note(flight.id, "flip", act)
    return read_flight(flight.id, links, act.now)


def _check_marks(sent: s.FlipBody, entered: dict[str, int], cups: dict, brews: dict) -> None:
    codes, marks = set(cups), set(brews)
    if len(entered) < len(sent.marks) or set(entered) != codes:
        missing = ", ".join(sorted(codes - set(entered))) or "one is entered twice or is not of this flight"
        raise Unprocessable("marks", f"Every code needs its mark: {missing}.", "Turn each cup and enter the mark under its card.")
    if set(entered.values()) != marks:
        raise Unprocessable("marks", "Each mark stands under exactly one code.", f"Enter each of {', '.join(map(str, sorted(marks)))} once.")
    for code, mark in entered.items():
        if brews[mark].round_no != cups[code].round_no:
            raise Unprocessable("marks", f"Mark {mark} is not of the round in which {code} was tasted.", "Look at that cup again.")


def _marks_in_words(entered: dict[str, int]) -> dict[str, str]:
    return {code: f"mark {mark}" for code, mark in sorted(entered.items())}


def _key_in_words(flight: Flight) -> dict[str, str]:
    mark_of = {b.run_id: b.mark for b in flight.brews}  # flights flipped before marks were kept had one mark a brew
    return _marks_in_words({c.code: c.mark or mark_of[c.run_id] for c in blind_keys.cups_of_flights([flight.id])[flight.id]})
