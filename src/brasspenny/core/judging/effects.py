"""Setup effects as the grid knows them: any contrast's law, and joint draws. docs/judging.md §3."""

from __future__ import annotations

import numpy as np

from .mixtures import systematic
from .posterior import Nodes

DRAWS, SEED = 20_000, 1


class Flat:
    """Setups flat: what these data say by themselves. Estimates, intervals and p."""

    def __init__(self, nodes: Nodes) -> None:
        self.nodes = nodes

    def contrast(self, weights: np.ndarray):
        """Weights (N,), means (N,) and SDs (N,) of Σ weights·setup; weights (K,) sum to nought."""
        load = np.einsum("nki,k->ni", self.nodes.basis, weights)
        return self.nodes.weight, (load * self.nodes.centre).sum(1), np.sqrt((load**2 / self.nodes.information).sum(1))

    def difference(self, a: int, b: int):
        """a − b."""
        load = self.nodes.basis[:, a, :] - self.nodes.basis[:, b, :]
        return self.nodes.weight, (load * self.nodes.centre).sum(1), np.sqrt((load**2 / self.nodes.information).sum(1))


class WithTau:
    """Setups N(0, τ²): shrunk towards one another, which corrects for looking at several. Best, regret, equality."""

    def __init__(self, nodes: Nodes) -> None:
        self.nodes = nodes
        slack = nodes.information[:, None, :] + 1 / nodes.tau[None, :, None] ** 2
        self.centre = nodes.information[:, None, :] * nodes.centre[:, None, :] / slack  # (N, T, K−1)
        self.var = 1 / slack

    def difference(self, a: int, b: int):
        load = (self.nodes.basis[:, a, :] - self.nodes.basis[:, b, :])[:, None, :]
        return self.nodes.tau_weight, (load * self.centre).sum(2), np.sqrt((load**2 * self.var).sum(2))

    def draws(self) -> np.ndarray:
        """(DRAWS, K) seeded setup effects, antithetic, systematic over nodes."""
        rng = np.random.default_rng(SEED)
        steps = len(self.nodes.tau)
        pick = systematic(self.nodes.tau_weight.ravel(), DRAWS // 2, rng)
        node, step = pick // steps, pick % steps
        noise = rng.standard_normal((DRAWS // 2, self.centre.shape[2])) * np.sqrt(self.var[node, step])
        contrasts = np.concatenate([self.centre[node, step] + noise, self.centre[node, step] - noise])
        return np.einsum("dki,di->dk", np.concatenate([self.nodes.basis[node]] * 2), contrasts)

    def best_and_regret(self) -> tuple[np.ndarray, np.ndarray]:
        """P(best) and E[best − this] per setup; error at most 0.006."""
        effects = self.draws()
        top = effects.max(1, keepdims=True)
        return (effects == top).mean(0), (top - effects).mean(0)
