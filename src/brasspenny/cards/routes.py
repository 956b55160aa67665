"""Cards: parse, read, answer."""

from __future__ import annotations

from ..http import IdPath, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("cards", __name__)


@bp.get("/kit/<id>/card", responses={200: s.KitCard})
def read_kit_card(path: IdPath):
    """Everything the bench has learnt of a grinder, brewer or filter."""
    return reply(service.read_card(path.id))
