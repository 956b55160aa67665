"""Boiling by altitude and cups cooling by Newton's law. docs/formulas.md §5, §8.6.

Where it stops being true: weather moves the boiling point by up to ±1 °C; a cup loses heat by evaporation too,
so one time constant holds for one vessel and fill, from about 70 °C down.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import Inconsistent
from ..limits import check

SCALDS_C = 65.0
"""Hot liquid above it burns a mouth."""


def boiling_point_c(altitude_m: float) -> float:
    """Boiling point of water in °C at an altitude in m (−430 to 8850), standard atmosphere.

    Pressure by the 1976 standard atmosphere, temperature by Antoine's equation. Raises OutOfDomain.

    >>> [round(boiling_point_c(h), 1) for h in (0, 800, 1600, 2600)]
    [100.0, 97.3, 94.7, 91.4]
    """
    check(altitude_m=altitude_m)
    pressure_mmhg = 760 * (1 - 2.25577e-5 * altitude_m) ** 5.25588
    return 1730.63 / (8.07131 - math.log10(pressure_mmhg)) - 233.426


@dataclass(frozen=True)
class Cooling:
    """A vessel's time constant, s, and the temperature asked for, °C."""

    tau_s: float
    temp_c: float


def temperature_after_c(*, ambient_c: float, start_c: float, tau_s: float, elapsed_s: float) -> float:
    """T = Ta + (T₀ − Ta)·e^(−t/τ), °C. tau_s > 0, elapsed_s ≥ 0, else OutOfDomain.

    >>> round(temperature_after_c(ambient_c=22, start_c=68, tau_s=1653, elapsed_s=900), 1)
    48.7
    """
    check(tau_s=tau_s, elapsed_s=elapsed_s)
    return ambient_c + (start_c - ambient_c) * math.exp(-elapsed_s / tau_s)


def fit_cooling(*, ambient_c: float, first: tuple[float, float], second: tuple[float, float], elapsed_s: float) -> Cooling:
    """τ from two (t_s, temp_c) readings, and the temperature `elapsed_s` after the first.

    The second reading must be later and nearer the ambient, on the same side of it; else Inconsistent.

    >>> round(fit_cooling(ambient_c=22, first=(0, 68), second=(600, 54), elapsed_s=0).tau_s)
    1653
    """
    (t1, hot), (t2, cooler) = first, second
    if t2 <= t1:
        raise Inconsistent("readings", "the second reading is not later than the first.", "Give the readings in order of time.", t2)
    share_left = (cooler - ambient_c) / (hot - ambient_c) if hot != ambient_c else math.nan
    if not 0 < share_left < 1:
        raise Inconsistent("readings", "these readings do not approach the ambient temperature.", "Check the ambient and both readings.", cooler)
    tau_s = (t2 - t1) / -math.log(share_left)
    return Cooling(tau_s, temperature_after_c(ambient_c=ambient_c, start_c=hot, tau_s=tau_s, elapsed_s=elapsed_s))
