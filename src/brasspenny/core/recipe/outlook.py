"""The drink a recipe should give: its mass always, its strength and yield once the brewer has a history. docs/formulas.md §3.

Where it stops being true: yield is taken from earlier brews of the same brewer, whatever the coffee and grind were; the
range shown is their scatter, not a promise.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from .. import figures
from ..errors import OutOfDomain
from ..extraction.yields import TYPICAL_RETAINED_WATER_RATIO, predict_beverage_g, ratio_line_tds_pct
from ..vocabulary import YieldBasis
from .model import Recipe, ending_of, sums

USUAL_EY_PCT = 20.0
FEWEST_BREWS = 3


@dataclass(frozen=True)
class Window:
    """A named region of the strength–extraction chart, (low, high) in %."""

    label: str
    ey_pct: tuple[float, float]
    tds_pct: tuple[float, float]


@dataclass(frozen=True)
class History:
    """What earlier brews of this brewer gave: yields in % (on its own yield basis), and retained water ratios in g/g."""

    ey_pct: Sequence[float] = ()
    retained: Sequence[float] = ()

    @property
    def retained_water_ratio(self) -> float:
        return statistics.median(self.retained) if self.retained else TYPICAL_RETAINED_WATER_RATIO

    @property
    def enough(self) -> bool:
        return len(self.ey_pct) >= FEWEST_BREWS

    @property
    def expected_ey_pct(self) -> float:
        return statistics.fmean(self.ey_pct) if self.enough else USUAL_EY_PCT


@dataclass(frozen=True)
class Outlook:
    """beverage_g: bypass included. Ranges are None without at least three earlier brews; brews says how many there were, text what it rests on.
    concentrate: 1:1 to 1:4 (or aimed at a drink that strong), to be diluted or drunk small."""

    beverage_g: float
    tds_pct: float
    ey_pct: float
    tds_range_pct: tuple[float, float] | None
    ey_range_pct: tuple[float, float] | None
    retained_water_ratio: float
    brews: int
    text: str
    concentrate: bool


def expected_drink_g(
    *, dose_g: float, brew_water_g: float, bypass_g: float, history: History | None = None, yield_basis: YieldBasis = "in_cup"
) -> float | None:
    """The drink to expect, g, bypass included: the one forecast of recipe, plan and flight. None when the grounds would keep all the water.

    >>> round(expected_drink_g(dose_g=18, brew_water_g=290, bypass_g=0), 1)
    255.8
    """
    known = history or History()
    if brew_water_g / dose_g <= known.retained_water_ratio:
        return None
    drink = predict_beverage_g(
        yield_basis=yield_basis, dose_g=dose_g, brew_water_g=brew_water_g, ey_pct=known.expected_ey_pct, retained_water_ratio=known.retained_water_ratio
    )
    return drink + bypass_g


def _rests_on(history: History) -> str:
    """Whether a forecast is assumed, or from how many brews."""
    if history.enough:
        return f"From {len(history.ey_pct)} brews with this brewer: real, on plan and plausible ones."
    kept = f"{figures.retained_usual(history.retained_water_ratio)} g/g retained"
    learnt = f"{kept} is the median of {len(history.retained)} brews" if history.retained else f"{kept} is assumed"
    return f"{figures.per_cent(USUAL_EY_PCT)} % yield is assumed until three brews with one brewer are measured; {learnt}."


def outlook(recipe: Recipe, history: History, *, yield_basis: YieldBasis) -> Outlook | None:
    """What to expect, or None when dose or water are missing or cannot be (a draft is checked all the same), or the bed would
    keep all the water.

    Range: mean ± 2 SD of the earlier yields, and the strengths those give at this ratio.
    """
    try:
        return _expected(recipe, history, yield_basis)
    except OutOfDomain:
        return None


LIFTED = " It is lifted at a time: what still drips then is lost to the cup, so expect less drink than this."


def _expected(recipe: Recipe, history: History, yield_basis: YieldBasis) -> Outlook | None:
    total = sums(recipe)
    retained = history.retained_water_ratio
    if not recipe.dose_g or not total.poured_g or total.poured_g / recipe.dose_g <= retained:
        return None
    ratio = total.poured_g / recipe.dose_g
    enough, ey = history.enough, history.expected_ey_pct
    whole = expected_drink_g(dose_g=recipe.dose_g, brew_water_g=total.poured_g, bypass_g=total.bypass_g, history=history, yield_basis=yield_basis)
    drink = whole - total.bypass_g

    def strength(ey_pct: float) -> float:
        undiluted = ratio_line_tds_pct(yield_basis=yield_basis, brew_ratio=ratio, ey_pct=ey_pct, retained_water_ratio=retained)
        return undiluted * drink / (drink + total.bypass_g)

    ey_range = tds_range = None
    if enough:
        sd = statistics.stdev(history.ey_pct)
        ey_range = (max(0.5, ey - 2 * sd), ey + 2 * sd)
        tds_range = (strength(ey_range[0]), strength(ey_range[1]))
    return Outlook(
        beverage_g=whole,
        tds_pct=strength(ey),
        ey_pct=ey,
        tds_range_pct=tds_range,
        ey_range_pct=ey_range,
        retained_water_ratio=retained,
        brews=len(history.ey_pct),
        text=_rests_on(history) + (LIFTED if ending_of(recipe).kind == "lifted" else ""),
        concentrate=is_concentrate(recipe),
    )


def is_concentrate(recipe: Recipe) -> bool:
    """1:1 to 1:4 by all the water, or by the drink aimed at when the water is unknown. Source: docs/formulas.md §1, §6.

    >>> is_concentrate(Recipe(dose_g=20, beverage_g=60))
    True
    """
    water = sums(recipe).water_g or recipe.brew_water_g or recipe.beverage_g
    return bool(recipe.dose_g and water and 1 <= water / recipe.dose_g <= 4)


def outside_every_window(o: Outlook, windows: Sequence[Window]) -> bool:
    """Whether the expected cup, with its range if known, misses all of these windows."""
    tds = o.tds_range_pct or (o.tds_pct, o.tds_pct)
    ey = o.ey_range_pct or (o.ey_pct, o.ey_pct)
    return not any(_meet(tds, w.tds_pct) and _meet(ey, w.ey_pct) for w in windows)


def _meet(a: tuple[float, float], b: tuple[float, float]) -> bool:
    return not (math.nextafter(a[1], math.inf) < b[0] or a[0] > math.nextafter(b[1], math.inf))
