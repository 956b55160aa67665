"""Every page's answer beside its floor: the very statements it asked, replayed bare on the same connection in the same run, so that the ratio can be believed on a busy
machine. On 500 trials / 10,000 brews / 100,000 scores and on four times that: what belongs to one trial stays flat.
Makes its own database in a folder under /tmp and removes it. Run: PYTHONPATH=src python benchmarks/pages.py [trials ...]"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable

import served
from api_load import fill

from brasspenny.app import Serving, create_app
from brasspenny.store import charted, connection

PAGES = (
    "/health",
    "/bench",
    "/trials",
    "/trials/{}",
    "/trials/{}/progress",
    "/trials/{}/setups",
    "/trials/{}/results",
    "/trials/{}/flights",
    "/trials/{}/verdict",
    "/trials/{}/report",
    "/trials/{}/history",
    "/scatter",
    "/brews",
    "/brews?text=seven",
    "/charts",
    "/charts?limit=500",
)
OVER = 7


def main(sizes: list[int]) -> None:
    for trials in sizes:
        with served.database("brasspenny_pages") as server:
            with connection.database.connection_context():
                ids = fill(trials)
                connection.database.execute_sql("UPDATE run SET beverage_g = 230 + 30 * RAND(3), brew_water_g = 270 + 60 * RAND(4)")
                connection.database.execute_sql("UPDATE run SET brewed_at = TIMESTAMPADD(MINUTE, FLOOR(5000000 * RAND(6)), '2016-01-01')")
                connection.database.execute_sql("UPDATE reading r JOIN (SELECT id, 1.2 + 0.4 * RAND(5) AS c FROM run) x ON x.id = r.run_id SET r.tds_pct = x.c")
                charted.all_written()
                connection.database.execute_sql("ANALYZE TABLE run, reading, setup, setup_revision, trial, score, sheet, flight")
            app = create_app(Serving(database_url=server.url, secret=b"a benchmark"))
            print(f"{trials} trials, {20 * trials:,} brews, {200 * trials:,} scores (median of {OVER})")
            print(f"{'page':24}{'statements':>11}{'page, ms':>10}{'bare, ms':>10}{'times':>7}{'MB':>7}")
            for page in PAGES:
                _measure(served.client_of(app), page, ids)


def _measure(client, page: str, ids: list[str]) -> None:
    paths = [f"/api/v1{page.format(i)}" for i in ids[:OVER]]
    sizes = [len(client.get(path).data) for path in paths]  # worked out once; what is kept is kept
    statements = [statements_of(lambda path=path: client.get(path)) for path in paths]
    page_ms = statistics.median(_ms(lambda path=path: client.get(path)) for path in paths)
    with connection.database.connection_context():
        raw = connection.database.connection()
        bare_ms = statistics.median(_ms(lambda asked=asked: replay(raw, asked)) for asked in statements)
    count = statistics.median(map(len, statements))
    times = f"{page_ms / bare_ms:7.1f}" if bare_ms > 0.05 else "      -"
    print(f"{page:24}{count:>11.0f}{page_ms:>10.1f}{bare_ms:>10.1f}{times}{statistics.median(sizes) / 1e6:>7.2f}")


def statements_of(work: Callable[[], object]) -> list[tuple]:
    asked: list[tuple] = []
    pool = type(connection.database.obj)
    execute = pool.execute_sql

    def noted(self, sql, params=None, *rest, **more):
        asked.append((sql, params))
        return execute(self, sql, params, *rest, **more)

    pool.execute_sql = noted
    try:
        work()
    finally:
        pool.execute_sql = execute
    return asked


def replay(raw, asked: list[tuple]) -> None:
    with raw.cursor() as cursor:
        for sql, params in asked:
            cursor.execute(sql, params or None)
            cursor.fetchall()
    raw.rollback()


def _ms(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return 1000 * (time.perf_counter() - began)


if __name__ == "__main__":
    main([int(x) for x in sys.argv[1:]] or [500, 2000])
