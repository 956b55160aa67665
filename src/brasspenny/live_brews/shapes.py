"""A brew that is being made, as it is told over HTTP."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime

from ..brewing.runs import tolerances
from ..core.brewing import along
from ..core.brewing.guide import Now
from ..core.brewing.observed import STEADY_PRESS_KG
from ..core.recipe import cautions as cautions_
from ..core.recipe.describe import sentences
from ..core.recipe.model import Recipe, sums, timeline
from ..core.trial.setups import ground_on
from ..recipes import documents
from ..recipes.pours import pours_shown
from ..recipes.schemas import CautionAnswer
from ..store import queries
from ..store.models import LiveBrew, Run, Setup, SetupRevision
from ..trials import service as trials
from . import schemas as s
from .touched import observed
from .weighing import begun_at, elapsed_s, plan_of, recipe_of_live, simulated_of, weighing_at


def shape(live: LiveBrew, at: datetime) -> s.LiveBrewAnswer:
    recipe = recipe_of_live(live)
    plan = plan_of(recipe)
    said = sentences(recipe)
    setup = Setup.get_by_id(live.setup_id)
    revision = SetupRevision.get_by_id(setup.revision_id)
    given = revision.recipe is not None
    _, now = weighing_at(live, at)
    found = along.deviations(plan.steps, now.made, tolerances()) if given else ()
    logged = Run.get_or_none(Run.id == live.run_id) if live.run_id else None
    total = sums(recipe)
    return s.LiveBrewAnswer(
        id=live.id,
        rev=live.rev,
        trial_id=live.trial_id,
        setup_id=live.setup_id,
        letter=setup.letter,
        name=_name(live, setup),
        brewer_type=revision.brewer_type or recipe.brewer_type,
        cautions=[
            CautionAnswer(code=c.code, steps=list(c.steps), text=c.text)
            for c in cautions_.cautions(recipe, queries.filter_material(revision.filter or recipe.filter))
        ],
        number=logged.number if logged else setup.brews_given + 1,
        dose_g=recipe.dose_g,
        grind=ground_on(revision),
        water_g=total.poured_g,
        bypass_g=round(total.bypass_g, 1),
        temperature_c=recipe.temperature_c,
        no_steps="" if given else along.NO_STEPS,
        before=[said[t.index] for t in timeline(recipe) if t.end_s <= 0],
        steps=[_step(p, recipe, said) for p in plan.steps],
        timeline=documents.timed_steps(recipe),
        total_s=total.total_s,
        end=documents.end_shown(plan.end),
        now=shape_now(now),
        pours=pours_shown(plan.steps, along.marked_steps(plan.steps, now.made), said) if given else [],
        instrument=live.instrument,
        speed=live.speed,
        mistake=live.mistake,
        simulated=_simulated_shown(live, now),
        started_at=begun_at(live, at),
        answered_at=at,
        elapsed_s=round(elapsed_s(live, at), 2),
        marks=[s.MarkAnswer(**m) for m in live.marks],
        observed=observed(live, now.made),
        steady_press_kg=list(STEADY_PRESS_KG),
        deviations=[s.DeviationAnswer(**vars(d), text=d.text) for d in found],
        deviations_said=along.said(found, tolerances()) if given else "",
        ahead_s=along.AHEAD_S,
        finished=live.finished_at is not None,
        run_id=live.run_id,
    )


def _step(p: along.PlannedStep, recipe: Recipe, said: Sequence[str]) -> s.LiveStep:
    step = recipe.steps[p.index]
    return s.LiveStep(**asdict(p), text=said[p.index], cue=step.start_cue or step.cue)


def shape_now(now: Now) -> s.NowShown:
    rounded = {name: round(value, 2) if isinstance(value, float) else value for name, value in vars(now).items() if name not in ("made", "forgotten", "notes")}
    return s.NowShown(**rounded, made=[s.MadeShown(**vars(m)) for m in now.made], forgotten=list(now.forgotten), notes=list(now.notes))


def _simulated_shown(live: LiveBrew, now: Now) -> s.SimulatedShown | None:
    found = simulated_of(live) if now.ended_s is not None else None
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
