"""What to do next, and putting it into the plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass

from ..act import Act
from ..core.errors import BadScores
from ..core.judging import Score
from ..core.judging.answer import Answer
from ..core.judging.measures import MEASURE, Measure
from ..core.judging.next_steps import next_steps, spent, without_scores
from ..core.judging.peak import Peak, find_peak
from ..core.planning.minutes import trial_brew_minutes
from ..core.trial.ladder import Rung, ladder_of, reachable_ends, rung_at
from ..core.trial.measured import cup_minutes_of
from ..core.trial.value import LearntScatter
from ..planning import plans
from ..refusals import Conflict
from ..store.writing import use_case
from ..trials import schemas as trials_s
from ..trials import service as trials
from . import schemas as s
from . import service
from . import value_schemas as w
from .answering import answer_of
from .judged import Judged
from .secondary import groups_of
from .verdict_cache import Layer
from .view import View, look, prior_of


@dataclass(frozen=True)
class NextPart:
    """All that is proposed rests on this. measure, ladder: what the rungs are read as, and the brews' numbers, of a trial that asks how far; reachable: the ends
    beyond which something that is set leads."""

    scores: tuple[Score, ...]
    dose_g: Mapping[str, float]
    minutes: Mapping[str, float]
    dropped: tuple[str, ...]
    names: Mapping[str, str]
    smallest_difference: float
    asks: str
    measure: Measure | None
    reachable: tuple[str, ...]
    ladder: Mapping[str, float]
    learnt: LearntScatter | None


def read_next(trial_id: str, act: Act) -> w.NextAnswer:
    view = look(trial_id, act)
    return next_of(view, service.judged(view).main)


def next_of(view: View, main: s.JudgedAnswer | None) -> w.NextAnswer:
    if main is None:
        said = answer_of(view, Judged(None, None))
        return w.NextAnswer(steps=[], regret=None, untasted=_untasted(view), note=_note(said), spent=_spent(view))
    if groups_of(view):
        return w.NextAnswer(steps=[], regret=main.lean.expected_regret, untasted=_untasted(view), note=NO_AVERAGE, spent=_spent(view))
    ladder = ladder_of(view.measured)
    part = NextPart(
        scores=tuple(view.found.counting()),
        dose_g={setup.letter: revision.dose_g for setup, revision in view.trial.rows},
        minutes={letter: trial_brew_minutes(m) for letter, m in cup_minutes_of(view.measured).items()},
        dropped=tuple(main.verdict.dropped),
        names=view.names,
        smallest_difference=view.trial.smallest_difference,
        asks="which rung is best" if ladder else "which combination is best" if len(view.trial.factors) > 1 else "the question",
        measure=ladder.measure if ladder else None,
        ladder=ladder.numbers if ladder else {},
        reachable=reachable_ends(view.measured, ladder) if ladder else (),
        learnt=view.scatter,
    )
    return w.NextAnswer(steps=view.keeper.of(NEXT, part)["steps"], regret=main.lean.expected_regret, untasted=_untasted(view), note="", spent=_spent(view))


NO_AVERAGE = "More cups would not bring these drinkers together. Ask each guest which they like, or brew the one that is safest for a mixed table."


def _note(said: Answer | None) -> str:
    """Where nothing was scored: what is left to do, in the answer's own words where it was asked whether cups can be told apart."""
    if said is None:
        return ""
    return said.action if said.kind == "apart" else without_scores(said.kind)


def _spent(view: View) -> str:
    """'' before anything was tasted."""
    flights, letters = sum(f.status == "flipped" for f in view.trial.flights), view.trial.letters
    each = {letter: trial_brew_minutes(m) for letter, m in cup_minutes_of(view.measured).items()}
    brews = view.trial.brews
    minutes = sum(each[letters[b.setup_id]] for b in brews)
    return spent(flights=flights, brews=len(brews), grams=sum(b.dose_g for b in brews), minutes=minutes) if flights else ""


def _untasted(view: View) -> list[str]:
    """A1, B2: of the setups there are now."""
    poured = {p.run_id for flight in view.trial.flights for p in flight.brews}
    return [view.measured.label_of(run) for run in view.measured.runs if run.id not in poured]


def _steps(part: NextPart) -> dict:
    steps = next_steps(
        part.scores,
        dose_g=part.dose_g,
        minutes=part.minutes,
        dropped=part.dropped,
        names=part.names,
        peak=_peak(part),
        asks=part.asks,
        measure=part.measure or MEASURE["ratio"],
        smallest_difference=part.smallest_difference,
        learnt=prior_of(part.learnt),
    )
    return {"steps": [{**asdict(step), "per_effort": step.per_effort} for step in steps]}


NEXT = Layer("next", _steps)


def _peak(part: NextPart) -> Peak | None:
    """Of the ladder: its next value can be set up."""
    at = {(x.setup, x.brew): part.ladder[x.brew] for x in part.scores if x.brew in part.ladder}
    if not at:
        return None
    try:
        peak = find_peak(part.scores, at, same_within=part.measure.same_within)
    except BadScores:
        return None
    return peak if peak.rising in part.reachable else None


def draft(trial_id: str, sent: w.DraftBody, act: Act) -> w.DraftAnswer:
    """Put a next step into the plan: how many brews of each and how many tasters; for a new value, its setup as well. It is judged first, which
    nobody else waits for."""
    view = look(trial_id, act)
    step = next((x for x in next_of(view, service.judged(view).main).steps if x.code == sent.code), None)
    if step is None:
        raise Conflict("code", "That step is not open for this trial any more.", "Look at the verdict again.")
    return _draft(trial_id, step, _rung(view, step), act)


def _rung(view: View, step: w.NextStepShown) -> Rung | None:
    ladder = ladder_of(view.measured)
    return None if step.value is None or ladder is None else rung_at(view.measured, ladder, step.value)


@use_case
def _draft(trial_id: str, step: w.NextStepShown, rung: Rung | None, act: Act) -> w.DraftAnswer:
    trial = trials.open_trial(trial_id)
    if rung is None:
        wanted = {setup.id: step.brews for setup, _ in trials.frozen(trial_id).rows if setup.letter in step.setups}
        plans.draft(trial, wanted, step.text, step.tasters, act)
        return w.DraftAnswer(station="brew", text=f"Drafted: {step.text}")
    body = trials_s.SetupBody(copy_of=rung.setup_id, variables=trials_s.VariablesPatch(**rung.changes))
    made = trials.add_setup(trial_id, body, act)
    text = f"Setup {made.letter} is added at {rung.words}: brew it {_times(step.brews)} beside {rung.letter}."
    plans.draft(trial, {made.id: step.brews, rung.setup_id: step.brews}, text, 0, act)
    return w.DraftAnswer(station="brew", text=text)


def _times(count: int) -> str:
    return "twice" if count == 2 else "once" if count == 1 else f"{count} times"
