"""Blending two waters to a target. docs/formulas.md §5.

Hardness, alkalinity and mineral content mix linearly by mass. Where it stops being true: lime that falls out in the
kettle, and waters of very different pH, which exchange carbonate as they meet.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from .. import figures
from ..errors import Inconsistent, NotEnoughKnowns

QUALITIES: dict[str, str] = {
    "hardness_mg_l": "total hardness, mg/L as CaCO₃",
    "alkalinity_mg_l": "alkalinity, mg/L as CaCO₃",
    "minerals_mg_l": "mineral content, mg/L",
}
ADVISED: dict[str, tuple[float, float]] = {"hardness_mg_l": (50, 175), "alkalinity_mg_l": (40, 75)}
"""Common advice, mg/L as CaCO₃. Source: docs/formulas.md §5."""
COMMON_ADVICE = (
    "Hardness {:g} to {:g}, alkalinity {:g} to {:g} mg/L as CaCO₃. ".format(*ADVISED["hardness_mg_l"], *ADVISED["alkalinity_mg_l"])
    + "Waters of the same hardness can taste different: soft water brews bright and delicate."
)


@dataclass(frozen=True)
class Blend:
    """first_share: of the first water, 0 to 1. got: each quality known of both waters, of the blend; off: blend − target.
    reached: every target met within 2 % (or 1 mg/L); notes: what to know of the blend, in words."""

    first_share: float
    got: dict[str, float]
    off: dict[str, float]
    reached: bool
    notes: tuple[str, ...]


def blend(first: Mapping[str, float | None], second: Mapping[str, float | None], target: Mapping[str, float | None]) -> Blend:
    """The share of the first water that comes nearest the target, each quality's miss counted relative to its target.

    Each mapping: QUALITIES in mg/L, ≥ 0, or None when unknown. One target alone must be reachable. Raises
    NotEnoughKnowns (no target, or a water's value for it unknown), Inconsistent (outside what the two can give).

    >>> round(blend({"hardness_mg_l": 200}, {"hardness_mg_l": 20}, {"hardness_mg_l": 92}).first_share, 3)
    0.4
    """
    wanted = {q: v for q in QUALITIES if (v := target.get(q)) is not None}
    if not wanted:
        raise NotEnoughKnowns("target", "no target is given.", "Give a hardness, an alkalinity or a mineral content.")
    for q in wanted:
        for name, water in (("first", first), ("second", second)):
            if water.get(q) is None:
                raise NotEnoughKnowns(f"{name}.{q}", f"the {QUALITIES[q]} of the {name} water is not known.", "Measure it, or leave that target out.")
    share = _nearest_share(first, second, wanted)
    if len(wanted) == 1:
        _refuse_unreachable(first, second, *next(iter(wanted.items())))
    got = {q: share * first[q] + (1 - share) * second[q] for q in QUALITIES if first.get(q) is not None and second.get(q) is not None}
    off = {q: got[q] - v for q, v in wanted.items()}
    reached = all(abs(off[q]) <= max(1.0, 0.02 * v) for q, v in wanted.items())
    return Blend(share, got, off, reached, tuple(_notes(got, off, wanted, reached)))


def _nearest_share(first, second, wanted: Mapping[str, float]) -> float:
    """Least squares of the relative misses, kept within 0 and 1; waters that are alike mix by halves."""
    top = bottom = 0.0
    for q, v in wanted.items():
        weight = 1 / max(v, 1.0) ** 2
        span = first[q] - second[q]
        top += weight * span * (v - second[q])
        bottom += weight * span * span
    return min(1.0, max(0.0, top / bottom)) if bottom else 0.5


def _refuse_unreachable(first, second, quality: str, wanted: float) -> None:
    low, high = sorted((first[quality], second[quality]))
    if not low - 1e-9 <= wanted <= high + 1e-9:
        raise Inconsistent(
            f"target.{quality}", f"these two waters give {low:g} to {high:g} mg/L, not {wanted:g}.", "Choose a target between them, or another water.", wanted
        )


def _notes(got: Mapping[str, float], off: Mapping[str, float], wanted: Mapping[str, float], reached: bool):
    if not reached:
        worst = max(off, key=lambda q: abs(off[q]) / max(wanted[q], 1.0))
        yield f"One blend cannot meet all targets: {QUALITIES[worst].split(',')[0]} ends {figures.hardness(abs(off[worst]))} mg/L {'over' if off[worst] > 0 else 'under'}."
    for quality, (low, high) in ADVISED.items():
        if quality in got and not low <= got[quality] <= high:
            name = QUALITIES[quality].split(",")[0].capitalize()
            yield f"{name} {figures.hardness(got[quality])} mg/L is {'below' if got[quality] < low else 'above'} the common advice, {low:g} to {high:g}."
