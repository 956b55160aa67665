"""The posterior of setup contrasts, by integrating the standard deviations over a grid. docs/judging.md §2 and §3.

All nodes of the grid are worked in batched arrays; the letters follow docs/judging.md §3, "General". The blocks are taken out first, a taster
at a time, on the (σ_e, σ_ts) plane alone; one eigendecomposition of what is left of the brews then serves every σ_b. Checked against the balanced closed form in tests/core/test_judging.py.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Protocol

import numpy as np
from scipy.special import ndtri

from .scatter_prior import BREW_REACH, NOISE, NOISE_LOG_SD, TASTER_SETUP_REACH, log_prior, scale_used
from .scores import Cups

PRIOR_TAU, PRIOR_TASTER = 1.0, 1.0
TAU_STEPS, TASTER_STEPS = 14, 10
LEAST_INFORMATION = 1e-4
"""Floor of a contrast's information when no block links the setups: a standard deviation of 100 points."""
CHUNK_FLOATS = 2_000_000


@dataclass(frozen=True)
class Grid:
    """Nodes over (σ_e, σ_ts, σ_b) with their log prior density per cell; each array has one entry a node."""

    noise: np.ndarray
    taster_setup: np.ndarray
    brew: np.ndarray
    log_prior: np.ndarray
    shape: tuple[int, int, int]
    edges: tuple[np.ndarray, np.ndarray, np.ndarray]


@dataclass(frozen=True)
class Nodes:
    """What each kept node says. weight: posterior, setups flat, sums to 1. information m (N, K−1), centre z (N, K−1):
    contrast i given the node is N(z_i, 1/m_i). basis (N, K, K−1): contrasts to setup effects (summing to nought).
    tau_weight (N, T): posterior with setups N(0, τ²). mean (N, K) and mean_var (N, K): least-squares setup means, less
    the grand mean. taster_var (N, S) and taster_weight (N, S): σ_t²/J and its weight within the node. sds (N, 3): σ_e, σ_ts, σ_b."""

    weight: np.ndarray
    information: np.ndarray
    centre: np.ndarray
    basis: np.ndarray
    tau: np.ndarray
    tau_weight: np.ndarray
    mean: np.ndarray
    mean_var: np.ndarray
    taster_var: np.ndarray
    taster_weight: np.ndarray
    sds: np.ndarray
    linked: bool


class Scatter(Protocol):
    """A prior for the three SDs in place of the default one (core/judging/learnt.py)."""

    def log_ratio(self, noise: np.ndarray, taster_setup: np.ndarray, brew: np.ndarray, *, scale: float) -> np.ndarray: ...


def integrate(cups: Cups, *, low: float, high: float, these_cups: bool = False, learnt: Scatter | None = None) -> Nodes:
    """Nodes holding 99.95 % of the posterior, of scores on the scale [low, high]: (high − low)/8 multiplies every prior SD. these_cups: σ_b = 0.
    learnt: what this bench's scatter was before, which knows how it uses its scale; of no use to one taster alone, whose σ_ts is nought."""
    scale = (high - low) / 8
    one_taster = len(cups.tasters) == 1
    design = _Design(cups)
    steps = (9, 1 if one_taster else 8, 1 if these_cups else 8)
    learnt = None if one_taster or these_cups else learnt
    used = scale_used(cups, low=low, high=high) if learnt is None else 1.0
    coarse = _grid(scale, steps, _start_edges(scale, steps, one_taster, these_cups, used), used)
    log_post = _likelihoods(design, coarse).log_likelihood + _log_prior(coarse, learnt, scale)
    fine_steps = (11, 1 if one_taster else 13, 1 if these_cups else 12)
    fine = _grid(scale, fine_steps, _narrow(coarse, log_post), used)
    found = _likelihoods(design, fine)
    log_post = found.log_likelihood + _log_prior(fine, learnt, scale)
    weight = np.exp(log_post - log_post.max())
    weight /= weight.sum()
    keep = heaviest(weight, 0.9995)
    weight = weight[keep] / weight[keep].sum()
    sds = np.stack([fine.noise, fine.taster_setup, fine.brew], axis=1)[keep]
    return _finish(cups, _keep(design, found, keep), weight, sds, scale)


def _log_prior(grid: Grid, learnt: Scatter | None, scale: float) -> np.ndarray:
    return grid.log_prior if learnt is None else grid.log_prior + learnt.log_ratio(grid.noise, grid.taster_setup, grid.brew, scale=scale)


REFERENCE_STEPS = (13, 12, 11)


@cache
def reference_grid() -> Grid:
    """One grid for all earlier panels, in points of a scale of 1 to 9."""
    return _grid(1.0, REFERENCE_STEPS, _start_edges(1.0, REFERENCE_STEPS, False, False))


def grid_likelihood(cups: Cups, *, scale: float) -> np.ndarray:
    """ln L of a panel at the reference grid's nodes, each scaled to this scale."""
    unit = reference_grid()
    grid = replace(unit, noise=unit.noise * scale, taster_setup=unit.taster_setup * scale, brew=unit.brew * scale)
    return _likelihoods(_Design(cups), grid).log_likelihood


def pooled_scatter(panels: Sequence[Cups], *, scale: float = 1.0) -> tuple[float, float, float]:
    """Posterior means of the SDs (taster × setup, brew, noise) shared by several panels on one scale: their likelihoods multiply."""
    steps = (9, 8, 8)
    grid = _grid(scale, steps, _start_edges(scale, steps, False, False))
    log_post = grid.log_prior + sum(_likelihoods(_Design(cups), grid).log_likelihood for cups in panels)
    weight = np.exp(log_post - log_post.max())
    weight /= weight.sum()
    return float(weight @ grid.taster_setup), float(weight @ grid.brew), float(weight @ grid.noise)


# --- the grid --------------------------------------------------------------------------------------------------------


def _start_edges(scale, steps, one_taster, these_cups, used=1.0):
    centre, half = np.log(NOISE * scale), 3.2 * NOISE_LOG_SD
    return (
        np.linspace(centre - half + np.log(used), centre + half, steps[0] + 1),
        np.zeros(2) if one_taster else np.linspace(0, TASTER_SETUP_REACH * scale, steps[1] + 1),
        np.zeros(2) if these_cups else np.linspace(0, BREW_REACH * scale, steps[2] + 1),
    )


def _grid(scale, shape, edges, used=1.0) -> Grid:
    log_noise, taster_setup, brew = np.meshgrid(*((e[:-1] + e[1:]) / 2 for e in edges), indexing="ij")
    noise = np.exp(log_noise)
    prior = log_prior(noise, taster_setup, brew, scale=scale, used=used)
    return Grid(noise.ravel(), taster_setup.ravel(), brew.ravel(), prior.ravel(), shape, edges)


def _narrow(grid: Grid, log_post: np.ndarray):
    """Edges of the box where the marginal maximum exceeds 1e-5 of the peak, one step wider, cut in finer cells."""
    cube = log_post.reshape(grid.shape)
    fine_counts = (11, 13, 12)
    out = []
    for axis, edges in enumerate(grid.edges):
        if grid.shape[axis] == 1:
            out.append(edges)
            continue
        others = tuple(a for a in range(3) if a != axis)
        inside = np.flatnonzero(cube.max(axis=others) > cube.max() + np.log(1e-5))
        low, high = max(inside[0] - 1, 0), min(inside[-1] + 2, len(edges) - 1)
        out.append(np.linspace(edges[low], edges[high], fine_counts[axis] + 1))
    return tuple(out)


def heaviest(weight: np.ndarray, share: float) -> np.ndarray:
    order = np.argsort(-weight, kind="stable")
    count = int(np.searchsorted(np.cumsum(weight[order]), share)) + 1
    return np.sort(order[:count])


# --- the likelihood --------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _OfTaster:
    """One taster's products of [their blocks | setups | y | brews], and of their sums within a setup by how many cups those hold: given σ_e
    and σ_ts tasters share nothing but setups and brews, so that each one's blocks are taken out alone."""

    blocks: np.ndarray
    product: np.ndarray
    by_count: dict[int, tuple[int, np.ndarray]]


class _Design:
    """What the scores are, once for all nodes."""

    def __init__(self, cups: Cups) -> None:
        self.cups = cups
        self.n_setups, self.n_brews, self.n_blocks = len(cups.setups), len(cups.brew_setup), len(cups.block_taster)
        self.contrasts = helmert(self.n_setups)
        self.tasters = [self._of_taster(j) for j in range(len(cups.tasters))]

    def _of_taster(self, j: int) -> _OfTaster:
        at, blocks = np.flatnonzero(self.cups.taster == j), np.flatnonzero(self.cups.block_taster == j)
        nb, k, rows = len(blocks), self.n_setups, np.arange(len(at))
        z = np.zeros((len(at), nb + k + 1 + self.n_brews))
        z[rows, np.searchsorted(blocks, self.cups.block[at])] = 1
        z[rows, nb + self.cups.setup[at]] = 1
        z[:, nb + k] = self.cups.y[at]
        z[rows, nb + k + 1 + self.cups.brew[at]] = 1
        by_count: dict[int, tuple[int, np.ndarray]] = {}
        for setup in np.unique(self.cups.setup[at]):
            cell = z[self.cups.setup[at] == setup]
            sums = cell.sum(axis=0)
            groups, product = by_count.get(len(cell), (0, np.zeros((z.shape[1], z.shape[1]))))
            by_count[len(cell)] = (groups + 1, product + np.outer(sums, sums))
        return _OfTaster(blocks, z.T @ z, by_count)


def helmert(k: int) -> np.ndarray:
    """Orthonormal basis (K, K−1) of the contrasts of K setups."""
    h = np.zeros((k, k - 1))
    for i in range(1, k):
        h[:i, i - 1], h[i, i - 1] = 1, -i
        h[:, i - 1] /= np.sqrt(i * (i + 1))
    return h


@dataclass(frozen=True)
class _Plane:
    """The blocks taken out at each (σ_e, σ_ts), P of them, and what is left turned so that every σ_b is a division.

    log_det (P,): of scores and blocks. rest (P, K+1, K+1): setups and y. brew_values (P, R) and crossed (P, K+1, R): the brews' part in its
    eigenbasis, brew_vectors (P, R, R). on_block (P, B, K+1+R): D⁻¹ times what stands beside the blocks. taster_var (P, J): of a
    taster's mean over their blocks."""

    log_det: np.ndarray
    rest: np.ndarray
    brew_values: np.ndarray
    brew_vectors: np.ndarray
    crossed: np.ndarray
    on_block: np.ndarray
    taster_var: np.ndarray


def _plane(design: _Design, var_e: np.ndarray, var_ts: np.ndarray) -> _Plane:
    k, width = design.n_setups, design.n_setups + 1 + design.n_brews
    n = len(var_e)
    log_det, rest = np.zeros(n), np.zeros((n, width, width))
    on_block, taster_var = np.zeros((n, design.n_blocks, width)), np.zeros((n, len(design.tasters)))
    for j, taster in enumerate(design.tasters):
        nb = len(taster.blocks)
        u = np.broadcast_to(taster.product, (n, *taster.product.shape)).copy()
        for cups, (groups, product) in taster.by_count.items():
            lumped = var_e + cups * var_ts
            u -= (var_ts / lumped)[:, None, None] * product
            log_det += groups * ((cups - 1) * np.log(var_e) + np.log(lumped))
        u /= var_e[:, None, None]
        inverse = np.linalg.inv(u[:, :nb, :nb])
        beside = inverse @ u[:, :nb, nb:]
        rest += u[:, nb:, nb:] - u[:, nb:, :nb] @ beside
        log_det += np.linalg.slogdet(u[:, :nb, :nb])[1]
        on_block[:, taster.blocks] = beside
        taster_var[:, j] = inverse.sum((1, 2)) / nb**2
    values, vectors = np.linalg.eigh(rest[:, k + 1 :, k + 1 :])
    crossed = rest[:, : k + 1, k + 1 :] @ vectors
    return _Plane(log_det, rest[:, : k + 1, : k + 1], values, vectors, crossed, on_block, taster_var)


@dataclass(frozen=True)
class _Found:
    """Of every node, the brews' σ fastest. plane: what its blocks are worked out from, once it is known which nodes count; shrink (P, S, R)."""

    log_likelihood: np.ndarray  # (N,)
    information: np.ndarray  # m (N, K−1)
    centre: np.ndarray  # z (N, K−1)
    basis: np.ndarray  # HU (N, K, K−1)
    linked: bool
    plane: _Plane
    shrink: np.ndarray


def _likelihoods(design: _Design, grid: Grid) -> _Found:
    """Steps 1 to 5: blocks out on the plane, then every σ_b by one eigendecomposition, contrasts in their eigenbasis."""
    k, h = design.n_setups, design.contrasts
    noise, taster_setup = (a.reshape(grid.shape)[:, :, 0].ravel() for a in (grid.noise, grid.taster_setup))
    var_b = grid.brew.reshape(grid.shape)[0, 0] ** 2
    plane = _plane(design, noise**2, taster_setup**2)
    cap = 1 + var_b[None, :, None] * plane.brew_values[:, None, :]
    shrink = var_b[None, :, None] / cap
    crossed = plane.crossed[:, None]
    w = (plane.rest[:, None] - (crossed * shrink[:, :, None, :]) @ crossed.transpose(0, 1, 3, 2)).reshape(-1, k + 1, k + 1)
    log_det = (plane.log_det[:, None] + np.log(cap).sum(2)).ravel()
    m_raw, u = np.linalg.eigh(h.T @ w[:, :k, :k] @ h)
    m = np.maximum(m_raw, LEAST_INFORMATION)
    basis = h @ u
    z = np.einsum("nki,nk->ni", basis, w[:, :k, k]) / m
    log_likelihood = -0.5 * (log_det + np.log(m).sum(1) + w[:, k, k] - (m * z**2).sum(1))
    return _Found(log_likelihood, m, z, basis, bool((m_raw > LEAST_INFORMATION).all()), plane, shrink)


@dataclass(frozen=True)
class _Kept:
    """Of the nodes that count, with their blocks."""

    information: np.ndarray
    centre: np.ndarray
    basis: np.ndarray
    block_mean: np.ndarray  # D⁻¹t (N, B)
    block_setup: np.ndarray  # D⁻¹E (N, B, K)
    block_cov: np.ndarray  # D⁻¹, averaged down to tasters (N, J, J)
    linked: bool


def _keep(design: _Design, found: _Found, keep: np.ndarray) -> _Kept:
    """The blocks' part is worked out here alone, in chunks so that memory stays small."""
    per_node = design.n_blocks * max(1, design.n_brews)
    chunk = max(1, CHUNK_FLOATS // per_node)
    parts = [_blocks(design, found, keep[i : i + chunk]) for i in range(0, len(keep), chunk)]
    means, setups, covs = (np.concatenate(p) for p in zip(*parts, strict=True))
    return _Kept(found.information[keep], found.centre[keep], found.basis[keep], means, setups, covs, found.linked)


def _blocks(design: _Design, found: _Found, keep: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    k, plane = design.n_setups, found.plane
    at, brew = np.divmod(keep, found.shrink.shape[1])
    shrink = found.shrink[at, brew]
    used, of = np.unique(at, return_inverse=True)
    turned = plane.on_block[used][:, :, k + 1 :] @ plane.brew_vectors[used]
    full = plane.on_block[at][:, :, : k + 1] - turned[of] @ (plane.crossed[at] * shrink[:, None, :]).transpose(0, 2, 1)
    seen = _taster_average(design.cups) @ turned
    cov = (seen[of] * shrink[:, None, :]) @ seen[of].transpose(0, 2, 1)
    tasters = np.arange(plane.taster_var.shape[1])
    cov[:, tasters, tasters] += plane.taster_var[at]
    return full[:, :, k], full[:, :, :k], cov


def _taster_average(cups: Cups) -> np.ndarray:
    """(J, B): a taster's mean over their blocks."""
    average = np.zeros((len(cups.tasters), len(cups.block_taster)))
    average[cups.block_taster, np.arange(len(cups.block_taster))] = 1
    return average / average.sum(1, keepdims=True)


# --- what the nodes say ----------------------------------------------------------------------------------------------


def _finish(cups: Cups, found: _Kept, weight: np.ndarray, sds: np.ndarray, scale: float) -> Nodes:
    tau = PRIOR_TAU * scale * _half_normal_midpoints(TAU_STEPS)
    var = 1 / found.information[:, None, :] + tau[None, :, None] ** 2
    log_tau = np.log(weight)[:, None] - 0.5 * (np.log(var) + found.centre[:, None, :] ** 2 / var).sum(2)
    tau_weight = np.exp(log_tau - log_tau.max())
    mean, mean_var, taster_var, taster_weight = _setup_means(cups, found, scale)
    return Nodes(
        weight=weight,
        information=found.information,
        centre=found.centre,
        basis=found.basis,
        tau=tau,
        tau_weight=tau_weight / tau_weight.sum(),
        mean=mean,
        mean_var=mean_var,
        taster_var=taster_var,
        taster_weight=taster_weight,
        sds=sds,
        linked=found.linked,
    )


def _half_normal_midpoints(steps: int) -> np.ndarray:
    return ndtri(0.5 + (np.arange(steps) + 0.5) / (2 * steps))


def _setup_means(cups: Cups, found: _Kept, scale: float):
    """Average taster + setup, its variance given the SDs, and the σ_t part (spread of the tasters' adjusted means)."""
    average = _taster_average(cups)
    tasters = len(cups.tasters)
    effect = np.einsum("nki,ni->nk", found.basis, found.centre)
    effect_cov = np.einsum("nki,ni,nli->nkl", found.basis, 1 / found.information, found.basis)
    taster_mean = np.einsum("jb,nb->nj", average, found.block_mean - np.einsum("nbk,nk->nb", found.block_setup, effect))
    taster_setup = average @ found.block_setup  # (N, J, K)
    pull = np.eye(len(cups.setups))[None] - taster_setup.mean(1)[:, None, :]  # row k: e_k − E'D⁻¹a
    mean = taster_mean.mean(1)[:, None] + effect
    mean_var = found.block_cov.mean((1, 2))[:, None] + np.einsum("nka,nab,nkb->nk", pull, effect_cov, pull)
    if tasters == 1:
        one = np.ones((len(mean), 1))
        return mean, mean_var, 0 * one, one
    cov = found.block_cov + taster_setup @ effect_cov @ taster_setup.transpose(0, 2, 1)
    sampling = (np.trace(cov, axis1=1, axis2=2) - cov.sum((1, 2)) / tasters) / (tasters - 1)
    spread = taster_mean.var(1, ddof=1)
    sigma_t = PRIOR_TASTER * scale * _half_normal_midpoints(TASTER_STEPS)
    total = sigma_t[None, :] ** 2 + sampling[:, None]
    log_w = -0.5 * (tasters - 1) * (np.log(total) + spread[:, None] / total)
    w = np.exp(log_w - log_w.max(1, keepdims=True))
    taster_var = np.broadcast_to(sigma_t**2 / tasters, w.shape)
    return mean, mean_var, taster_var, w / w.sum(1, keepdims=True)
