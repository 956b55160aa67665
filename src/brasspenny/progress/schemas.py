"""HTTP shapes of the progress and the margin."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from ..http import Answer

StationCode = Literal["ask", "set_up", "brew", "measure", "taste", "verdict"]


class StopShown(Answer):
    station: StationCode
    label: str
    state: Literal["done", "current", "todo", "stuck"]
    note: str


class MarginCaveatShown(Answer):
    """letters: of the setups it is about, where it names some."""

    code: str
    shape: Literal["crack", "doubt", "note"]
    station: StationCode
    title: str
    text: str
    cure: str
    field: str
    letters: list[str]
    unfair: bool


class ReasonShown(Answer):
    """A named rule that caps the grade. cap: 0 to 5."""

    code: str
    cap: int
    text: str


class GradeShown(Answer):
    """step 0 to 5. design: what it is called where people read it. so_far: it is what the evidence would be if it ended like this."""

    step: int
    name: str
    design: str
    reasons: list[ReasonShown]
    so_far: bool


class ProgressAnswer(Answer):
    """grade: null before anything was poured for tasting."""

    stops: list[StopShown]
    caveats: list[MarginCaveatShown]
    next_station: StationCode
    next_action: str
    grade: GradeShown | None


class TrialListed(Answer):
    """headline: what was found, null before a flip; kept: letters of the setups it says to keep; leans: of the one to brew meanwhile, may be empty. judging: it is
    being judged; ask again."""

    id: str
    number: int
    question: str
    factor_label: str
    setups: list[str]
    stops: list[StopShown]
    next_station: StationCode
    next_action: str
    headline: str | None
    kept: list[str]
    leans: str
    judging: bool
    tags: list[str]


class PageQuery(BaseModel):
    before: int | None = Field(default=None, ge=1, le=2_000_000_000, description="trials beyond this number, in the order asked for")
    limit: int = Field(default=30, ge=1, le=200)
    order: Literal["newest", "oldest"] = "newest"
    shown: Literal["all", "waiting", "judged", "archived"] = Field(default="all", description="all: but the archived")
    text: str = Field(default="", max_length=200, description="words of the question, the note, a tag, or the number")
    tag: str = Field(default="", max_length=24)


class TrialsAnswer(Answer):
    """more: whether there are further ones."""

    trials: list[TrialListed]
    more: bool


class TagsAnswer(Answer):
    """Every tag that a trial has, to choose from."""

    tags: list[str]
