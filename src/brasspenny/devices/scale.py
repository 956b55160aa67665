"""The scale under the brewer. A reading is a pure function of plan, seed and elapsed time: it needs no process memory, any
process can answer, and the same brew reads the same again."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True)
class PlannedPour:
    """What the plan pours: g evenly between two times, s."""

    start_s: float
    end_s: float
    grams: float


class Scale(Protocol):
    """Anything that can be asked what the scale reads, g, elapsed_s after the first water."""

    source: str

    def reading_g(self, elapsed_s: float) -> float: ...


@dataclass(frozen=True)
class SimulatedScale:
    """Pours as a careful hand would: each begun up to 2 s late, ended within 1.5 % of its target, read in steps of 0.1 g with
    a little noise while water falls. Clearly marked: source is "simulated"."""

    pours: Sequence[PlannedPour]
    seed: int
    step_g: float = 0.1
    source: str = "simulated"

    def reading_g(self, elapsed_s: float) -> float:
        total, pouring = 0.0, False
        for i, p in enumerate(self.pours):
            hand = random.Random(f"{self.seed} {i}")
            late_s, miss = hand.uniform(0, 2), hand.gauss(0, 0.005)
            lasts = max(1.0, p.end_s - p.start_s)
            share = min(1.0, max(0.0, (elapsed_s - p.start_s - late_s) / lasts))
            pouring |= 0 < share < 1
            total += p.grams * (1 + max(-0.015, min(0.015, miss))) * share
        if pouring:
            total += random.Random(f"{self.seed} at {math.floor(10 * elapsed_s)}").gauss(0, 0.25)
        return round(max(0.0, total) / self.step_g) * self.step_g
