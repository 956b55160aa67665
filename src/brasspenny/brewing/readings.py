"""Readings of a brew's strength, checks of the instrument, and what was served after thinning."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from ..act import Act
from ..core.brewing import observed
from ..core.extraction import readings
from ..core.extraction.measure import measure
from ..core.extraction.readings import AsRead
from ..core.extraction.uncertainty import repeatability_of
from ..core.extraction.yields import undiluted_tds_pct
from ..core.limits import check_read, check_tds
from ..core.trial.measured import masses_of
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.connection import database
from ..store.models import Bench, InstrumentCheck, Reading, Run
from ..store.writing import use_case
from . import schemas as s
from .runs import instrument, open_run

MOST_READINGS = 200
REFRACTOMETERS = ("tds", "brix")


def open_reading(reading_id: str) -> Reading:
    reading = Reading.get_or_none((Reading.id == reading_id) & Reading.deleted_at.is_null())
    if reading is None:
        raise NotFound("reading")
    open_run(reading.run_id)
    return reading


@use_case
def log_reading(run_id: str, sent: s.ReadingBody, act: Act) -> s.ReadingAnswer:
    run = open_run(run_id)
    if sent.done is not None and (run.protocol or {}).get("done") != sent.done:
        history.edit(run, {"protocol": {"done": list(sent.done)}}, rev=run.rev, act=act, trial_id=run.trial_id)
    return _shape(add_reading(run, sent, act))


@use_case
def correct_reading(reading_id: str, sent: s.ReadingBody, rev: int, act: Act) -> s.ReadingAnswer:
    """Corrected in the way it was read, with the offset it was taken with."""
    reading = open_reading(reading_id)
    run = open_run(reading.run_id)
    offset = (reading.as_read or {}).get("offset_pct", 0.0)
    got = _as_read(run, sent, offset)
    history.edit(reading, {"tds_pct": got.tds_pct, "as_read": _kept(got)}, rev=rev, act=act, trial_id=run.trial_id)
    return _shape(reading)


@use_case
def remove_reading(reading_id: str, act: Act) -> str:
    reading = open_reading(reading_id)
    return history.remove(reading, act=act, trial_id=open_run(reading.run_id).trial_id)


def _its_brew_is_there(reading: Reading) -> None:
    open_run(reading.run_id)


def _can_be_read(reading: Reading, values: dict[str, Any]) -> None:
    run = open_run(reading.run_id)
    check_tds("tds_pct", values.get("tds_pct", reading.tds_pct), concentrate=bool(run.concentrate))


history.guard("reading", restore=_its_brew_is_there, edit=_can_be_read)


def add_reading(run: Run, sent: s.ReadingBody, act: Act) -> Reading:
    """Inside the caller's transaction; readings typed in one go keep their order, a microsecond apart."""
    count = Reading.select().where(Reading.run == run.id).count()
    if count >= MOST_READINGS:
        raise Conflict("tds_pct", f"This brew has {MOST_READINGS} readings.", "Delete some, or log another brew.")
    got = _as_read(run, sent, offset_in_force(act.now))
    reading = Reading(
        id=act.new_id(),
        run=run.id,
        tds_pct=got.tds_pct,
        source="typed",
        as_read=_kept(got),
        taken_at=act.now + timedelta(microseconds=count),
        created_at=act.now,
        created_by=act.who,
    )
    history.add(reading, act=act, trial_id=run.trial_id)
    return reading


def _as_read(run: Run, sent: s.ReadingBody, offset_pct: float) -> AsRead:
    given = [name for name in ("tds_pct", "brix", "oven") if getattr(sent, name) is not None]
    if len(given) != 1:
        raise Unprocessable("tds_pct", "A reading is one number." if given else "No reading is given.", "Give tds_pct, brix or oven.")
    if sent.brix is not None:
        got = readings.read_brix(sent.brix, factor=Bench.get_by_id(1).brix_factor, offset_pct=offset_pct)
    elif sent.oven is not None:
        got = readings.read_oven(**sent.oven.model_dump(), scale_resolution_g=min(0.01, instrument().scale_resolution_g))
    else:
        check_tds("tds_pct", sent.tds_pct, concentrate=bool(run.concentrate))
        check_read("tds_pct", sent.tds_pct)
        got = readings.read_tds(sent.tds_pct, offset_pct=offset_pct)
    check_tds(given[0], got.tds_pct, concentrate=bool(run.concentrate))
    measure(masses_of(run), [got.tds_pct], instrument())  # refuses what the masses cannot have given
    return got


def _kept(got: AsRead) -> dict[str, Any] | None:
    """Beside the strength only where it says more."""
    if got.kind == "tds" and not got.offset_pct:
        return None
    return {"kind": got.kind, "value": got.value, "offset_pct": got.offset_pct, "accuracy_pct": got.accuracy_pct}


def shown_as_read(kept: dict[str, Any] | None) -> s.AsReadShown | None:
    return s.AsReadShown(kind=kept["kind"], value=kept["value"], offset_pct=kept["offset_pct"]) if kept else None


# --- the instrument ------------------------------------------------------------------------------------------------------


def offset_in_force(at: datetime) -> float:
    """What the newest check before then found the refractometer to read too much, % TDS; 0 when it was never checked."""
    newest = _checks().where(InstrumentCheck.checked_at <= at).first()
    return readings.offset_of(reference_pct=newest.reference_pct, read_pct=newest.read_pct) if newest else 0.0


def _checks():
    return InstrumentCheck.select().where(InstrumentCheck.deleted_at.is_null()).order_by(InstrumentCheck.checked_at.desc(), InstrumentCheck.id)


@use_case
def log_check(sent: s.InstrumentCheckBody, act: Act) -> s.InstrumentsAnswer:
    readings.offset_of(reference_pct=sent.reference_pct, read_pct=sent.read_pct)
    check = InstrumentCheck(
        id=act.new_id(),
        checked_at=act.now,
        reference_pct=round(sent.reference_pct, 3),
        read_pct=round(sent.read_pct, 3),
        note=sent.note,
        created_at=act.now,
        created_by=act.who,
    )
    history.add(check, act=act, trial_id=None)
    return read_instruments()


@use_case
def remove_check(check_id: str, act: Act) -> str:
    check = InstrumentCheck.get_or_none((InstrumentCheck.id == check_id) & InstrumentCheck.deleted_at.is_null())
    if check is None:
        raise NotFound("check")
    return history.remove(check, act=act, trial_id=None)


# --- how well one reading repeats ------------------------------------------------------------------------------------------


READ_TWICE = """
SELECT COALESCE(SUM((n - 1) * scatter), 0) + 0e0, COUNT(*), COALESCE(SUM(n - 1), 0) + 0 FROM (
  SELECT COUNT(*) AS n, VAR_SAMP(x.tds_pct) AS scatter FROM (
    SELECT r.id, r.concentrate FROM run r WHERE r.deleted_at IS NULL ORDER BY r.brewed_at DESC LIMIT %s) AS newest
  JOIN reading x ON x.run_id = newest.id
  WHERE x.deleted_at IS NULL AND x.source <> 'simulated' AND newest.concentrate = 0 AND COALESCE(JSON_VALUE(x.as_read, '$.kind'), 'tds') <> 'oven'
  GROUP BY x.run_id HAVING COUNT(*) > 1) AS drinks
"""
NEWEST_BREWS = 2000


def read_repeatability() -> s.RepeatabilityAnswer:
    """Of the newest brews whose drink was read more than once by refractometer; concentrates are left out."""
    [(squares, drinks, df)] = database.execute_sql(READ_TWICE, (NEWEST_BREWS,)).fetchall()
    own = repeatability_of(float(squares), int(drinks), int(df))
    return s.RepeatabilityAnswer(sd_pct=own.sd_pct if own else None, drinks=int(drinks))


def read_instruments() -> s.InstrumentsAnswer:
    found = list(_checks().limit(20))
    shaped = [
        s.InstrumentCheckAnswer(
            id=c.id,
            rev=c.rev,
            checked_at=c.checked_at,
            reference_pct=c.reference_pct,
            read_pct=c.read_pct,
            offset_pct=readings.offset_of(reference_pct=c.reference_pct, read_pct=c.read_pct),
            note=c.note,
            in_force=i == 0,
        )
        for i, c in enumerate(found)
    ]
    return s.InstrumentsAnswer(
        protocol=[s.ProtocolStepAnswer(**vars(rule)) for rule in readings.PROTOCOL],
        checks=shaped,
        offset_pct=shaped[0].offset_pct if shaped else 0.0,
        brix_factor=Bench.get_by_id(1).brix_factor,
        bed=[s.Choice(code=c, label=x) for c, x in observed.BED_LABELS.items()],
        clouding=[s.Choice(code=c, label=x) for c, x in observed.CLOUDING_LABELS.items()],
        mishaps=[s.Choice(code=c, label=x) for c, x in observed.MISHAP_LABELS.items()],
    )


# --- served ----------------------------------------------------------------------------------------------------------------


@use_case
def serve(run_id: str, sent: s.ServedBody, rev: int, act: Act) -> s.RunAnswer:
    """Diluted before coding: the brew's own readings stay, what was served stands beside them. Yield does not change."""
    run = open_run(run_id)
    if run.beverage_g is None:
        raise Unprocessable("added_water_g", "The drink was never weighed.", "Give the brew its beverage mass first.")
    if sent.tds_pct is not None:
        check_tds("tds_pct", sent.tds_pct, concentrate=bool(run.concentrate))
        if sent.added_water_g:
            undiluted_tds_pct(tds_pct=sent.tds_pct, beverage_g=run.beverage_g + sent.added_water_g, bypass_g=sent.added_water_g)
    served = {"added_water_g": round(sent.added_water_g, 3), "water_c": sent.water_c, "tds_pct": sent.tds_pct}
    history.edit(run, {"served": served}, rev=rev, act=act, trial_id=run.trial_id)
    return s.RunAnswer(id=run.id, setup_id=run.setup_id, trial_id=run.trial_id, number=run.number, rev=run.rev)


def _shape(reading: Reading) -> s.ReadingAnswer:
    return s.ReadingAnswer(id=reading.id, run_id=reading.run_id, tds_pct=reading.tds_pct, as_read=shown_as_read(reading.as_read), rev=reading.rev)
