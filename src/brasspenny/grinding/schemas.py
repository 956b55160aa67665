"""HTTP shapes of the Grind room."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from ..core.vocabulary import Feeding, Push, TableKind
from ..http import Answer, Asked, Body, Day, line
from ..kit.facts import Setting

Id = Annotated[str, Field(min_length=1, max_length=40)]
Interval = Annotated[list[float], Field(min_length=2, max_length=2)]
Grams = Annotated[float, Field(ge=0, le=5000, description="g")]
Micron = Annotated[float, Field(gt=0, le=20_000, description="µm")]
Five = Annotated[int, Field(ge=1, le=5)]
Source = Literal["sieve", "table", "typed", "simulated"]


class FractionIn(Body):
    """What lies on a sieve of this aperture; the pan's is 0."""

    aperture_um: Annotated[float, Field(ge=0, le=20_000, description="µm")]
    mass_g: Annotated[float, Field(ge=0, le=5000, description="full less empty vessel, g")]


class BandIn(Body):
    from_um: Micron
    to_um: Micron


class FigureShown(Answer):
    """With its 95 % interval."""

    value: float
    interval: Interval


class ShareShown(Answer):
    of_recovered_pct: FigureShown
    of_mass_in_pct: FigureShown


class PercentileShown(Answer):
    """at_um: null where only two sizes bound it; between_um: those, null where nothing does."""

    share_pct: float
    at_um: FigureShown | None
    between_um: list[float | None]


class WeibullShown(Answer):
    """Share coarser than x: exp(−(x/size_um)^evenness). misfit_pct: the most it is off at an aperture, points of mass."""

    size_um: float
    evenness: float
    misfit_pct: float


class CumulativeShown(Answer):
    aperture_um: float
    finer_pct: float


class SieveAnswer(Answer):
    """d10, d50, d90: the size below which so many per cent of the mass lie. span: (d90 − d10)/d50. weibull: from four fractions on. said: what to mind.
    Intervals are the scale's alone: replicate samples say how far grinds lie apart."""

    band: BandIn
    recovery_pct: FigureShown
    lost_g: float
    cumulative: list[CumulativeShown]
    fines: ShareShown
    in_band: ShareShown
    coarse: ShareShown
    d10: PercentileShown
    d50: PercentileShown
    d90: PercentileShown
    span: FigureShown | None
    weibull: WeibullShown | None
    said: list[str]


# --- samples -----------------------------------------------------------------------------------------------------------------


class SampleFacts(Body):
    dial_id: Annotated[Id, Field(description="a burr set, or a grinder without one")]
    setting: Setting
    coffee_id: Id | None = None
    sampled_on: Day | None = None
    note: line(200) = ""


class SampleBody(SampleFacts):
    """A shaken stack. fractions: the pan first, then from the finest sieve up. stack_id: of the kit; its apertures and these are the same. scale_step_g: null for the bench's
    own scale."""

    stack_id: Id | None = None
    mass_in_g: Annotated[float, Field(gt=0, le=5000)]
    fractions: Annotated[list[FractionIn], Field(min_length=3, max_length=20)]
    scale_step_g: Annotated[float, Field(gt=0, le=10)] | None = None
    shaken_s: Annotated[float, Field(gt=0, le=3600)] | None = None
    shaken_how: line(80) = ""
    simulated: bool = False


class TableBody(SampleFacts):
    """A table of diameters and shares, as instruments export it. kind: how its shares are meant; null: as it shows itself."""

    text: Annotated[str, Field(min_length=1, max_length=100_000)]
    kind: TableKind | None = None


class SampleShown(Answer):
    """said: what to mind about this one."""

    id: str
    rev: int
    replicate: int
    sampled_on: date
    source: Source
    stack_id: str | None
    mass_in_g: float
    fractions: list[FractionIn]
    scale_step_g: float
    shaken_s: float | None
    shaken_how: str
    note: str
    recovery_pct: float
    lost_g: float
    said: list[str]


class MeasureShown(Answer):
    """figure: null where the stack only bounds it, or cannot show the band. unit: %, µm or none."""

    code: str
    label: str
    unit: str
    figure: FigureShown | None
    between_um: list[float | None]


class SizePoint(Answer):
    """low to high: how far replicates lie apart."""

    aperture_um: float
    finer_pct: float
    low_pct: float
    high_pct: float


class GrindShown(Answer):
    """Replicates of one dial, setting, coffee and stack, together. id: of its first sample. heaps_pct: what lay in the pan and on each sieve, of what was recovered."""

    id: str
    dial_id: str
    dial: str
    setting: float
    setting_written: str
    coffee_id: str | None
    coffee: str
    stack: str
    name: str
    apertures_um: list[float]
    holds_band: bool
    simulated: bool
    measures: list[MeasureShown]
    curve: list[SizePoint]
    heaps_pct: list[float]
    weibull: WeibullShown | None
    samples: list[SampleShown]
    said: str


class LineShown(Answer):
    """What one step of the dial is worth."""

    dial_id: str
    per_step_um: FigureShown
    step: float
    settings: Interval
    ends_um: Interval
    said: str


class DoseBody(Body):
    """A mass with its time, or with what came out of it, or both."""

    dial_id: Id
    setting: Setting | None = None
    feeding: Feeding = "single_dose"
    beans_in_g: Annotated[float, Field(gt=0, le=5000)]
    ground_out_g: Grams | None = None
    grinding_s: Annotated[float, Field(gt=0, le=3600)] | None = None
    knocked_out_g: Grams | None = None
    next_in_g: Grams | None = None
    next_out_g: Grams | None = None
    chaff: Five | None = None
    mess: Five | None = None
    note: line(200) = ""
    simulated: bool = False


class SimulatedDoseBody(Body):
    dial_id: Id
    beans_in_g: Annotated[float, Field(gt=0, le=5000)]


class SimulatedDose(Answer):
    """What a made-up mill did, as scale and clock read it."""

    ground_out_g: float
    grinding_s: float
    knocked_out_g: float


class DoseShown(Answer):
    """rate_g_s, stays_g: worked out from this dose."""

    id: str
    rev: int
    dial_id: str
    dial: str
    setting: float | None
    setting_written: str
    feeding: Feeding
    beans_in_g: float
    ground_out_g: float | None
    grinding_s: float | None
    knocked_out_g: float | None
    next_in_g: float | None
    next_out_g: float | None
    chaff: int | None
    mess: int | None
    note: str
    source: Source
    at: datetime
    rate_g_s: float | None
    stays_g: float | None


class GroundShown(Answer):
    """What a dial's doses say together. purge_g: to throw away before a dose of another coffee."""

    dial_id: str
    dial: str
    rate_g_s: FigureShown | None
    stays_g: FigureShown | None
    remains_g: FigureShown | None
    exchange_g: FigureShown | None
    purge_g: float | None
    doses: int
    said: str


class FilterTestBody(Body):
    """size: N when pressed, mm of water when dripping under a head."""

    filter_id: Id
    push: Push
    size: Annotated[float, Field(gt=0, le=10_000)]
    water_g: Annotated[float, Field(gt=0, le=10_000)]
    seconds: Annotated[float, Field(gt=0, le=7200)]
    dry_g: Grams | None = None
    wet_g: Grams | None = None
    sediment: Five | None = None
    note: line(200) = ""


class FilterTestShown(Answer):
    id: str
    rev: int
    filter_id: str
    filter: str
    push: Push
    size: float
    unit: str
    water_g: float
    seconds: float
    dry_g: float | None
    wet_g: float | None
    held_g: float | None
    sediment: int | None
    note: str
    source: Source
    at: datetime


class ResistanceShown(Answer):
    """relative: times the reference's. proportional: not all were pushed alike, so that proportion is relied on."""

    filter_id: str
    filter: str
    reference: str
    push: Push
    relative: FigureShown
    tests: int
    proportional: bool


class DialShown(Answer):
    id: str
    name: str
    step: float
    direction: str


class StackShown(Answer):
    id: str
    name: str
    apertures_um: list[float]
    usual_s: float | None
    shaking: str


class GrindRoom(Answer):
    """band: the one figures are told with. in_band_note: whose measure in-band share is. scale_step_g: of the bench's scale, which new samples are taken to be weighed on."""

    band: BandIn
    dials: list[DialShown]
    stacks: list[StackShown]
    grinds: list[GrindShown]
    lines: list[LineShown]
    doses: list[DoseShown]
    ground: list[GroundShown]
    filter_tests: list[FilterTestShown]
    resistances: list[ResistanceShown]
    in_band_note: str
    scale_step_g: float


class BandQuery(Asked):
    from_um: Micron | None = None
    to_um: Micron | None = None


# --- comparing and matching ------------------------------------------------------------------------------------------------------


class CompareBody(Body):
    """The second against the first, each by one of its samples. band: null for the usual one of the first's stack."""

    first_id: Id
    second_id: Id
    band: BandIn | None = None


class GrindChange(Answer):
    """points: of shares, in points of 100; µm of sizes. per_cent: of the first's."""

    code: str
    label: str
    unit: str
    points: FigureShown
    per_cent: FigureShown | None
    said: str
    between: str


class ToTryShown(Answer):
    dial_id: str
    dial: str
    setting: float
    setting_written: str
    why: str


class ComparisonShown(Answer):
    """matched: null where it cannot be told. to_try: the setting of the second to sample next. can_match: whether a matched setting can be made of the two;
    is_kept: whether it has been."""

    matched: bool | None
    said: str
    changes: list[GrindChange]
    to_try: ToTryShown | None
    can_match: bool
    is_kept: bool


class ShakeBody(Body):
    """A made-up shaking of the stand-in sieves."""

    dial_id: Id
    setting: Setting
    stack_id: Id
    mass_in_g: Annotated[float, Field(gt=0, le=5000)] = 25


class ShakenAnswer(Answer):
    mass_in_g: float
    fractions: list[FractionIn]
    rests_on: str
