"""The scale under the brewer. A reading is a pure function of plan, seed and elapsed time: it needs no process memory, any
process can answer, and the same brew reads the same again.

It behaves as real ones do: it lags and settles, drifts a little, is knocked, trembles while water falls, and can be zeroed.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, Protocol

Mistake = Literal["", "fast", "late", "spill", "knock", "zeroed", "short"]
"""What a careless hand does on purpose: the second pour twice as fast, the last one late, a spill after the middle, a knock while it waits, the scale zeroed
in the middle, a jug that runs short and is topped up."""
LATE_S, SPILT_G, SHORT_G, TOPPED_AFTER_S = 14.0, 15.0, 20.0, 9.0
LAG_S = 0.45
"""Readings follow the load with this time constant: a pour's last grams show about a second later."""
DRIFT_G_S = 0.004
KNOCK_S, KNOCK_G = 0.6, 60.0
EMPTY_S = 3.0
"""The dripper's scale stands at nought so long before the slurry comes."""
LIFTED_READS_G = -312.0
"""An empty pan, zeroed with the brewer, its filter and the coffee on it."""


@dataclass(frozen=True)
class PlannedPour:
    """What the plan pours: g evenly between two times, s."""

    start_s: float
    end_s: float
    grams: float


@dataclass(frozen=True)
class Transfer:
    """The slurry is poured over into an empty dripper on a scale of its own: when, and what it weighs."""

    at_s: float
    slurry_g: float
    takes_s: float = 8.0


class Scale(Protocol):
    """Anything that can be asked what the scale reads, g, elapsed_s after the first water."""

    source: str

    def reading_g(self, elapsed_s: float) -> float: ...


def mistaken(pours: Sequence[PlannedPour], mistake: Mistake) -> list[PlannedPour]:
    """The same pours with the mistake in them (spills, knocks and zeroings change the reading, not the pours).

    >>> mistaken([PlannedPour(0, 8, 40), PlannedPour(40, 60, 120)], "fast")[1].end_s
    50.0
    >>> [p.grams for p in mistaken([PlannedPour(0, 8, 40), PlannedPour(40, 60, 120)], "short")]
    [40, 100.0, 20.0]
    """
    out = list(pours)
    if mistake == "fast" and out:
        at = min(1, len(out) - 1)
        p = out[at]
        out[at] = replace(p, end_s=p.start_s + (p.end_s - p.start_s) / 2)
    if mistake == "late" and out:
        p = out[-1]
        out[-1] = replace(p, start_s=p.start_s + LATE_S, end_s=p.end_s + LATE_S)
    if mistake == "short" and out:
        p, short = out[-1], min(SHORT_G, out[-1].grams / 2)
        out[-1] = replace(p, grams=p.grams - short)
        out.append(PlannedPour(p.end_s + TOPPED_AFTER_S, p.end_s + TOPPED_AFTER_S + 4, short))
    return out


@dataclass(frozen=True)
class SimulatedScale:
    """Pours as a careful hand would, or with one mistake: each begun up to 2 s late, ended within 1.5 % of its target, read in
    steps of 0.1 g. lifted_s: when the brewer is taken off, None while it stands; transfer: from then on the dripper's own scale is read. Clearly marked: source is "simulated"."""

    pours: Sequence[PlannedPour]
    seed: int
    step_g: float = 0.1
    mistake: Mistake = ""
    lifted_s: float | None = None
    transfer: Transfer | None = None
    source: str = "simulated"

    def as_poured(self) -> list[PlannedPour]:
        """What this hand really pours."""
        return list(self._poured)

    @cached_property
    def _poured(self) -> tuple[PlannedPour, ...]:
        out = []
        for i, p in enumerate(mistaken(self.pours, self.mistake)):
            hand = random.Random(f"{self.seed} {i}")
            late_s, miss = hand.uniform(0, 2), hand.gauss(0, 0.005)
            lasts = max(1.0, p.end_s - p.start_s)
            out.append(PlannedPour(p.start_s + late_s, p.start_s + late_s + lasts, p.grams * (1 + max(-0.015, min(0.015, miss)))))
        return tuple(out)

    @cached_property
    def knocked_s(self) -> float:
        """When the table is knocked, while it waits and nothing is poured."""
        return self._waits(random.Random(f"{self.seed} knock").uniform(0.3, 0.7))

    @cached_property
    def zeroed_s(self) -> float:
        """When the scale is zeroed by mistake."""
        return self._waits(0.85)

    def _waits(self, share: float) -> float:
        """A moment of the longest wait between two pours; after the last one when there is but one."""
        p = self._poured
        if len(p) < 2:
            return p[-1].end_s + 6 + 6 * share if p else 5.0
        low, high = max(((a.end_s + 2, b.start_s - 2) for a, b in zip(p, p[1:], strict=False)), key=lambda w: w[1] - w[0])
        return low + share * max(0.0, high - low)

    def reading_g(self, elapsed_s: float) -> float:
        if self.lifted_s is not None and elapsed_s > self.lifted_s:
            left = math.exp(-(elapsed_s - self.lifted_s) / 0.25)
            return self._stepped(LIFTED_READS_G + (self._load_g(self.lifted_s) - LIFTED_READS_G) * left)
        if self.transfer is not None and elapsed_s >= self.transfer.at_s:
            over = min(1.0, max(0.0, (elapsed_s - self.transfer.at_s - EMPTY_S) / self.transfer.takes_s))
            return self._stepped(self._load_g(elapsed_s) - self._load_g(self.transfer.at_s) + self.transfer.slurry_g * over)
        total = self._load_g(elapsed_s) + DRIFT_G_S * max(0.0, elapsed_s) * random.Random(f"{self.seed} drift").uniform(-1, 1)
        if self.mistake == "spill" and self.pours and elapsed_s > (self.pours[0].start_s + self.pours[-1].end_s) / 2:
            total = max(0.0, total - SPILT_G)
        if self.mistake == "zeroed" and elapsed_s >= self.zeroed_s:
            total -= self._load_g(self.zeroed_s)
        if self.mistake == "knock" and 0 <= elapsed_s - self.knocked_s < KNOCK_S:
            total += KNOCK_G * math.sin(2 * math.pi * (elapsed_s - self.knocked_s) / KNOCK_S)
        if any(p.start_s < elapsed_s < p.end_s for p in self._poured):
            total += random.Random(f"{self.seed} at {math.floor(10 * elapsed_s)}").gauss(0, 0.25)
        return self._stepped(total)

    def _load_g(self, elapsed_s: float) -> float:
        """The load as the lagging scale shows it: of each straight pour, the first-order answer in closed form."""
        total = 0.0
        for p in self._poured:
            since, lasts = elapsed_s - p.start_s, p.end_s - p.start_s
            if since <= 0:
                continue
            rate = p.grams / lasts
            within = min(since, lasts)
            shown = rate * (within - LAG_S * (1 - math.exp(-within / LAG_S)))
            if since > lasts:
                shown = p.grams - (p.grams - shown) * math.exp(-(since - lasts) / LAG_S)
            total += shown
        return total

    def _stepped(self, grams: float) -> float:
        return round(round(grams / self.step_g) * self.step_g, 6)
