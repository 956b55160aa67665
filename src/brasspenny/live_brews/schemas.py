"""HTTP shapes of a brew while it is made. Times s from the first water, masses g."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from ..brewing.schemas import Observed, Pours
from ..core.brewing.along import By
from ..core.brewing.guide import Phase
from ..core.vocabulary import TrialPurpose
from ..devices.scale import Mistake
from ..http import Answer, Body, Bypass, Celsius, Mass, Seconds, line, quantity
from ..recipes.schemas import CautionAnswer, EndShown, PourShown, TimedStep
from ..trials.schemas import NewKit, VariablesPatch

Instrument = Literal["none", "simulated", "wire"]
MarkKind = Literal["step_done", "first_drip", "ended", "spill", "level_held", "cue", "ground", "note"]
Begins = Annotated[float, Field(ge=0, le=600, description="s")]


class LiveBrewOf(Body):
    """instrument simulated: made-up instruments follow the plan, speed times as fast as the clock; mistake: made on purpose; begins_after_s: the made-up hand begins by itself then.
    wire: a real scale, whose lines are sent to …/weigh."""

    instrument: Instrument = "none"
    speed: Annotated[int, Field(ge=1, le=60)] = 1
    mistake: Mistake = ""
    begins_after_s: Begins | None = None


class LiveBrewBody(LiveBrewOf):
    """Of a setup of the trial."""

    setup_id: Annotated[str, Field(max_length=40)]


class LooseLiveBrewBody(LiveBrewOf):
    """A brew of no trial, made along a recipe."""

    name: line(80) = ""
    recipe_version_id: Annotated[str, Field(max_length=40)]
    variables: VariablesPatch = VariablesPatch()
    new_kit: NewKit = []


class MarkBody(Body):
    """index: of the step that is done. ground: pressed when the coffee is ground, before the first water. at_s: now when left out. reading_g: what the scale says, when a person reads it."""

    kind: MarkKind
    index: Annotated[int, Field(ge=0, le=200)] | None = None
    at_s: Seconds | None = None
    reading_g: Annotated[float, Field(ge=0, le=100_000)] | None = None
    text: line(200) = ""


class FinishBody(Body):
    """Becomes a logged brew. What is left out is the scale's, what was pressed, or the plan's. total_time_s: when it was really over, if
    that was noticed late; the first end is kept beside it. pours: as they were made, where that is to be corrected."""

    dose_g: Mass | None = None
    beverage_g: Mass | None = None
    brew_water_g: Mass | None = None
    bypass_g: Bypass | None = None
    temperature_c: Celsius | None = None
    total_time_s: Seconds | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    observed: Observed = Observed()
    pours: Pours = []
    purpose: TrialPurpose = "evidence"
    tds_readings_pct: Annotated[list[Annotated[float, Field(ge=0)]], Field(max_length=20)] = []
    note: line(500) = ""


class WeighLine(Body):
    """One line as a scale wrote it, so many seconds ago."""

    ago_s: Annotated[float, Field(ge=0, le=120)]
    text: Annotated[str, Field(max_length=80)]


class WeighBody(Body):
    """Lines of a real scale, oldest first. The format is told in docs/scale-wire.md §1."""

    lines: Annotated[list[WeighLine], Field(max_length=400)]


class MarkAnswer(Answer):
    kind: MarkKind
    index: int | None
    at_s: float
    reading_g: float | None
    text: str


class DeviationAnswer(Answer):
    """end_s: plan less actual end, s; mass_g: plan less actual reading, g; outside: beyond the tolerances; what: the step in words."""

    index: int
    end_s: float
    mass_g: float | None
    outside: bool
    what: str
    text: str


class SimulatedShown(Answer):
    """What the simulated instruments say once it is over: the server on the scale, three samples, the slurry at the end of the pours."""

    beverage_g: float
    tds_readings_pct: list[float]
    slurry_c: float | None
    stopped_s: float


class LiveStep(Answer):
    """seen: a cue begins or ends it, cue; after: it hangs on the end of the brew."""

    index: int
    kind: str
    text: str
    start_s: float
    end_s: float
    from_g: float
    to_g: float | None
    seen: bool
    after: bool
    reads_g: float | None
    slurry_g: float | None
    cue: str


class MadeShown(Answer):
    """by: who says so; plan: nobody did, the times are the recipe's."""

    index: int
    began_s: float | None
    ended_s: float
    to_g: float | None
    by: By


class NowShown(Answer):
    """Where the brew stands. current, next: indices of steps; begins_in_s, left_s: until the current one begins and ends by plan, or the end of the brew; negative when overdue. rest_g: still to
    pour, negative when over; target_g: the water it ends at, reads_g: what this scale then reads. poured_g: null without a scale. forgotten: steps nobody said anything of."""

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
    made: list[MadeShown]
    ended_s: float | None
    ended_by: By | None
    forgotten: list[int]
    notes: list[str]


class WeighedAnswer(Answer):
    """rev: of the brew now, another one than yours when the first water started it; unread: lines that are no mass."""

    rev: int
    started_at: datetime | None
    scale_g: float | None
    unread: list[str]
    now: NowShown


class LiveBrewAnswer(Answer):
    """grind: grinder and setting, "" where neither is known. elapsed_s at answered_at; it goes on at speed. observed: what the marks say was seen. steady_press_kg: force
    to hold, low and high. before: what is done before the first water. no_steps: why
    there is nothing to follow, else "". ahead_s: how long before its
    time the next instruction is called."""

    id: str
    rev: int
    trial_id: str | None
    setup_id: str
    letter: str
    brewer_type: str | None
    cautions: list[CautionAnswer]
    name: str
    number: int
    dose_g: float
    grind: str
    water_g: float
    bypass_g: float
    temperature_c: float | None
    no_steps: str
    before: list[str]
    steps: list[LiveStep]
    timeline: list[TimedStep]
    total_s: float
    end: EndShown
    now: NowShown
    pours: list[PourShown]
    instrument: Instrument
    speed: int
    mistake: Mistake
    simulated: SimulatedShown | None
    started_at: datetime | None
    answered_at: datetime
    elapsed_s: float
    marks: list[MarkAnswer]
    observed: Observed
    steady_press_kg: list[float]
    deviations: list[DeviationAnswer]
    deviations_said: str
    ahead_s: float
    finished: bool
    run_id: str | None


class LiveBrewsAnswer(Answer):
    """Brews begun and not finished, newest first."""

    brews: list[LiveBrewAnswer]


class ScaleLogBody(Body):
    """A scale's file as text: two columns, time and mass."""

    text: Annotated[str, Field(max_length=8_000_000)]


class LoggedPour(Answer):
    start_s: float
    end_s: float
    added_g: float
    to_g: float
    rate_g_s: float
    planned_to_g: float | None


class ScaleLogAnswer(Answer):
    """Pours as they were found, beside the plan's; notes: what was left out or repaired; gaps: stretches without readings."""

    run_id: str
    rev: int
    pours: list[LoggedPour]
    gaps: list[list[float]]
    notes: list[str]
    off_plan: list[str]
