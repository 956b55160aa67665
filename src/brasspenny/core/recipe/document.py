"""A recipe as plain JSON values, and back. Empty fields are left out, so a stored document reads like what was written."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from .model import GrindSetting, Recipe, Step

WINDOWS = ("total_time_s", "tds_pct", "ey_pct")
LISTS = ("steps", "grinds")


def to_document(recipe: Recipe) -> dict[str, Any]:
    """{"dose_g": 18.0, "steps": [{"kind": "pour", "to_g": 288.0}], …}; windows as [low, high] with null for an open end."""
    out = _filled(recipe)
    for name in WINDOWS:
        if name in out:
            out[name] = list(out[name])
    if recipe.grinds:
        out["grinds"] = [_filled_link(g) for g in recipe.grinds]
    out["steps"] = [_filled(step) for step in recipe.steps]
    return out


def from_document(document: dict[str, Any]) -> Recipe:
    """The reverse of to_document; the document has been checked where it came in.

    >>> from_document(to_document(Recipe(dose_g=18.0, steps=(Step("pour", to_g=288.0),)))).steps[0].to_g
    288.0
    """
    values = {k: tuple(v) if k in WINDOWS else v for k, v in document.items() if k not in LISTS}
    grinds = tuple(GrindSetting(**g) for g in document.get("grinds", []))
    return Recipe(steps=tuple(Step(**s) for s in document.get("steps", [])), grinds=grinds, **values)


def _filled(thing: Any) -> dict[str, Any]:
    return {f.name: _kept(f.name, value) for f in fields(thing) if (value := getattr(thing, f.name)) != f.default and f.name not in LISTS}


def _filled_link(given: GrindSetting) -> dict[str, str]:
    return {name: text for name, text in vars(given).items() if text}


def _kept(name: str, value: Any) -> Any:
    """To the decimals a document keeps: times to 0.1 s, everything else to 0.001."""
    if isinstance(value, tuple):
        return tuple(_kept(name, x) for x in value)
    return round(value, 1 if name.endswith("_s") else 3) if isinstance(value, float) else value
