"""Our laws of chance against scipy's own."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from brasspenny.core import distributions
from brasspenny.core.judging import mixtures


@given(st.integers(1, 400), st.integers(-2, 402), st.floats(0.02, 0.98))
def test_tails_of_the_binomial(n, k, p):
    assert float(distributions.at_least(k, n, p)) == pytest.approx(float(stats.binom.sf(k - 1, n, p)), abs=1e-11)
    assert float(distributions.at_most(k, n, p)) == pytest.approx(float(stats.binom.cdf(k, n, p)), abs=1e-11)


@given(st.integers(1, 3000), st.sampled_from([1 / 3, 0.5, 0.1, 0.9]), st.sampled_from([0.05, 0.01, 0.2, 1e-6]))
def test_the_fewest_significant_is_the_first_that_is(n, p, alpha):
    k = int(distributions.fewest_significant(n, p, alpha))
    assert k == n + 1 or stats.binom.sf(k - 1, n, p) <= alpha * (1 + 1e-12)
    assert k == 0 or stats.binom.sf(k - 2, n, p) > alpha * (1 - 1e-12)


@given(st.integers(1, 200).flatmap(lambda n: st.tuples(st.integers(0, n), st.just(n))))
def test_exact_intervals_and_two_sided_p(seen):
    k, n = seen
    theirs = stats.binomtest(k, n).proportion_ci(0.95, method="exact")
    assert distributions.share_interval(k, n) == pytest.approx((theirs.low, theirs.high), abs=1e-9)
    assert distributions.two_sided_half(k, n) == pytest.approx(stats.binomtest(k, n).pvalue, rel=1e-9)


@given(st.lists(st.lists(st.integers(0, 4), min_size=3, max_size=3), min_size=1, max_size=5))
def test_midranks(rows):
    assert np.array_equal(distributions.midranks(np.array(rows)), stats.rankdata(np.array(rows), axis=-1))


@given(st.floats(0.001, 0.999), st.integers(1, 60))
def test_quantiles_of_the_rest(p, freedom):
    assert distributions.chi2_quantile_above(freedom, p) == pytest.approx(stats.chi2.isf(p, freedom), rel=1e-8)
    assert distributions.stdtrit(freedom, p) == pytest.approx(stats.t.ppf(p, freedom), rel=1e-6, abs=1e-8)
    assert distributions.f_above(freedom, 7, 10 * p) == pytest.approx(stats.f.sf(10 * p, freedom, 7), rel=1e-9)


@given(st.integers(1, 2**32 - 1), st.floats(1e-4, 1 - 1e-4))
def test_a_mixtures_quantile_has_its_share_below(seed, p):
    """Far apart, of very different widths, or one alone: Newton's steps never leave the point behind."""
    rng = np.random.default_rng(seed)
    count = rng.integers(1, 40)
    weight = rng.dirichlet(np.ones(count))
    mean, sd = rng.normal(0, 10 ** rng.uniform(-3, 2), count), 10 ** rng.uniform(-3, 1, count)
    x = mixtures.quantile(p, weight, mean, sd)
    near = 1e-8 * (1 + abs(x))
    assert mixtures.below(x - near, weight, mean, sd) <= p + 1e-9 and mixtures.below(x + near, weight, mean, sd) >= p - 1e-9
