"""HTTP shapes of what the brews come to."""

from __future__ import annotations

from datetime import datetime

from ..brewing.advice import AdviceAnswer, ProposalAnswer
from ..brewing.schemas import AsReadShown, Observed
from ..core.extraction.readings import ProtocolStep
from ..core.vocabulary import Purpose, YieldBasis
from ..http import Answer
from ..recipes.schemas import PourShown, RecipeDocument


class ReadingShown(Answer):
    id: str
    tds_pct: float
    source: str
    as_read: AsReadShown | None
    rev: int


class WarningShown(Answer):
    code: str
    text: str


class Quantity(Answer):
    """A value with its 95 % interval, both in the field's unit."""

    value: float
    low: float
    high: float
    half_width: float


class ServedShown(Answer):
    """As served: water added, g; strength, %; confirmed: read again, not computed. doubt: where the water noted cannot give the second reading, else ''."""

    added_water_g: float
    water_c: float | None
    tds_pct: float | None
    confirmed: bool
    doubt: str


class ServedMean(Answer):
    """Of a setup some of whose brews were thinned: mean strength as served, %, and mean water stirred in, g."""

    tds_pct: float
    added_water_g: float


class RunMeasured(Answer):
    """One brew: as weighed, and as worked out. off_revision: brewed to an earlier description of its setup; off_plan: outside the
    tolerances; undiluted_tds_pct: before its bypass, null without one; asked: steps of the reading protocol it wants, skipped: those left out; served: after thinning."""

    id: str
    rev: int
    setup_id: str
    letter: str
    number: int
    label: str
    purpose: Purpose
    brewed_at: datetime
    dose_g: float
    brew_water_g: float | None
    bypass_g: float
    beverage_g: float | None
    temperature_c: float | None
    pour_end_s: float | None
    total_time_s: float | None
    drawdown_s: float | None
    moisture_pct: float
    concentrate: bool
    note: str
    readings: list[ReadingShown]
    tds: Quantity | None
    extraction_yield: Quantity | None
    brew_ratio: float | None
    beverage_ratio: float | None
    retained_water_ratio: float | None
    off_revision: bool
    in_flight: bool
    observed: Observed
    pours: list[PourShown]
    off_plan: list[str]
    skipped: list[str]
    asked: list[ProtocolStep]
    undiluted_tds_pct: float | None
    served: ServedShown | None
    has_curve: bool
    warnings: list[WarningShown]


class LooseRunShown(RunMeasured):
    """A brew of no trial, in the yield its brewer is usually quoted in."""

    name: str
    coffee: str
    brewer: str
    recipe_id: str | None
    liking: float | None
    yield_basis: YieldBasis
    yield_basis_label: str


class LooseRunsAnswer(Answer):
    """Newest first, at most 50."""

    runs: list[LooseRunShown]


class Pooled(Quantity):
    """The parts of half_width, each by itself: between_half_width brew to brew, null for one brew; shared_half_width the one
    instrument's; readings_half_width the scatter of readings (of yields only; 0 for strengths). note: why it is
    as wide as it is, where that is for want of brews."""

    n_brews: int
    between_half_width: float | None
    shared_half_width: float
    readings_half_width: float
    note: str


class SetupMeasured(Answer):
    setup_id: str
    letter: str
    name: str
    n_brews: int
    tds: Pooled | None
    extraction_yield: Pooled | None
    brew_ratio: float | None
    planned_ratio: float
    total_time_s: float | None
    served: ServedMean | None


class RatioLineShown(Answer):
    brew_ratio: float
    points: list[list[float]]


class WindowShown(Answer):
    code: str
    label: str
    about: str
    ey_pct: list[float]
    tds_pct: list[float]


class PlaceShown(Answer):
    """Words at a place on the chart, with half-widths around it where it is a region."""

    words: str
    ey_pct: float
    tds_pct: float
    ey_half_pct: float
    tds_half_pct: float


class OverlayShown(Answer):
    code: str
    label: str
    about: str
    places: list[PlaceShown]


class LadderShown(Answer):
    """A line through the tested ratios with its 95 % band; said: what one step does."""

    ratios: list[float]
    values: list[float]
    lows: list[float]
    highs: list[float]
    said: str


class PairCompared(Answer):
    """Two setups' yields: different, same or cannot_tell, in words; difference: first − second, points, with its interval."""

    first: str
    second: str
    verdict: str
    difference: Quantity
    tds_difference: Quantity
    single_brews: bool
    text: str


class ComparisonsAnswer(Answer):
    """Every pair of setups with a yield each. missing: setups that have none."""

    pairs: list[PairCompared]
    missing: list[str]


class ServerShown(Answer):
    """One brew's server before coding. served: as it was noted after thinning."""

    run_id: str
    rev: int
    letter: str
    label: str
    beverage_g: float
    tds_pct: float
    add_water_g: float
    final_beverage_g: float
    final_tds_pct: float
    served: ServedShown | None


class MatchingAnswer(Answer):
    """What to add to each server. apart_tds_pct: strongest less weakest as brewed; needed: more than the program calls one strength;
    unread: brews without strength or mass, which cannot be matched. step: what is still to be stirred into which brew before any cup gets a code, '' where there is nothing to do."""

    target_tds_pct: float | None
    weakest_tds_pct: float | None
    apart_tds_pct: float
    needed: bool
    within_tds_pct: float
    policy: str
    servers: list[ServerShown]
    unread: list[str]
    step: str


class TargetShown(Answer):
    """A recipe's window against what came out."""

    label: str
    unit: str
    low: float | None
    high: float | None
    value: float | None
    state: str


class Word(Answer):
    code: str
    label: str


class AdvisedAnswer(Answer):
    """One change for the next brew. proposal: what it comes to; says: the same in a sentence, with its microns where samples tell them; draft: the recipe with exactly
    that change; recipe_id and rev: where to keep it as a version; missing: what would let a rule speak."""

    run_id: str
    label: str
    targets: list[TargetShown]
    signs: list[str]
    change: AdviceAnswer | None
    proposal: ProposalAnswer | None
    says: str
    others: list[AdviceAnswer]
    disagreement: str
    signpost: str
    missing: list[str]
    draft: RecipeDocument | None
    recipe_id: str | None
    recipe_name: str
    recipe_version: int | None
    recipe_rev: int | None
    words: list[Word]


class AimAnswer(Answer):
    """A wished cup, from one brew's setup: at today's yield the ratio, the dose on the same water, the water on the same dose."""

    ratio_now: float | None
    dose_g: float | None
    brew_water_g: float | None
    wished_ratio: float | None
    direction: str
    text: str


class CurveAnswer(Answer):
    """The scale over time: [s, g]; plan: the same of the recipe."""

    points: list[list[float]]
    plan: list[list[float]]


class LearntParameter(Answer):
    code: str
    label: str
    unit: str
    usual: float
    learnt: float


class ResidualShown(Answer):
    """One brew, observed minus predicted; null where it was not measured."""

    label: str
    tds_pct: float | None
    beverage_g: float | None
    total_s: float | None


class LearntAnswer(Answer):
    """The simulator's parameters by these brews. before, after: root mean square of residuals in usual spreads (0.03 % TDS, 3 g, 8 s)."""

    brews: int
    parameters: list[LearntParameter]
    before: float
    after: float
    residuals: list[ResidualShown]


class ResultsAnswer(Answer):
    yield_basis: YieldBasis
    yield_basis_label: str
    retained_water_ratio: float
    runs: list[RunMeasured]
    dial_ins: list[RunMeasured]
    setups: list[SetupMeasured]
    ratio_lines: list[RatioLineShown]
    windows: list[WindowShown]
    overlays: list[OverlayShown]
    tds_ladder: LadderShown | None
    ey_ladder: LadderShown | None
    note: str
    ey_axis_pct: list[float]
    tds_axis_pct: list[float]
