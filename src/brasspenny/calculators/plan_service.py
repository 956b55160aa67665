"""The planning calculators: the same core the bench uses. No database."""

from __future__ import annotations

import time

from ..compute_turns import turn
from ..core.errors import NotEnoughKnowns, OutOfDomain
from ..core.grinding.settings import GrinderScale, MatchedPair, translate
from ..core.kit import waters
from ..core.kit.heat import boiling_point_c
from ..core.planning import power as power_
from ..core.planning.schedule.jobs import PREP_S, BrewJob, HandsBlock, Resources, Vessel, Wish, job_from_recipe
from ..core.recipe.lint import blocks_a_run, lint
from ..planning.run_sheet import solve
from ..recipes import documents
from ..recipes import service as recipes
from ..recipes.schemas import ReadAnswer, ReadBody
from . import plan_schemas as s


def lint_recipe(asked: s.RecipeLintBody) -> s.RecipeLintAnswer:
    recipe = documents.core_recipe(asked.recipe)
    around, _ = documents.plain_surroundings(
        recipe,
        boiling_c=boiling_point_c(asked.altitude_m),
        dose_range_g=tuple(asked.dose_range_g) if asked.dose_range_g else None,
        volume_ml=asked.volume_ml,
        windows=asked.windows,
    )
    return s.RecipeLintAnswer(findings=documents.findings(recipe, around), blocks_a_run=blocks_a_run(lint(recipe, around)))


def parse_recipe(asked: s.RecipeParseBody) -> ReadAnswer:
    return recipes.read_text(ReadBody(text=asked.text))


def translate_setting(asked: s.SettingTranslateBody) -> s.SettingTranslateAnswer:
    scales = {g.name: GrinderScale(g.name, g.scale, g.direction, g.step, g.finest) for g in asked.grinders}
    for field, name in (
        ("from", asked.from_),
        ("to", asked.to),
        *((f"pairs.{i}.{side}", getattr(p, side)) for i, p in enumerate(asked.pairs) for side in "ab"),
    ):
        if name not in scales:
            raise OutOfDomain(field, f"{name[:60]} is not among the grinders.", "List every grinder that is named.", name)
    pairs = [MatchedPair(p.a, p.a_setting, p.b, p.b_setting, p.match, p.on.isoformat() if p.on else "") for p in asked.pairs]
    t = translate(asked.setting, scales[asked.from_], scales[asked.to], pairs, scales)
    return s.SettingTranslateAnswer(
        setting=t.setting,
        nearest=t.nearest,
        low=t.low,
        high=t.high,
        matches=list(t.matches),
        through=t.through,
        evidence=[p.words() for p in t.evidence],
        warnings=list(t.warnings),
    )


def blend_waters(asked: s.WaterBlendBody) -> s.WaterBlendAnswer:
    found = waters.blend(asked.first.model_dump(), asked.second.model_dump(), asked.target.model_dump())
    return s.WaterBlendAnswer(first_share=found.first_share, got=found.got, off=found.off, reached=found.reached, notes=list(found.notes))


def schedule(asked: s.ScheduleBody) -> s.ScheduleAnswer:
    jobs = [_job(i, run) for i, run in enumerate(asked.runs)]
    r = asked.resources.model_dump()
    resources = Resources(**r, servers={name: Vessel(name, tau) for name, tau in asked.vessels.servers.items()}, cup=Vessel("cup", asked.vessels.cup_tau_s))
    found = solve(jobs, resources, Wish(**asked.wish.model_dump()))
    placed = found.schedule
    return s.ScheduleAnswer(
        steps=[s.ScheduleStep(run=b.brew, lane=b.lane, label=b.label, start_s=b.start_s, end_s=b.end_s) for b in placed.blocks],
        cups=[s.ScheduleCup(run=c.brew, **{k: v for k, v in vars(c).items() if k != "brew"}) for c in placed.cups],
        tasting_s=placed.tasting_s,
        spread_c=placed.spread_c,
        total_s=placed.total_s,
        proven=placed.proven,
        why=found.why,
        remedies=[s.ScheduleRemedy(**vars(x)) for x in found.remedies],
    )


def _job(i: int, run: s.RunIn) -> BrewJob:
    names = ("brewer", "grinder", "grind_s", "hand_grinder", "clear_s", "measure_s", "dilute_s", "drink_c", "server", "started_s", "measured")
    more = {name: getattr(run, name) for name in names}
    if run.recipe is not None:
        job = job_from_recipe(f"runs.{i}.recipe", run.key, documents.core_recipe(run.recipe), **more)
        return BrewJob(**(vars(job) | {"key": run.key} | ({"prep_s": run.prep_s} if run.prep_s is not None else {})))
    if run.total_s is None:
        raise NotEnoughKnowns(f"runs.{i}.recipe", "how long this brew takes is not known.", "Give its recipe, or total_s with its hand blocks.")
    hands = tuple(HandsBlock(h.label, h.start_s, h.duration_s) for h in run.hands)
    last_pour = run.last_pour_s if run.last_pour_s is not None else max((h.start_s + h.duration_s for h in run.hands), default=run.total_s)
    prep_s = PREP_S if run.prep_s is None else run.prep_s
    return BrewJob(key=run.key, label=run.key, hands=hands, total_s=run.total_s, last_pour_s=last_pour, prep_s=prep_s, **more)


def power(asked: s.PowerBody) -> s.PowerAnswer:
    scatter = power_.Scatter(**asked.scatter.model_dump())
    with turn():
        p = power_.power(setups=asked.setups, tasters=asked.tasters, replicates=asked.replicates, flights=asked.flights, lead=asked.lead, scatter=scatter)
    return s.PowerAnswer(
        here=_seen(p.here),
        lead=p.lead,
        chance=p.chance,
        sentence=p.sentence,
        chance_sentence=p.chance_sentence,
        ways=[s.WayAnswer(**vars(w)) for w in p.ways],
        cheapest=s.WayAnswer(**vars(p.cheapest)) if p.cheapest else None,
        halving=_seen(p.halving) if p.halving else None,
    )


def power_curve(asked: s.PowerCurveBody) -> s.PowerCurveAnswer:
    scatter = power_.Scatter(**asked.scatter.model_dump())
    with turn():
        until = time.monotonic() + CURVE_S
        points = power_.curve(
            setups=asked.setups,
            brews=asked.brews,
            flights=asked.flights,
            scatter=scatter,
            most_tasters=asked.most_tasters,
            go_on=lambda: time.monotonic() < until,
        )
    return s.PowerCurveAnswer(points=[_seen(p) for p in points], complete=points[-1].tasters >= asked.most_tasters)


CURVE_S = 5.0
"""Then what there is of a curve is given; asked again, it goes on from there."""


def _seen(seen: power_.Seen) -> s.SeenAnswer:
    return s.SeenAnswer(**vars(seen))
