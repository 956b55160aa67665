"""A plain schedule to start the search from: brews in their order, each task in the first gap of hands and machines.

Cups are poured last of all, the hottest server first and each cooler one so much later that all meet: cups cool faster
than servers, so what waits in its server gains on what is poured. All times in steps.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

from .jobs import GRINDER_HANDS_S, BrewJob, Resources, Wish

UNIT_S = 5
LATEST = 4 * 3600 // UNIT_S
MEETING = (0.0, 0.25, 0.5, 1.0)
"""How much of the wait that would make all cups meet is tried; less when they would end too cool."""


def units(seconds: float) -> int:
    """Steps that hold this many seconds."""
    return math.ceil(seconds / UNIT_S - 1e-9)


@dataclass
class Laid:
    """When each task of one brew begins; None where there is nothing to place."""

    start: int
    ground: int | None = None
    cleared: int | None = None
    taken: int | None = None
    diluted: int | None = None
    poured: int = 0


@dataclass
class Plain:
    """apart: ln of the hottest cup's excess over the room less the coldest's, when tasting begins; short: how far the
    coldest is below what is wanted, in the same measure."""

    brews: list[Laid]
    tasting: int
    apart: float
    short: float


def plain_schedule(jobs: Sequence[BrewJob], r: Resources, wish: Wish, *, alike: float = 0.0) -> Plain | None:
    """The best of several: samples taken as soon as may be, or only when all is brewed; pours waiting for each other or not. Coffee is ground just in
    time, or ahead while hands are free. None when none of them fits the day."""
    found = []
    for late, ahead, share in product((False, True), (False, True), MEETING):
        if plain := _Day(jobs, r, wish, grind_ahead=ahead).lay(measure_late=late, meeting=share):
            found.append(plain)
        elif not found:
            return None  # the plainest day is already too long
    return min(found, key=lambda p: (p.short, max(p.apart, alike), p.tasting), default=None)


class Lanes:
    """Who is busy when, in steps. capacity: how many uses a lane holds at once; latest: no gap is looked for beyond it."""

    def __init__(self, capacity: Callable[[str], int], latest: int) -> None:
        self._capacity, self._latest = capacity, latest
        self._busy: dict[str, list[tuple[int, int]]] = defaultdict(list)

    def take(self, lane: str, begins: int, lasts: int) -> None:
        self._busy[lane].append((begins, begins + lasts))

    def give_back(self, lane: str, begins: int, lasts: int) -> None:
        self._busy[lane].remove((begins, begins + lasts))

    def is_free(self, lane: str, begins: int, lasts: int) -> bool:
        """Whether one more use leaves the lane within its capacity at every step."""
        ends, capacity = begins + lasts, self._capacity(lane)
        within = [(b, e) for b, e in self._busy[lane] if b < ends and begins < e]
        if len(within) < capacity:
            return True
        return all(sum(b <= t < e for b, e in within) < capacity for t in {begins, *(b for b, _ in within if b > begins)})

    def first_gap(self, lane: str, at: int, lasts: int) -> int:
        """Raise OverflowError when there is none."""
        while not self.is_free(lane, at, lasts):
            at += 1
            if at > self._latest:
                raise OverflowError
        return at


class _Day:
    def __init__(self, jobs: Sequence[BrewJob], r: Resources, wish: Wish, *, grind_ahead: bool) -> None:
        self.jobs, self.r, self.wish, self.now, self.grind_ahead = jobs, r, wish, units(wish.now_s), grind_ahead
        self.lanes = Lanes(self._capacity, LATEST + self.now)

    def lay(self, *, measure_late: bool, meeting: float) -> Plain | None:
        laid: list[Laid] = []
        try:
            for job in self.jobs:
                laid.append(self._brew(job))
                self._clear(job, laid[-1])
                if not measure_late:
                    self._measure(job, laid[-1])
            if measure_late:
                for job, x in zip(self.jobs, laid, strict=True):
                    self._measure(job, x)
            return self._pour(laid, meeting)
        except OverflowError:
            return None

    # --- one brew ---------------------------------------------------------------------------------------------------

    def _brew(self, job: BrewJob) -> Laid:
        prep, total = units(job.prep_s), units(job.total_s)
        hands = [(-prep, prep), *((units(b.start_s), max(1, units(b.duration_s))) for b in job.hands)]
        kettle = (-prep, prep + units(job.last_pour_s) + units(self.r.reheat_s))
        brewer = (-prep, prep + total + units(job.clear_s))
        if job.started_s is not None:
            at, ground = units(job.started_s), None
        else:
            at, ground = self._first_start(job, hands, kettle, brewer)
        for offset, lasts in hands:
            self.lanes.take("hands", at + offset, lasts)
        self.lanes.take("kettle", at + kettle[0], kettle[1])
        return Laid(at, ground)

    def _first_start(self, job: BrewJob, hands, kettle, brewer) -> tuple[int, int | None]:
        prep = units(job.prep_s)
        at = (max(self.now, units(self.r.heat_s)) if self.now == 0 else self.now) + prep
        while at < LATEST + self.now:
            fits = (
                all(self.lanes.is_free("hands", at + o, n) for o, n in hands)
                and self.lanes.is_free("kettle", at + kettle[0], kettle[1])
                and self.lanes.is_free(f"brewer: {job.brewer}", at + brewer[0], brewer[1])
            )
            if fits:
                if not job.grind_s:
                    return at, None
                for offset, lasts in hands:  # held while a gap for grinding is looked for
                    self.lanes.take("hands", at + offset, lasts)
                ground = self._grind_before(job, at - prep)
                for offset, lasts in hands:
                    self.lanes.give_back("hands", at + offset, lasts)
                if ground is not None:
                    return at, ground
            at += 1
        raise OverflowError

    def _grind_before(self, job: BrewJob, at: int) -> int | None:
        lasts = units(job.grind_s)
        attended = lasts if job.hand_grinder else min(lasts, units(GRINDER_HANDS_S))
        earliest = max(self.now, at - lasts - units(self.wish.longest_ground_s))
        latest_first = range(at - lasts, earliest - 1, -1)
        for begins in reversed(latest_first) if self.grind_ahead else latest_first:
            if self.lanes.is_free("hands", begins, attended) and self.lanes.is_free(f"grinder: {job.grinder}", begins, lasts):
                self.lanes.take("hands", begins, attended)
                self.lanes.take(f"grinder: {job.grinder}", begins, lasts)
                return begins
        return None

    def _clear(self, job: BrewJob, x: Laid) -> None:
        done = max(self.now, x.start + units(job.total_s))
        lasts = units(job.clear_s)
        x.cleared = self.lanes.first_gap("hands", done, lasts)
        self.lanes.take("hands", x.cleared, lasts)
        begins = x.start - units(job.prep_s)
        self.lanes.take(f"brewer: {job.brewer}", begins, x.cleared + lasts - begins)

    def _measure(self, job: BrewJob, x: Laid) -> None:
        if not job.measure_s or job.measured:
            return
        x.taken = self.lanes.first_gap("hands", max(self.now, x.start + units(job.total_s)), units(job.measure_s))
        self.lanes.take("hands", x.taken, units(job.measure_s))

    # --- all of them --------------------------------------------------------------------------------------------------

    def _pour(self, laid: list[Laid], meeting: float) -> Plain:
        at = max([self.now, *(self._ready(job, x) for job, x in zip(self.jobs, laid, strict=True))])
        for job, x in zip(self.jobs, laid, strict=True):
            if job.dilute_s:
                x.diluted = at = self.lanes.first_gap("hands", at, units(job.dilute_s))
                self.lanes.take("hands", at, units(job.dilute_s))
                at += units(job.dilute_s)
        lasts = max(1, units(self.r.cups_each * self.r.pour_cup_s))
        began, levels_then = at, [self._level(job, x, at) for job, x in zip(self.jobs, laid, strict=True)]
        for i in sorted(range(len(laid)), key=lambda i: -levels_then[i]):
            gained_per_s = 1 / self.r.cup.tau_s - 1 / self.r.tau_of(self.jobs[i].server)
            wait_s = meeting * (max(levels_then) - levels_then[i]) / gained_per_s if gained_per_s > 1e-9 else 0.0
            laid[i].poured = at = self.lanes.first_gap("hands", max(at, began + units(wait_s)), lasts)
            self.lanes.take("hands", at, lasts)
            at += lasts
        levels = [self._level(job, x, x.poured + lasts) - (at - x.poured - lasts) * UNIT_S / self.r.cup.tau_s for job, x in zip(self.jobs, laid, strict=True)]
        too_hot = max(levels) - math.log(self.wish.high_c - self.r.ambient_c)
        wait = units(too_hot * self.r.cup.tau_s) + 2 if too_hot > 0 else 0
        coldest = min(levels) - wait * UNIT_S / self.r.cup.tau_s
        short = max(0.0, math.log(self.wish.low_c - self.r.ambient_c) - coldest)
        return Plain(laid, at + wait, max(levels) - min(levels), short)

    def _ready(self, job: BrewJob, x: Laid) -> int:
        done = max(self.now, x.start + units(job.total_s))
        return done if x.taken is None else x.taken + units(job.measure_s)

    def _level(self, job: BrewJob, x: Laid, at: int) -> float:
        """ln(T − Ta) of a drink that stands in its server from the end of its brew until `at`."""
        return math.log(job.drink_c - self.r.ambient_c) - (at - x.start - units(job.total_s)) * UNIT_S / self.r.tau_of(job.server)

    def _capacity(self, lane: str) -> int:
        if lane == "hands":
            return self.r.hands
        if lane == "kettle":
            return self.r.kettles
        kind, name = lane.split(": ", 1)
        return (self.r.brewers if kind == "brewer" else self.r.grinders).get(name, 1)
