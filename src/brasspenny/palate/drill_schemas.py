"""Shapes of drills."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from ..core.palate.drills import DrillKind
from ..http import Answer, Body, line

Place = Annotated[int, Field(ge=0, le=7)]


class CupBody(Body):
    """made: how the cup is made up, where that needs saying."""

    name: line(60, least=1)
    made: line(120) = ""


class DrillBody(Body):
    """cups: the weaker first, then the stronger; two that differ; from least to most; or one for each word."""

    person_id: Annotated[str, Field(max_length=40)]
    kind: DrillKind
    cups: Annotated[list[CupBody], Field(min_length=1, max_length=8)]


class DrillAnswerBody(Body):
    """answer: the place of the one picked; places from least to most; or, place by place, the number of the word. From 0, from the left."""

    number: Annotated[int, Field(ge=1, le=100_000)]
    answer: Annotated[list[Place], Field(min_length=1, max_length=8)]


class DrillMarksBody(Body):
    """marks: underneath the cups, from the left."""

    number: Annotated[int, Field(ge=1, le=100_000)]
    marks: Annotated[list[Annotated[str, Field(pattern="^[A-H]$")]], Field(min_length=2, max_length=8)]


class DrillsQuery(BaseModel):
    person_id: Annotated[str, Field(max_length=40)]


class CupMade(Answer):
    mark: str
    name: str
    made: str


class RoundNow(Answer):
    """set_out: marks of the cups that are poured; answer: None until it is given."""

    number: int
    set_out: list[str]
    answer: list[int] | None


class RoundDone(Answer):
    number: int
    answer: list[int]
    marks: list[str]
    right: int
    of: int


class DrillShown(Answer):
    """now: the round that is not turned over yet; last: the newest finished one. share: of the full score in the long run, with its 95 % interval; guessed: a guesser's."""

    id: str
    rev: int
    person_id: str
    kind: DrillKind
    word: str
    question: str
    cups: list[CupMade]
    now: RoundNow | None
    last: RoundDone | None
    rounds: int
    share: float | None
    interval: list[float] | None
    guessed: float | None
    text: str


class DrillsAnswer(Answer):
    """weeks: in a row with a finished round; sittings: days with one; shelf: words to choose from."""

    drills: list[DrillShown]
    weeks: int
    sittings: int
    shelf: list[str]
