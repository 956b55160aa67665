"""Do the tasters fall into groups who like different setups? docs/judging.md §11: shown only when four conditions hold, else one panel.

Sources: Tibshirani, Walther & Hastie 2001, JRSS B; Hennig 2007, Comput. Stat. Data Anal. (bootstrap Jaccard); Liu, Hayes, Nobel & Marron 2008, JASA.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .bars import LEVEL_POINTS
from .posterior import helmert
from .scores import Score
from .segments_seen import could_have_shown

FEWEST_TASTERS, FEWEST_FOR_THREE, LEAST_IN_SEGMENT = 8, 16, 3
SETUPS_FOR_THREE = 3
"""Two setups differ in one number, along which three kinds are called too often where there is one (12 % of panels; benchmarks/camps_study.py)."""
SAMPLES, BOOTSTRAPS, STARTS, SEED = 999, 30, 40, 17
LOWEST_SHARE, LEAST_JACCARD = 0.05, 0.75
LLOYD_ROUNDS = 12
PANELS_AGAIN, SURE_OF_COMPROMISE = 1000, 0.8
ALL_SPLITS_UP_TO = 12


@dataclass(frozen=True)
class Segment:
    """Tasters who like alike, and each setup's mean liking among them. favourites: what they like best, more than one where those are level; probability_best: that `best`, the first
    of them, is their favourite, over other tasters of their kind."""

    tasters: tuple[str, ...]
    means: dict[str, float]
    best: str
    favourites: tuple[str, ...]
    probability_best: float


@dataclass(frozen=True)
class Segments:
    """One segment unless two (from sixteen tasters: three) are shown. compromise: the setup whose worst segment likes it most, None while that is open; least_liked: its mean in
    the segment that likes it least, with the 95 % interval."""

    segments: tuple[Segment, ...]
    compromise: str | None
    text: str
    least_liked: tuple[float, float, float] | None = None


def find_segments(scores: Sequence[Score]) -> Segments:
    """Segments of tasters by their centred liking profiles. Tasters who did not score every setup are left to no segment."""
    tasters, setups, table = _profiles(scores)
    if len(tasters) < FEWEST_TASTERS or len(setups) < 2:
        return Segments((), None, f"Fewer than {FEWEST_TASTERS} tasters scored every setup: too few to find groups.")
    points = (table - table.mean(1, keepdims=True)) @ helmert(len(setups))
    step = _step_of(scores)
    labels = _shown(points, 2, step)
    if labels is None and len(tasters) >= FEWEST_FOR_THREE and len(setups) >= SETUPS_FOR_THREE:
        labels = _shown(points, 3, step)
    if labels is None:
        brews = Counter((t, k) for t, k, *_ in {(s.taster, s.setup, s.flight, s.brew) for s in scores})
        seen = could_have_shown(tasters=len(tasters), setups=len(setups), brews=min(brews[t, k] for t in tasters for k in setups))
        return Segments((), None, f"No groups of tasters show. {seen}")
    groups = [_segment([t for t, at in zip(tasters, labels, strict=True) if at == g], tasters, setups, table) for g in range(labels.max() + 1)]
    groups.sort(key=lambda s: (-len(s.tasters), s.best, s.tasters))
    compromise, least = _compromise(groups, tasters, setups, table)
    return Segments(tuple(groups), compromise, _text(groups, compromise), least)


def _profiles(scores: Sequence[Score]):
    """Tasters × setups: means, in the raters' own points."""
    cells: dict[str, dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for s in scores:
        cells[s.taster][s.setup].append(s.score)
    setups = sorted({s.setup for s in scores})
    tasters = [t for t in sorted(cells) if len(cells[t]) == len(setups)]
    return tasters, setups, np.array([[np.mean(cells[t][k]) for k in setups] for t in tasters])


def _segment(members: list[str], tasters: list[str], setups: list[str], table: np.ndarray) -> Segment:
    own = table[[tasters.index(t) for t in members]]
    means, best = own.mean(0), int(own.mean(0).argmax())
    favourites = tuple(k for k, m in zip(setups, means, strict=True) if means[best] - m < LEVEL_POINTS)
    again = _other_panels(own, np.random.default_rng(SEED))
    share = float((again.argmax(1) == best).mean())
    return Segment(tuple(members), {k: float(m) for k, m in zip(setups, means, strict=True)}, setups[best], favourites, share)


def _other_panels(own: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Means (draws, setups) over as many tasters drawn anew from these: which others of their kind might have sat here."""
    pick = rng.integers(0, len(own), (PANELS_AGAIN, len(own)))
    return own[pick].mean(1)


def _compromise(groups: list[Segment], tasters: list[str], setups: list[str], table: np.ndarray) -> tuple[str | None, tuple[float, float, float] | None]:
    """The setup that the least satisfied group likes most, and what that group gives it; None where other tasters of these kinds would too often choose another."""
    rng = np.random.default_rng(SEED)
    again = np.stack([_other_panels(table[[tasters.index(t) for t in g.tasters]], rng) for g in groups])  # groups, draws, setups
    least = again.min(0)
    best = max(range(len(setups)), key=lambda k: (min(g.means[setups[k]] for g in groups), setups[k]))
    if (least.argmax(1) == best).mean() < SURE_OF_COMPROMISE:
        return None, None
    low, high = np.quantile(least[:, best], (0.025, 0.975))
    return setups[best], (min(g.means[setups[best]] for g in groups), float(low), float(high))


def _text(groups: list[Segment], compromise: str | None) -> str:
    said = "; ".join(f"{len(g.tasters)} like {' and '.join(g.favourites)} {'best' if len(g.favourites) == 1 else 'alike'}" for g in groups)
    middle = f"The best compromise is {compromise}." if compromise else "Which is the best compromise is open."
    return f"{'Two' if len(groups) == 2 else 'Three'} kinds of drinkers: {said}. {middle}"


# --- the four conditions ---------------------------------------------------------------------------------------------


def _shown(points: np.ndarray, k: int, step: float) -> np.ndarray | None:
    """The split's labels if it is tighter than 95 % of Gaussian panels, stable under resampling and in no crumbs."""
    rng = np.random.default_rng(SEED)
    labels, ratio = _split(points[None], k, rng)
    labels = labels[0]
    if np.bincount(labels, minlength=k).min() < LEAST_IN_SEGMENT or not _tighter_than_chance(points, k, float(ratio[0]), step, rng):
        return None
    return labels if _stability(points, k, labels, rng) >= LEAST_JACCARD else None


def _tighter_than_chance(points: np.ndarray, k: int, seen: float, step: float, rng: np.random.Generator) -> bool:
    """Whether the ratio within/total is in the lowest 5 % of Gaussian samples of a covariance shrunk towards a sphere. Stops early once it cannot be."""
    j, d = points.shape
    spread = np.cov(points.T).reshape(d, d)
    keep = 0.7 if j <= 12 else 0.8
    root = np.linalg.cholesky(keep * spread + (1 - keep) * np.trace(spread) / d * np.eye(d) + 1e-12 * np.eye(d))
    as_low, allowed = 0, LOWEST_SHARE * (SAMPLES + 1) - 1
    for done in range(0, SAMPLES, 111):
        sample = rng.standard_normal((min(111, SAMPLES - done), j, d)) @ root.T
        if d == 1 and step > 0:  # differences of two setups lie on steps, where they clump as Gaussian ones would not
            sample = np.round(sample / (step / 2**0.5)) * (step / 2**0.5)
        as_low += int((_split(sample, k, rng)[1] <= seen).sum())
        if as_low > allowed:
            return False
    return True


def _step_of(scores: Sequence[Score]) -> float:
    """Between neighbouring means of one taster's scores of one setup, points: of whole or half points alone; 0 where they lie anywhere."""
    values = np.array([s.score for s in scores])
    cells = Counter((s.taster, s.setup) for s in scores)
    finest = next((step for step in (1.0, 0.5) if np.allclose(values / step, np.round(values / step))), 0.0)
    return finest / max(cells.values())


def _stability(points: np.ndarray, k: int, labels: np.ndarray, rng: np.random.Generator) -> float:
    """The least segment's mean bootstrap Jaccard with its nearest segment of the resampled panel."""
    j = len(points)
    pick = rng.integers(0, j, (BOOTSTRAPS, j))
    again, _ = _split(points[pick], k, rng)
    best = np.zeros((BOOTSTRAPS, k))
    for b in range(BOOTSTRAPS):
        for g in range(k):
            mine = set(np.flatnonzero(labels == g)) & set(pick[b])
            for h in range(k):
                theirs = set(pick[b][again[b] == h])
                union = len(mine | theirs)
                best[b, g] = max(best[b, g], len(mine & theirs) / union if union else 0.0)
    return float(best.mean(0).min())


def _split(panels: np.ndarray, k: int, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    """Best k-means split of each panel (P, J, D): labels (P, J) and the ratio within/total (P,). Two segments of few tasters: every
    split is tried, which is what many starts aim at; else the best of 40 starts."""
    panels = panels - panels.mean(1, keepdims=True)
    total = np.maximum((panels**2).sum((1, 2)), 1e-12)
    labels, within = _best_halves(panels, total) if k == 2 and panels.shape[1] <= ALL_SPLITS_UP_TO else _lloyd(panels, k, rng)
    return labels, within / total


def _best_halves(panels: np.ndarray, total: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Of all 2^(J−1) − 1 splits: within = total − |sum of one half|²·(1/n₁ + 1/n₂), the panels being centred."""
    p, j, d = panels.shape
    member = ((np.arange(1, 2 ** (j - 1))[:, None] >> np.arange(j)) & 1).astype(float)
    size = member.sum(1)
    sums = (member @ panels.transpose(1, 0, 2).reshape(j, p * d)).reshape(-1, p, d)
    within = total - (sums**2).sum(2) * (1 / size + 1 / (j - size))[:, None]
    best = within.argmin(0)
    return member[best].astype(int), within[best, np.arange(p)]


def _lloyd(panels: np.ndarray, k: int, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    p, j, _ = panels.shape
    starts = rng.random((p, STARTS, j)).argsort(2)[:, :, :k]
    centres = np.take_along_axis(panels[:, None], starts[..., None], axis=2)  # (P, S, k, D)
    for _ in range(LLOYD_ROUNDS):
        member = (_distances(panels, centres).argmin(3)[..., None] == np.arange(k)).astype(float)  # (P, S, J, k)
        size = member.sum(2)
        moved = member.transpose(0, 1, 3, 2) @ panels[:, None] / np.maximum(size, 1)[..., None]
        centres = np.where(size[..., None] > 0, moved, centres)
    gaps = _distances(panels, centres)
    within = gaps.min(3).sum(2)
    best = within.argmin(1)
    return gaps.argmin(3)[np.arange(p), best], within.min(1)


def _distances(panels: np.ndarray, centres: np.ndarray) -> np.ndarray:
    """Squared distances (P, S, J, k)."""
    cross = panels[:, None] @ centres.transpose(0, 1, 3, 2)
    return (panels**2).sum(2)[:, None, :, None] - 2 * cross + (centres**2).sum(3)[:, :, None, :]
