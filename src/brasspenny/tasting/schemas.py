"""HTTP shapes of flights. Before the flip nothing here joins a code to a brew."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.tasting.sheets import DEFAULT_ATTRIBUTES
from ..core.trial.value import SIGHTED as SIGHTED
from ..core.vocabulary import PASSES, USUAL_PASS, AskedBlinding, AttributeCode, Blinding, FlightMethod, PassName
from ..http import Answer, Body, Celsius, Changes

Status = Literal["open", "closed", "flipped"]
CupKind = Literal["dark", "lidded", "clear"]
Code = Annotated[str, Field(pattern=r"^[1-9][0-9]{2}$")]
Id = Annotated[str, Field(max_length=40)]


class FlightOptions(Body):
    """Test method and set. jar: just about right; guess: which is which, after liking; cups: null when not said."""

    jar: Annotated[list[AttributeCode], Field(max_length=7)] = []
    guess: bool = False
    sip_temperature: bool = False
    cleanser: bool = True
    liking_last: bool = Field(default=False, description="liking is asked after the attributes; first, they do not colour it")
    cups: CupKind | None = None
    rest_s: Annotated[int, Field(ge=0, le=300, description="s between cups")] = 30
    rounds: Annotated[int, Field(ge=1, le=6)] = 1
    named_attribute: AttributeCode | None = None
    stronger_run_id: Id | None = None
    own_sets: bool = Field(default=False, description="of a triangle: each taster gets three of four cups, so that the odd one differs over the table")


class FlightBody(FlightOptions):
    """Brews to taste, who tastes them and how. shuffle: marked servers, code cards; runner: a helper pours by a key only they see;
    open: labels in sight, kept apart. duplicate_run_ids: brews poured under two codes, to measure tasters."""

    run_ids: Annotated[list[Id], Field(min_length=2, max_length=12)]
    taster_ids: Annotated[list[Id], Field(min_length=1, max_length=12)]
    blinding: AskedBlinding = "shuffle"
    method: FlightMethod = "scores"
    attributes: Annotated[list[AttributeCode], Field(max_length=7)] = list(DEFAULT_ATTRIBUTES)
    passes: Annotated[list[PassName], Field(min_length=1, max_length=len(PASSES))] = [USUAL_PASS]
    duplicate_run_ids: Annotated[list[Id], Field(max_length=4)] = []
    host_tastes: bool = False
    cup_temperature_c: Celsius | None = None


class FlightPatch(Changes):
    """host_tastes can be set, never taken back."""

    host_tastes: bool | None = None


class CupRead(Body):
    code: Code
    cup_c: Celsius


class TemperatureBody(Body):
    """cup_c: of one cup for the whole flight; or cups: each by its code. sure: kept although it can hardly be."""

    cup_c: Celsius | None = None
    cups: Annotated[list[CupRead], Field(max_length=60)] = []
    sure: bool = False


class PassBody(Body):
    name: PassName


class LeftBody(Body):
    """left: gone from the table; false: back again."""

    left: bool = True


class FlightLoadAnswer(Answer):
    """What a flight as asked would take of each taster. minutes: with rests; caffeine_mg: if all is swallowed, null without doses.
    own_sets: whether sets of their own are suggested."""

    cups: int
    touches: int
    minutes: float
    caffeine_mg: list[float] | None
    notes: list[str]
    own_sets: bool


class MethodShown(Answer):
    code: FlightMethod
    label: str
    about: str


class MethodAnswer(Answer):
    """proposed: the method that fits the question, and why. run_ids: the brews to pour unless told otherwise."""

    proposed: FlightMethod
    why: str
    methods: list[MethodShown]
    run_ids: list[str]


class CupShown(Answer):
    """scored of `of`: tastings done of those asked. letter and label: null until the key is known."""

    code: str
    round: int
    scored: int
    of: int
    letter: str | None
    label: str | None


class MarkShown(Answer):
    """A server's mark and the brew in it; says nothing of codes. add_water_g: to stir in before it is shuffled, so that all are one strength; null where there is nothing to do."""

    mark: int
    round: int
    run_id: str
    letter: str
    label: str
    add_water_g: float | None


class ReferenceShown(Answer):
    """Duo-trio: the brew of a round that is poured as the uncoded reference."""

    round: int
    letter: str
    label: str


class SheetShown(Answer):
    """A taster's progress, order and link."""

    id: str
    person_id: str
    name: str
    scored: int
    of: int
    order: list[str]
    late: bool
    left_at: datetime | None
    link: str | None


class PassShown(Answer):
    """asked: on the sheets. open: may be tasted now; by_hand: the host opened it; closed: the cups were read below it since. opens_at, closes_at: by the newest readings, null
    when the room is too warm for it; known: whether there are such readings; read_again_at: when another reading makes its opening sure."""

    name: PassName
    from_c: float
    to_c: float
    asked: bool
    open: bool
    by_hand: bool
    closed: bool
    known: bool
    opens_at: datetime | None
    closes_at: datetime | None
    read_again_at: datetime | None


class CupReadShown(Answer):
    """The newest reading of one cup."""

    code: str
    cup_c: float


class CupAt(Answer):
    at: datetime
    cup_c: float


class CoolingShown(Answer):
    """How the cups cool by the newest two readings. now_c: where they should be by now; curve: from the first of the two."""

    now_c: float
    readings: list[CupAt]
    curve: list[CupAt]


class SealShown(Answer):
    """A runner's key. waits: nobody has opened the pour sheet yet, and its QR code can be shown to the runner's camera; link: to hand over by
    a host who does not taste. nonce and key_text: once opened or broken."""

    commitment: str
    waits: bool
    link: str | None
    opened_at: datetime | None
    seen_by_host_at: datetime | None
    broken_at: datetime | None
    nonce: str | None
    key_text: str | None
    holds: bool | None


class LateShown(Answer):
    taster: str
    code: str
    attribute: str
    value: float | None
    text: str
    received_at: datetime


class FlightAnswer(Answer):
    """late: what came after the lock, shown once the key is known; late_count before. shuffled_at: since when nobody can know which cup is which, of a flight that is shuffled."""

    id: str
    trial_id: str
    number: int
    blinding: Blinding
    status: Status
    method: FlightMethod
    method_label: str
    attributes: list[AttributeCode]
    options: FlightOptions
    host_tastes: bool
    cup_temperature_c: float | None
    cup_temperatures: list[CupReadShown]
    cups_said: list[str]
    passes: list[PassShown]
    cooling: CoolingShown | None
    cups: list[CupShown]
    marks: list[MarkShown]
    references: list[ReferenceShown]
    sheets: list[SheetShown]
    seal: SealShown | None
    costs: list[str]
    late_count: int
    late: list[LateShown]
    touches: int = Field(description="touches the flight asks of each taster")
    balanced: bool
    created_at: datetime
    shuffled_at: datetime | None
    closed_at: datetime | None
    flipped_at: datetime | None
    rev: int


class FlightsAnswer(Answer):
    flights: list[FlightAnswer]


class MarkEntry(Body):
    code: Code
    mark: Annotated[int, Field(ge=1, le=12)]


class FlipBody(Body):
    """Which mark was under which code card: every code once, every mark once. A runner's flight needs none: its seal is opened."""

    marks: Annotated[list[MarkEntry], Field(max_length=12)] = []


class TasterBody(Body):
    person_id: Id


class EventsQuery(BaseModel):
    """for_s: how long to keep listening, s."""

    for_s: Annotated[int, Field(ge=0, le=60)] = 30
