"""Several questions put to one panel: what is left of each answer's p-value."""

from __future__ import annotations

from collections.abc import Sequence


def holm(p_values: Sequence[float]) -> list[float]:
    """Holm's step-down adjustment (1979, Scand. J. Stat.), in the order given.

    >>> [round(p, 3) for p in holm([0.01, 0.04, 0.03])]
    [0.03, 0.06, 0.06]
    """
    order = sorted(range(len(p_values)), key=lambda i: p_values[i])
    out, so_far = [0.0] * len(p_values), 0.0
    for rank, i in enumerate(order):
        so_far = max(so_far, min(1.0, (len(p_values) - rank) * p_values[i]))
        out[i] = so_far
    return out
