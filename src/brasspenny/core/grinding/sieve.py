"""A shaken stack of sieves: how fine, how even, and how surely. docs/formulas.md §5.

Shares are by mass. Between two apertures the cumulative curve is read log-linearly; below the finest aperture nothing is known but how much lies there. In-band share is one
school's measure: a sieve cannot see shape, and some prefer a two-humped grind. Where it stops being true: an unlike shaking time or way, clumping, static.
Sources: Rosin & Rammler 1933, J. Inst. Fuel (the Weibull form for ground matter); uncertainties by propagation of each weighing's own, to first order.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.optimize import minimize

from .. import figures
from ..errors import Inconsistent, OutOfDomain

MOST_LOST_SHARE = 0.02
FEWEST_FRACTIONS_LOCATED, FEWEST_FRACTIONS_FITTED = 4, 4
TARGETS = (0.10, 0.50, 0.90)
Z_975 = 1.959964
MOST_MASS_G, MOST_UM = 5000.0, 20_000.0
MOST_FRACTIONS = 20


@dataclass(frozen=True)
class Figure:
    """A number with its 95 % interval, by the steps of the scale alone."""

    value: float
    interval: tuple[float, float]


@dataclass(frozen=True)
class Percentile:
    """The size below which that share of the mass lies, µm: located with its interval, or only between two sizes (None where nothing bounds it)."""

    share: float
    at_um: Figure | None
    between_um: tuple[float | None, float | None]


@dataclass(frozen=True)
class Share:
    """Of what was recovered and of what went in, 0 to 1."""

    of_recovered: Figure
    of_mass_in: Figure


@dataclass(frozen=True)
class Weibull:
    """Share coarser than x: exp(−(x/size)^evenness). misfit: the most the curve is off at an aperture, as a share."""

    size_um: float
    evenness: float
    misfit: float

    @property
    def median_um(self) -> float:
        return self.size_um * math.log(2) ** (1 / self.evenness)

    @property
    def log_sd(self) -> float:
        """Standard deviation of ln(size), by mass: π/(evenness·√6)."""
        return math.pi / (self.evenness * math.sqrt(6))

    def finer(self, size_um: float) -> float:
        return -math.expm1(-((size_um / self.size_um) ** self.evenness))


@dataclass(frozen=True)
class Sieved:
    """recovery: share of the mass in; lost_g; loses: more than two in a hundred. percentiles: d10, d50, d90; span: (d90 − d10)/d50, None unless all are located."""

    recovery: Figure
    lost_g: float
    loses: bool
    cumulative: tuple[tuple[float, float], ...]
    fines: Share
    in_band: Share
    coarse: Share
    percentiles: tuple[Percentile, ...]
    span: Figure | None
    weibull: Weibull | None


@dataclass(frozen=True)
class Fraction:
    """What lies on a sieve of this aperture, µm; the pan's is 0."""

    aperture_um: float
    mass_g: float


def apertures_of(fractions: Sequence[Fraction]) -> tuple[float, ...]:
    """Of the sieves, without the pan's."""
    return tuple(f.aperture_um for f in fractions[1:])


def is_within(apertures_um: Sequence[float], band_um: tuple[float, float]) -> bool:
    """Whether a stack can show a band."""
    return apertures_um[0] <= band_um[0] < band_um[1] <= apertures_um[-1]


def sieve(
    mass_in_g: float, fractions: Sequence[Fraction], band_um: tuple[float, float], *, scale_step_g: float = 0.1, fit: bool = True, most: int = MOST_FRACTIONS
) -> Sieved:
    """fractions: the pan first (aperture 0), then from the finest sieve up, 2 to `most`. band_um: from, to; within the stack's apertures. scale_step_g: of the scale, > 0.
    fit: the Weibull curve too.

    Raises OutOfDomain and Inconsistent at the field.

    >>> found = sieve(25, [Fraction(a, m) for a, m in ((0, 2.1), (300, 4.0), (500, 11.3), (800, 6.2), (1100, 1.2))], (300, 800))
    >>> [round(p.at_um.value) for p in found.percentiles], round(found.recovery.value, 3)
    ([315, 650, 1030], 0.992)
    """
    _check(mass_in_g, fractions, band_um, scale_step_g, most)
    weighed = _Weighed.of(mass_in_g, fractions, scale_step_g / math.sqrt(12))
    low, high = band_um
    percentiles = tuple(_percentile(p, weighed, located=len(fractions) >= FEWEST_FRACTIONS_LOCATED) for p in TARGETS)
    weighed_g = sum(f.mass_g for f in fractions)
    return Sieved(
        recovery=weighed.figure(weighed.recovered, low=0.0),
        lost_g=float(mass_in_g - weighed_g),
        loses=bool(mass_in_g - weighed_g > MOST_LOST_SHARE * mass_in_g),
        cumulative=tuple((float(a), float(b)) for a, b in zip(weighed.apertures[1:], weighed.below[0][:-1], strict=True)),
        fines=_share(weighed, 0.0, low),
        in_band=_share(weighed, low, high),
        coarse=_share(weighed, high, math.inf),
        percentiles=percentiles,
        span=weighed.figure(_spans(weighed), low=0.0) if all(p.at_um for p in percentiles) else None,
        weibull=fitted(fractions) if fit else None,
    )


def _share(weighed: _Weighed, low: float, high: float) -> Share:
    part = weighed.finer(high) - weighed.finer(low)
    return Share(weighed.figure(part, low=0.0, high=1.0), weighed.figure(part * weighed.recovered, low=0.0, high=1.0))


def _spans(weighed: _Weighed) -> np.ndarray:
    d10, d50, d90 = (weighed.sizes(p) for p in TARGETS)
    return (d90 - d10) / d50


IN_BAND_NOTE = "In-band share is one school's measure: a sieve cannot see the shape of particles, and some prefer a grind with two humps."


def what_to_mind(found: Sieved) -> tuple[str, ...]:
    """Lost mass, what only bounds are known of, and whose measure it is."""
    out = []
    if found.loses:
        out.append(f"{figures.grams_as_said(found.lost_g)} g were lost, more than 2 %: brush out the sieves and the pan, and weigh again.")
    if found.lost_g < 0:
        out.append(f"{figures.grams_as_said(-found.lost_g)} g more came out than went in: weigh full less empty vessel.")
    for p in found.percentiles:
        if p.at_um is None:
            out.append(f"d{round(100 * p.share)} is only known to lie {_between(p.between_um)}: {_why(found)}.")
    return (*out, IN_BAND_NOTE)


def _between(ends: tuple[float | None, float | None]) -> str:
    low, high = ends
    if low is None:
        return f"below {high:g} µm"
    return f"above {low:g} µm" if high is None else f"between {low:g} and {high:g} µm"


def _why(found: Sieved) -> str:
    few = len(found.cumulative) + 1 < FEWEST_FRACTIONS_LOCATED
    return f"{len(found.cumulative)} sieve{'s give' if len(found.cumulative) > 1 else ' gives'} bounds, no curve" if few else "no aperture lies beyond it"


def _check(mass_in_g: float, fractions: Sequence[Fraction], band_um: tuple[float, float], scale_step_g: float, most: int) -> None:
    if not 0 < mass_in_g <= MOST_MASS_G:
        raise OutOfDomain("mass_in_g", "that much cannot be sieved.", f"Enter above 0 and up to {MOST_MASS_G:g} g.", mass_in_g)
    if not 0 < scale_step_g <= 10:
        raise OutOfDomain("scale_step_g", "no scale has such steps.", "Enter above 0 and up to 10 g, such as 0.1.", scale_step_g)
    if not 2 <= len(fractions) <= most:
        raise OutOfDomain("fractions", f"{len(fractions)} fractions are no stack.", f"Enter the pan and 1 to {most - 1} sieves.", len(fractions))
    if fractions[0].aperture_um != 0:
        raise Inconsistent("fractions.0.aperture_um", "the pan comes first, with aperture 0.", "Enter the pan's mass first.", fractions[0].aperture_um)
    total = 0.0
    for i, f in enumerate(fractions):
        if not 0 <= f.mass_g < math.inf:
            raise OutOfDomain(f"fractions.{i}.mass_g", "a heap weighs nothing or more.", "Enter 0 or more, full less empty vessel.", f.mass_g)
        if f.mass_g > mass_in_g + scale_step_g:
            raise Inconsistent(f"fractions.{i}.mass_g", f"{f.mass_g:g} g is more than went in.", f"Enter up to {mass_in_g:g} g.", f.mass_g)
        if i and not fractions[i - 1].aperture_um < f.aperture_um <= MOST_UM:
            raise Inconsistent(
                f"fractions.{i}.aperture_um",
                "apertures rise from the pan up, no two alike.",
                f"Enter above {fractions[i - 1].aperture_um:g} µm.",
                f.aperture_um,
            )
        total += f.mass_g
    if total <= 0:
        raise Inconsistent("fractions", "nothing lies on any sieve.", "Enter what lies on each.", total)
    if total > mass_in_g + scale_step_g * len(fractions):
        raise Inconsistent("mass_in_g", f"{total:g} g lie in the stack, more than went in.", "Weigh again: full less empty vessel.", mass_in_g)
    low, high = band_um
    if not fractions[1].aperture_um <= low:
        raise OutOfDomain(
            "band.from_um",
            f"below {fractions[1].aperture_um:g} µm all lies in the pan, and nothing tells it apart.",
            f"Begin the band at {fractions[1].aperture_um:g} or above.",
            low,
        )
    if not low < high <= fractions[-1].aperture_um:
        raise OutOfDomain(
            "band.to_um", "the band ends above where it begins, and within the stack.", f"Enter above {low:g} and up to {fractions[-1].aperture_um:g} µm.", high
        )


# --- the curve, and how surely ---------------------------------------------------------------------------------------------------


def _cumulative(masses: np.ndarray) -> np.ndarray:
    """Share of the mass finer than the next aperture; the last is 1. masses: (…, fractions)."""
    return np.cumsum(masses, axis=-1) / masses.sum(axis=-1, keepdims=True)


def _at(apertures: np.ndarray, below: np.ndarray, share: float) -> float:
    """Size below which that share lies; NaN where it lies in the pan or on the coarsest sieve."""
    k = int(np.searchsorted(below[:-1], share))
    if k == 0 or k >= len(apertures) - 1:
        return math.nan
    low, high = below[k - 1], below[k]
    return float(apertures[k] * (apertures[k + 1] / apertures[k]) ** ((share - low) / (high - low)))


def _percentile(share: float, weighed: _Weighed, *, located: bool) -> Percentile:
    apertures, below = weighed.apertures, weighed.below[0]
    k = int(np.searchsorted(below[:-1], share))
    between = (float(apertures[k]) if k else None, float(apertures[k + 1]) if k < len(apertures) - 1 else None)
    sizes = weighed.sizes(share) if located else np.array([math.nan])
    return Percentile(share, None if math.isnan(sizes[0]) else weighed.figure(sizes, low=0.0), between)


@dataclass(frozen=True)
class _Weighed:
    """A stack's weighings as they are (row 0), and with each of them one standard uncertainty u lighter, then heavier: what is read off the rows says how far a figure moves.
    down: by how much each could be lighter (no heap below nought); below, recovered: of every row."""

    apertures: np.ndarray
    u: float
    down: np.ndarray
    below: np.ndarray
    recovered: np.ndarray

    @classmethod
    def of(cls, mass_in_g: float, fractions: Sequence[Fraction], u: float) -> _Weighed:
        base = np.array([*(f.mass_g for f in fractions), mass_in_g])
        down = np.minimum(u, base)
        rows = np.vstack([base, base - np.diag(down), base + u * np.eye(len(base))])
        heaps = rows[:, :-1]
        return cls(np.array([f.aperture_um for f in fractions]), u, down, _cumulative(heaps), heaps.sum(axis=1) / rows[:, -1])

    def finer(self, size_um: float) -> np.ndarray:
        """Share finer than a size, of every row: log-linear between two apertures; 0 at 0 and 1 beyond the stack."""
        if size_um <= 0 or math.isinf(size_um):
            return np.full(len(self.below), float(size_um > 0))
        at = np.interp(math.log(size_um), np.log(self.apertures[1:]), np.arange(len(self.apertures) - 1))
        k = min(int(at), len(self.apertures) - 2)
        step = at - k
        return self.below[:, k] + (step * (self.below[:, k + 1] - self.below[:, k]) if step else 0.0)

    def sizes(self, share: float) -> np.ndarray:
        """Size below which that share lies, of every row."""
        return np.array([_at(self.apertures, row, share) for row in self.below])

    def figure(self, values: np.ndarray, *, low: float = -math.inf, high: float = math.inf) -> Figure:
        """values: of every row. Propagated to first order; a step past where the figure exists is left out."""
        n, centre = len(self.down), values[0]
        down, up = values[1 : n + 1], values[n + 1 :]
        fell, rose = ~np.isnan(down), ~np.isnan(up)
        width = np.where(rose, self.u, 0.0) + np.where(fell, self.down, 0.0)
        moved = np.where(rose, up, centre) - np.where(fell, down, centre)
        slope = np.divide(moved, width, out=np.zeros(n), where=width > 0)
        half = Z_975 * float(np.sqrt(((slope * self.u) ** 2).sum()))
        return Figure(float(centre), (float(max(low, centre - half)), float(min(high, centre + half))))


# --- Rosin and Rammler -------------------------------------------------------------------------------------------------------------


def fitted(fractions: Sequence[Fraction]) -> Weibull | None:
    """By the most likely curve for the masses as they lie; None from fewer than four fractions, or where all lies on one sieve."""
    return _fitted(tuple(fractions))


@lru_cache(maxsize=2048)
def _fitted(fractions: tuple[Fraction, ...]) -> Weibull | None:
    apertures = np.array([f.aperture_um for f in fractions])
    masses = np.array([f.mass_g for f in fractions])
    if len(fractions) < FEWEST_FRACTIONS_FITTED or (masses > 0).sum() < 2:
        return None
    share = masses / masses.sum()
    below = _cumulative(masses)[:-1]

    def finer(parameters: np.ndarray) -> np.ndarray:
        size, evenness = np.exp(parameters)
        return -np.expm1(-((apertures[1:] / size) ** evenness))

    def unlikely(parameters: np.ndarray) -> float:
        expected = np.diff(np.concatenate([[0.0], finer(parameters), [1.0]]))
        return float(-(share * np.log(np.maximum(expected, 1e-12))).sum())

    middle = float(np.exp(np.interp(0.5, below, np.log(apertures[1:]))))
    found = minimize(unlikely, np.log([middle * 1.15, 2.0]), method="Nelder-Mead", options={"xatol": 1e-7, "fatol": 1e-12, "maxiter": 2000})
    size, evenness = np.exp(found.x)
    return Weibull(float(size), float(evenness), float(np.abs(finer(found.x) - below).max()))
