"""HTTP shapes of taking a bench out and reading one in."""

from __future__ import annotations

from ..http import Answer


class ArrivedAnswer(Answer):
    """By kind: came in, here already, here with other values. said: in sentences."""

    came: dict[str, int]
    here: dict[str, int]
    kept: dict[str, int]
    said: list[str]
