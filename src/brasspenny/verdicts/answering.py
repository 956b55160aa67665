"""The answer of a trial as every room prints it: gathered from the layers, decided in core/judging/answer.py."""

from __future__ import annotations

from ..core.judging.answer import Answer, Found, Located, answer
from ..core.judging.measures import MEASURE
from ..core.trial.ladder import ladder_of
from . import value
from .judged import Judged
from .pairing import pairing_of
from .schemas import JudgedAnswer
from .secondary import beside_of
from .view import View


def answer_of(view: View, judged: Judged) -> Answer | None:
    """None before anything was tasted and flipped."""
    beside, main = beside_of(view), judged.main
    names = dict(view.names)
    bought = value.value_of(view, main) if len(view.trial.factors) > 1 else None
    factorial = bought.factorial.model_dump() if bought and bought.factorial else None
    if main is None:
        return answer(Found(names, factorial=factorial, told=beside["told_apart"], ranked=beside["ranked"], preferred=beside["preferred"]))
    ladder = ladder_of(view.measured)
    return answer(
        Found(
            names,
            verdict=main.verdict.model_dump(),
            lean=main.lean.model_dump(),
            setups=[s.model_dump() for s in main.setups],
            segments=beside["segments"],
            peak=_located(view, ladder.measure.code) if ladder else None,
            measure=ladder.measure if ladder else MEASURE["ratio"],
            rungs=ladder.rungs if ladder else {},
            factorial=factorial,
            told=beside["told_apart"],
            ranked=beside["ranked"],
            preferred=beside["preferred"],
            sighted=judged.blind is None,
        )
    )


def _located(view: View, measure: str) -> Located | None:
    """Of the curve everybody sees; None where there is none."""
    curve = next(c for c in pairing_of(view, "liking").curves if c.measure == measure)
    return None if curve.best is None else Located(curve.kind, curve.best, curve.interval, curve.tested, curve.rising, curve.next_value, curve.chances)


AVERAGES = ("mean", "interval", "probability_best", "expected_regret")
"""Of a setup, what is averaged over all tasters."""


def as_answered(judged: JudgedAnswer | None, found: Answer | None) -> JudgedAnswer | None:
    """As the answer has it: its words, along a ladder the curve's chances, and no average where drinkers like opposite things."""
    if judged is None or found is None:
        return judged
    verdict = judged.verdict.model_copy(update={"headline": found.headline, "text": found.certainty})
    judged = judged.model_copy(update={"verdict": verdict, "lean": judged.lean.model_copy(update={"text": found.action})})
    if found.kind == "camps":
        setups = [x.model_copy(update=dict.fromkeys(AVERAGES)) for x in judged.setups]
        return judged.model_copy(update={"setups": setups, "differences": []})
    setups = [x.model_copy(update={"probability_best": found.chances.get(x.setup, x.probability_best)}) for x in judged.setups]
    return judged.model_copy(update={"setups": setups})
