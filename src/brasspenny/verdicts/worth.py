"""What liking costs, which factor gains it, and what to do next."""

from __future__ import annotations

import statistics
from collections.abc import Mapping
from dataclasses import asdict, dataclass

from ..act import Act
from ..core import figures
from ..core.errors import BadScores
from ..core.judging import Score
from ..core.judging.factorial import factorial_effects
from ..core.judging.next_steps import next_steps
from ..core.judging.peak import Peak, find_peak
from ..core.judging.value import Gain, cup_price, gain_per_money, tie_breaker, worth
from ..core.planning.control import FACTOR_LABELS, TESTED_FIELD
from ..core.planning.minutes import trial_brew_minutes
from ..core.trial.measured import cup_minutes_of
from ..core.trial.setups import facts_of, shown_values
from ..core.trial.value import SetupRevision
from ..planning import plans
from ..refusals import Conflict
from ..store.writing import use_case
from ..trials import schemas as trials_s
from ..trials import service as trials
from . import schemas as s
from . import service
from . import worth_schemas as w
from .kept import Layer
from .pairing import numbers_of
from .view import View, look


def read_value(trial_id: str, act: Act) -> w.ValueAnswer:
    return value_of(look(trial_id, act))


def value_of(view: View, main: s.JudgedAnswer | None = None) -> w.ValueAnswer:
    """main: the judgement that counts, where it is at hand already."""
    main = main or service.judged(view).main
    if main is None:
        return w.ValueAnswer(setups=[], tie="", factorial=None)
    liking = {x.setup: x.mean for x in main.setups}
    prices = _prices(view)
    rows = worth(liking, prices, cup_minutes_of(view.measured))
    tied = main.verdict.tied
    return w.ValueAnswer(
        setups=[w.WorthShown(**asdict(row), name=view.names[row.setup]) for row in rows],
        tie=tie_breaker(tied, rows, view.names) if tied else "",
        factorial=_factorial(view, prices),
    )


def _revisions(view: View) -> dict[str, SetupRevision]:
    return {setup.letter: revision for setup, revision in view.trial.rows}


def _prices(view: View) -> dict[str, float | None]:
    """Letter → coffee and paper of a cup, in the kit's currency."""
    out = {}
    for letter, revision in _revisions(view).items():
        paper = facts_of(revision, "filter")
        each = None if paper.get("reusable") else paper.get("price_each")
        out[letter] = cup_price(dose_g=revision.dose_g, coffee_per_kg=facts_of(revision, "coffee").get("price_per_kg"), filter_each=each)
    return out


# --- factorials ----------------------------------------------------------------------------------------------------------


def _factorial(view: View, prices: dict[str, float | None]) -> w.FactorialShown | None:
    factors = view.trial.factors
    if len(factors) < 2:
        return None
    shown = {letter: shown_values(revision) for letter, revision in _revisions(view).items()}
    levels = {f: {letter: values.get(TESTED_FIELD[f], "") for letter, values in shown.items()} for f in factors if f in TESTED_FIELD}
    effects = factorial_effects(view.found.scores(), levels)
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


@dataclass(frozen=True)
class NextPart:
    """All that is proposed rests on this. ladder: (setup letter, brew) with its ratio, where the ratio is what is asked about; () elsewhere."""

    scores: tuple[Score, ...]
    dose_g: Mapping[str, float]
    minutes: Mapping[str, float]
    dropped: tuple[str, ...]
    names: Mapping[str, str]
    smallest_difference: float
    ladder: tuple[tuple[str, str, float], ...]


def read_next(trial_id: str, act: Act) -> w.NextAnswer:
    return next_of(look(trial_id, act))


def next_of(view: View, main: s.JudgedAnswer | None = None) -> w.NextAnswer:
    main = main or service.judged(view).main
    if main is None:
        return w.NextAnswer(steps=[], regret=None, untasted=_untasted(view))
    part = NextPart(
        scores=tuple(view.found.scores()),
        dose_g={letter: r.dose_g for letter, r in _revisions(view).items()},
        minutes={letter: trial_brew_minutes(m) for letter, m in cup_minutes_of(view.measured).items()},
        dropped=tuple(main.verdict.dropped),
        names=view.names,
        smallest_difference=view.trial.smallest_difference,
        ladder=_ladder(view),
    )
    return w.NextAnswer(steps=view.keeper.of(NEXT, part)["steps"], regret=main.lean.expected_regret, untasted=_untasted(view))


def _untasted(view: View) -> list[str]:
    """A1, B2: of the setups there are now."""
    poured = {p.run_id for flight in view.trial.flights for p in flight.brews}
    return [view.measured.label_of(run) for run in view.measured.runs if run.id not in poured]


def _ladder(view: View) -> tuple[tuple[str, str, float], ...]:
    if view.trial.factor != "ratio":
        return ()
    ratios = numbers_of(view.measured, "ratio")
    return tuple((view.measured.letter_of(run), run.id, ratios[run.id]) for run in view.measured.runs if run.id in ratios)


def _steps(part: NextPart) -> dict:
    steps = next_steps(
        part.scores,
        dose_g=part.dose_g,
        minutes=part.minutes,
        dropped=part.dropped,
        names=part.names,
        peak=_peak(part),
        smallest_difference=part.smallest_difference,
    )
    return {"steps": [{**asdict(step), "per_effort": step.per_effort} for step in steps]}


NEXT = Layer("next", _steps)


def _peak(part: NextPart) -> Peak | None:
    """Of the ratio: its next value can be set up by moving the water."""
    if not part.ladder:
        return None
    try:
        return find_peak(part.scores, {(letter, run): ratio for letter, run, ratio in part.ladder}, same_within=0.3)
    except BadScores:
        return None


def draft(trial_id: str, sent: w.DraftBody, act: Act) -> w.DraftAnswer:
    """Put a next step into the plan: how many brews of each and how many tasters; for a new value, its setup as well. It is judged first, which
    nobody else waits for."""
    found = read_next(trial_id, act)
    step = next((x for x in found.steps if x.code == sent.code), None)
    if step is None:
        raise Conflict("code", "That step is not open for this trial any more.", "Look at the verdict again.")
    return _draft(trial_id, step, act)


@use_case
def _draft(trial_id: str, step: w.NextStepShown, act: Act) -> w.DraftAnswer:
    trial = trials.open_trial(trial_id)
    if step.value is not None:
        return _draft_value(trial_id, step.value, act)
    plan = plans.plan_of(trial_id)
    people = plans.asked_in(trials.frozen(trial_id)).tasters if not step.tasters else min(12, step.tasters)
    plans.store(trial, {"replicates": step.brews, "flights": 1, "tasters": people}, plan.rev if plan else 0, act)
    return w.DraftAnswer(station="brew", text=f"Planned: {step.text}")


def _draft_value(trial_id: str, ratio: float, act: Act) -> w.DraftAnswer:
    """A copy of the setup nearest to the new ratio, with its water moved."""
    near = min(trials.frozen(trial_id).rows, key=lambda x: abs(x[1].brew_water_g / x[1].dose_g - ratio))
    water = round(near[1].dose_g * ratio, 0)
    body = trials_s.SetupBody(copy_of=near[0].id, variables=trials_s.VariablesPatch(brew_water_g=water))
    made = trials.add_setup(trial_id, body, act)
    return w.DraftAnswer(
        station="set_up",
        text=f"Setup {made.letter} is added at 1:{figures.ratio(ratio)} ({figures.grams(water)} g of water). Brew it twice beside the best so far.",
    )
