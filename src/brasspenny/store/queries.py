"""Named queries that rooms build on."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

import peewee as pw

from .models import Flight, Reading, Run, Score, Setup, SetupRevision, Sheet, Trial


def live_trials() -> pw.ModelSelect:
    """Newest first."""
    return Trial.select().where(Trial.deleted_at.is_null()).order_by(Trial.number.desc())


def setups_with_revisions(trial_id: str) -> list[tuple[Setup, SetupRevision]]:
    """Live setups of a trial by letter, each with its current revision."""
    rows = (
        Setup.select(Setup, SetupRevision)
        .join(SetupRevision, on=(SetupRevision.id == Setup.revision_id), attr="revision")
        .where((Setup.trial == trial_id) & Setup.deleted_at.is_null())
        .order_by(Setup.letter)
    )
    return [(row, row.revision) for row in rows]


def live_runs(trial_id: str) -> list[Run]:
    """Runs of a trial in order of brewing, those of deleted setups left out."""
    return list(
        Run.select()
        .join(Setup)
        .where((Run.trial == trial_id) & Run.deleted_at.is_null() & Setup.deleted_at.is_null())
        .order_by(Run.brewed_at, Run.number, Run.id)
    )


def readings_of(run_ids: Iterable[str]) -> dict[str, list[Reading]]:
    """Live readings by run, in order of taking."""
    ids = list(run_ids)
    out: dict[str, list[Reading]] = defaultdict(list)
    if ids:
        for r in Reading.select().where(Reading.run.in_(ids) & Reading.deleted_at.is_null()).order_by(Reading.taken_at, Reading.id):
            out[r.run_id].append(r)
    return out


def live_flights(trial_id: str) -> list[Flight]:
    return list(Flight.select().where((Flight.trial == trial_id) & Flight.deleted_at.is_null()).order_by(Flight.number))


def liking_counts(flight_id: str) -> tuple[dict[str, int], dict[str, int]]:
    """Cups with a liking, by cup and by sheet: who is how far, never what they said."""
    rows = (
        Score.select(Score.cup, Score.sheet)
        .join(Sheet)
        .where((Sheet.flight == flight_id) & (Score.attribute == "liking") & Score.value.is_null(False))
        .tuples()
    )
    by_cup: dict[str, int] = defaultdict(int)
    by_sheet: dict[str, int] = defaultdict(int)
    for cup, sheet in rows:
        by_cup[cup] += 1
        by_sheet[sheet] += 1
    return by_cup, by_sheet


COUNTS_SQL = """
SELECT t.id,
  (SELECT COUNT(*) FROM setup s WHERE s.trial_id = t.id AND s.deleted_at IS NULL),
  (SELECT COUNT(DISTINCT r.setup_id) FROM run r JOIN setup s ON s.id = r.setup_id
     WHERE r.trial_id = t.id AND r.deleted_at IS NULL AND s.deleted_at IS NULL),
  (SELECT COUNT(*) FROM run r JOIN setup s ON s.id = r.setup_id WHERE r.trial_id = t.id AND r.deleted_at IS NULL AND s.deleted_at IS NULL),
  (SELECT COUNT(*) FROM run r JOIN setup s ON s.id = r.setup_id WHERE r.trial_id = t.id AND r.deleted_at IS NULL AND s.deleted_at IS NULL
     AND EXISTS (SELECT 1 FROM reading x WHERE x.run_id = r.id AND x.deleted_at IS NULL)),
  (SELECT COUNT(*) FROM flight f WHERE f.trial_id = t.id AND f.deleted_at IS NULL AND f.status = 'open'),
  (SELECT COUNT(*) FROM flight f WHERE f.trial_id = t.id AND f.deleted_at IS NULL AND f.status = 'closed'),
  (SELECT COUNT(*) FROM flight f WHERE f.trial_id = t.id AND f.deleted_at IS NULL AND f.status = 'flipped')
FROM trial t WHERE t.deleted_at IS NULL
"""


def counts_by_trial(trial_id: str | None = None) -> dict[str, tuple[int, ...]]:
    """For one trial or all: setups, brewed setups, runs, read runs, flights open, closed, flipped."""
    sql, params = (COUNTS_SQL + " AND t.id = %s", (trial_id,)) if trial_id else (COUNTS_SQL, ())
    return {row[0]: tuple(int(n) for n in row[1:]) for row in Trial._meta.database.execute_sql(sql, params).fetchall()}
