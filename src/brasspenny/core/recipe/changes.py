"""What differs between two versions of a recipe, in words: "one change: 93 → 96 °C"."""

from __future__ import annotations

from dataclasses import dataclass, replace
from difflib import SequenceMatcher

from .. import figures
from ..extraction.yields import BREWER_LABELS
from ..units import write_duration
from .model import STEP_LABELS, Recipe, sums
from .scaling import to_water
from .writing import write_step

FIELD_WORDS: dict[str, tuple[str, str]] = {
    "dose_g": ("Dose", "g"),
    "brew_water_g": ("Brew water", "g"),
    "brew_ratio": ("Ratio", "1:"),
    "temperature_c": ("Temperature", "°C"),
    "brewer_type": ("Brewer", ""),
    "filter": ("Filter", ""),
    "grind": ("Grind", ""),
    "grinds": ("Settings", ""),
    "water": ("Water", ""),
    "ends": ("End", ""),
    "total_time_s": ("Total time", "s"),
    "pour_end_s": ("End of pour", "s"),
    "tds_pct": ("TDS target", "%"),
    "ey_pct": ("Yield target", "%"),
    "beverage_g": ("Beverage mass", "g"),
    "out_g": ("Out", "g"),
    "out_means": ("Out means", ""),
    "fast": ("Taste when too fast", ""),
    "on_time": ("Taste on time", ""),
    "slow": ("Taste when too slow", ""),
    "note": ("Note", ""),
}


@dataclass(frozen=True)
class RecipeChange:
    """what: the field or step in words; before, after: '' where there was or is none."""

    what: str
    before: str
    after: str


def differences(before: Recipe, after: Recipe) -> tuple[RecipeChange, ...]:
    """Field by field, then step by step; a step that only moved because another was put in is not a change.

    >>> [(c.what, c.before, c.after) for c in differences(Recipe(temperature_c=93), Recipe(temperature_c=96))]
    [('Temperature', '93 °C', '96 °C')]
    """
    found = []
    for name, (label, unit) in FIELD_WORDS.items():
        old, new = _shown(name, getattr(before, name), unit), _shown(name, getattr(after, name), unit)
        if old != new:
            found.append(RecipeChange(label, old, new))
    poured = _poured_in_proportion(before, after)
    if poured:
        found = [c for c in found if c.what != FIELD_WORDS["brew_water_g"][0]]
        return (*found, poured)
    a, b = [write_step(s) for s in before.steps], [write_step(s) for s in after.steps]
    for tag, i1, i2, j1, j2 in SequenceMatcher(None, a, b, autojunk=False).get_opcodes():
        if tag == "equal":
            continue
        for k in range(max(i2 - i1, j2 - j1)):
            old, new = (a[i1 + k] if i1 + k < i2 else ""), (b[j1 + k] if j1 + k < j2 else "")
            step = before.steps[i1 + k] if old else after.steps[j1 + k]
            found.append(RecipeChange(f"Step {(i1 if old else j1) + k + 1}, {STEP_LABELS[step.kind].lower()}", old, new))
    return tuple(found)


def _poured_in_proportion(before: Recipe, after: Recipe) -> RecipeChange | None:
    """The same pours of another water in all are one change, not one a pour."""
    if before.steps == after.steps or len(before.steps) != len(after.steps):
        return None
    water, to = sums(before).poured_g, sums(after).poured_g
    scaled = to_water(replace(before, brew_ratio=None), to) if water and to and abs(water - to) > 0.05 else None
    if scaled is None or any(write_step(x) != write_step(y) for x, y in zip(scaled.steps, after.steps, strict=True)):
        return None
    return RecipeChange("Water, each pour in proportion", f"{figures.grams_as_said(water)} g", f"{figures.grams_as_said(to)} g")


def in_words(changes: tuple[RecipeChange, ...]) -> str:
    """A headline for a list of changes.

    >>> in_words((RecipeChange("Temperature", "93 °C", "96 °C"),))
    'one change: 93 °C → 96 °C'
    """
    if not changes:
        return "no change"
    shown = "; ".join(f"{c.before or 'nothing'} → {c.after or 'nothing'}" for c in changes[:3])
    more = f"; and {len(changes) - 3} more" if len(changes) > 3 else ""
    return f"{'one change' if len(changes) == 1 else f'{len(changes)} changes'}: {shown}{more}"


def _shown(name: str, value: object, unit: str) -> str:
    if value is None or value in ("", ()) or value == (None, None):
        return ""
    if name == "brewer_type":
        return BREWER_LABELS[value]
    if name == "grinds":
        return ", ".join(f"{g.setting} on {g.on}" for g in value)
    if isinstance(value, tuple):
        return " to ".join("…" if x is None else _number(x, unit) for x in value) + ("" if unit == "s" else f" {unit}")
    if isinstance(value, float | int):
        if unit == "°C":
            return figures.heat(value)
        return f"1:{value:g}" if unit == "1:" else _number(value, unit) + ("" if unit == "s" else f" {unit}")
    return str(value).replace("_", " ")


def _number(value: float, unit: str) -> str:
    return write_duration(value) if unit == "s" else f"{value:g}"
