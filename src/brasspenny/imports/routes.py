"""Bringing in a table of brews."""

from __future__ import annotations

from ..http import act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("imports", __name__)


@bp.post("/imports/look", responses={200: s.BrewTableAnswer})
def look_at_table(body: s.BrewTableBody):
    """What a table's columns mean and what each row becomes, with every fault; nothing is written."""
    return reply(service.look_at(body))


@bp.post("/imports", responses={201: s.BroughtInAnswer})
def bring_in_table(body: s.BrewTableWrite):
    """Write the brews of a table, all at once or none."""
    return reply(service.bring_in(body, act()), 201)
