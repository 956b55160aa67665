"""From score rows to cups: duplicates averaged, passes levelled, everything numbered. docs/judging.md §1."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ..errors import BadScores

MAX_BLOCKS = 150
"""Beyond this (about twelve flights of twelve) the block matrices outgrow the memory promised; say so instead."""
MAX_BREWS = 400
"""Brews (flight by setup by brew) in one verdict; beyond this the same holds."""


class Score(NamedTuple):
    """One taster's score of one cup. flight, brew and pass_ may be ''; an empty brew is the setup's only brew of that flight."""

    flight: str
    taster: str
    setup: str
    brew: str
    pass_: str
    score: float


@dataclass(frozen=True)
class Cups:
    """One row a cup = (flight, taster, setup, brew). y: score less the grand mean; brew_keys: (setup, brew) of each brew; the rest are indices into the labels."""

    setups: tuple[str, ...]
    tasters: tuple[str, ...]
    y: np.ndarray
    setup: np.ndarray
    taster: np.ndarray
    block: np.ndarray
    brew: np.ndarray
    block_taster: np.ndarray
    brew_setup: np.ndarray
    brew_keys: tuple[tuple[str, str], ...]
    grand_mean: float
    n_scores: tuple[int, ...]
    flights: int

    @property
    def most_brews(self) -> int:
        """The largest number of brews any setup has."""
        return int(np.bincount(self.brew_setup).max())

    @property
    def fewest_brews(self) -> int:
        return int(np.bincount(self.brew_setup, minlength=len(self.setups)).min())


def cups_of(scores: Sequence[Score], *, low: float, high: float) -> Cups:
    """Cups from rows. Raises BadScores for no rows, a score off the scale [low, high], or more than MAX_BLOCKS sittings."""
    if not scores:
        raise BadScores("score", "there are no scores.", "Give at least one row.")
    for row, s in enumerate(scores, start=1):
        if not low <= s.score <= high:
            raise BadScores("score", f"row {row}: {s.score:g} is off the scale {low:g} to {high:g}.", "Correct the score or the scale.", s.score)
    values = _levelled(scores)
    keys = sorted(values)
    setups = tuple(sorted({k[2] for k in keys}))
    tasters = tuple(sorted({k[1] for k in keys}))
    blocks = sorted({(k[0], k[1]) for k in keys})
    brews = sorted({(k[0], k[2], k[3]) for k in keys})
    if len(blocks) > MAX_BLOCKS:
        raise BadScores(
            "taster",
            f"{len(blocks)} sittings (taster by flight) are more than the {MAX_BLOCKS} this method takes.",
            f"Split the file by flight, at most {MAX_BLOCKS} sittings in each part.",
        )
    if len(brews) > MAX_BREWS:
        raise BadScores("brew", f"{len(brews)} brews are more than the {MAX_BREWS} this method takes.", "Split the file by flight or by brew.")
    setup_at, taster_at, block_at, brew_at = ({name: i for i, name in enumerate(names)} for names in (setups, tasters, blocks, brews))
    y = np.array([values[k] for k in keys])
    grand = float(y.mean())
    counts: dict[str, int] = defaultdict(int)
    for s in scores:
        counts[s.setup] += 1
    return Cups(
        setups=setups,
        tasters=tasters,
        y=y - grand,
        setup=np.array([setup_at[k[2]] for k in keys]),
        taster=np.array([taster_at[k[1]] for k in keys]),
        block=np.array([block_at[k[0], k[1]] for k in keys]),
        brew=np.array([brew_at[k[0], k[2], k[3]] for k in keys]),
        block_taster=np.array([taster_at[t] for _, t in blocks]),
        brew_setup=np.array([setup_at[s] for _, s, _ in brews]),
        brew_keys=tuple((s, b) for _, s, b in brews),
        grand_mean=grand,
        n_scores=tuple(counts[s] for s in setups),
        flights=len({flight for flight, _ in blocks}),
    )


def _levelled(scores: Sequence[Score]) -> dict[tuple[str, str, str, str], float]:
    """Mean per cup after blind duplicates are averaged and pass shifts (summing to nought) are taken off."""
    by_cup_pass: dict[tuple, list[float]] = defaultdict(list)
    for s in scores:
        by_cup_pass[(s.flight, s.taster, s.setup, s.brew), s.pass_].append(s.score)
    means = {key: sum(v) / len(v) for key, v in by_cup_pass.items()}
    passes = sorted({p for _, p in means})
    shifts = _pass_shifts(means, passes) if len(passes) > 1 else dict.fromkeys(passes, 0.0)
    by_cup: dict[tuple, list[float]] = defaultdict(list)
    for (cup, pass_), mean in means.items():
        by_cup[cup].append(mean - shifts[pass_])
    return {cup: sum(v) / len(v) for cup, v in by_cup.items()}


def _pass_shifts(means: dict, passes: list[str]) -> dict[str, float]:
    """Least-squares pass effects of score = cup + pass, cups swept out, so that a missing pass does no harm."""
    rows: dict[tuple, list[tuple[int, float]]] = defaultdict(list)
    for (cup, pass_), mean in means.items():
        rows[cup].append((passes.index(pass_), mean))
    p = len(passes)
    left, right = np.ones((p, p)), np.zeros(p)  # the ones pin the sum of the shifts to nought
    for seen in rows.values():
        at = [i for i, _ in seen]
        centred = np.array([v for _, v in seen]) - np.mean([v for _, v in seen])
        left[np.ix_(at, at)] += np.eye(len(at)) - 1 / len(at)
        right[at] += centred
    shifts = np.linalg.lstsq(left, right, rcond=None)[0]
    return dict(zip(passes, shifts - shifts.mean(), strict=True))
