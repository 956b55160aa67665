"""A recipe from plain text, by the patterns of `grammar`; `writing` writes the same language back.

The text is cut into clauses at commas, semicolons, full stops, line ends and "then". Each clause is read from left to
right. What nothing takes is handed back as not understood; nothing is guessed.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import OutOfDomain, PennyError
from ..units import write_duration
from .grammar import RULES
from .model import AFTERWARDS, ENDS_BY_STEP, MOST_STEPS, ON_COFFEE, Recipe, Step
from .spoken import QUOTED, Doubt, State

LONGEST_TEXT = 20_000


@dataclass(frozen=True)
class Span:
    """Characters start to end (end excluded) of the text; meaning: how it was taken, or why it was not."""

    start: int
    end: int
    text: str
    meaning: str


@dataclass(frozen=True)
class Read:
    """The recipe so far, and every stretch of the text either way."""

    recipe: Recipe
    understood: tuple[Span, ...]
    not_understood: tuple[Span, ...]


CLAUSE_END = re.compile(r"(?<!\d),|,(?!\d)|[;\n•]|\.(?=\s|$)|\bthen\b", re.IGNORECASE | re.ASCII)
SMALL = r"(?:and|with|of|the|an?|in|into|on|for|using|my|your|about|around|roughly|approximately|circa)\b"
FILLER = re.compile(rf"(?:[\s\-–—|]+|{SMALL}|[,;.•])", re.IGNORECASE | re.ASCII)
SMALL_WORDS = re.compile(rf"(?:\s|\b{SMALL})*", re.IGNORECASE | re.ASCII)
WORD = re.compile(r"[^\s,;]+")
NUMBER_LAST = re.compile(r"\d\s?(?:g|grams?)?$", re.ASCII)
RANGE_END = re.compile(r"(?:to|-|–)\s*\d+(?:[.,]\d+)?\s?(?:g|grams?|°?[cf]|s|min|%|ml)?(?!\w)", re.IGNORECASE | re.ASCII)
WHY_NOT = re.compile(r"\d+(?:[.,]\d+)?\s?g?$", re.ASCII)


def read(text: str) -> Read:
    """A recipe from text of at most 20,000 characters (longer: OutOfDomain). Deterministic; never raises on content.

    >>> r = read("18 g, 288 g at 93, bloom 45 for 40 s, then to 170, then to 288 by 1:50, done by 2:45")
    >>> r.recipe.dose_g, [(s.kind, s.add_g or s.to_g) for s in r.recipe.steps], r.not_understood
    (18.0, [('bloom', 45.0), ('pour', 170.0), ('pour', 288.0)], ())
    """
    if len(text) > LONGEST_TEXT:
        raise OutOfDomain("text", f"this is {len(text):,} characters.", f"Paste the recipe alone, at most {LONGEST_TEXT:,}.")
    state, good, bad = State(), [], []
    start, waiting = 0, None
    for clause_end in (*(m.end() for m in _clause_ends(text)), len(text)):
        before = len(good), len(bad)
        _read_clause(text, start, clause_end, state, good, bad)
        waiting = _clock_that_waits(state, good, bad, before, waiting, last=clause_end == len(text))
        start = clause_end
    _drain_where_it_was_said(state)
    if "total_time_s" in state.values and "ends" not in state.values and not any(s.kind == "remove_brewer" for s in state.steps):
        state.values["ends"] = "time"
    return Read(Recipe(steps=tuple(state.steps), **state.values), tuple(good), tuple(_joined(bad, text)))


def _drain_where_it_was_said(state: State) -> None:
    """ "The drips stop, tap, stir": what is done to the drink or the bed after the end hangs on it. The steps of the drink do so anyway."""
    at = state.drained_at
    if at is None or len(state.steps) >= MOST_STEPS:
        return
    kinds = {s.kind for s in state.steps[at:]}
    if kinds - AFTERWARDS and not kinds & (ON_COFFEE | set(ENDS_BY_STEP)):
        state.steps.insert(at, Step("drain"))


def _clock_that_waits(state: State, good: list[Span], bad: list[Span], before: tuple[int, int], waiting: Span | None, *, last: bool) -> Span | None:
    """A time alone in its clause ("at 0:45, pour …") belongs to the step of the next one; with anything else beside it, or nothing after, it is a question."""
    if state.clock_s is None:
        return None
    alone = waiting is None and len(good) == before[0] + 1 and len(bad) == before[1]
    if alone and not last:
        return good[-1]
    said = waiting or next((x for x in reversed(good[before[0] :]) if x.meaning == f"at {write_duration(state.clock_s)}"), None)
    if said in good:
        good.remove(said)
        bad.append(Span(said.start, said.end, said.text, "what is done then?"))
        bad.sort(key=lambda x: x.start)
    state.clock_s = None
    return None


def _clause_ends(text: str):
    """Clause ends outside quotation marks."""
    quoted = [(m.start(), m.end()) for m in re.finditer(QUOTED, text)]
    i = 0
    for m in CLAUSE_END.finditer(text):
        while i < len(quoted) and quoted[i][1] <= m.start():
            i += 1
        if not (i < len(quoted) and quoted[i][0] < m.start()):
            yield m


def _read_clause(text: str, start: int, end: int, state: State, good: list[Span], bad: list[Span]) -> None:
    state.in_step = False
    at = start
    while at < end:
        if goes_on := _range_goes_on(text, at, end, bad):
            bad.append(Span(at, goes_on, text[at:goes_on], "not understood"))
            at = goes_on
        elif taken := _take(text, at, end, state):
            (bad if isinstance(taken.meaning, Doubt) else good).append(taken)
            at = taken.end
        elif (filler := FILLER.match(text, at, end)) or (filler := re.compile("then", re.I).match(text, at, end)):
            at = filler.end()
        else:
            word = WORD.match(text, at, end)
            stop = min(word.end() if word else at + 1, end)
            hint = "to this reading, or this much more? Write “to …” or “pour …”" if WHY_NOT.match(text[at:stop]) else "not understood"
            bad.append(Span(at, stop, text[at:stop], hint))
            at = stop


def _range_goes_on(text: str, at: int, end: int, bad: list[Span]) -> int:
    """In "93 to 96 C" the 93 was not understood: then "to 96 C" is no pour and no temperature either. Where it ends, else 0."""
    if not bad or text[bad[-1].end : at].strip() or not NUMBER_LAST.search(bad[-1].text):
        return 0
    return m.end() if (m := RANGE_END.match(text, at, end)) else 0


def _take(text: str, at: int, end: int, state: State) -> Span | None:
    if at and text[at - 1].isalnum() and text[at].isalnum() and text[at].isascii() and text[at - 1].isascii():
        return None  # never begin in the middle of a word
    for pattern, take in RULES:
        m = pattern.match(text, at, end)
        if m and m.end() > at:
            before = state.kept()
            try:
                meaning = take(state, m)
            except PennyError:
                meaning = None
            if meaning is not None and state.can_be(len(before[1]) - 1):
                return Span(at, m.end(), m[0], meaning)
            state.back_to(before)
    return None


def _joined(bad: list[Span], text: str) -> list[Span]:
    """Neighbouring words that were not understood, as one stretch."""
    out: list[Span] = []
    for span in bad:
        if out and SMALL_WORDS.fullmatch(text, out[-1].end, span.start) and out[-1].meaning == span.meaning:
            out[-1] = Span(out[-1].start, span.end, text[out[-1].start : span.end], span.meaning)
        else:
            out.append(span)
    return out
