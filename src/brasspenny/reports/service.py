"""Gathers a trial's report from what the rooms already say. Nothing is worked out here."""

from __future__ import annotations

from collections.abc import Sequence

from ..act import Act
from ..core import figures
from ..core.judging.answer import Answer
from ..core.tasting import seal
from ..core.tasting.flights import METHOD_NAMES
from ..core.trial.setups import factor_words, shown_values
from ..core.trial.tasted import gathered
from ..core.trial.value import Flight, SetupRevision
from ..core.vocabulary import BLINDINGS, VARIABLES
from ..progress import service as progress
from ..trials import service as trials
from ..verdicts import attributes, pairing, steps, trends, value
from ..verdicts import service as verdicts
from ..verdicts.answering import answer_of, as_answered
from ..verdicts.page import scatter_used
from ..verdicts.schemas import JudgedAnswer, ScatterUsed, SetupJudged
from ..verdicts.secondary import beside_of
from ..verdicts.value_schemas import ValueAnswer
from ..verdicts.view import View, look
from . import schemas as s

BLINDING_WORDS = {b.code: b.reported for b in BLINDINGS}
AHEAD = ("beside", "attribute liking", "characters", "pairing liking", "trends", "next")
"""Layers a report asks for, read in one go."""


def read_report(trial_id: str, act: Act) -> s.ReportAnswer:
    view = look(trial_id, act, ahead=AHEAD)
    judged = verdicts.judged(view)
    main, beside, standing = judged.main, beside_of(view), progress.progress_of(view, judged)
    found = answer_of(view, judged)
    variables = [_variables(revision) for _, revision in view.trial.rows]
    bought, ahead = value.value_of(view, main), steps.next_of(view, main).steps
    return s.ReportAnswer(
        bench=view.trial.bench.name,
        number=view.trial.number,
        question=view.trial.question,
        made_at=act.now,
        headline=found.headline if found else None,
        text=found.certainty if found else "Nothing has been judged yet.",
        lean=found.action if found else "",
        sighted_only=main is not None and judged.blind is None,
        method=_method(view, main, scatter_used(view, judged, found)),
        shared=[text for text in variables[0] if all(text in v for v in variables)] if variables else [],
        setups=_setups(view, variables, bought),
        judged=_listed(as_answered(main, found), found.order if found else ()),
        differences=main.differences if main else [],
        findings=[*_groups(found), *_findings(view, beside, bought, scored=main is not None)],
        next=ahead[0].text if ahead else "",
        grade=standing.grade,
        caveats=standing.caveats,
        flights=[_flight(f) for f in view.trial.flights],
    )


def _method(view: View, main: JudgedAnswer | None, used: ScatterUsed | None) -> list[str]:
    trial = view.trial
    matched = "Strengths were to be matched before tasting" if trial.strength_policy == "matched" else "Cups were tasted as brewed"
    words = factor_words(trial.factors, trial.factor_other)
    out = [f"Compared: {words}. {matched}; a lead below {trial.smallest_difference:g} points of 9 does not matter here."]
    runs = view.measured.runs
    out.append(
        f"{figures.counted(len(runs), 'brew')} of {figures.counted(len(trial.setups), 'setup')}, {sum(bool(r.readings) for r in runs)} of them read with the refractometer."
    )
    if main:
        ordered = not any(f.elsewhere for f in trial.flights if f.status == "flipped")
        order = ", each with their own order (Williams squares)," if ordered else ""
        out.append(
            f"{figures.counted(main.tasters, 'taster')}{order} scored {figures.counted(main.brews, 'brew')} in {figures.counted(main.flights, 'flight')}."
        )
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


def _groups(found: Answer | None) -> list[str]:
    """Liking per group and setup, where the panel holds different kinds of drinkers."""
    return [
        f"{', '.join(g.tasters)}: {', '.join(f'{letter} {figures.points(mean)}' for letter, mean in sorted(g.means.items()))}."
        for g in (found.groups if found else ())
    ]


def _findings(view: View, beside: dict, value: ValueAnswer, *, scored: bool) -> list[str]:
    out = [f"{t['method_label']}: {t['text']} {t['claim']}" for t in beside["told_apart"]]
    if beside["ranked"] and not beside["ranked"]["from_scores"]:
        out.append(beside["ranked"]["text"])
    if scored:
        changes = attributes.attribute_of(view, "liking").changes
        out += [f"As it cools: {changes}"] if changes else []
        out += [c.text for c in attributes.characters_of(view).characters if c.traits or c.steady is False]
        out += [
            f"{c.group}: {c.text}" if c.group else c.text for c in pairing.pairing_of(view, "liking").curves if c.kind in ("peak", "no_peak", "not_located")
        ]
        out += trends.trends_of(view).text
        out += [x for x in (value.tie, value.factorial.text if value.factorial else "") if x]
    if beside["segments"] and beside["segments"]["segments"]:
        out.append(beside["segments"]["text"])
    if beside["guessed"]:
        out.append(beside["guessed"]["text"])
    return out


def _flight(f: Flight) -> s.ReportFlight:
    state = {"open": "being tasted", "closed": "closed, not flipped", "flipped": "flipped"}[f.status]
    late = sum(seat.late_scores for seat in f.seats)
    late_words = f"; {late} late scores, not judged" if late else ""
    text = f"{METHOD_NAMES[f.method]}, {len(f.seats)} tasters, {len(f.cups)} cups, {'sighted' if f.sighted else 'blind'}, {state}{late_words}."
    key_text, holds = opened(f)
    return s.ReportFlight(number=f.number, text=text, commitment=f.seal.commitment if f.seal else None, key_text=key_text, holds=holds)


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
