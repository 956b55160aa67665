"""What liking costs: price and minutes a cup, the frontier nobody beats, and what to take in a tie. docs/formulas.md §10."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from .. import figures

PER_GRAM = 1 / 1000


@dataclass(frozen=True)
class SetupValue:
    """price: currency units a cup, minutes: of hands and waiting a cup; None where not known. on_price_frontier: no other is
    liked at least as well for less; on_time_frontier: the same in minutes."""

    setup: str
    liking: float
    price: float | None
    minutes: float | None
    on_price_frontier: bool
    on_time_frontier: bool


def cup_price(*, dose_g: float, coffee_per_kg: float | None, filter_each: float | None) -> float | None:
    """Coffee and paper of one brew; None when the coffee's price is not known. Kit that lasts is not in it.

    >>> round(cup_price(dose_g=18, coffee_per_kg=34, filter_each=0.06), 3)
    0.672
    """
    return None if coffee_per_kg is None else dose_g * PER_GRAM * coffee_per_kg + (filter_each or 0.0)


def coffee_per_kg(facts: Mapping[str, Any]) -> float | None:
    """The price of a coffee per kg: as given, else by its bag; None where neither is known.

    >>> coffee_per_kg({"price_per_kg": 30}), round(coffee_per_kg({"bag_price": 20, "bag_size": 12, "bag_unit": "oz"}), 2), coffee_per_kg({"bag_price": 20})
    (30, 58.79, None)
    """
    if facts.get("price_per_kg") is not None:
        return facts["price_per_kg"]
    price, size = facts.get("bag_price"), facts.get("bag_size")
    if price is None or not size:
        return None
    return price / (size * (figures.G_PER_OZ if facts.get("bag_unit") == "oz" else 1.0) * PER_GRAM)


DAYS_A_YEAR = 365.25


def kit_a_cup(price: float, *, years: float, cups_a_day: float) -> float:
    """What kit that lasts costs a cup, over a stated life.

    >>> round(kit_a_cup(640, years=5, cups_a_day=2), 3)
    0.175
    """
    return price / (years * DAYS_A_YEAR * cups_a_day)


MOST_ALIKE = 1.05
"""Kit within a twentieth of another's price costs the same."""


def bought(dearer: str, cheaper: str, times: float, points: float, interval: tuple[float, float], saved_s: float | None) -> str:
    """What dearer kit gives: liking gained with its interval, and seconds saved on a dose (None where a speed is not known).

    >>> bought("A", "B", 10.0, 1.2, (-0.3, 2.7), 47.0)
    'At 10 times the price, A buys +1.2 points over B (−0.3 to +2.7), 47 s a dose saved. It is not shown to be liked more.'
    """
    low, high = interval
    time = ""
    if saved_s is not None and abs(saved_s) >= 1:
        time = f", {figures.seconds(abs(saved_s))} s a dose {'saved' if saved_s > 0 else 'lost'}"
    signed = [figures.signed(x, figures.points) for x in (points, low, high)]
    shown = " It is not shown to be liked more." if low <= 0 else ""
    return f"At {times:.2g} times the price, {dearer} buys {signed[0]} points over {cheaper} ({signed[1]} to {signed[2]}){time}.{shown}"


def kit_apart(kit: Mapping[str, Mapping[str, float | None]]) -> dict[str, float]:
    """Setup → what its kit costs that not all setups share, of those where every such piece has a price. kit: setup → name → price, None where it is not known.

    >>> kit_apart({"A": {"Mill": 640, "Cone": None}, "B": {"Hand mill": 64, "Cone": None}, "C": {"Old mill": None, "Cone": None}})
    {'A': 640, 'B': 64}
    """
    shared = set.intersection(*(set(pieces) for pieces in kit.values())) if kit else set()
    apart = {setup: [price for name, price in pieces.items() if name not in shared] for setup, pieces in kit.items()}
    return {setup: sum(p for p in prices if p is not None) for setup, prices in apart.items() if prices and None not in prices}


def values_of(
    liking: Mapping[str, float], price: Mapping[str, float | None], minutes: Mapping[str, float | None], *, dropped: Collection[str] = ()
) -> tuple[SetupValue, ...]:
    """Each setup with its place on both frontiers, best liked first. dropped: shown to be liked less, so the best value of nothing."""
    on_price, on_time = _frontier(liking, price) - set(dropped), _frontier(liking, minutes) - set(dropped)
    return tuple(
        SetupValue(name, liking[name], price.get(name), minutes.get(name), name in on_price, name in on_time)
        for name in sorted(liking, key=lambda n: (-liking[n], n))
    )


def _frontier(liking: Mapping[str, float], cost: Mapping[str, float | None]) -> set[str]:
    """Setups no other beats: none is liked as well and costs no more, one of the two strictly.

    >>> sorted(_frontier({"A": 7, "B": 6, "C": 6.5}, {"A": 3, "B": 1, "C": 3}))
    ['A', 'B']
    """
    known = {n: c for n in liking if (c := cost.get(n)) is not None}

    def beaten(n: str) -> bool:
        return any(liking[o] >= liking[n] and known[o] <= known[n] and (liking[o] > liking[n] or known[o] < known[n]) for o in known)

    return {n for n in known if not beaten(n)}


def best_value(found: Sequence[SetupValue], names: Mapping[str, str], *, by: Literal["price", "minutes"]) -> str:
    """Who nobody beats, with what they are liked and cost; '' where fewer than two costs are known or an order is all there is.

    >>> best_value([SetupValue("A", 6.94, 0.45, 3.0, True, True), SetupValue("B", 6.0, 0.5, 2.0, False, True)], {"A": "Paper", "B": "Mesh"}, by="price")
    'Best value: Paper (6.9 for 0.45).'
    """
    if sum(getattr(w, by) is not None for w in found) < 2:
        return ""
    cost = figures.price if by == "price" else lambda x: f"{figures.minutes_fine(x)} min"
    said = [
        f"{names[w.setup]} ({figures.points(w.liking)} for {cost(getattr(w, by))})"
        for w in found
        if (w.on_price_frontier if by == "price" else w.on_time_frontier)
    ]
    return f"Best value: {', '.join(said)}." if said else ""


LEAST_PRICE, LEAST_MINUTES = 0.005, 0.25
"""Differences below these are none."""


def same_cost(costs: Sequence[float | None], least: float) -> float | None:
    """What all of them cost, where two or more are known and none differs by as much as `least`; else None.

    >>> same_cost([0.49, 0.493, None], LEAST_PRICE), same_cost([3.0, 4.0], LEAST_MINUTES)
    (0.4915, None)
    """
    known = [c for c in costs if c is not None]
    return (min(known) + max(known)) / 2 if len(known) > 1 and max(known) - min(known) < least else None


def tie_breaker(tied: Sequence[str], found: Sequence[SetupValue], names: Mapping[str, str]) -> str:
    """What to take among setups liked alike: the cheaper, else the faster; says when neither is known to differ."""
    rows = [w for w in found if w.setup in tied]
    words = []
    for what, unit, least in (("price", "a cup", LEAST_PRICE), ("minutes", "min", LEAST_MINUTES)):
        known = [w for w in rows if getattr(w, what) is not None]
        if len(known) < len(rows) or len(known) < 2:
            continue
        low, high = min(known, key=lambda w: (getattr(w, what), w.setup)), max(known, key=lambda w: getattr(w, what))
        gap = getattr(high, what) - getattr(low, what)
        if gap >= least:
            words.append((low.setup, f"{figures.price(gap)} {unit} cheaper" if what == "price" else f"{figures.points(gap)} {unit} faster"))
    if not words:
        return "Neither price nor time tells them apart: take the one you find easier."
    first, _ = words[0]
    both = [r for s, r in words if s == first]
    said = f"Take {names.get(first, first)}: it is {' and '.join(both)}"
    other = [(s, r) for s, r in words if s != first]
    return f"{said}; {names.get(other[0][0], other[0][0])} is {other[0][1]}." if other else f"{said}."


@dataclass(frozen=True)
class Gain:
    """Liking gained per unit of money by changing one factor from its cheaper to its dearer level. text says when it is none."""

    factor: str
    points: float
    interval: tuple[float, float]
    price: float
    points_per_unit: float | None
    text: str


def gain_per_money(factor: str, cheaper: str, dearer: str, points: float, interval: tuple[float, float], price: float) -> Gain:
    """points: liking of the dearer level less the cheaper's; price: how much dearer a cup is, > 0."""
    if interval[0] <= 0:
        text = f"{dearer} costs {figures.price(price)} a cup more than {cheaper}; it is not shown to be liked more."
        return Gain(factor, points, interval, price, None, text)
    return Gain(
        factor,
        points,
        interval,
        price,
        points / price,
        f"{dearer} costs {figures.price(price)} a cup more and gains {figures.points(points)} points over {cheaper}.",
    )
