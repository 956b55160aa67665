"""The numbers a question sets against one another: ratios, degrees, dial settings, singly, in a list, or as a ladder with its step."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from ..vocabulary import Factor

MOST_RUNGS = 12
_NUMBER = r"(\d{1,3}(?:[.,]\d{1,2})?)"
_UNIT = r"(°\s*[cf]?\b|degrees?(?:\s+[cf]\w*)?|[cf]\b|g\b|grams?\b|clicks?\b|%|ml\b|s\b|sec(?:onds?)?\b|min(?:utes?)?\b|€|\$|points?\b|cups?\b)"
_ITEM = rf"(?<![\d:.,€$])(?:(1\s*(?::|to\s)\s*))?{_NUMBER}(?![\d:])\s*{_UNIT}?"
_BETWEEN = re.compile(r"\s*(?:,\s*(?:or\s+|and\s+)?|or\b|and\b|vs\.?\s|versus\b|against\b|/)\s*", re.I)
_RANGE = re.compile(r"\s*(?:to|-|–|until|up\s+to)\s*", re.I)
_STEPS = re.compile(r"\s*,?\s*(?:in\s+steps?\s+of|by|every|step)\s+(\d{1,2}(?:[.,]\d{1,2})?)", re.I)
_READS = re.compile(_ITEM, re.I)

USUAL: tuple[tuple[Factor, float, float], ...] = (("ratio", 8, 22), ("temperature", 70, 100))
"""What numbers without a unit are, by where they lie."""
BY_WORDS: frozenset[Factor] = frozenset(("ratio", "temperature", "grind_setting"))


@dataclass(frozen=True)
class Levels:
    """factor, options: of the numbers named first; further: of numbers of another kind, whose levels are not told apart here."""

    factor: Factor
    options: tuple[str, ...]
    further: tuple[Factor, ...] = ()


@dataclass(frozen=True)
class _Item:
    ratio: bool
    value: float
    unit: str
    start: int
    end: int


def levels_of(question: str, by_words: Factor | None) -> Levels | None:
    """by_words: the factor that the question's words tell, for numbers without a unit. None where no two numbers are set against one another.

    >>> levels_of("15, 16 or 17?", None)
    Levels(factor='ratio', options=('1:15', '1:16', '1:17'), further=())
    >>> levels_of("200F or 190F?", None).options
    ('93.3', '87.8')
    >>> levels_of("from 1:14 to 1:17 in steps of 1", None).options
    ('1:14', '1:15', '1:16', '1:17')
    >>> levels_of("92 or 90 degrees and 13 or 11 grams?", None)
    Levels(factor='temperature', options=(), further=('ratio',))
    """
    found: dict[Factor, dict[str, None]] = {}
    for items, step in _runs(question):
        for item in _rungs(_with_units(items), step):
            if (factor := _factor(item, items, by_words)) is not None:
                found.setdefault(factor, {})[_said(factor, item)] = None
    told = [(factor, tuple(options)) for factor, options in found.items() if len(options) > 1]
    if not told:
        return None
    (factor, options), *rest = told
    weighed = any(o.endswith(" g") for o in options)  # a dose: its ratio needs the water too
    return Levels(factor, () if rest or weighed or len(options) > MOST_RUNGS else options, tuple(f for f, _ in rest))


def _runs(question: str) -> list[tuple[list[_Item], float | None]]:
    """Numbers that stand in one list, or at both ends of a range (with its step, 0 for none said)."""
    items = [_Item(bool(m[1]), float(m[2].replace(",", ".")), re.sub(r"\s", "", (m[3] or "").lower()), m.start(), m.end()) for m in _READS.finditer(question)]
    out: list[tuple[list[_Item], float | None]] = []
    run: list[_Item] = items[:1]
    for before, item in zip(items, items[1:], strict=False):
        between = question[before.end : item.start]
        if _RANGE.fullmatch(between) and len(run) == 1:
            steps = _STEPS.match(question, item.end)
            out.append(([before, item], float(steps[1].replace(",", ".")) if steps else 0.0))
            run = []
        elif _BETWEEN.fullmatch(between):
            run.append(item)
        else:
            out.append((run, None))
            run = [item]
    return [*out, (run, None)]


def _with_units(items: list[_Item]) -> list[_Item]:
    """A number without a unit has that of the next one that has: "92 or 90 degrees"."""
    unit, out = "", []
    for item in reversed(items):
        unit = item.unit or unit
        out.append(replace(item, unit=unit))
    return out[::-1]


def _rungs(items: list[_Item], step: float | None) -> list[_Item]:
    """All rungs of a range with a step, as far as one more than a trial can hold."""
    if not step or len(items) != 2:
        return items
    first, last = items
    count = min(int(abs(last.value - first.value) / step + 1e-6), MOST_RUNGS)
    way = step if last.value > first.value else -step
    return [replace(first, value=round(first.value + i * way, 2)) for i in range(count + 1)]


def _factor(item: _Item, items: list[_Item], by_words: Factor | None) -> Factor | None:
    if item.ratio:
        return "ratio"
    if item.unit:
        if item.unit[0] in "°dcf" and not item.unit.startswith(("cl", "cu")):
            return "temperature"
        return "grind_setting" if item.unit.startswith("click") else "ratio" if item.unit in ("g", "gram", "grams") else None
    values = [i.value for i in items]
    if by_words in BY_WORDS and all(low <= v <= high for f, low, high in USUAL if f == by_words for v in values):
        return by_words
    if by_words == "grind_setting":
        return by_words
    return next((f for f, low, high in USUAL if by_words in (None, f) and all(low <= v <= high for v in values)), None)


def _said(factor: Factor, item: _Item) -> str:
    if item.unit.startswith("g"):
        return f"{item.value:g} g"
    if factor == "ratio":
        return f"1:{item.value:g}"
    fahrenheit = factor == "temperature" and (item.unit.lstrip("°").removeprefix("degrees").removeprefix("degree").startswith("f") or item.value > 110)
    return f"{round((item.value - 32) / 1.8, 1) if fahrenheit else item.value:g}"
