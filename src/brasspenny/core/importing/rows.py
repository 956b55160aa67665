"""What each row of a table of brews becomes, and what is wrong with it, cell by cell, before anything is written."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

from ..errors import Inconsistent, PennyError
from ..extraction.measure import Brew, check_masses, check_times, measure
from ..extraction.uncertainty import Instrument
from ..limits import check, check_tds
from ..tasting.sheets import SCALES
from ..units import convert, read_duration_s
from ..vocabulary import ATTRIBUTES, LIKING, PASSES
from .columns import Meaning, Target


@dataclass(frozen=True)
class Fault:
    """row: as the file counts it, the head being row 1; column: its place from 0, or None for the row as a whole."""

    row: int
    column: int | None
    cell: str
    reason: str
    remedy: str


@dataclass(frozen=True)
class ReadBrew:
    """A brew as its row tells it: in g, °C, s and %; "" and None where nothing is said. by_brix: the readings as °Brix, where they were."""

    row: int
    brewed_at: datetime | None = None
    texts: dict[str, str] = field(default_factory=dict)
    dose_g: float | None = None
    brew_water_g: float | None = None
    bypass_g: float = 0.0
    beverage_g: float | None = None
    temperature_c: float | None = None
    pour_end_s: float | None = None
    total_time_s: float | None = None
    tds_pct: tuple[float, ...] = ()
    brix: tuple[float | None, ...] = ()
    liking: float | None = None
    tags: tuple[str, ...] = ()
    concentrate: bool = False


@dataclass(frozen=True)
class CellReader:
    """How the cells of a table are read. targets: what its columns may be; day_first: whether 3/4/2026 is in April; brix_factor: % TDS per °Brix."""

    meanings: tuple[Meaning, ...]
    targets: Mapping[str, Target]
    day_first: bool
    brix_factor: float

    def read(self, number: int, cells: Sequence[str]) -> tuple[dict[str, Any], list[Fault]]:
        """The values of one row by target; of a target that several columns may be, a list of (column, value)."""
        values: dict[str, Any] = {}
        faults = []
        for i, meaning in enumerate(self.meanings):
            cell = cells[i].strip() if i < len(cells) else ""
            if not meaning.target or not cell or cell.lower() in NOTHING:
                continue
            target = self.targets[meaning.target]
            try:
                value = self._cell(cell, target, meaning.unit)
            except PennyError as error:
                faults.append(Fault(number, i, cell, sentence(error.reason), error.remedy))
                continue
            except ValueError as error:
                faults.append(Fault(number, i, cell, f"{target.label} cannot be read.", str(error)))
                continue
            if target.many:
                values.setdefault(target.code, []).append((i, value))
            else:
                values[target.code] = value
        return values, faults

    def fault(self, number: int, cells: Sequence[str], error: PennyError) -> Fault:
        """What the core refuses, at the column it is about where there is one."""
        column = next((i for i, m in enumerate(self.meanings) if m.target == error.field), None)
        return Fault(number, column, cells[column] if column is not None and column < len(cells) else "", sentence(error.reason), error.remedy)

    def _cell(self, cell: str, target: Target, unit: str) -> Any:
        match target.kind:
            case "text":
                return cell[: LONGEST.get(target.code, 120)]
            case "tags":
                return tuple(t.strip()[:24] for t in re.split(r"[,;]", cell) if t.strip())[:12]
            case "day":
                return read_moment(cell, day_first=self.day_first)
            case "mass":
                return read_quantity(cell, unit or "g", "g")
            case "heat":
                return read_quantity(cell, unit or "c", "c")
            case "time":
                return read_time(cell, unit)
            case "ratio":
                return read_ratio(cell)
            case "liking":
                return on_scale(cell, "own", "liking")
            case "strength":
                return [self._strength(part, unit) for part in re.split(r"[;/|\s]+", re.sub(r"\s*%|\s*°?\s*brix", "", cell, flags=re.IGNORECASE)) if part]
            case "scale":  # of a score whose attribute another column names, the number is read when that is known
                return (cell, unit) if target.code == "score" else on_scale(cell, unit, "liking" if target.code == "liking_of" else target.code)
            case "pass":
                return _word_of(cell, {p.code: (p.code, p.label) for p in PASSES}, "pass")
            case "attribute":
                return _word_of(cell, {a.code: (a.code, a.label) for a in (LIKING, *ATTRIBUTES)}, "attribute")
            case "place":
                if not 1 <= (place := number_of(cell)) <= 99 or place % 1:
                    raise ValueError("Write a whole number from 1.")
                return int(place)
        raise AssertionError(target.kind)

    def _strength(self, text: str, unit: str) -> tuple[float, float | None]:
        value = number_of(text)
        return (round(convert(value, "brix", "tds_pct", brix_factor=self.brix_factor), 3), value) if unit == "brix" else (value, None)


@dataclass(frozen=True)
class Reader:
    """How a table of brews is read. instrument: the bench's."""

    cells: CellReader
    instrument: Instrument

    def read(self, number: int, cells: Sequence[str]) -> tuple[ReadBrew | None, list[Fault]]:
        """One row; None where it cannot become a brew."""
        values, faults = self.cells.read(number, cells)
        if faults:
            return None, faults
        try:
            return brew_of(number, values, self.instrument), []
        except PennyError as error:
            return None, [self.cells.fault(number, cells, error)]


def _word_of(cell: str, known: Mapping[str, tuple[str, ...]], what: str) -> str:
    wanted = cell.strip().casefold()
    for code, names in known.items():
        if wanted in (n.casefold() for n in names):
            return code
    raise ValueError(f"“{cell[:24]}” is no {what} here: give {', '.join(known)}.")


SCALE_ENDS = {"1_5": (1, 5), "1_7": (1, 7), "1_10": (1, 10), "0_10": (0, 10), "0_100": (0, 100)}


def on_scale(cell: str, unit: str, attribute: str) -> float:
    """A score on the scale it is judged on here, in proportion to the one it was given on. Raises ValueError with the remedy.

    >>> on_scale("5", "own", "liking"), on_scale("3", "1_5", "liking"), on_scale("50", "0_100", "body")
    (5.0, 5.0, 5.0)
    """
    low, high = SCALES[attribute].low, SCALES[attribute].high
    least, most = SCALE_ENDS.get(unit, (low, high))
    value = number_of(cell)
    if not least <= value <= most:
        raise ValueError(f"This column goes from {least:g} to {most:g}.")
    return round(low + (value - least) * (high - low) / (most - least), 2)


def brew_of(number: int, values: Mapping[str, Any], instrument: Instrument) -> ReadBrew:
    """The brew that these values tell of, by target of CellReader. Raises a PennyError whose field is the target's code."""
    dose, water, ratio = values.get("dose_g"), values.get("brew_water_g"), values.get("brew_ratio")
    bypass = values.get("bypass_g", 0.0)
    if dose is None and water is not None and ratio:
        dose = round((water + bypass) / ratio, 2)
    if dose is None:
        raise Inconsistent("dose_g", "a brew needs its dose", "Give the dose, or water and ratio.")
    if water is None and ratio:
        water = round(dose * ratio - bypass, 1)
    if water is None:
        raise Inconsistent("brew_water_g", "a brew needs its water", "Give the brew water, or a ratio.")
    readings = [pair for _, pairs in values.get("tds_pct", ()) for pair in pairs]
    tds = tuple(value for value, _ in readings)
    check(temperature_c=values.get("temperature_c"))
    concentrate = bool(tds) and all(CONCENTRATE < t <= 25 for t in tds) and (water + bypass) / dose < 8
    brew = Brew(dose, water, values.get("beverage_g"), bypass, concentrate=concentrate)
    check_masses(brew)
    check_times(pour_end_s=values.get("pour_end_s"), total_time_s=values.get("total_time_s"))
    for value in tds:
        check_tds("tds_pct", value, concentrate=concentrate)
    measure(brew, list(tds), instrument)
    return ReadBrew(
        row=number,
        brewed_at=values.get("brewed_at"),
        texts={code: values[code] for code in TEXTS if values.get(code)},
        dose_g=dose,
        brew_water_g=water,
        bypass_g=bypass,
        beverage_g=values.get("beverage_g"),
        temperature_c=values.get("temperature_c"),
        pour_end_s=values.get("pour_end_s"),
        total_time_s=values.get("total_time_s"),
        tds_pct=tds,
        brix=tuple(brix for _, brix in readings),
        liking=values.get("liking"),
        tags=values.get("tags", ()),
        concentrate=concentrate,
    )


CONCENTRATE = 5.0
NOTHING = {"-", "–", "—", "n/a", "na", "none", "null", "?", "nan"}
TEXTS = ("coffee", "grinder", "grind_setting", "brewer", "filter", "water", "name", "note")
LONGEST = {"grind_setting": 40, "name": 80, "note": 500}


def sentence(reason: str) -> str:
    """A core's reason as one that stands alone."""
    return f"{reason[:1].upper()}{reason[1:].rstrip('.')}."


NUMBER = re.compile(r"[+-]?\d+(?:[.,]\d+)?|[+-]?[.,]\d+", re.ASCII)
SPACED = re.compile(r"[+-]?\d{1,3}(?:[ '’\u00a0\u202f]\d{3})+(?:[.,]\d+)?", re.ASCII)
BOTH_MARKS = re.compile(r"[+-]?\d{1,3}(?:,\d{3})+\.\d+|[+-]?\d{1,3}(?:\.\d{3})+,\d+", re.ASCII)
"""Thousands parted by one mark, decimals by the other: the last is the decimal one."""


def number_of(text: str) -> float:
    """A number with a point or a comma; thousands parted where that leaves no doubt. Raises ValueError with the remedy.

    >>> number_of("18,5"), number_of("1.42"), number_of("1,000.5"), number_of("1 000")
    (18.5, 1.42, 1000.5, 1000.0)
    """
    tidy = text.strip().replace("−", "-")
    if SPACED.fullmatch(tidy):
        tidy = re.sub(r"[^\d.,+-]", "", tidy)
    if BOTH_MARKS.fullmatch(tidy):
        decimal = max(tidy.rfind("."), tidy.rfind(","))
        tidy = re.sub(r"[.,]", "", tidy[:decimal]) + "." + tidy[decimal + 1 :]
    if not NUMBER.fullmatch(tidy):
        raise ValueError("Write a number, such as 18.5.")
    value = float(tidy.replace(",", "."))
    if not math.isfinite(value):
        raise ValueError("Write an ordinary number.")
    return value


OWN_UNIT = re.compile(r"(.*?\d)\s*(fl\.?\s?oz|°?\s*[a-z]+)\.?$", re.IGNORECASE | re.ASCII)
GRAMS_IN_THOUSANDS = re.compile(r"[1-9]\d{0,2},\d{3}", re.ASCII)
"""Nobody weighs coffee or water to the milligram with a decimal comma."""
UNIT_WORDS = {
    "g": "g", "gr": "g", "gram": "g", "grams": "g", "oz": "oz", "kg": "kg", "ml": "ml", "floz": "us_fl_oz", "lb": "lb", "lbs": "lb", "c": "c", "f": "f", "celsius": "c", "fahrenheit": "f",
}  # fmt: skip


def read_quantity(cell: str, unit: str, to: str) -> float:
    """In `unit`, unless the cell says its own. Raises ValueError, or a PennyError for what cannot be.

    >>> read_quantity("18g", "oz", "g"), read_quantity("200", "f", "c"), read_quantity("0,63 oz", "g", "g"), read_quantity("1,000", "g", "g")
    (18.0, 93.33, 17.86, 1000.0)
    """
    said = OWN_UNIT.fullmatch(cell.strip().replace("°", ""))
    if said:
        word = re.sub(r"[\s.]", "", said[2].lower())
        if word not in UNIT_WORDS:
            raise ValueError(f"“{said[2].strip()}” is no unit that is known here.")
        cell, unit = said[1], UNIT_WORDS[word]
    bare = cell.replace("°", "").strip()
    if unit in ("g", "ml") and GRAMS_IN_THOUSANDS.fullmatch(bare):
        bare = bare.replace(",", "")
    return round(convert(number_of(bare), unit, to), 2)


def read_time(cell: str, unit: str) -> float:
    """Seconds: 2:45, 2m45, 165 s, or a bare number in the column's unit.

    >>> read_time("2:45", "s"), read_time("165", "s"), read_time("2,75", "min"), read_time("02:45:00", "m_ss")
    (165.0, 165.0, 165.0, 165.0)
    """
    text = cell.strip()
    if unit == "m_ss" and (m := re.fullmatch(r"(\d{1,2}:\d{2}):00", text)):
        text = m[1]
    if re.fullmatch(r"0?0:\d{1,2}:\d{2}", text):  # as spreadsheets write a time of day
        text = text.split(":", 1)[1]
    if NUMBER.fullmatch(text):
        return round(number_of(text) * (60 if unit == "min" else 1), 1)
    return round(read_duration_s(text), 1)


def read_ratio(cell: str) -> float:
    """R of 1:R, however it is told.

    >>> read_ratio("1:16"), read_ratio("16.5"), read_ratio("60 g/L"), read_ratio("6.25 g per 100 g")
    (16.0, 16.5, 16.67, 16.0)
    """
    text = cell.strip().lower().replace(" ", "")
    if m := re.fullmatch(r"([\d.,]+)g?/l", text):
        return round(1000 / number_of(m[1]), 2)
    if m := re.fullmatch(r"([\d.,]+)g?(?:per|/)100(?:g|ml)?", text):
        return round(100 / number_of(m[1]), 2)
    value = number_of(text.removeprefix("1:").removeprefix("1/"))
    if not 1 <= value <= 1000:
        raise ValueError("Write a ratio such as 1:16.")
    return value


PARTED = re.compile(r"(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})", re.ASCII)
MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
NAMED = re.compile(r"(\d{1,2})\.?\s*([a-z]{3,9})\.?,?\s*(\d{4})|([a-z]{3,9})\.?\s+(\d{1,2}),?\s*(\d{4})", re.IGNORECASE | re.ASCII)
TIME = re.compile(r"[T ,]+(\d{1,2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?\s*(am|pm)?\s*$", re.IGNORECASE | re.ASCII)


def read_moment(cell: str, *, day_first: bool) -> datetime:
    """A day, and its time where one is said (else noon), without a zone. Raises ValueError with the remedy.

    >>> read_moment("3/4/2026 9:30", day_first=True), read_moment("2026-04-03", day_first=False)
    (datetime.datetime(2026, 4, 3, 9, 30), datetime.datetime(2026, 4, 3, 12, 0))
    """
    text = cell.strip().removesuffix("Z")
    hour, minute, second = 12, 0, 0
    if m := TIME.search(text):
        hour, minute, second = int(m[1]) % 24, int(m[2]), int(m[3] or 0)
        if m[4]:
            hour = hour % 12 + (12 if m[4].lower() == "pm" else 0)
        text = text[: m.start()].strip()
    day = _day(text, day_first)
    if not 1970 <= day.year < 2200 or minute > 59 or second > 59:
        raise ValueError("Write a day such as 2026-03-01.")
    return datetime(day.year, day.month, day.day, hour, minute, second)


def _day(text: str, day_first: bool) -> date:
    try:
        if m := re.fullmatch(r"(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})", text):
            return date(int(m[1]), int(m[2]), int(m[3]))
        if m := PARTED.fullmatch(text):
            a, b, year = int(m[1]), int(m[2]), int(m[3]) + (2000 if len(m[3]) == 2 else 0)
            return date(year, b, a) if day_first else date(year, a, b)
        if m := NAMED.fullmatch(text):
            day, name, year = (m[1], m[2], m[3]) if m[1] else (m[5], m[4], m[6])
            return date(int(year), MONTHS.index(name[:3].lower()) + 1, int(day))
    except ValueError:
        pass
    raise ValueError("Write a day such as 2026-03-01 or 1 Mar 2026.")


def days_come_first(cells: Sequence[str]) -> bool:
    """Whether the days of 3/4/2026 stand first: told by any number above 12, else by the point that Europe parts with, else yes.

    >>> days_come_first(["3/4/2026", "3/25/2026"]), days_come_first(["3/4/2026"]), days_come_first(["13.1.2026"])
    (False, True, True)
    """
    found = [m for c in cells if (m := PARTED.match(c.strip()))]
    return not any(int(m[2]) > 12 for m in found)
