"""The control check: every variable of every setup, field by field. docs/formulas.md §8.2.

Each variable becomes one bar across the setups: held (equal everywhere), tested (the factor), moved (must move with
the factor, and how is known), declared (differs, with a stated rule), or a crack (differs, undeclared: a confound).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from .. import figures
from ..vocabulary import FACTOR_KINDS, MATCHING_RULES, VARIABLES, Factor, MatchingRule, Variable

FACTOR_LABELS: dict[Factor, str] = {f.code: f.label for f in FACTOR_KINDS}
EQUIPMENT_FACTORS: frozenset[Factor] = frozenset(f.code for f in FACTOR_KINDS if f.equipment)
"""Questions about equipment: flavour is compared fairly at equal strength, and replicate brews are the unit."""
TESTED_FIELD: dict[Factor, str] = {f.code: f.tests for f in FACTOR_KINDS}
MATCHING_LABELS: dict[MatchingRule, str] = {r.code: r.label for r in MATCHING_RULES}


OWN_STRENGTH_FACTORS: frozenset[Factor] = frozenset(f.code for f in FACTOR_KINDS if f.own_strength)
"""Questions whose setups differ in strength by what is asked: matched, they would be one drink."""
StrengthPolicy = Literal["as_brewed", "matched"]


def strength_policy_in_force(factors: Sequence[Factor], chosen: StrengthPolicy | None) -> StrengthPolicy:
    """As chosen; without a choice, matched strengths where the question is about equipment, so that flavour is compared, else drinks as brewed. A question of ratio or strength is
    never matched, whatever else varies with it.

    >>> strength_policy_in_force(["filter"], None), strength_policy_in_force(["coffee"], "matched"), strength_policy_in_force(["filter", "ratio"], "matched")
    ('matched', 'matched', 'as_brewed')
    """
    if OWN_STRENGTH_FACTORS & set(factors):
        return "as_brewed"
    return chosen or ("matched" if EQUIPMENT_FACTORS & set(factors) else "as_brewed")


BarKind = Literal["held", "tested", "untested", "moved", "declared", "crack"]


@dataclass(frozen=True)
class Segment:
    """A run of neighbouring setups with one value. letters: theirs, in order; odd: away from the commonest value."""

    value: str
    letters: tuple[str, ...]
    odd: bool


@dataclass(frozen=True)
class Bar:
    """One variable across the setups. note: the matching rule, or what moves; reason: why a declared one differs, in the host's words.
    hold_letter: the setup whose value one click would hold."""

    field: str
    label: str
    unit: str
    kind: BarKind
    segments: tuple[Segment, ...]
    note: str
    hold_letter: str | None
    reason: str = ""

    @property
    def said(self) -> str:
        """Note and reason in one line."""
        return f"{self.note}: {self.reason}" if self.reason else self.note


def control_bars(
    letters: Sequence[str],
    setups: Sequence[Mapping[str, object]],
    *,
    factors: Sequence[Factor],
    declared: Mapping[str, str],
    reasons: Mapping[str, str] | None = None,
    other_label: str = "",
    apart: Mapping[str, str] | None = None,
) -> tuple[Bar, ...]:
    """A bar for each variable that any setup has, plus the brew ratio, in the order of brewing. factors: all that is asked about.

    letters, setups: same length, ≥ 1; each setup maps Variable.field to its shown value ('' when unset).
    declared: field → the rule in words; reasons: field → why. apart: field → why its values cannot be held equal, of those that
    are not of one kind (a setting on each of two dials). Source: docs/formulas.md §8.2.
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
        lone = kind == "crack" and variable.field in (apart or {})
        hold = _hold_letter(letters, values) if kind == "crack" and not lone else None
        note = (apart or {})[variable.field] if lone else note
        reason = (reasons or {}).get(variable.field, "") if kind == "declared" else ""
        bars.append(Bar(variable.field, label, variable.unit, kind, _segments(letters, values), note, hold, reason))
    return tuple(bars)


def brew_ratio_shown(dose_g: float, brew_water_g: float, bypass_g: float) -> str:
    """1:R as the bars show it, all water counted.

    >>> brew_ratio_shown(18, 290, 0)
    '1:16.1'
    """
    return figures.ratio((brew_water_g + bypass_g) / dose_g)


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
