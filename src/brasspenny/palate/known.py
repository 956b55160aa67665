"""Every answer there is, for whoever asks what a taster or a panel can tell."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from ..core.palate.series import AXES, PalateAxis
from ..core.palate.threshold import Presented
from ..store.models import Person
from ..store.palate import PalatePresentation, PalateSeat, PalateSession


@dataclass(frozen=True)
class Answered:
    """tds_pct: of the brew that was served."""

    person_id: str
    name: str
    axis: PalateAxis
    at: datetime
    tds_pct: float | None
    presented: Presented


COLUMNS = (Person.id, Person.name, PalateSession.axis, PalateSession.method, PalateSession.tds_pct, PalatePresentation.step, PalatePresentation.right,
           PalatePresentation.picked_at)  # fmt: skip


def all_answers(person_ids: Iterable[str] | None = None, axis: PalateAxis | None = None) -> list[Answered]:
    """In the order they were given, of live sessions and people."""
    rows = PalatePresentation.select(*COLUMNS).join(PalateSeat).join(PalateSession).switch(PalateSeat).join(Person)
    rows = rows.where(PalatePresentation.right.is_null(False) & PalateSession.deleted_at.is_null() & Person.deleted_at.is_null())
    if person_ids is not None:
        rows = rows.where(Person.id.in_(list(person_ids) or [""]))
    if axis is not None:
        rows = rows.where(PalateSession.axis == axis)
    return [
        Answered(person, name, on, at, tds, Presented(step, bool(right), method))
        for person, name, on, method, tds, step, right, at in rows.order_by(PalatePresentation.picked_at, PalatePresentation.id).tuples()
    ]


def answers_of(person_id: str, axis: PalateAxis) -> list[Answered]:
    return all_answers([person_id], axis)


def steps_of(axis: PalateAxis, own: Sequence[float] = ()) -> list[float]:
    """Every step ever on offer on this axis: where a belief begins where the axis has no usual step."""
    if AXES[axis].usual:
        return list(own)
    rows = PalateSession.select(PalateSession.steps).where((PalateSession.axis == axis) & PalateSession.deleted_at.is_null())
    return sorted({float(x) for row in rows for x in row.steps} | set(own))


def by_taster(answers: Sequence[Answered]) -> dict[tuple[str, PalateAxis], list[Answered]]:
    out: dict[tuple[str, PalateAxis], list[Answered]] = defaultdict(list)
    for a in answers:
        out[a.person_id, a.axis].append(a)
    return dict(out)
