"""Why a spread cannot be kept, and what would: the same brews placed with one thing changed. docs/formulas.md §8.6."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ... import figures
from ...errors import PennyError
from .jobs import INSULATED_TAU_S, BrewJob, Resources, Vessel, Wish
from .solver import NoSchedule, Schedule, schedule

EFFORT_EACH, EACH_AT_MOST_S = 0.1, 2.0


@dataclass(frozen=True)
class Remedy:
    """What to change, and the spread that was then found, °C."""

    code: str
    text: str
    spread_c: float


@dataclass(frozen=True)
class Explained:
    """schedule: None when nothing fits, then no_schedule says why. why and remedies: when the spread asked for is not kept."""

    schedule: Schedule | None
    no_schedule: NoSchedule | None
    why: str
    remedies: tuple[Remedy, ...]


def schedule_and_explain(jobs: Sequence[BrewJob], resources: Resources, wish: Wish = Wish()) -> Explained:
    """A schedule, and when none keeps wish.spread_c, why, and which single change would help, each tried."""
    try:
        found, trouble = schedule(jobs, resources, wish), None
    except NoSchedule as error:
        if error.field != "wish":
            raise
        found, trouble = None, error
    if found and found.spread_c <= wish.spread_c + 1e-9:
        return Explained(found, None, "", ())
    return Explained(found, trouble, _why(jobs, resources, wish, found, trouble), tuple(_remedies(jobs, resources, wish, found)))


def headline(spread_c: float, wanted_c: float) -> str:
    """What a run sheet comes to, in one line.

    >>> headline(0.2, 3), headline(1.44, 3), headline(6.1, 3)
    ('All cups within half a degree', 'All cups within 1.4 °C', 'Cups 6.1 °C apart')
    """
    if spread_c > wanted_c + 0.05:
        return f"Cups {figures.heat_apart(spread_c)} apart"
    return f"All cups within {'half a degree' if spread_c < (0.5 if figures.units().heat == 'C' else 0.28) else figures.heat_apart(spread_c)}"


RESTS_ALIKE_S = 120.0
"""Grounds that lie no more than this longer than others lose no more that anybody tastes."""


def say_rests(rests_s: Sequence[float] | None) -> str:
    """What is said where some grounds lie longer than others; '' where they do not.

    >>> say_rests((0, 100)), say_rests((30, 660))
    ('', 'Grounds lie 1 to 11 min before their brew. A second pair of hands, or fewer brews a flight, would grind every cup equally fresh.')
    """
    if rests_s is None or rests_s[1] - rests_s[0] <= RESTS_ALIKE_S:
        return ""
    low, high = (figures.minutes(s / 60) for s in rests_s)
    return f"Grounds lie {low} to {high} min before their brew. A second pair of hands, or fewer brews a flight, would grind every cup equally fresh."


def _why(jobs: Sequence[BrewJob], r: Resources, wish: Wish, found: Schedule | None, trouble: NoSchedule | None) -> str:
    if found is None:
        return trouble.reason[:1].upper() + trouble.reason[1:]
    order = sorted(found.cups, key=lambda c: c.ready_s)
    first, last = order[0], order[-1]
    gap_min = (last.ready_s - first.ready_s) / 60
    keys = {j.key: j.label for j in jobs}
    busy = sum(b.end_s - b.start_s for b in found.blocks if b.lane == "hands") / 60
    return (
        f"{keys[first.brew]} waits {figures.minutes(gap_min)} min for {keys[last.brew]}, and its server loses heat meanwhile (τ {figures.minutes(first.server_tau_s / 60)} min). "
        f"{'One pair of hands is' if r.hands == 1 else f'{r.hands} pairs of hands are'} busy for {figures.minutes(busy)} min in all."
    )


def _remedies(jobs: Sequence[BrewJob], r: Resources, wish: Wish, found: Schedule | None) -> Iterator[Remedy]:
    names = {j.server for j in jobs}
    insulated = {name: Vessel(f"insulated {name}", max(INSULATED_TAU_S, r.tau_of(name))) for name in names}
    busiest, uses = Counter(j.brewer for j in jobs).most_common(1)[0]
    tries: list[tuple[str, str, Sequence[BrewJob], Resources]] = []
    if any(r.tau_of(name) < INSULATED_TAU_S for name in names):
        tries.append(("insulated_server", "Hold the drinks in insulated servers", jobs, replace(r, servers={**r.servers, **insulated})))
    if uses > r.brewers.get(busiest, 1):
        more = {**r.brewers, busiest: r.brewers.get(busiest, 1) + 1}
        tries.append(("one_more_brewer", f"One more {busiest}, and a kettle for it", jobs, replace(r, brewers=more, kettles=r.kettles + 1)))
    if len(jobs) >= 4:
        half = (len(jobs) + 1) // 2
        tries.append(("fewer_setups", f"Split into flights of {half} brews", jobs[:half], r))
    before = found.spread_c if found else float("inf")
    for code, text, some, resources in tries:
        try:
            after = schedule(some, resources, wish, effort=EFFORT_EACH, at_most_s=EACH_AT_MOST_S, shortest=False)
        except PennyError:
            continue
        if after.spread_c < before - 0.2:
            yield Remedy(code, text, after.spread_c)
