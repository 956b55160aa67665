"""Every brew of the bench, filtered and worked out in one pass. Reads only."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from datetime import UTC, datetime, time, timedelta
from typing import NamedTuple

import peewee as pw

from ..brewing.runs import instrument
from ..core.brewing.liked import Liked
from ..core.extraction import chartlines
from ..core.extraction.ladder import fit_ladder
from ..core.extraction.measure import Measured, measure
from ..core.extraction.results import typical_retained
from ..core.extraction.uncertainty import Instrument
from ..core.extraction.yields import SCHOOL_LABELS
from ..core.trial.measured import masses_of, no_better_than, run_label
from ..measuring.service import shape_ladder, shape_overlays, shape_windows
from ..store import queries
from ..store.models import Recipe, RecipeVersion, Run, Setup, SetupRevision, Trial
from . import schemas as s

MOST_FACETS = 200


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


class Combination(NamedTuple):
    """How many brews were made with these together."""

    coffee: str
    grinder: str
    brewer: str
    recipe: str
    count: int


NAMED = ("coffee", "grinder", "brewer", "recipe")


def read_chart_room(asked: s.ChartQuery) -> s.ChartRoomAnswer:
    found = _named(_of_kind_and_day(asked).select(*COLUMNS), asked)
    rows = [BrewRow(*row) for row in found.order_by(Run.brewed_at.desc(), Run.id.desc()).limit(asked.limit).tuples()]
    taken, own = queries.strengths_of([row.run_id for row in rows]), instrument()
    combined, recipes = _combinations(asked)
    versions = versions_of({row.version_id for row in rows} - {None})
    measured = {row.run_id: measure_row(row, own, *taken.get(row.run_id, ([], None))) for row in rows}
    points = [p for row in rows if (p := _point(row, measured[row.run_id], versions, asked)) is not None]
    retained = typical_retained(list(measured.values()))
    axes = chartlines.axes([(p.ey_pct, p.tds_pct) for p in points])
    ratios = chartlines.ratios_to_draw(axes, school=asked.school, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(school=asked.school, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)
    return s.ChartRoomAnswer(
        school=asked.school,
        school_label=SCHOOL_LABELS[asked.school],
        retained_water_ratio=retained,
        matching=sum(c.count for c in combined if all(not getattr(asked, name) or getattr(c, name) == getattr(asked, name) for name in NAMED)),
        unread=len(rows) - len(points),
        points=points,
        coffees=_facet(asked, combined, "coffee"),
        grinders=_facet(asked, combined, "grinder"),
        brewers=_facet(asked, combined, "brewer"),
        recipes=_facet(asked, combined, "recipe", recipes),
        trails=_trails(points, versions),
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=shape_windows(asked.school),
        overlays=shape_overlays(asked.school),
        tds_ladder=_ladder(points, "tds_pct", "Strength", "% TDS", 2),
        ey_ladder=_ladder(points, "ey_pct", SCHOOL_LABELS[asked.school].capitalize(), "points", 1),
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def measure_row(row: BrewRow, own: Instrument, tds_pct: list[float], accuracy_pct: float | None) -> Measured:
    return measure(masses_of(row), tds_pct, no_better_than(own, accuracy_pct))


def live_brews() -> pw.ModelSelect:
    """Of live trials, and loose ones, each with its setup and trial."""
    return (
        Run.select()
        .join(Setup)
        .switch(Run)
        .join(SetupRevision)
        .switch(Run)
        .join(Trial, pw.JOIN.LEFT_OUTER)
        .where(Run.deleted_at.is_null() & Setup.deleted_at.is_null() & Trial.deleted_at.is_null())
    )


def _of_kind_and_day(asked: s.ChartQuery) -> pw.ModelSelect:
    found = live_brews()
    if asked.purpose:
        found = found.where(Run.purpose == asked.purpose)
    if asked.since:
        found = found.where(Run.brewed_at >= datetime.combine(asked.since, time.min, UTC))
    if asked.until:
        found = found.where(Run.brewed_at < datetime.combine(asked.until, time.min, UTC) + timedelta(days=1))
    return found


def _named(found: pw.ModelSelect, asked: s.ChartQuery) -> pw.ModelSelect:
    for name, column in (("coffee", SetupRevision.coffee), ("grinder", SetupRevision.grinder), ("brewer", SetupRevision.brewer)):
        if getattr(asked, name):
            found = found.where(column == getattr(asked, name))
    if asked.recipe:
        found = found.where(SetupRevision.recipe_version_id.in_(RecipeVersion.select(RecipeVersion.id).where(RecipeVersion.recipe == asked.recipe)))
    return found


def _combinations(asked: s.ChartQuery) -> tuple[list[Combination], dict[str, str]]:
    """One pass over all brews of the kind and days: every facet is counted from it, each without its own part of the filter."""
    columns = (SetupRevision.coffee, SetupRevision.grinder, SetupRevision.brewer, SetupRevision.recipe_version_id)
    rows = list(_of_kind_and_day(asked).select(*columns, pw.fn.COUNT(Run.id)).group_by(*columns).tuples())
    versions = versions_of({row[3] for row in rows} - {None})
    recipes = {v.recipe.id: v.recipe.name for v in versions.values()}
    combined = [Combination(*row[:3], versions[row[3]].recipe.id if row[3] in versions else "", int(row[4])) for row in rows]
    return combined, recipes


def _facet(asked: s.ChartQuery, combined: list[Combination], name: str, labels: dict[str, str] | None = None) -> list[s.Facet]:
    others = [other for other in NAMED if other != name and getattr(asked, other)]
    counts: Counter[str] = Counter()
    for c in combined:
        if getattr(c, name) and all(getattr(c, other) == getattr(asked, other) for other in others):
            counts[getattr(c, name)] += c.count
    named = [s.Facet(name=value, label=labels[value] if labels else value, count=n) for value, n in counts.items()]
    return sorted(named, key=lambda f: (-f.count, f.label))[:MOST_FACETS]


def versions_of(ids: set[str]) -> dict[str, RecipeVersion]:
    rows = RecipeVersion.select(RecipeVersion.id, RecipeVersion.number, Recipe).join(Recipe).where(RecipeVersion.id.in_(list(ids))) if ids else []
    return {row.id: row for row in rows}


def _point(row: BrewRow, m: Measured, versions: dict[str, RecipeVersion], asked: s.ChartQuery) -> s.ChartPointShown | None:
    got = m.yield_in(asked.school)
    if got is None or m.strength is None:
        return None
    version = versions.get(row.version_id)
    return s.ChartPointShown(
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
        brewed_at=row.brewed_at,
        brew_ratio=m.brew_ratio,
        total_time_s=row.total_time_s,
        simulated=bool(row.observed.get("simulated")),
        liking=Liked((row.liked or {}).get("by_pass", {})).liking,
        tds_pct=m.strength.tds_pct,
        tds_half_pct=m.strength.estimate.half_width,
        ey_pct=got.value,
        ey_half_pct=got.half_width,
    )


def _trails(points: list[s.ChartPointShown], versions: dict[str, RecipeVersion]) -> list[s.TrailShown]:
    """A recipe brewed in two versions or more: where each version lies, in order."""
    names = {row.recipe.id: row.recipe.name for row in versions.values()}
    by_version: dict[str, dict[int, list[s.ChartPointShown]]] = defaultdict(lambda: defaultdict(list))
    for p in points:
        if p.recipe_id:
            by_version[p.recipe_id][p.recipe_version].append(p)
    return [
        s.TrailShown(
            recipe_id=recipe,
            name=names[recipe],
            versions=sorted(found),
            points=[[statistics.fmean(p.ey_pct for p in found[v]), statistics.fmean(p.tds_pct for p in found[v])] for v in sorted(found)],
        )
        for recipe, found in by_version.items()
        if len(found) > 1
    ]


def _ladder(points: list[s.ChartPointShown], field: str, what: str, unit: str, places: int) -> s.LadderShown | None:
    fitted = fit_ladder([(p.brew_ratio, getattr(p, field)) for p in points if p.brew_ratio is not None]) if points else None
    return shape_ladder(fitted, what, unit, places) if fitted else None
