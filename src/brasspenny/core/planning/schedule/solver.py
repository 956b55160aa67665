"""The constraint schedule: every brew placed in time, so that the cups meet. docs/formulas.md §8.6.

Model (CP-SAT, in steps of 5 s). A brew is rigid: its hand blocks keep their distance from the first water. Free are when
it starts, when its coffee is ground, when the brewer is cleared, the sample taken, the drink diluted, the cups poured,
and when tasting begins. Hands, kettles, grinders and brewers are never over-booked. A cup's log excess over the room
falls by t/τ in each vessel. The spread of these is made least, then the total time; spreads below 0.8 °C or so count as
alike, for no palate and hardly a thermometer tells them apart. Temperatures reported are worked out again from the placed times.
Where it stops being true: blocks are rounded up to 5 s; pouring loses heat too, equally for all cups.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from ... import figures
from ...errors import Inconsistent, OutOfDomain
from .greedy import UNIT_S, Lanes, Plain, plain_schedule, units
from .jobs import GRINDER_HANDS_S, MOST_BREWS, BrewJob, Resources, Wish, tasting_temperature_c

HORIZON_S = 4 * 3600
LOG_SCALE = 100_000
ALIKE = 2000
"""Logs are kept to 1/100 000; schedules within 2 % of excess heat count as alike (0.8 °C at 60 °C), and then the shorter is better."""
SHORT_WEIGHT = 1000
LONGER_S = 1800.0
"""No schedule takes longer than a plain one by more than this, however close its cups."""
NEARLY_C = 1.0
"""A cup this little below the temperature wanted is served and shown; a colder one is no schedule."""
EFFORT = 0.8
"""In the solver's own count of work, which is the same on any machine: about two seconds of one core of a small one. So a busy machine takes longer and finds
the same day."""
SEEDS = 4
AT_MOST_S = 9.0
"""Of the solver's own clock for a whole schedule, whatever the machine: then the best found so far is given."""
FRESHER_S = 180.0
"""So much longer a day may take for grounds that lie equally long."""
CLEAR = "Clear the brewer and rinse it"
LAST_S = 0.25
"""What a search is still given once that is over."""


@dataclass(frozen=True)
class Placed:
    """One block on one lane ("hands", "kettle", "grinder: …", "brewer: …"), s from the start of the day's work."""

    brew: str
    lane: str
    label: str
    start_s: float
    end_s: float


@dataclass(frozen=True)
class CupPlan:
    """One brew's cups: when its drink is ready and poured, and how warm they are when tasting begins."""

    brew: str
    start_s: float
    ready_s: float
    poured_s: float
    drink_c: float
    server_tau_s: float
    temperature_c: float


@dataclass(frozen=True)
class Schedule:
    """All blocks in order of time; spread_c between the warmest and the coolest cup at tasting_s; proven: least possible. rests_s: how long grounds lie
    before their brew is prepared, the least and the most, None where nothing is ground."""

    blocks: tuple[Placed, ...]
    cups: tuple[CupPlan, ...]
    tasting_s: float
    spread_c: float
    total_s: float
    proven: bool
    rests_s: tuple[float, float] | None = None


class NoSchedule(Inconsistent):
    """Nothing fits. The reason says what is in the way, the remedy what would help."""


def schedule(
    jobs: Sequence[BrewJob], resources: Resources, wish: Wish = Wish(), *, effort: float = EFFORT, at_most_s: float = AT_MOST_S, shortest: bool = True
) -> Schedule:
    """Place these brews. effort: of searching at most, in the solver's own count of work; at_most_s: by its clock, for machines that are busy; the best found by then is given
    (proven False). shortest: of those with this spread, look for the shortest.

    Raises NoSchedule naming what is in the way, OutOfDomain for none or too many brews.
    """
    _check(jobs, resources, wish)
    model = _Model(jobs, resources, wish, at_most_s)
    model.least_spread(effort * (0.8 if shortest else 1))
    if shortest:
        model.least_time(effort * 0.2)
        model.alike_fresh(effort * 0.2)
    return model.best


def load_solver() -> None:
    """Load the solver ahead of its first use: it takes a second, which the first schedule of a process would otherwise pay."""
    import_module("ortools.sat.python.cp_model")


def _check(jobs: Sequence[BrewJob], r: Resources, wish: Wish) -> None:
    if not 1 <= len(jobs) <= MOST_BREWS:
        raise OutOfDomain("runs", f"{len(jobs)} brews cannot be scheduled at once.", f"Give 1 to {MOST_BREWS}; split more over several flights.", len(jobs))
    if len({j.key for j in jobs}) < len(jobs):
        raise Inconsistent("runs", "two brews have one key.", "Give each its own.")
    for name, count in (("hands", r.hands), ("kettles", r.kettles)):
        if count < 1:
            raise NoSchedule(f"resources.{name}", f"nothing can be brewed with {count} {name}.", "Give at least one.")
    for job in jobs:
        if r.brewers.get(job.brewer, 1) < 1:
            raise NoSchedule("resources.brewers", f"{job.label} needs a {job.brewer}, and there is none.", "Add one, or leave that brew out.")
        if job.grind_s and r.grinders.get(job.grinder, 1) < 1:
            raise NoSchedule("resources.grinders", f"{job.label} needs the grinder {job.grinder}, and there is none.", "Add it, or grind elsewhere.")
        if job.grind_s > wish.longest_ground_s:
            raise NoSchedule(
                "resources.grinders", f"Grinding for {job.label} takes {figures.minutes(job.grind_s / 60)} min.", "Use a faster grinder, or a smaller dose."
            )
        if job.drink_c < wish.low_c:
            raise NoSchedule(
                "wish.low_c",
                f"{job.label} leaves the brewer at {figures.heat(job.drink_c)}, colder than the {figures.heat(wish.low_c)} wanted.",
                "Taste a cooler pass, or brew hotter.",
            )
    if wish.low_c <= r.ambient_c:
        raise NoSchedule(
            "wish.low_c",
            f"Cups are to be at {figures.heat(wish.low_c)} or more in a room of {figures.heat(r.ambient_c)}.",
            "Give a temperature above the room's.",
        )
    if wish.high_c <= wish.low_c:
        raise Inconsistent("wish.high_c", "the warmest cup may not be colder than the coldest.", "Give a higher temperature.")


@dataclass
class _Vars:
    start: Any
    ground: Any
    cleared: Any
    taken: Any
    measured: Any
    diluted: Any
    poured: Any


class _Model:
    def __init__(self, jobs: Sequence[BrewJob], resources: Resources, wish: Wish, at_most_s: float) -> None:
        from ortools.sat.python import cp_model  # here: it takes a second to load, and only a schedule needs it

        self.cp, self.jobs, self.r, self.wish = cp_model, jobs, resources, wish
        self.m = cp_model.CpModel()
        self.horizon = units(HORIZON_S + max((j.started_s or 0) for j in jobs))
        self.now = units(wish.now_s)
        self.hands: list[tuple[Any, int, int | Any, str, str]] = []
        self.lanes: dict[str, list] = defaultdict(list)
        self.tasting = self.m.new_int_var(self.now, self.horizon, "tasting")
        self.rests: list[Any] = []
        self.vars = [self._place(i, job) for i, job in enumerate(jobs)]
        self._no_overbooking()
        self._order()
        self._temperatures()
        self.solver = cp_model.CpSolver()
        self.solver.parameters.num_workers = 1  # one steady search beats several racing ones on small machines, and repeats itself
        self.proven = False
        self.left_s = at_most_s
        self.best: Schedule | None = None
        self.reached: dict[str, int] = {}

    # --- one brew -------------------------------------------------------------------------------------------------

    def _place(self, i: int, job: BrewJob) -> _Vars:
        m, begun = self.m, job.started_s is not None
        start = m.new_constant(units(job.started_s)) if begun else m.new_int_var(self.now, self.horizon, f"start{i}")
        total = units(job.total_s)
        prep = units(job.prep_s)
        if not begun:
            m.add(start >= self.now + prep)
            m.add(start - prep >= units(self.r.heat_s) if self.now == 0 else start - prep >= self.now)
        self._hands(start, -prep, prep, job.key, job.prepare_label)
        for block in job.hands:
            self._hands(start, units(block.start_s), max(1, units(block.duration_s)), job.key, block.label)
        ground = self._grind(i, job, start, prep, begun)
        ready = start + total
        cleared = self._after(f"clear{i}", ready, job.clear_s, job.key, CLEAR)
        measured, taken = ready, None
        if job.measure_s and not job.measured:
            taken = self._after(f"measure{i}", ready, job.measure_s, job.key, "Stir the server, weigh, take the sample")
            measured = taken + units(job.measure_s)
        poured = m.new_int_var(self.now, self.horizon, f"pour{i}")
        pour_for = max(1, units(self.r.cups_each * self.r.pour_cup_s))
        m.add(poured >= measured)
        m.add(poured + pour_for <= self.tasting)
        self._hands(poured, 0, pour_for, job.key, f"Pour {self.r.cups_each} cup{'' if self.r.cups_each == 1 else 's'}")
        self._lane("brewer: " + job.brewer, start - prep, cleared + units(job.clear_s) - (start - prep), job, "Brewing")
        self._lane("kettle", start - prep, prep + units(job.last_pour_s) + units(self.r.reheat_s), job, "In use, then reheating")
        return _Vars(start, ground, cleared, taken, measured, None, poured)

    def _grind(self, i: int, job: BrewJob, start: Any, prep: int, begun: bool) -> Any:
        if not job.grind_s or begun:
            return None
        lasts = units(job.grind_s)
        hands = lasts if job.hand_grinder else min(lasts, units(GRINDER_HANDS_S))
        at = self.m.new_int_var(self.now, self.horizon, f"grind{i}")
        self.m.add(at + lasts <= start - prep)
        self.rests.append(start - prep - at - lasts)
        self.m.add(self.rests[-1] <= units(self.wish.longest_ground_s))
        self._hands(at, 0, hands, job.key, job.grind_label)
        self._lane("grinder: " + job.grinder, at, lasts, job, "Grind")
        return at

    def _after(self, name: str, ready: Any, lasts_s: float, key: str, label: str) -> Any:
        at = self.m.new_int_var(self.now, self.horizon, name)
        self.m.add(at >= ready)
        self._hands(at, 0, units(lasts_s), key, label)
        return at

    def _hands(self, at: Any, offset: int, lasts: int, key: str, label: str) -> None:
        if lasts > 0:
            self.hands.append((at, offset, lasts, key, label))

    def _lane(self, lane: str, at: Any, lasts: Any, job: BrewJob, label: str) -> None:
        self.lanes[lane].append((at, lasts, job.key, label))

    # --- all together -----------------------------------------------------------------------------------------------

    def _no_overbooking(self) -> None:
        m = self.m
        dilutions = [i for i, job in enumerate(self.jobs) if job.dilute_s]
        for i in dilutions:  # the weakest cup is known only when all are read
            v = self.vars[i]
            v.diluted = m.new_int_var(self.now, self.horizon, f"dilute{i}")
            for other in self.vars:
                m.add(v.diluted >= other.measured)
            lasts = units(self.jobs[i].dilute_s)
            m.add(v.diluted + lasts <= v.poured)
            self._hands(v.diluted, 0, lasts, self.jobs[i].key, "Dilute to the common strength")
        blocks = [m.new_fixed_size_interval_var(at + offset, lasts, f"h{n}") for n, (at, offset, lasts, _, _) in enumerate(self.hands)]
        if self.r.hands == 1:
            m.add_no_overlap(blocks)
        else:
            m.add_cumulative(blocks, [1] * len(blocks), self.r.hands)
        for lane, uses in self.lanes.items():
            intervals = [self._interval(f"{lane}{n}", at, lasts) for n, (at, lasts, _, _) in enumerate(uses)]
            capacity = self._capacity(lane)
            if capacity == 1:
                m.add_no_overlap(intervals)
            else:
                m.add_cumulative(intervals, [1] * len(intervals), capacity)

    def _interval(self, name: str, at: Any, lasts: Any):
        if isinstance(lasts, int):
            return self.m.new_fixed_size_interval_var(at, lasts, name)
        size = self.m.new_int_var(0, self.horizon, name + "size")
        end = self.m.new_int_var(-self.horizon, 2 * self.horizon, name + "end")
        self.m.add(size == lasts)
        self.m.add(end == at + lasts)
        return self.m.new_interval_var(at, size, end, name)

    def _capacity(self, lane: str) -> int:
        if lane == "kettle":
            return self.r.kettles
        kind, name = lane.split(": ", 1)
        return (self.r.brewers if kind == "brewer" else self.r.grinders).get(name, 1)

    def _order(self) -> None:
        if self.wish.keep_order:
            free = [v for v, job in zip(self.vars, self.jobs, strict=True) if job.started_s is None]
            for before, after in zip(free, free[1:], strict=False):
                self.m.add(before.start <= after.start)

    def _temperatures(self) -> None:
        """L = ln(T − Ta) of each cup when tasting begins, scaled: warm is the hottest, cool the coldest."""
        m, r = self.m, self.r
        low, high = self._level(self.wish.low_c, math.ceil), self._level(self.wish.high_c, math.floor)
        self.warm, self.cool = m.new_int_var(-LOG_SCALE, high, "warm"), m.new_int_var(-8 * LOG_SCALE, high, "cool")
        self.short = m.new_int_var(0, 10 * LOG_SCALE, "short")  # how far the coldest is below the window: soft, so that something is always found
        m.add(self.short >= low - self.cool)
        self.apart = m.new_int_var(ALIKE, 20 * LOG_SCALE, "apart")
        m.add(self.apart >= self.warm - self.cool)
        cup_rate = round(UNIT_S / r.cup.tau_s * LOG_SCALE)
        pour_for = max(1, units(r.cups_each * r.pour_cup_s))
        for job, v in zip(self.jobs, self.vars, strict=True):
            rate = round(UNIT_S / r.tau_of(job.server) * LOG_SCALE)
            ready, poured = v.start + units(job.total_s), v.poured + pour_for
            level = self._level(job.drink_c, round) - rate * (poured - ready) - cup_rate * (self.tasting - poured)
            m.add(self.warm >= level)
            m.add(self.cool <= level)

    def _level(self, temp_c: float, rounded) -> int:
        return rounded(math.log(temp_c - self.r.ambient_c) * LOG_SCALE)

    # --- solving ---------------------------------------------------------------------------------------------------

    def least_spread(self, effort: float) -> None:
        """The plain schedule first; then any whose cups are as close as wished, which is far sooner found than the closest; from there the closest. Where
        there is none such, the closest is looked for from above (better than the last) and from below (what it must at least be) in turn."""
        self.m.minimize(self.apart + SHORT_WEIGHT * self.short)
        plain = plain_schedule(self.jobs, self.r, self.wish, alike=ALIKE / LOG_SCALE)
        if plain:
            self.m.add(self.tasting <= plain.tasting + units(LONGER_S))
            self._hint(self._as_hint(plain))
            self.solver.parameters.fix_variables_to_their_hinted_value = True
            if self._solve(effort) in (self.cp.OPTIMAL, self.cp.FEASIBLE):
                self.best = self.answer()
            self.solver.parameters.fix_variables_to_their_hinted_value = False
        met = self._as_close_as_wished(0.6 * effort)
        status = self.cp.UNKNOWN
        for from_below in (True,) if met else (False, True):
            self.solver.parameters.optimize_with_core = from_below
            self.solver.parameters.linearization_level = 2 if from_below else 1
            status = self._solve(0.2 * effort)
            if status == self.cp.OPTIMAL:
                break
        self.solver.parameters.optimize_with_core = False
        if status in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            self.best = self.answer()
        if self.best is None:
            raise NoSchedule("wish", "these brews do not fit into four hours.", "Ask for fewer, or add hands, brewers or kettles.")
        self.proven = status == self.cp.OPTIMAL
        coldest_c = min(c.temperature_c for c in self.best.cups)
        if coldest_c < self.wish.low_c - NEARLY_C:
            raise NoSchedule("wish", *self._what_is_in_the_way(coldest_c))

    def _as_close_as_wished(self, effort: float) -> bool:
        """Whether a schedule was found in which every cup is warm enough and none further from another than wished: the next search starts from it.
        Tried with several seeds, for what one does not find in a long while another finds at once."""
        wished = self.m.clone()
        usual_c = (self.wish.low_c + self.wish.high_c) / 2 - self.r.ambient_c
        if self.wish.spread_c < usual_c:
            wished.add(self.apart <= max(ALIKE, math.floor(-math.log(1 - self.wish.spread_c / usual_c) * LOG_SCALE)))
        wished.add(self.short <= 0)
        wished.clear_objective()
        wished.clear_hints()
        self.solver.parameters.linearization_level = 1
        for seed in range(SEEDS):
            self.solver.parameters.random_seed = seed
            status = self._solve(effort / SEEDS, wished)
            if status in (self.cp.OPTIMAL, self.cp.FEASIBLE):
                return True
            if status == self.cp.INFEASIBLE:
                return False
        return False

    def least_time(self, effort: float) -> None:
        """Among the schedules of (nearly) this spread the shortest; when it is still too wide, wait until it is not, if the
        cups may be that cool: as they cool they also draw together."""
        apart = self.reached["apart"]
        self.m.add(self.apart <= apart)
        self.m.add(self.short <= self.reached["short"])
        hottest = self.wish.spread_c / (1 - math.exp(-apart / LOG_SCALE))
        if hottest + self.r.ambient_c < self.wish.high_c and hottest * math.exp(-apart / LOG_SCALE) + self.r.ambient_c >= self.wish.low_c:
            self.m.add(self.warm <= self._level(hottest + self.r.ambient_c, math.floor))
        self.m.minimize(self.tasting)
        if self._solve(effort) in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            self.best = self.answer()

    def alike_fresh(self, effort: float) -> None:
        """Of the days this good, the one whose grounds lie most equally long, and then shortly, before their brews: what lies about loses gas and scent."""
        if len(self.rests) < 2:
            return
        longest = units(self.wish.longest_ground_s)
        most, least = (self.m.new_int_var(0, longest, name) for name in ("most_rest", "least_rest"))
        for rest in self.rests:
            self.m.add(rest <= most)
            self.m.add(rest >= least)
        self.m.add(self.apart <= self.reached["apart"])
        self.m.add(self.short <= self.reached["short"])
        self.m.add(self.tasting <= self.reached["tasting"] + units(FRESHER_S))
        self.m.minimize(20 * (most - least) + most)
        if self._solve(effort) in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            self.best = self.answer()

    def _solve(self, effort: float, model: Any = None):
        self.solver.parameters.max_deterministic_time = effort
        self.solver.parameters.max_time_in_seconds = max(LAST_S, self.left_s)
        status = self.solver.solve(model or self.m)
        self.left_s -= self.solver.wall_time
        if status in (self.cp.OPTIMAL, self.cp.FEASIBLE):  # the next search starts from this answer
            self.reached = {name: self.solver.value(getattr(self, name)) for name in ("apart", "short", "tasting")}
            self._hint([(self.m.get_int_var_from_proto_index(i), x) for i, x in enumerate(self.solver.response_proto.solution)])
        return status

    def _hint(self, pairs: Sequence[tuple[Any, int]]) -> None:
        self.m.clear_hints()
        for variable, value in pairs:
            self.m.add_hint(variable, value)

    def _as_hint(self, plain: Plain) -> list[tuple[Any, int]]:
        pairs = [(self.tasting, plain.tasting)]
        for v, x in zip(self.vars, plain.brews, strict=True):
            for name in ("start", "ground", "cleared", "taken", "diluted", "poured"):
                variable, value = getattr(v, name), getattr(x, name)
                if variable is not None and value is not None and not isinstance(variable, int):
                    pairs.append((variable, value))
        return pairs

    def _what_is_in_the_way(self, coldest_c: float) -> tuple[str, str]:
        w = self.wish
        return (
            f"no schedule was found that keeps every cup between {figures.heat(w.low_c)} and {figures.heat(w.high_c)}: the best has one at {figures.heat_fine(coldest_c)}, for the first drinks cool while the last are brewed.",
            "Use insulated servers, taste a cooler pass, add a brewer or a kettle, or split the brews over two flights.",
        )

    # --- the answer --------------------------------------------------------------------------------------------------

    def _value(self, expression: Any) -> int:
        return self.solver.value(expression) if not isinstance(expression, int) else expression

    def _cleared_early(self) -> dict[str, int]:
        """When each brewer is cleared: as soon as hands are free. Nothing bounds it in the model where no other brew waits for that brewer, and earlier is never in the way of anything."""
        lanes = Lanes(lambda _: self.r.hands, 2 * self.horizon)
        for at, offset, lasts, _, label in self.hands:
            if label != CLEAR:
                lanes.take("hands", self._value(at) + offset, lasts)
        out = {}
        for job, v in sorted(zip(self.jobs, self.vars, strict=True), key=lambda pair: self._value(pair[1].cleared)):
            ready, lasts = self._value(v.start) + units(job.total_s), units(job.clear_s)
            out[job.key] = lanes.first_gap("hands", max(self.now, ready), lasts)
            lanes.take("hands", out[job.key], lasts)
        return out

    def answer(self) -> Schedule:
        r = self.r
        tasting_s = self._value(self.tasting) * UNIT_S
        pour_for = max(1, units(r.cups_each * r.pour_cup_s))
        cups, blocks = [], []
        for job, v in zip(self.jobs, self.vars, strict=True):
            start = self._value(v.start) * UNIT_S if job.started_s is None else job.started_s
            ready, poured = start + job.total_s, (self._value(v.poured) + pour_for) * UNIT_S
            temp = tasting_temperature_c(
                drink_c=job.drink_c, ambient_c=r.ambient_c, server_tau_s=r.tau_of(job.server), server_s=max(0.0, poured - ready), cup_tau_s=r.cup.tau_s, cup_s=tasting_s - poured
            )  # fmt: skip
            cups.append(CupPlan(job.key, start, ready, poured, job.drink_c, r.tau_of(job.server), temp))
        cleared = self._cleared_early()
        for at, offset, lasts, key, label in self.hands:
            begins = (cleared[key] if label == CLEAR else self._value(at) + offset) * UNIT_S
            blocks.append(Placed(key, "hands", label, begins, begins + lasts * UNIT_S))
        clears = {job.key: units(job.clear_s) for job in self.jobs}
        for lane, uses in self.lanes.items():
            for at, lasts, key, label in uses:
                begins = self._value(at)
                ends = cleared[key] + clears[key] if lane.startswith("brewer: ") else begins + self._value(lasts)
                blocks.append(Placed(key, lane, label, begins * UNIT_S, ends * UNIT_S))
        temps = [c.temperature_c for c in cups]
        rests = [max(0.0, self._value(rest) * UNIT_S) for rest in self.rests]
        return Schedule(
            blocks=tuple(sorted(blocks, key=lambda b: (b.start_s, b.lane, b.brew))),
            cups=tuple(cups),
            tasting_s=tasting_s,
            spread_c=max(temps) - min(temps),
            total_s=tasting_s - min(b.start_s for b in blocks),
            proven=self.proven,
            rests_s=(min(rests), max(rests)) if rests else None,
        )
