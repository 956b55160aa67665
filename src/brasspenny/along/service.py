"""A brew while it is made: begun, marked, finished into a logged run. Its clock is the moment it started, so that a reload, a
closed lid or a second device goes on at the right second."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from ..act import Act
from ..brewing import schemas as brewing_s
from ..brewing import service as brewing
from ..core import along
from ..core.recipe.document import from_document, to_document
from ..core.recipe.fitting import plain_pour
from ..core.recipe.model import Recipe, sums, timeline
from ..core.recipe.writing import write_step
from ..devices.scale import PlannedPour, SimulatedScale
from ..history import service as history
from ..recipes import documents
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.connection import database
from ..store.models import LiveBrew, Run, SetupRevision
from ..trials import service as trials
from . import schemas as s

LONGEST_S = 3600.0
EVERY_S = 0.25


def open_live(live_id: str) -> LiveBrew:
    live = LiveBrew.get_or_none((LiveBrew.id == live_id) & LiveBrew.deleted_at.is_null())
    if live is None:
        raise NotFound("brew that is being made")
    trials.open_trial(live.trial_id)
    return live


@database.atomic()
def prepare(trial_id: str, sent: s.LiveBrewBody, act: Act) -> s.LiveBrewAnswer:
    trial, setup = trials.open_trial(trial_id), trials.open_setup(sent.setup_id)
    if setup.trial_id != trial.id:
        raise Unprocessable("setup_id", "That setup is of another trial.", "Choose a setup of this trial.")
    revision = SetupRevision.get_by_id(setup.revision_id)
    recipe = from_document(revision.recipe) if revision.recipe else _plain(revision)
    live = LiveBrew(
        id=act.new_id(),
        trial=trial.id,
        setup=setup.id,
        document=to_document(recipe),
        instrument=sent.instrument,
        speed=sent.speed if sent.instrument == "simulated" else 1,
        seed=act.rng.randrange(1_000_000),
        marks=[],
        created_at=act.now,
        created_by=act.who,
    )
    history.add(live, act=act, trial_id=trial.id)
    return shape(live, act.now)


def _plain(revision: SetupRevision) -> Recipe:
    return plain_pour(revision.dose_g, revision.brew_water_g, revision.bypass_g, revision.temperature_c)


@database.atomic()
def start(live_id: str, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The first water. Started once only: a second press changes nothing."""
    live = open_live(live_id)
    if live.started_at is None:
        history.edit(live, {"started_at": act.now}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


@database.atomic()
def mark(live_id: str, sent: s.MarkBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    live = _running(live_id)
    at_s = round(elapsed_s(live, act.now) if sent.at_s is None else sent.at_s, 1)
    reading = sent.reading_g
    if reading is None and live.instrument == "simulated":
        reading = round(scale_of(live).reading_g(at_s), 1)
    entry = {"kind": sent.kind, "index": sent.index, "at_s": at_s, "reading_g": reading, "text": sent.text}
    history.edit(live, {"marks": [*live.marks, entry]}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


def _running(live_id: str) -> LiveBrew:
    live = open_live(live_id)
    if live.started_at is None:
        raise Conflict("", "This brew has not begun.", "Start it with the first water.")
    if live.finished_at is not None:
        raise Conflict("", "This brew is finished and logged.", "Correct the logged brew instead.")
    return live


@database.atomic()
def finish(live_id: str, sent: s.FinishBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    """Log it: times from the newest marks, water from the last reading, else the plan's. Marks that cannot be together (drips that
    stopped before the last pour) are refused by the logging itself; marking again mends them."""
    live = _running(live_id)
    recipe = from_document(live.document)
    total = sums(recipe)
    pours = {p.index for p in along.planned_steps(recipe) if p.to_g is not None}
    poured = [m for m in live.marks if m["kind"] == "step_done" and m["index"] in pours]
    stopped = [m["at_s"] for m in live.marks if m["kind"] == "drips_stopped"]
    read = next((m["reading_g"] for m in reversed(poured) if m["reading_g"]), None)
    pour_end = poured[-1]["at_s"] if poured else None
    total_time = stopped[-1] if stopped else None
    body = brewing_s.RunBody(
        setup_id=live.setup_id,
        brewed_at=live.started_at,
        dose_g=recipe.dose_g,
        brew_water_g=sent.brew_water_g or read or round(total.poured_g, 1),
        bypass_g=round(total.bypass_g, 1),
        beverage_g=sent.beverage_g,
        temperature_c=recipe.temperature_c,
        pour_end_s=pour_end,
        total_time_s=total_time,
        purpose=sent.purpose,
        note=sent.note,
        tds_readings_pct=sent.tds_readings_pct,
    )
    run = brewing.log_run(live.trial_id, body, act)
    history.edit(live, {"finished_at": act.now, "run_id": run.id}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


@database.atomic()
def give_up(live_id: str, act: Act) -> str:
    live = open_live(live_id)
    return history.remove(live, act=act, trial_id=live.trial_id)


# --- reading -----------------------------------------------------------------------------------------------------------


def read_live(live_id: str, act: Act) -> s.LiveBrewAnswer:
    return shape(open_live(live_id), act.now)


def unfinished(trial_id: str, act: Act) -> s.LiveBrewsAnswer:
    trials.open_trial(trial_id)
    rows = LiveBrew.select().where((LiveBrew.trial == trial_id) & LiveBrew.finished_at.is_null() & LiveBrew.deleted_at.is_null())
    return s.LiveBrewsAnswer(brews=[shape(x, act.now) for x in rows.order_by(LiveBrew.created_at.desc()).limit(12)])


def elapsed_s(live: LiveBrew, now: datetime) -> float:
    return 0.0 if live.started_at is None else max(0.0, (now - live.started_at).total_seconds() * live.speed)


def scale_of(live: LiveBrew) -> SimulatedScale:
    steps = along.planned_steps(from_document(live.document))
    return SimulatedScale([PlannedPour(p.start_s, p.end_s, p.to_g - p.from_g) for p in steps if p.to_g is not None], live.seed)


def readings(live: LiveBrew, clock, sleep) -> Iterator[str]:
    """Server-sent events until the brew has long been over: what the plan would read now, and what the scale reads (null without
    one). Nothing of the database is touched while it runs."""
    yield "retry: 1000\n\n"
    recipe = from_document(live.document)
    steps, end_s = along.planned_steps(recipe), min(LONGEST_S, 3 * sums(recipe).total_s + 60)
    scale = scale_of(live) if live.instrument == "simulated" else None
    number, at = 0, elapsed_s(live, clock())
    while number == 0 or (live.started_at is not None and live.finished_at is None and at < end_s):
        number += 1
        scale_g = round(scale.reading_g(at), 1) if scale else None
        yield _event(number, {"elapsed_s": round(at, 2), "plan_g": round(along.plan_now_g(steps, at), 1), "scale_g": scale_g, "source": live.instrument})
        sleep(EVERY_S)
        at = elapsed_s(live, clock())


def _event(number: int, data: dict[str, Any]) -> str:
    return f"id: {number}\ndata: {json.dumps(data)}\n\n"


def shape(live: LiveBrew, now: datetime) -> s.LiveBrewAnswer:
    recipe = from_document(live.document)
    steps = along.planned_steps(recipe)
    timed = timeline(recipe)
    total = sums(recipe)
    setup = trials.open_setup(live.setup_id)
    done = [along.DoneStep(m["index"], m["at_s"], m["reading_g"]) for m in live.marks if m["kind"] == "step_done" and m["index"] is not None]
    found = along.deviations(steps, done)
    brews = Run.select().where((Run.setup == live.setup_id) & (Run.purpose == "evidence") & Run.deleted_at.is_null()).count()
    return s.LiveBrewAnswer(
        id=live.id,
        rev=live.rev,
        trial_id=live.trial_id,
        setup_id=live.setup_id,
        letter=setup.letter,
        name=trials.display_names(trials.open_trial(live.trial_id), queries.setups_with_revisions(live.trial_id))[setup.id],
        number=brews + (live.run_id is None),
        dose_g=recipe.dose_g,
        water_g=total.poured_g,
        temperature_c=recipe.temperature_c,
        before=[write_step(t.step) for t in timed if t.end_s <= 0],
        steps=[s.LiveStep(**vars(p), text=write_step(recipe.steps[p.index])) for p in steps],
        timeline=documents.timed_steps(recipe),
        total_s=total.total_s,
        instrument=live.instrument,
        speed=live.speed,
        started_at=live.started_at,
        answered_at=now,
        elapsed_s=round(elapsed_s(live, now), 2),
        marks=[s.MarkAnswer(**m) for m in live.marks],
        deviations=[s.DeviationAnswer(**vars(d), text=d.text) for d in found],
        deviations_said=along.said(found),
        ahead_s=along.AHEAD_S,
        finished=live.finished_at is not None,
        run_id=live.run_id,
    )
