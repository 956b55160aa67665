"""What a question is about, guessed from its words: the factor or factors, and the two or more things it names.

A guess is a proposal that the interface shows and anybody can change; nothing is computed from it. Names of kit weigh most (whoever asks
"White weave or grey felt?" asks about filters), then the words of core.vocabulary.FACTOR_KINDS, the earliest word first.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from ..vocabulary import FACTOR_KINDS, MOST_FURTHER, Factor
from .asked_levels import levels_of

LONGEST_OPTION = 60
_BETWEEN = re.compile(r"\s+(?:or|vs\.?|versus|against|than)\s+|\s*/\s*", re.I)
_JOINED = re.compile(_BETWEEN.pattern + r"|\s+and\s+|\s*[:;,?]\s*", re.I)
_LIST = re.compile(r"\s*,\s*(?:or\s+|and\s+)?|" + _BETWEEN.pattern, re.I)
_LEAD = re.compile(
    r"^(?:(?:which|which of|what|is|are|does|do|should|would|will|can|we|i|it|you|tastes?|better|best|prefer|like|more|better with|with|use|the|a|an|our|my|two|three|both|compare)\s+)+",
    re.I,
)
_TAIL = re.compile(
    r"\s+(?:taste|tastes|better|best|worse|nicer|sweeter|cleaner|make|makes|matter|matters|count|counts|give|gives|win|wins|for|in|on|with|at|worth|or\s+not)\b.*$",
    re.I,
)
_ASIDE = re.compile(r"(?:which|what|how|when|why|where|for|with|on|in|at|if|does\s+it|is\s+there|is\s+it)\b(?!\s+of\b)", re.I)
"""How a piece before a comma begins that asks, or says where, and names nothing that is compared."""
_APART = re.compile(r"\b(?:(?:between|compare|comparing)\s+(.+?)\s+(?:and|with|to)|(?:tell|know)\s+(.+?)\s+(?:from|and))\s+(.+)", re.I)
_NUMBERED: frozenset[Factor] = frozenset(("ratio", "temperature", "strength", "extraction"))
"""Compared by a number: words alone are no level of theirs."""
_KIND_WORDS = {word for f in FACTOR_KINDS for word in f.words.split()}


@dataclass(frozen=True)
class Guess:
    """factor: none where nothing tells; options: what is compared, in the order named, as the question calls it; may be empty.
    further: what else differs, in every combination, where the question sets kinds of things against one another."""

    factor: Factor | None
    options: tuple[str, ...] = ()
    further: tuple[Factor, ...] = ()


def guess(question: str, kit: Mapping[str, Factor]) -> Guess:
    """kit: name of a piece of kit → the factor a comparison of such would have.

    >>> guess("Which filter: white weave or grey felt?", {})
    Guess(factor='filter', options=('white weave', 'grey felt'), further=())
    >>> guess("1:15 or 1:17 for the washed lot?", {})
    Guess(factor='ratio', options=('1:15', '1:17'), further=())
    >>> guess("What matters more, the bean or the grinder?", {})
    Guess(factor='coffee', options=(), further=('grinder',))
    """
    named = _of_kit(question, kit)
    if len({factor for _, factor in named}) == 1 and len(named) > 1:
        return Guess(named[0][1], tuple(name for name, _ in named))
    if (levels := levels_of(question, _by_words(question))) is not None:
        return Guess(levels.factor, levels.options, levels.further)
    several = _kinds_joined(question)
    if len(several) > 1:
        return Guess(several[0], further=several[1 : 1 + MOST_FURTHER])
    factor = _by_words(question) or (named[0][1] if named else None)
    return Guess(factor, _named_options(question) if factor and factor not in _NUMBERED else ())


def _of_kit(question: str, kit: Mapping[str, Factor]) -> list[tuple[str, Factor]]:
    """Names of kit the question holds, in its order; a name within a longer one is that longer one."""
    text = question.casefold()
    found: list[tuple[int, int, str]] = []
    for name in sorted(kit, key=len, reverse=True):
        at = text.find(name.casefold())
        if at >= 0 and not any(start <= at < end for start, end, _ in found):
            found.append((at, at + len(name), name))
    return [(name, kit[name]) for _, _, name in sorted(found)]


def _by_words(question: str) -> Factor | None:
    words = re.findall(r"°[cf]|[a-z]+", question.casefold())
    at = {f.code: min((words.index(w) for w in f.words.split() if w in words), default=None) for f in FACTOR_KINDS}
    told = {code: place for code, place in at.items() if place is not None}
    named = {code: place for code, place in told.items() if code != "other"} or told
    return min(named, key=named.__getitem__) if named else None


def _kinds_joined(question: str) -> tuple[Factor, ...]:
    """The factors of a question that sets kinds against one another ("bean or grinder", "which water and which filter"), in its order:
    each piece between the joints must be words of one kind and nothing else, or it is something of that kind."""
    pieces = [_TAIL.sub("", _LEAD.sub("", piece.strip())) for piece in _JOINED.split(question.strip().rstrip("?!. "))]
    found = [_by_words(p) for p in pieces if p and set(p.casefold().split()) <= _KIND_WORDS]
    return tuple(dict.fromkeys(f for f in found if f))


def _named_options(question: str) -> tuple[str, ...]:
    tail = re.split(r"[:;?]\s+(?=\S)", question.strip().rstrip("?!. "))[-1]
    apart = _APART.search(tail)
    said = [x for x in apart.groups() if x] if apart else _LIST.split(tail)
    while len(said) > 2 and _ASIDE.match(said[0].strip()):
        said = said[1:]
    pieces = [_TAIL.sub("", _LEAD.sub("", piece.strip())) for piece in said]
    fit = (
        len(pieces) > 1
        and (len({_by_words(p) for p in pieces}) == 1 or not all(set(p.casefold().split()) <= _KIND_WORDS for p in pieces))
        and all(0 < len(p) <= LONGEST_OPTION and len(p.split()) <= 6 for p in pieces)
    )
    return tuple(pieces) if fit and len(set(pieces)) == len(pieces) else ()
