"""Series of known steps: made by a host, answered by tasters, poured by a helper. One transaction per use case.

The place of the cup to be found is the key of one presentation. It is told to the helper's one device, which tastes nothing there, and to nobody else
before the answer; afterwards it is part of the answer. docs/palate.md §3.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..act import Act
from ..core.palate import series
from ..core.palate.series import AXES
from ..core.palate.threshold import FIRST_ANSWER, belief_of, next_step
from ..core.tasting import roles
from ..core.tasting.codes import draw_codes
from ..history import service as history
from ..links import LinkMaker
from ..refusals import Conflict, LinkRefused, NotFound, Unprocessable
from ..store import seen_devices
from ..store.models import Bench, Person
from ..store.palate import PalatePresentation, PalateSeat, PalateSession
from ..store.writing import use_case
from . import known, shapes
from . import schemas as s

TO_A_HELPER = "Open the link on the device of somebody who tastes nothing in this session."


def open_session(session_id: str) -> PalateSession:
    row = PalateSession.get_or_none((PalateSession.id == session_id) & PalateSession.deleted_at.is_null())
    if row is None:
        raise NotFound("session")
    return row


def open_seat(seat_id: str) -> PalateSeat:
    """Of a session that is still open."""
    row = (
        PalateSeat.select()
        .join(PalateSession)
        .where((PalateSeat.id == seat_id) & PalateSession.deleted_at.is_null() & PalateSession.closed_at.is_null())
        .first()
    )
    if row is None:
        raise NotFound("link")
    return row


# --- the host --------------------------------------------------------------------------------------------------------


def read_room(links: LinkMaker) -> s.PalateRoom:
    rows = list(PalateSession.select().where(PalateSession.deleted_at.is_null()).order_by(PalateSession.created_at.desc(), PalateSession.id))
    answers = known.all_answers()
    return s.PalateRoom(
        sessions=[shapes.session(row, links) for row in rows],
        tasters=shapes.tasters(answers),
        panels=shapes.panels(answers),
        scoring=shapes.scoring_shown(),
    )


@use_case
def make_session(sent: s.SeriesBody, links: LinkMaker, act: Act) -> s.SeriesShown:
    steps = series.checked_steps(sent.axis, sent.steps or AXES[sent.axis].ready)
    people = _people(sent.taster_ids)
    row = PalateSession(
        id=act.new_id(),
        created_at=act.now,
        axis=sent.axis,
        method=sent.method,
        choice=sent.choice,
        way=sent.way,
        served=sent.served,
        tds_pct=sent.tds_pct,
        serve_g=round(sent.serve_g, 3),
        cup_g=round(sent.cup_g, 3),
        steps=list(steps),
        created_by=act.who,
    )
    if sent.way == "helper":
        row.helper_hash = seen_devices.hash_of_token(links.helper_token(row.id))
    history.add(row, act=act, trial_id=None)
    for person in people:
        seat = act.new_id()
        PalateSeat.create(id=seat, session=row.id, person=person, token_hash=seen_devices.hash_of_token(links.palate_token(seat)), created_at=act.now)
    return shapes.session(row, links)


def _people(ids: Sequence[str]) -> list[str]:
    wanted = list(dict.fromkeys(ids))
    found = {p.id for p in Person.select().where(Person.id.in_(wanted) & Person.deleted_at.is_null())}
    if missing := [i for i in wanted if i not in found]:
        raise Unprocessable("taster_ids", "One of these people is not on this bench.", f"Choose from the list; {missing[0][:12]} is not in it.")
    return wanted


@use_case
def close_session(session_id: str, links: LinkMaker, act: Act) -> s.SeriesShown:
    """No more is served; what stands unanswered counts for nothing."""
    row = open_session(session_id)
    if row.closed_at is None:
        history.edit(row, {"closed_at": act.now}, rev=row.rev, act=act, trial_id=None)
    return shapes.session(open_session(session_id), links)


@use_case
def remove_session(session_id: str, act: Act) -> str:
    return history.remove(open_session(session_id), act=act, trial_id=None)


# --- a taster --------------------------------------------------------------------------------------------------------


def _seat(token: str) -> PalateSeat:
    row = PalateSeat.select(PalateSeat, PalateSession, Person).join(PalateSession).switch(PalateSeat).join(Person)
    seat = row.where((PalateSeat.token_hash == seen_devices.hash_of_token(token)) & PalateSession.deleted_at.is_null() & Person.deleted_at.is_null()).first()
    if seat is None:
        raise LinkRefused
    return seat


def _taste_on(seat: PalateSeat, device: str, act: Act) -> None:
    """From here on this device tastes in this session, and pours nothing in it."""
    been = seen_devices.seen(device, seat.session_id)
    if not roles.may_taste(been):
        raise Conflict("", "What is poured in this session was shown on this device.", "Answer on another one.")
    if not roles.may_taste(been, taster_was_shown=seen_devices.was_shown_key(seat.session_id, seat.person_id)):
        raise Conflict("", f"What is poured in this session was shown on a device that {seat.person.name} used.", "Let somebody answer who has not seen it.")
    seen_devices.note_taster(been, device, seat.session_id, seat.person_id, act.now)


@use_case
def read_sheet(token: str, device: str, act: Act) -> s.PalateSheet:
    seat = _seat(token)
    _taste_on(seat, device, act)
    return _sheet(seat)


@use_case
def serve_next(token: str, device: str, act: Act) -> s.PalateSheet:
    """Something to compare; what is not answered yet stays what it is."""
    seat = _seat(token)
    _taste_on(seat, device, act)
    session = seat.session
    _still_open(session)
    if _at_hand(seat) is None:
        number = PalatePresentation.select().where(PalatePresentation.seat == seat.id).count() + 1
        codes = draw_codes(series.CUPS[session.method], act.rng, used=_codes_in(session))
        PalatePresentation.create(
            id=act.new_id(),
            seat=seat.id,
            number=number,
            step=round(_step(seat, number), 3),
            codes=codes,
            place=draw_place(session, act),
            odd_is_more=act.rng.random() < 0.5 if session.method == "triangle" else True,
            served_at=act.now,
        )
    return _sheet(_seat(token))


def draw_place(session: PalateSession, act: Act) -> int | None:
    """Where the cup to be found stands; nobody knows where cups are shuffled."""
    return series.odd_place(session.method, act.rng) if session.way == "helper" else None


def _step(seat: PalateSeat, number: int) -> float:
    session = seat.session
    if session.choice == "fixed":
        return series.fixed_order(session.steps, number, seat.id)
    answers = [a.presented for a in known.answers_of(seat.person_id, session.axis)]
    return next_step(belief_of(session.axis, known.steps_of(session.axis, session.steps), answers), session.steps, session.method)


def _codes_in(session: PalateSession) -> list[str]:
    """On cups that may still stand on the table."""
    rows = PalatePresentation.select(PalatePresentation.codes).join(PalateSeat).where(PalateSeat.session == session.id)
    return [code for row in rows.order_by(PalatePresentation.served_at.desc()).limit(60) for code in row.codes]


@use_case
def answer(token: str, sent: s.PickBody, device: str, act: Act) -> s.PalateSheet:
    """What was picked; the same again is harmless, another is refused: the next step rests on it."""
    seat = _seat(token)
    _taste_on(seat, device, act)
    row = _numbered(seat, sent.number)
    if sent.picked >= len(row.codes):
        raise Unprocessable("picked", f"There are {len(row.codes)} cups.", f"Choose one of the {len(row.codes)}.")
    if row.picked is None:
        _still_open(seat.session)
        right = None if row.place is None else row.place == sent.picked
        PalatePresentation.update(picked=sent.picked, picked_at=act.now, right=right).where(PalatePresentation.id == row.id).execute()
    elif row.picked != sent.picked:
        raise Conflict("picked", "This one is answered already.", "Go on with the next.")
    return _sheet(_seat(token))


@use_case
def turn_over(token: str, sent: s.TurnedBody, device: str, act: Act) -> s.PalateSheet:
    """Where cups are shuffled: what the marks underneath say, after the answer."""
    seat = _seat(token)
    _taste_on(seat, device, act)
    row = _numbered(seat, sent.number)
    if seat.session.way != "shuffled" or row.picked is None:
        raise Conflict("place", "The cups are turned over after the answer.", "Answer first.")
    if sent.place >= len(row.codes):
        raise Unprocessable("place", f"There are {len(row.codes)} cups.", f"Choose one of the {len(row.codes)}.")
    if row.place is None:
        PalatePresentation.update(place=sent.place, right=row.picked == sent.place).where(PalatePresentation.id == row.id).execute()
    elif row.place != sent.place:
        raise Conflict("place", "This one is turned over already.", "Go on with the next.")
    return _sheet(_seat(token))


def _still_open(session: PalateSession) -> None:
    if session.closed_at is not None:
        raise Conflict("", "This session is closed.", "Ask the host for another.")


def _numbered(seat: PalateSeat, number: int) -> PalatePresentation:
    row = PalatePresentation.get_or_none((PalatePresentation.seat == seat.id) & (PalatePresentation.number == number))
    if row is None:
        raise Unprocessable("number", "That was never served.", "Load the page again.")
    return row


def _at_hand(seat: PalateSeat) -> PalatePresentation | None:
    """Served and not over yet."""
    return PalatePresentation.get_or_none((PalatePresentation.seat == seat.id) & PalatePresentation.right.is_null())


def _sheet(seat: PalateSeat) -> s.PalateSheet:
    session = seat.session
    now = None if session.closed_at else _at_hand(seat)
    over = session.closed_at is not None
    return s.PalateSheet(
        bench=Bench.get_by_id(1).name,
        name=seat.person.name,
        question=shapes.question(session),
        method=session.method,
        way=session.way,
        served=session.served,
        answered=PalatePresentation.select().where((PalatePresentation.seat == seat.id) & PalatePresentation.right.is_null(False)).count(),
        first_answer=FIRST_ANSWER,
        now=None if now is None else shapes.before_taster(session, now),
        over=over,
        told=shapes.own_answer(seat) if over else None,
    )


# --- a helper --------------------------------------------------------------------------------------------------------


def _helped(token: str) -> PalateSession:
    row = PalateSession.get_or_none((PalateSession.helper_hash == seen_devices.hash_of_token(token)) & PalateSession.deleted_at.is_null())
    if row is None:
        raise LinkRefused
    return row


def table_of(session: PalateSession) -> roles.TableSeated:
    seated = frozenset(p for (p,) in PalateSeat.select(PalateSeat.person).where(PalateSeat.session == session.id).tuples())
    return roles.TableSeated(seated, session.created_by, session.created_by in seated)


@use_case
def open_to_pour(token: str, device: str, act: Act) -> s.HelperSheet:
    """On this device and no other from then on, and on none that tastes here."""
    session = _helped(token)
    if not roles.may_see_key(seen_devices.seen(device, session.id), table_of(session)):
        raise Conflict("", "Somebody who tastes in this session uses this device, so it may not show what is poured.", TO_A_HELPER)
    if session.device_hash is None:
        PalateSession.update(device_hash=device).where(PalateSession.id == session.id).execute()
    elif session.device_hash != device:
        raise Conflict("", "This sheet was opened on another device, and opens on no other.", "Find that device; else the host makes another session.")
    seen_devices.note_hat(device, session.id, roles.KEY, act.now)
    return _pours(session)


def read_pours(token: str, device: str) -> s.HelperSheet:
    session = _helped(token)
    if session.device_hash != device or not roles.may_see_key(seen_devices.seen(device, session.id), table_of(session)):
        raise LinkRefused
    return _pours(session)


def _pours(session: PalateSession) -> s.HelperSheet:
    rows = PalatePresentation.select(PalatePresentation, PalateSeat, Person).join(PalateSeat).join(Person)
    waiting = rows.where((PalateSeat.session == session.id) & PalatePresentation.picked.is_null()).order_by(PalatePresentation.served_at)
    return s.HelperSheet(
        bench=Bench.get_by_id(1).name,
        served=session.served,
        cup_g=session.cup_g,
        prepared=shapes.prepared(session),
        waiting=[] if session.closed_at else [shapes.to_pour(session, row) for row in waiting],
        over=session.closed_at is not None,
    )
