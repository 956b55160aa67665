"""From asked to answered, by the core: calculators about brews made. No database."""

from __future__ import annotations

from dataclasses import replace

from ..brewing.advice import DialInAnswer, shape_advised
from ..core.brewing import adviser, curve, scale_log
from ..core.brewing.proposals import propose
from ..core.extraction.comparing import Comparison, Side, compare_yields
from ..core.extraction.dilution import Server, match_strengths
from ..core.extraction.measure import Brew
from ..core.extraction.uncertainty import Instrument
from ..core.kit.heat import boiling_point_c
from ..core.limits import check_read
from ..core.simulator.brews import FILTER_FACTORS, GroundTo, brew_of
from ..core.simulator.model import USUAL, simulate_course
from ..recipes import documents
from . import brew_schemas as s


def compare(asked: s.CompareYieldsBody) -> s.CompareYieldsAnswer:
    instrument = Instrument(asked.accuracy_pct, asked.resolution_pct, asked.scale_resolution_g)
    c = compare_yields(
        _brews("first", asked.first), _brews("second", asked.second), yield_basis=asked.yield_basis, instrument=instrument, margin_ey_pct=asked.margin_ey_pct
    )
    return _shape_comparison(c)


def _brews(where: str, side: s.BrewedIn):
    for i, brew in enumerate(side.brews):
        for k, tds_pct in enumerate(brew.tds_readings_pct):
            check_read(f"{where}.brews.{i}.tds_readings_pct.{k}", tds_pct)
    return side.name, [(Brew(b.dose_g, b.brew_water_g, b.beverage_g, b.bypass_g, b.moisture_pct, b.concentrate), b.tds_readings_pct) for b in side.brews]


def _shape_comparison(c: Comparison) -> s.CompareYieldsAnswer:
    return s.CompareYieldsAnswer(
        first=_side(c.first),
        second=_side(c.second),
        difference_pct=c.difference.value,
        difference_u_pct=c.difference.u,
        difference_interval_pct=list(c.difference.interval),
        tds_difference_pct=c.tds_difference.value,
        tds_difference_interval_pct=list(c.tds_difference.interval),
        verdict=c.verdict,
        single_brews=c.single,
        text=c.text,
    )


def _side(side: Side) -> s.SetupYield:
    return s.SetupYield(
        name=side.name,
        brews=side.n_brews,
        ey_pct=side.ey.estimate.value,
        ey_interval_pct=list(side.ey.estimate.interval),
        tds_pct=side.tds.estimate.value,
        tds_interval_pct=list(side.tds.estimate.interval),
        readings_u_pct=side.readings_u,
        instrument_u_pct=side.ey.shared_u,
        between_brews_u_pct=side.ey.between_u,
    )


def match(asked: s.StrengthMatchBody) -> s.StrengthMatchAnswer:
    servers = [Server(x.name, x.beverage_g, x.tds_pct, x.drink_c) for x in asked.servers]
    m = match_strengths(servers, target_tds_pct=asked.target_tds_pct, water_c=asked.water_c)
    shown = [s.ServerAnswer(**vars(x)) for x in m.servers]
    return s.StrengthMatchAnswer(target_tds_pct=m.target_tds_pct, apart_tds_pct=m.apart_tds_pct, needed=m.needed, servers=shown)


def advise(asked: s.DialInBody) -> DialInAnswer:
    recipe, results = documents.core_recipe(asked.recipe), adviser.Results(asked.tds_pct, asked.ey_pct, asked.total_time_s)
    limits = adviser.Limits(asked.at_finest, boiling_point_c(asked.altitude_m), asked.least_dose_g, asked.paper)
    found = adviser.advise(recipe, results, asked.words, limits=limits)
    if found.change is None:
        return shape_advised(found, None)
    how = {"yield_basis": asked.yield_basis, "retained_water_ratio": asked.retained_water_ratio, "limits": limits}
    return shape_advised(found, propose(recipe, found.change, results, **how))


def cut_into_pours(asked: s.PourSegmentsBody) -> s.PourSegmentsAnswer:
    log = scale_log.read_log(asked.text)
    found = curve.read_curve(log)
    return s.PourSegmentsAnswer(
        pours=[s.PourSegmentAnswer(**vars(p)) for p in found.pours],
        gaps=[s.GapAnswer(**vars(g)) for g in found.gaps],
        notes=list(found.notes),
        readings=len(log.t_s),
        lasts_s=float(log.t_s[-1]),
    )


def simulate(asked: s.SimulateBody) -> s.SimulateAnswer:
    brew = brew_of(documents.core_recipe(asked.recipe), grind=GroundTo(asked.grind_um, asked.grind_log_sd), filter_factor=FILTER_FACTORS[asked.filter])
    parameters = replace(USUAL, soluble=asked.soluble, bed_s=asked.bed_s, held_g_g=asked.held_g_g, room_c=asked.room_c)
    outcome, course = simulate_course(brew, parameters)
    shown = s.CourseAnswer(**{name: [round(float(x), 3) for x in values] for name, values in vars(course).items()}) if asked.course else None
    return s.SimulateAnswer(**vars(outcome), course=shown)
