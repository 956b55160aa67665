"""HTTP shapes of the calculators about brews made: yields compared, strengths matched, the adviser, a scale's log cut into pours."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..core.brewing.adviser import TASTE_SIGNS
from ..core.extraction.comparing import Verdict
from ..core.simulator.brews import FILTER_FACTORS
from ..core.simulator.model import USUAL, USUAL_LOG_SD
from ..core.vocabulary import YieldBasis
from ..http import Answer, Body, line
from ..recipes.schemas import RecipeDocument
from .schemas import Interval, example, number

TasteSign = Literal[TASTE_SIGNS]


class BrewIn(Body):
    """One brew's masses and its readings."""

    dose_g: number("dose_g")
    brew_water_g: number("brew_water_g") | None = None
    beverage_g: number("beverage_g")
    bypass_g: number("bypass_g") = 0
    moisture_pct: number("moisture_pct") = 0
    concentrate: bool = False
    tds_readings_pct: Annotated[list[Annotated[float, Field(ge=0)]], Field(min_length=1, max_length=100)]


class BrewedIn(Body):
    """One setup's brews."""

    name: line(80, least=1)
    brews: Annotated[list[BrewIn], Field(min_length=1, max_length=50)]


SOME_BREW = {"dose_g": 18, "brew_water_g": 290, "beverage_g": 248, "tds_readings_pct": [1.41, 1.43, 1.42]}


class CompareYieldsBody(Body):
    """All read with one instrument. margin_ey_pct: yields closer than this count as one."""

    model_config = example(
        {
            "yield_basis": "in_cup",
            "first": {"name": "White weave", "brews": [SOME_BREW, SOME_BREW | {"beverage_g": 247}]},
            "second": {
                "name": "Steel mesh",
                "brews": [SOME_BREW | {"tds_readings_pct": [1.5, 1.51, 1.5]}, SOME_BREW | {"tds_readings_pct": [1.52, 1.5, 1.51]}],
            },
        }
    )

    first: BrewedIn
    second: BrewedIn
    yield_basis: YieldBasis = "in_cup"
    accuracy_pct: number("accuracy_pct") = 0.03
    resolution_pct: number("resolution_pct") = 0.01
    scale_resolution_g: number("scale_resolution_g") = 0.1
    margin_ey_pct: Annotated[float, Field(gt=0, le=20)] = 1.0


class SetupYield(Answer):
    """readings_u_pct, instrument_u_pct, between_brews_u_pct: the standard uncertainties on its mean yield that come from the
    readings' scatter, from the one instrument, and from brew to brew (null for a single brew)."""

    name: str
    brews: int
    ey_pct: float
    ey_interval_pct: Interval
    tds_pct: float
    tds_interval_pct: Interval
    readings_u_pct: float
    instrument_u_pct: float
    between_brews_u_pct: float | None


class CompareYieldsAnswer(Answer):
    """difference: first − second, points of yield; what the one instrument may be off by cancels but for the ratio of the drinks."""

    first: SetupYield
    second: SetupYield
    difference_pct: float
    difference_u_pct: float
    difference_interval_pct: Interval
    tds_difference_pct: float
    tds_difference_interval_pct: Interval
    verdict: Verdict
    single_brews: bool
    text: str


class ServerIn(Body):
    name: line(80, least=1)
    beverage_g: number("beverage_g")
    tds_pct: Annotated[float, Field(gt=0, le=25, description="strength, %")]
    drink_c: Annotated[float, Field(ge=0, le=100)] | None = None


class StrengthMatchBody(Body):
    """target_tds_pct: the weakest server's when left out. water_c: of the water added, to foretell the cups' temperature."""

    model_config = example(
        {
            "servers": [{"name": "A", "beverage_g": 210, "tds_pct": 1.52, "drink_c": 70}, {"name": "B", "beverage_g": 215, "tds_pct": 1.38, "drink_c": 70}],
            "water_c": 70,
        }
    )

    servers: Annotated[list[ServerIn], Field(min_length=2, max_length=24)]
    target_tds_pct: number("target_tds_pct") | None = None
    water_c: Annotated[float, Field(ge=0, le=100)] | None = None


class ServerAnswer(Answer):
    name: str
    add_water_g: float
    final_beverage_g: float
    final_tds_pct: float
    mixed_c: float | None


class StrengthMatchAnswer(Answer):
    """needed: the servers are more than 0.05 % TDS apart."""

    target_tds_pct: float
    apart_tds_pct: float
    needed: bool
    servers: list[ServerAnswer]


class DialInBody(Body):
    """The recipe brewed (its windows are the targets), what came out, and how it tasted."""

    model_config = example(
        {
            "recipe": {
                "dose_g": 18, "temperature_c": 93, "grind": "5.8", "tds_pct": [1.25, 1.45], "ey_pct": [19, 21.5], "total_time_s": [150, 190], "ends": "drips_stop",
                "steps": [{"kind": "bloom", "to_g": 45, "duration_s": 40}, {"kind": "pour", "to_g": 288, "start_s": 40, "duration_s": 60}],
            },
            "tds_pct": 1.18, "ey_pct": 17.4, "total_time_s": 128, "words": ["thin", "sour"],
        }
    )  # fmt: skip

    recipe: RecipeDocument
    tds_pct: Annotated[float, Field(ge=0, le=25)] | None = None
    ey_pct: number("ey_pct") | None = None
    total_time_s: Annotated[float, Field(ge=0, le=100_000)] | None = None
    words: Annotated[list[TasteSign], Field(max_length=20)] = []
    yield_basis: YieldBasis = "in_cup"
    retained_water_ratio: number("retained_water_ratio") = 2.1
    at_finest: bool = False
    altitude_m: Annotated[float, Field(ge=-430, le=8850)] = 0
    least_dose_g: Annotated[float, Field(gt=0, le=10_000)] | None = None
    paper: bool = True


class PourSegmentsBody(Body):
    """A scale's log: time in s (or m:ss) and mass in g, one reading a line."""

    model_config = example({"text": "time,mass\n0,0\n0.5,0\n1,3\n1.5,6\n2,9\n2.5,12\n3,15\n3.5,15\n4,15\n4.5,15\n5,15"})

    text: Annotated[str, Field(max_length=900_000)]


class PourSegmentAnswer(Answer):
    start_s: float
    end_s: float
    added_g: float
    to_g: float
    rate_g_s: float


class GapAnswer(Answer):
    start_s: float
    end_s: float


class PourSegmentsAnswer(Answer):
    """gaps: stretches without a reading; nothing is made up for them."""

    pours: list[PourSegmentAnswer]
    gaps: list[GapAnswer]
    notes: list[str]
    readings: int
    lasts_s: float


class SimulateBody(Body):
    """The recipe, and what the model needs beside it. learnt: the parameters that own brews can teach; course: every half second too."""

    model_config = example(
        {
            "recipe": {
                "dose_g": 18, "temperature_c": 93, "brewer_type": "flat_bed", "ends": "drips_stop",
                "steps": [{"kind": "bloom", "to_g": 45, "duration_s": 40}, {"kind": "pour", "to_g": 288, "start_s": 40, "duration_s": 60}],
            },
            "grind_um": 700, "filter": "paper",
        }
    )  # fmt: skip

    recipe: RecipeDocument
    grind_um: number("grind_um") = 700
    grind_log_sd: Annotated[float, Field(ge=0, le=1, description="spread of ln(particle size); 0.45 is a good grinder")] = USUAL_LOG_SD
    filter: Literal[tuple(FILTER_FACTORS)] = "paper"
    soluble: Annotated[float, Field(gt=0, le=0.45, description="share of the dose that could dissolve")] = USUAL.soluble
    bed_s: Annotated[float, Field(gt=0, le=500, description="resistance of 18 g of medium bed, s")] = USUAL.bed_s
    held_g_g: Annotated[float, Field(gt=0.5, le=4, description="liquid a gram of bed keeps, g")] = USUAL.held_g_g
    room_c: Annotated[float, Field(ge=-20, le=45)] = USUAL.room_c
    course: bool = False


class CourseAnswer(Answer):
    t_s: list[float]
    poured_g: list[float]
    server_g: list[float]
    slurry_c: list[float]
    server_tds_pct: list[float]


class SimulateAnswer(Answer):
    """Simulated, not measured. The masses in the bed close the balance: poured + bypass = (drink − its solids) + kept water."""

    simulated: Literal[True] = True
    beverage_g: float
    tds_pct: float
    ey_in_cup_pct: float
    ey_full_liquor_pct: float
    retained_water_ratio: float
    first_drip_s: float | None
    last_drip_s: float | None
    drawdown_s: float | None
    total_s: float
    slurry_c: float
    kept_water_g: float
    kept_solids_g: float
    left_solids_g: float
    course: CourseAnswer | None
