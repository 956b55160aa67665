"""Drills: declared by a taster, set out and shuffled by hand, answered, turned over. One transaction per use case.

The program never knows how the cups stand before they are turned over: an answer stands before the marks do, and neither changes afterwards.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..act import Act
from ..core.errors import Inconsistent
from ..core.palate import drills
from ..core.tasting.words import SHELF
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.models import Person
from ..store.palate import PalateDrill, PalateDrillRound
from ..store.writing import use_case
from . import drill_schemas as s

WORDS = [word for words in SHELF.values() for word in words]


def open_drill(drill_id: str) -> PalateDrill:
    row = PalateDrill.get_or_none((PalateDrill.id == drill_id) & PalateDrill.deleted_at.is_null())
    if row is None:
        raise NotFound("drill")
    return row


def read_drills(person_id: str, act: Act) -> s.DrillsAnswer:
    """One taster's own, the newest first: nobody stands beside anybody else."""
    rows = list(PalateDrill.select().where((PalateDrill.person == person_id) & PalateDrill.deleted_at.is_null()).order_by(PalateDrill.created_at.desc()))
    rounds = PalateDrillRound.select().where(PalateDrillRound.drill.in_([row.id for row in rows] or [""])).order_by(PalateDrillRound.number)
    by_drill: dict[str, list[PalateDrillRound]] = {row.id: [] for row in rows}
    for one in rounds:
        by_drill[one.drill_id].append(one)
    days = [one.turned_at.date() for found in by_drill.values() for one in found if one.turned_at]
    return s.DrillsAnswer(
        drills=[_shape(row, by_drill[row.id]) for row in rows], weeks=drills.weeks_in_a_row(days, act.now.date()), sittings=len(set(days)), shelf=WORDS
    )


def read_drill(drill_id: str) -> s.DrillShown:
    return _shown(open_drill(drill_id))


@use_case
def make_drill(sent: s.DrillBody, act: Act) -> s.DrillShown:
    if not Person.select().where((Person.id == sent.person_id) & Person.deleted_at.is_null()).exists():
        raise Unprocessable("person_id", "This person is not on this bench.", "Choose from the list.")
    drills.checked_cups(sent.kind, [cup.name for cup in sent.cups])
    row = PalateDrill(
        id=act.new_id(),
        created_at=act.now,
        person=sent.person_id,
        kind=sent.kind,
        cups=[cup.model_dump() for cup in sent.cups],
        created_by=act.who,
    )
    history.add(row, act=act, trial_id=None)
    return _shown(row)


@use_case
def remove_drill(drill_id: str, act: Act) -> str:
    return history.remove(open_drill(drill_id), act=act, trial_id=None)


@use_case
def begin_round(drill_id: str, act: Act) -> s.DrillShown:
    """Cups to set out; a round that is not finished stays what it is."""
    row = _locked(drill_id)
    rounds = _rounds(row)
    if not rounds or rounds[-1].marks is not None:
        cups = drills.set_out(row.kind, len(row.cups), act.rng)
        PalateDrillRound.create(id=act.new_id(), drill=row.id, number=len(rounds) + 1, set_out=cups, began_at=act.now)
    return _shown(row)


@use_case
def answer(drill_id: str, sent: s.DrillAnswerBody, act: Act) -> s.DrillShown:
    row = _locked(drill_id)
    at = _numbered(row, sent.number)
    given = list(drills.checked_answer(row.kind, len(at.set_out), sent.answer))
    if at.answer is None:
        PalateDrillRound.update(answer=given).where(PalateDrillRound.id == at.id).execute()
    elif at.answer != given:
        raise Conflict("answer", "This round is answered already.", "Turn the cups over.")
    return _shown(row)


@use_case
def turn_over(drill_id: str, sent: s.DrillMarksBody, act: Act) -> s.DrillShown:
    row = _locked(drill_id)
    at = _numbered(row, sent.number)
    if at.answer is None:
        raise Conflict("marks", "The cups are turned over after the answer.", "Answer first.")
    marks = list(drills.checked_marks(at.set_out, sent.marks))
    if at.marks is None:
        right = drills.score(row.kind, at.answer, marks)
        PalateDrillRound.update(marks=marks, score=right, turned_at=act.now).where(PalateDrillRound.id == at.id).execute()
    elif at.marks != marks:
        raise Conflict("marks", "This round is turned over already.", "Go on with the next.")
    return _shown(row)


def _locked(drill_id: str) -> PalateDrill:
    """Two hands at once take their turn."""
    row = PalateDrill.select().where((PalateDrill.id == drill_id) & PalateDrill.deleted_at.is_null()).for_update().first()
    if row is None:
        raise NotFound("drill")
    return row


def _numbered(row: PalateDrill, number: int) -> PalateDrillRound:
    at = PalateDrillRound.get_or_none((PalateDrillRound.drill == row.id) & (PalateDrillRound.number == number))
    if at is None:
        raise Inconsistent("number", "That round was never set out.", "Load the page again.")
    return at


def _rounds(row: PalateDrill) -> list[PalateDrillRound]:
    return list(PalateDrillRound.select().where(PalateDrillRound.drill == row.id).order_by(PalateDrillRound.number))


def _shown(row: PalateDrill) -> s.DrillShown:
    return _shape(row, _rounds(row))


def _shape(row: PalateDrill, rounds: Sequence[PalateDrillRound]) -> s.DrillShown:
    done = [one for one in rounds if one.score is not None]
    at = next((one for one in rounds if one.score is None), None)
    found = drills.drilled(row.kind, len(row.cups), [one.score for one in done])
    kind = drills.KINDS[row.kind]
    return s.DrillShown(
        id=row.id,
        rev=row.rev,
        person_id=row.person_id,
        kind=row.kind,
        word=kind.word,
        question=kind.question,
        cups=[s.CupMade(mark=mark, **cup) for mark, cup in zip(drills.MARKS, row.cups, strict=False)],
        now=None if at is None else s.RoundNow(number=at.number, set_out=at.set_out, answer=at.answer),
        last=None
        if not done
        else s.RoundDone(
            number=done[-1].number, answer=done[-1].answer, marks=done[-1].marks, right=done[-1].score, of=drills.full_score(row.kind, len(row.cups))
        ),
        rounds=len(done),
        share=found.share if found else None,
        interval=list(found.interval) if found else None,
        guessed=found.guessed / found.of if found else None,
        text=found.text if found else "No round is finished yet.",
    )
