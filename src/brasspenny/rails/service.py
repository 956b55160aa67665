"""Where each trial stands, and what is doubtful about it: gathers what the other rooms know."""

from __future__ import annotations

import statistics
from collections import Counter

from ..act import Act
from ..core.extraction.measure import DOUBTFUL_CODES
from ..core.judging.evidence import grade
from ..core.tasting.codes import order_is_balanced
from ..core.tasting.flights import IN_ROUNDS
from ..core.trial.caveats import (
    MarginCaveat,
    SetupFacts,
    TrialFacts,
    at_table,
    hurried_readings,
    margin,
    not_ready,
    off_plan,
    setup_changed,
    sighted_favourite,
    simulated,
    uneven_cups,
)
from ..core.trial.stations import Counts, next_action, rail
from ..measuring.service import TrialResults, results_of, run_label, served_strength
from ..planning import plans
from ..store import queries
from ..store.models import Flight, Run, RunSheet, StoredVerdict, Trial
from ..tasting import table
from ..tasting.schemas import SIGHTED
from ..trials import service as trials
from ..verdicts import service as verdicts
from ..verdicts.schemas import VerdictAnswer
from . import schemas as s

SHAPES = ("crack", "doubt", "note")


def read_rail(trial_id: str, act: Act) -> s.RailAnswer:
    results = results_of(trial_id)
    bars = trials.bars_of(results.trial, results.setups)
    flights = queries.live_flights(trial_id)
    counts = _counts(_counted(results, flights), cracks=sum(bar.kind == "crack" for bar in bars))
    verdict = verdicts.verdict_of(results, flights, act) if counts.flights_flipped else None
    station, action = next_action(counts)
    found = (
        margin(_facts(results, bars, flights, verdict))
        + _not_ready(results)
        + _sighted_against_blind(verdict)
        + _moved_on(results)
        + _as_brewed(results)
        + at_table(table.at_table(flights))
        + _uneven_cups(trial_id, flights)
    )
    found = tuple(sorted(found, key=lambda c: SHAPES.index(c.shape)))
    return s.RailAnswer(
        stops=_stops(counts),
        caveats=[s.MarginCaveatShown(**vars(c)) for c in found],
        next_station=station,
        next_action=action,
        grade=_grade(results, flights, verdict, [c.code for c in found]),
    )


def _uneven_cups(trial_id: str, flights: list[Flight]) -> tuple[MarginCaveat, ...]:
    """What the newest run sheet foresees, once something was tasted by it."""
    if not flights:
        return ()
    sheet = RunSheet.select().where((RunSheet.trial == trial_id) & RunSheet.deleted_at.is_null()).order_by(RunSheet.planned_at.desc()).first()
    return uneven_cups(sheet.found["schedule"]["spread_c"]) if sheet else ()


def _grade(results: TrialResults, flights: list[Flight], verdict: VerdictAnswer | None, codes: list[str]) -> s.GradeShown | None:
    """Blind evidence where there is any; labels in sight cap the grade only where there is nothing else."""
    if not flights:
        return None
    judged = verdict and (verdict.blind or verdict.sighted)
    blind_only = any(f.blinding not in SIGHTED for f in flights)
    counted = [c for c in codes if c != "sighted" or not blind_only]
    tasters = judged.tasters if judged else max((n for _, n in queries.cups_and_seats(results.trial.id).values()), default=0)
    brewed = [len(results.runs_of(setup.id)) for setup, _ in results.setups]
    found = grade(counted, tasters=tasters, fewest_brews=min((n for n in brewed if n), default=0))
    return s.GradeShown(step=found.step, name=found.name, reasons=[s.ReasonShown(**vars(r)) for r in found.reasons], so_far=not judged)


def _counted(results: TrialResults, flights: list[Flight]) -> queries.TrialCounts:
    """The counts of a trial whose rows are at hand already."""
    return queries.TrialCounts(
        setups=[setup.letter for setup, _ in results.setups],
        brewed=len({run.setup_id for run in results.runs}),
        runs=len(results.runs),
        read=sum(bool(results.readings[run.id]) for run in results.runs),
        flights=Counter(f.status for f in flights),
    )


def _counts(c: queries.TrialCounts, cracks: int = 0) -> Counts:
    return Counts(len(c.setups), c.brewed, c.runs, c.read, c.flights["open"], c.flights["closed"], c.flights["flipped"], cracks)


def _stops(counts: Counts) -> list[s.StopShown]:
    return [s.StopShown(**vars(stop)) for stop in rail(counts)]


def _facts(results: TrialResults, bars, flights: list[Flight], verdict: VerdictAnswer | None) -> TrialFacts:
    blind = [f for f in flights if f.blinding not in SIGHTED]
    sizes = queries.cups_and_seats(results.trial.id) if flights else {}
    judged = verdict.blind.caveats if verdict and verdict.blind else []
    said_already = {"single_brews", "few_tasters"}
    return TrialFacts(
        factors=trials.factors_of(results.trial),
        school=results.school,
        strength_policy=results.trial.strength_policy,
        bars=bars,
        setups=[_setup_facts(results, setup.id, setup.letter, revision.brewer_type) for setup, revision in results.setups],
        blind_flights=len(blind),
        sighted_flights=len(flights) - len(blind),
        blind_tasters=max((sizes[f.id][1] for f in blind), default=0),
        most_cups=max((sizes[f.id][0] for f in flights), default=0),
        balanced=all(f.method in IN_ROUNDS or order_is_balanced(*sizes[f.id]) for f in blind),
        judged=[(c.code, c.text, c.cure) for c in judged if c.code not in said_already],
    )


def _setup_facts(results: TrialResults, setup_id: str, letter: str, brewer_type: str | None) -> SetupFacts:
    runs = results.runs_of(setup_id)
    measured = [(run, results.measured[run.id]) for run in runs]
    return SetupFacts(
        letter=letter,
        name=results.names[setup_id],
        brewer_type=brewer_type,
        brews=len(runs),
        unread_brews=sum(m.yield_in(results.school) is None for _, m in measured),
        tds_pct=_strength_poured(runs, results),
        warned_brews=tuple(f"{letter}{run.number}" for run, m in measured if any(w.code in DOUBTFUL_CODES for w in m.warnings)),
    )


def _strength_poured(runs: list[Run], results: TrialResults) -> float | None:
    """Mean % TDS of the cups as they are served: thinned where that was noted."""
    poured = [x for run in runs if (x := served_strength(run, results.measured[run.id])) is not None]
    return statistics.fmean(poured) if poured else None


def _as_brewed(results: TrialResults) -> tuple[MarginCaveat, ...]:
    """Brews off plan, and readings that skipped a step."""
    labelled = [(run_label(results.letter_of(run), run), run) for run in results.runs]
    off = [(label, what) for label, run in labelled if (what := results.off_plan(run))]
    made_up = [label for label, run in labelled if run.observed.get("simulated")]
    return simulated(made_up) + off_plan(off) + hurried_readings([(label, what) for label, run in labelled if (what := results.skipped(run))])


def _not_ready(results: TrialResults) -> tuple[MarginCaveat, ...]:
    if len(results.setups) < 2:
        return ()
    undialled = [x.letter for x in plans.ready_setups(results) if x.dial_in not in ("dialled_in", "no_windows")]
    broken = [(c.field, c.text) for c in plans.rule_checks(results) if c.holds is False]
    return not_ready(trials.factors_of(results.trial), undialled, broken)


def _sighted_against_blind(verdict: VerdictAnswer | None) -> tuple[MarginCaveat, ...]:
    if not verdict or not verdict.blind or not verdict.sighted:
        return ()
    favourite = verdict.sighted.setups[0]
    return sighted_favourite(favourite.setup, favourite.name, favourite.mean, [x.setup for x in verdict.blind.setups])


def _moved_on(results: TrialResults) -> tuple[MarginCaveat, ...]:
    now = {setup.id: (setup.letter, setup.revision_id) for setup, _ in results.setups}
    return setup_changed([f"{now[r.setup_id][0]}{r.number}" for r in results.runs if r.setup_revision_id != now[r.setup_id][1]])


def read_trials(before: int | None, limit: int) -> s.TrialsAnswer:
    """A page of trials, newest first, in a handful of queries however many there are."""
    page = queries.live_trials(before=before, limit=limit + 1)
    trials_shown, more = page[:limit], len(page) > limit
    ids = [trial.id for trial in trials_shown]
    counts, headlines = queries.counts_by_trial(ids), _headlines(ids)
    return s.TrialsAnswer(trials=[_listed(trial, counts[trial.id], headlines.get(trial.id)) for trial in trials_shown], more=more)


def _listed(trial: Trial, found: queries.TrialCounts, headline: str | None) -> s.TrialListed:
    c = _counts(found)
    station, action = next_action(c)
    return s.TrialListed(
        id=trial.id,
        number=trial.number,
        question=trial.question,
        factor_label=trials.factor_words(trial),
        setups=found.setups,
        stops=_stops(c),
        next_station=station,
        next_action=action,
        headline=headline if c.flights_flipped else None,
    )


def _headlines(trial_ids: list[str]) -> dict[str, str]:
    """Each trial's newest blind verdict, else its newest sighted one."""
    out: dict[str, str] = {}
    rows = StoredVerdict.select(StoredVerdict.trial, StoredVerdict.sighted, StoredVerdict.headline).where(StoredVerdict.trial.in_(trial_ids or [""]))
    for trial_id, sighted, headline in rows.order_by(StoredVerdict.sighted.desc(), StoredVerdict.judged_at).tuples():
        out[trial_id] = f"Sighted only: {headline}" if sighted else headline
    return out
