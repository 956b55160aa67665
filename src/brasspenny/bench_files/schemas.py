"""HTTP shapes of taking a bench out and reading one in."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..http import Answer, Body

MOST_SENT = 40_000_000
"""Characters of base64. A bench with many pictures is read in by the command, which has no such end."""


class BenchFileBody(Body):
    """data: the ZIP's bytes in base64."""

    data: Annotated[str, Field(min_length=16, max_length=MOST_SENT)]


class ArrivedAnswer(Answer):
    """By kind: came in, here already, here with other values. said: in sentences."""

    came: dict[str, int]
    here: dict[str, int]
    kept: dict[str, int]
    said: list[str]
