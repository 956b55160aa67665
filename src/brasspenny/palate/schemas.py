"""Shapes of the Palate room: the host's, a taster's and a helper's."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.palate.series import MOST_STEPS, PalateAxis, SeriesMethod, StepChoice
from ..core.palate.threshold import Standing
from ..http import Answer, Body, line, quantity

Way = Literal["helper", "shuffled"]


class SeriesBody(Body):
    """steps: in the axis' unit; the ready series where none are given. tds_pct: of the undiluted brew."""

    axis: PalateAxis = "strength"
    method: SeriesMethod = "two_afc"
    choice: StepChoice = "adaptive"
    way: Way = "helper"
    served: line(80, least=1)
    tds_pct: quantity("tds_pct") | None = None
    serve_g: Annotated[float, Field(ge=30, le=5000)] = 300.0
    cup_g: Annotated[float, Field(ge=5, le=200)] = 20.0
    steps: Annotated[list[Annotated[float, Field(gt=0, le=1000)]], Field(max_length=MOST_STEPS)] = []
    taster_ids: Annotated[list[Annotated[str, Field(max_length=40)]], Field(min_length=1, max_length=12)]


class PreparedShown(Answer):
    step: float
    name: str
    tds_pct: float | None
    coffee_g: float
    water_g: float


class SeatShown(Answer):
    """answered: of presentations that are over; link: None once the session is closed."""

    id: str
    person_id: str
    name: str
    answered: int
    link: str | None


class SeriesShown(Answer):
    """helper_link: None where nobody pours, once it is open on the helper's device, or when the session's host tastes: then there is the code alone. helper_waits: nobody opened it yet."""

    id: str
    rev: int
    axis: PalateAxis
    method: SeriesMethod
    choice: StepChoice
    way: Way
    served: str
    tds_pct: float | None
    serve_g: float
    cup_g: float
    steps: list[float]
    unit: str
    question: str
    prepared: list[PreparedShown]
    brew_g: float
    seats: list[SeatShown]
    helper_link: str | None
    helper_waits: bool
    made_at: datetime
    closed_at: datetime | None


class AnswersAt(Answer):
    step: float
    right: int
    of: int


class ThresholdPoint(Answer):
    step: float
    share: float
    low: float
    high: float


class ThresholdMonth(Answer):
    """What was told at the end of a month in which there were answers."""

    month: str
    told: float
    interval: list[float]
    answers: int


class TasterThreshold(Answer):
    """One taster on one axis. told and interval: the step told apart 75 % of the time, in the axis' unit; tds: the same in % TDS."""

    person_id: str
    name: str
    axis: PalateAxis
    unit: str
    answers: int
    standing: Standing
    told: float | None
    interval: list[float] | None
    d_prime_1: float | None
    d_prime_1_interval: list[float] | None
    tds: list[float] | None
    text: str
    more: str
    at_steps: list[AnswersAt]
    curve: list[ThresholdPoint]
    months: list[ThresholdMonth]
    last_at: datetime | None


class PanelThreshold(Answer):
    axis: PalateAxis
    unit: str
    middle: float
    spread: float
    tasters: int
    text: str
    stand_ins: list[str]


class TasterScoring(Answer):
    """A taster in ordinary blind flights. used: where eight of their scores in ten lie, points of 9; agreement: correlation of their setup means with the others';
    repeat_sd: points between two servings of one brew. Each with its interval, null where there is too little of it."""

    person_id: str
    name: str
    scores: int
    used: list[float] | None
    panel_used: list[float] | None
    agreement: float | None
    agreement_interval: list[float] | None
    repeat_sd: float | None
    repeat_interval: list[float] | None
    duplicates: int
    text: str


class PalateRoom(Answer):
    sessions: list[SeriesShown]
    tasters: list[TasterThreshold]
    panels: list[PanelThreshold]
    scoring: list[TasterScoring]


class PalateSheet(Answer):
    """A taster's page. now: what stands before them, None between two; over: the host closed it."""

    bench: str
    name: str
    question: str
    method: SeriesMethod
    way: Way
    served: str
    answered: int
    first_answer: int
    now: PresentationShown | None
    over: bool
    told: TasterThresholdAnswer | None


class PresentationShown(Answer):
    """codes: on the cups, left to right. pour: which server stands beside the brew itself, where they pour and shuffle for themselves; picked: what they answered and
    have not turned over yet."""

    number: int
    codes: list[str]
    pour: str | None
    picked: int | None


class TasterThresholdAnswer(Answer):
    text: str
    more: str
    right: int
    of: int


class PickBody(Body):
    """picked: from the left, from 0."""

    number: Annotated[int, Field(ge=1, le=100_000)]
    picked: Annotated[int, Field(ge=0, le=2)]


class TurnedBody(Body):
    """place: where the cup to be found turned out to stand, from the left, from 0."""

    number: Annotated[int, Field(ge=1, le=100_000)]
    place: Annotated[int, Field(ge=0, le=2)]


class CupToPour(Answer):
    code: str
    server: str


class ToPour(Answer):
    name: str
    number: int
    cups: list[CupToPour]


class HelperSheet(Answer):
    bench: str
    served: str
    cup_g: float
    prepared: list[PreparedShown]
    waiting: list[ToPour]
    over: bool


PalateSheet.model_rebuild()
