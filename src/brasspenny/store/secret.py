"""The bench's secret: what links and seals are made from. It is data, and lives with the data."""

from __future__ import annotations

import secrets

from ..mariadb import CannotStart
from .connection import database
from .models import Bench

BYTES = 32


def of_bench() -> bytes:
    """As it stands in the database. Raises CannotStart when it is none."""
    with database.connection_context():
        return _read(Bench.get_by_id(1).secret or "", "The secret in this bench's database")


def settle(kept_in_file: str | None) -> None:
    """Give the bench its secret if it has none: the one an earlier version kept in a file, else a new one. Of several starts at once one
    gives it. Raises CannotStart for a file that holds none, or another bench's."""
    with database.connection_context():
        if kept_in_file is not None:
            _read(kept_in_file, "The file “secret” in the data folder")
        fresh = kept_in_file or secrets.token_hex(BYTES)
        Bench.update(secret=fresh).where((Bench.id == 1) & Bench.secret.is_null()).execute()
        held = Bench.get_by_id(1).secret
        if kept_in_file not in (None, held):
            raise CannotStart(
                "The file “secret” in the data folder belongs to another bench than the database. Take the file away: the bench keeps its secret in its database."
            )


def _read(text: str, where: str) -> bytes:
    try:
        secret = bytes.fromhex(text)
    except ValueError:
        secret = b""
    if len(secret) != BYTES:
        raise CannotStart(
            f"{where} is damaged: it should be {2 * BYTES} hexadecimal digits. Restore a backup; with a new one, links already given out would not open."
        )
    return secret
