"""HTTP shapes of a plan and its run sheet."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.brewing.dial_in import DialIn
from ..core.planning.budget import USUAL_SAMPLE_G
from ..core.planning.designs import Blocking, DesignKind
from ..core.vocabulary import Factor, MatchingRule
from ..http import Answer, Body, Celsius, Moment, line
from ..trials.schemas import NewKit

Count = Annotated[int, Field(ge=1, le=12)]
Stretch = Annotated[float, Field(ge=0, le=7200, description="s")]


class FactorLevels(Body):
    factor: Factor
    levels: Annotated[list[line(120, least=1)], Field(min_length=1, max_length=12)]


class DesignBody(Body):
    """base: the letter of the setup everything else is copied from (the first one when left out). ratio_moves: what changes
    with the ratio."""

    kind: DesignKind
    factors: Annotated[list[FactorLevels], Field(min_length=1, max_length=5)]
    base: Annotated[str, Field(min_length=1, max_length=1)] | None = None
    ratio_moves: Literal["water", "dose"] = "water"
    new_kit: NewKit = []


class DesignAnswer(Answer):
    """notes: what it can and cannot tell, and what was done about grind settings."""

    kind: DesignKind
    label: str
    factors: list[FactorLevels]
    ratio_moves: Literal["water", "dose"]
    notes: list[str]


class DayBody(Body):
    """What the run sheet may use. Null: as the kit has it. low_c to high_c: where all cups are to be when tasting begins."""

    hands: Annotated[int, Field(ge=1, le=6)] = 1
    kettles: Annotated[int, Field(ge=1, le=12)] | None = None
    heat_s: Stretch | None = None
    reheat_s: Stretch | None = None
    brewers: Annotated[int, Field(ge=1, le=12, description="of each kind")] | None = None
    server_id: Annotated[str, Field(max_length=40)] | None = None
    cup_id: Annotated[str, Field(max_length=40)] | None = None
    drink_c: Annotated[Celsius, Field(description="of the drink when the drips stop")] = 78
    low_c: Celsius = 42
    high_c: Celsius = 62
    spread_c: Annotated[float, Field(gt=0, le=20)] = 3
    keep_order: bool = True
    measure: bool = True


class PlanBody(Body):
    """seed: null draws one. block_factor: with blocking "factor", which factor is done level by level."""

    replicates: Count = 2
    flights: Count = 1
    tasters: Annotated[int, Field(ge=1, le=50)] = 4
    blocking: Blocking = "replicate"
    block_factor: line(24) = ""
    seed: Annotated[int, Field(ge=0, le=999_999)] | None = None
    share_drunk: Annotated[float, Field(ge=0, le=1)] = 1
    dial_in_brews: Annotated[int, Field(ge=0, le=12)] = 1
    sieve_samples: Annotated[int, Field(ge=0, le=12)] = 0
    sieve_sample_g: Annotated[float, Field(gt=0, le=500)] = USUAL_SAMPLE_G
    day: DayBody = DayBody()


class PlannedBrew(Answer):
    """label: A1 is the first brew of setup A in this flight."""

    label: str
    letter: str
    setup_id: str
    replicate: int
    block: int


class CoffeeNeedAnswer(Answer):
    coffee: str
    brews_g: float
    dial_in_g: float
    purge_g: float
    sieve_g: float
    total_g: float
    stock_g: float | None
    short_g: float | None


class BudgetAnswer(Answer):
    brews: int
    coffee_g: float
    coffees: list[CoffeeNeedAnswer]
    water_g: float
    filters: dict[str, int]
    minutes: float
    cups_per_taster: int
    cups_per_flight: int
    sips_per_taster: int
    drunk_g_per_taster: float
    caffeine_flight_mg: list[float]
    caffeine_day_mg: list[float]
    warnings: list[str]
    guidance: str


class ReadySetup(Answer):
    """Whether a setup is dialled in, and whether it has a recipe to time it by."""

    setup_id: str
    letter: str
    name: str
    dial_in: DialIn
    text: str
    has_recipe: bool


class RuleAnswer(Answer):
    field: str
    label: str
    rule: MatchingRule
    rule_label: str
    holds: bool | None
    text: str


class DesignKindAnswer(Answer):
    """fewest and most: how many factors it takes, and levels of each."""

    code: DesignKind
    label: str
    about: str
    fewest_factors: int
    most_factors: int
    fewest_levels: int
    most_levels: int


class PlanAnswer(Answer):
    """rev 0: nothing stored yet, defaults are shown. step_told: where steps of a ladder are smaller than this panel tells, else empty."""

    rev: int
    settings: PlanBody
    design: DesignAnswer | None
    order: list[PlannedBrew]
    order_cost: str
    block_factors: list[str]
    budget: BudgetAnswer | None
    setups: list[ReadySetup]
    rules: list[RuleAnswer]
    design_kinds: list[DesignKindAnswer]
    smallest_difference: float
    step_told: str


class SheetAsked(Body):
    begins_at: Moment | None = None


class BlockAnswer(Answer):
    """lane: hands, kettle, "grinder: …", "brewer: …"; s from begins_at."""

    brew: str
    lane: str
    label: str
    start_s: float
    end_s: float


class CupAnswer(Answer):
    """One brew's cups: when ready and poured, how warm when tasting begins, and its cooling curve as [s, °C] points."""

    brew: str
    letter: str
    start_s: float
    ready_s: float
    poured_s: float
    drink_c: float
    temperature_c: float
    curve: list[list[float]]


class RemedyAnswer(Answer):
    code: str
    text: str
    spread_c: float


class BegunAnswer(Answer):
    started_s: float
    measured: bool


class BeforehandShown(Answer):
    """Something to do before the first brew."""

    text: str
    minutes: float


class RunSheetAnswer(Answer):
    """spread_c: between warmest and coolest cup at tasting_s. why: when it is wider than asked for; remedies were tried."""

    id: str
    rev: int
    begins_at: datetime
    planned_at: datetime
    blocks: list[BlockAnswer]
    cups: list[CupAnswer]
    tasting_s: float
    headline: str
    spread_c: float
    wanted_spread_c: float
    low_c: float
    high_c: float
    ambient_c: float
    total_s: float
    proven: bool
    why: str
    remedies: list[RemedyAnswer]
    beforehand: list[BeforehandShown]
    notes: list[str]
    begun: dict[str, BegunAnswer]


class TrialSheetAnswer(Answer):
    """sheet: null until one is made."""

    sheet: RunSheetAnswer | None


class BeginBody(Body):
    """brew: its label. at: now when left out. measured: its sample is taken."""

    brew: line(12, least=1)
    at: Moment | None = None
    measured: bool = False


class SlotShown(Answer):
    """A brew as planned: the label it has or will have; run_id '' while it is open; ground_on: grinder and setting, "" where neither is known."""

    setup_id: str
    letter: str
    label: str
    run_id: str
    dose_g: float
    ground_on: str


class SlotsAnswer(Answer):
    """In the order of brewing. drafted: what they are for, where a verdict proposed them; '' for the plan's own."""

    slots: list[SlotShown]
    drafted: str
