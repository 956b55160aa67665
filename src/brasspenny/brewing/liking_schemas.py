"""HTTP shapes of liking a brew and brewing it again."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.brewing.adviser import Confidence
from ..core.tasting.words import MOST_WORDS
from ..core.vocabulary import PassName
from ..http import Answer, Body, line
from .advice import ProposalAnswer

PassOrWhole = PassName | Literal[""]
Liking = Annotated[float, Field(ge=1, le=9, multiple_of=0.5, description="1 dislike extremely to 9 like extremely")]


class LikingBody(Body):
    """by_pass: while hot, warm or cool; "" for the brew as a whole. words: what it tasted of."""

    by_pass: dict[PassOrWhole, Liking | None] = {}
    words: Annotated[list[line(40)], Field(max_length=MOST_WORDS)] = []


class NextChangeShown(Answer):
    """One change for the next brew. proposal: what it comes to, and whether it can be brewed in one press."""

    code: str
    text: str
    reason: str
    confidence: Confidence
    proposal: ProposalAnswer


class AgainAnswer(Answer):
    """changes: the one advised, and a second where another rule says otherwise on as good a ground. taste_words: what the adviser understands."""

    run_id: str
    rev: int
    label: str
    trial_id: str | None
    liking: float | None
    by_pass: dict[str, float]
    words: list[str]
    sighted: str
    changes: list[NextChangeShown]
    disagreement: str
    missing: list[str]
    signs: list[str]
    taste_words: list[str]


class AgainBody(Body):
    """code: of the change to make; "" to brew it unchanged."""

    code: line(40) = ""


class NextBrewAnswer(Answer):
    """The setup to brew next. brewed_as: the change made, in words; "" where none was asked for."""

    setup_id: str
    trial_id: str | None
    brewed_as: str


class LikedQuery(BaseModel):
    coffee: Annotated[str, Field(max_length=120)] = ""
    days: Annotated[int, Field(ge=0, le=4000)] = 0


class LikedRecipeShown(Answer):
    recipe_id: str
    recipe: str
    mean: float
    low: float
    high: float
    brews: int
    people: int
    text: str


class HowWasItAnswer(Answer):
    """Recipes by mean liking, of brews since then."""

    since: datetime
    sighted: str
    recipes: list[LikedRecipeShown]
