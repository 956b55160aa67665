"""Stand-ins for the grind bench, seeded: a stack of sieves that is shaken, and a grinder that keeps some of what it is given.

They behave as real ones do: no two shakings are alike, some dust is lost, every heap is read in steps of the scale; a grinder's first grams fill corners.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass

from ..core.grinding.sieve import Fraction, Weibull

SIZE_SD, EVENNESS_SD = 0.012, 0.02
"""From one shaking to the next, as shares: how full the stack was, how long it was shaken."""
LOST, LOST_SD = 0.006, 0.002
"""Of what goes in, mostly fines that stay in the brush."""


def shake(distribution: Weibull, apertures_um: Sequence[float], mass_in_g: float, seed: int, *, scale_step_g: float = 0.1) -> tuple[Fraction, ...]:
    """What lies in the pan and on each sieve, g, as the scale reads it. apertures_um: finest first."""
    rng = random.Random(seed)
    this = Weibull(distribution.size_um * math.exp(rng.gauss(0, SIZE_SD)), distribution.evenness * math.exp(rng.gauss(0, EVENNESS_SD)), 0.0)
    finer = [0.0, *(this.finer(a) for a in apertures_um), 1.0]
    heaps = [mass_in_g * (high - low) for low, high in zip(finer, finer[1:], strict=False)]
    lost = mass_in_g * max(0.0, rng.gauss(LOST, LOST_SD))
    heaps[0] = max(0.0, heaps[0] - lost)
    return tuple(Fraction(a, round(round(heap / scale_step_g) * scale_step_g, 3)) for a, heap in zip((0.0, *apertures_um), heaps, strict=True))


@dataclass(frozen=True)
class GrinderBody:
    """rate_g_s: at a middling setting; stays_g: held back by a dose; knocks_out: of that, the share that comes out when it is knocked."""

    rate_g_s: float
    stays_g: float
    knocks_out: float = 0.7


@dataclass(frozen=True)
class DoseOut:
    ground_out_g: float
    grinding_s: float
    knocked_out_g: float


def grind(body: GrinderBody, beans_in_g: float, seed: int) -> DoseOut:
    """One dose, as scale and clock read it."""
    rng = random.Random(seed)
    stays = max(0.0, body.stays_g * math.exp(rng.gauss(0, 0.15)))
    seconds = beans_in_g / body.rate_g_s * math.exp(rng.gauss(0, 0.03))
    return DoseOut(round(beans_in_g - stays, 1), round(seconds, 1), round(stays * min(1.0, max(0.0, rng.gauss(body.knocks_out, 0.05))), 1))
