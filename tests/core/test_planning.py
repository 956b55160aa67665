"""Designs, orders, budgets, readiness: what the plan of a trial is made of."""

from collections import Counter
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.brewing.dial_in import DialInBrew, Matched, check_rule, dial_in_state
from brasspenny.core.errors import PennyError
from brasspenny.core.planning.budget import Amounts, BrewCost, budget
from brasspenny.core.planning.designs import LevelledFactor, design, run_order
from brasspenny.core.planning.minutes import SIEVE_SAMPLE_MIN
from brasspenny.core.recipe.document import from_document, to_document
from brasspenny.core.recipe.fitting import fitted, plain_pour
from brasspenny.core.recipe.model import Recipe, Step, sums
from brasspenny.core.recipe.starters import STARTERS

# --- designs ---------------------------------------------------------------------------------------------------------


def two(name, *levels, numeric=False):
    return LevelledFactor(name, levels or ("low", "high"), numeric)


def test_a_factorial_holds_every_combination_once():
    rows = design("factorial", [two("coffee", "a", "b", "c"), two("grinder")]).setups
    assert len(rows) == len(set(rows)) == 6 and Counter(r[1] for r in rows) == {"low": 3, "high": 3}


@pytest.mark.parametrize(("factors", "rows"), [(3, 4), (4, 8), (5, 8)])
def test_a_screening_fraction_is_balanced_and_its_main_effects_do_not_mix(factors, rows):
    found = design("screening", [two(f"f{i}") for i in range(factors)]).setups
    signs = np.array([[1 if x == "high" else -1 for x in row] for row in found])
    assert signs.shape == (rows, factors) and (signs.T @ signs == rows * np.eye(factors)).all()


def test_a_surface_takes_corners_sides_and_centre_of_two_ranges():
    rows = design("surface", [two("ratio", "15", "17", numeric=True), two("temperature", "90", "96", numeric=True)]).setups
    assert set(rows) == {(r, t) for r in ("15", "16", "17") for t in ("90", "93", "96")}


@pytest.mark.parametrize(
    ("kind", "factors", "field"),
    [
        ("pair", [two("filter", "a", "b", "c")], "factors.0.levels"),
        ("pair", [two("filter"), two("grinder")], "factors"),
        ("ladder", [two("ratio", "15", "sixteen", "17", numeric=True)], "factors.0.levels"),
        ("factorial", [two("coffee", "a", "a")], "factors.0.levels"),
        ("factorial", [two("coffee"), two("coffee")], "factors"),
        ("factorial", [two("coffee", *"abcde"), two("grinder", *"abcde")], "factors"),
        ("screening", [two("coffee"), two("grinder")], "factors"),
        ("surface", [two("ratio", "15", "17", numeric=True), two("coffee")], "factors.1.levels"),
    ],
)
def test_levels_that_do_not_fit_a_design_are_refused_at_their_field(kind, factors, field):
    with pytest.raises(PennyError) as caught:
        design(kind, factors)
    assert caught.value.field == field and caught.value.remedy


# --- order -----------------------------------------------------------------------------------------------------------


@given(st.integers(2, 8), st.integers(1, 4), st.integers(0, 999_999), st.sampled_from(["none", "replicate", "factor"]))
def test_every_order_brews_each_setup_its_number_of_times_and_can_be_drawn_again(setups, replicates, seed, blocking):
    levels = ["x" if k % 2 else "y" for k in range(setups)]
    drawn = run_order(setups, replicates, seed=seed, blocking=blocking, levels=levels, factor="grinder")
    assert Counter(b.setup for b in drawn.brews) == dict.fromkeys(range(setups), replicates)
    assert drawn == run_order(setups, replicates, seed=seed, blocking=blocking, levels=levels, factor="grinder")
    if blocking == "replicate":
        for r in range(replicates):
            assert sorted(b.setup for b in drawn.brews if b.block == r) == list(range(setups))
    if blocking == "factor":
        assert sum(levels[a.setup] != levels[b.setup] for a, b in zip(drawn.brews, drawn.brews[1:], strict=False)) == drawn.changes == 1
        assert "trust its difference less" in drawn.cost


def test_another_seed_draws_another_order():
    assert len({tuple(b.setup for b in run_order(6, 2, seed=s).brews) for s in range(20)}) > 15


# --- budget ------------------------------------------------------------------------------------------------------------

CUP = BrewCost("Lot 3", 18, 290, 250, 3, "White weave", purge_g=1)


def test_a_budget_adds_up_by_hand():
    b = budget([CUP, replace(CUP, coffee="Lot 4", filter="")], Amounts(replicates=2, flights=3, tasters=4, sieve_samples=1), {"Lot 3": 130})
    assert (b.brews, b.cups_per_taster, b.cups_per_flight, b.sips_per_taster) == (12, 12, 4, 36)
    need = b.coffees[0]
    assert (need.brews_g, need.dial_in_g, need.purge_g, need.sieve_g, need.total_g) == (108, 18, 7, 10, 143)
    assert need.short_g == 13 and b.coffees[1].short_g is None and b.filters == {"White weave": 7}
    assert b.water_g == 7 * (290 + 100) + 7 * 290 and b.minutes == 14 * CUP.minutes + 2 * SIEVE_SAMPLE_MIN
    assert any("13 g short" in w for w in b.warnings)


def test_caffeine_is_the_share_sipped_and_swallowed_and_warns_over_the_guidance():
    quarter = budget([replace(CUP, dose_g=12, beverage_g=120)], Amounts(1, 1, 2), {})  # 30 of 120 g, of 12 g
    assert quarter.caffeine_flight_mg == pytest.approx((30, 36))
    half_spat = budget([replace(CUP, dose_g=12, beverage_g=120)], Amounts(1, 1, 2, share_drunk=0.5), {})
    assert half_spat.caffeine_flight_mg == pytest.approx((15, 18))
    robusta = budget([replace(CUP, dose_g=12, beverage_g=120, robusta_share=1)], Amounts(1, 1, 2), {})
    assert robusta.caffeine_flight_mg == pytest.approx((60, 75))
    many = budget([CUP] * 6, Amounts(2, 3, 2, sips_per_cup=6), {})
    assert any("200 mg" in w for w in many.warnings) and any("400 mg" in w for w in many.warnings)
    assert "200 mg at once and 400 mg a day" in many.guidance and "doctor" in many.guidance


def test_a_brew_too_small_for_the_panel_and_a_flight_too_long_for_a_palate_are_said():
    b = budget([CUP] * 5, Amounts(2, 1, 12), {})
    assert any("palates tire" in w for w in b.warnings) and any("brew larger" in w for w in b.warnings)


# --- readiness ----------------------------------------------------------------------------------------------------------

WINDOWED = Recipe(dose_g=18, total_time_s=(150, 190), tds_pct=(1.25, 1.45), ends="drips_stop", steps=(Step("pour", to_g=288),))


@pytest.mark.parametrize(
    ("brews", "state", "said"),
    [
        ([], "none", "No dial-in brew"),
        ([DialInBrew("A d1", 170, tds_pct=1.33)], "dialled_in", "within"),
        ([DialInBrew("A d1", 170, tds_pct=1.33), DialInBrew("A d2", 200, tds_pct=1.33)], "off", "time 3:20 is over 3:10"),
        ([DialInBrew("A d1", 170)], "off", "TDS not measured"),
    ],
)
def test_the_newest_dial_in_brew_is_judged_by_its_recipes_windows(brews, state, said):
    found = dial_in_state(WINDOWED, brews)
    assert found.state == state and said in found.text


def test_brews_that_met_every_target_are_dialled_in_and_late_lines_prove_nothing():
    met, missed = DialInBrew("A1", 170, tds_pct=1.33), DialInBrew("A2", 170, tds_pct=1.6)
    assert dial_in_state(WINDOWED, [], brews=[met]).state == "dialled_in"
    assert dial_in_state(WINDOWED, [], brews=[met, missed]).state == "none"
    late = dial_in_state(WINDOWED, [], brews=[missed], late=[DialInBrew("A d1", 170, tds_pct=1.33)])
    assert late.state == "none" and late.text.startswith("A d1 was logged when tasting had begun")


def test_without_windows_nothing_can_be_called_dialled_in():
    assert dial_in_state(Recipe(dose_g=18), [DialInBrew("A d1", 170)]).state == "no_windows"


@pytest.mark.parametrize(("b_time", "holds"), [(179, True), (181, False), (None, None)])
def test_a_declared_match_is_checked_on_what_was_brewed(b_time, holds):
    setups = [Matched("A", 169, 1.4, 20), Matched("B", b_time, 1.4, 20)]
    assert check_rule("grind_setting", "brew_time", setups).holds is holds
    assert check_rule("grind_setting", "by_eye", setups).holds is None


# --- recipes bent to a setup --------------------------------------------------------------------------------------------


@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.code)
def test_a_fitted_recipe_has_the_setups_amounts_and_each_pours_share(starter):
    recipe = starter.recipe
    before = sums(recipe)
    out = fitted(recipe, dose_g=21, brew_water_g=1.25 * before.poured_g, bypass_g=before.bypass_g, temperature_c=90)
    after = sums(out)
    assert (out.dose_g, out.temperature_c) == (21, 90) and after.poured_g == pytest.approx(1.25 * before.poured_g, abs=0.6)
    assert len(out.steps) == len(recipe.steps) and after.bypass_g == pytest.approx(before.bypass_g)
    assert from_document(to_document(out)) == out


def test_bypass_finds_its_step_or_gets_one():
    plain = plain_pour(18, 240, 0, 93)
    assert sums(fitted(plain, dose_g=18, brew_water_g=240, bypass_g=60, temperature_c=None)).bypass_g == 60
    assert sums(plain_pour(18, 240, 60, 93)).water_g == 300
