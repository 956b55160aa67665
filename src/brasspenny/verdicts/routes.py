"""The verdict of a trial."""

from __future__ import annotations

from ..http import IdPath, act, blueprint, reply
from . import scatter, service
from . import schemas as s

bp = blueprint("verdicts", __name__)


@bp.get("/trials/<id>/verdict", responses={200: s.VerdictAnswer})
def read_verdict(path: IdPath):
    """Blind and sighted judgements of the flipped flights, kept apart."""
    return reply(service.read_verdict(path.id, act()))


@bp.get("/scatter", responses={200: s.ScatterAnswer})
def read_scatter():
    """How far scores lie apart on this bench, for planning."""
    return reply(scatter.read_scatter())
