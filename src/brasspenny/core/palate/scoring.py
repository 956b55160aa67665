"""How a taster uses the scale and how far they go with the others, from ordinary blind flights. docs/palate.md §6. To know a panel by, never to weigh anybody's scores."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import atanh, sqrt, tanh

import numpy as np

from .. import figures
from ..distributions import ndtri
from ..judging.reliability import Repeat, repeats
from ..judging.scores import Score
from ..judging.tasters import taster_means

USUAL_SHARE = (10, 90)
"""Per cent of a taster's scores that lie below the low and below the high end of what they use."""
FEWEST_SCORES, FEWEST_FREE = 6, 4
"""Scores before use of the scale is told; setups, less one a trial, before agreement is."""


@dataclass(frozen=True)
class Scoring:
    """used, panel_used: where eight scores in ten lie, points. agreement: correlation of their setup means with the other tasters', trial by trial, with its
    95 % interval; setups: compared so. repeat: None without a hidden duplicate. Each None where there is too little of it."""

    taster: str
    scores: int
    used: tuple[float, float] | None
    panel_used: tuple[float, float] | None
    agreement: float | None
    agreement_interval: tuple[float, float] | None
    setups: int
    repeat: Repeat | None
    text: str


def scoring(by_trial: Mapping[str, Sequence[Score]]) -> tuple[Scoring, ...]:
    """One row a taster. by_trial: likings of each trial's blind flights, on a scale of 1 to 9."""
    own: dict[str, list[float]] = defaultdict(list)
    for scores in by_trial.values():
        for s in scores:
            own[s.taster].append(s.score)
    everything = [s for scores in by_trial.values() for s in scores]
    again = {r.taster: r for r in repeats(everything)}
    together = _together(by_trial)
    return tuple(_one(t, own, together[t], again.get(t)) for t in sorted(own))


def _together(by_trial: Mapping[str, Sequence[Score]]) -> dict[str, tuple[np.ndarray, np.ndarray, int]]:
    """taster → their setup means and the others', each less its trial's mean; how many of these are free."""
    gathered: dict[str, list[tuple[np.ndarray, np.ndarray]]] = defaultdict(list)
    for scores in by_trial.values():
        means = taster_means(scores)
        for taster, mine in means.items():
            others = {s: [m[s] for t, m in means.items() if t != taster and s in m] for s in mine}
            shared = [s for s in sorted(mine) if others[s]]
            if len(shared) > 1:
                pair = np.array([[mine[s], np.mean(others[s])] for s in shared])
                pair = pair - pair.mean(0)
                gathered[taster].append((pair[:, 0], pair[:, 1]))
    none = np.empty(0)
    out: dict[str, tuple[np.ndarray, np.ndarray, int]] = defaultdict(lambda: (none, none, 0))
    for taster, pairs in gathered.items():
        out[taster] = np.concatenate([a for a, _ in pairs]), np.concatenate([b for _, b in pairs]), sum(len(a) - 1 for a, _ in pairs)
    return out


def _one(taster: str, own: Mapping[str, list[float]], together: tuple[np.ndarray, np.ndarray, int], again: Repeat | None) -> Scoring:
    scores = own[taster]
    told = len(scores) >= FEWEST_SCORES
    used = _used(scores) if told else None
    others = [x for t, found in own.items() if t != taster for x in found]
    panel = _used(others) if told and len(others) >= FEWEST_SCORES else None
    a, b, free = together
    agreement, interval = _correlation(a, b, free)
    text = " ".join(filter(None, (_of_scale(used, panel, len(scores)), _of_agreement(agreement, interval, free), again.text if again else "")))
    return Scoring(taster, len(scores), used, panel, agreement, interval, len(a), again, text)


def _used(scores: Sequence[float]) -> tuple[float, float]:
    low, high = np.percentile(scores, USUAL_SHARE, method="inverted_cdf")
    return float(low), float(high)


def _correlation(a: np.ndarray, b: np.ndarray, free: int) -> tuple[float | None, tuple[float, float] | None]:
    """With the interval of R. Fisher (Metron, 1921); trial means taken off leave `free` of the values."""
    spread = sqrt(float(a @ a) * float(b @ b)) if len(a) else 0.0
    if free < FEWEST_FREE or spread < 1e-9:
        return None, None
    r = float(np.clip(a @ b / spread, -1, 1))
    z, half = atanh(min(max(r, -0.999), 0.999)), float(ndtri(0.975)) / sqrt(free - 2)
    return r, (tanh(z - half), tanh(z + half))


def _of_scale(used: tuple[float, float] | None, panel: tuple[float, float] | None, count: int) -> str:
    if used is None:
        return f"{figures.counted(count, 'score')}: too few to say how the scale is used."
    beside = f"; the others {panel[0]:g} to {panel[1]:g}" if panel else ""
    return f"Eight scores in ten lie between {used[0]:g} and {used[1]:g}{beside}."


def _of_agreement(r: float | None, interval: tuple[float, float] | None, free: int) -> str:
    if r is None or interval is None:
        return "Too few setups tasted with others to compare."
    low, high = interval
    word = "Likes what the others like" if low > 0 else "Likes what the others do not" if high < 0 else "Not shown to go with the others or against them"
    return f"{word}: correlation {figures.agreement(r)} ({figures.agreement(low)} to {figures.agreement(high)}).".replace("-", "−")
