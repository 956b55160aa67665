"""What a bench's own earlier panels say of its scatter, as a prior for the next verdict. docs/judging.md §13.

The likelihood of each earlier panel is worked out once, on one fixed grid over (σ_e, σ_ts, σ_b); a verdict takes the product of those that count, raised to
the power 0.5, into a mixture with the default prior: 0.6 of the learnt, 0.4 of the default, so that a panel noisier than its past is not held to it.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from .posterior import Grid, grid_likelihood, reference_grid
from .scores import Cups, Score

SHARE, POWER = 0.6, 0.5
"""Of the learnt prior in the mixture; what earlier likelihoods are raised to, for benches change."""
MOST_PANELS = 20


@dataclass(frozen=True)
class Learnt:
    """log_likelihood: of the earlier panels together, on the reference grid; flights, cups: how many spoke."""

    log_likelihood: np.ndarray
    flights: int
    cups: int

    @classmethod
    def of_text(cls, log_likelihood: str, flights: int, cups: int) -> Learnt:
        """As `text` was kept."""
        return cls(np.array(log_likelihood.split(), dtype=float), flights, cups)

    @staticmethod
    def is_text(log_likelihood: str) -> bool:
        """Whether `of_text` can read it: a finite number for each node of the reference grid."""
        try:
            values = np.array(log_likelihood.split(), dtype=float)
        except ValueError:
            return False
        return values.size == math.prod(reference_grid().shape) and bool(np.isfinite(values).all())

    @property
    def text(self) -> str:
        """The log-likelihood to be kept: below its largest, to the hundredth, which no verdict feels."""
        return " ".join(figures.to_places(x, 2) for x in (self.log_likelihood - self.log_likelihood.max()).ravel())

    def log_ratio(self, noise: np.ndarray, taster_setup: np.ndarray, brew: np.ndarray, *, scale: float) -> np.ndarray:
        """ln of (this prior / the default prior) at nodes; SDs in points of a scale of that size."""
        grid = reference_grid()
        raised = POWER * self.log_likelihood.reshape(grid.shape)
        top = float(raised.max())
        prior = np.exp(grid.log_prior - grid.log_prior.max())
        mean = float(prior @ np.exp(raised - top).ravel() / prior.sum())  # of L^½ under the default
        at = _between(grid, raised, (np.log(noise / scale), taster_setup / scale, brew / scale))
        return np.log(SHARE * np.exp(at - top) / mean + (1 - SHARE))

    @property
    def said(self) -> str:
        return said_of(self.flights, self.cups)


CLEAR_EACH = 0.98
"""How likely a leader must beat each other setup to have won."""


def clear_each(flights: int) -> float:
    """The same after several flights, each looked at: the bar rises so that stopping at a winner stays right (benchmarks/stopping_study.py).

    >>> [round(clear_each(n), 4) for n in (1, 2, 5)]
    [0.98, 0.9859, 0.9911]
    """
    return 1 - (1 - CLEAR_EACH) / flights**0.5


def said_risen(flights: int) -> str:
    """Why what one flight would have called is not called after several; "" after one."""
    if flights < 2:
        return ""
    now, once = figures.to_places(100 * clear_each(flights), 1), figures.to_places(100 * CLEAR_EACH, 0)
    return f"After {flights} flights a winner must be {now} % sure to beat each other setup, after one {once} %: who looks often finds winners by luck."


def said_of(flights: int, cups: int) -> str:
    return f"scatter learnt from {figures.counted(flights, 'earlier flight')}, {figures.counted(cups, 'cup')}"


def told(flights: int, cups: int, *, own: bool, same: bool, by_other: str, looks: int = 1) -> str:
    """By which scatter a verdict was judged, and what the other would have said of the same scores. looks: flights of the trial itself."""
    counts = f"{said_of(flights, cups)}"
    first, second = (f"Judged with {counts}.", "by the usual scatter") if own else ("Judged by the usual scatter.", f"with {counts}")
    risen = f" {said_risen(looks)}" if looks > 1 else ""
    return f"{first}{risen} {second[0].upper()}{second[1:]} {'it says the same' if same else f'it would say: {by_other}'}."


@dataclass(frozen=True)
class Earlier:
    """A panel that was done before the one that is judged. brewers: kinds of brewer its cups came from."""

    tasters: frozenset[str]
    brewers: frozenset[str]
    scores: tuple[Score, ...]

    @classmethod
    def of(cls, scores: Sequence[Score], brewers: Iterable[str], passes: Collection[str]) -> Earlier | None:
        """In these passes; None where it was not asked in each of them: a score that stands for several passes scatters less than one."""
        kept = tuple(s for s in scores if s.pass_ in passes)
        return cls(frozenset(s.taster for s in kept), frozenset(brewers), kept) if {s.pass_ for s in kept} == set(passes) else None


def nearest_in_kind(earlier: Sequence[Earlier], *, tasters: frozenset[str], brewers: frozenset[str]) -> list[Earlier]:
    """At most the last 20, those with a taster in common first, then those of the same kind of brewer, then the newest. earlier: oldest first."""
    alike = lambda e: (bool(e.tasters & tasters), bool(e.brewers & brewers))  # noqa: E731
    kept = sorted(range(len(earlier)), key=lambda i: (*alike(earlier[i]), i))[-MOST_PANELS:]
    return [earlier[i] for i in kept]


def panel_likelihood(cups: Cups, *, scale: float) -> np.ndarray | None:
    """ln L of one panel on the reference grid; None where it says nothing of scatter: one setup, or one taster."""
    if len(cups.setups) < 2 or len(cups.tasters) < 2:
        return None
    return grid_likelihood(cups, scale=scale)


LOOKED_AT = 60
"""Of the newest earlier panels, from which those nearest in kind are taken."""


def learn(panels: Sequence[Cups], *, scale: float) -> Learnt | None:
    """From earlier panels, the newest last: at most the last 20 count. None where none says anything."""
    found = [(p, cups) for cups in panels[-MOST_PANELS:] if (p := panel_likelihood(cups, scale=scale)) is not None]
    if not found:
        return None
    return Learnt(np.sum([p for p, _ in found], axis=0), sum(c.flights for _, c in found), sum(len(c.y) for _, c in found))


def _between(grid: Grid, cube: np.ndarray, at: Sequence[np.ndarray]) -> np.ndarray:
    """The cube between its cells' middles, linearly along each axis; outside them as at its rim."""
    out = np.zeros(len(at[0]))
    places = []
    for values, edges in zip(at, grid.edges, strict=True):
        middles = (edges[1:] + edges[:-1]) / 2
        where = np.clip(np.interp(values, middles, np.arange(len(middles))), 0, len(middles) - 1 - 1e-9)
        low = where.astype(int)
        places.append((low, where - low))
    for corner in np.ndindex(2, 2, 2):
        weight, index = np.ones(len(out)), []
        for (low, part), up in zip(places, corner, strict=True):
            weight = weight * (part if up else 1 - part)
            index.append(low + up)
        out += weight * cube[tuple(index)]
    return out
