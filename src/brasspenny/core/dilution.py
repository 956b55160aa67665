"""Bringing cups to one strength with water. Only thinning can be done; yield does not change. Handbook §3."""

from __future__ import annotations

from dataclasses import dataclass

from .errors import Inconsistent
from .limits import check

MATCHED_WITHIN_TDS_PCT = 0.05
"""Cups further apart than this are not the same strength (handbook §3)."""


@dataclass(frozen=True)
class Dilution:
    add_water_g: float
    final_beverage_g: float


def dilute_to(*, beverage_g: float, tds_pct: float, target_tds_pct: float) -> Dilution:
    """Water of the same temperature to add, A = B·(c/c_target − 1), g.

    tds_pct and target_tds_pct: %, 0 to 25, target ≤ tds, else Inconsistent; beverage_g > 0. Source: handbook §3.

    >>> round(dilute_to(beverage_g=210, tds_pct=1.52, target_tds_pct=1.38).add_water_g, 1)
    21.3
    """
    check(beverage_g=beverage_g, concentrate_tds_pct=tds_pct, target_tds_pct=target_tds_pct)
    if target_tds_pct > tds_pct:
        raise Inconsistent(
            "target_tds_pct",
            f"water cannot make {tds_pct:g} % into {target_tds_pct:g} %.",
            f"Choose a target of {tds_pct:g} % or less: the weakest cup sets it.",
            target_tds_pct,
        )
    add = beverage_g * (tds_pct / target_tds_pct - 1)
    return Dilution(add, beverage_g + add)
