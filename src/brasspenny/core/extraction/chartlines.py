"""What the strength–extraction chart is drawn from: ratio lines and named windows, as numbers. docs/formulas.md §3, §4."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..vocabulary import YieldBasis
from .yields import ratio_line_tds_pct

LINE_POINTS = 25


@dataclass(frozen=True)
class RatioLine:
    """Points (ey_pct, tds_pct) along 1:R."""

    brew_ratio: float
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Window:
    """A named region on the chart, % of the dose by % TDS. yield_basis: whose window it is; words are theirs, not a verdict."""

    code: str
    label: str
    ey_pct: tuple[float, float]
    tds_pct: tuple[float, float]
    about: str


CLASSIC_WINDOW = Window(
    "classic",
    "classic window",
    (18, 22),
    (1.15, 1.35),
    "18–22 % in-cup yield, 1.15–1.35 % TDS: preference surveys of the mid-20th century, kept by most trade bodies. A cup outside it is not a bad cup.",
)


EUROPEAN_WINDOW = Window(
    "european", "European variant", (18, 22), (1.20, 1.45), "18–22 % in-cup yield, 1.20–1.45 % TDS: the same survey tradition, a little stronger."
)
NORDIC_WINDOW = Window("nordic", "Nordic variant", (18, 22), (1.30, 1.55), "18–22 % in-cup yield, 1.30–1.55 % TDS: stronger still.")
WINDOWS: tuple[Window, ...] = (CLASSIC_WINDOW, EUROPEAN_WINDOW, NORDIC_WINDOW)


def windows(yield_basis: YieldBasis) -> tuple[Window, ...]:
    """All windows speak of in-cup yield, so a full-liquor chart has none."""
    return WINDOWS if yield_basis == "in_cup" else ()


@dataclass(frozen=True)
class Place:
    """Words at a place on the chart, % of the dose by % TDS, wherever the chart looks; with half-widths, a soft region around it."""

    words: str
    ey_pct: float
    tds_pct: float
    ey_half_pct: float = 0.0
    tds_half_pct: float = 0.0


@dataclass(frozen=True)
class Overlay:
    """A school's view of the chart without an edge: what cups taste like, or who likes what. Words, not verdicts."""

    code: str
    label: str
    about: str
    places: tuple[Place, ...]


SENSORY_MAP = Overlay(
    "sensory",
    "what cups taste like",
    "Drip-brew research of the 2020s (Frost, Ristenpart & Guinard 2020, J. Food Sci.; Guinard et al. 2023, J. Food Sci.): what cups taste like by region. Places are drawn roughly. Neutral words, soft regions, no edge.",
    (
        Place("sour, citrus, berry, dried fruit", 17.4, 1.58),
        Place("bitter, roasted, astringent, burnt, thick", 22.6, 1.58),
        Place("sweet, light, thin", 17.4, 1.08),
        Place("dry, papery, woody, flat", 22.6, 1.08),
    ),
)
TWO_DRINKERS = Overlay(
    "drinkers",
    "two kinds of drinkers",
    "Cotter et al. 2021, J. Food Sci.: consumers split in two. One part likes lower strength at middle extraction; the other medium strength at low or high extraction. Averaging the two pleases neither. Places are drawn roughly.",
    (
        Place("one part: lower strength, middle yield", ey_pct=20, tds_pct=1.1, ey_half_pct=1.6, tds_half_pct=0.09),
        Place("the other: medium strength, low yield", ey_pct=17, tds_pct=1.3, ey_half_pct=1.0, tds_half_pct=0.1),
        Place("or high yield", ey_pct=23, tds_pct=1.3, ey_half_pct=1.0, tds_half_pct=0.1),
    ),
)
OVERLAYS: tuple[Overlay, ...] = (SENSORY_MAP, TWO_DRINKERS)
TEMPERATURE_NOTE = (
    "Brewing temperature matters less than people think once strength and yield are held fixed (Batali, Ristenpart & Guinard 2020, Sci. Rep.). "
    "Compare at one strength and one yield before crediting the heat."
)


def overlays(yield_basis: YieldBasis) -> tuple[Overlay, ...]:
    """They too speak of in-cup yield."""
    return OVERLAYS if yield_basis == "in_cup" else ()


def ratio_lines(*, yield_basis: YieldBasis, retained_water_ratio: float, ey_range_pct: tuple[float, float], ratios: tuple[float, ...]) -> tuple[RatioLine, ...]:
    """Lines of equal brew ratio over a range of yields, % of the dose, low > 0."""
    lines = []
    for ratio in ratios:
        ey = np.linspace(*ey_range_pct, LINE_POINTS)
        lines.append(
            RatioLine(
                ratio,
                tuple(
                    (float(e), ratio_line_tds_pct(yield_basis=yield_basis, brew_ratio=ratio, ey_pct=float(e), retained_water_ratio=retained_water_ratio))
                    for e in ey
                ),
            )
        )
    return tuple(lines)


@dataclass(frozen=True)
class Axes:
    """Ends of the chart's axes, % of the dose and % TDS."""

    ey_pct: tuple[float, float]
    tds_pct: tuple[float, float]


EMPTY_AXES = Axes((16, 24), (1.0, 1.7))


def axes(points: list[tuple[float, float]]) -> Axes:
    """Axes that hold all (ey_pct, tds_pct) points with room around them, and never less than the usual field of view.

    >>> axes([]).ey_pct
    (16, 24)
    """
    if not points:
        return EMPTY_AXES
    ey, tds = zip(*points, strict=True)
    return Axes(
        (max(0.5, min(EMPTY_AXES.ey_pct[0] + 1, np.floor(min(ey)) - 1)), max(EMPTY_AXES.ey_pct[1] - 1, np.ceil(max(ey)) + 1)),
        (max(0.0, min(1.1, np.floor(10 * min(tds)) / 10 - 0.1)), max(1.5, np.ceil(10 * max(tds)) / 10 + 0.1)),
    )


def ratios_to_draw(axes_: Axes, *, yield_basis: YieldBasis, retained_water_ratio: float) -> tuple[float, ...]:
    """Whole ratios whose line crosses the chart; every second one when there are more than nine."""
    low, high = axes_.ey_pct
    crossing = []
    for ratio in range(int(retained_water_ratio) + 2, 61):
        left, right = (ratio_line_tds_pct(yield_basis=yield_basis, brew_ratio=ratio, ey_pct=e, retained_water_ratio=retained_water_ratio) for e in (low, high))
        if left < axes_.tds_pct[1] and right > axes_.tds_pct[0]:
            crossing.append(float(ratio))
    return tuple(crossing[:: 2 if len(crossing) > 9 else 1])
