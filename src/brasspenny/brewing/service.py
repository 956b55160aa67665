"""Logging brews, of a trial and loose, and correcting them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from ..act import Act
from ..core.brewing.along import MadeStep, MarkedStep, TypedPour, corrected, marked_steps, planned_steps
from ..core.extraction.measure import check_masses, check_times, measure
from ..core.limits import check_read
from ..core.recipe.document import from_document
from ..core.recipe.outlook import is_concentrate
from ..core.trial.measured import masses_of
from ..core.trial.setups import recipe_of
from ..history import service as history
from ..refusals import Conflict, Unprocessable
from ..store import queries
from ..store.models import Flight, FlightBrew, Run, Setup, SetupRevision
from ..store.writing import use_case
from ..trials import service as trials
from . import schemas as s
from .readings import add_reading
from .runs import instrument, open_run

# --- of a trial --------------------------------------------------------------------------------------------------------


@use_case
def log_run(trial_id: str, sent: s.RunBody, act: Act, *, made: Sequence[MadeStep] = (), curve: list | None = None) -> s.RunAnswer:
    """made: the steps of a brew that was made along, before its pours are taken from what was sent."""
    trial = trials.open_trial(trial_id)
    setup = trials.open_setup(sent.setup_id)
    if setup.trial_id != trial.id:
        raise Unprocessable("setup_id", "That setup is of another trial.", "Choose a setup of this trial.")
    values = sent.model_dump(exclude={"setup_id", "tds_readings_pct", "brewed_at", "observed", "pours"})
    return _log(setup, values, sent, act, made, curve)


def _log(setup: Setup, values: dict[str, Any], sent, act: Act, made: Sequence[MadeStep], curve: list | None) -> s.RunAnswer:
    revision = SetupRevision.get_by_id(setup.revision_id)
    recipe = revision.recipe
    values["concentrate"] = values["concentrate"] or bool(recipe and is_concentrate(from_document(recipe)))
    steps = planned_steps(recipe_of(revision)) if recipe else ()
    marked = corrected(steps, marked_steps(steps, made), typed_pours(sent.pours))
    if sent.pours:
        values |= _by_pours(marked, values)
    run = Run(
        id=act.new_id(),
        trial=setup.trial_id,
        setup=setup.id,
        setup_revision=setup.revision_id,
        number=_next_number(setup.id, values["purpose"]),
        brewed_at=sent.brewed_at or act.now,
        created_at=act.now,
        created_by=act.who,
        observed=seen(sent.observed),
        marked=[asdict(m) for m in marked],
        curve=curve,
        **values,
    )
    _check_read(sent)
    _check(run, sent.tds_readings_pct)
    history.add(run, act=act, trial_id=run.trial_id)
    _add_readings(run, sent, act)
    return _shape(run)


def typed_pours(sent: Sequence[s.PourBody]) -> list[TypedPour]:
    return [TypedPour(p.index, p.began_s, p.ended_s, p.reading_g) for p in sent]


def _by_pours(marked: Sequence[MarkedStep], values: dict[str, Any]) -> dict[str, Any]:
    """The end of pouring is the last pour's; the water is what stood on the scale then, unless another mass was given."""
    poured = [m for m in marked if m.plan_to_g is not None]
    if not poured:
        return {}
    reading = next((m.reading_g for m in reversed(poured) if m.reading_g is not None), None)
    water = values.get("brew_water_g")
    return {"pour_end_s": max(m.ended_s for m in poured), "brew_water_g": reading if water is None else water}


def seen(observed: s.Observed) -> dict[str, Any]:
    """Only what was said."""
    return observed.model_dump(exclude_defaults=True)


GIVEN = {"evidence": "brews_given", "dial_in": "dial_ins_given"}


def _next_number(setup_id: str, purpose: str) -> int:
    """The next label, given once for good; dial-in brews are counted apart, so that A1 is the first brew that counts. Loose brews have none."""
    if purpose not in GIVEN:
        return 1
    setup = Setup.select().where(Setup.id == setup_id).for_update().get()
    number = getattr(setup, GIVEN[purpose]) + 1
    Setup.update({GIVEN[purpose]: number}).where(Setup.id == setup_id).execute()
    return number


@use_case
def correct_run(run_id: str, sent: s.RunPatch, rev: int, act: Act) -> s.RunAnswer:
    run = open_run(run_id)
    values: dict[str, Any] = {name: getattr(sent, name) for name in sent.model_fields_set - {"pours", "tds_readings_pct"}}
    if sent.pours:
        steps = planned_steps(recipe_of(SetupRevision.get_by_id(run.setup_revision_id)))
        marked = corrected(steps, [MarkedStep(**m) for m in run.marked], typed_pours(sent.pours))
        values |= _by_pours(marked, {"brew_water_g": values.get("brew_water_g")}) | {"marked": [asdict(m) for m in marked]}
        if len(sent.pours) == sum(step.to_g is not None for step in steps):
            values["off_plan"] = []  # every pour is said now: nothing is left of what a file did not show
    for needed in ("dose_g", "brewed_at"):
        if needed in values and values[needed] is None:
            raise Unprocessable(needed, "A brew keeps its dose and its time.", "Give a value.")
    if values.get("purpose", run.purpose) != run.purpose:
        values["number"] = _other_purpose(run, values["purpose"])
    observed = seen(sent.observed) if "observed" in values else dict(run.observed)
    if values.get("total_time_s", run.total_time_s) != run.total_time_s and run.total_time_s is not None:
        observed.setdefault("stopped_first_s", run.observed.get("stopped_first_s", run.total_time_s))
    values["observed"] = observed
    if sent.tds_readings_pct:
        _check_read(sent)
        _check(Run(**(run.__data__ | values)), [*_read(run), *sent.tds_readings_pct])
    history.edit(run, values, rev=rev, act=act, trial_id=run.trial_id)
    _add_readings(run, sent, act)
    return _shape(run)


def _read(run: Run) -> list[float]:
    return [r.tds_pct for r in queries.readings_of([run.id])[run.id]]


def _add_readings(run: Run, sent: s.RunBody | s.LooseRunBody | s.RunPatch, act: Act) -> None:
    for tds_pct in sent.tds_readings_pct:
        add_reading(run, s.ReadingBody(tds_pct=tds_pct), act)


def _can_be_corrected(run: Run, values: dict[str, Any]) -> None:
    """What a brew's numbers can be together, whoever changes them; and a brew in a flight stays evidence."""
    _check(Run(**(run.__data__ | values)), _read(run))
    if values.get("purpose", run.purpose) != run.purpose and _in_flight(run):
        raise Conflict("purpose", "This brew stands in a flight.", "Delete that flight first.")


def _in_no_flight(run: Run) -> None:
    if _in_flight(run):
        raise Conflict("", "This brew stands in a flight.", "Delete that flight first, or correct the brew instead.")


def _its_setup_is_there(run: Run) -> None:
    if run.trial_id is not None:
        trials.open_setup(run.setup_id)


history.guard("run", remove=_in_no_flight, restore=_its_setup_is_there, edit=_can_be_corrected)


def _other_purpose(run: Run, purpose: str) -> int:
    if run.trial_id is None:
        raise Conflict("purpose", "A loose brew belongs to no trial.", "Take it into a trial as a dial-in brew.")
    if purpose == "evidence" and SetupRevision.get_by_id(run.setup_revision_id).setup_id != run.setup_id:
        raise Conflict("purpose", "This brew was loose: it was not brewed for the comparison.", "Brew again for the comparison; this one stays a dial-in.")
    return _next_number(run.setup_id, purpose)


def _check_read(sent: s.RunBody | s.LooseRunBody | s.RunPatch) -> None:
    for i, tds_pct in enumerate(sent.tds_readings_pct):
        check_read(f"tds_readings_pct.{i}", tds_pct)


def _check(run: Run, readings: list[float]) -> None:
    check_masses(masses_of(run))
    check_times(pour_end_s=run.pour_end_s, total_time_s=run.total_time_s)
    measure(masses_of(run), readings, instrument())


@use_case
def remove_run(run_id: str, act: Act) -> str:
    run = open_run(run_id)
    return history.remove(run, act=act, trial_id=run.trial_id)


def _in_flight(run: Run) -> bool:
    return FlightBrew.select().join(Flight).where((FlightBrew.run == run.id) & Flight.deleted_at.is_null()).exists()


# --- loose -------------------------------------------------------------------------------------------------------------


@use_case
def log_loose_run(sent: s.LooseRunBody, act: Act) -> s.RunAnswer:
    """Measured and noted like any brew; it proves nothing about a comparison."""
    setup = trials.loose_setup(sent.variables, sent.recipe_version_id, sent.name, sent.new_kit, act)
    return log_loose(setup, sent, act)


def log_loose(setup: Setup, sent: s.LooseRunBody, act: Act, *, made: Sequence[MadeStep] = (), curve: list | None = None) -> s.RunAnswer:
    """To a loose setup that is there already (inside the caller's transaction). Masses are the setup's unless weighed."""
    revision = SetupRevision.get_by_id(setup.revision_id)
    values = {name: getattr(sent, name) if getattr(sent, name) is not None else getattr(revision, name) for name in ("dose_g", "brew_water_g", "temperature_c")}
    if sent.pours and sent.brew_water_g is None:
        values["brew_water_g"] = None
    values |= {"bypass_g": revision.bypass_g if sent.bypass_g is None else sent.bypass_g, "purpose": "loose"}
    values |= {name: getattr(sent, name) for name in ("beverage_g", "pour_end_s", "total_time_s", "moisture_pct", "concentrate", "note")}
    return _log(setup, values, sent, act, made, curve)


@use_case
def take_in(run_id: str, sent: s.TakeInBody, rev: int, act: Act) -> s.RunAnswer:
    """A loose brew becomes a dial-in brew of a setup: it may show that the setup is ready, and is never evidence."""
    run = open_run(run_id)
    if run.trial_id is not None:
        raise Conflict("", "This brew belongs to a trial already.", "Take in a loose brew.")
    setup = trials.open_setup(sent.setup_id)
    values = {"trial": setup.trial_id, "setup": setup.id, "purpose": "dial_in", "number": _next_number(setup.id, "dial_in")}
    history.edit(run, values, rev=rev, act=act, trial_id=setup.trial_id)
    return _shape(Run.get_by_id(run.id))


def _shape(run: Run) -> s.RunAnswer:
    return s.RunAnswer(id=run.id, setup_id=run.setup_id, trial_id=run.trial_id, number=run.number, rev=run.rev)
