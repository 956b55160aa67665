"""Asking a question and setting up what is compared."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..act import Act
from ..core import figures
from ..core.extraction.yields import YIELD_BASIS_LABELS
from ..core.planning.control import MATCHING_LABELS, TESTED_FIELD, Bar, strength_policy_in_force
from ..core.recipe.document import from_document
from ..core.recipe.outlook import is_concentrate
from ..core.trial import value
from ..core.trial.setups import bars_of, display_names, factor_words, facts_changed, yield_basis_in_force
from ..core.vocabulary import SETUP_LETTERS, VARIABLES, Factor
from ..history import service as history
from ..recipes.pours import pours_planned
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.load_trial import load, load_dials
from ..store.models import Change, Declaration, Flight, FlightBrew, KitItem, Recipe, RecipeVersion, Run, Setup, SetupRevision, Trial
from ..store.writing import use_case
from . import schemas as s
from .revisions import State, blank, current, insert_revision, new_revision, revise, to_recipe, variables_of, with_kit_of_now

LOOSE = "•"
"""The stamp of brews that belong to no trial."""
HOLDABLE = frozenset(v.field for v in VARIABLES)


def open_trial(trial_id: str) -> Trial:
    """The trial, or NotFound when there is none or it was deleted."""
    trial = Trial.get_or_none((Trial.id == trial_id) & Trial.deleted_at.is_null())
    if trial is None:
        raise NotFound("trial")
    return trial


def frozen(trial_id: str) -> value.Trial:
    """The trial as it stands, or NotFound."""
    trial = load(trial_id)
    if trial is None:
        raise NotFound("trial")
    return trial


def factors_of(trial: Trial) -> list[Factor]:
    """All that is asked about, the first one first."""
    return [trial.factor, *trial.further_factors]


def names_of(trial_id: str) -> dict[str, str]:
    """Setup id → the name to show."""
    return display_names(factors_of(open_trial(trial_id)), queries.setups_with_revisions(trial_id))


def open_setup(setup_id: str) -> Setup:
    setup = Setup.get_or_none((Setup.id == setup_id) & Setup.trial.is_null(False) & Setup.deleted_at.is_null())
    if setup is None:
        raise NotFound("setup")
    open_trial(setup.trial_id)
    return setup


# --- Ask ---------------------------------------------------------------------------------------------------------------


@use_case
def ask(sent: s.TrialBody, act: Act) -> s.TrialAnswer:
    return shape(begin(sent.model_dump(), act))


def begin(asked: dict[str, Any], act: Act) -> Trial:
    """A new trial with its number (inside the caller's transaction)."""
    _name_the_other([asked["factor"], *asked["further_factors"]], asked["factor_other"])
    factors = [asked["factor"], *asked["further_factors"]]
    _refuse_matching(factors, asked["strength_policy"])
    policy = strength_policy_in_force(factors, asked["strength_policy"])
    trial = Trial(id=act.new_id(), number=_next_number(), created_at=act.now, created_by=act.who, **asked | {"strength_policy": policy})
    history.add(trial, act=act, trial_id=trial.id)
    return trial


def _next_number() -> int:
    last = Trial.select(Trial.number).order_by(Trial.number.desc()).for_update().first()
    return last.number + 1 if last else 1


@use_case
def edit_trial(trial_id: str, sent: s.TrialPatch, rev: int, act: Act) -> s.TrialAnswer:
    trial = open_trial(trial_id)
    values = {name: getattr(sent, name) for name in sent.model_fields_set}
    if "archived" in values:
        values["archived_at"] = (trial.archived_at or act.now) if values.pop("archived") else None
    factors = [values.get("factor", trial.factor), *values.get("further_factors", trial.further_factors)]
    _refuse_matching(factors, values.get("strength_policy"))
    if "strength_policy" in values or factors != factors_of(trial):
        values["strength_policy"] = strength_policy_in_force(factors, values.get("strength_policy", trial.strength_policy))
    history.edit(trial, values, rev=rev, act=act, trial_id=trial.id)
    return shape(trial)


def _can_be_asked(trial: Trial, values: dict[str, Any]) -> None:
    factors = [values.get("factor", trial.factor), *values.get("further_factors", trial.further_factors)]
    _name_the_other(factors, values.get("factor_other", trial.factor_other))


VERDICT_RULES = ("judged_pass", "smallest_difference")
"""What decides a verdict beside the scores, and is to be chosen before they are known."""


def _rules_changed_late(trial: Trial, before: dict[str, Any], act: Act, undoes: str | None) -> None:
    """Record a rule of the verdict that was changed once scores were known, with what the verdict said until then: the margin remarks on it."""
    was = {name: before[name] for name in VERDICT_RULES if name in before}
    if was and queries.any_flipped(trial.id):
        now = {name: getattr(trial, name) for name in was}
        history.record(trial, "judged_again", act=act, trial_id=trial.id, before=was, after=now | {"verdict": queries.latest_headline(trial.id)})


history.guard("trial", edit=_can_be_asked, edited=_rules_changed_late)


def _name_the_other(factors: list[str], other: str) -> None:
    if len(set(factors)) < len(factors):
        raise Unprocessable("further_factors", "One factor is named twice.", "Name each factor once.")
    if "other" in factors and not other:
        raise Unprocessable("factor_other", "What is compared has no name.", "Say in a word or two what differs, such as agitation.")


def _refuse_matching(factors: Sequence[Factor], policy: str | None) -> None:
    if policy == "matched" and strength_policy_in_force(factors, "matched") != "matched":
        raise Unprocessable("strength_policy", "Cups of a question of ratio or strength would all be one drink if they were matched.", "Taste them as brewed.")


@use_case
def remove_trial(trial_id: str, act: Act) -> str:
    return history.remove(open_trial(trial_id), act=act, trial_id=trial_id)


def read_trial(trial_id: str) -> s.TrialAnswer:
    return shape(open_trial(trial_id))


def shape(trial: Trial) -> s.TrialAnswer:
    yield_basis = yield_basis_in_force(trial.yield_basis, queries.setups_with_revisions(trial.id))
    return s.TrialAnswer(
        id=trial.id,
        number=trial.number,
        question=trial.question,
        factor=trial.factor,
        factor_label=factor_words(factors_of(trial), trial.factor_other),
        factor_other=trial.factor_other,
        further_factors=trial.further_factors,
        yield_basis=yield_basis,
        yield_basis_label=YIELD_BASIS_LABELS[yield_basis],
        yield_basis_chosen=trial.yield_basis,
        strength_policy=strength_policy_in_force(factors_of(trial), trial.strength_policy),
        smallest_difference=trial.smallest_difference,
        judged_pass=trial.judged_pass,
        scatter_from=trial.scatter_from,
        note=trial.note,
        tags=trial.tags,
        archived=trial.archived_at is not None,
        rev=trial.rev,
        created_at=trial.created_at,
    )


# --- Set up --------------------------------------------------------------------------------------------------------------


@use_case
def add_setup(trial_id: str, sent: s.SetupBody, act: Act) -> s.SetupAnswer:
    trial = locked(trial_id)
    _free_letter(trial.id)  # that there is none is told before anything of the setup itself
    state = State(blank()) if sent.copy_of is None else State.of(current(open_setup(sent.copy_of)))
    if sent.recipe_version_id:
        state = to_recipe(state, sent.recipe_version_id)
    changes, match = _carried_over(state, {name: getattr(sent.variables, name) for name in sent.variables.model_fields_set})
    state = state.changed(changes)
    if sent.copy_of is not None:
        refuse_a_twin(trial.id, state)
    setup = put_in(trial, state, act, name=sent.name, new_kit=sent.new_kit)
    _declare_match(trial, match, act)
    return read_setup(setup.id)


def locked(trial_id: str) -> Trial:
    """The trial, held until this use case is over: one letter at a time."""
    return Trial.select().where(Trial.id == open_trial(trial_id).id).for_update().get()


def put_in(trial: Trial, state: State, act: Act, *, name: str = "", letter: str = "", new_kit: Sequence[str] = ()) -> Setup:
    """The next setup of a trial (inside the caller's transaction, the trial locked). letter: its own, where it is free."""
    free = letter and letter not in _live_letters(trial.id) | _brewed_letters(trial.id)
    setup = Setup(id=act.new_id(), trial=trial.id, letter=letter if free else _free_letter(trial.id), name=name, created_at=act.now)
    history.add(setup, act=act, trial_id=trial.id)
    revise(setup, state, act, new_kit=new_kit)
    return setup


def _carried_over(state: State, changes: dict[str, Any]) -> tuple[dict[str, Any], value.Declared | None]:
    """The changes, and with another grinder the setting that grinds like the old one there, with what it is declared by. A number means
    nothing on another dial: without a match the setting is left empty, to be dialled in."""
    before = state.variables
    other = "grinder" in changes and before["grinder"] and changes["grinder"] != before["grinder"]
    if not other or not before["grind_setting"] or "grind_setting" in changes:  # one that is said is meant for the new dial, the same number or not
        return changes, None
    dials = load_dials()
    carried = dials.carried(before["grind_setting"], dials.id_of(before["grinder"]), dials.id_of(changes["grinder"]))
    declared = value.Declared(carried.rule, carried.said(before["grind_setting"])) if carried.rule else None
    return {**changes, "grind_setting": carried.setting}, declared


def _declare_match(trial: Trial, match: value.Declared | None, act: Act) -> None:
    """The setting that came along, declared with the kind of match it rests on, unless something stronger was said already."""
    if match is None or Declaration.select().where((Declaration.trial == trial.id) & (Declaration.field == "grind_setting")).exists():
        return
    Declaration.create(id=act.new_id(), trial=trial.id, field="grind_setting", rule=match.rule, reason=match.reason, created_at=act.now)
    history.record(trial, "declare", act=act, trial_id=trial.id, after={"field": "grind_setting", "rule": match.rule, "reason": match.reason})


def refuse_a_twin(trial_id: str, state: State) -> None:
    """Two setups that do not differ compare nothing."""
    for setup, revision in queries.setups_with_revisions(trial_id):
        if variables_of(revision) == state.variables and revision.recipe == state.recipe:
            raise Unprocessable("variables", f"This setup would differ in nothing from {setup.letter}.", "Change the one thing that is compared.")


def loose_setup(sent: s.VariablesPatch, recipe_version_id: str | None, name: str, new_kit: Sequence[str], act: Act) -> Setup:
    """What a loose brew is made to (inside the caller's transaction): of no trial, so nothing is compared with it."""
    state = to_recipe(State(blank()), recipe_version_id) if recipe_version_id else State(blank())
    state = state.changed({n: getattr(sent, n) for n in sent.model_fields_set})
    setup = Setup(id=act.new_id(), trial=None, letter=LOOSE, name=name, created_at=act.now)
    history.add(setup, act=act, trial_id=None)
    revision = insert_revision(setup, state, act, new_kit)
    Setup.update(revision_id=revision.id).where(Setup.id == setup.id).execute()
    setup.revision_id = revision.id
    return setup


@use_case
def edit_setup(setup_id: str, sent: s.SetupPatch, rev: int, act: Act) -> s.SetupAnswer:
    setup = open_setup(setup_id)
    change_setup(setup, sent, rev, act)
    return read_setup(setup.id)


def change_setup(setup: Setup, sent: s.SetupPatch, rev: int, act: Act) -> None:
    """Inside the caller's transaction."""
    values: dict[str, Any] = {"name": sent.name} if "name" in sent.model_fields_set else {}
    changes = {name: getattr(sent.variables, name) for name in sent.variables.model_fields_set}
    match = None
    if changes or sent.recipe_version_id:
        changes, match = _carried_over(State.of(current(setup)), changes)
        values |= new_revision(setup, changes, act, recipe_version_id=sent.recipe_version_id, new_kit=sent.new_kit)
    history.edit(setup, values, rev=rev, act=act, trial_id=setup.trial_id)
    _declare_match(open_trial(setup.trial_id), match, act)


@use_case
def hold(trial_id: str, sent: s.HoldBody, act: Act) -> s.SetUpAnswer:
    """Give every setup the value that one of them has. A declaration about it ends, and is recorded, so that taking this back brings it back."""
    trial = open_trial(trial_id)
    if sent.field not in HOLDABLE:
        raise Unprocessable("field", f"{sent.field} is not a variable that can be held.", f"Give one of {', '.join(sorted(HOLDABLE))}.")
    rows = queries.setups_with_revisions(trial.id)
    model = next((revision for setup, revision in rows if setup.letter == sent.letter), None)
    if model is None:
        raise Unprocessable("letter", f"There is no setup {sent.letter}.", "Give the letter of a setup of this trial.")
    fields = ("brewer", "brewer_type") if sent.field == "brewer" else (sent.field,)
    for setup, _ in rows:
        values = new_revision(setup, {f: getattr(model, f) for f in fields}, act, steps=model.recipe if sent.field == "pours" else None)
        history.edit(setup, values, rev=setup.rev, act=act, trial_id=trial.id)
    _end_declaration(trial, sent.field, "hold", act)
    return read_set_up(trial.id)


@use_case
def take_kit_of_now(trial_id: str, sent: s.KitOfNowBody, act: Act) -> s.SetUpAnswer:
    """Give every setup that was made on this piece of kit a revision that knows it as it stands today."""
    trial = open_trial(trial_id)
    using = [(setup, revision) for setup, revision in queries.setups_with_revisions(trial.id) if sent.kit_item_id in _kit_ids(revision)]
    if not using:
        raise Unprocessable("kit_item_id", "No setup of this trial is made on that.", "Choose a piece of kit that one of them names.")
    item = KitItem.get_or_none((KitItem.id == sent.kit_item_id) & KitItem.deleted_at.is_null())
    if item is None:
        raise NotFound("piece of kit")
    for setup, revision in using:
        history.edit(setup, {"revision_id": with_kit_of_now(setup, revision, item, act).id}, rev=setup.rev, act=act, trial_id=trial.id)
    return read_set_up(trial.id)


def _kit_ids(revision: SetupRevision) -> set[str]:
    return {item["id"] for item in (revision.kit or {}).values()}


def _end_declaration(trial: Trial, field: str, action: str, act: Act) -> bool:
    """Delete the declaration about this field and record what it was; False where there is none."""
    declared = Declaration.get_or_none((Declaration.trial == trial.id) & (Declaration.field == field))
    if declared is None:
        return False
    declared.delete_instance()
    was = {"field": field, "rule": declared.rule, "reason": declared.reason}
    history.record(trial, action, act=act, trial_id=trial.id, before=was)
    return True


def _declaration_back(setup: Setup, before: dict[str, Any], act: Act, undoes: str | None) -> None:
    """Declare again what a hold ended, once the setups it made equal are given their own values back."""
    if undoes is None or setup.trial_id is None:
        return
    undone = Change.get_by_id(undoes)
    ended = Change.get_or_none((Change.trial_id == setup.trial_id) & (Change.action == "hold") & (Change.at == undone.at))
    if ended is None:
        return
    trial, was = open_trial(setup.trial_id), ended.before
    if not Declaration.select().where((Declaration.trial == trial.id) & (Declaration.field == was["field"])).exists():
        _declare(trial, was["field"], was["rule"], was["reason"], act)


@use_case
def declare(trial_id: str, sent: s.DeclareBody, act: Act) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    if sent.field not in HOLDABLE:
        raise Unprocessable("field", f"{sent.field} is not a variable.", f"Give one of {', '.join(sorted(HOLDABLE))}.")
    Declaration.delete().where((Declaration.trial == trial.id) & (Declaration.field == sent.field)).execute()
    _declare(trial, sent.field, sent.rule, sent.reason, act)
    return read_set_up(trial.id)


def _declare(trial: Trial, field: str, rule: str, reason: str, act: Act) -> None:
    Declaration.create(id=act.new_id(), trial=trial.id, field=field, rule=rule, reason=reason, created_at=act.now)
    history.record(trial, "declare", act=act, trial_id=trial.id, after={"field": field, "rule": rule, "reason": reason})


@use_case
def take_back(trial_id: str, field: str, act: Act) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    if not _end_declaration(trial, field, "take_back", act):
        raise NotFound("declaration")
    return read_set_up(trial.id)


@use_case
def remove_setup(setup_id: str, act: Act) -> str:
    setup = open_setup(setup_id)
    return history.remove(setup, act=act, trial_id=setup.trial_id)


def _in_no_flight(setup: Setup) -> None:
    in_flight = FlightBrew.select().join(Flight).switch(FlightBrew).join(Run).where((Run.setup == setup.id) & Flight.deleted_at.is_null())
    if in_flight.exists():
        raise Conflict("", f"Brews of {setup.letter} stand in a flight.", "Delete that flight first, or leave the setup.")


def _letter_back(setup: Setup) -> None:
    """A deleted setup comes back under its own letter, or under a free one where another has it now."""
    if setup.trial_id is None:
        return
    open_trial(setup.trial_id)
    if setup.letter in _live_letters(setup.trial_id):
        Setup.update(letter=_free_letter(setup.trial_id)).where(Setup.id == setup.id).execute()


history.guard("setup", remove=_in_no_flight, restore=_letter_back, edited=_declaration_back)


def _live_letters(trial_id: str) -> set[str]:
    return {x.letter for x in Setup.select(Setup.letter).where((Setup.trial == trial_id) & Setup.deleted_at.is_null())}


def _brewed_letters(trial_id: str) -> set[str]:
    """Letters that stand on brews' labels, of deleted setups too."""
    given = (Setup.brews_given > 0) | (Setup.dial_ins_given > 0)
    return {x.letter for x in Setup.select(Setup.letter).where((Setup.trial == trial_id) & given)}


def _free_letter(trial_id: str) -> str:
    """The first that no setup has; one that was brewed is given again only when there is no other."""
    live, brewed = _live_letters(trial_id), _brewed_letters(trial_id)
    free = [letter for letter in SETUP_LETTERS if letter not in live]
    if not free:
        raise Conflict("", f"A trial compares at most {len(SETUP_LETTERS)} setups.", "Delete one, or ask a second question.")
    return next((letter for letter in free if letter not in brewed), free[0])


# --- reading -------------------------------------------------------------------------------------------------------------


def read_set_up(trial_id: str) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    rows = queries.setups_with_revisions(trial.id)
    names = display_names(factors_of(trial), rows)
    declared = {d.field: value.Declared(d.rule, d.reason) for d in Declaration.select().where(Declaration.trial == trial.id)}
    counts, recipe_names = queries.run_counts(trial.id), _recipe_names([revision for _, revision in rows])
    return s.SetUpAnswer(
        setups=[_shape_setup(setup, revision, names[setup.id], counts.get(setup.id, 0), recipe_names) for setup, revision in rows],
        bars=[_shape_bar(bar) for bar in bars_of(factors_of(trial), trial.factor_other, declared, rows)],
        matching_rules=[s.MatchingRuleAnswer(code=code, label=label) for code, label in MATCHING_LABELS.items()],
        tested_field=TESTED_FIELD[trial.factor],
        tested_fields=[TESTED_FIELD[f] for f in factors_of(trial)],
        made_on=_made_on(rows),
    )


def _made_on(rows: Sequence[tuple[Setup, SetupRevision]]) -> list[s.MadeOnAnswer]:
    """Kit whose facts have changed since the setups were made on it."""
    used = {item["id"]: item for _, revision in rows for item in (revision.kit or {}).values()}
    out = []
    for item in KitItem.select().where(KitItem.id.in_(list(used)) & KitItem.deleted_at.is_null()).order_by(KitItem.name) if used else ():
        changes, letters = [], []
        for setup, revision in rows:
            then = next((x["facts"] for x in (revision.kit or {}).values() if x["id"] == item.id), None)
            if then is not None and (differs := facts_changed(item.kind, then, item.facts)):
                changes += [x for x in differs if x not in changes]
                letters.append(setup.letter)
        if letters:
            text = f"{item.name} was changed in Kit after {figures.joined(letters)} {'was' if len(letters) == 1 else 'were'} set up."
            out.append(s.MadeOnAnswer(kit_item_id=item.id, name=item.name, letters=letters, text=text, changes=changes))
    return out


def read_setup(setup_id: str) -> s.SetupAnswer:
    setup = Setup.get_by_id(setup_id)
    trial = open_trial(setup.trial_id)
    revision = current(setup)
    runs = Run.select().where((Run.setup == setup.id) & Run.deleted_at.is_null()).count()
    return _shape_setup(setup, revision, display_names(factors_of(trial), [(setup, revision)])[setup.id], runs, _recipe_names([revision]))


def _recipe_names(revisions: list[SetupRevision]) -> dict[str, RecipeVersion]:
    """Recipe versions by id, each with its recipe at hand."""
    ids = [r.recipe_version_id for r in revisions if r.recipe_version_id]
    rows = RecipeVersion.select(RecipeVersion, Recipe).join(Recipe).where(RecipeVersion.id.in_(ids)) if ids else []
    return {row.id: row for row in rows}


def _setup_recipe(revision: SetupRevision, names: dict[str, RecipeVersion]) -> s.SetupRecipe | None:
    version = names.get(revision.recipe_version_id)
    if version is None:
        return None
    own = revision.recipe != version.document
    return s.SetupRecipe(version_id=version.id, recipe_id=version.recipe.id, name=version.recipe.name, version=version.number, own_amounts=own)


def _shape_setup(setup: Setup, revision: SetupRevision, name: str, runs: int, recipe_names: dict[str, RecipeVersion]) -> s.SetupAnswer:
    return s.SetupAnswer(
        id=setup.id,
        letter=setup.letter,
        name=name,
        given_name=setup.name,
        revision=revision.number,
        variables=s.Variables(**variables_of(revision)),
        recipe=_setup_recipe(revision, recipe_names),
        brew_ratio=(revision.brew_water_g + revision.bypass_g) / revision.dose_g,
        runs=runs,
        next_brew=setup.brews_given + 1,
        concentrate=bool(revision.recipe and is_concentrate(from_document(revision.recipe))),
        pours=pours_planned(revision),
        rev=setup.rev,
    )


def _shape_bar(bar: Bar) -> s.BarAnswer:
    return s.BarAnswer(
        field=bar.field,
        label=bar.label,
        unit=bar.unit,
        kind=bar.kind,
        segments=[s.SegmentAnswer(value=g.value, letters=list(g.letters), odd=g.odd) for g in bar.segments],
        note=bar.said,
        hold_letter=bar.hold_letter,
    )
