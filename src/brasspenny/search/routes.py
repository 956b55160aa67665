"""Finding what has a name."""

from __future__ import annotations

from ..http import act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("search", __name__)


@bp.get("/search", responses={200: s.FoundAnswer})
def find(query: s.FindQuery):
    """Trials, recipes, kit and people whose name holds every word."""
    return reply(service.find(query.text, act()))
