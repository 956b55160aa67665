"""People of the bench."""

from __future__ import annotations

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("people", __name__)


@bp.get("/people", responses={200: s.PeopleAnswer})
def read_people():
    """Everybody, by name."""
    return reply(service.all_people())


@bp.post("/people", responses={201: s.PersonAnswer})
def add_person(body: s.PersonBody):
    """Add a person."""
    return reply(service.add_person(body, act()), 201)


@bp.patch("/people/<id>", responses={200: s.PersonAnswer})
def rename_person(path: IdPath, header: RevHeader, body: s.PersonBody):
    """Rename a person."""
    return reply(service.rename_person(path.id, body, header.if_match, act()))


@bp.delete("/people/<id>", responses={200: Done})
def remove_person(path: IdPath):
    """Remove a person; their scores stay."""
    return reply(Done(change_id=service.remove_person(path.id, act())))
