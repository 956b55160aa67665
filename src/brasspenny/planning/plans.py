"""A trial's plan: replicates, order, budget, and whether its setups are ready to be compared."""

from __future__ import annotations

from typing import Any

from ..act import Act
from ..core.brewing.dial_in import DialInBrew, Matched, RuleCheck, check_rule, dial_in_state
from ..core.errors import PennyError
from ..core.planning.budget import Amounts, BrewCost, Budget, budget, robusta_share, usual_drink_g
from ..core.planning.control import FACTOR_LABELS, MATCHING_LABELS, TESTED_FIELD, VARIABLES
from ..core.planning.designs import DESIGN_ABOUT, DESIGN_KINDS, DESIGN_LABELS, FACTOR_COUNTS, LEVEL_COUNTS, DesignKind, Order, run_order
from ..core.recipe.document import from_document
from ..core.recipe.fitting import plain_pour
from ..core.recipe.model import Recipe, sums
from ..history import service as history
from ..kit import service as kit
from ..kit.settings import Matches
from ..measuring.service import TrialResults, results_of, run_label
from ..refusals import Conflict, Unprocessable
from ..store.connection import database
from ..store.models import Declaration, Plan, SetupRevision, Trial
from ..trials import service as trials
from . import schemas as s

COLUMNS = ("replicates", "flights", "tasters", "blocking", "block_factor", "share_drunk", "dial_in_brews", "sieve_samples")


def plan_of(trial_id: str) -> Plan | None:
    return Plan.get_or_none((Plan.trial == trial_id) & Plan.deleted_at.is_null())


@database.atomic()
def save_plan(trial_id: str, sent: s.PlanBody, rev: int, act: Act) -> s.PlanAnswer:
    trial = trials.open_trial(trial_id)
    if sent.blocking == "factor" and sent.block_factor not in trials.factors_of(trial):
        raise Unprocessable("block_factor", "That is not a factor of this trial.", f"Give one of {', '.join(trials.factors_of(trial))}.")
    values = {name: getattr(sent, name) for name in COLUMNS} | {"day": sent.day.model_dump()}
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


def settings_of(plan: Plan | None) -> s.PlanBody:
    if plan is None:
        return s.PlanBody(seed=0)
    return s.PlanBody(day=s.DayBody(**plan.day), seed=plan.seed, **{name: getattr(plan, name) for name in COLUMNS})


def read_plan(trial_id: str) -> s.PlanAnswer:
    results = results_of(trial_id)
    plan = plan_of(trial_id)
    asked = settings_of(plan)
    order = order_of(results, asked)
    return s.PlanAnswer(
        rev=plan.rev if plan else 0,
        settings=asked,
        design=_design(plan),
        order=[_brew(results, b) for b in order.brews] if order else [],
        order_cost=order.cost if order else "",
        block_factors=trials.factors_of(results.trial),
        budget=_budget(results, asked) if results.setups else None,
        setups=ready_setups(results),
        rules=[_rule(c) for c in rule_checks(results)],
        design_kinds=[_kind(k) for k in DESIGN_KINDS],
        smallest_difference=results.trial.smallest_difference,
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


def _design(plan: Plan | None) -> s.DesignAnswer | None:
    if plan is None or not plan.design:
        return None
    d = plan.design
    factors = [s.FactorLevels(**f) for f in d["factors"]]
    return s.DesignAnswer(kind=d["kind"], label=DESIGN_LABELS[d["kind"]], factors=factors, ratio_moves=d["ratio_moves"], notes=d["notes"])


# --- order -----------------------------------------------------------------------------------------------------------


def order_of(results: TrialResults, asked: s.PlanBody) -> Order | None:
    """The seeded order of one flight's brews."""
    if not results.setups:
        return None
    if asked.blocking == "factor" and asked.block_factor in TESTED_FIELD:
        field = TESTED_FIELD[asked.block_factor]
        levels = [trials.shown_values(revision).get(field, "") for _, revision in results.setups]
        label = FACTOR_LABELS.get(asked.block_factor, asked.block_factor)
        return run_order(len(results.setups), asked.replicates, seed=asked.seed or 0, blocking="factor", levels=levels, factor=label)
    blocking = "replicate" if asked.blocking == "factor" else asked.blocking
    return run_order(len(results.setups), asked.replicates, seed=asked.seed or 0, blocking=blocking)


def _brew(results: TrialResults, b) -> s.PlannedBrew:
    setup, _ = results.setups[b.setup]
    return s.PlannedBrew(label=f"{setup.letter}{b.replicate + 1}", letter=setup.letter, setup_id=setup.id, replicate=b.replicate + 1, block=b.block + 1)


# --- budget ----------------------------------------------------------------------------------------------------------


def recipe_of(revision: SetupRevision) -> Recipe:
    """The setup's own steps; without a recipe, a plain pour of its amounts."""
    if revision.recipe:
        return from_document(revision.recipe)
    return plain_pour(revision.dose_g, revision.brew_water_g, revision.bypass_g, revision.temperature_c)


def facts_of(revision: SetupRevision, kind: str) -> dict[str, Any]:
    """The kit's facts as they were when the setup was made."""
    return ((revision.kit or {}).get(kind) or {}).get("facts", {})


def _budget(results: TrialResults, asked: s.PlanBody) -> s.BudgetAnswer:
    amounts = Amounts(
        replicates=asked.replicates,
        flights=asked.flights,
        tasters=asked.tasters,
        dial_in_brews=asked.dial_in_brews,
        sieve_samples=asked.sieve_samples,
        share_drunk=asked.share_drunk,
    )
    return _shape_budget(budget([_cost(revision) for _, revision in results.setups], amounts, kit.stock_by_name()))


def _cost(revision: SetupRevision) -> BrewCost:
    water = revision.brew_water_g + revision.bypass_g
    coffee = facts_of(revision, "coffee")
    return BrewCost(
        coffee=revision.coffee,
        dose_g=revision.dose_g,
        water_g=water,
        beverage_g=usual_drink_g(water, revision.dose_g),
        minutes=sums(recipe_of(revision)).total_s / 60,
        filter="" if facts_of(revision, "filter").get("reusable") else revision.filter,
        purge_g=facts_of(revision, "grinder").get("purge_g") or 0.0,
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


def ready_setups(results: TrialResults) -> list[s.ReadySetup]:
    """Each setup's newest dial-in brew against its recipe's windows."""
    out = []
    for setup, revision in results.setups:
        brews = [_dial_in(results, setup.letter, run) for run in results.dial_ins if run.setup_id == setup.id]
        state = dial_in_state(from_document(revision.recipe) if revision.recipe else None, brews)
        out.append(
            s.ReadySetup(
                setup_id=setup.id, letter=setup.letter, name=results.names[setup.id], dial_in=state.state, text=state.text, has_recipe=bool(revision.recipe)
            )
        )
    return out


def _dial_in(results: TrialResults, letter: str, run) -> DialInBrew:
    m = results.measured[run.id]
    got = m.yield_in(results.school)
    return DialInBrew(
        label=run_label(letter, run),
        total_time_s=run.total_time_s,
        pour_end_s=run.pour_end_s,
        tds_pct=m.strength.tds_pct if m.strength else None,
        ey_pct=got.value if got else None,
        beverage_g=run.beverage_g,
    )


def rule_checks(results: TrialResults) -> list[RuleCheck]:
    """Every declared rule against what was measured so far."""
    declared = Declaration.select().where(Declaration.trial == results.trial.id).order_by(Declaration.field)
    return [
        check_rule(d.field, d.rule, [_matched(results, setup) for setup, _ in results.setups], _by_sieve(results) if d.rule == "sieve_median" else None)
        for d in declared
    ]


def _matched(results: TrialResults, setup) -> Matched:
    runs = [r for r in (*results.runs, *results.dial_ins) if r.setup_id == setup.id]
    measured = [results.measured[r.id] for r in runs]

    def mean(values):
        known = [v for v in values if v is not None]
        return sum(known) / len(known) if known else None

    yields = [m.yield_in(results.school) for m in measured]
    return Matched(
        setup.letter,
        total_time_s=mean([r.total_time_s for r in runs]),
        tds_pct=mean([m.strength.tds_pct if m.strength else None for m in measured]),
        ey_pct=mean([y.value if y else None for y in yields]),
    )


def _by_sieve(results: TrialResults) -> bool | None:
    """Whether the kit's sieve-matched pairs lead from the first setup's setting to every other's, within their spread."""
    m = Matches()
    first = results.setups[0][1]
    said: list[bool] = []
    for _, revision in results.setups[1:]:
        if revision.grinder == first.grinder:
            continue
        pairs = [p for p in m.pairs if p.match == "sieve_median" and {p.a, p.b} == {first.grinder, revision.grinder}]
        if not pairs:
            return None
        try:
            found = m.translate(float(first.grind_setting), first.grinder, revision.grinder)
            said.append("sieve_median" in found.matches and found.low <= float(revision.grind_setting) <= found.high)
        except (ValueError, KeyError, PennyError):
            said.append(False)
    return all(said) if said else None


def _rule(c: RuleCheck) -> s.RuleAnswer:
    label = next(v.label for v in VARIABLES if v.field == c.field)
    return s.RuleAnswer(field=c.field, label=label, rule=c.rule, rule_label=MATCHING_LABELS[c.rule], holds=c.holds, text=c.text)
