"""Benches made once a run, whose rows are put into whichever bench a test wants them in: the demo judges five trials, a flight is dozens of calls."""

from __future__ import annotations

import fcntl
import json
import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from brasspenny.demo import scenario
from brasspenny.links import LinkMaker
from brasspenny.store import connection, dump

from .conftest import SECRET
from .let_in import still_let_in


def folder_of_run(tmp_path_factory) -> Path:
    """The same for every worker of a run, and for no other run: a worker's own lies in it."""
    own = tmp_path_factory.getbasetemp()
    return own.parent if "PYTEST_XDIST_WORKER" in os.environ else own


@contextmanager
def locked(path: Path) -> Iterator[None]:
    with path.open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def demo() -> None:
    with connection.database.connection_context(), still_let_in():
        scenario.load(LinkMaker(SECRET, ""))


def put(shared: Path, name: str, make: Callable[[], Any]) -> Any:
    """Into the empty bench that the store is bound to; what making it returned, as JSON. Whoever comes first makes it for all."""
    kept = shared / f"{name}.json"
    with locked(shared / f"{name}.lock"):
        if not kept.exists():
            came = make()
            kept.write_text(json.dumps({"came": came, "rows": _rows()}))
            return came
    was = json.loads(kept.read_text())
    with dump.picture() as conn, conn.cursor() as cursor:
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        schema = connection.database.obj.database
        for table, (types, rows) in was["rows"].items():
            cursor.execute(f"DELETE FROM `{table}`")
            dump.put(conn, schema, table, types, rows)
        conn.commit()
    return was["came"]


def _rows() -> dict[str, tuple[dict[str, str], list]]:
    """Table → its columns and rows, of those that hold any."""
    with dump.picture() as conn:
        schema = connection.database.obj.database
        held = {t: [json.loads(line) for line in dump.lines(conn, schema, t)] for t in dump.tables(conn, schema) if t != dump.MIGRATIONS_TABLE}
        return {t: (dump.columns(conn, schema, t), rows) for t, rows in held.items() if rows}
