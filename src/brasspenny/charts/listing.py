"""Every brew as a line: found by words, tags and kind, a page at a time. Reads only."""

from __future__ import annotations

import json

import peewee as pw

from ..brewing.runs import instrument
from ..core.brewing.liked import Liked
from ..core.trial.measured import run_label
from ..store import queries
from ..store.models import Recipe, RecipeVersion, Run, Setup, SetupRevision, Trial
from . import schemas as s
from .kept import COLUMNS, BrewRow, live_brews, measure_row, versions_of


def read_brews(asked: s.BrewsQuery) -> s.BrewsAnswer:
    found = _asked_for(asked)
    rows = list(
        found.select(*COLUMNS, Run.note, Run.tags, Run.archived_at)
        .order_by(Run.brewed_at if asked.order == "oldest" else Run.brewed_at.desc(), Run.id)
        .offset(asked.skip)
        .limit(asked.limit + 1)
        .tuples()
    )
    shown, more = rows[: asked.limit], len(rows) > asked.limit
    taken, own = queries.strengths_of([row[0] for row in shown]), instrument()
    versions = versions_of({BrewRow(*row[: len(COLUMNS)]).version_id for row in shown} - {None})
    return s.BrewsAnswer(brews=[_line(row, own, taken, versions, asked) for row in shown], more=more)


def read_tags() -> list[str]:
    """Every tag on a live brew, by name."""
    rows = Run.select(Run.tags).where(Run.deleted_at.is_null(), pw.fn.JSON_LENGTH(Run.tags) > 0).tuples()
    return sorted({tag for (tags,) in rows for tag in tags}, key=str.casefold)


def _asked_for(asked: s.BrewsQuery) -> pw.ModelSelect:
    found = live_brews().where(Run.archived_at.is_null(asked.shown != "archived"))
    if asked.shown in ("evidence", "dial_in", "loose"):
        found = found.where(Run.purpose == asked.shown)
    if asked.tag:
        found = found.where(pw.fn.JSON_CONTAINS(Run.tags, json.dumps(asked.tag, ensure_ascii=False)))
    for word in asked.text.split():
        found = found.where(_says(word))
    return found


def _says(word: str) -> pw.Expression:
    """In the brew's own words, its setup's, its trial's question, or the name of its recipe."""
    named = RecipeVersion.select(RecipeVersion.id).join(Recipe).where(Recipe.name.contains(word))
    told = (Run.note, Setup.name, SetupRevision.coffee, SetupRevision.grinder, SetupRevision.brewer, SetupRevision.filter, SetupRevision.water, Trial.question)
    says = Run.tags.cast("CHAR").contains(word) | SetupRevision.recipe_version_id.in_(named)
    for column in told:
        says |= column.contains(word)
    return says


def _line(row: tuple, own, taken: dict, versions: dict[str, RecipeVersion], asked: s.BrewsQuery) -> s.BrewListed:
    brew, (note, tags, archived_at) = BrewRow(*row[: len(COLUMNS)]), row[len(COLUMNS) :]
    m = measure_row(brew, own, *taken.get(brew.run_id, ([], None)))
    got, version = m.yield_in(asked.yield_basis), versions.get(brew.version_id)
    return s.BrewListed(
        run_id=brew.run_id,
        rev=brew.rev,
        label=run_label(brew.letter, brew),
        letter=brew.letter,
        purpose=brew.purpose,
        trial_id=brew.trial_id,
        trial_number=brew.trial_number,
        name=brew.question or brew.setup_name or (version.recipe.name if version else ""),
        coffee=brew.coffee,
        brewer=brew.brewer,
        recipe=f"{version.recipe.name}, version {version.number}" if version else "",
        brewed_at=brew.brewed_at,
        brew_ratio=m.brew_ratio,
        tds_pct=m.strength.tds_pct if m.strength else None,
        ey_pct=got.value if got else None,
        ey_half_pct=got.half_width if got else None,
        liking=Liked((brew.liked or {}).get("by_pass", {})).liking,
        simulated=bool(brew.observed.get("simulated")),
        note=note,
        tags=tags,
        archived=archived_at is not None,
    )
