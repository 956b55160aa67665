"""Means as the cups cool, pass by pass, and which changes are more than the tasters' scatter.

A change is judged by each taster's own: of all tasters who scored the setup in both passes, Student's t of their differences. The same cups are scored in every pass, so brews cancel. Over all
pairs of passes (and setups) that are looked at, p-values are adjusted by Holm (1979, Scand. J. Stat.).
"""

from __future__ import annotations

import math
import statistics
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

from ..distributions import stdtr, stdtrit
from ..vocabulary import PASSES
from .bars import LEVEL_POINTS
from .multiplicity import holm
from .scores import Score

PASS_ORDER = tuple(p.code for p in PASSES)
SHOWN_P = 0.025
"""For each of the two things that are said of temperature, a setup's change and a change of leaders: together they come to 5 %."""


@dataclass(frozen=True)
class Cooling:
    """A setup's change from one pass to another, points: `better` less `worse`, with its 95 % interval over tasters. shown: by the adjusted p-value; p_value before that."""

    better: str
    worse: str
    change: float
    interval: tuple[float, float]
    p_value: float
    shown: bool


def means_by_pass(scores: Sequence[Score]) -> dict[str, dict[str, float]]:
    """setup → pass → mean, in the order of cooling.

    >>> means_by_pass([Score("", "Ada", "A", "1", "cool", 6), Score("", "Ada", "A", "1", "hot", 8)])
    {'A': {'hot': 8.0, 'cool': 6.0}}
    """
    sums: dict[str, dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        sums[s.setup][s.pass_].append(s.score)
    order = {p: i for i, p in enumerate(PASS_ORDER)}
    return {k: {p: sum(v) / len(v) for p, v in sorted(by.items(), key=lambda x: (order.get(x[0], 9), x[0]))} for k, by in sums.items()}


def cooling(scores: Sequence[Score]) -> dict[str, tuple[Cooling, ...]]:
    """Setup → its changes between every two passes, the later shown over all setups and passes together; () where too few tasters scored it twice."""
    by = _by_taster(scores)
    found = [
        (setup, change)
        for setup in sorted({s.setup for s in scores})
        for first, second in combinations(_passes_of(scores), 2)
        if (change := _change([x[setup, first] - x[setup, second] for x in by.values() if (setup, first) in x and (setup, second) in x], first, second))
    ]
    adjusted = holm([change.p_value for _, change in found])
    out: dict[str, list[Cooling]] = defaultdict(list)
    for (setup, c), p in zip(found, adjusted, strict=True):
        out[setup].append(Cooling(c.better, c.worse, c.change, c.interval, c.p_value, p <= SHOWN_P))
    return {setup: tuple(changes) for setup, changes in out.items()}


def changing_leaders(scores: Sequence[Score]) -> dict[str, str]:
    """Pass → the setup with the highest mean there, where some two leaders really change places: the one's lead over the other differs between their two passes by more than tasters
    scatter. {} where nothing shows that. Level cups have no leader."""
    leaders, by = leaders_by_pass(scores), _by_taster(scores)
    pairs = [(p, q) for p, q in combinations(leaders, 2) if leaders[p] != leaders[q]]
    tests = [_change(_lead_changes(by.values(), leaders[p], leaders[q], p, q), p, q) for p, q in pairs]
    could = math.comb(len({s.setup for s in scores}), 2) * math.comb(len(_passes_of(scores)), 2)  # the leaders were picked from all of these
    return leaders if any(t.p_value * could <= SHOWN_P for t in tests if t) else {}


def _lead_changes(tasters, a: str, b: str, first: str, second: str) -> list[float]:
    cells = [(a, first), (b, first), (a, second), (b, second)]
    return [x[a, first] - x[b, first] - x[a, second] + x[b, second] for x in tasters if all(cell in x for cell in cells)]


def say_leaders(scores: Sequence[Score], names: Mapping[str, str]) -> str:
    """Who leads as it cools: a change only where one is shown; '' of fewer than two passes.

    >>> ate = [Score("", t, x, "1", p, s) for t in ("Ada", "Bo") for x, p, s in (("A", "hot", 7), ("B", "hot", 6), ("A", "cool", 6), ("B", "cool", 5))]
    >>> say_leaders(ate, {"A": "Paper", "B": "Mesh"})
    'Paper leads in every pass.'
    """
    passes, leaders, changing = _passes_of(scores), leaders_by_pass(scores), changing_leaders(scores)
    if len(passes) < 2:
        return ""
    if len(set(changing.values())) > 1:
        said: dict[str, list[str]] = {}
        for p, letter in changing.items():
            said.setdefault(letter, []).append(p)
        return "; ".join(f"{names.get(letter, letter)} leads {' and '.join(ps)}" for letter, ps in said.items()) + "."
    first = next(iter(leaders.values()), None)
    if first and len(leaders) == len(passes) and set(leaders.values()) == {first}:
        return f"{names.get(first, first)} leads in every pass."
    return "No change of leader is shown as it cools."


def leaders_by_pass(scores: Sequence[Score]) -> dict[str, str]:
    """In the order of cooling; a pass whose best are level has none."""
    means, out = means_by_pass(scores), {}
    for p in _passes_of(scores):
        here = sorted(((by[p], setup) for setup, by in means.items() if p in by), reverse=True)
        if len(here) == 1 or (here and here[0][0] - here[1][0] >= LEVEL_POINTS):
            out[p] = here[0][1]
    return out


def _passes_of(scores: Sequence[Score]) -> list[str]:
    return sorted({s.pass_ for s in scores}, key=lambda p: (PASS_ORDER.index(p) if p in PASS_ORDER else 9, p))


def _by_taster(scores: Sequence[Score]) -> dict[str, Mapping[tuple[str, str], float]]:
    """Taster → (setup, pass) → mean."""
    cells: dict[str, dict[tuple[str, str], list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        cells[s.taster][s.setup, s.pass_].append(s.score)
    return {t: {cell: statistics.fmean(v) for cell, v in mine.items()} for t, mine in cells.items()}


def _change(differences: Sequence[float], first: str, second: str) -> Cooling | None:
    n = len(differences)
    if n < 2:
        return None
    mean, se = statistics.fmean(differences), statistics.stdev(differences) / math.sqrt(n)
    half = float(stdtrit(n - 1, 0.975)) * se
    p = 2 * float(stdtr(n - 1, -abs(mean) / se)) if se else (0.0 if mean else 1.0)
    low, high = (mean - half, mean + half) if mean >= 0 else (-mean - half, -mean + half)
    return Cooling(*((first, second) if mean >= 0 else (second, first)), abs(mean), (low, high), p, False)
