"""Runs, readings, checks of the instrument."""

from __future__ import annotations

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from . import filing, liking, readings, service
from . import liking_schemas as liked
from . import schemas as s

bp = blueprint("brewing", __name__)


@bp.post("/trials/<id>/runs", responses={201: s.RunAnswer})
def log_run(path: IdPath, body: s.RunBody):
    """Log a brew, with its readings if there are any."""
    return reply(service.log_run(path.id, body, act()), 201)


@bp.post("/loose-runs", responses={201: s.RunAnswer})
def log_loose_run(body: s.LooseRunBody):
    """Log a brew of no trial: the daily cup, or a dial-in before there is a question."""
    return reply(service.log_loose_run(body, act()), 201)


@bp.post("/runs/<id>/take-in", responses={200: s.RunAnswer})
def take_in_run(path: IdPath, header: RevHeader, body: s.TakeInBody):
    """Take a loose brew into a trial, as a dial-in brew of a setup."""
    return reply(service.take_in(path.id, body, header.if_match, act()))


@bp.patch("/runs/<id>", responses={200: s.RunAnswer})
def correct_run(path: IdPath, header: RevHeader, body: s.RunPatch):
    """Correct a brew; what stood before is kept in the history."""
    return reply(service.correct_run(path.id, body, header.if_match, act()))


@bp.patch("/runs/<id>/filing", responses={200: s.FilingAnswer})
def file_run(path: IdPath, header: RevHeader, body: s.FilingPatch):
    """Give a brew words to find it by, or put it away; its results stay as they are."""
    return reply(filing.file_run(path.id, body, header.if_match, act()))


@bp.delete("/runs/<id>", responses={200: Done})
def remove_run(path: IdPath):
    """Delete a brew; it can be undone."""
    return reply(Done(change_id=service.remove_run(path.id, act())))


@bp.put("/runs/<id>/served", responses={200: s.RunAnswer})
def serve_run(path: IdPath, header: RevHeader, body: s.ServedBody):
    """What was served after thinning, beside what was brewed."""
    return reply(readings.serve(path.id, body, header.if_match, act()))


@bp.put("/runs/<id>/liking", responses={200: liked.AgainAnswer})
def like_run(path: IdPath, header: RevHeader, body: liked.LikingBody):
    """How it was liked, in sight of its label; and what to change next."""
    return reply(liking.like(path.id, body, header.if_match, act()))


@bp.get("/runs/<id>/again", responses={200: liked.AgainAnswer})
def read_run_again(path: IdPath):
    """How it was liked, and one change for the next brew, on the dial it was ground on."""
    return reply(liking.read_again(path.id))


@bp.post("/runs/<id>/again", responses={201: liked.NextBrewAnswer})
def brew_run_again(path: IdPath, body: liked.AgainBody):
    """Brew it again, unchanged or with one change: it goes into the setup or recipe that is brewed next."""
    return reply(liking.brew_again(path.id, body, act()), 201)


@bp.get("/liked", responses={200: liked.HowWasItAnswer})
def read_liked(query: liked.LikedQuery):
    """Which recipe was liked most lately, or of one coffee."""
    return reply(liking.how_was_it(query, act()))


@bp.post("/runs/<id>/readings", responses={201: s.ReadingAnswer})
def log_reading(path: IdPath, body: s.ReadingBody):
    """Log one reading: % TDS, °Brix, or by drying."""
    return reply(readings.log_reading(path.id, body, act()), 201)


@bp.patch("/readings/<id>", responses={200: s.ReadingAnswer})
def correct_reading(path: IdPath, header: RevHeader, body: s.ReadingBody):
    """Correct a reading."""
    return reply(readings.correct_reading(path.id, body, header.if_match, act()))


@bp.delete("/readings/<id>", responses={200: Done})
def remove_reading(path: IdPath):
    """Delete a reading; it can be undone."""
    return reply(Done(change_id=readings.remove_reading(path.id, act())))


@bp.get("/instruments", responses={200: s.InstrumentsAnswer})
def read_instruments():
    """How readings are taken here: the protocol, the checks and their offset, the words of what is seen."""
    return reply(readings.read_instruments())


@bp.get("/instruments/repeatability", responses={200: s.RepeatabilityAnswer})
def read_repeatability():
    """How well one reading repeats, by the drinks of this bench that were read more than once."""
    return reply(readings.read_repeatability())


@bp.post("/instrument-checks", responses={201: s.InstrumentsAnswer})
def log_instrument_check(body: s.InstrumentCheckBody):
    """Log a check against a liquid of known strength; its offset is taken off from now on, and shown."""
    return reply(readings.log_check(body, act()), 201)


@bp.delete("/instrument-checks/<id>", responses={200: Done})
def remove_instrument_check(path: IdPath):
    """Delete a check; readings already taken keep their offset."""
    return reply(Done(change_id=readings.remove_check(path.id, act())))
