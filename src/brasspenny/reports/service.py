"""Gathers a trial's report from what the rooms already say. Nothing is worked out here."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict

from ..act import Act
from ..core import figures
from ..core.tasting import seal
from ..core.tasting.flights import METHOD_NAMES
from ..core.trial.matching import say_matching
from ..core.trial.setups import factor_words, shown_values
from ..core.trial.tasted import gathered
from ..core.trial.value import Flight, SetupRevision
from ..core.vocabulary import BLINDINGS, VARIABLES
from ..progress import service as progress
from ..trials import service as trials
from ..verdicts import service as verdicts
from ..verdicts import steps, value
from ..verdicts.answering import answer_of, as_answered
from ..verdicts.page import said_of_panel, scatter_used
from ..verdicts.schemas import JudgedAnswer, ScatterUsed, SetupJudged
from ..verdicts.value_schemas import ValueAnswer
from ..verdicts.view import View, look
from . import schemas as s
from .statements import NOTHING_JUDGED, flight_said, group_said, statements_of

BLINDING_WORDS = {b.code: b.reported for b in BLINDINGS}
AHEAD = ("beside", "attribute liking", "characters", "pairing liking", "trends", "next")
"""Layers a report asks for, read in one go."""


def read_report(trial_id: str, act: Act) -> s.ReportAnswer:
    view = look(trial_id, act, ahead=AHEAD)
    judged = verdicts.judged(view)
    main, standing = judged.main, progress.progress_of(view, judged)
    found = answer_of(view, judged)
    said = statements_of(view, judged, found, standing)
    variables = [_variables(revision) for _, revision in view.trial.rows]
    bought, ahead, answered = value.value_of(view, main), steps.next_of(view, main).steps, as_answered(main, found)
    return s.ReportAnswer(
        bench=view.trial.bench.name,
        number=view.trial.number,
        question=view.trial.question,
        made_at=act.now,
        headline=found.headline if found else None,
        text=found.certainty if found else NOTHING_JUDGED,
        lean=found.action if found else "",
        method=_method(view, main, scatter_used(view, judged, found)),
        shared=[text for text in variables[0] if all(text in v for v in variables)] if variables else [],
        setups=_setups(view, variables, bought),
        judged=_listed(answered, found.order if found else ()),
        by_group=[group_said(camp) for camp in (found.groups if found else ())],
        differences=answered.differences if answered else [],
        findings=[s.text for s in said if s.report and s.text],
        next=ahead[0].text if ahead else "",
        grade=standing.grade,
        caveats=standing.caveats,
        flights=[_flight(f) for f in view.trial.flights],
    )


def read_statements(trial_id: str, act: Act) -> s.StatementsAnswer:
    view = look(trial_id, act, ahead=AHEAD)
    judged = verdicts.judged(view)
    said = statements_of(view, judged, answer_of(view, judged), progress.progress_of(view, judged))
    return s.StatementsAnswer(statements=[s.StatementShown(**asdict(x)) for x in said])


def _method(view: View, main: JudgedAnswer | None, used: ScatterUsed | None) -> list[str]:
    trial = view.trial
    words = factor_words(trial.factors, trial.factor_other)
    out = [f"Compared: {words}. {say_matching(view.measured)}; a lead below {trial.smallest_difference:g} points of 9 does not matter here."]
    runs = view.measured.runs
    out.append(
        f"{figures.counted(len(runs), 'brew')} of {figures.counted(len(trial.setups), 'setup')}, {sum(bool(r.readings) for r in runs)} of them read with the refractometer."
    )
    if main:
        ordered = not any(f.elsewhere for f in trial.flights if f.status == "flipped")
        order = "; each taster had their own order (Williams squares)" if ordered else ""
        out.append(f"Scored: {said_of_panel(main, view)}{order}.")
        out.append(
            "Tasters and brews are taken as random, tasters as blocks; 95 % intervals speak for this kind of panel and for another brew of the same setup."
        )
    if used:
        out.append(used.text)
    marked_again = {x.flight for x in trial.second_thoughts if x.kind == "correct_marks"}
    out += [f"Flight {f.number}: {METHOD_NAMES[f.method].lower()}, {_how_blind(f, marked_again)}." for f in trial.flights if f.status == "flipped"]
    return out


def _how_blind(f: Flight, marked_again: set[int]) -> str:
    """Only what is true of this flight."""
    words = BLINDING_WORDS[f.blinding]
    if f.number in marked_again:
        return f"{words}; its marks were entered again after the flip"
    if f.seal and f.seal.seen_by_host:
        return f"{words}; the host saw the key"
    return f"{words} (the key was known to nobody before the scores were locked)" if f.blinding == "shuffle" else words


def _variables(revision: SetupRevision) -> list[str]:
    """ "Filter White weave", "Dose 18 g": those that are given."""
    shown = shown_values(revision)
    return [f"{v.label} {figures.with_unit(shown[v.field], v.unit)}" for v in VARIABLES if shown.get(v.field)]


def _listed(main: JudgedAnswer | None, order: Sequence[str]) -> list[SetupJudged]:
    """As every view lists them: rungs in order, else best liked first."""
    if main is None:
        return []
    return sorted(main.setups, key=lambda x: order.index(x.setup) if x.setup in order else len(order)) if order else main.setups


def _setups(view: View, variables: list[list[str]], value: ValueAnswer) -> list[s.ReportSetup]:
    values = {w.setup: w for w in value.setups}
    out = []
    for (setup, _), own in zip(view.trial.rows, variables, strict=True):
        w = values.get(setup.letter)
        apart = [text for text in own if not all(text in v for v in variables)]
        out.append(
            s.ReportSetup(letter=setup.letter, name=view.names[setup.letter], variables=apart, price=w.price if w else None, minutes=w.minutes if w else None)
        )
    return out


def _flight(f: Flight) -> s.ReportFlight:
    key_text, holds = opened(f)
    return s.ReportFlight(number=f.number, text=flight_said(f), commitment=f.seal.commitment if f.seal else None, key_text=key_text, holds=holds)


def opened(f: Flight) -> tuple[str | None, bool | None]:
    """The text whose hash the seal showed, and whether it holds; None while the key is not known."""
    if f.seal is None or f.seal.nonce is None or not all(c.run_id for c in f.cups):
        return None, None
    key = {c.code: c.mark for c in f.cups}
    return seal.key_text(key, f.seal.nonce), seal.holds(key, f.seal.nonce, f.seal.commitment)


def scores_for_csv(trial_id: str) -> list[tuple[str, ...]]:
    """Flipped blind scores as rows of the plain file `judge` reads: flight, taster, setup, brew, pass, cup, attribute, score."""
    trial = trials.frozen(trial_id)
    found = gathered(trial)
    numbers = {f.id: str(f.number) for f in trial.flights}
    brews = {run: i for i, run in enumerate(dict.fromkeys(t.run for t in found.touches), start=1)}
    cups = {cup: i for i, cup in enumerate(dict.fromkeys((t.flight, t.cup) for t in found.touches), start=1)}
    return [
        (numbers[t.flight], found.names[t.taster], t.letter, str(brews[t.run]), t.pass_name, str(cups[t.flight, t.cup]), t.attribute, f"{t.value:g}")
        for t in found.touches
        if t.value is not None and not t.attribute.startswith("jar_") and t.attribute not in ("rank", "told_by_eye", "sip_c")
    ]
