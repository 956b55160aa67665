"""A cup wished for on the chart: which dose, water or ratio gives it at today's yield, and which way to turn the rest. docs/formulas.md §3, §10."""

from __future__ import annotations

from dataclasses import dataclass

from .. import figures
from ..errors import PennyError
from ..vocabulary import YieldBasis
from .yields import solve

ALIKE_EY_PCT = 0.5
"""Closer than this is the same yield for a first step."""


@dataclass(frozen=True)
class Aim:
    """For the wished strength at today's yield: the ratio; the dose with today's water; the water with today's dose (None where
    that cannot be). direction: of the yield itself, in words, "" when it is already there. wished_ratio: when the wished yield is met too."""

    ratio_now: float | None
    dose_g: float | None
    brew_water_g: float | None
    wished_ratio: float | None
    direction: str
    text: str


def aim(
    *, yield_basis: YieldBasis, dose_g: float, brew_water_g: float, retained_water_ratio: float, ey_now_pct: float, tds_wished_pct: float, ey_wished_pct: float
) -> Aim:
    """What leads from a cup of today's yield to the wished (strength, yield), % TDS and % of the dose; masses g.

    >>> a = aim(yield_basis="in_cup", dose_g=18, brew_water_g=288, retained_water_ratio=2.1, ey_now_pct=20, tds_wished_pct=1.653, ey_wished_pct=20)
    >>> round(a.ratio_now, 1), round(a.brew_water_g), a.direction
    (14.0, 252, '')
    """
    shared = {"yield_basis": yield_basis, "retained_water_ratio": retained_water_ratio, "tds_pct": tds_wished_pct}
    dose, _ = _solved(**shared, ey_pct=ey_now_pct, brew_water_g=brew_water_g)
    _, water = _solved(**shared, ey_pct=ey_now_pct, dose_g=dose_g)
    wished, _ = _solved(**shared, ey_pct=ey_wished_pct, brew_water_g=brew_water_g)
    ratio = water / dose_g if water else None
    turn = _direction(ey_wished_pct - ey_now_pct)
    return Aim(ratio, dose, water, brew_water_g / wished if wished else None, turn, _text(ratio, dose, water, turn))


def _solved(**known) -> tuple[float | None, float | None]:
    try:
        found = solve(**known)
    except PennyError:
        return None, None
    return found.dose_g, found.brew_water_g


def _direction(more_pct: float) -> str:
    if abs(more_pct) <= ALIKE_EY_PCT:
        return ""
    if more_pct > 0:
        return f"{figures.points(more_pct)} points more yield: grind finer, then hotter, then more agitation or contact."
    return f"{figures.points(-more_pct)} points less yield: grind coarser, then cooler, then less agitation."


def _text(ratio: float | None, dose: float | None, water: float | None, turn: str) -> str:
    if ratio is None or dose is None or water is None:
        return "No ratio gives that strength at today's yield." + (f" {turn}" if turn else "")
    said = f"At today's yield {figures.ratio(ratio)} gives that strength: {figures.grams_fine(dose)} g on the same water, or {figures.grams(water)} g on the same dose."
    return f"{said} {turn}".strip()
