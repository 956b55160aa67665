"""The demo, laid out once a run and put into whichever bench a test wants it in: laying it out judges five trials, putting its rows back takes no time."""

from __future__ import annotations

import fcntl
import json
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from brasspenny.demo import scenario
from brasspenny.links import LinkMaker
from brasspenny.store import connection, dump

from .conftest import SECRET


def folder_of_run(tmp_path_factory) -> Path:
    """The same for every worker of a run, and for no other run: a worker's own lies in it."""
    own = tmp_path_factory.getbasetemp()
    return own.parent if "PYTEST_XDIST_WORKER" in os.environ else own


@contextmanager
def locked(path: Path) -> Iterator[None]:
    with path.open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def put_demo(shared: Path) -> None:
    """Into the empty bench that the store is bound to. Whoever comes first lays it out for all."""
    kept = shared / "demo-rows.json"
    with locked(shared / "demo-rows.lock"):
        if not kept.exists():
            with connection.database.connection_context():
                scenario.load(LinkMaker(SECRET, ""))
            kept.write_text(json.dumps(_rows()))
            return
    with dump.picture() as conn, conn.cursor() as cursor:
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        schema = connection.database.obj.database
        for table, rows in json.loads(kept.read_text()).items():
            cursor.execute(f"DELETE FROM `{table}`")
            dump.put(conn, schema, table, dump.columns(conn, schema, table), rows)
        conn.commit()


def _rows() -> dict[str, list]:
    with dump.picture() as conn:
        schema = connection.database.obj.database
        return {t: [json.loads(line) for line in dump.lines(conn, schema, t)] for t in dump.tables(conn, schema) if t != dump.MIGRATIONS_TABLE}
