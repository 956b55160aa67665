"""A brew while it is made: begun, marked, finished into a logged run. Its clock is the moment it started, so that a reload, a
closed lid or a second device goes on at the right second."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import asdict, replace
from datetime import datetime
from typing import Any

import peewee as pw

from ..act import Act
from ..brewing import schemas as brewing_s
from ..brewing import service as brewing
from ..brewing.runs import open_run, tolerances
from ..core.brewing import along, scale_log
from ..core.brewing.observed import STEADY_PRESS_KG
from ..core.errors import PennyError
from ..core.extraction.measure import check_masses, check_times
from ..core.recipe import cautions as cautions_
from ..core.recipe.document import from_document, to_document
from ..core.recipe.model import Recipe, sums, timeline
from ..core.recipe.writing import write_step
from ..core.trial.measured import masses_of, off_plan_of
from ..core.trial.setups import recipe_of
from ..devices.bench import SimulatedInstruments, instruments_of
from ..devices.scale import PlannedPour, SimulatedScale
from ..history import service as history
from ..recipes import documents
from ..recipes.schemas import CautionAnswer
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.models import LiveBrew, Run, Setup, SetupRevision, Trial
from ..store.writing import use_case
from ..trials import service as trials
from ..trials.schemas import VariablesPatch
from . import schemas as s

LONGEST_S = 3600.0
LONGEST_WAIT_MIN = 1440
EVERY_S = 0.25
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
def prepare_loose(sent: s.LooseLiveBrewBody, act: Act) -> s.LiveBrewAnswer:
    """The daily cup, or a dial-in before there is a question."""
    return _prepare(trials.loose_setup(sent.variables, sent.recipe_version_id, sent.name, sent.new_kit, act), sent, act)


def _prepare(setup: Setup, sent: s.LiveBrewBody | s.LooseLiveBrewBody, act: Act) -> s.LiveBrewAnswer:
    simulated = sent.instrument == "simulated"
    live = LiveBrew(
        id=act.new_id(),
        trial=setup.trial_id,
        setup=setup.id,
        document=to_document(recipe_of(SetupRevision.get_by_id(setup.revision_id))),
        instrument=sent.instrument,
        speed=sent.speed if simulated else 1,
        mistake=sent.mistake if simulated else "",
        seed=act.rng.randrange(1_000_000),
        marks=[],
        created_at=act.now,
        created_by=act.who,
    )
    history.add(live, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


@use_case
def start(live_id: str, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The first water. Started once only: a second press changes nothing."""
    live = open_live(live_id)
    if live.started_at is None:
        history.edit(live, {"started_at": act.now}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


@use_case
def mark(live_id: str, sent: s.MarkBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    if sent.kind == "ground":
        return _ground(open_live(live_id), rev, act)
    live = _running(live_id)
    at_s = round(elapsed_s(live, act.now) if sent.at_s is None else sent.at_s, 1)
    reading = sent.reading_g
    if reading is None and live.instrument == "simulated":
        reading = round(scale_of(live).reading_g(at_s), 1)
    entry = {"kind": sent.kind, "index": sent.index, "at_s": at_s, "reading_g": reading, "text": sent.text}
    history.edit(live, {"marks": [*live.marks, entry]}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


def _ground(live: LiveBrew, rev: int, act: Act) -> s.LiveBrewAnswer:
    """The minutes from grinding run from this touch to the first water."""
    if live.started_at is not None:
        raise Conflict("kind", "The water is already on the coffee.", "Say at the end how many minutes before it was ground.")
    entry = {"kind": "ground", "index": None, "at_s": 0.0, "reading_g": None, "text": act.now.isoformat()}
    kept = [m for m in live.marks if m["kind"] != "ground"]
    history.edit(live, {"marks": [*kept, entry]}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


def _running(live_id: str) -> LiveBrew:
    live = open_live(live_id)
    if live.started_at is None:
        raise Conflict("", "This brew has not begun.", "Start it with the first water.")
    if live.finished_at is not None:
        raise Conflict("", "This brew is finished and logged.", "Correct the logged brew instead.")
    return live


@use_case
def finish(live_id: str, sent: s.FinishBody, rev: int, act: Act) -> s.LiveBrewAnswer:
    """Log it: times from the newest marks unless corrected, water from the last reading, else the plan's. Marks that cannot be
    together (drips that stopped before the last pour) are refused by the logging itself; marking again mends them."""
    live = _running(live_id)
    recipe = from_document(live.document)
    measured = _weighed(live, recipe, sent)
    marked = along.marked_steps(along.planned_steps(recipe), _done(live)) if _gives_steps(live) else ()
    curve = _curve(live) if live.instrument == "simulated" else None
    if live.trial_id is None:
        body = brewing_s.LooseRunBody(variables=VariablesPatch(), **measured)
        run = brewing.log_loose(Setup.get_by_id(live.setup_id), body, act, marked=marked, curve=curve)
    else:
        bypass = round(sums(recipe).bypass_g, 1)
        body = brewing_s.RunBody(setup_id=live.setup_id, bypass_g=bypass, purpose=sent.purpose, **measured)
        run = brewing.log_run(live.trial_id, body, act, marked=marked, curve=curve)
    history.edit(live, {"finished_at": act.now, "run_id": run.id}, rev=rev, act=act, trial_id=live.trial_id)
    return shape(live, act.now)


def _weighed(live: LiveBrew, recipe: Recipe, sent: s.FinishBody) -> dict[str, Any]:
    pours = {p.index for p in along.planned_steps(recipe) if p.to_g is not None}
    poured = [m for m in live.marks if m["kind"] == "step_done" and m["index"] in pours]
    read = next((m["reading_g"] for m in reversed(poured) if m["reading_g"]), None)
    stopped = _at(live, "drips_stopped")
    total_time = sent.total_time_s if sent.total_time_s is not None else stopped[-1] if stopped else None
    return {
        "brewed_at": live.started_at,
        "dose_g": recipe.dose_g,
        "brew_water_g": sent.brew_water_g or read or round(sums(recipe).poured_g, 1),
        "beverage_g": sent.beverage_g,
        "temperature_c": sent.temperature_c if sent.temperature_c is not None else recipe.temperature_c,
        "pour_end_s": poured[-1]["at_s"] if poured else None,
        "total_time_s": total_time,
        "note": sent.note,
        "observed": _with_marks(live, sent.observed, total_time),
        "tds_readings_pct": sent.tds_readings_pct,
    }


def _at(live: LiveBrew, kind: str) -> list[float]:
    return [m["at_s"] for m in live.marks if m["kind"] == kind]


def _marked(live: LiveBrew) -> brewing_s.Observed:
    """What was touched while brewing, as something seen."""
    drips, cues = _at(live, "first_drip"), [m["text"] for m in live.marks if m["kind"] == "cue" and m["text"]]
    ground = [datetime.fromisoformat(m["text"]) for m in live.marks if m["kind"] == "ground"]
    waited = (live.started_at - ground[-1]).total_seconds() / 60 if ground and live.started_at else None
    steps = along.planned_steps(from_document(live.document))
    return brewing_s.Observed(
        simulated=live.instrument == "simulated",
        first_drip_s=drips[0] if drips else None,
        mishaps=["spill"] if _at(live, "spill") else [],
        held_level=bool(_at(live, "level_held")),
        cue=cues[-1] if cues else "",
        ground_min=None if waited is None or waited < 0 else round(min(waited, LONGEST_WAIT_MIN), 1),  # a clock set back tells nothing
        press_s=along.pressed_for_s(steps, _done(live)),
    )


def _with_marks(live: LiveBrew, said: brewing_s.Observed, total_time_s: float | None) -> brewing_s.Observed:
    """Marks where the form did not say it; the first stop is kept when it was corrected."""
    marked, stopped = _marked(live), _at(live, "drips_stopped")
    known = {name: value for name, value in brewing.seen(marked).items() if not getattr(said, name)}
    known |= {"simulated": marked.simulated, "mishaps": list(dict.fromkeys([*said.mishaps, *marked.mishaps]))}
    if stopped and stopped[0] != total_time_s:
        known["stopped_first_s"] = stopped[0]
    return said.model_copy(update=known)


def _done(live: LiveBrew) -> list[along.DoneStep]:
    return [along.DoneStep(m["index"], m["at_s"], m["reading_g"]) for m in live.marks if m["kind"] == "step_done" and m["index"] is not None]


def _curve(live: LiveBrew) -> list[list[float]]:
    """One point a second of what the scale said, until the last mark."""
    scale, until = scale_of(live), max((m["at_s"] for m in live.marks), default=0.0)
    return [[float(t), round(scale.reading_g(t), 1)] for t in range(min(3600, int(until)) + 1)]


# --- a scale's file ----------------------------------------------------------------------------------------------------------


@use_case
def take_log(run_id: str, sent: s.ScaleLogBody, rev: int, act: Act) -> s.ScaleLogAnswer:
    """A real scale's file onto a logged brew: its pours beside the plan's, its last reading and pour end taken over, its curve kept.
    Time zero is where its first pour begins."""
    run = open_run(run_id)
    log = scale_log.read_log(sent.text)
    found = scale_log.segment(log)
    if not found.pours:
        raise Unprocessable("text", "No pour was found in this file.", "Give the whole brew, from an empty bed on, at one reading a second or more.")
    zero = found.pours[0].start_s
    revision = SetupRevision.get_by_id(run.setup_revision_id)
    steps = [p for p in along.planned_steps(recipe_of(revision)) if p.to_g is not None]
    done = [along.DoneStep(step.index, p.end_s - zero, p.to_g) for step, p in zip(steps, found.pours, strict=False)]
    uneven = len(found.pours) != len(steps)
    said = [f"{len(found.pours)} pours in the scale's file, {len(steps)} in the recipe"] if uneven else []
    every = max(1, len(log.t_s) // 600)
    curve = [[round(float(t) - zero, 1), round(float(g), 1)] for t, g in zip(log.t_s[::every], log.mass_g[::every], strict=True)]
    values = {"curve": curve, "off_plan": said, "brew_water_g": round(found.pours[-1].to_g, 1), "pour_end_s": round(found.pours[-1].end_s - zero, 1)}
    values["marked"] = [asdict(m) for m in along.marked_steps(steps, done)]
    check_times(pour_end_s=values["pour_end_s"], total_time_s=run.total_time_s)
    check_masses(replace(masses_of(run), brew_water_g=values["brew_water_g"]))
    history.edit(run, values, rev=rev, act=act, trial_id=run.trial_id)
    planned = [step.to_g for step in steps] + [None] * len(found.pours)
    return s.ScaleLogAnswer(
        run_id=run.id,
        rev=run.rev,
        pours=[
            s.LoggedPour(
                start_s=round(p.start_s - zero, 1),
                end_s=round(p.end_s - zero, 1),
                added_g=round(p.added_g, 1),
                to_g=round(p.to_g, 1),
                rate_g_s=round(p.rate_g_s, 1),
                planned_to_g=planned[i],
            )
            for i, p in enumerate(found.pours)
        ],
        gaps=[[round(g.start_s - zero, 1), round(g.end_s - zero, 1)] for g in found.gaps],
        notes=list(found.notes),
        off_plan=list(off_plan_of(run, revision, tolerances())),
    )


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
    return shape(open_live(live_id), act.now)


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
    return s.LiveBrewsAnswer(brews=[shape(x, act.now) for x in rows.order_by(LiveBrew.created_at.desc()).limit(12)])


def elapsed_s(live: LiveBrew, now: datetime) -> float:
    return 0.0 if live.started_at is None else max(0.0, (now - live.started_at).total_seconds() * live.speed)


def _pours_of(recipe: Recipe) -> list[PlannedPour]:
    return [PlannedPour(p.start_s, p.end_s, p.to_g - p.from_g) for p in along.planned_steps(recipe) if p.to_g is not None]


def scale_of(live: LiveBrew) -> SimulatedScale:
    return SimulatedScale(_pours_of(from_document(live.document)), live.seed, mistake=live.mistake)


def simulated_of(live: LiveBrew) -> SimulatedInstruments | None:
    """Every instrument of a simulated brew; None for a real one, and for a recipe the simulator cannot brew."""
    if live.instrument != "simulated":
        return None
    recipe = from_document(live.document)
    try:
        return instruments_of(recipe, _pours_of(recipe), seed=live.seed, mistake=live.mistake)
    except PennyError:
        return None


def readings(live: LiveBrew, clock, sleep) -> Iterator[str]:
    """Server-sent events until the brew has long been over: what the plan would read now, and what the scale reads (null without
    one). Nothing of the database is touched while it runs."""
    yield "retry: 1000\n\n"
    recipe = from_document(live.document)
    steps, end_s = along.planned_steps(recipe), min(LONGEST_S, 3 * sums(recipe).total_s + 60)
    scale, simulated = (scale_of(live), simulated_of(live)) if live.instrument == "simulated" else (None, None)
    number, at = 0, elapsed_s(live, clock())
    while number == 0 or (live.started_at is not None and live.finished_at is None and at < end_s):
        number += 1
        scale_g = round(scale.reading_g(at), 1) if scale else None
        now = {"elapsed_s": round(at, 2), "plan_g": round(along.plan_now_g(steps, at), 1), "scale_g": scale_g, "source": live.instrument}
        now |= {"slurry_c": simulated.slurry_c(at), "kettle_c": simulated.kettle_now_c(at), "press_kg": simulated.press_kg(at)} if simulated else NOT_READ
        yield _event(number, now)
        sleep(EVERY_S)
        at = elapsed_s(live, clock())


def _event(number: int, data: dict[str, Any]) -> str:
    return f"id: {number}\ndata: {json.dumps(data)}\n\n"


def _gives_steps(live: LiveBrew) -> bool:
    """Whether its setup says how it is poured; else it is timed as one pour, and nothing made up is held against the brew."""
    return SetupRevision.get_by_id(Setup.get_by_id(live.setup_id).revision_id).recipe is not None


def _deviations(live: LiveBrew, recipe: Recipe) -> tuple[along.Deviation, ...]:
    return along.deviations(along.planned_steps(recipe), _done(live), tolerances())


def _simulated_shown(live: LiveBrew) -> s.SimulatedShown | None:
    found = simulated_of(live) if _at(live, "drips_stopped") else None
    if found is None:
        return None
    last_pour = max((p.end_s for p in found.scale.as_poured()), default=0.0)
    return s.SimulatedShown(
        beverage_g=found.beverage_g(),
        tds_readings_pct=[found.tds_pct(i) for i in range(3)],
        slurry_c=found.slurry_c(last_pour),
        stopped_s=round(found.outcome.total_s, 1),
    )


def _name(live: LiveBrew, setup: Setup) -> str:
    if live.trial_id is None:
        return setup.name or "loose brew"
    return trials.names_of(live.trial_id).get(setup.id) or setup.name or "deleted setup"


def shape(live: LiveBrew, now: datetime) -> s.LiveBrewAnswer:
    recipe = from_document(live.document)
    steps = along.planned_steps(recipe)
    timed = timeline(recipe)
    total = sums(recipe)
    setup = Setup.get_by_id(live.setup_id)
    revision = SetupRevision.get_by_id(setup.revision_id)
    given = revision.recipe is not None
    found = _deviations(live, recipe) if given else ()
    logged = Run.get_or_none(Run.id == live.run_id) if live.run_id else None
    return s.LiveBrewAnswer(
        id=live.id,
        rev=live.rev,
        trial_id=live.trial_id,
        setup_id=live.setup_id,
        letter=setup.letter,
        name=_name(live, setup),
        brewer_type=revision.brewer_type or recipe.brewer_type,
        cautions=[CautionAnswer(code=c.code, step=c.step, text=c.text) for c in cautions_.cautions(recipe)],
        number=logged.number if logged else setup.brews_given + 1,
        dose_g=recipe.dose_g,
        water_g=total.poured_g,
        temperature_c=recipe.temperature_c,
        no_steps="" if given else along.NO_STEPS,
        before=[write_step(t.step) for t in timed if t.end_s <= 0],
        steps=[s.LiveStep(**vars(p), text=write_step(recipe.steps[p.index]), cue=recipe.steps[p.index].cue) for p in steps],
        timeline=documents.timed_steps(recipe),
        total_s=total.total_s,
        instrument=live.instrument,
        speed=live.speed,
        mistake=live.mistake,
        simulated=_simulated_shown(live),
        started_at=live.started_at,
        answered_at=now,
        elapsed_s=round(elapsed_s(live, now), 2),
        marks=[s.MarkAnswer(**m) for m in live.marks],
        observed=_marked(live),
        steady_press_kg=list(STEADY_PRESS_KG),
        deviations=[s.DeviationAnswer(**vars(d), text=d.text) for d in found],
        deviations_said=along.said(found, tolerances()),
        ahead_s=along.AHEAD_S,
        finished=live.finished_at is not None,
        run_id=live.run_id,
    )
