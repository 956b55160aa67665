"""A recipe as plain text, in the language `reading` reads: read(write(recipe)) gives the same recipe back."""

from __future__ import annotations

from .. import figures
from ..units import write_duration
from ..vocabulary import POUR_PATTERNS, STEPS, StepKind
from .model import ON_COFFEE, Recipe, Step, how_often, own_water_g, sums
from .spoken import BREWER_WORDS

VERBS: dict[StepKind, str] = {s.code: s.verb for s in STEPS}
PATTERNS: dict[str, str] = {p.code: p.label for p in POUR_PATTERNS}


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
    for given in recipe.grinds:
        yield f'grind {given.setting} on "{_unquoted(given.on)}"'
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
        parts.append(how_often(step.count))
    if step.reading_g is not None:
        parts.append(f"reads {step.reading_g:g} g")
    if step.zeroed:
        parts.append(f"zeroed {step.zeroed.replace('_', ' ')}")
    if step.where:
        parts.append(PATTERNS[step.where])
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
    if step.start_cue:
        parts.append(f'once "{_unquoted(step.start_cue)}"')
    if step.cue:
        parts.append(f'until "{_unquoted(step.cue)}"')
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


SAME_SHARE = 0.005
"""Readings this close, as shares of the water, are the same pours: about a gram, within what a hand keeps to."""


def pattern(recipe: Recipe) -> str:
    """How it is poured, whatever the amounts: readings as shares of the water, so that scaled recipes read alike.

    >>> pattern(Recipe(dose_g=18, steps=(Step("bloom", add_g=45, duration_s=40), Step("pour", to_g=300, end_s=110)), ends="drips_stop"))
    'bloom 15 % for 0:40 · pour to 100 % by 1:50 · drips stop'
    """
    parts = []
    for words, verb, share in _shape(recipe):
        to = "" if verb == VERBS["bloom"] else "to "
        parts.append(words if share is None else words.replace(verb, f"{verb} {to}{figures.per_cent(100 * share)} %", 1))
    return " · ".join(parts)


def same_pours(a: Recipe, b: Recipe) -> bool:
    """Whether both are poured alike, whatever the amounts: the same steps at the same times, readings within SAME_SHARE of the water. Words
    rounded to whole percents cannot say that: 15.48 and 15.52 % read differently."""
    ours, theirs = _shape(a), _shape(b)
    if [(words, verb) for words, verb, _ in ours] != [(words, verb) for words, verb, _ in theirs]:
        return False
    shares = [(x, y) for (_, _, x), (_, _, y) in zip(ours, theirs, strict=True) if x is not None or y is not None]
    return all(x is not None and y is not None and abs(x - y) <= SAME_SHARE for x, y in shares)


def _shape(recipe: Recipe) -> list[tuple[str, str, float | None]]:
    """Each step's words without amounts, its verb, and what the scale then reads as a share of the water; None where nothing is poured."""
    total, reading = sums(recipe).poured_g, 0.0
    out: list[tuple[str, str, float | None]] = []
    for step, own in zip(recipe.steps, own_water_g(recipe), strict=True):
        words = write_step(Step(**(vars(step) | {"to_g": None, "add_g": None, "reading_g": None, "temperature_c": None, "note": "", "rest": False})))
        reading += own if step.kind in ON_COFFEE else 0
        if step.kind in ON_COFFEE and total:
            out.append((words, VERBS[step.kind], reading / total))
        else:
            out.append(("bypass" if step.kind == "bypass" else words, "", None))
    if recipe.ends == "drips_stop":
        out.append(("drips stop", "", None))
    return out
