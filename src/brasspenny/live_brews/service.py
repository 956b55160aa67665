"""A brew while it is made: begun, marked, weighed, finished into a logged run. Its clock is the moment it started, so that a reload, a
closed lid or a second device goes on at the right second."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

import peewee as pw

from ..act import Act
from ..brewing import schemas as brewing_s
from ..brewing import service as brewing
from ..core.brewing.guide import Now
from ..core.recipe.document import to_document
from ..core.recipe.model import Recipe, sums
from ..core.trial.setups import recipe_of
from ..devices import wire
from ..grinding.known import KnownGrinds
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.models import Bench, LiveBrew, Setup, SetupRevision, Trial
from ..store.writing import use_case
from ..trials import service as trials
from ..trials.schemas import VariablesPatch
from . import schemas as s
from . import shapes, touched
from .weighing import (
    Weighing,
    begun_at,
    begun_for_good,
    elapsed_s,
    first_water,
    keep_points,
    plan_of,
    recipe_of_live,
    simulated_of,
    weighing_at,
    wired_points,
)

LONGEST_S = 3600.0
TICK_S = 0.25
NOT_READ = {"slurry_c": None, "kettle_c": None, "press_kg": None}


def open_live(live_id: str) -> LiveBrew:
    live = LiveBrew.get_or_none((LiveBrew.id == live_id) & LiveBrew.deleted_at.is_null())
    if live is None:
        raise NotFound("brew that is being made")
    if live.trial_id is not None:
        trials.open_trial(live.trial_id)
    return live


@use_case
def prepare(trial_id: str, sent: s.LiveBrewBody, act: Act) -> s.LiveBrewAnswer:
    trial, setup = trials.open_trial(trial_id), trials.open_setup(sent.setup_id)
    if setup.trial_id != trial.id:
        raise Unprocessable("setup_id", "That setup is of another trial.", "Choose a setup of this trial.")
    return _prepare(setup, sent, act)


@use_case
def prepare_again(setup_id: str, sent: s.LiveBrewOf, act: Act) -> s.LiveBrewAnswer:
    """A setup that is there already, of a trial or loose."""
    setup = Setup.get_or_none((Setup.id == setup_id) & Setup.deleted_at.is_null())
    if setup is None:
        raise NotFound("setup")
    if setup.trial_id is not None:
        trials.open_trial(setup.trial_id)
    return _prepare(setup, sent, act)


@use_case
def prepare_loose(sent: s.LooseLiveBrewBody, act: Act) -> s.LiveBrewAnswer:
    """The daily cup, or a dial-in before there is a question."""
    return _prepare(trials.loose_setup(sent.variables, sent.recipe_version_id, sent.name, sent.new_kit, act), sent, act)


def _prepare(setup: Setup, sent: s.LiveBrewOf, act: Act) -> s.LiveBrewAnswer:
    simulated, revision = sent.instrument == "simulated", SetupRevision.get_by_id(setup.revision_id)
    ground = KnownGrinds().ground_to(revision) if simulated else None
    live = LiveBrew(
        id=act.new_id(),
        trial=setup.trial_id,
        setup=setup.id,
        document=to_document(recipe_of(revision)),
        instrument=sent.instrument,
        begins_after_s=sent.begins_after_s if simulated else None,
        speed=sent.speed if simulated else 1,
        mistake=sent.mistake if simulated else "",
        seed=act.rng.randrange(1_000_000),
        grind=asdict(ground) if ground else None,
        marks=[],
        created_at=act.now,
        created_by=act.who,
    )
    history.add(live, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


@use_case
def start(live_id: str, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The first water. Started once only: a second press changes nothing."""
    live = open_live(live_id)
    if begun_at(live, act.now) is None:
        history.edit(live, {"started_at": act.now}, rev=rev, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


@use_case
def mark(live_id: str, sent: s.MarkBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    """A press annotates. While a scale speaks, what was poured is its settled reading, not what it showed at the press."""
    if sent.kind == "ground":
        return _ground(open_live(live_id), rev, act)
    live = _running(live_id, act.now)
    at_s = round(elapsed_s(live, act.now) if sent.at_s is None else sent.at_s, 1)
    reading = sent.reading_g
    if reading is None and live.instrument == "simulated":
        reading = Weighing(live, act.now).until(at_s).last_g
    entry = {"kind": sent.kind, "index": sent.index, "at_s": at_s, "reading_g": reading, "text": sent.text}
    history.edit(live, {"marks": [*live.marks, entry]}, rev=rev, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


@use_case
def take_back(live_id: str, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The last press, as if it had not been."""
    live = _running(live_id, act.now)
    if not live.marks:
        raise Conflict("", "Nothing was pressed yet.", "There is nothing to take back.")
    history.edit(live, {"marks": live.marks[:-1]}, rev=rev, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


def _ground(live: LiveBrew, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The minutes from grinding run from this touch to the first water."""
    if begun_at(live, act.now) is not None:
        raise Conflict("kind", "The water is already on the coffee.", "Say at the end how many minutes before it was ground.")
    entry = {"kind": "ground", "index": None, "at_s": 0.0, "reading_g": None, "text": act.now.isoformat()}
    kept = [m for m in live.marks if m["kind"] != "ground"]
    history.edit(live, {"marks": [*kept, entry]}, rev=rev, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


def _running(live_id: str, now: datetime) -> LiveBrew:
    live = open_live(live_id)
    if begun_at(live, now) is None:
        raise Conflict("", "This brew has not begun.", "Start it with the first water.")
    if live.finished_at is not None:
        raise Conflict("", "This brew is finished and logged.", "Correct the logged brew instead.")
    return live


# --- a real scale ----------------------------------------------------------------------------------------------------------------


@use_case
def weigh(live_id: str, sent: s.WeighBody, act: Act) -> s.WeighedAnswer:
    """Lines of a real scale, each so many seconds old. The first water starts the clock by itself."""
    live = open_live(live_id)
    if live.instrument != "wire":
        raise Conflict("", "This brew is made without a connected scale.", "Begin it with the scale connected.")
    if live.finished_at is not None:
        raise Conflict("", "This brew is finished and logged.", "Correct the logged brew instead.")
    now = act.now.timestamp()
    read = [(line.ago_s, wire.read_line(line.text)) for line in sent.lines]
    points = sorted((now - ago, grams) for ago, grams in read if grams is not None)
    if points:
        keep_points(live, points)
    if live.started_at is None and (begun := first_water(wired_points(live))) is not None:
        values = {"started_at": datetime.fromtimestamp(begun, UTC)}
        history.edit(live, values, rev=live.rev, act=act, trial_id=live.trial_id)
    weighed, now_ = weighing_at(live, act.now)
    return s.WeighedAnswer(
        rev=live.rev,
        started_at=live.started_at,
        scale_g=points[-1][1] if points else weighed.last_g,
        unread=[line.text[:40] for line, (_, grams) in zip(sent.lines, read, strict=True) if grams is None and line.text.strip()][:5],
        now=shapes.shape_now(now_),
    )


def scale_address() -> str:
    return Bench.get_by_id(1).scale_address


CONNECTING = wire.Attempts(most=10, within_s=20.0)
"""A scale that is off is asked again by every page that looks at it; other machines are not to be searched this way."""


def scale_lines(address: str) -> Iterator[str]:
    """Server-sent events, each line as it was written."""
    yield "retry: 2000\n\n"
    number = 0
    if address and not CONNECTING.may_try(time.monotonic()):
        yield _event(1, {"text": "", "trouble": "The scale was asked often just now. It is tried again in a moment."})
        return
    try:
        for number, line in enumerate(wire.lines_from(address), 1):
            yield _event(number, {"text": line, "trouble": ""}) if line else ": still there\n\n"
    except (OSError, ValueError) as error:
        yield _event(number + 1, {"text": "", "trouble": _scale_trouble(address, error)})


def _scale_trouble(address: str, error: Exception) -> str:
    if not address:
        return "The bench has no address of a scale. Give it under Kit, Accuracy, place, units."
    if isinstance(error, ValueError):
        return str(error)
    return f"The scale at {address} does not answer. Is it on, and on this network?"


# --- the end -------------------------------------------------------------------------------------------------------------------------


@use_case
def finish(live_id: str, sent: s.FinishBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    """Log it: what the form says, else what the scale and the presses said, else the plan. What cannot be together (an end before the last pour) is refused by
    the logging itself; marking again or the form mends it."""
    live = _running(live_id, act.now)
    weighed, now = weighing_at(live, act.now)
    recipe = recipe_of_live(live)
    made = now.made if _gives_steps(live) else ()
    values = _measured(live, recipe, now, sent)
    curve = _curve(weighed, values["total_time_s"])
    if live.trial_id is None:
        body = brewing_s.LooseRunBody(variables=VariablesPatch(), **values)
        run = brewing.log_loose(Setup.get_by_id(live.setup_id), body, act, made=made, curve=curve)
    else:
        body = brewing_s.RunBody(setup_id=live.setup_id, purpose=sent.purpose, **values)
        run = brewing.log_run(live.trial_id, body, act, made=made, curve=curve)
    history.edit(live, {"finished_at": act.now, "run_id": run.id}, rev=rev, act=act, trial_id=live.trial_id)
    return shapes.shape(live, act.now)


def _measured(live: LiveBrew, recipe: Recipe, now: Now, sent: s.FinishBody) -> dict[str, Any]:
    wet = {p.index for p in plan_of(recipe).steps if p.to_g is not None}
    pours = [m for m in now.made if m.index in wet and m.by != "plan"]
    read = now.poured_g or next((m.to_g for m in reversed(pours) if m.to_g is not None), None)
    total = sent.total_time_s if sent.total_time_s is not None else None if now.ended_s is None else round(now.ended_s, 1)
    planned = round(sums(recipe).poured_g, 1)
    said = next((p.reading_g for p in reversed(sent.pours) if p.reading_g is not None), None)
    return {
        "brewed_at": begun_for_good(live),
        "dose_g": recipe.dose_g if sent.dose_g is None else sent.dose_g,
        "brew_water_g": sent.brew_water_g or said or (round(read, 1) if read else None) or planned,
        "bypass_g": sent.bypass_g if sent.bypass_g is not None else round(sums(recipe).bypass_g, 1),
        "beverage_g": sent.beverage_g,
        "temperature_c": sent.temperature_c if sent.temperature_c is not None else recipe.temperature_c,
        "pour_end_s": round(pours[-1].ended_s, 1) if pours else None,
        "total_time_s": total,
        "moisture_pct": sent.moisture_pct,
        "concentrate": sent.concentrate,
        "note": sent.note,
        "pours": sent.pours,
        "observed": _with_marks(live, sent.observed, now, total),
        "tds_readings_pct": sent.tds_readings_pct,
    }


def _with_marks(live: LiveBrew, said: brewing_s.Observed, now: Now, total_time_s: float | None) -> brewing_s.Observed:
    """Marks where the form did not say it; the first end is kept when it was corrected."""
    marked, ended = touched.observed(live, now.made), touched.at(live, "ended")
    known = {name: value for name, value in brewing.seen(marked).items() if not getattr(said, name)}
    known |= {"simulated": marked.simulated, "mishaps": list(dict.fromkeys([*said.mishaps, *marked.mishaps]))}
    first = ended[0] if ended else now.ended_s if now.ended_by == "scale" else None
    if first is not None and (total_time_s is None or abs(first - total_time_s) > 0.05):
        known["stopped_first_s"] = round(first, 1)
    return said.model_copy(update=known)


def _curve(weighed: Weighing, total_time_s: float | None) -> list[list[float]] | None:
    """Of the scale, at most two points a second, a little beyond the end; None where no scale spoke."""
    if weighed.live.instrument == "none" or not weighed.t:
        return None
    until, points, last = (total_time_s or LONGEST_S) + 5, [], -1e9
    for t, g in zip(weighed.t, weighed.g, strict=True):
        if 0 <= t <= until and t - last >= 0.5:
            points.append([round(t, 1), round(g, 1)])
            last = t
    return points[:7200]


def _its_setup_is_there(live: LiveBrew) -> None:
    if live.trial_id is not None:
        trials.open_setup(live.setup_id)


history.guard("live_brew", restore=_its_setup_is_there)


@use_case
def give_up(live_id: str, act: Act) -> str:
    live = open_live(live_id)
    return history.remove(live, act=act, trial_id=live.trial_id)


# --- reading -----------------------------------------------------------------------------------------------------------


def read_live(live_id: str, act: Act) -> s.LiveBrewAnswer:
    return shapes.shape(open_live(live_id), act.now)


def unfinished(trial_id: str | None, act: Act) -> s.LiveBrewsAnswer:
    """Of a trial, or of all of the bench when none is given."""
    rows = (
        LiveBrew.select()
        .join(Setup, on=(Setup.id == LiveBrew.setup))
        .join(Trial, pw.JOIN.LEFT_OUTER, on=(Trial.id == LiveBrew.trial))
        .where(LiveBrew.finished_at.is_null() & LiveBrew.deleted_at.is_null() & Setup.deleted_at.is_null() & Trial.deleted_at.is_null())
    )
    if trial_id is not None:
        trials.open_trial(trial_id)
        rows = rows.where(LiveBrew.trial == trial_id)
    return s.LiveBrewsAnswer(brews=[shapes.shape(x, act.now) for x in rows.order_by(LiveBrew.created_at.desc()).limit(12)])


def readings(live: LiveBrew, clock, sleep) -> Iterator[str]:
    """Server-sent events until the brew has long been over: what the instruments read (null without one), and where the brew then stands. Nothing of the
    database is touched while it runs: presses come with the next stream."""
    yield "retry: 1000\n\n"
    end_s = min(LONGEST_S, 3 * sums(recipe_of_live(live)).total_s + 60)
    weighed, simulated = Weighing(live, clock()), simulated_of(live)
    number, at = 0, elapsed_s(live, clock())
    while number == 0 or (_still(live, clock()) and at < end_s):
        number += 1
        begun = begun_at(live, clock()) is not None
        now = weighed.now(at if begun else None)
        told: dict[str, Any] = {"elapsed_s": round(at, 2), "plan_g": round(now.plan_g, 1), "scale_g": weighed.last_g, "source": live.instrument, "begun": begun}
        told |= {"slurry_c": simulated.slurry_c(at), "kettle_c": simulated.kettle_now_c(at), "press_kg": simulated.press_kg(at)} if simulated else NOT_READ
        yield _event(number, told | {"now": shapes.shape_now(now).model_dump()})
        sleep(TICK_S)
        at = elapsed_s(live, clock())


def _still(live: LiveBrew, now: datetime) -> bool:
    """Whether there is, or will be by itself, something to tell."""
    return live.finished_at is None and (begun_at(live, now) is not None or live.begins_after_s is not None)


def _event(number: int, data: dict[str, Any]) -> str:
    return f"id: {number}\ndata: {json.dumps(data)}\n\n"


def _gives_steps(live: LiveBrew) -> bool:
    """Whether its setup says how it is poured; else it is timed as one pour, and nothing made up is held against the brew."""
    return SetupRevision.get_by_id(Setup.get_by_id(live.setup_id).revision_id).recipe is not None
