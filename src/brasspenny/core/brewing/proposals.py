"""One proposed change, as one value: its sentence, the recipe with it, the setting on each dial. docs/formulas.md §10.

Whatever shows a change (the sentence, the draft, the version that is kept, the card, the guide, history) is made from this value and from nothing else.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from .. import figures
from ..extraction.yields import solve
from ..grinding.dials import Dials
from ..recipe.fitting import fitted
from ..recipe.model import GrindSetting, Recipe, sums
from ..units import write_duration
from ..vocabulary import YieldBasis
from .adviser import Advice, Limits, Results

Variable = Literal["dose_g", "brew_water_g", "temperature_c", "grind_setting", "first_pour_g", "pours", "filter", "total_time_s"]
MORE_C, LITTLE_C = 2.0, 1.0
STRONG_END = 0.85
"""Of the way from the weak to the strong end of a target."""
MOST_MORE_WATER = 1.25


@dataclass(frozen=True)
class Turn:
    """A setting on one dial, before and after, as it is written there."""

    dial_id: str
    dial: str
    before: str
    after: str

    @property
    def text(self) -> str:
        return f"{self.before} → {self.after} on the {self.dial}"


@dataclass(frozen=True)
class Brewed:
    """What was brewed on: the dial it was ground on ("" when none of the kit's) and its setting, as written."""

    dial_id: str = ""
    setting: str = ""


@dataclass(frozen=True)
class Proposal:
    """before, after: in words, "" where there is nothing to say; value: the new number, None where it is none; held: what stays as it is, in words. recipe: with exactly this change, None
    where it is no matter of the recipe's. turns: the new setting on each dial, the brew's own first; unknown: what must be known before it can be said in numbers."""

    variable: Variable
    before: str = ""
    after: str = ""
    value: float | None = None
    held: str = ""
    recipe: Recipe | None = None
    turns: tuple[Turn, ...] = ()
    unknown: str = ""

    @property
    def text(self) -> str:
        """ "21 g → 23.7 g, with 318 g of water held"; "" where it cannot be said in numbers."""
        if self.turns:
            return "; ".join(t.text for t in self.turns)
        if not self.after:
            return ""
        return f"{self.before} → {self.after}{f', with {self.held}' if self.held else ''}" if self.before else self.after

    @property
    def can_be_brewed(self) -> bool:
        return self.recipe is not None or bool(self.turns)


def propose(
    recipe: Recipe,
    advice: Advice,
    results: Results,
    *,
    yield_basis: YieldBasis = "in_cup",
    retained_water_ratio: float = 2.1,
    limits: Limits = Limits(),
    dials: Dials | None = None,
    brewed: Brewed = Brewed(),
) -> Proposal:
    """What an advice comes to for this recipe, as it was brewed."""
    match advice.knob:
        case "temperature":
            return _warmer(recipe, advice, limits)
        case "dose":
            return _other_dose(recipe, advice, results, yield_basis, retained_water_ratio, limits)
        case "water":
            return _more_water(recipe, results)
        case "grind":
            return _turned(recipe, advice, dials, brewed)
        case "pours":
            gentler = replace(recipe, steps=tuple(replace(s, where="centre", spout="low") if s.kind in ("pour", "hold_level") else s for s in recipe.steps))
            poured = gentler if gentler != recipe else None
            return Proposal("pours", after="each pour in the centre, with the spout low", recipe=poured)
        case "first_pour":
            return _larger_first(recipe)
        case "time":
            return _as_long_as_planned(recipe, results)
        case "filter":
            return Proposal("filter")


def _warmer(recipe: Recipe, advice: Advice, limits: Limits) -> Proposal:
    if recipe.temperature_c is None:
        return Proposal("temperature_c", unknown="The recipe does not say how hot its water is.")
    by = (MORE_C if advice.size.startswith("2") else LITTLE_C) * (1 if advice.direction == "hotter" else -1)
    to = round(min(recipe.temperature_c + by, limits.boiling_c), 1)
    if to == recipe.temperature_c:
        return Proposal("temperature_c", unknown=f"Water boils at {figures.heat(limits.boiling_c)} here: it cannot be hotter.")
    total = sums(recipe)
    warmer = (
        fitted(recipe, dose_g=recipe.dose_g, brew_water_g=total.poured_g, bypass_g=total.bypass_g, temperature_c=to)
        if recipe.dose_g and total.poured_g
        else None
    )
    return Proposal(
        "temperature_c", figures.heat(recipe.temperature_c), figures.heat(to), to, recipe=_kept_ratio(recipe, warmer) or replace(recipe, temperature_c=to)
    )


def _kept_ratio(recipe: Recipe, changed: Recipe | None) -> Recipe | None:
    """What the recipe states of its water stays stated as it was."""
    return replace(changed, brew_water_g=recipe.brew_water_g, brew_ratio=recipe.brew_ratio) if changed else None


def _other_dose(recipe: Recipe, advice: Advice, results: Results, yield_basis: YieldBasis, retained: float, limits: Limits) -> Proposal:
    water = sums(recipe).poured_g
    if recipe.dose_g is None or not water:
        return Proposal("dose_g", unknown="The recipe does not say its dose and its water.")
    if advice.code == "fill_the_brewer":
        to = limits.least_dose_g
        return _dosed(recipe, to, water) if to else Proposal("dose_g")
    low, high = recipe.tds_pct
    if low is None or high is None:
        return Proposal("dose_g", unknown="The recipe has no target for strength on both sides.")
    if results.ey_pct is None or not results.tds_pct:
        return Proposal("dose_g", unknown="Its yield is not known: read it and weigh the drink.")
    share = STRONG_END if advice.code in ("thin_stronger", "heavier_stronger") else 0.5
    target = low + share * (high - low)
    now, then = (
        solve(tds_pct=c, ey_pct=results.ey_pct, brew_water_g=water, retained_water_ratio=retained, yield_basis=yield_basis).dose_g
        for c in (results.tds_pct, target)
    )
    dose_g = round(recipe.dose_g * then / now, 1)  # by the ratio of the two, so that what the bed kept in truth cancels
    if (dose_g > recipe.dose_g) != (advice.direction == "more") or dose_g == recipe.dose_g:
        return Proposal("dose_g", unknown="By these figures the dose would not move that way: weigh and read it again.")
    return _dosed(recipe, dose_g, water)


def _dosed(recipe: Recipe, dose_g: float, water_g: float) -> Proposal:
    return Proposal(
        "dose_g", f"{recipe.dose_g:g} g", f"{dose_g:g} g", dose_g, f"{figures.grams_as_said(water_g)} g of water held",
        replace(recipe, dose_g=dose_g, brew_ratio=None, brew_water_g=recipe.brew_water_g),
    )  # fmt: skip


def _more_water(recipe: Recipe, results: Results) -> Proposal:
    """So much that the strength comes to the middle of its target at today's dissolved mass: the yield rises with it, so it comes out a little above."""
    total, (low, high) = sums(recipe), recipe.tds_pct
    if not recipe.dose_g or not total.poured_g or low is None or high is None or not results.tds_pct:
        return Proposal("brew_water_g", unknown="The recipe has no target for strength on both sides.")
    to = round(total.poured_g * min(MOST_MORE_WATER, results.tds_pct / ((low + high) / 2)))
    more = fitted(recipe, dose_g=recipe.dose_g, brew_water_g=to, bypass_g=total.bypass_g, temperature_c=recipe.temperature_c)
    more = replace(more, brew_water_g=more.brew_water_g if recipe.brew_water_g else None)
    before, after = figures.grams_as_said(total.poured_g), figures.grams_as_said(to)
    return Proposal("brew_water_g", f"{before} g", f"{after} g", float(to), f"{recipe.dose_g:g} g of coffee held", more)


def _larger_first(recipe: Recipe) -> Proposal:
    """A fifth more in the first pour and as much less in the second: the water in all stays."""
    pours = [i for i, s in enumerate(recipe.steps) if s.kind in ("bloom", "pour") and (s.to_g or s.add_g)]
    if len(pours) < 2:
        return Proposal("first_pour_g", unknown="The recipe has one pour: split it first.")
    (first, second), steps = pours[:2], recipe.steps
    before = steps[first].to_g or steps[first].add_g or 0.0
    after = round(1.2 * before, 1)
    out = recipe.with_step(first, **({"to_g": after} if steps[first].to_g else {"add_g": after}))
    if (added := steps[second].add_g) and not steps[second].to_g:
        if added <= after - before:
            return Proposal("first_pour_g", unknown="Its second pour is too small to give a part of it away.")
        out = out.with_step(second, add_g=round(added - (after - before), 1))
    elif (steps[second].to_g or 0.0) <= after:
        return Proposal("first_pour_g", unknown="Its second pour is too small to give a part of it away.")
    return Proposal("first_pour_g", f"{before:g} g", f"{after:g} g", after, f"{figures.grams_as_said(sums(recipe).poured_g)} g in all held", out)


def _as_long_as_planned(recipe: Recipe, results: Results) -> Proposal:
    low, high = recipe.total_time_s
    window = " to ".join(write_duration(x) for x in (low, high) if x is not None)
    return Proposal("total_time_s", write_duration(results.total_time_s) if results.total_time_s else "", window)


# --- the grind -----------------------------------------------------------------------------------------------------------------------


def _turned(recipe: Recipe, advice: Advice, dials: Dials | None, brewed: Brewed) -> Proposal:
    """On every dial the recipe or the brew names, in that dial's own direction, step and range. A setting of the recipe that cannot be turned would say the old grind: it is left out."""
    if dials is None:
        return Proposal("grind_setting", unknown="Which grinder it was ground on is not known.")
    asked = {brewed.dial_id: brewed.setting} if brewed.dial_id else {}
    linked = {g.on: dials.current(g.dial_id) for g in recipe.grinds}
    asked |= {now: g.setting for g in recipe.grinds if (now := linked[g.on]) and now not in asked}
    turns = tuple(t for dial_id, setting in asked.items() if (t := _turn(dials, dial_id, setting, advice)) is not None)
    if not turns:
        return Proposal("grind_setting", unknown=_why_not(dials, brewed))
    on = {linked[g.on]: g.on for g in recipe.grinds}
    grinds = tuple(GrindSetting(on.get(t.dial_id) or t.dial, t.after, t.dial_id) for t in turns)
    left_out = [g.on for g in recipe.grinds if linked[g.on] not in {t.dial_id for t in turns}]
    held = f"the settings of {' and '.join(left_out)} left out" if left_out else ""
    own = next((t for t in turns if t.dial_id == brewed.dial_id), turns[0])
    return Proposal("grind_setting", own.before, own.after, None, held, replace(recipe, grinds=grinds), turns)


def _turn(dials: Dials, dial_id: str, setting: str, advice: Advice) -> Turn | None:
    before = dials.read(dial_id, setting)
    scale = dials.scales[dials.names[dial_id]] if dial_id in dials.sides else None
    if before is None or scale is None or not scale.has_known_step or advice.direction not in ("finer", "coarser"):
        return None
    after = scale.turned(before, advice.direction, advice.steps)
    return None if after == before else Turn(dial_id, dials.names[dial_id], setting, scale.write(after))


def _why_not(dials: Dials, brewed: Brewed) -> str:
    if brewed.dial_id not in dials.sides:
        return "It was ground on no grinder of the kit: give the setup one, and its setting."
    name = dials.names[brewed.dial_id]
    if not brewed.setting:
        return f"Its setting on the {name} is not known."
    if dials.read(brewed.dial_id, brewed.setting) is None:
        return f"“{brewed.setting}” is no setting of the {name} that can be counted from."
    if not dials.scales[name].has_known_step:
        return f"How much one step of the {name} is, is not known: enter it in Kit."
    return f"The {name} is at its finest usable setting."
