"""What to do next: the flights that could be tasted, ranked by how much doubt each removes for its coffee and minutes. docs/formulas.md §10.

Doubt is expected regret: points given away by choosing now. Given the SDs of a node, more brews or tasters raise the
information on every contrast by the balanced variance v = σ_ts²/J + σ_b²/R + σ_e²/(JR); what would then be seen is drawn
from the present posterior, and the regret taken off is averaged. Where it stops being true: panels far from balanced.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from .. import figures
from ..distributions import ndtr, normal_density
from .bars import CLEAR_BEST, HARDLY_EVER, TIE_SLACK
from .learnt import clear_each
from .measures import MEASURE, Measure
from .mixtures import systematic
from .peak import Peak
from .posterior import Scatter, integrate
from .scores import Score, cups_of

DRAWS, SEED = 4_000, 23
TOLD_OF_SCATTER = 0.65
"""How far the mixture moves towards the true scatter when all scores are fresh; by benchmarks/settling_study.py."""
JUDGED_BY, JUDGED_EVERY = 48, 4
"""Of the drawn scatters, so many stand for the mixture that a verdict is judged by; and every so many draws are judged, which leaves 0.02 of chance at most."""
EFFORT_G, EFFORT_MIN = 18.0, 10.0
"""One brew's worth of coffee counts as much as one brew's ten minutes."""
MINUTES_A_CUP, MINUTES_A_TASTER = 1.5, 60.0
MORE_TASTERS, FLIGHT_BREWS = 4, 2
LEVEL_SES = 2
"""Steps whose worth differs by less than two standard errors of the simulation are level."""


@dataclass(frozen=True)
class Step:
    """removes: points of expected regret; settles: chance of a clear verdict or a practical tie then, None for a new value. setups: those to brew.
    brews: of each; tasters: how many more people; value: the next one on the ladder. level: with the first of the list, within what the simulation itself is unsure of.
    urged: the first of the list, where it does not almost never settle the question."""

    code: str
    text: str
    removes: float
    settles: float | None
    grams: float
    minutes: float
    setups: tuple[str, ...]
    brews: int
    tasters: int = 0
    value: float | None = None
    level: bool = False
    urged: bool = False

    @property
    def effort(self) -> float:
        return self.grams / EFFORT_G + self.minutes / EFFORT_MIN

    @property
    def per_effort(self) -> float:
        return self.removes / self.effort


def next_steps(
    scores: Sequence[Score],
    *,
    dose_g: Mapping[str, float],
    minutes: Mapping[str, float],
    dropped: Collection[str] = (),
    names: Mapping[str, str] | None = None,
    peak: Peak | None = None,
    measure: Measure = MEASURE["ratio"],
    low: float = 1,
    high: float = 9,
    smallest_difference: float = 0.5,
    asks: str = "the question",
    learnt: Scatter | None = None,
) -> tuple[Step, ...]:
    """Candidates, most doubt removed per effort first. dose_g and minutes: of one brew of each setup. dropped: shown worse; not brewed again. asks: what would be
    settled, in words. learnt: what this bench's scatter was before."""
    cups = cups_of(scores, low=low, high=high)
    if len(cups.setups) < 2:
        return ()
    nodes = integrate(cups, low=low, high=high, learnt=learnt)
    open_setups = tuple(s for s in cups.setups if s not in dropped)
    at = [cups.setups.index(s) for s in open_setups]
    j, r = len(cups.tasters), len(cups.brew_setup) / len(cups.setups)
    seen = _Seen(nodes, at, smallest_difference, clear_each(cups.flights + 1))
    who = figures.joined([(names or {}).get(s, s) for s in open_setups])
    out, drawn = [], {}
    if len(open_setups) > 1:
        for code, brews, tasters in (("one_more_brew", 1, 0), ("one_more_flight", FLIGHT_BREWS, 0), ("more_tasters", FLIGHT_BREWS, MORE_TASTERS)):
            fresh = brews * (j + tasters) if tasters else brews * j
            drawn[code], settles = seen.after(_gain(nodes.sds, j, r, brews, tasters), fresh / (fresh + r * j))
            removes = max(0.0, float(drawn[code].mean()))
            grams = sum(dose_g[s] for s in open_setups) * brews
            spent = sum(minutes[s] for s in open_setups) * brews + MINUTES_A_CUP * len(open_setups) * brews + MINUTES_A_TASTER * tasters
            out.append(
                Step(code, _text(code, who, brews, tasters, grams, spent, _times(settles, asks)), removes, settles, grams, spent, open_setups, brews, tasters)
            )
    if peak is not None and peak.next_gain is not None:
        out.append(_beyond(peak, measure, nodes, j, max(dose_g.values()), max(minutes.values())))
    return _ranked(out, drawn)


def _ranked(steps: Sequence[Step], drawn: Mapping[str, np.ndarray]) -> tuple[Step, ...]:
    """Most doubt removed per effort first; what the same draws cannot tell from the first is level with it."""
    first, *others = sorted(steps, key=lambda s: -s.per_effort) if steps else (None,)
    if first is None:
        return ()
    urged = first.settles is None or first.settles >= HARDLY_EVER
    return replace(first, urged=urged), *(replace(s, level=s.code in drawn and first.code in drawn and _level(first, s, drawn)) for s in others)


def _level(first: Step, other: Step, drawn: Mapping[str, np.ndarray]) -> bool:
    apart = drawn[first.code] / first.effort - drawn[other.code] / other.effort
    return float(apart.mean()) <= LEVEL_SES * float(apart.std(ddof=1)) / math.sqrt(len(apart))


def _gain(sds: np.ndarray, j: int, r: float, brews: int, tasters: int) -> tuple[np.ndarray, np.ndarray]:
    """What information is multiplied by, and what is added to it, per node (N,)."""
    e2, ts2, b2 = (sds**2).T

    def v(people: float, each: float) -> np.ndarray:
        return ts2 / people + b2 / each + e2 / (people * each)

    if tasters:
        return np.ones(len(sds)), 1 / v(tasters, brews)
    return v(j, r) / v(j, r + brews), np.zeros(len(sds))


class _Seen:
    """Seeded draws of (node, τ) and of the standard normals behind effects and data, shared by all candidates so that they differ by nothing else."""

    def __init__(self, nodes, at: list[int], delta: float, bar: float) -> None:
        self.bar = bar
        self.delta, self.tie_level = delta, 1 - TIE_SLACK / nodes.basis.shape[1]
        rng = np.random.default_rng(SEED)
        steps = len(nodes.tau)
        pick = systematic(nodes.tau_weight.ravel(), DRAWS, rng)
        self.node, step = pick // steps, pick % steps
        self.prior = 1 / nodes.tau[step] ** 2
        self.information, self.z = nodes.information[self.node], nodes.centre[self.node]
        self.basis = nodes.basis[self.node][:, at, :]
        self.noise = rng.standard_normal((2, *self.z.shape))

    def after(self, gain: tuple[np.ndarray, np.ndarray], fresh: float) -> tuple[np.ndarray, float]:
        """Regret removed in each draw, and the chance that the question is then settled (clear, or a practical tie), once the information is raised. A draw is judged as its verdict would
        be: by the mixture over scatters, and not by its own, which nobody will know; but what is tasted then (fresh: its share of all scores) tells of the scatter, too, and draws the mixture
        towards it."""
        m, t = self.information, self.prior[:, None]
        more = m * gain[0][self.node][:, None] + gain[1][self.node][:, None]
        added = np.maximum(more - m, 1e-12)
        now = m * self.z / (m + t)
        truth = now + self.noise[0] / np.sqrt(m + t)
        data = truth + self.noise[1] / np.sqrt(added)
        then_flat = (m * self.z + added * data) / more
        then = more * then_flat / (more + t)
        best_then = np.einsum("dki,di->dk", self.basis, then).max(1)
        best_now = np.einsum("dki,di->dk", self.basis, now).max(1)
        effects = np.sort(np.einsum("dki,di->dk", self.basis, then_flat), axis=1)
        return best_then - best_now, float(self._settled((effects[:, -1:] - effects[:, :-1])[::JUDGED_EVERY], more.mean(1), fresh).mean())

    def _settled(self, leads: np.ndarray, more: np.ndarray, fresh: float) -> np.ndarray:
        """Of some draws (S,), by the rule of docs/judging.md §4. leads: of the first over each other (S, K − 1), the nearest last; more: information of all draws (D,)."""
        some = np.linspace(0, len(more) - 1, min(JUDGED_BY, len(more))).astype(int)
        own = slice(None, None, JUDGED_EVERY)
        by_all = self._chances(leads, more[some], self.prior[some])
        by_own = self._chances(leads, more[own, None], self.prior[own, None])
        learnt = TOLD_OF_SCATTER * fresh
        ahead, best, equal = ((1 - learnt) * x + learnt * y for x, y in zip(by_all, by_own, strict=True))
        return ((ahead >= self.bar) & (best >= CLEAR_BEST)) | (equal >= self.tie_level)

    def _chances(self, leads: np.ndarray, more: np.ndarray, prior: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Of each draw: that the first is ahead of its nearest, that it is the best, that the two are equal for any purpose; averaged over scatters (M,) or by its own (S, 1)."""
        sd, shrink = np.sqrt(2 / (more + prior)), more / (more + prior)
        nearest = leads[:, -1:]
        best = np.prod(ndtr(leads[:, :, None] * (shrink / sd if more.ndim == 1 else (shrink / sd)[:, None, :])), axis=1)
        gap = nearest * shrink
        equal = ndtr((self.delta - gap) / sd) - ndtr((-self.delta - gap) / sd)
        return ndtr(nearest / np.sqrt(2 / more)).mean(1), best.mean(1), equal.mean(1)


def spent(*, flights: int, brews: int, grams: float, minutes: float) -> str:
    """What the question has cost until now. grams: of coffee; minutes: of brewing, weighing and reading."""
    return f"Spent: {figures.counted(flights, 'flight')}, {figures.counted(brews, 'brew')}, {figures.grams(grams)} g, {figures.work_time(minutes)}."


def without_scores(kind: str) -> str:
    """What a flight that asked only for order or preference leaves open, by kind of answer; '' for the others."""
    return ONLY_ORDER if kind in ("ranks", "pairs") else ""


ONLY_ORDER = "An order does not say by how much: score the first ones in a blind flight to learn that."


def _beyond(peak: Peak, measure: Measure, nodes, j: int, dose: float, minutes: float) -> Step:
    """One step beyond the end at which liking still rises: worth its gain, as far as it would be believed after two brews."""
    mean, sd = peak.next_gain
    e2, ts2, b2 = (nodes.weight[:, None] * nodes.sds**2).sum(0)
    v = 2 * (ts2 / j + b2 / FLIGHT_BREWS + e2 / (j * FLIGHT_BREWS))
    believed = max(sd**2 / math.sqrt(sd**2 + v), 1e-9)
    removes = mean * ndtr(mean / believed) + believed * normal_density(mean / believed)
    grams, spent = FLIGHT_BREWS * 2 * dose, FLIGHT_BREWS * 2 * (minutes + MINUTES_A_CUP)
    text = f"Liking still rises at the end of what was tested: brew {measure.say(peak.next_value)} twice beside the best so far: {figures.grams(grams)} g, {figures.work_time(spent)}."
    return Step("next_value", text, float(removes), None, grams, spent, (), FLIGHT_BREWS, 0, peak.next_value)


COUNTS = {1: "One more brew", 2: "Two more brews"}


def _text(code: str, who: str, brews: int, tasters: int, grams: float, minutes: float, times: str) -> str:
    people = f"tasted by {tasters} more people" if tasters else "one flight"
    return f"{COUNTS[brews]} of {who}, {people}: {figures.grams(grams)} g, {figures.work_time(minutes)}. {times}"


def _times(share: float, asks: str) -> str:
    """Of a verdict that is clear, or a practical tie."""
    tenths = int(figures.rounded(10 * share, 0))
    if tenths in (0, 10):
        return f"It would almost never settle {asks}." if tenths == 0 else f"It would almost surely settle {asks}."
    return f"It would settle {asks} {tenths} time{'' if tenths == 1 else 's'} in 10."
