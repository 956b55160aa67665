"""Runs and readings."""

from __future__ import annotations

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("brewing", __name__)


@bp.post("/trials/<id>/runs", responses={201: s.RunAnswer})
def log_run(path: IdPath, body: s.RunBody):
    """Log a brew, with its readings if there are any."""
    return reply(service.log_run(path.id, body, act()), 201)


@bp.patch("/runs/<id>", responses={200: s.RunAnswer})
def correct_run(path: IdPath, header: RevHeader, body: s.RunPatch):
    """Correct a brew; what stood before is kept in the history."""
    return reply(service.correct_run(path.id, body, header.if_match, act()))


@bp.delete("/runs/<id>", responses={200: Done})
def remove_run(path: IdPath):
    """Delete a brew; it can be undone."""
    return reply(Done(change_id=service.remove_run(path.id, act())))


@bp.post("/runs/<id>/readings", responses={201: s.ReadingAnswer})
def log_reading(path: IdPath, body: s.ReadingBody):
    """Log one TDS reading."""
    return reply(service.log_reading(path.id, body, act()), 201)


@bp.patch("/readings/<id>", responses={200: s.ReadingAnswer})
def correct_reading(path: IdPath, header: RevHeader, body: s.ReadingBody):
    """Correct a reading."""
    return reply(service.correct_reading(path.id, body, header.if_match, act()))


@bp.delete("/readings/<id>", responses={200: Done})
def remove_reading(path: IdPath):
    """Delete a reading; it can be undone."""
    return reply(Done(change_id=service.remove_reading(path.id, act())))
