"""HTTP shapes of the calculators. Masses g, percent for TDS and yields, °C, s, m."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field

from ..core.limits import LIMITS
from ..core.units import UNITS
from ..core.vocabulary import YieldBasis
from ..http import Answer, Body

UnitCode = Literal[tuple(UNITS)]


def example(body: dict[str, Any]) -> ConfigDict:
    """A body that works, for the document and for the tests that call every one of them."""
    return ConfigDict(json_schema_extra={"examples": [body]})


def number(limit_name: str) -> type[float]:
    limit = LIMITS[limit_name]
    low = {"gt": limit.low} if limit.above else {"ge": limit.low}
    return Annotated[float, Field(le=limit.high, description=f"{limit.label}, {limit.unit}".rstrip(", "), **low)]


Strength = Annotated[float, Field(ge=0, le=25, description="strength (TDS), % by mass; above 5 only with concentrate")]


class ExtractionBody(Body):
    dose_g: number("dose_g")
    brew_water_g: number("brew_water_g") | None = None
    beverage_g: number("beverage_g")
    bypass_g: number("bypass_g") = 0
    tds_pct: Annotated[float, Field(ge=0, description="strength (TDS), %; give this or tds_readings_pct")] | None = None
    tds_readings_pct: Annotated[list[Annotated[float, Field(ge=0)]], Field(min_length=1, max_length=100)] | None = None
    accuracy_pct: number("accuracy_pct") = 0.03
    resolution_pct: number("resolution_pct") = 0.01
    scale_resolution_g: number("scale_resolution_g") = 0.1
    moisture_pct: number("moisture_pct") = 0
    concentrate: bool = False


class CodedText(Answer):
    code: str
    text: str


Interval = Annotated[list[float], Field(min_length=2, max_length=2, description="95 % interval, [low, high]")]


class ExtractionAnswer(Answer):
    tds_pct: float
    tds_undiluted_pct: float
    ey_in_cup_pct: float
    ey_full_liquor_pct: float | None
    brew_ratio: float | None = Field(description="the R of 1:R, all water counted")
    beverage_ratio: float
    retained_water_ratio: float | None
    u_tds_pct: float
    u_ey_in_cup_pct: float
    u_ey_full_liquor_pct: float | None
    ey_in_cup_interval_pct: Interval
    ey_full_liquor_interval_pct: Interval | None
    warnings: list[CodedText]


class DilutionBody(Body):
    beverage_g: number("beverage_g")
    tds_pct: Annotated[float, Field(gt=0, le=25, description="strength now, %")]
    target_tds_pct: number("target_tds_pct")


class DilutionAnswer(Answer):
    add_water_g: float
    final_beverage_g: float


class SolveBody(Body):
    tds_pct: Annotated[float, Field(gt=0, le=25, description="strength (TDS), %")] | None = None
    ey_pct: number("ey_pct") | None = None
    dose_g: number("dose_g") | None = None
    brew_water_g: number("brew_water_g") | None = None
    brew_ratio: number("brew_ratio") | None = None
    retained_water_ratio: number("retained_water_ratio") = 2.1
    yield_basis: YieldBasis = "in_cup"


class SolveAnswer(Answer):
    yield_basis: YieldBasis
    tds_pct: float
    ey_pct: float
    dose_g: float
    brew_water_g: float
    brew_ratio: float
    retained_water_ratio: float
    beverage_g: float


class ConvertBody(Body):
    value: float
    from_: UnitCode = Field(alias="from")
    to: UnitCode
    water_temp_c: Annotated[float, Field(ge=0, le=100, description="only between volume and mass of water")] = 20
    brix_factor: Annotated[float, Field(gt=0, le=2, description="TDS % per °Brix")] = 0.85


class ConvertAnswer(Answer):
    value: float


class BoilingPointBody(Body):
    altitude_m: number("altitude_m")


class BoilingPointAnswer(Answer):
    boiling_point_c: float


Temperature = number("temperature_c")


class CoolingReading(Body):
    t_s: number("elapsed_s")
    temp_c: Temperature


class CoolingBody(Body):
    ambient_c: Temperature
    start_c: Temperature | None = None
    tau_s: number("tau_s") | None = None
    readings: Annotated[list[CoolingReading], Field(min_length=2, max_length=2)] | None = None
    elapsed_s: number("elapsed_s") = Field(description="s; from the first reading when readings are given")


class CoolingAnswer(Answer):
    tau_s: float
    temp_c: float


class DurationBody(Body):
    text: Annotated[str, Field(max_length=40)]


class DurationAnswer(Answer):
    seconds: float
    shown: str


class DryingBody(Body):
    dish_g: Annotated[float, Field(ge=0, description="empty dish, g")]
    dried_g: Annotated[float, Field(ge=0, description="dish with the dried residue, g")]
    sample_g: Annotated[float, Field(gt=0, description="drink poured into the dish, g")]


class DryingAnswer(Answer):
    tds_pct: float
