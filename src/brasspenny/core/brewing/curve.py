"""What a scale's curve says of a brew: its pours with their settled readings, where it was zeroed, knocked, moved, and when the brewer was lifted.

No kettle pours thirty grams a second: what is faster is no pour but a hand. Such a disturbance is told by the levels before and after it. The
same level: a knock, or a brewer lifted to swirl and put back. Nought: the scale was zeroed, and readings go on from where they were. Lower, and it
stays so: the brewer was lifted for good, or, by less than a brewer weighs, something was spilt. Higher: something was put on. Freed of these, the curve is the water poured. A pour is a stretch in which it rises at
pouring speed: slopes (least squares over half a second either side) above 0.8 g/s begin it and below 0.4 g/s end it, and stretches less than
1.5 s apart are one. Its mass is the difference of the settled levels before and after, so that what drifts between pours is no water.
Where it stops being true: pours slower than about 1 g/s look like drift, and two pours closer than 1.5 s like one; a brewer lifted
within two seconds of a zeroing is taken for one of the two.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from .. import figures
from ..errors import NotEnoughKnowns
from .scale_log import ScaleLog

GAP_S = 2.0
JUMP_G = 40.0
FASTEST_POUR_G_S = 30.0
SAME_LEVEL_G = 4.0
NOUGHT_G = 1.5
LEAST_LIFTED_G = 45.0
"""A brewer with its wet grounds weighs more than this: what falls by less was spilt, or taken out."""
MAY_COME_BACK_S = 3.0
QUIET_S = 0.8
"""A disturbance is over when nothing jumped for this long."""
BEGINS_G_S, ENDS_G_S, JOIN_S, LEAST_G = 0.8, 0.4, 1.5, 2.0
LEVEL_S, SETTLES_S = 1.5, 1.2


@dataclass(frozen=True)
class PourSegment:
    """One pour: when it began and ended, s; what it added and the water poured by then, g, both settled; mean rate, g/s."""

    start_s: float
    end_s: float
    added_g: float
    to_g: float
    rate_g_s: float


@dataclass(frozen=True)
class Gap:
    """A stretch without readings: the brew went on, nothing is made up for it."""

    start_s: float
    end_s: float


@dataclass(frozen=True)
class Zeroed:
    """at_s: when; by_g: what the scale had read, so that what it reads since is this much less than before."""

    at_s: float
    by_g: float


@dataclass(frozen=True)
class Spilt:
    """at_s: when; grams: what left the brew at once."""

    at_s: float
    grams: float


@dataclass(frozen=True)
class PutOn:
    """at_s: when; grams: what came onto the scale faster than water can."""

    at_s: float
    grams: float


@dataclass(frozen=True)
class Curve:
    """t_s and water_g: the water poured so far, freed of disturbances. pouring: the last pour is still going on. lifted_s: when the brewer was taken off for
    good, None while it stands. zeroed: in order. notes: what was left out or taken for what, in words."""

    pours: tuple[PourSegment, ...]
    gaps: tuple[Gap, ...]
    notes: tuple[str, ...]
    t_s: np.ndarray
    water_g: np.ndarray
    pouring: bool = False
    lifted_s: float | None = None
    zeroed: tuple[Zeroed, ...] = ()
    spilt: tuple[Spilt, ...] = ()
    put_on: tuple[PutOn, ...] = ()


def read_curve(log: ScaleLog, *, so_far: bool = False, moves: int = 0) -> Curve:
    """The pours of a log of five readings or more, and everything else its curve tells. so_far: the brew goes on, so that a curve that rises at its end is a pour
    being made, and a brewer off the scale for less than three seconds may come back. moves: how often the brew is moved onto another scale, or from one vessel to another on
    this one, so that a vessel that leaves it ends nothing.

    Raises NotEnoughKnowns.
    """
    t, raw = log.t_s, log.mass_g
    if len(t) < 5:
        raise NotEnoughKnowns("text", f"{len(t)} readings are too few to find a pour in.", "Give a log of at least five.")
    m = _without_wild(raw)
    notes = list(log.notes)
    hands = _undisturbed(t, m, so_far=so_far, moves=moves)
    m, lifted_s = hands.m, hands.lifted_s
    wild = int((np.abs(raw - _without_wild(raw)) > JUMP_G).sum())
    if wild:
        notes.append(f"{figures.counted(wild, 'wild reading')} left out.")
    gaps = tuple(Gap(float(t[i]), float(t[i + 1])) for i in np.flatnonzero(np.diff(t) > GAP_S))
    until = len(t) if lifted_s is None else max(5, int(np.searchsorted(t, lifted_s)))
    t, m = t[:until], m[:until]
    stretches = _stretches(t, _slope(t, m))
    pours, poured, lost = [], 0.0, list(hands.spilt)
    for i, (a, b) in enumerate(stretches):
        while lost and lost[0].at_s <= t[b]:
            poured -= lost.pop(0).grams
        p = _pour(t, m, a, b, stretches[i + 1][0] if i + 1 < len(stretches) else len(t) - 1, poured)
        if p is not None and p.added_g >= LEAST_G:
            pours.append(p)
            poured = p.to_g
    pouring = bool(so_far and lifted_s is None and stretches and stretches[-1][1] == len(t) - 1 and pours and pours[-1].end_s >= t[-1] - 1.0)
    return Curve(tuple(pours), gaps, (*notes, *hands.notes), t, m, pouring, lifted_s, tuple(hands.zeroed), tuple(hands.spilt), tuple(hands.put_on))


def _without_wild(m: np.ndarray) -> np.ndarray:
    padded = np.pad(m, 2, mode="edge")
    return np.median(np.lib.stride_tricks.sliding_window_view(padded, 5), axis=1)


# --- hands on the scale --------------------------------------------------------------------------------------------------------------


@dataclass
class _Hands:
    """What hands did to the scale. m: the curve without it; shift_g: what zeroings took off the readings so far."""

    m: np.ndarray
    zeroed: list[Zeroed] = field(default_factory=list)
    spilt: list[Spilt] = field(default_factory=list)
    put_on: list[PutOn] = field(default_factory=list)
    moves: int = 0
    notes: list[str] = field(default_factory=list)
    lifted_s: float | None = None
    shift_g: float = 0.0
    touched: int = 0


def _undisturbed(t: np.ndarray, m: np.ndarray, *, so_far: bool, moves: int) -> _Hands:
    hands = _Hands(m.astype(float).copy(), moves=moves)
    for a, b in _disturbances(t, hands.m):
        if not _tell(hands, t, a, b, so_far=so_far):
            break
    if hands.touched:
        hands.notes.append(f"The scale was touched {'once' if hands.touched == 1 else f'{hands.touched} times'}; its readings meanwhile are left out.")
    return hands


def _tell(hands: _Hands, t: np.ndarray, a: int, b: int, *, so_far: bool) -> bool:
    """What the disturbance between two readings was; False when nothing after it can be read."""
    m = hands.m
    before, after = _edge(t, m, t[a] - LEVEL_S, t[a], at_s=t[a]), _edge(t, m, t[b], t[b] + LEVEL_S, at_s=t[b])
    rose, may_rise = after - before, FASTEST_POUR_G_S / 2 * (t[b] - t[a]) + SAME_LEVEL_G
    at = f"at {figures.seconds(float(t[a]))} s"
    if -SAME_LEVEL_G <= rose <= may_rise:
        hands.touched += 1
        m[a : b + 1] = np.interp(t[a : b + 1], [t[a], t[b]], [before, after])
    elif rose < 0 and abs(after - hands.shift_g) <= NOUGHT_G:
        hands.zeroed.append(Zeroed(float(t[a]), before - hands.shift_g))
        hands.shift_g = before
        m[a : b + 1] = before
        m[b + 1 :] += before - after
        hands.notes.append(f"Zeroed {at}, from {figures.grams_fine(hands.zeroed[-1].by_g)} g: the readings go on from there.")
    elif rose > 0:
        m[a : b + 1] = before
        m[b + 1 :] -= rose
        hands.shift_g -= rose
        hands.put_on.append(PutOn(float(t[a]), rose))
        hands.notes.append(f"Something of {figures.grams_fine(rose)} g was put on the scale {at}; it is no water.")
    elif -rose < LEAST_LIFTED_G:
        hands.spilt.append(Spilt(float(t[a]), -rose))
        m[a : b + 1] = before
        m[b + 1 :] -= rose
        hands.shift_g -= rose
        hands.notes.append(f"{figures.grams_fine(-rose)} g left the brew {at}: spilt, or taken out.")
    elif (back := _put_back(t, m, b, before)) is not None:
        settled = _level(t, m, t[back], t[back] + LEVEL_S)
        m[a : back + 1] = np.interp(t[a : back + 1], [t[a], t[back]], [before, before if settled is None else settled])
        hands.touched += 1
    elif hands.moves:
        hands.moves -= 1
        m[a : b + 1] = before
        m[b + 1 :] -= rose
        hands.shift_g -= rose
        hands.notes.append(f"The brew was moved {at}.")
    elif so_far and t[-1] - t[a] < MAY_COME_BACK_S:
        m[a:] = before
        return False
    else:
        hands.lifted_s = float(t[a])
        hands.notes.append(f"The brewer left the scale {at}.")
        return False
    return True


def _disturbances(t: np.ndarray, m: np.ndarray) -> list[tuple[int, int]]:
    """(last calm reading before, first calm reading after) of each stretch that changes faster than water can."""
    dt = np.maximum(np.diff(t), 1e-3)
    jump = np.flatnonzero((np.diff(m) > FASTEST_POUR_G_S * np.maximum(dt, 0.1) + 1.0) | (np.diff(m) < -6.0 * np.maximum(dt, 0.2) - 1.0))
    out: list[tuple[int, int]] = []
    for i in jump:
        if out and t[i] - t[out[-1][1]] < QUIET_S:
            out[-1] = (out[-1][0], int(i) + 1)
        else:
            out.append((max(0, int(i) - 1), int(i) + 1))
    return [(a, min(len(t) - 1, int(np.searchsorted(t, t[b] + 0.3)))) for a, b in out]


def _put_back(t: np.ndarray, m: np.ndarray, since: int, level: float) -> int | None:
    """The first reading from which on it reads again as before, or a little more: the brewer stands again."""
    there = (m[since:] >= level - SAME_LEVEL_G) & (m[since:] <= level + SAME_LEVEL_G + 10.0)
    at = np.flatnonzero(there)
    return since + int(at[0]) if len(at) else None


def _edge(t: np.ndarray, m: np.ndarray, low_s: float, high_s: float, *, at_s: float) -> float:
    """The level at one edge of a stretch, which may be rising: by a straight line through it."""
    there = (t >= low_s) & (t <= high_s)
    if there.sum() < 4:
        return float(np.interp(at_s, t, m))
    _, level = np.polyfit(t[there] - at_s, m[there], 1)
    return float(level)


def _level(t: np.ndarray, m: np.ndarray, low_s: float, high_s: float) -> float | None:
    there = m[(t >= low_s) & (t <= high_s)]
    return float(np.median(there)) if len(there) else None


# --- pours ---------------------------------------------------------------------------------------------------------------------------


def _slope(t: np.ndarray, m: np.ndarray, half_s: float = 0.5) -> np.ndarray:
    """g/s by least squares over the readings within half_s of each (at least one neighbour either side)."""
    low = np.minimum(np.searchsorted(t, t - half_s), np.maximum(np.arange(len(t)) - 1, 0))
    high = np.maximum(np.searchsorted(t, t + half_s, side="right"), np.minimum(np.arange(len(t)) + 2, len(t)))
    sums = [np.concatenate([[0.0], np.cumsum(x)]) for x in (np.ones_like(t), t, m, t * t, t * m)]
    n, st, sm, stt, stm = (s[high] - s[low] for s in sums)
    below = n * stt - st * st
    return np.divide(n * stm - st * sm, below, out=np.zeros_like(t), where=below > 1e-9)


def _stretches(t: np.ndarray, rate: np.ndarray) -> list[tuple[int, int]]:
    """(first, last) indices of pouring, with hysteresis, near ones joined."""
    out: list[tuple[int, int]] = []
    begun = None
    for i, r in enumerate(rate):
        if begun is None and r > BEGINS_G_S:
            begun = i
        elif begun is not None and r < ENDS_G_S:
            if out and t[begun] - t[out[-1][1]] < JOIN_S:
                begun = out.pop()[0]
            out.append((begun, i))
            begun = None
    if begun is not None:
        out.append((begun, len(t) - 1))
    return out


def _pour(t: np.ndarray, m: np.ndarray, a: int, b: int, following: int, poured_g: float) -> PourSegment | None:
    """The pour between readings a and b, with the levels it settles from and to; the next one begins at `following`."""
    base = _level(t, m, t[a] - LEVEL_S - 0.5, t[a] - 0.5)
    base = float(m[a]) if base is None else base
    latest = max(float(t[b]), float(t[following]) - 0.5)
    settled = _level(t, m, min(t[b] + SETTLES_S, latest - 0.3), min(t[b] + SETTLES_S + LEVEL_S, latest))
    top = float(m[b]) if settled is None else settled
    near_before = m[(t >= t[a] - LEVEL_S - 0.5) & (t <= t[a] - 0.5)]
    noise = max(0.3, 3 * float(np.std(near_before)) if len(near_before) > 2 else 0.3)
    near = np.flatnonzero((t >= t[a] - 1.5) & (t <= t[b] + 0.5))
    rising = near[m[near] > base + noise]
    falling = near[m[near] < top - noise]
    if not len(rising) or not len(falling):
        return None
    start, end = float(t[rising[0]]), float(t[min(falling[-1] + 1, len(t) - 1)])
    if end <= start:
        return None
    added = top - base
    return PourSegment(start, end, added, poured_g + added, added / (end - start))
