"""Names of kit, kept as setups name them, so that the next setup can choose instead of type."""

from __future__ import annotations

from typing import Any

from ..act import Act
from ..core.extraction import BREWER_LABELS
from ..store.models import KitItem
from . import schemas as s

KINDS: tuple[str, ...] = ("coffee", "grinder", "filter", "brewer", "water")


def all_kit() -> s.KitAnswer:
    rows = KitItem.select().order_by(KitItem.kind, KitItem.name)
    return s.KitAnswer(
        items=[s.KitItemAnswer(id=k.id, kind=k.kind, name=k.name, brewer_type=k.brewer_type) for k in rows],
        brewer_types=[s.BrewerTypeAnswer(code=code, label=label) for code, label in BREWER_LABELS.items()],
    )


def remember(variables: dict[str, Any], act: Act) -> dict[str, Any]:
    """Keep each named piece of kit (inside the caller's transaction); a brewer known by name brings its type along."""
    out = dict(variables)
    for kind in KINDS:
        name = out.get(kind)
        if not name:
            continue
        item = KitItem.get_or_none((KitItem.kind == kind) & (KitItem.name == name))
        if item is None:
            item = KitItem.create(id=act.new_id(), kind=kind, name=name, created_at=act.now)
        if kind == "brewer":
            out["brewer_type"] = out.get("brewer_type") or item.brewer_type
            if out["brewer_type"] and item.brewer_type != out["brewer_type"]:
                KitItem.update(brewer_type=out["brewer_type"]).where(KitItem.id == item.id).execute()
    return out
