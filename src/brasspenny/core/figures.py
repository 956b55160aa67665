"""How many decimals a figure is told with: the one place where the core's sentences round. The interface's is ui/numbers.ts.

A number somebody typed is told as it was typed (`:g`); what was worked out is told no finer than it is known. What a bench may want in
other units (temperatures, ratios, bags, prices) is told with its unit by the functions at the end, and nowhere else.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Literal

NOISE = 1e-7
"""Of the last place: a mean of half points that lies on a half is told upwards, however its sum was gathered."""


def rounded(value: float, places: int) -> float:
    """Halves away from zero, as people round and as the interface does (ui/numbers.ts).

    >>> rounded(7.25, 1), rounded(7.249999999999, 1), rounded(-0.125, 2), rounded(-0.04, 1)
    (7.3, 7.3, -0.13, 0.0)
    """
    scale = 10**places
    found = math.floor(abs(value) * scale + 0.5 + NOISE) / scale
    return -found if value < 0 and found else found


def _to(places: int, what: str) -> Callable[[float], str]:
    def told(value: float) -> str:
        return f"{rounded(value, places):.{places}f}"

    told.__doc__ = what
    return told


grams = _to(0, "Masses of water and drink, g.")
grams_fine = _to(1, "Doses, and differences on a scale, g.")
millilitres = _to(0, "Room in a vessel, mL.")
tds = _to(2, "Strength, % TDS, as an instrument shows it.")
ey = _to(1, "Extraction yield, %.")
retained = _to(2, "Water kept by the grounds, g/g, measured.")
retained_usual = _to(1, "The same, as usual.")
seconds = _to(0, "s.")
minutes = _to(0, "min.")
minutes_fine = _to(1, "A time constant, min.")
hours = _to(1, "h.")
rate = _to(0, "A pour, g/s.")
points = _to(1, "Differences of scores.")
regret = _to(2, "Points a choice may give away.")
agreement = _to(2, "Of tasters, of 1.")
p_value = _to(3, "A chance under no difference.")
p_low = _to(2, "The same where it proves nothing.")
um = _to(0, "Sizes of particles, µm.")
grind_share = _to(1, "Shares of a grind, %.")
grind_rate = _to(2, "Grinding, g/s.")
grind_rate_coarse = _to(1, "The same in a line of many figures.")
seconds_fine = _to(1, "A time by the clock's tenths, s.")
of_five = _to(1, "A mean of marks from 1 to 5.")
how_many_times = _to(2, "One filter's resistance over another's.")
milligrams = _to(0, "Caffeine, mg.")
hardness = _to(0, "Minerals in water, mg/L.")
count = _to(0, "How often, about.")
per_cent = _to(0, "A number that is one already.")


def counted(number: int, word: str) -> str:
    """How many of what, for words that take an s.

    >>> counted(1, "flight"), counted(3, "earlier flight")
    ('1 flight', '3 earlier flights')
    """
    return f"{number} {word}{'' if number == 1 else 's'}"


def work_time(worked_min: float) -> str:
    """Work to come or done, as people plan it: minutes below two hours, hours from there.

    >>> work_time(28.4), work_time(119.6), work_time(268)
    ('28 min', '2.0 h', '4.5 h')
    """
    return f"{minutes(worked_min)} min" if rounded(worked_min, 0) < 120 else f"{hours(worked_min / 60)} h"


def signed(value: float, told: Callable[[float], str]) -> str:
    """A difference with its sign, as fine as its kind.

    >>> signed(-10.4, um), signed(0.2, um), signed(15, um), signed(-0.04, points)
    ('−10', '0', '+15', '0.0')
    """
    text = told(value)
    return text.replace("-", "−") if text.startswith("-") else f"+{text}" if float(text) else text


def grams_as_said(value: float) -> str:
    """A reading somebody is to look for on a scale, g: to its tenth, without an idle nought.

    >>> grams_as_said(120.5), grams_as_said(170.0)
    ('120.5', '170')
    """
    return f"{rounded(value, 1):g}"


def liking(value: float) -> str:
    """A mean of a scale from 1 to 9.

    >>> liking(7.5), liking(6.0)
    ('7.5', '6')
    """
    return f"{rounded(value, 1):g}"


def to_places(value: float, places: int) -> str:
    """A number whose own kind says how fine it is told.

    >>> to_places(15.42, 1)
    '15.4'
    """
    return f"{rounded(value, places):.{places}f}"


def significant(value: float) -> str:
    """To two figures, as small or large as it is: a step, a threshold.

    >>> significant(8.26), significant(0.0832), significant(12.6), significant(2.0)
    ('8.3', '0.083', '13', '2')
    """
    return f"{value:.2g}" if 1e-4 <= abs(value) < 99.5 or not value else f"{value:.0f}"


def chance(probability: float) -> str:
    """A probability that was worked out, never told as sure.

    >>> chance(0.873), chance(1.0), chance(0.0)
    ('87 %', 'more than 99 %', 'less than 1 %')
    """
    if probability >= 0.995:
        return "more than 99 %"
    return "less than 1 %" if probability < 0.005 else share(probability)


def share(part: float) -> str:
    """A share of one, in whole per cent.

    >>> share(0.873), share(1)
    ('87 %', '100 %')
    """
    return f"{rounded(100 * part, 0):.0f} %"


# --- what a bench may want in other units ----------------------------------------------------------------------------

HeatUnit = Literal["C", "F"]
RatioUnit = Literal["to_one", "per_100"]
BagUnit = Literal["g", "oz"]
G_PER_OZ = 28.349523125


@dataclass(frozen=True)
class Units:
    """How a bench has its figures told. heat: in °C or °F; ratio: 1:16, or 6.3 g of coffee per 100 g of water; bags: bags of coffee and what is
    ordered in g, or in oz as well (a brew is weighed in g everywhere); currency: what stands before a price, "" for none."""

    heat: HeatUnit = "C"
    ratio: RatioUnit = "to_one"
    bags: BagUnit = "g"
    currency: str = ""

    @property
    def mark(self) -> str:
        """What tells answers kept in these units from others: "" for the usual ones, else 8 hex digits."""
        return "" if self == Units() else hashlib.sha256(repr(self).encode()).hexdigest()[:8]


USUAL = Units()
_asked: ContextVar[Callable[[], Units]] = ContextVar("units", default=lambda: USUAL)


def units() -> Units:
    """Those of whoever is being told."""
    return _asked.get()()


def tell_in(source: Callable[[], Units]) -> None:
    """From here on in this context; source is asked when a figure is told."""
    _asked.set(source)


@contextmanager
def told_in(wanted: Units) -> Iterator[None]:
    """Within the block."""
    before = _asked.set(lambda: wanted)
    try:
        yield
    finally:
        _asked.reset(before)


def fahrenheit(celsius: float) -> float:
    """°F of a temperature in °C."""
    return 1.8 * celsius + 32


def _heat(celsius: float, told: Callable[[float], str]) -> str:
    unit = units().heat
    return f"{told(celsius if unit == 'C' else fahrenheit(celsius))} °{unit}"


def _apart(kelvin: float, told: Callable[[float], str]) -> str:
    unit = units().heat
    return f"{told(kelvin if unit == 'C' else 1.8 * kelvin)} °{unit}"


_tenth, _whole, _cents = _to(1, ""), _to(0, ""), _to(2, "")


def heat(celsius: float) -> str:
    """A temperature somebody sets, to the tenth they typed it with.

    >>> heat(93.3)
    '93.3 °C'
    >>> with told_in(Units(heat="F")):
    ...     heat(93.3), heat(90)
    ('199.9 °F', '194 °F')
    """
    return _heat(celsius, lambda value: f"{rounded(value, 1):g}")


def heat_fine(celsius: float) -> str:
    """A temperature that was worked out."""
    return _heat(celsius, _tenth)


def heat_whole(celsius: float) -> str:
    """A temperature told by hand."""
    return _heat(celsius, _whole)


def heat_apart(kelvin: float) -> str:
    """How far two temperatures are apart, worked out.

    >>> with told_in(Units(heat="F")):
    ...     heat_apart(2)
    '3.6 °F'
    """
    return _apart(kelvin, _tenth)


def heat_step(kelvin: float) -> str:
    """A step of a series, to two figures.

    >>> with told_in(Units(heat="F")):
    ...     heat_step(2.5)
    '4.5 °F'
    """
    return _apart(kelvin, significant)


def heat_apart_whole(kelvin: float) -> str:
    """How far two temperatures read by hand are apart."""
    return _apart(kelvin, _whole)


def ratio(brew_ratio: float) -> str:
    """Water to coffee, with R of 1:R.

    >>> ratio(16)
    '1:16.0'
    >>> with told_in(Units(ratio="per_100")):
    ...     ratio(16)
    '6.25 g per 100 g'
    """
    return f"1:{_tenth(brew_ratio)}" if units().ratio == "to_one" else f"{_cents(100 / brew_ratio)} g per 100 g"


def with_unit(text: str, unit: str) -> str:
    """What stands in a field, told with its unit; temperatures in the bench's.

    >>> with_unit("93", "°C"), with_unit("", "g"), with_unit("18", "g")
    ('93 °C', '', '18 g')
    >>> with told_in(Units(heat="F")):
    ...     with_unit("93", "°C")
    '199.4 °F'
    """
    if not text or not unit:
        return text
    return heat(float(text)) if unit == "°C" else f"{text} {unit}"


def joined(names: Sequence[str]) -> str:
    """As a sentence lists them; '' for none.

    >>> joined(["A"]), joined(["A", "B"]), joined(["A", "B", "C"])
    ('A', 'A and B', 'A, B and C')
    """
    *most, last = names or [""]
    return f"{', '.join(most)} and {last}" if most else last


def bag(grams_: float) -> str:
    """A bag of coffee, or so much to order.

    >>> bag(250)
    '250 g'
    >>> with told_in(Units(bags="oz")):
    ...     bag(250)
    '250 g (8.8 oz)'
    """
    said = f"{_whole(grams_)} g"
    return said if units().bags == "g" else f"{said} ({_tenth(grams_ / G_PER_OZ)} oz)"


def price(amount: float) -> str:
    """In the bench's currency.

    >>> price(0.416)
    '0.42'
    >>> with told_in(Units(currency="€")):
    ...     price(0.416)
    '€0.42'
    """
    return f"{units().currency}{_cents(amount)}"
