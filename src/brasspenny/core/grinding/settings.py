"""Translating a grind setting to another grinder and burr set, from matched pairs. docs/formulas.md §5.

Each pair says "this setting here grinds like that setting there", with how it was matched. Between neighbouring pairs
the answer is interpolated on each grinder's own scale, in either direction of scale; outside them there is no answer.
Where it stops being true: a match by brew time or yield holds for the coffee it was made with, and one by eye for the eye.
"""

from __future__ import annotations

import math
import re
import statistics
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, permutations
from typing import Literal

from ..errors import Inconsistent, NotEnoughKnowns, OutOfDomain
from ..vocabulary import KITS, MATCH_KINDS, MatchKindCode

_DIAL = next(f for f in KITS["grinder"].facts if f.name == "scale")
ScaleType = Literal["dial", "clicks", "marks", "letters", "stepless"]
SCALE_LABELS: dict[str, str] = {code: label.lower() for code, label in _DIAL.options}
Direction = Literal["larger_is_coarser", "larger_is_finer"]
MATCH_ORDER: tuple[MatchKindCode, ...] = tuple(m.code for m in MATCH_KINDS)
MATCH_LABELS: dict[MatchKindCode, str] = {m.code: m.label for m in MATCH_KINDS}
MEASURED = frozenset(m.code for m in MATCH_KINDS if m.measured)
AS_THE_RECIPE_SAYS: MatchKindCode = "recipe"
FLOOR_STEPS: dict[MatchKindCode, float] = {m.code: m.least_steps for m in MATCH_KINDS}
"""The least half-width a match of each kind can have, in steps of the grinder answered for: by eye is weakest."""
STEPLESS_STEP = 0.1
SAME_PLACE = 1e-3
"""Settings are kept to a thousandth: nearer than that they are one place on the dial."""
MARKED = ("marks", "letters")
USUAL_MARKS = {"marks": 3, "letters": 10}
"""Thirds between numbers, ten numbers to a letter, until the kit says more."""


LETTERED = re.compile(r"(?P<letter>[A-Za-z])\s*(?P<number>\d{1,3})?", re.ASCII)
MIXED = re.compile(r"(?P<whole>-?\d{1,5}(?:[.,]\d{1,3})?)(?:\s+(?P<part>\d{1,2})/(?P<of>\d{1,2}))?(?:\s*clicks?)?", re.ASCII | re.IGNORECASE)


@dataclass(frozen=True)
class GrinderScale:
    """name: grinder and burr set. step: the smallest change it takes (clicks: 1; stepless: None). finest: the finest usable
    setting; zero: where the burrs touch; marks: from one number (or letter) to the next, where marks lie between."""

    name: str
    kind: ScaleType = "dial"
    direction: Direction = "larger_is_coarser"
    step: float | None = None
    finest: float | None = None
    zero: float | None = None
    marks: int | None = None

    @property
    def grain(self) -> float:
        if self.step:
            return self.step
        if self.kind in MARKED:
            return 1 / (self.marks or USUAL_MARKS[self.kind])
        return 1.0 if self.kind == "clicks" else STEPLESS_STEP

    @property
    def has_known_step(self) -> bool:
        """Whether one step of it is known: clicks and marks count themselves, any other dial is told in the kit."""
        return bool(self.step) or self.kind in ("clicks", *MARKED)

    def coarseness(self, setting: float) -> float:
        return setting if self.direction == "larger_is_coarser" else -setting

    def around(self, low: float, high: float) -> tuple[float, float]:
        """The settings just outside a span, as they can be set: what lies between them is no finer than the dial.

        >>> GrinderScale("x", "clicks").around(17.875, 19.875)
        (17.0, 20.0)
        """
        return round(math.floor(round(low / self.grain, 6)) * self.grain, 4), round(math.ceil(round(high / self.grain, 6)) * self.grain, 4)

    def nearest(self, setting: float) -> float:
        if self.kind == "stepless" and self.step is None:
            return round(setting, 2)
        return round(round(setting / self.grain) * self.grain, 6)

    def turned(self, setting: float, towards: Literal["finer", "coarser"], steps: float) -> float:
        """So many steps of this dial from a setting, no finer than it usably goes.

        >>> GrinderScale("x", step=0.1).turned(4.5, "coarser", 3), GrinderScale("x", "clicks", "larger_is_finer").turned(20, "coarser", 2)
        (4.8, 18.0)
        >>> GrinderScale("x", finest=3).turned(3.1, "finer", 5)
        3
        """
        finer = -1 if self.direction == "larger_is_coarser" else 1
        to = self.nearest(setting + (finer if towards == "finer" else -finer) * steps * self.grain)
        past = self.finest is not None and self.coarseness(to) < self.coarseness(self.finest)
        return self.finest if past else to

    def write(self, setting: float) -> str:
        """A setting as it stands on the dial.

        >>> GrinderScale("x", "marks", marks=3).write(4 + 1 / 3), GrinderScale("x", "letters").write(1.2), GrinderScale("x").write(5.5)
        ('4 1/3', 'B2', '5.5')
        """
        if self.kind == "letters" and setting >= 0:
            letter, number = divmod(round(setting / self.grain), self.marks or USUAL_MARKS["letters"])
            if letter < 26:
                return f"{chr(ord('A') + letter)}{number}"
        if self.kind == "marks":
            whole, part = divmod(round(setting / self.grain), self.marks or USUAL_MARKS["marks"])
            marks = self.marks or USUAL_MARKS["marks"]
            if abs(setting - (whole + part / marks)) < SAME_PLACE:
                return f"{whole} {part}/{marks}" if part else f"{whole}"
        return f"{setting:g}"

    def read(self, text: str) -> float | None:
        """The number a setting stands for, as people write it on this dial; None when it is none.

        >>> s = GrinderScale("x", "marks", marks=3)
        >>> [round(s.read(t), 3) for t in ("4", "4 1/3", "4,5")], GrinderScale("x", "letters").read("b2"), s.read("coarse")
        ([4.0, 4.333, 4.5], 1.2, None)
        """
        tidy = text.strip()
        if m := LETTERED.fullmatch(tidy) if self.kind == "letters" else None:
            return ord(m["letter"].upper()) - ord("A") + float(m["number"] or 0) / (self.marks or USUAL_MARKS["letters"])
        if m := MIXED.fullmatch(tidy):
            part = int(m["part"]) / int(m["of"]) if m["of"] and int(m["of"]) else 0.0
            return float(m["whole"].replace(",", ".")) + part
        return None


@dataclass(frozen=True)
class MatchedPair:
    """`a` at a_setting grinds like `b` at b_setting. on: the day, ISO; id: the caller's own; a_spread, b_spread: half-widths worked out from samples, on either dial."""

    a: str
    a_setting: float
    b: str
    b_setting: float
    match: MatchKindCode
    on: str = ""
    id: str = ""
    a_spread: float | None = None
    b_spread: float | None = None

    def turned(self) -> MatchedPair:
        return replace(self, a=self.b, a_setting=self.b_setting, b=self.a, b_setting=self.a_setting, a_spread=self.b_spread, b_spread=self.a_spread)

    def least_half(self, b: GrinderScale) -> float:
        """On b's dial: what its samples leave, else what a match of its kind can do at best."""
        return FLOOR_STEPS[self.match] * b.grain if self.b_spread is None else self.b_spread

    def words(self) -> str:
        return f"{self.a} {self.a_setting:g} = {self.b} {self.b_setting:g} ({MATCH_LABELS[self.match]}{', ' + self.on if self.on else ''})"


@dataclass(frozen=True)
class Translated:
    """setting: interpolated; nearest: what the scale can be set to; low, high: its spread. evidence: the pairs it rests
    on; matches: their kinds, weakest first; through: the grinder between, when no pair joins the two directly."""

    setting: float
    nearest: float
    low: float
    high: float
    evidence: tuple[MatchedPair, ...]
    matches: tuple[MatchKindCode, ...]
    through: str
    warnings: tuple[str, ...]


class Contradiction(Inconsistent):
    """Matched pairs that cannot all be true. pairs: those at fault."""

    def __init__(self, reason: str, pairs: Sequence[MatchedPair]) -> None:
        super().__init__("pairs", f"{reason} {'; '.join(p.words() for p in pairs)}.", "Check these matches and take the wrong one out.")
        self.pairs = tuple(pairs)

    def at(self, field: str) -> Contradiction:
        return self


def translate(setting: float, from_: GrinderScale, to: GrinderScale, pairs: Sequence[MatchedPair], scales: Mapping[str, GrinderScale]) -> Translated:
    """The setting of `to` that grinds like `setting` of `from_`.

    scales: every grinder named in the pairs. A direct table is used if there is one, else one grinder between. Raises
    Contradiction (pairs that turn back on themselves), NotEnoughKnowns (no way from one to the other), OutOfDomain
    (outside the matched range: extrapolated never). Source: docs/formulas.md §5.
    """
    if from_.name == to.name:
        raise OutOfDomain("to", "that is the same grinder and burr set.", "Choose another one.")
    faults = contradictions(pairs, scales)
    mine = {from_.name, to.name}
    for fault in faults:
        if all({p.a, p.b} & mine for p in fault.pairs):
            raise fault
    direct = _between(from_.name, to.name, pairs)
    if direct:
        return _along(setting, from_, to, direct)
    return _through_one(setting, from_, to, pairs, scales)


def _between(a: str, b: str, pairs: Sequence[MatchedPair]) -> list[MatchedPair]:
    """Pairs joining a and b, turned so that they read from a to b."""
    return strongest([p if p.a == a else p.turned() for p in pairs if {p.a, p.b} == {a, b}])


def strongest(pairs: Sequence[MatchedPair]) -> list[MatchedPair]:
    """Of the pairs of two grinders, those to go by: what a recipe says counts only where nobody has measured."""
    measured = any(p.match in MEASURED for p in pairs)
    return [p for p in pairs if not (measured and p.match == AS_THE_RECIPE_SAYS)]


def _along(setting: float, from_: GrinderScale, to: GrinderScale, pairs: Sequence[MatchedPair]) -> Translated:
    knots = _knots(pairs)
    setting = next((a for a, _ in knots if abs(a - setting) < SAME_PLACE), setting)
    value, used = _interpolate(setting, knots, pairs, from_)
    half = _half_width(pairs, used, to)
    matches = tuple(sorted({p.match for p in used}, key=MATCH_ORDER.index, reverse=True))
    warnings = []
    if to.finest is not None and to.coarseness(value) < to.coarseness(to.finest):
        warnings.append(f"Finer than {to.name} is usable at ({to.finest:g}).")
    if "by_eye" in matches:
        warnings.append("Rests on a match by eye, the weakest kind.")
    if AS_THE_RECIPE_SAYS in matches:
        warnings.append("Rests on what a recipe says, not on a measured match.")
    told = {p.b_setting for p in used if p.a_setting == setting}
    exact = told.pop() if len(told) == 1 else None  # a matched setting comes back as it was matched, wherever the dial's steps lie
    return Translated(value, to.nearest(value) if exact is None else exact, value - half, value + half, tuple(used), matches, "", tuple(warnings))


def _knots(pairs: Sequence[MatchedPair]) -> list[tuple[float, float]]:
    """(a setting, mean b setting) in order of a; several matches of one setting are averaged."""
    by_a: dict[float, list[float]] = defaultdict(list)
    for p in pairs:
        by_a[p.a_setting].append(p.b_setting)
    return sorted((a, statistics.fmean(bs)) for a, bs in by_a.items())


def _interpolate(setting: float, knots: Sequence[tuple[float, float]], pairs: Sequence[MatchedPair], from_: GrinderScale):
    low, high = knots[0][0], knots[-1][0]
    if not low <= setting <= high:
        said = f"only matched at {low:g}" if low == high else f"matched from {low:g} to {high:g}"
        raise OutOfDomain("setting", f"{from_.name} is {said}; {setting:g} is outside.", "Match a setting beyond it; it is never extrapolated.", setting)
    for (a1, b1), (a2, b2) in zip(knots, knots[1:], strict=False):
        if a1 <= setting <= a2:
            ends = {a1} if setting == a1 else {a2} if setting == a2 else {a1, a2}
            return b1 + (b2 - b1) * (setting - a1) / (a2 - a1), [p for p in pairs if p.a_setting in ends]
    return knots[0][1], list(pairs)


def _half_width(pairs: Sequence[MatchedPair], used: Sequence[MatchedPair], to: GrinderScale) -> float:
    """The widest of: what the kind of match can do, how far repeats lie apart, how far interior pairs lie from their neighbours' line."""
    floor = max(p.least_half(to) for p in used)
    by_a: dict[float, list[float]] = defaultdict(list)
    for p in used:
        by_a[p.a_setting].append(p.b_setting)
    repeats = max((max(bs) - min(bs)) / 2 for bs in by_a.values())
    knots = _knots(pairs)
    left_out = [abs(b - (b0 + (b1 - b0) * (a - a0) / (a1 - a0))) for (a0, b0), (a, b), (a1, b1) in zip(knots, knots[1:], knots[2:], strict=False)]
    return max(floor, repeats, statistics.median(left_out) if left_out else 0.0)


def _through_one(setting, from_: GrinderScale, to: GrinderScale, pairs: Sequence[MatchedPair], scales: Mapping[str, GrinderScale]) -> Translated:
    best, outside = None, None
    for name, middle in scales.items():
        first, second = _between(from_.name, name, pairs), _between(name, to.name, pairs)
        if name in (from_.name, to.name) or not first or not second:
            continue
        try:
            here = _along(setting, from_, middle, first)
            there = _along(here.setting, middle, to, second)
            ends = [_clamped(x, middle, to, second) for x in (here.low, here.high)]
        except OutOfDomain as error:
            outside = error
            continue
        half = max(there.high - there.setting, abs(ends[1] - ends[0]) / 2 + (there.high - there.setting))
        matches = tuple(sorted({*here.matches, *there.matches}, key=MATCH_ORDER.index, reverse=True))
        warnings = (f"No match joins the two directly: read through {name}.", *there.warnings)
        found = replace(
            there,
            low=there.setting - half,
            high=there.setting + half,
            evidence=(*here.evidence, *there.evidence),
            matches=matches,
            through=name,
            warnings=warnings,
        )
        if best is None or found.high - found.low < best.high - best.low:
            best = found
    if best:
        return best
    if outside:
        raise outside.at("setting")
    raise NotEnoughKnowns("pairs", f"no matched setting leads from {from_.name} to {to.name}.", "Match at least two settings of the two grinders.")


def _clamped(setting: float, middle: GrinderScale, to: GrinderScale, pairs: Sequence[MatchedPair]) -> float:
    knots = _knots(pairs)
    return _interpolate(min(max(setting, knots[0][0]), knots[-1][0]), knots, pairs, middle)[0]


# --- pairs that cannot be --------------------------------------------------------------------------------------------------


def contradictions(pairs: Sequence[MatchedPair], scales: Mapping[str, GrinderScale]) -> list[Contradiction]:
    """Every fault among the pairs: coarser here but finer there, and rings of matches that do not close."""
    tables = _tables([p for p in pairs if p.a in scales and p.b in scales])
    out = [fault for a, b in sorted(tables) if a < b for fault in _turned_back(tables[a, b], scales[a], scales[b])]
    joined: dict[str, set[str]] = defaultdict(set)
    for a, b in tables:
        joined[a].add(b)
    for a, b in sorted(tables):
        for c in sorted(joined[a] & joined[b]):
            if a < b < c:  # each three once; one way round may lie outside the matches, so all are tried
                rings = (ring for p, q, r in permutations((a, b, c)) for ring in _open_ring(p, q, r, tables, scales))
                out += [first] if (first := next(rings, None)) else []
    return out


def _tables(pairs: Sequence[MatchedPair]) -> dict[tuple[str, str], list[MatchedPair]]:
    """The pairs of every two grinders, turned both ways."""
    out: dict[tuple[str, str], list[MatchedPair]] = defaultdict(list)
    for p in pairs:
        out[p.a, p.b].append(p)
        if p.a != p.b:
            out[p.b, p.a].append(p.turned())
    return {both: strongest(joined) for both, joined in out.items()}


def _turned_back(pairs: Sequence[MatchedPair], a: GrinderScale, b: GrinderScale) -> list[Contradiction]:
    out = []
    for p, q in combinations(sorted(pairs, key=lambda p: (a.coarseness(p.a_setting), b.coarseness(p.b_setting))), 2):
        finer_here = a.coarseness(p.a_setting) < a.coarseness(q.a_setting)
        if finer_here and b.coarseness(p.b_setting) > b.coarseness(q.b_setting):
            out.append(Contradiction(f"Coarser on {a.name} is finer on {b.name}:", (p, q)))
    return out


def _open_ring(a: str, b: str, c: str, tables: Mapping[tuple[str, str], Sequence[MatchedPair]], scales: Mapping[str, GrinderScale]) -> list[Contradiction]:
    """a → b → c against a → c: off by more than both spreads together is a fault of one of the pairs."""
    ab, bc, ac = tables[a, b], tables[b, c], tables[a, c]
    for p in ac:
        try:
            there = _along(p.a_setting, scales[a], scales[b], ab)
            round_ = _along(there.setting, scales[b], scales[c], bc)
        except OutOfDomain:
            continue
        slack = 2 * ((round_.high - round_.setting) + p.least_half(scales[c])) + abs(_slope(bc) * (there.high - there.setting))
        if abs(round_.setting - p.b_setting) > slack:
            ring = (p, *there.evidence, *round_.evidence)
            return [Contradiction(f"Round by {b}, {a} {p.a_setting:g} is {c} {round_.setting:.3g}, not {p.b_setting:g}:", ring)]
    return []


def _slope(pairs: Sequence[MatchedPair]) -> float:
    knots = _knots(pairs)
    run = knots[-1][0] - knots[0][0]
    return (knots[-1][1] - knots[0][1]) / run if run else 0.0
