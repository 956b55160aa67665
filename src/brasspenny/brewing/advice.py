"""HTTP shape of what the adviser says of a brew: the same for a logged brew and for figures typed into a calculator."""

from __future__ import annotations

from ..core.brewing import adviser
from ..core.brewing.adviser import Confidence, Direction, Knob, Sign
from ..http import Answer
from ..recipes import documents
from ..recipes.schemas import RecipeDocument


class AdviceAnswer(Answer):
    code: str
    knob: Knob
    direction: Direction
    text: str
    reason: str
    size: str
    confidence: Confidence
    explains: list[Sign]
    then: str


class DialInAnswer(Answer):
    """change: the one thing to change, null when all is on target. draft: the recipe with just that changed, where it is a number of the recipe's."""

    signs: list[Sign]
    change: AdviceAnswer | None
    others: list[AdviceAnswer]
    disagreement: str
    signpost: str
    draft: RecipeDocument | None


def shape_advised(found: adviser.Advised) -> DialInAnswer:
    return DialInAnswer(
        signs=list(found.signs),
        change=_advice(found.change) if found.change else None,
        others=[_advice(a) for a in found.others],
        disagreement=found.disagreement,
        signpost=found.asks,
        draft=documents.document_of(found.draft) if found.draft else None,
    )


def _advice(a: adviser.Advice) -> AdviceAnswer:
    values = vars(a) | {"explains": list(a.explains)}
    del values["score"], values["steps"]
    return AdviceAnswer(**values)
