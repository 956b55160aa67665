"""How a brew was liked, in sight of its label; and brewing it again, unchanged or with one change."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from ..act import Act
from ..core.brewing import adviser
from ..core.brewing.liked import SIGHTED, Liked, LikedBrew, liked_most
from ..core.extraction.measure import Measured
from ..core.extraction.results import typical_retained
from ..core.extraction.yields import school_of
from ..core.kit.heat import boiling_point_c
from ..core.recipe.changes import differences, in_words
from ..core.recipe.model import Recipe as CoreRecipe
from ..core.trial.measured import measure_run, run_label
from ..core.trial.setups import recipe_of
from ..history import service as history
from ..recipes import service as recipes
from ..refusals import Unprocessable
from ..store import queries
from ..store.models import Bench, Recipe, RecipeVersion, Run, Setup, SetupRevision
from ..store.writing import use_case
from ..trials import service as trials
from ..trials.schemas import SetupPatch, VariablesPatch
from . import liking_schemas as s
from .runs import instrument, open_run
from .turning import turned_to

LATELY = timedelta(days=7)
AS_VARIABLES = {"temperature": "temperature_c", "dose": "dose_g"}


def liked_of(run: Run) -> Liked:
    kept = run.liked or {}
    return Liked(kept.get("by_pass", {}), tuple(kept.get("words", ())))


@use_case
def like(run_id: str, sent: s.LikingBody, rev: int, act: Act) -> s.AgainAnswer:
    run = open_run(run_id)
    by_pass = {name: value for name, value in sent.by_pass.items() if value is not None}
    kept = {"by_pass": by_pass, "words": list(dict.fromkeys(w.strip().lower() for w in sent.words if w.strip()))} if by_pass or sent.words else None
    history.edit(run, {"liked": kept}, rev=rev, act=act, trial_id=run.trial_id)
    return read_again(run.id)


# --- brew it again -------------------------------------------------------------------------------------------------------------------


class _Again:
    """What stands behind a brew, and what the adviser says of it."""

    def __init__(self, run: Run) -> None:
        self.run = run
        self.revision = SetupRevision.get_by_id(run.setup_revision_id)
        self.recipe = recipe_of(self.revision)
        self.liked = liked_of(run)
        self.school = school_of(self.revision.brewer_type) if self.revision.brewer_type else "in_cup"
        self.measured: Measured = measure_run(run, queries.readings_of([run.id])[run.id], instrument(), self.revision)
        got = self.measured.yield_in(self.school)
        self.results = adviser.Results(self.measured.strength.tds_pct if self.measured.strength else None, got.value if got else None, run.total_time_s)
        self.limits = adviser.Limits(boiling_c=boiling_point_c(Bench.get_by_id(1).altitude_m), least_dose_g=_least_dose_g(self.revision))
        words = [w for w in adviser.TASTE_SIGNS if w in self.liked.words or adviser.SIGN_LABELS[w] in self.liked.words]
        self.advised = adviser.advise(self.recipe, self.results, words, school=self.school, retained_water_ratio=self.kept_water, limits=self.limits)

    @property
    def kept_water(self) -> float:
        return typical_retained([self.measured])

    @property
    def changes(self) -> list[adviser.Advice]:
        return [a for a in (self.advised.change, self.advised.rival) if a is not None]

    def draft(self, change: adviser.Advice) -> CoreRecipe | None:
        return adviser.draft_of(self.recipe, change, self.results, school=self.school, retained_water_ratio=self.kept_water, limits=self.limits)

    def shown(self, change: adviser.Advice) -> s.NextChangeShown:
        before, to, what = "", "", change.text
        if change.knob == "grind":
            before, to = self.revision.grind_setting, turned_to(self.revision, change)
            what = f"{change.text}: {before} → {to} on the {self.revision.grinder}" if to else f"{change.text}: {change.size}"
        elif draft := self.draft(change):
            what = f"{change.text}: {in_words(differences(self.recipe, draft))}"
        else:
            what = f"{change.text}: {change.size}"
        can = bool(to) or (change.knob != "grind" and self.draft(change) is not None)
        return s.NextChangeShown(code=change.code, text=what, reason=change.reason, confidence=change.confidence, before=before, to=to, can_be_brewed=can)


def _least_dose_g(revision: SetupRevision) -> float | None:
    return ((revision.kit or {}).get("brewer") or {}).get("facts", {}).get("dose_low_g")


def read_again(run_id: str) -> s.AgainAnswer:
    found = _Again(open_run(run_id))
    run = found.run
    return s.AgainAnswer(
        run_id=run.id,
        rev=run.rev,
        label=run_label(run.setup.letter, run),
        trial_id=run.trial_id,
        liking=found.liked.liking,
        by_pass=found.liked.by_pass,
        words=list(found.liked.words),
        sighted=SIGHTED,
        changes=[found.shown(c) for c in found.changes],
        disagreement=found.advised.disagreement,
        signs=[adviser.SIGN_LABELS[x] for x in found.advised.signs],
        taste_words=[adviser.SIGN_LABELS[w] for w in adviser.TASTE_SIGNS],
    )


@use_case
def brew_again(run_id: str, sent: s.AgainBody, act: Act) -> s.NextBrewAnswer:
    """What is brewed next: the same, or with one change, which goes into its setup (of a trial, while nothing was brewed for the comparison) or into its recipe. Of a loose brew a new
    loose setup is made; nothing is compared with either."""
    found = _Again(open_run(run_id))
    change = next((c for c in found.changes if c.code == sent.code), None)
    if sent.code and change is None:
        raise Unprocessable("code", "That change is not advised for this brew.", "Choose one of the changes shown, or brew it unchanged.")
    variables, version_id = _changed(found, change, act) if change else ({}, None)
    if found.run.trial_id is None:
        return _loose_again(found, variables, version_id, act)
    return _setup_again(found, variables, version_id, act)


def _changed(found: _Again, change: adviser.Advice, act: Act) -> tuple[dict[str, Any], str | None]:
    """Variables of the setup that change, and the recipe version that holds what is no variable."""
    if change.knob == "grind":
        to = turned_to(found.revision, change)
        if not to:
            raise Unprocessable("code", "The dial it was ground on is not known.", "Give the setup a grinder of the kit and a setting, or turn it by hand.")
        return {"grind_setting": to}, None
    draft = found.draft(change)
    if draft is None:
        raise Unprocessable("code", "This change is no number of the recipe.", "Make it by hand, and say so in the note.")
    if field := AS_VARIABLES.get(change.knob):
        return {field: getattr(draft, field)}, None
    return {}, _next_version(found, draft, change, act)


def _next_version(found: _Again, draft: CoreRecipe, change: adviser.Advice, act: Act) -> str:
    version = RecipeVersion.get_or_none(RecipeVersion.id == found.revision.recipe_version_id) if found.revision.recipe_version_id else None
    kept = Recipe.get_or_none((Recipe.id == version.recipe_id) & Recipe.deleted_at.is_null()) if version else None
    if kept is None:
        raise Unprocessable("code", "This brew has no recipe to keep the change in.", "Give its setup a recipe, or make the change by hand.")
    return recipes.keep_version(kept, draft, change.text, kept.rev, act)


def _loose_again(found: _Again, variables: dict[str, Any], version_id: str | None, act: Act) -> s.NextBrewAnswer:
    revision, setup = found.revision, Setup.get_by_id(found.run.setup_id)
    fields = ("coffee", "grinder", "grind_setting", "filter", "brewer", "water", "temperature_c", "dose_g", "brew_water_g")
    same = {name: getattr(revision, name) for name in fields if getattr(revision, name) not in ("", None)}
    asked = VariablesPatch(**(same | variables))
    made = trials.loose_setup(asked, version_id or revision.recipe_version_id, setup.name, [], act)
    return s.NextBrewAnswer(setup_id=made.id, trial_id=None, brewed_as=", ".join(f"{k}: {v}" for k, v in variables.items()))


def _setup_again(found: _Again, variables: dict[str, Any], version_id: str | None, act: Act) -> s.NextBrewAnswer:
    setup = trials.open_setup(found.run.setup_id)
    if variables or version_id:
        trials.change_setup(setup, SetupPatch(variables=VariablesPatch(**variables), recipe_version_id=version_id), setup.rev, act)
    return s.NextBrewAnswer(setup_id=setup.id, trial_id=setup.trial_id, brewed_as=", ".join(f"{k}: {v}" for k, v in variables.items()))


# --- how was it? -----------------------------------------------------------------------------------------------------------------------


def how_was_it(asked: s.LikedQuery, act: Act) -> s.HowWasItAnswer:
    """Which recipe was liked most, of the last days or of one coffee: sighted, by whom, how often."""
    since = act.now - (timedelta(days=asked.days) if asked.days else LATELY)
    rows = (
        Run.select(Run.liked, Run.created_by, RecipeVersion.recipe, Recipe.name, Setup.name.alias("called"))
        .join(Setup, on=(Setup.id == Run.setup))
        .switch(Run)
        .join(SetupRevision, on=(SetupRevision.id == Run.setup_revision))
        .join(RecipeVersion, on=(RecipeVersion.id == SetupRevision.recipe_version_id))
        .join(Recipe, on=(Recipe.id == RecipeVersion.recipe))
        .where(Run.deleted_at.is_null() & Run.liked.is_null(False) & (Run.brewed_at >= since))
    )
    if asked.coffee:
        rows = rows.where(SetupRevision.coffee == asked.coffee)
    brews = []
    for liked, who, recipe_id, name, _ in rows.tuples():
        liking = Liked(liked.get("by_pass", {})).liking
        if liking is not None:
            brews.append(LikedBrew(recipe_id, name, liking, who or ""))
    return s.HowWasItAnswer(since=since, sighted=SIGHTED, recipes=[s.LikedRecipeShown(**vars(r)) for r in liked_most(brews)])
