"""From asked to answered, by the core. No database."""

from __future__ import annotations

from ..core import units
from ..core.errors import NotEnoughKnowns, PennyError
from ..core.extraction import dilution
from ..core.extraction import yields as extraction
from ..core.extraction.measure import Brew, measure
from ..core.extraction.uncertainty import Estimate, Instrument
from ..core.kit import heat
from ..core.limits import check_read
from . import schemas as s


def extract(asked: s.ExtractionBody) -> s.ExtractionAnswer:
    if (asked.tds_pct is None) == (asked.tds_readings_pct is None):
        raise NotEnoughKnowns("tds_pct", "one strength is needed, in one form.", "Give either tds_pct or tds_readings_pct.")
    brew = Brew(
        dose_g=asked.dose_g,
        brew_water_g=asked.brew_water_g,
        beverage_g=asked.beverage_g,
        bypass_g=asked.bypass_g,
        moisture_pct=asked.moisture_pct,
        concentrate=asked.concentrate,
    )
    readings = asked.tds_readings_pct if asked.tds_pct is None else [asked.tds_pct]
    try:
        for i, tds_pct in enumerate(readings):
            check_read(f"tds_readings_pct.{i}", tds_pct)
        m = measure(brew, readings, Instrument(asked.accuracy_pct, asked.resolution_pct, asked.scale_resolution_g))
    except PennyError as error:
        if asked.tds_pct is not None and error.field.startswith("tds_readings_pct"):
            raise error.at("tds_pct") from error
        raise
    return s.ExtractionAnswer(
        tds_pct=m.strength.tds_pct,
        tds_undiluted_pct=m.tds_undiluted_pct,
        ey_in_cup_pct=m.in_cup.value,
        ey_full_liquor_pct=m.full_liquor and m.full_liquor.value,
        brew_ratio=m.brew_ratio,
        beverage_ratio=m.beverage_ratio,
        retained_water_ratio=m.retained_water_ratio,
        u_tds_pct=m.strength.u_tds_pct,
        u_ey_in_cup_pct=m.in_cup.u,
        u_ey_full_liquor_pct=m.full_liquor and m.full_liquor.u,
        ey_in_cup_interval_pct=_ends(m.in_cup),
        ey_full_liquor_interval_pct=m.full_liquor and _ends(m.full_liquor),
        warnings=[s.CodedText(code=w.code, text=w.text) for w in m.warnings],
    )


def _ends(estimate: Estimate) -> list[float]:
    return list(estimate.interval)


def dilute(asked: s.DilutionBody) -> s.DilutionAnswer:
    d = dilution.dilute_to(beverage_g=asked.beverage_g, tds_pct=asked.tds_pct, target_tds_pct=asked.target_tds_pct)
    return s.DilutionAnswer(add_water_g=d.add_water_g, final_beverage_g=d.final_beverage_g)


def solve(asked: s.SolveBody) -> s.SolveAnswer:
    found = extraction.solve(**asked.model_dump())
    return s.SolveAnswer(**vars(found))


def convert(asked: s.ConvertBody) -> s.ConvertAnswer:
    value = units.convert(asked.value, asked.from_, asked.to, water_temp_c=asked.water_temp_c, brix_factor=asked.brix_factor)
    return s.ConvertAnswer(value=value)


def boil(asked: s.BoilingPointBody) -> s.BoilingPointAnswer:
    return s.BoilingPointAnswer(boiling_point_c=heat.boiling_point_c(asked.altitude_m))


def cool(asked: s.CoolingBody) -> s.CoolingAnswer:
    by_tau = asked.start_c is not None and asked.tau_s is not None
    if by_tau == (asked.readings is not None):
        raise NotEnoughKnowns("readings", "the vessel is not known.", "Give either start_c with tau_s, or two readings.")
    if by_tau:
        temp = heat.temperature_after_c(ambient_c=asked.ambient_c, start_c=asked.start_c, tau_s=asked.tau_s, elapsed_s=asked.elapsed_s)
        return s.CoolingAnswer(tau_s=asked.tau_s, temp_c=temp)
    first, second = ((r.t_s, r.temp_c) for r in asked.readings)
    found = heat.fit_cooling(ambient_c=asked.ambient_c, first=first, second=second, elapsed_s=asked.elapsed_s)
    return s.CoolingAnswer(tau_s=found.tau_s, temp_c=found.temp_c)


def read_duration(asked: s.DurationBody) -> s.DurationAnswer:
    seconds = units.read_duration_s(asked.text)
    return s.DurationAnswer(seconds=seconds, shown=units.write_duration(seconds))


def dry(asked: s.DryingBody) -> s.DryingAnswer:
    return s.DryingAnswer(tds_pct=units.oven_tds_pct(dish_g=asked.dish_g, dried_g=asked.dried_g, sample_g=asked.sample_g))
