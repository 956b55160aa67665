"""The history of a trial, and undo."""

from __future__ import annotations

from ..http import Done, IdPath, act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("history", __name__)


@bp.get("/trials/<id>/history", responses={200: s.HistoryAnswer})
def read_history(path: IdPath):
    """What was changed in a trial, newest first."""
    return reply(service.of_trial(path.id))


@bp.get("/deleted", responses={200: s.HistoryAnswer})
def read_deleted():
    """Trials and people deleted lately, each of which can be undone."""
    return reply(service.deleted_lately())


@bp.post("/changes/<id>/undo", responses={200: Done})
def undo_change(path: IdPath):
    """Take a change back."""
    return reply(Done(change_id=service.undo(path.id, act())))
