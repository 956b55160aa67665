"""Find the rows of this bench that no room would take: each is checked as if it came by a file (bench_files/values.py, units.py)."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import peewee as pw
from playhouse.mysql_ext import JSONField

from ..bench_files import kinds as k
from ..bench_files.here import as_json, fields_without_pictures, rows_of, rows_where
from ..bench_files.units import OWNERS, Row, Unfit, Unit, check_links, check_tastings
from ..bench_files.values import Invalid, check, from_json
from ..store.connection import database
from ..store.models import Photo, Table

CHECKED = tuple(k.MODELS.values())
AT_ONCE = 500
LOOK_S = 8.0
"""How long one request looks; the next goes on from there."""
REST_S = 600.0
"""After a whole round without a find: what failed has another cause."""


@dataclass(frozen=True)
class Fault:
    """row: as the table holds it; unit: kind and id of what it is a part of. column: "" where the rows of the unit do not fit together."""

    kind: str
    row: Row
    column: str
    why: str
    unit: tuple[str, str]


class Looking(Exception):
    """The round is not over: `done` of `of` tables were gone through."""

    def __init__(self, done: int, of: int) -> None:
        super().__init__(f"{done} of {of}")
        self.done, self.of = done, of


@dataclass
class _Round:
    """How far this process has looked through one database."""

    table: int = 0
    after: Any = None
    clean_until: float = 0.0


_rounds: dict[str, _Round] = {}


def forget() -> None:
    """Begin a new round at the next look: the tables were written past the program."""
    _rounds.clear()


def look() -> list[Fault] | None:
    """Every fault of the bench's rows; where no row is at fault by itself, of the rows of a trial or a loose brew together. None: all was looked through lately, and nothing was found.
    Raises Looking once the time is over and none was found."""
    state = _rounds.setdefault(database.execute_sql("SELECT DATABASE()").fetchone()[0], _Round())
    until = time.monotonic() + LOOK_S
    if time.monotonic() < state.clean_until:
        return None
    found: list[Fault] = []
    while state.table < len(CHECKED):
        model = CHECKED[state.table]
        found += [] if state.after else _nulls(model)
        for row in _rows(model, state.after):
            found += _fault_of(model, row)
            state.after = row.get("id")
            if time.monotonic() > until:
                if found:
                    return found
                raise Looking(state.table, len(CHECKED))
        state.table, state.after = state.table + 1, None
    state.table = 0
    found = found or list(_unfit())
    if not found:
        state.clean_until = time.monotonic() + REST_S
    return found


def _nulls(model: type[Table]) -> Iterator[Fault]:
    """A JSON null where the column itself is to be empty: some read it as a value."""
    for field in k.fields_of(model):
        if isinstance(field, JSONField) and field.null and "id" in model._meta.fields:
            for row in rows_where(k.name_of(model), "id", [i for (i,) in model.select(model.id).where(pw.SQL(f"`{field.column_name}` = 'null'")).tuples()]):
                if row.get("deleted_at") is None and not _is_deleted(unit := unit_of(k.name_of(model), row)):
                    yield Fault(k.name_of(model), row, field.column_name, "it is null", unit)


def _rows(model: type[Table], after: Any) -> Iterator[Row]:
    """By id from there on, in parts; all at once where rows have no id."""
    fields = fields_without_pictures(model)
    if "id" not in model._meta.fields:
        yield from as_json(fields, model.select(*fields))
        return
    while True:
        some = list(as_json(fields, model.select(*fields).where(model.id > (after or "")).order_by(model.id).limit(AT_ONCE)))
        yield from some
        if len(some) < AT_ONCE:
            return
        after = some[-1]["id"]


def fault_in(kind: str, row: Row) -> tuple[str, str] | None:
    """Column and reason of the first value that no room would take."""
    model = k.MODELS[kind]
    try:
        check(kind, typed(model, row))
    except Invalid as error:
        return error.column, str(error)
    return None


def typed(model: type[Table], row: Row) -> Row:
    """As peewee holds it, without a picture's bytes; of a flight, as if it was flipped: a file has no other."""
    beside = {"image": ""} if model is Photo else {"status": "flipped"} if row.get("status") in ("open", "closed") else {}
    return from_json(model, row | beside) | ({"status": row["status"]} if "status" in row else {})


def _fault_of(model: type[Table], row: Row) -> list[Fault]:
    kind = k.name_of(model)
    found = fault_in(kind, row)
    if found is None or row.get("deleted_at") is not None:
        return []
    unit = unit_of(kind, row)
    return [] if _is_deleted(unit) else [Fault(kind, row, *found, unit)]


def unit_of(kind: str, row: Row) -> tuple[str, str]:
    """What this row is a part of: a change, of its trial."""
    if kind == "change":
        return ("trial", row["trial_id"]) if row["trial_id"] else ("change", row["id"])
    column, owner = OWNERS.get(kind, ("", ""))
    if not column or row[column] is None:
        return kind, str(row["id"])
    found = next(rows_where(owner, "id", [row[column]]), None)
    return unit_of(owner, found) if found else (kind, str(row["id"]))


def _is_deleted(unit: tuple[str, str]) -> bool:
    model = k.MODELS[unit[0]]
    return "deleted_at" in model._meta.fields and not model.select().where(model.id == unit[1], model.deleted_at.is_null()).exists()


def first_in(unit: tuple[str, str]) -> Fault | None:
    """The first fault of a unit that is set aside: of a row by itself, or of the rows together."""
    for kind, rows in rows_of(unit).rows.items():
        for _, row in rows:
            if found := fault_in(kind, row):
                return Fault(kind, row, *found, unit)
    return unfit(unit) if unit[0] in HELD_TOGETHER else None


HELD_TOGETHER = ("trial", "setup", "recipe")


def _unfit() -> Iterator[Fault]:
    for kind in HELD_TOGETHER:
        model = k.MODELS[kind]
        living = model.select(model.id).where(model.deleted_at.is_null())
        for (id_,) in (living.where(model.trial.is_null()) if kind == "setup" else living).tuples():
            if fault := unfit((kind, id_)):
                yield fault


def unfit(unit: tuple[str, str]) -> Fault | None:
    """Where the rows of a unit do not fit together."""
    whole = rows_of(unit)
    held = Unit(unit)
    try:
        for kind, rows in whole.rows.items():
            if kind not in ("change", "photo"):
                held.rows[kind] = [(number, typed(k.MODELS[kind], row)) for number, row in rows]
        check_links(held)
        flipped = {row["id"] for row in held.of("flight") if row["status"] == "flipped"}
        held.rows["flight"] = [(n, row) for n, row in held.rows.get("flight", ()) if row["id"] in flipped]
        check_tastings(held)
    except (Unfit, Invalid) as error:
        (root,) = whole.of(unit[0])
        return Fault(unit[0], root, "", error.why if isinstance(error, Unfit) else str(error), unit)
    return None
