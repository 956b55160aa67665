"""Brewing along a plan: which step it is, what the scale should read now, and what is still to pour. docs/formulas.md §7."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .. import figures
from ..errors import Inconsistent, NotEnoughKnowns, OutOfDomain
from ..recipe.model import AFTERWARDS, ON_COFFEE, Recipe, ending_of, own_water_g, poured_by_s, timeline
from ..recipe.readings import stands
from ..units import write_duration
from .observed import USUAL_TOLERANCES, Tolerances

AHEAD_S = 5.0
"""The next instruction is given this long before its time."""
NO_STEPS = "This setup has no pours to follow. Pour as usual; only the totals are checked."


@dataclass(frozen=True)
class PlannedStep:
    """A step from the first water on. to_g: the water poured when it ends, None when nothing is poured onto the coffee; seen: a cue begins or ends it;
    after: it belongs to the drink and hangs on the brew's end, times counted as if that came on time; reads_g: what its scale reads at its end, which is not the water where the coffee
    stands on an empty-zeroed scale; slurry_g: what a transfer should read."""

    index: int
    kind: str
    start_s: float
    end_s: float
    from_g: float
    to_g: float | None
    seen: bool = False
    after: bool = False
    reads_g: float | None = None
    slurry_g: float | None = None

    @property
    def lasts_s(self) -> float:
        return max(0.0, self.end_s - self.start_s)


def planned_steps(recipe: Recipe) -> tuple[PlannedStep, ...]:
    """What is done from the first water on, with the readings as water on the coffee alone (bypass is added off the scale)."""
    out, poured = [], 0.0
    timed = timeline(recipe)
    drink = ending_of(recipe, timed).first_after
    for t, own, stand in zip(timed, own_water_g(recipe), stands(recipe), strict=True):
        wet = t.step.kind in ON_COFFEE and own > 0
        before, poured = poured, poured + (own if wet else 0.0)
        if t.end_s > 0:
            after = t.index >= drink or t.step.kind in AFTERWARDS
            cued = bool(t.step.cue or t.step.start_cue)
            to_g, reads_g = (poured, stand.reads_g) if wet else (None, None)
            out.append(PlannedStep(t.index, t.step.kind, max(0.0, t.start_s), poured_by_s(t), before, to_g, cued, after, reads_g, stand.slurry_g))
    return tuple(out)


def plan_now_g(steps: Sequence[PlannedStep], elapsed_s: float) -> float:
    """What the scale would read if the plan were followed to the second.

    >>> plan_now_g((PlannedStep(0, "pour", 10, 20, 0, 50),), 15)
    25.0
    """
    reading = 0.0
    for s in steps:
        if s.to_g is None:
            continue
        share = min(1.0, max(0.0, (elapsed_s - s.start_s) / max(1e-9, s.end_s - s.start_s)))
        reading += share * (s.to_g - s.from_g)
    return float(reading)


@dataclass(frozen=True)
class Deviation:
    """plan − actual of one step, as docs/formulas.md §7 counts it: of its end, s, and of its reading, g (None when none was taken).
    outside: beyond the tolerances. what: the step as a cook knows it, whose number in a table says nothing."""

    index: int
    end_s: float
    mass_g: float | None
    outside: bool
    what: str

    @property
    def text(self) -> str:
        """In words.

        >>> Deviation(2, -7, 3.2, True, called(288, 105)).text
        'Pour to 288 g: 7 s late, 3.2 g under.'
        """
        when = f"{figures.seconds(abs(self.end_s))} s {'late' if self.end_s < 0 else 'early'}"
        mass = f", {figures.grams_fine(abs(self.mass_g))} g {'under' if self.mass_g > 0 else 'over'}" if self.mass_g else ""
        return f"{self.what}: {when}{mass}."


def called(to_g: float | None, due_s: float) -> str:
    """What a step is called where it is spoken of afterwards.

    >>> called(170.0, 60), called(None, 105)
    ('Pour to 170 g', 'Step due at 1:45')
    """
    return f"Pour to {figures.grams_as_said(to_g)} g" if to_g is not None else f"Step due at {write_duration(due_s)}"


@dataclass(frozen=True)
class DoneStep:
    """A key was pressed for a step: when, and what the scale then read."""

    index: int
    ended_s: float
    reading_g: float | None


def newest_of(done: Sequence[DoneStep]) -> list[DoneStep]:
    """A step marked again counts once, as it was marked last.

    >>> newest_of([DoneStep(0, 12, None), DoneStep(1, 40, None), DoneStep(0, 9, None)])
    [DoneStep(index=1, ended_s=40, reading_g=None), DoneStep(index=0, ended_s=9, reading_g=None)]
    """
    last = {d.index: i for i, d in enumerate(done)}
    return [d for i, d in enumerate(done) if last[d.index] == i]


By = Literal["scale", "press", "plan", "typed"]
"""Who says how a step was made; plan: nobody did, so that its times are the recipe's."""


@dataclass(frozen=True)
class MadeStep:
    """A step as it was made: when it began (None: not known) and ended, s, and the water poured by then, g (None: nothing poured, or not read)."""

    index: int
    began_s: float | None
    ended_s: float
    to_g: float | None
    by: By


def deviations(steps: Sequence[PlannedStep], made: Sequence[MadeStep], tolerances: Tolerances = USUAL_TOLERANCES) -> tuple[Deviation, ...]:
    """Plan against actual, step by step; what nobody said anything of is not judged. Source: docs/formulas.md §7."""
    by_index = {s.index: s for s in steps}
    out = []
    for m in made:
        plan = by_index.get(m.index)
        if plan is None or m.by == "plan" or plan.after:
            continue
        mass = plan.to_g - m.to_g if plan.to_g is not None and m.to_g is not None else None
        late = plan.end_s - m.ended_s
        outside = abs(late) > tolerances.time_s or (mass is not None and abs(mass) > tolerances.mass_of(plan.to_g))
        out.append(Deviation(m.index, late, mass, outside, called(plan.to_g, plan.end_s)))
    return tuple(out)


@dataclass(frozen=True)
class MarkedStep:
    """A step of a logged brew as it was made, kept with what was planned then: ends, s, and the water poured by then, g (None: nothing poured, or not
    read). last_pour: the brew's last water; after_water: nothing is poured in it or after it."""

    index: int
    plan_end_s: float
    ended_s: float
    plan_to_g: float | None = None
    reading_g: float | None = None
    last_pour: bool = False
    after_water: bool = False
    began_s: float | None = None
    by: By = "press"


def marked_steps(steps: Sequence[PlannedStep], made: Sequence[MadeStep]) -> tuple[MarkedStep, ...]:
    """What a logged brew keeps of how it was made: facts, so that a later correction or other tolerances are judged anew."""
    by_index = {s.index: s for s in steps if not s.after}
    last = max((s.index for s in steps if s.to_g is not None), default=-1)
    return tuple(
        MarkedStep(m.index, plan.end_s, m.ended_s, plan.to_g, m.to_g, m.index == last, m.index > last, m.began_s, m.by)
        for m in made
        if (plan := by_index.get(m.index)) is not None
    )


@dataclass(frozen=True)
class TypedPour:
    """A pour as a hand wrote it down afterwards; None: not said."""

    index: int
    began_s: float | None
    ended_s: float | None
    to_g: float | None


def corrected(steps: Sequence[PlannedStep], marked: Sequence[MarkedStep], typed: Sequence[TypedPour]) -> tuple[MarkedStep, ...]:
    """The brew's steps with its pours as they were written down: what is left as it was keeps who said it. A pour without an end is no pour.

    Raises Inconsistent (a pour that ends before it begins, begins before the one before it, or holds less than it) and OutOfDomain (no such pour).
    """
    wet = {s.index: s for s in steps if s.to_g is not None}
    before = {m.index: m for m in marked}
    made: dict[int, MadeStep] = {m.index: MadeStep(m.index, m.began_s, m.ended_s, m.reading_g, m.by) for m in marked}
    poured, begun = 0.0, 0.0
    for i, t in enumerate(sorted(typed, key=lambda t: t.index)):
        if t.index not in wet:
            raise OutOfDomain(f"pours.{i}.index", f"step {t.index + 1} pours nothing.", "Give the pours of this brew's recipe.", t.index)
        if t.ended_s is None:
            if t.began_s is not None or t.to_g is not None:
                raise NotEnoughKnowns(f"pours.{i}.ended_s", "when this pour ended is not said.", "Give its end, or leave the pour empty.")
            made.pop(t.index, None)
            continue
        if t.began_s is not None and t.began_s > t.ended_s:
            raise Inconsistent(
                f"pours.{i}.ended_s", f"this pour would end at {figures.seconds(t.ended_s)} s, before it begins.", "Correct one of the two times."
            )
        if t.ended_s < begun:
            raise Inconsistent(f"pours.{i}.ended_s", "this pour would end before an earlier one.", "Correct one of the two times.")
        if t.to_g is not None and t.to_g < poured:
            raise Inconsistent(f"pours.{i}.reading_g", f"the water would go down from {figures.grams_fine(poured)} g.", "Give all the water poured by then.")
        poured, begun = t.to_g if t.to_g is not None else poured, t.ended_s
        old = before.get(t.index)
        same = old is not None and (old.began_s, old.ended_s, old.reading_g) == (t.began_s, t.ended_s, t.to_g)
        made[t.index] = MadeStep(t.index, t.began_s, t.ended_s, t.to_g, old.by if same and old else "typed")
    return marked_steps(steps, sorted(made.values(), key=lambda m: m.index))


def off_plan_steps(
    marked: Sequence[MarkedStep], tolerances: Tolerances, *, pour_end_s: float | None, total_time_s: float | None, poured_g: float | None
) -> tuple[str, ...]:
    """What of a logged brew's steps is outside the tolerances, in words, by its times as they are now known.

    The logged end of pouring is the end of the last pour, and no step ended later than the pouring or the brew it belongs to: a stop
    that was pressed late and then corrected is no deviation any more. What nobody said anything of is not judged.

    >>> off_plan_steps([MarkedStep(1, 105, 208, 290, 290, True)], USUAL_TOLERANCES, pour_end_s=208, total_time_s=260, poured_g=290)
    ('Pour to 290 g: 103 s late',)
    >>> off_plan_steps([MarkedStep(1, 105, 208, 290, 290, True)], USUAL_TOLERANCES, pour_end_s=106, total_time_s=170, poured_g=290)
    ()
    """
    out = []
    for m in marked:
        if m.by == "plan":
            continue
        end = total_time_s if m.after_water else pour_end_s
        ended_s = m.ended_s if end is None else end if m.last_pour else min(m.ended_s, end)
        reading_g = poured_g if m.last_pour and m.reading_g is not None and poured_g is not None else m.reading_g
        mass = m.plan_to_g - reading_g if m.plan_to_g is not None and reading_g is not None else None
        late = m.plan_end_s - ended_s
        if abs(late) > tolerances.time_s or (mass is not None and abs(mass) > tolerances.mass_of(m.plan_to_g)):
            out.append(Deviation(m.index, late, mass, True, called(m.plan_to_g, m.plan_end_s)).text.rstrip("."))
    return tuple(out)


def pressed_for_s(steps: Sequence[PlannedStep], made: Sequence[MadeStep]) -> float | None:
    """How long the press took, s: from the end of the step before it to its own; None where nobody said either.

    >>> pressed_for_s((PlannedStep(1, "invert", 70, 75, 0, None), PlannedStep(2, "press", 75, 100, 0, None)), (MadeStep(1, None, 76, None, "press"), MadeStep(2, None, 104.5, None, "press")))
    28.5
    """
    press = next((s.index for s in steps if s.kind == "press"), None)
    told = [m for m in made if m.by != "plan"]
    ended = next((m.ended_s for m in told if m.index == press), None)
    before = [m.ended_s for m in told if m.index != press and ended is not None and m.ended_s <= ended]
    return round(ended - max(before), 1) if before else None


def said(found: Sequence[Deviation], tolerances: Tolerances = USUAL_TOLERANCES) -> str:
    """What was off plan, or that nothing was.

    >>> said(())
    'On plan: every pour within 2 g or 1 %, and 5 s.'
    """
    on_plan = f"On plan: every pour within {tolerances.mass_g:g} g or {tolerances.share_pct:g} %, and {tolerances.time_s:g} s."
    return " ".join(d.text for d in found if d.outside) or on_plan
