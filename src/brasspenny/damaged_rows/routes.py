"""What could not be read, and what becomes of it."""

from __future__ import annotations

import json

from flask import Response

from ..http import IdPath, act, blueprint, file_of, reply
from . import schemas as s
from . import service

bp = blueprint("damaged_rows", __name__)


@bp.get("/damaged-rows", responses={200: s.DamagedAnswer})
def read_damaged_rows():
    """What was set aside because it could not be read, newest first."""
    return reply(service.listed())


@bp.get("/damaged-rows/<id>/rows.json", responses={200: file_of("application/json", "the rows of the unit by kind, as an export has them")})
def read_damaged_row(path: IdPath):
    """All rows of what was set aside, as they are."""
    raw = json.dumps(service.rows_to_download(path.id), indent=1, ensure_ascii=False)
    headers = {"Content-Disposition": f'attachment; filename="damaged-{path.id}.json"', "Cache-Control": "no-store"}
    return Response(raw, content_type="application/json", headers=headers)


@bp.post("/damaged-rows/<id>/put-back", responses={200: s.DamagedAnswer})
def put_back_damaged_row(path: IdPath, body: s.PutBackBody):
    """Back onto the bench, once it can be read."""
    service.put_back(path.id, act(), without_value=body.without_value)
    return reply(service.listed())


@bp.delete("/damaged-rows/<id>", responses={200: s.DamagedAnswer})
def remove_damaged_row(path: IdPath):
    """Remove what was set aside for good."""
    service.remove(path.id)
    return reply(service.listed())
