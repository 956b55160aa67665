"""Every brew of the bench, filtered, with what the charts are drawn from. Columns instead of objects, for there are thousands."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, time, timedelta
from typing import Any, NamedTuple

import peewee as pw

from ..core.extraction import chartlines
from ..core.extraction.ladder import fit_ladder
from ..core.extraction.results import typical_retained
from ..core.extraction.yields import YIELD_BASIS_LABELS
from ..measuring.service import shape_ladder, shape_overlays, shape_windows
from ..store.models import Charted, Recipe
from . import kept
from . import schemas as s

MOST_FACETS = 200
NAMED = ("coffee", "grinder", "brewer", "recipe")
Columns = Mapping[str, Sequence[Any]]


class Combination(NamedTuple):
    """How many brews were made with these together."""

    coffee: str
    grinder: str
    brewer: str
    recipe: str
    count: int


def read_charts(asked: s.ChartQuery) -> s.ChartsAnswer:
    of_kind = _of_kind_and_day(asked, kept.up_to_date())
    found = kept.points(_named(of_kind, asked).order_by(Charted.brewed_at.desc(), Charted.run.desc()).limit(asked.limit))
    ey, half = f"{asked.yield_basis}_pct", f"{asked.yield_basis}_half_pct"
    place = {name: i for i, name in enumerate(kept.Point._fields)}
    drawn = [p for p in found if p[place["tds_pct"]] is not None and p[place[ey]] is not None]
    columns: Columns = dict(zip(kept.Point._fields, zip(*drawn, strict=True), strict=True)) if drawn else dict.fromkeys(kept.Point._fields, ())
    combined = [Combination(*row) for row in _combinations(of_kind)]
    recipes = dict(Recipe.select(Recipe.id, Recipe.name).where(Recipe.id.in_({c.recipe for c in combined} - {""} or {""})).tuples())
    retained = typical_retained(p[place["retained_water_ratio"]] for p in found)
    axes = chartlines.axes(list(zip(columns[ey], columns["tds_pct"], strict=True)))
    ratios = chartlines.ratios_to_draw(axes, yield_basis=asked.yield_basis, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(yield_basis=asked.yield_basis, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)
    return s.ChartsAnswer(
        yield_basis=asked.yield_basis,
        yield_basis_label=YIELD_BASIS_LABELS[asked.yield_basis],
        retained_water_ratio=retained,
        matching=sum(c.count for c in combined if all(not getattr(asked, name) or getattr(c, name) == getattr(asked, name) for name in NAMED)),
        unread=len(found) - len(drawn),
        points=_shape(columns, ey, half),
        coffees=_facet(asked, combined, "coffee"),
        grinders=_facet(asked, combined, "grinder"),
        brewers=_facet(asked, combined, "brewer"),
        recipes=_facet(asked, combined, "recipe", recipes),
        trails=_trails(columns, ey, recipes),
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=shape_windows(asked.yield_basis),
        overlays=shape_overlays(asked.yield_basis),
        tds_ladder=_ladder(columns, "tds_pct", "Strength", "% TDS", 2),
        ey_ladder=_ladder(columns, ey, YIELD_BASIS_LABELS[asked.yield_basis].capitalize(), "points", 1),
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def _of_kind_and_day(asked: s.ChartQuery, by: str) -> pw.ModelSelect:
    found = Charted.select().where(Charted.worked_out_by == by)
    if asked.purpose:
        found = found.where(Charted.purpose == asked.purpose)
    if asked.since:
        found = found.where(Charted.brewed_at >= datetime.combine(asked.since, time.min, UTC))
    if asked.until:
        found = found.where(Charted.brewed_at < datetime.combine(asked.until, time.min, UTC) + timedelta(days=1))
    return found


def _named(found: pw.ModelSelect, asked: s.ChartQuery) -> pw.ModelSelect:
    for name in NAMED:
        if getattr(asked, name):
            found = found.where(getattr(Charted, name) == getattr(asked, name))
    return found


def _combinations(found: pw.ModelSelect) -> pw.ModelSelect:
    """One pass over all brews of the kind and days: every facet is counted from it, each without its own part of the filter."""
    columns = tuple(getattr(Charted, name) for name in NAMED)
    return found.select(*columns, pw.fn.COUNT(Charted.run)).group_by(*columns).tuples()


def _facet(asked: s.ChartQuery, combined: list[Combination], name: str, labels: dict[str, str] | None = None) -> list[s.Facet]:
    others = [other for other in NAMED if other != name and getattr(asked, other)]
    counts: Counter[str] = Counter()
    for c in combined:
        if getattr(c, name) and all(getattr(c, other) == getattr(asked, other) for other in others):
            counts[getattr(c, name)] += c.count
    named = [s.Facet(name=value, label=labels[value] if labels else value, count=n) for value, n in counts.items()]
    return sorted(named, key=lambda f: (-f.count, f.label))[:MOST_FACETS]


def _shape(columns: Columns, ey: str, half: str) -> s.ChartColumns:
    texts: dict[str | None, int] = {None: s.NOT_SAID}
    coded = {name: [texts.setdefault(text, len(texts) - 1) for text in columns[name]] for name in s.CODED}
    plain = {name: columns[name] for name in s.ChartColumns.model_fields if name in kept.Point._fields and name not in (*s.CODED, "simulated")}
    return s.ChartColumns(
        texts=[text for text in texts if text is not None],
        **coded,
        **plain,
        brewed_at_s=[int(datetime.fromisoformat(at).timestamp()) for at in columns["brewed_at"]],
        simulated=[i for i, simulated in enumerate(columns["simulated"]) if simulated],
        ey_pct=columns[ey],
        ey_half_pct=columns[half],
    )


def _trails(columns: Columns, ey: str, recipes: dict[str, str]) -> list[s.TrailShown]:
    """A recipe brewed in two versions or more: where each version lies, in order."""
    by_version: dict[str, dict[int, list[tuple[float, float]]]] = defaultdict(lambda: defaultdict(list))
    for recipe, version, x, y in zip(columns["recipe_id"], columns["recipe_version"], columns[ey], columns["tds_pct"], strict=True):
        if recipe:
            by_version[recipe][version].append((x, y))
    return [
        s.TrailShown(
            recipe_id=recipe,
            name=recipes[recipe],
            versions=sorted(found),
            points=[[statistics.fmean(axis) for axis in zip(*found[v], strict=True)] for v in sorted(found)],
        )
        for recipe, found in by_version.items()
        if len(found) > 1
    ]


def _ladder(columns: Columns, of: str, what: str, unit: str, places: int) -> s.LadderShown | None:
    pairs = [(ratio, y) for ratio, y in zip(columns["brew_ratio"], columns[of], strict=True) if ratio is not None]
    fitted = fit_ladder(pairs) if columns[of] else None
    return shape_ladder(fitted, what, unit, places) if fitted else None
