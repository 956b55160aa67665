"""A taster's own sheet, by their link: read it, score on it. Knows codes, never brews (but in an open flight)."""

from __future__ import annotations

from datetime import datetime

from ..act import Act
from ..core.tasting import roles
from ..core.tasting.flights import DISCRIMINATION, IN_ROUNDS, picks_wanted
from ..core.tasting.sheets import BY_EYE, FIRST_SIP, GUESS, JAR_PREFIX, LIKING, NO_PREFERENCE, PICK, RANK, SCALES, WORDS, refuse_value
from ..core.tasting.words import SHELF
from ..core.trial.setups import display_names
from ..core.vocabulary import METHODS
from ..refusals import Conflict, LinkRefused, Unprocessable
from ..store import blind_keys, queries, seen_devices
from ..store.connection import database
from ..store.models import Bench, Flight, FlightCup, LateScore, Score, Seal, Sheet, SheetCup, Trial
from ..store.seen_devices import hash_of_token
from ..store.writing import use_case
from ..trials import service as trials
from . import cooling, events
from . import sheet_schemas as s
from .labels import run_labels


def open_by_token(token: str) -> Sheet:
    """The sheet a link opens. Raises LinkRefused for an unknown, withdrawn or deleted one, all alike."""
    sheet = Sheet.get_or_none((Sheet.token_hash == hash_of_token(token)) & Sheet.revoked_at.is_null())
    if sheet is None:
        raise LinkRefused
    live = Flight.select().join(Trial).where((Flight.id == sheet.flight_id) & Flight.deleted_at.is_null() & Trial.deleted_at.is_null())
    if not live.exists():
        raise LinkRefused
    return sheet


def taste_on(token: str, device: str, now: datetime) -> None:
    """This device tastes in the link's flight from now on. Raises Conflict where it has shown what is poured there."""
    sheet = open_by_token(token)
    been = _may_taste(sheet, device)
    if not been.tasted or not (been.bench or sheet.person_id in been.people):
        _begin_to_taste(token, device, now)


def _may_taste(sheet: Sheet, device: str) -> roles.DeviceSeen:
    been = seen_devices.seen(device, sheet.flight_id)
    if sheet.flight.status == "flipped":
        return been
    if not roles.may_taste(been):
        raise Conflict("", "This device has shown what is poured in this flight, so nobody can taste blind on it.", "Open the link on another device.")
    if not roles.may_taste(been, taster_was_shown=seen_devices.was_shown_key(sheet.flight_id, sheet.person_id)):
        raise Conflict("", f"A device that {sheet.person.name} used has shown what is poured in this flight.", "Let somebody taste who has not seen it.")
    return been


@use_case
def _begin_to_taste(token: str, device: str, now: datetime) -> None:
    """Alone on the bench, so that a pour sheet asked for at the same moment is given or this one, never both."""
    sheet = open_by_token(token)
    seen_devices.note_taster(_may_taste(sheet, device), device, sheet.flight_id, sheet.person_id, now)


def read_sheet(token: str, now: datetime) -> s.SheetAnswer:
    sheet, bench = open_by_token(token), Bench.get_by_id(1)
    flight, options = sheet.flight, sheet.flight.options
    cups = [row.cup for row in SheetCup.select(SheetCup, FlightCup).join(FlightCup).where(SheetCup.sheet == sheet.id).order_by(SheetCup.position)]
    scores: dict[str, list[s.ScoreShown]] = {}
    last_seq = 0
    for score in Score.select().where(Score.sheet == sheet.id).order_by(Score.pass_name, Score.attribute):
        shown = s.ScoreShown(attribute=score.attribute, pass_name=score.pass_name, value=score.value, text=score.text)
        scores.setdefault(score.cup_id, []).append(shown)
        last_seq = max(last_seq, score.seq)
    names = _sighted_names(flight)
    sealed = Seal.get_or_none(Seal.flight == flight.id)
    named = options.get("named_attribute")
    return s.SheetAnswer(
        bench=bench.name,
        flight=flight.number,
        taster=sheet.person.name,
        status="open" if flight.status == "open" else "closed",
        blinding=flight.blinding,
        method=flight.method,
        cup_temperature_c=flight.cup_temperature_c,
        passes=[_pass(p) for p in cooling.passes(flight, bench.ambient_c, now) if p.asked],
        attributes=[_scale(code) for code in (*flight.attributes, LIKING)] if flight.method == "scores" else [],
        jar=[s.JarShown(code=code, label=SCALES[code].label) for code in options.get("jar", [])],
        guesses=_guesses(flight) if options.get("guess") else [],
        named_attribute=_scale(named) if named else None,
        posed=METHODS[flight.method].posed.format(more=SCALES[named].label.lower() if named else ""),
        how=METHODS[flight.method].how,
        picks=METHODS[flight.method].picks,
        sip_temperature=options.get("sip_temperature", False),
        cleanser=options.get("cleanser", True),
        liking_last=options.get("liking_last", False),
        rest_s=options.get("rest_s", 0),
        cups=[s.SheetCupShown(code=cup.code, label=names.get(cup.id), scores=scores.get(cup.id, [])) for cup in cups],
        rounds=_rounds(flight, cups) if flight.method in IN_ROUNDS else [],
        shelf=[s.ShelfGroup(group=group, words=list(words)) for group, words in SHELF.items()],
        commitment=sealed.commitment if sealed else None,
        last_seq=last_seq,
    )


def _pass(p) -> s.SheetPassShown:
    return s.SheetPassShown(name=p.name, from_c=p.from_c, to_c=p.to_c, open=p.open, closed=p.closed, opens_at=p.opens_at)


def _scale(code: str) -> s.AttributeShown:
    return s.AttributeShown(**vars(SCALES[code]))


def _guesses(flight: Flight) -> list[s.GuessShown]:
    rows = queries.setups_with_revisions(flight.trial_id)
    names = display_names(trials.factors_of(flight.trial), rows)
    return [s.GuessShown(letter=setup.letter, label=names[setup.id]) for setup, _ in rows]


def _rounds(flight: Flight, cups: list[FlightCup]) -> list[s.SheetRoundShown]:
    references = flight.options.get("references", {})
    out = []
    for number in sorted({c.round_no for c in cups}):
        codes = [c.code for c in cups if c.round_no == number]
        out.append(s.SheetRoundShown(number=number, codes=codes, cell=min(codes), reference=str(number) in references))
    return out


def _sighted_names(flight: Flight) -> dict[str, str]:
    """Labels for an open flight only; a blind sheet stays blind even after the flip."""
    if flight.blinding != "open":
        return {}
    labels = run_labels(flight.trial_id)
    cups = blind_keys.cups_of_flights([flight.id]).get(flight.id, ())
    return {cup.id: labels[cup.run_id][1] for cup in cups if cup.run_id in labels}


# --- scoring -----------------------------------------------------------------------------------------------------------


@database.atomic()
def score(token: str, sent: s.ScoresBody, act: Act) -> s.ScoresAnswer:
    """Keep the newest of each cell. Replays and stragglers change nothing and are acknowledged all the same."""
    sheet = open_by_token(token)
    flight = _held(sheet)
    if flight.status != "open":
        raise Conflict("", "The flight is closed: its scores are locked.", "What did not arrive can still be sent as late; it is shown apart.")
    cups = _checked(sheet, flight, sent)
    _keep(sheet, [(cups[one.code], _pass_of(one, flight), one) for one in sent.scores], act)
    events.note(flight.id, "score", act)
    last = Score.select(Score.seq).where(Score.sheet == sheet.id).order_by(Score.seq.desc()).first()
    return s.ScoresAnswer(delivered=[x.uuid for x in sent.scores], last_seq=last.seq if last else 0)


@database.atomic()
def score_late(token: str, sent: s.ScoresBody, act: Act) -> s.ScoresAnswer:
    """What a phone still held when the flight was closed: kept apart, never judged."""
    sheet = open_by_token(token)
    flight = _held(sheet)
    if flight.status == "open":
        raise Conflict("", "The flight is still open: nothing is late.", "Send the scores as usual.")
    cups = _checked(sheet, flight, sent)
    for one in sent.scores:
        row = {"sheet": sheet.id, "cup": cups[one.code], "attribute": one.attribute, "pass_name": _pass_of(one, flight)}
        row |= {"value": one.value, "text": one.text, "uuid": one.uuid, "seq": one.seq, "received_at": act.now}
        LateScore.insert(id=act.new_id(), **row).on_conflict_ignore().execute()
    events.note(flight.id, "late", act)
    return s.ScoresAnswer(delivered=[x.uuid for x in sent.scores], last_seq=max(x.seq for x in sent.scores))


def _held(sheet: Sheet) -> Flight:
    """The flight as it stands, not to be closed meanwhile; one sheet's deliveries wait for one another."""
    Sheet.select(Sheet.id).where(Sheet.id == sheet.id).for_update().get()
    return Flight.select().where(Flight.id == sheet.flight_id).for_update(for_update="LOCK IN SHARE MODE").get()


def _checked(sheet: Sheet, flight: Flight, sent: s.ScoresBody) -> dict[str, str]:
    """code → cup id of this sheet, once every touch has been found good; one bad touch refuses the batch, so that nothing is half kept."""
    cups = {c.code: c for c in FlightCup.select().join(SheetCup).where(SheetCup.sheet == sheet.id)}
    asked = _asked(flight)
    for i, one in enumerate(sent.scores):
        _check(one, f"scores.{i}", flight, cups, asked)
    return {code: cup.id for code, cup in cups.items()}


def _asked(flight: Flight) -> set[str]:
    options = flight.options
    if flight.method in IN_ROUNDS:
        return {PICK, WORDS, BY_EYE}
    more = {GUESS} if options.get("guess") else set()
    if flight.method == "ranking":
        return {RANK, WORDS, BY_EYE, *more}
    return {
        LIKING,
        WORDS,
        BY_EYE,
        *flight.attributes,
        *(JAR_PREFIX + a for a in options.get("jar", [])),
        *more,
        *({FIRST_SIP} if options.get("sip_temperature") else ()),
    }


def _pass_of(one: s.ScoreBody, flight: Flight) -> str:
    return one.pass_name or flight.passes[0]


def _check(one: s.ScoreBody, at: str, flight: Flight, cups: dict[str, FlightCup], asked: set[str]) -> None:
    if one.code not in cups:
        raise Unprocessable(f"{at}.code", f"There is no cup {one.code} on this sheet.", "Use the codes of this sheet.")
    if one.attribute not in asked:
        raise Unprocessable(f"{at}.attribute", f"This flight does not ask for {one.attribute}.", f"Score {', '.join(sorted(asked))}.")
    if _pass_of(one, flight) not in flight.passes:
        raise Unprocessable(f"{at}.pass_name", f"This flight has no {one.pass_name} pass.", f"Give {', '.join(flight.passes)}.")
    wrong = refuse_value(one.attribute, one.value)
    if wrong:
        raise Unprocessable(f"{at}.value", *wrong)
    if one.attribute == PICK:
        _check_pick(one, at, flight, [c.code for c in cups.values() if c.round_no == cups[one.code].round_no])
    if one.attribute == GUESS and one.text and not (len(one.text) == 1 and one.text.isupper()):
        raise Unprocessable(f"{at}.text", "A guess is one letter.", "Give the letter of a setup, or nothing.")


def _check_pick(one: s.ScoreBody, at: str, flight: Flight, codes: list[str]) -> None:
    if one.code != min(codes):
        raise Unprocessable(f"{at}.code", "A round is answered under its first code.", f"Send it under {min(codes)}.")
    if not one.text or (one.text == NO_PREFERENCE and flight.method not in DISCRIMINATION):
        return
    picked, wanted = one.text.split(","), picks_wanted(flight.method)
    if len(picked) != wanted or len(set(picked)) != wanted or not set(picked) <= set(codes):
        raise Unprocessable(f"{at}.text", f"That is not {wanted} of the cups of this round.", f"Choose of {', '.join(sorted(codes))}.")


COLUMNS = ("id", "sheet_id", "cup_id", "attribute", "pass_name", "value", "text", "uuid", "seq", "received_at")
NEWER = "VALUES(seq) > seq OR (VALUES(seq) = seq AND VALUES(uuid) > uuid)"
KEEP = f"""
INSERT INTO score ({", ".join(COLUMNS)}) VALUES {{rows}} ON DUPLICATE KEY UPDATE value = IF({NEWER}, VALUES(value), value),
text = IF({NEWER}, VALUES(text), text), received_at = IF({NEWER}, VALUES(received_at), received_at), uuid = IF({NEWER}, VALUES(uuid), uuid),
seq = GREATEST(seq, VALUES(seq))
"""
"""Cells are inserted or moved on in one statement, so that two deliveries at once cannot undo one another. MariaDB assigns from left
to right: what tells the newer one is moved last."""


def _keep(sheet: Sheet, touches: list[tuple[str, str, s.ScoreBody]], act: Act) -> None:
    """touches: (cup id, pass, touch). The highest (seq, uuid) of a cell wins, in whatever order they come."""
    at = act.now.replace(tzinfo=None)
    rows = [(act.new_id(), sheet.id, cup, one.attribute, pass_name, one.value, one.text, one.uuid, one.seq, at) for cup, pass_name, one in touches]
    marks = ", ".join([f"({', '.join(['%s'] * len(COLUMNS))})"] * len(rows))
    database.execute_sql(KEEP.format(rows=marks), tuple(value for row in rows for value in row))
