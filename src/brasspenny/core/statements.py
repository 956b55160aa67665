"""What is said of a trial, as values. A statement is about one subject and makes one claim of it; pages, report, lists and `judge` show statements, and none makes its own.

Subjects are paths, the wider thing first ("setup/A/liking"), so that a trial's statements are a tree. Two values of one claim, or two claims that exclude each
other, are a contradiction: `contradictions` finds them.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass

from .judging.bars import HARDLY_EVER, LEVEL_POINTS

Value = float | int | str | tuple[str, ...] | None


@dataclass(frozen=True)
class Statement:
    """about: the subject, a path; claim: what is said of it, a code; value: the figure or word claimed, in `unit`; interval: of 95 %; probability: that the claim holds, where one is
    known; text: the sentence as every page prints it, "" of a bare figure; report: whether the report lists it under what else was found."""

    about: str
    claim: str
    value: Value = None
    unit: str = ""
    interval: tuple[float, float] | None = None
    probability: float | None = None
    text: str = ""
    report: bool = False


@dataclass(frozen=True)
class Exclusion:
    """Two statements that must not stand together. `clash` yields what is wrong, in words."""

    name: str
    clash: Callable[[_Said], Iterator[str]]


class _Said:
    """Statements, to be asked for by subject and claim."""

    def __init__(self, statements: Iterable[Statement]) -> None:
        self.all = tuple(statements)

    def of(self, about: str, claim: str = "") -> list[Statement]:
        """about: a pattern of the whole path, where * stands for one part of it and ** for any number."""
        wanted = re.compile(re.escape(about).replace(r"/\*\*", "(/.*)?").replace(r"\*", "[^/]*"))
        return [s for s in self.all if wanted.fullmatch(s.about) and claim in ("", s.claim)]

    def value(self, about: str, claim: str = "") -> Value:
        found = self.of(about, claim)
        return found[0].value if found else None

    @property
    def in_camps(self) -> bool:
        return self.value("answer", "headline") == "camps"


def contradictions(statements: Sequence[Statement]) -> list[str]:
    """Every claim with two values, two sentences of one claim, and every row of EXCLUSIONS that is met."""
    said = _Said(statements)
    by_claim: dict[tuple[str, str], list[Statement]] = defaultdict(list)
    for s in said.all:
        by_claim[s.about, s.claim].append(s)
    found = [
        f"{about}: {claim} is said in {len(different)} ways: {', '.join(sorted(different))}"
        for (about, claim), these in by_claim.items()
        if len(different := {f"{s.value!r} {s.interval!r} {s.text!r}" for s in these}) > 1
    ]
    return found + [f"{x.name}: {what}" for x in EXCLUSIONS for what in x.clash(said)]


def _average_of_camps(said: _Said) -> Iterator[str]:
    if said.in_camps:
        yield from (f"{s.about} is {s.value}" for s in said.of("setup/*/liking/**", "mean"))


def _level_leads(said: _Said) -> Iterator[str]:
    for s in said.of("answer/lead", "leads"):
        if isinstance(s.value, float) and s.value < LEVEL_POINTS and " leads " in s.text:
            yield s.text


def _open_and_nothing_left(said: _Said) -> Iterator[str]:
    if said.of("next", "nothing") and said.of("answer", "open") and not said.in_camps:
        yield "the answer is open, and nothing more is worth brewing"


def _urged_and_hopeless(said: _Said) -> Iterator[str]:
    for s in said.of("next/*", "urged"):
        if s.probability is not None and s.probability < HARDLY_EVER:
            yield s.text


def _dropped_and_best_value(said: _Said) -> Iterator[str]:
    for s in said.of("setup/*", "dropped"):
        yield from (f"{s.about} is dropped, and {x.claim.replace('_', ' ')}" for x in said.of(s.about) if x.claim in ("best_value", "kept", "leaned", "safest"))


def _unpriced_and_priced(said: _Said) -> Iterator[str]:
    for s in said.of("kit/*", "unpriced"):
        yield from (f"{s.about} has no price, and costs {x.value}" for x in said.of(s.about, "price"))


def _narrow_and_located(said: _Said) -> Iterator[str]:
    narrow = {s.about.split("/")[-1] for s in said.of("curve/**", "none")}
    for s in said.of("surface", "best"):
        if {"ey_pct", "tds_pct"} & narrow:
            yield f"{s.text} Too narrow: {', '.join(sorted(narrow))}"


def _best_of_what_was_not_varied(said: _Said) -> Iterator[str]:
    varied = {s.about.split("/")[1] for s in said.of("varied/*")}
    for s in (*said.of("curve/**", "peak"), *said.of("curve/**", "no_peak")):
        if s.about.split("/")[-1] not in varied:
            yield s.text


def _matched_and_apart(said: _Said) -> Iterator[str]:
    if said.value("strength", "policy") == "matched" and said.value("question", "ladder") in ("ratio", "tds_pct"):
        yield "a question of ratio or strength is matched in strength"


def _design_against_headline(said: _Said) -> Iterator[str]:
    if said.in_camps:
        yield from (f"{s.text} under a headline that tells them apart" for s in said.of("design/segments"))
    tasters = said.value("count/tasters", "count")
    if isinstance(tasters, int) and tasters >= MANY_TASTERS:
        yield from (
            f"{s.text} with {tasters}" for s in said.of("design/*") if s.about.split("/")[1] in ("few_tasters", "too_few_tasters", "one_taster", "anecdote")
        )


MANY_TASTERS = 4


def _anecdote_as_verdict(said: _Said) -> Iterator[str]:
    if said.of("design/anecdote") or said.of("caveat/anecdote"):
        yield from (f"{s.about} is {s.claim} by an anecdote" for s in (*said.of("setup/*", "kept"), *said.of("setup/*", "dropped")))
        if not any("anecdote" in s.text for s in said.of("answer", "headline")):
            yield f"“{said.of('answer', 'headline')[0].text}” does not read as an anecdote" if said.of("answer", "headline") else "no headline"


def _safest_and_least_liked(said: _Said) -> Iterator[str]:
    """Nothing is safest for everybody that a group likes least, unless its probability is said."""
    for s in said.of("setup/*", "safest"):
        letter = s.about.split("/")[1]
        for group in {x.about.split("/")[1] for x in said.of("group/*/*/liking")}:
            means = {x.about.split("/")[2]: x.value for x in said.of(f"group/{group}/*/liking")}
            others = [mean for other, mean in means.items() if other != letter]
            if letter in means and others and means[letter] < min(others) and s.interval is None:
                yield f"{letter} is the safest, and liked least by {group}"


def _dialled(said: _Said) -> Iterator[str]:
    missing = {s.about for s in said.of("setup/*", "not_dialled_in")}
    yield from (f"{s.about} is dialled in, and is not" for s in said.of("setup/*", "dialled_in") if s.about in missing)


EXCLUSIONS = (
    Exclusion("no average of groups that like opposite things", _average_of_camps),
    Exclusion("level cups have no leader", _level_leads),
    Exclusion("an open question leaves something to brew", _open_and_nothing_left),
    Exclusion("a step that settles nothing is not urged", _urged_and_hopeless),
    Exclusion("what is dropped is neither kept nor the best value", _dropped_and_best_value),
    Exclusion("a thing with a price is not without one", _unpriced_and_priced),
    Exclusion("a range too narrow for a curve holds no best point", _narrow_and_located),
    Exclusion("a best point lies only along what was varied on purpose", _best_of_what_was_not_varied),
    Exclusion("a question of strength is never matched in strength", _matched_and_apart),
    Exclusion("the design is not faulted for what the headline splits, nor for tasters there are", _design_against_headline),
    Exclusion("an anecdote reads as one", _anecdote_as_verdict),
    Exclusion("the safest for everybody is nobody's least liked", _safest_and_least_liked),
    Exclusion("a setup is dialled in or not", _dialled),
)
