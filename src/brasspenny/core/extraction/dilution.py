"""Bringing cups to one strength with water. Only thinning can be done; yield does not change. docs/formulas.md §3."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..errors import Inconsistent, OutOfDomain
from ..limits import check

MATCHED_WITHIN_TDS_PCT = 0.05
"""Cups further apart than this are not the same strength (docs/formulas.md §3)."""


def one_strength(tds_pct: Sequence[float], within_tds_pct: float = MATCHED_WITHIN_TDS_PCT) -> bool:
    """Whether cups are of one strength: none further than 0.05 % TDS, or what this panel tells apart, from another, to the 0.01 % a refractometer shows.

    The one rule of margin, matching and plan. Source: docs/formulas.md §3.

    >>> one_strength([1.46, 1.41]), one_strength([1.46, 1.40]), one_strength([])
    (True, False, True)
    """
    return len(tds_pct) < 2 or round(max(tds_pct) - min(tds_pct), 2) <= within_tds_pct


@dataclass(frozen=True)
class Dilution:
    add_water_g: float
    final_beverage_g: float


def dilute_to(*, beverage_g: float, tds_pct: float, target_tds_pct: float) -> Dilution:
    """Water of the same temperature to add, A = B·(c/c_target − 1), g.

    tds_pct and target_tds_pct: %, 0 to 25, target ≤ tds, else Inconsistent; beverage_g > 0. Source: docs/formulas.md §3.

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


@dataclass(frozen=True)
class Server:
    """A drink as it stands: g, % TDS; drink_c when known."""

    name: str
    beverage_g: float
    tds_pct: float
    drink_c: float | None = None


@dataclass(frozen=True)
class Matched:
    """What to do with one server. mixed_c: when both temperatures are known; cup and water are taken as equally heat-holding."""

    name: str
    add_water_g: float
    final_beverage_g: float
    final_tds_pct: float
    mixed_c: float | None


@dataclass(frozen=True)
class Matching:
    """apart_tds_pct: strongest less weakest as brewed; needed: they are not one strength yet."""

    target_tds_pct: float
    apart_tds_pct: float
    needed: bool
    servers: tuple[Matched, ...]


def match_strengths(servers: Sequence[Server], *, target_tds_pct: float | None = None, water_c: float | None = None) -> Matching:
    """Every server thinned to one strength: the weakest's, or less when a target is given. Yields do not change.

    At least two servers. Raises Inconsistent for a target above the weakest, naming it. Source: docs/formulas.md §3.

    >>> m = match_strengths([Server("A", 210, 1.52), Server("B", 215, 1.38)])
    >>> [round(s.add_water_g, 1) for s in m.servers]
    [21.3, 0.0]
    """
    weakest = min(servers, key=lambda s: s.tds_pct)
    target = weakest.tds_pct if target_tds_pct is None else target_tds_pct
    if target > weakest.tds_pct:
        raise Inconsistent(
            "target_tds_pct",
            f"{weakest.name} is at {weakest.tds_pct:g} %, and water cannot strengthen it.",
            f"Choose a target of {weakest.tds_pct:g} % or less.",
            target,
        )
    out = []
    for i, s in enumerate(servers):
        try:
            d = dilute_to(beverage_g=s.beverage_g, tds_pct=s.tds_pct, target_tds_pct=target)
        except OutOfDomain as error:
            raise error.at("target_tds_pct" if error.field == "target_tds_pct" else f"servers.{i}.{error.field.removeprefix('concentrate_')}") from error
        out.append(Matched(s.name, d.add_water_g, d.final_beverage_g, target, _mixed_c(s, d, water_c)))
    apart = max(s.tds_pct for s in servers) - weakest.tds_pct
    return Matching(target, apart, not one_strength([s.tds_pct for s in servers]), tuple(out))


def _mixed_c(server: Server, d: Dilution, water_c: float | None) -> float | None:
    if server.drink_c is None or (water_c is None and d.add_water_g > 0):
        return None
    return (server.beverage_g * server.drink_c + d.add_water_g * (water_c or 0.0)) / d.final_beverage_g
