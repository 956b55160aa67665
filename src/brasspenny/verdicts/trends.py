"""What becomes of each attribute along the ladder of a trial."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass

from ..act import Act
from ..core.errors import BadScores
from ..core.judging import Score
from ..core.judging.measures import Measure
from ..core.judging.trends import find_trend, say_trends
from ..core.tasting.sheets import SCALES
from ..core.trial.ladder import ladder_of
from ..core.trial.tasted import scale_of
from . import value_schemas as w
from .verdict_cache import Layer
from .view import View, look


@dataclass(frozen=True)
class TrendsPart:
    """scores: by attribute, liking left out; at: brew → its number."""

    scores: Mapping[str, tuple[Score, ...]]
    measure: Measure
    at: Mapping[str, float]


def read_trends(trial_id: str, act: Act) -> w.TrendsAnswer:
    return trends_of(look(trial_id, act))


def trends_of(view: View) -> w.TrendsAnswer:
    """Empty where the trial climbs nothing."""
    ladder = ladder_of(view.measured)
    scores = {a: tuple(view.found.counting(a)) for a in view.found.attributes()}
    if ladder is None or not scores:
        return w.TrendsAnswer(trends=[], text=[])
    return w.TrendsAnswer.model_validate(view.keeper.of(TRENDS, TrendsPart(scores, ladder.measure, ladder.numbers)))


def _work_out(part: TrendsPart) -> dict:
    found = []
    for attribute, scores in part.scores.items():
        low, high = scale_of(attribute)
        try:
            found.append(find_trend(attribute, scores, part.at, low=low, high=high, same_within=part.measure.same_within))
        except BadScores:
            continue
    labels = {a: SCALES[a].label for a in part.scores}
    shown = [{**asdict(t), "label": labels[t.attribute], "shown": t.shown} for t in found]
    return {"trends": shown, "text": list(say_trends(found, labels, part.measure))}


TRENDS = Layer("trends", _work_out)
