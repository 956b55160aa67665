"""A recipe bent to a setup's own dose, water, bypass and temperature, keeping each pour's share."""

from __future__ import annotations

from dataclasses import replace

from .model import ON_COFFEE, Recipe, Step, as_per_pour, sums
from .scaling import to_water


def fitted(recipe: Recipe, *, dose_g: float, brew_water_g: float, bypass_g: float, temperature_c: float | None) -> Recipe:
    """The same steps for these amounts. Masses in g; temperature_c None leaves the recipe's own.

    Steps with a temperature of their own move with the recipe's. Bypass goes to its step, or to a new last one.
    """
    out = replace(recipe, dose_g=dose_g)
    if abs(sums(out).poured_g - brew_water_g) > 0.05:
        out = to_water(replace(out, brew_ratio=None), brew_water_g) or out
    if abs(sums(out).bypass_g - bypass_g) > 0.05:
        out = _with_bypass(out, bypass_g)
    if temperature_c is not None and temperature_c != recipe.temperature_c:
        out = _warmer(out, temperature_c)
    total = sums(out)
    return replace(out, brew_water_g=round(total.poured_g, 3), brew_ratio=round(total.brew_ratio, 2) if recipe.brew_ratio and total.brew_ratio else None)


def _with_bypass(recipe: Recipe, bypass_g: float) -> Recipe:
    kept = [s for s in recipe.steps if s.kind != "bypass"]
    if bypass_g:
        old = next((i for i, s in enumerate(recipe.steps) if s.kind == "bypass"), len(kept))
        kept.insert(old, Step("bypass", add_g=bypass_g))
    return replace(recipe, steps=tuple(kept))


def _warmer(recipe: Recipe, temperature_c: float) -> Recipe:
    shift = temperature_c - recipe.temperature_c if recipe.temperature_c is not None else 0.0
    steps = tuple(replace(s, temperature_c=s.temperature_c + shift) if s.temperature_c is not None and s.kind in ON_COFFEE else s for s in recipe.steps)
    return replace(recipe, temperature_c=temperature_c, steps=steps)


def plain_pour(dose_g: float, brew_water_g: float, bypass_g: float, temperature_c: float | None) -> Recipe:
    """What a setup that gives no pours is timed as: all its water in one pour at the usual rate, drips stop. No pours are made up for it."""
    steps = [Step("pour", to_g=brew_water_g)]
    if bypass_g:
        steps.append(Step("bypass", add_g=bypass_g))
    return as_per_pour(Recipe(steps=tuple(steps), dose_g=dose_g, brew_water_g=brew_water_g, temperature_c=temperature_c, ends="drips_stop"))
