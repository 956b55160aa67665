"""Reads and writes on a large bench: 500 trials, 10,000 runs, 100,000 scores, 20 clients (or more) at one request a second each.
Targets: any page's reads p95 ≤ 60 ms; logging a reading ≤ 40 ms; list ≤ 3× its bare SQL; a process ≤ 250 MB.
Makes its own database in a folder under /tmp and removes it. Run: PYTHONPATH=src python benchmarks/api_load.py [seconds] [clients]"""

from __future__ import annotations

import json
import random
import statistics
import subprocess
import sys
import threading
import time
import urllib.request
import uuid
from collections import defaultdict
from datetime import UTC, datetime

import served

from brasspenny.act import Act
from brasspenny.store import connection, models, queries

TRIALS, RUNS, PORT = 500, 20, 18_765
TASTERS, CUPS, ATTRIBUTES = 10, 5, ("liking", "acidity", "sweetness", "body")  # 500 × 10 × 5 × 4 = 100,000 scores


def fill(trials: int = TRIALS) -> list[str]:
    """So many trials of five setups, twenty brews and a flight of ten tasters; their ids."""
    act = Act(None, datetime.now(UTC), random.Random(1))
    new, now = act.new_id, act.now
    people = [models.Person.create(id=new(), name=f"P{i}", created_at=now).id for i in range(TASTERS)]
    rows: dict[type, list[dict]] = defaultdict(list)
    ids = []
    for number in range(1, trials + 1):
        trial = new()
        ids.append(trial)
        rows[models.Trial].append({"id": trial, "number": number, "question": f"Question {number}?", "factor": "filter", "factor_other": "", "yield_basis": None,
                                   "strength_policy": "as_brewed", "smallest_difference": 0.5, "created_at": now})  # fmt: skip
        runs = []
        for k in range(5):
            setup, revision = new(), new()
            rows[models.Setup].append({"id": setup, "trial": trial, "letter": "ABCDE"[k], "name": "", "revision_id": revision, "created_at": now})
            rows[models.SetupRevision].append({"id": revision, "setup": setup, "number": 1, "filter": f"F{k}", "brewer_type": "flat_bed", "temperature_c": 93.0,
                                               "dose_g": 18.0, "brew_water_g": 290.0, "bypass_g": 0.0, "created_at": now})  # fmt: skip
            for b in range(RUNS // 5):
                run = new()
                runs.append(run)
                rows[models.Run].append({"id": run, "trial": trial, "setup": setup, "setup_revision": revision, "number": b + 1, "brewed_at": now, "dose_g": 18.0,
                                         "brew_water_g": 290.0, "bypass_g": 0.0, "beverage_g": 248.0, "moisture_pct": 0.0, "created_at": now})  # fmt: skip
                rows[models.Reading] += [
                    {"id": new(), "run": run, "tds_pct": 1.4 + 0.01 * i, "source": "typed", "taken_at": now, "created_at": now} for i in range(3)
                ]
        flight = new()
        rows[models.Flight].append(
            {
                "id": flight,
                "trial": trial,
                "number": 1,
                "blinding": "shuffle",
                "status": "flipped",
                "attributes": list(ATTRIBUTES[1:]),
                "created_at": now,
                "closed_at": now,
                "flipped_at": now,
            }
        )
        cups = []
        for i in range(CUPS):
            cups.append(new())
            rows[models.FlightCup].append({"id": cups[-1], "flight": flight, "code": str(210 + i), "run": runs[i * 4], "mark": i + 1})
            rows[models.FlightBrew].append({"id": new(), "flight": flight, "run": runs[i * 4], "mark": i + 1})
        for person in people:
            sheet = new()
            rows[models.Sheet].append({"id": sheet, "flight": flight, "person": person, "issue": 1, "token_hash": uuid.uuid4().hex * 2, "created_at": now})
            for i, cup in enumerate(cups):
                rows[models.SheetCup].append({"id": new(), "sheet": sheet, "cup": cup, "position": i})
                rows[models.Score] += [{"id": new(), "sheet": sheet, "cup": cup, "attribute": a, "value": float(act.rng.randint(4, 8) + (i == 2)), "uuid": str(uuid.uuid4()),
                                        "seq": 1, "received_at": now} for a in ATTRIBUTES]  # fmt: skip
    with connection.database.atomic():
        for table, values in rows.items():
            for start in range(0, len(values), 2000):
                table.insert_many(values[start : start + 2000]).execute()
    return ids


def get(path: str) -> float:
    started = time.perf_counter()
    with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/v1{path}") as answer:
        answer.read()
    return 1000 * (time.perf_counter() - started)


def log_reading(run: str) -> float:
    body = json.dumps({"tds_pct": 1.42}).encode()
    request = urllib.request.Request(f"http://127.0.0.1:{PORT}/api/v1/runs/{run}/readings", data=body, headers={"Content-Type": "application/json"})
    started = time.perf_counter()
    with urllib.request.urlopen(request) as answer:
        answer.read()
    return 1000 * (time.perf_counter() - started)


def clients(ids: list[str], runs: list[str], seconds: int, many: int) -> dict[str, list[float]]:
    taken: dict[str, list[float]] = defaultdict(list)
    pages = (
        "/health",
        "/trials",
        "/trials/{}",
        "/trials/{}/progress",
        "/trials/{}/setups",
        "/trials/{}/results",
        "/trials/{}/flights",
        "/trials/{}/verdict",
        "/trials/{}/history",
        "log",
    )

    def one(n: int) -> None:
        rng = random.Random(n)
        time.sleep(n / many)
        for _ in range(seconds):
            at = time.perf_counter()
            page = rng.choice(pages)
            taken[page].append(log_reading(rng.choice(runs)) if page == "log" else get(page.format(rng.choice(ids))))
            time.sleep(max(0, 1 - (time.perf_counter() - at)))

    threads = [threading.Thread(target=one, args=(n,)) for n in range(many)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    return taken


def main() -> None:
    seconds, many = (int(x) for x in (sys.argv[1:] + ["30", "20"][len(sys.argv) - 1 :]))
    with served.database("brasspenny_load") as server:
        with connection.database.connection_context():
            ids = fill()
            runs = [r for (r,) in models.Run.select(models.Run.id).limit(2000).tuples()]
            bare = []
            for _ in range(10):
                started = time.perf_counter()
                queries.counts_by_trial([t.id for t in queries.live_trials(limit=30)])
                bare.append(1000 * (time.perf_counter() - started))
        with served.bench(server, PORT, 2) as serving:
            measure(ids, runs, bare, seconds, many)
            pids = ",".join(str(process.pid) for process in serving.running)
            for line in subprocess.run(["ps", "-p", pids, "-o", "rss="], capture_output=True, text=True).stdout.split():
                print(f"worker: {int(line) / 1024:.0f} MB resident")


def measure(ids: list[str], runs: list[str], bare: list[float], seconds: int, many: int) -> None:
    for trial in ids:
        get(f"/trials/{trial}/verdict")  # judged once; afterwards it is stored
    listed = sorted(get("/trials") for _ in range(10))
    print(f"a page of 30 of {TRIALS} trials, alone: {statistics.median(listed):.0f} ms against {statistics.median(bare):.0f} ms of bare SQL")
    for path in ("/trials/{}/report", "/trials/{}/progress", "/trials/{}/verdict", "/scatter"):
        for trial in ids[:12]:
            get(path.format(trial))
        alone = sorted(get(path.format(trial)) for _ in range(2) for trial in ids[:12])
        print(f"{path:22} once worked out, alone: median {statistics.median(alone):5.0f} ms, p95 {alone[int(0.95 * len(alone)) - 1]:5.0f} ms")
    taken = {page: sorted(times) for page, times in clients(ids, runs, seconds, many).items()}
    p95 = {page: times[int(0.95 * len(times)) - 1] for page, times in taken.items()}
    print(f"{many} clients at one request a second each; the last column: p95 in times of health's")
    for page, times in sorted(taken.items()):
        print(f"{page:22} n {len(times):4}  median {statistics.median(times):6.1f} ms  p95 {p95[page]:6.1f} ms  {p95[page] / p95['/health']:5.1f}")


if __name__ == "__main__":
    main()
