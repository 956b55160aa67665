"""The day's run sheet: asked for from the plan and the kit, solved by the core, kept, and planned again when the day slips."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, replace
from datetime import datetime, timedelta
from typing import Any

from ..act import Act
from ..core import figures
from ..core.grinding.dials import dial_id
from ..core.kit.heat import SCALDS_C
from ..core.planning.designs import Order
from ..core.planning.minutes import SIEVE_SAMPLE_MIN, TIMED_DOSE_MIN
from ..core.planning.schedule.advice import Explained, headline, say_rests, schedule_and_explain
from ..core.planning.schedule.jobs import BrewJob, HandsBlock, Resources, Vessel, Wish, grinding_s, job_from_recipe, tasting_temperature_c, usual_tau_s
from ..core.trial.measured import MeasuredTrial
from ..core.trial.setups import facts_of, grind_rate_of, grinder_facts_of, ground_on, recipe_of
from ..core.trial.slots import Slot, slots_of
from ..core.trial.value import Setup, SetupRevision
from ..core.trial.value import Trial as FrozenTrial
from ..history import service as history
from ..interchange.run_sheet_ics import CalendarEntry, calendar
from ..kit import service as kit
from ..kit.facts import VesselFacts, fitted_tau_s
from ..measuring.service import results_of
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.models import KitItem, RunSheet
from ..store.writing import use_case
from ..trials import service as trials
from . import plans
from . import schemas as s

CURVE_POINTS = 40


def open_sheet(sheet_id: str) -> RunSheet:
    sheet = RunSheet.get_or_none((RunSheet.id == sheet_id) & RunSheet.deleted_at.is_null())
    if sheet is None:
        raise NotFound("run sheet")
    trials.open_trial(sheet.trial_id)
    return sheet


def latest_sheet(trial_id: str) -> RunSheet | None:
    trials.open_trial(trial_id)
    rows = RunSheet.select().where((RunSheet.trial == trial_id) & RunSheet.deleted_at.is_null())
    return rows.order_by(RunSheet.created_at.desc(), RunSheet.id).first()


def make_sheet(trial_id: str, sent: s.SheetAsked, act: Act) -> s.TrialSheetAnswer:
    """Solve the day for one flight of the plan, which nobody else waits for, and keep it. Raises Unprocessable, NoSchedule (in < 3 s)."""
    results = results_of(trial_id)
    asked = plans.asked_in(results.trial)
    order = plans.order_of(results, asked)
    if order is None or len(results.setups) < 2:
        raise Unprocessable("trial", "There is nothing to time yet.", "Set up at least two setups first.")
    brews = _to_brew(results, order)
    if len(brews) > 24:
        raise Unprocessable("replicates", f"{len(brews)} brews are too many for one flight.", "Plan fewer replicates and more flights.")
    jobs, resources, wish, notes = _asked(results, asked, brews)
    found = solve(jobs, resources, wish)
    begins_at = sent.begins_at or act.now
    sheet = RunSheet(
        id=act.new_id(),
        trial=trial_id,
        begins_at=begins_at,
        asked={
            "jobs": [asdict(j) for j in jobs],
            "resources": asdict(resources),
            "wish": asdict(wish),
            "notes": notes,
            "beforehand": beforehand(results, asked),
        },
        found=_stored(found),
        begun={},
        planned_at=act.now,
        created_at=act.now,
    )
    return _kept(sheet, act)


@use_case
def _kept(sheet: RunSheet, act: Act) -> s.TrialSheetAnswer:
    trials.open_trial(sheet.trial_id)
    history.add(sheet, act=act, trial_id=sheet.trial_id)
    return s.TrialSheetAnswer(sheet=shape(sheet))


def solve(jobs: list[BrewJob], resources: Resources, wish: Wish) -> Explained:
    """As the core, with what would help in the refusal when nothing fits."""
    found = schedule_and_explain(jobs, resources, wish)
    if found.schedule is None:
        tried = "; ".join(f"{r.text.lower()} ({figures.heat_apart(r.spread_c)} apart)" for r in found.remedies)
        raise type(found.no_schedule)("wish", found.why, f"This would do: {tried}." if tried else found.no_schedule.remedy)
    return found


def beforehand(results: MeasuredTrial, asked: s.PlanBody) -> list[dict[str, Any]]:
    """What is done before the first brew: sieve samples of every grind in use, and a timed dose of each grinder whose speed nobody has measured."""
    out: list[dict[str, Any]] = []
    if not asked.sieve_samples:
        return out
    grinds = dict.fromkeys((r.grinder, r.grind_setting) for _, r in results.setups if r.grinder)
    for grinder, setting in grinds:
        what = f"{asked.sieve_samples} sieve sample{'s' if asked.sieve_samples > 1 else ''} of {figures.grams_as_said(asked.sieve_sample_g)} g"
        at = f" at {setting}" if setting else ""
        out.append({"text": f"{what}: {grinder}{at}", "minutes": asked.sieve_samples * SIEVE_SAMPLE_MIN})
    for grinder, revision in {r.grinder: r for _, r in results.setups if r.grinder}.items():
        if (dial_id(revision.kit) or "") not in results.trial.ground:
            out.append({"text": f"Time a dose of {figures.grams_as_said(revision.dose_g)} g: {grinder}", "minutes": TIMED_DOSE_MIN})
    return out


# --- what to solve -------------------------------------------------------------------------------------------------------


def _to_brew(results: MeasuredTrial, order: Order) -> list[Slot]:
    """The brews still to be made of the first flight that has any; of a draft, all of them; where all is brewed, another flight."""
    slots = slots_of(results)
    drafted = results.trial.plan is not None and results.trial.plan.drafted
    size = len(slots) if drafted else len(order.brews)
    flights = ([x for x in slots[i : i + size] if not x.run_id] for i in range(0, len(slots), size or 1))
    return next(filter(None, flights), None) or [_another(results.setups[b.setup][0], b.replicate) for b in order.brews]


def _another(setup: Setup, replicate: int) -> Slot:
    return Slot(setup.id, setup.letter, f"{setup.letter}{setup.brews_given + replicate + 1}", "")


def _asked(results: MeasuredTrial, asked: s.PlanBody, brews: Sequence[Slot]) -> tuple[list[BrewJob], Resources, Wish, list[str]]:
    day, bench = asked.day, results.trial.bench
    notes: list[str] = []
    vessels = {use: _vessel(use, item_id, notes) for use, item_id in (("server", day.server_id), ("cup", day.cup_id))}
    kettles = [k for k in kit.live_items() if k.kind == "kettle" and not k.retired_at]
    brewers = {revision.brewer or "brewer": day.brewers or facts_of(revision, "brewer").get("count") or 1 for _, revision in results.setups}
    facts = kettles[0].facts if kettles else {}
    resources = Resources(
        hands=day.hands,
        kettles=day.kettles or max(1, len(kettles)),
        heat_s=_first(day.heat_s, facts.get("heat_s"), 240.0),
        reheat_s=_first(day.reheat_s, facts.get("reheat_s"), 90.0),
        brewers=brewers,
        servers={"server": vessels["server"]},
        cup=vessels["cup"],
        ambient_c=bench.ambient_c,
        cups_each=asked.tasters,
    )
    matched = results.trial.strength_policy == "matched"
    jobs = []
    revisions = {setup.id: revision for setup, revision in results.setups}
    for brew in brews:
        revision = revisions[brew.setup_id]
        jobs.append(_job(brew.label, results.trial, revision, day, matched))
        if not revision.recipe and (note := f"{brew.letter} has no pours given, so it is timed as one pour.") not in notes:
            notes.append(note)
    wish = Wish(low_c=day.low_c, high_c=day.high_c, spread_c=day.spread_c, keep_order=day.keep_order)
    return jobs, resources, wish, notes


def _job(key: str, trial: FrozenTrial, revision: SetupRevision, day: s.DayBody, matched: bool) -> BrewJob:
    grinder = grinder_facts_of(revision)
    drive = grinder.get("drive", "electric")
    more: dict[str, Any] = {"measure_s": 60.0 if day.measure else 0.0, "dilute_s": 30.0 if matched else 0.0}
    recipe = recipe_of(revision)
    rinses = bool(revision.filter or recipe.filter) or any(step.kind == "rinse" for step in recipe.steps)
    more |= {"dose_g": revision.dose_g, "ground_on": ground_on(revision), "rinses": rinses}
    if revision.grinder:
        more |= {
            "grinder": revision.grinder,
            "grind_s": grinding_s(revision.dose_g, drive=drive, rate_g_s=grind_rate_of(trial, revision)),
            "hand_grinder": drive == "hand",
        }
    return job_from_recipe(key, key, recipe, brewer=revision.brewer or "brewer", drink_c=day.drink_c, **more)


def _first(*values):
    return next(v for v in values if v is not None)


def _vessel(use: str, item_id: str | None, notes: list[str]) -> Vessel:
    item = _vessel_item(use, item_id)
    facts = VesselFacts.model_validate(item.facts) if item else VesselFacts()
    tau = fitted_tau_s(facts)
    if tau is None:
        tau = usual_tau_s(use, insulated=facts.insulated)
        notes.append(f"No cooling constant of the {use} is known: {figures.minutes(tau / 60)} min is assumed. Take two readings of it.")
    return Vessel(item.name if item else use, tau)


def _vessel_item(use: str, item_id: str | None) -> KitItem | None:
    if item_id:
        item = kit.open_item(item_id)
        if item.kind != "vessel" or item.facts.get("use", "server") != use:
            raise Unprocessable(f"day.{use}_id", f"{item.name} is not a {use}.", f"Choose a {use} of the kit.")
        return item
    return next((k for k in kit.live_items() if k.kind == "vessel" and not k.retired_at and k.facts.get("use", "server") == use), None)


# --- when the day slips ----------------------------------------------------------------------------------------------------


@use_case
def begin_brew(sheet_id: str, sent: s.BeginBody, rev: int, act: Act) -> s.TrialSheetAnswer:
    sheet = open_sheet(sheet_id)
    if sent.brew not in {j["key"] for j in sheet.asked["jobs"]}:
        raise Unprocessable("brew", f"There is no brew {sent.brew} on this sheet.", "Give the label of one of its brews.")
    at = sent.at or act.now
    before = sheet.begun.get(sent.brew)
    started = before["started_s"] if before and sent.measured and sent.at is None else (at - sheet.begins_at).total_seconds()
    if not -3600 <= started <= 4 * 3600:
        raise Unprocessable("at", "That is not during this run sheet.", "Make a new run sheet for another day.")
    begun = sheet.begun | {sent.brew: {"started_s": started, "measured": sent.measured}}
    history.edit(sheet, {"begun": begun}, rev=rev, act=act, trial_id=sheet.trial_id)
    return s.TrialSheetAnswer(sheet=shape(sheet))


@use_case
def plan_again(sheet_id: str, rev: int, act: Act) -> s.TrialSheetAnswer:
    """From now on: brews begun keep their times, everything else is placed afresh. Raises NoSchedule, Stale."""
    sheet = open_sheet(sheet_id)
    now_s = max(0.0, (act.now - sheet.begins_at).total_seconds())
    if now_s > 4 * 3600:
        raise Conflict("", "This run sheet is of an earlier day.", "Make a new one.")
    jobs, resources, wish = _read_back(sheet)
    jobs = [_as_begun(j, sheet.begun.get(j.key)) for j in jobs]
    if all(j.started_s is not None and j.measured for j in jobs):
        raise Conflict("", "Every brew is begun and measured: there is nothing left to place.", "Pour the cups.")
    found = solve(jobs, replace(resources, heat_s=0.0), replace(wish, now_s=now_s))
    history.edit(sheet, {"found": _stored(found), "planned_at": act.now}, rev=rev, act=act, trial_id=sheet.trial_id)
    return s.TrialSheetAnswer(sheet=shape(sheet))


def _read_back(sheet: RunSheet) -> tuple[list[BrewJob], Resources, Wish]:
    a = sheet.asked
    jobs = [BrewJob(**(j | {"hands": tuple(HandsBlock(**h) for h in j["hands"])})) for j in a["jobs"]]
    r = a["resources"]
    resources = Resources(**(r | {"servers": {n: Vessel(**v) for n, v in r["servers"].items()}, "cup": Vessel(**r["cup"])}))
    return jobs, resources, Wish(**a["wish"])


def _as_begun(job: BrewJob, begun: dict | None) -> BrewJob:
    return job if begun is None else replace(job, started_s=max(0.0, begun["started_s"]), measured=begun["measured"])


def _stored(found: Explained) -> dict[str, Any]:
    return {"schedule": asdict(found.schedule), "why": found.why, "remedies": [asdict(r) for r in found.remedies]}


# --- showing ---------------------------------------------------------------------------------------------------------------


def read_sheet(trial_id: str) -> s.TrialSheetAnswer:
    sheet = latest_sheet(trial_id)
    return s.TrialSheetAnswer(sheet=shape(sheet) if sheet else None)


def shape(sheet: RunSheet) -> s.RunSheetAnswer:
    found, asked = sheet.found["schedule"], sheet.asked
    r, wish = asked["resources"], asked["wish"]
    return s.RunSheetAnswer(
        id=sheet.id,
        rev=sheet.rev,
        begins_at=sheet.begins_at,
        planned_at=sheet.planned_at,
        blocks=[s.BlockAnswer(**b) for b in found["blocks"]],
        cups=[_cup(c, r, found["tasting_s"]) for c in found["cups"]],
        tasting_s=found["tasting_s"],
        headline=headline(found["spread_c"], wish["spread_c"]),
        spread_c=found["spread_c"],
        wanted_spread_c=wish["spread_c"],
        low_c=wish["low_c"],
        high_c=wish["high_c"],
        ambient_c=r["ambient_c"],
        total_s=found["total_s"],
        proven=found["proven"],
        why=sheet.found["why"],
        remedies=[s.RemedyAnswer(**x) for x in sheet.found["remedies"]],
        beforehand=[s.BeforehandShown(**line) for line in asked.get("beforehand", [])],
        notes=[*asked["notes"], *filter(None, [say_rests(found.get("rests_s"))])],
        begun={k: s.BegunAnswer(**v) for k, v in sheet.begun.items()},
    )


def _cup(c: dict[str, Any], r: dict[str, Any], tasting_s: float) -> s.CupAnswer:
    """The curve: in the server until poured, then in the cup, up to ten minutes after tasting begins."""
    curve, end = [], tasting_s + 600
    for i in range(CURVE_POINTS + 1):
        t = c["ready_s"] + (end - c["ready_s"]) * i / CURVE_POINTS
        in_server = max(0.0, min(t, c["poured_s"]) - c["ready_s"])
        temp = tasting_temperature_c(
            drink_c=c["drink_c"],
            ambient_c=r["ambient_c"],
            server_tau_s=c["server_tau_s"],
            server_s=in_server,
            cup_tau_s=r["cup"]["tau_s"],
            cup_s=max(0.0, t - c["poured_s"]),
        )
        curve.append([round(t, 1), round(temp, 2)])
    shown = {k: c[k] for k in ("brew", "start_s", "ready_s", "poured_s", "drink_c", "temperature_c")}
    return s.CupAnswer(letter=c["brew"][0], curve=curve, **shown)


def calendar_of(trial_id: str, now: datetime) -> bytes:
    """The newest sheet as iCalendar: one entry a brew, its steps in the description, and the tasting."""
    trial = trials.open_trial(trial_id)
    sheet = latest_sheet(trial_id)
    return calendar(f"Trial {trial.number}: {trial.question}", _entries(sheet) if sheet else [], stamped_at=now)


def _entries(sheet: RunSheet) -> list[CalendarEntry]:
    found = sheet.found["schedule"]

    def at(seconds: float) -> datetime:
        return sheet.begins_at + timedelta(seconds=seconds)

    out = []
    first = sheet.asked.get("beforehand", [])
    if first:
        minutes = sum(line["minutes"] for line in first)
        out.append(CalendarEntry(f"{sheet.id}-beforehand", "Sieve and time", at(-60 * minutes), at(0), "\n".join(line["text"] for line in first)))
    for cup in found["cups"]:
        mine = [b for b in found["blocks"] if b["brew"] == cup["brew"] and b["lane"] == "hands"]
        steps = "\n".join(f"{_clock(b['start_s'])} {b['label']}" for b in mine)
        begins = min((b["start_s"] for b in mine), default=cup["start_s"])
        out.append(CalendarEntry(f"{sheet.id}-{cup['brew']}", f"Brew {cup['brew']}", at(begins), at(cup["ready_s"]), steps))
    text = f"All cups within {figures.heat_apart(found['spread_c'])} of each other. Taste below {figures.heat(SCALDS_C)}."
    out.append(CalendarEntry(f"{sheet.id}-tasting", "Taste", at(found["tasting_s"]), at(found["tasting_s"] + 1200), text))
    return out


def _clock(seconds: float) -> str:
    minutes, rest = divmod(int(seconds), 60)
    return f"+{minutes}:{rest:02}"
