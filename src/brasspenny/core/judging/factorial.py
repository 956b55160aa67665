"""Which factor matters more: main effects and interactions of crossed setups, from the same posterior as the verdict. docs/formulas.md §10.

Every effect is a contrast of setups with its 95 % interval. Size of a factor: the SD of its levels' effects, with setups
shrunk (τ), so that a factor of many levels is not large by looking at more.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from .. import figures
from .effects import Flat, WithTau
from .mixtures import below, quantile
from .posterior import Scatter, integrate
from .scores import Score, cups_of

POINTS, PLACES = "points", "places"


@dataclass(frozen=True)
class LevelEffect:
    """A level against the average of the factor's levels, points."""

    level: str
    estimate: float
    interval: tuple[float, float]


@dataclass(frozen=True)
class FactorEffect:
    """size: SD of the level effects, points; probability_largest: that no other factor is larger. span: best level less worst."""

    factor: str
    levels: tuple[LevelEffect, ...]
    best: str
    worst: str
    span: float
    span_interval: tuple[float, float]
    span_p: float
    size: float
    probability_largest: float


@dataclass(frozen=True)
class Interaction:
    """How much more `a` gains by going to `b`'s other level: for every 2×2 of two factors, the one furthest from nought."""

    factors: tuple[str, str]
    text: str
    estimate: float
    interval: tuple[float, float]
    p_value: float


@dataclass(frozen=True)
class Factorial:
    factors: tuple[FactorEffect, ...]
    interactions: tuple[Interaction, ...]
    text: str
    unit: str = POINTS


def factorial_effects(
    scores: Sequence[Score], levels: Mapping[str, Mapping[str, str]], *, low: float = 1, high: float = 9, unit: str = POINTS, learnt: Scatter | None = None
) -> Factorial | None:
    """unit: of the scores, in words. learnt: what this bench's scatter was before. levels: factor → setup → level. None unless two or more factors each have two levels among the scored setups, and
    every combination of them was scored (a complete crossing)."""
    cups = cups_of(scores, low=low, high=high)
    factors = {f: [by.get(s, "") for s in cups.setups] for f, by in levels.items()}
    factors = {f: at for f, at in factors.items() if len(set(at)) > 1 and all(at)}
    cells = set(zip(*factors.values(), strict=True)) if factors else set()
    if len(factors) < 2 or len(cells) < np.prod([len(set(at)) for at in factors.values()]):
        return None
    nodes = integrate(cups, low=low, high=high, learnt=learnt)
    flat, effects = Flat(nodes), WithTau(nodes).draws()
    weights = {f: {level: _main(at, level) for level in sorted(set(at))} for f, at in factors.items()}
    sizes = {f: np.std([effects @ w for w in by.values()], axis=0) for f, by in weights.items()}
    largest = np.argmax(np.stack(list(sizes.values())), axis=0)
    found = tuple(_factor(f, weights[f], flat, float(sizes[f].mean()), float((largest == i).mean())) for i, f in enumerate(factors))
    interactions = tuple(_interaction(a, b, factors, flat, unit) for a, b in combinations(factors, 2))
    return Factorial(found, interactions, _text(found), unit)


def _main(at: list[str], level: str) -> np.ndarray:
    """Weights of (mean of this level) − (mean of the level means)."""
    names = sorted(set(at))
    means = {name: np.array([x == name for x in at]) / at.count(name) for name in names}
    return means[level] - sum(means.values()) / len(names)


def _said(law) -> tuple[float, tuple[float, float], float]:
    weight, mean, sd = law
    under = below(0, weight, mean, sd)
    return float((weight * mean).sum()), (quantile(0.025, weight, mean, sd), quantile(0.975, weight, mean, sd)), 2 * min(under, 1 - under)


def _factor(name: str, weights: Mapping[str, np.ndarray], flat: Flat, size: float, largest: float) -> FactorEffect:
    shown = tuple(LevelEffect(level, *_said(flat.contrast(w))[:2]) for level, w in weights.items())
    order = sorted(shown, key=lambda e: (-e.estimate, e.level))
    best, worst = order[0].level, order[-1].level
    span, interval, p = _said(flat.contrast(weights[best] - weights[worst]))
    return FactorEffect(name, tuple(order), best, worst, span, interval, p, size, largest)


def _interaction(a: str, b: str, factors: Mapping[str, list[str]], flat: Flat, unit: str) -> Interaction:
    """(a₂ − a₁ at b₂) − (a₂ − a₁ at b₁) over other factors, for the pair of levels where it is largest."""
    best = None
    for a1, a2 in combinations(sorted(set(factors[a])), 2):
        for b1, b2 in combinations(sorted(set(factors[b])), 2):
            w = _cell(factors, a, a2, b, b2) - _cell(factors, a, a1, b, b2) - _cell(factors, a, a2, b, b1) + _cell(factors, a, a1, b, b1)
            estimate, interval, p = _said(flat.contrast(w))
            if best is None or abs(estimate) > abs(best.estimate):
                text = f"{a2} rather than {a1} does {figures.points(abs(estimate))} {unit} {'more' if estimate >= 0 else 'less'} for {b2} than for {b1}"
                best = Interaction((a, b), text, estimate, interval, p)
    return best


def _cell(factors: Mapping[str, list[str]], a: str, a_level: str, b: str, b_level: str) -> np.ndarray:
    at = np.array([x == a_level and y == b_level for x, y in zip(factors[a], factors[b], strict=True)], dtype=float)
    return at / at.sum()


def _text(found: Sequence[FactorEffect]) -> str:
    top = max(found, key=lambda f: f.probability_largest)
    if top.probability_largest >= 0.9:
        return f"{top.factor} matters more (probability {figures.chance(top.probability_largest)})."
    return f"Which matters more is open: {top.factor} with probability {figures.chance(top.probability_largest)}."
