"""What a table of scores becomes: flights of cups, poured from brews of setups, scored by tasters; and what is wrong with it, row by row, before anything is written.

A row is one score, or one cup with a column for each attribute, or one taster with a column for each setup.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any, NamedTuple

from ..errors import PennyError
from ..extraction.uncertainty import Instrument
from ..tasting.sheets import LIKING, SCALES
from ..vocabulary import FACTOR_KINDS, MOST_SETUPS, SETUP_LETTERS, Factor
from .rows import CellReader, Fault, ReadBrew, brew_of, on_scale, read_quantity, read_ratio, sentence

OF_THE_SETUP = ("coffee", "grinder", "grind_setting", "brewer", "filter", "water")
OF_THE_BREW = ("dose_g", "brew_water_g", "brew_ratio", "bypass_g", "beverage_g", "temperature_c", "pour_end_s", "total_time_s", "tds_pct")
FACTOR_FIELD: dict[str, str] = {f.code: f.tests for f in FACTOR_KINDS}


@dataclass(frozen=True)
class Tasting:
    """One taster's scores of one cup, as a row tells them. scores: by attribute; facts: what the row tells of the brew, by target."""

    row: int
    taster: str
    setup: str
    flight: str = ""
    day: datetime | None = None
    brew: str = ""
    cup: str = ""
    position: int = 0
    pass_name: str = ""
    scores: Mapping[str, float] = field(default_factory=dict)
    words: str = ""
    facts: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class ScoreReader:
    """How a table of scores is read. headers: a setup's name, where its likings stand under it."""

    cells: CellReader
    headers: Sequence[str]

    def read(self, number: int, cells: Sequence[str]) -> tuple[list[Tasting], list[Fault]]:
        values, faults = self.cells.read(number, cells)
        if faults or not values:
            return [], faults
        if not values.get("taster"):
            return [], [Fault(number, None, "", "This row names no taster.", "Name who scored.")]
        common = {
            "row": number,
            "taster": values["taster"][:80],
            "flight": values.get("flight", ""),
            "day": values.get("brewed_at"),
            "brew": values.get("brew", ""),
            "position": values.get("position", 0),
            "pass_name": values.get("pass_name", ""),
            "words": values.get("words", ""),
            "facts": {code: values[code] for code in (*OF_THE_SETUP, *OF_THE_BREW) if code in values},
        }
        if "liking_of" in values:
            return [Tasting(**common, setup=self.headers[i][:80], cup="", scores={LIKING: liking}) for i, liking in values["liking_of"]], []
        if not values.get("setup"):
            return [], [Fault(number, None, "", "This row names no setup.", "Name what was tasted.")]
        scores = {a: values[a] for a in self._attributes() if a in values}
        if "score" in values:
            attribute = values.get("attribute", LIKING)
            try:
                scores[attribute] = on_scale(*values["score"], attribute)
            except ValueError as error:
                column = next(i for i, m in enumerate(self.cells.meanings) if m.target == "score")
                return [], [Fault(number, column, values["score"][0], f"This score of {attribute} cannot be read.", str(error))]
        if not scores and not values.get("words"):
            return [], []
        return [Tasting(**common, setup=values["setup"][:80], cup=values.get("cup", ""), scores=scores)], []

    def _attributes(self) -> list[str]:
        return [t.code for t in self.cells.targets.values() if t.kind == "scale" and t.code in SCALES]


# --- what is gathered from the rows ----------------------------------------------------------------------------------------------------------


class Poured(NamedTuple):
    """A brew in a flight, and its cups by what the table calls them."""

    setup: str
    label: str
    brew: ReadBrew
    cups: tuple[str, ...]


@dataclass(frozen=True)
class ReadFlight:
    """Cups tasted together. name: '' where the table names none; tastings: of its cups, in the order of the rows."""

    name: str
    day: datetime | None
    poured: tuple[Poured, ...]
    tastings: tuple[Tasting, ...]

    @property
    def tasters(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(t.taster for t in self.tastings))

    @property
    def passes(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(t.pass_name for t in self.tastings))

    @property
    def scores(self) -> int:
        return sum(len(t.scores) for t in self.tastings)


@dataclass(frozen=True)
class ReadSetup:
    """values: its variables by name, the tested one among them."""

    letter: str
    name: str
    values: Mapping[str, Any]


@dataclass(frozen=True)
class TableFacts:
    """What is said of the table as a whole. dose_g, brew_water_g: of brews whose rows do not tell; factor: what the setups differ in."""

    factor: Factor
    dose_g: float | None = None
    brew_water_g: float | None = None


@dataclass(frozen=True)
class Gathered:
    """missing: what every brew needs and neither the table nor the form tells, by target."""

    setups: tuple[ReadSetup, ...] = ()
    flights: tuple[ReadFlight, ...] = ()
    faults: tuple[Fault, ...] = ()
    missing: tuple[str, ...] = ()


def gather(tastings: Sequence[Tasting], told: TableFacts, instrument: Instrument) -> Gathered:
    """Rows into flights: those of one name and one day are tasted together. Rows that contradict one another are faults, at the later row."""
    spelt = _Spelling()
    tastings = [replace(t, taster=spelt("taster", t.taster), setup=spelt("setup", t.setup), flight=spelt("flight", t.flight)) for t in tastings]
    faults = _twice(tastings)
    names = list(dict.fromkeys(t.setup for t in tastings))
    if len(names) > MOST_SETUPS:
        row = next(t.row for t in tastings if t.setup == names[MOST_SETUPS])
        return Gathered(faults=(*faults, Fault(row, None, "", f"There are {len(names)} setups.", f"A comparison has at most {MOST_SETUPS}: split the table.")))
    together: dict[tuple, list[Tasting]] = {}
    for t in tastings:
        together.setdefault((t.flight, t.day.date() if t.day else None), []).append(t)
    setups, wrong = _setups(names, tastings)
    faults += wrong
    flights, missing = [], set()
    for (name, _), rows in together.items():
        poured = []
        brews: dict[tuple[str, str], list[Tasting]] = {}
        for t in rows:
            brews.setdefault((t.setup, t.brew), []).append(t)
        if len({setup for setup, _ in brews}) < 2:
            faults += [
                Fault(t.row, None, "", "Only one setup was tasted here.", "Give one flight, or one day, to the rows that were tasted together.") for t in rows
            ]
        for (setup, label), of_brew in brews.items():
            facts, wrong = _agreed(of_brew, OF_THE_BREW, "brew")
            faults += wrong
            facts, lacking = _whole(facts, setup, told)
            missing |= lacking
            if lacking or wrong:
                continue
            try:
                brew = brew_of(of_brew[0].row, facts | {"brewed_at": rows[0].day}, instrument)
            except PennyError as error:
                faults += [Fault(t.row, None, "", sentence(error.reason), error.remedy) for t in of_brew]
                continue
            poured.append(Poured(setup, label, brew, tuple(dict.fromkeys(t.cup for t in of_brew))))
        flights.append(ReadFlight(name, min((t.day for t in rows if t.day), default=None), tuple(poured), tuple(rows)))
    made = tuple(ReadSetup(letter, name, _tested(name, setups[name], told.factor)) for letter, name in zip(_letters(names), names, strict=True))
    return Gathered(made, tuple(flights), tuple(sorted(faults, key=lambda f: f.row)), tuple(c for c in ("dose_g", "brew_water_g") if c in missing))


class _Spelling:
    """One spelling of a name whatever its capitals: the first row's."""

    def __init__(self) -> None:
        self._first: dict[tuple[str, str], str] = {}

    def __call__(self, kind: str, text: str) -> str:
        return self._first.setdefault((kind, " ".join(text.split()).casefold()), " ".join(text.split()))


def _letters(names: Sequence[str]) -> tuple[str, ...]:
    """Their own where all are called by one letter."""
    own = tuple(n.upper() for n in names)
    return own if all(len(n) == 1 and n in SETUP_LETTERS for n in own) and len(set(own)) == len(own) else tuple(SETUP_LETTERS[: len(names)])


def _twice(tastings: Sequence[Tasting]) -> list[Fault]:
    seen: dict[tuple, int] = {}
    faults = []
    for t in tastings:
        for attribute in t.scores:
            place = (t.flight, t.day and t.day.date(), t.taster, t.setup, t.brew, t.cup, t.pass_name, attribute)
            if place in seen:
                faults.append(Fault(t.row, None, "", f"Row {seen[place]} scores the same cup.", "Delete one, or tell two brews or two cups apart by a column."))
                break
            seen[place] = t.row
    return faults


def _agreed(rows: Sequence[Tasting], codes: Sequence[str], what: str) -> tuple[dict[str, Any], list[Fault]]:
    """What the rows tell of one thing; a later row that contradicts an earlier one is a fault."""
    found: dict[str, tuple[Any, int]] = {}
    faults = []
    for t in rows:
        for code in codes:
            if code in t.facts:
                value, row = found.setdefault(code, (t.facts[code], t.row))
                if _plain(value) != _plain(t.facts[code]):
                    faults.append(
                        Fault(t.row, None, "", f"Row {row} tells another {LABELS[code]} of the same {what}.", "Tell the same in both, or leave one empty.")
                    )
    return {code: value for code, (value, _) in found.items()}, faults


LABELS = {
    "dose_g": "dose", "brew_water_g": "water", "brew_ratio": "ratio", "bypass_g": "bypass", "beverage_g": "beverage mass", "temperature_c": "temperature",
    "pour_end_s": "last pour", "total_time_s": "time", "tds_pct": "strength", "coffee": "coffee", "grinder": "grinder", "grind_setting": "grind setting",
    "brewer": "brewer", "filter": "filter", "water": "water",
}  # fmt: skip


def _plain(value: Any) -> Any:
    """Readings without the columns they stand in; words whatever their capitals."""
    return [pairs for _, pairs in value] if isinstance(value, list) else value.casefold() if isinstance(value, str) else value


def _setups(names: Sequence[str], tastings: Sequence[Tasting]) -> tuple[dict[str, dict[str, Any]], list[Fault]]:
    by_name: dict[str, list[Tasting]] = {name: [] for name in names}
    for t in tastings:
        by_name[t.setup].append(t)
    found = {name: _agreed(rows, OF_THE_SETUP, "setup") for name, rows in by_name.items()}
    return {name: values for name, (values, _) in found.items()}, [f for _, wrong in found.values() for f in wrong]


def _tested(name: str, values: Mapping[str, Any], factor: Factor) -> dict[str, Any]:
    """A setup is called by what it tests where that is a matter of words and no column tells it."""
    variable = FACTOR_FIELD[factor]
    return dict(values) if variable in values or variable not in BY_NAME else {**values, variable: name[: BY_NAME[variable]]}


BY_NAME = {"coffee": 120, "grinder": 120, "grind_setting": 40, "filter": 120, "brewer": 120, "water": 120, "other": 120}
"""Variables a setup's name can stand for, and how long each may be."""


def _whole(facts: dict[str, Any], setup: str, told: TableFacts) -> tuple[dict[str, Any], set[str]]:
    """The facts of a brew with what is told of all, and what is lacking still. A ratio or a heat that only the setup's name tells ("1:15", "93 °C") is read from it."""
    facts = dict(facts)
    if told.factor == "ratio" and not {"brew_water_g", "brew_ratio"} & facts.keys():
        facts |= _named("brew_ratio", setup, read_ratio)
    if told.factor == "temperature" and "temperature_c" not in facts:
        facts |= _named("temperature_c", setup, lambda text: read_quantity(text, "c", "c"))
    if "dose_g" not in facts and not ({"brew_water_g", "brew_ratio"} <= facts.keys()) and told.dose_g is not None:
        facts["dose_g"] = told.dose_g
    if "brew_water_g" not in facts and "brew_ratio" not in facts and told.brew_water_g is not None:
        facts["brew_water_g"] = told.brew_water_g
    water = "brew_water_g" in facts or "brew_ratio" in facts
    dose = "dose_g" in facts or {"brew_water_g", "brew_ratio"} <= facts.keys()
    return facts, {code for code, there in (("dose_g", dose), ("brew_water_g", water)) if not there}


def _named(code: str, text: str, read) -> dict[str, float]:
    try:
        return {code: read(text)}
    except (ValueError, PennyError):
        return {}
