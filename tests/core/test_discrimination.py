"""Discrimination: the documented numbers, scipy's exact tests, and tasters simulated from each method's own rule."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binomtest

from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.judging.discrimination import GUESS_RATE, METHODS, d_prime_of, discriminate, min_correct, plan, proportion_correct


def test_the_documented_numbers():
    assert discriminate("triangle", 15, 9).p_value == pytest.approx(0.031, abs=0.0005)
    assert [min_correct("triangle", n) for n in (6, 8, 10, 12, 18, 24, 36)] == [5, 6, 7, 8, 10, 13, 18]
    assert [round(proportion_correct("triangle", d), 4) for d in (1, 1.5)] == [0.418, 0.5065]
    assert proportion_correct("triangle", 2) == pytest.approx(0.605, abs=0.0005)
    assert [proportion_correct("duo_trio", d) for d in (1, 1.5, 2)] == pytest.approx([0.5825, 0.6635, 0.747], abs=0.0005)


def perceived(rng, method, d, n):
    """Right or wrong, n times, by a taster who compares what he perceives: the method's rule itself, no formula."""
    x, y = rng.normal(0, 1, (n, 4)), rng.normal(d, 1, (n, 4))
    match method:
        case "two_afc":
            return y[:, 0] > x[:, 0]
        case "three_afc":
            return y[:, 0] > np.maximum(x[:, 0], x[:, 1])
        case "duo_trio":  # the reference is x2
            return np.abs(x[:, 0] - x[:, 2]) < np.abs(y[:, 0] - x[:, 2])
        case "triangle":
            same = np.abs(x[:, 0] - x[:, 1])
            return (same < np.abs(x[:, 0] - y[:, 0])) & (same < np.abs(x[:, 1] - y[:, 0]))
        case _:  # the two lowest are one kind and the two highest the other
            four = np.column_stack([x[:, :2], y[:, :2]])
            low = np.argsort(four, axis=1)[:, :2]
            return (low < 2).sum(axis=1) % 2 == 0


@pytest.mark.parametrize("method", METHODS)
@pytest.mark.parametrize("d", [0.0, 0.8, 1.7])
def test_each_psychometric_function_is_its_methods_own_rule(method, d):
    n = 400_000
    seen = perceived(np.random.default_rng(3), method, d, n).mean()
    assert proportion_correct(method, d) == pytest.approx(seen, abs=4 * np.sqrt(0.25 / n))


@given(st.sampled_from(METHODS), st.integers(1, 300), st.floats(0, 1), st.sampled_from([0.01, 0.05, 0.1]))
def test_p_and_interval_are_scipys_and_the_least_number_right_is_the_least(method, n, share, alpha):
    correct = round(share * n)
    found, guess = discriminate(method, n, correct, alpha=alpha), GUESS_RATE[method]
    oracle = binomtest(correct, n, guess, alternative="greater")
    assert found.p_value == pytest.approx(oracle.pvalue, rel=1e-9)
    ends = binomtest(correct, n).proportion_ci(0.95, method="exact")
    assert found.distinguishers_interval == pytest.approx([max(0, (x - guess) / (1 - guess)) for x in ends], abs=1e-9)
    least = found.min_correct
    if least is None:
        assert binomtest(n, n, guess, alternative="greater").pvalue > alpha
    else:
        assert binomtest(least, n, guess, alternative="greater").pvalue <= alpha < binomtest(least - 1, n, guess, alternative="greater").pvalue
    low, high = found.d_prime_interval
    assert low <= (np.inf if found.d_prime is None else found.d_prime) <= (np.inf if high is None else high) + 1e-9


@given(st.sampled_from(METHODS), st.floats(0.01, 6))
def test_d_prime_comes_back(method, d):
    assert d_prime_of(method, proportion_correct(method, d)) == pytest.approx(d, abs=1e-3)


def test_planned_numbers_hold_what_they_promise():
    for method, share in (("triangle", 0.5), ("two_afc", 0.3), ("tetrad", 0.4)):
        planned, guess = plan(method, distinguishers=share), GUESS_RATE[method]
        right = guess + share * (1 - guess)
        rng = np.random.default_rng(1)
        assert (rng.binomial(planned.n, right, 40_000) >= planned.min_correct).mean() == pytest.approx(planned.power, abs=0.01)
        assert planned.power >= 0.8 and (rng.binomial(planned.similar_n, right, 40_000) <= planned.most_correct).mean() <= 0.055
        assert (rng.binomial(planned.similar_n, guess, 40_000) <= planned.most_correct).mean() >= 0.79
    assert plan("triangle", distinguishers=0.01).n is None


def test_what_cannot_be_is_refused_and_too_little_is_said():
    for n, correct, kind in ((0, 0, OutOfDomain), (5, 6, Inconsistent), (5, -1, Inconsistent), (10**9, 1, OutOfDomain)):
        with pytest.raises(kind):
            discriminate("triangle", n, correct)
    assert "proves nothing" in discriminate("triangle", 1, 1).text and "too few" in discriminate("two_afc", 4, 4).text
    assert "a difference" in discriminate("triangle", 15, 9).text and "luck gives as many" in discriminate("triangle", 15, 6).text
