"""One brew worked out: uncertainty by a second road, refusals at their field, doubts as warnings; brews pooled."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.extraction import uncertainty as un
from brasspenny.core.extraction.dilution import dilute_to
from brasspenny.core.extraction.measure import Brew, check_times, measure
from brasspenny.core.extraction.results import pool_setup

GOOD = {"dose_g": 18, "brew_water_g": 290, "beverage_g": 248}
READINGS = [1.41, 1.43, 1.42]
INSTRUMENT = un.Instrument()


def test_the_documented_uncertainty():
    m = measure(Brew(**GOOD), READINGS, INSTRUMENT)
    assert m.strength.u_tds_pct == pytest.approx(0.018, abs=5e-4)
    assert m.in_cup.u == pytest.approx(0.257, abs=5e-4)
    assert m.in_cup.half_width == pytest.approx(0.5, abs=0.05)
    assert m.warnings == ()


@pytest.mark.parametrize("bypass_g", [0, 80])
def test_propagated_uncertainty_agrees_with_simulation(bypass_g):
    """The straight-line formulas against 200,000 brews shaken by the same errors."""
    brew = Brew(dose_g=18, brew_water_g=190 if bypass_g else 290, beverage_g=230, bypass_g=bypass_g)
    instrument = un.Instrument(accuracy_pct=0.04, resolution_pct=0.01, scale_resolution_g=1.0)
    m = measure(brew, READINGS, instrument)
    rng = np.random.default_rng(5)
    n = 200_000

    def mass(g):
        return g + rng.normal(0, instrument.u_mass_g, n)

    c = m.strength.tds_pct + rng.normal(0, m.strength.u_tds_pct, n)
    D, W, B = mass(brew.dose_g), mass(brew.brew_water_g), mass(brew.beverage_g)
    Y = mass(bypass_g) if bypass_g else 0
    c0 = c * B / (B - Y) / 100
    assert m.in_cup.u == pytest.approx(np.std(c * B / D), rel=0.02)
    assert m.full_liquor.u == pytest.approx(np.std(100 * c0 * W / ((1 - c0) * D)), rel=0.02)


def test_one_instruments_accuracy_cancels_in_a_difference():
    i = un.Instrument(accuracy_pct=0.03, resolution_pct=0, scale_resolution_g=0, repeatability_pct=0)
    a, b = un.strength_of([1.5], i), un.strength_of([1.2], i)
    assert un.strength_difference(a, b, i).u == 0
    assert un.in_cup_difference(a, 13 - 2, b, 18 - 2, i).u * math.sqrt(3) == pytest.approx(0.15)
    assert un.in_cup_difference(a, 12, b, 12, i).u == 0


def test_moisture_divides_yields_only():
    plain, dry = (measure(Brew(**GOOD, moisture_pct=p), READINGS, INSTRUMENT) for p in (0, 3))
    assert dry.in_cup.value == pytest.approx(plain.in_cup.value / 0.97)
    assert dry.full_liquor.u == pytest.approx(plain.full_liquor.u / 0.97)
    assert (dry.brew_ratio, dry.retained_water_ratio) == (plain.brew_ratio, plain.retained_water_ratio)


@pytest.mark.parametrize(
    ("changes", "readings", "field", "error"),
    [
        ({"dose_g": 0}, READINGS, "dose_g", OutOfDomain),
        ({"dose_g": float("nan")}, READINGS, "dose_g", OutOfDomain),
        ({"beverage_g": -1}, READINGS, "beverage_g", OutOfDomain),
        ({"beverage_g": 300}, READINGS, "beverage_g", Inconsistent),
        ({"bypass_g": 248}, READINGS, "bypass_g", Inconsistent),
        ({}, [1.4, 142], "tds_readings_pct.1", OutOfDomain),
        ({"concentrate": True}, [26], "tds_readings_pct.0", OutOfDomain),
        ({"dose_g": 3}, [1.4], "dose_g", Inconsistent),
        ({"moisture_pct": 40}, READINGS, "moisture_pct", OutOfDomain),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(changes, readings, field, error):
    with pytest.raises(error) as caught:
        measure(Brew(**GOOD | changes), readings, INSTRUMENT)
    assert caught.value.field == field
    assert caught.value.remedy


def test_water_ppm_typed_as_tds_is_explained():
    with pytest.raises(OutOfDomain, match="conductivity pen"):
        measure(Brew(**GOOD), [142], INSTRUMENT)


@pytest.mark.parametrize(
    ("changes", "readings", "code"),
    [
        ({}, [], "no_reading"),
        ({}, [1.4], "single_reading"),
        ({}, [1.40, 1.41, 1.52], "outlier_reading"),
        ({"beverage_g": 200}, READINGS, "retained_water"),
        ({"beverage_g": None}, READINGS, "no_beverage_mass"),
        ({"brew_water_g": None}, READINGS, "no_brew_water"),
        ({"dose_g": 11}, READINGS, "high_yield"),
    ],
)
def test_what_is_doubtful_is_warned_of(changes, readings, code):
    assert code in [w.code for w in measure(Brew(**GOOD | changes), readings, INSTRUMENT).warnings]


def test_an_outlier_is_never_dropped():
    assert measure(Brew(**GOOD), [1.40, 1.41, 1.52], INSTRUMENT).strength.tds_pct == pytest.approx(np.mean([1.40, 1.41, 1.52]))


def test_a_brew_cannot_end_before_its_last_pour():
    with pytest.raises(Inconsistent):
        check_times(pour_end_s=100, total_time_s=90)


def test_replicate_brews_carry_the_interval_and_the_shared_part_stays():
    def one(tds):
        brew = Brew(**GOOD)
        return brew, measure(brew, [tds] * 3, INSTRUMENT), 160.0

    single = pool_setup([one(1.42)], yield_basis="in_cup", instrument=INSTRUMENT)
    assert single.extraction_yield.between_u is None
    scattered = pool_setup([one(1.30), one(1.42), one(1.54)], yield_basis="in_cup", instrument=INSTRUMENT)
    assert scattered.extraction_yield.estimate.half_width > 5 * single.extraction_yield.estimate.half_width
    alike = pool_setup([one(1.42)] * 9, yield_basis="in_cup", instrument=INSTRUMENT)
    shared = 248 / 18 * INSTRUMENT.u_accuracy_pct
    assert shared < alike.extraction_yield.estimate.u == pytest.approx(shared, rel=0.01)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(1.2, 1.5), min_size=2, max_size=5), st.sampled_from([0.01, 0.1, 1.0]))
def test_brews_that_agree_by_luck_are_no_surer_than_what_each_was_measured_with(strengths, scale_step_g):
    """And two alike brews on a coarse scale are not called different from two others by a hair."""
    instrument = un.Instrument(scale_resolution_g=scale_step_g)
    brews = [(Brew(**GOOD), measure(Brew(**GOOD), [tds], instrument), 160.0) for tds in strengths]
    pooled = pool_setup(brews, yield_basis="in_cup", instrument=instrument).extraction_yield
    alone = [m.yield_in("in_cup").u for _, m, _ in brews]
    own = [u**2 - pooled.shared_u**2 for u in alone]
    assert pooled.estimate.u**2 >= pooled.shared_u**2 + sum(own) / len(own) ** 2 - 1e-9
    assert pooled.between_u == pytest.approx(np.std([m.yield_in("in_cup").value for _, m, _ in brews], ddof=1) / len(brews) ** 0.5, abs=1e-9)


def test_dilution():
    assert dilute_to(beverage_g=210, tds_pct=1.52, target_tds_pct=1.38).add_water_g == pytest.approx(21.3, abs=0.05)
    with pytest.raises(Inconsistent, match="weakest"):
        dilute_to(beverage_g=210, tds_pct=1.38, target_tds_pct=1.52)


def test_a_press_pots_yield_needs_no_weighed_drink_and_a_bypass_does():
    weighed, not_weighed = (measure(Brew(dose_g=30, brew_water_g=480, beverage_g=b), [1.35, 1.36], INSTRUMENT) for b in (410, None))
    assert not_weighed.full_liquor == weighed.full_liquor and not_weighed.in_cup is None and not_weighed.tds_undiluted_pct == weighed.tds_undiluted_pct
    (said,) = [w.text for w in not_weighed.warnings if w.code == "no_beverage_mass"]
    assert "no in-cup yield" in said
    assert measure(Brew(dose_g=30, brew_water_g=480, bypass_g=100), [1.35, 1.36], INSTRUMENT).full_liquor is None
