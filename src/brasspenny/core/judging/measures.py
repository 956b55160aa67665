"""What liking is set against: ratio, strength, yield; when two values are one level, and when a range is too narrow to say anything."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Measure:
    """same_within: values this close are one level; least_span: below this the range says nothing."""

    code: str
    label: str
    what: str
    unit: str
    prefix: str
    places: int
    same_within: float
    least_span: float


MEASURES = (
    Measure("ratio", "Brew ratio", "ratio", "", "1:", 1, 0.3, 0.8),
    Measure("tds_pct", "Strength", "a strength of", " % TDS", "", 2, 0.02, 0.06),
    Measure("ey_pct", "Yield", "a yield of", " % EY", "", 1, 0.3, 0.8),
)
