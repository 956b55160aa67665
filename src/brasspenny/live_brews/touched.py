"""What was touched while a brew was made, as something seen of it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from ..brewing import schemas as brewing_s
from ..core.brewing.along import MadeStep, pressed_for_s
from ..store.models import LiveBrew
from .weighing import begun_for_good, plan_of, recipe_of_live

LONGEST_WAIT_MIN = 1440


def at(live: LiveBrew, kind: str) -> list[float]:
    return [m["at_s"] for m in live.marks if m["kind"] == kind]


def observed(live: LiveBrew, made: Sequence[MadeStep]) -> brewing_s.Observed:
    drips, cues = at(live, "first_drip"), [m["text"] for m in live.marks if m["kind"] == "cue" and m["text"]]
    ground = [datetime.fromisoformat(m["text"]) for m in live.marks if m["kind"] == "ground"]
    begun = begun_for_good(live)
    waited = (begun - ground[-1]).total_seconds() / 60 if ground and begun else None
    return brewing_s.Observed(
        simulated=live.instrument == "simulated",
        first_drip_s=drips[0] if drips else None,
        mishaps=["spill"] if at(live, "spill") else [],
        held_level=bool(at(live, "level_held")),
        cue=cues[-1] if cues else "",
        ground_min=None if waited is None or waited < 0 else round(min(waited, LONGEST_WAIT_MIN), 1),  # a clock set back tells nothing
        press_s=pressed_for_s(plan_of(recipe_of_live(live)).steps, made),
    )
