"""HTTP shapes of bringing in a table."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ..http import Answer, Body, line

MOST_SENT = 8_400_000
"""Characters of base64: a workbook of twenty thousand brews is far smaller."""


class ColumnMeaning(Body):
    """target: what the column is, "" to leave it out; unit: what its bare numbers stand in."""

    target: Annotated[str, Field(max_length=24)] = ""
    unit: Annotated[str, Field(max_length=12)] = ""


class BrewTableBody(Body):
    """data: the file's bytes in base64. meanings: one for each column; left out: as guessed, or as a table with these headings was read before.
    day_first: whether 3/4/2026 is in April; left out: as the days themselves tell."""

    data: Annotated[str, Field(min_length=4, max_length=MOST_SENT)]
    meanings: Annotated[list[ColumnMeaning], Field(max_length=60)] | None = None
    day_first: bool | None = None


class BrewTableWrite(BrewTableBody):
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


class BrewTableAnswer(Answer):
    """ready: rows that can be written; here: rows that are on the bench already and are left out; faults: the first of fault_count; known: read as a
    table with these headings was read before; missing: what every brew needs and no column gives."""

    columns: list[ImportColumn]
    targets: list[ImportTarget]
    rows: int
    ready: int
    here: int
    fault_rows: int
    fault_count: int
    faults: list[ImportFault]
    becomes: list[ImportBecomes]
    new_kit: list[str]
    day_first: bool
    days_unclear: bool
    known: bool
    missing: list[str]


class BroughtInAnswer(Answer):
    brews: int
    readings: int
    left_out: int
    here: int
    new_kit: list[str]
