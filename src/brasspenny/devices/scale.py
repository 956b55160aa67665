"""The scale under the brewer. A reading is a pure function of plan, seed and elapsed time: it needs no process memory, any
process can answer, and the same brew reads the same again."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, Protocol

Mistake = Literal["", "fast", "late", "spill"]
"""What a careless hand does on purpose: the second pour twice as fast, the last one late, a spill after the middle."""
LATE_S, SPILT_G = 14.0, 15.0


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


def mistaken(pours: Sequence[PlannedPour], mistake: Mistake) -> list[PlannedPour]:
    """The same pours with the mistake in them (a spill changes the reading, not the pours).

    >>> mistaken([PlannedPour(0, 8, 40), PlannedPour(40, 60, 120)], "fast")[1].end_s
    50.0
    """
    out = list(pours)
    if mistake == "fast" and out:
        at = min(1, len(out) - 1)
        p = out[at]
        out[at] = replace(p, end_s=p.start_s + (p.end_s - p.start_s) / 2)
    if mistake == "late" and out:
        p = out[-1]
        out[-1] = replace(p, start_s=p.start_s + LATE_S, end_s=p.end_s + LATE_S)
    return out


@dataclass(frozen=True)
class SimulatedScale:
    """Pours as a careful hand would, or with one mistake: each begun up to 2 s late, ended within 1.5 % of its target, read in
    steps of 0.1 g with a little noise while water falls. Clearly marked: source is "simulated"."""

    pours: Sequence[PlannedPour]
    seed: int
    step_g: float = 0.1
    mistake: Mistake = ""
    source: str = "simulated"

    def as_poured(self) -> list[PlannedPour]:
        """What this hand really pours."""
        out = []
        for i, p in enumerate(mistaken(self.pours, self.mistake)):
            hand = random.Random(f"{self.seed} {i}")
            late_s, miss = hand.uniform(0, 2), hand.gauss(0, 0.005)
            lasts = max(1.0, p.end_s - p.start_s)
            out.append(PlannedPour(p.start_s + late_s, p.start_s + late_s + lasts, p.grams * (1 + max(-0.015, min(0.015, miss)))))
        return out

    def reading_g(self, elapsed_s: float) -> float:
        total, pouring = 0.0, False
        for p in self.as_poured():
            share = min(1.0, max(0.0, (elapsed_s - p.start_s) / (p.end_s - p.start_s)))
            pouring |= 0 < share < 1
            total += p.grams * share
        if self.mistake == "spill" and self.pours and elapsed_s > (self.pours[0].start_s + self.pours[-1].end_s) / 2:
            total = max(0.0, total - SPILT_G)
        if pouring:
            total += random.Random(f"{self.seed} at {math.floor(10 * elapsed_s)}").gauss(0, 0.25)
        return round(max(0.0, total) / self.step_g) * self.step_g
