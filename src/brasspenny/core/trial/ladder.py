"""The numbers of brews that liking is set against, and the ladder of a trial that asks how far."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from statistics import fmean

from .. import figures
from ..grinding.dials import scale_from
from ..grinding.settings import GrinderScale
from ..judging.measures import MEASURE, MEASURES, Measure
from ..vocabulary import FACTOR_KINDS, by_code
from .measured import MeasuredTrial
from .setups import facts_of
from .value import Brew, SetupRevision

FEWEST_RUNGS = 3
FACTORS = by_code(FACTOR_KINDS)


@dataclass(frozen=True)
class Ladder:
    """measure: what the rungs are read as; numbers: brew id → its number; rungs: letter → the mean of its brews, lowest first."""

    measure: Measure
    numbers: Mapping[str, float]
    rungs: Mapping[str, float]


def ladder_of(m: MeasuredTrial) -> Ladder | None:
    """Of a trial that asked how far: one factor whose levels are numbers, in three setups or more, each of them read."""
    factors = m.trial.factors
    measure = MEASURE.get(FACTORS[factors[0]].ladder) if len(factors) == 1 else None
    if measure is None or len(m.setups) < FEWEST_RUNGS:
        return None
    numbers = numbers_of(m, measure.code)
    by_letter: dict[str, list[float]] = defaultdict(list)
    for run in m.runs:
        if run.id in numbers:
            by_letter[m.letter_of(run)].append(numbers[run.id])
    rungs = sorted((fmean(values), letter) for letter, values in by_letter.items())
    return Ladder(measure, numbers, {letter: number for number, letter in rungs}) if len(rungs) >= FEWEST_RUNGS else None


def measures_of(m: MeasuredTrial) -> tuple[Measure, ...]:
    """What liking can be set against in this trial: what it climbs first."""
    ladder = ladder_of(m)
    return MEASURES if ladder is None else (ladder.measure, *(x for x in MEASURES if x != ladder.measure))


def numbers_of(m: MeasuredTrial, code: str) -> dict[str, float]:
    """Brew id → the number of that measure, for brews that have it."""
    dials = {m.revision_of(run).grinder for run in m.runs}
    if code == "grind_setting" and len(dials) > 1:
        return {}  # a number means nothing on another dial
    found = {run.id: _number(m, run, code) for run in m.runs}
    return {i: float(value) for i, value in found.items() if value is not None}


def _number(m: MeasuredTrial, run: Brew, code: str) -> float | None:
    """Strength is that of the cup as served."""
    revision = m.revision_of(run)
    match code:
        case "ratio":
            return m.measured[run.id].brew_ratio
        case "tds_pct":
            return m.served_pct(run)
        case "ey_pct":
            found = m.measured[run.id].yield_in(m.yield_basis)
            return found.value if found else None
        case "temperature_c":
            return run.temperature_c if run.temperature_c is not None else revision.temperature_c
        case _:
            return _scale(revision).read(revision.grind_setting)


def _scale(revision: SetupRevision) -> GrinderScale:
    return scale_from(revision.grinder, facts_of(revision, "grinder"), facts_of(revision, "burr_set"))


# --- one more rung -----------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Rung:
    """A setup to copy and what to change so that it stands at a number. words: what that is, for the host."""

    setup_id: str
    letter: str
    changes: Mapping[str, float | str]
    words: str


def rung_at(m: MeasuredTrial, ladder: Ladder, number: float) -> Rung | None:
    """The nearest rung moved to `number`; None where nothing that is set leads there (a yield is found by brewing)."""
    near = min(ladder.rungs, key=lambda letter: abs(ladder.rungs[letter] - number))
    setup, revision = next(row for row in m.setups if row[0].letter == near)
    match ladder.measure.code:
        case "ratio":
            water = round(revision.dose_g * number - revision.bypass_g)
            return Rung(setup.id, near, {"brew_water_g": water}, f"{figures.ratio(number)} ({figures.grams(water)} g of water)")
        case "temperature_c":
            return Rung(setup.id, near, {"temperature_c": round(number, 1)}, figures.heat_whole(number))
        case "grind_setting":
            scale = _scale(revision)
            text = scale.write(scale.nearest(number))
            return Rung(setup.id, near, {"grind_setting": text}, f"setting {text}")
        case "tds_pct":
            return _diluted(m, setup.id, near, revision.bypass_g, number)
        case _:
            return None


def reachable_ends(m: MeasuredTrial, ladder: Ladder) -> tuple[str, ...]:
    """The ends, low and high, beyond which something that is set leads a step further."""
    low, *_, high = ladder.rungs.values()
    step = (high - low) / (len(ladder.rungs) - 1)
    return tuple(end for end, number in (("low", low - step), ("high", high + step)) if rung_at(m, ladder, number))


def _diluted(m: MeasuredTrial, setup_id: str, letter: str, bypass_g: float, tds_pct: float) -> Rung | None:
    """More or less bypass water to the same brew: its solids stay."""
    drinks = [(run.beverage_g, m.served_pct(run)) for run in m.runs_of(setup_id)]
    known = [(mass, served) for mass, served in drinks if mass and served]
    if not known:
        return None
    mass, served = fmean(x[0] for x in known), fmean(x[1] for x in known)
    bypass = round(bypass_g + mass * (served / tds_pct - 1))
    return Rung(setup_id, letter, {"bypass_g": bypass}, f"{figures.tds(tds_pct)} % TDS ({figures.grams(bypass)} g of bypass water)") if bypass >= 0 else None
