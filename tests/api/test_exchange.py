"""A whole bench out and in: the same to the last field, twice is once, and what arrives at a living bench finds its place."""

import base64
import csv
import io
import json
import random
import zipfile
from datetime import UTC, datetime
from pathlib import Path

import pytest

from brasspenny.config import PROJECT
from brasspenny.demo import scenario
from brasspenny.exchange import into, out
from brasspenny.exchange.kinds import schema
from brasspenny.store import connection
from brasspenny.tasting.links import LinkMaker

from ..conftest import SECRET

NOW = datetime(2026, 3, 1, 9, tzinfo=UTC)


@pytest.fixture
def demo(app, host):
    with connection.database.connection_context():
        scenario.load(LinkMaker(SECRET, ""))
    return host


def taken_out(folder: Path) -> Path:
    with connection.database.connection_context():
        out.to_folder(folder, NOW)
    return folder


def read_in(path: Path):
    with connection.database.connection_context():
        return into.write(into.read(into.reader_of(path)))


def emptied():
    with connection.database.connection_context():
        scenario.wipe()


def files(folder: Path):
    return {str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*") if p.is_file()}


def test_the_round_trip_is_the_same_to_the_last_byte_verdicts_included(demo, tmp_path):
    verdicts = {t["id"]: demo.get(f"/trials/{t['id']}/verdict") for t in demo.get("/trials")["trials"]}
    first = taken_out(tmp_path / "first")
    emptied()
    arrived = read_in(first)
    assert arrived.here == arrived.kept == {} and sum(arrived.came.values()) > 2500
    assert files(taken_out(tmp_path / "second")) == files(first)
    assert {t: demo.get(f"/trials/{t}/verdict") for t in verdicts} == verdicts


def test_a_second_time_changes_nothing(demo, tmp_path):
    first = taken_out(tmp_path / "first")
    arrived = read_in(first)
    assert arrived.came == arrived.kept == arrived.renumbered == {}
    assert into.said(arrived) == [f"Nothing new: all {sum(arrived.here.values())} rows are already here."]
    assert files(taken_out(tmp_path / "second")) == files(first)


@pytest.mark.parametrize("seed", range(3))
def test_made_up_benches_come_back_as_they_were(host, tmp_path, seed):
    rng = random.Random(seed)
    for _ in range(rng.randint(1, 3)):
        trial, _, runs = host.two_setups_brewed()
        people = [host.person(f"Taster {rng.randint(0, 10**9)}") for _ in range(rng.randint(2, 4))]
        flight = host.flight(trial["id"], runs, people)
        if rng.random() < 0.7:
            host.taste(flight, lambda mark, taster: rng.randint(1, 9))
        if rng.random() < 0.5:
            host.call("PATCH", f"/runs/{runs[0]}/filing", {"tags": ["naïve", "=1+1"]}, rev=1)
    host.call("POST", "/loose-runs", {"name": "“Quoted”, cup\n2", "variables": {"dose_g": 18.0, "brew_water_g": 290.5}, "dose_g": 18.01, "note": 'a;b,c\t"d"'})
    first = taken_out(tmp_path / "first")
    emptied()
    read_in(first)
    assert files(taken_out(tmp_path / "second")) == files(first)


def test_a_living_bench_keeps_its_own_and_takes_the_other_in_beside(demo, tmp_path):
    other = taken_out(tmp_path / "other")
    emptied()
    odile, peru = demo.person("Odile"), demo.call("POST", "/kit", {"kind": "coffee", "name": "Peru washed, lot 7", "coffee": {}})["id"]
    own, _, _ = demo.two_setups_brewed()
    arrived = read_in(other)
    assert set(arrived.known) >= {"Odile", "Peru washed, lot 7"} and arrived.renumbered == {1: 10}
    trials = {t["number"]: t for t in demo.get("/trials")["trials"]}
    assert len(trials) == 10 and trials[1]["question"] == own["question"] and trials[10]["question"] == "Is the motor mill worth it?"
    assert [p["id"] for p in demo.get("/people")["people"] if p["name"] == "Odile"] == [odile]
    assert [i["id"] for i in demo.get("/kit")["items"] if i["name"] == "Peru washed, lot 7"] == [peru]
    filters = next(t for t in trials.values() if t["question"].startswith("Which filter"))
    assert demo.get(f"/trials/{filters['id']}/verdict")["answer"]["headline"] == "Drop Steel mesh; lean towards White weave"
    with connection.database.connection_context():  # nothing points at nobody
        (orphans,) = connection.database.execute_sql("SELECT COUNT(*) FROM sheet s LEFT JOIN person p ON p.id = s.person_id WHERE p.id IS NULL").fetchone()
        assert orphans == 0
    assert read_in(other).came == {}


def test_what_is_here_with_other_values_stands(demo, tmp_path):
    other = taken_out(tmp_path / "other")
    person = demo.get("/people")["people"][0]
    demo.call("PATCH", f"/people/{person['id']}", {"name": "Somebody else"}, rev=person["rev"])
    arrived = read_in(other)
    assert arrived.kept == {"person": 1} and "this bench keeps its versions" in " ".join(into.said(arrived))
    assert "Somebody else" in [p["name"] for p in demo.get("/people")["people"]]


def rewritten(folder: Path, name: str, change):
    path = folder / name
    raw = change(path.read_text())
    path.write_text(raw)
    import hashlib

    manifest = json.loads((folder / "manifest.json").read_text())
    kind = Path(name).stem
    if kind in manifest["kinds"]:
        manifest["kinds"][kind]["sha256"] = hashlib.sha256(raw.encode()).hexdigest()
        (folder / "manifest.json").write_text(json.dumps(manifest))


@pytest.mark.parametrize(
    ("name", "change", "words"),
    [
        ("data/run.json", lambda t: t.replace('"dose_g": 18.0', '"dose_g": "much"', 1), r"run.json, row \d+, dose_g: it is no number"),
        ("data/person.json", lambda t: t.replace('"name": "', '"shoe": 1, "name": "', 1), "shoe is no field"),
        ("data/person.json", lambda t: t.replace('"name": "', f'"name": "{"x" * 200}', 1), "more than 80 characters"),
        ("data/trial.json", lambda t: "{", "holds no rows"),
        ("data/run.json", lambda t: t.replace('"brewed_at": "', '"brewed_at": "soon ', 1), "brewed_at"),
        ("manifest.json", lambda t: t.replace('"version": 1', '"version": 2'), "newer program"),
        ("manifest.json", lambda t: t.replace("brass-penny-bench", "something"), "no bench in it"),
    ],
)
def test_a_file_that_cannot_be_is_refused_by_row_and_field_and_nothing_is_written(demo, tmp_path, name, change, words):
    folder = taken_out(tmp_path / "e")
    rewritten(folder, name, change)
    emptied()
    with pytest.raises(into.NotABench, match=words):
        read_in(folder)
    assert demo.get("/people")["people"] == []


def test_a_file_changed_behind_the_manifests_back_is_refused(demo, tmp_path):
    folder = taken_out(tmp_path / "e")
    path = folder / "data/reading.json"
    path.write_text(path.read_text().replace("1.4", "1.5", 1))
    with pytest.raises(into.NotABench, match="not what the manifest says"):
        read_in(folder)


def test_a_row_that_points_at_nobody_takes_all_back(demo, tmp_path):
    folder = taken_out(tmp_path / "e")
    rewritten(folder, "data/person.json", lambda t: "[]\n")
    emptied()
    with pytest.raises(Exception, match="foreign key"):
        read_in(folder)
    assert demo.get("/kit")["items"] == []


def test_csv_cells_run_in_no_spreadsheet_and_the_secrets_stay(demo, tmp_path):
    demo.call("POST", "/people", {"name": "=cmd|' /C calc'!A0"})
    folder = taken_out(tmp_path / "e")
    names = [row["name"] for row in csv.DictReader(io.StringIO((folder / "csv/person.csv").read_text(encoding="utf-8-sig")))]
    assert "'=cmd|' /C calc'!A0" in names
    everything = b"".join(files(folder).values())
    with connection.database.connection_context():
        (secret,) = connection.database.execute_sql("SELECT secret FROM bench").fetchone()
    assert b"passphrase_hash" not in everything and (not secret or secret.encode() not in everything)


def test_nothing_that_depends_on_a_locked_key_leaves_the_bench(demo, tmp_path):
    folder = taken_out(tmp_path / "e")
    with connection.database.connection_context():
        (locked,) = connection.database.execute_sql("SELECT locked_key FROM seal s JOIN flight f ON f.id = s.flight_id WHERE f.flipped_at IS NULL").fetchone()
    assert locked and locked.encode() not in b"".join(files(folder).values())


def test_the_published_schema_is_the_tables_own_and_every_row_fits_it(demo, tmp_path):
    published = json.loads((PROJECT / "docs/bench-format.schema.json").read_text())
    assert published == schema(), "run: docs/write_bench_schema.py"
    folder = taken_out(tmp_path / "e")
    types = {"string": str, "integer": int, "number": (int, float), "boolean": bool, "null": type(None)}
    for kind, told in published["$defs"].items():
        for row in json.loads((folder / f"data/{kind}.json").read_text()):
            assert set(row) == set(told["required"])
            for name, value in row.items():
                wanted = told["properties"][name].get("type")
                assert (
                    wanted is None
                    or isinstance(
                        value, tuple(types[t] if not isinstance(types[t], tuple) else float for t in ([wanted] if isinstance(wanted, str) else wanted))
                    )
                    or (isinstance(value, int) and "number" in wanted)
                ), (kind, name, value)


def test_over_the_wire_it_is_the_same_zip_out_and_in(demo):
    got = demo.client.get("/api/v1/export.zip")
    assert got.status_code == 200 and "attachment" in got.headers["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(got.data)) as packed:
        assert {"manifest.json", "schema.json", "README.txt", "data/run.json", "csv/run.csv"} <= set(packed.namelist())
    emptied()
    answer = demo.call("POST", "/bench-import", {"data": base64.b64encode(got.data).decode()}, status=200)
    assert answer["came"]["run"] == 57 and "imported" in answer["said"][0]
    assert demo.call("POST", "/bench-import", {"data": base64.b64encode(b"no zip, whatever it says").decode()}, status=422)["errors"][0]["field"] == "data"
