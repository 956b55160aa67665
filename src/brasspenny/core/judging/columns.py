"""Scores against numbers: the verdict's model with columns of numbers in the place of setups. docs/judging.md §10.

y = block + X·b + (taster slopes) + (taster × setup) + brew + noise: blocks and b flat, the rest normal, their SDs
integrated over a grid. The brew scatter is informed even by single brews, by how far setups lie from the surface.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .posterior import heaviest
from .scatter_prior import NOISE, NOISE_LOG_SD
from .scores import Cups

PRIOR_TASTER_SETUP, PRIOR_BREW, PRIOR_SLOPE = 1.0, 0.6, 0.8
COARSE, FINE = (6, 5, 5, 5), (9, 7, 8, 6)
KEPT = 0.999
CHUNK_FLOATS = 1_500_000
RIDGE = 1e-9


@dataclass(frozen=True)
class Coefficients:
    """Posterior of b: per node its weight (N,), mean (N, P) and covariance (N, P, P); intercept: average of the blocks, its mean (N,), variance (N,) and covariance with b (N, P):
    where the columns are nought, the level is still no surer than it is. nodes: where on the grid; log_evidence: of these columns, up to what is the same for all columns read off the same
    scores at the same nodes."""

    weight: np.ndarray
    mean: np.ndarray
    cov: np.ndarray
    intercept: np.ndarray
    intercept_var: np.ndarray
    intercept_cov: np.ndarray
    nodes: np.ndarray
    log_evidence: float

    def draws(self, count: int, seed: int) -> tuple[np.ndarray, np.ndarray]:
        """Seeded draws of (intercept (n,), b (n, P)), together: systematic over nodes, antithetic normals."""
        rng = np.random.default_rng(seed)
        comb = (np.arange(count // 2) + rng.random()) / (count // 2)
        node = np.minimum(np.searchsorted(np.cumsum(self.weight), comb), len(self.weight) - 1)
        noise = np.einsum("nij,nj->ni", np.linalg.cholesky(self.cov)[node], rng.standard_normal((count // 2, self.mean.shape[1])))
        b = np.concatenate([self.mean[node] + noise, self.mean[node] - noise])
        along = np.linalg.solve(self.cov, self.intercept_cov[..., None])[..., 0]
        left = np.sqrt(np.maximum(self.intercept_var - (along * self.intercept_cov).sum(1), 0))
        off = (along[node] * noise).sum(1) + left[node] * rng.standard_normal(count // 2)
        return np.concatenate([self.intercept[node] + off, self.intercept[node] - off]), b


def fit_columns(cups: Cups, columns: np.ndarray, slopes: np.ndarray, *, scale: float) -> Coefficients:
    """columns (n, P) and slopes (n, S), one row a cup; slopes: those columns whose effect may differ between tasters.

    scale: (hi − lo)/8, multiplies every prior SD. With one taster there are no taster × setup and no slope parts.
    """
    design = _Columns(cups, [columns], slopes)
    one = len(cups.tasters) == 1
    edges = _start_edges(scale, one)
    coarse = _nodes(edges)
    log_post = design.likelihood(coarse)[0][0] + _log_prior(coarse, scale)
    nodes = _nodes(_narrow(edges, log_post))
    log_like, *found = design.likelihood(nodes)[0]
    log_post = log_like + _log_prior(nodes, scale)
    weight = np.exp(log_post - log_post.max())
    weight /= weight.sum()
    keep = heaviest(weight, KEPT)
    return Coefficients(weight[keep] / weight[keep].sum(), *(part[keep] for part in found), nodes[keep], _log_sum(log_post[keep]))


def fit_each_at(cups: Cups, shapes: Sequence[np.ndarray], slopes: np.ndarray, nodes: np.ndarray, *, scale: float) -> list[Coefficients]:
    """Several sets of columns (n, P), each by itself, at the nodes of a fit: so that shapes are held against each other at the same scatters. What they share is
    worked out once for all."""
    out = []
    for log_like, *found in _Columns(cups, shapes, slopes).likelihood(nodes):
        log_post = log_like + _log_prior(nodes, scale)
        weight = np.exp(log_post - log_post.max())
        out.append(Coefficients(weight / weight.sum(), *found, nodes, _log_sum(log_post)))
    return out


def _log_sum(logs: np.ndarray) -> float:
    return float(logs.max() + np.log(np.exp(logs - logs.max()).sum()))


# --- the grid over (ln σ_e, σ_ts, σ_b, σ_slope) -------------------------------------------------------------------------


def _start_edges(scale: float, one: bool) -> list[np.ndarray]:
    centre, half = np.log(NOISE * scale), 3.2 * NOISE_LOG_SD
    reach = [3.6 * p * scale for p in (PRIOR_TASTER_SETUP, PRIOR_BREW, PRIOR_SLOPE)]
    gone = (one, False, one)
    return [np.linspace(centre - half, centre + half, COARSE[0] + 1)] + [
        np.zeros(2) if g else np.linspace(0, r, n + 1) for g, r, n in zip(gone, reach, COARSE[1:], strict=True)
    ]


def _nodes(edges: list[np.ndarray]) -> np.ndarray:
    """(N, 4): midpoints of every cell."""
    return np.stack([x.ravel() for x in np.meshgrid(*((e[:-1] + e[1:]) / 2 for e in edges), indexing="ij")], axis=1)


def _log_prior(nodes: np.ndarray, scale: float) -> np.ndarray:
    sds = np.array([PRIOR_TASTER_SETUP, PRIOR_BREW, PRIOR_SLOPE]) * scale
    return -0.5 * ((nodes[:, 0] - np.log(NOISE * scale)) / NOISE_LOG_SD) ** 2 - 0.5 * ((nodes[:, 1:] / sds) ** 2).sum(1)


def _narrow(edges: list[np.ndarray], log_post: np.ndarray) -> list[np.ndarray]:
    cube = log_post.reshape([len(e) - 1 for e in edges])
    out = []
    for axis, edge in enumerate(edges):
        if len(edge) == 2:
            out.append(edge)
            continue
        inside = np.flatnonzero(cube.max(axis=tuple(a for a in range(4) if a != axis)) > cube.max() + np.log(1e-4))
        low, high = max(inside[0] - 1, 0), min(inside[-1] + 2, len(edge) - 1)
        out.append(np.linspace(edge[low], edge[high], FINE[axis] + 1))
    return out


# --- the likelihood --------------------------------------------------------------------------------------------------


class _Columns:
    """Z = [blocks | X of every set | y | taster slopes | brews]: its products, and those of the (taster, setup) column sums by group size."""

    def __init__(self, cups: Cups, sets: Sequence[np.ndarray], slopes: np.ndarray) -> None:
        columns = np.concatenate(sets, axis=1)
        ends = np.cumsum([0, *(x.shape[1] for x in sets)])
        self.sets = [slice(int(i), int(j)) for i, j in zip(ends, ends[1:], strict=False)]
        n, self.blocks, self.p = len(cups.y), len(cups.block_taster), columns.shape[1]
        tasters, brews = len(cups.tasters), len(cups.brew_setup)
        self.slopes, self.brews = slopes.shape[1] * tasters, brews
        z = np.zeros((n, self.blocks + self.p + 1 + self.slopes + brews))
        rows, at = np.arange(n), self.blocks
        z[rows, cups.block] = 1
        z[:, at : at + self.p] = columns
        z[:, at + self.p] = cups.y
        at += self.p + 1
        for i in range(slopes.shape[1]):
            z[rows, at + i * tasters + cups.taster] = slopes[:, i]
        z[rows, at + self.slopes + cups.brew] = 1
        self.ztz = z.T @ z
        group = cups.taster * len(cups.setups) + cups.setup
        self.by_count: dict[int, tuple[int, np.ndarray]] = {}
        for g in np.unique(group):
            mine = z[group == g]
            count, product = self.by_count.get(len(mine), (0, np.zeros_like(self.ztz)))
            sums = mine.sum(0)
            self.by_count[len(mine)] = (count + 1, product + np.outer(sums, sums))

    def likelihood(self, nodes: np.ndarray) -> list[tuple[np.ndarray, ...]]:
        """Per set: log likelihood (N,), mean (N, P), covariance (N, P, P); of the mean block its mean (N,), variance (N,), covariance with b (N, P)."""
        chunk = max(1, CHUNK_FLOATS // self.ztz.size)
        parts = [self._chunk(nodes[i : i + chunk]) for i in range(0, len(nodes), chunk)]
        return [tuple(np.concatenate(x) for x in zip(*of_set, strict=True)) for of_set in zip(*parts, strict=True)]

    def _chunk(self, nodes: np.ndarray) -> list[tuple[np.ndarray, ...]]:
        w, log_v = self._without_random_parts(nodes)
        b = self.blocks
        blocks = w[:, :b, :b] + RIDGE * np.eye(b)
        inverse = np.linalg.inv(blocks)
        log_v += np.linalg.slogdet(blocks)[1]
        side = w[:, b:, :b]
        left = w[:, b:, b:] - side @ inverse @ side.transpose(0, 2, 1)
        level = np.einsum("nb,nkb->nk", inverse.mean(1), side)  # of each column and of y: what the mean block makes of it
        return [self._of_set(columns, left, level, log_v, inverse.mean((1, 2))) for columns in self.sets]

    def _of_set(self, at: slice, left: np.ndarray, level: np.ndarray, log_v: np.ndarray, level_var: np.ndarray) -> tuple[np.ndarray, ...]:
        information, q = left[:, at, at], left[:, at, -1]
        information = information + RIDGE * np.eye(information.shape[1])
        cov = np.linalg.inv(information)
        mean = np.einsum("nij,nj->ni", cov, q)
        rss = left[:, -1, -1] - np.einsum("ni,ni->n", q, mean)
        log_like = -0.5 * (log_v + np.linalg.slogdet(information)[1] + rss)
        along = np.einsum("nij,nj->ni", cov, level[:, at])
        return log_like, mean, cov, level[:, -1] - (level[:, at] * mean).sum(1), level_var + (level[:, at] * along).sum(1), -along

    def _without_random_parts(self, nodes: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Products of [blocks | X | y] once taster × setup, slopes and brews are out, and ln|V|."""
        var_e, (var_ts, var_b, var_s) = np.exp(2 * nodes[:, 0]), (nodes[:, 1:] ** 2).T
        u = np.broadcast_to(self.ztz, (len(nodes), *self.ztz.shape)).copy()
        log_v = np.zeros(len(nodes))
        for n, (groups, product) in self.by_count.items():
            lumped = var_e + n * var_ts
            u -= (var_ts / lumped)[:, None, None] * product
            log_v += groups * ((n - 1) * np.log(var_e) + np.log(lumped))
        u /= var_e[:, None, None]
        outer = self.blocks + self.p + 1
        sd = np.sqrt(np.concatenate([np.repeat(var_s[:, None], self.slopes, 1), np.repeat(var_b[:, None], self.brews, 1)], axis=1))
        cap = np.eye(sd.shape[1]) + sd[:, :, None] * u[:, outer:, outer:] * sd[:, None, :]
        side = u[:, :outer, outer:] * sd[:, None, :]
        log_v += np.linalg.slogdet(cap)[1]
        return u[:, :outer, :outer] - side @ np.linalg.solve(cap, side.transpose(0, 2, 1)), log_v
