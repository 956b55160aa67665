"""Paired preferences: Bradley–Terry strengths with honest intervals. docs/judging.md §8.

Log-strengths are N(0, 1.5²); the posterior is worked by importance sampling from a t₅ at its mode, with a fixed seed; a tie
is half a win each. Judgements of one taster lean the same way, so intervals are widened by the taster-clustered variance.
Sources: Bradley & Terry 1952, Biometrika; Davidson 1970, JASA (ties).
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from scipy.special import expit

from ..distributions import two_sided_half
from ..errors import BadScores

PRIOR_SD = 1.5
DRAWS, SEED, T_DF = 20_000, 5, 5


@dataclass(frozen=True)
class Preference:
    """One judgement: taster preferred `winner` over `loser`; tie: no preference, then the order says nothing."""

    taster: str
    winner: str
    loser: str
    tie: bool = False


@dataclass(frozen=True)
class Strength:
    """log_strength: against the average of the setups, 95 % interval."""

    setup: str
    wins: float
    judged: int
    log_strength: float
    interval: tuple[float, float]


@dataclass(frozen=True)
class PairShown:
    """preferred: probability that a taster of this kind prefers a to b, 95 % interval. p_value: exact two-sided sign test of the untied, None if never paired."""

    a: str
    b: str
    a_wins: float
    b_wins: float
    preferred: float
    interval: tuple[float, float]
    p_value: float | None


@dataclass(frozen=True)
class Preferred:
    """strongest first; widened: the factor (≥ 1) put on half-widths for tasters who judged several pairs."""

    strengths: tuple[Strength, ...]
    pairs: tuple[PairShown, ...]
    widened: float


def prefer(judgements: Sequence[Preference]) -> Preferred:
    """Strengths of the setups from who preferred what. Raises BadScores with no judgement or one against itself."""
    if not judgements:
        raise BadScores("preference", "nobody has preferred anything.", "Give at least one judgement.")
    for one in judgements:
        if one.winner == one.loser:
            raise BadScores("preference", f"{one.winner} was compared with itself.", "Compare two setups.")
    setups = sorted({s for one in judgements for s in (one.winner, one.loser)})
    data = _Data(judgements, setups)
    mode, cov = data.mode()
    contrast = _contrasts(len(setups))
    draws, weight = data.sample(mode, cov)
    widen = np.sqrt(np.maximum(1.0, data.clustered(mode, cov, contrast)))
    values = draws @ contrast.T
    centre = weight @ values
    ends = np.array([_weighted_quantiles(values[:, i], weight) for i in range(len(contrast))])
    ends = centre[:, None] + widen[:, None] * (ends - centre[:, None])
    wins = _wins(judgements)
    strengths = [
        Strength(name, sum(wins[name, o] for o in setups), data.judged[i], float(centre[i]), (float(ends[i, 0]), float(ends[i, 1])))
        for i, name in enumerate(setups)
    ]
    pairs = [
        _pair(a, b, wins, float(expit(centre[at])), (float(expit(ends[at, 0])), float(expit(ends[at, 1]))), judgements)
        for at, (a, b) in enumerate(combinations(setups, 2), start=len(setups))
    ]
    return Preferred(tuple(sorted(strengths, key=lambda s: -s.log_strength)), tuple(pairs), float(widen[: len(setups)].max()))


class _Data:
    """a, b: indices of the two of each judgement; y: 1, 0, or ½ for a tie, of a."""

    def __init__(self, judgements: Sequence[Preference], setups: list[str]) -> None:
        self.k = len(setups)
        self.a = np.array([setups.index(j.winner) for j in judgements])
        self.b = np.array([setups.index(j.loser) for j in judgements])
        self.y = np.array([0.5 if j.tie else 1.0 for j in judgements])
        tasters = sorted({j.taster for j in judgements})
        self.taster = np.array([tasters.index(j.taster) for j in judgements])
        self.judged = np.bincount(np.concatenate([self.a, self.b]), minlength=self.k).tolist()
        self.x = np.zeros((len(self.y), self.k))
        rows = np.arange(len(self.y))
        self.x[rows, self.a], self.x[rows, self.b] = 1, -1

    def log_posterior(self, theta: np.ndarray) -> np.ndarray:
        gap = theta @ self.x.T
        return (self.y * gap - np.logaddexp(0, gap)).sum(-1) - (theta**2).sum(-1) / (2 * PRIOR_SD**2)

    def mode(self) -> tuple[np.ndarray, np.ndarray]:
        theta = np.zeros(self.k)
        bend = np.eye(self.k) / PRIOR_SD**2
        for _ in range(100):
            p = expit(self.x @ theta)
            slope = self.x.T @ (self.y - p) - theta / PRIOR_SD**2
            bend = (self.x * (p * (1 - p))[:, None]).T @ self.x + np.eye(self.k) / PRIOR_SD**2
            step = np.linalg.solve(bend, slope)
            theta = theta + step
            if np.abs(step).max() < 1e-12:
                break
        return theta, np.linalg.inv(bend)

    def sample(self, mode: np.ndarray, cov: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Draws (n, K) from a t₅ at the mode, with their importance weights."""
        rng = np.random.default_rng(SEED)
        root = np.linalg.cholesky(cov)
        z = rng.standard_normal((DRAWS // 2, self.k))
        z = np.concatenate([z, -z]) / np.sqrt(np.tile(rng.chisquare(T_DF, DRAWS // 2), 2) / T_DF)[:, None]
        theta = mode + z @ root.T
        log_t = -0.5 * (T_DF + self.k) * np.log1p((z**2).sum(1) / T_DF)
        log_w = self.log_posterior(theta) - log_t
        weight = np.exp(log_w - log_w.max())
        return theta, weight / weight.sum()

    def clustered(self, mode: np.ndarray, cov: np.ndarray, contrast: np.ndarray) -> np.ndarray:
        """Taster-clustered over model variance per contrast; 1 where every taster judged one pair."""
        tasters = int(self.taster.max()) + 1
        if tasters < 2 or len(self.y) == tasters:
            return np.ones(len(contrast))
        residual = self.x * (self.y - expit(self.x @ mode))[:, None]
        sums = np.zeros((tasters, self.k))
        np.add.at(sums, self.taster, residual)
        sandwich = cov @ (sums.T @ sums * tasters / (tasters - 1)) @ cov
        return np.einsum("ik,kl,il->i", contrast, sandwich, contrast) / np.einsum("ik,kl,il->i", contrast, cov, contrast)


def _contrasts(k: int) -> np.ndarray:
    """Each setup against the average of all, then every pair."""
    own = np.eye(k) - 1 / k
    pairs = [np.eye(k)[a] - np.eye(k)[b] for a, b in combinations(range(k), 2)]
    return np.vstack([own, *pairs])


def _weighted_quantiles(values: np.ndarray, weight: np.ndarray) -> list[float]:
    order = np.argsort(values)
    return [float(np.interp(p, np.cumsum(weight[order]) - weight[order] / 2, values[order])) for p in (0.025, 0.975)]


def _wins(judgements: Sequence[Preference]) -> Counter:
    wins: Counter = Counter()
    for one in judgements:
        if one.tie:
            wins[one.winner, one.loser] += 0.5
            wins[one.loser, one.winner] += 0.5
        else:
            wins[one.winner, one.loser] += 1
    return wins


def _pair(a: str, b: str, wins: Counter, preferred: float, interval: tuple[float, float], judgements: Sequence[Preference]) -> PairShown:
    untied = [j for j in judgements if not j.tie and {j.winner, j.loser} == {a, b}]
    met = any({j.winner, j.loser} == {a, b} for j in judgements)
    p = None if not met else 1.0 if not untied else two_sided_half(sum(j.winner == a for j in untied), len(untied))
    return PairShown(a, b, float(wins[a, b]), float(wins[b, a]), preferred, interval, None if p is None else min(1.0, p) if not math.isnan(p) else None)
