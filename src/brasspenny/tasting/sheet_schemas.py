"""HTTP shapes of a taster's sheet: codes, never brews, but in an open flight."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.tasting.sheets import ITEMS
from ..core.vocabulary import FlightMethod, PassName
from ..http import Answer, Body, line
from .schemas import Blinding, Code, Status

Item = Literal[ITEMS]


class AttributeShown(Answer):
    code: str
    label: str
    low: float
    high: float
    step: float
    low_word: str
    high_word: str


class JarShown(Answer):
    code: str
    label: str


class ScoreShown(Answer):
    attribute: str
    pass_name: str
    value: float | None
    text: str


class SheetCupShown(Answer):
    """label: the setup, in an open flight only."""

    code: str
    label: str | None
    scores: list[ScoreShown]


class SheetRoundShown(Answer):
    """codes in the taster's own order; the answer goes under `cell`, as "pick". reference: an uncoded cup stands beside them."""

    number: int
    codes: list[str]
    cell: str
    reference: bool


class SheetPassShown(Answer):
    """closed: over, the cups are below it."""

    name: str
    from_c: float
    to_c: float
    open: bool
    closed: bool
    opens_at: datetime | None


class GuessShown(Answer):
    """What may be guessed: says what is compared, nothing of which is where."""

    letter: str
    label: str


class ShelfGroup(Answer):
    group: str
    words: list[str]


class SheetAnswer(Answer):
    """What a taster's phone shows. Cups in the taster's own order. commitment: the seal's hash, to check after the flip."""

    bench: str
    flight: int
    taster: str
    status: Status
    blinding: Blinding
    method: FlightMethod
    cup_temperature_c: float | None
    passes: list[SheetPassShown]
    attributes: list[AttributeShown]
    jar: list[JarShown]
    guesses: list[GuessShown]
    named_attribute: AttributeShown | None
    posed: str
    how: str
    picks: int
    sip_temperature: bool
    cleanser: bool
    liking_last: bool
    rest_s: int
    cups: list[SheetCupShown]
    rounds: list[SheetRoundShown]
    shelf: list[ShelfGroup]
    commitment: str | None
    last_seq: int


class ScoreBody(Body):
    """One touch. uuid and seq make a repeat harmless: the highest seq of a cell wins. value null clears the score. pass_name "": the first
    pass asked. pick: text is the chosen code, two for a tetrad ("418,736"), "none" for no preference; guess: text is the letter."""

    uuid: Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
    seq: Annotated[int, Field(ge=1, le=2_000_000_000)]
    code: Code
    attribute: Item
    pass_name: Literal[""] | PassName = ""
    value: float | None = None
    text: line(500) = ""


class ScoresBody(Body):
    scores: Annotated[list[ScoreBody], Field(min_length=1, max_length=200)]


class ScoresAnswer(Answer):
    """uuids now safe here, whether new or seen before."""

    delivered: list[str]
    last_seq: int
