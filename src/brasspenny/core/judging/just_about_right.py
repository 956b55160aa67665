"""Just about right: how many find a setup's attribute too little, right or too much, and what that costs in liking."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

FEWEST_FOR_DROP = 3


@dataclass(frozen=True)
class JustRight:
    """Counts of tastings. drop_little, drop_much: liking lost against those who find it right, points; None from fewer than three on either side."""

    setup: str
    attribute: str
    too_little: int
    right: int
    too_much: int
    drop_little: float | None
    drop_much: float | None


def just_right(answers: Sequence[tuple[str, str, float, float | None]]) -> tuple[JustRight, ...]:
    """answers: (setup, attribute, −2…2, the same tasting's liking or None).

    >>> found = just_right([("A", "body", 0, 8), ("A", "body", 0, 7), ("A", "body", 0, 6), ("A", "body", 1, 4), ("A", "body", 2, 4), ("A", "body", 1, 5)])
    >>> found[0].right, found[0].too_much, round(found[0].drop_much, 2), found[0].drop_little
    (3, 3, 2.67, None)
    """
    grouped: Mapping[tuple[str, str], list[tuple[float, float | None]]] = defaultdict(list)
    for setup, attribute, step, liking in answers:
        grouped[setup, attribute].append((step, liking))
    out = []
    for (setup, attribute), rows in sorted(grouped.items()):
        low, right, high = ([r for r in rows if r[0] < 0], [r for r in rows if r[0] == 0], [r for r in rows if r[0] > 0])
        out.append(JustRight(setup, attribute, len(low), len(right), len(high), _drop(right, low), _drop(right, high)))
    return tuple(out)


def _drop(right: Sequence[tuple[float, float | None]], off: Sequence[tuple[float, float | None]]) -> float | None:
    a, b = ([liking for _, liking in rows if liking is not None] for rows in (right, off))
    return None if min(len(a), len(b)) < FEWEST_FOR_DROP else sum(a) / len(a) - sum(b) / len(b)
