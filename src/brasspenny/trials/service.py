"""Asking a question and setting up what is compared."""

from __future__ import annotations

from typing import Any

from ..act import Act
from ..core.control import FACTOR_LABELS, MATCHING_LABELS, TESTED_FIELD, VARIABLES, Bar, brew_ratio_shown, control_bars
from ..core.extraction import BREWER_LABELS, SCHOOL_LABELS, School, school_of
from ..history import service as history
from ..kit import service as kit
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.connection import database
from ..store.models import Declaration, Flight, FlightBrew, Run, Setup, SetupRevision, Trial
from . import schemas as s

LETTERS = "ABCDEF"
VARIABLE_NAMES: tuple[str, ...] = tuple(s.Variables.model_fields)
HOLDABLE = frozenset(v.field for v in VARIABLES)


def open_trial(trial_id: str) -> Trial:
    """The trial, or NotFound when there is none or it was deleted."""
    trial = Trial.get_or_none((Trial.id == trial_id) & Trial.deleted_at.is_null())
    if trial is None:
        raise NotFound("trial")
    return trial


def open_setup(setup_id: str) -> Setup:
    setup = Setup.get_or_none((Setup.id == setup_id) & Setup.deleted_at.is_null())
    if setup is None:
        raise NotFound("setup")
    open_trial(setup.trial_id)
    return setup


# --- Ask ---------------------------------------------------------------------------------------------------------------


@database.atomic()
def ask(sent: s.TrialBody, act: Act) -> s.TrialAnswer:
    _name_the_other(sent.factor, sent.factor_other)
    trial = Trial(id=act.new_id(), number=_next_number(), created_at=act.now, created_by=act.who, **sent.model_dump())
    history.add(trial, act=act, trial_id=trial.id)
    return shape(trial)


def _next_number() -> int:
    last = Trial.select(Trial.number).order_by(Trial.number.desc()).for_update().first()
    return last.number + 1 if last else 1


@database.atomic()
def edit_trial(trial_id: str, sent: s.TrialPatch, rev: int, act: Act) -> s.TrialAnswer:
    trial = open_trial(trial_id)
    values = {name: getattr(sent, name) for name in sent.model_fields_set}
    _name_the_other(values.get("factor", trial.factor), values.get("factor_other", trial.factor_other))
    history.edit(trial, values, rev=rev, act=act, trial_id=trial.id)
    return shape(trial)


def _name_the_other(factor: str, other: str) -> None:
    if factor == "other" and not other:
        raise Unprocessable("factor_other", "What is compared has no name.", "Say in a word or two what differs, such as agitation.")


@database.atomic()
def remove_trial(trial_id: str, act: Act) -> str:
    return history.remove(open_trial(trial_id), act=act, trial_id=trial_id)


def read_trial(trial_id: str) -> s.TrialAnswer:
    return shape(open_trial(trial_id))


def school_in_force(trial: Trial, rows: list[tuple[Setup, SetupRevision]] | None = None) -> School:
    """As chosen, else the school of the first setup's brewer, else in-cup. rows: the trial's setups, if they are at hand."""
    if trial.school:
        return trial.school
    for _, revision in queries.setups_with_revisions(trial.id) if rows is None else rows:
        if revision.brewer_type:
            return school_of(revision.brewer_type)
    return "in_cup"


def shape(trial: Trial) -> s.TrialAnswer:
    school = school_in_force(trial)
    return s.TrialAnswer(
        id=trial.id,
        number=trial.number,
        question=trial.question,
        factor=trial.factor,
        factor_label=trial.factor_other if trial.factor == "other" else FACTOR_LABELS[trial.factor],
        factor_other=trial.factor_other,
        school=school,
        school_label=SCHOOL_LABELS[school],
        school_chosen=trial.school,
        strength_policy=trial.strength_policy,
        smallest_difference=trial.smallest_difference,
        rev=trial.rev,
        created_at=trial.created_at,
    )


# --- Set up --------------------------------------------------------------------------------------------------------------


@database.atomic()
def add_setup(trial_id: str, sent: s.SetupBody, act: Act) -> s.SetupAnswer:
    trial = open_trial(trial_id)
    letter = _free_letter(trial_id)
    variables = _blank() if sent.copy_of is None else _variables(_current(open_setup(sent.copy_of)))
    variables = _changed(variables, {name: getattr(sent.variables, name) for name in sent.variables.model_fields_set})
    setup = Setup(id=act.new_id(), trial=trial.id, letter=letter, name=sent.name, created_at=act.now)
    history.add(setup, act=act, trial_id=trial.id)
    _revise(setup, variables, act)
    return read_setup(setup.id)


@database.atomic()
def edit_setup(setup_id: str, sent: s.SetupPatch, rev: int, act: Act) -> s.SetupAnswer:
    setup = open_setup(setup_id)
    values: dict[str, Any] = {"name": sent.name} if "name" in sent.model_fields_set else {}
    changes = {name: getattr(sent.variables, name) for name in sent.variables.model_fields_set}
    if changes:
        values |= _new_revision(setup, changes, act)
    history.edit(setup, values, rev=rev, act=act, trial_id=setup.trial_id)
    return read_setup(setup.id)


@database.atomic()
def hold(trial_id: str, sent: s.HoldBody, act: Act) -> s.SetUpAnswer:
    """Give every setup the value that one of them has; a declaration about it becomes pointless and goes."""
    trial = open_trial(trial_id)
    if sent.field not in HOLDABLE:
        raise Unprocessable("field", f"{sent.field} is not a variable that can be held.", f"Give one of {', '.join(sorted(HOLDABLE))}.")
    rows = queries.setups_with_revisions(trial.id)
    model = next((revision for setup, revision in rows if setup.letter == sent.letter), None)
    if model is None:
        raise Unprocessable("letter", f"There is no setup {sent.letter}.", "Give the letter of a setup of this trial.")
    fields = ("brewer", "brewer_type") if sent.field == "brewer" else (sent.field,)
    for setup, _ in rows:
        values = _new_revision(setup, {f: getattr(model, f) for f in fields}, act)
        history.edit(setup, values, rev=setup.rev, act=act, trial_id=trial.id)
    Declaration.delete().where((Declaration.trial == trial.id) & (Declaration.field == sent.field)).execute()
    return read_set_up(trial.id)


@database.atomic()
def declare(trial_id: str, sent: s.DeclareBody, act: Act) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    if sent.field not in HOLDABLE:
        raise Unprocessable("field", f"{sent.field} is not a variable.", f"Give one of {', '.join(sorted(HOLDABLE))}.")
    Declaration.delete().where((Declaration.trial == trial.id) & (Declaration.field == sent.field)).execute()
    Declaration.create(id=act.new_id(), trial=trial.id, field=sent.field, rule=sent.rule, created_at=act.now)
    history.record(trial, "declare", act=act, trial_id=trial.id, after={"field": sent.field, "rule": sent.rule})
    return read_set_up(trial.id)


@database.atomic()
def take_back(trial_id: str, field: str, act: Act) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    gone = Declaration.delete().where((Declaration.trial == trial.id) & (Declaration.field == field)).execute()
    if not gone:
        raise NotFound("declaration")
    history.record(trial, "take_back", act=act, trial_id=trial.id, before={"field": field})
    return read_set_up(trial.id)


@database.atomic()
def remove_setup(setup_id: str, act: Act) -> str:
    setup = open_setup(setup_id)
    in_flight = FlightBrew.select().join(Flight).switch(FlightBrew).join(Run).where((Run.setup == setup.id) & Flight.deleted_at.is_null())
    if in_flight.exists():
        raise Conflict("", f"Brews of {setup.letter} stand in a flight.", "Delete that flight first, or leave the setup.")
    return history.remove(setup, act=act, trial_id=setup.trial_id)


@history.guard_restore("setup")
def _letter_back(setup: Setup) -> None:
    """A deleted setup comes back under its own letter, or under the next free one."""
    if setup.letter in _used_letters(setup.trial_id):
        Setup.update(letter=_free_letter(setup.trial_id)).where(Setup.id == setup.id).execute()


def _used_letters(trial_id: str) -> set[str]:
    return {x.letter for x in Setup.select(Setup.letter).where((Setup.trial == trial_id) & Setup.deleted_at.is_null())}


def _free_letter(trial_id: str) -> str:
    used = _used_letters(trial_id)
    for letter in LETTERS:
        if letter not in used:
            return letter
    raise Conflict("", f"A trial compares at most {len(LETTERS)} setups.", "Delete one, or ask a second question.")


def _blank() -> dict[str, Any]:
    return dict.fromkeys(VARIABLE_NAMES, "") | {"brewer_type": None, "temperature_c": None, "dose_g": None, "brew_water_g": None, "bypass_g": 0.0}


def _variables(revision: SetupRevision) -> dict[str, Any]:
    return {name: getattr(revision, name) for name in VARIABLE_NAMES}


def _current(setup: Setup) -> SetupRevision:
    return SetupRevision.get_by_id(setup.revision_id)


def _new_revision(setup: Setup, changes: dict[str, Any], act: Act) -> dict[str, Any]:
    """The setup's new revision_id when anything differs: a revision is never changed, runs point at the one they brewed."""
    before = _variables(_current(setup))
    after = _changed(before, changes)
    if after == before:
        return {}
    return {"revision_id": _insert_revision(setup, after, act).id}


def _changed(before: dict[str, Any], changes: dict[str, Any]) -> dict[str, Any]:
    """Another brewer does not keep the old one's kind: its own comes with it, or from the kit."""
    if "brewer" in changes and "brewer_type" not in changes and changes["brewer"] != before["brewer"]:
        changes = {**changes, "brewer_type": None}
    return before | changes


def _revise(setup: Setup, variables: dict[str, Any], act: Act) -> None:
    revision = _insert_revision(setup, variables, act)
    Setup.update(revision_id=revision.id).where(Setup.id == setup.id).execute()


def _insert_revision(setup: Setup, variables: dict[str, Any], act: Act) -> SetupRevision:
    for name in ("dose_g", "brew_water_g"):
        if variables[name] is None:
            raise Unprocessable(f"variables.{name}", "A setup needs its dose and its brew water.", "Give both, in g.")
    number = SetupRevision.select().where(SetupRevision.setup == setup.id).count() + 1
    return SetupRevision.create(id=act.new_id(), setup=setup.id, number=number, created_at=act.now, **kit.remember(variables, act))


# --- reading -------------------------------------------------------------------------------------------------------------


def bars_of(trial: Trial, rows: list[tuple[Setup, SetupRevision]]) -> tuple[Bar, ...]:
    """The control bars of these setups."""
    if not rows:
        return ()
    declared = {d.field: MATCHING_LABELS[d.rule] for d in Declaration.select().where(Declaration.trial == trial.id)}
    return control_bars(
        [setup.letter for setup, _ in rows],
        [shown_values(revision) for _, revision in rows],
        factor=trial.factor,
        declared=declared,
        other_label=trial.factor_other,
    )


def shown_values(revision: SetupRevision) -> dict[str, str]:
    """Each variable as the bars show it."""
    values = {name: _number_or_text(getattr(revision, name)) for name in VARIABLE_NAMES if name != "brewer_type"}
    if revision.brewer_type:
        values["brewer"] = f"{revision.brewer} · {BREWER_LABELS[revision.brewer_type]}" if revision.brewer else BREWER_LABELS[revision.brewer_type]
    if values["bypass_g"] == "0":
        values["bypass_g"] = ""
    values["brew_ratio"] = brew_ratio_shown(revision.dose_g, revision.brew_water_g, revision.bypass_g)
    return values


def _number_or_text(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


def display_names(trial: Trial, rows: list[tuple[Setup, SetupRevision]]) -> dict[str, str]:
    """Setup id → the name to show: as given, else the tested value, else its letter."""
    field = TESTED_FIELD[trial.factor]
    out = {}
    for setup, revision in rows:
        value = revision.brewer if field == "brewer" else shown_values(revision).get(field, "")
        unit = next((v.unit for v in VARIABLES if v.field == field and v.unit), "")
        out[setup.id] = setup.name or f"{value} {unit}".strip() or f"Setup {setup.letter}"
    return out


def read_set_up(trial_id: str) -> s.SetUpAnswer:
    trial = open_trial(trial_id)
    rows = queries.setups_with_revisions(trial.id)
    names = display_names(trial, rows)
    counts = queries.run_counts(trial.id)
    return s.SetUpAnswer(
        setups=[_shape_setup(setup, revision, names[setup.id], counts.get(setup.id, 0)) for setup, revision in rows],
        bars=[_shape_bar(bar) for bar in bars_of(trial, rows)],
        matching_rules=[s.MatchingRuleAnswer(code=code, label=label) for code, label in MATCHING_LABELS.items()],
        tested_field=TESTED_FIELD[trial.factor],
    )


def read_setup(setup_id: str) -> s.SetupAnswer:
    setup = Setup.get_by_id(setup_id)
    trial = open_trial(setup.trial_id)
    revision = _current(setup)
    runs = Run.select().where((Run.setup == setup.id) & Run.deleted_at.is_null()).count()
    return _shape_setup(setup, revision, display_names(trial, [(setup, revision)])[setup.id], runs)


def _shape_setup(setup: Setup, revision: SetupRevision, name: str, runs: int) -> s.SetupAnswer:
    return s.SetupAnswer(
        id=setup.id,
        letter=setup.letter,
        name=name,
        given_name=setup.name,
        revision=revision.number,
        variables=s.Variables(**_variables(revision)),
        brew_ratio=(revision.brew_water_g + revision.bypass_g) / revision.dose_g,
        runs=runs,
        rev=setup.rev,
    )


def _shape_bar(bar: Bar) -> s.BarAnswer:
    return s.BarAnswer(
        field=bar.field,
        label=bar.label,
        unit=bar.unit,
        kind=bar.kind,
        segments=[s.SegmentAnswer(value=g.value, letters=list(g.letters), odd=g.odd) for g in bar.segments],
        note=bar.note,
        hold_letter=bar.hold_letter,
    )
