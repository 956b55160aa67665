"""Beginning a trial: what the question seems to be about, its first setups at once, and beginning from another trial."""

from __future__ import annotations

from typing import Any

from ..act import Act
from ..core.errors import PennyError
from ..core.planning.control import TESTED_FIELD
from ..core.trial.asked import guess
from ..core.trial.setups import held_in_all
from ..core.units import read_ratio
from ..core.vocabulary import FACTOR_KINDS
from ..history import service as history
from ..kit import service as kit
from ..refusals import Conflict, Refusal, Unprocessable
from ..store import queries
from ..store.models import Declaration, Setup, Trial
from ..store.writing import use_case
from . import schemas as s
from .revisions import State, blank, current, to_recipe
from .service import begin, locked, open_trial, put_in, read_set_up, refuse_a_twin, shape

COPIED = ("question", "factor", "factor_other", "further_factors", "yield_basis", "strength_policy", "smallest_difference", "judged_pass")
"""What a duplicate asks like the trial it was made from."""
FACTOR_OF_KIND = {f.tests: f.code for f in FACTOR_KINDS if f.tests in kit.KINDS}
"""Kind of kit → what a comparison of such asks about."""


def guess_factor(question: str) -> s.GuessAnswer:
    found = guess(question, kit_names())
    return s.GuessAnswer(factor=found.factor, further_factors=list(found.further), options=list(found.options))


def kit_names() -> dict[str, str]:
    """Full name → factor, of the live kit that a question can compare."""
    items = kit.live_items()
    names = kit.full_names(items)
    kinds = {k.id: "grinder" if k.kind == "burr_set" else k.kind for k in items}
    return {names[k.id]: FACTOR_OF_KIND[kinds[k.id]] for k in items if kinds[k.id] in FACTOR_OF_KIND}


@use_case
def first_setups(trial_id: str, sent: s.FirstSetupsBody, act: Act) -> s.SetUpAnswer:
    """All of them or none: one that is refused leaves the trial empty, the fault at its field under `setups.N`."""
    trial = locked(trial_id)
    if queries.setups_with_revisions(trial.id):
        raise Conflict("", "This trial has its first setups already.", "Copy one of them and change one thing.")
    shared = to_recipe(State(blank()), sent.recipe_version_id) if sent.recipe_version_id else State(blank())
    shared = shared.changed(_sent(sent.variables))
    kinds = {item.kind for item in kit.live_items()}
    new_kit = [*sent.new_kit, *(kind for kind in kit.KINDS if kind not in kinds)]  # the first of their kind are slips of nothing
    for i, own in enumerate(sent.setups):
        try:
            state = shared.changed(_sent(own.variables) | _water(shared, own))
            refuse_a_twin(trial.id, state)
            put_in(trial, state, act, new_kit=new_kit)
        except (Refusal, PennyError) as refused:
            raise _placed(refused, i, own) from None
    return read_set_up(trial.id)


def _sent(variables: s.VariablesPatch) -> dict[str, Any]:
    return {name: getattr(variables, name) for name in variables.model_fields_set}


def _water(shared: State, own: s.FirstOfSetup) -> dict[str, Any]:
    """The brew water a ratio asks for, of the dose the setup will have."""
    if not own.brew_ratio:
        return {}
    ratio = read_ratio(own.brew_ratio)
    dose_g = _sent(own.variables).get("dose_g", shared.variables["dose_g"])
    if dose_g is None:
        raise Unprocessable("variables.dose_g", "A ratio needs the dose it is a ratio of.", "Give the dose, in g.")
    bypass_g = _sent(own.variables).get("bypass_g", shared.variables["bypass_g"])
    if bypass_g >= dose_g * ratio:
        raise Unprocessable("variables.bypass_g", "The bypass alone is more water than this ratio has.", "Give less bypass, or another ratio.")
    return {"brew_water_g": round(dose_g * ratio - bypass_g, 1)}


def _placed(refused: Refusal | PennyError, i: int, own: s.FirstOfSetup) -> Unprocessable | Refusal:
    """A fault of what a setup has of its own stands at its own field; of what they share, at the shared one."""
    if isinstance(refused, Refusal) and not isinstance(refused, Unprocessable):
        return refused
    reason, remedy, field = refused.reason, refused.remedy, refused.field
    if field == "ratio":
        return Unprocessable(f"setups.{i}.brew_ratio", reason, remedy)
    name = field.removeprefix("variables.")
    is_own = name in own.variables.model_fields_set or field == "variables"
    return Unprocessable(f"setups.{i}.{field}" if is_own else field, reason, remedy)


def held_before(trial_id: str) -> s.HeldBeforeAnswer:
    """What the newest other trial held alike, less what this one asks about."""
    trial = open_trial(trial_id)
    newest = (
        Trial.select()
        .join(Setup, on=(Setup.trial == Trial.id) & Setup.deleted_at.is_null())
        .where((Trial.id != trial.id) & Trial.deleted_at.is_null())
        .order_by(Trial.number.desc())
        .first()
    )
    if newest is None:
        return s.HeldBeforeAnswer(before=None)
    asked = {TESTED_FIELD[f] for f in (trial.factor, *trial.further_factors)}
    asked |= {"brew_water_g"} if "brew_ratio" in asked else set()
    held = {name: value for name, value in held_in_all(queries.setups_with_revisions(newest.id)).items() if name not in asked}
    return s.HeldBeforeAnswer(before=s.BeforeAnswer(trial_id=newest.id, number=newest.number, question=newest.question, variables=held))


@use_case
def duplicate(trial_id: str, act: Act) -> s.TrialAnswer:
    """Asked anew: the question, its settings, the setups as they are now and what was declared."""
    model = open_trial(trial_id)
    trial = begin({name: getattr(model, name) for name in COPIED}, act)
    for setup, _ in queries.setups_with_revisions(model.id):
        put_in(trial, State.of(current(setup)), act, name=setup.name)
    for d in Declaration.select().where(Declaration.trial == model.id):
        Declaration.create(id=act.new_id(), trial=trial.id, field=d.field, rule=d.rule, reason=d.reason, created_at=act.now)
    history.record(trial, "duplicate", act=act, trial_id=trial.id, after={"of": model.id, "number": model.number})
    return shape(trial)
