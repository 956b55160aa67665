"""What a plan costs: coffee, water, filters, minutes, cups, sips, caffeine. docs/formulas.md §8.4."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .. import figures
from .minutes import SIEVE_SAMPLE_MIN

CAFFEINE_MG_PER_G: dict[str, tuple[float, float]] = {"arabica": (10, 12), "robusta": (20, 25)}
USUAL_BLEND_SHARE = 0.3
AT_ONCE_MG = 200
A_DAY_MG = 400
GUIDANCE = (
    "Public-health advice for healthy adults: at most 200 mg at once and 400 mg a day; less in pregnancy, for minors, with some medicines or heart "
    "conditions. Spitting lowers it: have spit cups. Your own doctor knows better than this sum."
)
RINSE_WATER_G = 100.0
USUAL_SAMPLE_G = 10.0


@dataclass(frozen=True)
class BrewCost:
    """What one brew of a setup takes. minutes: by `minutes.trial_brew_minutes`; beverage_g: by the recipe's outlook. purge_g: thrown away before the dose; species: for caffeine (a blend: the share of
    robusta). filter: '' when none or reusable."""

    coffee: str
    dose_g: float
    water_g: float
    beverage_g: float
    minutes: float
    filter: str = ""
    purge_g: float = 0.0
    robusta_share: float = 0.0


@dataclass(frozen=True)
class Amounts:
    """How often everything is done. sip_g: one sip; sips_per_cup: passes × attributes do not add sips, tasting again does;
    share_drunk: 0 (all spat) to 1."""

    replicates: int
    flights: int
    tasters: int
    dial_in_brews: int = 1
    sieve_samples: int = 0
    sieve_sample_g: float = USUAL_SAMPLE_G
    sip_g: float = 10.0
    sips_per_cup: int = 3
    share_drunk: float = 1.0


@dataclass(frozen=True)
class CoffeeNeed:
    """short_g: how much is missing; None when the stock is not known."""

    coffee: str
    brews_g: float
    dial_in_g: float
    purge_g: float
    sieve_g: float
    stock_g: float | None

    @property
    def total_g(self) -> float:
        return self.brews_g + self.dial_in_g + self.purge_g + self.sieve_g

    @property
    def short_g(self) -> float | None:
        return None if self.stock_g is None else max(0.0, self.total_g - self.stock_g)


@dataclass(frozen=True)
class Budget:
    """caffeine in mg per taster: (low, high). servable: whether one brew fills a tasting cup for everybody."""

    brews: int
    coffees: tuple[CoffeeNeed, ...]
    water_g: float
    filters: Mapping[str, int]
    minutes: float
    cups_per_taster: int
    cups_per_flight: int
    sips_per_taster: int
    drunk_g_per_taster: float
    caffeine_flight_mg: tuple[float, float]
    caffeine_day_mg: tuple[float, float]
    warnings: tuple[str, ...]
    guidance: str = GUIDANCE

    @property
    def coffee_g(self) -> float:
        return sum(c.total_g for c in self.coffees)


def robusta_share(species: str, stated: float | None) -> float:
    """0 to 1 by species; a blend's own share, or the usual 0.3.

    >>> robusta_share("arabica", 0.4), robusta_share("robusta", None), robusta_share("blend", None)
    (0.0, 1.0, 0.3)
    """
    if species == "blend":
        return USUAL_BLEND_SHARE if stated is None else stated
    return 1.0 if species == "robusta" else 0.0


def budget(setups: Sequence[BrewCost], amounts: Amounts, stock_g: Mapping[str, float]) -> Budget:
    """The sums over setups × replicates × flights, dial-in brews once per setup, sieve samples once per setup.

    stock_g: coffee → g on the shelf, for those known. Every flight is brewed afresh. Source: docs/formulas.md §8.4.
    """
    per_flight = len(setups) * amounts.replicates
    brews = per_flight * amounts.flights
    needs = _coffees(setups, amounts, stock_g)
    each = amounts.replicates * amounts.flights + amounts.dial_in_brews
    filters: dict[str, int] = defaultdict(int)
    for s in setups:
        if s.filter:
            filters[s.filter] += each
    sips = per_flight * amounts.flights * amounts.sips_per_cup
    sip_g = amounts.sips_per_cup * amounts.sip_g
    each_g = sum(sipped_share(sip_g, s.beverage_g, amounts.tasters) * s.beverage_g for s in setups) * amounts.replicates * amounts.flights
    drunk = each_g * amounts.share_drunk
    flight_mg = _caffeine(setups, amounts)
    day_mg = (flight_mg[0] * amounts.flights, flight_mg[1] * amounts.flights)
    return Budget(
        brews=brews,
        coffees=needs,
        water_g=sum((s.water_g + (RINSE_WATER_G if s.filter else 0)) * each for s in setups),
        filters=dict(filters),
        minutes=sum(s.minutes * each for s in setups) + len(setups) * amounts.sieve_samples * SIEVE_SAMPLE_MIN,
        cups_per_taster=brews,
        cups_per_flight=per_flight,
        sips_per_taster=sips,
        drunk_g_per_taster=drunk,
        caffeine_flight_mg=flight_mg,
        caffeine_day_mg=day_mg,
        warnings=tuple(_warnings(setups, amounts, needs, per_flight, flight_mg, day_mg)),
    )


def _coffees(setups: Sequence[BrewCost], amounts: Amounts, stock_g: Mapping[str, float]) -> tuple[CoffeeNeed, ...]:
    each = amounts.replicates * amounts.flights
    names = list(dict.fromkeys(s.coffee for s in setups))
    out = []
    for name in names:
        mine = [s for s in setups if s.coffee == name]
        out.append(
            CoffeeNeed(
                coffee=name,
                brews_g=sum(s.dose_g for s in mine) * each,
                dial_in_g=sum(s.dose_g for s in mine) * amounts.dial_in_brews,
                purge_g=sum(s.purge_g for s in mine) * (each + amounts.dial_in_brews),
                sieve_g=len(mine) * amounts.sieve_samples * amounts.sieve_sample_g,
                stock_g=stock_g.get(name),
            )
        )
    return tuple(out)


def _caffeine(setups: Sequence[BrewCost], amounts: Amounts) -> tuple[float, float]:
    """mg a taster takes in one flight: the dose's caffeine, by the share of the drink that is sipped and swallowed, never more than
    one taster's part of the drink there is.

    Twelve grams at 200 g of drink, three 10 g sips: 0.15 × 12 g × 10 to 12 mg/g.
    """
    low = high = 0.0
    for s in setups:
        taken = sipped_share(amounts.sips_per_cup * amounts.sip_g, s.beverage_g, amounts.tasters) * amounts.share_drunk
        a, r = CAFFEINE_MG_PER_G["arabica"], CAFFEINE_MG_PER_G["robusta"]
        grams = s.dose_g * taken * amounts.replicates
        low += grams * ((1 - s.robusta_share) * a[0] + s.robusta_share * r[0])
        high += grams * ((1 - s.robusta_share) * a[1] + s.robusta_share * r[1])
    return low, high


def sipped_share(sipped_g: float, drink_g: float, tasters: int) -> float:
    """The share of one brew that one taster can take: as many sips as are asked for, at most an equal part of what there is.

    >>> sipped_share(30, 250, 4), round(sipped_share(30, 100, 6), 3)
    (0.12, 0.167)
    """
    return min(sipped_g / max(drink_g, 1.0), 1 / max(1, tasters))


def _warnings(setups, amounts: Amounts, needs: Sequence[CoffeeNeed], per_flight: int, flight_mg, day_mg):
    for need in needs:
        if need.short_g:
            yield f"{need.coffee or 'The coffee'}: {math.ceil(need.short_g)} g short of the {math.ceil(need.total_g)} g this takes."
    if flight_mg[1] > AT_ONCE_MG:
        yield f"Up to {figures.milligrams(flight_mg[1])} mg of caffeine at one sitting is over the public guidance of {AT_ONCE_MG} mg: spit, or split the flight."
    if day_mg[1] > A_DAY_MG:
        yield f"Up to {figures.milligrams(day_mg[1])} mg if all flights are tasted in one day is over {A_DAY_MG} mg: spread them over days."
    if per_flight > 8:
        yield f"{per_flight} cups in one flight: palates tire after six to eight cups. Split it into flights that each hold every setup."
    poured = amounts.tasters * amounts.sip_g * amounts.sips_per_cup
    short = [s for s in setups if s.beverage_g < poured]
    if short:
        yield f"One brew gives {figures.grams(min(s.beverage_g for s in short))} g of drink; {amounts.tasters} tasters sip {figures.grams(poured)} g: brew larger, or taste in two flights."
