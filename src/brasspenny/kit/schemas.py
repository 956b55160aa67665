"""HTTP shapes of the kit."""

from __future__ import annotations

from typing import Literal

from ..core.extraction import BrewerType
from ..http import Answer

KitKind = Literal["coffee", "grinder", "filter", "brewer", "water"]


class KitItemAnswer(Answer):
    id: str
    kind: KitKind
    name: str
    brewer_type: BrewerType | None


class BrewerTypeAnswer(Answer):
    code: BrewerType
    label: str


class KitAnswer(Answer):
    items: list[KitItemAnswer]
    brewer_types: list[BrewerTypeAnswer]
