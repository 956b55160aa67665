"""What each quantity may be. One object feeds the refusal, the OpenAPI bounds and the hint on the form."""

from __future__ import annotations

import math
from dataclasses import dataclass

from . import figures
from .errors import OutOfDomain

LEAST_SIZE = 1e-9
"""Nearer to nought than this, or to a lowest value it must be above, is a slip: of the least that floats hold a hundredth is nought, and dividing by it a fault."""


@dataclass(frozen=True)
class Limit:
    """An allowed range. Domain: low ≤ value ≤ high, or low < value when `above` is set."""

    label: str
    unit: str
    low: float
    high: float
    above: bool = False
    hint: str = ""

    def describe(self) -> str:
        """The range in words.

        >>> LIMITS["dose_g"].describe()
        'more than 0, up to 10000 g'
        >>> LIMITS["temperature_c"].describe()
        '-20 to 150 °C'
        """
        low, high = (f"{v:g}" for v in (self.low, self.high))
        if self.unit == "°C":
            low, high = (figures.heat(v).rsplit(" ", 1)[0] for v in (self.low, self.high))
            return f"{low} to {high} °{figures.units().heat}"
        return (f"more than {low}, up to {high} {self.unit}" if self.above else f"{low} to {high} {self.unit}").strip()

    def holds(self, value: float) -> bool:
        return math.isfinite(value) and value <= self.high and (value - self.low >= LEAST_SIZE if self.above else value >= self.low)


PPM_HINT = (
    "A refractometer reads coffee in %, about 1.0 to 1.8. Above 5 it may be a conductivity pen's ppm, "
    "which measures water and not coffee. A concentrate up to 25 % must be marked as one."
)

LIMITS: dict[str, Limit] = {
    "dose_g": Limit("dose", "g", 0, 10_000, above=True),
    "brew_water_g": Limit("brew water", "g", 0, 100_000, above=True),
    "bypass_g": Limit("bypass water", "g", 0, 100_000),
    "beverage_g": Limit("beverage mass", "g", 0, 100_000, above=True),
    "tds_pct": Limit("strength (TDS)", "%", 0, 5, hint=PPM_HINT),
    "concentrate_tds_pct": Limit("strength (TDS) of a concentrate", "%", 0, 25),
    "target_tds_pct": Limit("target strength (TDS)", "%", 0, 25, above=True),
    "ey_pct": Limit("extraction yield", "% of the dose", 0, 100, above=True),
    "brew_ratio": Limit("brew ratio, the R of 1:R", "", 0, 1_000, above=True),
    "retained_water_ratio": Limit("retained water ratio", "g/g", 0, 10),
    "moisture_pct": Limit("moisture of the ground coffee", "%", 0, 15),
    "accuracy_pct": Limit("accuracy half-width", "% TDS", 0, 2),
    "resolution_pct": Limit("resolution", "% TDS", 0, 1),
    "repeatability_pct": Limit("scatter of one reading (SD)", "% TDS", 0, 0.2, above=True),
    "scale_resolution_g": Limit("scale resolution", "g", 0, 50),
    "temperature_c": Limit("temperature", "°C", -20, 150, hint="Above 150 it may have been typed in °F."),
    "ambient_c": Limit("room temperature", "°C", -20, 45, hint="Above 45 it may have been typed in °F."),
    "tau_s": Limit("cooling time constant", "s", 0, 1e6, above=True),
    "elapsed_s": Limit("elapsed time", "s", 0, 1e6),
    "setups": Limit("number of setups", "", 2, 24),
    "tasters": Limit("number of tasters", "", 1, 50),
    "replicates": Limit("brews of each setup", "", 1, 12),
    "flights": Limit("number of flights", "", 1, 12),
    "lead_points": Limit("lead that matters", "points", 0, 8, above=True),
    "grind_um": Limit("median grind", "µm", 150, 2_500),
    "altitude_m": Limit("altitude", "m", -430, 8_850),
}


def check(**values: float | None) -> None:
    """Refuse the first value outside its limit.

    Keywords are names in LIMITS; None is skipped. Raises OutOfDomain with field, value and range.
    """
    for name, value in values.items():
        if value is not None and not LIMITS[name].holds(value):
            raise refusal(name, name, value)


def refusal(field: str, limit_name: str, value: float) -> OutOfDomain:
    limit = LIMITS[limit_name]
    remedy = f"Enter {limit.describe()}."
    return OutOfDomain(field, f"{limit.label} cannot be {value:g} {limit.unit}".strip() + ".", f"{remedy} {limit.hint}".strip(), value)


def check_read(field: str, tds_pct: float) -> None:
    """Refuse 0 % as a reading of coffee that somebody is about to give. (What is stored stays as it is.)"""
    if tds_pct == 0:
        remedy = "Zero the instrument with distilled water, wipe it, and put enough of the drink on: unzeroed, or dry, it shows 0."
        raise OutOfDomain(field, "0 % is no reading of coffee.", remedy, tds_pct)


def check_tds(field: str, tds_pct: float, *, concentrate: bool) -> None:
    """Refuse a strength above 5 % (25 % for a concentrate) with the hint about water ppm. Source: docs/formulas.md §1."""
    limit_name = "concentrate_tds_pct" if concentrate else "tds_pct"
    if not LIMITS[limit_name].holds(tds_pct):
        raise refusal(field, limit_name, tds_pct)
