"""A bench of many brews with pictures, out and in by HTTP: seconds, size, and the memory of the processes that serve it.

    PYTHONPATH=src:benchmarks .venv/bin/python benchmarks/whole_bench_http.py [TRIALS, 2000 by default]

Each trial has 20 brews with 3 readings each, a flight of ten tasters with 200 scores, and a picture of one of its brews.
"""

from __future__ import annotations

import io
import os
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

import served
from api_load import fill
from PIL import Image

from brasspenny.demo import scenario
from brasspenny.http import utc_now
from brasspenny.store import connection
from brasspenny.store.models import Photo, Run
from brasspenny.store.writing import insert

PORT = 18_794


def main(trials: int) -> None:
    with served.database("brasspenny_whole_http") as server:
        with connection.database.connection_context():
            fill(trials)
            insert(Photo, pictures(trials))
            print(f"{Run.select().count()} brews, {Photo.select().count()} pictures")
        with served.bench(server, PORT, 1) as serving, tempfile.TemporaryFile() as file:
            pids = [int(p.name) for p in Path("/proc").glob("[0-9]*") if is_ours(p, str(os.getpid()))]
            began = time.perf_counter()
            with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/v1/export.zip") as answer:
                while some := answer.read(1 << 20):
                    file.write(some)
            told("out", began, pids, f", {file.tell() / 1e6:.0f} MB")
            with connection.database.connection_context():
                scenario.wipe()
            served.come_in_again(PORT)
            size = file.tell()
            file.seek(0)
            began = time.perf_counter()
            asked = urllib.request.Request(
                f"http://127.0.0.1:{PORT}/api/v1/bench-import",
                file,
                {"Content-Type": "application/zip", "Content-Length": str(size), "Accept": "application/x-ndjson", "Origin": f"http://127.0.0.1:{PORT}"},
            )
            with urllib.request.urlopen(asked, timeout=3600) as answer:
                lines = answer.read().splitlines()
            told("in", began, pids, f", {len(lines)} lines of how far it was; the last: {lines[-1][:160]!r}")
            with connection.database.connection_context():
                print(f"{Run.select().count()} brews, {Photo.select().count()} pictures came in")
            assert serving


def is_ours(process: Path, parent: str) -> bool:
    try:
        return process.joinpath("stat").read_text().rsplit(")", 1)[1].split()[1] == parent and b"python" in process.joinpath("cmdline").read_bytes()
    except OSError:
        return False


def told(what: str, began: float, pids: list[int], more: str) -> None:
    most = [int(line.split()[1]) / 1024 for pid in pids for line in Path(f"/proc/{pid}/status").read_text().splitlines() if line.startswith("VmHWM")]
    print(f"{what:4} {time.perf_counter() - began:6.1f} s, most memory {max(most, default=0):.0f} MB{more}", flush=True)


def pictures(count: int):
    noise = Image.effect_noise((600, 450), 60).convert("RGB")
    raw = io.BytesIO()
    noise.save(raw, "JPEG", quality=60)
    runs = [run for (run,) in Run.select(Run.id).limit(count).tuples()]
    return (
        {
            "id": f"pic{i:09d}",
            "run": run,
            "kind": "bed",
            "media_type": "image/jpeg",
            "image": raw.getvalue(),
            "width": 600,
            "height": 450,
            "created_at": utc_now(),
        }
        for i, run in enumerate(runs)
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 2000)
