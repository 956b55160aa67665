"""From a design to brewable setups: each row of levels becomes a setup, copied from the base with those levels changed."""

from __future__ import annotations

from typing import Any

from ..act import Act
from ..core.grinding.dials import Dials
from ..core.grinding.settings import MATCH_ORDER
from ..core.planning.control import TESTED_FIELD
from ..core.planning.designs import Design, LevelledFactor, design
from ..core.vocabulary import MatchingRule
from ..history import service as history
from ..refusals import Conflict, Unprocessable
from ..store import queries
from ..store.load_trial import load_dials
from ..store.models import Declaration, Setup, SetupRevision
from ..store.writing import use_case
from ..trials import schemas as trials_s
from ..trials import service as trials
from . import plans
from . import schemas as s

NUMERIC = ("ratio", "temperature", "grind_setting")


@use_case
def lay_out(trial_id: str, sent: s.DesignBody, rev: int, act: Act) -> s.PlanAnswer:
    """Make the setups. Brewed ones stay if they are part of the design; others without brews are replaced. Raises Conflict, Unprocessable."""
    trial = trials.open_trial(trial_id)
    rows = queries.setups_with_revisions(trial.id)
    if not rows:
        raise Unprocessable("base", "There is no setup yet to copy the rest from.", "Describe the first setup, or give it a recipe.")
    base, revision = _base(rows, sent.base)
    made = design(sent.kind, [LevelledFactor(f.factor, tuple(f.levels), f.factor in NUMERIC) for f in sent.factors])
    wanted, notes, rule = _wanted(made, revision, sent)
    _name_factors(trial, made, act)
    _place(trial.id, base, rows, wanted, sent.new_kit, act)
    if rule:
        _declare_setting(trial.id, rule, act)
    values = {"design": sent.model_dump() | {"notes": [*made.notes, *notes]}}
    plans.store(trial, values, rev, act)
    return plans.read_plan(trial.id)


def _base(rows: list[tuple[Setup, SetupRevision]], letter: str | None) -> tuple[Setup, SetupRevision]:
    for setup, revision in rows:
        if letter in (None, setup.letter):
            return setup, revision
    raise Unprocessable("base", f"There is no setup {letter}.", "Give the letter of a setup of this trial.")


def _wanted(made: Design, base: SetupRevision, sent: s.DesignBody) -> tuple[list[dict[str, Any]], list[str], MatchingRule | None]:
    """Per row the variables that differ from the base; notes; and the rule grind settings follow when grinders change."""
    matches = load_dials() if "grinder" in made.factors else None
    wanted, notes, kinds = [], [], []
    for row in made.setups:
        changes: dict[str, Any] = {}
        for i, (factor, level) in enumerate(zip(made.factors, row, strict=True)):
            changes |= _level(f"factors.{i}.levels", factor, level, base, sent.ratio_moves)
        if matches and "grind_setting" not in changes:
            changes["grind_setting"], note, found = _setting_for(matches, changes["grinder"], base)
            kinds += found
            notes += [note] if note and note not in notes else []
        wanted.append(changes)
    rule = max(kinds, key=MATCH_ORDER.index) if kinds else None
    return wanted, notes, rule


def _level(field: str, factor: str, level: str, base: SetupRevision, ratio_moves: str) -> dict[str, Any]:
    if factor == "temperature":
        return {"temperature_c": _number(field, level, 1, 120)}
    if factor != "ratio":
        return {TESTED_FIELD[factor]: level}
    ratio = _number(field, level, 1, 100)
    if ratio_moves == "dose":
        return {"dose_g": round((base.brew_water_g + base.bypass_g) / ratio, 1)}
    water = round(ratio * base.dose_g - base.bypass_g, 1)
    if water <= 0:
        raise Unprocessable(field, f"At 1:{ratio:g} the bypass alone is more than all the water.", "Give a longer ratio, or less bypass.")
    return {"brew_water_g": water}


def _number(field: str, text: str, low: float, high: float) -> float:
    try:
        value = float(text.removeprefix("1:"))
    except ValueError:
        raise Unprocessable(field, f"“{text[:20]}” is not a number.", "Give numbers, such as 15, 16, 17.") from None
    if not low <= value <= high:
        raise Unprocessable(field, f"{value:g} cannot be.", f"Give {low:g} to {high:g}.")
    return value


def _setting_for(dials: Dials, grinder: str, base: SetupRevision) -> tuple[str, str, list[str]]:
    """The base's setting on this grinder, where matched pairs lead; else left empty, to be dialled in."""
    if grinder == base.grinder:
        return base.grind_setting, "", []
    found = dials.carried(base.grind_setting, dials.id_of(base.grinder), dials.id_of(grinder))
    if not found.setting:
        return "", f"No match leads to a setting of {grinder}: dial it in.", []
    return found.setting, f"{grinder} set to {found.setting}, {found.span} by its matches.", list(found.matches)


def _name_factors(trial, made: Design, act: Act) -> None:
    values = {"factor": made.factors[0], "further_factors": list(made.factors[1:])}
    history.edit(trial, values, rev=trial.rev, act=act, trial_id=trial.id)


def _place(trial_id: str, base: Setup, rows: list[tuple[Setup, SetupRevision]], wanted: list[dict[str, Any]], new_kit: list[str], act: Act) -> None:
    counts = queries.run_counts(trial_id)
    left = list(range(len(wanted)))
    for setup, revision in rows:
        fits = next((i for i in left if all(getattr(revision, name) == value for name, value in wanted[i].items())), None)
        if fits is not None and (counts.get(setup.id) or setup.id != base.id):
            left.remove(fits)
        elif counts.get(setup.id):
            raise Conflict(
                "factors", f"Setup {setup.letter} has brews and is not part of this design.", "Add its levels, or ask a new question for the design."
            )
        elif setup.id != base.id:
            trials.remove_setup(setup.id, act)
    if not counts.get(base.id) and left:
        patch = trials_s.SetupPatch(variables=trials_s.VariablesPatch(**wanted[left.pop(0)]), new_kit=new_kit)
        trials.edit_setup(base.id, patch, base.rev, act)
    for i in left:
        trials.add_setup(trial_id, trials_s.SetupBody(copy_of=base.id, variables=trials_s.VariablesPatch(**wanted[i]), new_kit=new_kit), act)


def _declare_setting(trial_id: str, rule: MatchingRule, act: Act) -> None:
    if not Declaration.select().where((Declaration.trial == trial_id) & (Declaration.field == "grind_setting")).exists():
        trials.declare(trial_id, trials_s.DeclareBody(field="grind_setting", rule=rule), act)
