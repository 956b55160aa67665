"""Brewing along: what the plan asks now, the simulated scale beside it, plan against actual."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.brewing.along import MadeStep, deviations, plan_now_g, planned_steps
from brasspenny.core.brewing.curve import read_curve as segment
from brasspenny.core.brewing.scale_log import read_log
from brasspenny.core.recipe.reading import read
from brasspenny.devices.scale import PlannedPour, SimulatedScale

STEPS = planned_steps(
    read("18 g, 288 g at 93, rinse, bloom 45 for 40 s, to 170 from 0:40 over 20 s, swirl, to 288 from 1:20 over 25 s, bypass 40, drips stop").recipe
)
POURS = [PlannedPour(p.start_s, p.end_s, p.to_g - p.from_g) for p in STEPS if p.to_g is not None]


def test_the_plan_knows_its_reading_at_every_second():
    assert [(s.kind, s.from_g, s.to_g) for s in STEPS] == [
        ("bloom", 0, 45), ("pour", 45, 170), ("swirl", 170, None), ("pour", 170, 288), ("bypass", 288, None),
    ]  # fmt: skip
    assert [plan_now_g(STEPS, t) for t in (0, 4.5, 9, 30, 50, 60, 79, 105, 300)] == pytest.approx([0, 22.5, 45, 45, 107.5, 170, 170, 288, 288])


@given(st.integers(0, 10_000), st.floats(0, 200))
def test_a_simulated_scale_is_a_pure_function_and_follows_the_plan(seed, at):
    scale = SimulatedScale(POURS, seed)
    assert scale.reading_g(at) == SimulatedScale(POURS, seed).reading_g(at)
    assert plan_now_g(STEPS, at - 4) * 0.98 - 1.5 <= scale.reading_g(at) <= plan_now_g(STEPS, at + 1) * 1.02 + 1.5
    assert scale.source == "simulated"


def test_its_readings_are_cut_into_the_pours_of_the_plan():
    scale = SimulatedScale(POURS, 7)
    log = "\n".join(f"{t / 10:.1f},{scale.reading_g(t / 10):.1f}" for t in range(1500))
    found = segment(read_log(log)).pours
    assert [round(p.to_g / planned, 1) for p, planned in zip(found, (45, 170, 288), strict=True)] == [1, 1, 1]
    assert all(-0.5 <= f.start_s - p.start_s <= 3 for f, p in zip(found, POURS, strict=True))


@pytest.mark.parametrize(("ended", "reading", "outside"), [(60, 170, False), (64, 171.5, False), (67, 170, True), (60, 173, True), (60, None, False)])
def test_two_grams_or_one_per_cent_and_five_seconds_are_the_tolerance(ended, reading, outside):
    (d,) = deviations(STEPS, [MadeStep(STEPS[1].index, None, ended, reading, "press")])
    assert d.outside is outside and d.end_s == 60 - ended
