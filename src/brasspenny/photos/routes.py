"""Pictures of a brew."""

from __future__ import annotations

from flask import Response

from ..http import Done, IdPath, act, blueprint, file_of, reply
from . import schemas as s
from . import service

bp = blueprint("photos", __name__)


@bp.get("/runs/<id>/photos", responses={200: s.PhotosAnswer})
def read_photos(path: IdPath):
    """A brew's pictures, without their bytes."""
    return reply(service.photos_of(path.id))


@bp.get("/trials/<id>/photos", responses={200: s.PhotosAnswer})
def read_trial_photos(path: IdPath):
    """The pictures of all brews of a trial, without their bytes."""
    return reply(service.photos_of_trial(path.id))


@bp.post("/runs/<id>/photos", responses={201: s.PhotoShown})
def add_photo(path: IdPath, body: s.PhotoBody):
    """Keep a picture of the bed or the cup, brought down to size."""
    return reply(service.add_photo(path.id, body, act()), 201)


@bp.get("/photos/<id>", responses={200: file_of("image/jpeg", "the picture")})
def read_photo(path: IdPath):
    """The picture itself; it never changes."""
    image, media_type = service.picture(path.id)
    return Response(image, content_type=media_type, headers={"Cache-Control": "private, max-age=31536000, immutable"})


@bp.delete("/photos/<id>", responses={200: Done})
def remove_photo(path: IdPath):
    """Delete a picture; it can be undone."""
    return reply(Done(change_id=service.remove_photo(path.id, act())))
