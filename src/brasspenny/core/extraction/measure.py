"""One brew's numbers, checked and worked out: what the extraction calculator and every logged run go through.

docs/formulas.md §1–§3. Impossible input is refused at its field; what is merely doubtful comes back as a warning.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from .. import figures
from ..errors import Inconsistent
from ..limits import check, check_tds
from . import yields as ex
from .uncertainty import Estimate, Instrument, Strength, full_liquor_estimate, in_cup_estimate, outlier_from_tds_pct, outliers, strength_of

HIGH_YIELD_PCT = 30.0
USUAL_TDS_PCT = 1.35
DOUBTFUL_CODES = frozenset({"retained_water", "outlier_reading", "high_yield"})
"""Warnings that say a number may be wrong, not merely missing."""


@dataclass(frozen=True)
class Warning_:
    """A doubt about one brew: a stable code and a sentence with its cure."""

    code: str
    text: str


@dataclass(frozen=True)
class Brew:
    """Masses of one brew in g. brew_water_g may be unknown (then no ratio, retained water or full-liquor yield);
    beverage_g may be unknown (then no in-cup yield, and of a brew with bypass none at all). lifted: taken off at a time, while it still dripped: what stays in the bed is lost to the cup, and no mistake.
    sediment_g: left behind in the brewer or the server, and not weighed with the drink: water that the grounds did not keep."""

    dose_g: float
    brew_water_g: float | None = None
    beverage_g: float | None = None
    bypass_g: float = 0.0
    moisture_pct: float = 0.0
    concentrate: bool = False
    lifted: bool = False
    sediment_g: float = 0.0


@dataclass(frozen=True)
class Measured:
    """What one brew's masses and readings come to. None where something needed was not given."""

    strength: Strength | None
    tds_undiluted_pct: float | None
    in_cup: Estimate | None
    full_liquor: Estimate | None
    brew_ratio: float | None
    beverage_ratio: float | None
    retained_water_ratio: float | None
    warnings: tuple[Warning_, ...]

    def yield_in(self, yield_basis: ex.YieldBasis) -> Estimate | None:
        return self.in_cup if yield_basis == "in_cup" else self.full_liquor


def check_masses(brew: Brew) -> None:
    """Refuse masses that cannot be (OutOfDomain) or cannot be together (Inconsistent), naming the field."""
    check(dose_g=brew.dose_g, brew_water_g=brew.brew_water_g, beverage_g=brew.beverage_g, bypass_g=brew.bypass_g, moisture_pct=brew.moisture_pct)
    if brew.beverage_g is None:
        return
    if brew.bypass_g >= brew.beverage_g:
        raise Inconsistent("bypass_g", "the bypass water weighs as much as the whole drink.", "Give bypass below the beverage mass.", brew.bypass_g)
    if brew.brew_water_g is not None and brew.beverage_g > brew.brew_water_g + brew.bypass_g:
        water_g = brew.brew_water_g + brew.bypass_g
        raise Inconsistent(
            "beverage_g",
            f"the drink weighs {brew.beverage_g:g} g and all the water only {water_g:g} g.",
            "Check that the server was tared and that every pour and the bypass are counted.",
            brew.beverage_g,
        )


def check_times(*, pour_end_s: float | None, total_time_s: float | None) -> None:
    """Refuse a last pour that ends after the brew does. Seconds from the first pour; None is unknown."""
    if pour_end_s is not None and total_time_s is not None and total_time_s < pour_end_s:
        raise Inconsistent(
            "total_time_s", "the brew ends before its last pour does.", "Give the total time from the first pour to the last drip.", total_time_s
        )


def measure(brew: Brew, readings_pct: Sequence[float], instrument: Instrument) -> Measured:
    """Strength, both yields with uncertainty, ratios, retained water and warnings of one brew.

    readings_pct: % TDS, any number of samples of one drink, none allowed. Raises OutOfDomain or Inconsistent naming
    the field (`tds_readings_pct.1` for the second reading). Source: docs/formulas.md §1–§3.

    >>> m = measure(Brew(dose_g=18, brew_water_g=290, beverage_g=248), [1.42], Instrument())
    >>> round(m.in_cup.value, 2), round(m.retained_water_ratio, 2)
    (19.56, 2.53)
    """
    check_masses(brew)
    for i, reading in enumerate(readings_pct):
        check_tds(f"tds_readings_pct.{i}", reading, concentrate=brew.concentrate)
    strength = strength_of(readings_pct, instrument) if readings_pct else None
    undiluted = in_cup = full = retained = None
    if strength and brew.beverage_g is not None:
        undiluted = _undiluted(brew, strength)
        in_cup = _dry(in_cup_estimate(strength, beverage_g=brew.beverage_g, dose_g=brew.dose_g, instrument=instrument), brew)
        _refuse_impossible_yield(in_cup, brew)
        if brew.brew_water_g is not None:
            full = _dry(_full_liquor(brew, strength, instrument), brew)
            retained = _less_sediment(
                brew,
                ex.retained_water_ratio(
                    brew_water_g=brew.brew_water_g, beverage_g=brew.beverage_g, bypass_g=brew.bypass_g, tds_undiluted_pct=undiluted, dose_g=brew.dose_g
                ),
            )
    elif strength and brew.brew_water_g is not None and not brew.bypass_g:  # a press-pot's liquor is all its water: its drink need not be weighed
        undiluted, full = strength.tds_pct, _dry(_full_liquor(brew, strength, instrument), brew)
    return Measured(
        strength=strength,
        tds_undiluted_pct=undiluted,
        in_cup=in_cup,
        full_liquor=full,
        brew_ratio=(brew.brew_water_g + brew.bypass_g) / brew.dose_g if brew.brew_water_g is not None else None,
        beverage_ratio=brew.beverage_g / brew.dose_g if brew.beverage_g is not None else None,
        retained_water_ratio=retained,
        warnings=tuple(_warnings(brew, readings_pct, in_cup, full, retained)),
    )


def _less_sediment(brew: Brew, retained: float) -> float:
    return max(0.0, retained - brew.sediment_g / brew.dose_g)


def _undiluted(brew: Brew, strength: Strength) -> float:
    undiluted = ex.undiluted_tds_pct(tds_pct=strength.tds_pct, beverage_g=brew.beverage_g, bypass_g=brew.bypass_g)
    if undiluted > 60:  # beyond this no coffee liquor exists, whatever was marked
        raise Inconsistent(
            "bypass_g",
            f"before that bypass the drink would have been {figures.per_cent(undiluted)} % solids.",
            "Check the bypass and beverage masses.",
            brew.bypass_g,
        )
    return undiluted


def _full_liquor(brew: Brew, strength: Strength, instrument: Instrument) -> Estimate:
    return full_liquor_estimate(
        strength, brew_water_g=brew.brew_water_g, dose_g=brew.dose_g, beverage_g=brew.beverage_g, bypass_g=brew.bypass_g, instrument=instrument
    )


def _dry(estimate: Estimate, brew: Brew) -> Estimate:
    if not brew.moisture_pct:
        return estimate
    scale = ex.dry_basis_yield_pct(1, moisture_pct=brew.moisture_pct)
    return Estimate(estimate.value * scale, estimate.u * scale, estimate.df)


def _refuse_impossible_yield(in_cup: Estimate, brew: Brew) -> None:
    if in_cup.value > 100:
        raise Inconsistent(
            "dose_g",
            f"the cup would hold {figures.grams_fine(in_cup.value / 100 * brew.dose_g)} g of solids from {brew.dose_g:g} g of coffee.",
            "Check the dose, the beverage mass and the strength.",
            brew.dose_g,
        )


def _warnings(brew: Brew, readings: Sequence[float], in_cup: Estimate | None, full: Estimate | None, retained: float | None):
    if not readings:
        yield Warning_("no_reading", "No TDS reading, so no yield. Take three samples from the mixed server.")
    if len(readings) == 1:
        yield Warning_("single_reading", "Read once: its scatter is taken from other drinks. Take two more samples.")
    for i in outliers(readings):
        yield Warning_(
            "outlier_reading",
            f"Reading {i + 1} ({figures.tds(readings[i])} %) is more than {figures.tds(outlier_from_tds_pct(median(readings)))} % from the median. Wipe, take a fresh sample, read again.",
        )
    if brew.beverage_g is None:
        what = "in-cup yield" if full else "yield"
        yield Warning_("no_beverage_mass", f"No beverage mass, so no {what}. Weigh the server before leaving any sediment behind.")
    if brew.brew_water_g is None:
        yield Warning_("no_brew_water", "No brew water, so no brew ratio, retained water or full-liquor yield.")
    plausible = ex.CONCENTRATE_RETAINED_RANGE if brew.concentrate else ex.RETAINED_RANGE
    kept = retained if retained is not None else _retained_unread(brew)
    said = _retained_said(kept, plausible)
    if brew.lifted and kept is not None and kept > ex.RETAINED_RANGE[1]:
        grams = figures.grams(kept * brew.dose_g)
        yield Warning_("lifted_early", f"{grams} g of water stayed in the bed when it was lifted: lost to the cup, and counted as kept by the grounds.")
    elif said:
        yield Warning_("retained_water", said)
    if in_cup is not None and in_cup.value > HIGH_YIELD_PCT:
        yield Warning_("high_yield", f"{figures.ey(in_cup.value)} % is more than roasted coffee usually gives up (about 30 %). Check dose, mass and strength.")


def _retained_unread(brew: Brew) -> float | None:
    """Of a brew without a reading, by the usual strength: it moves the ratio by a few hundredths, and a mistaken mass by whole units."""
    if brew.brew_water_g is None or brew.beverage_g is None or brew.bypass_g >= brew.beverage_g:
        return None
    return _less_sediment(brew, (brew.brew_water_g - (brew.beverage_g - brew.bypass_g) * (1 - USUAL_TDS_PCT / 100)) / brew.dose_g)


def _retained_said(retained: float | None, plausible: tuple[float, float] = ex.RETAINED_RANGE) -> str:
    """What is wrong with a retained water ratio, and where to look; '' when it is plausible. Source: docs/formulas.md §3, §12.

    >>> _retained_said(2.1), _retained_said(0.2)[:52]
    ('', 'The grounds retained 0.20 g of water per gram; 1.2 t')
    """
    low, high = plausible
    if retained is None or low <= retained <= high:
        return ""
    too_little = "Too little: were drink and water confused, was the bypass counted, the scale bumped, or the cup weighed with its server?"
    too_much = "Too much: was some spilt, were the drips not waited for, or was not all the water poured?"
    return f"The grounds retained {figures.retained(retained)} g of water per gram; {low} to {high} is plausible. {too_little if retained < low else too_much}"


def counts_for_forecasts(measured: Measured, *, simulated: bool, off_plan: bool) -> bool:
    """Whether a brew may teach what the next one will give: real, on plan, and with nothing doubtful about its numbers."""
    unlike = DOUBTFUL_CODES | {"lifted_early"}  # what a lifted brew kept says nothing of one that drips out
    return not simulated and not off_plan and not any(w.code in unlike for w in measured.warnings)
