"""All dials of a kit together: what a setting belongs to, what each is called, and what leads from one to another. docs/formulas.md §5.

A setting means nothing without its grinder and burr set: a dial is a burr set in its body, or a grinder that has none.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Any

from ..errors import PennyError
from .settings import AS_THE_RECIPE_SAYS, GrinderScale, MatchedPair, Translated, translate

JOIN = " · "


@dataclass(frozen=True)
class Part:
    """A grinder, or a burr set whose facts name its grinder_id."""

    id: str
    kind: str
    name: str
    facts: Mapping[str, Any]


@dataclass(frozen=True)
class Match:
    """A matched pair as it is stored: by the ids of its dials. sampled: made from sieve samples; a_spread, b_spread: the half-widths these leave on either dial, None where
    no line of it is known."""

    id: str
    a: str
    a_setting: float
    b: str
    b_setting: float
    kind: str
    on: str = ""
    sampled: bool = False
    a_spread: float | None = None
    b_spread: float | None = None


@dataclass(frozen=True)
class RecipeSettings:
    """Settings one recipe gives for several dials, as written on each: (dial id, setting). They grind alike, the recipe says."""

    recipe: str
    settings: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Carried:
    """setting: as written on the other dial, '' when nothing leads there; matches: the kinds it rests on, weakest first; span: in words;
    width: of the span, in numbers of that dial."""

    setting: str
    matches: tuple[str, ...]
    span: str
    width: float = 0.0

    @property
    def rule(self) -> str | None:
        """The matching rule it can be declared by; None when nothing vouches for it."""
        return self.matches[0] if self.matches else None

    def said(self, before: str) -> str:
        """Why the two settings stand for one another. before: as written on the first dial.

        >>> Carried("19", ("sieve_median",), "18 to 20").said("5.5")
        "By the kit's matches, 19 grinds like 5.5 (range 18 to 20)"
        """
        return f"By the kit's matches, {self.setting} grinds like {before} (range {self.span})" if self.matches else ""


@dataclass(frozen=True)
class Dials:
    """parts: of the kit as it is now; matches: in order of noting; said: by the recipes as they are now."""

    parts: tuple[Part, ...]
    matches: tuple[Match, ...]
    said: tuple[RecipeSettings, ...] = ()

    @cached_property
    def names(self) -> dict[str, str]:
        """Part id → full name: a burr set is called by its grinder and itself."""
        bodies = {p.id: p.name for p in self.parts if p.kind == "grinder"}
        return {p.id: full_name(p.name, bodies.get(p.facts.get("grinder_id"), "?")) if p.kind == "burr_set" else p.name for p in self.parts}

    @cached_property
    def sides(self) -> dict[str, Part]:
        """What a setting belongs to, by id: each burr set, and each grinder that has none."""
        with_burrs = {p.facts.get("grinder_id") for p in self.parts if p.kind == "burr_set"}
        return {p.id: p for p in self.parts if p.kind == "burr_set" or (p.kind == "grinder" and p.id not in with_burrs)}

    @cached_property
    def _burrs_it_had(self) -> dict[str, str]:
        """Grinder → the burr set that was named first: what was said of the grinder's dial before any burrs were named was said of those in it."""
        out: dict[str, str] = {}
        for p in self.parts:
            if p.kind == "burr_set":
                out.setdefault(p.facts.get("grinder_id"), p.id)
        return out

    def current(self, dial_id: str, said: str = "") -> str:
        """The dial that an id stands for today: itself; of a grinder whose burrs were named since, the first of these; else the one meant by `said`; '' where it is gone.

        >>> kit = Dials((Part("h", "grinder", "Tidewheel", {}), Part("b", "burr_set", "flat", {"grinder_id": "h"}), Part("c", "burr_set", "ghost", {"grinder_id": "h"})), ())
        >>> kit.current("h"), kit.current("c"), kit.current("gone", "Tidewheel · flat"), kit.current("gone")
        ('b', 'c', 'b', '')
        """
        now = self._burrs_it_had.get(dial_id, dial_id)
        return now if now in self.sides else self.linked(said) if said else ""

    @cached_property
    def scales(self) -> dict[str, GrinderScale]:
        """Full name → scale; a burr set's own facts over its grinder's."""
        return {self.names[i]: self._scale(p) for i, p in self.sides.items()}

    def _scale(self, part: Part) -> GrinderScale:
        body = next((p for p in self.parts if p.id == part.facts.get("grinder_id")), part) if part.kind == "burr_set" else part
        return scale_from(self.names[part.id], body.facts, part.facts)

    @cached_property
    def pairs(self) -> tuple[MatchedPair, ...]:
        """Matches whose dials are both still there: those noted, then those recipes speak of."""
        noted = tuple(
            MatchedPair(self.names[a], m.a_setting, self.names[b], m.b_setting, m.kind, m.on, m.id, m.a_spread, m.b_spread)
            for m in self.matches
            if (a := self.current(m.a)) and (b := self.current(m.b))
        )
        return noted + tuple(pair for _, pair in self.said_pairs)

    @cached_property
    def said_pairs(self) -> tuple[tuple[str, MatchedPair], ...]:
        """(recipe, pair) for every two dials one recipe gives a readable setting of."""
        out = []
        for said in self.said:
            read = [(self.current(i), self.read(i, text)) for i, text in said.settings]
            known = [(self.names[i], setting) for i, setting in read if setting is not None]
            out += [(said.recipe, MatchedPair(a, x, b, y, AS_THE_RECIPE_SAYS)) for (a, x), (b, y) in combinations(known, 2) if a != b]
        return tuple(out)

    def read(self, dial_id: str, text: str) -> float | None:
        """A setting as written on that dial; None when it is none, or the dial is gone."""
        now = self.current(dial_id)
        return self.scales[self.names[now]].read(text) if now else None

    def translate(self, setting: float, from_id: str, to_id: str) -> Translated:
        """As core.grinding.settings.translate, by the ids of two dials."""
        here, there = (self.scales[self.names[self.current(i)]] for i in (from_id, to_id))
        return translate(setting, here, there, self.pairs, self.scales)

    def id_of(self, name: str) -> str | None:
        """The dial of that full name."""
        return next((i for i in self.sides if self.names[i] == name), None)

    def carried(self, text: str, from_id: str | None, to_id: str | None) -> Carried:
        """A setting written on one dial, as it is set on another: where matches lead there; else empty, to be dialled in."""
        from_id, to_id = (self.current(i or "") for i in (from_id, to_id))
        if not from_id or not to_id:
            return Carried("", (), "")
        here, there = self.scales[self.names[from_id]], self.scales[self.names[to_id]]
        setting = here.read(text)
        if setting is None:
            return Carried("", (), "")
        try:
            found = self.translate(setting, from_id, to_id)
        except PennyError:
            return Carried("", (), "")
        low, high = there.around(found.low, found.high)
        return Carried(there.write(found.nearest), found.matches, f"{there.write(low)} to {there.write(high)}", high - low)

    def linked(self, said: str) -> str:
        """The id of the one dial a name is meant for: its full name, or the burrs' alone where only one has them; '' otherwise.

        >>> kit = Dials((Part("g", "grinder", "Tide", {}), Part("h", "grinder", "Tidewheel", {}), Part("b", "burr_set", "flat steel", {"grinder_id": "h"})), ())
        >>> kit.linked("tide"), kit.linked("Flat steel"), kit.linked("Tidewheel · flat steel"), kit.linked("Tidewheel")
        ('g', 'b', 'b', 'b')
        """
        wanted = said.strip().casefold()
        for called in (lambda i: self.names[i], lambda i: self.sides[i].name, lambda i: self.names[i].split(JOIN)[0]):
            found = [i for i in self.sides if called(i).casefold() == wanted]
            if len(found) == 1:
                return found[0]
        return ""

    @property
    def only_sampled(self) -> Dials:
        """The same dials with the matches that sieve samples stand behind."""
        return Dials(self.parts, tuple(m for m in self.matches if m.sampled))


def full_name(burrs: str, body: str) -> str:
    """ "Tidewheel · flat steel".

    >>> full_name("flat steel", "Tidewheel")
    'Tidewheel · flat steel'
    """
    return f"{body}{JOIN}{burrs}"


def scale_from(name: str, body: Mapping[str, Any], burrs: Mapping[str, Any]) -> GrinderScale:
    """The scale a grinder's facts describe; its burr set's own come before them."""
    facts = dict(body) | {k: v for k, v in burrs.items() if v is not None}
    return GrinderScale(
        name=name,
        kind=facts.get("scale", "dial"),
        direction=facts.get("direction", "larger_is_coarser"),
        step=facts.get("step"),
        finest=facts.get("finest"),
        zero=facts.get("zero"),
        marks=facts.get("marks"),
    )


def dials_of(parts: Sequence[Part], matches: Sequence[Match], said: Sequence[RecipeSettings] = ()) -> Dials:
    return Dials(tuple(parts), tuple(matches), tuple(said))


def dial_ids(kit: Mapping[str, Any] | None) -> set[str]:
    """Of a setup's record of its kit: its dial, and the grinder's own, under which things may have been noted before its burrs were named."""
    return {item["id"] for part in ("burr_set", "grinder") if (item := (kit or {}).get(part))}


def dial_id(kit: Mapping[str, Any] | None) -> str | None:
    """Of a setup's own record of its kit: the id of the dial its setting belongs to; None without a grinder of the kit."""
    named = kit or {}
    return (named.get("burr_set") or named.get("grinder") or {}).get("id")
