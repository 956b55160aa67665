"""A series of known steps: what is served beside what, and how each cup is prepared."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from .. import figures
from ..errors import Inconsistent, OutOfDomain

PalateAxis = Literal["strength", "temperature", "acidity", "sweetness"]
SeriesMethod = Literal["two_afc", "triangle"]
StepChoice = Literal["adaptive", "fixed"]


@dataclass(frozen=True)
class Axis:
    """word: what differs; more: how the cup with more of it is called; unit of a step; ready: the series that ships, None where the host names the steps;
    usual: a step about half of people tell, where no answer says it yet."""

    code: PalateAxis
    word: str
    more: str
    unit: str
    ready: tuple[float, ...]
    usual: float | None


PALATE_AXES = (
    Axis("strength", "Strength", "stronger", "% of strength", (2, 3, 4.5, 6.5, 9, 13, 18, 25), 8.0),
    Axis("temperature", "Temperature", "warmer", "°C", (1, 1.5, 2.5, 4, 6, 9, 13), None),
    Axis("acidity", "Acidity", "more acid", "g/L of the acid", (0.05, 0.08, 0.12, 0.2, 0.3, 0.5), None),
    Axis("sweetness", "Sweetness", "sweeter", "g/L of sugar", (0.5, 0.8, 1.3, 2, 3.2, 5), None),
)
AXES: dict[str, Axis] = {a.code: a for a in PALATE_AXES}
MOST_STEPS, FEWEST_STEPS = 12, 3
CUPS = {"two_afc": 2, "triangle": 3}
"""Cups of one presentation."""


@dataclass(frozen=True)
class Prepared:
    """One server of the series. step: how much weaker than the brew, % of its strength, 0 for the brew itself; tds_pct: None where it was not read;
    coffee_g, water_g: of a server that holds serve_g."""

    step: float
    tds_pct: float | None
    coffee_g: float
    water_g: float


def checked_steps(axis: PalateAxis, steps: Sequence[float]) -> tuple[float, ...]:
    """Steps in rising order. Raises OutOfDomain or Inconsistent at `steps`."""
    if not FEWEST_STEPS <= len(steps) <= MOST_STEPS:
        raise OutOfDomain("steps", f"A series has {FEWEST_STEPS} to {MOST_STEPS} steps.", f"Enter {FEWEST_STEPS} to {MOST_STEPS} steps.", len(steps))
    rising = tuple(sorted(float(x) for x in steps))
    if any(a == b for a, b in pairwise(rising)):
        raise Inconsistent("steps", "Two steps are the same.", "Enter each step once.", list(steps))
    most = 90.0 if axis == "strength" else 1000.0
    if rising[0] <= 0 or rising[-1] > most:
        raise OutOfDomain("steps", f"Steps lie above 0 and up to {most:g} {AXES[axis].unit}.", f"Enter 0.01 to {most:g}.", rising[-1])
    return rising


def prepared(steps: Sequence[float], *, serve_g: float, tds_pct: float | None = None) -> tuple[Prepared, ...]:
    """The brew itself and each dilution, serve_g of it (g, above 0): a brew made x % weaker is x % water by mass.

    >>> [(p.water_g, p.coffee_g) for p in prepared((5, 20), serve_g=200)]
    [(0.0, 200.0), (10.0, 190.0), (40.0, 160.0)]
    """
    if not serve_g > 0:
        raise OutOfDomain("serve_g", "A server holds more than 0 g.", "Enter what each server holds, such as 300.", serve_g)
    out = []
    for step in (0.0, *sorted(steps)):
        water = serve_g * step / 100
        out.append(Prepared(step, None if tds_pct is None else tds_pct * (1 - step / 100), serve_g - water, water))
    return tuple(out)


def brew_needed_g(presentations: int, *, cup_g: float, method: SeriesMethod) -> float:
    """Coffee of the undiluted brew that so many presentations use at most, a tenth more for what stays in the servers; g."""
    return 1.1 * cup_g * presentations * CUPS[method]


def named(steps: Sequence[float], *, serve_g: float) -> tuple[Prepared, ...]:
    """The plain server and one for each step, which the host prepares."""
    return tuple(Prepared(step, None, serve_g, 0.0) for step in (0.0, *sorted(steps)))


def servers_of(axis: PalateAxis, step: float, *, found_is_more: bool) -> tuple[float, float]:
    """(step of the cup to be found, step of the others). Of two the found one holds more; of three the odd one more or less, by the draw. A step of
    strength is a weaker cup, of any other axis one with more.

    >>> servers_of("strength", 9, found_is_more=True), servers_of("acidity", 0.2, found_is_more=True)
    ((0.0, 9), (0.2, 0.0))
    """
    more, less = (0.0, step) if axis == "strength" else (step, 0.0)
    return (more, less) if found_is_more else (less, more)


def fixed_order(steps: Sequence[float], number: int, seed: str) -> float:
    """The classic series of constant stimuli: every step once in each block, in an order of its own. number: of the presentation, from 1; seed: the
    taster's own."""
    block, at = divmod(number - 1, len(steps))
    order = sorted(steps)
    random.Random(f"{seed}:{block}").shuffle(order)
    return order[at]


def in_words(axis: PalateAxis, step: float, tds_pct: float | None = None) -> str:
    """A step as it is told: in the axis' unit, and for strength as TDS too."""
    told = figures.heat_step(step) if axis == "temperature" else f"{figures.significant(step)} {AXES[axis].unit}"
    if axis == "strength" and tds_pct:
        told += f" ({figures.significant(step * tds_pct / 100)} % TDS)"
    return told


def range_in_words(axis: PalateAxis, low: float, high: float) -> str:
    """From one step to another, the unit once."""
    return f"{in_words(axis, low).split(' ')[0]} to {in_words(axis, high)}"


def odd_place(method: SeriesMethod, rng: random.Random) -> int:
    """Where the cup that is to be found stands, from 0: the stronger of two, or the odd one of three."""
    return rng.randrange(CUPS[method])


def geometric_middle(steps: Sequence[float]) -> float:
    return float(np.exp(np.mean(np.log(steps))))
