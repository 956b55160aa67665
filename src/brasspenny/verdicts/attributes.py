"""Every attribute in every pass, and which setup is for whom. Each attribute is worked out when it is asked for, and kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass

from ..act import Act
from ..core.errors import BadScores
from ..core.judging import Judgement, Score, judge
from ..core.judging.character import characters
from ..core.judging.learnt import Learnt
from ..core.judging.passes import PASS_ORDER, changing_leaders, say_leaders
from ..core.judging.ranks import rank_setups
from ..core.tasting.sheets import LIKING, SCALES
from ..core.trial.tasted import Tasted, scale_of
from ..core.trial.value import LearntScatter
from . import schemas as s
from .secondary import groups_of
from .verdict_cache import Layer
from .view import View, look, prior_of


@dataclass(frozen=True)
class AttributePart:
    """All that is said of one attribute rests on this."""

    attribute: str
    scores: tuple[Score, ...]
    judged_pass: str
    smallest_difference: float
    names: tuple[tuple[str, str], ...]
    learnt: LearntScatter | None = None


def read_attribute(trial_id: str, attribute: str, act: Act) -> s.AttributeJudged:
    return attribute_of(look(trial_id, act), attribute)


def attribute_of(view: View, attribute: str) -> s.AttributeJudged:
    part = AttributePart(
        attribute,
        tuple(view.found.scores(attribute)),
        view.trial.judged_pass,
        view.trial.smallest_difference,
        tuple(sorted(view.names.items())),
        view.scatter if attribute == LIKING else None,
    )
    found = s.AttributeJudged.model_validate(view.keeper.of(Layer(f"attribute {attribute}", _work_out), part))
    if attribute == LIKING and groups_of(view):  # nobody likes as the average of opposite groups does
        return found.model_copy(update={"leaders": "", "changes": ""})
    return found


def _work_out(part: AttributePart) -> dict:
    scores, attribute, names = part.scores, part.attribute, dict(part.names)
    scale = SCALES[attribute]
    passes = sorted({x.pass_ for x in scores}, key=lambda p: (PASS_ORDER.index(p) if p in PASS_ORDER else 9, p))
    sets = [("mean" if len(passes) > 1 else passes[0], scores)] if passes else []
    counts = part.judged_pass if part.judged_pass in passes else sets[0][0] if sets else ""
    if len(passes) > 1:
        sets += [(p, [x for x in scores if x.pass_ == p]) for p in passes]
    judged = [_pass(name, rows, part, learnt=prior_of(part.learnt) if name == counts else None) for name, rows in sets]
    shown = {k: v for k, v in vars(scale).items() if k in s.AttributeJudged.model_fields}
    return {
        **shown,
        "attribute": attribute,
        "passes": judged,
        "counts": counts,
        "leaders": (leaders := say_leaders(scores, names)),
        "changes": leaders if len(set(changing_leaders(scores).values())) > 1 else "",
    }


def _pass(name: str, rows: Sequence[Score], part: AttributePart, learnt: Learnt | None) -> dict:
    """learnt: of liking in the pass that counts, so that its interval is the verdict's own."""
    low, high = scale_of(part.attribute)
    found = judge(rows, attribute=part.attribute, low=low, high=high, smallest_difference=part.smallest_difference * (high - low) / 8, learnt=learnt)
    try:
        ranked = rank_setups(rows)
        agreement, p = ranked.agreement, ranked.p_value
    except BadScores:
        agreement = p = None
    setups = [{"setup": x.setup, "mean": x.mean, "interval": x.interval} for x in sorted(found.setups, key=lambda x: -x.mean)]
    return {
        "pass_name": name,
        "setups": setups,
        "differences": [asdict(d) for d in found.differences],
        "leader": setups[0]["setup"],
        "kind": found.verdict.kind,
        "agreement": agreement,
        "agreement_p": p,
    }


@dataclass(frozen=True)
class CharactersPart:
    """found: liking and attributes; nothing else is looked at."""

    found: Tasted
    names: tuple[tuple[str, str], ...]


def read_characters(trial_id: str, act: Act) -> s.CharactersAnswer:
    return characters_of(look(trial_id, act))


def characters_of(view: View) -> s.CharactersAnswer:
    found = view.found.of_attributes(lambda attribute: attribute in SCALES)
    if not found.scores():
        return s.CharactersAnswer(characters=[])
    return s.CharactersAnswer.model_validate(view.keeper.of(CHARACTERS, CharactersPart(found, tuple(sorted(view.names.items())))))


def _characters(part: CharactersPart) -> dict:
    names = dict(part.names)
    judged = {a: _judged_whole(part.found, a) for a in part.found.attributes()}
    words = {a: (SCALES[a].label, SCALES[a].low_word, SCALES[a].high_word) for a in judged}
    return {"characters": [{**asdict(c), "name": names[c.setup]} for c in characters(judged, part.found.scores(), names, words)]}


CHARACTERS = Layer("characters", _characters)


def _judged_whole(found: Tasted, attribute: str) -> Judgement:
    low, high = scale_of(attribute)
    return judge(found.counting(attribute), attribute=attribute, low=low, high=high)
