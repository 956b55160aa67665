"""Readings that come first, because a later one would take half of their words for something else: what is not done, ranges, ratios in words."""

from __future__ import annotations

import re

from ..units import write_duration
from .model import Step
from .spoken import ABOUT, CLOCK, Doubt, G, N, State, number, rules, seconds

RULES, rule = rules()

STEP = r"(?:bloom|pre-?wet|swirl|stir|agitat|press|plung|rins|pre-?heat|tap|skim|invert|flip|pour|bypass|wait|steep|drain|lid|level|settl)\w*"
REST = r"(?:[^,;.\n]|[.,](?=\d))*"
"""To the end of the clause."""
NOT = r"(?:do\s+not|don['’]t|never)"


# --- what is not done -------------------------------------------------------------------------------------------------------


@rule(rf"{NOT}\s+(?:forget\s+to|forget|skip|miss|omit|leave\s+out)\s+(?:the\s+|a\s+)?(?={STEP})")
def _not_to_forget(s: State, m: re.Match) -> str:
    return "to be done"


@rule(rf"(?:{NOT}|without|skip|avoid|omit|leave\s+out|not|no(?!\.?\s*\d))\s+(?:(?:any|the|a|more)\s+)*({STEP})({REST})")
def _left_out(s: State, m: re.Match) -> str:
    if re.search(r"\b(?:until|till|before|unless|after|but|and|only)\b", m[2], re.IGNORECASE):
        return Doubt("what is done, then? Say it without “not”")
    return f"not done: {m[1].lower()}"


@rule(rf"(?:{NOT}|avoid)\b{REST}")
def _warned(s: State, m: re.Match) -> str:
    return Doubt("what is done, then? Say it without “not”")


# --- ranges -----------------------------------------------------------------------------------------------------------------

UNIT = r"(s(?:ec(?:onds?)?)?\b|m(?:in(?:utes?)?)?\b)"
RANGE = rf"{ABOUT}({CLOCK}|\d{{1,3}})\s?{UNIT}?\s*(?:-|–|to|or)\s*({CLOCK}|\d{{1,3}}\b(?![:.,]\d))\s?{UNIT}?(?!\s?(?:g\b|grams?|ml\b|°|%|[cf]\b))"


@rule(rf"(wait|steep|brew\s+for|let\s+it\s+(?:sit|rest|steep))\s+(?:for\s+)?{RANGE}")
def _wait_between(s: State, m: re.Match) -> str:
    between = _between_s(*m.groups()[1:])
    if between is None:
        return Doubt("minutes or seconds?")
    middle, said = between
    s.add(Step("wait", duration_s=middle, note=said))
    return f"wait {said}, taken as {write_duration(middle)}"


@rule(rf"(?:for|over)\s+{RANGE}")
def _lasting_between(s: State, m: re.Match) -> str | None:
    between = _between_s(*m.groups())
    if not s.steps or between is None:
        return None
    middle, said = between
    s.last(duration_s=middle, note=s.steps[-1].note or said)
    return f"lasts {said}, taken as {write_duration(middle)}"


def _between_s(low: str, low_unit: str | None, high: str, high_unit: str | None) -> tuple[float, str] | None:
    """The middle of the two, s, and the range in words; None where bare numbers may be minutes as well as seconds."""
    unit = high_unit or low_unit
    if unit is None and ":" not in high and float(high) <= 12:
        return None
    first, last = (
        seconds(x if ":" in x else f"{x} {'min' if (own or unit or 's')[0].lower() == 'm' else 's'}") for x, own in ((low, low_unit), (high, high_unit))
    )
    if not first < last:
        return None
    return (first + last) / 2, f"{write_duration(first)} to {write_duration(last)}"


@rule(rf"(pour|add|bloom(?:\s+with)?)\s+{N}\s?(?:g\b|grams?\b)?\s*(?:-|–|to)\s*{G}")
def _grams_between(s: State, m: re.Match) -> str:
    low, high = number(m[2]), number(m[3])
    if m[1].lower() == "pour" and s.poured_g > 0 and abs(low - s.poured_g) < 0.5 and high > low:
        s.add(Step("pour", to_g=high))
        return f"from {low:g} g pour until the scale reads {high:g} g"
    return Doubt("from one reading to the other, or an amount between the two?")


# --- ratios in words ----------------------------------------------------------------------------------------------------------

RATIO = r"(?:at\s+|with\s+)?(?:a\s+)?(?:brew\s+)?ratio\s*(?:of\s*|:\s*|is\s*)?"
NO_UNIT = r"\b(?![.,:]\d|\s?(?:g\b|grams?|ml\b|l\b|m\b|min|s\b|sec|°|%|[cf]\b|clicks?))"


@rule(
    rf"{RATIO}(?:1|one)\s?(?:[:/]|\s(?:to|in)\s)\s?{N}{NO_UNIT}|(?:1|one)\s+(?:to|part\s+(?:of\s+)?coffee\s+to)\s+{N}{NO_UNIT}(?:\s+(?:parts?\s+)?(?:of\s+)?water)?"
)
def _ratio_in_words(s: State, m: re.Match) -> str | None:
    ratio = number(m[1] or m[2])
    if s.in_step or not 1 < ratio <= 50:
        return None
    s.values["brew_ratio"] = ratio
    return f"ratio 1:{ratio:g}, all water"
