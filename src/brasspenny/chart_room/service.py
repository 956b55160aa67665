"""Every brew of the bench, filtered and worked out in one pass. Reads only."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from datetime import UTC, datetime, time, timedelta
from typing import Any

import peewee as pw

from ..brewing import service as brewing
from ..core import chartlines
from ..core.extraction import SCHOOL_LABELS
from ..core.ladder import fit_ladder
from ..core.measure import Measured
from ..core.results import typical_retained
from ..measuring.service import measure_run, run_label, shape_ladder, shape_overlays, shape_windows
from ..store import queries
from ..store.models import Recipe, RecipeVersion, Run, Setup, SetupRevision, Trial
from . import schemas as s

COLUMNS = (
    Run.id, Run.rev, Run.number, Run.purpose, Run.brewed_at, Run.dose_g, Run.brew_water_g, Run.bypass_g, Run.beverage_g, Run.moisture_pct, Run.concentrate,
    Run.total_time_s, Run.observed, Run.trial,
)  # fmt: skip


def read_chart_room(asked: s.ChartQuery) -> s.ChartRoomAnswer:
    rows = list(_matching(asked).select(*COLUMNS, Setup, SetupRevision, Trial).order_by(Run.brewed_at.desc(), Run.id).limit(asked.limit))
    taken, own = queries.readings_of(run.id for run in rows), brewing.instrument()
    versions = _versions({run.setup_revision.recipe_version_id for run in rows} - {None})
    measured = {run.id: measure_run(run, taken.get(run.id, []), own) for run in rows}
    points = [p for run in rows if (p := _point(run, measured[run.id], versions, asked)) is not None]
    retained = typical_retained(list(measured.values()))
    axes = chartlines.axes([(p.ey_pct, p.tds_pct) for p in points])
    ratios = chartlines.ratios_to_draw(axes, school=asked.school, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(school=asked.school, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)
    return s.ChartRoomAnswer(
        school=asked.school,
        school_label=SCHOOL_LABELS[asked.school],
        retained_water_ratio=retained,
        matching=_matching(asked).count(),
        unread=len(rows) - len(points),
        points=points,
        coffees=_facet(asked, SetupRevision.coffee, "coffee"),
        grinders=_facet(asked, SetupRevision.grinder, "grinder"),
        brewers=_facet(asked, SetupRevision.brewer, "brewer"),
        recipes=_recipes(asked),
        trails=_trails(points, versions),
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=shape_windows(asked.school),
        overlays=shape_overlays(asked.school),
        tds_ladder=_ladder(points, "tds_pct", "Strength", "% TDS", 2),
        ey_ladder=_ladder(points, "ey_pct", SCHOOL_LABELS[asked.school].capitalize(), "points", 1),
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def _matching(asked: s.ChartQuery, *, without: str = "") -> pw.ModelSelect:
    """Live brews under the filter; a facet counts without its own part of it."""
    found = (
        Run.select()
        .join(Setup)
        .switch(Run)
        .join(SetupRevision)
        .switch(Run)
        .join(Trial, pw.JOIN.LEFT_OUTER)
        .where(Run.deleted_at.is_null() & Setup.deleted_at.is_null() & Trial.deleted_at.is_null())
    )
    named: dict[str, Any] = {"coffee": SetupRevision.coffee, "grinder": SetupRevision.grinder, "brewer": SetupRevision.brewer}
    for name, column in named.items():
        if name != without and getattr(asked, name):
            found = found.where(column == getattr(asked, name))
    if asked.recipe and without != "recipe":
        found = found.where(SetupRevision.recipe_version_id.in_(RecipeVersion.select(RecipeVersion.id).where(RecipeVersion.recipe == asked.recipe)))
    if asked.purpose:
        found = found.where(Run.purpose == asked.purpose)
    if asked.since:
        found = found.where(Run.brewed_at >= datetime.combine(asked.since, time.min, UTC))
    if asked.until:
        found = found.where(Run.brewed_at < datetime.combine(asked.until, time.min, UTC) + timedelta(days=1))
    return found


def _versions(ids: set[str]) -> dict[str, RecipeVersion]:
    rows = RecipeVersion.select(RecipeVersion.id, RecipeVersion.number, Recipe).join(Recipe).where(RecipeVersion.id.in_(list(ids))) if ids else []
    return {row.id: row for row in rows}


def _point(run: Run, m: Measured, versions: dict[str, RecipeVersion], asked: s.ChartQuery) -> s.ChartPointShown | None:
    got = m.yield_in(asked.school)
    if got is None or m.strength is None:
        return None
    revision, trial = run.setup_revision, run.trial if run.trial_id else None
    version = versions.get(revision.recipe_version_id)
    label = run_label(run.setup.letter, run)
    return s.ChartPointShown(
        run_id=run.id,
        rev=run.rev,
        label=label,
        letter=run.setup.letter,
        purpose=run.purpose,
        trial_id=trial.id if trial else None,
        trial_number=trial.number if trial else None,
        coffee=revision.coffee,
        grinder=revision.grinder,
        brewer=revision.brewer,
        recipe_id=version.recipe.id if version else None,
        recipe_version=version.number if version else None,
        name=trial.question if trial else run.setup.name or (version.recipe.name if version else ""),
        brewed_at=run.brewed_at,
        brew_ratio=m.brew_ratio,
        total_time_s=run.total_time_s,
        simulated=bool(run.observed.get("simulated")),
        tds_pct=m.strength.tds_pct,
        tds_half_pct=m.strength.estimate.half_width,
        ey_pct=got.value,
        ey_half_pct=got.half_width,
    )


def _facet(asked: s.ChartQuery, column, name: str) -> list[s.Facet]:
    rows = _matching(asked, without=name).select(column, pw.fn.COUNT(Run.id)).where(column != "").group_by(column).order_by(pw.fn.COUNT(Run.id).desc(), column)
    return [s.Facet(name=value, label=value, count=n) for value, n in rows.limit(200).tuples()]


def _recipes(asked: s.ChartQuery) -> list[s.Facet]:
    rows = _matching(asked, without="recipe").select(SetupRevision.recipe_version_id, pw.fn.COUNT(Run.id)).group_by(SetupRevision.recipe_version_id)
    counts = {version: n for version, n in rows.tuples() if version}
    versions = _versions(set(counts))
    by_recipe: Counter[tuple[str, str]] = Counter()
    for version, n in counts.items():
        if version in versions:
            by_recipe[(versions[version].recipe.id, versions[version].recipe.name)] += n
    return [s.Facet(name=recipe, label=label, count=n) for (recipe, label), n in by_recipe.most_common(200)]


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
