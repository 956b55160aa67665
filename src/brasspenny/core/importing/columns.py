"""What the columns of a table of brews, or of scores, mean: matched by name, by unit, and by what stands in them.

A guess is always shown and can be changed; where a name fits nothing the column is left out, never forced in.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..vocabulary import ATTRIBUTES

Kind = Literal["text", "mass", "heat", "strength", "time", "ratio", "day", "liking", "tags", "scale", "pass", "place", "attribute"]


@dataclass(frozen=True)
class Target:
    """What a column may become. code: the brew's own field; names: what people call it, as whole words; many: several columns may be it."""

    code: str
    label: str
    kind: Kind
    names: tuple[str, ...]
    many: bool = False


TARGETS: tuple[Target, ...] = (
    Target("brewed_at", "Day, and time", "day", ("date", "day", "brewed", "brewed at", "brew date", "brewed on", "when", "timestamp", "datum", "fecha")),
    Target("coffee", "Coffee", "text", ("coffee", "bean", "beans", "coffee name", "roast", "lot", "origin")),
    Target("grinder", "Grinder and burrs", "text", ("grinder", "mill", "burrs", "grinder burrs")),
    Target("grind_setting", "Grind setting", "text", ("grind", "grind setting", "grind size", "setting", "clicks", "dial")),
    Target("brewer", "Brewer", "text", ("brewer", "method", "dripper", "device", "brew method")),
    Target("filter", "Filter", "text", ("filter", "paper")),
    Target("water", "Water, which", "text", ("water type", "which water", "water recipe", "water used", "minerals")),
    Target("dose_g", "Dose", "mass", ("dose", "coffee dose", "coffee in", "coffee mass", "coffee weight", "ground coffee", "dry", "in")),
    Target("brew_water_g", "Brew water", "mass", ("water", "brew water", "water in", "water mass", "water weight", "total water", "poured")),
    Target("brew_ratio", "Ratio", "ratio", ("ratio", "brew ratio", "coffee water ratio")),
    Target("bypass_g", "Bypass water", "mass", ("bypass", "bypass water", "dilution")),
    Target("beverage_g", "Beverage mass", "mass", ("beverage", "beverage mass", "drink", "out", "output", "beverage weight", "brew weight", "cup")),
    Target("temperature_c", "Temperature", "heat", ("temperature", "temp", "water temp", "water temperature", "kettle", "brew temp")),
    Target("pour_end_s", "Last pour ends", "time", ("pour end", "last pour", "pour time", "end pour")),
    Target("total_time_s", "Total time", "time", ("time", "total time", "brew time", "duration", "drawdown end", "tbt")),
    Target("tds_pct", "TDS reading", "strength", ("tds", "strength", "reading", "refractometer", "brix", "tds reading"), many=True),
    Target("liking", "Liking, 1 to 9", "liking", ("liking", "rating", "score", "liked", "points", "grade")),
    Target("name", "Called", "text", ("name", "called", "title", "recipe", "brew name")),
    Target("tags", "Tags", "tags", ("tags", "tag", "labels")),
    Target("note", "Note", "text", ("note", "notes", "comment", "comments", "remarks", "taste", "tasting notes", "flavour", "flavor")),
)
TARGET = {t.code: t for t in TARGETS}
ALSO_CALLED: dict[str, tuple[str, ...]] = {
    "aroma": ("smell", "fragrance"),
    "acidity": ("acid", "brightness", "sourness"),
    "sweetness": ("sweet",),
    "bitterness": ("bitter",),
    "body": ("mouthfeel", "texture"),
    "clarity": ("flavour definition", "flavor definition", "definition"),
    "finish": ("aftertaste", "finish length", "length"),
    "cleanness": ("clean finish", "clean cup", "cleanliness"),
}
"""What people head the columns of attributes with, beside their own names."""
_OF_THE_CUP = ("brewed_at", "coffee", "grinder", "grind_setting", "brewer", "filter", "water", "dose_g", "brew_water_g", "brew_ratio", "bypass_g", "beverage_g", "temperature_c", "pour_end_s", "total_time_s", "tds_pct")  # fmt: skip
"""What a table of scores may tell of the brew in the cup: like a table of brews."""
SCORE_TARGETS: tuple[Target, ...] = (
    Target("taster", "Taster", "text", ("taster", "who", "person", "judge", "panelist", "panellist", "assessor", "cupper", "name")),
    Target("setup", "Setup, what is compared", "text", ("setup", "option", "variant", "sample", "product", "treatment", "condition", "recipe", "compared")),
    Target("flight", "Flight, tasted together", "text", ("flight", "session", "round", "table", "sitting", "block", "set")),
    Target("brew", "Brew of the setup", "text", ("brew", "batch", "replicate", "rep", "pot")),
    Target("cup", "Cup", "text", ("cup", "code", "cup code")),
    Target("position", "Place in the order", "place", ("position", "order", "place", "serving order", "served")),
    Target("pass_name", "Pass, how cool", "pass", ("pass", "cooling", "warmth")),
    Target("attribute", "What was scored", "attribute", ("attribute", "variable", "descriptor", "item", "trait")),
    Target("score", "Score of it", "scale", ("score", "value", "points", "grade")),
    Target("liking", "Liking", "scale", ("liking", "liked", "rating", "hedonic", "overall", "preference", "enjoyment")),
    *(Target(a.code, a.label, "scale", (a.code, *ALSO_CALLED.get(a.code, ()))) for a in ATTRIBUTES),
    Target("liking_of", "Liking of the setup in the heading", "scale", (), many=True),
    Target("words", "Words", "text", ("words", "note", "notes", "comment", "comments", "remarks", "tasting notes", "flavour", "flavor")),
    *(TARGET[code] for code in _OF_THE_CUP),
)
SCORE_TARGET = {t.code: t for t in SCORE_TARGETS}
UNITS: dict[Kind, tuple[str, ...]] = {
    "mass": ("g", "oz", "kg", "ml", "lb", "us_fl_oz"),
    "heat": ("c", "f"),
    "strength": ("tds_pct", "brix"),
    "time": ("s", "min", "m_ss"),
    "scale": ("own", "1_5", "1_7", "1_10", "0_10", "0_100"),
}
"""What a kind may stand in, the usual first; a number that says its own unit is read by that. m_ss: minutes and seconds that a spreadsheet took for a time of day (02:45:00); own: liking from 1 to 9, everything else from 0 to 10."""


def units_of(target: Target | None) -> tuple[str, ...]:
    """What a column of it may stand in. What runs from 0 to 10 here needs no second word for it."""
    units = UNITS.get(target.kind, ()) if target else ()
    return tuple(u for u in units if u != "0_10" or target.code in ("liking", "liking_of", "score"))


SAID_UNIT: tuple[tuple[str, str], ...] = (
    (r"°?\s*brix|°\s*bx", "brix"),
    (r"%|\bpct\b|\bper ?cent\b", "tds_pct"),
    (r"°\s*f\b|\bfahrenheit\b|\bdeg f\b", "f"),
    (r"°\s*c\b|\bcelsius\b|\bdeg c\b", "c"),
    (r"\bkg\b", "kg"),
    (r"\bfl(?:uid)?\.? ?(?:oz|ounces?)\b", "us_fl_oz"),
    (r"\boz\b|\bounces?\b", "oz"),
    (r"\blbs?\b|\bpounds?\b", "lb"),
    (r"\bml\b|\bmillilit", "ml"),
    (r"\bmins?\b|\bminutes?\b", "min"),
    (r"\bsecs?\b|\bseconds?\b|\bs\b", "s"),
    (r"\bg\b|\bgrams?\b", "g"),
    (r"\bf\b", "f"),
    (r"\bc\b", "c"),
)


@dataclass(frozen=True)
class Meaning:
    """Of one column. target: a Target's code, "" to leave it out; unit: of UNITS, "" where its kind has none."""

    target: str = ""
    unit: str = ""


def plain(header: str) -> str:
    """A header's words: no accents, units in brackets, numbers or signs.

    >>> plain("Coffee dose (g)"), plain("TDS #2 [%]"), plain("Température, °C")
    ('coffee dose', 'tds', 'temperature')
    """
    text = unicodedata.normalize("NFKD", header).encode("ascii", "ignore").decode().lower()
    text = re.sub(r"[(\[{].*?[)\]}]|,.*$", " ", text).replace("_", " ")
    text = re.sub(r"[^a-z ]+", " ", text)
    words = [w for w in text.split() if w not in ("g", "oz", "ml", "c", "f", "s", "pct", "grams", "deg", "the", "of", "kg", "min", "sec", "mins", "brix")]
    return " ".join(words) or " ".join(text.split())


def said_unit(header: str, kind: Kind) -> str:
    """The unit a header names, of those its kind may stand in; "" where it names none.

    >>> said_unit("Water (oz)", "mass"), said_unit("temp °F", "heat"), said_unit("Dose", "mass")
    ('oz', 'f', '')
    """
    text = header.lower().replace("_", " ")
    return next((unit for pattern, unit in SAID_UNIT if unit in UNITS.get(kind, ()) and re.search(pattern, text)), "")


def guess(headers: Sequence[str], columns: Sequence[Sequence[str]], targets: Sequence[Target] = TARGETS) -> tuple[Meaning, ...]:
    """What each column most likely means. columns: some cells of each, under the headers; the best fit takes a target, the first of equals.

    >>> [m.target for m in guess(["Date", "Beans", "Dose (g)", "Water [ml]", "TDS 1", "TDS 2", "mood"], [[]] * 7)]
    ['brewed_at', 'coffee', 'dose_g', 'brew_water_g', 'tds_pct', 'tds_pct', '']
    """
    fits = sorted(
        ((-_fit(plain(h), t), i, n) for i, h in enumerate(headers) for n, t in enumerate(targets) if _fit(plain(h), t)),
    )
    taken: dict[int, Target] = {}
    used: set[str] = set()
    for _, i, n in fits:
        target = targets[n]
        if i in taken or (target.code in used and not target.many):
            continue
        if not _can_be(target, columns[i]):
            continue
        taken[i] = target
        used.add(target.code)
    return tuple(Meaning(taken[i].code, _unit(h, taken[i], columns[i])) if i in taken else Meaning() for i, h in enumerate(headers))


def guess_scores(headers: Sequence[str], columns: Sequence[Sequence[str]]) -> tuple[Meaning, ...]:
    """The same of a table of scores. A row for each taster and a column for each setup is known by its headings naming neither setup nor score; where no
    heading says setup, the one thing that differs is it.

    >>> [m.target for m in guess_scores(["Taster", "Brass mesh", "White paper"], [["Ada"], ["7"], ["5,5"]])]
    ['taster', 'liking_of', 'liking_of']
    """
    found = list(guess(headers, columns, SCORE_TARGETS))
    known = {m.target for m in found}
    if "taster" in known and not known & {"setup", "score", "liking"}:
        wide = [i for i, m in enumerate(found) if m.target in ("", *NEVER_FIGURES) and (values := _numbers(columns[i])) and all(0 <= v <= 100 for v in values)]
        for i in wide:
            found[i] = Meaning("liking_of", _scale_by_size(SCORE_TARGET["liking_of"], [v for j in wide for v in _numbers(columns[j])]))
    if "taster" in known and not {m.target for m in found} & {"setup", "liking_of"} and len(differing := _differing(found, columns)) == 1:
        found[differing[0]] = Meaning("setup")
    return tuple(found)


def _differing(found: Sequence[Meaning], columns: Sequence[Sequence[str]]) -> list[int]:
    """Columns of what a cup was made with that are not the same in all rows: where only one is, that is what was compared."""
    made_with = ("coffee", "grinder", "grind_setting", "brewer", "filter", "water")
    return [i for i, m in enumerate(found) if m.target in made_with and len({c.strip().casefold() for c in columns[i]} - {""}) > 1]


NEVER_FIGURES = ("coffee", "grinder", "brewer", "filter", "water")
"""What is told in words: a column headed "White paper" with nothing but figures in it holds what was scored of it."""


def _numbers(cells: Sequence[str]) -> list[float]:
    """Of a column that holds nothing else; () of any other."""
    filled = [c for c in cells if c.strip()]
    values = [v for v in map(_bare, filled) if v is not None]
    return values if len(values) == len(filled) else []


def _scale_by_size(target: Target, values: Sequence[float]) -> str:
    """By the largest and the smallest that was given. Nothing tells a scale that ends at 5 or 7 from a longer one whose upper end nobody used: that is for people to say."""
    if not values:
        return "own"
    if sorted(values)[len(values) // 2] > 10:  # most of them: a slip of the pen is no other scale
        return "0_100"
    if max(values) <= 10 and target.code in ("liking", "liking_of") and not 1 <= min(values) <= max(values) <= 9:
        return "0_10" if min(values) < 1 else "1_10"
    return "own"


def _fit(words: str, target: Target) -> int:
    """3 for its very name, 2 where a name of several words stands in it, 1 where one word does."""
    if words in target.names:
        return 3
    within = [n for n in target.names if len(n) > 2 and re.search(rf"\b{re.escape(n)}\b", words)]
    return 0 if not within else 2 if any(" " in n for n in within) else 1


HAS_FIGURE = re.compile(r"\d")
WORDED: frozenset[Kind] = frozenset({"text", "tags", "pass", "attribute"})


def _can_be(target: Target, cells: Sequence[str]) -> bool:
    """A number's column holds figures; what holds only words is no dose, whatever it is called."""
    filled = [c for c in cells if c.strip()]
    return target.kind in WORDED or not filled or any(HAS_FIGURE.search(c) for c in filled)


def _unit(header: str, target: Target, cells: Sequence[str]) -> str:
    units = units_of(target)
    if not units:
        return ""
    if target.kind == "time" and _are_times_of_day(cells):
        return "m_ss"
    return said_unit(header, target.kind) or _by_size(target, [v for v in map(_bare, cells) if v is not None]) or units[0]


def _are_times_of_day(cells: Sequence[str]) -> bool:
    """Whether a spreadsheet took 2:45 for a quarter to three: every time of an hour or more ends in :00 s, and none is longer than twelve hours."""
    found = [m for c in cells if (m := TIME_OF_DAY.fullmatch(c.strip()))]
    return bool(found) and all(m[3] == "00" and int(m[1]) <= 12 for m in found) and any(int(m[1]) > 0 for m in found)


TIME_OF_DAY = re.compile(r"(\d{1,2}):([0-5]\d):([0-5]\d)", re.ASCII)


def _bare(cell: str) -> float | None:
    try:
        return float(cell.strip().replace(",", "."))
    except ValueError:
        return None


def _by_size(target: Target, values: list[float]) -> str:
    """Water above 110 ° is told in °F; a brew of two to twelve minutes is told in minutes."""
    if not values:
        return ""
    middle = sorted(values)[len(values) // 2]
    if target.kind == "heat":
        return "f" if middle > 110 else "c"
    if target.kind == "time":
        return "min" if middle < 15 else "s"
    if target.kind == "scale":
        return _scale_by_size(target, values)
    return ""
