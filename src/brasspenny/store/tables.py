"""Which tables hold rows, asked in one statement, and deleting those rows."""

from __future__ import annotations

from collections.abc import Iterable

from .connection import database


def filled_tables(names: Iterable[str]) -> list[str]:
    """Return those of the named tables that hold at least one row, in one statement however many are named."""
    asked = " UNION ALL ".join(f"(SELECT '{name}' FROM `{name}` LIMIT 1)" for name in sorted(names))
    return [name for (name,) in database.execute_sql(asked).fetchall()] if asked else []


def delete_rows(tables: Iterable[str]) -> None:
    """Delete every row of the named tables, whatever refers to them."""
    database.execute_sql("SET FOREIGN_KEY_CHECKS = 0")
    for name in tables:
        database.execute_sql(f"DELETE FROM `{name}`")
    database.execute_sql("SET FOREIGN_KEY_CHECKS = 1")
