"""What each scale reads: jug, dripper and server each have their own zero, and a reading is not yet water. docs/formulas.md §6.

Coffee in a dripper that was zeroed empty counts: 105 g of water with 15.5 g of coffee reads 120.5 g, and a later "to 245" on that scale is 229.5 g of water.
"""

from __future__ import annotations

from dataclasses import dataclass

from .model import ON_COFFEE, Recipe, Zeroed, own_water_g


@dataclass(frozen=True)
class Stand:
    """One step on the scale it stands on. extra_g: what the scale shows besides the water poured so far; reads_g: what it reads when the step has its water (None before any); differs: it
    does not read the water; slurry_g: what a transfer should read, None for other steps."""

    extra_g: float
    reads_g: float | None
    slurry_g: float | None = None
    zeroed: Zeroed = ""

    @property
    def differs(self) -> bool:
        return abs(self.extra_g) > 0.05


def stands(recipe: Recipe) -> tuple[Stand, ...]:
    """Every step's, in order. A transfer moves the brew onto a scale of its own: zeroed empty it shows the coffee as well.

    >>> from .model import Step
    >>> r = Recipe(dose_g=15.5, steps=(Step("pour", to_g=105), Step("transfer", zeroed="empty"), Step("pour", to_g=229.5)))
    >>> [(s.extra_g, s.reads_g, s.slurry_g) for s in stands(r)]
    [(0.0, 105.0, None), (15.5, 120.5, 120.5), (15.5, 245.0, None)]
    """
    out, water, extra = [], 0.0, 0.0
    for step, own in zip(recipe.steps, own_water_g(recipe), strict=True):
        if step.kind == "transfer":
            extra = recipe.dose_g or 0.0 if step.zeroed == "empty" else 0.0
            slurry = water + extra if step.zeroed and (recipe.dose_g or not extra) else None
            out.append(Stand(extra, water + extra if water else None, slurry, step.zeroed))
            continue
        water += own if step.kind in ON_COFFEE else 0.0
        out.append(Stand(extra, water + extra if water else None))
    return tuple(out)


def water_of(reading_g: float, stand: Stand) -> float:
    """The water on the coffee that a reading of this scale means, g (never negative).

    >>> water_of(245, Stand(15.5, None))
    229.5
    """
    return max(0.0, reading_g - stand.extra_g)
