"""A bench in one file: taken while it is written to, proved by being put back, refused when damaged or too new; what was there is kept aside."""

import hashlib
import json
import os
import stat
import subprocess
import sys
import threading
import zipfile
from datetime import UTC, datetime

import pytest

from brasspenny import backup, nightly
from brasspenny.config import PROJECT
from brasspenny.store import connection, dump

from ..let_in import empty_bench

NOW = datetime(2026, 3, 1, 9, tzinfo=UTC)


@pytest.fixture
def made(demo, tmp_path):
    path = tmp_path / "bench.zip"
    done = backup.make(path, NOW)
    assert done.compared and done.rows > 2000
    return path


@pytest.fixture
def put_back():
    """Restores, and takes the bench that was put aside away again."""
    aside = []

    def restore(path):
        done, name = backup.restore(path, NOW)
        aside.append(name)
        return done, name

    yield restore
    with connection.database.connection_context():
        for name in aside:
            connection.database.execute_sql(f"DROP DATABASE `{name}`")
        left = [n for (n,) in connection.database.execute_sql("SHOW DATABASES").fetchall() if "_scratch_" in n or "_restored_" in n or "_before_" in n]
    assert left == []


def manifest(path):
    with zipfile.ZipFile(path) as packed:
        return json.loads(packed.read("manifest.json"))


def rewritten(path, name, change):
    """A copy of a backup with one of its parts changed."""
    other = path.with_name("other.zip")
    with zipfile.ZipFile(path) as old, zipfile.ZipFile(other, "w") as new:
        for part in old.namelist():
            new.writestr(part, change(old.read(part)) if part == name else old.read(part))
    return other


def test_what_is_put_back_is_the_bench_as_it_was_to_the_last_row(demo, made, put_back, tmp_path):
    trial = next(t["id"] for t in demo.get("/trials")["trials"] if t["question"].startswith("Which filter"))
    before = demo.get(f"/trials/{trial}/verdict")
    empty_bench()
    done, aside = put_back(made)
    assert done.rows == sum(t["rows"] for t in manifest(made)["tables"].values())
    assert demo.get(f"/trials/{trial}/verdict") == before
    again = tmp_path / "again.zip"
    backup.make(again, NOW)
    assert manifest(again)["tables"] == manifest(made)["tables"]
    with connection.database.connection_context():
        assert connection.database.execute_sql(f"SELECT COUNT(*) FROM `{aside}`.trial").fetchone() == (0,)  # the emptied bench lies there


def test_only_its_owner_may_read_it_and_none_is_written_over(made):
    assert stat.S_IMODE(os.stat(made).st_mode) == 0o600
    size = made.stat().st_size
    with pytest.raises(backup.Broken, match="is there already"):
        backup.make(made, NOW)
    assert made.stat().st_size == size and list(made.parent.glob(".*")) == []


def test_a_backup_taken_while_brews_are_logged_is_of_one_moment(host, tmp_path):
    trial, setups, _ = host.two_setups_brewed()
    stop, logged = threading.Event(), []

    def brew():
        while not stop.is_set():
            body = {"setup_id": setups[0]["id"], "dose_g": 18, "brew_water_g": 290, "beverage_g": 250, "tds_readings_pct": [1.4, 1.41]}
            logged.append(host.call("POST", f"/trials/{trial['id']}/runs", body))

    busy = threading.Thread(target=brew)
    busy.start()
    try:
        while len(logged) < 3:
            pass
        for i in range(3):
            assert backup.make(tmp_path / f"{i}.zip", NOW).compared
    finally:
        stop.set()
        busy.join()
    for i in range(3):  # a brew is there with both its readings or not at all
        with zipfile.ZipFile(tmp_path / f"{i}.zip") as packed:
            told = manifest(tmp_path / f"{i}.zip")["tables"]
            column = list(told["reading"]["columns"]).index("run_id")
            runs = [json.loads(line)[column] for line in packed.read("tables/reading.jsonl").decode().splitlines()]
            ids = {json.loads(line)[0] for line in packed.read("tables/run.jsonl").decode().splitlines()}
        assert set(runs) <= ids and all(runs.count(r) in (1, 2, 3) for r in set(runs))


def test_a_damaged_file_is_refused_and_nothing_is_changed(demo, made, put_back):
    before = demo.get("/trials")
    for part, change in (
        ("tables/reading.jsonl", lambda raw: raw.replace(b"1.4", b"1.5", 1)),
        ("tables/person.jsonl", lambda raw: raw[: len(raw) // 2]),
        ("schema/person.sql", lambda raw: b"DROP TABLE `person`"),
        ("manifest.json", lambda raw: raw.replace(b'"rows": 6', b'"rows": 7', 1).replace(b'"rows": 8', b'"rows": 9', 1)),
    ):
        with pytest.raises(backup.Broken):
            backup.restore(rewritten(made, part, change), NOW)
    assert demo.get("/trials") == before


def odd_row(raw: bytes) -> bytes:
    """The first row with an object in place of a text."""
    first, rest = raw.split(b"\n", 1)
    row = json.loads(first)
    row[1] = {"a": 1}
    return json.dumps(row).encode() + b"\n" + rest


def test_a_value_that_no_column_takes_is_refused_with_a_sentence_though_the_manifest_agrees(demo, made):
    before = demo.get("/trials")
    with zipfile.ZipFile(made) as packed:
        raw = odd_row(packed.read("tables/person.jsonl"))
    with_manifest(made, lambda m: m["tables"]["person"].update(sha256=hashlib.sha256(raw).hexdigest()))
    with pytest.raises(backup.Broken, match="could not be put back"):
        backup.restore(rewritten(made, "tables/person.jsonl", lambda _: raw), NOW)
    assert demo.get("/trials") == before


def with_manifest(made, change):
    """The backup's file with another manifest, as somebody might write it."""
    with zipfile.ZipFile(made) as packed:
        parts = {name: packed.read(name) for name in packed.namelist()}
    manifest = json.loads(parts["manifest.json"])
    change(manifest)
    with zipfile.ZipFile(made, "w") as packed:
        for name, raw in parts.items():
            packed.writestr(name, json.dumps(manifest) if name == "manifest.json" else raw)


@pytest.mark.parametrize(
    "change",
    [
        lambda m: m.update(tables={}), lambda m: m.pop("tables"), lambda m: m["tables"].pop("person"), lambda m: m["tables"].pop("schema_migration"),
        lambda m: m["tables"]["bench"].update(rows=0), lambda m: m.update(version=0), lambda m: m.update(version="one"), lambda m: m.update(migrations=[]),
        lambda m: m["migrations"].pop(), lambda m: m["tables"]["person"].pop("sha256"), lambda m: m["tables"].update({"person; DROP": m["tables"]["person"]}),
        lambda m: m["tables"].update(person=[]), lambda m: m.update(format="another"), lambda m: m["tables"]["person"].update(columns={}),
    ],
)  # fmt: skip
def test_a_manifest_of_no_whole_bench_is_refused_and_the_bench_stays(demo, made, change):
    people = demo.get("/people")
    with_manifest(made, change)
    with pytest.raises(backup.Broken, match=r"no backup of a bench|no whole bench"):
        backup.restore(made, NOW)
    assert demo.get("/people") == people


def test_a_newer_programs_backup_is_refused_with_what_to_do(made):
    newer = rewritten(made, "manifest.json", lambda raw: raw.replace(b'"0001_first_tables"', b'"0001_first_tables", "0099_to_come"'))
    with pytest.raises(backup.Broken, match="newer program.*Bring the program up to date"):
        backup.restore(newer, NOW)


@pytest.mark.parametrize("raw", [b"", b"no zip at all", None])
def test_what_is_no_backup_says_so(app, tmp_path, raw):
    path = tmp_path / "x.zip"
    if raw is None:
        with zipfile.ZipFile(path, "w") as packed:
            packed.writestr("manifest.json", '{"format": "something else"}')
    else:
        path.write_bytes(raw)
    with pytest.raises(backup.Broken, match="is no backup"):
        backup.restore(path, NOW)
    with pytest.raises(backup.Broken, match="cannot be read"):
        backup.restore(tmp_path / "nowhere.zip", NOW)


def test_the_oldest_nightly_backups_go_and_nobody_elses_files(tmp_path):
    for day in range(1, 19):
        (tmp_path / f"brass-penny-202603{day:02d}-030000.zip").touch()
    (tmp_path / "brass-penny-mine.zip").touch()
    (tmp_path / "letters.zip").touch()
    gone = backup.drop_oldest(tmp_path)
    assert [p.name for p in gone] == [f"brass-penny-202603{day:02d}-030000.zip" for day in range(1, 5)]
    assert (tmp_path / "brass-penny-mine.zip").exists() and (tmp_path / "letters.zip").exists() and len(list(tmp_path.glob("brass*"))) == 15


class Ran:
    """Stands for the process that makes a backup: how it was called, and how it ended."""

    def __init__(self, command, **_):
        self.command, self.returncode = command, 0

    def poll(self):
        return self.returncode


def test_a_night_is_backed_up_once(tmp_path, monkeypatch):
    started = []
    monkeypatch.setattr(nightly.subprocess, "Popen", lambda command, **how: started.append(Ran(command, **how)) or started[-1])
    nights = nightly.Nights.set_by(str(tmp_path), datetime(2026, 3, 1, 22))
    for hour, minute in ((22, 30), (2, 59)):
        nights.tend(datetime(2026, 3, 1 if hour > 3 else 2, hour, minute))
    assert started == []
    for minute in range(0, 50, 10):
        nights.tend(datetime(2026, 3, 2, 3, minute))
    nights.tend(datetime(2026, 3, 3, 3, 1))
    assert [r.command[-2:] for r in started] == [["backup", str(tmp_path / f"brass-penny-2026030{d}-030{m}00.zip")] for d, m in ((2, 0), (3, 1))]
    none = nightly.Nights.set_by("", datetime(2026, 3, 1, 22))
    none.tend(datetime(2026, 3, 9, 3))
    assert len(started) == 2


def test_the_commands_back_up_a_running_bench_and_restore_a_stopped_one(tmp_path):
    """As a person does it: serve, back up meanwhile, stop, restore, and look."""
    from ..browser.conftest import demo as bench

    data, file, again = tmp_path / "data", tmp_path / "kept.zip", tmp_path / "again.zip"

    def penny(*words):
        command = [sys.executable, "-m", "brasspenny.cli", *map(str, words)]
        env = os.environ | {"PENNY_DATA": str(data), "PYTHONPATH": str(PROJECT / "src")}
        done = subprocess.run(command, env=env, capture_output=True, text=True)
        return done.returncode, done.stdout + done.stderr

    with bench(data, "serve"):
        code, said = penny("backup", file)
        assert code == 0 and "every row compared" in said
        code, said = penny("restore", file)
        assert code == 2 and "is running already" in said  # not under somebody's hands
    code, said = penny("restore", file)
    assert code == 0 and "is kept in the database" in said
    assert penny("backup", again)[0] == 0  # of a bench at rest, too
    assert {t: manifest(again)["tables"][t] for t in manifest(file)["tables"]} == manifest(file)["tables"]
    code, said = penny("backup", again)
    assert code == 2 and "is there already" in said


@pytest.mark.parametrize("when", ["written", "compared"])
def test_a_database_that_goes_away_leaves_no_file_and_a_sentence(demo, tmp_path, monkeypatch, when):
    read, cut = dump.lines, []

    def cut_off(conn, schema, table):
        for line in read(conn, schema, table):
            yield line
            if not cut and ("_scratch_" in schema) == (when == "compared"):
                cut.append(table)
                with connection.database.connection_context():
                    connection.database.execute_sql(f"KILL {conn.thread_id()}")

    monkeypatch.setattr(dump, "lines", cut_off)
    with pytest.raises(backup.Broken, match="database|put back"):
        backup.make(tmp_path / "bench.zip", NOW)
    assert cut and list(tmp_path.iterdir()) == []
    with connection.database.connection_context():
        for (name,) in connection.database.execute_sql("SHOW DATABASES").fetchall():
            if "_scratch_" in name:
                connection.database.execute_sql(f"DROP DATABASE `{name}`")
