"""Brews of no trial, measured like any other. Reads only."""

from __future__ import annotations

from ..brewing.liking import liked_of
from ..brewing.runs import instrument, tolerances
from ..core.extraction.yields import YIELD_BASIS_LABELS, yield_basis_of
from ..core.trial.measured import asked_of, measure_run, off_plan_of, skipped_of
from ..core.trial.value import Reading
from ..store import queries
from ..store.models import Recipe, RecipeVersion, Run, Setup, SetupRevision
from . import schemas as s
from .service import shape_run

MOST = 50


def read_loose() -> s.LooseRunsAnswer:
    rows = list(
        Run.select(Run, Setup, SetupRevision)
        .join(Setup)
        .switch(Run)
        .join(SetupRevision)
        .where(Run.trial.is_null() & Run.deleted_at.is_null() & Run.archived_at.is_null())
        .order_by(Run.brewed_at.desc(), Run.id)
        .limit(MOST)
    )
    taken, own, allowed = queries.readings_of(run.id for run in rows), instrument(), tolerances()
    versions = [r.setup_revision.recipe_version_id for r in rows if r.setup_revision.recipe_version_id]
    recipes = dict(RecipeVersion.select(RecipeVersion.id, RecipeVersion.recipe).where(RecipeVersion.id.in_(versions)).tuples()) if versions else {}
    names = dict(Recipe.select(Recipe.id, Recipe.name).where(Recipe.id.in_(list(set(recipes.values())))).tuples()) if recipes else {}
    return s.LooseRunsAnswer(runs=[_shape(run, taken.get(run.id, []), own, allowed, recipes, names) for run in rows])


def _shape(run: Run, taken: list[Reading], own, allowed, recipes: dict[str, str], names: dict[str, str]) -> s.LooseRunShown:
    revision = run.setup_revision
    yield_basis = yield_basis_of(revision.brewer_type) if revision.brewer_type else "in_cup"
    recipe_id = recipes.get(revision.recipe_version_id)
    measured = shape_run(
        run,
        measure_run(run, taken, own, revision),
        taken,
        revision,
        yield_basis=yield_basis,
        letter=run.setup.letter,
        off_plan=off_plan_of(run, revision, allowed),
        skipped=skipped_of(run, revision),
        asked=asked_of(revision),
    )
    return s.LooseRunShown(
        **measured.model_dump(),
        name=run.setup.name or names.get(recipe_id, "") or "Loose brew",
        coffee=revision.coffee,
        brewer=revision.brewer,
        recipe_id=recipe_id,
        yield_basis=yield_basis,
        liking=liked_of(run).liking,
        yield_basis_label=YIELD_BASIS_LABELS[yield_basis],
    )
