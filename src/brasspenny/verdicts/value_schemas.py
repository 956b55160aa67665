"""HTTP shapes of pairing, value, factorials and next steps."""

from __future__ import annotations

from typing import Literal

from ..core.judging.measures import MEASURE
from ..http import Answer, Body

MeasureCode = Literal[tuple(MEASURE)]


class CurvePoint(Answer):
    """One brew: its number and the attribute's mean over the tasters."""

    letter: str
    label: str
    x: float
    mean: float
    n: int


class CurveShown(Answer):
    """kind: peak, no_peak, not_located, too_few_levels, not_varied (what went together, without a best point) or none (then text says why there is no curve). group: whose it is, where the panel holds different kinds of drinkers; "" of all. chances:
    letter → that it is the best of those tested."""

    measure: MeasureCode
    group: str
    label: str
    unit: str
    prefix: str
    places: int
    kind: str
    text: str
    best: float | None
    interval: list[float] | None
    tested: list[float] | None
    rising: str
    next_value: float | None
    chances: dict[str, float]
    x: list[float]
    y: list[float]
    low: list[float]
    high: list[float]
    points: list[CurvePoint]


class TrendShown(Answer):
    """change: of the attribute from the lowest to the highest rung, points of its own scale, with its 95 % interval."""

    attribute: str
    label: str
    change: float
    interval: list[float]
    tested: list[float]
    shown: bool


class TrendsAnswer(Answer):
    """Of a ladder: what becomes of each attribute along it, and in words. Empty elsewhere."""

    trends: list[TrendShown]
    text: list[str]


class SurfaceShown(Answer):
    """liking[i][j] at tds_pct[i] and ey_pct[j]; guess: outside what was brewed, or too unsure."""

    ey_pct: list[float]
    tds_pct: list[float]
    liking: list[list[float]]
    guess: list[list[bool]]
    points: int
    best: list[float] | None


class PairingAnswer(Answer):
    """An attribute against what was measured. surface: null below eight distinct points of yield and strength."""

    attribute: str
    label: str
    low: float
    high: float
    curves: list[CurveShown]
    surface: SurfaceShown | None
    surface_text: str


class ValueShown(Answer):
    """liking: null where only an order was asked for. price: coffee and paper with kit that lasts, a cup; used_up: coffee and paper alone; kit: of that, what lasts."""

    setup: str
    name: str
    liking: float | None
    price: float | None
    used_up: float | None
    kit: float
    minutes: float | None
    on_price_frontier: bool
    on_time_frontier: bool


class GainShown(Answer):
    factor: str
    points: float
    interval: list[float]
    price: float
    points_per_unit: float | None
    text: str


class LevelShown(Answer):
    level: str
    estimate: float
    interval: list[float]


class FactorShown(Answer):
    factor: str
    label: str
    levels: list[LevelShown]
    best: str
    worst: str
    span: float
    span_interval: list[float]
    span_p: float
    size: float
    probability_largest: float


class InteractionShown(Answer):
    factors: list[str]
    text: str
    estimate: float
    interval: list[float]
    p_value: float


class FactorialShown(Answer):
    factors: list[FactorShown]
    interactions: list[InteractionShown]
    text: str
    unit: str
    gains: list[GainShown]


class ParticlesShown(Answer):
    """The grind of a setup as its samples have it, beside what was tasted; null where it was not."""

    setup: str
    name: str
    samples: int
    median_um: float | None
    fines_pct: list[float] | None
    in_band_pct: list[float] | None
    clarity: float | None
    body: float | None


class ValueAnswer(Answer):
    """Liking against price and minutes a cup. kit_lasts_years, cups_a_day: how long kit that lasts is counted on; unpriced: of it, what has no price. bought: what dearer kit gives.
    particles: grinds with samples beside clarity and body; band: whose in-band share, empty where their stacks have no two sieves in common. best_price, best_minutes: who nobody beats, '' where only an order is known or drinkers differ. same_price, same_minutes: what every cup costs, null where cups differ. tie: what to take among those tied, '' without a tie."""

    setups: list[ValueShown]
    best_price: str
    best_minutes: str
    same_price: float | None
    same_minutes: float | None
    kit_lasts_years: float
    cups_a_day: float
    unpriced: list[str]
    bought: str
    particles: list[ParticlesShown]
    band: list[float]
    tie: str
    factorial: FactorialShown | None


class NextStepShown(Answer):
    """removes: points of expected regret; settles: chance of a clear verdict then, null for a new value. level: with the first, within what the simulation is unsure of. urged: the first, where it does not almost never settle
    the question."""

    code: Literal["one_more_brew", "one_more_flight", "more_tasters", "next_value"]
    text: str
    removes: float
    settles: float | None
    grams: float
    minutes: float
    setups: list[str]
    brews: int
    tasters: int
    value: float | None
    level: bool
    per_effort: float
    urged: bool


class NextAnswer(Answer):
    """Most doubt removed for its coffee and minutes first. regret: what choosing now risks, points. untasted: brews that are there and were poured in no flight: they come before any new one.
    note: why nothing is proposed, where that is so. spent: what the question has cost so far, '' before anything was tasted."""

    steps: list[NextStepShown]
    regret: float | None
    untasted: list[str]
    note: str
    spent: str


class DraftBody(Body):
    code: Literal["one_more_brew", "one_more_flight", "more_tasters", "next_value"]


class DraftAnswer(Answer):
    """station: where the draft is to be seen."""

    station: Literal["brew"]
    text: str
