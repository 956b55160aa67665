"""What liking costs, which factor gains it, and what to do next."""

from __future__ import annotations

import statistics
from dataclasses import asdict

from ..core.grinding.doses import saved_s
from ..core.judging.answer import first_of
from ..core.judging.factorial import PLACES, POINTS, factorial_effects
from ..core.judging.ranks import as_scores
from ..core.judging.value import (
    LEAST_MINUTES,
    LEAST_PRICE,
    MOST_ALIKE,
    Gain,
    best_value,
    bought,
    coffee_per_kg,
    cup_price,
    gain_per_money,
    kit_a_cup,
    kit_apart,
    same_cost,
    tie_breaker,
    values_of,
)
from ..core.planning.control import FACTOR_LABELS, TESTED_FIELD
from ..core.trial.ladder import ladder_of
from ..core.trial.measured import cup_minutes_of
from ..core.trial.setups import facts_of, grind_rate_of, lasting_kit_of, shown_values
from ..core.trial.value import SetupRevision
from . import particles
from . import schemas as s
from . import value_schemas as w
from .secondary import beside_of, groups_of
from .view import View, prior_of


def value_of(view: View, main: s.JudgedAnswer | None) -> w.ValueAnswer:
    """main: the judgement that counts; without one, what ranks or preferences say of the order."""
    beside = beside_of(view)
    order = {x.setup: x.mean for x in main.setups} if main else _order(beside)
    used_up, kit = _prices(view), _kit(view)
    prices = {letter: None if p is None else p + kit[letter] for letter, p in used_up.items()}
    camps = groups_of(view) if main else ()
    asks_which = len(view.trial.factors) == 1 and ladder_of(view.measured) is None  # elsewhere no setup is dropped by name
    dropped = main.verdict.dropped if main and asks_which else ()
    grinds, band = particles.beside_taste(view)
    rows = values_of(order, prices, cup_minutes_of(view.measured), dropped=order if camps else dropped)  # nothing is the best value of an average nobody has
    scored = main is not None and not camps
    tied = main.verdict.tied if main else first_of(beside["ranked"], beside["preferred"])
    return w.ValueAnswer(
        setups=[
            w.ValueShown(
                **{**asdict(row), "liking": row.liking if scored else None}, name=view.names[row.setup], used_up=used_up[row.setup], kit=kit[row.setup]
            )
            for row in rows
        ],
        same_price=same_cost([row.price for row in rows], LEAST_PRICE),
        same_minutes=same_cost([row.minutes for row in rows], LEAST_MINUTES),
        best_price=best_value(rows, view.names, by="price") if scored else "",
        best_minutes=best_value(rows, view.names, by="minutes") if scored else "",
        kit_lasts_years=view.trial.bench.kit_lasts_years,
        cups_a_day=view.trial.bench.cups_a_day,
        unpriced=sorted({name for r in _revisions(view).values() for name, price in lasting_kit_of(r).items() if price is None}),
        bought=_bought(view, main),
        particles=grinds,
        band=band,
        tie=tie_breaker(tied, rows, view.names) if len(tied) > 1 else "",
        factorial=_factorial(view, prices),
    )


def _order(beside: dict) -> dict[str, float]:
    """Letter → a number that is larger for what came earlier: it orders, and is never shown."""
    preferred, ranked = beside["preferred"], beside["ranked"]
    if preferred:
        return {x["setup"]: x["log_strength"] for x in preferred["strengths"]}
    return {n: -r for n, r in zip(ranked["setups"], ranked["mean_ranks"], strict=True)} if ranked else {}


def _revisions(view: View) -> dict[str, SetupRevision]:
    return {setup.letter: revision for setup, revision in view.trial.rows}


def _prices(view: View) -> dict[str, float | None]:
    """Letter → coffee and paper of a cup, in the kit's currency."""
    out = {}
    for letter, revision in _revisions(view).items():
        paper = facts_of(revision, "filter")
        each = None if paper.get("reusable") else paper.get("price_each")
        out[letter] = cup_price(dose_g=revision.dose_g, coffee_per_kg=coffee_per_kg(facts_of(revision, "coffee")), filter_each=each)
    return out


def _kit(view: View) -> dict[str, float]:
    """Letter → kit that lasts, a cup; what has no price counts nothing, and is said."""
    bench = view.trial.bench
    return {
        letter: kit_a_cup(sum(p or 0.0 for p in lasting_kit_of(r).values()), years=bench.kit_lasts_years, cups_a_day=bench.cups_a_day)
        for letter, r in _revisions(view).items()
    }


def _bought(view: View, main: s.JudgedAnswer | None) -> str:
    """Of the dearest kit against the cheapest, leaving out what all setups share."""
    whole = kit_apart({letter: lasting_kit_of(r) for letter, r in _revisions(view).items()})
    if main is None or len(whole) < 2:
        return ""
    dearer, cheaper = max(whole, key=lambda x: (whole[x], x)), min(whole, key=lambda x: (whole[x], x))
    found = next((d for d in main.differences if {d.a, d.b} == {dearer, cheaper}), None)
    if found is None or not whole[cheaper] or whole[dearer] / whole[cheaper] < MOST_ALIKE:
        return ""
    sign = 1 if found.a == dearer else -1
    low, high = sorted(sign * end for end in found.interval)
    rates = [grind_rate_of(view.trial, _revisions(view)[x]) for x in (cheaper, dearer)]
    saved = saved_s(_revisions(view)[dearer].dose_g, *rates) if all(rates) else None
    return bought(view.names[dearer], view.names[cheaper], whole[dearer] / whole[cheaper], sign * found.estimate, (low, high), saved)


# --- factorials ----------------------------------------------------------------------------------------------------------


def _factorial(view: View, prices: dict[str, float | None]) -> w.FactorialShown | None:
    factors = view.trial.factors
    if len(factors) < 2:
        return None
    shown = {letter: shown_values(revision) for letter, revision in _revisions(view).items()}
    levels = {f: {letter: values.get(TESTED_FIELD[f], "") for letter, values in shown.items()} for f in factors if f in TESTED_FIELD}
    scores, ranks = view.found.counting(), view.found.ranks()
    if scores or not ranks:
        effects = factorial_effects(scores, levels, learnt=prior_of(view.scatter)) if scores else None
    else:
        turned, last = as_scores(ranks)
        effects = factorial_effects(turned, levels, high=last, unit=PLACES)
    if effects is None:
        return None
    gains = (
        []
        if effects.unit != POINTS
        else [g for f in effects.factors if (g := _gain(f.factor, f.best, f.worst, f.span, f.span_interval, levels[f.factor], prices)) is not None]
    )
    text = effects.text
    for f in effects.factors:
        text = text.replace(f.factor, FACTOR_LABELS.get(f.factor, f.factor))
    return w.FactorialShown(
        factors=[w.FactorShown(**{**asdict(f), "label": FACTOR_LABELS.get(f.factor, f.factor)}) for f in effects.factors],
        interactions=[w.InteractionShown(**asdict(i)) for i in effects.interactions],
        text=text[:1].upper() + text[1:],
        unit=effects.unit,
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
