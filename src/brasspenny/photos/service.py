"""Pictures of a brew: brought down to size, stripped of where and when they were taken, and kept in the database with everything else."""

from __future__ import annotations

import io

import peewee as pw
from PIL import Image, ImageOps, UnidentifiedImageError

from ..act import Act
from ..history import service as history
from ..http import bytes_of
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.models import Photo, Run
from ..store.writing import use_case
from ..trials.service import open_trial
from . import schemas as s

LONGEST_SIDE_PX, QUALITY = 1280, 80
MOST_PIXELS, MOST_WHOLE_PIXELS = 60_000_000, 25_000_000
"""A phone's largest picture; more than this is a bomb, not a bed. Whole: of one that must be unpacked to its full size, which a plain JPEG need not be."""
MOST_PHOTOS = 6
READ = ("JPEG", "PNG", "WEBP")


@use_case
def add_photo(run_id: str, sent: s.PhotoBody, act: Act) -> s.PhotoShown:
    run = _open_run(run_id)
    there = Photo.select().where((Photo.run == run.id) & Photo.deleted_at.is_null()).count()
    if there >= MOST_PHOTOS:
        raise Conflict("data", f"This brew has {MOST_PHOTOS} photos already.", "Delete one first.")
    image, width, height = small(sent.data)
    photo = Photo(
        id=act.new_id(), run=run.id, kind=sent.kind, media_type="image/jpeg", image=image, width=width, height=height, created_at=act.now, created_by=act.who
    )
    history.add(photo, act=act, trial_id=run.trial_id)
    return _shape(photo)


def small(data: str) -> tuple[bytes, int, int]:
    """A picture in base64 as a JPEG of at most LONGEST_SIDE_PX a side, upright, with no word of place or device in it; its width and height, px.
    Raises Unprocessable at `data`."""
    raw = bytes_of(data)
    try:
        with Image.open(io.BytesIO(raw), formats=READ) as found:
            in_parts = found.format == "JPEG" and not found.info.get("progressive")
            most = MOST_PIXELS if in_parts else MOST_WHOLE_PIXELS
            if found.width * found.height > most:
                raise Unprocessable("data", "This picture is too large.", f"Send one of at most {most // 1_000_000} megapixels.")
            found.draft("RGB", (2 * LONGEST_SIDE_PX, 2 * LONGEST_SIDE_PX))
            picture = ImageOps.exif_transpose(found).convert("RGB")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError, Image.DecompressionBombWarning):
        raise Unprocessable("data", "This is no picture that can be read.", "Send a JPEG, PNG or WebP.") from None
    picture.thumbnail((LONGEST_SIDE_PX, LONGEST_SIDE_PX))
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue(), picture.width, picture.height


def photos_of(run_id: str) -> s.PhotosAnswer:
    return _listed(Photo.run == _open_run(run_id).id)


def photos_of_trial(trial_id: str) -> s.PhotosAnswer:
    return _listed(Photo.run.in_(Run.select(Run.id).where((Run.trial == open_trial(trial_id).id) & Run.deleted_at.is_null())))


def _listed(which: pw.Expression) -> s.PhotosAnswer:
    columns = [f for f in Photo._meta.sorted_fields if f is not Photo.image]
    rows = Photo.select(*columns).where(which & Photo.deleted_at.is_null()).order_by(Photo.created_at)
    return s.PhotosAnswer(photos=[_shape(row) for row in rows])


def picture(photo_id: str) -> tuple[bytes, str]:
    """Its bytes and their media type."""
    photo = _open(photo_id)
    return bytes(photo.image), photo.media_type


@use_case
def remove_photo(photo_id: str, act: Act) -> str:
    photo = _open(photo_id)
    return history.remove(photo, act=act, trial_id=Run.get_by_id(photo.run_id).trial_id)


def _open_run(run_id: str) -> Run:
    run = Run.get_or_none((Run.id == run_id) & Run.deleted_at.is_null())
    if run is None:
        raise NotFound("brew")
    return run


def _open(photo_id: str) -> Photo:
    photo = Photo.get_or_none((Photo.id == photo_id) & Photo.deleted_at.is_null())
    if photo is None:
        raise NotFound("photo")
    return photo


def _shape(photo: Photo) -> s.PhotoShown:
    return s.PhotoShown(id=photo.id, run_id=photo.run_id, kind=photo.kind, width=photo.width, height=photo.height, created_at=photo.created_at)
