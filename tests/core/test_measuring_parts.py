"""How a reading was taken, what is seen, a ladder's line, a wished cup, and when a pass opens."""

import math

import numpy as np
import pytest
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st

from benchmarks.cooling_study import READ_NEAR, errors
from brasspenny.core.brewing.observed import Tolerances, bed_reads, off_plan
from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.extraction import chartlines
from brasspenny.core.extraction.ladder import fit_ladder, said
from brasspenny.core.extraction.readings import PROTOCOL, offset_of, read_brix, read_oven, read_tds, skipped_said
from brasspenny.core.extraction.results import served_tds_pct
from brasspenny.core.extraction.target_cup import aim
from brasspenny.core.extraction.yields import ratio_line_tds_pct
from brasspenny.core.tasting.serving import Cup, fitted, serving


def test_brix_and_oven_give_a_strength_with_their_own_accuracy():
    assert (read_brix(1.7).tds_pct, read_brix(1.7).accuracy_pct) == (1.445, 0.15)
    assert read_brix(2.0, factor=0.8, offset_pct=0.1).tds_pct == 1.5
    dried = read_oven(sample_g=5, dish_g=20, dried_g=20.07, scale_resolution_g=0.001)
    assert dried.tds_pct == 1.4 and dried.accuracy_pct == pytest.approx(0.02)
    for wrong in ({"dried_g": 19.9}, {"dried_g": 26}):
        with pytest.raises(Inconsistent) as refused:
            read_oven(**({"sample_g": 5, "dish_g": 20, "dried_g": 20.07} | wrong))
        assert refused.value.field == "dried_g"
    with pytest.raises(OutOfDomain):
        read_brix(31)


def test_an_offset_is_taken_off_and_a_fault_is_not_an_offset():
    assert read_tds(1.44, offset_pct=offset_of(reference_pct=0, read_pct=0.02)).tds_pct == 1.42
    assert read_tds(0.01, offset_pct=0.02).tds_pct == 0
    with pytest.raises(OutOfDomain):
        offset_of(reference_pct=0, read_pct=1.2)


def test_every_skipped_step_of_the_protocol_is_named():
    asked = [r.code for r in PROTOCOL]
    assert len(skipped_said([], asked=asked)) == len(PROTOCOL) and skipped_said(asked, asked=asked) == ()
    assert skipped_said(["zeroed"], asked=["zeroed", "cooled"]) == ("sample not cooled",)


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"poured_g": 290.8}, ()),
        ({"poured_g": 291}, ("water 3.0 g over",)),
        ({"poured_g": 45, "planned_water_g": 48}, ("water 3.0 g under",)),
        ({"temperature_c": 91.5}, ("1.5 °C cooler",)),
        ({"temperature_c": None}, ()),
        ({"dose_g": 18.4, "planned_dose_g": 18}, ("dose 0.4 g over",)),
        ({"mishaps": ["spill"], "ground_min": 45}, ("spill", "ground 45 min before")),
    ],
)
def test_what_is_off_plan_is_said_and_nothing_else(changes, says):
    on_plan = {"tolerances": Tolerances(), "poured_g": 288, "planned_water_g": 288, "temperature_c": 93, "planned_c": 93}
    assert off_plan(**(on_plan | changes)) == says


def test_wider_tolerances_forgive_more():
    assert not off_plan(tolerances=Tolerances(mass_g=20), poured_g=300, planned_water_g=288, temperature_c=None, planned_c=None)


def test_a_bed_speaks_of_its_pour():
    assert "Channels" in bed_reads(["flat", "channels"]) and "fines" in bed_reads(["muddy"])
    assert "faster" in bed_reads([], drawdown_s=30, usual_drawdown_s=60) and "slower" in bed_reads([], drawdown_s=90, usual_drawdown_s=60)
    assert bed_reads(["flat"], drawdown_s=60, usual_drawdown_s=60) == ""


# --- ladder ------------------------------------------------------------------------------------------------------------------


@given(st.integers(0, 10_000), st.booleans())
def test_the_ladders_band_is_that_of_ordinary_least_squares(seed, curved):
    rng = np.random.default_rng(seed)
    x = np.repeat([14.0, 15.0, 16.0, 17.0, 18.0], 2)
    y = 3 - 0.1 * x + 0.01 * (x - 16) ** 2 + rng.normal(0, 0.03, len(x))
    found = fit_ladder(list(zip(x, y, strict=True)), curved=curved)
    at = np.array(found.ratios)
    shape = np.vander(x - 16, 3 if curved else 2, increasing=True)
    there = np.vander(at - 16, 3 if curved else 2, increasing=True)
    oracle = sm.OLS(y, shape).fit().get_prediction(there)
    np.testing.assert_allclose(found.values, oracle.predicted_mean, rtol=1e-8)
    np.testing.assert_allclose(np.column_stack([found.lows, found.highs]), oracle.conf_int(), rtol=1e-8)
    assert (min(found.ratios), max(found.ratios)) == (14, 18)  # never beyond what was tested


def test_two_ratios_make_no_ladder_and_a_flat_one_says_so():
    assert fit_ladder([(15, 1.4), (17, 1.3), (17, 1.31)]) is None
    assert fit_ladder([(15, 1.4), (16, 1.35), (17, 1.3)], curved=True).degree == 1
    flat = fit_ladder([(15, 1.40), (16, 1.43), (17, 1.39), (15, 1.42), (17, 1.41)])
    assert "does not clearly move" in said(flat, what="Strength", unit="% TDS", places=2)


# --- a wished cup ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("yield_basis", ["in_cup", "full_liquor"])
@given(ratio=st.floats(11, 20), wished=st.floats(11, 20), ey=st.floats(16, 24))
def test_the_ghosts_ratio_gives_the_wished_strength_at_todays_yield(yield_basis, ratio, wished, ey):
    tds = ratio_line_tds_pct(yield_basis=yield_basis, brew_ratio=wished, ey_pct=ey, retained_water_ratio=2.1)
    found = aim(yield_basis=yield_basis, dose_g=18, brew_water_g=18 * ratio, retained_water_ratio=2.1, ey_now_pct=ey, tds_wished_pct=tds, ey_wished_pct=ey)
    assert found.ratio_now == pytest.approx(wished, rel=1e-6) and found.direction == ""
    assert found.brew_water_g / 18 == pytest.approx(wished, rel=1e-6) and 18 * ratio / found.dose_g == pytest.approx(wished, rel=1e-6)


def test_the_ghost_says_which_way_to_turn_the_grind():
    known = {"yield_basis": "in_cup", "dose_g": 18, "brew_water_g": 288, "retained_water_ratio": 2.1, "ey_now_pct": 19, "tds_wished_pct": 1.4}
    assert "finer" in aim(**known, ey_wished_pct=21).direction and "coarser" in aim(**known, ey_wished_pct=17).direction


# --- serving -----------------------------------------------------------------------------------------------------------------


@given(st.floats(15, 28), st.floats(66, 90), st.floats(0.6, 0.97), st.floats(60, 900))
def test_each_pass_opens_when_the_cup_is_there(ambient, first, left, apart):
    second = ambient + (first - ambient) * left
    found = serving([(0.0, first), (apart, second)], ambient_c=ambient)
    assert found.cup.after(first, apart) == pytest.approx(second, abs=0.02)
    for p in found.passes:
        if p.opens_s:
            assert found.cup.after(second, p.opens_s) == pytest.approx(p.from_c, abs=0.02)
        if p.opens_s is not None and p.closes_s is not None:
            assert p.opens_s <= p.closes_s
        if p.read_again_s is not None:
            assert p.read_again_s < p.opens_s and found.cup.after(second, p.read_again_s) == pytest.approx(p.from_c + 6, abs=0.02)
    assert found.hot_to_drink == (second > 65)


def test_without_evaporation_it_is_newtons_law():
    cup = Cup(1 / 1653, 0.0, 22)
    assert cup.after(68, 600) == pytest.approx(22 + 46 * math.exp(-600 / 1653), abs=1e-3)
    assert cup.reaches(68, 50) == pytest.approx(1653 * math.log(46 / 28), rel=1e-6)


def test_a_third_reading_tells_a_lid_from_an_open_cup():
    for r in (0.02, 0.35):
        cup = Cup(1 / 2500, r, 21)
        found = fitted([(s, cup.after(78, s)) for s in (0, 300, 900, 1800)], ambient_c=21)
        assert found.r == pytest.approx(r, abs=0.08)


def test_opening_times_hold_within_eight_per_cent_where_the_cups_are_read_again_near_the_pass():
    """Cups whose physics the model does not share: 80 to 250 g, open and under a lid (benchmarks/cooling_study.py)."""
    found = errors(cups=24)[READ_NEAR]
    missed = [e for by in found.values() for e in by if abs(e) > 0.08]
    assert len(missed) <= 0.05 * sum(map(len, found.values()))


@pytest.mark.parametrize("readings", [[(0, 40), (60, 20)], [(0, 60), (60, 60)], [(0, 60), (0, 50)], [(0, 60)]])
def test_what_shows_no_cooling_cannot_be_timed(readings):
    with pytest.raises(OutOfDomain):
        serving(readings, ambient_c=21)


# --- served, overlays ----------------------------------------------------------------------------------------------------------


def test_a_second_reading_beats_the_sum_of_masses():
    assert served_tds_pct(tds_pct=1.52, beverage_g=210, added_water_g=21.3, read_again_pct=1.4) == 1.4


def test_overlays_speak_of_in_cup_yield_only_and_name_their_school():
    assert chartlines.windows("full_liquor") == chartlines.overlays("full_liquor") == ()
    assert [w.code for w in chartlines.windows("in_cup")] == ["classic", "european", "nordic"]
    assert all("20" in o.about and o.places for o in chartlines.overlays("in_cup"))
    assert not any(word in o.about.lower() for o in chartlines.OVERLAYS for word in ("bad cup", "good cup"))
