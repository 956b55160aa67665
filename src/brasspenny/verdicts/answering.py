"""The answer of a trial as every room prints it: gathered from the layers, decided in core/judging/answer.py."""

from __future__ import annotations

from ..core.judging.answer import Answer, Found, answer
from ..core.judging.measures import MEASURES
from ..core.vocabulary import FACTOR_KINDS
from . import worth
from .beside import beside_of
from .pairing import numbers_of, pairing_of
from .service import Judged
from .view import View

LADDERS = {f.code for f in FACTOR_KINDS if f.ladder}
MEASURED_AS = {"ratio": "ratio"}
"""What a ladder's number is read off the brews as; of a ladder in anything else there is no curve."""


def answer_of(view: View, judged: Judged) -> Answer | None:
    """None before anything was tasted and flipped."""
    beside, main = beside_of(view), judged.main
    names = dict(view.names)
    if main is None:
        return answer(Found(names, told=beside["told_apart"], ranked=beside["ranked"], preferred=beside["preferred"]))
    measure = _ladder_measure(view)
    curve = next((c for c in pairing_of(view, "liking").curves if c.measure == measure.code), None) if measure else None
    value = worth.value_of(view, main) if len(view.trial.factors) > 1 else None
    return answer(
        Found(
            names,
            verdict=main.verdict.model_dump(),
            lean=main.lean.model_dump(),
            setups=[s.model_dump() for s in main.setups],
            segments=beside["segments"],
            peak=curve.model_dump() if curve else None,
            what=measure.what if measure else "",
            prefix=measure.prefix if measure else "",
            unit=measure.unit if measure else "",
            places=measure.places if measure else 1,
            rungs=_rungs(view, measure.code) if measure else {},
            factorial=value.factorial.model_dump() if value and value.factorial else None,
            told=beside["told_apart"],
            ranked=beside["ranked"],
            preferred=beside["preferred"],
            sighted=judged.blind is None,
        )
    )


def _ladder_measure(view: View):
    """Of a trial that asked how far: one factor whose levels are numbers, in three setups or more."""
    factors = view.trial.factors
    if len(factors) != 1 or factors[0] not in LADDERS or len(view.trial.setups) < 3:
        return None
    return next((m for m in MEASURES if m.code == MEASURED_AS.get(factors[0])), None)


def _rungs(view: View, code: str) -> dict[str, float]:
    """Letter → the mean of its brews' numbers."""
    numbers, measured = numbers_of(view.measured, code), view.measured
    by_letter: dict[str, list[float]] = {}
    for run in measured.runs:
        if run.id in numbers:
            by_letter.setdefault(measured.letter_of(run), []).append(numbers[run.id])
    return {letter: sum(values) / len(values) for letter, values in by_letter.items()}
