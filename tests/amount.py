"""How much of a long check runs: all of it in the nightly suite, about a tenth in the everyday one, chosen by a fixed seed."""

from __future__ import annotations

import os
import random
from collections.abc import Sequence
from typing import TypeVar

from brasspenny.cli import NIGHTLY_SUITE

Item = TypeVar("Item")

NIGHTLY = NIGHTLY_SUITE in os.environ
SEED = 27


def share(whole: Sequence[Item], *, least: int = 1, seed: int = SEED) -> list[Item]:
    """Return all of `whole` at night, by day a tenth of it (at least `least`), in its order."""
    if NIGHTLY:
        return list(whole)
    count = min(len(whole), max(least, len(whole) // 10))
    return [whole[i] for i in sorted(random.Random(seed).sample(range(len(whole)), count))]


def examples(whole: int, *, least: int = 2) -> int:
    """Return how many examples a property draws: `whole` at night, a tenth of it by day."""
    return whole if NIGHTLY else max(least, whole // 10)
