"""A recipe as plain text, in the language `reading` reads: read(write(recipe)) gives the same recipe back."""

from __future__ import annotations

from ..units import write_duration
from .grammar import BREWER_WORDS
from .model import ON_COFFEE, Recipe, Step, own_water_g, sums

VERBS = {
    "rinse": "rinse the filter",
    "preheat": "preheat",
    "dose": "put in the coffee",
    "level": "level the bed",
    "well": "make a well",
    "bloom": "bloom",
    "pour": "pour",
    "hold_level": "hold the level",
    "wait": "wait",
    "swirl": "swirl",
    "stir": "stir",
    "lid": "lid on",
    "break_crust": "break the crust",
    "skim": "skim",
    "transfer": "transfer to the dripper",
    "tap": "tap",
    "press": "press gently",
    "invert": "invert",
    "remove_brewer": "remove the brewer",
    "bypass": "bypass",
    "settle": "settle",
    "stir_server": "stir the server",
    "serve": "serve",
}


def write(recipe: Recipe) -> str:
    """One line. Everything the reader keeps is written; what has no words there (the meaning of "out") is not.

    >>> from .reading import read
    >>> write(read("18 g, 288 g at 200 F, bloom 45 for 40 s, to 288 by 1:50, done by 2:45").recipe)
    '18 g coffee, 288 g water, at 93.3 °C, bloom 45 g for 0:40, pour to 288 g by 1:50, done by 2:45, ends on time'
    """
    return ", ".join([*_head(recipe), *(write_step(s) for s in recipe.steps), *_tail(recipe)])


def _head(recipe: Recipe):
    if recipe.dose_g is not None:
        yield f"{recipe.dose_g:g} g coffee"
    if recipe.brew_water_g is not None:
        yield f"{recipe.brew_water_g:g} g water"
    if recipe.brew_ratio is not None:
        yield f"1:{recipe.brew_ratio:g}"
    if recipe.temperature_c is not None:
        yield f"at {recipe.temperature_c:g} °C"
    if recipe.brewer_type:
        yield f"in a {BREWER_WORDS[recipe.brewer_type]}"
    for name in ("grind", "filter", "water", "note"):
        if getattr(recipe, name):
            yield f'{name} "{_unquoted(getattr(recipe, name))}"'


def _unquoted(text: str) -> str:
    return text.translate({ord('"'): "'", ord("“"): "'", ord("”"): "'", ord("\n"): " "})


def write_step(step: Step) -> str:
    """One clause.

    >>> write_step(Step("pour", to_g=170, where="spiral", start_s=45, duration_s=20))
    'pour to 170 g in a spiral from 0:45 over 0:20'
    """
    parts = [VERBS[step.kind]]
    if step.kind == "bypass":
        parts.append("the rest" if step.rest else f"{step.add_g or 0:g} g")
    elif step.to_g is not None:
        parts.append(f"to {step.to_g:g} g")
    elif step.add_g is not None:
        parts.append(f"{step.add_g:g} g")
    if step.count is not None:
        parts.append(f"{step.count} times")
    if step.reading_g is not None:
        parts.append(f"reads {step.reading_g:g} g")
    if step.zeroed:
        parts.append(f"zeroed {step.zeroed.replace('_', ' ')}")
    if step.where:
        parts.append({"centre": "in the centre", "spiral": "in a spiral", "edge": "at the edge"}[step.where])
    if step.spout:
        parts.append(f"spout {step.spout}")
    if step.start_s is not None:
        parts.append(f"from {write_duration(step.start_s)}")
    if step.duration_s is not None:
        parts.append(f"{'over' if step.kind in ('pour', 'hold_level') else 'for'} {write_duration(step.duration_s)}")
    if step.end_s is not None:
        parts.append(f"by {write_duration(step.end_s)}")
    if step.temperature_c is not None:
        parts.append(f"at {step.temperature_c:g} °C")
    if step.cue:
        parts.append(f'when "{_unquoted(step.cue)}"')
    if step.note:
        parts.append(f'note "{_unquoted(step.note)}"')
    return " ".join(parts)


def _tail(recipe: Recipe):
    if recipe.ends == "drips_stop":
        yield "drips stop"
    low, high = recipe.total_time_s
    if low is not None and high is not None:
        yield f"done between {write_duration(low)} and {write_duration(high)}"
    elif high is not None:
        yield f"done by {write_duration(high)}"
    elif low is not None:
        yield f"done after {write_duration(low)}"
    if recipe.ends == "time":
        yield "ends on time"
    if recipe.pour_end_s is not None:
        yield f"all water in by {write_duration(recipe.pour_end_s)}"
    for pair, name in ((recipe.tds_pct, "TDS"), (recipe.ey_pct, "yield")):
        if pair != (None, None):
            low, high = ("" if x is None else f"{x:g}" for x in pair)
            yield f"target {low}-{high} % {name}"
    if recipe.beverage_g is not None:
        yield f"{recipe.beverage_g:g} g drink"
    if recipe.out_g is not None:
        yield f"{recipe.out_g:g} g out"
    for name, words in (("fast", "too fast"), ("on_time", "on time"), ("slow", "too slow")):
        if getattr(recipe, name):
            yield f'{words} "{_unquoted(getattr(recipe, name))}"'


def pattern(recipe: Recipe) -> str:
    """How it is poured, whatever the amounts: readings as shares of the water, so that scaled recipes read alike.

    >>> pattern(Recipe(dose_g=18, steps=(Step("bloom", add_g=45, duration_s=40), Step("pour", to_g=300, end_s=110)), ends="drips_stop"))
    'bloom 15 % for 0:40 · pour to 100 % by 1:50 · drips stop'
    """
    total = sums(recipe).poured_g
    reading, parts = 0.0, []
    for step, own in zip(recipe.steps, own_water_g(recipe), strict=True):
        words = write_step(Step(**(vars(step) | {"to_g": None, "add_g": None, "reading_g": None, "temperature_c": None, "note": "", "rest": False})))
        reading += own if step.kind in ON_COFFEE else 0
        if step.kind in ON_COFFEE and total:
            verb = VERBS[step.kind]
            words = words.replace(verb, f"{verb} {'' if step.kind == 'bloom' else 'to '}{reading / total:.0%}".replace("%", " %"), 1)
        elif step.kind == "bypass":
            words = "bypass"
        parts.append(words)
    if recipe.ends == "drips_stop":
        parts.append("drips stop")
    return " · ".join(parts)
