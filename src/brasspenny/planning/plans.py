"""A trial's plan: replicates, order, budget, and whether its setups are ready to be compared."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..act import Act
from ..core.brewing.dial_in import RuleCheck
from ..core.extraction.yields import yield_basis_of
from ..core.planning.budget import Amounts, BrewCost, Budget, budget, robusta_share
from ..core.planning.control import MATCHING_LABELS
from ..core.planning.designs import DESIGN_ABOUT, DESIGN_KINDS, DESIGN_LABELS, FACTOR_COUNTS, LEVEL_COUNTS, DesignKind, Order
from ..core.planning.minutes import trial_brew_minutes
from ..core.recipe.outlook import expected_drink_g
from ..core.trial import status
from ..core.trial.caveats import WIDEN
from ..core.trial.measured import MeasuredTrial, cup_minutes_of
from ..core.trial.setups import facts_of, ground_on, purge_g_of
from ..core.trial.slots import planned_order, slots_of
from ..core.trial.value import Plan as FrozenPlan
from ..core.trial.value import SetupRevision
from ..core.trial.value import Trial as FrozenTrial
from ..core.vocabulary import VARIABLES
from ..history import service as history
from ..kit import service as kit
from ..kit import worked
from ..measuring.service import results_of
from ..refusals import Conflict, Unprocessable
from ..store import queries
from ..store.models import Plan, Trial
from ..store.writing import use_case
from ..trials import service as trials
from . import schemas as s

COLUMNS = ("replicates", "flights", "tasters", "blocking", "block_factor", "share_drunk", "dial_in_brews", "sieve_samples", "sieve_sample_g")


def plan_of(trial_id: str) -> Plan | None:
    return Plan.get_or_none((Plan.trial == trial_id) & Plan.deleted_at.is_null())


@use_case
def save_plan(trial_id: str, sent: s.PlanBody, rev: int, act: Act) -> s.PlanAnswer:
    trial = trials.open_trial(trial_id)
    if sent.blocking == "factor" and sent.block_factor not in trials.factors_of(trial):
        raise Unprocessable("block_factor", "That is not a factor of this trial.", f"Give one of {', '.join(trials.factors_of(trial))}.")
    values = {name: getattr(sent, name) for name in COLUMNS} | {"day": sent.day.model_dump(), "drafted": None}
    if sent.seed is not None:
        values["seed"] = sent.seed
    store(trial, values, rev, act)
    return read_plan(trial.id)


def store(trial: Trial, values: dict[str, Any], rev: int, act: Act) -> None:
    """Into the trial's one plan, made when first needed. rev 0: nothing was stored when the writer looked."""
    plan = plan_of(trial.id)
    if plan is None:
        if rev:
            raise Conflict("rev", "This plan is not there any more.", "Look at the trial again.")
        defaults = s.PlanBody()
        plan = Plan(
            id=act.new_id(),
            trial=trial.id,
            created_at=act.now,
            seed=act.rng.randrange(1_000_000),
            day=defaults.day.model_dump(),
            **{n: getattr(defaults, n) for n in COLUMNS},
        )
        for name, value in values.items():
            setattr(plan, name, value)
        history.add(plan, act=act, trial_id=trial.id)
        return
    history.edit(plan, values, rev=rev, act=act, trial_id=trial.id)


def asked_in(trial: FrozenTrial) -> s.PlanBody:
    """The plan as it stands; the usual one while none is stored."""
    if trial.plan is None:
        return s.PlanBody(seed=0)
    settings = dict(trial.plan.settings)
    return s.PlanBody(**(settings | {"day": s.DayBody(**settings["day"])}))


def read_plan(trial_id: str) -> s.PlanAnswer:
    results = results_of(trial_id)
    plan = results.trial.plan
    asked = asked_in(results.trial)
    order = order_of(results, asked)
    return s.PlanAnswer(
        rev=plan.rev if plan else 0,
        settings=asked,
        design=_design(plan),
        order=[_brew(results, b) for b in order.brews] if order else [],
        order_cost=order.cost if order else "",
        block_factors=list(results.trial.factors),
        budget=_budget(results, asked) if results.setups else None,
        setups=ready_setups(results),
        rules=[_rule(c) for c in status.rule_checks(results)],
        design_kinds=[_kind(k) for k in DESIGN_KINDS],
        smallest_difference=results.trial.smallest_difference,
        step_told=f"{told} {WIDEN}" if (told := status.step_told(results)) else "",
    )


def _kind(kind: DesignKind) -> s.DesignKindAnswer:
    (fewest, most), (fewest_levels, most_levels) = FACTOR_COUNTS[kind], LEVEL_COUNTS[kind]
    return s.DesignKindAnswer(
        code=kind,
        label=DESIGN_LABELS[kind],
        about=DESIGN_ABOUT[kind],
        fewest_factors=fewest,
        most_factors=most,
        fewest_levels=fewest_levels,
        most_levels=most_levels,
    )


def _design(plan: FrozenPlan | None) -> s.DesignAnswer | None:
    if plan is None or not plan.design:
        return None
    d = plan.design
    factors = [s.FactorLevels(**f) for f in d["factors"]]
    return s.DesignAnswer(kind=d["kind"], label=DESIGN_LABELS[d["kind"]], factors=factors, ratio_moves=d["ratio_moves"], notes=d["notes"])


# --- order -----------------------------------------------------------------------------------------------------------


def order_of(results: MeasuredTrial, asked: s.PlanBody) -> Order | None:
    """The seeded order of one flight's brews."""
    return planned_order(results, asked.model_dump(include={"replicates", "blocking", "block_factor", "seed"}))


def read_slots(trial_id: str) -> s.SlotsAnswer:
    """Brews as planned or drafted, and which of them are made."""
    results = results_of(trial_id)
    drafted = results.trial.plan.drafted if results.trial.plan else None
    revisions = {setup.id: revision for setup, revision in results.setups}
    return s.SlotsAnswer(
        slots=[s.SlotShown(**vars(x), dose_g=revisions[x.setup_id].dose_g, ground_on=ground_on(revisions[x.setup_id])) for x in slots_of(results)],
        drafted=drafted["text"] if drafted else "",
    )


def draft(trial: Trial, brews: Mapping[str, int], text: str, tasters: int, act: Act) -> None:
    """Put brews still to be made beside the plan (inside the caller's transaction). brews: setup id → how many more."""
    there = queries.run_counts(trial.id)
    plan = plan_of(trial.id)
    values = {"drafted": {"brews": {i: [there.get(i, 0), there.get(i, 0) + n] for i, n in brews.items()}, "text": text}}
    store(trial, values | ({"tasters": tasters} if tasters else {}), plan.rev if plan else 0, act)


def _brew(results: MeasuredTrial, b) -> s.PlannedBrew:
    setup, _ = results.setups[b.setup]
    return s.PlannedBrew(label=f"{setup.letter}{b.replicate + 1}", letter=setup.letter, setup_id=setup.id, replicate=b.replicate + 1, block=b.block + 1)


# --- budget ----------------------------------------------------------------------------------------------------------


def _budget(results: MeasuredTrial, asked: s.PlanBody) -> s.BudgetAnswer:
    amounts = Amounts(
        replicates=asked.replicates,
        flights=asked.flights,
        tasters=asked.tasters,
        dial_in_brews=asked.dial_in_brews,
        sieve_samples=asked.sieve_samples,
        sieve_sample_g=asked.sieve_sample_g,
        share_drunk=asked.share_drunk,
    )
    minutes, drinks = cup_minutes_of(results), _drinks(results)
    costs = [_cost(r, trial_brew_minutes(minutes[s.letter]), drinks[s.letter], purge_g_of(results.trial, r)) for s, r in results.setups]
    return _shape_budget(budget(costs, amounts, kit.stock_by_name()))


def _drinks(results: MeasuredTrial) -> dict[str, float]:
    """Letter → the drink its recipe is forecast to give, g, by the history of its brewer."""
    kept = {letter: (r.kit or {}).get("brewer", {}).get("id") for letter, r in ((s.letter, r) for s, r in results.setups)}
    brewers = kit.items_by_id({i for i in kept.values() if i})
    learnt = worked.histories(brewers, results.trial.bench.instrument, results.tolerances)
    yield_bases = {b.id: worked.brewer_yield_basis(b) for b in brewers}
    out = {}
    for setup, r in results.setups:
        brewer = kept[setup.letter]
        history, yield_basis = learnt.get(brewer), yield_bases.get(brewer, yield_basis_of(r.brewer_type) if r.brewer_type else "in_cup")
        out[setup.letter] = (
            expected_drink_g(dose_g=r.dose_g, brew_water_g=r.brew_water_g, bypass_g=r.bypass_g, history=history, yield_basis=yield_basis) or r.bypass_g
        )
    return out


def _cost(revision: SetupRevision, minutes: float, drink_g: float, purge_g: float) -> BrewCost:
    water = revision.brew_water_g + revision.bypass_g
    coffee = facts_of(revision, "coffee")
    return BrewCost(
        coffee=revision.coffee,
        dose_g=revision.dose_g,
        water_g=water,
        beverage_g=drink_g,
        minutes=minutes,
        filter="" if facts_of(revision, "filter").get("reusable") else revision.filter,
        purge_g=purge_g,
        robusta_share=robusta_share(coffee.get("species", "arabica"), coffee.get("robusta_share")),
    )


def _shape_budget(b: Budget) -> s.BudgetAnswer:
    return s.BudgetAnswer(
        brews=b.brews,
        coffee_g=b.coffee_g,
        coffees=[s.CoffeeNeedAnswer(**vars(c), total_g=c.total_g, short_g=c.short_g) for c in b.coffees],
        water_g=b.water_g,
        filters=dict(b.filters),
        minutes=b.minutes,
        cups_per_taster=b.cups_per_taster,
        cups_per_flight=b.cups_per_flight,
        sips_per_taster=b.sips_per_taster,
        drunk_g_per_taster=b.drunk_g_per_taster,
        caffeine_flight_mg=list(b.caffeine_flight_mg),
        caffeine_day_mg=list(b.caffeine_day_mg),
        warnings=list(b.warnings),
        guidance=b.guidance,
    )


# --- readiness -------------------------------------------------------------------------------------------------------


def ready_setups(results: MeasuredTrial) -> list[s.ReadySetup]:
    """Each setup's newest dial-in brew against its recipe's windows."""
    out = []
    for setup, revision in results.setups:
        state = status.dial_in_of(results, setup.id)
        out.append(
            s.ReadySetup(
                setup_id=setup.id, letter=setup.letter, name=results.names[setup.id], dial_in=state.state, text=state.text, has_recipe=bool(revision.recipe)
            )
        )
    return out


def _rule(c: RuleCheck) -> s.RuleAnswer:
    label = next(v.label for v in VARIABLES if v.field == c.field)
    return s.RuleAnswer(field=c.field, label=label, rule=c.rule, rule_label=MATCHING_LABELS[c.rule], holds=c.holds, text=c.text)
