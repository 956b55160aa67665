"""The simulator: nothing is made or lost, every knob turns the right way, its numbers are believable, it learns from brews."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brasspenny.core.errors import NotEnoughKnowns, OutOfDomain
from brasspenny.core.recipe.model import Recipe, Step
from brasspenny.core.recipe.starters import STARTERS
from brasspenny.core.simulator.brews import GroundTo, brew_of
from brasspenny.core.simulator.fitting import Observed, fit
from brasspenny.core.simulator.model import USUAL, BrewIn, Parameters, PourIn, simulate, simulate_course

from ..amount import examples

FLAT = brew_of(next(s for s in STARTERS if s.code == "flat_bed_centre").recipe, grind=GroundTo(700))

pours = st.lists(st.tuples(st.floats(0, 200), st.floats(1, 60), st.floats(5, 200), st.floats(60, 100)), min_size=1, max_size=5).map(
    lambda rows: tuple(PourIn(s, s + d, g, c) for s, d, g, c in rows)
)
brews = st.builds(
    BrewIn,
    dose_g=st.floats(8, 60),
    grind_um=st.floats(250, 1500),
    pours=pours,
    closed_until_s=st.sampled_from([0.0, 120.0]),
    lift_s=st.sampled_from([None, 150.0]),
    decanted=st.booleans(),
    filter_factor=st.floats(0, 3),
    bypass_g=st.floats(0, 150),
    ends_s=st.floats(0, 300),
    grind_log_sd=st.floats(0, 1),
)


@settings(max_examples=examples(100), deadline=None)
@given(st.lists(brews, min_size=1, max_size=4))
def test_water_and_solids_balance_to_rounding(some):
    for brew, out in zip(some, simulate(some), strict=True):
        poured = sum(p.grams for p in brew.pours)
        drink = out.beverage_g - brew.bypass_g
        in_cup = out.ey_in_cup_pct / 100 * brew.dose_g
        assert abs(poured - (drink - in_cup) - out.kept_water_g) <= 1e-9 * max(1, poured)
        assert abs(USUAL.soluble * brew.dose_g - in_cup - out.kept_solids_g - out.left_solids_g) <= 1e-9 * brew.dose_g
        assert out.beverage_g >= brew.bypass_g - 1e-9 and 0 <= out.tds_pct < 100 * USUAL.soluble


def test_no_brew_depends_on_the_others_of_its_batch():
    slow = replace(FLAT, grind_um=400, filter_factor=3)
    assert simulate([FLAT, slow])[0] == simulate([FLAT])[0]


def ladder(name, values, brew=FLAT):
    return simulate([replace(brew, **{name: v}) for v in values])


def hotter(brew, by):
    return replace(brew, pours=tuple(replace(p, temperature_c=p.temperature_c + by) for p in brew.pours))


def grows(values):
    return all(b > a for a, b in zip(values, values[1:], strict=False))


@pytest.mark.parametrize("starter", ["cone_pulses", "flat_bed_centre", "single_slow_bypass", "steep_then_drip"])
def test_every_knob_turns_the_right_way(starter):
    brew = brew_of(next(s for s in STARTERS if s.code == starter).recipe, grind=GroundTo(700))
    coarser = ladder("grind_um", (400, 550, 700, 900, 1200), brew)
    assert grows([-o.ey_in_cup_pct for o in coarser]) and grows([-o.total_s for o in coarser])  # coarser: faster, less drawn out
    warmer = simulate([hotter(brew, t) for t in (-10, -5, 0, 4)])
    assert grows([o.ey_in_cup_pct for o in warmer]) and all(b.total_s <= a.total_s for a, b in zip(warmer, warmer[1:], strict=False))
    deeper = ladder("dose_g", (14, 16, 18, 22), brew)
    assert grows([o.tds_pct for o in deeper]) and grows([-o.ey_in_cup_pct for o in deeper]) and grows([o.total_s for o in deeper])
    thicker = ladder("filter_factor", (0, 0.5, 1, 2, 3), brew)
    assert grows([o.total_s for o in thicker])
    longer = simulate([replace(brew, pours=tuple(replace(p, grams=p.grams * x) for p in brew.pours)) for x in (0.9, 1.0, 1.1, 1.2)])
    assert grows([o.ey_in_cup_pct for o in longer]) and grows([-o.tds_pct for o in longer])
    thinned = ladder("bypass_g", (0, 50, 100), brew)
    assert grows([-o.tds_pct for o in thinned]) and len({round(o.ey_in_cup_pct, 9) for o in thinned}) == 1


def test_a_wider_grind_gives_up_its_fines_sooner_and_keeps_more_in_its_boulders():
    press = replace(brew_of(next(s for s in STARTERS if s.code == "press_pot_skimmed").recipe, grind=GroundTo(900)), grind_log_sd=0.0)
    narrow, wide = press, replace(press, grind_log_sd=0.8)
    early = [o.ey_full_liquor_pct for o in simulate([replace(b, ends_s=60) for b in (narrow, wide)])]
    late = [o.ey_full_liquor_pct for o in simulate([replace(b, ends_s=900) for b in (narrow, wide)])]
    assert early[1] > early[0] and late[1] < late[0]


def test_steeping_longer_draws_out_more_and_nothing_drips_from_a_closed_brewer():
    press = brew_of(next(s for s in STARTERS if s.code == "press_pot_skimmed").recipe, grind=GroundTo(900))
    steeped = ladder("ends_s", (120, 240, 480, 900), press)
    assert grows([o.ey_full_liquor_pct for o in steeped]) and {o.first_drip_s for o in steeped} == {None}
    valved = brew_of(next(s for s in STARTERS if s.code == "steep_then_drip").recipe, grind=GroundTo(700))
    (out,) = simulate([valved])
    assert out.first_drip_s > valved.closed_until_s


def test_starters_land_where_brews_do():
    microns = {"press_pot_skimmed": 950, "piston_upright": 550, "piston_inverted": 450}
    for s in STARTERS:
        (out,) = simulate([brew_of(s.recipe, grind=GroundTo(microns.get(s.code, 700)), filter_factor=0.25 if s.code == "paperless_mesh" else 1)])
        assert 1.6 < out.retained_water_ratio < 2.7, s.code
        if s.code != "piston_inverted":  # a concentrate
            assert 17 < out.ey_in_cup_pct < 23 and 1.1 < out.tds_pct < 1.7, s.code
        if out.first_drip_s is not None and s.code.startswith(("cone", "flat")):
            low, high = s.recipe.total_time_s
            assert 12 < out.first_drip_s < 45 and low - 15 < out.total_s < high + 15, s.code


def test_the_course_ends_where_the_outcome_does():
    out, course = simulate_course(FLAT)
    assert course.poured_g[-1] == pytest.approx(sum(p.grams for p in FLAT.pours)) and course.server_g[-1] == pytest.approx(out.beverage_g, abs=0.01)
    assert (np.diff(course.poured_g) >= 0).all() and (np.diff(course.server_g) >= 0).all()
    at = np.searchsorted(course.t_s, FLAT.pours[0].end_s)
    assert course.poured_g[at] == pytest.approx(FLAT.pours[0].grams, abs=0.6)
    assert simulate_course(FLAT)[1].server_g.tobytes() == course.server_g.tobytes()


def test_the_learnt_parameters_come_back_from_brews_made_with_others():
    truth = Parameters(soluble=0.26, bed_s=16.0, held_g_g=2.3)
    some = [FLAT, replace(FLAT, grind_um=600), replace(FLAT, dose_g=16), hotter(FLAT, -4)]
    rng = np.random.default_rng(5)
    seen = [Observed(o.tds_pct + rng.normal(0, 0.01), o.beverage_g + rng.normal(0, 1), o.total_s + rng.normal(0, 3)) for o in simulate(some, truth)]
    found = fit(some, seen)
    assert found.after < 1 < found.before
    assert found.parameters.soluble == pytest.approx(0.26, rel=0.04) and found.parameters.bed_s == pytest.approx(16, rel=0.15)
    assert found.parameters.held_g_g == pytest.approx(2.3, rel=0.04)
    assert all(abs(r.tds_pct) < 0.06 for r in found.residuals)
    with pytest.raises(NotEnoughKnowns):
        fit(some[:2], seen[:2])


@pytest.mark.parametrize("bed_s", [4.5, 30.0])
def test_times_alone_move_the_beds_resistance(bed_s):
    some = [FLAT, replace(FLAT, grind_um=600), replace(FLAT, dose_g=16)]
    seen = [Observed(total_s=o.total_s) for o in simulate(some, replace(USUAL, bed_s=bed_s))]
    assert fit(some, seen).parameters.bed_s == pytest.approx(bed_s, rel=0.3)  # three times against the pull to the usual


def test_what_cannot_be_brewed_is_refused():
    with pytest.raises(NotEnoughKnowns):
        brew_of(Recipe(steps=(Step("pour", to_g=200),)), grind=GroundTo(700))
    with pytest.raises(NotEnoughKnowns):
        brew_of(Recipe(dose_g=18, steps=(Step("wait"),)), grind=GroundTo(700))
    with pytest.raises(OutOfDomain):
        simulate([replace(FLAT, grind_um=5)])
