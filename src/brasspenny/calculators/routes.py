"""POST /calc/… : parse, work out, answer."""

from __future__ import annotations

from ..http import blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("calculators", __name__)


@bp.post("/calc/extraction", responses={200: s.ExtractionAnswer})
def calc_extraction(body: s.ExtractionBody):
    """Strength, both yields with intervals, ratios and retained water of one brew."""
    return reply(service.extract(body))


@bp.post("/calc/dilution", responses={200: s.DilutionAnswer})
def calc_dilution(body: s.DilutionBody):
    """Water to add to bring a drink down to a strength."""
    return reply(service.dilute(body))


@bp.post("/calc/solve", responses={200: s.SolveAnswer})
def calc_solve(body: s.SolveBody):
    """The rest of a recipe from any enough knowns."""
    return reply(service.solve(body))


@bp.post("/calc/convert", responses={200: s.ConvertAnswer})
def calc_convert(body: s.ConvertBody):
    """The same quantity in another unit."""
    return reply(service.convert(body))


@bp.post("/calc/boiling-point", responses={200: s.BoilingPointAnswer})
def calc_boiling_point(body: s.BoilingPointBody):
    """Boiling point of water at an altitude."""
    return reply(service.boil(body))


@bp.post("/calc/cooling", responses={200: s.CoolingAnswer})
def calc_cooling(body: s.CoolingBody):
    """Temperature of a cooling cup, from its time constant or from two readings."""
    return reply(service.cool(body))


@bp.post("/calc/duration", responses={200: s.DurationAnswer})
def calc_duration(body: s.DurationBody):
    """Seconds from 1:35, 95, 95s or 1m35, and how we show it back."""
    return reply(service.read_duration(body))


@bp.post("/calc/drying", responses={200: s.DryingAnswer})
def calc_drying(body: s.DryingBody):
    """Strength by the oven method."""
    return reply(service.dry(body))
