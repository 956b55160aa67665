"""HTTP shapes of what the brews come to."""

from __future__ import annotations

from datetime import datetime

from ..brewing.schemas import Purpose
from ..core.extraction import School
from ..http import Answer


class ReadingShown(Answer):
    id: str
    tds_pct: float
    source: str
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


class RunMeasured(Answer):
    """One brew: as weighed, and as worked out. off_revision: brewed to an earlier description of its setup."""

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
    warnings: list[WarningShown]


class Pooled(Quantity):
    """between_half_width: brew to brew, null for one brew; shared_half_width: the one instrument's part, normal 95 %."""

    n_brews: int
    between_half_width: float | None
    shared_half_width: float


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


class RatioLineShown(Answer):
    brew_ratio: float
    points: list[list[float]]


class WindowShown(Answer):
    code: str
    label: str
    about: str
    ey_pct: list[float]
    tds_pct: list[float]


class ResultsAnswer(Answer):
    school: School
    school_label: str
    retained_water_ratio: float
    runs: list[RunMeasured]
    dial_ins: list[RunMeasured]
    setups: list[SetupMeasured]
    ratio_lines: list[RatioLineShown]
    windows: list[WindowShown]
    ey_axis_pct: list[float]
    tds_axis_pct: list[float]
