"""What a planned panel can and cannot see: the lead a setup must have to be called clear. docs/judging.md §3, §4, §6.

Panels are simulated in closed form (balanced and complete): mean squares are drawn from their chi-square laws, the
posterior over the three SDs is worked on a grid exactly as a verdict would, and each panel's own threshold follows: the
least lead for which P(leader > rival) reaches the bar after that many flights. The lead called 8 times in 10 is then the 80 % point over panels.
Where it stops being true: scores are taken as unbounded and continuous (leads beyond 6 of 9 points cannot be scored),
and the second condition of "clear", P(best) ≥ 0.85, is not simulated: it rarely binds where the first holds.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from .. import figures
from ..distributions import ndtr
from ..judging.learnt import clear_each
from ..judging.scatter_prior import BREW_REACH, NOISE, NOISE_LOG_SD, TASTER_SETUP_REACH, log_prior
from ..limits import check

PANELS = 300
SEED = 20_480
FEWEST_TASTERS = 2
MOST_TASTERS = 12
CALLED = 0.8
MINUTES_A_BREW, MINUTES_A_CUP, MINUTES_A_TASTER = 10.0, 1.5, 60.0
"""What help costs, in person-minutes: brewing and reading, tasting one cup, bringing in one more person."""


@dataclass(frozen=True)
class Scatter:
    """SDs in points of the 9-point scale: taster × setup, brew to brew, and noise. source: where they come from, in words."""

    taster_setup: float = 0.6
    brew: float = 0.3
    noise: float = 1.15
    source: str = "usual small panels"


USUAL = Scatter()
FEWEST_FLIGHTS, FEWEST_CUPS = 3, 60
"""Flipped blind flights and scored cups a bench needs before its own scatter says more than the usual one."""


@dataclass(frozen=True)
class Seen:
    """One plan: tasters, brews of each setup in all; lead_50, lead_80: points a setup must lead by to be called clear in
    half, and in 8 of 10 panels (None: never, whatever the lead); width: of a 95 % interval for a difference, on average."""

    tasters: int
    brews: int
    lead_50: float | None
    lead_80: float | None
    width: float | None


@dataclass(frozen=True)
class Way:
    """Something one could add, what it does to lead_80, and what it costs: brews, cups to taste, and person-minutes by the constants above."""

    code: str
    text: str
    lead_80: float | None
    extra_brews: int
    extra_cups: int
    minutes: float


@dataclass(frozen=True)
class Power:
    """here: the plan asked about. chance: how often a lead of `lead` is called. sentence: what to say before the coffee
    is spent. ways: what would help, best first; halving: the cheapest plan with half the lead, or None."""

    here: Seen
    lead: float
    chance: float
    sentence: str
    chance_sentence: str
    ways: tuple[Way, ...]
    cheapest: Way | None
    halving: Seen | None


def needed_leads(
    *, setups: int, tasters: int, brews: int, flights: int = 1, scatter: Scatter = USUAL, seed: int = SEED, panels: int = PANELS
) -> tuple[np.ndarray, np.ndarray]:
    """For each simulated panel: the true lead at which it would have called the leader clear (inf: never), and the width
    of its interval for a difference. setups 2–24, tasters 1–50, brews 1–50 of each setup in all flights.

    J = 2 with single brews, and J = 1 with single brews, never give a verdict (docs/judging.md §4).
    """
    if brews == 1 and tasters <= 2:
        return np.full(panels, np.inf), np.full(panels, np.nan)
    rng = np.random.default_rng([seed, setups, tasters, brews])
    drawn = _draw_mean_squares(rng, panels, setups, tasters, brews, scatter)
    weight, v = posterior_of(drawn, setups, tasters, brews)
    threshold, half = _quantiles(weight, np.sqrt(2 * v), (clear_each(flights), 0.975))
    true_v = scatter.taster_setup**2 * (tasters > 1) / tasters + scatter.brew**2 / brews + scatter.noise**2 / (tasters * brews)
    error = rng.standard_normal((panels, setups)) * math.sqrt(true_v)
    return threshold - error[:, 0] + error[:, 1:].max(1), 2 * half


def _draw_mean_squares(rng, panels: int, k: int, j: int, r: int, s: Scatter):
    """(df, sum of squares) per stratum; a stratum without degrees of freedom is left out."""
    e2, ts2, b2 = s.noise**2, s.taster_setup**2 * (j > 1), s.brew**2
    strata = ((j - 1) * (k - 1), e2 + r * ts2), (k * (r - 1), e2 + j * b2), (k * (j - 1) * (r - 1), e2)
    return [(df, expected * rng.chisquare(df, panels) if df else np.zeros(panels)) for df, expected in strata]


def posterior_of(drawn, k: int, j: int, r: int) -> tuple[np.ndarray, np.ndarray]:
    """Weights (panels, nodes) over the grid of SDs, and v of each node, of balanced and complete panels: k setups, j tasters, r brews. drawn: degrees of freedom and sums of
    squares (panels,) of tasters × setups, brews and noise. docs/judging.md §3."""
    one_taster = j == 1
    log_noise = np.log(NOISE) + NOISE_LOG_SD * np.linspace(-2.6, 2.6, 9)
    ts = np.zeros(1) if one_taster else (np.arange(9) + 0.5) / 9 * 0.9 * TASTER_SETUP_REACH
    b = (np.arange(9) + 0.5) / 9 * 0.9 * BREW_REACH
    log_noise, ts, b = (x.ravel() for x in np.meshgrid(log_noise, ts, b, indexing="ij"))
    e2, ts2, b2 = np.exp(2 * log_noise), ts**2, b**2
    log_post = log_prior(np.exp(log_noise), ts, b, scale=1.0)
    log_post = np.broadcast_to(log_post, (len(drawn[0][1]), len(e2))).copy()
    for (df, ss), expected in zip(drawn, (e2 + r * ts2, e2 + j * b2, e2), strict=True):
        if df:
            log_post -= 0.5 * (df * np.log(expected)[None, :] + ss[:, None] / expected[None, :])
    weight = np.exp(log_post - log_post.max(1, keepdims=True))
    weight /= weight.sum(1, keepdims=True)
    return weight, ts2 / j + b2 / r + e2 / (j * r)


def _quantiles(weight: np.ndarray, sd: np.ndarray, probabilities: Sequence[float]) -> list[np.ndarray]:
    """Upper quantiles of each panel's zero-centred normal mixture, by bisection on nodes thinned to equal SD classes."""
    edges = np.quantile(sd, np.linspace(0, 1, 65))
    bins = np.clip(np.searchsorted(edges, sd, side="right") - 1, 0, 63)
    onto = np.zeros((len(sd), 64))
    onto[np.arange(len(sd)), bins] = 1
    mass = weight @ onto
    centre = (weight * sd) @ onto / np.maximum(mass, 1e-300)
    out = []
    for p in probabilities:
        low, high = np.zeros(len(weight)), np.full(len(weight), 40.0)
        for _ in range(26):
            middle = (low + high) / 2
            below = (mass * ndtr(middle[:, None] / np.maximum(centre, 1e-9))).sum(1)
            low, high = np.where(below < p, middle, low), np.where(below < p, high, middle)
        out.append((low + high) / 2)
    return out


@lru_cache(maxsize=1024)
def seen(*, setups: int, tasters: int, brews: int, flights: int = 1, scatter: Scatter = USUAL) -> Seen:
    """The leads one plan can see. Checked against the table of docs/judging.md §6 in tests/core/test_power.py."""
    leads, widths = needed_leads(setups=setups, tasters=tasters, brews=brews, flights=flights, scatter=scatter)
    return Seen(tasters, brews, _point(leads, 0.5), _point(leads, CALLED), None if np.isnan(widths).all() else round(float(np.nanmean(widths)), 2))


def _point(leads: np.ndarray, share: float) -> float | None:
    value = float(np.quantile(np.where(np.isfinite(leads), leads, 1e9), share))
    return None if value > 1e6 else round(max(0.0, value), 2)


def curve(
    *, setups: int, brews: int, flights: int = 1, scatter: Scatter = USUAL, most_tasters: int = MOST_TASTERS, go_on: Callable[[], bool] = lambda: True
) -> tuple[Seen, ...]:
    """One Seen for each number of tasters from 2 up to most_tasters, or as many as there are once go_on says no; at least one. Asked again, it goes on from there.
    One taster stands on no curve: what one person finds holds for that person alone."""
    out: list[Seen] = []
    for tasters in range(FEWEST_TASTERS, max(FEWEST_TASTERS, most_tasters) + 1):
        if out and not go_on():
            break
        out.append(seen(setups=setups, tasters=tasters, brews=brews, flights=flights, scatter=scatter))
    return tuple(out)


def power(*, setups: int, tasters: int, replicates: int, flights: int = 1, lead: float = 0.5, scatter: Scatter = USUAL) -> Power:
    """What this plan can see, and what would help most for its cost. Every flight is brewed afresh: brews = replicates × flights.

    lead: points of 9 that matter. Raises OutOfDomain. Source: docs/formulas.md §8.5, docs/judging.md §6.
    """
    check(setups=setups, tasters=tasters, replicates=replicates, flights=flights, lead_points=lead)
    brews = replicates * flights
    leads, _ = needed_leads(setups=setups, tasters=tasters, brews=brews, flights=flights, scatter=scatter)
    here = seen(setups=setups, tasters=tasters, brews=brews, flights=flights, scatter=scatter)
    ways = _ways(setups, tasters, replicates, flights, scatter)
    return Power(
        here=here,
        lead=lead,
        chance=float((leads <= lead).mean()),
        sentence=_sentence(here, setups, replicates, flights),
        chance_sentence=_chance_sentence(float((leads <= lead).mean()), lead),
        ways=ways,
        cheapest=_cheapest(here, ways),
        halving=_halving(setups, flights, here, scatter),
    )


def _ways(setups: int, tasters: int, replicates: int, flights: int, scatter: Scatter) -> tuple[Way, ...]:
    brews = replicates * flights
    plans = (
        ("one_more_brew", "one more brew of each setup", tasters, (replicates + 1) * flights, flights),
        ("one_more_flight", "one more flight, brewed afresh", tasters, replicates * (flights + 1), flights + 1),
        ("two_more_tasters", "two more tasters", tasters + 2, brews, flights),
        ("twice_the_tasters", "twice the tasters", 2 * tasters, brews, flights),
    )
    out, met = [], set()
    for code, text, j, r, looks in plans:
        if (j, r) in met:
            continue
        met.add((j, r))
        found = seen(setups=setups, tasters=j, brews=r, flights=looks, scatter=scatter)
        more_brews, more_cups = setups * (r - brews), setups * (j * r - tasters * brews)
        minutes = MINUTES_A_BREW * more_brews + MINUTES_A_CUP * more_cups + MINUTES_A_TASTER * (j - tasters)
        out.append(Way(code, text, found.lead_80, more_brews, more_cups, minutes))
    return tuple(sorted(out, key=lambda w: math.inf if w.lead_80 is None else w.lead_80))


def _cheapest(here: Seen, ways: Sequence[Way]) -> Way | None:
    """The most lead taken off per person-minute."""
    before = 12.0 if here.lead_80 is None else here.lead_80
    helping = [w for w in ways if w.lead_80 is not None and w.lead_80 < before - 0.05]
    return max(helping, key=lambda w: (before - w.lead_80) / w.minutes, default=None)


def _halving(setups: int, flights: int, here: Seen, scatter: Scatter) -> Seen | None:
    """The plan of fewest cups whose lead_80 is half of this one's, up to 8 brews of each and 16 tasters."""
    if here.lead_80 is None:
        return None
    panels = {j for j in (here.tasters, here.tasters + 2, 2 * here.tasters, 2 * here.tasters + 2) if j <= 16}
    for _, j, r in sorted((j * r, j, r) for j in panels for r in range(here.brews, min(here.brews + 5, 9)) if j * r >= 2 * here.tasters * here.brews):
        found = seen(setups=setups, tasters=j, brews=r, flights=flights, scatter=scatter)
        if found.lead_80 is not None and found.lead_80 <= here.lead_80 / 2:
            return found
    return None


def _chance_sentence(chance: float, lead: float) -> str:
    said = "almost never be called" if chance < 0.005 else f"be called {figures.per_cent(100 * chance)} % of the time"
    comfort = " Most small panels cannot prove that much; the verdict still says which to keep, and how sure it is." if chance < 0.5 else ""
    return f"A true lead of {lead:g} would {said}.{comfort}"


def _sentence(here: Seen, setups: int, replicates: int, flights: int) -> str:
    each_flight = f" in {_count(flights, 'flight')}" if flights > 1 else ""
    who = f"{_count(here.tasters, 'taster')} and {_count(replicates, 'brew')} of each{each_flight}".capitalize()
    if here.lead_80 is None:
        return f"{who} cannot call a winner, however good it is: brew each at least twice."
    if here.lead_80 > 6:
        return f"{who} will hardly ever call a winner: it would have to lead by more than 6 points of 9."
    alone = " What one taster finds holds for that person alone." if here.tasters == 1 else ""
    return f"{who} will call a winner 8 times in 10 only when it leads by {figures.points(here.lead_80)} points of 9.{alone}"


NUMBER_WORDS = ("No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten", "Eleven", "Twelve")


def _count(n: int, word: str) -> str:
    number = NUMBER_WORDS[n].lower() if n < len(NUMBER_WORDS) else str(n)
    return f"{number} {word}{'' if n == 1 else 's'}"
