"""A recipe as a document, and the timeline worked out from it. docs/formulas.md §6.

Time zero is the first water on the coffee (for an immersion, the start of that pour). Steps before it prepare; each later step starts when
the one before has ended unless it says otherwise. A step without a stated time is given a usual one, marked `assumed`:
that is good enough to plan a day, and not a measurement.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import Any, Literal

from ..limits import LIMITS
from ..vocabulary import BREWERS, STEPS, BrewerType, Ending, PourPattern, StepKind

STEP_KINDS: tuple[StepKind, ...] = tuple(s.code for s in STEPS)
STEP_LABELS: dict[StepKind, str] = {s.code: s.label for s in STEPS}
ON_COFFEE: frozenset[StepKind] = frozenset(s.code for s in STEPS if s.on_coffee)
"""Steps that put water onto the coffee; bypass water never passes the bed."""
PREPARING: frozenset[StepKind] = frozenset(s.code for s in STEPS if s.prepares)
HANDS_FREE: frozenset[StepKind] = frozenset(s.code for s in STEPS if s.hands_free)
AFTERWARDS: frozenset[StepKind] = frozenset(s.code for s in STEPS if s.after)

AGITATES: frozenset[StepKind] = frozenset({"swirl", "stir", "tap"})

USUAL_POUR_G_S = 6.0
BLOOM_POUR_G_S = 5.0
SLOWEST_POUR_G_S = 1.5
"""Slower than this nobody pours on purpose: a pour that is to be over by then begins later."""
USUAL_DURATION_S: dict[StepKind, float] = {s.code: s.usual_s for s in STEPS if s.usual_s is not None}
USUAL_DRAWDOWN_S = 45.0

GRAMS, SECONDS, CELSIUS, PERCENT, RATIO, COUNT = (0, 100_000), (0, 100_000), (0, 300), (0, 100), (0.001, 1000), (1, 99)
DOSE = (0.1, 100_000)  # ratios divide by it
FIELD_LIMITS: dict[str, tuple[float, float]] = {
    **dict.fromkeys(("to_g", "add_g", "reading_g", "brew_water_g", "beverage_g", "out_g"), GRAMS),
    **dict.fromkeys(("start_s", "end_s", "duration_s", "pour_end_s", "total_time_s"), SECONDS),
    "ey_pct": PERCENT,
    "tds_pct": (LIMITS["concentrate_tds_pct"].low, LIMITS["concentrate_tds_pct"].high),
    "dose_g": DOSE,
    "temperature_c": CELSIUS,
    "brew_ratio": RATIO,
    "count": COUNT,
}
"""What a document may hold at all, lowest and highest; what is sensible within that is the check's business."""
LONGEST: dict[str, int] = {
    "filter": 120,
    "grind": 120,
    "water": 120,
    "start_cue": 200,
    "cue": 200,
    "fast": 200,
    "on_time": 200,
    "slow": 200,
    "note": 200,
    "recipe_note": 500,
    "on": 120,
    "setting": 24,
}
MOST_STEPS = 60
MOST_GRINDS = 12

Where = Literal["", PourPattern]
Spout = Literal["", "high", "low"]
Zeroed = Literal["", "with_coffee", "empty"]
Ends = Literal["", "drips_stop", "time"]
OutMeans = Literal["", "water", "drink"]


@dataclass(frozen=True)
class Step:
    """One thing done. Water: to_g is the cumulative reading when it ends, add_g what this step alone adds; give either.
    rest: bypass that fills up to the stated water. Times in s from the first water on the coffee. start_cue, cue: what is seen when
    the step begins, and when it ends. reading_g and zeroed: what the scale says after a transfer, and what stood on it when it was zeroed."""

    kind: StepKind
    to_g: float | None = None
    add_g: float | None = None
    rest: bool = False
    start_s: float | None = None
    end_s: float | None = None
    duration_s: float | None = None
    where: Where = ""
    spout: Spout = ""
    count: int | None = None
    temperature_c: float | None = None
    start_cue: str = ""
    cue: str = ""
    reading_g: float | None = None
    zeroed: Zeroed = ""
    note: str = ""


@dataclass(frozen=True)
class GrindSetting:
    """One of the settings a recipe gives. on: the grinder or burrs as its author called them; setting: as it stands on that dial; dial_id: the
    kit's dial it was linked to, '' until somebody linked it."""

    on: str
    setting: str
    dial_id: str = ""


@dataclass(frozen=True)
class Recipe:
    """The document. brew_water_g: as stated, onto the coffee; brew_ratio: as stated, all water. out_g: a mass written only
    as "out", out_means: which of the two it is. ends: how the brew is over. Windows are (low, high), either end may be
    open; beverage_g is the target of concentrates, whose water may then be unknown. grind is how fine in words; grinds are settings. fast, on_time, slow: the taste expected."""

    steps: tuple[Step, ...] = ()
    dose_g: float | None = None
    brew_water_g: float | None = None
    brew_ratio: float | None = None
    temperature_c: float | None = None
    brewer_type: BrewerType | None = None
    filter: str = ""
    grind: str = ""
    grinds: tuple[GrindSetting, ...] = ()
    water: str = ""
    ends: Ends = ""
    total_time_s: tuple[float | None, float | None] = (None, None)
    pour_end_s: float | None = None
    tds_pct: tuple[float | None, float | None] = (None, None)
    ey_pct: tuple[float | None, float | None] = (None, None)
    beverage_g: float | None = None
    out_g: float | None = None
    out_means: OutMeans = ""
    fast: str = ""
    on_time: str = ""
    slow: str = ""
    note: str = ""

    def with_step(self, index: int, **changes) -> Recipe:
        """The same recipe with one step changed; index from 0."""
        return replace(self, steps=tuple(replace(s, **changes) if i == index else s for i, s in enumerate(self.steps)))


@dataclass(frozen=True)
class Timed:
    """A step on the timeline. water_g: its own; to_g: the reading when it ends (None before any water);
    rate_g_s: of the pour itself; hands_s: how long it keeps a pair of hands; assumed: its time was not stated; within: a bloom that holds it."""

    index: int
    step: Step
    start_s: float
    end_s: float
    water_g: float
    to_g: float | None
    rate_g_s: float | None
    hands_s: float
    assumed: bool
    within: bool = False


@dataclass(frozen=True)
class Sums:
    """Water as the steps have it: poured onto the coffee, bypass, and both; ratios where a dose is given."""

    poured_g: float
    bypass_g: float
    water_g: float
    brew_ratio: float | None
    bypass_share: float
    last_pour_end_s: float
    steps_end_s: float
    total_s: float


def how_often(count: int) -> str:
    """
    >>> how_often(1), how_often(2), how_often(3)
    ('once', 'twice', '3 times')
    """
    return {1: "once", 2: "twice"}.get(count, f"{count} times")


def can_hold(name: str, value: Any) -> bool:
    """Whether a field of a step or a document can hold this value. Windows are pairs, None is always held.

    >>> can_hold("brew_ratio", 16), can_hold("brew_ratio", 5000), can_hold("tds_pct", (1.2, None)), can_hold("cue", "a\\x07")
    (True, False, True, False)
    """
    if value is None:
        return True
    if isinstance(value, GrindSetting):
        return all(can_hold(part, text) for part, text in vars(value).items())
    if name == "grinds" and len(value) > MOST_GRINDS:
        return False
    if isinstance(value, tuple):
        return all(can_hold(name, x) for x in value)
    if isinstance(value, str):
        return len(value) <= LONGEST.get(name, 500) and not any(ord(c) < 32 and c not in "\n\t" for c in value)
    low, high = FIELD_LIMITS.get(name, (value, value))
    return low <= value <= high


def fits(recipe: Recipe) -> bool:
    """Whether a document can hold this recipe, written by readings as well: what is worked out from one must be one again."""
    return _can_be_held(recipe) and _can_be_held(as_cumulative(recipe))


def _can_be_held(recipe: Recipe) -> bool:
    whole = all(
        can_hold("recipe_note" if f.name == "note" else f.name, getattr(recipe, f.name)) for f in fields(Recipe) if f.name not in ("steps", "brewer_type")
    )
    return whole and all(can_hold(name, value) for step in recipe.steps for name, value in vars(step).items() if name != "kind")


def poured_by_s(t: Timed) -> float:
    """When the water of a step is in: a bloom's pour ends long before its wait does."""
    return t.start_s + t.water_g / t.rate_g_s if t.step.kind == "bloom" and t.rate_g_s else t.end_s


def own_water_g(recipe: Recipe) -> tuple[float, ...]:
    """What each step itself pours, g, in order: cumulative readings become differences (never negative), `rest` fills up to the stated water."""
    out: list[float] = []
    poured = 0.0
    for step in recipe.steps:
        if step.kind == "bypass":
            out.append(max(0.0, (_stated_total_g(recipe) or poured) - poured) if step.rest else step.add_g or 0.0)
            continue
        own = 0.0
        if step.kind in ON_COFFEE:
            own = step.add_g if step.to_g is None else max(0.0, step.to_g - poured)
        out.append(own or 0.0)
        poured += own or 0.0
    return tuple(out)


def _stated_total_g(recipe: Recipe) -> float | None:
    """All water the recipe speaks of: "total minus poured" bypass is counted from it."""
    if recipe.brew_ratio and recipe.dose_g:
        return recipe.brew_ratio * recipe.dose_g
    return recipe.brew_water_g


def timeline(recipe: Recipe) -> tuple[Timed, ...]:
    """Every step with its times, s, and readings, g. Preparing steps end at 0, one after another.

    >>> r = Recipe(dose_g=18, steps=(Step("bloom", to_g=45, duration_s=40), Step("pour", to_g=288, end_s=110)))
    >>> [(t.start_s, t.end_s, t.water_g) for t in timeline(r)]
    [(0.0, 40.0, 45.0), (40.0, 110.0, 243.0)]
    """
    water = own_water_g(recipe)
    first = next((i for i, s in enumerate(recipe.steps) if s.kind in ON_COFFEE), len(recipe.steps))
    prepare = [_usual_s(s, w) for s, w in zip(recipe.steps[:first], water, strict=False)]
    now = 0.0 - sum(prepare)
    out: list[Timed] = []
    reading = 0.0
    over = _first_after(recipe)
    for i, (step, own) in enumerate(zip(recipe.steps, water, strict=True)):
        if i == over and i >= first:
            now = max(now, _over_s(recipe, out))
        if i < first:
            start, end, assumed = now, now + prepare[i], step.duration_s is None
        elif step.kind == "drain" and step.end_s is None and step.duration_s is None:
            start, end, assumed = now, max(now, _over_s(recipe, out)), True
        elif step.kind == "remove_brewer" and step.start_s is None and step.end_s is None and (stated := _stated_end_s(recipe)) is not None:
            start, end, assumed = max(now, stated), max(now, stated) + _usual_s(step, own), step.duration_s is None
        else:
            start, end, assumed = _times(step, own, now)
        reading += own
        wet = step.kind in ON_COFFEE or step.kind == "bypass"
        pouring_s = min(end - start, own / BLOOM_POUR_G_S) if step.kind == "bloom" else end - start
        rate = own / pouring_s if wet and own and pouring_s > 0 else None
        hands = 0.0 if step.kind in HANDS_FREE else pouring_s
        held = _within_bloom(step, out)
        if held:
            start, end = held
            hands = end - start
        out.append(Timed(i, step, float(start), float(end), float(own), float(reading) if reading else None, rate, hands, assumed, within=held is not None))
        now = now if held else end
    return tuple(out)


def _within_bloom(step: Step, before: Sequence[Timed]) -> tuple[float, float] | None:
    """A swirl or stir told after a bloom, without a time of its own or at one inside it, is done while it blooms, once its water is in: a bloom
    runs until the next water."""
    bloom = next((t for t in reversed(before) if t.step.kind not in AGITATES), None)
    if step.kind not in AGITATES or bloom is None or bloom.step.kind != "bloom" or step.end_s is not None:
        return None
    if step.start_s is not None:
        inside = bloom.start_s <= step.start_s < bloom.end_s
        return (step.start_s, min(bloom.end_s, step.start_s + _usual_s(step, 0.0))) if inside else None
    begins = max(bloom.start_s + bloom.hands_s, before[-1].end_s if before[-1] is not bloom else 0.0)
    begins = min(begins, bloom.end_s)
    return begins, min(bloom.end_s, begins + _usual_s(step, 0.0))


def _times(step: Step, own_g: float, now: float) -> tuple[float, float, bool]:
    usual = _usual_s(step, own_g)
    if step.start_s is not None:
        if step.end_s is not None:
            return step.start_s, step.end_s, False
        return step.start_s, step.start_s + usual, step.duration_s is None
    if step.end_s is None:
        return now, now + usual, step.duration_s is None
    if step.kind in HANDS_FREE or step.kind == "hold_level":  # a wait "until 4:00" lasts from now until then
        return min(now, step.end_s), step.end_s, False
    if own_g and step.duration_s is None and own_g >= SLOWEST_POUR_G_S * (step.end_s - now) > 0:  # a pour "by 1:50" goes on until then
        return now, step.end_s, False
    return max(min(now, step.end_s), step.end_s - usual), step.end_s, step.duration_s is None


def _usual_s(step: Step, own_g: float) -> float:
    if step.duration_s is not None:
        return step.duration_s
    if step.kind in ("pour", "hold_level"):
        return own_g / USUAL_POUR_G_S
    if step.kind in ("swirl", "stir", "tap") and step.count:
        return max(3.0, 1.5 * step.count)
    return USUAL_DURATION_S.get(step.kind, 10.0)


def sums(recipe: Recipe) -> Sums:
    """What the steps add up to, and when the last pour and the whole brew end (a usual drawdown when it drips out unstated)."""
    water = own_water_g(recipe)
    poured = sum(w for s, w in zip(recipe.steps, water, strict=True) if s.kind in ON_COFFEE)
    bypass = sum(w for s, w in zip(recipe.steps, water, strict=True) if s.kind == "bypass")
    timed = timeline(recipe)
    over = ending_of(recipe, timed)
    brewing = [t for t in timed[: over.first_after] if t.step.kind not in AFTERWARDS and t.end_s > 0]
    last_pour = max((t.end_s for t in brewing if t.water_g), default=0.0)
    steps_end = max((t.start_s if t.step.kind == "remove_brewer" else t.end_s for t in brewing), default=0.0)
    total = poured + bypass
    return Sums(
        poured_g=poured,
        bypass_g=bypass,
        water_g=total,
        brew_ratio=total / recipe.dose_g if recipe.dose_g and total else None,
        bypass_share=bypass / total if total else 0.0,
        last_pour_end_s=last_pour,
        steps_end_s=steps_end,
        total_s=over.at_s,
    )


# --- the end ------------------------------------------------------------------------------------------------------------------------

ENDS_BY_STEP: dict[StepKind, Ending] = {"drain": "drips_stop", "press": "pressed", "remove_brewer": "lifted"}
"""Steps that are themselves the end of a brew, when the last of them comes after the last water."""


@dataclass(frozen=True)
class BrewEnd:
    """How and when a brew is over, s. by: the step that ends it, None when none does; first_after: the first step that belongs to the drink and
    hangs on the end (the number of steps when there is none)."""

    kind: Ending
    at_s: float
    by: int | None
    first_after: int


def ending_of(recipe: Recipe, timed: Sequence[Timed] | None = None) -> BrewEnd:
    """A fact of the recipe's steps, else of what it says of its end, else of its kind of brewer.

    >>> ending_of(Recipe(steps=(Step("pour", to_g=225, duration_s=20), Step("press", start_s=100, duration_s=30)), brewer_type="piston_press"))
    BrewEnd(kind='pressed', at_s=130.0, by=1, first_after=2)
    """
    timed = timeline(recipe) if timed is None else timed
    by, after = _end_step(recipe), _first_after(recipe)
    kind = ENDS_BY_STEP[recipe.steps[by].kind] if by is not None else _kind_said(recipe)
    brewing = [t for t in timed[:after] if t.step.kind not in AFTERWARDS and t.end_s > 0]
    if by is None:
        return BrewEnd(kind, max([_over_s(recipe, brewing), *(t.end_s for t in brewing)]), by, after)
    ended_s = timed[by].start_s if kind == "lifted" else timed[by].end_s
    return BrewEnd(kind, max([ended_s, *(t.end_s for t in brewing if t.index != by)]), by, after)


def _end_step(recipe: Recipe) -> int | None:
    """The step that ends it: the last of its kind, with no water onto the coffee after it."""
    last_water = max((i for i, s in enumerate(recipe.steps) if s.kind in ON_COFFEE), default=-1)
    return next((i for i in range(len(recipe.steps) - 1, last_water, -1) if recipe.steps[i].kind in ENDS_BY_STEP), None)


SLACK_G = 0.5
"""Masses this close are the same as written."""


def is_whole_water(total: Sums, stated_g: float) -> bool:
    """Whether a stated brew water is all the recipe's water, its bypass included, which would then be counted twice."""
    return total.bypass_g > 0 and abs(stated_g - total.water_g) <= max(SLACK_G, 0.001 * stated_g)


def is_after(t: Timed, end: BrewEnd) -> bool:
    """Whether a step is of the drink, once the brew is over."""
    return t.index >= end.first_after or t.step.kind in AFTERWARDS


def _kind_said(recipe: Recipe) -> Ending:
    if recipe.ends == "drips_stop":
        return "drips_stop"
    usual: tuple[Ending, ...] = BREWERS[recipe.brewer_type].ends if recipe.brewer_type else ("drips_stop", "lifted")
    if recipe.ends == "time":
        return next((e for e in usual if e != "drips_stop"), "lifted")
    return usual[0]


def _first_after(recipe: Recipe) -> int:
    """Where the drink begins: behind the step that ends the brew, else at the first step of the drink once all water is on the coffee, where the brew ends by itself or
    is lifted (what is poured off is served by its end)."""
    by = _end_step(recipe)
    if by is not None:
        return by + 1
    last_water = max((i for i, s in enumerate(recipe.steps) if s.kind in ON_COFFEE), default=-1)
    if not recipe.ends or _kind_said(recipe) not in ("drips_stop", "lifted"):
        return len(recipe.steps)
    return next((i for i, s in enumerate(recipe.steps) if i > last_water and s.kind in AFTERWARDS), len(recipe.steps))


def _over_s(recipe: Recipe, before: Sequence[Timed]) -> float:
    """When it is over by what the recipe says, else a usual drawdown after the last water where it drips out."""
    stated = _stated_end_s(recipe)
    if stated is not None:
        return stated
    drips = recipe.ends == "drips_stop" or any(s.kind == "drain" for s in recipe.steps)
    return max((t.end_s for t in before if t.water_g and t.step.kind in ON_COFFEE), default=0.0) + USUAL_DRAWDOWN_S if drips else 0.0


def _stated_end_s(recipe: Recipe) -> float | None:
    low, high = recipe.total_time_s
    if low is not None and high is not None:
        return (low + high) / 2
    return high if high is not None else low


def as_cumulative(recipe: Recipe) -> Recipe:
    """The same recipe with every pour written as the reading it ends at."""
    poured, steps = 0.0, []
    for step, own in zip(recipe.steps, own_water_g(recipe), strict=True):
        if step.kind in ON_COFFEE and own:
            poured += own
            step = replace(step, to_g=_tidy(poured), add_g=None)
        steps.append(step)
    return replace(recipe, steps=tuple(steps))


def as_per_pour(recipe: Recipe) -> Recipe:
    """The same recipe with every pour written as what it adds."""
    pairs = zip(recipe.steps, own_water_g(recipe), strict=True)
    return replace(recipe, steps=tuple(replace(s, add_g=_tidy(w), to_g=None) if s.kind in ON_COFFEE and w else s for s, w in pairs))


def _tidy(grams: float) -> float:
    return round(grams, 3)


def equal_pours(recipe: Recipe) -> bool:
    """Whether all pours (two or more, bloom included) are of one size, within 2 %: then no first pour is a bloom by size."""
    pours = [w for s, w in zip(recipe.steps, own_water_g(recipe), strict=True) if s.kind in ON_COFFEE and w]
    return len(pours) >= 2 and max(pours) - min(pours) <= 0.02 * max(pours)


def single_pour(recipe: Recipe) -> bool:
    return sum(s.kind in ON_COFFEE for s in recipe.steps) == 1


def named_fields() -> Sequence[str]:
    return [f.name for f in fields(Recipe)]
