"""How the bench is written to: one use case, one transaction, one at a time.

Letters, labels, seats, names, flips, undos and what stands in a flight are all decided by looking first and writing then. So whoever
writes holds the bench's own row from the first statement on, in whichever process or instance: what was looked at cannot change before
it is written. Tasters' touches do not wait here; they hold their flight, which a close or a flip takes for itself.
"""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from functools import wraps
from itertools import islice
from typing import Any, ParamSpec, TypeVar

import peewee as pw
from playhouse.mysql_ext import JSONField

from .connection import database

log = logging.getLogger("brasspenny")

HOLD = "SELECT id FROM bench WHERE id = 1 FOR UPDATE"
"""The first statement of a transaction: what it reads after this is what was committed last, not an older picture."""


P, R = ParamSpec("P"), TypeVar("R")


def use_case(work: Callable[P, R]) -> Callable[P, R]:
    """`work` in one transaction, alone on the bench; inside another use case it is part of that one's."""

    @wraps(work)
    def alone(*args: P.args, **kwargs: P.kwargs) -> R:
        with held():
            return work(*args, **kwargs)

    return alone


@contextmanager
def held() -> Iterator[None]:
    """The same for what tells how far it is while it works."""
    with database.atomic():
        if database.transaction_depth() == 1:
            database.execute_sql(HOLD)
        yield


FULL = (3, 1021, 1026, 1030, 1114)
"""MariaDB's numbers for a disk that is full."""


@contextmanager
def spared_when_full() -> Iterator[None]:
    """For what is stored only so that it need not be computed again: on a full disk it is not, and what was asked for is answered all the same."""
    try:
        with database.atomic():
            yield
    except pw.OperationalError as error:
        if error.args[:1] and error.args[0] in FULL:
            log.info("not stored: %s", error)
        else:
            raise


AT_ONCE, AT_ONCE_BYTES = 500, 4_000_000
"""Rows and bytes a statement: a database takes no longer one than its max_allowed_packet, often 16 MB."""


def insert(model: type[pw.Model], rows: Iterable[Mapping[str, Any]]) -> None:
    """Many rows in a few statements, each by name of the field or of its column; what a row does not say is the field's default. The statement is put together here, for
    peewee takes longer to write one of thousands of values than the database to take it. Inside the caller's transaction."""
    fields = model._meta.sorted_fields
    names = ", ".join(f"`{f.column_name}`" for f in fields)
    one = f"({', '.join(['%s'] * len(fields))})"
    for some in _in_statements([_stored(f, row) for f in fields] for row in rows):
        values = [value for row in some for value in row]
        model._meta.database.execute_sql(f"INSERT INTO `{model._meta.table_name}` ({names}) VALUES {', '.join([one] * len(some))}", values)


def _in_statements(rows: Iterable[list[Any]]) -> Iterator[list[list[Any]]]:
    some: list[list[Any]] = []
    size = 0
    for row in rows:
        more = sum(len(value) for value in row if isinstance(value, str | bytes | memoryview))
        if some and (len(some) >= AT_ONCE or size + more > AT_ONCE_BYTES):
            yield some
            some, size = [], 0
        some.append(row)
        size += more
    if some:
        yield some


def _stored(field: pw.Field, row: Mapping[str, Any]) -> Any:
    value = row.get(field.name, row.get(field.column_name, NOT_SAID))
    if value is NOT_SAID:
        value = field.default() if callable(field.default) else field.default
    if isinstance(field, JSONField):  # what it would say of itself is a part of a peewee statement
        return None if value is None else json.dumps(value)
    return field.db_value(value)


NOT_SAID: Any = object()


def batched(rows: Iterable[R]) -> Iterator[list[R]]:
    """Many rows in parts that one statement takes."""
    whole = iter(rows)
    while some := list(islice(whole, AT_ONCE)):
        yield some
