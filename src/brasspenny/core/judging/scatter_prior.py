"""What is held of the three standard deviations before a panel speaks, and how much of its scale a panel uses. docs/judging.md §2.

σ_e about a usual value; σ(taster × setup) and σ(brew) half-t with four degrees of freedom (Gelman 2006, Bayesian Analysis): the heavier tail costs little where scatter is
usual and keeps its word where it is twice that. Points mean less to a panel that uses three of nine steps, or that crowds at an end: there all three are drawn in, as far
as its residuals agree (benchmarks/narrow_scale_study.py).
"""

from __future__ import annotations

import numpy as np

from .scores import Cups

NOISE, NOISE_LOG_SD = 1.2, 0.4
TASTER_SETUP, BREW, TAIL_DF = 1.15, 0.55, 4.0
TASTER_SETUP_REACH, BREW_REACH = 3.6, 2.16
"""How far the grid goes along each, points of a scale from 1 to 9. What benches have kept of earlier panels stands on a grid of this reach."""
USUAL_RESIDUAL, RESIDUAL_SLACK_DF = 1.33, 6.0
"""Points: what is left of scores once sittings and setups are taken off; and how many degrees of freedom halve the weight of what a panel itself leaves."""
STEPS_USED, AT_AN_END, CROWDED = 5.0, 0.1, 0.75
"""A panel that uses this many of nine steps, and puts no more than this share of its scores on either end, uses its scale as usual; CROWDED: how much more of them at an end leaves no room."""
LEAST_USED = 0.5


def log_prior(noise: np.ndarray, taster_setup: np.ndarray, brew: np.ndarray, *, scale: float, used: float = 1.0) -> np.ndarray:
    """ln density, up to a constant, at SDs in points of a scale of that size ((high − low)/8). used: of `scale_used`, draws all three in.

    >>> log_prior(np.array([1.2]), np.zeros(1), np.zeros(1), scale=1.0)
    array([-0.])
    """
    unit = scale * used
    at_noise = ((np.log(noise) - np.log(NOISE * unit)) / NOISE_LOG_SD) ** 2
    return -0.5 * at_noise - _tail(taster_setup / (TASTER_SETUP * unit)) - _tail(brew / (BREW * unit))


def _tail(ratio: np.ndarray) -> np.ndarray:
    return (TAIL_DF + 1) / 2 * np.log1p(ratio**2 / TAIL_DF)


def scale_used(cups: Cups, *, low: float, high: float) -> float:
    """1 for a panel that uses its scale as usual; less, down to 0.5, where its scores lie within fewer steps or crowd at an end, and no less than its residual scatter bears
    out. One taster's scores say nothing of a panel's use: 1."""
    if len(cups.tasters) < 2:
        return 1.0
    step = (high - low) / 8
    y = cups.y + cups.grand_mean
    within = (y.max() - y.min()) / step + 1
    at_an_end = max(np.mean(y > high - step / 2), np.mean(y < low + step / 2))
    room = min(1.0, within / STEPS_USED, 1 - (at_an_end - AT_AN_END) / CROWDED)
    return float(max(room, _residual_share(cups, step), LEAST_USED)) if room < 1 else 1.0


def _residual_share(cups: Cups, step: float) -> float:
    """The residual SD after sittings and setups over the usual one, drawn towards 1 the fewer scores there are; at most 1."""
    sittings, setups = len(cups.block_taster), len(cups.setups)
    rows = np.arange(len(cups.y))
    x = np.zeros((len(rows), sittings + setups))
    x[rows, cups.block] = x[rows, sittings + cups.setup] = 1
    effects, _, rank, _ = np.linalg.lstsq(x.T @ x, x.T @ cups.y, rcond=None)
    free = len(rows) - rank
    if free <= 0:
        return 1.0
    variance = max(0.01, float(((cups.y - x @ effects) ** 2).sum()) / free / step**2)
    return float(min(1.0, (variance**0.5 / USUAL_RESIDUAL) ** (free / (free + RESIDUAL_SLACK_DF))))
