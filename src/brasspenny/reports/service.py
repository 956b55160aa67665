"""Gathers a trial's report from what the rooms already say. Nothing is reckoned here."""

from __future__ import annotations

from ..act import Act
from ..core.planning.control import VARIABLES
from ..core.tasting.flights import METHOD_NAMES
from ..measuring.service import TrialResults
from ..rails import service as rails
from ..store import queries
from ..store.models import Bench, SetupRevision
from ..tasting import service as tasting
from ..tasting.links import LinkMaker
from ..tasting.schemas import SIGHTED, FlightAnswer
from ..trials import service as trials
from ..verdicts import attributes, pairing, worth
from ..verdicts import service as verdicts
from ..verdicts.schemas import VerdictAnswer
from . import schemas as s

BLINDING_WORDS = {
    "shuffle": "blind by shuffling (the key was known to nobody before the scores were locked)",
    "runner": "blind by a runner (the key was sealed before tasting)",
    "open": "with labels in sight",
    "broken": "with the seal broken, so graded sighted",
}


def read_report(trial_id: str, links: LinkMaker, act: Act) -> s.ReportAnswer:
    results, found = attributes.gathered(trial_id)
    verdict, rail = verdicts.read_verdict(trial_id, act), rails.read_rail(trial_id, act)
    flights = tasting.read_flights(trial_id, links, act.now).flights
    judged = verdict.blind or verdict.sighted
    scored = bool(found.scores())
    variables = [_variables(revision) for _, revision in results.setups]
    steps = worth.read_next(trial_id, act).steps if scored else []
    return s.ReportAnswer(
        bench=Bench.get_by_id(1).name,
        number=results.trial.number,
        question=results.trial.question,
        made_at=act.now,
        headline=judged.verdict.headline if judged else None,
        text=judged.verdict.text if judged else "Nothing has been judged yet.",
        lean=judged.lean.text if judged else "",
        sighted_only=bool(judged) and verdict.blind is None,
        method=_method(results, flights, verdict),
        shared=[text for text in variables[0] if all(text in v for v in variables)] if variables else [],
        setups=_setups(trial_id, results, variables, scored, act),
        judged=judged.setups if judged else [],
        differences=judged.differences if judged else [],
        findings=_findings(trial_id, verdict, scored, act),
        next=steps[0].text if steps else "",
        grade=rail.grade,
        caveats=rail.caveats,
        flights=[_flight(f) for f in flights],
    )


def _method(results: TrialResults, flights: list[FlightAnswer], verdict: VerdictAnswer) -> list[str]:
    trial = results.trial
    matched = "Strengths were matched before tasting" if trial.strength_policy == "matched" else "Cups were tasted as brewed"
    out = [f"Compared: {trials.factor_words(trial)}. {matched}; a lead below {trial.smallest_difference:g} points of 9 does not matter here."]
    out.append(
        f"{len(results.runs)} brews of {len(results.setups)} setups, {sum(bool(results.readings[r.id]) for r in results.runs)} of them read with the refractometer."
    )
    judged = verdict.blind or verdict.sighted
    if judged:
        out.append(f"{judged.tasters} tasters, each with an own order (Williams squares), scored {judged.brews} brews in {judged.flights} flights.")
        out.append(
            "Tasters and brews are taken as random, tasters as blocks; 95 % intervals speak for this kind of panel and for another brew of the same setup."
        )
    out += [f"Flight {f.number}: {METHOD_NAMES[f.method].lower()}, {BLINDING_WORDS[f.blinding]}." for f in flights if f.status == "flipped"]
    return out


def _variables(revision: SetupRevision) -> list[str]:
    """ "Filter White weave", "Dose 18 g": those that are given."""
    shown = trials.shown_values(revision)
    return [f"{v.label} {shown[v.field]}{' ' + v.unit if v.unit else ''}" for v in VARIABLES if shown.get(v.field)]


def _setups(trial_id: str, results: TrialResults, variables: list[list[str]], scored: bool, act: Act) -> list[s.ReportSetup]:
    worths = {w.setup: w for w in worth.read_value(trial_id, act).setups} if scored else {}
    out = []
    for (setup, _), own in zip(results.setups, variables, strict=True):
        w = worths.get(setup.letter)
        apart = [text for text in own if not all(text in v for v in variables)]
        out.append(
            s.ReportSetup(letter=setup.letter, name=results.names[setup.id], variables=apart, price=w.price if w else None, minutes=w.minutes if w else None)
        )
    return out


def _findings(trial_id: str, verdict: VerdictAnswer, scored: bool, act: Act) -> list[str]:
    out = [f"{t.method_label}: {t.text} {t.claim}" for t in verdict.told_apart]
    if verdict.ranked and not verdict.ranked.from_scores:
        out.append(verdict.ranked.text)
    if scored:
        changes = attributes.read_attribute(trial_id, "liking", act).changes
        out += [f"As it cools: {changes}"] if changes else []
        out += [c.text for c in attributes.read_characters(trial_id, act).characters if c.traits or c.steady is False]
        out += [c.text for c in pairing.read_pairing(trial_id, "liking", act).curves if c.kind in ("peak", "no_peak", "not_located")]
        value = worth.read_value(trial_id, act)
        out += [x for x in (value.tie, value.factorial.text if value.factorial else "") if x]
    if verdict.segments and verdict.segments.segments:
        out.append(verdict.segments.text)
    if verdict.guessed:
        out.append(verdict.guessed.text)
    return out


def _flight(f: FlightAnswer) -> s.ReportFlight:
    state = {"open": "being tasted", "closed": "closed, not flipped", "flipped": "flipped"}[f.status]
    late = f"; {f.late_count} late scores, not judged" if f.late_count else ""
    text = f"{METHOD_NAMES[f.method]}, {len(f.sheets)} tasters, {len(f.cups)} cups, {'sighted' if f.blinding in SIGHTED else 'blind'}, {state}{late}."
    seal = f.seal
    return s.ReportFlight(
        number=f.number, text=text, commitment=seal.commitment if seal else None, key_text=seal.key_text if seal else None, holds=seal.holds if seal else None
    )


def scores_for_csv(trial_id: str) -> list[tuple[str, ...]]:
    """Flipped blind scores as rows of the plain file `judge` reads: flight, taster, setup, brew, pass, cup, attribute, score."""
    _, found = attributes.gathered(trial_id)
    numbers = {f.id: str(f.number) for f in queries.live_flights(trial_id)}
    brews = {run: i for i, run in enumerate(dict.fromkeys(t.run for t in found.touches), start=1)}
    cups = {cup: i for i, cup in enumerate(dict.fromkeys(t.cup for t in found.touches), start=1)}
    return [
        (numbers[t.flight], t.person, t.letter, str(brews[t.run]), t.pass_name, str(cups[t.cup]), t.attribute, f"{t.value:g}")
        for t in found.touches
        if t.value is not None and not t.attribute.startswith("jar_") and t.attribute not in ("rank", "told_by_eye", "sip_c")
    ]
