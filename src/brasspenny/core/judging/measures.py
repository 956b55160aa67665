"""What liking is set against: ratio, strength, yield, and what else a ladder climbs; when two values are one level, and when a range is too narrow to say anything."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from .. import figures


@dataclass(frozen=True)
class Measure:
    """trimmed: told without needless noughts, as it stands on a dial; same_within: values this close are one level; least_span: below this the range says nothing."""

    code: str
    label: str
    what: str
    unit: str
    prefix: str
    places: int
    same_within: float
    least_span: float
    trimmed: bool = False

    @property
    def what_before(self) -> str:
        """Before its number: "ratio 1:15"."""
        return f"{self.what} " if self.what else ""

    def say(self, value: float) -> str:
        """With its prefix and unit, as everywhere.

        >>> MEASURE["ratio"].say(15.42), MEASURE["tds_pct"].say(1.358)
        ('1:15.4', '1.36 % TDS')
        """
        if self.code == "temperature_c":
            return figures.heat_whole(value)
        if self.code == "ratio":
            return figures.ratio(value)
        number = f"{figures.rounded(value, self.places):g}" if self.trimmed else figures.to_places(value, self.places)
        return f"{self.prefix}{number}{self.unit}"


MEASURES = (
    Measure("ratio", "Brew ratio", "ratio", "", "1:", 1, 0.3, 0.8),
    Measure("tds_pct", "Strength", "a strength of", " % TDS", "", 2, 0.02, 0.06),
    Measure("ey_pct", "Yield", "a yield of", " % EY", "", 1, 0.3, 0.8),
)
"""Those every brew may have."""
SET = (
    Measure("temperature_c", "Temperature", "", " °C", "", 0, 0.5, 1.5),
    Measure("grind_setting", "Grind setting", "setting", "", "", 1, 0.001, 0.01, trimmed=True),
)
"""Those that are set and not measured: of a trial that asks about them."""
MEASURE = {m.code: m for m in (*MEASURES, *SET)}

VARIED = {
    "ratio": ("ratio", "tds_pct"),
    "strength": ("tds_pct",),
    "extraction": ("grind_setting", "ey_pct"),
    "grind_setting": ("grind_setting", "ey_pct"),
    "temperature": ("temperature_c", "ey_pct"),
}
"""Factor → the measures that its levels move. Along any other a number differs by chance, or because something else does: liking may go with it, and no best point is claimed there."""


def varied_by(factors: Iterable[str]) -> frozenset[str]:
    """Codes of the measures that a trial of these factors varies on purpose.

    >>> sorted(varied_by(["ratio", "filter"])), sorted(varied_by(["coffee"]))
    (['ratio', 'tds_pct'], [])
    """
    return frozenset(code for factor in factors for code in VARIED.get(factor, ()))
