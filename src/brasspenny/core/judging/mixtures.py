"""Mixtures of normals: probabilities below a point, quantiles, seeded draws. The arithmetic under every interval."""

from __future__ import annotations

import numpy as np

from ..distributions import ndtr, ndtri, normal_density

WITHIN = 1e-10


def below(x: float, weight: np.ndarray, mean: np.ndarray, sd: np.ndarray) -> float:
    """P(value < x) of the mixture. weight sums to 1; arrays of one shape; sd > 0."""
    return float(np.sum(weight * ndtr((x - mean) / sd)))


def quantile(p: float, weight: np.ndarray, mean: np.ndarray, sd: np.ndarray) -> float:
    """The point with P(value < x) = p, 0 < p < 1, to 1e-10: Newton's steps, halved where one would leave what is known to hold the point."""
    z = ndtri(p)
    weight, mean, sd = (np.ravel(each) for each in np.broadcast_arrays(weight, mean, sd))
    ends = mean + z * sd
    low, high = float(ends.min()), float(ends.max())
    if high - low < 1e-12:
        return low
    x = float(np.clip(weight @ mean + z * np.sqrt(weight @ (sd**2 + mean**2) - (weight @ mean) ** 2), low, high))
    while high - low > WITHIN:
        scaled = (x - mean) / sd
        over = float(weight @ ndtr(scaled)) - p
        low, high = (x, high) if over < 0 else (low, x)
        slope = float(weight @ (normal_density(scaled) / sd))
        step = over / slope if slope > 0 else np.inf
        if abs(step) < WITHIN:
            break
        x = x - step if low < x - step < high else (low + high) / 2
    return x


def systematic(weight: np.ndarray, count: int, rng: np.random.Generator) -> np.ndarray:
    """`count` component numbers in proportion to weight, by one evenly spaced comb: less noise than independent draws."""
    comb = (np.arange(count) + rng.random()) / count
    return np.minimum(np.searchsorted(np.cumsum(weight), comb), len(weight) - 1)
