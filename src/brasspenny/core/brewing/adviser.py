"""The dial-in adviser: from what was measured and tasted to exactly one change. docs/formulas.md §10, "Dial-in rules".

The rules are data: a condition over signs, an advice, its reason, a size and how sure the rule is. Signs come from the targets (strength weak or strong,
yield low or high, time fast or slow; strength_met and yield_met where one was measured inside its window) and from taste words. The rule that explains the
most of what was seen, weighed by how sure it is, gives the one change. A yield measured inside its window vetoes a turn of the grind for taste. Signs that
say opposite things give no change at all: taste again first. What the change is in numbers is `proposals.propose`.
Where it stops being true: rules of thumb from practice, not a model; a size is a first step, not a prediction.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from .. import figures
from ..errors import OutOfDomain
from ..recipe.model import Recipe
from ..vocabulary import BREWERS

Sign = Literal[
    "weak", "strong", "low_yield", "high_yield", "fast", "slow",
    "thin", "sour", "salty", "drying", "hollow", "bitter", "watery", "woody", "sharp", "wants_sweetness", "wants_less_bitter", "very_sweet", "boozy", "balanced",
    "wants_brighter", "wants_heavier", "stuck", "low_dose", "strength_met", "yield_met",
]  # fmt: skip
MET: frozenset[Sign] = frozenset({"strength_met", "yield_met"})
"""Said by no one and shown nowhere: they only let rules speak, or keep them from it."""
MEASURED_SIGNS: frozenset[Sign] = frozenset({"weak", "strong", "low_yield", "high_yield", "fast", "slow", "low_dose"}) | MET
TASTE_SIGNS: tuple[Sign, ...] = tuple(s for s in get_args(Sign) if s not in MEASURED_SIGNS)
SIGN_LABELS: dict[Sign, str] = {s: s.replace("_", " ") for s in get_args(Sign)} | {
    "wants_less_bitter": "wants less bitterness",
    "stuck": "plunger stuck",
    "fast": "ran short",
    "slow": "ran long",
}

Knob = Literal["dose", "water", "grind", "temperature", "pours", "first_pour", "filter", "time"]
Direction = Literal["finer", "coarser", "hotter", "cooler", "more", "less", "gentler", "larger", "thinner", "longer", "shorter"]
Brewers = Literal["any", "dripping", "steeped", "pressed"]
UNDER: frozenset[Sign] = frozenset({"low_yield", "thin", "sour", "salty"})
OVER: frozenset[Sign] = frozenset({"high_yield", "drying", "hollow", "bitter"})
Confidence = Literal["firm", "usual", "loose"]
WEIGHT: dict[Confidence, float] = {"firm": 1.2, "usual": 1.0, "loose": 0.8}
TASTE_WEIGHT = 0.75
"""A word of taste counts less than a measured miss."""


@dataclass(frozen=True)
class Rule:
    """needs: all of these signs; any_of: and at least one of these; helps: further signs that speak for it; never: signs that rule it out.
    then: what to try when the first change is used up (finest setting, boiling water). brewers: dripping where water is poured through an open bed, steeped where the time is chosen
    by hand, pressed where a plunger is. paper: only where the filter is of paper (False: only where it is not). steps: of a grinder's dial, where the grind is turned."""

    code: str
    knob: Knob
    direction: Direction
    reason: str
    size: str
    confidence: Confidence
    needs: frozenset[Sign] = frozenset()
    any_of: frozenset[Sign] = frozenset()
    helps: frozenset[Sign] = frozenset()
    never: frozenset[Sign] = frozenset()
    then: str = ""
    brewers: Brewers = "any"
    paper: bool | None = None
    steps: int = 2


def _signs(*names: Sign) -> frozenset[Sign]:
    return frozenset(names)


RULES: tuple[Rule, ...] = (
    Rule(
        "stuck_coarser", "grind", "coarser", "The plunger stuck: fines closed the filter, and pressing harder pushes water past the coffee.", "two steps", "firm",
        needs=_signs("stuck"), brewers="pressed",
    ),
    Rule(
        "channelling", "pours", "gentler", "Low yield although it ran slow or tastes drying: water found its own ways through the bed, or fines clogged it.",
        "centre pours with the spout low, and one step coarser if that is not enough", "firm",
        needs=_signs("low_yield"), any_of=_signs("slow", "drying"), helps=_signs("hollow", "bitter", "sour", "thin"), then="Then coarser.", brewers="dripping",
    ),
    Rule(
        "uneven", "pours", "gentler", "Tastes under-extracted although it ran slow: part of the bed was passed by.", "centre pours with the spout low", "usual",
        needs=_signs("slow"), any_of=_signs("thin", "sour", "salty"), never=_signs("yield_met", "low_yield", "high_yield"), then="Then coarser.", brewers="dripping",
    ),
    Rule(
        "ran_past", "pours", "gentler", "Hollow or drying although it ran fast: water ran past most of the coffee and drew too much from the rest.",
        "centre pours with the spout low", "usual",
        needs=_signs("fast"), any_of=_signs("hollow", "drying"), never=_signs("low_yield"), then="Then finer.", brewers="dripping",
    ),
    Rule(
        "more_water", "water", "more", "Strong although little was drawn out: more water draws more out of the same coffee, and thins the drink.",
        "the water that gives the target strength", "firm",
        needs=_signs("strong", "low_yield"), never=_signs("drying"), then="Then finer.",
    ),
    Rule(
        "more_coffee", "dose", "more", "Weak although much was drawn out: it is too little coffee for its water, not too fine a grind.",
        "the dose that gives the target strength", "firm", needs=_signs("weak", "high_yield"), then="Then coarser.",
    ),
    Rule(
        "stronger", "dose", "more", "The balance is right and only the strength is not: that is the ratio's business, not the grind's.",
        "the dose that gives the target strength at today's yield", "firm",
        needs=_signs("weak"), any_of=_signs("yield_met", "balanced"), helps=_signs("thin", "watery", "balanced", "wants_heavier"),
        never=_signs("low_yield", "high_yield"),
    ),
    Rule(
        "weaker", "dose", "less", "The balance is right and only the strength is not: that is the ratio's business, not the grind's.",
        "the dose that gives the target strength at today's yield", "firm",
        needs=_signs("strong"), any_of=_signs("yield_met", "balanced"), helps=_signs("bitter", "wants_less_bitter", "salty", "balanced"),
        never=_signs("low_yield", "high_yield"),
    ),
    Rule(
        "steep_longer", "time", "longer", "It stood on the coffee for less time than the recipe says.", "as long as the recipe says", "firm",
        needs=_signs("fast"), helps=_signs("low_yield", "weak", "thin", "sour", "salty"), never=_signs("high_yield"), brewers="steeped",
    ),
    Rule(
        "steep_shorter", "time", "shorter", "It stood on the coffee for longer than the recipe says.", "as long as the recipe says", "firm",
        needs=_signs("slow"), helps=_signs("high_yield", "strong", "bitter", "drying", "wants_less_bitter"), never=_signs("low_yield"), brewers="steeped",
    ),
    Rule(
        "under_finer", "grind", "finer", "Too little was drawn out: finer opens more surface and slows the water.", "one or two steps", "firm",
        any_of=_signs("low_yield", "thin", "sour", "salty"), helps=_signs("fast", "weak", "low_yield", "thin", "sour", "salty"),
        never=_signs("slow", "high_yield", "drying", "yield_met", "strong"), then="Then hotter, then more agitation or contact.",
    ),
    Rule(
        "under_hotter", "temperature", "hotter", "Too little was drawn out although the time is right: hotter draws out more in the same time.", "2 °C", "usual",
        needs=_signs("low_yield"), helps=_signs("thin", "sour", "salty"), never=_signs("fast", "slow", "high_yield", "drying", "strong"),
        then="Then more agitation or contact.",
    ),
    Rule(
        "over_coarser", "grind", "coarser", "Too much was drawn out: coarser closes surface and lets the water run faster.", "one or two steps", "firm",
        any_of=_signs("high_yield", "drying", "hollow", "bitter"), helps=_signs("slow", "strong", "high_yield", "drying", "hollow", "bitter", "wants_less_bitter"),
        never=_signs("fast", "low_yield", "sour", "thin", "yield_met", "weak"), then="Then cooler, then less agitation.",
    ),
    Rule(
        "over_cooler", "temperature", "cooler", "Too much was drawn out although it did not run slow: cooler draws out less.", "2 °C", "usual",
        needs=_signs("high_yield"), helps=_signs("fast", "drying", "hollow", "bitter", "wants_less_bitter"), never=_signs("slow", "low_yield", "sour", "weak"),
        then="Then less agitation.",
    ),
    Rule(
        "bitter_cooler", "temperature", "cooler", "Bitter at a yield that is where it should be, or with less bitterness wanted: cooler keeps the late, bitter part back.",
        "1 to 2 °C", "usual", any_of=_signs("bitter", "wants_less_bitter"), helps=_signs("fast"), never=_signs("low_yield", "high_yield", "strong", "slow", "sour", "thin"),
        then="Then less agitation.",
    ),
    Rule(
        "sour_hotter", "temperature", "hotter", "Sour at a yield that is where it should be: a little hotter rounds it without another grind.", "1 to 2 °C", "usual",
        needs=_signs("yield_met"), any_of=_signs("sour"), never=_signs("bitter", "drying", "hollow", "weak", "strong", "slow", "very_sweet"),
    ),
    Rule(
        "drying_gentler", "pours", "gentler", "Drying or hollow at a yield that is where it should be: part of the bed gave too much and part too little.",
        "centre pours with the spout low", "usual", needs=_signs("yield_met"), any_of=_signs("drying", "hollow"), never=_signs("sour", "thin", "salty"),
        then="Then cooler.", brewers="dripping",
    ),
    Rule(
        "drying_cooler", "temperature", "cooler", "Drying or hollow at a yield that is where it should be: cooler draws out less of what dries.", "1 to 2 °C", "usual",
        needs=_signs("yield_met"), any_of=_signs("drying", "hollow"), never=_signs("sour", "thin", "salty"), brewers="steeped",
    ),
    Rule(
        "thin_stronger", "dose", "more", "Thin although strength and yield are on target: its drinker wants it at the strong end.",
        "the dose that gives the strong end of the target", "usual",
        needs=_signs("yield_met", "strength_met"), any_of=_signs("thin", "watery"), never=_signs("bitter", "drying", "hollow"),
    ),
    Rule(
        "watery_finer", "grind", "finer", "Watery and woody at once: water ran past the coffee.", "two steps", "usual",
        needs=_signs("watery", "woody"), helps=_signs("fast", "weak"), never=_signs("slow", "yield_met", "high_yield", "strong"),
    ),
    Rule(
        "sharp_hotter", "temperature", "hotter", "The acidity is sharp or sweetness is wanted: a little more extraction rounds it.",
        "1 to 2 °C, or a little finer", "usual", any_of=_signs("sharp", "wants_sweetness"), helps=_signs("sharp", "wants_sweetness"),
        never=_signs("high_yield", "slow", "very_sweet", "boozy", "bitter", "drying", "wants_less_bitter"),
    ),
    Rule(
        "sweet_cooler", "temperature", "cooler", "Already very sweet or boozy: cooler keeps it clean.", "1 to 2 °C", "loose",
        any_of=_signs("very_sweet", "boozy"), never=_signs("low_yield", "sour", "sharp"),
    ),
    Rule(
        "brighter", "first_pour", "larger", "A larger first pour brings the bright part forward.", "a fifth of it more", "loose",
        needs=_signs("wants_brighter"), never=_signs("sour", "sharp"), brewers="dripping",
    ),
    Rule(
        "brighter_cooler", "temperature", "cooler", "Cooler leaves more of the acidity in front.", "1 to 2 °C", "loose",
        needs=_signs("wants_brighter"), never=_signs("sour", "sharp", "low_yield"), brewers="steeped",
    ),
    Rule(
        "heavier", "filter", "thinner", "Oils and fines make body: paperless, or a thinner filter, lets them pass.", "another filter", "usual",
        needs=_signs("wants_heavier"), paper=True,
    ),
    Rule(
        "heavier_stronger", "dose", "more", "Nothing holds oils and fines back here: more body comes from more coffee.", "the dose that gives the strong end of the target", "usual",
        needs=_signs("wants_heavier"), never=_signs("strong", "bitter", "drying"), paper=False,
    ),
    Rule(
        "fill_the_brewer", "dose", "more", "The dose is low for this brewer: a shallow bed drains unevenly.", "up to the brewer's range, with its water", "usual",
        needs=_signs("low_dose"), never=_signs("strong"), brewers="dripping",
    ),
    Rule(
        "fast_finer", "grind", "finer", "Only the time is off, and it ran fast: a little finer brings it in.", "one step", "loose",
        needs=_signs("fast"), never=_signs("slow", "low_yield", "high_yield", "strong", "drying", "bitter", "hollow"), brewers="dripping", steps=1,
    ),
    Rule(
        "slow_coarser", "grind", "coarser", "Only the time is off, and it ran slow: a little coarser brings it in.", "one step", "loose",
        needs=_signs("slow"), never=_signs("fast", "low_yield", "high_yield", "weak", "sour", "thin", "salty"), brewers="dripping", steps=1,
    ),
)  # fmt: skip


@dataclass(frozen=True)
class Results:
    """What came out: % TDS, % yield, s; None where it was not measured."""

    tds_pct: float | None = None
    ey_pct: float | None = None
    total_time_s: float | None = None


@dataclass(frozen=True)
class Limits:
    """What cannot be turned further: the grinder is at its finest usable setting; boiling_c where it is brewed; the brewer's lowest good dose; whether its filter is of paper."""

    at_finest: bool = False
    boiling_c: float = 100.0
    least_dose_g: float | None = None
    paper: bool = True


@dataclass(frozen=True)
class Advice:
    """One change. explains: the signs it rests on; score: how much of what was seen it explains, weighed."""

    code: str
    knob: Knob
    direction: Direction
    text: str
    reason: str
    size: str
    confidence: Confidence
    explains: tuple[Sign, ...]
    then: str
    score: float
    steps: int


@dataclass(frozen=True)
class Advised:
    """signs: what was seen; change: the one to make, None when all is on target, when the signs pull apart, or when too little is known; others: what else was considered, best
    first; disagreement: said when the signs, or rules of equal weight, pull apart; rival: what another rule says instead, with as good a reason; signpost: what the recipe itself
    says of a brew that runs fast or slow; missing: the facts without which no rule speaks, a sentence each."""

    signs: tuple[Sign, ...]
    change: Advice | None
    others: tuple[Advice, ...]
    disagreement: str
    signpost: str
    rival: Advice | None = None
    missing: tuple[str, ...] = ()


def advise(recipe: Recipe, results: Results, words: Sequence[Sign] = (), *, limits: Limits = Limits()) -> Advised:
    """One change for the next brew. words: of TASTE_SIGNS. Raises OutOfDomain for another word. Source: docs/formulas.md §10."""
    for i, word in enumerate(words):
        if word not in TASTE_SIGNS:
            raise OutOfDomain(f"words.{i}", f"“{word}” is not a sign the adviser knows.", f"Give one of {', '.join(TASTE_SIGNS)}.", word)
    signs = tuple(dict.fromkeys([*measured_signs(recipe, results, limits), *words]))
    shown = tuple(s for s in signs if s not in MET)
    brewed_in = brewers_of(recipe)
    rules = [r for r in RULES if r.brewers in brewed_in and r.paper in (None, limits.paper)]
    found = sorted((a for rule in rules if (a := _fits(rule, signs, limits))), key=lambda a: -a.score)
    apart = _pull_apart(signs, found)
    change = found[0] if found and not apart else None
    others = tuple(found if apart else found[1:])
    missing = () if change or apart else _missing(recipe, results, shown)
    rival = None if apart else _rival(found)
    return Advised(shown, change, others, apart or _evenly(rival), _signpost(recipe, signs), rival, missing)


def brewers_of(recipe: Recipe) -> frozenset[Brewers]:
    """Which rules speak of this brewer. Without one, water is taken to run through an open bed."""
    kind = BREWERS[recipe.brewer_type] if recipe.brewer_type else None
    out: set[Brewers] = {"any", "steeped" if kind and (kind.steeped or kind.valved) else "dripping"}
    if kind and "pressed" in kind.ends:
        out.add("pressed")
    return frozenset(out)


def measured_signs(recipe: Recipe, results: Results, limits: Limits = Limits()) -> tuple[Sign, ...]:
    """Where each result lies in the recipe's own window; nothing is said about what has no window or was not measured."""
    pairs: tuple[tuple[float | None, tuple[float | None, float | None], Sign, Sign, Sign | None], ...] = (
        (results.tds_pct, recipe.tds_pct, "weak", "strong", "strength_met"),
        (results.ey_pct, recipe.ey_pct, "low_yield", "high_yield", "yield_met"),
        (results.total_time_s, recipe.total_time_s, "fast", "slow", None),
    )
    out: list[Sign] = []
    for value, (low, high), under, over, met in pairs:
        if value is None or (low is None and high is None):
            continue
        if low is not None and value < low:
            out.append(under)
        elif high is not None and value > high:
            out.append(over)
        elif met:
            out.append(met)
    if limits.least_dose_g is not None and recipe.dose_g is not None and recipe.dose_g < limits.least_dose_g:
        out.append("low_dose")
    return tuple(out)


def _fits(rule: Rule, signs: Iterable[Sign], limits: Limits) -> Advice | None:
    seen = frozenset(signs)
    if not rule.needs <= seen or (rule.any_of and not rule.any_of & seen) or rule.never & seen:
        return None
    if rule.direction == "finer" and limits.at_finest:
        return None
    explains = sorted(((rule.needs | rule.any_of | rule.helps) & seen) - MET)
    score = WEIGHT[rule.confidence] * sum(1.0 if s in MEASURED_SIGNS else TASTE_WEIGHT for s in explains)
    return Advice(
        rule.code,
        rule.knob,
        rule.direction,
        TEXTS[rule.knob, rule.direction],
        rule.reason,
        rule.size,
        rule.confidence,
        tuple(explains),
        rule.then,
        score,
        rule.steps,
    )


TEXTS: dict[tuple[Knob, Direction], str] = {
    ("dose", "more"): "More coffee",
    ("dose", "less"): "Less coffee",
    ("water", "more"): "More water",
    ("grind", "finer"): "Grind finer",
    ("grind", "coarser"): "Grind coarser",
    ("temperature", "hotter"): "Brew hotter",
    ("temperature", "cooler"): "Brew cooler",
    ("pours", "gentler"): "Pour gentler, in the centre",
    ("first_pour", "larger"): "A larger first pour",
    ("filter", "thinner"): "A thinner filter, or none of paper",
    ("time", "longer"): "Steep longer",
    ("time", "shorter"): "Steep shorter",
}


def _rival(found: Sequence[Advice]) -> Advice | None:
    """The best of those that would turn something else, or the same knob the other way, on as good a ground."""
    first = found[0] if found else None
    return next((a for a in found[1:] if first and a.score > 0.95 * first.score and (a.knob, a.direction) != (first.knob, first.direction)), None)


def _pull_apart(signs: Sequence[Sign], found: Sequence[Advice]) -> str:
    """What says too little was drawn out beside what says too much; "" where the bed explains both."""
    if found and found[0].code in ("channelling", "uneven", "ran_past"):
        return ""
    under, over = ([s for s in signs if s in side] for side in (UNDER, OVER))
    if not under or not over:
        return ""
    return (
        f"The signs pull apart: {_listed(under)} say too little was drawn out, {_listed(over)} too much. "
        "That is how an uneven bed tastes, or a reading that is off: read the yield again, and taste again before turning anything."
    )


def _evenly(rival: Advice | None) -> str:
    if rival is None:
        return ""
    return f"{rival.text} would explain as much: {_listed(rival.explains)}. Only one of them at a time, or you will not know which it was."


def _listed(signs: Sequence[Sign]) -> str:
    return figures.joined([SIGN_LABELS[s] for s in signs])


def _missing(recipe: Recipe, results: Results, signs: Sequence[Sign]) -> tuple[str, ...]:
    """What would let a rule speak. Nothing where all that has a window was measured inside it and nothing was tasted amiss."""
    out = []
    windows = [w for w in (recipe.tds_pct, recipe.ey_pct, recipe.total_time_s) if w != (None, None)]
    if not windows:
        out.append("The recipe has no target: give it a window for strength, yield or time.")
    if results.tds_pct is None and recipe.tds_pct != (None, None):
        out.append("Its strength was not read.")
    if results.ey_pct is None and (results.tds_pct is not None or recipe.ey_pct != (None, None)):
        out.append("Its yield is not known: weigh the drink, or strength alone cannot tell a wrong ratio from a wrong grind.")
    if signs and not out:
        out.append("Taste it again, and give more words: these alone speak for no one change.")
    return tuple(out) if signs or not windows else ()


def _signpost(recipe: Recipe, signs: Sequence[Sign]) -> str:
    """What the recipe itself says of a brew that runs too fast or slow: used first (docs/formulas.md §6)."""
    if "fast" in signs and recipe.fast:
        return f"The recipe expects “{recipe.fast}” when it runs too fast."
    if "slow" in signs and recipe.slow:
        return f"The recipe expects “{recipe.slow}” when it runs too slow."
    return ""
