"""How long a table of 10,000 brews takes to look at and to bring in, beside the bare statements that put the same rows there.

PYTHONPATH=src .venv/bin/python benchmarks/bring_in.py [rows]
"""

from __future__ import annotations

import base64
import io
import random
import shutil
import sys
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

import openpyxl
import pages

from brasspenny import mariadb
from brasspenny.act import Act
from brasspenny.imports import schemas as s
from brasspenny.imports import service
from brasspenny.store import connection
from brasspenny.store.models import Change, Charted, KitItem, Reading, Run, Setup, SetupRevision, UsedKit

TABLES = (UsedKit, Charted, Setup, SetupRevision, Run, Reading, Change, KitItem)


def table(rows: int) -> str:
    """A workbook in base64: two readings a brew, thirty coffees, five mills."""
    rng, book = random.Random(1), openpyxl.Workbook(write_only=True)
    sheet = book.create_sheet()
    sheet.append(["Date", "Coffee", "Grinder", "Setting", "Dose (g)", "Water (g)", "Beverage (g)", "Temp", "Time", "TDS 1", "TDS 2", "Rating", "Notes"])
    for i in range(rows):
        tds = rng.gauss(1.4, 0.05)
        at = datetime(2012 + i // 1500, 1 + i % 12, 1 + i % 28, 8, i % 60)
        sheet.append(
            [
                at,
                f"Lot {i % 30}",
                f"Mill {i % 5}",
                5 + i % 7,
                round(rng.gauss(18, 0.1), 1),
                290,
                251,
                93,
                "2:45",
                round(tds, 2),
                round(tds + 0.01, 2),
                1 + i % 9,
                "sweet",
            ]
        )
    out = io.BytesIO()
    book.save(out)
    return base64.b64encode(out.getvalue()).decode()


def main(rows: int) -> None:
    folder = Path(tempfile.mkdtemp(prefix="penny-", dir="/tmp"))
    server = mariadb.start(folder, name="brasspenny_test")
    try:
        connection.bind(server.url, patience_s=None)
        connection.migrate()
        data, act = table(rows), Act(None, datetime.now(UTC), random.Random(2))
        written: list = []
        with connection.database.connection_context():
            start = time.perf_counter()
            found = service.look_at(s.OwnTableBody(data=data))
            look_s = time.perf_counter() - start
            start = time.perf_counter()
            asked = pages.statements_of(lambda: written.append(service.bring_in(s.BrewTableWrite(data=data), act)))
            write_s = time.perf_counter() - start
            floor_s = _floor([x for x in asked if x[0].startswith("INSERT")])
        print(f"{found.ready} brews, {written[0].readings} readings: looked at in {look_s:.1f} s, brought in in {write_s:.1f} s")
        print(f"the same rows by bare statements: {floor_s:.1f} s; brought in takes {write_s / floor_s:.1f} times that")
    finally:
        server.stop()
        shutil.rmtree(folder)


def _floor(asked: list[tuple]) -> float:
    """Seconds to put the rows that were written there once more, by the same statements, replayed bare."""
    connection.database.execute_sql("SET FOREIGN_KEY_CHECKS = 0")
    for model in TABLES:
        model.delete().execute()
    start = time.perf_counter()
    pages.replay(connection.database.connection(), asked)
    return time.perf_counter() - start


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 10_000)
