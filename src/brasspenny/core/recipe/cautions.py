"""Short cautions, shown at the step where they apply. docs/formulas.md §6.

They say what can hurt and what to do, without scolding; the maker's guidance and local rules come first.
"""

from __future__ import annotations

from dataclasses import dataclass

from .. import figures
from ..kit.heat import SCALDS_C
from ..vocabulary import BREWERS, STEPS, FilterMaterial, StepKind
from .model import ON_COFFEE, Recipe, Step

SCALD_C = 60
HOT: frozenset[StepKind] = frozenset(s.code for s in STEPS if s.hot)
BURN = "A burn: cool running water, then seek care."


@dataclass(frozen=True)
class Caution:
    """steps: indexes of all the steps at which it can hurt; none for the recipe as a whole."""

    code: str
    steps: tuple[int, ...]
    text: str


SCALDS = "65 °C"
"""As it stands in the cautions; told in the bench's unit."""

AT_STEP: dict[StepKind, tuple[str, str]] = {
    "press": (
        "press",
        "Press with moderate, steady force. A plunger that will not move: stop, wait, lift it a little, and grind coarser next time; forced, it can throw hot liquid.",
    ),
    "invert": ("invert", "Turning over a full press can throw hot liquid: hold both parts, over a sink, away from faces."),
    "transfer": ("transfer", "Vent a sealed jug of hot slurry away from the face before pouring; steady the dripper on its server."),
    "break_crust": ("steam", "Hot slurry and steam: keep the face back."),
    "lid": ("lid", "Steam builds under a lid: lift it away from you."),
    "remove_brewer": ("topple", "The brewer drips and is hot: lift it by its handle, onto a saucer."),
    "serve": ("serve", f"Taste below {SCALDS}. Keep hot drinks away from children."),
}


REUSABLE: frozenset[FilterMaterial] = frozenset(("mesh", "metal", "cloth"))


def cautions(recipe: Recipe, filter_material: FilterMaterial | None = None) -> tuple[Caution, ...]:
    """Return the cautions of a recipe, each once, with every step it applies to (of scalding the first). filter_material: of the filter in the kit, None where it is
    not there: then no caution about it is given, whatever its name says."""
    found = [Caution("scald", _first_hot(recipe), f"Boiling water and steam scald. {BURN}")]
    if recipe.brewer_type is None or BREWERS[recipe.brewer_type].topples:
        found.append(Caution("dripper", (), "A dripper on a server topples: steady it. Glass cracks when knocked or shocked by heat."))
    if glass := _press_pot_turns(recipe):
        found.append(Caution("glass", glass, "The glass of a press-pot cracks when it is knocked or shocked by heat: hold it by its handle, over a tray."))
    full = next((i for i, step in enumerate(recipe.steps) if step.kind in ON_COFFEE), len(recipe.steps))
    for kind, (code, text) in AT_STEP.items():
        steps = tuple(i for i, step in enumerate(recipe.steps) if step.kind == kind and not (kind == "invert" and i < full))  # an empty press throws nothing
        if steps:
            found.append(Caution(code, steps, text.replace(SCALDS, figures.heat(SCALDS_C))))
    if filter_material in REUSABLE:
        found.append(Caution("reusable_filter", (), "Rinsing a reusable filter with hot water does not sanitise it: follow the maker's cleaning guidance."))
    return tuple(found)


def _press_pot_turns(recipe: Recipe) -> tuple[int, ...]:
    """The steps at which a press-pot's glass is handled: pressing it, and pouring off."""
    if recipe.brewer_type is None or "poured_off" not in BREWERS[recipe.brewer_type].ends:
        return ()
    return tuple(i for i, s in enumerate(recipe.steps) if s.kind in ("press", "serve"))


def _first_hot(recipe: Recipe) -> tuple[int, ...]:
    return tuple(i for i, s in enumerate(recipe.steps) if _hot(s))[:1]


def _hot(step: Step) -> bool:
    return step.kind in HOT and (step.temperature_c is None or step.temperature_c >= SCALD_C)
