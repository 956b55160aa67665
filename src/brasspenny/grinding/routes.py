"""The Grind room: parse, do, answer with the room as it then is."""

from __future__ import annotations

from ..http import Answer, Done, IdPath, RevHeader, act, blueprint, reply
from . import flows, matches, service
from . import schemas as s

bp = blueprint("grinding", __name__)


class Made(Answer):
    """The id of what was written."""

    id: str


@bp.get("/grind", responses={200: s.GrindRoom})
def read_grind_room(query: s.BandQuery):
    """Every grind sampled, replicates together; lines of dials, doses, filter tests."""
    return reply(service.read_room(query, act()))


@bp.post("/sieve-samples", responses={201: Made})
def add_sieve_sample(body: s.SampleBody):
    """A shaken stack; its coffee comes off the stock."""
    return reply(Made(id=service.add_sample(body, act())), 201)


@bp.post("/sieve-tables", responses={201: Made})
def add_sieve_table(body: s.TableBody):
    """A table of particle sizes read in as a sample."""
    return reply(Made(id=service.add_table(body, act())), 201)


@bp.put("/sieve-samples/<id>", responses={200: Made})
def edit_sieve_sample(path: IdPath, header: RevHeader, body: s.SampleBody):
    """Correct a sample; matches that rest on it are worked out again."""
    return reply(Made(id=service.edit_sample(path.id, body, header.if_match, act())))


@bp.delete("/sieve-samples/<id>", responses={200: Done})
def remove_sieve_sample(path: IdPath):
    """Take a sample out; refused while a match rests on it."""
    return reply(Done(change_id=service.remove_sample(path.id, act())))


@bp.post("/sieve-comparisons", responses={200: s.ComparisonShown})
def compare_grinds(body: s.CompareBody):
    """Two grinds against each other: matched or not, points and per cent, and the setting to try next."""
    return reply(matches.compare_two(body, act()))


@bp.post("/sieve-matches", responses={201: Made})
def match_grinds(body: s.CompareBody):
    """A matched setting made from two grinds, its spread worked out from their intervals."""
    return reply(Made(id=matches.make_match(body, act())), 201)


@bp.post("/simulated-sieves", responses={200: s.ShakenAnswer})
def shake_simulated_sieves(body: s.ShakeBody):
    """A made-up shaking of the stand-in sieves."""
    return reply(service.simulate(body, act()))


@bp.post("/simulated-doses", responses={200: s.SimulatedDose})
def grind_simulated_dose(body: s.SimulatedDoseBody):
    """A dose through the stand-in mill, as fast as this grinder is known to be."""
    return reply(flows.simulate_dose(body, act()))


@bp.post("/grinder-doses", responses={201: Made})
def add_grinder_dose(body: s.DoseBody):
    """A dose through a grinder: timed, weighed out, or both."""
    return reply(Made(id=flows.add_dose(body, act())), 201)


@bp.put("/grinder-doses/<id>", responses={200: Made})
def edit_grinder_dose(path: IdPath, header: RevHeader, body: s.DoseBody):
    """Correct a dose."""
    return reply(Made(id=flows.edit_dose(path.id, body, header.if_match, act())))


@bp.delete("/grinder-doses/<id>", responses={200: Done})
def remove_grinder_dose(path: IdPath):
    """Take a dose out."""
    return reply(Done(change_id=flows.remove_dose(path.id, act())))


@bp.post("/filter-tests", responses={201: Made})
def add_filter_test(body: s.FilterTestBody):
    """Water through a filter under a force or a head."""
    return reply(Made(id=flows.add_test(body, act())), 201)


@bp.delete("/filter-tests/<id>", responses={200: Done})
def remove_filter_test(path: IdPath):
    """Take a test out."""
    return reply(Done(change_id=flows.remove_test(path.id, act())))
