"""The grammar of recipes as text: what each pattern takes its words for. Told for people in docs/recipe-text.md.

At each place of a clause the first pattern that fits takes its words. Two readings are conventions, and are said: the
first mass with no word to it is the dose, the second the brew water. Patterns are anchored and bounded, so that the time
taken grows with the length of the text only.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from ..errors import OutOfDomain
from ..extraction.yields import BREWER_LABELS
from ..units import read_duration_s, write_duration
from ..vocabulary import BrewerType
from .model import MOST_STEPS, ON_COFFEE, STEP_LABELS, GrindSetting, Recipe, Step, can_hold, own_water_g


@dataclass
class State:
    values: dict[str, Any] = field(default_factory=dict)
    steps: list[Step] = field(default_factory=list)
    in_step: bool = False  # the clause has named a step, so times and places belong to it
    clock_s: float | None = None  # a time said before its step: "at 0:30 pour to 190"

    def add(self, step: Step) -> None:
        if len(self.steps) >= MOST_STEPS:
            raise OutOfDomain("text", f"more than {MOST_STEPS} steps.", "")
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

N = r"(\d{1,5}(?:[.,]\d{1,3})?)"
G = rf"{N}\s?(?:g(?:rams?)?\b|ml\b|mL\b)"
CLOCK = r"\d{1,3}:[0-5]\d(?![.,]?\d)"
SMALL = {"one": 1, "a": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "fifteen": 15,
         "twenty": 20, "thirty": 30, "forty": 40, "forty-five": 45, "sixty": 60, "ninety": 90}  # fmt: skip
_SMALL = "|".join(sorted(SMALL, key=len, reverse=True))
SPOKEN = rf"(?:half\s+a\s+minute|(?:{_SMALL})(?:\s+and\s+a\s+half)?\s+(?:minutes?|seconds?))"
T = rf"({CLOCK}|\d{{1,3}}\s?m(?:in(?:utes?)?)?(?:\s?\d{{1,2}}(?:\s?s(?:ec(?:onds?)?)?)?)?\b|\d{{1,5}}\s?s(?:ec(?:onds?)?)?\b|{SPOKEN}\b)"
TIMES = rf"(?:(once|twice|(?:\d{{1,2}}|{_SMALL})\s*(?:times|x|×)))"
SETTING = r"[A-Za-z]\d{1,3}|-?\d{1,5}(?:[.,]\d{1,3})?(?:\s+\d{1,2}/\d{1,2})?(?:\s+clicks?)?"
QUOTED = r"[\"“]([^\"“”\n]{0,200})[\"”]"


def _n(text: str) -> float:
    return float(text.replace(",", "."))


def _count(text: str) -> int:
    word = re.split(r"\s|x|×", text.lower())[0]
    return {"once": 1, "twice": 2}.get(word) or SMALL.get(word) or int(word)


def _spoken_s(text: str) -> float:
    """ "two and a half minutes" in s."""
    if text.startswith("half"):
        return 30.0
    words = text.split()
    return (SMALL[words[0]] + (0.5 if "half" in words else 0)) * (60 if words[-1].startswith("minute") else 1)


def _t(text: str) -> float:
    if re.fullmatch(SPOKEN, text, re.IGNORECASE | re.ASCII):
        return _spoken_s(re.sub(r"\s+", " ", text.lower()))
    tidy = re.sub(r"(?<=\d)\s?min(?:utes?)?\b", "m", text)
    tidy = re.sub(r"(?<=\d)\s?sec(?:onds?)?\b", "s", tidy)
    if tidy.endswith("m"):
        return 60 * float(tidy[:-1])
    return read_duration_s(tidy)


NO_OTHER_UNIT = r"\b(?![.,]?\d|\s*(?:°|%|ml\b|[cfs]\b|oz\b|min|sec|:|x\b|×))"
"""Grams: not the start of a longer number, and not of anything else."""

Rule = tuple[re.Pattern, Callable[[State, re.Match], str | None]]
RULES: list[Rule] = []


def rule(pattern: str):
    """Register a reading. It returns what it took the words for, or None to leave them to a later pattern."""

    def register(take: Callable[[State, re.Match], str | None]):
        RULES.append((re.compile(pattern, re.IGNORECASE | re.ASCII), take))
        return take

    return register


# --- the clock first: the commonest way of speaking -----------------------------------------------------------------------


@rule(rf"(?:at\s+|from\s+)?({CLOCK})\s*(?:[-–—:]\s*)?(?:(?:to\s+)?{G}(?!\s*(?:coffee|of\b|out|drink)))")
def _clock_and_reading(s: State, m: re.Match) -> str | None:
    """ "0:30 – 190 g": what the scale reads by the pour begun then. A reading that is not above the last one is asked about."""
    if s.in_step or _n(m[2]) <= s.poured_g or _is_a_ratio(s, m):
        return None
    s.add(Step("pour", to_g=_n(m[2]), start_s=_t(m[1])))
    return f"from {m[1]} pour until the scale reads {_n(m[2]):g} g"


@rule(rf"(?:at\s+|from\s+)?({CLOCK})(?=\s*(?:[-–—:,]\s*)?(?!\d|\s*(?:-|–|to|and)\s*\d)\S)|(?:at|from)\s+(\d{{1,4}})\s?s(?:ec(?:onds?)?)?\b(?=\s*,?\s*\S)")
def _clock(s: State, m: re.Match) -> str | None:
    if s.in_step or _is_a_ratio(s, m):
        return None
    s.clock_s = _t(m[1]) if m[1] else float(m[2])
    return f"at {write_duration(s.clock_s)}"


STEP_WORD = re.compile(
    r"\s*(?:[-–—:]\s*)?(?:pour|to\b|on\s+to|up\s+to|bloom|swirl|stir|agitate|wait|steep|add|start|then|hold|transfer|decant|press|plunge|lid|break|flip|\d+\s*(?:g|swirls|stirs)\b)",
    re.IGNORECASE | re.ASCII,
)


def _is_a_ratio(s: State, m: re.Match) -> bool:
    """ "1:16" alone, before any step, is no time of day, unless it says so or a step follows it at once."""
    said = re.match(r"(at\s+|from\s+)?1:(\d\d)", m[0], re.IGNORECASE)
    plain = bool(said) and not said[1] and not s.steps and "brew_ratio" not in s.values
    return plain and not STEP_WORD.match(m.string, m.start() + len("1:00"))


# --- targets and ends (first: they hold words that would also fit a step) ---------------------------------------------


@rule(rf"(?:done|finish(?:e[sd])?|total(?:\s+time)?|drawdown)\s+(?:in\s+)?(?:between\s+)?{T}\s*(?:-|–|to|and)\s*{T}|between\s+{T}\s+and\s+{T}")
def _between(s: State, m: re.Match) -> str | None:
    if m[3]:
        if s.in_step:
            return None
        s.values["total_time_s"] = (_t(m[3]), _t(m[4]))
        return f"whole brew {write_duration(_t(m[3]))} to {write_duration(_t(m[4]))}"
    s.values["total_time_s"] = (_t(m[1]), _t(m[2]))
    return f"whole brew {write_duration(_t(m[1]))} to {write_duration(_t(m[2]))}"


@rule(r"(?:it\s+is\s+|it\s+should\s+be\s+)?(?:done|finished|over)\b(?!\s*(?:by|in|at|of|after|between|\d|to\b|-|–))")
def _done_then(s: State, m: re.Match) -> str | None:
    """ "2:30 done": the clock was said first."""
    if s.clock_s is None:
        return None
    s.values["total_time_s"], s.clock_s = (s.values.get("total_time_s", (None, None))[0], s.clock_s), None
    return f"done by {write_duration(s.values['total_time_s'][1])}"


@rule(rf"(?:it\s+(?:is|should\s+be)\s+)?(?:done|finish(?:e[sd])?|total(?:\s+time)?|drawdown)\s+(?:(by|in|at|of|after)\s+)?{T}")
def _done(s: State, m: re.Match) -> str:
    if m[1] and m[1].lower() == "after":
        s.values["total_time_s"] = (_t(m[2]), s.values.get("total_time_s", (None, None))[1])
        return f"done after {write_duration(_t(m[2]))} at the earliest"
    s.values["total_time_s"] = (s.values.get("total_time_s", (None, None))[0], _t(m[2]))
    return f"done by {write_duration(_t(m[2]))}"


@rule(rf"(?:all|last)\s+(?:water|pours?)\s+(?:in|ends?)\s+by\s+{T}")
def _pours_end(s: State, m: re.Match) -> str:
    s.values["pour_end_s"] = _t(m[1])
    return f"last pour ends by {write_duration(_t(m[1]))}"


@rule(
    r"(?:let\s+it\s+(?:all\s+)?(?:drip|drain|run)(?:\s+(?:out|through|down))?|(?:until|when)?\s*(?:the\s+)?drips?\s+(?:stop|end)s?|(?:drip|drain)s?\s+(?:out|through)|draws?\s+down)\b"
)
def _drips(s: State, m: re.Match) -> str:
    s.values["ends"] = "drips_stop"
    if s.clock_s is not None:
        s.values["total_time_s"], s.clock_s = (s.values.get("total_time_s", (None, None))[0], s.clock_s), None
    return "ends when the drips stop"


@rule(r"(?:end|stop)s?\s+on\s+time")
def _on_time(s: State, m: re.Match) -> str:
    s.values["ends"] = "time"
    return "ends at a set time"


@rule(rf"(?:target\s+)?{N}?\s?(-|–|to)?\s?{N}?\s?%\s?(tds|yield|ey)\b")
def _target(s: State, m: re.Match) -> str | None:
    low, high = m[1] and _n(m[1]), m[3] and _n(m[3])
    if low is None and high is None:
        return None
    pair = (low, high) if m[2] else (low, low)
    s.values["tds_pct" if m[4].lower() == "tds" else "ey_pct"] = pair
    return f"target {_range_words(pair)} % {'TDS' if m[4].lower() == 'tds' else 'yield'}"


def _range_words(pair: tuple[float | None, float | None]) -> str:
    low, high = pair
    return f"{low:g}" if low == high and low is not None else f"{'' if low is None else format(low, 'g')}–{'' if high is None else format(high, 'g')}"


@rule(rf"(?:taste\s+)?(too\s+fast|on\s+time|too\s+slow)\s+(?:tastes\s+)?{QUOTED}")
def _signpost(s: State, m: re.Match) -> str:
    name = {"too fast": "fast", "on time": "on_time", "too slow": "slow"}[re.sub(r"\s+", " ", m[1].lower())]
    s.values[name] = m[2]
    return f"taste expected when {m[1].lower()}"


# --- amounts -------------------------------------------------------------------------------------------------------------


@rule(rf"grind\s+(?={N}\s?(?:g|grams?)\b)")
def _grind_so_much(s: State, m: re.Match) -> str:
    return "grind"


@rule(rf"{G}\s+(?:of\s+)?(?:ground\s+)?coffee|(?:dose|coffee)\s*:?\s*{N}\s?g?\b|{G}\s+dose")
def _dose(s: State, m: re.Match) -> str:
    dose = _n(m[1] or m[2] or m[3])
    if s.values.get("dose_g", dose) != dose:
        return None  # a second dose is a question
    s.values["dose_g"] = dose
    return f"dose {dose:g} g"


@rule(rf"{G}\s+(?:of\s+)?(?:drink|beverage)\b|(?:drink|beverage)\s*:?\s*{N}\s?(?:g|grams?|ml)?{NO_OTHER_UNIT}")
def _drink(s: State, m: re.Match) -> str:
    s.values["beverage_g"] = _n(m[1] or m[2])
    return f"aims at {s.values['beverage_g']:g} g of drink"


@rule(rf"{G}\s+out\b|{N}\s+out\b|out\s*:?\s*{N}\s?g?\b")
def _out(s: State, m: re.Match) -> str:
    s.values["out_g"] = _n(m[1] or m[2] or m[3])
    return f"{s.values['out_g']:g} g “out”: water or drink is not said"


@rule(rf"{G}\s+(?:of\s+)?(?:brew\s+)?water\b(?!\s*(?:for|to)\s+bypass)|(?:brew\s+)?water\s*:?\s*{G}")
def _water(s: State, m: re.Match) -> str | None:
    if s.in_step:
        return None
    s.values["brew_water_g"] = _n(m[1] or m[2])
    return f"brew water {s.values['brew_water_g']:g} g"


@rule(rf"{N}\s?(?:g|grams?)\s+(?:of\s+coffee\s+)?(?:to|per)\s+(100|1000)\s?(?:g|grams?|ml)\b")
def _to_100(s: State, m: re.Match) -> str | None:
    """ "7 grams to 100 ml" is a ratio, not a dose and its water."""
    if s.in_step or _n(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(int(m[2]) / _n(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {_n(m[1]):g} g to {m[2]}"


@rule(rf"1\s?:\s?{N}(?![\d:])")
def _ratio(s: State, m: re.Match) -> str | None:
    if _n(m[1]) == 0:
        return None
    s.values["brew_ratio"] = _n(m[1])
    return f"ratio 1:{s.values['brew_ratio']:g}, all water"


@rule(rf"{N}\s?g\s?(?:/|per\s)\s?(?:L\b|lit(?:re|er)\b)")
def _per_litre(s: State, m: re.Match) -> str | None:
    if _n(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(1000 / _n(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {_n(m[1]):g} g/L"


@rule(rf"{N}\s?g\s?(?:/|per\s)\s?100\s?g\b")
def _per_100(s: State, m: re.Match) -> str | None:
    if _n(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(100 / _n(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {_n(m[1]):g} g per 100 g"


@rule(r"(?:in\s+(?:a|an)\s+)?(" + "|".join(re.escape(label) for label in BREWER_WORDS.values()) + r")(?:\s+brewer)?\b")
def _brewer(s: State, m: re.Match) -> str:
    s.values["brewer_type"] = next(code for code, label in BREWER_WORDS.items() if label.lower() == m[1].lower())
    return f"brewer: {m[1].lower()}"


@rule(rf"(grind\s*:?\s*)?({SETTING})\s+on\s+(?:the\s+)?(?:{QUOTED}|([^\s,;\n\"“”.][^,;\n\"“”.]{{0,79}}))")
def _setting_on(s: State, m: re.Match) -> str | None:
    """ "grind 3 on the ridged plates, 5 on the flat": the word is said once, and again only after something else."""
    if s.in_step or not (m[1] or s.values.get("grinds") or "click" in m[2].lower()):
        return None
    on = (m[3] or m[4] or "").strip()
    if not on:
        return None
    s.values["grinds"] = (*s.values.get("grinds", ()), GrindSetting(on, re.sub(r"\s+", " ", m[2])))
    return f"setting {m[2]} on {on}"


@rule(rf"(grind|filter|tap\s+water|water|note)\s*:?\s*{QUOTED}")
def _named(s: State, m: re.Match) -> str:
    name = m[1].lower().split()[-1]
    if name == "note" and s.in_step:
        s.last(note=m[2])
        return "note to the step"
    s.values[name] = m[2]
    return f"{name} {m[2]}"


@rule(r"(?:grind\s*:?\s*|ground\s+)?((?:extra[-\s])?(?:medium[-\s](?:fine|coarse)|fine[-\s]medium|fine|medium|coarse))(?:\s+(?:grind|ground))?\b")
def _how_fine(s: State, m: re.Match) -> str | None:
    if s.in_step or s.values.get("grind"):
        return None
    s.values["grind"] = re.sub(r"[-\s]+", "-", m[1].lower())
    return f"grind {s.values['grind']}"


@rule(rf"{N}\s?ppm\b(?:\s+(?:of\s+)?(?:minerals|water))?")
def _minerals(s: State, m: re.Match) -> str | None:
    """Of the water: no strength is told in ppm."""
    if s.in_step or s.values.get("water"):
        return None
    s.values["water"] = f"{_n(m[1]):g} ppm"
    return f"water with {_n(m[1]):g} ppm of minerals"


@rule(r"(?:tare|zero)(?:\s+(?:the\s+)?scales?)?\b")
def _tare(s: State, m: re.Match) -> str | None:
    """Before any water it changes nothing; after, what later readings mean is a question."""
    return "the scale is zeroed" if s.poured_g == 0 else None


@rule(rf"grind\s*:?\s*{N}\b(?:\s+clicks)?")
def _grind(s: State, m: re.Match) -> str:
    s.values["grind"] = m[0].split(":")[-1].strip()[5:].strip() if ":" not in m[0] else m[0].split(":")[-1].strip()
    return f"grind {s.values['grind']}"


# --- steps ---------------------------------------------------------------------------------------------------------------


@rule(rf"bloom(?:\s+with)?\s+(?:{N}\s?(?:x|×)(?:\s+the\s+dose|\s+dose)?|(to\s+)?{N}(?:\s?(?:g|grams?)\b|\b(?!\s*(?:s\b|sec|m\b|min|:))))")
def _bloom(s: State, m: re.Match) -> str | None:
    if m[1]:
        dose = s.values.get("dose_g")
        if not dose:
            return None
        s.add(Step("bloom", add_g=round(_n(m[1]) * dose, 1)))
        return f"bloom with {s.steps[-1].add_g:g} g, {_n(m[1]):g} × the dose"
    s.add(Step("bloom", to_g=_n(m[3])) if m[2] else Step("bloom", add_g=_n(m[3])))
    return f"bloom {'to' if m[2] else 'with'} {_n(m[3]):g} g"


@rule(rf"(?:pour\s+)?(?:(\d{{1,2}})\s?(?:x|×)\s?{N}(?:\s?(?:g|grams?)\b)?{NO_OTHER_UNIT}|{N}\s?g?\s?(?:x|×)\s?(\d{{1,2}})\b)(?:\s+every\s+{T})?")
def _repeated(s: State, m: re.Match) -> str | None:
    grams, times = (_n(m[2]), int(m[1])) if m[1] else (_n(m[3]), int(m[4]))
    if m[1] and times > grams:
        grams, times = float(times), int(grams) if grams == int(grams) else 0  # "70 x 4" and "4 x 70" are one thing
    if not 1 <= times <= 20 or not grams:
        return None
    first = _next_start(s)
    for i in range(times):
        s.add(Step("pour", add_g=grams, start_s=None if m[5] is None else first + i * _t(m[5])))
    return f"{times} pours of {grams:g} g" + (f", one every {write_duration(_t(m[5]))}" if m[5] else "")


def _next_start(s: State) -> float:
    """Repeated pours "every 30 s" begin when the step above ends."""
    from .model import timeline

    timed = timeline(Recipe(steps=tuple(s.steps)))
    return max(0.0, timed[-1].end_s) if timed else 0.0


@rule(rf"(?:pour\s+)?hold(?:ing)?\s+(?:the\s+|this\s+)?level(?:\s+(to\s+)?{N}\s?g?\b)?")
def _hold(s: State, m: re.Match) -> str:
    amount = {} if not m[2] else {"to_g": _n(m[2])} if m[1] else {"add_g": _n(m[2])}
    s.add(Step("hold_level", **amount))
    return "pour to hold the level" + (f", {m[1] or ''}{_n(m[2]):g} g" if m[2] else "")


@rule(rf"(?:pour\s+|on\s+|up\s+|pour\s+up\s+)?to\s+(?:the\s+)?{N}\s?(?:g|grams?)?(?:\s+mark\b)?{NO_OTHER_UNIT}")
def _pour_to(s: State, m: re.Match) -> str:
    s.add(Step("pour", to_g=_n(m[1])))
    return f"pour until the scale reads {_n(m[1]):g} g"


@rule(rf"{N}\s?(?:g|grams?)\s+(?:pour|of\s+water)\b(?!\s*(?:for|to)\s+bypass)")
def _gram_pour(s: State, m: re.Match) -> str | None:
    if s.in_step or not (m[0].lower().endswith("pour") or s.steps):
        return None
    s.add(Step("pour", add_g=_n(m[1])))
    return f"pour {_n(m[1]):g} g more"


@rule(rf"(?:pour|add)\s+(?:another\s+)?{N}\s?(?:g\b|grams?\b|ml\b)?{NO_OTHER_UNIT}")
def _pour(s: State, m: re.Match) -> str:
    s.add(Step("pour", add_g=_n(m[1])))
    return f"pour {_n(m[1]):g} g more"


@rule(rf"bypass\s+(?:with\s+)?(?:{N}\s?g?\b|(the\s+rest|total\s+minus\s+poured))")
def _bypass(s: State, m: re.Match) -> str:
    s.add(Step("bypass", rest=True) if m[2] else Step("bypass", add_g=_n(m[1])))
    return "bypass: total minus poured" if m[2] else f"bypass {_n(m[1]):g} g"


@rule(rf"(?:wait|steep)(?:\s+(?:for\s+)?{T}|\s+(\d{{1,4}})\b(?![\d:]))?")
def _wait(s: State, m: re.Match) -> str:
    seconds = _t(m[1]) if m[1] else float(m[2]) if m[2] else None
    s.add(Step("wait", duration_s=seconds))
    return "wait" if seconds is None else f"wait {write_duration(seconds)}"


@rule(r"decant(?!\s+(?:in)?to\s+(?:the\s+)?dripper)(?:\s+(?:it\s+)?(?:in)?to\s+(?:the\s+|a\s+)?(?:server|cups?|carafe|jug))?\b")
def _decant(s: State, m: re.Match) -> str:
    s.add(Step("serve"))
    return "poured off to serve"


@rule(rf"(?:transfer|decant|pour\s+(?:it\s+)?over)(?:\s+(?:in)?to\s+the\s+dripper)?(?:\s+reads?\s+{G})?(?:\s+zeroed\s+(empty|with\s+coffee))?")
def _transfer(s: State, m: re.Match) -> str:
    zeroed = {"empty": "empty", "with coffee": "with_coffee"}.get(re.sub(r"\s+", " ", (m[2] or "").lower()), "")
    s.add(Step("transfer", reading_g=_n(m[1]) if m[1] else None, zeroed=zeroed))
    return "transfer to the dripper" + (f", the scale reads {_n(m[1]):g} g" if m[1] else "")


@rule(rf"(\d{{1,2}}|{_SMALL})\s+(gentle\s+)?(swirl|stir|tap)s?\b")
def _counted(s: State, m: re.Match) -> str:
    s.add(Step(m[3].lower(), count=_count(m[1])))
    return f"{m[3].lower()}, {_count(m[1])} times"


@rule(r"(?:press|plunge)(?:\s+(?:down|gently|slowly))?\s+(?:for\s+|over\s+)?(\d{1,3})\s*(?:-|–|to)\s*(\d{1,3})\s?s(?:ec(?:onds?)?)?\b")
def _press_between(s: State, m: re.Match) -> str:
    s.add(Step("press", duration_s=(int(m[1]) + int(m[2])) / 2))
    return f"press over {m[1]} to {m[2]} s, taken as {(int(m[1]) + int(m[2])) / 2:g} s"


SIMPLE_STEPS = (
    (r"rinse(?:\s+the\s+filter)?", "rinse"),
    (r"pre-?heat(?:\s+the\s+brewer)?", "preheat"),
    (r"put\s+in\s+the\s+coffee", "dose"),
    (r"level(?:\s+the\s+bed)?", "level"),
    (r"make\s+a\s+well", "well"),
    (r"stir\s+the\s+server", "stir_server"),
    (r"swirl", "swirl"),
    (r"(?:stir|agitate)", "stir"),
    (r"(?:put\s+)?(?:the\s+)?lid\s+on", "lid"),
    (r"break\s+(?:the\s+)?crust", "break_crust"),
    (r"skim", "skim"),
    (r"tap", "tap"),
    (r"(?:press|plunge)(?:\s+(?:gently|down|slowly))?", "press"),
    (r"(?:invert|flip)", "invert"),
    (r"(?:remove|lift)\s+(?:the\s+)?(?:brewer|dripper)", "remove_brewer"),
    (r"(?:let\s+it\s+)?settle", "settle"),
    (r"serve", "serve"),
    (r"bloom\b", "bloom"),
)
for _pattern, _kind in SIMPLE_STEPS:

    @rule(_pattern + rf"\b(?:\s+(?:{TIMES}|(?:x|×)?\s?(\d{{1,2}})\b(?!\s?(?:[\d:.,]\d|s\b|sec|m\b|min|g\b|°|to\b|-|–))))?")
    def _simple(s: State, m: re.Match, kind=_kind) -> str:
        count = _count(m[1]) if m[1] else int(m[2]) if m[2] else None
        s.add(Step(kind, count=count))
        return STEP_LABELS[kind].lower() + (f", {count} times" if count else "")


# --- what belongs to a step -----------------------------------------------------------------------------------------------


@rule(r"(?:straight\s+)?(?:in(?:to)?\s+the\s+|at\s+the\s+|round\s+the\s+|in\s+a\s+|in\s+)?(cent(?:re|er)|middle|spirals?|circles|edge)\b")
def _where(s: State, m: re.Match) -> str | None:
    if not s.in_step:
        return None
    where = "spiral" if m[1].lower() == "circles" else {"c": "centre", "m": "centre", "s": "spiral", "e": "edge"}[m[1][0].lower()]
    s.last(where=where)
    return f"poured: {where}"


@rule(r"spout\s+(high|low)\b|from\s+(high|low)\b")
def _spout(s: State, m: re.Match) -> str | None:
    if not s.steps:
        return None
    s.last(spout=(m[1] or m[2]).lower())
    return f"spout {s.steps[-1].spout}"


@rule(rf"(?:for|over|in)\s+{T}")
def _lasting(s: State, m: re.Match) -> str | None:
    if not s.steps:
        return None
    s.last(duration_s=_t(m[1]))
    return f"lasts {write_duration(_t(m[1]))}"


TAKES_A_BARE_TIME = ("wait", "settle", "bloom", "press", "swirl", "stir", "rinse", "preheat")


@rule(rf"{T}")
def _bare_time(s: State, m: re.Match) -> str | None:
    """ "bloom 40 s", "settle 2 min": how long, where a time of day would make no sense."""
    if not s.in_step or s.steps[-1].duration_s is not None or s.steps[-1].kind not in TAKES_A_BARE_TIME or ":" in m[1]:
        return None
    s.last(duration_s=_t(m[1]))
    return f"lasts {write_duration(_t(m[1]))}"


@rule(rf"(?:by|until)\s+{T}")
def _by(s: State, m: re.Match) -> str | None:
    if not s.steps:
        return None
    s.last(end_s=_t(m[1]))
    return f"ends by {write_duration(_t(m[1]))}"


@rule(r"(?:at|from)\s+(\d{1,3}:[0-5]\d)|(?:at|from)\s+(\d{1,4})\s?s(?:ec(?:onds?)?)?\b")
def _from(s: State, m: re.Match) -> str | None:
    if not s.in_step:
        return None
    seconds = _t(m[1]) if m[1] else float(m[2])
    s.last(start_s=seconds)
    return f"begins at {write_duration(seconds)}"


@rule(rf"(?:until|when)\s+{QUOTED}")
def _cue(s: State, m: re.Match) -> str | None:
    if not s.steps:
        return None
    s.last(cue=m[1])
    return f"ends when {m[1]} is seen"


@rule(rf"(?:(?:with|at)\s+)?{N}\s?(?:°\s?(C|F)?|(C|F)\b|degrees?\b(?:\s+(C|F)[a-z]*)?)(?:\s+water)?|at\s+{N}(?!\s?(?:g\b|s\b|:|\d|ml\b))\b")
def _temperature(s: State, m: re.Match) -> str:
    value, unit = (_n(m[1]), (m[2] or m[3] or m[4] or ("F" if _n(m[1]) > 110 else "C")).upper()) if m[1] else (_n(m[5]), "C")
    celsius = value if unit == "C" else round((value - 32) / 1.8, 1)
    said = f"{celsius:g} °C" + (f", from {value:g} °F" if unit == "F" else "")
    if s.in_step:
        s.last(temperature_c=celsius)
        return f"this step at {said}"
    s.values["temperature_c"] = celsius
    return f"water at {said}"


@rule(rf"{G}(?!\s+(?:of\s+)?(?:ground\s+)?(?:coffee|dose)\b)")
def _bare_mass(s: State, m: re.Match) -> str | None:
    if s.steps or s.clock_s is not None:
        return None
    if "dose_g" not in s.values:
        s.values["dose_g"] = _n(m[1])
        return f"dose {_n(m[1]):g} g (the first mass)"
    if "brew_water_g" not in s.values:
        s.values["brew_water_g"] = _n(m[1])
        return f"brew water {_n(m[1]):g} g (the second mass)"
    return None
