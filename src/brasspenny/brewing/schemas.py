"""HTTP shapes of runs and readings, as logged."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AwareDatetime, Field

from ..http import Answer, Body, Bypass, Celsius, Mass, Seconds, line, quantity

Tds = Annotated[quantity("concentrate_tds_pct"), Field(description="one reading, % TDS; above 5 only for a concentrate")]
Moment = AwareDatetime
Purpose = Literal["evidence", "dial_in"]


class RunBody(Body):
    """One brew as it was weighed. brewed_at: now when left out. purpose dial_in: to get the setup ready; never evidence."""

    setup_id: Annotated[str, Field(max_length=40)]
    brewed_at: Moment | None = None
    dose_g: Mass
    brew_water_g: Mass | None = None
    bypass_g: Bypass = 0
    beverage_g: Mass | None = None
    temperature_c: Celsius | None = None
    pour_end_s: Seconds | None = None
    total_time_s: Seconds | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    purpose: Purpose = "evidence"
    note: line(500) = ""
    tds_readings_pct: Annotated[list[Annotated[float, Field(ge=0)]], Field(max_length=20)] = []


class RunPatch(Body):
    """Only what is sent is changed."""

    brewed_at: Moment | None = None
    dose_g: Mass | None = None
    brew_water_g: Mass | None = None
    bypass_g: Bypass = 0
    beverage_g: Mass | None = None
    temperature_c: Celsius | None = None
    pour_end_s: Seconds | None = None
    total_time_s: Seconds | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    purpose: Purpose = "evidence"
    note: line(500) = ""


class RunAnswer(Answer):
    id: str
    setup_id: str
    number: int
    rev: int


class ReadingBody(Body):
    tds_pct: Annotated[float, Field(ge=0, description="% TDS")]


class ReadingAnswer(Answer):
    id: str
    run_id: str
    tds_pct: float
    rev: int
