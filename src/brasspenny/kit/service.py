"""The kit: its items and their facts, used by setups under their names. What was used is retired, never deleted."""

from __future__ import annotations

import difflib
import itertools
from collections.abc import Iterable, Sequence
from typing import Any

from ..act import Act
from ..core.extraction.yields import BREWER_LABELS
from ..core.grinding.dials import Dials, Part, dials_of
from ..core.kit.waters import COMMON_ADVICE
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store import queries
from ..store.grinding import FilterTest, GrinderDose, SieveSample
from ..store.models import KitItem, MatchedSetting, StockEntry, UsedKit
from ..store.writing import use_case
from . import schemas as s
from .facts import FACTS, fitted_tau_s
from .summaries import summary

KINDS: tuple[str, ...] = ("coffee", "grinder", "filter", "brewer", "water")
"""The kinds a setup names."""


def open_item(item_id: str) -> KitItem:
    item = KitItem.get_or_none((KitItem.id == item_id) & KitItem.deleted_at.is_null())
    if item is None:
        raise NotFound("piece of kit")
    return item


def of_kind(field: str, item_id: str, kind: str) -> KitItem:
    """The live piece of kit of that kind. Raises Unprocessable at the field."""
    item = KitItem.get_or_none((KitItem.id == item_id) & KitItem.deleted_at.is_null())
    if item is None or item.kind != kind:
        raise Unprocessable(field, f"That is no {kind.replace('_', ' ')} of this kit.", f"Choose a {kind.replace('_', ' ')}.")
    return item


def items_by_id(ids: Iterable[str]) -> list[KitItem]:
    """Whatever became of them since: a setup made with a piece of kit keeps it."""
    wanted = sorted(ids)
    return list(KitItem.select().where(KitItem.id.in_(wanted))) if wanted else []


def live_items() -> list[KitItem]:
    return list(KitItem.select().where(KitItem.deleted_at.is_null()).order_by(KitItem.kind, KitItem.name))


def all_kit(act: Act) -> s.KitAnswer:
    items = live_items()
    found = dials(items)
    names = found.names
    stock = queries.stock_by_coffee()
    return s.KitAnswer(
        items=[shape(k, names[k.id], act, stock.get(k.id)) for k in items],
        brewer_types=[s.BrewerTypeAnswer(code=code, label=label) for code, label in BREWER_LABELS.items()],
        water_advice=COMMON_ADVICE,
        grinders=sorted(names[k.id] for k in items if k.id in found.sides and not k.retired_at),
    )


def dials(items: list[KitItem]) -> Dials:
    """The dials among these items, without their matches."""
    return dials_of([Part(k.id, k.kind, k.name, k.facts) for k in items], [])


def full_names(items: list[KitItem]) -> dict[str, str]:
    """A burr set is called by its grinder and itself."""
    return dials(items).names


def shape(item: KitItem, full_name: str, act: Act, stock_g: float | None) -> s.KitItemAnswer:
    facts = dict.fromkeys(FACTS) | {item.kind: FACTS[item.kind].model_validate(item.facts)}
    return s.KitItemAnswer(
        id=item.id,
        kind=item.kind,
        name=item.name,
        full_name=full_name,
        summary=summary(item, today=act.now.date(), stock_g=stock_g),
        brewer_type=item.brewer_type,
        retired=item.retired_at is not None,
        rev=item.rev,
        **facts,
    )


def shape_alone(item: KitItem, act: Act) -> s.KitItemAnswer:
    stock = queries.stock_by_coffee().get(item.id) if item.kind == "coffee" else None
    return shape(item, full_names(live_items()).get(item.id, item.name), act, stock)


# --- writing ---------------------------------------------------------------------------------------------------------


@use_case
def add_item(sent: s.KitBody, act: Act) -> s.KitItemAnswer:
    facts = _facts(sent, sent.kind)
    if facts is None and sent.kind == "burr_set":
        raise Unprocessable("burr_set.grinder_id", "Burrs sit in a grinder.", "Choose the grinder they belong to.")
    if facts is None and sent.kind == "sieve_stack":
        raise Unprocessable("sieve_stack.apertures_um", "A stack is made of sieves.", "Give their apertures, finest first.")
    facts = facts or FACTS[sent.kind].model_validate({})
    _free_name(sent.kind, sent.name, _body_of(sent.kind, facts))
    _check(sent.kind, facts)
    item = KitItem(id=act.new_id(), kind=sent.kind, name=sent.name, created_at=act.now, **_columns(sent.kind, facts))
    history.add(item, act=act, trial_id=None)
    return shape_alone(item, act)


@use_case
def edit_item(item_id: str, sent: s.KitPatch, rev: int, act: Act) -> s.KitItemAnswer:
    item = open_item(item_id)
    values: dict[str, Any] = {}
    if "name" in sent.model_fields_set:
        values["name"] = sent.name
    facts = _facts(sent, item.kind)
    if facts is not None and facts != FACTS[item.kind].model_validate(item.facts):
        _check(item.kind, facts)
        values |= _columns(item.kind, facts)
    history.edit(item, values, rev=rev, act=act, trial_id=None)
    return shape_alone(item, act)


def _facts(sent: s.KitFacts, kind: str):
    wrong = [k for k in FACTS if k != kind and getattr(sent, k) is not None]
    if wrong:
        raise Unprocessable(wrong[0], f"Those are facts of a {wrong[0].replace('_', ' ')}.", f"Give them under {kind}.")
    return getattr(sent, kind)


def _columns(kind: str, facts) -> dict[str, Any]:
    values: dict[str, Any] = {"facts": facts.model_dump(mode="json", exclude_unset=True)}
    return values | ({"brewer_type": facts.brewer_type} if kind == "brewer" else {})


def _check(kind: str, facts) -> None:
    if kind == "brewer" and facts.dose_low_g and facts.dose_high_g and facts.dose_low_g > facts.dose_high_g:
        raise Unprocessable("brewer.dose_high_g", "The largest dose is under the smallest.", "Give the range the brewer works in.")
    if kind == "burr_set":
        body = KitItem.get_or_none((KitItem.id == facts.grinder_id) & (KitItem.kind == "grinder") & KitItem.deleted_at.is_null())
        if body is None:
            raise Unprocessable("burr_set.grinder_id", "That is not a grinder of this kit.", "Choose the grinder these burrs sit in.")
    if kind == "sieve_stack" and any(b <= a for a, b in itertools.pairwise(facts.apertures_um)):
        raise Unprocessable("sieve_stack.apertures_um", "Apertures rise, no two alike.", "Give them finest first, such as 300, 500, 800.")
    if kind == "vessel":
        fitted_tau_s(facts)  # refuses readings that do not cool


def _body_of(kind: str, facts) -> str:
    return facts.grinder_id if kind == "burr_set" else ""


def _free_name(kind: str, name: str, grinder_id: str = "", but: str = "") -> None:
    """Burr sets are named within their grinder: two grinders may each have flat ones."""
    there = KitItem.select().where((KitItem.kind == kind) & (KitItem.name == name) & KitItem.deleted_at.is_null() & (KitItem.id != but))
    if any(k.facts.get("grinder_id", "") == grinder_id for k in there):
        raise Conflict("name", f"There is already a {kind.replace('_', ' ')} called {name}.", "Give this one another name.")


def _named_freely(item: KitItem, values: dict[str, Any]) -> None:
    facts = values.get("facts", item.facts)
    if "name" in values or "facts" in values:
        _free_name(item.kind, values.get("name", item.name), facts.get("grinder_id", ""), but=item.id)


def _comes_back(item: KitItem) -> None:
    _named_freely(item, {"name": item.name})
    if item.kind == "burr_set" and KitItem.get_or_none((KitItem.id == item.facts.get("grinder_id")) & KitItem.deleted_at.is_null()) is None:
        raise Conflict("", "The grinder these burrs sit in was deleted.", "Bring the grinder back first.")


def _unused(item: KitItem) -> None:
    if _is_used(item):
        raise Conflict(
            "", f"{item.name} is part of setups, matches or samples, so its past must stay readable.", "Retire it instead: it is then no longer offered."
        )


history.guard("kit_item", remove=_unused, restore=_comes_back, edit=_named_freely)


@use_case
def remove_item(item_id: str, act: Act) -> str:
    item = open_item(item_id)
    return history.remove(item, act=act, trial_id=None)


def _is_used(item: KitItem) -> bool:
    burrs = item.kind == "grinder" and any(k.facts.get("grinder_id") == item.id for k in live_items() if k.kind == "burr_set")
    pairs = MatchedSetting.select().where(((MatchedSetting.a == item.id) | (MatchedSetting.b == item.id)) & MatchedSetting.deleted_at.is_null())
    return burrs or pairs.exists() or _in_grind_room(item) or UsedKit.select().where(UsedKit.kit_item == item.id).exists()


def _in_grind_room(item: KitItem) -> bool:
    columns = (SieveSample.dial, SieveSample.coffee, SieveSample.stack, GrinderDose.dial, FilterTest.filter)
    return any(c.model.select().where((c == item.id) & c.model.deleted_at.is_null()).exists() for c in columns)


@use_case
def retire(item_id: str, rev: int, act: Act, *, back: bool = False) -> s.KitItemAnswer:
    item = open_item(item_id)
    history.edit(item, {"retired_at": None if back else act.now}, rev=rev, act=act, trial_id=None)
    return shape_alone(item, act)


# --- stock -------------------------------------------------------------------------------------------------------------


@use_case
def add_stock(item_id: str, sent: s.StockBody, act: Act) -> s.StockAnswer:
    item = open_item(item_id)
    if item.kind != "coffee":
        raise Unprocessable("mass_g", "Only coffee is kept by the gram.", "Choose a coffee.")
    history.add(
        StockEntry(id=act.new_id(), kit_item=item.id, mass_g=round(sent.mass_g, 3), note=sent.note, at=act.now, created_at=act.now), act=act, trial_id=None
    )
    return read_stock()


def read_stock() -> s.StockAnswer:
    return s.StockAnswer(stock_g=queries.stock_by_coffee())


def stock_by_name() -> dict[str, float]:
    """Coffee name → g on the shelf."""
    return queries.stock_by_coffee_name()


# --- what setups use ----------------------------------------------------------------------------------------------------


def remember(variables: dict[str, Any], new_kit: Sequence[str], act: Act) -> tuple[dict[str, Any], dict[str, KitItem]]:
    """The kit behind each name (inside the caller's transaction): the variables, a brewer known by name bringing its type along, and the
    items by kind (burrs too). A name that is not in the kit is refused, unless its kind is in new_kit: a slip of the pen is no second grinder."""
    out, used = dict(variables), {}
    items = live_items()
    names = full_names(items)
    for kind in KINDS:
        name = out.get(kind)
        if not name:
            continue
        item = next((k for k in items if names[k.id] == name and (k.kind == kind or (kind == "grinder" and k.kind == "burr_set"))), None)
        if item is None:
            item = _added(kind, name, new_kit, [names[k.id] for k in items if k.kind == kind or (kind == "grinder" and k.kind == "burr_set")], act)
        used[kind] = item
        if item.kind == "burr_set":
            used["grinder"], used["burr_set"] = next((k for k in items if k.id == item.facts.get("grinder_id")), item), item
        if kind == "brewer":
            out["brewer_type"] = out.get("brewer_type") or item.brewer_type
            if out["brewer_type"] and item.brewer_type != out["brewer_type"]:
                item.facts = item.facts | {"brewer_type": out["brewer_type"]}
                KitItem.update(brewer_type=out["brewer_type"], facts=item.facts, rev=KitItem.rev + 1).where(KitItem.id == item.id).execute()
    return out, used


def _added(kind: str, name: str, new_kit: Sequence[str], known: Sequence[str], act: Act) -> KitItem:
    if kind not in new_kit and known:  # the first of its kind is no second of anything
        near = difflib.get_close_matches(name, known, n=3, cutoff=0.5)
        meant = f"Link it to {' or '.join(near)}, or add it to the kit." if near else "Add it to the kit, or choose one that is there."
        raise Unprocessable(f"variables.{kind}", f"There is no {kind} called “{name}” in the kit.", meant)
    item = KitItem(id=act.new_id(), kind=kind, name=name, facts={}, created_at=act.now)
    history.add(item, act=act, trial_id=None)
    return item


def snapshot(used: dict[str, KitItem]) -> dict[str, Any]:
    """The facts as they are now, for the setup's own record."""
    return {kind: {"id": k.id, "name": k.name, "facts": k.facts} for kind, k in used.items()}


def item_named(kind: str, name: str) -> KitItem | None:
    return KitItem.get_or_none((KitItem.kind == kind) & (KitItem.name == name) & KitItem.deleted_at.is_null())
