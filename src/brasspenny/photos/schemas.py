"""HTTP shapes of a brew's pictures."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ..core.vocabulary import PhotoKind
from ..http import Answer, Body

MOST_SENT = 4_000_000
"""Characters of base64: a phone's picture, brought down to size before it is sent or after."""


class PhotoBody(Body):
    """data: the picture's bytes in base64; JPEG, PNG or WebP."""

    kind: PhotoKind = "bed"
    data: Annotated[str, Field(min_length=16, max_length=MOST_SENT)]


class PhotoShown(Answer):
    """width, height: pixels, as it is kept."""

    id: str
    run_id: str
    kind: PhotoKind
    width: int
    height: int
    created_at: datetime


class PhotosAnswer(Answer):
    photos: list[PhotoShown]
