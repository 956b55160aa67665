"""A recipe in plain sentences for people with wet hands: cards, guide and run sheet. The language a text is read back from is in `writing`.

Each time is said once: when a step begins stands beside it, so that only what is waited for is said in it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from .. import figures
from ..units import write_duration
from ..vocabulary import ENDINGS, POUR_PATTERNS, StepKind
from .model import BrewEnd, Recipe, Step, Timed, ending_of, how_often, is_after, timeline
from .readings import Stand, stands

LED: dict[str, str] = {p.code: p.label for p in POUR_PATTERNS}
PLAIN: dict[StepKind, str] = {
    "rinse": "Rinse the filter",
    "preheat": "Preheat the brewer",
    "dose": "Put in the coffee",
    "level": "Level the bed",
    "well": "Make a well",
    "swirl": "Swirl",
    "stir": "Stir",
    "lid": "Put the lid on",
    "break_crust": "Break the crust",
    "skim": "Skim the foam",
    "tap": "Tap the brewer",
    "press": "Press gently",
    "invert": "Turn it over",
    "open_valve": "Open the valve",
    "serve": "Serve",
    "stir_server": "Stir the server",
    "settle": "Let it settle",
}
ENDS = {e.code: e for e in ENDINGS}


def sentences(recipe: Recipe) -> tuple[str, ...]:
    """One for each step, in order.

    >>> from .reading import read
    >>> sentences(read("18 g, bloom 45 for 40 s, swirl once, to 170 in a spiral, wait by 1:40, drips stop").recipe)
    ('Bloom: pour to 45 g', 'Swirl once', 'Pour to 170 g, in a spiral', 'Wait until 1:40')
    """
    reads = stands(recipe)
    return tuple(_sentence(t, reads[t.index]) for t in timeline(recipe))


def end_sentence(end: BrewEnd) -> str:
    """How it is over, without its time.

    >>> end_sentence(BrewEnd("lifted", 170, None, 3))
    'Lift the brewer: it is over'
    """
    return "It is over when the drips stop" if end.kind == "drips_stop" else f"{ENDS[end.kind].ask}: it is over"


@dataclass(frozen=True)
class CardLine:
    """A line of a card. at_s: when it begins, from the first water, None for what prepares; steps: indexes of the steps it tells."""

    at_s: float | None
    text: str
    steps: tuple[int, ...]


def card_lines(recipe: Recipe) -> tuple[CardLine, ...]:
    """A recipe to be read off a wall: one line a moment, each later than the one above, with how the brew is over where it is over.

    >>> from .reading import read
    >>> [(line.at_s, line.text) for line in card_lines(read("18 g, bloom 45 for 40 s, swirl once at 0:40, to 288 from 0:40 over 50 s, drips stop, done by 2:30").recipe)]
    [(0.0, 'Bloom: pour to 45 g'), (40.0, 'Swirl once, then pour to 288 g'), (150.0, 'It is over when the drips stop')]
    """
    timed, said = timeline(recipe), sentences(recipe)
    end = ending_of(recipe, timed)
    lines = [CardLine(max(0.0, t.start_s), said[t.index], (t.index,)) for t in timed if t.end_s > 0]
    over = CardLine(end.at_s, end_sentence(end), ())
    brewing = [line for line, t in zip(lines, (t for t in timed if t.end_s > 0), strict=True) if not is_after(t, end)]
    if brewing and timed[brewing[-1].steps[0]].step.kind == "remove_brewer":
        over = CardLine(end.at_s, over.text, brewing.pop().steps)  # lifting it is the end of it
    drink = [line for line in lines if is_after(timed[line.steps[0]], end)]
    if drink and end.kind == "poured_off" and timed[drink[0].steps[0]].step.kind == "serve":
        over = CardLine(end.at_s, over.text, drink.pop(0).steps)  # pouring it off is serving it
    in_time = sorted(brewing, key=lambda line: (line.at_s, line.steps))
    return (*(CardLine(None, said[t.index], (t.index,)) for t in timed if t.end_s <= 0), *_one_a_moment([*in_time, over, *drink]))


def _one_a_moment(lines: Sequence[CardLine]) -> Iterator[CardLine]:
    """Lines of one second told as one; a line that would begin before the one above begins with it."""
    held: CardLine | None = None
    for line in lines:
        if held is None:
            held = line
        elif round(line.at_s) <= round(held.at_s):
            held = CardLine(held.at_s, f"{held.text}, then {line.text[:1].lower()}{line.text[1:]}", (*held.steps, *line.steps))
        else:
            yield held
            held = line
    if held is not None:
        yield held


def _sentence(t: Timed, stand: Stand) -> str:
    s = t.step
    parts = [_what(t, stand)]
    if s.where:
        parts.append(LED[s.where])
    if s.spout:
        parts.append(f"spout {s.spout}")
    if s.temperature_c is not None:
        parts.append(f"with water of {figures.heat(s.temperature_c)}")
    if s.start_cue:
        parts.append(f"once {s.start_cue}")
    if s.cue:
        parts.append(f"until {s.cue}")
    if s.note:
        parts.append(s.note)
    return ", ".join(parts)


def _what(t: Timed, stand: Stand) -> str:
    s = t.step
    match s.kind:
        case "bloom" | "pour" | "hold_level":
            return _pour(t, stand)
        case "bypass":
            return f"Add {figures.grams(t.water_g)} g of water past the bed"
        case "wait":
            return _wait(t)
        case "drain":
            return f"Let it drain{_until(t)}"
        case "transfer":
            return _transfer(stand)
        case "remove_brewer":
            return ENDS["lifted"].ask
        case _:
            return PLAIN[s.kind] + _often(s) + _long(s)


def _pour(t: Timed, stand: Stand) -> str:
    to = f"to {figures.grams_as_said(stand.reads_g)} g" if stand.reads_g else ""
    if stand.differs:
        to += f" on the scale ({figures.grams_as_said(t.to_g or 0)} g of water)"
    verb = {"bloom": "Bloom: pour", "pour": "Pour", "hold_level": "Hold the level"}[t.step.kind]
    return f"{verb} {to}".rstrip() + (f" until {write_duration(t.end_s)}" if t.step.kind == "hold_level" and t.step.end_s is not None else "")


def _wait(t: Timed) -> str:
    if t.step.end_s is not None or t.step.start_s is not None:
        return f"Wait until {write_duration(t.end_s)}"
    return "Wait" if t.assumed else f"Wait {_span(t.end_s - t.start_s)}"


def _until(t: Timed) -> str:
    return "" if t.assumed else f" until {write_duration(t.end_s)}"


def _transfer(stand: Stand) -> str:
    if stand.slurry_g is None:
        return "Pour into the dripper"
    return f"Pour into the dripper; zeroed {'with the coffee' if stand.zeroed == 'with_coffee' else 'empty'}, the scale should read {figures.grams_as_said(stand.slurry_g)} g"


def _often(s: Step) -> str:
    return f" {how_often(s.count)}" if s.count else ""


def _long(s: Step) -> str:
    return f" for {_span(s.duration_s)}" if s.duration_s is not None else ""


def _span(seconds: float) -> str:
    return f"{seconds:g} s" if seconds < 60 else f"{write_duration(seconds)} min"
