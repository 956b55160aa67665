"""Extraction arithmetic: the documented numbers, and what must hold for any brew."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.errors import Inconsistent, NotEnoughKnowns, OutOfDomain
from brasspenny.core.extraction import yields as ex

dose = st.floats(5, 60)
ratio = st.floats(8, 22)
ey = st.floats(8, 28)
retained = st.floats(1.5, 3)
yield_basis = st.sampled_from(list(ex.YIELD_BASIS_LABELS))


def test_the_documented_worked_numbers():
    assert ex.in_cup_yield_pct(tds_pct=1.42, beverage_g=248, dose_g=18) == pytest.approx(19.56, abs=0.005)
    assert ex.full_liquor_yield_pct(tds_undiluted_pct=1.31, brew_water_g=240, dose_g=16) == pytest.approx(19.91, abs=0.005)
    assert ex.in_cup_yield_pct(tds_pct=1.31, beverage_g=205, dose_g=16) == pytest.approx(16.78, abs=0.005)
    c0 = ex.undiluted_tds_pct(tds_pct=1.35, beverage_g=230, bypass_g=80)
    assert c0 == pytest.approx(2.07, abs=0.005)
    assert ex.in_cup_yield_pct(tds_pct=1.35, beverage_g=230, dose_g=18) == pytest.approx(17.25, abs=0.005)
    assert ex.full_liquor_yield_pct(tds_undiluted_pct=c0, brew_water_g=190, dose_g=18) == pytest.approx(22.31, abs=0.005)
    assert ex.retained_water_ratio(brew_water_g=290, beverage_g=248, bypass_g=0, tds_undiluted_pct=1.42, dose_g=18) == pytest.approx(2.53, abs=0.005)


@pytest.mark.parametrize(("R", "c"), [(16, 1.418), (14, 1.653), (18, 1.242)])
def test_lines_of_equal_ratio_in_cup(R, c):
    assert ex.ratio_line_tds_pct(yield_basis="in_cup", brew_ratio=R, ey_pct=20, retained_water_ratio=2.1) == pytest.approx(c, abs=5e-4)


def test_line_of_equal_ratio_full_liquor():
    assert ex.ratio_line_tds_pct(yield_basis="full_liquor", brew_ratio=16, ey_pct=20, retained_water_ratio=2.1) == pytest.approx(1.235, abs=5e-4)


def test_solve_for_dose_on_both_yield_bases():
    knowns = {"tds_pct": 1.30, "ey_pct": 20.5, "brew_water_g": 260}
    assert ex.solve(**knowns).dose_g == pytest.approx(14.72, abs=0.005)
    assert ex.solve(**knowns, yield_basis="full_liquor").dose_g == pytest.approx(16.70, abs=0.005)


@given(dose, ratio, ey, retained)
def test_mass_is_conserved_in_the_cup(D, R, E, rho):
    """Water in = water out + water kept, and every dissolved gram is in the cup."""
    W = D * R
    B = ex.predict_beverage_g(yield_basis="in_cup", dose_g=D, brew_water_g=W, ey_pct=E, retained_water_ratio=rho)
    c = ex.ratio_line_tds_pct(yield_basis="in_cup", brew_ratio=R, ey_pct=E, retained_water_ratio=rho)
    assert B * c / 100 == pytest.approx(E / 100 * D, rel=1e-9)
    assert B * (1 - c / 100) + rho * D == pytest.approx(W, rel=1e-9)
    assert ex.retained_water_ratio(brew_water_g=W, beverage_g=B, bypass_g=0, tds_undiluted_pct=c, dose_g=D) == pytest.approx(rho, rel=1e-6)


@given(dose, ratio, ey)
def test_full_liquor_yield_is_what_its_ratio_line_was_drawn_for(D, R, E):
    c = ex.ratio_line_tds_pct(yield_basis="full_liquor", brew_ratio=R, ey_pct=E, retained_water_ratio=2.1)
    assert ex.full_liquor_yield_pct(tds_undiluted_pct=c, brew_water_g=D * R, dose_g=D) == pytest.approx(E, rel=1e-9)


@given(st.floats(0.5, 2.5), st.floats(100, 400), st.floats(0, 90), dose)
def test_bypass_leaves_in_cup_yield_unchanged(c, B, Y, D):
    c0 = ex.undiluted_tds_pct(tds_pct=c, beverage_g=B, bypass_g=Y)
    assert ex.in_cup_yield_pct(tds_pct=c0, beverage_g=B - Y, dose_g=D) == pytest.approx(ex.in_cup_yield_pct(tds_pct=c, beverage_g=B, dose_g=D))


@given(dose, ratio, ey, retained, yield_basis)
def test_solve_inverts_the_prediction_from_any_enough_knowns(D, R, E, rho, which):
    c = ex.ratio_line_tds_pct(yield_basis=which, brew_ratio=R, ey_pct=E, retained_water_ratio=rho)
    truth = {"dose_g": D, "brew_water_g": D * R, "brew_ratio": R, "tds_pct": c, "ey_pct": E}
    for names in (("tds_pct", "ey_pct", "dose_g"), ("tds_pct", "ey_pct", "brew_water_g"), ("dose_g", "brew_water_g", "tds_pct"),
                  ("dose_g", "brew_ratio", "ey_pct"), ("brew_ratio", "brew_water_g", "tds_pct"), tuple(truth)):  # fmt: skip
        found = ex.solve(yield_basis=which, retained_water_ratio=rho, **{n: truth[n] for n in names})
        for name, value in truth.items():
            assert getattr(found, name) == pytest.approx(value, rel=1e-6), (names, name)


@pytest.mark.parametrize(
    ("knowns", "error", "word"),
    [
        ({}, NotEnoughKnowns, "nothing"),
        ({"dose_g": 18}, NotEnoughKnowns, "brew_water_g"),
        ({"dose_g": 18, "brew_water_g": 290}, NotEnoughKnowns, "tds_pct or ey_pct"),
        ({"tds_pct": 1.4, "ey_pct": 20}, NotEnoughKnowns, "dose_g or brew_water_g"),
        ({"dose_g": 18, "brew_water_g": 290, "brew_ratio": 20, "ey_pct": 20}, Inconsistent, "1:16.11"),
        ({"dose_g": 18, "brew_water_g": 290, "tds_pct": 1.4, "ey_pct": 30}, Inconsistent, "cannot all be true"),
        ({"dose_g": 18, "brew_ratio": 2, "ey_pct": 20}, Inconsistent, "keep all the water"),
        ({"dose_g": -1, "brew_ratio": 16, "ey_pct": 20}, OutOfDomain, "dose"),
    ],
)
def test_solve_says_what_is_missing_or_clashes(knowns, error, word):
    with pytest.raises(error) as caught:
        ex.solve(**knowns)
    assert word in str(caught.value)


def test_press_pots_default_to_full_liquor_and_hybrids_to_the_cup():
    assert {t: ex.yield_basis_of(t) for t in ex.BREWER_TYPES if ex.yield_basis_of(t) == "full_liquor"} == {"press_pot": "full_liquor"}


def test_dry_basis_raises_a_yield():
    assert math.isclose(ex.dry_basis_yield_pct(19.4, moisture_pct=3), 20.0)
