"""The kit's names."""

from __future__ import annotations

from ..http import blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("kit", __name__)


@bp.get("/kit", responses={200: s.KitAnswer})
def read_kit():
    """Every named coffee, grinder, filter, brewer and water, and the types of brewer."""
    return reply(service.all_kit())
