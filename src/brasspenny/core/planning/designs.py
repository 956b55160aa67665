"""Which setups answer a question, and in which order to brew them. docs/formulas.md §8.3.

Pair, ladder, full factorial, two-level screening fraction, response surface. The order is drawn from a seed, so that it
can be shown to have been drawn and drawn again. Fractions and surfaces come from pyDOE3.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal, get_args

from .. import figures
from ..errors import Inconsistent, OutOfDomain
from ..vocabulary import MOST_SETUPS

DesignKind = Literal["pair", "ladder", "factorial", "screening", "surface"]
DESIGN_KINDS: tuple[DesignKind, ...] = get_args(DesignKind)
DESIGN_LABELS: dict[DesignKind, str] = {
    "pair": "pair",
    "ladder": "ladder",
    "factorial": "full factorial",
    "screening": "screening fraction",
    "surface": "response surface",
}
DESIGN_ABOUT: dict[DesignKind, str] = {
    "pair": "Two setups, one difference.",
    "ladder": "One number in steps, such as 1:13 to 1:18: where is the peak?",
    "factorial": "Every level of each factor with every level of the others: main effects and how they interact.",
    "screening": "Two levels of three to five factors in a fraction of the brews: which of them matter at all?",
    "surface": "Ratio against grind or temperature, low, middle and high: where is the best region?",
}
FACTOR_COUNTS: dict[DesignKind, tuple[int, int]] = {"pair": (1, 1), "ladder": (1, 1), "factorial": (1, 4), "screening": (3, 5), "surface": (2, 2)}
LEVEL_COUNTS: dict[DesignKind, tuple[int, int]] = {"pair": (2, 2), "ladder": (3, 12), "factorial": (2, 8), "screening": (2, 2), "surface": (2, 2)}
"""Fewest and most factors of each kind of design, and levels of each factor."""
GENERATORS: dict[int, str] = {3: "a b ab", 4: "a b c abc", 5: "a b c ab ac"}


@dataclass(frozen=True)
class LevelledFactor:
    """A factor and its levels, in order; numeric: the levels are numbers that can be halved between."""

    factor: str
    levels: tuple[str, ...]
    numeric: bool = False


@dataclass(frozen=True)
class Design:
    """setups: one level per factor, in the order of the factors. notes: what this design can and cannot tell, in words."""

    kind: DesignKind
    factors: tuple[str, ...]
    setups: tuple[tuple[str, ...], ...]
    notes: tuple[str, ...]


def design(kind: DesignKind, factors: Sequence[LevelledFactor]) -> Design:
    """The setups of a design. Raises OutOfDomain or Inconsistent naming "factors" when they do not fit the kind. Source: docs/formulas.md §8.3.

    >>> design("factorial", [LevelledFactor("grinder", ("old", "new")), LevelledFactor("coffee", ("lot 3", "lot 4"))]).setups
    (('old', 'lot 3'), ('old', 'lot 4'), ('new', 'lot 3'), ('new', 'lot 4'))
    """
    _check(kind, factors)
    names = tuple(f.factor for f in factors)
    match kind:
        case "pair" | "ladder":
            rows, notes = tuple((level,) for level in factors[0].levels), _pair_notes(kind, factors[0])
        case "factorial":
            rows, notes = tuple(product(*(f.levels for f in factors))), _factorial_notes(factors)
        case "screening":
            rows, notes = _screening(factors)
        case "surface":
            rows, notes = _surface(factors)
    if len(rows) > MOST_SETUPS:
        raise OutOfDomain("factors", f"that makes {len(rows)} setups.", f"At most {MOST_SETUPS}: drop a level or a factor, or screen first.", len(rows))
    return Design(kind, names, rows, notes)


def _check(kind: DesignKind, factors: Sequence[LevelledFactor]) -> None:
    low, high = FACTOR_COUNTS[kind]
    if not low <= len(factors) <= high:
        wanted = f"{low}" if low == high else f"{low} to {high}"
        raise OutOfDomain(
            "factors", f"a {DESIGN_LABELS[kind]} takes {wanted} factor{'' if high == 1 else 's'}, not {len(factors)}.", "Add or drop one.", len(factors)
        )
    if len({f.factor for f in factors}) < len(factors):
        raise Inconsistent("factors", "one factor is named twice.", "Name each factor once.")
    least, most = LEVEL_COUNTS[kind]
    for i, f in enumerate(factors):
        if len(set(f.levels)) < len(f.levels):
            raise Inconsistent(f"factors.{i}.levels", "one level is named twice.", "Name each level once.")
        if not least <= len(f.levels) <= most:
            wanted = f"{least}" if least == most else f"{least} to {most}"
            raise OutOfDomain(
                f"factors.{i}.levels",
                f"a {DESIGN_LABELS[kind]} takes {wanted} levels, not {len(f.levels)}.",
                "Add or drop levels." if kind != "surface" else "Give the lowest and the highest; the middle is worked out.",
                len(f.levels),
            )
        if kind in ("ladder", "surface"):
            _check_numeric(i, f)


def _check_numeric(i: int, f: LevelledFactor) -> None:
    try:
        ok = f.numeric and all(math.isfinite(float(x)) for x in f.levels)
    except ValueError:
        ok = False
    if not ok:
        raise Inconsistent(f"factors.{i}.levels", "these levels are not all numbers.", "Give numbers, such as 14, 15, 16.")


def _pair_notes(kind: DesignKind, factor: LevelledFactor) -> tuple[str, ...]:
    if kind == "pair":
        return ("Tells which of the two, and nothing about what lies between.",)
    if len(factor.levels) < 4:
        return ("Three steps draw a curve exactly and cannot show a peak: use four or more.",)
    return ("Finds the best step within the tested range; nothing is claimed beyond it.",)


def _factorial_notes(factors: Sequence[LevelledFactor]) -> tuple[str, ...]:
    if len(factors) == 1:
        return ()
    return (f"Each factor is judged across every level of the other{'' if len(factors) == 2 else 's'}, and their interaction too.",)


def _screening(factors: Sequence[LevelledFactor]) -> tuple[tuple[tuple[str, ...], ...], tuple[str, ...]]:
    from pyDOE3 import fracfact  # here: loading it takes longer than most pages need

    rows = fracfact(GENERATORS[len(factors)])
    setups = tuple(tuple(f.levels[int(x > 0)] for f, x in zip(factors, row, strict=True)) for row in rows)
    full = 2 ** len(factors)
    alias = {
        3: "Each main effect is mixed with the interaction of the other two.",
        4: "Main effects are clear of pairs; pairs are mixed with pairs.",
        5: "Main effects are mixed with some interactions of two.",
    }
    return setups, (f"{len(setups)} of {full} combinations.", alias[len(factors)], "Use it to drop factors, then compare what is left in full.")


def _surface(factors: Sequence[LevelledFactor]) -> tuple[tuple[tuple[str, ...], ...], tuple[str, ...]]:
    from pyDOE3 import ccdesign

    rows = ccdesign(2, center=(0, 1), face="ccf")
    ends = [sorted(float(x) for x in f.levels) for f in factors]
    setups = tuple(tuple(f"{_at(low, high, x):g}" for (low, high), x in zip(ends, row, strict=True)) for row in rows)
    return setups, ("Nine setups: corners, sides and centre. Curvature is seen in both directions.", "Claims nothing outside the square that was brewed.")


def _at(low: float, high: float, x: float) -> float:
    return round(low + (high - low) * (x + 1) / 2, 3)


# --- order -----------------------------------------------------------------------------------------------------------------

Blocking = Literal["replicate", "none", "factor"]
BLOCKING_LABELS: dict[Blocking, str] = {
    "replicate": "every setup once, then all again",
    "none": "fully shuffled",
    "factor": "one level of a factor after the other",
}


@dataclass(frozen=True)
class Brewing:
    """One brew of the plan: which setup (its index), which replicate, in which block."""

    setup: int
    replicate: int
    block: int


@dataclass(frozen=True)
class Order:
    """brews in order; changes: how often the blocked factor changes, against free_changes expected when shuffled; cost in words."""

    brews: tuple[Brewing, ...]
    changes: int | None
    free_changes: float | None
    cost: str


def run_order(setups: int, replicates: int, *, seed: int, blocking: Blocking = "replicate", levels: Sequence[str] = (), factor: str = "") -> Order:
    """A seeded random order of setups × replicates. blocking "factor": `levels` gives each setup's level of it, `factor` its name.

    >>> [b.setup for b in run_order(2, 2, seed=1).brews]
    [1, 0, 1, 0]
    """
    rng = random.Random(seed)
    brews = [(k, r) for r in range(replicates) for k in range(setups)]
    if blocking == "none":
        rng.shuffle(brews)
        return Order(tuple(Brewing(k, r, 0) for k, r in brews), None, None, "")
    if blocking == "replicate":
        out = []
        for r in range(replicates):
            block = [k for k, rr in brews if rr == r]
            rng.shuffle(block)
            out += [Brewing(k, r, r) for k in block]
        return Order(tuple(out), None, None, "Each block holds every setup once, so a drift during the day touches all alike." if replicates > 1 else "")
    return _by_factor(brews, levels, factor, rng)


def _by_factor(brews: list[tuple[int, int]], levels: Sequence[str], factor: str, rng: random.Random) -> Order:
    names = sorted(set(levels))
    rng.shuffle(names)
    out = []
    for block, name in enumerate(names):
        mine = [(k, r) for k, r in brews if levels[k] == name]
        rng.shuffle(mine)
        out += [Brewing(k, r, block) for k, r in mine]
    n = len(brews)
    counts = [sum(levels[k] == name for k, _ in brews) for name in names]
    free = (n - 1) * (1 - sum(c * (c - 1) for c in counts) / (n * (n - 1))) if n > 1 else 0.0
    cost = (
        f"The {factor} changes {len(names) - 1} time{'' if len(names) == 2 else 's'} instead of about {figures.count(free)}. "
        f"But everything that drifts during the day (coffee going stale, water, hands warming up) now looks like the {factor}: "
        f"trust its difference less, and do not read p-values for it as if the order were free."
    )
    return Order(tuple(out), len(names) - 1, free, cost)
