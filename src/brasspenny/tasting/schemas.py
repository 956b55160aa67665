"""HTTP shapes of flights and sheets. Before the flip nothing here joins a code to a brew."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.sheets import DEFAULT_ATTRIBUTES, AttributeCode
from ..http import Answer, Body, Celsius, line

Blinding = Literal["shuffle", "open"]
Status = Literal["open", "closed", "flipped"]
Code = Annotated[str, Field(pattern=r"^[1-9][0-9]{2}$")]
Id = Annotated[str, Field(max_length=40)]


class FlightBody(Body):
    """Brews to taste and who tastes them. shuffle: marked servers, code cards; open: labels in sight, kept apart."""

    run_ids: Annotated[list[Id], Field(min_length=2, max_length=12)]
    taster_ids: Annotated[list[Id], Field(min_length=1, max_length=12)]
    blinding: Blinding = "shuffle"
    attributes: Annotated[list[AttributeCode], Field(max_length=7)] = list(DEFAULT_ATTRIBUTES)
    cup_temperature_c: Celsius | None = None


class FlightPatch(Body):
    cup_temperature_c: Celsius | None = None


class CupShown(Answer):
    """letter and label: null until the key is known."""

    code: str
    scored: int
    letter: str | None
    label: str | None


class MarkShown(Answer):
    """A server's mark and the brew in it; says nothing of codes."""

    mark: int
    run_id: str
    letter: str
    label: str


class SheetShown(Answer):
    """A taster's progress and link. scored: cups with a liking."""

    id: str
    person_id: str
    name: str
    scored: int
    link: str | None


class PassShown(Answer):
    """When the cups are warm enough and no longer too hot for a pass, by the newest two readings; null: the room is too warm for it."""

    name: str
    from_c: float
    to_c: float
    opens_at: datetime | None
    closes_at: datetime | None


class FlightAnswer(Answer):
    id: str
    trial_id: str
    number: int
    blinding: Blinding
    status: Status
    attributes: list[AttributeCode]
    cup_temperature_c: float | None
    passes: list[PassShown]
    cups: list[CupShown]
    marks: list[MarkShown]
    sheets: list[SheetShown]
    touches: int = Field(description="touches the flight asks of each taster")
    balanced: bool
    created_at: datetime
    closed_at: datetime | None
    flipped_at: datetime | None
    rev: int


class FlightsAnswer(Answer):
    flights: list[FlightAnswer]


class MarkEntry(Body):
    code: Code
    mark: Annotated[int, Field(ge=1, le=12)]


class FlipBody(Body):
    """Which mark was under which code card: every code once, every mark once."""

    marks: Annotated[list[MarkEntry], Field(min_length=1, max_length=12)]


class TasterBody(Body):
    person_id: Id


class AttributeShown(Answer):
    code: str
    label: str
    low: float
    high: float
    step: float
    low_word: str
    high_word: str


class ScoreShown(Answer):
    attribute: str
    value: float | None
    text: str


class SheetCupShown(Answer):
    """label: the setup, in an open flight only."""

    code: str
    label: str | None
    scores: list[ScoreShown]


class SheetAnswer(Answer):
    """What a taster's phone shows. Cups in the taster's own order."""

    bench: str
    flight: int
    taster: str
    status: Status
    blinding: Blinding
    cup_temperature_c: float | None
    attributes: list[AttributeShown]
    cups: list[SheetCupShown]
    last_seq: int


class ScoreBody(Body):
    """One touch. uuid and seq make a repeat harmless: the highest seq of a cell wins. value null clears the score."""

    uuid: Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
    seq: Annotated[int, Field(ge=1, le=2_000_000_000)]
    code: Code
    attribute: Literal["liking", "words", "aroma", "acidity", "sweetness", "bitterness", "body", "clarity", "finish"]
    value: float | None = None
    text: line(500) = ""


class ScoresBody(Body):
    scores: Annotated[list[ScoreBody], Field(min_length=1, max_length=200)]


class ScoresAnswer(Answer):
    """uuids now safe here, whether new or seen before."""

    delivered: list[str]
    last_seq: int


class TokenPath(BaseModel):
    token: str = Field(max_length=200)
