"""Where each trial stands, what could mislead, and the list of trials."""

from __future__ import annotations

from ..act import Act
from ..core.trial import status
from ..core.trial.setups import factor_words
from ..core.trial.stations import Counts, Stop, next_action, progress
from ..store import queries
from ..store.connection import database
from ..store.models import Trial
from ..trials import service as trials
from ..verdicts import lists
from ..verdicts import service as verdicts
from ..verdicts.view import View, look
from . import schemas as s


def read_progress(trial_id: str, act: Act) -> s.ProgressAnswer:
    return progress_of(look(trial_id, act))


def progress_of(view: View, judged: verdicts.Judged | None = None) -> s.ProgressAnswer:
    """judged: where it is at hand already."""
    if judged is None and any(f.status == "flipped" for f in view.trial.flights):
        judged = verdicts.judged(view)
    found = status.stand(view.measured, judged.facts if judged else None)
    return s.ProgressAnswer(
        stops=_stops(found.stops),
        caveats=[s.MarginCaveatShown(**vars(c) | {"letters": list(c.letters)}, unfair=c.unfair) for c in found.caveats],
        next_station=found.next_station,
        next_action=found.next_action,
        grade=_grade(found),
    )


def _grade(found: status.Standing) -> s.GradeShown | None:
    if found.grade is None:
        return None
    reasons = [s.ReasonShown(**vars(r)) for r in found.grade.reasons]
    return s.GradeShown(step=found.grade.step, name=found.grade.name, design=found.grade.design, reasons=reasons, so_far=found.so_far)


def _stops(stops: tuple[Stop, ...]) -> list[s.StopShown]:
    return [s.StopShown(**vars(stop)) for stop in stops]


def read_trials(asked: s.PageQuery, act: Act) -> s.TrialsAnswer:
    """A page of trials, in a handful of queries however many there are."""
    with database.atomic():  # of one moment: a trial that is deleted in between is in both or in neither
        page = queries.live_trials(
            before=asked.before, limit=asked.limit + 1, oldest_first=asked.order == "oldest", shown=asked.shown, text=asked.text, tag=asked.tag
        )
        trials_shown, more = page[: asked.limit], len(page) > asked.limit
        ids = [trial.id for trial in trials_shown]
        counts = queries.counts_by_trial(ids)
    headlines = lists.headlines([i for i in ids if counts[i].flights["flipped"]], act)
    return s.TrialsAnswer(trials=[_listed(trial, counts[trial.id], headlines.get(trial.id, lists.Listed(None))) for trial in trials_shown], more=more)


def _counts(c: queries.TrialCounts) -> Counts:
    return Counts(
        len(c.setups),
        c.brewed,
        c.runs,
        c.read,
        c.flights["open"],
        c.flights["closed"],
        c.flights["flipped"],
        drafted=c.drafted,
        drafted_unpoured=c.drafted_unpoured,
    )


def _listed(trial: Trial, found: queries.TrialCounts, listed: lists.Listed) -> s.TrialListed:
    c = _counts(found)
    station, action = next_action(c)
    return s.TrialListed(
        id=trial.id,
        number=trial.number,
        question=trial.question,
        factor_label=factor_words(trials.factors_of(trial), trial.factor_other),
        setups=found.setups,
        stops=_stops(progress(c)),
        next_station=station,
        next_action=action,
        headline=listed.text,
        kept=list(listed.kept),
        leans=listed.leans,
        judging=listed.judging,
        tags=trial.tags,
    )
