"""A taster's own sheet, by their link: read it, score on it. Knows codes, never brews (but in an open flight)."""

from __future__ import annotations

from ..act import Act
from ..core.sheets import LIKING, SCALES, WORDS, fits
from ..refusals import Conflict, LinkRefused, Unprocessable
from ..store.connection import database
from ..store.models import Bench, Flight, FlightCup, Score, Sheet, SheetCup, Trial
from . import schemas as s
from .links import hash_of
from .service import key_of, run_labels


def open_by_token(token: str) -> Sheet:
    """The sheet a link opens. Raises LinkRefused for an unknown, withdrawn or deleted one, all alike."""
    sheet = Sheet.get_or_none((Sheet.token_hash == hash_of(token)) & Sheet.revoked_at.is_null())
    if sheet is None:
        raise LinkRefused
    live = Flight.select().join(Trial).where((Flight.id == sheet.flight_id) & Flight.deleted_at.is_null() & Trial.deleted_at.is_null())
    if not live.exists():
        raise LinkRefused
    return sheet


def read_sheet(token: str) -> s.SheetAnswer:
    sheet = open_by_token(token)
    flight = sheet.flight
    rows = SheetCup.select(SheetCup, FlightCup).join(FlightCup).where(SheetCup.sheet == sheet.id).order_by(SheetCup.position)
    scores: dict[str, list[Score]] = {}
    last_seq = 0
    for score in Score.select().where(Score.sheet == sheet.id).order_by(Score.attribute):
        scores.setdefault(score.cup_id, []).append(score)
        last_seq = max(last_seq, score.seq)
    names = _sighted_names(flight)
    return s.SheetAnswer(
        bench=Bench.get_by_id(1).name,
        flight=flight.number,
        taster=sheet.person.name,
        status="open" if flight.status == "open" else "closed",
        blinding=flight.blinding,
        cup_temperature_c=flight.cup_temperature_c,
        attributes=[s.AttributeShown(**vars(SCALES[code])) for code in (*flight.attributes, LIKING)],
        cups=[
            s.SheetCupShown(
                code=row.cup.code,
                label=names.get(row.cup_id),
                scores=[s.ScoreShown(attribute=x.attribute, value=x.value, text=x.text) for x in scores.get(row.cup_id, [])],
            )
            for row in rows
        ],
        last_seq=last_seq,
    )


def _sighted_names(flight: Flight) -> dict[str, str]:
    """Labels for an open flight only; a blind sheet stays blind even after the flip."""
    if flight.blinding != "open":
        return {}
    labels = run_labels(flight.trial_id)
    return {cup: labels[run][1] for cup, run in key_of(flight, flight.cups).items() if run in labels}


@database.atomic()
def score(token: str, sent: s.ScoresBody, act: Act) -> s.ScoresAnswer:
    """Keep the newest of each cell. Replays and stragglers change nothing and are acknowledged all the same."""
    sheet = open_by_token(token)
    flight = Flight.select().where(Flight.id == sheet.flight_id).for_update(for_update="LOCK IN SHARE MODE").get()
    if flight.status != "open":
        raise Conflict("", "The flight is closed: its scores are locked.", "Tell the host what did not arrive.")
    cups = {c.code: c.id for c in FlightCup.select().where(FlightCup.flight == flight.id)}
    asked = {LIKING, WORDS, *flight.attributes}
    for i, one in enumerate(sent.scores):
        _check(one, f"scores.{i}", cups, asked)
    for one in sorted(sent.scores, key=lambda x: (x.seq, x.uuid)):
        _keep(sheet, cups[one.code], one, act)
    last = Score.select(Score.seq).where(Score.sheet == sheet.id).order_by(Score.seq.desc()).first()
    return s.ScoresAnswer(delivered=[x.uuid for x in sent.scores], last_seq=last.seq if last else 0)


def _check(one: s.ScoreBody, at: str, cups: dict[str, str], asked: set[str]) -> None:
    if one.code not in cups:
        raise Unprocessable(f"{at}.code", f"There is no cup {one.code} in this flight.", "Use the codes of this sheet.")
    if one.attribute not in asked:
        raise Unprocessable(f"{at}.attribute", f"This flight does not ask for {one.attribute}.", f"Score {', '.join(sorted(asked))}.")
    if one.attribute == WORDS:
        if one.value is not None:
            raise Unprocessable(f"{at}.value", "Words have no number.", "Send them as text.")
    elif one.value is not None and not fits(one.attribute, one.value):
        scale = SCALES[one.attribute]
        raise Unprocessable(f"{at}.value", f"{one.value:g} is off the scale.", f"Give {scale.low:g} to {scale.high:g} in half points.")


def _keep(sheet: Sheet, cup_id: str, one: s.ScoreBody, act: Act) -> None:
    """Insert the cell or move it on, each in one statement, so that two deliveries at once cannot undo one another."""
    new = {"value": one.value, "text": one.text, "uuid": one.uuid, "seq": one.seq, "received_at": act.now}
    Score.insert(id=act.new_id(), sheet=sheet.id, cup=cup_id, attribute=one.attribute, **new).on_conflict_ignore().execute()
    older = (Score.seq < one.seq) | ((Score.seq == one.seq) & (Score.uuid < one.uuid))
    Score.update(**new).where((Score.sheet == sheet.id) & (Score.cup == cup_id) & (Score.attribute == one.attribute) & older).execute()
