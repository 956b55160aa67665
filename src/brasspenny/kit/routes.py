"""The kit, its stock and its matched settings."""

from __future__ import annotations

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from . import schemas as s
from . import service, settings, worked

bp = blueprint("kit", __name__)


@bp.get("/kit", responses={200: s.KitAnswer})
def read_kit():
    """Every piece of kit with its facts, and the types of brewer."""
    return reply(service.all_kit(act()))


@bp.post("/kit", responses={201: s.KitItemAnswer})
def add_kit_item(body: s.KitBody):
    """Add a piece of kit."""
    return reply(service.add_item(body, act()), 201)


@bp.get("/kit/<id>", responses={200: s.KitDetail})
def read_kit_item(path: IdPath):
    """One piece of kit: facts, stock, what is worked out about it, who uses it."""
    return reply(worked.read_item(path.id, act()))


@bp.patch("/kit/<id>", responses={200: s.KitItemAnswer})
def edit_kit_item(path: IdPath, header: RevHeader, body: s.KitPatch):
    """Rename it or change its facts; setups made before keep what they had."""
    return reply(service.edit_item(path.id, body, header.if_match, act()))


@bp.delete("/kit/<id>", responses={200: Done})
def remove_kit_item(path: IdPath):
    """Delete what was never used."""
    return reply(Done(change_id=service.remove_item(path.id, act())))


@bp.post("/kit/<id>/retire", responses={200: s.KitItemAnswer})
def retire_kit_item(path: IdPath, header: RevHeader):
    """No longer offer it; the past keeps it."""
    return reply(service.retire(path.id, header.if_match, act()))


@bp.delete("/kit/<id>/retire", responses={200: s.KitItemAnswer})
def unretire_kit_item(path: IdPath, header: RevHeader):
    """Offer it again."""
    return reply(service.retire(path.id, header.if_match, act(), back=True))


@bp.post("/kit/<id>/stock", responses={201: s.StockAnswer})
def add_stock(path: IdPath, body: s.StockBody):
    """Record coffee bought or lost; stock updates with each brew."""
    return reply(service.add_stock(path.id, body, act()), 201)


@bp.get("/stock", responses={200: s.StockAnswer})
def read_stock():
    """Grams on the shelf."""
    return reply(service.read_stock())


@bp.get("/matched-settings", responses={200: s.SettingsAnswer})
def read_matched_settings():
    """Every scale, every match, and what contradicts itself."""
    return reply(settings.read_settings())


@bp.post("/matched-settings", responses={201: s.SettingsAnswer})
def add_matched_setting(body: s.PairBody):
    """This setting here grinds like that setting there."""
    return reply(settings.add_pair(body, act()), 201)


@bp.put("/matched-settings/<id>", responses={200: s.SettingsAnswer})
def edit_matched_setting(path: IdPath, header: RevHeader, body: s.PairBody):
    """Correct a match."""
    return reply(settings.edit_pair(path.id, body, header.if_match, act()))


@bp.delete("/matched-settings/<id>", responses={200: Done})
def remove_matched_setting(path: IdPath):
    """Take a match out."""
    return reply(Done(change_id=settings.remove_pair(path.id, act())))


@bp.post("/translate", responses={200: s.TranslationAnswer})
def translate_setting(body: s.TranslateBody):
    """A setting on another grinder, with its spread and the evidence it rests on."""
    return reply(settings.translate_setting(body))


@bp.post("/blend", responses={200: s.BlendAnswer})
def blend_waters(body: s.BlendBody):
    """The mix of two waters that comes nearest a target."""
    return reply(settings.blend_waters(body))
