"""HTTP shapes of the bench and of being let in."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..http import Answer, Body, Celsius, line, quantity


class BenchAnswer(Answer):
    name: str
    accuracy_pct: float
    resolution_pct: float
    scale_resolution_g: float
    altitude_m: int
    ambient_c: float
    boiling_point_c: float
    rev: int


class BenchPatch(Body):
    name: line(120, least=1) = "Our bench"
    accuracy_pct: quantity("accuracy_pct") = 0.03
    resolution_pct: quantity("resolution_pct") = 0.01
    scale_resolution_g: quantity("scale_resolution_g") = 0.1
    altitude_m: Annotated[int, Field(ge=-430, le=8850, description="m above the sea")] = 0
    ambient_c: Annotated[Celsius, Field(description="the room, °C")] = 21


class SessionBody(Body):
    passphrase: Annotated[str, Field(max_length=200)]


class SessionAnswer(Answer):
    """locked: this device must give the passphrase before it may see the bench."""

    locked: bool


class HealthAnswer(Answer):
    status: str
