"""Results of a trial."""

from __future__ import annotations

from ..http import IdPath, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("measuring", __name__)


@bp.get("/trials/<id>/results", responses={200: s.ResultsAnswer})
def read_results(path: IdPath):
    """Every brew worked out, setups pooled, and the charts' lines."""
    return reply(service.read_results(path.id))
