"""Every table as lines of JSON, read in one consistent picture while the bench runs, and put back exactly.

Values keep their type by their column: moments and days as ISO 8601, decimals as text, pictures in base64. What is read is told by its
SHA-256, so that a copy can be compared with what it was made from.
"""

from __future__ import annotations

import base64
import hashlib
import json
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import date, datetime, timedelta
from decimal import Decimal
from typing import Any

import pymysql
from pymysql.cursors import SSCursor

from .connection import database

MIGRATIONS_TABLE = "schema_migration"
AT_ONCE = 200


@contextmanager
def picture() -> Iterator[pymysql.connections.Connection]:
    """A connection of its own on the bench's database that sees it as it stands now, whatever is written meanwhile."""
    how = {k: v for k, v in database.obj.connect_params.items() if k not in ("init_command", "read_timeout", "write_timeout")}
    conn = pymysql.connect(database=database.obj.database, autocommit=True, init_command="SET time_zone = '+00:00'", **how)
    try:
        with conn.cursor() as cursor:
            cursor.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT")
        yield conn
    finally:
        conn.close()


def tables(conn: pymysql.connections.Connection, schema: str) -> list[str]:
    with conn.cursor() as cursor:
        cursor.execute("SELECT table_name FROM information_schema.tables WHERE table_schema = %s AND table_type = 'BASE TABLE' ORDER BY table_name", (schema,))
        return [name for (name,) in cursor.fetchall()]


def columns(conn: pymysql.connections.Connection, schema: str, table: str) -> dict[str, str]:
    """Column → its type, in the order of the table; what the database works out from others is left to it."""
    with conn.cursor() as cursor:
        asked = (
            "SELECT column_name, data_type FROM information_schema.columns WHERE table_schema = %s AND table_name = %s AND is_generated = 'NEVER' "
            "ORDER BY ordinal_position"
        )
        cursor.execute(asked, (schema, table))
        return dict(cursor.fetchall())


def keys(conn: pymysql.connections.Connection, schema: str, table: str) -> list[str]:
    """The columns that tell its rows apart."""
    with conn.cursor() as cursor:
        asked = (
            "SELECT column_name FROM information_schema.key_column_usage WHERE table_schema = %s AND table_name = %s AND constraint_name = 'PRIMARY' "
            "ORDER BY ordinal_position"
        )
        cursor.execute(asked, (schema, table))
        return [name for (name,) in cursor.fetchall()]


def made_by(conn: pymysql.connections.Connection, schema: str, table: str) -> str:
    """The statement that makes the table."""
    with conn.cursor() as cursor:
        cursor.execute(f"SHOW CREATE TABLE `{schema}`.`{table}`")
        return cursor.fetchone()[1]


def lines(conn: pymysql.connections.Connection, schema: str, table: str) -> Iterator[str]:
    """Its rows as JSON arrays, by their keys; never all in memory."""
    order = ", ".join(f"`{k}`" for k in keys(conn, schema, table)) or "1"
    names = ", ".join(f"`{name}`" for name in columns(conn, schema, table))
    with conn.cursor(SSCursor) as cursor:
        cursor.execute(f"SELECT {names} FROM `{schema}`.`{table}` ORDER BY {order}")
        for row in cursor:
            yield json.dumps([plain(value) for value in row], ensure_ascii=False, separators=(",", ":"))


def plain(value: Any) -> Any:
    """As JSON; the column's type brings it back."""
    if isinstance(value, datetime):
        return value.isoformat(sep=" ", timespec="microseconds")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, timedelta):
        return value.total_seconds()
    if isinstance(value, Decimal):
        return str(value)
    if isinstance(value, bytes):
        return base64.b64encode(value).decode()
    return value


BINARY = ("blob", "mediumblob", "longblob", "tinyblob", "binary", "varbinary")


def back(value: Any, kind: str) -> Any:
    """For a column of this type."""
    return base64.b64decode(value) if kind in BINARY and isinstance(value, str) else value


def put(conn: pymysql.connections.Connection, schema: str, table: str, types: dict[str, str], rows: Iterable[list[Any]]) -> int:
    """Insert rows of a dump; how many."""
    kinds = list(types.values())
    names, marks = ", ".join(f"`{name}`" for name in types), ", ".join(["%s"] * len(types))
    count, some = 0, []
    with conn.cursor() as cursor:

        def flush() -> None:
            if some:
                cursor.executemany(f"INSERT INTO `{schema}`.`{table}` ({names}) VALUES ({marks})", some)
                some.clear()

        for row in rows:
            some.append([back(value, kind) for value, kind in zip(row, kinds, strict=True)])
            count += 1
            if len(some) >= AT_ONCE:
                flush()
        flush()
    return count


class DigestedLines:
    """Lines on their way through, counted and hashed."""

    def __init__(self, found: Iterable[str]) -> None:
        self.found, self.count, self._hash = found, 0, hashlib.sha256()

    def __iter__(self) -> Iterator[str]:
        for line in self.found:
            self.count += 1
            self._hash.update(line.encode() + b"\n")
            yield line

    @property
    def sha256(self) -> str:
        return self._hash.hexdigest()
