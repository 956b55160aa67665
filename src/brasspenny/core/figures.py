"""How many decimals a figure is told with: the one place where the core's sentences round. The interface's is ui/numbers.ts.

A number somebody typed is told as it was typed (`:g`); what was worked out is told no finer than it is known.
"""

from __future__ import annotations

from collections.abc import Callable


def _to(places: int, what: str) -> Callable[[float], str]:
    def told(value: float) -> str:
        text = f"{value:.{places}f}"
        return text[1:] if text.startswith("-") and not float(text) else text  # no "-0.0"

    told.__doc__ = what
    return told


grams = _to(0, "Masses of water and drink, g.")
grams_fine = _to(1, "Doses, and differences on a scale, g.")
millilitres = _to(0, "Room in a vessel, mL.")
tds = _to(2, "Strength, % TDS, as an instrument shows it.")
ey = _to(1, "Extraction yield, %.")
ratio = _to(1, "The R of 1:R.")
retained = _to(2, "Water kept by the grounds, g/g, measured.")
retained_usual = _to(1, "The same, as usual.")
celsius = _to(1, "Temperatures and how far apart cups are, °C.")
celsius_whole = _to(0, "Temperatures told by hand, °C.")
seconds = _to(0, "s.")
minutes = _to(0, "min.")
minutes_fine = _to(1, "A time constant, min.")
hours = _to(1, "h.")
rate = _to(0, "A pour, g/s.")
points = _to(1, "Differences of scores.")
regret = _to(2, "Points a choice may give away.")
money = _to(2, "In the bench's currency.")
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
    return f"{round(value, 1):g}"


def degrees(value: float) -> str:
    """A temperature somebody sets, to the tenth they typed it with.

    >>> degrees(93.0), degrees(93.3)
    ('93', '93.3')
    """
    return f"{round(value, 1):g}"


def liking(value: float) -> str:
    """A mean of a scale from 1 to 9.

    >>> liking(7.5), liking(6.0)
    ('7.5', '6')
    """
    return f"{round(value, 1):g}"


def to_places(value: float, places: int) -> str:
    """A number whose own kind says how fine it is told.

    >>> to_places(15.42, 1)
    '15.4'
    """
    return f"{value:.{places}f}"


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
    return f"{part:.0%}".replace("%", " %")
