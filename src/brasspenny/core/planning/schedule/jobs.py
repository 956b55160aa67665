"""A brew as blocks of time: what keeps hands, kettle, grinder and brewer, and how its drink cools. docs/formulas.md §8.6."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from ...errors import OutOfDomain
from ...recipe.describe import sentences
from ...recipe.model import AFTERWARDS, PREPARING, Recipe, sums, timeline

PREP_S, CLEAR_S, MEASURE_S, DILUTE_S, GRINDER_HANDS_S = 30.0, 45.0, 60.0, 30.0, 20.0
JOIN_S = 10.0
"""Two tasks of the hands closer than this are one: nobody starts something else in between."""
MOST_BREWS = 24
INSULATED_TAU_S = 3 * 3600.0
USUAL_TAU_S: dict[str, float] = {"server": 2400.0, "cup": 900.0}
USUAL_RATE_G_S: dict[str, float] = {"electric": 2.0, "hand": 0.35}
"""Cooling constants of vessels and rates of grinders nobody has measured yet."""


def usual_tau_s(use: str, *, insulated: bool) -> float:
    """The time constant assumed for a "server" or "cup", s.

    >>> usual_tau_s("server", insulated=False)
    2400.0
    """
    return INSULATED_TAU_S if insulated else USUAL_TAU_S[use]


def grinding_s(dose_g: float, *, drive: str, rate_g_s: float | None) -> float:
    """How long a dose takes to grind, s; at the usual rate of its drive when its own is not known.

    >>> grinding_s(18, drive="electric", rate_g_s=None)
    9.0
    """
    return dose_g / (rate_g_s or USUAL_RATE_G_S[drive])


@dataclass(frozen=True)
class HandsBlock:
    """The hands are busy from start_s for duration_s, s from the first water; may lie before it."""

    label: str
    start_s: float
    duration_s: float


@dataclass(frozen=True)
class BrewJob:
    """One brew to place. hands: blocks fixed to its start. total_s: when the drips stop. drink_c: temperature of the drink
    then. grind_s 0: nothing to grind. dose_g, ground_on: said where it is weighed in and ground. rinses: its filter. started_s: begun already, then; measured: its sample is taken. All times s."""

    key: str
    label: str
    hands: tuple[HandsBlock, ...]
    total_s: float
    brewer: str = "brewer"
    grinder: str = ""
    grind_s: float = 0.0
    hand_grinder: bool = False
    last_pour_s: float = 0.0
    prep_s: float = PREP_S
    clear_s: float = CLEAR_S
    measure_s: float = MEASURE_S
    dilute_s: float = 0.0
    drink_c: float = 78.0
    server: str = "server"
    started_s: float | None = None
    measured: bool = False
    dose_g: float = 0.0
    ground_on: str = ""
    rinses: bool = True

    @property
    def grind_label(self) -> str:
        """ "Grind 18 g by hand: Shop mill 8"."""
        dose = f" {self.dose_g:g} g" if self.dose_g else ""
        return f"Grind{dose}{' by hand' if self.hand_grinder else ''}{f': {self.ground_on}' if self.ground_on else ''}"

    @property
    def prepare_label(self) -> str:
        return f"Prepare: {'rinse, ' if self.rinses else ''}preheat, weigh in{f' {self.dose_g:g} g' if self.dose_g else ''}"


@dataclass(frozen=True)
class Vessel:
    """A server or cup: its cooling time constant, s."""

    name: str
    tau_s: float


@dataclass(frozen=True)
class Resources:
    """hands: pairs of hands. kettles reheat for reheat_s after a brew's last pour; the first boil takes heat_s. brewers and
    grinders: how many there are of each name (a name not listed: one). servers: by name; cup: what is drunk from."""

    hands: int = 1
    kettles: int = 1
    heat_s: float = 240.0
    reheat_s: float = 90.0
    brewers: Mapping[str, int] = field(default_factory=dict)
    grinders: Mapping[str, int] = field(default_factory=dict)
    servers: Mapping[str, Vessel] = field(default_factory=dict)
    cup: Vessel = Vessel("cup", 900.0)
    ambient_c: float = 22.0
    cups_each: int = 1
    pour_cup_s: float = 5.0

    def tau_of(self, server: str) -> float:
        return self.servers[server].tau_s if server in self.servers else 2400.0


@dataclass(frozen=True)
class Wish:
    """What is wanted: cups between low_c and high_c when tasting begins, spread_c at most between them, the brews in the
    order given (keep_order), nothing before now_s. Grounds lie for longest_ground_s at most before their brew is prepared."""

    low_c: float = 42.0
    high_c: float = 62.0
    spread_c: float = 3.0
    keep_order: bool = True
    now_s: float = 0.0
    longest_ground_s: float = 900.0


def job_from_recipe(key: str, label: str, recipe: Recipe, **more) -> BrewJob:
    """A recipe's own blocks: preparing steps before the first water, each attended step after it, waits left free.

    A recipe without water (a concentrate by mass) is one block of its stated length. Raises OutOfDomain when it has no length.
    """
    total = sums(recipe)
    if total.total_s <= 0:
        raise OutOfDomain(key, f"{label} has no steps to time.", "Give its recipe steps, or a total time.")
    said = sentences(recipe)
    timed = [t for t in timeline(recipe) if t.step.kind not in AFTERWARDS]
    preparing = [t for t in timed if t.step.kind in PREPARING and t.start_s < 0]
    prep_s = max(PREP_S, sum(t.end_s - t.start_s for t in preparing))
    blocks: list[HandsBlock] = []
    for t in timed:
        if t.start_s < -0.01 or not t.hands_s:
            continue
        label_ = said[t.index]
        if blocks and t.start_s - (blocks[-1].start_s + blocks[-1].duration_s) < JOIN_S:
            last = blocks[-1]
            blocks[-1] = HandsBlock(f"{last.label}, {label_[:1].lower()}{label_[1:]}", last.start_s, t.start_s + t.hands_s - last.start_s)
        else:
            blocks.append(HandsBlock(label_, t.start_s, t.hands_s))
    return BrewJob(key=key, label=label, hands=tuple(blocks), total_s=total.total_s, last_pour_s=total.last_pour_end_s, prep_s=prep_s, **more)


def tasting_temperature_c(*, drink_c: float, ambient_c: float, server_tau_s: float, server_s: float, cup_tau_s: float, cup_s: float) -> float:
    """Newton's law through two vessels, one after the other: T = Ta + (T₀ − Ta)·e^(−t₁/τ₁ − t₂/τ₂), °C.

    >>> round(tasting_temperature_c(drink_c=68, ambient_c=22, server_tau_s=1653, server_s=600, cup_tau_s=900, cup_s=0), 1)
    54.0
    """
    return ambient_c + (drink_c - ambient_c) * math.exp(-server_s / server_tau_s - cup_s / cup_tau_s)
