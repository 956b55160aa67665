"""What the scale of a brew that is being made has said, laid onto its plan. A simulated scale is a function of the brew; what a real one said over its wire is kept."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import datetime, timedelta
from functools import lru_cache

import numpy as np

from ..core.brewing.along import DoneStep, planned_steps
from ..core.brewing.curve import read_curve
from ..core.brewing.follow import NOTHING, Followed, follow
from ..core.brewing.guide import Now, Plan, stand
from ..core.brewing.scale_log import ScaleLog
from ..core.errors import PennyError
from ..core.recipe.document import from_document
from ..core.recipe.model import Recipe, ending_of
from ..core.simulator.brews import USUAL_GRIND, GroundTo
from ..devices.bench import SimulatedInstruments, instruments_of
from ..devices.scale import PlannedPour, SimulatedScale
from ..store.models import LiveBrew, LiveReading

EVERY_S = 0.25
LEAD_S = 1.0
"""A scale is read from a moment before the first water, so that its level before it is known."""
MOST_POINTS = 40_000


def recipe_of_live(live: LiveBrew) -> Recipe:
    return from_document(live.document)


def plan_of(recipe: Recipe) -> Plan:
    return Plan(planned_steps(recipe), ending_of(recipe))


def begun_at(live: LiveBrew, now: datetime) -> datetime | None:
    """The first water: where a key was pressed for it, or where the simulated hand began by itself."""
    begun = begun_for_good(live)
    return begun if live.started_at is not None or begun is None or now >= begun else None


def begun_for_good(live: LiveBrew) -> datetime | None:
    """When a brew that has begun began."""
    return live.started_at or (None if live.begins_after_s is None else live.created_at + timedelta(seconds=live.begins_after_s))


def elapsed_s(live: LiveBrew, now: datetime) -> float:
    begun = begun_at(live, now)
    return 0.0 if begun is None else max(0.0, (now - begun).total_seconds() * live.speed)


# --- simulated -------------------------------------------------------------------------------------------------------------------------


def _pours(recipe: Recipe) -> list[PlannedPour]:
    return [PlannedPour(s.start_s, s.end_s, s.to_g - s.from_g) for s in planned_steps(recipe) if s.to_g is not None]


@lru_cache(maxsize=64)
def _instruments(document: str, seed: int, mistake: str, grind: GroundTo) -> SimulatedInstruments | None:
    recipe = from_document(json.loads(document))
    try:
        return instruments_of(recipe, _pours(recipe), seed=seed, mistake=mistake, grind=grind)
    except PennyError:
        return None


def simulated_of(live: LiveBrew) -> SimulatedInstruments | None:
    """Every instrument of a simulated brew; None for a real one, and for a recipe the simulator cannot brew."""
    if live.instrument != "simulated":
        return None
    return _instruments(json.dumps(live.document, sort_keys=True), live.seed, live.mistake, GroundTo(**live.grind) if live.grind else USUAL_GRIND)


def scale_of(live: LiveBrew) -> SimulatedScale | None:
    if live.instrument != "simulated":
        return None
    found = simulated_of(live)
    return found.scale if found else SimulatedScale(_pours(recipe_of_live(live)), live.seed, mistake=live.mistake)


class Weighing:
    """The readings of one brew so far, g at s after its first water, and what they come to."""

    def __init__(self, live: LiveBrew, now: datetime) -> None:
        self.live, self.plan = live, plan_of(recipe_of_live(live))
        self.t: list[float] = []
        self.g: list[float] = []
        self.scale = scale_of(live)
        self.moves = sum(step.slurry_g is not None for step in self.plan.steps)
        self._at = -LEAD_S
        if live.instrument == "wire" and (begun := begun_at(live, now)) is not None:
            for at, grams in wired_points(live):
                self.t.append(at - begun.timestamp())
                self.g.append(grams)

    def until(self, elapsed: float) -> Weighing:
        """A simulated scale has spoken on until then."""
        if self.scale is not None:
            while self._at <= elapsed and len(self.t) < MOST_POINTS:
                self.t.append(self._at)
                self.g.append(self.scale.reading_g(self._at))
                self._at += EVERY_S
        return self

    @property
    def last_g(self) -> float | None:
        return round(self.g[-1], 1) if self.g else None

    @property
    def seen(self) -> Followed | None:
        """None while no scale speaks."""
        if self.live.instrument == "none":
            return None
        if len(self.t) < 5:
            return NOTHING
        curve = read_curve(ScaleLog(np.array(self.t), np.array(self.g), ()), so_far=True, moves=self.moves)
        return follow(self.plan.steps, curve, being_made=not any(m["kind"] == "ended" for m in self.live.marks))

    def now(self, elapsed: float | None) -> Now:
        seen = self.until(elapsed).seen if elapsed is not None else (NOTHING if self.live.instrument != "none" else None)
        ends = [m["at_s"] for m in self.live.marks if m["kind"] == "ended"]
        return stand(self.plan, elapsed_s=elapsed, pressed=presses(self.live), ended_s=ends[-1] if ends else None, seen=seen)


def presses(live: LiveBrew) -> list[DoneStep]:
    return [DoneStep(m["index"], m["at_s"], m["reading_g"]) for m in live.marks if m["kind"] == "step_done" and m["index"] is not None]


def weighing_at(live: LiveBrew, now: datetime) -> tuple[Weighing, Now]:
    """The readings of a brew, and where it stands at a moment."""
    weighed = Weighing(live, now)
    begun = begun_at(live, now) is not None
    return weighed, weighed.now(elapsed_s(live, now) if begun else None)


# --- over a wire -------------------------------------------------------------------------------------------------------------------------


def wired_points(live: LiveBrew) -> list[tuple[float, float]]:
    """(seconds since the epoch, g) in order of time, one of each moment: several lines that come in one piece are equally old, and a slope over no time is none."""
    rows = LiveReading.select(LiveReading.points).where(LiveReading.live_brew == live.id).order_by(LiveReading.number)
    return sorted({float(at): float(g) for row in rows for at, g in row.points}.items())


def keep_points(live: LiveBrew, points: Sequence[tuple[float, float]]) -> None:
    last = LiveReading.select(LiveReading.number).where(LiveReading.live_brew == live.id).order_by(LiveReading.number.desc()).limit(1).scalar()
    LiveReading.create(live_brew=live.id, number=(last or 0) + 1, points=[[round(at, 3), round(g, 2)] for at, g in points])


def first_water(points: Sequence[tuple[float, float]]) -> float | None:
    """When the first pour began, in seconds since the epoch; None while nothing was poured."""
    if len(points) < 5:
        return None
    t, g = np.array(points).T
    pours = read_curve(ScaleLog(t - t[0], g, ()), so_far=True).pours
    return float(t[0] + pours[0].start_s) if pours else None
