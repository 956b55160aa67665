"""Three-digit cup codes and each taster's own balanced order. docs/formulas.md §9.

The generator comes in from outside: the system's own randomness in use, a seed in tests.
Sources: Williams 1949, Aust. J. Sci. Res. (designs balanced for first-order carry-over).
"""

from __future__ import annotations

import random
from collections.abc import Collection, Sequence

from ..errors import OutOfDomain


def _is_plain(code: str) -> bool:
    """No repeated digit, no run up or down, no leading nought: nothing a taster would remember or prefer."""
    a, b, c = (int(ch) for ch in code)
    return len(set(code)) == 3 and not (b - a == c - b and abs(b - a) == 1)


POOL: tuple[str, ...] = tuple(str(n) for n in range(100, 1000) if _is_plain(str(n)))


def draw_codes(count: int, rng: random.Random, *, used: Collection[str] = ()) -> list[str]:
    """`count` codes, each at least two digits away from every other, none of `used` (the trial's earlier codes). A code misheard or
    misread by one digit is then no other cup; only where so few are left that they cannot be (some hundreds were used) they are merely
    different. Raises OutOfDomain when the pool is empty.

    >>> codes = draw_codes(6, random.Random(1))
    >>> min(digits_apart(a, b) for a in codes for b in codes if a != b) >= 2
    True
    """
    free = [code for code in POOL if code not in set(used)]
    if count > len(free):
        raise OutOfDomain("run_ids", f"only {len(free)} unused codes are left in this trial.", "Start a new trial.", count)
    best: list[str] = []
    for _ in range(TRIES):
        drawn: list[str] = []
        for code in rng.sample(free, len(free)):
            if len(drawn) < count and all(digits_apart(code, other) >= LEAST_DIGITS_APART for other in drawn):
                drawn.append(code)
        if len(drawn) == count:
            return drawn
        best = max(best, drawn, key=len)
    return best + rng.sample([code for code in free if code not in best], count - len(best))


LEAST_DIGITS_APART, TRIES = 2, 20


def digits_apart(a: str, b: str) -> int:
    """In how many places two codes differ.

    >>> digits_apart("418", "481"), digits_apart("418", "419")
    (2, 1)
    """
    return sum(x != y for x, y in zip(a, b, strict=True))


def williams_square(n: int) -> list[list[int]]:
    """Orders of n cups in which each follows each other equally often: n rows for even n, 2n for odd.

    >>> williams_square(4)
    [[0, 1, 3, 2], [1, 2, 0, 3], [2, 3, 1, 0], [3, 0, 2, 1]]
    """
    first, low, high = [0], 1, n - 1
    while len(first) < n:
        first.append(low)
        low += 1
        if len(first) < n:
            first.append(high)
            high -= 1
    rows = [[(c + shift) % n for c in first] for shift in range(n)]
    return rows if n % 2 == 0 else rows + [row[::-1] for row in rows]


def taster_orders(codes: Sequence[str], tasters: int, rng: random.Random) -> list[list[str]]:
    """One order of all the codes per taster: rows of a Williams square, dealt at random before any is dealt again."""
    labels = list(codes)
    rng.shuffle(labels)
    rows, dealt = williams_square(len(labels)), []
    while len(dealt) < tasters:
        deck = rows[:]
        rng.shuffle(deck)
        dealt.extend(deck)
    return [[labels[i] for i in row] for row in dealt[:tasters]]


def order_is_balanced(n_cups: int, n_tasters: int) -> bool:
    """Whether whole squares were dealt, so that every cup follows every other equally often."""
    return n_cups < 2 or n_tasters % (n_cups if n_cups % 2 == 0 else 2 * n_cups) == 0
