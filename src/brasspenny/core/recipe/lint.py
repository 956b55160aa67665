"""Every check of a recipe: what, where, why, and a one-click mend. docs/formulas.md §6.

Errors block a run; warnings, advice and information do not. A finding carries its mends ready made: each is the whole
recipe with that one thing put right, so that nothing has to guess how to apply it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

from .. import figures
from ..extraction.yields import BREWER_LABELS
from ..limits import LIMITS
from ..units import write_duration
from ..vocabulary import BREWER_KINDS, BrewerType
from . import scaling
from .model import (
    HANDS_FREE,
    ON_COFFEE,
    SLACK_G,
    STEP_LABELS,
    Recipe,
    Step,
    Sums,
    Timed,
    equal_pours,
    fits,
    is_whole_water,
    own_water_g,
    single_pour,
    sums,
    timeline,
)
from .outlook import Outlook, Window, expected_drink_g, is_concentrate, outside_every_window

Severity = Literal["error", "warning", "advice", "information"]
SEVERITIES: tuple[Severity, ...] = get_args(Severity)
Code = Literal[
    "no_dose", "no_water", "pours_do_not_add_up", "total_as_brew_water", "ratio_disagrees", "out_ambiguous", "water_as_beverage", "dose_outside_brewer", "slurry_over_volume",
    "above_boiling", "fahrenheit_typed", "steps_out_of_order", "steps_overlap", "reading_goes_down", "pour_rate", "bloom_mass", "bloom_time",
    "bypass_over_half", "outside_windows", "no_end", "total_time_impossible", "slurry_read_as_water", "target_too_strong",
    "first_water_late", "reading_after_transfer", "zeroing_unsaid",
]  # fmt: skip
CODES: tuple[Code, ...] = get_args(Code)

RATE_G_S = (1.0, 15.0)
BLOOM_TIMES_DOSE = (1.5, 4.0)
BLOOM_S = (20.0, 60.0)
TYPED_AS_F = (150.0, 212.0)
SLURRY_ML_PER_G = 0.7
"""How much room a gram of wet grounds takes beside its water."""
SLACK_S = 0.5
IMMERSION: frozenset[BrewerType] = frozenset(k.code for k in BREWER_KINDS if k.steeped or k.valved)


@dataclass(frozen=True)
class Mend:
    """label: what one click does; recipe: the whole recipe after it."""

    label: str
    recipe: Recipe


@dataclass(frozen=True)
class Finding:
    """where: the field or "steps.3.to_g" (steps from 0); place: the same in words."""

    code: Code
    severity: Severity
    where: str
    place: str
    text: str
    why: str
    mends: tuple[Mend, ...]


@dataclass(frozen=True)
class Surroundings:
    """What a recipe is checked against. dose_range_g and volume_ml: the brewer's; windows: those switched on."""

    boiling_c: float = 100.0
    dose_range_g: tuple[float, float] | None = None
    volume_ml: float | None = None
    windows: Sequence[Window] = ()
    outlook: Outlook | None = None


def lint(recipe: Recipe, around: Surroundings = Surroundings()) -> tuple[Finding, ...]:
    """All findings, errors first, in the order of the recipe. A recipe without errors can be put in a run. Every mend leaves less to mend, so that
    no two undo one another. Source: docs/formulas.md §6."""
    found = _found(recipe, around)
    bad = _badness(found)

    def mends(f: Finding) -> tuple[Mend, ...]:
        most = bad if f.code == FORESEEN else bad - 1
        return tuple(m for m in f.mends if fits(m.recipe) and _badness(_found(m.recipe, around)) <= most)

    held = [replace(f, mends=mends(f)) for f in found]
    return tuple(sorted(held, key=lambda f: SEVERITIES.index(f.severity)))


FORESEEN: Code = "outside_windows"
"""Told from what the cup is expected to be, which is foreseen anew only once the recipe is changed: it cannot count for or against a mend."""
WEIGHTS: dict[Severity, int] = {"error": 1000, "warning": 100, "advice": 10, "information": 1}


def _badness(found: Sequence[Finding]) -> int:
    return sum(WEIGHTS[f.severity] for f in found if f.code != FORESEEN)


def _found(recipe: Recipe, around: Surroundings) -> list[Finding]:
    timed, total = timeline(recipe), sums(recipe)
    return [
        *_amounts(recipe, total),
        *_target(recipe),
        *_outs(recipe, total, around),
        *_temperatures(recipe, around),
        *_scales(recipe),
        *_order(recipe, timed),
        *_pours(recipe, timed),
        *_brewer(recipe, total, around),
        *_ends(recipe, timed, total),
        *_cup(recipe, around),
    ]


def blocks_a_run(findings: Sequence[Finding]) -> bool:
    return any(f.severity == "error" for f in findings)


def _at(index: int, step: Step, field: str) -> tuple[str, str]:
    return f"steps.{index}.{field}", f"step {index + 1}, {STEP_LABELS[step.kind].lower()}"


def _g(grams: float) -> str:
    return f"{grams:.4g} g" if grams < 1000 else f"{figures.grams(grams)} g"


# --- amounts ---------------------------------------------------------------------------------------------------------


def _amounts(recipe: Recipe, total: Sums) -> Iterator[Finding]:
    if not recipe.dose_g:
        ratio = recipe.brew_ratio or 16
        mends = (Mend(f"Dose for 1:{ratio:g}", replace(recipe, dose_g=round(total.water_g / ratio, 1))),) if total.water_g else ()
        yield Finding("no_dose", "error", "dose_g", "dose", "No dose is given.", "Nothing can be weighed out or worked out without it.", mends)
    if not total.poured_g:
        yield from _no_water(recipe)
        return
    stated = recipe.brew_water_g
    if stated and is_whole_water(total, stated):
        yield Finding(
            "total_as_brew_water", "error", "brew_water_g", "brew water",
            f"{_g(stated)} is all the water, its {_g(total.bypass_g)} of bypass included.", "Brew water is what meets the coffee; the bypass would be counted twice.",
            (Mend(f"Brew water is {_g(total.poured_g)}", replace(recipe, brew_water_g=round(total.poured_g, 3))),),
        )  # fmt: skip
    elif stated and abs(stated - total.poured_g) > max(SLACK_G, 0.001 * stated):
        yield Finding(
            "pours_do_not_add_up", "error", "brew_water_g", "brew water",
            f"The pours add up to {_g(total.poured_g)}, the recipe says {_g(stated)}.", "The pours give a different ratio than the total.",
            (Mend(f"State {_g(total.poured_g)}", replace(recipe, brew_water_g=round(total.poured_g, 3))), *_stretch_last_pour(recipe, stated, total)),
        )  # fmt: skip
    if recipe.brew_ratio and recipe.dose_g and total.brew_ratio:
        off = abs(recipe.brew_ratio - total.brew_ratio) / recipe.brew_ratio
        if off > 0.01:
            mended = scaling.to_water(recipe, recipe.brew_ratio * recipe.dose_g - total.bypass_g)
            yield Finding(
                "ratio_disagrees", "error", "brew_ratio", "ratio",
                f"Stated 1:{recipe.brew_ratio:.4g}; {_g(total.water_g)} on {_g(recipe.dose_g)} make 1:{total.brew_ratio:.4g}.", "They differ by more than 1 %, so one of them is wrong.",
                (Mend(f"State 1:{total.brew_ratio:.4g}", replace(recipe, brew_ratio=round(total.brew_ratio, 2))), *([Mend(f"Pour for 1:{recipe.brew_ratio:.4g}", mended)] if mended else [])),
            )  # fmt: skip
    if total.bypass_share > 0.5:
        index = next(i for i, s in enumerate(recipe.steps) if s.kind == "bypass")
        where, place = _at(index, recipe.steps[index], "add_g")
        yield Finding(
            "bypass_over_half", "warning", where, place, f"{figures.share(total.bypass_share)} of the water never meets the coffee.", "So strong a short brew rarely extracts evenly.",
            (Mend(f"Bypass {_g(total.poured_g)}, one half", recipe.with_step(index, add_g=round(total.poured_g, 1), rest=False)),),
        )  # fmt: skip


def _target(recipe: Recipe) -> Iterator[Finding]:
    """A target strength has the limits of a reading: above 5 % only for a concentrate."""
    most = LIMITS["tds_pct"].high
    high = max((x for x in recipe.tds_pct if x is not None), default=0.0)
    if high > most and not is_concentrate(recipe):
        yield Finding(
            "target_too_strong", "error", "tds_pct", "target", f"A target of {high:g} % TDS is no coffee at this ratio.",
            f"Above {most:g} % it is a concentrate (1:1 to 1:4), or a conductivity pen's ppm, which measures water.",
            (Mend("Leave the target open", replace(recipe, tds_pct=(None, None))),),
        )  # fmt: skip


def _no_water(recipe: Recipe) -> Iterator[Finding]:
    if recipe.beverage_g:
        return  # a concentrate brewed to a beverage mass: its water may be unknown
    water = recipe.brew_water_g or (recipe.brew_ratio * recipe.dose_g if recipe.brew_ratio and recipe.dose_g else None)
    mends = (Mend(f"Pour {_g(water)} in one go", replace(recipe, steps=(*recipe.steps, Step("pour", to_g=round(water, 1))))),) if water else ()
    yield Finding("no_water", "error", "steps", "steps", "No step pours water onto the coffee.", "There is nothing to brew.", mends)


def _stretch_last_pour(recipe: Recipe, stated: float, total: Sums) -> Iterator[Mend]:
    own = own_water_g(recipe)
    last = max(i for i, s in enumerate(recipe.steps) if s.kind in ON_COFFEE and own[i])
    before = total.poured_g - own[last]
    if stated > before + 1:
        change = {"to_g": stated} if recipe.steps[last].add_g is None else {"add_g": round(stated - before, 3)}
        yield Mend(f"End the last pour at {_g(stated)}", recipe.with_step(last, **change))


def _outs(recipe: Recipe, total: Sums, around: Surroundings) -> Iterator[Finding]:
    if recipe.out_g and not recipe.out_means:
        water = replace(recipe, out_means="water", brew_water_g=recipe.out_g)
        drink = replace(recipe, out_means="drink", beverage_g=recipe.out_g)
        yield Finding(
            "out_ambiguous", "error", "out_g", "out", f"“{_g(recipe.out_g)} out” may be the water on the scale or the drink in the cup.", "The grounds keep about two grams of water per gram of coffee: the two are far apart.",
            (Mend("It is the drink", drink), Mend("It is the water", water)),
        )  # fmt: skip
    if recipe.beverage_g and total.water_g and recipe.dose_g and abs(recipe.beverage_g - total.water_g) <= 0.02 * total.water_g:
        if around.outlook:
            drink = around.outlook.beverage_g
        else:
            drink = expected_drink_g(dose_g=recipe.dose_g, brew_water_g=total.poured_g, bypass_g=total.bypass_g)
        mends = [Mend("It is the water: drop it", replace(recipe, beverage_g=None))]
        if drink:
            mends.append(Mend(f"Expect {_g(round(drink))} of drink", replace(recipe, beverage_g=float(round(drink)))))
        yield Finding(
            "water_as_beverage", "error", "beverage_g", "beverage mass", f"{_g(recipe.beverage_g)} is given as the drink, and {_g(total.water_g)} of water goes in.", "The grounds keep some: water in is not drink out.",
            tuple(mends),
        )  # fmt: skip
    for i, step in enumerate(recipe.steps):
        water = recipe.brew_water_g or total.poured_g
        if step.kind == "transfer" and step.zeroed == "empty" and step.reading_g and recipe.dose_g and abs(step.reading_g - water) <= 0.01 * step.reading_g:
            where, place = _at(i, step, "reading_g")
            real = round(step.reading_g - recipe.dose_g, 1)
            mended = scaling.to_water(replace(recipe, brew_water_g=None), real) or recipe
            yield Finding(
                "slurry_read_as_water", "error", where, place,
                f"With the empty dripper zeroed, {_g(step.reading_g)} is coffee and water: {_g(real)} of water.", "What a reading means depends on what stood on the scale when it was zeroed.",
                (Mend(f"Water is {_g(real)}", replace(mended, brew_water_g=real)),
                 Mend(f"The reading is {_g(round(step.reading_g + recipe.dose_g, 1))}", recipe.with_step(i, reading_g=round(step.reading_g + recipe.dose_g, 1)))),
            )  # fmt: skip


def _scales(recipe: Recipe) -> Iterator[Finding]:
    """After a transfer the brew stands on another scale: what a reading there means depends on what was zeroed."""
    at = next((i for i, s in enumerate(recipe.steps) if s.kind == "transfer"), None)
    if at is None:
        return
    later = [i for i, s in enumerate(recipe.steps) if i > at and s.kind in ON_COFFEE and s.to_g is not None]
    step = recipe.steps[at]
    if not step.zeroed:
        if later or step.reading_g:
            where, place = _at(at, step, "zeroed")
            yield Finding(
                "zeroing_unsaid", "warning", where, place, "It is not said what stood on the scale when it was zeroed.", "Zeroed empty, the coffee itself is read as if it were water.",
                (Mend("Zeroed empty: the scale reads the coffee, too", _read_as(recipe.with_step(at, zeroed="empty"), later, -(recipe.dose_g or 0.0), 0.0)),
                 Mend("Zeroed with the coffee in it", recipe.with_step(at, zeroed="with_coffee"))),
            )  # fmt: skip
        return
    asked = [i for i in later if recipe.steps[i].reading_g is None]
    if step.zeroed == "empty" and asked and recipe.dose_g:
        first = recipe.steps[asked[0]]
        where, place = _at(asked[0], first, "to_g")
        reads, extra = first.to_g or 0.0, recipe.dose_g
        yield Finding(
            "reading_after_transfer", "error", where, place, f"After the transfer {_g(reads)} may be the reading, which is {_g(round(reads - extra, 1))} of water, or the water.",
            "The dripper was zeroed empty: it shows the coffee as well.",
            (Mend(f"{_g(reads)} is the reading", _read_as(recipe, asked, -extra, 0.0)), Mend(f"{_g(reads)} is the water", _read_as(recipe, asked, 0.0, extra))),
        )  # fmt: skip


def _read_as(recipe: Recipe, steps: Sequence[int], water: float, reading: float) -> Recipe:
    """The later pours with both said: the water poured by then, and what the scale shows."""
    for i in steps:
        to_g = recipe.steps[i].to_g or 0.0
        recipe = recipe.with_step(i, to_g=max(0.0, round(to_g + water, 3)), reading_g=round(to_g + reading, 3))
    return recipe


# --- temperature -------------------------------------------------------------------------------------------------------


def _temperatures(recipe: Recipe, around: Surroundings) -> Iterator[Finding]:
    places = [("temperature_c", "temperature", recipe.temperature_c, lambda c: replace(recipe, temperature_c=c))]
    for i, step in enumerate(recipe.steps):
        where, place = _at(i, step, "temperature_c")
        places.append((where, place, step.temperature_c, lambda c, i=i: recipe.with_step(i, temperature_c=c)))
    for where, place, temp, mended in places:
        if temp is None:
            continue
        if TYPED_AS_F[0] <= temp <= TYPED_AS_F[1]:
            celsius = round((temp - 32) / 1.8, 1)
            yield Finding(
                "fahrenheit_typed", "error", where, place, f"{temp:g} °C cannot be: {temp:g} °F is {celsius:g} °C.", "It looks typed in Fahrenheit.",
                (Mend(f"Make it {figures.heat(celsius)}", mended(celsius)),),
            )  # fmt: skip
        elif temp > around.boiling_c + 0.05:
            boil = int(around.boiling_c * 2) / 2
            yield Finding(
                "above_boiling", "warning", where, place, f"{figures.heat(temp)} is hotter than water boils here ({figures.heat_fine(around.boiling_c)}).", "The kettle will boil and never reach it.",
                (Mend(f"Make it {figures.heat(boil)}", mended(boil)),),
            )  # fmt: skip


def _moved(recipe: Recipe, by_s: float) -> Recipe:
    """Every time of day moved; how long things last stays."""

    def at(time: float | None) -> float | None:
        return None if time is None else max(0.0, time + by_s)

    low, high = recipe.total_time_s
    steps = tuple(replace(s, start_s=at(s.start_s), end_s=at(s.end_s)) for s in recipe.steps)
    return replace(recipe, steps=steps, total_time_s=(at(low), at(high)), pour_end_s=at(recipe.pour_end_s))


# --- order and pours -----------------------------------------------------------------------------------------------------


def _order(recipe: Recipe, timed: Sequence[Timed]) -> Iterator[Finding]:
    first = next((t for t in timed if t.step.kind in ON_COFFEE), None)
    if first is not None and (late := first.step.start_s or 0.0) > SLACK_S:
        where, place = _at(first.index, first.step, "start_s")
        yield Finding(
            "first_water_late", "error", where, place, f"The first water starts at {write_duration(late)}.", "The clock of a brew starts with its first water.",
            (Mend("Start the clock there", _moved(recipe, -late)), Mend("Start it at 0:00", recipe.with_step(first.index, start_s=None))),
        )  # fmt: skip
    apart = [t for t in timed if not t.within]
    for before, t in zip(apart, apart[1:], strict=False):
        where, place = _at(t.index, t.step, "start_s" if t.step.start_s is not None else "end_s")
        if t.start_s < before.start_s - SLACK_S or t.end_s < t.start_s - SLACK_S:
            yield Finding(
                "steps_out_of_order", "error", where, place, f"It is to happen at {write_duration(max(0, t.start_s))}, before the step above it.", "Steps are followed from top to bottom.",
                (Mend("Put the steps in order of time", _sorted(recipe, timed)), Mend("Let it follow the step above", recipe.with_step(t.index, start_s=None, end_s=None))),
            )  # fmt: skip
        elif t.start_s < before.end_s - SLACK_S:
            yield Finding(
                "steps_overlap", "error", where, place,
                f"It begins at {write_duration(t.start_s)} while the step above lasts until {write_duration(before.end_s)}.", "One pair of hands cannot do both.",
                (Mend("Let it follow the step above", recipe.with_step(t.index, start_s=None, end_s=None)), *_trim(recipe, before, t)),
            )  # fmt: skip
    reading = 0.0
    for t in timed:
        step = t.step
        if step.kind in ON_COFFEE and step.to_g is not None and step.to_g < reading - SLACK_G:
            where, place = _at(t.index, step, "to_g")
            mends = [Mend(f"Pour {_g(step.to_g)} more, to {_g(reading + step.to_g)}", _shift_readings(recipe, t.index, reading))]
            yield Finding(
                "reading_goes_down", "error", where, place, f"The scale is to read {_g(step.to_g)}, and it already reads {_g(reading)}.", "A cumulative reading never falls: it may be what this pour adds.",
                tuple(mends),
            )  # fmt: skip
        reading = max(reading, t.to_g or 0.0)


def _sorted(recipe: Recipe, timed: Sequence[Timed]) -> Recipe:
    return replace(recipe, steps=tuple(t.step for t in sorted(timed, key=lambda t: (t.start_s, t.index))))


def _trim(recipe: Recipe, before: Timed, t: Timed) -> Iterator[Mend]:
    if t.start_s > before.start_s + 1:
        yield Mend(f"End the step above at {write_duration(t.start_s)}", recipe.with_step(before.index, end_s=None, duration_s=t.start_s - before.start_s))


def _shift_readings(recipe: Recipe, index: int, reading: float) -> Recipe:
    """This step and, if they too were written per pour, the later ones become what they add."""
    steps = list(recipe.steps)
    for i in range(index, len(steps)):
        to_g = steps[i].to_g
        if to_g is not None and to_g < reading:
            steps[i] = replace(steps[i], to_g=None, add_g=to_g)
            reading += to_g
    return replace(recipe, steps=tuple(steps))


def _pours(recipe: Recipe, timed: Sequence[Timed]) -> Iterator[Finding]:
    quiet = equal_pours(recipe) or single_pour(recipe) or is_concentrate(recipe)  # rules of filter brews say nothing of a concentrate
    for t in timed:
        if t.rate_g_s is not None and t.step.kind in ON_COFFEE and not RATE_G_S[0] - 0.01 <= t.rate_g_s <= RATE_G_S[1] + 0.01:
            where, place = _at(t.index, t.step, "duration_s")
            seconds = float(round(t.water_g / 6))
            mended = recipe.with_step(t.index, duration_s=seconds, **({"end_s": None} if t.step.start_s is not None else {"start_s": None, "end_s": None}))
            fast = t.rate_g_s > RATE_G_S[1]
            yield Finding(
                "pour_rate", "warning", where, place, f"{_g(t.water_g)} in {figures.seconds(max(0, t.end_s - t.start_s))} s is {t.rate_g_s:.3g} g/s.",
                "A spout gives up to about 15 g/s." if fast else "Below 1 g/s a kettle only drips.",
                (Mend(f"Pour it in {seconds:g} s", mended),),
            )  # fmt: skip
        if t.step.kind == "bloom" and not quiet:
            yield from _bloom(recipe, t)


def _bloom(recipe: Recipe, t: Timed) -> Iterator[Finding]:
    if recipe.dose_g and t.water_g:
        times = t.water_g / recipe.dose_g
        low, high = BLOOM_TIMES_DOSE
        if not low <= times <= high:
            grams = round((low if times < low else high) * recipe.dose_g, 1)
            where, place = _at(t.index, t.step, "to_g" if t.step.to_g is not None else "add_g")
            yield Finding(
                "bloom_mass", "advice", where, place, f"The bloom is {times:.2g} × the dose.", "Usual is 1.5 to 4 ×: less leaves dry spots, more is a pour.",
                (Mend(f"Bloom with {_g(grams)}", recipe.with_step(t.index, **({"to_g": grams} if t.step.to_g is not None else {"add_g": grams}))),),
            )  # fmt: skip
    lasts = t.end_s - t.start_s
    if not BLOOM_S[0] <= lasts <= BLOOM_S[1] and not t.assumed:
        where, place = _at(t.index, t.step, "duration_s")
        seconds = BLOOM_S[0] if lasts < BLOOM_S[0] else BLOOM_S[1]
        yield Finding(
            "bloom_time", "advice", where, place, f"The bloom lasts {figures.seconds(lasts)} s.", "Usual is 20 to 60 s; fresh coffee wants the longer.",
            (Mend(f"Bloom for {seconds:g} s", recipe.with_step(t.index, duration_s=seconds, end_s=None)),),
        )  # fmt: skip


# --- brewer, ends, cup -----------------------------------------------------------------------------------------------------


def _brewer(recipe: Recipe, total: Sums, around: Surroundings) -> Iterator[Finding]:
    brewer = BREWER_LABELS.get(recipe.brewer_type, "brewer") if recipe.brewer_type else "brewer"
    if recipe.dose_g and around.dose_range_g:
        low, high = around.dose_range_g
        if not low <= recipe.dose_g <= high:
            nearest = low if recipe.dose_g < low else high
            yield Finding(
                "dose_outside_brewer", "warning", "dose_g", "dose", f"This {brewer} works with {low:g} to {high:g} g, not {recipe.dose_g:g} g.",
                "Too shallow a bed runs through, too deep a one stalls.", (Mend(f"Scale to {nearest:g} g", scaling.to_dose(recipe, nearest)),),
            )  # fmt: skip
    held = _most_held_ml(recipe, total)
    if around.volume_ml and held > around.volume_ml:
        share = around.volume_ml / held
        mends = (
            (Mend(f"Scale to {figures.grams_fine(recipe.dose_g * share)} g", scaling.to_dose(recipe, int(recipe.dose_g * share * 10) / 10)),)
            if recipe.dose_g
            else ()
        )
        yield Finding(
            "slurry_over_volume", "error", "steps", "steps", f"At its fullest the {brewer} must hold {figures.millilitres(held)} mL, and it holds {figures.millilitres(around.volume_ml)} mL.",
            "It would run over, and the slurry is scalding.", mends,
        )  # fmt: skip


def _most_held_ml(recipe: Recipe, total: Sums) -> float:
    """Immersion holds all its water; a dripper at least its largest single pour. Both hold the grounds."""
    grounds = SLURRY_ML_PER_G * (recipe.dose_g or 0)
    if recipe.brewer_type in IMMERSION:
        return total.poured_g + grounds
    return max((w for s, w in zip(recipe.steps, own_water_g(recipe), strict=True) if s.kind in ON_COFFEE), default=0.0) + grounds


def _ends(recipe: Recipe, timed: Sequence[Timed], total: Sums) -> Iterator[Finding]:
    low, high = recipe.total_time_s
    by_a_step = any(s.kind in ("remove_brewer", "press", "serve") for s in recipe.steps) or any(s.kind == "drain" for s in recipe.steps[-1:])
    says = recipe.ends or low is not None or high is not None or by_a_step
    if not says:
        usual = write_duration(total.last_pour_end_s + 60)
        yield Finding(
            "no_end", "error", "ends", "end", "It is not said when the brew is over.", "Whether it drips out or is lifted at a time changes the cup.",
            (Mend("It ends when the drips stop", replace(recipe, ends="drips_stop")),
             Mend(f"It ends at {usual}", replace(recipe, ends="time", total_time_s=(None, float(round(total.last_pour_end_s + 60)))))),
        )  # fmt: skip
    if high is not None and total.steps_end_s > high + SLACK_S:
        need = float(round(total.steps_end_s))
        waits = sum(t.end_s - t.start_s for t in timed if t.step.kind in HANDS_FREE | {"bloom"})
        yield Finding(
            "total_time_impossible", "error", "total_time_s", "total time", f"The steps last until {write_duration(total.steps_end_s)}, the target is {write_duration(high)}.",
            f"{figures.seconds(waits)} s of it is waiting." if waits else "The pours alone take longer.", (Mend(f"Aim for {write_duration(need + 30)}", replace(recipe, total_time_s=(low if low is None or low < need else None, need + 30))),),
        )  # fmt: skip
    elif recipe.pour_end_s is not None and total.last_pour_end_s > recipe.pour_end_s + 5:
        need = float(round(total.last_pour_end_s))
        yield Finding(
            "total_time_impossible", "error", "pour_end_s", "end of pour", f"The last pour ends at {write_duration(need)}, the target is {write_duration(recipe.pour_end_s)}.",
            "The pours and waits before it take longer.", (Mend(f"Aim for {write_duration(need)}", replace(recipe, pour_end_s=need)),),
        )  # fmt: skip


def _cup(recipe: Recipe, around: Surroundings) -> Iterator[Finding]:
    outlook = around.outlook
    if outlook is None or not around.windows or not outside_every_window(outlook, around.windows):
        return
    nearest = min(around.windows, key=lambda w: abs((w.tds_pct[0] + w.tds_pct[1]) / 2 - outlook.tds_pct))
    aim = min(max(outlook.tds_pct, nearest.tds_pct[0]), nearest.tds_pct[1])
    mended = scaling.to_strength(recipe, aim, ey_pct=outlook.ey_pct, retained=outlook.retained_water_ratio)
    yield Finding(
        "outside_windows", "information", "brew_ratio", "ratio",
        f"Expect about {figures.tds(outlook.tds_pct)} % TDS at {figures.ey(outlook.ey_pct)} % yield: outside {'the ' + around.windows[0].label if len(around.windows) == 1 else 'every window that is on'}.",
        "A window is one school's preference; a cup outside it is not a bad cup.", (Mend(f"Water for {figures.tds(aim)} % TDS", mended),) if mended and aim != outlook.tds_pct else (),
    )  # fmt: skip
