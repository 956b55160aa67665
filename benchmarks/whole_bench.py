"""A whole bench out and in: seconds, size and memory, beside reading the same rows and packing the same bytes bare.

    PYTHONPATH=src:benchmarks .venv/bin/python benchmarks/whole_bench.py [TRIALS, 500 by default]

Each trial has 20 brews with 3 readings each and a flight of ten tasters with 200 scores.
"""

from __future__ import annotations

import io
import resource
import sys
import time
import zipfile

import served
from api_load import fill

from brasspenny.bench_files import into, kinds, out, reading
from brasspenny.demo import scenario
from brasspenny.http import utc_now
from brasspenny.store import connection


def main(trials: int) -> None:
    with served.database("brasspenny_whole") as _, connection.database.connection_context():
        fill(trials)
        bare = timed("rows read bare", lambda: [list(model.select().tuples().iterator()) for model in kinds.KINDS])
        print(f"{sum(map(len, bare))} rows")
        del bare
        whole = timed("export", lambda: out.to_zip(utc_now()))
        print(f"{len(whole) / 1e6:.1f} MB")
        with zipfile.ZipFile(io.BytesIO(whole)) as packed:
            parts = {name: packed.read(name) for name in packed.namelist()}
        timed("packed bare", lambda parts=parts: _pack(parts))
        scenario.wipe()
        rows = timed("import: read and checked", lambda: reading.read(reading.reader_of_zip(io.BytesIO(whole))))
        arrived = timed("import: written", lambda: into.write(rows, utc_now()))
        print(f"{sum(arrived.came.values())} rows came in")
        timed("import again: all is here", lambda: into.write(rows, utc_now()))


def _pack(parts: dict[str, bytes]) -> None:
    with zipfile.ZipFile(io.BytesIO(), "w", zipfile.ZIP_DEFLATED) as packed:
        for name, raw in parts.items():
            packed.writestr(name, raw)


def timed(what, work):
    began = time.perf_counter()
    made = work()
    print(f"{what:28} {time.perf_counter() - began:7.1f} s, most memory so far {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB", flush=True)
    return made


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 500)
