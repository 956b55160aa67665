"""Where each trial stands, and what is doubtful about it: gathers what the other rooms know."""

from __future__ import annotations

from dataclasses import asdict

from ..act import Act
from ..core.caveats import MarginCaveat, SetupFacts, TrialFacts, margin
from ..core.codes import order_is_balanced
from ..core.control import FACTOR_LABELS
from ..core.stations import Counts, next_action, rail
from ..measuring.service import TrialResults, results_of
from ..store import queries
from ..store.models import FlightBrew, Setup, Sheet, StoredVerdict
from ..trials import service as trials
from ..verdicts import service as verdicts
from ..verdicts.schemas import VerdictAnswer
from . import schemas as s

DOUBTFUL = {"retained_water", "outlier_reading", "high_yield"}


def read_rail(trial_id: str, act: Act) -> s.RailAnswer:
    results = results_of(trial_id)
    bars = trials.bars_of(results.trial, results.setups)
    counts = _counts(queries.counts_by_trial(trial_id)[trial_id], cracks=sum(bar.kind == "crack" for bar in bars))
    verdict = verdicts.read_verdict(trial_id, act) if counts.flights_flipped else None
    station, action = next_action(counts)
    found = margin(_facts(results, bars, verdict)) + _sighted_against_blind(results, verdict) + _moved_on(results)
    return s.RailAnswer(stops=_stops(counts), caveats=[s.MarginCaveatShown(**asdict(c)) for c in found], next_station=station, next_action=action)


def _counts(row: tuple[int, ...], cracks: int = 0) -> Counts:
    setups, brewed, runs, read, is_open, closed, flipped = row
    return Counts(setups, brewed, runs, read, is_open, closed, flipped, cracks)


def _stops(counts: Counts) -> list[s.StopShown]:
    return [s.StopShown(**asdict(stop)) for stop in rail(counts)]


def _facts(results: TrialResults, bars, verdict: VerdictAnswer | None) -> TrialFacts:
    flights = queries.live_flights(results.trial.id)
    blind = [f for f in flights if f.blinding == "shuffle"]
    cups = {f.id: FlightBrew.select().where(FlightBrew.flight == f.id).count() for f in flights}
    seats = {f.id: Sheet.select().where(Sheet.flight == f.id).count() for f in flights}
    judged = verdict.blind.caveats if verdict and verdict.blind else []
    said_already = {"single_brews", "few_tasters", "anecdote", "one_taster"}
    return TrialFacts(
        factor=results.trial.factor,
        school=results.school,
        strength_policy=results.trial.strength_policy,
        bars=bars,
        setups=[_setup_facts(results, setup.id, setup.letter, revision.brewer_type) for setup, revision in results.setups],
        blind_flights=len(blind),
        sighted_flights=len(flights) - len(blind),
        blind_tasters=max((seats[f.id] for f in blind), default=0),
        most_cups=max(cups.values(), default=0),
        balanced=all(order_is_balanced(cups[f.id], seats[f.id]) for f in blind),
        judged=[(c.code, c.text, c.cure) for c in judged if c.code not in said_already],
    )


def _setup_facts(results: TrialResults, setup_id: str, letter: str, brewer_type: str | None) -> SetupFacts:
    runs = results.runs_of(setup_id)
    measured = [(run, results.measured[run.id]) for run in runs]
    pooled = results.pooled[setup_id]
    return SetupFacts(
        letter=letter,
        name=results.names[setup_id],
        brewer_type=brewer_type,
        brews=len(runs),
        unread_brews=sum(m.yield_in(results.school) is None for _, m in measured),
        tds_pct=pooled.tds.estimate.value if pooled.tds else None,
        warned_brews=tuple(f"{letter}{run.number}" for run, m in measured if any(w.code in DOUBTFUL for w in m.warnings)),
    )


def _sighted_against_blind(results: TrialResults, verdict: VerdictAnswer | None) -> tuple[MarginCaveat, ...]:
    if not verdict or not verdict.blind or not verdict.sighted:
        return ()
    seen, unseen = verdict.sighted.setups[0], verdict.blind.setups[0]
    if seen.setup == unseen.setup:
        return ()
    place = [x.setup for x in verdict.blind.setups].index(seen.setup) + 1 if seen.setup in [x.setup for x in verdict.blind.setups] else None
    blind_place = "" if place is None else f" Blind, it came {'last' if place == len(verdict.blind.setups) else f'number {place}'}."
    text = f"With labels in sight {seen.name} was liked best ({seen.mean:.1f}).{blind_place}"
    return (
        MarginCaveat("sighted_favourite", "note", "verdict", f"Sighted favourite was {seen.setup}", text, "Trust the blind cups; the two are never pooled."),
    )


def _moved_on(results: TrialResults) -> tuple[MarginCaveat, ...]:
    """Brews made to an earlier description of their setup."""
    letters = {setup.id: (setup.letter, setup.revision_id) for setup, _ in results.setups}
    late = [f"{letters[r.setup_id][0]}{r.number}" for r in results.runs if r.setup_revision_id != letters[r.setup_id][1]]
    if not late:
        return ()
    text = f"{', '.join(late)} {'was' if len(late) == 1 else 'were'} brewed before the setup was changed."
    return (
        MarginCaveat(
            "setup_changed", "doubt", "brew", "Setup changed after brewing", text, "Brew again as it is described now, or change the description back."
        ),
    )


def read_trials() -> s.TrialsAnswer:
    """All trials, newest first, in a handful of queries however many there are."""
    counts = queries.counts_by_trial()
    letters: dict[str, list[str]] = {}
    for trial_id, letter in Setup.select(Setup.trial, Setup.letter).where(Setup.deleted_at.is_null()).order_by(Setup.letter).tuples():
        letters.setdefault(trial_id, []).append(letter)
    headlines = _headlines()
    listed = []
    for trial in queries.live_trials():
        c = _counts(counts[trial.id])
        station, action = next_action(c)
        listed.append(
            s.TrialListed(
                id=trial.id,
                number=trial.number,
                question=trial.question,
                factor_label=trial.factor_other if trial.factor == "other" else FACTOR_LABELS[trial.factor],
                setups=letters.get(trial.id, []),
                stops=_stops(c),
                next_station=station,
                next_action=action,
                headline=headlines.get(trial.id) if c.flights_flipped else None,
            )
        )
    return s.TrialsAnswer(trials=listed)


def _headlines() -> dict[str, str]:
    """Each trial's newest blind verdict, else its newest sighted one."""
    out: dict[str, str] = {}
    rows = StoredVerdict.select(StoredVerdict.trial, StoredVerdict.sighted, StoredVerdict.payload).order_by(
        StoredVerdict.sighted.desc(), StoredVerdict.judged_at
    )
    for row in rows:
        said = row.payload["verdict"]["headline"]
        out[row.trial_id] = f"Sighted only: {said}" if row.sighted else said
    return out
