"""Brews as they are planned, one slot each, filled as they are made. docs/formulas.md §8."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Any

from ..planning.control import FACTOR_LABELS, TESTED_FIELD
from ..planning.designs import Order, run_order
from .measured import MeasuredTrial
from .setups import shown_values
from .value import Brew, Setup

USUAL = {"replicates": 2, "flights": 1, "blocking": "replicate", "block_factor": "", "seed": 0}
"""While no plan is stored."""


@dataclass(frozen=True)
class Slot:
    """label: of the brew in it, or the one it will have; run_id: '' while it is open."""

    setup_id: str
    letter: str
    label: str
    run_id: str


def planned_order(m: MeasuredTrial, settings: Mapping[str, Any]) -> Order | None:
    """The seeded order of one flight's brews; None without setups. settings: replicates, blocking, block_factor, seed."""
    if not m.setups:
        return None
    if settings["blocking"] == "factor" and settings["block_factor"] in TESTED_FIELD:
        field = TESTED_FIELD[settings["block_factor"]]
        levels = [shown_values(revision).get(field, "") for _, revision in m.setups]
        label = FACTOR_LABELS.get(settings["block_factor"], settings["block_factor"])
        return run_order(len(m.setups), settings["replicates"], seed=settings["seed"] or 0, blocking="factor", levels=levels, factor=label)
    blocking = "replicate" if settings["blocking"] == "factor" else settings["blocking"]
    return run_order(len(m.setups), settings["replicates"], seed=settings["seed"] or 0, blocking=blocking)


def slots_of(m: MeasuredTrial) -> tuple[Slot, ...]:
    """What was drafted last, else what the plan asks for: every slot with the brew that fills it, in the order of brewing."""
    plan = m.trial.plan
    if plan and plan.drafted:
        return _filled(m, _drafted(m, plan.drafted["brews"]), {i: have for i, (have, _) in plan.drafted["brews"].items()})
    settings = dict(plan.settings) if plan else USUAL
    order = planned_order(m, settings)
    setups = [m.setups[b.setup][0] for b in order.brews] * settings["flights"] if order else []
    return _filled(m, setups, {})


def drafted_left(brews: Mapping[str, tuple[int, int]], brewed: Mapping[str, int], live: Collection[str]) -> int:
    """How many drafted brews are still to be made. brews: setup id → [there then, wanted]; brewed: setup id → brews that count; live: setups that are there."""
    return sum(max(0, wanted - max(then, brewed.get(i, 0))) for i, (then, wanted) in brews.items() if i in live)


def _drafted(m: MeasuredTrial, brews: Mapping[str, tuple[int, int]]) -> list[Setup]:
    """One of each setup in turn, as often as it is wanted."""
    wanted = {setup.id: brews[setup.id][1] - brews[setup.id][0] for setup, _ in m.setups if setup.id in brews}
    turns = max(wanted.values(), default=0)
    return [setup for turn in range(turns) for setup, _ in m.setups if wanted.get(setup.id, 0) > turn]


def _filled(m: MeasuredTrial, setups: list[Setup], skip: Mapping[str, int]) -> tuple[Slot, ...]:
    """skip: setup → brews that were there before and fill nothing."""
    there: dict[str, list[Brew]] = {setup.id: m.runs_of(setup.id)[skip.get(setup.id, 0) :] for setup, _ in m.setups}
    ahead = {setup.id: setup.brews_given for setup, _ in m.setups}
    out = []
    for setup in setups:
        if there[setup.id]:
            run = there[setup.id].pop(0)
            out.append(Slot(setup.id, setup.letter, m.label_of(run), run.id))
        else:
            ahead[setup.id] += 1
            out.append(Slot(setup.id, setup.letter, f"{setup.letter}{ahead[setup.id]}", ""))
    return tuple(out)
