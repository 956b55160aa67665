"""Mixtures of normals: probabilities below a point, quantiles, seeded draws. The arithmetic under every interval."""

from __future__ import annotations

import numpy as np
from scipy.optimize import brentq
from scipy.special import ndtr, ndtri


def below(x: float, weight: np.ndarray, mean: np.ndarray, sd: np.ndarray) -> float:
    """P(value < x) of the mixture. weight sums to 1; arrays of one shape; sd > 0."""
    return float(np.sum(weight * ndtr((x - mean) / sd)))


def quantile(p: float, weight: np.ndarray, mean: np.ndarray, sd: np.ndarray) -> float:
    """The point with P(value < x) = p, 0 < p < 1, to 1e-9."""
    z = ndtri(p)
    ends = mean + z * sd
    low, high = float(ends.min()), float(ends.max())
    if high - low < 1e-12:
        return low
    return float(brentq(lambda x: below(x, weight, mean, sd) - p, low, high, xtol=1e-9))


def systematic(weight: np.ndarray, count: int, rng: np.random.Generator) -> np.ndarray:
    """`count` component numbers in proportion to weight, by one evenly spaced comb: less noise than independent draws."""
    comb = (np.arange(count) + rng.random()) / count
    return np.minimum(np.searchsorted(np.cumsum(weight), comb), len(weight) - 1)
