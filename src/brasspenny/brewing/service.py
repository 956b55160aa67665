"""Logging brews and readings, and correcting them."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from ..act import Act
from ..core.limits import check_tds
from ..core.measure import Brew, check_masses, check_times, measure
from ..core.uncertainty import Instrument
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.connection import database
from ..store.models import Bench, Flight, FlightBrew, Reading, Run
from ..trials import service as trials
from . import schemas as s


def open_run(run_id: str) -> Run:
    run = Run.get_or_none((Run.id == run_id) & Run.deleted_at.is_null())
    if run is None:
        raise NotFound("brew")
    trials.open_trial(run.trial_id)
    return run


def open_reading(reading_id: str) -> Reading:
    reading = Reading.get_or_none((Reading.id == reading_id) & Reading.deleted_at.is_null())
    if reading is None:
        raise NotFound("reading")
    open_run(reading.run_id)
    return reading


def masses_of(run: Run) -> Brew:
    """A run's masses as the core takes them."""
    return Brew(
        dose_g=run.dose_g,
        brew_water_g=run.brew_water_g,
        beverage_g=run.beverage_g,
        bypass_g=run.bypass_g,
        moisture_pct=run.moisture_pct,
        concentrate=bool(run.concentrate),
    )


def instrument() -> Instrument:
    """The bench's refractometer and scale."""
    bench = Bench.get_by_id(1)
    return Instrument(bench.accuracy_pct, bench.resolution_pct, bench.scale_resolution_g)


@database.atomic()
def log_run(trial_id: str, sent: s.RunBody, act: Act) -> s.RunAnswer:
    trial = trials.open_trial(trial_id)
    setup = trials.open_setup(sent.setup_id)
    if setup.trial_id != trial.id:
        raise Unprocessable("setup_id", "That setup is of another trial.", "Choose a setup of this trial.")
    values = sent.model_dump(exclude={"setup_id", "tds_readings_pct", "brewed_at"})
    run = Run(
        id=act.new_id(),
        trial=trial.id,
        setup=setup.id,
        setup_revision=setup.revision_id,
        number=_next_number(setup.id, sent.purpose),
        brewed_at=sent.brewed_at or act.now,
        created_at=act.now,
        created_by=act.who,
        **values,
    )
    _check(run, sent.tds_readings_pct)
    history.add(run, act=act, trial_id=trial.id)
    for tds_pct in sent.tds_readings_pct:
        _add_reading(run, tds_pct, act)
    return _shape(run)


def _next_number(setup_id: str, purpose: str) -> int:
    """Dial-in brews are counted apart, so that A1 is the first brew that counts."""
    return Run.select().where((Run.setup == setup_id) & (Run.purpose == purpose)).count() + 1


@database.atomic()
def correct_run(run_id: str, sent: s.RunPatch, rev: int, act: Act) -> s.RunAnswer:
    run = open_run(run_id)
    values: dict[str, Any] = {name: getattr(sent, name) for name in sent.model_fields_set}
    for needed in ("dose_g", "brewed_at"):
        if needed in values and values[needed] is None:
            raise Unprocessable(needed, "A brew keeps its dose and its time.", "Give a value.")
    if values.get("purpose", run.purpose) != run.purpose:
        if _in_flight(run):
            raise Conflict("purpose", "This brew stands in a flight.", "Delete that flight first.")
        values["number"] = _next_number(run.setup_id, values["purpose"])
    proposed = Run(**(run.__data__ | values))
    _check(proposed, [r.tds_pct for r in queries.readings_of([run.id])[run.id]])
    history.edit(run, values, rev=rev, act=act, trial_id=run.trial_id)
    return _shape(run)


def _check(run: Run, readings: list[float]) -> None:
    check_masses(masses_of(run))
    check_times(pour_end_s=run.pour_end_s, total_time_s=run.total_time_s)
    measure(masses_of(run), readings, instrument())


@database.atomic()
def remove_run(run_id: str, act: Act) -> str:
    run = open_run(run_id)
    if _in_flight(run):
        raise Conflict("", "This brew stands in a flight.", "Delete that flight first, or correct the brew instead.")
    return history.remove(run, act=act, trial_id=run.trial_id)


def _in_flight(run: Run) -> bool:
    return FlightBrew.select().join(Flight).where((FlightBrew.run == run.id) & Flight.deleted_at.is_null()).exists()


@database.atomic()
def log_reading(run_id: str, sent: s.ReadingBody, act: Act) -> s.ReadingAnswer:
    run = open_run(run_id)
    _check_reading(run, sent.tds_pct)
    return _shape_reading(_add_reading(run, sent.tds_pct, act))


@database.atomic()
def correct_reading(reading_id: str, sent: s.ReadingBody, rev: int, act: Act) -> s.ReadingAnswer:
    reading = open_reading(reading_id)
    run = open_run(reading.run_id)
    _check_reading(run, sent.tds_pct)
    history.edit(reading, {"tds_pct": sent.tds_pct}, rev=rev, act=act, trial_id=run.trial_id)
    return _shape_reading(reading)


def _check_reading(run: Run, tds_pct: float) -> None:
    check_tds("tds_pct", tds_pct, concentrate=bool(run.concentrate))
    measure(masses_of(run), [tds_pct], instrument())  # refuses what the masses cannot have given


@database.atomic()
def remove_reading(reading_id: str, act: Act) -> str:
    reading = open_reading(reading_id)
    return history.remove(reading, act=act, trial_id=open_run(reading.run_id).trial_id)


def _add_reading(run: Run, tds_pct: float, act: Act) -> Reading:
    count = Reading.select().where(Reading.run == run.id).count()
    if count >= 200:
        raise Conflict("tds_pct", "This brew has 200 readings.", "Delete some, or log another brew.")
    reading = Reading(
        id=act.new_id(), run=run.id, tds_pct=round(tds_pct, 3), source="typed", taken_at=_after(act, count), created_at=act.now, created_by=act.who
    )
    history.add(reading, act=act, trial_id=run.trial_id)
    return reading


def _after(act: Act, count: int) -> datetime:
    """Readings typed in one go keep their order: a microsecond apart."""
    return act.now + timedelta(microseconds=count)


def _shape(run: Run) -> s.RunAnswer:
    return s.RunAnswer(id=run.id, setup_id=run.setup_id, number=run.number, rev=run.rev)


def _shape_reading(reading: Reading) -> s.ReadingAnswer:
    return s.ReadingAnswer(id=reading.id, run_id=reading.run_id, tds_pct=reading.tds_pct, rev=reading.rev)
