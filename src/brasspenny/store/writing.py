"""How the bench is written to: one use case, one transaction, one at a time.

Letters, labels, seats, names, flips, undos and what stands in a flight are all decided by looking first and writing then. So whoever
writes holds the bench's own row from the first statement on, in whichever process or instance: what was looked at cannot change before
it is written. Tasters' touches do not wait here; they hold their flight, which a close or a flip takes for itself.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import wraps
from itertools import islice
from typing import ParamSpec, TypeVar

from .connection import database

HOLD = "SELECT id FROM bench WHERE id = 1 FOR UPDATE"
"""The first statement of a transaction: what it reads after this is what was committed last, not an older picture."""


P, R = ParamSpec("P"), TypeVar("R")


def use_case(work: Callable[P, R]) -> Callable[P, R]:
    """`work` in one transaction, alone on the bench; inside another use case it is part of that one's."""

    @wraps(work)
    def alone(*args: P.args, **kwargs: P.kwargs) -> R:
        with database.atomic():
            if database.transaction_depth() == 1:
                database.execute_sql(HOLD)
            return work(*args, **kwargs)

    return alone


AT_ONCE = 500
"""Rows a statement."""


def batched(rows: Iterable[R]) -> Iterator[list[R]]:
    """Many rows in parts that one statement takes."""
    whole = iter(rows)
    while some := list(islice(whole, AT_ONCE)):
        yield some
