"""What liking costs, which factor gains it, and what to do next."""

from __future__ import annotations

import statistics
from dataclasses import asdict

from ..act import Act
from ..core.errors import BadScores
from ..core.judging.factorial import factorial_effects
from ..core.judging.next_steps import next_steps
from ..core.judging.peak import Peak, find_peak
from ..core.judging.value import LASTING_BREWERS, Gain, cup_minutes, cup_price, gain_per_money, tie_breaker, worth
from ..core.planning.control import FACTOR_LABELS, TESTED_FIELD
from ..measuring.service import TrialResults
from ..planning import plans
from ..refusals import Conflict
from ..store import queries
from ..store.connection import database
from ..store.models import SetupRevision
from ..trials import schemas as trials_s
from ..trials import service as trials
from . import schemas as s
from . import service
from . import worth_schemas as w
from .attributes import gathered, names_of
from .cache import worked_out
from .tasted import Tasted


def read_value(trial_id: str, act: Act) -> w.ValueAnswer:
    results, found = gathered(trial_id)
    scores = found.scores()
    if not scores:
        return w.ValueAnswer(setups=[], tie="", factorial=None)
    names = names_of(results)
    main = _main(results, act)
    liking = {x.setup: x.mean for x in main.setups}
    prices, minutes = _prices(results), _minutes(results)
    rows = worth(liking, prices, minutes)
    tied = main.verdict.tied
    return w.ValueAnswer(
        setups=[w.WorthShown(**asdict(row), name=names[row.setup]) for row in rows],
        tie=tie_breaker(tied, rows, names) if tied else "",
        factorial=_factorial(results, found, prices),
    )


def _main(results: TrialResults, act: Act) -> s.JudgedAnswer:
    judged = service.verdict_of(results, queries.live_flights(results.trial.id), act)
    return judged.blind or judged.sighted


def _revisions(results: TrialResults) -> dict[str, SetupRevision]:
    return {setup.letter: revision for setup, revision in results.setups}


def _prices(results: TrialResults) -> dict[str, float | None]:
    """Letter → coffee and paper of a cup, in the kit's currency."""
    out = {}
    for letter, revision in _revisions(results).items():
        paper = plans.facts_of(revision, "filter")
        each = None if paper.get("reusable") else paper.get("price_each")
        out[letter] = cup_price(dose_g=revision.dose_g, coffee_per_kg=plans.facts_of(revision, "coffee").get("price_per_kg"), filter_each=each)
    return out


def _minutes(results: TrialResults) -> dict[str, float]:
    """Letter → grind, brew and clean. The brew as it was measured, else as its recipe says."""
    out = {}
    for setup, revision in results.setups:
        measured = results.pooled[setup.id].total_time_s
        lasting = bool(plans.facts_of(revision, "filter").get("reusable")) or revision.brewer_type in LASTING_BREWERS
        out[setup.letter] = cup_minutes(
            dose_g=revision.dose_g,
            grind_g_s=plans.facts_of(revision, "grinder").get("rate_g_s"),
            brew_s=measured if measured is not None else plans.sums(plans.recipe_of(revision)).total_s,
            lasting=lasting,
        )
    return out


# --- factorials ----------------------------------------------------------------------------------------------------------


def _factorial(results: TrialResults, found: Tasted, prices: dict[str, float | None]) -> w.FactorialShown | None:
    factors = trials.factors_of(results.trial)
    if len(factors) < 2:
        return None
    shown = {letter: trials.shown_values(revision) for letter, revision in _revisions(results).items()}
    levels = {f: {letter: values.get(TESTED_FIELD[f], "") for letter, values in shown.items()} for f in factors if f in TESTED_FIELD}
    effects = factorial_effects(found.scores(), levels)
    if effects is None:
        return None
    gains = [g for f in effects.factors if (g := _gain(f.factor, f.best, f.worst, f.span, f.span_interval, levels[f.factor], prices)) is not None]
    text = effects.text
    for f in effects.factors:
        text = text.replace(f.factor, FACTOR_LABELS.get(f.factor, f.factor))
    return w.FactorialShown(
        factors=[w.FactorShown(**{**asdict(f), "label": FACTOR_LABELS.get(f.factor, f.factor)}) for f in effects.factors],
        interactions=[w.InteractionShown(**asdict(i)) for i in effects.interactions],
        text=text[:1].upper() + text[1:],
        gains=[w.GainShown(**{**asdict(g), "factor": FACTOR_LABELS.get(g.factor, g.factor)}) for g in gains],
    )


def _gain(factor: str, best: str, worst: str, span: float, interval, levels: dict[str, str], prices: dict[str, float | None]) -> Gain | None:
    """Only where the two levels' cups differ in price and both are known."""
    at = {level: [prices[x] for x, at_level in levels.items() if at_level == level] for level in (best, worst)}
    if any(p is None for found in at.values() for p in found):
        return None
    dearer_by = statistics.fmean(at[best]) - statistics.fmean(at[worst])
    if abs(dearer_by) < 0.005:
        return None
    if dearer_by > 0:
        return gain_per_money(factor, worst, best, span, tuple(interval), dearer_by)
    return gain_per_money(factor, best, worst, -span, (-interval[1], -interval[0]), -dearer_by)


# --- next ----------------------------------------------------------------------------------------------------------------


def read_next(trial_id: str, act: Act) -> w.NextAnswer:
    results, found = gathered(trial_id)
    scores = found.scores()
    if not scores:
        return w.NextAnswer(steps=[], regret=None)
    main = _main(results, act)
    revisions, minutes = _revisions(results), _minutes(results)
    names = names_of(results)
    rests_on = [
        sorted(tuple(vars(x).values()) for x in scores),
        main.verdict.dropped,
        minutes,
        {k: r.dose_g for k, r in revisions.items()},
        sorted(names.items()),
    ]

    def work() -> dict:
        steps = next_steps(
            scores,
            dose_g={k: r.dose_g for k, r in revisions.items()},
            minutes=minutes,
            dropped=main.verdict.dropped,
            names=names,
            peak=_ladder_peak(results, found),
            smallest_difference=results.trial.smallest_difference,
        )
        return {"steps": [{**asdict(step), "per_effort": step.per_effort} for step in steps], "regret": main.lean.expected_regret}

    return w.NextAnswer.model_validate(worked_out(trial_id, "next", rests_on, work, act))


def _ladder_peak(results: TrialResults, found: Tasted) -> Peak | None:
    """Of the ratio, where that is what is asked about: its next value can be set up by moving the water."""
    if results.trial.factor != "ratio":
        return None
    at = {(results.letter_of(run), run.id): m.brew_ratio for run in results.runs if (m := results.measured[run.id]).brew_ratio is not None}
    try:
        return find_peak(found.scores(), at, same_within=0.3)
    except BadScores:
        return None


@database.atomic()
def draft(trial_id: str, sent: w.DraftBody, act: Act) -> w.DraftAnswer:
    """Put a next step into the plan: how many brews of each and how many tasters; for a new value, its setup as well."""
    found = read_next(trial_id, act)
    step = next((x for x in found.steps if x.code == sent.code), None)
    if step is None:
        raise Conflict("code", "That step is not open for this trial any more.", "Look at the verdict again.")
    trial = trials.open_trial(trial_id)
    if step.value is not None:
        return _draft_value(trial_id, step.value, act)
    plan = plans.plan_of(trial_id)
    people = plans.settings_of(plan).tasters if not step.tasters else min(12, step.tasters)
    plans.store(trial, {"replicates": step.brews, "flights": 1, "tasters": people}, plan.rev if plan else 0, act)
    return w.DraftAnswer(station="brew", text=f"Planned: {step.text}")


def _draft_value(trial_id: str, ratio: float, act: Act) -> w.DraftAnswer:
    """A copy of the setup nearest to the new ratio, with its water moved."""
    results, _ = gathered(trial_id)
    near = min(results.setups, key=lambda x: abs(x[1].brew_water_g / x[1].dose_g - ratio))
    water = round(near[1].dose_g * ratio, 0)
    body = trials_s.SetupBody(copy_of=near[0].id, variables=trials_s.VariablesPatch(brew_water_g=water))
    made = trials.add_setup(trial_id, body, act)
    return w.DraftAnswer(
        station="set_up", text=f"Setup {made.letter} is added at 1:{ratio:.1f} ({water:.0f} g of water). Brew it twice beside the best so far."
    )
