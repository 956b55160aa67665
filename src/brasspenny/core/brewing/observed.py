"""What is seen of a brew besides its masses: one touch each, and what it says. docs/formulas.md §5–§7."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from .. import figures

BedSign = Literal["flat", "dome", "well", "channels", "muddy", "high_wall"]
Clouding = Literal["clear", "hazy", "cloudy"]
Mishap = Literal["spill", "late", "wrong_mass", "kettle_cold", "filter_slipped", "moved_brewer", "stuck_plunger"]
BED_LABELS: dict[BedSign, str] = {
    "flat": "flat",
    "dome": "dome",
    "well": "well",
    "channels": "channels",
    "muddy": "muddy",
    "high_wall": "grounds high on the wall",
}
CLOUDING_LABELS: dict[Clouding, str] = {c: c for c in get_args(Clouding)}
MISHAP_LABELS: dict[Mishap, str] = {
    "spill": "spill",
    "late": "started late",
    "wrong_mass": "wrong mass",
    "kettle_cold": "kettle too cold",
    "filter_slipped": "filter slipped",
    "moved_brewer": "brewer knocked",
    "stuck_plunger": "plunger stuck",
}
STALE_GRIND_MIN = 30.0
STEADY_PRESS_KG = (8.0, 16.0)
"""Moderate: what a flat hand gives. Our own figure for “moderate and steady”."""


@dataclass(frozen=True)
class Tolerances:
    """How far off plan a brew may be before it carries a caveat: water ± g or ± %, whichever is more; times ± s; temperature ± °C."""

    mass_g: float = 2.0
    share_pct: float = 1.0
    time_s: float = 5.0
    temperature_c: float = 1.0

    def mass_of(self, target_g: float) -> float:
        """g allowed either side of a target.

        >>> Tolerances().mass_of(288), Tolerances().mass_of(45)
        (2.88, 2.0)
        """
        return max(self.mass_g, self.share_pct / 100 * target_g)


USUAL_TOLERANCES = Tolerances()


def off_plan(
    *,
    tolerances: Tolerances,
    poured_g: float | None,
    planned_water_g: float | None,
    temperature_c: float | None,
    planned_c: float | None,
    dose_g: float | None = None,
    planned_dose_g: float | None = None,
    mishaps: Sequence[Mishap] = (),
    ground_min: float | None = None,
) -> tuple[str, ...]:
    """What of a logged brew is outside the tolerances, in words; empty when it is on plan. None: not known, so not judged.

    >>> off_plan(tolerances=Tolerances(), poured_g=292, planned_water_g=288, temperature_c=93, planned_c=93)
    ('water 4.0 g over',)
    """
    out = []
    if dose_g is not None and planned_dose_g is not None and abs(dose_g - planned_dose_g) > tolerances.share_pct / 100 * planned_dose_g + 0.05:
        out.append(f"dose {figures.grams_fine(abs(dose_g - planned_dose_g))} g {'over' if dose_g > planned_dose_g else 'under'}")
    if poured_g is not None and planned_water_g is not None and abs(poured_g - planned_water_g) > tolerances.mass_of(planned_water_g) + 1e-9:
        out.append(f"water {figures.grams_fine(abs(poured_g - planned_water_g))} g {'over' if poured_g > planned_water_g else 'under'}")
    if temperature_c is not None and planned_c is not None and abs(temperature_c - planned_c) > tolerances.temperature_c + 1e-9:
        out.append(f"{figures.heat_apart(abs(temperature_c - planned_c))} {'hotter' if temperature_c > planned_c else 'cooler'}")
    out += [MISHAP_LABELS[m] for m in mishaps]
    if ground_min is not None and ground_min > STALE_GRIND_MIN:
        out.append(f"ground {figures.minutes(ground_min)} min before")
    return tuple(out)


def bed_reads(bed: Sequence[BedSign], *, drawdown_s: float | None = None, usual_drawdown_s: float | None = None) -> str:
    """What the bed and its drawdown usually mean; "" when nothing stands out. Source: docs/formulas.md §7.

    >>> bed_reads(["channels"])
    'Channels: water found a short way; pour gentler, in the centre.'
    """
    if "channels" in bed:
        return "Channels: water found a short way; pour gentler, in the centre."
    if "muddy" in bed:
        return "A muddy bed: fines have moved; less agitation, or coarser."
    if "high_wall" in bed:
        return "Grounds high on the wall were left out of the brew: swirl once, or pour lower."
    if drawdown_s is not None and usual_drawdown_s:
        if drawdown_s < 0.75 * usual_drawdown_s:
            return "Ran faster than it usually does: too coarse, channels, or little agitation."
        if drawdown_s > 1.3 * usual_drawdown_s:
            return "Ran slower than it usually does: too fine, fines moving, much agitation, or a thick filter."
    return ""
