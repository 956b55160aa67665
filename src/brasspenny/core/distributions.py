"""The laws of chance the job needs, as functions of scipy.special. scipy.stats and scipy.optimize have them too, but take longer to be read in than a
verdict to be worked out; the tests hold each function here against its twin there."""

from __future__ import annotations

from collections.abc import Callable
from math import sqrt, tau

import numpy as np
from scipy.special import bdtrik, betainc, betaincinv, chdtri, fdtrc, ndtr, ndtri, stdtr, stdtrit

__all__ = [
    "at_least",
    "at_most",
    "crossing",
    "fewest_significant",
    "midranks",
    "ndtr",
    "ndtri",
    "normal_density",
    "share_interval",
    "stdtr",
    "stdtrit",
    "two_sided_half",
]
chi2_quantile_above = chdtri
"""(freedom, probability above) → the point."""
f_above = fdtrc
"""(freedom of the numerator, of the denominator, value) → probability above."""


def normal_density(z: float | np.ndarray) -> float | np.ndarray:
    return np.exp(-np.square(z) / 2) / sqrt(tau)


def at_least(k: int | np.ndarray, n: int | np.ndarray, p: float) -> np.ndarray:
    """P(k or more of n), each with probability p. k may be any whole number.

    >>> round(float(at_least(9, 15, 1 / 3)), 4)
    0.0308
    """
    k, n = np.broadcast_arrays(np.asarray(k, dtype=float), np.asarray(n, dtype=float))
    inside = np.clip(k, 1, n)
    return np.where(k <= 0, 1.0, np.where(k > n, 0.0, betainc(inside, n - inside + 1, p)))


def at_most(k: int | np.ndarray, n: int | np.ndarray, p: float) -> np.ndarray:
    """P(k or fewer of n)."""
    return at_least(np.asarray(n) - np.asarray(k), n, 1 - p)


def fewest_significant(n: int | np.ndarray, p: float, alpha: float) -> np.ndarray:
    """The least k with P(k or more of n) ≤ alpha; n + 1 where not even all n are.

    >>> int(fewest_significant(15, 1 / 3, 0.05))
    9
    """
    n = np.asarray(n)
    k = np.clip(np.ceil(bdtrik(1 - alpha, n.astype(float), p)) + 2, 0, n + 1)  # close to it from above; then down as far as it holds
    for _ in range(4):
        k = np.where((k > 0) & (at_least(k - 1, n, p) <= alpha), k - 1, k)
    return k.astype(int)


def share_interval(k: int, n: int) -> tuple[float, float]:
    """The exact 95 % interval of a share of which k of n were seen (C. Clopper and E. Pearson, Biometrika, 1934)."""
    return (0.0 if k == 0 else float(betaincinv(k, n - k + 1, 0.025)), 1.0 if k == n else float(betaincinv(k + 1, n - k, 0.975)))


def two_sided_half(k: int, n: int) -> float:
    """The exact two-sided p of k of n where either is as likely."""
    return min(1.0, 2 * float(at_most(min(k, n - k), n, 0.5)))


def midranks(values: np.ndarray) -> np.ndarray:
    """Ranks from 1 along the last axis, ties sharing the middle of their places.

    >>> midranks(np.array([3.0, 1.0, 3.0])).tolist()
    [2.5, 1.0, 2.5]
    """
    values = np.asarray(values, dtype=float)
    below = (values[..., None, :] < values[..., :, None]).sum(-1)
    tied = (values[..., None, :] == values[..., :, None]).sum(-1)
    return below + (tied + 1) / 2


def crossing(rises: Callable[[float], float], low: float, high: float, *, within: float = 1e-10) -> float:
    """Where a rising function passes zero between two points, by halving."""
    while high - low > within:
        middle = (low + high) / 2
        low, high = (middle, high) if rises(middle) < 0 else (low, middle)
    return (low + high) / 2
