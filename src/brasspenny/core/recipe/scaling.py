"""The same recipe for another dose, cup count, vessel or strength. docs/formulas.md §6.

Ratio and each pour's share are kept, and so are the times; bed depth then differs, which changes the drawdown, and
that is said. Masses are rounded to 0.1 g, which a brewing scale shows.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from .. import figures
from ..errors import OutOfDomain
from ..extraction.yields import TYPICAL_RETAINED_WATER_RATIO
from .model import DOSE, ON_COFFEE, Recipe, fits, own_water_g, sums

USUAL_RETAINED = TYPICAL_RETAINED_WATER_RATIO
NOTICEABLE = 1.15


@dataclass(frozen=True)
class Scaled:
    """warnings: sentences about what scaling does not keep."""

    recipe: Recipe
    warnings: tuple[str, ...]


def scale(
    recipe: Recipe,
    *,
    dose_g: float | None = None,
    cups: float | None = None,
    cup_g: float = 200,
    vessel_ml: float | None = None,
    retained_water_ratio: float = USUAL_RETAINED,
    dose_range_g: tuple[float, float] | None = None,
    volume_ml: float | None = None,
    round_to_g: float | None = None,
) -> Scaled:
    """To a dose in g, to a number of cups of cup_g g of drink, or to the drink a vessel of vessel_ml mL holds: give exactly one.

    round_to_g: what every pour's reading is rounded to, for hands that pour by the whole gram or by five. dose_range_g, volume_ml: the brewer's, for warnings. Raises OutOfDomain without dose and water, or when the bed keeps all.
    """
    total = sums(recipe)
    if not recipe.dose_g or not total.poured_g:
        raise OutOfDomain("recipe", "a recipe without dose and water cannot be scaled.", "Complete it first.")
    if sum(x is not None for x in (dose_g, cups, vessel_ml)) != 1:
        raise OutOfDomain("dose_g", "one thing to scale to is needed.", "Give dose_g, cups or vessel_ml.")
    if dose_g is None:
        drink_per_g = total.water_g / recipe.dose_g - retained_water_ratio
        if drink_per_g <= 0:
            raise OutOfDomain("recipe", "the grounds would keep all of this water.", "Use more water per gram.")
        dose_g = (cups * cup_g if cups is not None else vessel_ml) / drink_per_g
    scaled = to_dose(recipe, round(dose_g, 1))
    if not fits(scaled):
        too_little = scaled.dose_g < DOSE[0]
        says = "is less than can be weighed" if too_little else "makes more water than a recipe can hold"
        raise OutOfDomain("dose_g", f"{scaled.dose_g:g} g {says}.", "Scale to more." if too_little else "Scale to less.", scaled.dose_g)
    even = rounded(scaled, round_to_g) if round_to_g else scaled
    said = [_what_rounding_does(scaled, even, round_to_g)] if round_to_g and even != scaled else []
    return Scaled(even, (*said, *_warnings(recipe, even, dose_range_g, volume_ml)))


def rounded(recipe: Recipe, to_g: float) -> Recipe:
    """The same recipe with every reading a multiple of to_g; water and ratio follow, where they are stated. A pour never vanishes.

    >>> from .model import Step
    >>> [s.to_g for s in rounded(Recipe(dose_g=18, steps=(Step("bloom", to_g=47.3), Step("pour", to_g=291.8))), 5).steps]
    [45, 290]
    """
    out, before, given = [], 0.0, 0.0
    for step, own in zip(recipe.steps, own_water_g(recipe), strict=True):
        if step.kind in ON_COFFEE and own:
            before += own
            reading = max(given + to_g, to_g * round(before / to_g))
            step = replace(step, to_g=reading) if step.to_g is not None else replace(step, add_g=reading - given)
            given = reading
        elif step.kind == "bypass" and step.add_g:
            step = replace(step, add_g=max(to_g, to_g * round(step.add_g / to_g)))
        out.append(step)
    even = replace(recipe, steps=tuple(out))
    total = sums(even)
    return replace(
        even,
        brew_water_g=total.poured_g if recipe.brew_water_g else recipe.brew_water_g,
        brew_ratio=round(total.brew_ratio, 2) if recipe.brew_ratio and total.brew_ratio else recipe.brew_ratio,
    )


def _what_rounding_does(before: Recipe, after: Recipe, to_g: float) -> str:
    """By how much the largest share of the water moved, and the ratio that comes of it."""
    one, two = (sums(r).poured_g or 1.0 for r in (before, after))
    moved = max((abs(a / one - b / two) for a, b in zip(own_water_g(before), own_water_g(after), strict=True)), default=0.0)
    return f"Rounded to {to_g:g} g: no pour's share of the water moves by more than {figures.points(100 * moved)} percentage points, and the ratio is 1:{figures.ratio(sums(after).brew_ratio)}."


def _warnings(before: Recipe, after: Recipe, dose_range_g: tuple[float, float] | None, volume_ml: float | None):
    times = after.dose_g / before.dose_g
    if not 1 / NOTICEABLE <= times <= NOTICEABLE:
        deeper = "deeper and drains slower: grind a little coarser" if times > 1 else "shallower and drains faster: grind a little finer"
        yield f"The bed is {deeper} to hold the time."
    if dose_range_g and not dose_range_g[0] <= after.dose_g <= dose_range_g[1]:
        yield f"{after.dose_g:g} g is outside the brewer's working range, {dose_range_g[0]:g} to {dose_range_g[1]:g} g."
    if volume_ml and max(own_water_g(after), default=0) > volume_ml:
        yield f"One pour is more than the brewer holds, {volume_ml:g} mL."
    fastest = max((w / s.duration_s for s, w in zip(after.steps, own_water_g(after), strict=True) if s.duration_s and w and s.kind == "pour"), default=0)
    if fastest > 15:
        yield f"The times are kept, so one pour becomes {figures.rate(fastest)} g/s: give it longer."


def to_dose(recipe: Recipe, dose_g: float) -> Recipe:
    """Everything weighed, times dose_g over the old dose."""
    if not recipe.dose_g:
        return replace(recipe, dose_g=dose_g)
    return _times(replace(recipe, dose_g=dose_g), dose_g / recipe.dose_g)


def to_water(recipe: Recipe, poured_g: float) -> Recipe | None:
    """The same dose with the pours stretched to add up to poured_g, bypass unchanged; None when nothing is poured."""
    now = sums(recipe).poured_g
    if not now or poured_g <= 0:
        return None
    factor = poured_g / now
    steps = tuple(_stretched(s, factor) if s.kind in ON_COFFEE else s for s in recipe.steps)
    out = replace(recipe, steps=_land_on(steps, round(poured_g, 1)))
    total = sums(out)
    return replace(
        out,
        brew_water_g=round(total.poured_g, 1) if recipe.brew_water_g else None,
        brew_ratio=round(total.brew_ratio, 2) if recipe.brew_ratio and total.brew_ratio else None,
    )


def to_strength(recipe: Recipe, tds_pct: float, *, ey_pct: float, retained: float) -> Recipe | None:
    """The pours that give tds_pct at this yield (in-cup, bypass unchanged): W = D·(E/c − E + ρ) − Y."""
    if not recipe.dose_g or tds_pct <= 0:
        return None
    c, e = tds_pct / 100, ey_pct / 100
    return to_water(recipe, recipe.dose_g * (e * (1 - c) / c + retained) - sums(recipe).bypass_g)


def _times(recipe: Recipe, factor: float) -> Recipe:
    steps = tuple(_stretched(s, factor) for s in recipe.steps)
    return replace(
        recipe,
        steps=steps,
        brew_water_g=_times_g(recipe.brew_water_g, factor),
        beverage_g=_times_g(recipe.beverage_g, factor),
        out_g=_times_g(recipe.out_g, factor),
    )


def _stretched(step, factor: float):
    return replace(step, to_g=_times_g(step.to_g, factor), add_g=_times_g(step.add_g, factor), reading_g=_times_g(step.reading_g, factor))


def _times_g(grams: float | None, factor: float) -> float | None:
    return None if grams is None else round(grams * factor, 1)


def _land_on(steps: tuple, poured_g: float) -> tuple:
    """Rounding every pour may miss the total by tenths: the last cumulative reading is set to it."""
    last = max((i for i, s in enumerate(steps) if s.kind in ON_COFFEE), default=None)
    if last is None or steps[last].to_g is None:
        return steps
    return (*steps[:last], replace(steps[last], to_g=poured_g), *steps[last + 1 :])
