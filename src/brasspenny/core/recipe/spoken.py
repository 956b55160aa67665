"""What the readings of a recipe are made of: numbers, times and counts as people say them, and what is known so far.

Patterns are anchored and bounded, so that the time taken grows with the length of the text only.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from ..errors import OutOfDomain
from ..extraction.yields import BREWER_LABELS
from ..units import read_duration_s
from ..vocabulary import BrewerType
from .model import MOST_STEPS, ON_COFFEE, Recipe, Step, can_hold, own_water_g


@dataclass
class State:
    values: dict[str, Any] = field(default_factory=dict)
    steps: list[Step] = field(default_factory=list)
    in_step: bool = False  # the clause has named a step, so times and places belong to it
    drained_at: int | None = None  # how many steps were said when the drips stopped
    clock_s: float | None = None  # a time said before its step: "at 0:30 pour to 190"

    def add(self, step: Step) -> None:
        if len(self.steps) >= MOST_STEPS:
            raise OutOfDomain("text", f"more than {MOST_STEPS} steps.", "Split it into two recipes.")
        if self.clock_s is not None and step.start_s is None:
            step, self.clock_s = replace(step, start_s=self.clock_s), None
        self.steps.append(step)
        self.in_step = True

    def kept(self) -> tuple[dict[str, Any], list[Step], bool, float | None]:
        return dict(self.values), list(self.steps), self.in_step, self.clock_s

    def back_to(self, kept: tuple[dict[str, Any], list[Step], bool, float | None]) -> None:
        self.values, self.steps, self.in_step, self.clock_s = kept

    @property
    def poured_g(self) -> float:
        """What the scale reads after the steps so far."""
        return sum(own_water_g(Recipe(steps=tuple(s for s in self.steps if s.kind in ON_COFFEE))))

    def can_be(self, since: int) -> bool:
        """Whether a document can hold what was taken; `since`: of the steps, those from this one on are new."""
        texts = {"note": "recipe_note"}
        ok = all(can_hold(texts.get(name, name), value) for name, value in self.values.items())
        return ok and all(can_hold(name, value) for step in self.steps[max(0, since) :] for name, value in vars(step).items() if name != "kind")

    def last(self, **changes: Any) -> None:
        self.steps[-1] = replace(self.steps[-1], **changes)


BREWER_WORDS: dict[BrewerType, str] = BREWER_LABELS | {"jug_steep": "jug steep"}
"""The labels, without the comma that would end a clause."""


class Doubt(str):
    """Returned by a reading that knows its words and leaves them open: what is asked about them."""


ABOUT = r"(?:(?:about|around|roughly|approximately|approx\.?|circa|~|≈)\s*)?"
N = rf"{ABOUT}(\d{{1,5}}(?:[.,]\d{{1,3}})?)"
G = rf"{N}\s?(?:g(?:rams?)?\b|ml\b|mL\b)"
CLOCK = r"\d{1,3}:[0-5]\d(?![.,]?\d)"
SMALL = {"one": 1, "a": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "fifteen": 15,
         "twenty": 20, "thirty": 30, "forty": 40, "forty-five": 45, "sixty": 60, "ninety": 90}  # fmt: skip
SMALL_WORDS = "|".join(sorted(SMALL, key=len, reverse=True))
SPOKEN = rf"(?:half\s+a\s+minute|(?:{SMALL_WORDS}|\d{{1,2}})\s+minutes?\s+and\s+a\s+half|\d{{1,2}}\s+and\s+a\s+half\s+minutes?|(?:{SMALL_WORDS})(?:\s+and\s+a\s+half)?\s+(?:minutes?|seconds?))"
NOT_SECONDS = r"(?!\s?(?:g\b|gram|ml\b|°|%|c\b|f\b|x\b|×|swirl|stir|tap|[:.,]?\d))"
T = rf"{ABOUT}({CLOCK}|{SPOKEN}\b|\d{{1,2}}[.,]\d\s?min(?:utes?)?\b|\d{{1,3}}\s?m(?:in(?:utes?)?)?(?:\s?(?:and\s+)?\d{{1,2}}{NOT_SECONDS}(?:\s?s(?:ec(?:onds?)?)?)?)?\b|\d{{1,5}}\s?s(?:ec(?:onds?)?)?\b)"
TIMES = rf"(?:(once|twice|(?:\d{{1,2}}|{SMALL_WORDS})\s*(?:times|x|×)))"
SETTING = r"[A-Za-z]\d{1,3}|-?\d{1,5}(?:[.,]\d{1,3})?(?:\s+\d{1,2}/\d{1,2})?(?:\s+clicks?)?"
QUOTED = r"[\"“]([^\"“”\n]{0,200})[\"”]"


THOUSANDS = re.compile(r"[1-9]\d?,\d{3}|[1-9]\.000")


def number(text: str) -> float:
    """A decimal comma or point; "1,000" and "1.000" are a thousand: nobody weighs a gram of water to the milligram.

    >>> number("18,5"), number("1,000"), number("0,125")
    (18.5, 1000.0, 0.125)
    """
    return float(re.sub(r"[.,]", "", text) if THOUSANDS.fullmatch(text) else text.replace(",", "."))


def counted(text: str) -> int:
    word = re.split(r"\s|x|×", text.lower())[0]
    return {"once": 1, "twice": 2}.get(word) or SMALL.get(word) or int(word)


def _spoken_s(text: str) -> float:
    """ "two and a half minutes" in s."""
    if text.startswith("half"):
        return 30.0
    words = text.split()
    count = int(words[0]) if words[0].isdigit() else SMALL[words[0]]
    return (count + (0.5 if "half" in words else 0)) * (60 if any(w.startswith("minute") for w in words) else 1)


def seconds(text: str) -> float:
    if re.fullmatch(SPOKEN, text, re.IGNORECASE | re.ASCII):
        return _spoken_s(re.sub(r"\s+", " ", text.lower()))
    tidy = re.sub(r"(?<=\d)\s?min(?:utes?)?\b", "m", re.sub(r"\s+and\s+", " ", text, flags=re.IGNORECASE), flags=re.IGNORECASE)
    tidy = re.sub(r"(?<=\d)\s?sec(?:onds?)?\b", "s", tidy)
    if tidy.endswith("m"):
        return round(60 * number(tidy[:-1]), 1)
    return read_duration_s(tidy)


NO_OTHER_UNIT = r"\b(?![.,]?\d|\s*(?:°|%|ml\b|[cfs]\b|oz\b|min|sec|:|x\b|×))"
"""Grams: not the start of a longer number, and not of anything else."""

Rule = tuple[re.Pattern, Callable[[State, re.Match], str | None]]


def rules() -> tuple[list[Rule], Callable[[str], Callable]]:
    """A list of readings in the order they are tried, and what registers one. A reading returns what it took the words for, or None to leave
    them to a later pattern."""
    known: list[Rule] = []

    def rule(pattern: str):
        def register(take: Callable[[State, re.Match], str | None]):
            known.append((re.compile(pattern, re.IGNORECASE | re.ASCII), take))
            return take

        return register

    return known, rule
