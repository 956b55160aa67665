"""Mutated benches, workbooks, tables, pictures and backups sent to a bench: how many were answered by 5xx, how many broke a page, how long and how much memory a refusal took.

    PYTHONPATH=src:.:benchmarks .venv/bin/python benchmarks/hostile_files.py [ROUNDS OF EACH, 250 by default] [SEED]

Every file begins as one that the bench takes. A bench that is taken all the same has every page of its trials looked at. Exits 1 on a 5xx or a broken page.
"""

from __future__ import annotations

import base64
import hashlib
import io
import json
import random
import resource
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path

import openpyxl
import served
from PIL import Image

from brasspenny import backup
from brasspenny.app import Serving, create_app
from brasspenny.bench_files import out
from brasspenny.damaged_rows.faults import forget as look_anew
from brasspenny.http import utc_now
from brasspenny.store import connection
from tests.api.host import Host
from tests.api.test_bench_files import a_small_bench
from tests.conftest import Ticking
from tests.let_in import LetInClient, empty_bench
from tests.mutated import ODD, a_bench, mutated_bytes, zipped

PAGES = ("", "/progress", "/results", "/flights", "/verdict", "/verdict/next", "/verdict/value", "/plan", "/report", "/history", "/slots", "/run-sheet")
LISTS = ("/trials", "/brews", "/charts", "/search?q=a", "/people", "/kit", "/recipes", "/palate", "/bench", "/loose-runs")


def a_workbook(raw: bytes, rng: random.Random) -> bytes:
    if rng.random() < 0.3:
        return mutated_bytes(raw, rng)
    with zipfile.ZipFile(io.BytesIO(raw)) as packed:
        parts = {name: packed.read(name) for name in packed.namelist()}
    name = rng.choice(list(parts))
    return zipped(parts | {name: mutated_bytes(parts[name], rng)})


def a_picture(rng: random.Random) -> bytes:
    whole = io.BytesIO()
    Image.new("RGB", (rng.randrange(1, 60), rng.randrange(1, 60)), "brown").save(whole, rng.choice(("JPEG", "PNG", "WEBP", "GIF", "BMP")))
    return mutated_bytes(whole.getvalue(), rng)


def a_bomb(rng: random.Random) -> bytes:
    """A PNG of a few hundred kilobytes that says it is very large."""
    whole = io.BytesIO()
    Image.new("1", (rng.choice((7_000, 9_000, 20_000)), rng.choice((7_000, 20_000)))).save(whole, "PNG")
    return whole.getvalue()


def main() -> int:
    rounds, seed = (int(a) for a in [*sys.argv[1:], *("250", "28")[len(sys.argv) - 1 :]][:2])
    rng, faults = random.Random(seed), []
    with served.database("brasspenny_hostile") as server, tempfile.TemporaryDirectory() as folder:
        app = create_app(Serving(database_url=server.url, secret=b"a secret for benchmarks, 32 bytes", clock=utc_now))
        app.testing = app.config["PROPAGATE_EXCEPTIONS"] = False  # an error is an answer here, and its trace is logged
        app.config["CLOCK"] = Ticking()
        app.test_client_class = LetInClient
        host = Host(app.test_client())
        a_small_bench(host)
        with connection.database.connection_context():
            out.to_folder(Path(folder) / "bench", utc_now())
        parts = {str(p.relative_to(f"{folder}/bench")): p.read_bytes() for p in Path(f"{folder}/bench").rglob("*") if p.is_file()}
        empty_bench()
        book = openpyxl.Workbook()
        for row in (["Date", "Coffee", "Dose", "Water"], ["2026-03-01", "Peru", 18.5, 290], ["2026-03-02", "Peru", "18,2", 288]):
            book.active.append(row)
        whole = io.BytesIO()
        book.save(whole)
        run = host.call("POST", "/loose-runs", {"name": "Cup", "variables": {"dose_g": 18.0, "brew_water_g": 290.0}, "dose_g": 18.0})["id"]
        table = b"Date;Coffee;Dose;Water\n2026-03-01;Peru;18,5;290\n2026-03-02;Peru;18;288\n"

        def sent(path: str, raw: bytes, **more):
            return lambda: host.client.post(f"/api/v1{path}", json={"data": base64.b64encode(raw).decode() or "AAAA"} | more)

        def benches() -> Callable:
            raw = a_bench(parts, rng)
            return lambda: host.client.post("/api/v1/bench-import", data=raw, content_type="application/zip")

        kinds: dict[str, Callable[[], Callable]] = {
            "benches": benches,
            "workbooks": lambda: sent("/imports/look", a_workbook(whole.getvalue(), rng)),
            "tables": lambda: sent("/imports/look", mutated_bytes(table, rng)),
            "pictures": lambda: sent(f"/runs/{run}/photos", a_picture(rng), kind="bed"),
            "picture bombs": lambda: sent(f"/runs/{run}/photos", a_bomb(rng), kind="bed"),
        }
        for kind, make in kinds.items():
            answers: Counter[int] = Counter()
            longest, before = 0.0, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
            for _ in range(rounds if kind != "picture bombs" else max(3, rounds // 50)):
                ask = make()
                began = time.perf_counter()
                answer = ask()
                longest = max(longest, time.perf_counter() - began)
                answers[answer.status_code] += 1
                if answer.status_code >= 500:
                    faults.append((kind, answer.status_code, answer.get_data(as_text=True)[:200]))
                if kind == "benches" and answer.status_code == 200:
                    faults += looked_at(host)
                    empty_bench()
                    run = host.call("POST", "/loose-runs", {"name": "Cup", "variables": {"dose_g": 18.0, "brew_water_g": 290.0}, "dose_g": 18.0})["id"]
                if kind.startswith("picture") and answer.status_code == 201:
                    host.call("DELETE", f"/photos/{answer.get_json()['id']}")
            grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
            print(f"{kind:14} {dict(sorted(answers.items()))}  longest {longest:.2f} s, memory + {grown:.0f} MB", flush=True)
        faults += backups(Path(folder), host, rng, max(10, rounds // 25))
    for fault in faults[:20]:
        print("FAULT", fault)
    print(f"{len(faults)} faults")
    return 1 if faults else 0


def a_backup(parts: dict[str, bytes], rng: random.Random) -> bytes:
    """Bytes of it are others; or a value of a row is, and the manifest agrees."""
    if rng.random() < 0.4:
        return mutated_bytes(zipped(parts), rng)
    name = rng.choice([n for n in parts if n.startswith("tables/") and len(parts[n]) > 2 and "schema_migration" not in n])
    lines = parts[name].decode().splitlines()
    number = rng.randrange(len(lines))
    row = json.loads(lines[number])
    place = rng.randrange(len(row))
    row[place] = rng.choice([*(v for v in ODD if v not in ("\ud800",)), json.dumps(rng.choice([[1], {"a": 1}, "zzz"]))])
    lines[number] = json.dumps(row, ensure_ascii=False)
    raw = ("\n".join(lines) + "\n").encode()
    manifest = json.loads(parts["manifest.json"])
    manifest["tables"][Path(name).stem]["sha256"] = hashlib.sha256(raw).hexdigest()
    return zipped(parts | {name: raw, "manifest.json": json.dumps(manifest).encode()})


def backups(folder: Path, host: Host, rng: random.Random, rounds: int) -> list[tuple]:
    """Each is restored over the bench, or refused with a sentence; the bench is looked at, and the true one put back."""
    a_small_bench(host)
    backup.make(folder / "true.zip", utc_now())
    with zipfile.ZipFile(folder / "true.zip") as packed:
        parts = {name: packed.read(name) for name in packed.namelist()}
    answers: Counter[str] = Counter()
    faults: list[tuple] = []
    longest = 0.0
    for number in range(rounds):
        (folder / "other.zip").write_bytes(a_backup(parts, rng))
        began = time.perf_counter()
        try:
            _, aside = backup.restore(folder / "other.zip", utc_now() + timedelta(hours=number))
        except backup.Broken:
            answers["refused"] += 1
            continue
        except Exception as error:
            faults.append(("backups", type(error).__name__, str(error)[:200]))
            continue
        finally:
            longest = max(longest, time.perf_counter() - began)
        answers["restored"] += 1
        look_anew()
        faults += looked_at(host)
        for restored in (aside, backup.restore(folder / "true.zip", utc_now() + timedelta(hours=number, minutes=1))[1]):
            with connection.database.connection_context():
                connection.database.execute_sql(f"DROP DATABASE `{restored}`")
    print(f"{'backups':14} {dict(answers)}  longest {longest:.2f} s", flush=True)
    return faults


def looked_at(host: Host) -> list[tuple]:
    """Pages that answer by 5xx now."""
    trials = [t["id"] for t in host.client.get("/api/v1/trials").get_json().get("trials", [])]
    wanted = [*LISTS, *(f"/trials/{t}{page}" for t in trials for page in PAGES)]
    return [("page", path, answer.get_data(as_text=True)[:200]) for path in wanted if (answer := host.client.get(f"/api/v1{path}")).status_code >= 500]


if __name__ == "__main__":
    sys.exit(main())
