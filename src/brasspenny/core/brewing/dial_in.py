"""Whether a setup is dialled in: a dial-in brew within its recipe's windows. docs/formulas.md §8.2.

And whether declared matching rules hold: what was to be equal is compared on the brews made.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .. import figures
from ..extraction.dilution import MATCHED_WITHIN_TDS_PCT
from ..recipe.model import Recipe
from ..units import write_duration
from ..vocabulary import MatchingRule

DialIn = Literal["dialled_in", "off", "none", "no_windows"]
TIME_WITHIN_S = 10.0
YIELD_WITHIN_PCT = 0.5


@dataclass(frozen=True)
class DialInBrew:
    """A dial-in brew as measured; None where it was not."""

    label: str
    total_time_s: float | None = None
    pour_end_s: float | None = None
    tds_pct: float | None = None
    ey_pct: float | None = None
    beverage_g: float | None = None


@dataclass(frozen=True)
class DialInState:
    """state and a sentence for it."""

    state: DialIn
    text: str


def dial_in_state(recipe: Recipe | None, dial_ins: Sequence[DialInBrew], *, brews: Sequence[DialInBrew] = (), late: Sequence[DialInBrew] = ()) -> DialInState:
    """The newest dial-in brew (last of `dial_ins`) against the windows: time, end of pour, TDS, yield, beverage mass. brews: those that are tasted, which dial a setup in where all of them met
    every target; late: dial-in brews logged once tasting had begun, which prove nothing of what was tasted."""
    windows = _windows(recipe) if recipe else {}
    if windows and brews and not any(missed_windows(recipe, brew, unmeasured=True) for brew in brews):
        return DialInState("dialled_in", "Every brew came within its windows.")
    if late and not dial_ins:
        return DialInState("none", f"{late[-1].label} was logged when tasting had begun: it says nothing of the cups that were tasted.")
    if not windows:
        if dial_ins:
            return DialInState("no_windows", f"{dial_ins[-1].label} was brewed to dial in, but the recipe states no windows to judge it by.")
        return DialInState("none", "No dial-in brew yet." if recipe else "No dial-in brew yet, and no recipe with windows to judge one by.")
    if not dial_ins:
        return DialInState("none", "No dial-in brew yet.")
    latest = dial_ins[-1]
    missed = missed_windows(recipe, latest, unmeasured=True)
    if missed:
        return DialInState("off", f"{latest.label}: {', '.join(missed)}.")
    return DialInState("dialled_in", f"{latest.label} came within its windows.")


def missed_windows(recipe: Recipe, brew: DialInBrew, *, unmeasured: bool = False) -> list[str]:
    """What of a brew is outside its recipe's windows, in words. unmeasured: what was not measured counts as missed too."""
    known = {name: window for name, window in _windows(recipe).items() if unmeasured or getattr(brew, name) is not None}
    return [m for name, window in known.items() if (m := _missed(name, getattr(brew, name), window))]


def _windows(recipe: Recipe) -> dict[str, tuple[float | None, float | None]]:
    out = {"total_time_s": recipe.total_time_s, "tds_pct": recipe.tds_pct, "ey_pct": recipe.ey_pct}
    if recipe.pour_end_s is not None:
        out["pour_end_s"] = (recipe.pour_end_s - 5, recipe.pour_end_s + 5)
    if recipe.beverage_g is not None:
        out["beverage_g"] = (0.97 * recipe.beverage_g, 1.03 * recipe.beverage_g)
    return {name: window for name, window in out.items() if window != (None, None)}


WORDS = {"total_time_s": "time", "pour_end_s": "end of pour", "tds_pct": "TDS", "ey_pct": "yield", "beverage_g": "drink"}


def _missed(name: str, value: float | None, window: tuple[float | None, float | None]) -> str:
    low, high = window
    if value is None:
        return f"{WORDS[name]} not measured"
    if low is not None and value < low:
        return f"{WORDS[name]} {_shown(name, value)} is under {_shown(name, low)}"
    if high is not None and value > high:
        return f"{WORDS[name]} {_shown(name, value)} is over {_shown(name, high)}"
    return ""


def _shown(name: str, value: float) -> str:
    return write_duration(value) if name.endswith("_s") else f"{figures.grams(value)} g" if name.endswith("_g") else f"{value:.4g} %"


# --- matching rules ---------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Matched:
    """One setup's means over its brews (dial-in ones too), None when nothing was measured."""

    letter: str
    total_time_s: float | None
    tds_pct: float | None
    ey_pct: float | None


@dataclass(frozen=True)
class RuleCheck:
    """holds: True, False, or None when it cannot be told; text says why."""

    field: str
    rule: MatchingRule
    holds: bool | None
    text: str


CHECKED: dict[MatchingRule, tuple[str, float, str]] = {
    "brew_time": ("total_time_s", TIME_WITHIN_S, "brew time"),
    "yield": ("ey_pct", YIELD_WITHIN_PCT, "yield"),
    "strength": ("tds_pct", MATCHED_WITHIN_TDS_PCT, "TDS"),
}


UNSAMPLED = (None, "No sieve samples stand behind it.")


def check_rule(
    field: str,
    rule: MatchingRule,
    setups: Sequence[Matched],
    *,
    sieve: tuple[bool | None, str] = UNSAMPLED,
    strength_within_tds_pct: float = MATCHED_WITHIN_TDS_PCT,
) -> RuleCheck:
    """sieve: whether the settings in use grind alike by sieve samples (None: there are none), and how it is said; strength_within_tds_pct: what counts as one strength."""
    if rule == "sieve_median":
        return RuleCheck(field, rule, *sieve)
    if rule not in CHECKED:
        return RuleCheck(field, rule, None, "Taken on trust: nothing measured can confirm it.")
    name, within, words = CHECKED[rule]
    within = strength_within_tds_pct if rule == "strength" else within
    known = {s.letter: v for s in setups if (v := getattr(s, name)) is not None}
    if len(known) < max(2, len(setups)):
        return RuleCheck(field, rule, None, f"Not every setup has a measured {words} yet.")
    low, high = min(known, key=known.get), max(known, key=known.get)
    apart = known[high] - known[low]
    shown = f"{high} {_shown(name, known[high])}, {low} {_shown(name, known[low])}"
    if apart <= within + 1e-9:
        return RuleCheck(field, rule, True, f"{words[:1].upper()}{words[1:]} agrees: {shown}.")
    return RuleCheck(field, rule, False, f"{words[:1].upper()}{words[1:]} differs: {shown}.")
