"""HTTP shape of what the adviser says of a brew: the same for a logged brew and for figures typed into a calculator."""

from __future__ import annotations

from ..core.brewing import adviser
from ..core.brewing.adviser import Confidence, Direction, Knob, Sign
from ..core.brewing.proposals import Proposal, Variable
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


class TurnAnswer(Answer):
    """A setting on one dial, before and after, as it is written there."""

    dial: str
    before: str
    after: str


class ProposalAnswer(Answer):
    """text: the change in numbers, "" where it has none; held: what stays; turns: on each dial, the brew's own first; unknown: what must be known first. can_be_brewed: it is a matter of
    the recipe or of a dial."""

    variable: Variable
    text: str
    before: str
    after: str
    held: str
    turns: list[TurnAnswer]
    unknown: str
    can_be_brewed: bool


class DialInAnswer(Answer):
    """change: the one thing to change, null when all is on target, when the signs pull apart or when too little is known (missing); proposal: what it comes to. draft: the recipe with just
    that changed, where it is a matter of the recipe's."""

    signs: list[Sign]
    change: AdviceAnswer | None
    proposal: ProposalAnswer | None
    others: list[AdviceAnswer]
    disagreement: str
    signpost: str
    missing: list[str]
    draft: RecipeDocument | None


def shape_advised(found: adviser.Advised, proposal: Proposal | None) -> DialInAnswer:
    return DialInAnswer(
        signs=list(found.signs),
        change=_advice(found.change) if found.change else None,
        proposal=shape_proposal(proposal) if proposal else None,
        others=[_advice(a) for a in found.others],
        disagreement=found.disagreement,
        signpost=found.signpost,
        missing=list(found.missing),
        draft=documents.document_of(proposal.recipe) if proposal and proposal.recipe else None,
    )


def shape_proposal(p: Proposal) -> ProposalAnswer:
    return ProposalAnswer(
        variable=p.variable,
        text=p.text,
        before=p.before,
        after=p.after,
        held=p.held,
        turns=[TurnAnswer(dial=t.dial, before=t.before, after=t.after) for t in p.turns],
        unknown=p.unknown,
        can_be_brewed=p.can_be_brewed,
    )


def _advice(a: adviser.Advice) -> AdviceAnswer:
    values = vars(a) | {"explains": list(a.explains)}
    del values["score"], values["steps"]
    return AdviceAnswer(**values)
