"""What each brew comes to, kept with it: the charts read thousands of brews at a look, and a brew is worked out once."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

import peewee as pw

from ..brewing.runs import instrument
from ..core import CORE_VERSION
from ..core.brewing.liked import Liked
from ..core.extraction.measure import Measured, measure
from ..core.extraction.uncertainty import Instrument
from ..core.trial.measured import masses_of, no_better_than, run_label
from ..store import queries
from ..store.models import Charted, Recipe, RecipeVersion, Run, Setup, SetupRevision, Trial
from ..store.writing import insert, use_case

AT_ONCE = 1000
"""Brews worked out in one transaction: nobody waits longer than that for the bench."""


class BrewRow(NamedTuple):
    """What one point needs of a brew, its setup and its trial."""

    run_id: str
    rev: int
    number: int
    purpose: str
    brewed_at: datetime
    dose_g: float
    brew_water_g: float | None
    bypass_g: float
    beverage_g: float | None
    moisture_pct: float
    concentrate: bool
    total_time_s: float | None
    observed: dict
    liked: dict | None
    letter: str
    setup_name: str
    coffee: str
    grinder: str
    brewer: str
    version_id: str | None
    trial_id: str | None
    trial_number: int | None
    question: str | None


COLUMNS = (
    Run.id, Run.rev, Run.number, Run.purpose, Run.brewed_at, Run.dose_g, Run.brew_water_g, Run.bypass_g, Run.beverage_g, Run.moisture_pct, Run.concentrate,
    Run.total_time_s, Run.observed, Run.liked, Setup.letter, Setup.name, SetupRevision.coffee, SetupRevision.grinder, SetupRevision.brewer, SetupRevision.recipe_version_id,
    Trial.id, Trial.number, Trial.question,
)  # fmt: skip


class Point(NamedTuple):
    """A brew as it is kept: the order of the JSON list. in_cup, full_liquor: its yields on either basis, %, with 95 % half-widths; None where it cannot be said."""

    run_id: str
    rev: int
    label: str
    letter: str
    purpose: str
    trial_id: str | None
    trial_number: int | None
    coffee: str
    grinder: str
    brewer: str
    recipe_id: str | None
    recipe_version: int | None
    name: str
    brewed_at: str
    brew_ratio: float | None
    total_time_s: float | None
    simulated: bool
    liking: float | None
    tds_pct: float | None
    tds_half_pct: float | None
    in_cup_pct: float | None
    in_cup_half_pct: float | None
    full_liquor_pct: float | None
    full_liquor_half_pct: float | None
    retained_water_ratio: float | None


def live_brews() -> pw.ModelSelect:
    """Of live trials, and loose ones, each with its setup and trial. Joined from the brews outwards, so that their own index gives the order."""
    return (
        Run.select()
        .join(Setup, pw.JOIN.LEFT_OUTER)
        .switch(Run)
        .join(SetupRevision, pw.JOIN.LEFT_OUTER)
        .switch(Run)
        .join(Trial, pw.JOIN.LEFT_OUTER)
        .where(Run.deleted_at.is_null() & Setup.deleted_at.is_null() & Trial.deleted_at.is_null())
    )


def measure_row(row: BrewRow, own: Instrument, tds_pct: list[float], accuracy_pct: float | None) -> Measured:
    return measure(masses_of(row), tds_pct, no_better_than(own, accuracy_pct))


def versions_of(ids: set[str]) -> dict[str, RecipeVersion]:
    rows = RecipeVersion.select(RecipeVersion.id, RecipeVersion.number, Recipe).join(Recipe).where(RecipeVersion.id.in_(list(ids))) if ids else []
    return {row.id: row for row in rows}


def up_to_date() -> str:
    """By what the kept points are worked out now, once all of them are."""
    own = instrument()
    by = hashlib.sha256(repr((CORE_VERSION, own)).encode()).hexdigest()[:16]
    old = Charted.select().where(Charted.worked_out_by != by).count()
    for _ in range(-(-old // AT_ONCE) + 1 if old else 0):  # no more often: a bench of another version beside this one would have its own way
        _work_out(by, own)
    return by


@use_case
def _work_out(by: str, own: Instrument) -> None:
    """Some of them, while nobody writes: what a brew rests on cannot change before its point is kept."""
    ids = [run for (run,) in Charted.select(Charted.run).where(Charted.worked_out_by != by).limit(AT_ONCE).tuples()]
    rows = [BrewRow(*row) for row in live_brews().select(*COLUMNS).where(Run.id.in_(ids)).tuples()] if ids else []
    taken, versions = queries.strengths_of([row.run_id for row in rows]), versions_of({row.version_id for row in rows} - {None})
    Charted.delete().where(Charted.run.in_(ids)).execute()  # one that is not live has no place
    insert(Charted, (_kept(row, by, measure_row(row, own, *taken.get(row.run_id, ([], None))), versions.get(row.version_id)) for row in rows))


def _kept(row: BrewRow, by: str, m: Measured, version: RecipeVersion | None) -> dict:
    return {
        "run": row.run_id,
        "worked_out_by": by,
        "brewed_at": row.brewed_at,
        "purpose": row.purpose,
        "coffee": row.coffee,
        "grinder": row.grinder,
        "brewer": row.brewer,
        "recipe": version.recipe.id if version else "",
        "point": json.dumps(_point(row, m, version), ensure_ascii=False, separators=(",", ":")),
    }


def _point(row: BrewRow, m: Measured, version: RecipeVersion | None) -> Point:
    return Point(
        run_id=row.run_id,
        rev=row.rev,
        label=run_label(row.letter, row),
        letter=row.letter,
        purpose=row.purpose,
        trial_id=row.trial_id,
        trial_number=row.trial_number,
        coffee=row.coffee,
        grinder=row.grinder,
        brewer=row.brewer,
        recipe_id=version.recipe.id if version else None,
        recipe_version=version.number if version else None,
        name=row.question or row.setup_name or (version.recipe.name if version else ""),
        brewed_at=row.brewed_at.isoformat().replace("+00:00", "Z"),
        brew_ratio=_told(m.brew_ratio),
        total_time_s=row.total_time_s,
        simulated=bool(row.observed.get("simulated")),
        liking=_told(Liked((row.liked or {}).get("by_pass", {})).liking),
        tds_pct=_told(m.strength.tds_pct if m.strength else None),
        tds_half_pct=_told(m.strength.estimate.half_width if m.strength else None),
        in_cup_pct=_told(m.in_cup.value if m.in_cup else None),
        in_cup_half_pct=_told(m.in_cup.half_width if m.in_cup else None),
        full_liquor_pct=_told(m.full_liquor.value if m.full_liquor else None),
        full_liquor_half_pct=_told(m.full_liquor.half_width if m.full_liquor else None),
        retained_water_ratio=_told(m.retained_water_ratio),
    )


def _told(value: float | None) -> float | None:
    """A chart draws no more places than these, and thousands of figures are sent."""
    return None if value is None else round(value, 5)


def points(found: pw.ModelSelect) -> Sequence[Sequence]:
    """Those of the asked-for rows, each in the order of Point: read as one document, which is faster than thousands."""
    return json.loads(f"[{','.join(text for (text,) in found.select(Charted.point).tuples())}]")
