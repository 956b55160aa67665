"""Readings of what is said of the whole recipe: the clock before its step, ends and targets, amounts, kit. Order matters: ends and targets hold words that
would also fit a step."""

from __future__ import annotations

import re

from ..units import write_duration
from .model import GrindSetting, Step
from .spoken import BREWER_WORDS, CLOCK, NO_OTHER_UNIT, QUOTED, SETTING, G, N, State, T, number, rules, seconds

RULES, rule = rules()


# --- the clock first: the commonest way of speaking -----------------------------------------------------------------------


@rule(rf"(?:at\s+|from\s+)?({CLOCK})\s*(?:[-–—:]\s*)?(?:(?:to\s+)?{G}(?!\s*(?:coffee|of\b|out|drink)))")
def _clock_and_reading(s: State, m: re.Match) -> str | None:
    """ "0:30 – 190 g": what the scale reads by the pour begun then. A reading that is not above the last one is asked about."""
    if s.in_step or number(m[2]) <= s.poured_g or _is_a_ratio(s, m):
        return None
    s.add(Step("pour", to_g=number(m[2]), start_s=seconds(m[1])))
    return f"from {m[1]} pour until the scale reads {number(m[2]):g} g"


@rule(rf"(?:at\s+|from\s+)?({CLOCK})(?=\s*(?:[-–—:,]\s*)?(?!\d|\s*(?:-|–|to|and)\s*\d)\S)|(?:at|from)\s+(\d{{1,4}})\s?s(?:ec(?:onds?)?)?\b(?=\s*,?\s*\S)")
def _clock(s: State, m: re.Match) -> str | None:
    if s.in_step or _is_a_ratio(s, m):
        return None
    s.clock_s = seconds(m[1]) if m[1] else float(m[2])
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
        s.values["total_time_s"] = (seconds(m[3]), seconds(m[4]))
        return f"whole brew {write_duration(seconds(m[3]))} to {write_duration(seconds(m[4]))}"
    s.values["total_time_s"] = (seconds(m[1]), seconds(m[2]))
    return f"whole brew {write_duration(seconds(m[1]))} to {write_duration(seconds(m[2]))}"


@rule(r"(?:it\s+is\s+|it\s+should\s+be\s+)?(?:done|finished|over)\b(?!\s*(?:by|in|at|of|after|between|\d|to\b|-|–))")
def _done_then(s: State, m: re.Match) -> str | None:
    """ "2:30 done": the clock was said first."""
    if s.clock_s is None:
        return None
    at, s.clock_s = s.clock_s, None
    s.values["total_time_s"] = about(at)
    return f"done at about {write_duration(at)}"


@rule(rf"(?:it\s+(?:is|should\s+be)\s+)?(?:done|finish(?:e[sd])?|(end|stop)(?:s|ped|ed)?|total(?:\s+time)?|drawdown)\s+(?:(by|in|at|of|after)\s+)?{T}")
def _done(s: State, m: re.Match) -> str | None:
    if m[1] and not OPENS_ITS_CLAUSE.search(m.string, max(0, m.start() - 12), m.start()):
        return None  # of something else: a pour, a stir
    how, at_s = (m[2] or "").lower(), seconds(m[3])
    earliest, latest = s.values.get("total_time_s", (None, None))
    if how == "after":
        s.values["total_time_s"] = (at_s, latest)
        return f"done after {write_duration(at_s)} at the earliest"
    if how == "by":
        s.values["total_time_s"] = (earliest, at_s)
        return f"done by {write_duration(at_s)}"
    s.values["total_time_s"] = about(at_s)
    return f"done at about {write_duration(at_s)}"


OPENS_ITS_CLAUSE = re.compile(r"(?:^|[,;.\n]|\bthen\b)\s*(?:and\s+)?$", re.IGNORECASE)


def about(at_s: float) -> tuple[float, float]:
    """A finish said as one time: the window on both sides of it, 6 % and no less than 10 s, in steps of 5 s.

    >>> about(180), about(480)
    ((170, 190), (450, 510))
    """
    half = max(10, 5 * round(0.06 * at_s / 5))
    return max(1, at_s - half), at_s + half


@rule(rf"(?:all|last)\s+(?:water|pours?)\s+(?:in|ends?)\s+by\s+{T}")
def _pours_end(s: State, m: re.Match) -> str:
    s.values["pour_end_s"] = seconds(m[1])
    return f"last pour ends by {write_duration(seconds(m[1]))}"


@rule(
    r"(?:let\s+it\s+(?:all\s+)?(?:drip|drain|run)(?:\s+(?:out|through|down))?|(?:until|when)?\s*(?:the\s+)?drips?\s+(?:stop|end)s?|(?:drip|drain)s?\s+(?:out|through)|draws?\s+down)\b"
)
def _drips(s: State, m: re.Match) -> str:
    s.values["ends"] = "drips_stop"
    s.drained_at = len(s.steps)
    if s.clock_s is not None:
        s.values["total_time_s"], s.clock_s = about(s.clock_s), None
    return "ends when the drips stop"


@rule(r"(?:end|stop)s?\s+on\s+time")
def _on_time(s: State, m: re.Match) -> str:
    s.values["ends"] = "time"
    return "ends at a set time"


MEASURE = r"(tds|total\s+dissolved\s+solids|yield|extraction(?:\s+yield)?|ey)"


@rule(rf"(?:target\s+)?{N}?\s?(-|–|to)?\s?{N}?\s?%\s?{MEASURE}\b")
def _target(s: State, m: re.Match) -> str | None:
    low, high = m[1] and number(m[1]), m[3] and number(m[3])
    if low is None and high is None:
        return None
    return _aimed(s, m[4], (low, high) if m[2] else (low, low))


@rule(rf"(?:target\s+)?{MEASURE}\s*(?:of\s+|:\s*|at\s+)?{N}(?:\s?(?:-|–|to)\s?{N})?\s?%")
def _target_after(s: State, m: re.Match) -> str:
    return _aimed(s, m[1], (number(m[2]), number(m[3] or m[2])))


def _aimed(s: State, measure: str, pair: tuple[float | None, float | None]) -> str:
    strength = measure.lower().startswith("t")
    s.values["tds_pct" if strength else "ey_pct"] = pair
    return f"target {_range_words(pair)} % {'TDS' if strength else 'yield'}"


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
    dose = number(m[1] or m[2] or m[3])
    if s.values.get("dose_g", dose) != dose:
        return None  # a second dose is a question
    s.values["dose_g"] = dose
    return f"dose {dose:g} g"


@rule(rf"{G}\s+(?:of\s+)?(?:drink|beverage)\b|(?:drink|beverage)\s*:?\s*{N}\s?(?:g|grams?|ml)?{NO_OTHER_UNIT}")
def _drink(s: State, m: re.Match) -> str:
    s.values["beverage_g"] = number(m[1] or m[2])
    return f"aims at {s.values['beverage_g']:g} g of drink"


@rule(rf"{G}\s+out\b|{N}\s+out\b|out\s*:?\s*{N}\s?g?\b")
def _out(s: State, m: re.Match) -> str:
    s.values["out_g"] = number(m[1] or m[2] or m[3])
    return f"{s.values['out_g']:g} g “out”: water or drink is not said"


@rule(rf"{G}\s+(?:of\s+)?(?:brew\s+)?water\b(?!\s*(?:for|to)\s+bypass)|(?:brew\s+)?water\s*:?\s*{G}")
def _water(s: State, m: re.Match) -> str | None:
    if s.in_step:
        return None
    s.values["brew_water_g"] = number(m[1] or m[2])
    return f"brew water {s.values['brew_water_g']:g} g"


@rule(rf"{N}\s?(?:g|grams?)\s+(?:of\s+coffee\s+)?(?:to|per)\s+(100|1000)\s?ml\b")
def _to_100(s: State, m: re.Match) -> str | None:
    """ "7 grams to 100 ml" is a ratio, not a dose and its water."""
    if s.in_step or number(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(int(m[2]) / number(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {number(m[1]):g} g to {m[2]}"


@rule(rf"1\s?:\s?{N}(?![\d:])")
def _ratio(s: State, m: re.Match) -> str | None:
    if number(m[1]) == 0:
        return None
    s.values["brew_ratio"] = number(m[1])
    return f"ratio 1:{s.values['brew_ratio']:g}, all water"


@rule(rf"{N}\s?g\s?(?:/|per\s)\s?(?:L\b|lit(?:re|er)\b)")
def _per_litre(s: State, m: re.Match) -> str | None:
    if number(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(1000 / number(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {number(m[1]):g} g/L"


@rule(rf"{N}\s?g\s?(?:/|per\s)\s?100\s?g\b")
def _per_100(s: State, m: re.Match) -> str | None:
    if number(m[1]) == 0:
        return None
    s.values["brew_ratio"] = round(100 / number(m[1]), 4)
    return f"ratio 1:{s.values['brew_ratio']:.4g}, from {number(m[1]):g} g per 100 g"


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
    s.values["water"] = f"{number(m[1]):g} ppm"
    return f"water with {number(m[1]):g} ppm of minerals"


@rule(r"(?:tare|zero)(?:\s+(?:the\s+)?scales?)?\b")
def _tare(s: State, m: re.Match) -> str | None:
    """Before any water it changes nothing; after, what later readings mean is a question."""
    return "the scale is zeroed" if s.poured_g == 0 else None


@rule(rf"grind\s*:?\s*{N}\b(?:\s+clicks)?")
def _grind(s: State, m: re.Match) -> str:
    s.values["grind"] = m[0].split(":")[-1].strip()[5:].strip() if ":" not in m[0] else m[0].split(":")[-1].strip()
    return f"grind {s.values['grind']}"
