"""HTTP shapes of finding."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from ..http import Answer


class FindQuery(BaseModel):
    text: str = Field(default="", max_length=200, description="words that all stand in the name")


class Found(Answer):
    """what: its kind in a word; hint: what tells it from others of a like name; kit: its kind of kit, else ''; station: where a trial waits."""

    kind: Literal["trial", "recipe", "kit", "person"]
    id: str
    label: str
    hint: str
    kit: str
    station: str


class FoundAnswer(Answer):
    found: list[Found]
