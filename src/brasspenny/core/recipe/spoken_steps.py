"""Readings of steps, and of what belongs to the step its clause has named."""

from __future__ import annotations

import re

from ..units import write_duration
from .model import HANDS_FREE, ON_COFFEE, STEP_LABELS, Recipe, Step, how_often, timeline
from .spoken import NO_OTHER_UNIT, QUOTED, SMALL_WORDS, TIMES, Doubt, G, N, State, T, counted, number, rules, seconds

RULES, rule = rules()


BLOOM = r"(?:bloom|(?:pre-?)?wet(?:\s+(?:the|all)\s+(?:coffee|grounds|bed))?|pre-?infuse)"

# --- steps ---------------------------------------------------------------------------------------------------------------


@rule(rf"{BLOOM}(?:\s+with)?\s+(?:{N}\s?(?:x|×)(?:\s+the\s+dose|\s+dose)?|(to\s+)?{N}(?:\s?(?:g|grams?)\b|\b(?!\s*(?:s\b|sec|m\b|min|:))))")
def _bloom(s: State, m: re.Match) -> str | None:
    if m[1]:
        dose = s.values.get("dose_g")
        if not dose:
            return None
        s.add(Step("bloom", add_g=round(number(m[1]) * dose, 1)))
        return f"bloom with {s.steps[-1].add_g:g} g, {number(m[1]):g} × the dose"
    s.add(Step("bloom", to_g=number(m[3])) if m[2] else Step("bloom", add_g=number(m[3])))
    return f"bloom {'to' if m[2] else 'with'} {number(m[3]):g} g"


@rule(rf"(?:pour\s+)?(?:(\d{{1,2}})\s?(?:x|×)\s?{N}(\s?(?:g|grams?)\b)?{NO_OTHER_UNIT}|{N}\s?g?\s?(?:x|×)\s?(\d{{1,2}})\b)(?:\s+every\s+{T})?")
def _repeated(s: State, m: re.Match) -> str | None:
    grams, times = (number(m[2]), int(m[1])) if m[1] else (number(m[4]), int(m[5]))
    if m[1] and not m[3] and times > grams:
        grams, times = float(times), int(grams) if grams == int(grams) else 0  # "70 x 4" and "4 x 70" are one thing
    if not 1 <= times <= 20 or not grams:
        return None
    first = _next_start(s)
    for i in range(times):
        s.add(Step("pour", add_g=grams, start_s=None if m[6] is None else first + i * seconds(m[6])))
    return f"{times} pours of {grams:g} g" + (f", one every {write_duration(seconds(m[6]))}" if m[6] else "")


def _next_start(s: State) -> float:
    """Repeated pours "every 30 s" begin when the step above ends."""
    timed = timeline(Recipe(steps=tuple(s.steps)))
    return max(0.0, timed[-1].end_s) if timed else 0.0


@rule(rf"(?:pour\s+)?hold(?:ing)?\s+(?:the\s+|this\s+)?level(?:\s+(to\s+)?{N}\s?g?\b)?")
def _hold(s: State, m: re.Match) -> str:
    amount = {} if not m[2] else {"to_g": number(m[2])} if m[1] else {"add_g": number(m[2])}
    s.add(Step("hold_level", **amount))
    return "pour to hold the level" + (f", {m[1] or ''}{number(m[2]):g} g" if m[2] else "")


@rule(rf"(?:pour\s+|on\s+|up\s+|pour\s+up\s+)?to\s+(?:the\s+)?{N}\s?(?:g|grams?)?(?:\s+mark\b)?{NO_OTHER_UNIT}")
def _pour_to(s: State, m: re.Match) -> str:
    s.add(Step("pour", to_g=number(m[1])))
    return f"pour until the scale reads {number(m[1]):g} g"


@rule(rf"{N}\s?(?:g|grams?)\s+pour\b")
def _gram_pour(s: State, m: re.Match) -> str | None:
    if s.in_step:
        return None
    s.add(Step("pour", add_g=number(m[1])))
    return f"pour {number(m[1]):g} g more"


@rule(rf"(?:pour|add)\s+(?:another\s+)?{N}\s?(?:g\b|grams?\b|ml\b)?{NO_OTHER_UNIT}")
def _pour(s: State, m: re.Match) -> str:
    s.add(Step("pour", add_g=number(m[1])))
    return f"pour {number(m[1]):g} g more"


@rule(rf"bypass\s+(?:with\s+)?(?:{N}\s?g?\b|(the\s+rest|total\s+minus\s+poured))")
def _bypass(s: State, m: re.Match) -> str:
    s.add(Step("bypass", rest=True) if m[2] else Step("bypass", add_g=number(m[1])))
    return "bypass: total minus poured" if m[2] else f"bypass {number(m[1]):g} g"


@rule(rf"brew\s+for\s+{T}")
def _steep(s: State, m: re.Match) -> str:
    s.add(Step("wait", duration_s=seconds(m[1])))
    return f"wait {write_duration(seconds(m[1]))}"


@rule(rf"(?:let\s+it\s+(?:sit|rest|steep)|wait|steep)(?:\s+(?:for\s+)?{T}|\s+(\d{{1,4}})\b(?![\d:]))?")
def _wait(s: State, m: re.Match) -> str:
    if m[2] and float(m[2]) <= 12 and "steep" in m[0].lower():
        return Doubt("minutes or seconds?")
    lasts_s = seconds(m[1]) if m[1] else float(m[2]) if m[2] else None
    s.add(Step("wait", duration_s=lasts_s))
    return "wait" if lasts_s is None else f"wait {write_duration(lasts_s)}"


@rule(r"decant(?!\s+(?:in)?to\s+(?:the\s+)?dripper)(?:\s+(?:it\s+)?(?:in)?to\s+(?:the\s+|a\s+)?(?:server|cups?|carafe|jug))?\b")
def _decant(s: State, m: re.Match) -> str:
    s.add(Step("serve"))
    return "poured off to serve"


@rule(
    rf"(?:(?:transfer|decant)(?:\s+(?:in)?to\s+the\s+dripper)?|pour\s+(?:it\s+)?(?:over\s+)?(?:in)?to\s+the\s+dripper)(?:\s+reads?\s+{G})?(?:\s+zeroed\s+(empty|with\s+coffee))?"
)
def _transfer(s: State, m: re.Match) -> str:
    zeroed = {"empty": "empty", "with coffee": "with_coffee"}.get(re.sub(r"\s+", " ", (m[2] or "").lower()), "")
    s.add(Step("transfer", reading_g=number(m[1]) if m[1] else None, zeroed=zeroed))
    return "transfer to the dripper" + (f", the scale reads {number(m[1]):g} g" if m[1] else "")


@rule(rf"(\d{{1,2}}|{SMALL_WORDS})\s+(gentle\s+)?(swirl|stir|tap)s?\b")
def _counted(s: State, m: re.Match) -> str:
    s.add(Step(m[3].lower(), count=counted(m[1])))
    return f"{m[3].lower()} {how_often(counted(m[1]))}"


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
    (r"(?:remove|lift)\s+(?:off\s+)?(?:the\s+)?(?:brewer|dripper)", "remove_brewer"),
    (r"open\s+(?:the\s+)?valve", "open_valve"),
    (r"drain", "drain"),
    (r"(?:let\s+it\s+)?settle", "settle"),
    (r"serve", "serve"),
    (rf"{BLOOM}\b", "bloom"),
)
for _pattern, _kind in SIMPLE_STEPS:

    @rule(_pattern + rf"\b(?:\s+(?:{TIMES}|(?:x|×)?\s?(\d{{1,2}})\b(?!\s?(?:[\d:.,]\d|s\b|sec|m\b|min|g\b|°|to\b|-|–))))?")
    def _simple(s: State, m: re.Match, kind=_kind) -> str:
        count = counted(m[1]) if m[1] else int(m[2]) if m[2] else None
        s.add(Step(kind, count=count))
        return STEP_LABELS[kind].lower() + (f" {how_often(count)}" if count else "")


SEEN = "level|bed|grounds|crust|slurry|water|coffee|foam|bubbl|flow|stream|surface|drawdown"
"""What a cue without quotation marks begins with: something that is watched."""


# --- what belongs to a step -----------------------------------------------------------------------------------------------


LED = (
    (r"(?:from\s+)?(?:the\s+)?(?:edge|outside|rim)\s+(?:in\s*)?to\s+(?:the\s+)?(?:cent(?:re|er)|middle)", "edge_to_centre"),
    (r"(?:in\s+)?(?:a\s+)?spirals?(?:l?ing)?\s+(?:out(?:wards?)?|from\s+the\s+(?:cent(?:re|er)|middle))", "spiral_out"),
    (r"(?:in\s+)?(?:a\s+)?spirals?(?:l?ing)?\s+(?:in(?:wards?)?\b(?!\s+the\b)|from\s+the\s+edge)", "spiral_in"),
    (r"(?:(?:in|as)\s+)?(?:one|a)\s+(?:slow\s+)?steady\s+stream", "steady"),
    (r"(?:straight\s+)?(?:in(?:to)?\s+the\s+|at\s+the\s+)?(?:cent(?:re|er)|middle)", "centre"),
    (r"(?:in\s+a\s+|in\s+)?(?:spirals?|circles)", "spiral"),
    (r"(?:in(?:to)?\s+the\s+|at\s+the\s+|round\s+the\s+)?edge", "edge"),
)
"""How the stream is led, the longer sayings first."""
for _pattern, _led in LED:

    @rule(_pattern + r"\b")
    def _where(s: State, m: re.Match, where=_led) -> str | None:
        if not s.in_step:
            return None
        s.last(where=where)
        return f"poured: {where.replace('_', ' ')}"


@rule(rf"(?:the\s+scale\s+)?reads?\s+{G}")
def _reads(s: State, m: re.Match) -> str | None:
    if not s.in_step or s.steps[-1].kind not in ON_COFFEE:
        return None
    s.last(reading_g=number(m[1]))
    return f"the scale then reads {number(m[1]):g} g"


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
    s.last(duration_s=seconds(m[1]))
    return f"lasts {write_duration(seconds(m[1]))}"


TAKES_A_BARE_TIME = ("wait", "settle", "bloom", "press", "swirl", "stir", "rinse", "preheat")


@rule(rf"{T}")
def _bare_time(s: State, m: re.Match) -> str | None:
    """ "bloom 40 s", "settle 2 min": how long, where a time of day would make no sense."""
    if not s.in_step or s.steps[-1].duration_s is not None or s.steps[-1].kind not in TAKES_A_BARE_TIME or ":" in m[1]:
        return None
    s.last(duration_s=seconds(m[1]))
    return f"lasts {write_duration(seconds(m[1]))}"


@rule(rf"(?:by|until)\s+{T}")
def _by(s: State, m: re.Match) -> str | None:
    if not s.steps:
        return None
    s.last(end_s=seconds(m[1]))
    return f"ends by {write_duration(seconds(m[1]))}"


@rule(r"(?:at|from)\s+(\d{1,3}:[0-5]\d)|(?:at|from)\s+(\d{1,4})\s?s(?:ec(?:onds?)?)?\b")
def _from(s: State, m: re.Match) -> str | None:
    if not s.in_step:
        return None
    begins_s = seconds(m[1]) if m[1] else float(m[2])
    s.last(start_s=begins_s)
    return f"begins at {write_duration(begins_s)}"


@rule(rf"(until|when|once|after|as\s+soon\s+as)\s+(?:{QUOTED}|((?:the\s+|it\s+|all\s+)?(?:{SEEN})\b[^,;.\n]{{0,60}}))")
def _cue(s: State, m: re.Match) -> str | None:
    """What is seen. "Until" ends a step; "stir when the level has dropped" begins then; a wait has no other use for a cue than to end by it."""
    if not s.steps:
        return None
    said, ends = (m[2] or m[3]).strip(), m[1].lower() == "until" or (m[1].lower() == "when" and s.steps[-1].kind in HANDS_FREE)
    s.last(**{"cue" if ends else "start_cue": said})
    return f"{'ends' if ends else 'begins'} when {said} is seen"


@rule(rf"(?:(?:with|at)\s+)?{N}\s?(?:°\s?(C|F)?|(C|F)\b|degrees?\b(?:\s+(C|F)[a-z]*)?)(?:\s+water)?|at\s+{N}(?!\s?(?:g\b|s\b|:|\d|ml\b))\b")
def _temperature(s: State, m: re.Match) -> str | None:
    if m[5] and not 40 <= number(m[5]) <= 100:
        return None  # "at 2 minutes"
    value, unit = (number(m[1]), (m[2] or m[3] or m[4] or ("F" if number(m[1]) > 110 else "C")).upper()) if m[1] else (number(m[5]), "C")
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
        s.values["dose_g"] = number(m[1])
        return f"dose {number(m[1]):g} g (the first mass)"
    if "brew_water_g" not in s.values:
        s.values["brew_water_g"] = number(m[1])
        return f"brew water {number(m[1]):g} g (the second mass)"
    return None
