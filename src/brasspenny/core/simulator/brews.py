"""From a recipe to what the model needs: its pours, when it opens, when it is lifted or pressed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..errors import NotEnoughKnowns
from ..recipe.model import BLOOM_POUR_G_S, ON_COFFEE, Recipe, Timed, sums, timeline
from ..vocabulary import BREWER_KINDS, BrewerType
from .model import USUAL_LOG_SD, BrewIn, PourIn

STEEPED: frozenset[BrewerType] = frozenset(k.code for k in BREWER_KINDS if k.steeped)
VALVED: frozenset[BrewerType] = frozenset(k.code for k in BREWER_KINDS if k.valved)
FILTER_FACTORS: dict[str, float] = {"paper": 1.0, "thick paper": 1.8, "cloth": 1.3, "mesh": 0.25, "metal": 0.25, "none": 0.0}
USUAL_WATER_C = 93.0


@dataclass(frozen=True)
class GroundTo:
    """A grind as the model takes it: median by mass, µm, and spread of ln(size)."""

    median_um: float
    log_sd: float = USUAL_LOG_SD


USUAL_GRIND = GroundTo(700.0)
"""A setting is no particle size: without samples of its dial a brew is taken as a medium grind."""


def brew_of(recipe: Recipe, *, grind: GroundTo = USUAL_GRIND, filter_factor: float = 1.0, dose_g: float | None = None) -> BrewIn:
    """The recipe as the model brews it. filter_factor: times the usual paper's resistance.

    Cones and beds drain from the first pour; presses are closed and decanted at their end; valved brewers open after their last
    wait (or transfer). Raises NotEnoughKnowns without a dose or water.
    """
    dose = dose_g or recipe.dose_g
    total = sums(recipe)
    if not dose:
        raise NotEnoughKnowns("recipe.dose_g", "there is no dose.", "Give the grams of coffee.")
    if not total.poured_g:
        raise NotEnoughKnowns("recipe.steps", "no water is poured onto the coffee.", "Give its pours.")
    timed = timeline(recipe)
    steeped = recipe.brewer_type in STEEPED
    lift = next((t.start_s for t in timed if t.step.kind == "remove_brewer"), None)
    return BrewIn(
        dose_g=dose,
        grind_um=grind.median_um,
        grind_log_sd=grind.log_sd,
        pours=tuple(_pour(t, recipe) for t in timed if t.step.kind in ON_COFFEE and t.water_g > 0),
        closed_until_s=_opens_at(recipe, timed) if recipe.brewer_type in VALVED else 0.0,
        lift_s=None if steeped else lift,
        decanted=steeped,
        filter_factor=filter_factor,
        bypass_g=total.bypass_g,
        ends_s=total.total_s if steeped else 0.0,
    )


def _pour(t: Timed, recipe: Recipe) -> PourIn:
    temperature = next(c for c in (t.step.temperature_c, recipe.temperature_c, USUAL_WATER_C) if c is not None)
    lasts = t.water_g / BLOOM_POUR_G_S if t.step.kind == "bloom" else t.end_s - t.start_s
    return PourIn(max(0.0, t.start_s), max(0.0, t.start_s) + lasts, t.water_g, temperature)


def _opens_at(recipe: Recipe, timed: Sequence[Timed]) -> float:
    """When the valve is opened or the slurry poured over: after the last wait or transfer."""
    return max((t.end_s for t in timed if t.step.kind in ("wait", "transfer")), default=sums(recipe).last_pour_end_s)
