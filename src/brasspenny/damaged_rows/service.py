"""Set aside what cannot be read, so that the rest of the bench stands; put it back, or remove it."""

from __future__ import annotations

import json
import logging
from collections import defaultdict
from collections.abc import Callable
from datetime import datetime
from typing import Any, TypeVar

from ..act import Act
from ..bench_files import kinds as k
from ..bench_files.here import NO_VALUE, empty_value, rows_of
from ..bench_files.units import OWNERS, SHARED, Root, Row, Unit
from ..history.service import record
from ..refusals import Conflict, NotFound
from ..store import charted
from ..store.models import Bench, Change, Charted, DamagedRow, Headline, Kept
from ..store.writing import insert, use_case
from . import faults
from . import schemas as s

log = logging.getLogger("brasspenny")
R = TypeVar("R")
MOST_ONE_BY_ONE = 12
"""Units that are set aside one by one until what failed works; where it still fails, all of them are."""


def answer_without(again: Callable[[], R], error: Exception, expected: tuple[type[Exception], ...], act: Act) -> R:
    """Look for damaged rows after `error`, set their units aside and do it again; where none is the cause, forget what was computed and stored. Raises what it still
    ends in, and faults.Looking while that is open."""
    found = faults.look()
    if found is None:
        raise error
    by_unit: dict[Root, list[faults.Fault]] = defaultdict(list)
    for fault in found:
        by_unit[fault.unit].append(fault)
    units = list(by_unit.values())
    for some in [[unit] for unit in units[:MOST_ONE_BY_ONE]] + ([units] if len(units) > 1 else []):
        for unit in some:
            set_aside(unit, act)
        try:
            return again()
        except expected:
            raise
        except Exception as other:
            log.info("not because of %s: %s", [unit[0].unit for unit in some], other)
            for unit in some:
                _restore(unit[0].unit)
    _forget_what_was_computed()
    return again()


@use_case
def _forget_what_was_computed() -> None:
    """What can be computed again is damaged as easily, and nobody misses it."""
    Kept.delete().execute()
    Headline.delete().execute()
    Charted.update(worked_out_by="").execute()


@use_case
def set_aside(some: list[faults.Fault], act: Act) -> None:
    """some: the faults of one unit. All of the unit is deleted softly, at one moment; the bench's own row loses the values, and history that speaks of no trial goes."""
    kind, id_ = some[0].unit
    unit = rows_of((kind, id_))
    if kind == "change":
        k.MODELS[kind].delete_by_id(id_)
    elif kind != "bench":
        _mark(unit, act.now, None)
    for fault in some:
        DamagedRow.create(
            id=act.new_id(),
            unit_kind=kind,
            unit_id=id_,
            name=_name(unit)[:300],
            kind=fault.kind,
            row_key="/".join(str(fault.row[c]) for c in k.key_of(k.MODELS[fault.kind])),
            column=fault.column,
            why=fault.why[:300],
            was=json.dumps(fault.row if kind == "change" else fault.row[fault.column]) if kind in NOT_DELETED else None,
            set_aside_at=act.now,
        )
        if kind == "bench":
            _take_out("bench", "1", fault.column)
        log.warning("set aside: %s %s, %s: %s", fault.kind, fault.row.get("id"), fault.column, fault.why)


NOT_DELETED = ("bench", "change")
"""Kinds that have no deleted_at: their values are kept in the list."""


def _name(unit: Unit) -> str:
    try:
        return unit.name
    except (LookupError, TypeError):
        return unit.root[0].replace("_", " ")


def _mark(unit: Unit, at: datetime | None, was: datetime | None) -> None:
    """Set deleted_at of those rows of the unit where it is `was`."""
    for kind, rows in unit.rows.items():
        model = k.MODELS[kind]
        if "deleted_at" in model._meta.fields:
            ids = [row["id"] for _, row in rows]
            model.update(deleted_at=at).where(model.id.in_(ids), model.deleted_at.is_null() if was is None else model.deleted_at == was).execute()
            charted.written(kind, ids)


def _take_out(kind: str, key: str, column: str) -> None:
    model = k.MODELS[kind]
    field = model._meta.columns[column]
    model.update({field: empty_value(field)}).where(model.id == key).execute()


def _can_lose_it(row: DamagedRow) -> bool:
    model = k.MODELS[row.kind]
    return bool(row.column) and "id" in model._meta.fields and row.unit_kind not in NOT_DELETED and empty_value(model._meta.columns[row.column]) is not NO_VALUE


# --- what a person does with it -------------------------------------------------------------------------------------------------------


def listed() -> s.DamagedAnswer:
    rows = DamagedRow.select().order_by(DamagedRow.set_aside_at.desc(), DamagedRow.id)
    return s.DamagedAnswer(damaged=[_shape(row) for row in rows])


def _shape(row: DamagedRow) -> s.DamagedShown:
    return s.DamagedShown(
        id=row.id,
        name=row.name,
        kind=row.kind,
        column=row.column,
        why=row.why,
        set_aside_at=row.set_aside_at,
        can_come_back=row.unit_kind not in NOT_DELETED,
        can_lose_the_value=_can_lose_it(row),
    )


def open_damaged(damaged_id: str) -> DamagedRow:
    row = DamagedRow.get_or_none(DamagedRow.id == damaged_id)
    if row is None:
        raise NotFound("damaged row")
    return row


def _of_unit(unit: Root) -> list[DamagedRow]:
    return list(DamagedRow.select().where(DamagedRow.unit_kind == unit[0], DamagedRow.unit_id == unit[1]))


def rows_to_download(damaged_id: str) -> dict[str, list[Row]]:
    """The rows of the unit by kind, as an export has them. Of a flight that is not flipped and a series that is not closed, nothing."""
    row = open_damaged(damaged_id)
    if row.was is not None:
        return {row.kind: [json.loads(row.was) if row.unit_kind == "change" else {row.column: json.loads(row.was)}]}
    unit = rows_of((row.unit_kind, row.unit_id))
    kept_in = {("flight", r["id"]) for r in unit.of("flight") if r["status"] != "flipped"}
    kept_in |= {("palate_session", r["id"]) for r in unit.of("palate_session") if r["closed_at"] is None}
    for kind in (kind for kind in unit.rows if kind in OWNERS):
        column, owner = OWNERS[kind]
        kept_in |= {(kind, r.get("id")) for r in unit.of(kind) if (owner, r[column]) in kept_in}
    return {kind: left for kind in unit.rows if (left := [r for r in unit.of(kind) if not _stays(kind, r, kept_in)])}


def _stays(kind: str, row: Row, kept_in: set[tuple[str, Any]]) -> bool:
    column, owner = OWNERS.get(kind, ("", ""))
    return (kind, row.get("id")) in kept_in or bool(column and (owner, row[column]) in kept_in)


@use_case
def put_back(damaged_id: str, act: Act, *, without_value: bool) -> None:
    """Put the whole unit back, checked again first. without_value: what cannot be read is taken out of it, and history says where. Raises Conflict while it still
    cannot be read."""
    row = open_damaged(damaged_id)
    unit = (row.unit_kind, row.unit_id)
    if row.unit_kind in NOT_DELETED:
        raise Conflict("", "That value is gone from the bench.", "Set it anew, or download what it was.")
    for other in _of_unit(unit) if without_value else ():
        if _can_lose_it(other):
            _lose(other, act)
    if still := faults.first_in(unit):
        where = f"{still.kind.replace('_', ' ')}, {still.column}" if still.column else "its rows together"
        raise Conflict("", f"It still cannot be read ({where}: {still.why}).", "Download it, or remove it.")
    _restore(unit)


def _restore(unit: Root) -> None:
    rows = _of_unit(unit)
    for row in rows:
        if row.unit_kind == "change":
            insert(Change, [faults.typed(Change, json.loads(row.was))])
        elif row.unit_kind == "bench":
            Bench.update({Bench._meta.columns[row.column]: json.loads(row.was)}).where(Bench.id == 1).execute()
    if unit[0] not in NOT_DELETED:
        _mark(rows_of(unit), None, rows[0].set_aside_at)
    _forget(unit)


def _forget(unit: Root) -> None:
    DamagedRow.delete().where(DamagedRow.unit_kind == unit[0], DamagedRow.unit_id == unit[1]).execute()


def _lose(damaged: DamagedRow, act: Act) -> None:
    """History has the column's name alone: a value that nobody could read may be anything, a key among them."""
    _take_out(damaged.kind, damaged.row_key, damaged.column)
    root = k.MODELS[damaged.unit_kind].get_by_id(damaged.unit_id)
    trial_id = root.id if damaged.unit_kind == "trial" else getattr(root, "trial_id", None)
    record(root, "lose_value", act=act, trial_id=trial_id, after={"of": damaged.kind, "value": damaged.column})


@use_case
def remove(damaged_id: str) -> None:
    """For good, with everything that is a part of it. A person or a piece of kit, which others may point at, stays deleted, without the value."""
    row = open_damaged(damaged_id)
    unit, model = (row.unit_kind, row.unit_id), k.MODELS[row.unit_kind]
    if model in SHARED:
        for other in _of_unit(unit):
            if _can_lose_it(other):
                _take_out(other.kind, other.row_key, other.column)
    elif row.unit_kind not in NOT_DELETED:
        Change.delete().where(Change.id.in_([r["id"] for r in rows_of(unit).of("change")])).execute()
        model.get_by_id(row.unit_id).delete_instance(recursive=True, delete_nullable=True)
    _forget(unit)
