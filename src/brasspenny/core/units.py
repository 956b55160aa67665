"""Conversions between the units people write. docs/formulas.md §2.

Each unit has one dimension, and converting goes by way of that dimension's base unit. Two crossings are allowed:
volume to mass (of water, by its density at the stated temperature) and °Brix to TDS (by an adjustable factor).
Where it stops being true: the Brix factor is a rule of thumb (±0.15 % TDS); density is for pure water.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass

from .errors import Inconsistent, OutOfDomain

G_PER_OZ = 28.349523
ML_PER_US_FL_OZ = 29.5735
BRIX_FACTOR = 0.85
BRIX_HALF_WIDTH_TDS_PCT = 0.15


@dataclass(frozen=True)
class Unit:
    """to_base and from_base are inverse; `above` is the lowest value the unit can take (absolute zero, nought)."""

    dimension: str
    label: str
    to_base: Callable[[float], float]
    from_base: Callable[[float], float]
    low: float = -math.inf
    open_low: bool = False


def _scaled(dimension: str, label: str, factor: float, low: float = 0) -> Unit:
    return Unit(dimension, label, lambda x: x * factor, lambda x: x / factor, low)


UNITS: dict[str, Unit] = {
    "c": Unit("temperature", "°C", lambda x: x, lambda x: x, -273.15),
    "f": Unit("temperature", "°F", lambda x: (x - 32) / 1.8, lambda x: x * 1.8 + 32, -459.67),
    "g": _scaled("mass", "g", 1),
    "kg": _scaled("mass", "kg", 1000),
    "oz": _scaled("mass", "oz", G_PER_OZ),
    "lb": _scaled("mass", "lb", 16 * G_PER_OZ),
    "ml": _scaled("volume", "mL", 1),
    "l": _scaled("volume", "L", 1000),
    "us_fl_oz": _scaled("volume", "US fl oz", ML_PER_US_FL_OZ),
    "mg_l_caco3": _scaled("hardness", "mg/L as CaCO₃", 1),
    "dh": _scaled("hardness", "°dH", 17.848),
    "fh": _scaled("hardness", "°fH", 10),
    "gpg": _scaled("hardness", "gpg", 17.118),
    "mmol_l": _scaled("hardness", "mmol/L", 100.09),
    "brew_ratio": Unit("concentration", "1:R", lambda x: 1000 / x, lambda x: 1000 / x, 0, open_low=True),
    "g_per_l": Unit("concentration", "g/L", lambda x: x, lambda x: x, 0, open_low=True),
    "g_per_100g": Unit("concentration", "g per 100 g", lambda x: 10 * x, lambda x: x / 10, 0, open_low=True),
    "s": _scaled("time", "s", 1),
    "min": _scaled("time", "min", 60),
    "h": _scaled("time", "h", 3600),
    "tds_pct": _scaled("strength", "% TDS", 1),
    "brix": _scaled("brix", "°Brix", 1),
}


def convert(value: float, from_unit: str, to_unit: str, *, water_temp_c: float = 20, brix_factor: float = BRIX_FACTOR) -> float:
    """The same quantity in another unit.

    value: in `from_unit`; units: keys of UNITS. water_temp_c: 0 to 100, used only between volume and mass of water.
    Raises OutOfDomain for an impossible value, Inconsistent for units of different dimensions. Source: docs/formulas.md §2.

    >>> round(convert(200, "f", "c"), 2)
    93.33
    """
    source, target = UNITS[from_unit], UNITS[to_unit]
    if not math.isfinite(value) or value < source.low or (source.open_low and value == source.low):
        raise OutOfDomain("value", f"{value:g} {source.label} cannot be.", f"Give a value above {source.low:g} {source.label}.", value)
    base = source.to_base(value)
    if source.dimension != target.dimension:
        base = _cross(base, source, target, water_temp_c=water_temp_c, brix_factor=brix_factor)
    return target.from_base(base)


def _cross(base: float, source: Unit, target: Unit, *, water_temp_c: float, brix_factor: float) -> float:
    match source.dimension, target.dimension:
        case "volume", "mass":
            return base * water_density_g_per_ml(water_temp_c)
        case "mass", "volume":
            return base / water_density_g_per_ml(water_temp_c)
        case "brix", "strength":
            return base * brix_factor
        case "strength", "brix":
            return base / brix_factor
        case _:
            pass
    raise Inconsistent(
        "to",
        f"{source.label} is a {source.dimension} and {target.label} a {target.dimension}.",
        f"Choose another unit of {source.dimension}.",
    )


def water_density_g_per_ml(temp_c: float) -> float:
    """Density of pure water at one atmosphere, g/mL. temp_c: 0 to 100, else OutOfDomain.

    Source: Kell 1975, J. Chem. Eng. Data.

    >>> round(water_density_g_per_ml(20), 4)
    0.9982
    """
    if not 0 <= temp_c <= 100:
        raise OutOfDomain("water_temp_c", f"water is not liquid at {temp_c:g} °C.", "Give 0 to 100 °C.", temp_c)
    t = temp_c
    top = 999.83952 + t * (16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - 280.54253e-12 * t))))
    return top / (1 + 16.879850e-3 * t) / 1000


def brix_to_tds_pct(brix: float, *, factor: float = BRIX_FACTOR) -> float:
    """Strength in % from °Brix of a plain optical refractometer; good to ±0.15 % TDS. Source: docs/formulas.md §2.

    >>> round(brix_to_tds_pct(1.6), 2)
    1.36
    """
    return convert(brix, "brix", "tds_pct", brix_factor=factor)


def oven_tds_pct(*, dish_g: float, dried_g: float, sample_g: float) -> float:
    """Strength in % by drying: (dried residue with dish − empty dish) / sample. The reference others are checked by.

    Masses in g; dish_g ≤ dried_g ≤ dish_g + sample_g, sample_g > 0, else OutOfDomain. Source: docs/formulas.md §2.

    >>> round(oven_tds_pct(dish_g=20, dried_g=20.142, sample_g=10), 2)
    1.42
    """
    if not sample_g > 0:
        raise OutOfDomain("sample_g", f"a sample cannot weigh {sample_g:g} g.", "Give the mass poured into the dish.", sample_g)
    if not dish_g <= dried_g <= dish_g + sample_g:
        raise OutOfDomain("dried_g", "the dried dish must weigh between the empty and the full one.", "Weigh the dish again.", dried_g)
    return 100 * (dried_g - dish_g) / sample_g


_CLOCK = re.compile(r"(?:(?P<h>\d+):)?(?P<m>\d+):(?P<s>[0-5]\d(?:[.,]\d)?)")
_WORDS = re.compile(r"(?:(?P<m>\d+)\s*m(?:in)?)?\s*(?:(?P<s>\d+(?:[.,]\d+)?)\s*s?(?:ec)?)?", re.IGNORECASE)


_RATIO = re.compile(r"(?:1\s*:\s*)?(\d{1,2}(?:[.,]\d{1,2})?)")
LEAST_RATIO, MOST_RATIO = 1.0, 40.0


def read_ratio(text: str) -> float:
    """g of water to one of coffee, as people write it: 1:16, 1 : 15.5, 16. Domain: 1:1 to 1:40. Raises OutOfDomain at `ratio`.

    >>> read_ratio("1:15,5"), read_ratio("16")
    (15.5, 16.0)
    """
    found = _RATIO.fullmatch(text.strip())
    ratio = float(found[1].replace(",", ".")) if found else 0.0
    if not LEAST_RATIO <= ratio <= MOST_RATIO:
        raise OutOfDomain("ratio", f"“{text.strip()}” is no ratio of water to coffee.", "Enter a ratio such as 1:16, from 1:1 to 1:40.", text)
    return ratio


def read_duration_s(text: str) -> float:
    """Seconds from the ways people write a duration: `1:35`, `95`, `95s`, `1m35`, `1:02:00`, `2:45.4`.

    Raises OutOfDomain when the text is none of these. Source: docs/formulas.md §2.

    >>> [read_duration_s(t) for t in ("1:05", "95", "95s", "1m35", "2:45.4")]
    [65.0, 95.0, 95.0, 95.0, 165.4]
    """
    tidy = text.strip()
    found = _CLOCK.fullmatch(tidy) or (_WORDS.fullmatch(tidy) if tidy else None)
    if not found or len(tidy) > 20:
        raise OutOfDomain("text", "that is not a time.", "Enter a time such as 1:35 or 95.", text[:40])
    parts = {name: float(part.replace(",", ".")) for name, part in found.groupdict().items() if part}
    return parts.get("h", 0) * 3600 + parts.get("m", 0) * 60 + parts.get("s", 0)


def write_duration(seconds: float) -> str:
    """m:ss, or h:mm:ss from an hour on; rounded to the second.

    >>> write_duration(95)
    '1:35'
    """
    minutes, s = divmod(round(seconds), 60)
    h, m = divmod(minutes, 60)
    return f"{h}:{m:02}:{s:02}" if h else f"{m}:{s:02}"
