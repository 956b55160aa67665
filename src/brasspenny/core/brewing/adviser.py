"""The dial-in adviser: from what was measured and tasted to exactly one change. docs/formulas.md §10, "Dial-in rules".

The rules are data: a condition over signs, an advice, its reason, a size and how sure the rule is. Signs come from the
targets (strength weak or strong, yield low or high, time fast or slow) and from taste words. The rule that explains the
most of what was seen, weighed by how sure it is, gives the one change; the others are shown, and when one of equal weight
would turn the same knob the other way that is said.
Where it stops being true: rules of thumb from practice, not a model; a size is a first step, not a prediction.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

from ..errors import OutOfDomain
from ..extraction.yields import solve
from ..recipe.model import Recipe, sums
from ..vocabulary import BREWERS, YieldBasis

Sign = Literal[
    "weak", "strong", "low_yield", "high_yield", "fast", "slow",
    "thin", "sour", "salty", "drying", "hollow", "bitter", "watery", "woody", "sharp", "wants_sweetness", "very_sweet", "boozy", "balanced", "wants_brighter",
    "wants_heavier", "low_dose",
]  # fmt: skip
MEASURED_SIGNS: frozenset[Sign] = frozenset({"weak", "strong", "low_yield", "high_yield", "fast", "slow", "low_dose"})
TASTE_SIGNS: tuple[Sign, ...] = tuple(s for s in get_args(Sign) if s not in MEASURED_SIGNS)
SIGN_LABELS: dict[Sign, str] = {s: s.replace("_", " ") for s in get_args(Sign)} | {"low_yield": "low yield", "high_yield": "high yield"}

Knob = Literal["dose", "grind", "temperature", "agitation", "pours", "first_pour", "filter"]
Direction = Literal["finer", "coarser", "hotter", "cooler", "more", "less", "gentler", "larger", "thinner"]
UNDER: frozenset[Sign] = frozenset({"low_yield", "thin", "sour", "salty"})
OVER: frozenset[Sign] = frozenset({"high_yield", "drying", "hollow", "bitter"})
Confidence = Literal["firm", "usual", "loose"]
WEIGHT: dict[Confidence, float] = {"firm": 1.2, "usual": 1.0, "loose": 0.8}
TASTE_WEIGHT = 0.75
"""A word of taste counts less than a measured miss."""
HOTTER_C, LITTLE_C = 2.0, 1.0


@dataclass(frozen=True)
class Rule:
    """needs: all of these signs; any_of: and at least one of these; helps: further signs that speak for it; never: signs that rule it out.
    then: what to try when the first change is used up (finest setting, boiling water); drips: it speaks of a bed that water runs through, not of steeping; alone: a time alone is
    enough for it, where a yield was read. steps: of a grinder's dial, where the grind is turned."""

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
    drips: bool = False
    alone: bool = False
    steps: int = 2


def _signs(*names: Sign) -> frozenset[Sign]:
    return frozenset(names)


RULES: tuple[Rule, ...] = (
    Rule(
        "channelling", "pours", "gentler", "Low yield although it ran slow or tastes drying: water found its own ways through the bed, or fines clogged it.",
        "centre pours with the spout low, and one step coarser if that is not enough", "firm",
        needs=_signs("low_yield"), any_of=_signs("slow", "drying"), helps=_signs("hollow", "bitter"), then="Then coarser.", drips=True,
    ),
    Rule(
        "stronger", "dose", "more", "The balance is right and only the strength is not: that is the ratio's business, not the grind's.",
        "the dose that gives the target strength at today's yield", "firm",
        needs=_signs("weak"), helps=_signs("balanced"), never=_signs("low_yield", "high_yield", "sour", "bitter", "drying"),
    ),
    Rule(
        "weaker", "dose", "less", "The balance is right and only the strength is not: that is the ratio's business, not the grind's.",
        "the dose that gives the target strength at today's yield", "firm",
        needs=_signs("strong"), helps=_signs("balanced"), never=_signs("low_yield", "high_yield", "sour", "bitter", "drying"),
    ),
    Rule(
        "under_finer", "grind", "finer", "Too little was drawn out and it ran through quickly: finer slows it and opens more surface.",
        "one or two steps", "firm",
        any_of=_signs("low_yield", "thin", "sour", "salty"), helps=_signs("fast", "weak", "low_yield", "thin", "sour", "salty"),
        never=_signs("slow", "high_yield", "drying"), then="Then hotter, then more agitation or contact.",
    ),
    Rule(
        "under_hotter", "temperature", "hotter", "Too little was drawn out although the time is right: hotter draws out more in the same time.",
        "2 °C", "usual",
        needs=_signs("low_yield"), helps=_signs("thin", "sour", "salty"), never=_signs("fast", "slow", "high_yield", "drying"),
        then="Then more agitation or contact.",
    ),
    Rule(
        "over_coarser", "grind", "coarser", "Too much was drawn out: coarser lets it run faster and closes surface.", "one or two steps", "firm",
        any_of=_signs("high_yield", "drying", "hollow", "bitter"), helps=_signs("slow", "strong", "high_yield", "drying", "hollow", "bitter"),
        never=_signs("fast", "low_yield", "sour", "thin"), then="Then cooler, then less agitation.",
    ),
    Rule(
        "over_cooler", "temperature", "cooler", "Too much was drawn out although it did not run slow: cooler draws out less.", "2 °C", "usual",
        needs=_signs("high_yield"), helps=_signs("drying", "hollow", "bitter"), never=_signs("slow", "low_yield", "sour"), then="Then less agitation.",
    ),
    Rule(
        "watery_finer", "grind", "finer", "Watery and woody at once, and fast: water ran past the coffee.", "two steps", "usual",
        needs=_signs("watery", "woody"), helps=_signs("fast", "weak"), never=_signs("slow"),
    ),
    Rule(
        "sharp_hotter", "temperature", "hotter", "The acidity is sharp and sweetness is wanted: a little more extraction rounds it.",
        "1 to 2 °C, or a little finer", "usual", any_of=_signs("sharp"), helps=_signs("wants_sweetness"), never=_signs("high_yield", "slow", "very_sweet", "boozy"),
    ),
    Rule(
        "sweet_cooler", "temperature", "cooler", "Already very sweet or boozy: cooler keeps it clean.", "1 to 2 °C", "loose",
        any_of=_signs("very_sweet", "boozy"), never=_signs("low_yield", "sour", "sharp"),
    ),
    Rule(
        "brighter", "first_pour", "larger", "A larger first pour brings the bright part forward.", "a fifth of it more", "loose",
        needs=_signs("wants_brighter"), never=_signs("sour", "sharp"),
    ),
    Rule(
        "heavier", "filter", "thinner", "Oils and fines make body: paperless, or a thinner filter, lets them pass.", "another filter", "usual",
        needs=_signs("wants_heavier"),
    ),
    Rule(
        "fill_the_brewer", "dose", "more", "The dose is low for this brewer: a shallow bed drains unevenly.", "up to the brewer's range, with its water", "usual",
        needs=_signs("low_dose"), never=_signs("strong"), drips=True,
    ),
    Rule(
        "fast_finer", "grind", "finer", "The yield is where it should be and it only ran fast: a little finer brings the time in.", "one step", "loose",
        needs=_signs("fast"), never=_signs("slow", "low_yield", "high_yield", "drying", "bitter", "hollow"), drips=True, alone=True, steps=1,
    ),
    Rule(
        "slow_coarser", "grind", "coarser", "The yield is where it should be and it only ran slow: a little coarser brings the time in.", "one step", "loose",
        needs=_signs("slow"), never=_signs("fast", "low_yield", "high_yield", "sour", "thin"), drips=True, alone=True, steps=1,
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
    """What cannot be turned further: the grinder is at its finest usable setting; boiling_c where it is brewed; the brewer's lowest good dose."""

    at_finest: bool = False
    boiling_c: float = 100.0
    least_dose_g: float | None = None


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
    """signs: what was seen; change: the one to make, None when all is on target; others: what else was considered, best
    first; disagreement: said when rules of equal weight pull apart; draft: the recipe with exactly that change, None when it
    is not a matter of the recipe's numbers; rival: what another rule says instead, with as good a reason; asks: a signpost the recipe itself gives for this."""

    signs: tuple[Sign, ...]
    change: Advice | None
    others: tuple[Advice, ...]
    disagreement: str
    draft: Recipe | None
    asks: str
    rival: Advice | None = None


def advise(
    recipe: Recipe,
    results: Results,
    words: Sequence[Sign] = (),
    *,
    yield_basis: YieldBasis = "in_cup",
    retained_water_ratio: float = 2.1,
    limits: Limits = Limits(),
) -> Advised:
    """One change for the next brew. words: of TASTE_SIGNS. Raises OutOfDomain for another word. Source: docs/formulas.md §10."""
    for i, word in enumerate(words):
        if word not in TASTE_SIGNS:
            raise OutOfDomain(f"words.{i}", f"“{word}” is not a sign the adviser knows.", f"Give one of {', '.join(TASTE_SIGNS)}.", word)
    signs = tuple(dict.fromkeys([*measured_signs(recipe, results, limits), *words]))
    steeped = recipe.brewer_type is not None and BREWERS[recipe.brewer_type].steeped
    rules = [r for r in RULES if not (r.drips and steeped) and (not r.alone or results.ey_pct is not None or words)]
    found = sorted((a for rule in rules if (a := _fits(rule, signs, limits))), key=lambda a: -a.score)
    change = found[0] if found else None
    draft = draft_of(recipe, change, results, yield_basis=yield_basis, retained_water_ratio=retained_water_ratio, limits=limits) if change else None
    return Advised(signs, change, tuple(found[1:]), _disagreement(found, signs), draft, _signpost(recipe, signs), _rival(found))


def measured_signs(recipe: Recipe, results: Results, limits: Limits = Limits()) -> tuple[Sign, ...]:
    """Misses of the recipe's own windows; nothing is said about what has no window or was not measured."""
    pairs: tuple[tuple[float | None, tuple[float | None, float | None], Sign, Sign], ...] = (
        (results.tds_pct, recipe.tds_pct, "weak", "strong"),
        (results.ey_pct, recipe.ey_pct, "low_yield", "high_yield"),
        (results.total_time_s, recipe.total_time_s, "fast", "slow"),
    )
    out: list[Sign] = []
    for value, (low, high), under, over in pairs:
        if value is not None and low is not None and value < low:
            out.append(under)
        elif value is not None and high is not None and value > high:
            out.append(over)
    if limits.least_dose_g is not None and recipe.dose_g is not None and recipe.dose_g < limits.least_dose_g:
        out.append("low_dose")
    return tuple(out)


def _fits(rule: Rule, signs: Iterable[Sign], limits: Limits) -> Advice | None:
    seen = frozenset(signs)
    if not rule.needs <= seen or (rule.any_of and not rule.any_of & seen) or rule.never & seen:
        return None
    if rule.direction == "finer" and limits.at_finest:
        return None
    explains = sorted((rule.needs | rule.any_of | rule.helps) & seen)
    score = WEIGHT[rule.confidence] * sum(1.0 if s in MEASURED_SIGNS else TASTE_WEIGHT for s in explains)
    return Advice(rule.code, rule.knob, rule.direction, _words(rule), rule.reason, rule.size, rule.confidence, tuple(explains), rule.then, score, rule.steps)


def _words(rule: Rule) -> str:
    return {
        "dose": f"{'More' if rule.direction == 'more' else 'Less'} coffee",
        "grind": f"Grind {rule.direction}",
        "temperature": f"Brew {rule.direction}",
        "agitation": f"{rule.direction.capitalize()} agitation",
        "pours": "Pour gentler, in the centre",
        "first_pour": "A larger first pour",
        "filter": "A thinner filter, or none of paper",
    }[rule.knob]


def _rival(found: Sequence[Advice]) -> Advice | None:
    """The best of those that would turn something else, or the same knob the other way, on as good a ground."""
    first = found[0] if found else None
    return next((a for a in found[1:] if first and a.score > 0.95 * first.score and (a.knob, a.direction) != (first.knob, first.direction)), None)


def _disagreement(found: Sequence[Advice], signs: Sequence[Sign]) -> str:
    under, over = ([s for s in signs if s in side] for side in (UNDER, OVER))
    if under and over:
        return (
            f"The signs pull apart: {_listed(under)} say too little was drawn out, {_listed(over)} too much. "
            "That is how an uneven bed tastes: read the yield, pour gentler, and taste again before turning anything else."
        )
    rival = _rival(found)
    if rival is None:
        return ""
    return f"{rival.text} would explain as much: {_listed(rival.explains)}. Only one of them at a time, or you will not know which it was."


def _listed(signs: Sequence[Sign]) -> str:
    return " and ".join(SIGN_LABELS[s] for s in signs)


def _signpost(recipe: Recipe, signs: Sequence[Sign]) -> str:
    """What the recipe itself says of a brew that runs too fast or slow: used first (docs/formulas.md §6)."""
    if "fast" in signs and recipe.fast:
        return f"The recipe expects “{recipe.fast}” when it runs too fast."
    if "slow" in signs and recipe.slow:
        return f"The recipe expects “{recipe.slow}” when it runs too slow."
    return ""


# --- the next version --------------------------------------------------------------------------------------------------------


def draft_of(
    recipe: Recipe, change: Advice, results: Results, *, yield_basis: YieldBasis = "in_cup", retained_water_ratio: float = 2.1, limits: Limits = Limits()
) -> Recipe | None:
    """The recipe with exactly one change; None where it is no number of the recipe's."""
    match change.knob:
        case "temperature":
            return _warmer(recipe, change, limits)
        case "dose":
            return _other_dose(recipe, change, results, yield_basis, retained_water_ratio, limits)
        case "grind":
            said = f"{change.steps} {'step' if change.steps == 1 else 'steps'} {change.direction}"
            return replace(recipe, grind=f"{recipe.grind}, {said}" if recipe.grind else said)
        case "pours":
            return replace(recipe, steps=tuple(replace(s, where="centre", spout="low") if s.kind in ("pour", "hold_level") else s for s in recipe.steps))
        case "first_pour":
            return _larger_first(recipe)
        case _:
            return None


def _warmer(recipe: Recipe, change: Advice, limits: Limits) -> Recipe | None:
    if recipe.temperature_c is None:
        return None
    by = (HOTTER_C if change.size.startswith("2") else LITTLE_C) * (1 if change.direction == "hotter" else -1)
    to = min(recipe.temperature_c + by, limits.boiling_c)
    return replace(recipe, temperature_c=round(to, 1)) if to != recipe.temperature_c else None


def _other_dose(recipe: Recipe, change: Advice, results: Results, yield_basis: YieldBasis, retained: float, limits: Limits) -> Recipe | None:
    if change.code == "fill_the_brewer" or recipe.dose_g is None:
        return replace(recipe, dose_g=limits.least_dose_g, brew_ratio=None) if limits.least_dose_g else None
    low, high = recipe.tds_pct
    water = sums(recipe).poured_g
    if low is None or high is None or results.ey_pct is None or not water:
        return None
    found = solve(tds_pct=(low + high) / 2, ey_pct=results.ey_pct, brew_water_g=water, retained_water_ratio=retained, yield_basis=yield_basis)
    return replace(recipe, dose_g=round(found.dose_g, 1), brew_ratio=None)


def _larger_first(recipe: Recipe) -> Recipe | None:
    for i, s in enumerate(recipe.steps):
        if s.kind in ("bloom", "pour") and (s.to_g or s.add_g):
            larger: dict[str, float] = {"to_g": round(1.2 * s.to_g, 1)} if s.to_g else {"add_g": round(1.2 * s.add_g, 1)}
            return recipe.with_step(i, **larger)
    return None
