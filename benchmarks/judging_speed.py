"""How long a verdict takes and what memory it needs, beside its floor: the decompositions it asked for, replayed bare in the same run. Targets: 6 setups × 12 tasters × 4 brews ≤ 500 ms;
4 flights × 12 tasters × 5 setups × 2 brews ≤ 5 s; ≤ 150 MB above idle. Run: PYTHONPATH=src python benchmarks/judging_speed.py"""

from __future__ import annotations

import resource
import time
from collections.abc import Iterator
from contextlib import contextmanager

import numpy as np

from brasspenny.core.judging import Score, judge


def panel(flights: int, tasters: int, setups: int, brews: int) -> list[Score]:
    rng = np.random.default_rng(1)
    return [
        Score(f"F{f}", f"T{t}", f"S{s}", str(b), "", float(np.clip(round(6 + 0.2 * s + rng.normal(0, 1.2)), 1, 9)))
        for f in range(flights)
        for t in range(tasters)
        for s in range(setups)
        for b in range(brews)
    ]


DECOMPOSITIONS = ("eigh", "cholesky", "solve", "inv", "slogdet", "svd", "qr", "pinv", "lstsq")


@contextmanager
def noted() -> Iterator[list[tuple]]:
    """Every decomposition that is asked for inside, with what it was asked of."""
    asked: list[tuple] = []
    kept = {name: getattr(np.linalg, name) for name in DECOMPOSITIONS}

    def noting(work):
        def again(*args, **how):
            asked.append((work, args, how))
            return work(*args, **how)

        return again

    for name, work in kept.items():
        setattr(np.linalg, name, noting(work))
    try:
        yield asked
    finally:
        for name, work in kept.items():
            setattr(np.linalg, name, work)


def replayed_ms(asked: list[tuple]) -> float:
    started = time.perf_counter()
    for work, args, how in asked:
        work(*args, **how)
    return 1000 * (time.perf_counter() - started)


def main() -> None:
    judge(panel(1, 2, 2, 2))  # imports and first-call costs are paid once
    idle_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    for shape in ((1, 2, 2, 2), (1, 6, 3, 3), (1, 12, 6, 4), (4, 12, 5, 2), (12, 12, 4, 1)):
        scores = panel(*shape)
        started = time.perf_counter()
        found = judge(scores)
        took_ms = 1000 * (time.perf_counter() - started)
        with noted() as asked:
            judge(scores)
        floor_ms = replayed_ms(asked)
        above_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024 - idle_mb
        print(
            f"{shape[0]} flights × {shape[1]} tasters × {shape[2]} setups × {shape[3]} brews: {took_ms:7.0f} ms, "
            f"{took_ms / floor_ms:4.1f} times its {len(asked)} decompositions; peak {above_mb:4.0f} MB above idle, {found.verdict.kind}"
        )


if __name__ == "__main__":
    main()
