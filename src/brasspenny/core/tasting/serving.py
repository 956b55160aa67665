"""One temperature for a whole flight: what the cups are at now, and when each pass opens. docs/formulas.md §9."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import OutOfDomain
from ..kit.heat import fit_cooling
from ..vocabulary import PASSES, PassName
from .temperatures import SCALDS_C


@dataclass(frozen=True)
class PassTime:
    """A pass opens at from_c and closes at to_c; s after the second reading, 0 when that is past; None when the room is too warm for it."""

    name: PassName
    from_c: float
    to_c: float
    opens_s: float | None
    closes_s: float | None


@dataclass(frozen=True)
class Serving:
    """tau_s: the cups' own time constant; now_c: at the second reading; hot_to_drink: above 65 °C, it scalds."""

    tau_s: float
    now_c: float
    hot_to_drink: bool
    passes: tuple[PassTime, ...]


def serving(*, ambient_c: float, first_c: float, second_c: float, apart_s: float) -> Serving:
    """From two readings of one cup, °C, apart_s seconds apart, in a room of ambient_c. Raises OutOfDomain or Inconsistent (no cooling seen).

    >>> s = serving(ambient_c=21, first_c=80, second_c=70, apart_s=300)
    >>> [round(p.opens_s / 60) for p in s.passes]
    [5, 14, 34]
    """
    if second_c <= ambient_c:
        raise OutOfDomain("second_c", "the cup is already at room temperature.", "Read it while it is warm.", second_c)
    tau = fit_cooling(ambient_c=ambient_c, first=(0.0, first_c), second=(apart_s, second_c), elapsed_s=apart_s).tau_s
    return Serving(tau, second_c, second_c > SCALDS_C, tuple(_pass(p.code, p.from_c, p.to_c, ambient_c, second_c, tau) for p in PASSES))


def cooled(*, ambient_c: float, from_c: float, tau_s: float, elapsed_s: float) -> float:
    """°C after elapsed_s (before it when negative) of cooling from from_c.

    >>> round(cooled(ambient_c=22, from_c=68, tau_s=1653, elapsed_s=600), 1)
    54.0
    """
    return ambient_c + (from_c - ambient_c) * math.exp(-elapsed_s / tau_s)


def _pass(name: PassName, from_c: float, to_c: float, ambient_c: float, now_c: float, tau_s: float) -> PassTime:
    return PassTime(name, from_c, to_c, _reaches(from_c, ambient_c, now_c, tau_s), _reaches(to_c, ambient_c, now_c, tau_s))


def _reaches(target_c: float, ambient_c: float, now_c: float, tau_s: float) -> float | None:
    """s until it has cooled to target_c, by the same law as core.heat."""
    if target_c <= ambient_c:
        return None
    return max(0.0, tau_s * math.log((now_c - ambient_c) / (target_c - ambient_c)))
