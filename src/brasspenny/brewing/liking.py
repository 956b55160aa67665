"""How a brew was liked, in sight of its label; and brewing it again, unchanged or with one change."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from ..act import Act
from ..core.brewing import adviser
from ..core.brewing.liked import SIGHTED, Liked, LikedBrew, liked_most
from ..core.brewing.proposals import Proposal
from ..core.trial.measured import run_label
from ..history import service as history
from ..recipes import service as recipes
from ..refusals import Conflict, Unprocessable
from ..store.models import Recipe, RecipeVersion, Run, Setup, SetupRevision
from ..store.writing import use_case
from ..trials import service as trials
from ..trials.schemas import SetupPatch, VariablesPatch
from . import liking_schemas as s
from .advice import shape_proposal
from .behind import Behind
from .runs import open_run
from .turning import said

LATELY = timedelta(days=7)


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


class _Again(Behind):
    """A brew, and what the adviser says of it by what it tasted of."""

    def __init__(self, run: Run) -> None:
        super().__init__(run)
        self.liked = liked_of(run)
        self.advised = self.advise([w for w in adviser.TASTE_SIGNS if w in self.liked.words or adviser.SIGN_LABELS[w] in self.liked.words])

    @property
    def changes(self) -> list[adviser.Advice]:
        return [a for a in (self.advised.change, self.advised.rival) if a is not None]

    def shown(self, change: adviser.Advice) -> s.NextChangeShown:
        proposal = self.propose(change)
        return s.NextChangeShown(
            code=change.code,
            text=f"{change.text}: {said(proposal) or change.size}",
            reason=change.reason,
            confidence=change.confidence,
            proposal=shape_proposal(proposal),
        )


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
        missing=list(found.advised.missing),
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
    brewed_as = found.shown(change).text if change else ""
    if found.run.trial_id is None:
        return _loose_again(found, variables, version_id, brewed_as, act)
    return _setup_again(found, variables, version_id, brewed_as, act)


def _changed(found: _Again, change: adviser.Advice, act: Act) -> tuple[dict[str, Any], str | None]:
    """Variables of the setup that change, and the recipe version that holds the change: of a loose brew always where it has a recipe, of a trial's setup where it is no variable."""
    proposal = found.propose(change)
    if not proposal.can_be_brewed:
        why = proposal.unknown or "This change is no number of the recipe."
        raise Unprocessable("code", why, "Make it by hand, and say so in the note.")
    variables = _variables(found, proposal)
    loose = found.run.trial_id is None
    if found.kept is None or proposal.recipe is None or (variables and not loose):
        if not variables:
            raise Unprocessable("code", "This brew has no recipe to keep the change in.", "Give its setup a recipe, or make the change by hand.")
        return variables, None
    kept, _ = found.kept
    return variables, recipes.keep_version(kept, proposal.recipe, found.shown(change).text[:200], kept.rev, act)


def _variables(found: _Again, proposal: Proposal) -> dict[str, Any]:
    if proposal.variable in ("dose_g", "temperature_c", "brew_water_g"):
        return {proposal.variable: proposal.value}
    own = next((t for t in proposal.turns if t.dial_id == found.brewed.dial_id), None)
    return {"grind_setting": own.after} if own else {}


def _loose_again(found: _Again, variables: dict[str, Any], version_id: str | None, brewed_as: str, act: Act) -> s.NextBrewAnswer:
    revision, setup = found.revision, Setup.get_by_id(found.run.setup_id)
    fields = ("coffee", "grinder", "grind_setting", "filter", "brewer", "water", "temperature_c", "dose_g", "brew_water_g")
    same = {name: getattr(revision, name) for name in fields if getattr(revision, name) not in ("", None)}
    asked = VariablesPatch(**(same | variables))
    made = trials.loose_setup(asked, version_id or revision.recipe_version_id, setup.name, [], act)
    return s.NextBrewAnswer(setup_id=made.id, trial_id=None, brewed_as=brewed_as)


def _setup_again(found: _Again, variables: dict[str, Any], version_id: str | None, brewed_as: str, act: Act) -> s.NextBrewAnswer:
    setup = trials.open_setup(found.run.setup_id)
    if variables or version_id:
        if Run.select().where((Run.setup == setup.id) & (Run.purpose == "evidence") & Run.deleted_at.is_null()).exists():
            raise Conflict(
                "code", "This setup was already brewed for the comparison.", "Brew it unchanged, or change it in Set up and brew the comparison anew."
            )
        trials.change_setup(setup, SetupPatch(variables=VariablesPatch(**variables), recipe_version_id=version_id), setup.rev, act)
    return s.NextBrewAnswer(setup_id=setup.id, trial_id=setup.trial_id, brewed_as=brewed_as)


# --- how was it? -----------------------------------------------------------------------------------------------------------------------


def how_was_it(asked: s.LikedQuery, act: Act) -> s.HowWasItAnswer:
    """Which recipe was liked most, of the last days or of one coffee: sighted, by whom, how often."""
    since = act.now - (timedelta(days=asked.days) if asked.days else LATELY)
    rows = (
        Run.select(Run.liked, Run.created_by, RecipeVersion.recipe, Recipe.name)
        .join(SetupRevision, on=(SetupRevision.id == Run.setup_revision))
        .join(RecipeVersion, on=(RecipeVersion.id == SetupRevision.recipe_version_id))
        .join(Recipe, on=(Recipe.id == RecipeVersion.recipe))
        .where(Run.deleted_at.is_null() & Run.liked.is_null(False) & (Run.brewed_at >= since))
    )
    if asked.coffee:
        rows = rows.where(SetupRevision.coffee == asked.coffee)
    brews = []
    for liked, who, recipe_id, name in rows.tuples():
        liking = Liked(liked.get("by_pass", {})).liking
        if liking is not None:
            brews.append(LikedBrew(recipe_id, name, liking, who or ""))
    return s.HowWasItAnswer(since=since, sighted=SIGHTED, recipes=[s.LikedRecipeShown(**vars(r)) for r in liked_most(brews)])
