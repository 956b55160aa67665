"""Named queries that rooms build on."""

from __future__ import annotations

import json
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

import peewee as pw

from ..core.trial.slots import drafted_left
from ..core.trial.value import Reading as ReadingValue
from .models import Flight, Headline, KitItem, Plan, Reading, Run, Score, Setup, SetupRevision, Sheet, StockEntry, Trial, UsedKit

ShownTrials = Literal["all", "waiting", "judged", "archived"]


def live_trials(*, before: int | None = None, limit: int, oldest_first: bool = False, shown: ShownTrials = "all", text: str = "", tag: str = "") -> list[Trial]:
    """In order of their numbers, newest first; `before`: the number a page before ended with, left out with all on its side. text: words
    of the question, the note, the tags or the number. Archived ones only where they are asked for."""
    rows = Trial.select().where(Trial.deleted_at.is_null(), Trial.archived_at.is_null(shown != "archived"))
    flipped = Flight.select(Flight.trial).where(Flight.deleted_at.is_null(), Flight.flipped_at.is_null(False))
    if shown in ("waiting", "judged"):
        rows = rows.where(Trial.id.in_(flipped) if shown == "judged" else Trial.id.not_in(flipped))
    for word in text.split():
        found = Trial.question.contains(word) | Trial.note.contains(word) | Trial.tags.cast("CHAR").contains(word)
        rows = rows.where(found | (Trial.number == int(word)) if word.isascii() and word.isdigit() and len(word) < 10 else found)
    if tag:
        rows = rows.where(pw.fn.JSON_CONTAINS(Trial.tags, json.dumps(tag, ensure_ascii=False)))
    if before is not None:
        rows = rows.where(Trial.number > before if oldest_first else Trial.number < before)
    return list(rows.order_by(Trial.number if oldest_first else Trial.number.desc()).limit(limit))


def trial_tags() -> list[str]:
    """Every tag on a live trial, by name."""
    rows = Trial.select(Trial.tags).where(Trial.deleted_at.is_null(), pw.fn.JSON_LENGTH(Trial.tags) > 0).tuples()
    return sorted({tag for (tags,) in rows for tag in tags}, key=str.casefold)


def setups_with_revisions(trial_id: str) -> list[tuple[Setup, SetupRevision]]:
    """Live setups of a trial by letter, each with its current revision."""
    rows = (
        Setup.select(Setup, SetupRevision)
        .join(SetupRevision, on=(SetupRevision.id == Setup.revision_id), attr="revision")
        .where((Setup.trial == trial_id) & Setup.deleted_at.is_null())
        .order_by(Setup.letter)
    )
    return [(row, row.revision) for row in rows]


def readings_of(run_ids: Iterable[str]) -> dict[str, list[ReadingValue]]:
    """Live readings by run, in order of taking."""
    ids = list(run_ids)
    out: dict[str, list[ReadingValue]] = defaultdict(list)
    if ids:
        columns = (Reading.run, Reading.id, Reading.tds_pct, Reading.source, Reading.rev, Reading.as_read)
        rows = Reading.select(*columns).where(Reading.run.in_(ids) & Reading.deleted_at.is_null())
        for run_id, *row in rows.order_by(Reading.taken_at, Reading.id).tuples():
            out[run_id].append(ReadingValue(*row))
    return out


STRENGTHS = """
SELECT run_id, GROUP_CONCAT(tds_pct ORDER BY taken_at, id), MAX(JSON_VALUE(as_read, '$.accuracy_pct') + 0) FROM reading
WHERE deleted_at IS NULL AND run_id IN ({marks}) GROUP BY run_id
"""


def strengths_of(run_ids: Sequence[str]) -> dict[str, tuple[list[float], float | None]]:
    """Run → its readings' % TDS in order of taking, and the least sure accuracy among them. For thousands of brews at once."""
    if not run_ids:
        return {}
    sql = STRENGTHS.format(marks=",".join(["%s"] * len(run_ids)))
    rows = Reading._meta.database.execute_sql(sql, tuple(run_ids)).fetchall()
    return {run: ([float(x) for x in tds.split(",")], None if accuracy is None else float(accuracy)) for run, tds, accuracy in rows}


def run_counts(trial_id: str) -> dict[str, int]:
    """Setup → how many live runs."""
    rows = (
        Run.select(Run.setup, pw.fn.COUNT(Run.id)).where((Run.trial == trial_id) & (Run.purpose == "evidence") & Run.deleted_at.is_null()).group_by(Run.setup)
    )
    return dict(rows.tuples())


def live_flights(trial_id: str) -> list[Flight]:
    return list(Flight.select().where((Flight.trial == trial_id) & Flight.deleted_at.is_null()).order_by(Flight.number))


def any_flipped(trial_id: str) -> bool:
    return Flight.select().where((Flight.trial == trial_id) & (Flight.status == "flipped") & Flight.deleted_at.is_null()).exists()


def done_counts(trial_id: str) -> tuple[Counter, Counter]:
    """Tastings done in a trial's flights (a liking in a pass, a rank, a round's pick), by cup and by sheet: who is how far, never what they said."""
    rows = (
        Score.select(Score.cup, Score.sheet)
        .join(Sheet)
        .join(Flight)
        .where(
            (Flight.trial == trial_id)
            & ((Score.attribute.in_(("liking", "rank")) & Score.value.is_null(False)) | ((Score.attribute == "pick") & (Score.text != "")))
        )
        .tuples()
    )
    pairs = list(rows)
    return Counter(cup for cup, _ in pairs), Counter(sheet for _, sheet in pairs)


@dataclass
class TrialCounts:
    """Live rows of one trial. brewed: setups with a run; read: runs with a reading; flights by status; drafted: see core.trial.stations.Counts."""

    setups: list[str] = field(default_factory=list)
    brewed: int = 0
    runs: int = 0
    drafted: int = 0
    drafted_unpoured: int = 0
    read: int = 0
    flights: Counter = field(default_factory=Counter)


RUN_COUNTS = """
SELECT r.trial_id, COUNT(DISTINCT r.setup_id), COUNT(*),
  SUM(EXISTS (SELECT 1 FROM reading x WHERE x.run_id = r.id AND x.deleted_at IS NULL))
FROM run r STRAIGHT_JOIN setup s ON s.id = r.setup_id
WHERE r.deleted_at IS NULL AND r.purpose = 'evidence' AND s.deleted_at IS NULL AND r.trial_id IN ({marks}) GROUP BY r.trial_id
"""


def counts_by_trial(trial_ids: Sequence[str]) -> dict[str, TrialCounts]:
    """For these trials, in three queries: setup letters, runs and readings, flights."""
    out = {trial_id: TrialCounts() for trial_id in trial_ids}
    if not out:
        return out
    for trial_id, letter in (
        Setup.select(Setup.trial, Setup.letter).where(Setup.trial.in_(trial_ids) & Setup.deleted_at.is_null()).order_by(Setup.letter).tuples()
    ):
        out[trial_id].setups.append(letter)
    sql = RUN_COUNTS.format(marks=",".join(["%s"] * len(out)))
    for trial_id, brewed, runs, read in Trial._meta.database.execute_sql(sql, tuple(out)).fetchall():
        out[trial_id].brewed, out[trial_id].runs, out[trial_id].read = int(brewed), int(runs), int(read)
    for trial_id, left, unpoured in _drafted(list(out)):
        out[trial_id].drafted, out[trial_id].drafted_unpoured = left, unpoured
    for trial_id, status in Flight.select(Flight.trial, Flight.status).where(Flight.trial.in_(trial_ids) & Flight.deleted_at.is_null()).tuples():
        out[trial_id].flights[status] += 1
    return out


def _drafted(trial_ids: Sequence[str]) -> Iterator[tuple[str, int, int]]:
    """(trial, drafted brews not made yet, once all are made those poured in no flight), of trials with a draft; in two queries however many."""
    drafts = dict(Plan.select(Plan.trial, Plan.drafted).where(Plan.trial.in_(trial_ids) & Plan.drafted.is_null(False) & Plan.deleted_at.is_null()).tuples())
    if not drafts:
        return
    brewed: dict[str, Counter] = defaultdict(Counter)
    unpoured: dict[str, Counter] = defaultdict(Counter)
    for trial_id, setup_id, runs, dry in Trial._meta.database.execute_sql(BREWED.format(marks=",".join(["%s"] * len(drafts))), tuple(drafts)).fetchall():
        brewed[trial_id][setup_id], unpoured[trial_id][setup_id] = int(runs), int(dry)
    for trial_id, drafted in drafts.items():
        left = drafted_left(drafted["brews"], brewed[trial_id], brewed[trial_id])
        yield trial_id, left, 0 if left else sum(unpoured[trial_id][i] for i in drafted["brews"])


BREWED = """
SELECT s.trial_id, s.id, COUNT(r.id),
  SUM(r.id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM flight_brew b JOIN flight f ON f.id = b.flight_id WHERE b.run_id = r.id AND f.deleted_at IS NULL))
FROM setup s LEFT JOIN run r ON r.setup_id = s.id AND r.purpose = 'evidence' AND r.deleted_at IS NULL
WHERE s.deleted_at IS NULL AND s.trial_id IN ({marks}) GROUP BY s.trial_id, s.id
"""
"""Live setups, each with how many of its brews count, and how many of those were poured in no flight."""


def payload_if(model, hashes: Sequence[str]):
    """A column: the row's payload where its hash is one of these, else null."""
    return pw.fn.IF(model.data_hash.in_(list(hashes)), model.payload, None).alias("payload").converter(model.payload.python_value)


CHANGE_COUNTS = "SELECT t.id, (SELECT COUNT(*) FROM `change` c WHERE c.trial_id = t.id) FROM trial t WHERE t.deleted_at IS NULL AND t.id IN ({marks})"


def change_counts(trial_ids: Sequence[str]) -> dict[str, int]:
    """Live trial → how many changes its history holds. None is ever taken out of it, so a larger count is the only trace of a change."""
    if not trial_ids:
        return {}
    sql = CHANGE_COUNTS.format(marks=",".join(["%s"] * len(trial_ids)))
    return dict(Trial._meta.database.execute_sql(sql, tuple(trial_ids)).fetchall())


# --- kit -------------------------------------------------------------------------------------------------------------

STOCK = """
SELECT e.kit_item_id, e.name, e.listed, e.mass_g
  - COALESCE((SELECT SUM(r.dose_g) FROM used_kit u JOIN run r ON r.setup_revision_id = u.setup_revision_id
      WHERE u.kit_item_id = e.kit_item_id AND r.deleted_at IS NULL AND r.brewed_at >= DATE(e.since)), 0)
  - COALESCE((SELECT SUM(x.mass_in_g) FROM sieve_sample x WHERE x.coffee_id = e.kit_item_id AND x.deleted_at IS NULL AND x.source = 'sieve'), 0)
FROM (SELECT s.kit_item_id, k.name, k.kind = 'coffee' AND k.deleted_at IS NULL AS listed, SUM(s.mass_g) AS mass_g, MIN(s.at) AS since
  FROM stock_entry s JOIN kit_item k ON k.id = s.kit_item_id WHERE s.deleted_at IS NULL GROUP BY s.kit_item_id, k.name, listed) e
"""
"""What was entered, less the doses of all live brews since the day of the first entry, and what was sieved: an old brew that comes in from a spreadsheet drank no bag of
today. A table read in and a simulated shaking use none."""


def stock_by_coffee() -> dict[str, float]:
    """Kit item → g left of every coffee with a stock entry."""
    return {item: round(float(left), 3) for item, _, _, left in StockEntry._meta.database.execute_sql(STOCK).fetchall()}


def stock_by_coffee_name() -> dict[str, float]:
    """The same by the name of the coffees that are in the kit."""
    return {name: round(float(left), 3) for _, name, listed, left in StockEntry._meta.database.execute_sql(STOCK).fetchall() if listed}


def filter_material(name: str) -> str | None:
    """Return what the filter of this name in the kit is made of; None where the kit has none of that name."""
    found = KitItem.select(KitItem.facts).where((KitItem.kind == "filter") & (KitItem.name == name) & KitItem.deleted_at.is_null()).first() if name else None
    return found.facts.get("material", "paper") if found else None


def uses_of(kit_item_id: str) -> tuple[int, int]:
    """How many live setups are made of it now, and how many live brews ever used it."""
    setups = (
        Setup.select()
        .join(UsedKit, on=(UsedKit.setup_revision == Setup.revision_id))
        .where((UsedKit.kit_item == kit_item_id) & Setup.trial.is_null(False) & Setup.deleted_at.is_null())
    )
    runs = Run.select().join(UsedKit, on=(UsedKit.setup_revision == Run.setup_revision)).where((UsedKit.kit_item == kit_item_id) & Run.deleted_at.is_null())
    return setups.count(), runs.count()


def brews_with(kit_item_ids: Sequence[str], *, limit: int) -> dict[str, list[tuple[Run, list[ReadingValue]]]]:
    """Kit item → the newest live brews made with it, dial-in brews too, each with its revision at hand and its readings. Two queries."""
    if not kit_item_ids:
        return {}
    rows = (
        Run.select(Run, SetupRevision, UsedKit)
        .join(SetupRevision, on=(Run.setup_revision == SetupRevision.id))
        .join(UsedKit, on=(UsedKit.setup_revision == SetupRevision.id), attr="used")
        .where(UsedKit.kit_item.in_(list(kit_item_ids)) & Run.deleted_at.is_null())
        .order_by(Run.brewed_at.desc())
        .limit(limit * len(kit_item_ids))
    )
    runs = list(rows)
    readings = readings_of(r.id for r in runs)
    out: dict[str, list[tuple[Run, list[ReadingValue]]]] = {i: [] for i in kit_item_ids}
    for run in runs:
        made_with = out[run.setup_revision.used.kit_item_id]
        if len(made_with) < limit:
            made_with.append((run, readings.get(run.id, [])))
    return out


def setups_by_recipe_version(version_ids: Sequence[str]) -> dict[str, int]:
    """Version → how many live setups brew it now."""
    rows = (
        Setup.select(SetupRevision.recipe_version_id, pw.fn.COUNT(Setup.id))
        .join(SetupRevision, on=(SetupRevision.id == Setup.revision_id))
        .where(SetupRevision.recipe_version_id.in_(list(version_ids) or [""]) & Setup.trial.is_null(False) & Setup.deleted_at.is_null())
        .group_by(SetupRevision.recipe_version_id)
    )
    return dict(rows.tuples())


def latest_headline(trial_id: str) -> str:
    """What the verdict of a trial last said, as every list says it; '' when none was worked out."""
    found = Headline.get_or_none(Headline.trial == trial_id)
    return (found.text or "") if found else ""
