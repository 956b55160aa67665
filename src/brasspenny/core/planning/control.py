"""The control check: every variable of every setup, field by field. Handbook §8.2.

Each variable becomes one bar across the setups: held (equal everywhere), tested (the factor), moved (must move with
the factor, and how is known), declared (differs, with a stated rule), or a crack (differs, undeclared: a confound).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

Factor = Literal["ratio", "grind_setting", "grinder", "filter", "brewer", "temperature", "coffee", "water", "pours", "other"]
FACTORS: tuple[Factor, ...] = get_args(Factor)
FACTOR_LABELS: dict[Factor, str] = {
    "ratio": "brew ratio",
    "grind_setting": "grind setting",
    "grinder": "grinder",
    "filter": "filter",
    "brewer": "brewer",
    "temperature": "temperature",
    "coffee": "coffee",
    "water": "water",
    "pours": "pours",
    "other": "something else",
}
EQUIPMENT_FACTORS: frozenset[Factor] = frozenset({"grinder", "filter", "brewer", "grind_setting"})
"""Questions about equipment: flavour is compared fairly at equal strength, and replicate brews are the unit."""

BarKind = Literal["held", "tested", "untested", "moved", "declared", "crack"]


@dataclass(frozen=True)
class Variable:
    """One thing a setup is made of. field: its name everywhere; unit: shown after the value, may be empty."""

    field: str
    label: str
    unit: str = ""


VARIABLES: tuple[Variable, ...] = (
    Variable("coffee", "Coffee"),
    Variable("grinder", "Grinder and burrs"),
    Variable("grind_setting", "Grind setting"),
    Variable("filter", "Filter"),
    Variable("brewer", "Brewer"),
    Variable("water", "Water"),
    Variable("temperature_c", "Temperature", "°C"),
    Variable("dose_g", "Dose", "g"),
    Variable("brew_water_g", "Brew water", "g"),
    Variable("bypass_g", "Bypass water", "g"),
    Variable("pours", "Pours"),
    Variable("other", "Something else"),
)
TESTED_FIELD: dict[Factor, str] = {
    "grind_setting": "grind_setting",
    "grinder": "grinder",
    "filter": "filter",
    "brewer": "brewer",
    "temperature": "temperature_c",
    "coffee": "coffee",
    "water": "water",
    "pours": "pours",
    "other": "other",
    "ratio": "brew_ratio",
}

MatchingRule = Literal["sieve_median", "brew_time", "yield", "strength", "makers_table", "by_eye", "accepted"]
MATCHING_RULES: tuple[MatchingRule, ...] = get_args(MatchingRule)
MATCHING_LABELS: dict[MatchingRule, str] = {
    "sieve_median": "matched by sieve median",
    "brew_time": "matched by brew time",
    "yield": "matched by extraction yield",
    "strength": "matched by strength",
    "makers_table": "matched by the maker's table",
    "by_eye": "matched by eye",
    "accepted": "differs, and accepted",
}


@dataclass(frozen=True)
class Segment:
    """A run of neighbouring setups with one value. letters: theirs, in order; odd: away from the commonest value."""

    value: str
    letters: tuple[str, ...]
    odd: bool


@dataclass(frozen=True)
class Bar:
    """One variable across the setups. note: the matching rule, or what moves. hold_value: what one click would hold."""

    field: str
    label: str
    unit: str
    kind: BarKind
    segments: tuple[Segment, ...]
    note: str
    hold_letter: str | None


def control_bars(
    letters: Sequence[str],
    setups: Sequence[Mapping[str, object]],
    *,
    factors: Sequence[Factor],
    declared: Mapping[str, str],
    other_label: str = "",
) -> tuple[Bar, ...]:
    """A bar for each variable that any setup has, plus the brew ratio, in the order of brewing. factors: all that is asked about.

    letters, setups: same length, ≥ 1; each setup maps Variable.field to its shown value ('' when unset).
    declared: field → the rule in words. Source: handbook §8.2.
    """
    moved = _moved_with_ratio(setups) if "ratio" in factors else frozenset()
    tested_fields = {TESTED_FIELD[f] for f in factors}
    bars = []
    for variable in (*VARIABLES[:7], Variable("brew_ratio", "Brew ratio"), *VARIABLES[7:]):
        values = [str(s.get(variable.field, "") or "") for s in setups]
        tested = variable.field in tested_fields
        if not tested and not any(values):
            continue
        label = other_label if variable.field == "other" and other_label else variable.label
        kind, note = _kind(variable.field, values, tested, moved, declared, derived=variable.field == "brew_ratio")
        bars.append(
            Bar(variable.field, label, variable.unit, kind, _segments(letters, values), note, _hold_letter(letters, values) if kind == "crack" else None)
        )
    return tuple(bars)


def brew_ratio_shown(dose_g: float, brew_water_g: float, bypass_g: float) -> str:
    """1:R as the bars show it, all water counted.

    >>> brew_ratio_shown(18, 290, 0)
    '1:16.1'
    """
    return f"1:{(brew_water_g + bypass_g) / dose_g:.1f}"


def _kind(field: str, values: Sequence[str], tested: bool, moved: Collection[str], declared: Mapping[str, str], *, derived: bool) -> tuple[BarKind, str]:
    same = len(set(values)) == 1
    if tested:
        return ("untested", "nothing differs yet") if same and len(values) > 1 else ("tested", "")
    if same:
        return "held", ""
    if field in declared:
        return "declared", declared[field]
    if field in moved:
        return "moved", "moves with the ratio"
    if derived:  # a ratio differs only because a mass does, and that mass has its own bar
        return "moved", "follows dose and water"
    return "crack", ""


def _moved_with_ratio(setups: Sequence[Mapping[str, object]]) -> frozenset[str]:
    """Changing ratio moves dose or water: whichever one differs is part of the question; two at once are not."""
    differing = {f for f in ("dose_g", "brew_water_g", "bypass_g") if len({str(s.get(f, "")) for s in setups}) > 1}
    return frozenset(differing) if len(differing) == 1 else frozenset()


def _segments(letters: Sequence[str], values: Sequence[str]) -> tuple[Segment, ...]:
    common = _commonest(values)
    out: list[Segment] = []
    for letter, value in zip(letters, values, strict=True):
        if out and out[-1].value == value:
            out[-1] = Segment(value, (*out[-1].letters, letter), value != common)
        else:
            out.append(Segment(value, (letter,), value != common))
    return tuple(out)


def _commonest(values: Sequence[str]) -> str:
    """The commonest value; the earliest of equals, so that A is the reference in a pair."""
    counts = Counter(values)
    return max(values, key=lambda v: (counts[v], -values.index(v)))


def _hold_letter(letters: Sequence[str], values: Sequence[str]) -> str:
    return letters[values.index(_commonest(values))]
