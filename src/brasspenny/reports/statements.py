"""The statements of a trial: everything the rooms say of it after a flip, made once from its frozen value. The report lists them; a crawler compares every page with them."""

from __future__ import annotations

from collections.abc import Iterator

from ..core import figures
from ..core.judging.answer import Answer, Camp
from ..core.judging.measures import varied_by
from ..core.statements import Statement
from ..core.tasting.flights import METHOD_NAMES
from ..core.trial.ladder import ladder_of
from ..core.trial.setups import lasting_kit_of
from ..core.trial.status import dial_in_of
from ..core.trial.value import Flight
from ..progress.schemas import ProgressAnswer
from ..verdicts import attributes, pairing, particles, steps, trends, value
from ..verdicts import schemas as s
from ..verdicts import value_schemas as w
from ..verdicts.answering import as_answered
from ..verdicts.judged import Judged
from ..verdicts.page import scatter_used
from ..verdicts.secondary import beside_of
from ..verdicts.view import View

NOTHING_JUDGED = "Nothing has been judged yet."


def statements_of(view: View, found: Judged, answer: Answer | None, standing: ProgressAnswer) -> tuple[Statement, ...]:
    """In the order of the report. found, answer, standing: of this view."""
    main = as_answered(found.main, answer)
    bought = value.value_of(view, found.main)
    return (
        *_question(view),
        *(_answer(answer, found) if answer else (Statement("answer", "none", text=NOTHING_JUDGED),)),
        *(_liking(main) if main else ()),
        *(_in_sight(found.sighted) if found.blind and found.sighted else ()),
        *_beside(beside_of(view)),
        *(_over_passes(view) if main else ()),
        *_curves(pairing.pairing_of(view, "liking")),
        *(Statement(f"trend/{i}", "changes", text=text, report=True) for i, text in enumerate(trends.trends_of(view).text)),
        *_value(bought, main),
        *_next(steps.next_of(view, found.main)),
        *_design(standing),
        *(Statement("scatter", "judged_by", used.scatter_from, text=used.text) for used in [scatter_used(view, found, answer)] if used),
        *(Statement(f"flight/{f.number}", "was", f.status, text=flight_said(f)) for f in view.trial.flights),
    )


def _question(view: View) -> Iterator[Statement]:
    ladder = ladder_of(view.measured)
    yield Statement("strength", "policy", view.trial.strength_policy)
    yield Statement("question", "ladder", ladder.measure.code if ladder else "")
    for code in sorted(varied_by(view.trial.factors)):
        yield Statement(f"varied/{code}", "on_purpose")
    for setup, revision in view.trial.rows:
        if dial_in_of(view.measured, setup.id).state == "dialled_in":
            yield Statement(f"setup/{setup.letter}", "dialled_in")
        yield from (Statement(f"kit/{name}", "price", price) for name, price in lasting_kit_of(revision).items() if price is not None)


def group_said(camp: Camp) -> str:
    """ "Ada, Bo: A 7.5, B 4.0." """
    return f"{', '.join(camp.tasters)}: {', '.join(f'{letter} {figures.points(mean)}' for letter, mean in sorted(camp.means.items()))}."


def served_said(x: s.SetupJudged) -> str:
    as_brewed = f" ({figures.tds(x.tds.value)} % as brewed)" if x.tds else ""
    return f"{x.name} was served at {figures.tds(x.served.tds_pct)} % TDS{as_brewed}: {figures.grams_fine(x.served.added_water_g)} g of water stirred in."


def flight_said(f: Flight) -> str:
    state = {"open": "being tasted", "closed": "closed, not flipped", "flipped": "flipped"}[f.status]
    late = sum(seat.late_scores for seat in f.seats)
    late_words = f"; {figures.counted(late, 'late score')}, not judged" if late else ""
    seats, cups = figures.counted(len(f.seats), "taster"), figures.counted(len(f.cups), "cup")
    return f"{METHOD_NAMES[f.method]}, {seats}, {cups}, {'sighted' if f.sighted else 'blind'}, {state}{late_words}."


def _answer(found: Answer, judged: Judged) -> Iterator[Statement]:
    yield Statement("answer", "headline", found.kind, text=found.headline)
    yield Statement("answer", "certainty", text=found.certainty)
    yield Statement("answer", "action", text=found.action)
    verdict = judged.main.verdict.kind if judged.main else ""
    if found.kind == "setup" and verdict == "not_enough":
        yield Statement("answer", "open")
    for claim, letters in (("kept", found.kept), ("leaned", (found.leans,) if found.leans else ()), ("dropped", found.dropped)):
        yield from (Statement(f"setup/{letter}", claim) for letter in letters)
    for camp in found.groups:
        who = ", ".join(camp.tasters)
        yield Statement(f"group/{who}", "likes_best", camp.favourites, probability=camp.probability_best, text=group_said(camp))
        yield from (Statement(f"group/{who}/{letter}/liking", "mean", figures.rounded(mean, 1), "points") for letter, mean in sorted(camp.means.items()))


def _liking(main: s.JudgedAnswer) -> Iterator[Statement]:
    for what in ("tasters", "brews", "flights"):
        yield Statement(f"count/{what}", "count", getattr(main, what))
    for x in main.setups:
        if x.mean is not None:
            yield Statement(f"setup/{x.setup}/liking", "mean", figures.rounded(x.mean, 1), "points", _ends(x.interval), x.probability_best)
        if x.tds:
            yield Statement(f"setup/{x.setup}/tds", "mean", x.tds.value, "% TDS")
        if x.served:
            yield Statement(f"setup/{x.setup}/served", "mean", x.served.tds_pct, "% TDS", text=served_said(x), report=True)
        if x.extraction_yield:
            yield Statement(f"setup/{x.setup}/yield", "mean", x.extraction_yield.value, "% EY")
    for x in main.caveats:
        yield Statement(f"judged/{x.code}", "caveat", text=f"{x.text} {x.cure}")
    for d in main.differences:
        yield Statement(f"difference/{d.a}-{d.b}", "estimate", figures.rounded(d.estimate, 1), "points", _ends(d.interval), d.probability_practically_equal)
    first, *others = sorted((x for x in main.setups if x.mean is not None), key=lambda x: -x.mean) or (None,)
    if others and first.mean is not None and others[0].mean is not None:
        yield Statement("answer/lead", "leads", first.mean - others[0].mean, "points", text=main.verdict.text)


def _in_sight(judged: s.JudgedAnswer) -> Iterator[Statement]:
    """Of labelled scores that stand beside blind ones, and are never pooled with them."""
    yield Statement("sighted/answer", "headline", judged.verdict.kind, text=judged.verdict.headline)
    yield Statement("sighted/answer", "certainty", text=judged.verdict.text)
    yield Statement("sighted/answer", "action", text=judged.lean.text)
    yield from (Statement(f"sighted/{c.code}", "caveat", text=f"{c.text} {c.cure}") for c in judged.caveats)


def _ends(interval: list[float] | None) -> tuple[float, float] | None:
    return (interval[0], interval[1]) if interval else None


def _beside(beside: dict) -> Iterator[Statement]:
    for t in beside["told_apart"]:
        about = f"told_apart/{t['method']}/{'sighted' if t['sighted'] else 'blind'}"
        yield Statement(about, "share", t["correct"] / t["n"], text=f"{t['method_label']}: {t['text']} {t['claim']}", report=True)
    if (ranked := beside["ranked"]) is not None:
        yield Statement("ranks", "agreement", ranked["agreement"], text=ranked["text"], report=not ranked["from_scores"])
    if (groups := beside["segments"]) is not None:
        yield Statement("groups", "found", len(groups["segments"]), text=groups["text"], report=bool(groups["segments"]))
        if groups["compromise"]:
            yield Statement(f"setup/{groups['compromise']}", "safest", interval=tuple(groups["least_liked"][1:]) if groups["least_liked"] else None)
    if (guessed := beside["guessed"]) is not None:
        yield Statement("guesses", "right", guessed["right"], text=guessed["text"], report=True)


def _over_passes(view: View) -> Iterator[Statement]:
    liking = attributes.attribute_of(view, "liking")
    if liking.leaders:
        yield Statement("cooling", "leaders", text=f"As it cools: {liking.leaders}", report=bool(liking.changes))
    for c in attributes.characters_of(view).characters:
        yield Statement(f"setup/{c.setup}/character", "stands_out", text=c.text, report=bool(c.traits) or c.steady is False)
        yield Statement(f"setup/{c.setup}/cooling", "changes", text=c.as_it_cools)


def _curves(found: w.PairingAnswer) -> Iterator[Statement]:
    for c in found.curves:
        text = f"{c.group}: {c.text}" if c.group else c.text
        yield Statement(
            f"curve/{c.group or 'all'}/{c.measure}", c.kind, c.best, c.unit, _ends(c.interval), text=text, report=c.kind in ("peak", "no_peak", "not_located")
        )
    best = tuple(str(x) for x in found.surface.best) if found.surface and found.surface.best else None
    yield Statement("surface", "best" if best else "open", best, text=found.surface_text)


def _value(found: w.ValueAnswer, main: s.JudgedAnswer | None) -> Iterator[Statement]:
    for x in found.setups:
        for what, number, best in (("price", x.price, x.on_price_frontier), ("minutes", x.minutes, x.on_time_frontier)):
            if number is not None:
                yield Statement(f"setup/{x.setup}/{what}", what, number)
            if best and main:
                yield Statement(f"setup/{x.setup}", "best_value")
    for what, text in (("price", found.best_price), ("minutes", found.best_minutes)):
        if text:
            yield Statement(f"best_value/{what}", "said", text=text)
    for name in found.unpriced:
        yield Statement(f"kit/{name}", "unpriced")
    for gain in found.factorial.gains if found.factorial else ():
        yield Statement(f"gain/{gain.factor}", "points", figures.rounded(gain.points, 1), "points", _ends(gain.interval), text=gain.text)
    for x, text in zip(found.particles, particles.said_of_grinds(found), strict=True):
        yield Statement(f"setup/{x.setup}/grind", "sampled", x.median_um, "µm", text=text, report=True)
    for about, text in (("tie", found.tie), ("bought", found.bought), ("factors", found.factorial.text if found.factorial else "")):
        if text:
            yield Statement(about, "said", text=text, report=True)


def _next(found: w.NextAnswer) -> Iterator[Statement]:
    for step in found.steps:
        yield Statement(f"next/{step.code}", "urged" if step.urged else "offered", step.removes, "points", probability=step.settles, text=step.text)
    if not found.steps:
        yield Statement("next", "nothing", text=found.note)
    if found.spent:
        yield Statement("spent", "spent", text=found.spent)


def _design(standing: ProgressAnswer) -> Iterator[Statement]:
    if standing.grade is not None:
        yield Statement("design", "grade", standing.grade.step, "of 5", text=standing.grade.design)
        yield from (Statement(f"design/{r.code}", "reason", r.cap, "of 5", text=r.text) for r in standing.grade.reasons)
    for c in standing.caveats:
        if c.code == "not_dialled_in":
            yield from (Statement(f"setup/{letter}", "not_dialled_in") for letter in c.letters)
        yield Statement(f"caveat/{c.code}/{c.field or 'all'}", "caveat", c.title, text=f"{c.text} {c.cure}")
