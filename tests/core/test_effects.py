"""Setup effects of the grid, beside two roads that do not use it: closed forms of the normal law, and the draws themselves."""

import numpy as np
import pytest

from brasspenny.core.judging.effects import Flat, WithTau
from brasspenny.core.judging.posterior import Nodes


def nodes(centre, information, *, tau=(0.5,)):
    """One node of the grid over K setups, in an orthonormal basis of their contrasts."""
    k = len(centre) + 1
    basis = np.linalg.qr(np.eye(k) - 1 / k)[0][:, : k - 1]
    made = object.__new__(Nodes)
    fields = {
        "basis": basis[None],
        "weight": np.ones(1),
        "centre": np.array([centre], float),
        "information": np.array([information], float),
        "tau": np.array(tau, float),
        "tau_weight": np.full((1, len(tau)), 1 / len(tau)),
    }
    for name, value in fields.items():
        object.__setattr__(made, name, value)
    return made, basis


def test_a_difference_is_the_contrast_of_its_two_setups():
    grid, _ = nodes((0.4, -0.2), (9.0, 4.0))
    flat = Flat(grid)
    for a, b in ((0, 1), (2, 0)):
        weights = np.zeros(3)
        weights[a], weights[b] = 1, -1
        for one, other in zip(flat.difference(a, b), flat.contrast(weights), strict=True):
            assert one == pytest.approx(other)


def test_flat_means_and_sds_are_those_of_the_normal_law():
    centre, information = np.array((0.4, -0.2)), np.array((9.0, 4.0))
    grid, basis = nodes(centre, information)
    _, mean, sd = Flat(grid).difference(0, 1)
    covariance = basis @ np.diag(1 / information) @ basis.T
    assert mean[0] == pytest.approx((basis @ centre)[0] - (basis @ centre)[1])
    assert sd[0] == pytest.approx(np.sqrt(covariance[0, 0] + covariance[1, 1] - 2 * covariance[0, 1]))


def test_shrinking_pulls_towards_nothing_and_never_past_it():
    grid, _ = nodes((0.8, -0.3), (9.0, 4.0), tau=(0.3,))
    _, flat, sd = Flat(grid).difference(0, 2)
    _, shrunk, narrower = WithTau(grid).difference(0, 2)
    assert 0 < abs(shrunk[0, 0]) < abs(flat[0]) and np.sign(shrunk[0, 0]) == np.sign(flat[0]) and narrower[0, 0] < sd[0]


def test_with_a_wide_prior_nothing_is_shrunk():
    grid, _ = nodes((0.8, -0.3), (9.0, 4.0), tau=(1e4,))
    assert WithTau(grid).difference(0, 2)[1][0, 0] == pytest.approx(Flat(grid).difference(0, 2)[1][0], rel=1e-6)


def test_draws_have_the_means_and_sds_of_the_law_and_sum_to_nothing():
    grid, _ = nodes((0.5, 0.1), (6.0, 5.0), tau=(0.4, 0.9))
    drawn, law = WithTau(grid).draws(), WithTau(grid)
    assert drawn.sum(1) == pytest.approx(0, abs=1e-9)
    weight, mean, sd = (x.ravel() for x in law.difference(0, 1))
    expected = (weight * mean).sum()
    spread = np.sqrt((weight * (sd**2 + mean**2)).sum() - expected**2)
    found = drawn[:, 0] - drawn[:, 1]
    assert found.mean() == pytest.approx(expected, abs=0.01) and found.std() == pytest.approx(spread, rel=0.03)


def test_chances_of_being_best_sum_to_one_and_the_leader_risks_least():
    grid, basis = nodes((0.9, 0.2), (12.0, 12.0))
    best, regret = WithTau(grid).best_and_regret()
    leader = int((basis @ np.array((0.9, 0.2))).argmax())
    assert best.sum() == pytest.approx(1) and best.argmax() == leader == regret.argmin() and (regret >= 0).all()


def test_equal_setups_are_best_equally_often():
    best, regret = WithTau(nodes((0.0, 0.0), (8.0, 8.0))[0]).best_and_regret()
    assert best == pytest.approx(1 / 3, abs=0.02) and np.ptp(regret) < 0.02
