"""Pours typed in a line, as steps of a recipe: read and checked, or refused. A plan is never made up."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from ..errors import Inconsistent, OutOfDomain
from .lint import lint
from .model import Recipe, Step, sums
from .reading import read

KNOWN = ("dose_g", "brew_water_g", "temperature_c", "brewer_type")


def pours_as_recipe(text: str, setup: Mapping[str, Any]) -> Recipe | None:
    """text: in the language of recipes, docs/recipe-text.md; setup: its dose_g, brew_water_g and bypass_g, g, temperature_c, °C or None, and
    brewer_type. None for an empty text. It ends when the drips stop, unless the text says otherwise; the setup's bypass comes last.

    Raises OutOfDomain (not understood, or no water in it) and Inconsistent (an error of the recipe check), both of "pours".

    >>> given = {"dose_g": 18, "brew_water_g": 290, "bypass_g": 0, "temperature_c": 93, "brewer_type": None}
    >>> [step.kind for step in pours_as_recipe("bloom 45 for 40 s, to 290 by 1:40", given).steps]
    ['bloom', 'pour']
    """
    if not text:
        return None
    found = read(text)
    if found.not_understood or not sums(found.recipe).poured_g:
        what = ", ".join(f"“{s.text.strip()}”" for s in found.not_understood[:3]) or "no amount of water"
        raise OutOfDomain(
            "pours", f"Not understood: {what}.", "Enter pours such as: bloom 45 for 40 s, to 170, to 290 by 1:40. Or leave the field empty.", text
        )
    recipe = replace(found.recipe, **{name: setup[name] for name in KNOWN}, ends=found.recipe.ends or "drips_stop")
    if wrong := next((f for f in lint(recipe) if f.severity == "error"), None):
        raise Inconsistent("pours", wrong.text, wrong.why, text)
    if setup["bypass_g"] and not sums(recipe).bypass_g:
        recipe = replace(recipe, steps=(*recipe.steps, Step("bypass", add_g=setup["bypass_g"])))
    return recipe
