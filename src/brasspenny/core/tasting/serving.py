"""One temperature for a whole flight: what the cups are at now, and when each pass opens. docs/formulas.md §9.

A cup loses heat through its walls and by evaporation: dT/dt = −k·[(T − Ta) + r·(e(T) − φ·e(Ta))], e the saturation pressure of water, hPa (Magnus), φ the room's humidity. One constant alone
(Newton's law) runs too slow while the cup is hot and too fast once it is cool, and opens a cool pass a quarter too early. Two readings give k at the usual r of an open cup; from three on r is fitted too, which tells
a lid, a thick crema or a draught. Sources: A. Bejan, Convection Heat Transfer, 2013 (heat and mass transfer go together); M. Alduchov and R. Eskridge, J. Appl. Meteorol., 1996 (Magnus).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import OutOfDomain
from ..vocabulary import PASSES, PassName
from .temperatures import SCALDS_C

USUAL_R, R_WITHIN, LARGEST_R, R_STEPS = 0.18, 0.15, 0.60, 31
"""K of heat loss per hPa: between an open cup and one with a lid, its standard deviation over cups, what no cup exceeds, and how finely it is looked for."""
READ_WITHIN_C, NEAR_C = 0.5, 6.0
HUMIDITY = 0.5
STEP_S = 60.0


@dataclass(frozen=True)
class Cup:
    """How a cup cools: k, 1/s, and r, K/hPa, in a room of ambient_c."""

    k: float
    r: float
    ambient_c: float

    def rate(self, cup_c: float) -> float:
        """°C a second, negative while it cools."""
        return -self.k * (cup_c - self.ambient_c + self.r * (vapour_hpa(cup_c) - HUMIDITY * vapour_hpa(self.ambient_c)))

    def after(self, cup_c: float, elapsed_s: float) -> float:
        """°C after elapsed_s, or before it where that is negative.

        >>> round(Cup(1 / 1653, 0.0, 22).after(68, 600), 1)
        54.0
        """
        steps = max(1, math.ceil(abs(elapsed_s) / STEP_S))
        h = elapsed_s / steps
        for _ in range(steps):
            cup_c = self._step(cup_c, h)
        return cup_c

    def reaches(self, cup_c: float, target_c: float) -> float | None:
        """s until it has cooled to target_c, 0 where it has; None where it never does."""
        if target_c >= cup_c:
            return 0.0
        return None if target_c <= self.ambient_c else scaled_time(cup_c, target_c, r=self.r, ambient_c=self.ambient_c) / self.k

    def _step(self, cup_c: float, h: float) -> float:
        """Runge–Kutta of the fourth order."""
        a = self.rate(cup_c)
        b = self.rate(cup_c + h * a / 2)
        c = self.rate(cup_c + h * b / 2)
        return cup_c + h * (a + 2 * b + 2 * c + self.rate(cup_c + h * c)) / 6


def vapour_hpa(temp_c: float) -> float:
    """Over water, hPa.

    >>> round(vapour_hpa(20), 1), round(vapour_hpa(60))
    (23.3, 200)
    """
    return 6.112 * math.exp(17.62 * temp_c / (243.12 + temp_c))


@dataclass(frozen=True)
class PassTime:
    """A pass opens at from_c and closes at to_c; s after the newest reading, 0 when that is past; None when the room is too warm for it. read_again_s: when another
    reading makes its opening sure to a few per cent: once the cup is NEAR_C above it; None where the newest reading is no farther above it already."""

    name: PassName
    from_c: float
    to_c: float
    opens_s: float | None
    closes_s: float | None
    read_again_s: float | None


@dataclass(frozen=True)
class Serving:
    """cup: how these cups cool; now_c: at the newest reading; hot_to_drink: above 65 °C, it scalds."""

    cup: Cup
    now_c: float
    hot_to_drink: bool
    passes: tuple[PassTime, ...]


def serving(readings: Sequence[tuple[float, float]], *, ambient_c: float) -> Serving:
    """From readings of one cup, (s, °C) in order of time, two at least, in a room of ambient_c. Raises OutOfDomain where no cooling is seen.

    >>> s = serving([(0, 80), (300, 70)], ambient_c=21)
    >>> [round(p.opens_s / 60) for p in s.passes]
    [5, 17, 45]
    """
    if len(readings) < 2:
        raise OutOfDomain("readings", "one reading shows no cooling.", "Read the cups again in some minutes.")
    (start_s, first_c), (last_s, now_c) = readings[0], readings[-1]
    if now_c <= ambient_c:
        raise OutOfDomain("second_c", "the cup is already at room temperature.", "Read it while it is warm.", now_c)
    if last_s <= start_s or now_c >= first_c:
        raise OutOfDomain("second_c", "no cooling is seen between these readings.", "Read the cups again in some minutes.", now_c)
    cup = fitted(readings, ambient_c=ambient_c)
    return Serving(cup, now_c, now_c > SCALDS_C, tuple(_pass(p.code, p.from_c, p.to_c, cup, now_c) for p in PASSES))


def fitted(readings: Sequence[tuple[float, float]], *, ambient_c: float) -> Cup:
    """k at the usual r of an open cup from two readings; from three on r as well, held near the usual one as far as a thermometer's half degree leaves it open."""
    if len(readings) == 2:
        return _with_r(readings, USUAL_R, ambient_c)
    candidates = [_with_r(readings, LARGEST_R * i / (R_STEPS - 1), ambient_c) for i in range(R_STEPS)]
    return min(candidates, key=lambda cup: _misses(cup, readings) + ((cup.r - USUAL_R) / R_WITHIN) ** 2)


def scaled_time(hot_c: float, cool_c: float, *, r: float, ambient_c: float) -> float:
    """k times the s it takes from one temperature to the other, ∫ dT/[(T − Ta) + r·(e(T) − φ·e(Ta))]: k only scales time."""
    middle, half = (hot_c + cool_c) / 2, (hot_c - cool_c) / 2
    temps = middle + half * NODES
    lost = temps - ambient_c + r * (6.112 * np.exp(17.62 * temps / (243.12 + temps)) - HUMIDITY * vapour_hpa(ambient_c))
    return float(half * (WEIGHTS / lost).sum())


NODES, WEIGHTS = np.polynomial.legendre.leggauss(24)


def _with_r(readings: Sequence[tuple[float, float]], r: float, ambient_c: float) -> Cup:
    """k by which the first reading leads to the last."""
    (start_s, first_c), (last_s, now_c) = readings[0], readings[-1]
    return Cup(scaled_time(first_c, now_c, r=r, ambient_c=ambient_c) / (last_s - start_s), r, ambient_c)


def _misses(cup: Cup, readings: Sequence[tuple[float, float]]) -> float:
    """Sum of squares of what it misses the readings between by, in standard deviations of a reading: the time it would be that warm, times how fast it cools then."""
    start_s, first_c = readings[0]
    between = [(at_s, read_c) for at_s, read_c in readings[1:-1] if cup.ambient_c < read_c < first_c]
    return sum(((start_s + (cup.reaches(first_c, read_c) or 0.0) - at_s) * cup.rate(read_c) / READ_WITHIN_C) ** 2 for at_s, read_c in between)


def _pass(name: PassName, from_c: float, to_c: float, cup: Cup, now_c: float) -> PassTime:
    again = _reaches(from_c + NEAR_C, cup, now_c) if now_c > from_c + NEAR_C + READ_WITHIN_C else None
    return PassTime(name, from_c, to_c, _reaches(from_c, cup, now_c), _reaches(to_c, cup, now_c), again)


def _reaches(target_c: float, cup: Cup, now_c: float) -> float | None:
    return None if target_c <= cup.ambient_c else cup.reaches(now_c, target_c)
