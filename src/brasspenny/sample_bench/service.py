"""The sample bench: the demo's trials in a database of their own, beside the bench's.

Looked round and worked on like any bench, and no part of any statistic of the real one: nothing of it lies in the same tables. A device
is in it while it keeps the cookie; taking it away drops the database.
"""

from __future__ import annotations

import peewee

from ..demo import scenario
from ..links import LinkMaker
from ..refusals import Conflict
from ..store import connection
from ..store.connection import database

LAY_OUT_WAIT_S = 60


def lay_out(secret: bytes) -> None:
    """Make it, unless it is there. Of two who ask at once one makes it and the other finds it. Raises Conflict where the database does not let us."""
    name = connection.sample_name()
    if database.execute_sql("SELECT GET_LOCK(%s, %s)", (f"{name}.lay_out", LAY_OUT_WAIT_S)).fetchone() != (1,):
        raise Conflict("", "The sample bench is being laid out by somebody else.", "Wait a moment, then look again.")
    try:
        if not connection.sample_exists():
            _make(name, secret)
    finally:
        connection.leave_sample()
        database.execute_sql("SELECT RELEASE_LOCK(%s)", (f"{name}.lay_out",))


def _make(name: str, secret: bytes) -> None:
    try:
        database.execute_sql(f"DROP DATABASE IF EXISTS `{name}`")  # one that was begun, and its maker killed
        database.execute_sql(f"CREATE DATABASE `{name}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
    except peewee.OperationalError as error:
        raise Conflict("", "This bench's database does not allow another one beside it.", "Start the sample by itself with ./penny demo.") from error
    try:
        connection.turn_to_sample()
        connection.run_migrations()
        scenario.lay_out(LinkMaker(secret, ""))
        database.execute_sql(f"CREATE TABLE {connection.LAID_OUT} (one INT)")
    except BaseException:
        remove()
        raise


def remove() -> None:
    """With everything in it. Those who are in it find themselves on their own bench."""
    connection.leave_sample()
    database.execute_sql(f"DROP DATABASE IF EXISTS `{connection.sample_name()}`")
