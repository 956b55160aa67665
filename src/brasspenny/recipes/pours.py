"""How a brew's pours are told: planned and made, side by side."""

from __future__ import annotations

from collections.abc import Sequence

from ..core.brewing.along import MarkedStep, PlannedStep, planned_steps
from ..core.recipe.describe import sentences
from ..core.trial.setups import recipe_of
from ..core.trial.value import Brew, SetupRevision
from .schemas import PourShown


def pours_planned(revision: SetupRevision) -> list[PourShown]:
    """Of a setup, none of them made."""
    if revision.recipe is None:
        return []
    recipe = recipe_of(revision)
    return pours_shown(planned_steps(recipe), (), sentences(recipe))


def pours_of(run: Brew, revision: SetupRevision) -> list[PourShown]:
    """Of a logged brew; none where its setup does not say how it is poured."""
    if revision.recipe is None:
        return []
    recipe = recipe_of(revision)
    return pours_shown(planned_steps(recipe), [MarkedStep(**m) for m in run.marked], sentences(recipe))


def pours_shown(steps: Sequence[PlannedStep], marked: Sequence[MarkedStep], said: Sequence[str]) -> list[PourShown]:
    """Every pour of the recipe, made or not. said: a sentence for each step of it."""
    made = {m.index: m for m in marked}
    return [_pour(step, made.get(step.index), said[step.index]) for step in steps if step.to_g is not None]


def _pour(step: PlannedStep, m: MarkedStep | None, text: str) -> PourShown:
    return PourShown(
        index=step.index,
        text=text,
        plan_start_s=step.start_s,
        plan_end_s=step.end_s,
        plan_to_g=step.to_g or 0.0,
        began_s=_tenth(m.began_s) if m else None,
        ended_s=_tenth(m.ended_s) if m else None,
        reading_g=_tenth(m.reading_g) if m else None,
        by=m.by if m else None,
    )


def _tenth(value: float | None) -> float | None:
    return None if value is None else round(value, 1)
