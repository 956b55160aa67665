"""Work that tells how far it is while it is done, and what it came to at the end."""

from __future__ import annotations

from collections.abc import Generator, Iterator
from typing import Generic, TypeVar

R = TypeVar("R")
TELLS_EVERY = 250
"""Rows of a table, which is a fraction of a second."""
Steps = Generator[tuple[int, int], None, R]
"""(Done, of how many) as it goes; what it comes to is returned. Closed before its end, it has written nothing."""


def half(steps: Steps[R], *, first: bool) -> Steps[R]:
    """Steps that are one half of a longer way: each counts once, of twice as many."""
    tracked = TrackedSteps(steps)
    for done, of in tracked:
        yield (done if first else of + done), 2 * of
    return tracked.came_to


class TrackedSteps(Generic[R]):
    """Steps to be gone through once. came_to: once they are."""

    came_to: R

    def __init__(self, steps: Steps[R]) -> None:
        self._steps = steps

    def __iter__(self) -> Iterator[tuple[int, int]]:
        self.came_to = yield from self._steps

    def to_the_end(self) -> R:
        for _ in self:
            pass
        return self.came_to
