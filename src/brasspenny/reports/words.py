"""How the report writes numbers."""

from __future__ import annotations

from ..core import figures


def number(value: float | None, places: int) -> str:
    return "–" if value is None else figures.to_places(value, places).replace("-", "−")


def ends(interval: list[float] | None) -> str:
    return "–" if interval is None else f"{number(interval[0], 1)} to {number(interval[1], 1)}"


def chance(probability: float | None) -> str:
    return "–" if probability is None else figures.chance(probability).replace("more than ", ">").replace("less than ", "<")


def p_value(p: float) -> str:
    return "<0.001" if p < 0.001 else f"{figures.p_value(p)}"
