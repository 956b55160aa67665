"""Where a brew stands this second, and what is asked next: one function of plan, presses, scale and clock. docs/formulas.md §7.

While a scale speaks it leads: a pour begins and ends where the mass says, what lies between two pours is over when the next begins or its time
has passed, and presses annotate and overrule. Without one the clock asks: the step that is due is shown, and one press for it takes the forgotten ones before it along.
How the brew ends is the recipe's (`ending_of`); what belongs to the drink hangs on the end as it really came.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ..recipe.model import BrewEnd
from .along import By, DoneStep, MadeStep, PlannedStep, newest_of, plan_now_g
from .follow import Followed

GRACE_S = 5.0
"""So long after the next step's time a hand may still be at the one before."""
WAITS_FOR_A_PRESS_S = 20.0
"""What only an eye sees (a cue, the last drip) is waited for this long beyond its time before the guide goes on by itself."""
Phase = Literal["before", "brew", "ending", "drink", "over"]


@dataclass(frozen=True)
class Plan:
    """What a brew is led by."""

    steps: tuple[PlannedStep, ...]
    end: BrewEnd

    @property
    def brew(self) -> tuple[PlannedStep, ...]:
        return tuple(s for s in self.steps if not s.after)

    @property
    def drink(self) -> tuple[PlannedStep, ...]:
        return tuple(s for s in self.steps if s.after)


@dataclass(frozen=True)
class Now:
    """phase: before the first water, brew, ending (all steps done, the end awaited), drink (steps after it) or over. current, next: step indices. begins_in_s, left_s: until the current step begins
    and ends by plan, negative when overdue. rest_g: still to pour, negative when over; target_g and reads_g: the water it ends at and what this scale will then read. poured_g: the water so far
    (None without a scale). plan_g: what the plan would have poured. made: steps over so far. ended_s: when the brew ended, ended_by who says so. forgotten: steps nobody said anything of; notes: what the scale was found to have gone through."""

    phase: Phase
    current: int | None
    next: int | None
    begins_in_s: float
    left_s: float
    rest_g: float | None
    target_g: float | None
    reads_g: float | None
    poured_g: float | None
    pouring: bool
    plan_g: float
    made: tuple[MadeStep, ...]
    ended_s: float | None
    ended_by: By | None
    forgotten: tuple[int, ...]
    notes: tuple[str, ...] = ()


def stand(plan: Plan, *, elapsed_s: float | None, pressed: Sequence[DoneStep] = (), ended_s: float | None = None, seen: Followed | None = None) -> Now:
    """elapsed_s: None before the first water. pressed: steps a key was pressed for; ended_s: the end, where a key was pressed for it; seen: what the scale says, None without one."""
    plan = moved_up(plan, pressed)
    if elapsed_s is None:
        first = plan.steps[0] if plan.steps else None
        return _at(plan, "before", first, plan.steps[1:2], 0.0, seen, (), None, None)
    over_s, over_by = _ended(plan, elapsed_s, pressed, ended_s, seen)
    brew = _made(plan.brew, plan, elapsed_s if over_s is None else min(elapsed_s, over_s), pressed, seen, over_s)
    if over_s is None:
        current, rest = _at_hand(plan.brew, brew, elapsed_s, pressed, seen)
        phase: Phase = "brew" if current else "ending"
        after = rest[:1] if rest else ()
        return _at(plan, phase, current, after, elapsed_s, seen, brew, None, None)
    late = over_s - plan.end.at_s
    drink = [_later(s, late, over_s) for s in plan.drink]
    done = {d.index: d for d in newest_of(pressed)}
    told = tuple(
        MadeStep(s.index, s.start_s, done[s.index].ended_s if s.index in done else s.end_s, None, "press" if s.index in done else "plan")
        for s in drink
        if s.index in done or elapsed_s >= s.end_s
    )
    left = [s for s in drink if s.index not in {m.index for m in told}]
    current = left[0] if left else None
    return _at(plan, "drink" if current else "over", current, left[1:2], elapsed_s, seen, (*brew, *told), over_s, over_by)


def moved_up(plan: Plan, pressed: Sequence[DoneStep]) -> Plan:
    """The plan after cues that were seen early: what follows such a step, and the end, come as much sooner.

    >>> steps = (PlannedStep(0, "pour", 0, 10, 0, 50), PlannedStep(1, "wait", 10, 60, 50, None, seen=True), PlannedStep(2, "pour", 60, 80, 50, 250))
    >>> found = moved_up(Plan(steps, BrewEnd("drips_stop", 150, None, 3)), [DoneStep(1, 45, None)])
    >>> found.steps[2].start_s, found.end.at_s
    (45, 135)
    """
    done = {d.index: d.ended_s for d in newest_of(pressed)}
    sooner, out = 0.0, []
    for s in plan.steps:
        out.append(replace(s, start_s=s.start_s - sooner, end_s=s.end_s - sooner) if sooner else s)
        if s.seen and s.index in done:
            sooner = max(sooner, s.end_s - done[s.index])
    return replace(plan, steps=tuple(out), end=replace(plan.end, at_s=plan.end.at_s - sooner)) if sooner else plan


def _later(step: PlannedStep, late_s: float, over_s: float) -> PlannedStep:
    """A step of the drink, moved with the end."""
    start = max(over_s, step.start_s + late_s)
    return replace(step, start_s=start, end_s=start + step.lasts_s)


def _ended(plan: Plan, elapsed_s: float, pressed: Sequence[DoneStep], ended_s: float | None, seen: Followed | None) -> tuple[float | None, By | None]:
    """When the brew ended and who says so: a press for it, the press for the step that ends it, the scale that the brewer left, or, while a scale leads, the plan's own time for what no scale sees."""
    if ended_s is not None:
        return ended_s, "press"
    by = plan.end.by
    if by is not None and (done := next((d for d in reversed(pressed) if d.index == by), None)):
        return done.ended_s, "press"
    if seen is None:
        return None, None
    if seen.lifted_s is not None and seen.pours and (plan.end.kind != "pressed" or seen.lifted_s < plan.end.at_s):
        return seen.lifted_s, "scale"
    waits = WAITS_FOR_A_PRESS_S if plan.end.kind != "pressed" else GRACE_S
    last = max((p.ended_s or elapsed_s for p in seen.pours), default=0.0)
    if not seen.pouring and seen.pours and elapsed_s >= max(plan.end.at_s, last) + waits and _all_poured(plan, seen):
        return max(plan.end.at_s, last), "plan"
    return None, None


def _all_poured(plan: Plan, seen: Followed) -> bool:
    wet = [s.index for s in plan.brew if s.to_g is not None]
    return not wet or wet[-1] in {p.index for p in seen.pours}


def _made(
    steps: Sequence[PlannedStep], plan: Plan, until_s: float, pressed: Sequence[DoneStep], seen: Followed | None, over_s: float | None
) -> tuple[MadeStep, ...]:
    """The brew's steps that are over, each with who says so."""
    done = {d.index: d for d in newest_of(pressed)}
    poured = {p.index: p for p in seen.pours} if seen else {}
    furthest = max([*done, *(p.index for p in poured.values())], default=-1)
    out: list[MadeStep] = []
    for i, s in enumerate(steps):
        scale, key = poured.get(s.index), done.get(s.index)
        began = scale.began_s if scale else None
        if scale and scale.ended_s is not None and s.to_g is not None:
            out.append(MadeStep(s.index, began, scale.ended_s, scale.to_g, "scale"))
        elif key is not None:
            out.append(MadeStep(s.index, began, key.ended_s, key.reading_g if s.to_g is not None else None, "press"))
        elif s.index == plan.end.by and over_s is not None:
            out.append(MadeStep(s.index, None, over_s, None, "plan"))
        elif scale is None and (over_s is not None or s.index < furthest or (seen is not None and s.to_g is None and until_s >= _passes_s(steps, i, out))):
            out.append(MadeStep(s.index, s.start_s, s.end_s, s.to_g if s.to_g is not None and seen is None else None, "plan"))
    return tuple(out)


def _passes_s(steps: Sequence[PlannedStep], i: int, made: Sequence[MadeStep]) -> float:
    """When a step without water is taken to be over although nobody said so: by its plan, and never before it can have been done after the pour before it."""
    s = steps[i]
    last = max((m.ended_s for m in made if m.by == "scale"), default=0.0)
    waited = WAITS_FOR_A_PRESS_S if s.seen else 0.0
    if s.kind == "wait":
        return max(s.end_s, last) + waited
    return max(s.end_s, last + s.lasts_s) + waited


def _at_hand(
    steps: Sequence[PlannedStep], made: Sequence[MadeStep], elapsed_s: float, pressed: Sequence[DoneStep], seen: Followed | None
) -> tuple[PlannedStep | None, list[PlannedStep]]:
    """The step at hand, and those after it."""
    over = {m.index for m in made}
    left = [s for s in steps if s.index not in over]
    if seen is None and left:
        due = [s for s in left if s.start_s <= elapsed_s]
        if len(due) > 1:
            at = len(due) - 1 if elapsed_s >= due[-1].start_s + min(GRACE_S, due[-1].lasts_s / 2) else len(due) - 2
            left = left[at:]
    return (left[0], left[1:]) if left else (None, [])


def _waits_for_slurry(plan: Plan, current: PlannedStep, seen: Followed) -> bool:
    """What is poured over is not on the scale yet, so that what it will read is the recipe's to say."""
    return seen.slurry_g is None and any(s.slurry_g is not None and s.index < current.index for s in plan.brew)


def _at(
    plan: Plan, phase: Phase, current: PlannedStep | None, after: Sequence[PlannedStep], elapsed_s: float, seen: Followed | None, made: tuple[MadeStep, ...],
    ended_s: float | None, ended_by: By | None,
) -> Now:  # fmt: skip
    rest = target = reads = None
    if current is not None and current.to_g is not None and phase in ("before", "brew"):
        target = current.to_g
        reads = target - seen.rests_at_g if seen and not _waits_for_slurry(plan, current, seen) else current.reads_g or target
        rest = target - (seen.poured_g if seen else current.from_g)
    due = plan.end.at_s if current is None else current.start_s
    ends = plan.end.at_s if current is None else current.end_s
    told = {m.index for m in made if m.by != "plan"}
    forgotten = tuple(s.index for s in plan.brew if s.index in {m.index for m in made} - told) if seen is None else ()
    return Now(
        phase=phase,
        current=current.index if current else None,
        next=after[0].index if after else None,
        begins_in_s=due - elapsed_s,
        left_s=ends - elapsed_s,
        rest_g=rest,
        target_g=target,
        reads_g=reads,
        poured_g=seen.poured_g if seen else None,
        pouring=bool(seen and seen.pouring),
        plan_g=plan_now_g(plan.brew, max(0.0, elapsed_s)),
        made=made,
        ended_s=ended_s,
        ended_by=ended_by,
        forgotten=forgotten,
        notes=seen.notes if seen else (),
    )
