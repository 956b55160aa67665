"""HTTP shapes of bringing in a table."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.vocabulary import Factor
from ..http import Answer, Body, Mass, line

MOST_SENT = 8_400_000
"""Characters of base64: a workbook of twenty thousand brews is far smaller."""


class ColumnMeaning(Body):
    """target: what the column is, "" to leave it out; unit: what its bare numbers stand in."""

    target: Annotated[str, Field(max_length=24)] = ""
    unit: Annotated[str, Field(max_length=12)] = ""


class OwnTableBody(Body):
    """data: the file's bytes in base64. meanings: one for each column; left out: as guessed, or as a table with these headings was read before.
    day_first: whether 3/4/2026 is in April; left out: as the days themselves tell."""

    data: Annotated[str, Field(min_length=4, max_length=MOST_SENT)]
    meanings: Annotated[list[ColumnMeaning], Field(max_length=60)] | None = None
    day_first: bool | None = None


class BrewTableWrite(OwnTableBody):
    """leave_out_faulty: write the rows that can be read, and leave the others; else nothing is written while a fault stands."""

    leave_out_faulty: bool = False
    note: line(120) = ""


class ImportColumn(Answer):
    header: str
    target: str
    unit: str
    units: list[str]
    samples: list[str]


class ImportTarget(Answer):
    code: str
    label: str
    kind: str
    many: bool


class ImportFault(Answer):
    """row: as the file counts it; header: of the column, "" for the row as a whole."""

    row: int
    header: str
    cell: str
    reason: str
    remedy: str


class ImportBecomes(Answer):
    """What a row becomes, in words."""

    row: int
    brewed_at: datetime | None
    name: str
    coffee: str
    kit: str
    dose_g: float
    brew_water_g: float
    beverage_g: float | None
    temperature_c: float | None
    total_time_s: float | None
    tds_pct: list[float]
    liking: float | None
    note: str


class OwnTableAnswer(Answer):
    """faults: the first of fault_count; known: read as a table with these headings was read before; missing: what is needed and no column gives."""

    columns: list[ImportColumn]
    targets: list[ImportTarget]
    rows: int
    fault_rows: int
    fault_count: int
    faults: list[ImportFault]
    day_first: bool
    days_unclear: bool
    known: bool
    new_kit: list[str]
    missing: list[str]


class BrewTableAnswer(OwnTableAnswer):
    """ready: rows that can be written; here: rows that are on the bench already and are left out."""

    ready: int
    here: int
    becomes: list[ImportBecomes]


class BroughtInAnswer(Answer):
    brews: int
    readings: int
    left_out: int
    here: int
    new_kit: list[str]


class ScoreTableBody(OwnTableBody):
    """question: what the panel was asked to settle, by which a table that came before is known; factor: what the setups differ in; dose_g, brew_water_g: of brews
    whose rows do not tell."""

    question: line(200) = ""
    factor: Factor = "other"
    factor_other: line(80) = ""
    dose_g: Mass | None = None
    brew_water_g: Mass | None = None


class ScoreTableWrite(ScoreTableBody):
    """tasted: whether labels were hidden, by the word of whoever brings the table; leave_out_faulty: as for brews."""

    question: line(200, least=1)
    tasted: Literal["blind", "labelled"]
    leave_out_faulty: bool = False


class FlightOfScores(Answer):
    """name, day: as the table tells them."""

    name: str
    day: date | None
    tasters: int
    setups: int
    cups: int
    scores: int


class SetupOfScores(Answer):
    """dose_g, brew_water_g: of its first brew."""

    letter: str
    name: str
    dose_g: float | None
    brew_water_g: float | None
    brews: int
    scores: int


class ScoreTableAnswer(OwnTableAnswer):
    """ready: scores that can be written; here: flights that are on the bench already and are left out; adds_to: the number of the trial they stand in, to which the others
    are added; amounts_needed: what some brews' rows do not tell and must be said of all."""

    ready: int
    here: int
    flights: list[FlightOfScores]
    setups: list[SetupOfScores]
    new_people: list[str]
    amounts_needed: list[str]
    adds_to: int | None


class BroughtInScoresAnswer(Answer):
    trial_id: str
    trial_number: int
    flights: int
    brews: int
    scores: int
    left_out: int
    here: int
