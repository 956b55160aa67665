"""The smaller core parts: limits in words, mixtures, permutations, posterior edges, sheets, the demo's model."""

import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import norm

from brasspenny.act import ID_ALPHABET, Act
from brasspenny.core.errors import OutOfDomain
from brasspenny.core.extraction import uncertainty as un
from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.mixtures import below, quantile, systematic
from brasspenny.core.judging.permutation import sign_flip_p
from brasspenny.core.judging.scores import cups_of
from brasspenny.core.limits import LEAST_SIZE, LIMITS, check
from brasspenny.core.tasting.sheets import ATTRIBUTE_CODES, DEFAULT_ATTRIBUTES, SCALES, fits
from brasspenny.core.units import brix_to_tds_pct, oven_tds_pct, water_density_g_per_ml
from brasspenny.demo import model
from brasspenny.store.fields import MassField, ScoreField, UtcField


@given(st.sampled_from(sorted(LIMITS)), st.floats(allow_nan=True, allow_infinity=True))
def test_a_limit_holds_exactly_what_it_describes(name, value):
    limit = LIMITS[name]
    inside = limit.low + LEAST_SIZE <= value <= limit.high if limit.above else limit.low <= value <= limit.high
    assert limit.holds(value) == inside
    if not inside:
        with pytest.raises(OutOfDomain) as caught:
            check(**{name: value})
        assert caught.value.field == name and limit.describe() in caught.value.remedy


@given(st.lists(st.tuples(st.floats(0.01, 1), st.floats(-5, 5), st.floats(0.05, 3)), min_size=1, max_size=8), st.floats(0.01, 0.99))
def test_a_mixtures_quantile_inverts_its_probability(parts, p):
    weight, mean, sd = (np.array(x) for x in zip(*parts, strict=True))
    weight = weight / weight.sum()
    assert below(quantile(p, weight, mean, sd), weight, mean, sd) == pytest.approx(p, abs=1e-6)


def test_a_mixture_of_one_is_the_normal():
    one = np.ones(1)
    assert quantile(0.975, one, 2 * one, 3 * one) == pytest.approx(norm.ppf(0.975, 2, 3))


def test_systematic_draws_keep_the_proportions():
    weight = np.array([0.5, 0.3, 0.2])
    counts = np.bincount(systematic(weight, 1000, np.random.default_rng(1)), minlength=3)
    assert np.abs(counts - 1000 * weight).max() <= 1


def test_sign_flips_beyond_sixteen_tasters_are_drawn_and_repeatable():
    rng = np.random.default_rng(3)
    scores = [Score("", f"T{t}", s, "1", "", float(np.clip(round(6 + 0.6 * (s == "A") + rng.normal()), 1, 9))) for t in range(20) for s in "AB"]
    cups = cups_of(scores, low=1, high=9)
    p = sign_flip_p(cups, 0, 1)
    d = cups.y[cups.setup == 0] - cups.y[cups.setup == 1]
    exact = np.mean([abs((d * s).sum()) >= abs(d.sum()) - 1e-9 for s in np.random.default_rng(0).choice((-1, 1), size=(40_000, 20))])
    assert p == pytest.approx(exact, abs=0.01) and p == sign_flip_p(cups, 0, 1)


def test_these_very_cups_are_known_better_than_another_brew():
    scores = [Score("", f"T{t}", s, b, "", 7.0 - (s == "B") + (t % 2)) for t in range(5) for s in "AB" for b in "12"]
    other, these = judge(scores).differences[0], judge(scores, these_cups=True).differences[0]
    assert these.interval[1] - these.interval[0] < other.interval[1] - other.interval[0]
    assert "these_cups" in [c.code for c in judge(scores, these_cups=True).caveats]


def test_more_brews_narrow_an_interval_more_than_more_tasters():
    def width(tasters, brews):
        rng = np.random.default_rng(1)
        scores = [Score("", f"T{t}", s, str(b), "", float(np.clip(6 + rng.normal(0, 1.1), 1, 9))) for t in range(tasters) for s in "AB" for b in range(brews)]
        low, high = judge(scores).differences[0].interval
        return high - low

    assert width(6, 2) < width(12, 1)


@pytest.mark.parametrize("delta", [0.25, 0.5, 1.0, 2.0])
def test_a_wider_smallest_difference_makes_a_tie_likelier(delta):
    scores = [Score("", f"T{t}", s, b, "", 6.0 + ((t + (b == "2")) % 2)) for t in range(8) for s in "AB" for b in "12"]
    equal = judge(scores, smallest_difference=delta).differences[0].probability_practically_equal
    assert equal > judge(scores, smallest_difference=delta / 2).differences[0].probability_practically_equal


def test_probabilities_of_being_best_sum_to_one_and_the_leader_regrets_least():
    rng = np.random.default_rng(8)
    scores = [
        Score("", f"T{t}", s, b, "", float(np.clip(round(5 + "ABCDE".index(s) * 0.4 + rng.normal()), 1, 9))) for t in range(7) for s in "ABCDE" for b in "12"
    ]
    j = judge(scores)
    assert sum(s.probability_best for s in j.setups) == pytest.approx(1, abs=1e-9)
    assert min(j.setups, key=lambda s: s.expected_regret).setup == j.lean.setup
    assert all(s.interval[0] <= s.mean <= s.interval[1] and s.interval[0] >= 1 and s.interval[1] <= 9 for s in j.setups)


def test_sentences_use_the_names_given():
    scores = [Score("", f"T{t}", s, b, "", 8.0 if s == "A" else 4.0) for t in range(6) for s in "AB" for b in "123"]
    j = judge(scores, names={"A": "White weave", "B": "Steel mesh"})
    assert (j.verdict.choice, j.verdict.headline) == ("A", "Keep White weave") and "White weave" in j.lean.text


def test_effective_freedom_lies_between_the_smallest_part_and_the_sum():
    u = np.hypot(0.3, 0.4)
    df = un.effective_df(u, [(0.3, 4), (0.4, 9)])
    assert 4 <= df <= 13
    assert un.effective_df(1.0, [(0.0, 3)]) == float("inf")


def test_scores_fit_their_scales_in_half_points():
    assert all(fits(a, x / 2) for a in ATTRIBUTE_CODES for x in range(21)) and not fits("aroma", 10.5) and not fits("liking", 0.5)
    assert set(DEFAULT_ATTRIBUTES) <= set(ATTRIBUTE_CODES) <= set(SCALES)


def test_brix_oven_and_density_know_their_domain():
    assert brix_to_tds_pct(1.6, factor=0.9) == pytest.approx(1.44)
    for bad in ({"dish_g": 20, "dried_g": 19, "sample_g": 10}, {"dish_g": 20, "dried_g": 31, "sample_g": 10}, {"dish_g": 20, "dried_g": 20.1, "sample_g": 0}):
        with pytest.raises(OutOfDomain):
            oven_tds_pct(**bad)
    assert water_density_g_per_ml(4) > water_density_g_per_ml(0) and water_density_g_per_ml(4) > water_density_g_per_ml(10)
    with pytest.raises(OutOfDomain):
        water_density_g_per_ml(101)


def test_the_demos_brews_conserve_mass_to_the_scales_step():
    rng = np.random.default_rng(1)
    for _ in range(50):
        cup = model.brew(rng, dose_g=18, brew_water_g=290, ey_pct=20, retained=2.1, drawdown_s=60, readings=3)
        strength = np.mean(cup.readings_pct) / 100
        kept = (cup.brew_water_g - cup.beverage_g * (1 - strength)) / cup.dose_g
        assert kept == pytest.approx(2.1, abs=0.2) and cup.total_time_s > cup.pour_end_s


def test_a_seeded_act_repeats_its_ids_and_ids_say_nothing():
    first, again = (Act(None, None, random.Random(5)) for _ in range(2))
    made = [first.new_id() for _ in range(100)]
    assert made == [again.new_id() for _ in range(100)] and len(set(made)) == 100
    assert all(len(i) == 12 and set(i) <= set(ID_ALPHABET) for i in made)


def test_stored_decimals_are_exact():
    assert str(MassField().db_value(18.1)) == "18.100" and MassField().python_value(None) is None
    assert str(ScoreField().db_value(6.5)) == "6.50" and UtcField().db_value(None) is None
