"""The verdict of a trial."""

from __future__ import annotations

from ..http import IdPath, act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("verdicts", __name__)


@bp.get("/trials/<id>/verdict", responses={200: s.VerdictAnswer})
def read_verdict(path: IdPath):
    """Blind and sighted judgements of the flipped flights, kept apart."""
    return reply(service.read_verdict(path.id, act()))
