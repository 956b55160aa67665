"""How strongly a filter holds water back: time for a mass under a fixed force, or under a fixed head. docs/formulas.md §5.

Resistance is F·t/V up to the water's viscosity, so only ratios mean something, and only at one temperature: two filters of one force, one water.
A head of water presses with its height, so head·t/V serves where nobody presses. Where it stops being true: a bed of coffee above the filter
holds back more than the filter itself, and a clogged filter is none of its kind.
Source: Darcy 1856, Les fontaines publiques (flow in proportion to pressure).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import OutOfDomain
from ..vocabulary import PUSHES, Push, by_code
from .sieve import Z_975, Figure

PUSHED = by_code(PUSHES)
TIME_S = 0.3
"""Standard uncertainty of a time stopped by hand. Ours."""
SPREAD = 0.05
"""Of repeats by hand, as a share, where one alone is known. Ours."""


@dataclass(frozen=True)
class FlowTest:
    """water_g went through in seconds under a push of its size (N, or mm of water)."""

    filter_id: str
    push: Push
    size: float
    water_g: float
    seconds: float

    @property
    def resistance(self) -> float:
        return self.size * self.seconds / self.water_g


def checked(test: FlowTest) -> FlowTest:
    """Raises OutOfDomain at the field."""
    for field, value, most in (("size", test.size, 10_000), ("water_g", test.water_g, 10_000), ("seconds", test.seconds, 7200)):
        if not 0 < value <= most:
            raise OutOfDomain(field, "that is no test of flow.", f"Enter above 0 and up to {most:g}.", value)
    return test


@dataclass(frozen=True)
class Resistance:
    """relative: times the reference's; tests: how many it rests on; same_size: all of both were pushed alike (else proportion is relied on)."""

    filter_id: str
    push: Push
    relative: Figure
    tests: int
    same_size: bool


def relative(tests: Sequence[FlowTest], reference_id: str) -> tuple[Resistance, ...]:
    """Each filter's resistance as a multiple of the reference's, by the same way of pushing; those never pushed as the reference was are left out.

    >>> found = relative([FlowTest("paper", "force", 60, 100, 20), FlowTest("mesh", "force", 60, 100, 25)], "paper")
    >>> [(r.filter_id, round(r.relative.value, 2)) for r in found]
    [('mesh', 1.25)]
    """
    logs: Mapping[tuple[str, Push], list[FlowTest]] = defaultdict(list)
    for t in tests:
        logs[t.filter_id, t.push].append(t)
    out = []
    for (filter_id, push), mine in sorted(logs.items()):
        theirs = logs.get((reference_id, push))
        if filter_id == reference_id or not theirs:
            continue
        a, b = (_log(group) for group in (theirs, mine))
        half = Z_975 * math.hypot(a[1], b[1])
        ratio = math.exp(b[0] - a[0])
        alike = len({t.size for t in (*mine, *theirs)}) == 1
        out.append(Resistance(filter_id, push, Figure(ratio, (ratio * math.exp(-half), ratio * math.exp(half))), len(mine), alike))
    return tuple(out)


def _log(tests: Sequence[FlowTest]) -> tuple[float, float]:
    """Mean of ln(resistance) with its standard error."""
    logs = np.log([t.resistance for t in tests])
    clock = float(np.mean([TIME_S / t.seconds for t in tests]))
    sd = max(clock, SPREAD, float(np.std(logs, ddof=1)) if len(tests) > 2 else 0.0)
    return float(logs.mean()), sd / math.sqrt(len(tests))
