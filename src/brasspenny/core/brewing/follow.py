"""The scale leads: which planned pour each pour of the curve was, and what the brew did besides. docs/formulas.md §7.

Pours are laid onto the plan in order. The next pour of the scale belongs to the step at hand until that step has its water, or, when it has nearly
its water and the hand has rested, when the next step is due. A pour that runs on through a target without a rest is both steps, parted where the water
passed it. What comes after the last step's water is a topping up: water all the same.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from .. import figures
from .along import PlannedStep
from .curve import Curve, PourSegment, Zeroed

NEARLY = 0.6
"""A step with this share of its own water may be over when the hand rests and the next is due."""
REST_S = 3.0
EARLY_S = 20.0
"""So much before its time a transfer may begin."""
RUNS_ON = 0.35
"""A pour that goes past a target by this share of the next step's water is the next step, too."""


@dataclass(frozen=True)
class SeenPour:
    """A planned pour as the scale saw it. ended_s: None while it goes on; to_g: the water poured by then, settled once it has ended."""

    index: int
    began_s: float
    ended_s: float | None
    to_g: float


@dataclass(frozen=True)
class Followed:
    """pours: in the plan's order; skipped steps are missing. poured_g: all water so far; topped_up_g: water after the last step's; slurry_g: what the scale
    read after a transfer; the rest as in the curve."""

    pours: tuple[SeenPour, ...]
    poured_g: float
    pouring: bool
    topped_up_g: float
    lifted_s: float | None
    zeroed: tuple[Zeroed, ...]
    notes: tuple[str, ...]
    slurry_g: float | None = None

    @property
    def rests_at_g(self) -> float:
        """How much less than the water the scale reads: what zeroings took off, less what was poured over onto it."""
        return sum(z.by_g for z in self.zeroed) - (self.slurry_g or 0.0)


NOTHING = Followed((), 0.0, False, 0.0, None, (), ())


def _tolerance_g(step: PlannedStep) -> float:
    own = (step.to_g or 0.0) - step.from_g
    return max(4.0, 0.06 * own)


def follow(steps: Sequence[PlannedStep], curve: Curve, zero_s: float = 0.0, *, being_made: bool = False) -> Followed:
    """The pours of a curve laid onto the plan. zero_s: the first water, on the curve's clock. being_made: the brew goes on, and a
    last step short of nearly its water is at rest, not over."""
    wet = [s for s in steps if s.to_g is not None]
    seen: dict[int, SeenPour] = {}
    at, poured, topped = 0, 0.0, 0.0
    last = curve.pours[-1] if curve.pours else None
    over = _poured_over(steps, curve, zero_s)
    for pour in curve.pours:
        if pour == over.pour:
            continue
        no_water = over.pour.added_g if over.pour and pour.start_s > over.pour.start_s else 0.0
        before, poured = poured, pour.to_g - no_water
        began, ended = pour.start_s - zero_s, pour.end_s - zero_s
        goes_on = curve.pouring and pour is last
        at = _step_at(wet, seen, at, before, began)
        if at >= len(wet):
            topped += pour.added_g
            continue
        while at + 1 < len(wet) and poured > wet[at].to_g + max(_tolerance_g(wet[at]), RUNS_ON * (wet[at + 1].to_g - wet[at + 1].from_g)):
            crossed = _crossed_s(curve, pour, wet[at].to_g + no_water) - zero_s
            if wet[at].to_g > before + 1.0:
                _add(seen, wet[at].index, began, crossed, wet[at].to_g)
                began = crossed
            at += 1
        _add(seen, wet[at].index, began, None if goes_on else ended, poured)
    if being_made and curve.lifted_s is None and wet and _short(wet[-1], seen.get(wet[-1].index)):
        seen[wet[-1].index] = replace(seen[wet[-1].index], ended_s=None)
    in_order = tuple(seen[s.index] for s in wet if s.index in seen)
    pouring = curve.pouring and (over.pour is None or last != over.pour)
    return Followed(in_order, poured, pouring, topped, _since(curve.lifted_s, zero_s), curve.zeroed, (*curve.notes, *over.notes), over.slurry_g)


def _short(step: PlannedStep, made: SeenPour | None) -> bool:
    return made is not None and made.to_g - step.from_g < NEARLY * ((step.to_g or 0.0) - step.from_g)


@dataclass(frozen=True)
class _Over:
    """The slurry poured over from one vessel into another: as a pour of the curve, or put on at once; neither is water."""

    pour: PourSegment | None = None
    slurry_g: float | None = None
    notes: tuple[str, ...] = ()


SLURRY_WITHIN = 0.25
LOST_G = 1.0


def _poured_over(steps: Sequence[PlannedStep], curve: Curve, zero_s: float) -> _Over:
    """What of a curve is a transfer: once the vessel has left the scale, what comes on that weighs about what the slurry must by the water poured so far."""
    move = next((s for s in steps if s.slurry_g is not None), None)
    if move is None:
        return _Over()
    before = [p for p in curve.pours if p.start_s - zero_s < move.start_s - EARLY_S]
    if not before:
        return _Over()
    expected = move.slurry_g + before[-1].to_g - move.from_g
    after = [(p.start_s, p.added_g, p) for p in curve.pours[len(before) :]] + [(x.at_s, x.grams, None) for x in curve.put_on]
    for at_s, grams, pour in sorted(after, key=lambda x: x[0]):
        if at_s > before[-1].end_s and abs(grams - expected) <= SLURRY_WITHIN * expected:
            left = expected - grams
            told = f"After the transfer the scale read {figures.grams_as_said(grams)} g, {figures.grams_as_said(expected)} g expected"
            stayed = f": {figures.grams_fine(left)} g stayed behind." if left > LOST_G else "."
            return _Over(pour, grams, (told + stayed,))
    return _Over()


def _since(at_s: float | None, zero_s: float) -> float | None:
    return None if at_s is None else at_s - zero_s


def _step_at(wet: Sequence[PlannedStep], seen: dict[int, SeenPour], at: int, poured_g: float, began_s: float) -> int:
    """The planned pour that a pour begun now, on so much water, belongs to; len(wet) when all have theirs."""
    while at < len(wet):
        step = wet[at]
        if poured_g >= step.to_g - _tolerance_g(step):
            at += 1
            continue
        made = seen.get(step.index)
        if made is None or made.ended_s is None or at + 1 >= len(wet):
            return at
        rested = began_s - made.ended_s >= REST_S
        own = step.to_g - step.from_g
        due = abs(began_s - wet[at + 1].start_s) < abs(began_s - step.end_s)
        if rested and due and poured_g - step.from_g >= NEARLY * own:
            at += 1
            continue
        return at
    return at


def _crossed_s(curve: Curve, pour: PourSegment, to_g: float) -> float:
    """When the water passed a target within a pour."""
    inside = (curve.t_s >= pour.start_s) & (curve.t_s <= pour.end_s)
    t, offset = curve.t_s[inside], pour.to_g - pour.added_g
    if not len(t):
        return pour.end_s
    g = curve.water_g[inside] - curve.water_g[inside][0] + offset
    passed = np.flatnonzero(g >= to_g)
    return float(t[passed[0]]) if len(passed) else pour.end_s


def _add(seen: dict[int, SeenPour], index: int, began_s: float, ended_s: float | None, to_g: float) -> None:
    """A step poured in several goes begins with the first and ends with the last."""
    before = seen.get(index)
    seen[index] = SeenPour(index, before.began_s if before else began_s, ended_s, to_g)
