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
from PIL import Image

from brasspenny.bench_files import into, out, reading
from brasspenny.bench_files.kinds import schema
from brasspenny.config import PROJECT
from brasspenny.store import connection

from ..let_in import empty_bench

NOW = datetime(2026, 3, 1, 9, tzinfo=UTC)


def a_small_bench(host):
    """One trial flipped, one flight sealed and open, a loose brew: every kind of row that has rules of its own."""
    trial, _, runs = host.two_setups_brewed()
    people = [host.person(name) for name in ("Odile", "Marek", "Thandi")]
    host.taste(host.flight(trial["id"], runs, people), lambda mark, taster: 4 + mark - taster % 2)
    sealed = host.flight(trial["id"], runs, people, blinding="runner")
    host.score(sealed["sheets"][0], host.touch(sealed["cups"][0]["code"], value=6))
    loose = {"name": "Morning cup", "variables": {"dose_g": 18.0, "brew_water_g": 290.0}, "dose_g": 18.0, "tds_readings_pct": [1.41]}
    host.call("POST", "/loose-runs", loose)
    host.get(f"/trials/{trial['id']}/verdict")


@pytest.fixture
def small(host, made_once):
    """A host on a small bench; the whole demo is taken out and read in by the first and the fourth test."""
    made_once(a_small_bench)
    return host


def taken_out(folder: Path) -> Path:
    with connection.database.connection_context():
        out.to_folder(folder, NOW)
    return folder


def read_in(path: Path):
    with connection.database.connection_context():
        return into.write(reading.read(reading.reader_of(path)), NOW)


emptied = empty_bench


def files(folder: Path):
    return {str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*") if p.is_file()}


def test_the_round_trip_is_the_same_to_the_last_byte_verdicts_included(demo, tmp_path):
    waters = next(t["id"] for t in demo.get("/trials")["trials"] if t["question"].startswith("Can anybody"))
    demo.call("DELETE", f"/flights/{demo.get(f'/trials/{waters}/flights')['flights'][0]['id']}")  # one that is being tasted stays where it is
    verdicts = {t["id"]: demo.get(f"/trials/{t['id']}/verdict") for t in demo.get("/trials")["trials"]}
    first = taken_out(tmp_path / "first")
    emptied()
    arrived = read_in(first)
    assert arrived.here == arrived.kept == {} and sum(arrived.came.values()) > 2500
    assert files(taken_out(tmp_path / "second")) == files(first)
    assert {t: demo.get(f"/trials/{t}/verdict") for t in verdicts} == verdicts


def test_a_second_time_changes_nothing(small, tmp_path):
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
    both = [files(first), files(taken_out(tmp_path / "second"))]
    kinds = [json.loads(found.pop("manifest.json"))["kinds"] for found in both]  # how many flights stay behind is the other bench's
    assert both[0] == both[1] and kinds[0] == kinds[1]


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


def test_what_is_here_with_other_values_stands(small, tmp_path):
    other = taken_out(tmp_path / "other")
    person = small.get("/people")["people"][0]
    small.call("PATCH", f"/people/{person['id']}", {"name": "Somebody else"}, rev=person["rev"])
    arrived = read_in(other)
    assert arrived.kept == {"person": 1} and "this bench keeps its versions" in " ".join(into.said(arrived))
    assert "Somebody else" in [p["name"] for p in small.get("/people")["people"]]


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


def test_a_bench_written_by_the_first_version_comes_in_under_the_present_names(small, tmp_path):
    press = {"kind": "brewer", "name": "Galley press", "brewer": {"brewer_type": "press_pot", "yield_basis": "in_cup"}}
    item = small.call("POST", "/kit", press, status=201)
    trial = small.get("/trials")["trials"][0]
    small.call("PATCH", f"/trials/{trial['id']}", {"yield_basis": "full_liquor"}, rev=small.get(f"/trials/{trial['id']}")["rev"])
    now = files(taken_out(tmp_path / "now"))
    folder = taken_out(tmp_path / "older")
    for name in ("trial", "kit_item", "setup_revision", "change"):
        rewritten(folder, f"data/{name}.json", lambda text: text.replace('"yield_basis":', '"school":'))
    rewritten(folder, "manifest.json", lambda text: text.replace('"version": 2', '"version": 1'))
    assert b'"school":' in (folder / "data/change.json").read_bytes()
    emptied()
    read_in(folder)
    assert small.get(f"/kit/{item['id']}")["item"]["brewer"]["yield_basis"] == "in_cup"
    assert small.get(f"/trials/{trial['id']}")["yield_basis"] == "full_liquor"
    again = files(taken_out(tmp_path / "again"))
    assert {name for name in now if again[name] != now[name]} == {"manifest.json"}, "which counts the flights that were not flipped"


@pytest.mark.parametrize(
    ("name", "change", "words"),
    [
        ("data/run.json", lambda t: t.replace('"dose_g": 18.0', '"dose_g": "much"', 1), r"run.json, row \d+, dose_g: it is no number"),
        ("data/person.json", lambda t: t.replace('"name": "', '"shoe": 1, "name": "', 1), "shoe is no field"),
        ("data/person.json", lambda t: t.replace('"name": "', f'"name": "{"x" * 200}', 1), "more than 80 characters"),
        ("data/trial.json", lambda t: "{", "holds no rows"),
        ("data/run.json", lambda t: t.replace('"brewed_at": "', '"brewed_at": "soon ', 1), "brewed_at"),
        ("data/bench.json", lambda t: t.replace('"heat_unit": "C"', '"heat_unit": "K"', 1), "none of C, F"),
        ("data/run.json", lambda t: t.replace('"purpose": "loose"', '"purpose": "proof"', 1), "none of evidence, dial_in, loose"),
        ("data/flight.json", lambda t: t.replace('"status": "flipped"', '"status": "open"', 1), "none of flipped"),
        ("manifest.json", lambda t: t.replace('"version": 2', '"version": 3'), "newer program"),
        ("manifest.json", lambda t: t.replace("brass-penny-bench", "something"), "no bench in it"),
    ],
)
def test_a_file_that_cannot_be_is_refused_by_row_and_field_and_nothing_is_written(small, tmp_path, name, change, words):
    folder = taken_out(tmp_path / "e")
    rewritten(folder, name, change)
    emptied()
    with pytest.raises(reading.NotABench, match=words):
        read_in(folder)
    assert small.get("/people")["people"] == []


def test_a_file_changed_behind_the_manifests_back_is_refused(small, tmp_path):
    folder = taken_out(tmp_path / "e")
    path = folder / "data/reading.json"
    path.write_text(path.read_text().replace("1.4", "1.5", 1))
    with pytest.raises(reading.NotABench, match="not what the manifest says"):
        read_in(folder)


def test_a_row_that_points_at_nobody_takes_all_back(small, tmp_path):
    folder = taken_out(tmp_path / "e")
    rewritten(folder, "data/person.json", lambda t: "[]\n")
    emptied()
    with pytest.raises(reading.NotABench, match="do not fit together"):
        read_in(folder)
    assert small.get("/kit")["items"] == []


def test_csv_cells_run_in_no_spreadsheet_and_the_secrets_stay(small, tmp_path):
    small.call("POST", "/people", {"name": "=cmd|' /C calc'!A0"})
    folder = taken_out(tmp_path / "e")
    names = [row["name"] for row in csv.DictReader(io.StringIO((folder / "csv/person.csv").read_text(encoding="utf-8-sig")))]
    assert "'=cmd|' /C calc'!A0" in names
    everything = b"".join(files(folder).values())
    with connection.database.connection_context():
        (secret,) = connection.database.execute_sql("SELECT secret FROM bench").fetchone()
    assert b"passphrase_hash" not in everything and (not secret or secret.encode() not in everything)


def test_nothing_that_depends_on_a_locked_key_leaves_the_bench(small, tmp_path):
    folder = taken_out(tmp_path / "e")
    with connection.database.connection_context():
        (locked,) = connection.database.execute_sql("SELECT locked_key FROM seal s JOIN flight f ON f.id = s.flight_id WHERE f.flipped_at IS NULL").fetchone()
    everything = b"".join(files(folder).values())
    assert locked and locked.encode() not in everything
    with connection.database.connection_context():
        (flight,) = connection.database.execute_sql("SELECT id FROM flight WHERE flipped_at IS NULL").fetchone()
    assert flight not in (folder / "data/flight.json").read_text() and flight not in (folder / "data/sheet.json").read_text()
    assert json.loads((folder / "manifest.json").read_text())["flights_not_flipped"] == 1


def test_every_page_of_every_trial_opens_on_the_bench_that_read_it_in(small, tmp_path):
    folder = taken_out(tmp_path / "e")
    emptied()
    read_in(folder)
    for trial in small.get("/trials")["trials"]:
        for page in ("setups", "results", "flights", "progress", "verdict", "report", "plan", "photos"):
            answer = small.client.get(f"/api/v1/trials/{trial['id']}/{page}")
            assert answer.status_code in (200, 404), (trial["question"], page, answer.get_data(as_text=True))
        for flight in small.get(f"/trials/{trial['id']}/flights")["flights"]:
            assert flight["status"] == "flipped"


def with_photo(small, folder):
    """An export in which a brew has a picture; its row and its file."""
    picture = io.BytesIO()
    Image.new("RGB", (64, 48), "brown").save(picture, "JPEG")
    run = small.get("/loose-runs")["runs"][0]["id"]
    small.call("POST", f"/runs/{run}/photos", {"kind": "bed", "data": base64.b64encode(picture.getvalue()).decode()})
    taken_out(folder)
    (row,) = json.loads((folder / "data/photo.json").read_text())
    return folder / row["image"]


def test_a_picture_goes_and_comes_with_its_brew(small, tmp_path):
    raw = with_photo(small, tmp_path / "e").read_bytes()
    emptied()
    read_in(tmp_path / "e")
    run = small.get("/loose-runs")["runs"][0]["id"]
    (photo,) = small.get(f"/runs/{run}/photos")["photos"]
    assert small.client.get(f"/api/v1/photos/{photo['id']}").data == raw


@pytest.mark.parametrize("kind", ["page", "png", "placed", "cut"])
def test_no_file_that_is_not_a_small_plain_jpeg_comes_in_as_a_picture(small, tmp_path, kind):
    """What is served from the bench's own address is a picture and nothing else."""
    file = with_photo(small, tmp_path / "e")
    out = io.BytesIO()
    if kind == "page":
        out.write(b"<html><script>alert(1)</script>")
    elif kind == "png":
        Image.new("RGB", (9, 9)).save(out, "PNG")
    elif kind == "placed":
        exif = Image.Exif()
        exif[0x010E] = "taken at the quay"
        Image.new("RGB", (9, 9)).save(out, "JPEG", exif=exif)
    else:
        out.write(file.read_bytes()[:40])
    file.write_bytes(out.getvalue())
    emptied()
    with pytest.raises(reading.NotABench, match="no picture as a bench keeps it"):
        read_in(tmp_path / "e")


def test_a_picture_that_calls_itself_a_page_is_refused(small, tmp_path):
    with_photo(small, tmp_path / "e")
    rewritten(tmp_path / "e", "data/photo.json", lambda t: t.replace("image/jpeg", "text/html"))
    emptied()
    with pytest.raises(reading.NotABench, match="media_type: it is none of image/jpeg"):
        read_in(tmp_path / "e")


def test_the_published_schema_is_the_tables_own_and_every_row_fits_it(small, tmp_path):
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
    answer = demo.bring_in(got.data)
    assert answer["came"]["run"] == 57 and "imported" in answer["said"][0]
    assert demo.bring_in(b"no zip, whatever it says", status=422)["errors"][0]["field"] == "data"
    lines = {"Accept": "application/x-ndjson"}
    told = demo.client.post("/api/v1/bench-import", data=got.data, content_type="application/zip", headers=lines)
    *steps, last = [json.loads(line) for line in told.text.splitlines()]
    assert told.mimetype == "application/x-ndjson" and last["answer"]["came"] == {} and last["answer"]["here"]["run"] == 57
    assert len(steps) > 3 and [s["done"] for s in steps] == sorted(s["done"] for s in steps) and all(s["done"] <= s["of"] for s in steps)
    refused = demo.client.post("/api/v1/bench-import", json={"data": base64.b64encode(b"no zip, whatever it says").decode()}, headers=lines)
    assert json.loads(refused.text)["problem"]["errors"][0]["field"] == "data"


@pytest.mark.parametrize("data", ["ßßßßßßßßßßßßßßßßßßßß", "not base64 at all !!", "AAAAAAAAAAAAAAAAAAAAA"])
def test_what_is_no_file_in_base64_is_refused_wherever_one_is_sent(host, data):
    trial = host.ask()
    run = host.brew(trial["id"], host.setup(trial["id"]))
    for path, more in (("/imports/look", {}), (f"/runs/{run['id']}/photos", {"kind": "bed"})):
        refused = host.call("POST", path, {"data": data} | more, status=422)
        assert [e["field"] for e in refused["errors"]] == ["data"], path


def test_an_import_that_nobody_waits_for_any_more_writes_nothing(demo, tmp_path):
    rows = reading.read(reading.reader_of(taken_out(tmp_path / "bench")))
    emptied()
    with connection.database.connection_context():
        steps = into.write_steps(rows, NOW)
        next(steps)
        steps.close()  # the browser went away
    assert demo.get("/trials")["trials"] == [] and demo.get("/people")["people"] == []
    with connection.database.connection_context():
        assert sum(into.write(rows, NOW).came.values()) > 100


def test_reading_a_bench_stops_where_whoever_sent_it_leaves(small, tmp_path, monkeypatch):
    folder, seen = taken_out(tmp_path / "bench"), []
    monkeypatch.setattr(reading, "TELLS_EVERY", 5)
    check = reading.check
    monkeypatch.setattr(reading, "check", lambda kind, row: (seen.append(kind), check(kind, row)))
    steps = reading.read_steps(reading.reader_of(folder))
    done, of = next(steps)
    steps.close()
    assert (done, len(seen)) == (5, 5) and of > 50
