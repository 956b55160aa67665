"""The answer to the question that was asked: one headline, how sure it is, and what to do tomorrow. docs/judging.md §12.

Page, lists, bench, report and the command line print it from here, so that no two of them disagree. It decides nothing that was not decided by its
own method: liking by the rule of four steps, a peak by the curve, factors by their contrasts, groups by their four conditions, differences by their tests. It only
says which of them answers this question, and leads with it.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from .. import figures
from .discrimination import plan
from .measures import MEASURE, Measure
from .ranks import TIED_RANKS

Kind = Literal["setup", "camps", "ladder", "factors", "apart", "pairs", "ranks", "none"]
MATTERS_MORE = 0.9
SHOWN_P = 0.05
HALF = 0.5
"""Of tasters who can tell: what more trials are counted for."""
TIED_STRENGTHS = 0.05
Plain = Mapping[str, Any]


@dataclass(frozen=True)
class Camp:
    """Tasters who like alike. favourites: more than one where they are level; probability_best: that `best` is theirs. loses: what this group gives up, points, if everybody is served
    that setup."""

    tasters: tuple[str, ...]
    best: str
    means: dict[str, float]
    loses: dict[str, float]
    favourites: tuple[str, ...]
    probability_best: float


@dataclass(frozen=True)
class Located:
    """Where along a ladder liking is best: as core.judging.peak.Peak says, of what the answer needs. chances: letter → that it is the best of those tested, by the curve."""

    kind: str
    best: float
    interval: Sequence[float]
    tested: Sequence[float]
    rising: str
    next_value: float | None
    chances: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Answer:
    """headline: the answer; certainty: one sentence of how sure; action: what to do tomorrow. groups: only where the panel falls apart. sighted: nothing blind was scored.
    order: letters as every view lists them: the rungs of a ladder from the lowest, by letter where guests differ, else () for best liked first. kept, leans, dropped: letters of the pennies that lead
    it: kept (each group's own, where guests differ; more than one where they tie), the one to brew while that is open ('' where one is kept), dropped. chances: along a ladder, letter → that it is the best of those tested, from the posterior that the headline
    speaks of; {} elsewhere, where each setup's own chance stands."""

    kind: Kind
    headline: str
    certainty: str
    action: str
    groups: tuple[Camp, ...] = ()
    sighted: bool = False
    order: tuple[str, ...] = ()
    kept: tuple[str, ...] = ()
    leans: str = ""
    dropped: tuple[str, ...] = ()
    chances: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Found:
    """What the methods found, as plain values. names: letter → what to call a setup; verdict, lean: of the judgement of liking, None where nothing was scored; setups: its results;
    segments, factorial: as their own modules say, None where not asked or not found; peak: where along a ladder, None where there is no curve; measure: what its rungs are read as;
    rungs: letter → its number, lowest first; told: tests of difference, blind first; ranked, preferred: of flights that asked only that; sighted: nothing blind was scored."""

    names: Mapping[str, str]
    verdict: Plain | None = None
    lean: Plain | None = None
    setups: Sequence[Plain] = ()
    segments: Plain | None = None
    peak: Located | None = None
    measure: Measure = MEASURE["ratio"]
    rungs: Mapping[str, float] = field(default_factory=dict)
    factorial: Plain | None = None
    told: Sequence[Plain] = ()
    ranked: Plain | None = None
    preferred: Plain | None = None
    sighted: bool = False


def answer(found: Found) -> Answer | None:
    """None before anything was tasted and flipped."""
    said = _said(found)
    return None if said is None else _with_pennies(said, found)


def _said(found: Found) -> Answer | None:
    if found.verdict is not None:
        for lead in (_camps, _ladder, _factors):
            if said := lead(found):
                return said
        return _setup(found)
    for lead in (_factors, _apart, _pairs, _ranks):
        if said := lead(found):
            return said
    return None


def _with_pennies(said: Answer, found: Found) -> Answer:
    """Which pennies lead it. With labels in sight none is kept or dropped; along a ladder a point is found, and a rung is only leaned to."""
    if said.kind == "camps":  # in the order of the letters: best liked first is an order nobody has
        order = tuple(sorted(x["setup"] for x in found.setups))
        return replace(said, order=order, kept=tuple(dict.fromkeys(letter for camp in said.groups for letter in camp.favourites)))
    if said.kind not in ("setup", "ladder"):
        return said
    verdict, leans = found.verdict or {}, (found.lean or {}).get("setup") or ""
    if said.kind == "ladder" or said.sighted:
        return replace(said, leans=leans)
    kept = (verdict["choice"],) if verdict.get("choice") else tuple(verdict.get("tied", ()))
    return replace(said, kept=kept, leans="" if kept else leans, dropped=tuple(verdict.get("dropped", ())))


def _sighted(found: Found, headline: str) -> str:
    return f"Labels in sight: {headline[:1].lower()}{headline[1:]}" if found.sighted else headline


def _call(found: Found, *letters: str) -> str:
    return figures.joined([found.names.get(x, x) for x in letters])


# --- which setup -----------------------------------------------------------------------------------------------------------------------


def _setup(found: Found) -> Answer:
    verdict = found.verdict or {}
    headline = verdict["headline"]
    if found.sighted and verdict["dropped"]:  # with labels in sight nothing is dropped
        headline = f"Lean towards {_call(found, (found.lean or {})['setup'])}"
    return Answer("setup", _sighted(found, headline), verdict["text"], _first_sentence((found.lean or {})["text"]), sighted=found.sighted)


def _first_sentence(text: str) -> str:
    """What would settle the rest is said by the trial's own table of next steps, and not twice.

    >>> _first_sentence("Meanwhile brew B: choosing it risks 0.15 points on average. Two more brews would settle most.")
    'Meanwhile brew B: choosing it risks 0.15 points on average.'
    """
    return re.split(r"(?<=[a-z]\.) ", text, maxsplit=1)[0]


# --- two kinds of drinkers ---------------------------------------------------------------------------------------------------------------


def camps_of(segments: Plain | None) -> tuple[Camp, ...]:
    """What each group would lose under each choice."""
    groups = (segments or {}).get("segments") or []
    return tuple(
        Camp(
            tuple(g["tasters"]),
            g["best"],
            dict(g["means"]),
            {letter: max(g["means"].values()) - mean for letter, mean in g["means"].items()},
            tuple(g["favourites"]),
            g["probability_best"],
        )
        for g in groups
    )


def _camps(found: Found) -> Answer | None:
    camps = camps_of(found.segments)
    if len(camps) < 2:
        return None
    if set.intersection(*(set(c.favourites) for c in camps)):
        return None  # they differ in how much, not in which
    likes = ", ".join(_likes(found, c, first=i == 0) for i, c in enumerate(camps))
    headline = f"{likes[:1].upper()}{likes[1:]}: choose by guest"
    costs = "; ".join(
        f"{_call(found, other.best)} for everybody costs {figures.points(c.loses[other.best])} points to those who like {_call(found, c.best)}"
        for c in camps
        for other in camps
        if other.best != c.best
    )
    middle, least = (found.segments or {}).get("compromise"), (found.segments or {}).get("least_liked")
    safest = " Which is the safest for a mixed table is open."
    if middle and least:
        mean, low, high = (figures.points(x) for x in least)
        safest = f" {_call(found, middle)} is the safest for a mixed table: whoever likes it least still gives it {mean} ({low} to {high})."
    one = [c.probability_best for c in camps if len(c.favourites) == 1]
    sure = f"A group's favourite stays so with other tasters of its kind with probability {figures.chance(min(one))} at least." if one else ""
    return Answer(
        "camps", _sighted(found, headline), f"No one setup suits all: {costs}.{safest} {sure}".rstrip(), _by_guest(found, middle), camps, found.sighted
    )


def _likes(found: Found, camp: Camp, *, first: bool) -> str:
    alike = len(camp.favourites) > 1
    return f"{_count(len(camp.tasters))} like {_call(found, *camp.favourites)}{' alike' if alike else ' best' if first else ''}"


def _by_guest(found: Found, middle: str | None) -> str:
    mixed = f"; for a mixed table brew {_call(found, middle)}" if middle else ""
    return f"Ask each guest which they like{mixed}."


WORDS = ("no one", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")


def _count(n: int) -> str:
    return WORDS[n] if n < len(WORDS) else str(n)


# --- how far -------------------------------------------------------------------------------------------------------------------------------


def _ladder(found: Found) -> Answer | None:
    peak, measure = found.peak, found.measure
    if peak is None or peak.kind == "too_few_levels":
        return None

    tested = f"{measure.say(peak.tested[0])} to {measure.say(peak.tested[1])}"
    ends = f"{measure.say(peak.interval[0])} to {measure.say(peak.interval[1])}"
    between = f"{measure.say(peak.interval[0])} and {measure.say(peak.interval[1])}"
    what, order = measure.what_before, tuple(found.rungs)
    leaned = (found.lean or {}).get("setup")
    if peak.kind == "peak":
        headline = f"Liked best near {what}{measure.say(peak.best)}"
        certainty = f"Between {between} as far as this panel can tell; {tested} was tested."
        action = f"Brew {_call(found, leaned)} tomorrow: the safest of those tested."
    elif peak.kind == "no_peak":
        towards = peak.tested[1] if peak.rising == "high" else peak.tested[0]
        rung = min(found.rungs, key=lambda x: abs(found.rungs[x] - towards)) if found.rungs else leaned
        headline = f"Liked more towards {what}{measure.say(towards)}, the end of what was tested"
        certainty = f"No best point inside {tested}: liking still rises there."
        action = f"Try {measure.say(peak.next_value)} next; meanwhile brew {_call(found, rung)}."
    else:
        headline = f"The best {measure.label.lower()} is not located"
        certainty = f"It may be anywhere from {ends}; {tested} was tested."
        action = _first_sentence((found.lean or {}).get("text", ""))
    return Answer("ladder", _sighted(found, headline), certainty, action, sighted=found.sighted, order=order, chances=dict(peak.chances))


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


# --- which matters more ----------------------------------------------------------------------------------------------------------------------


def _factors(found: Found) -> Answer | None:
    found_ = found.factorial
    if not found_ or len(found_["factors"]) < 2:
        return None
    top = max(found_["factors"], key=lambda f: f["probability_largest"])
    name = top.get("label") or top["factor"]
    sure = top["probability_largest"] >= MATTERS_MORE
    headline = f"{_capital(name)} matters more" if sure else f"Which matters more is open: {name} leads"
    spans = "; ".join(
        f"{_capital(f.get('label') or f['factor'])}: {f['best']} over {f['worst']} by {figures.points(f['span'])} {found_['unit']} ({figures.points(f['span_interval'][0])} to {figures.points(f['span_interval'][1])})"
        for f in found_["factors"]
    )
    crossed = [i for i in found_["interactions"] if i["p_value"] <= SHOWN_P]
    interplay = f" They interact: {crossed[0]['text']}." if crossed else ""
    certainty = f"With probability {figures.chance(top['probability_largest'])}. {spans}.{interplay}".replace("-", "−")
    best = max(found.setups, key=lambda s: s["mean"] or 0.0)["setup"] if found.setups else next(iter(first_of(found.ranked, found.preferred)), None)
    action = f"The best combination so far is {_call(found, best)}: brew it tomorrow." if best else ""
    return Answer("factors", _sighted(found, headline), certainty, action, sighted=found.sighted)


# --- where nothing was scored ----------------------------------------------------------------------------------------------------------------


def _apart(found: Found) -> Answer | None:
    told = [t for t in found.told if not t["sighted"]] or list(found.told)
    if not told:
        return None
    best = min(told, key=lambda t: t["p_value"])
    shown = best["p_value"] <= SHOWN_P
    headline = "They can be told apart" if shown else "Not shown that they can be told apart"
    if shown:
        action = "Ask next which is liked: a blind flight of scores."
    else:
        action = f"{plan(best['method'], distinguishers=HALF).n} answers in all would show it 8 times in 10 if half of such tasters can tell. So many wrong do not show that there is no difference."
    return Answer("apart", headline, f"{best['text']} {best['claim']}", action)


def first_of(ranked: Plain | None, preferred: Plain | None) -> tuple[str, ...]:
    """Letters that share the first place where nothing was scored: of preferences, else of ranks; () without either."""
    if preferred and len(preferred["strengths"]) > 1:
        top = preferred["strengths"][0]["log_strength"]
        return tuple(s["setup"] for s in preferred["strengths"] if top - s["log_strength"] <= TIED_STRENGTHS)
    if ranked and not ranked.get("from_scores"):
        return tuple(n for n, r in zip(ranked["setups"], ranked["mean_ranks"], strict=True) if r - ranked["mean_ranks"][0] <= TIED_RANKS)
    return ()


def _pairs(found: Found) -> Answer | None:
    if not found.preferred or len(found.preferred["strengths"]) < 2:
        return None
    first, second, *_ = found.preferred["strengths"]
    ties = first_of(None, found.preferred)
    if len(ties) > 1:
        return Answer("pairs", f"{_call(found, *ties)} tie", "Each was preferred as often as the other.", "Take the cheaper, faster or easier.")
    pair = next((p for p in found.preferred["pairs"] if {p["a"], p["b"]} == {first["setup"], second["setup"]}), None)
    low, high = pair["interval"] if pair else (0.0, 1.0)
    share = pair["preferred"] if pair else 0.5
    if pair and pair["a"] != first["setup"]:
        low, high, share = 1 - high, 1 - low, 1 - share
    shown = low > 0.5
    called, other = _call(found, first["setup"]), _call(found, second["setup"])
    certainty = f"{figures.share(share)} of such tasters would prefer {called} to {other} ({figures.share(low)} to {figures.share(high)})."
    return Answer("pairs", f"{called} is preferred" if shown else f"Lean towards {called}", certainty, f"Brew {called} tomorrow.")


def _ranks(found: Found) -> Answer | None:
    ranked = found.ranked
    if not ranked or ranked.get("from_scores"):
        return None
    names, ranks = ranked["setups"], ranked["mean_ranks"]
    first = first_of(ranked, None)
    tied = _ties(found, names, ranks)
    if len(first) > 1:
        return Answer("ranks", f"{_call(found, *first)} tie", f"{ranked['text']}{tied}", "Take the cheaper, faster or easier.")
    shown = ranked["p_value"] <= SHOWN_P
    called = _call(found, names[0])
    return Answer("ranks", f"{called} came first" if shown else f"Lean towards {called}", f"{ranked['text']}{tied}", f"Brew {called} tomorrow.")


def _ties(found: Found, names: Sequence[str], ranks: Sequence[float]) -> str:
    """Setups further down that came out alike: "E and F tie"."""
    groups: list[list[int]] = []
    for i in range(len(names)):
        if groups and ranks[i] - ranks[groups[-1][0]] <= TIED_RANKS:
            groups[-1].append(i)
        else:
            groups.append([i])
    said = [f"{_call(found, *(names[i] for i in g))} tie" for g in groups[1:] if len(g) > 1]
    return f" {'; '.join(said)}." if said else ""
