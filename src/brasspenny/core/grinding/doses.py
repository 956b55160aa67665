"""Doses through a grinder: how fast, how much stays inside, what a plan should purge. docs/formulas.md §5.

Beans in less ground out stays for the moment: part is knocked or blown out, part comes out with the next dose (exchange), the rest is dust, chaff
and what sits in corners. Where it stops being true: a first dose after cleaning fills corners that later doses find full.
Source: means with Student's t.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from .. import figures
from ..distributions import stdtrit
from ..errors import Inconsistent, OutOfDomain
from ..vocabulary import Feeding
from .sieve import Z_975, Figure

HAND_S = 0.2
"""Standard uncertainty of a start and of a stop pressed by hand. Ours."""
SCALE_STEP_G = 0.1
MOST_RATE_G_S = 200.0


@dataclass(frozen=True)
class Dose:
    """Masses g, grinding_s: from the first crack of a bean to the last. knocked_out_g: after the ground came out; None where nobody looked. next_in_g, next_out_g: of the dose ground after it."""

    beans_in_g: float
    ground_out_g: float | None = None
    grinding_s: float | None = None
    knocked_out_g: float | None = None
    next_in_g: float | None = None
    next_out_g: float | None = None
    feeding: Feeding = "single_dose"

    @property
    def rate_g_s(self) -> float | None:
        return self.beans_in_g / self.grinding_s if self.grinding_s else None

    @property
    def stays_g(self) -> float | None:
        """In less out, before anything is knocked out."""
        return None if self.ground_out_g is None else self.beans_in_g - self.ground_out_g

    @property
    def remains_g(self) -> float | None:
        """What is still inside, or was lost, when the next dose goes in."""
        if self.stays_g is None:
            return None
        return self.stays_g - (self.knocked_out_g or 0.0 if self.feeding == "single_dose" else 0.0)

    @property
    def exchange_g(self) -> float | None:
        """Of this dose, what came out with the next: what that gave beyond what went in."""
        return None if self.next_in_g is None or self.next_out_g is None else self.next_out_g - self.next_in_g


def checked(dose: Dose) -> Dose:
    """Raises OutOfDomain and Inconsistent at the field."""
    if not 0 < dose.beans_in_g <= 5000:
        raise OutOfDomain("beans_in_g", "that is no dose.", "Enter above 0 and up to 5000 g.", dose.beans_in_g)
    if dose.ground_out_g is None and dose.grinding_s is None:
        raise Inconsistent("ground_out_g", "a dose that was neither weighed out nor timed says nothing.", "Enter what came out, or how long it took.", None)
    if dose.ground_out_g is not None and not 0 <= dose.ground_out_g <= 1.2 * dose.beans_in_g:
        raise Inconsistent(
            "ground_out_g", f"{dose.ground_out_g:g} g came out of {dose.beans_in_g:g} g.", "Weigh again: full less empty vessel.", dose.ground_out_g
        )
    if dose.grinding_s is not None and not 0 < dose.grinding_s <= 3600:
        raise OutOfDomain("grinding_s", "no dose takes so long.", "Enter above 0 and up to 3600 s.", dose.grinding_s)
    if dose.rate_g_s is not None and dose.rate_g_s > MOST_RATE_G_S:
        raise Inconsistent("grinding_s", f"{figures.rate(dose.rate_g_s)} g/s is faster than any grinder.", "Check mass and time.", dose.grinding_s)
    if dose.knocked_out_g is not None:
        stays = dose.stays_g
        if stays is None:
            raise Inconsistent("knocked_out_g", "what came out before is not known.", "Enter what came out first.", dose.knocked_out_g)
        if not 0 <= dose.knocked_out_g <= stays + 0.05 * dose.beans_in_g:
            raise Inconsistent(
                "knocked_out_g", f"only {figures.grams_fine(stays)} g stayed inside.", "Weigh again: without what came out before.", dose.knocked_out_g
            )
    if (dose.next_in_g is None) != (dose.next_out_g is None):
        raise Inconsistent("next_out_g", "the next dose needs both masses.", "Enter what went in and what came out, or neither.", None)
    if dose.next_in_g is not None and not 0 <= dose.next_out_g <= 1.2 * dose.next_in_g + (dose.stays_g or 0.0):
        raise Inconsistent("next_out_g", f"{dose.next_out_g:g} g came out of {dose.next_in_g:g} g.", "Weigh again: full less empty vessel.", dose.next_out_g)
    return dose


@dataclass(frozen=True)
class Ground:
    """What some doses of one grinder say: each figure with its interval, None where nothing was measured. purge_g: to throw away before a dose of another coffee,
    rounded up to a tenth; None where nothing is known."""

    rate_g_s: Figure | None
    stays_g: Figure | None
    remains_g: Figure | None
    exchange_g: Figure | None
    purge_g: float | None
    doses: int


def of_doses(doses: Sequence[Dose]) -> Ground:
    """Of one grinder with its burrs.

    >>> round(of_doses([Dose(120, grinding_s=61)]).rate_g_s.value, 2), round(of_doses([Dose(120, grinding_s=14)]).rate_g_s.value, 2)
    (1.97, 8.57)
    """

    def figure(of: Callable[[Dose], float | None], sd: Callable[[Dose], float]) -> Figure | None:
        known = [d for d in doses if of(d) is not None]
        return _mean([of(d) for d in known], [sd(d) for d in known]) if known else None

    step = SCALE_STEP_G / math.sqrt(12)
    remains = figure(lambda d: d.remains_g, lambda d: math.sqrt(3) * step)
    exchange = figure(lambda d: d.exchange_g, lambda d: math.sqrt(2) * step)
    told = [f.value for f in (remains, exchange) if f]
    return Ground(
        rate_g_s=figure(lambda d: d.rate_g_s, lambda d: d.rate_g_s * math.hypot(math.sqrt(2) * HAND_S / d.grinding_s, step / d.beans_in_g)),
        stays_g=figure(lambda d: d.stays_g, lambda d: math.sqrt(2) * step),
        remains_g=remains,
        exchange_g=exchange,
        purge_g=max(0.0, math.ceil(round(10 * max(told), 6)) / 10) if told else None,
        doses=len(doses),
    )


def _mean(values: Sequence[float], sds: Sequence[float]) -> Figure:
    """With the instruments' own doubt while fewer than three are known; with theirs from there on."""
    mean, n = float(np.mean(values)), len(values)
    own = math.sqrt(float(np.mean(np.square(sds))))
    if n < 3:
        apart = (max(values) - min(values)) / 2
        half = max(Z_975 * own / math.sqrt(n), apart)
    else:
        half = float(stdtrit(n - 1, 0.975)) * max(float(np.std(values, ddof=1)), own) / math.sqrt(n)
    return Figure(mean, (mean - half, mean + half))


def saved_s(dose_g: float, before_g_s: float, instead_g_s: float) -> float:
    """Seconds a dose takes less by the second rate; negative where it takes longer.

    >>> round(saved_s(120, 120 / 61, 120 / 14))
    47
    """
    return dose_g / before_g_s - dose_g / instead_g_s


def said_of(ground: Ground) -> str:
    """One line.

    >>> said_of(of_doses([Dose(18, 17.6, 9, 0.3)]))
    '2.0 g/s · 0.4 g stays, 0.1 g once knocked out · purge 0.1 g'
    """
    out = []
    if ground.rate_g_s:
        out.append(f"{figures.grind_rate_coarse(ground.rate_g_s.value)} g/s")
    if ground.stays_g:
        knocked = ground.remains_g and abs(ground.remains_g.value - ground.stays_g.value) >= 0.05
        out.append(
            f"{figures.grams_fine(ground.stays_g.value)} g stays" + (f", {figures.grams_fine(ground.remains_g.value)} g once knocked out" if knocked else "")
        )
    if ground.purge_g is not None:
        out.append(f"purge {figures.grams_fine(ground.purge_g)} g" if ground.purge_g else "nothing to purge")
    return " · ".join(out)
