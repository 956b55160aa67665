"""The rows of this bench as a file has them, a unit at a time, and which of them were set aside."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, TypeAlias

from playhouse.mysql_ext import JSONField

from ..store.models import DamagedRow, Photo, Table
from . import kinds as k
from .units import OWNERS, SHARED, Root, Row, Unit

Key: TypeAlias = tuple[Any, ...]


def fields_without_pictures(model: type[Table]) -> list[Any]:
    return [f for f in k.fields_of(model) if not (model is Photo and f.name == "image")]


def as_json(fields: list[Any], query: Any) -> Iterator[Row]:
    return ({f.column_name: k.to_json(f, value) for f, value in zip(fields, row, strict=True)} for row in query.tuples())


def rows_where(kind: str, column: str, values: list[Any]) -> Iterator[Row]:
    model = k.MODELS[kind]
    fields = fields_without_pictures(model)
    return as_json(fields, model.select(*fields).where(model._meta.columns[column].in_(values)))


def rows_of(unit: Root) -> Unit:
    """The rows of a trial, a loose brew, a recipe or a piece of kit, by kind; pictures aside."""
    out = Unit(unit)
    for kind in k.MODELS:
        column, owner = OWNERS.get(kind, ("", ""))
        if kind == unit[0]:
            rows = list(rows_where(kind, "id", [unit[1]]))
        elif kind == "change":
            rows = list(rows_where(kind, "trial_id", [unit[1]])) if unit[0] == "trial" else []
        else:
            rows = list(rows_where(kind, column, owners)) if (owners := [row["id"] for row in out.of(owner) if "id" in row]) else []
        if rows:
            out.rows[kind] = list(enumerate(rows, start=1))
    return out


def key_in(kind: str, row: Row) -> Key:
    return tuple(row[column] for column in k.key_of(k.MODELS[kind]))


NO_VALUE: Any = object()


def empty_value(field: Any) -> Any:
    """What stands in a column where nothing is known; NO_VALUE where nothing can."""
    if field.default is not None:
        return field.default() if callable(field.default) else field.default
    if field.null:
        return None
    return {} if isinstance(field, JSONField) and field.name == "facts" else NO_VALUE


class SetAside:
    """What was set aside, for an export: units stay here; people and kit, which others point at, go without the value that cannot be read."""

    def __init__(self) -> None:
        listed = list(DamagedRow.select())
        units = {(r.unit_kind, r.unit_id) for r in listed if k.MODELS[r.unit_kind] not in SHARED and r.unit_kind not in ("bench", "change")}
        self._stay = {(kind, key_in(kind, row)) for unit in units for kind, rows in rows_of(unit).rows.items() for _, row in rows}
        self._without = {(r.kind, (r.row_key,)): r.column for r in listed if k.MODELS[r.unit_kind] in SHARED and r.kind == r.unit_kind}

    def stays(self, kind: str, row: Row) -> bool:
        return bool(self._stay) and (kind, key_in(kind, row)) in self._stay

    def mended(self, kind: str, row: Row) -> Row:
        column = self._without.get((kind, key_in(kind, row))) if self._without else None
        empty = empty_value(k.MODELS[kind]._meta.columns[column]) if column else NO_VALUE
        return row if empty is NO_VALUE else row | {column: empty}
