"""HTTP shapes of the kit."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.vocabulary import BrewerType, MatchKindCode
from ..http import Answer, Body, Changes, Day, line
from .facts import (
    BrewerFacts,
    BurrSetFacts,
    CoffeeFacts,
    FilterFacts,
    GrinderFacts,
    InstrumentFacts,
    KettleFacts,
    Setting,
    SieveStackFacts,
    VesselFacts,
    WaterFacts,
)

KitKind = Literal["coffee", "grinder", "burr_set", "filter", "brewer", "water", "kettle", "vessel", "sieve_stack", "instrument"]


class KitFacts(Body):
    """The facts of a piece of kit under its own kind; the others are left out."""

    coffee: CoffeeFacts | None = None
    grinder: GrinderFacts | None = None
    burr_set: BurrSetFacts | None = None
    filter: FilterFacts | None = None
    brewer: BrewerFacts | None = None
    water: WaterFacts | None = None
    kettle: KettleFacts | None = None
    vessel: VesselFacts | None = None
    sieve_stack: SieveStackFacts | None = None
    instrument: InstrumentFacts | None = None


class KitBody(KitFacts):
    kind: KitKind
    name: line(120, least=1)


class KitPatch(KitFacts, Changes):
    name: line(120, least=1) = ""


class KitItemAnswer(Answer):
    """full_name: what setups call it; a burr set carries its grinder's name. summary: one line. The facts stand under the item's own kind."""

    id: str
    kind: KitKind
    name: str
    full_name: str
    summary: str
    brewer_type: BrewerType | None
    retired: bool
    rev: int
    coffee: CoffeeFacts | None
    grinder: GrinderFacts | None
    burr_set: BurrSetFacts | None
    filter: FilterFacts | None
    brewer: BrewerFacts | None
    water: WaterFacts | None
    kettle: KettleFacts | None
    vessel: VesselFacts | None
    sieve_stack: SieveStackFacts | None
    instrument: InstrumentFacts | None


class BrewerTypeAnswer(Answer):
    code: BrewerType
    label: str


class KitAnswer(Answer):
    """grinders: the names a setup can choose from, each burr set in its grinder. water_advice: what is commonly aimed at."""

    items: list[KitItemAnswer]
    brewer_types: list[BrewerTypeAnswer]
    grinders: list[str]
    water_advice: str


class Worked(Answer):
    """Something worked out about a piece of kit. text: a sentence; value with its unit where it is a number."""

    label: str
    value: float | None
    unit: str
    text: str


class StockLine(Answer):
    id: str
    mass_g: float
    note: str
    at: datetime


class KitDetail(Answer):
    item: KitItemAnswer
    used_by_setups: int
    used_by_runs: int
    worked_out: list[Worked]
    stock: list[StockLine]
    stock_g: float | None
    cautions: list[str]


class StockAnswer(Answer):
    """kit item id → g on the shelf, for coffees with any entry."""

    stock_g: dict[str, float]


class StockBody(Body):
    """Bought (+) or lost (−)."""

    mass_g: Annotated[float, Field(ge=-100_000, le=100_000, description="g; negative when lost or given away")]
    note: line(120) = ""


class PairBody(Body):
    """a and b: burr sets, or grinders without one."""

    a_id: Annotated[str, Field(min_length=1, max_length=40)]
    a_setting: Setting
    b_id: Annotated[str, Field(min_length=1, max_length=40)]
    b_setting: Setting
    match: MatchKindCode
    matched_on: Day | None = None
    note: line(200) = ""


class PairAnswer(Answer):
    """samples: how many sieve samples stand behind it."""

    id: str
    a_id: str
    a_name: str
    a_setting: float
    b_id: str
    b_name: str
    b_setting: float
    match: MatchKindCode
    match_label: str
    matched_on: date | None
    note: str
    samples: int
    rev: int
    at_fault: bool


class GrinderScaleAnswer(Answer):
    """One side of the translator. id: of the burr set, or of the grinder without one. matched: its settings in any pair."""

    id: str
    name: str
    scale: str
    direction: str
    step: float
    finest: float | None
    matched: list[float]


class SaidAnswer(Answer):
    """What a recipe says grinds alike; it counts only between grinders nobody has measured."""

    recipe: str
    text: str


class SettingsAnswer(Answer):
    scales: list[GrinderScaleAnswer]
    pairs: list[PairAnswer]
    said: list[SaidAnswer]
    faults: list[str]
    match_kinds: dict[str, str]


class TranslateBody(Body):
    from_id: Annotated[str, Field(min_length=1, max_length=40)]
    to_id: Annotated[str, Field(min_length=1, max_length=40)]
    setting: Setting


class TranslationAnswer(Answer):
    """setting as interpolated; nearest: what the scale can be set to; low, high: its spread."""

    setting: float
    nearest: float
    low: float
    high: float
    matches: list[str]
    through: str
    evidence: list[str]
    warnings: list[str]


class BlendBody(Body):
    """target in mg/L; null for what is not cared about."""

    first_id: Annotated[str, Field(min_length=1, max_length=40)]
    second_id: Annotated[str, Field(min_length=1, max_length=40)]
    hardness_mg_l: Annotated[float, Field(ge=0, le=5000)] | None = None
    alkalinity_mg_l: Annotated[float, Field(ge=0, le=5000)] | None = None
    minerals_mg_l: Annotated[float, Field(ge=0, le=5000)] | None = None


class BlendAnswer(Answer):
    """first_share: 0 to 1 of the first water, by mass."""

    first_share: float
    got: dict[str, float]
    off: dict[str, float]
    reached: bool
    notes: list[str]
