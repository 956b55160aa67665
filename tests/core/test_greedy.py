"""The plain schedule the search starts from, re-checked without its own bookkeeping: no lane over capacity, coffee fresh, cups poured once ready."""

import math
from collections import defaultdict
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.planning.schedule.greedy import UNIT_S, plain_schedule, units
from brasspenny.core.planning.schedule.jobs import BrewJob, HandsBlock, Wish

from .test_schedule import KIT as WIDE

KIT = replace(WIDE, brewers={"flat": 1})
BREW = BrewJob(
    "A1",
    "brew 1",
    (HandsBlock("bloom", 0, 15), HandsBlock("pour", 40, 50)),
    total_s=165,
    brewer="flat",
    grinder="mill",
    grind_s=40,
    hand_grinder=True,
    drink_c=82,
)
WISH = Wish(low_c=45, high_c=65)

kits = st.builds(lambda h, k, b: replace(KIT, hands=h, kettles=k, brewers={"flat": b}), st.integers(1, 2), st.integers(1, 2), st.integers(1, 3))


def brews(count):
    return [replace(BREW, key=f"A{i}", label=f"brew {i}") for i in range(1, count + 1)]


def spans_of(job, laid, kit):
    """Lane → (begins, ends) of everything one brew holds, in steps, from the answer alone."""
    prep, out = units(job.prep_s), defaultdict(list)
    out["hands"].append((laid.start - prep, laid.start))
    out["hands"] += [(laid.start + units(b.start_s), laid.start + units(b.start_s) + max(1, units(b.duration_s))) for b in job.hands]
    out["hands"] += [(laid.ground, laid.ground + units(job.grind_s)), (laid.cleared, laid.cleared + units(job.clear_s))]
    out["hands"].append((laid.taken, laid.taken + units(job.measure_s)))
    out["hands"].append((laid.poured, laid.poured + max(1, units(kit.cups_each * kit.pour_cup_s))))
    out["brewer"].append((laid.start - prep, laid.cleared + units(job.clear_s)))
    out["grinder"].append((laid.ground, laid.ground + units(job.grind_s)))
    return out


@given(st.integers(1, 5), kits)
def test_no_lane_is_ever_over_its_capacity(count, kit):
    asked = brews(count)
    found = plain_schedule(asked, kit, WISH)
    used = defaultdict(list)
    for job, laid in zip(asked, found.brews, strict=True):
        for lane, spans in spans_of(job, laid, kit).items():
            used[lane] += spans
    capacity = {"hands": kit.hands, "brewer": kit.brewers["flat"], "grinder": 1}
    for lane, spans in used.items():
        for begins, _ in spans:
            assert sum(b <= begins < e for b, e in spans) <= capacity[lane], (lane, begins, spans)


@given(st.integers(1, 5), kits)
def test_coffee_is_ground_before_its_brew_and_no_longer_before_than_wished(count, kit):
    asked = brews(count)
    for job, laid in zip(asked, plain_schedule(asked, kit, WISH).brews, strict=True):
        ready = laid.ground + units(job.grind_s)
        waits = laid.start - units(job.prep_s) - ready
        assert 0 <= waits * UNIT_S <= WISH.longest_ground_s + UNIT_S


@given(st.integers(1, 4), kits)
def test_cups_are_poured_after_every_sample_and_the_spread_is_what_the_cooling_law_gives(count, kit):
    asked = brews(count)
    found = plain_schedule(asked, kit, WISH)
    poured = max(1, units(kit.cups_each * kit.pour_cup_s))
    levels = []
    for job, laid in zip(asked, found.brews, strict=True):
        assert laid.poured >= max(x.taken + units(job.measure_s) for x in found.brews)
        in_server = (laid.poured + poured - laid.start - units(job.total_s)) * UNIT_S / kit.tau_of(job.server)
        in_cup = (found.tasting - laid.poured - poured) * UNIT_S / kit.cup.tau_s
        levels.append(math.log(job.drink_c - kit.ambient_c) - in_server - in_cup)
    assert found.apart == pytest.approx(max(levels) - min(levels))
    assert max(levels) <= math.log(WISH.high_c - kit.ambient_c) + 1e-9, "tasting waits until the hottest cup is cool enough"


def test_a_brew_that_is_begun_stays_where_it_began():
    begun = replace(BREW, started_s=600.0)
    found = plain_schedule([begun, replace(BREW, key="A2")], replace(KIT, brewers={"flat": 2}), replace(WISH, now_s=700.0))
    assert (found.brews[0].start, found.brews[0].ground) == (units(600), None)
    assert found.brews[1].start * UNIT_S >= 700


def test_a_day_that_is_too_long_has_no_plain_schedule():
    assert plain_schedule([replace(BREW, key=str(i), total_s=6000) for i in range(4)], KIT, WISH) is None


def test_no_grinder_means_nothing_to_grind():
    (laid,) = plain_schedule([replace(BREW, grind_s=0.0)], KIT, WISH).brews
    assert laid.ground is None and laid.start >= units(KIT.heat_s)
