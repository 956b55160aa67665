"""What a file may not do: nothing that can be reached by a bench's file can be reached otherwise than by hand."""

import hashlib
import io
import json
import random
from datetime import timedelta
from pathlib import Path

import pytest
from playhouse.mysql_ext import JSONField

from brasspenny.bench_files import into, kinds, reading, values
from brasspenny.store import connection

from ..amount import SEED, examples
from ..mutated import a_bench, renamed
from .test_bench_files import NOW, a_small_bench, emptied, read_in, taken_out


@pytest.fixture
def small(host, made_once):
    made_once(a_small_bench)
    return host


@pytest.fixture
def folder(small, tmp_path):
    """A small bench as files, to be tampered with."""
    return taken_out(tmp_path / "bench")


def rows(folder: Path, kind: str):
    return json.loads((folder / f"data/{kind}.json").read_text())


def tampered(folder: Path, kind: str, change):
    """change(rows) in place, with a manifest that agrees: whoever writes a file writes its hash, too."""
    found = rows(folder, kind)
    change(found)
    raw = json.dumps(found).encode()
    (folder / f"data/{kind}.json").write_bytes(raw)
    manifest = json.loads((folder / "manifest.json").read_text())
    manifest["kinds"][kind] = {"rows": len(found), "sha256": hashlib.sha256(raw).hexdigest()}
    (folder / "manifest.json").write_text(json.dumps(manifest))


def sql(statement: str, *values):
    with connection.database.connection_context():
        return connection.database.execute_sql(statement, values).fetchall()


def everything(kinds=("flight", "flight_cup", "sheet", "sheet_cup", "score", "seal", "run", "reading", "change", "setup")):
    return {kind: sorted(map(str, sql(f"SELECT * FROM `{kind}`"))) for kind in kinds}


# --- nothing is added to what is here ----------------------------------------------------------------------------------------------


def test_a_copy_that_was_flipped_elsewhere_brings_nothing_of_an_open_flight_home(host, tmp_path):
    trial, _, runs = host.two_setups_brewed()
    people = [host.person(name) for name in ("Odile", "Marek")]
    flight = host.flight(trial["id"], runs, people)
    host.taste(flight, lambda mark, taster: 3 + mark)
    copy = taken_out(tmp_path / "copy")
    sql_do("UPDATE flight SET status = 'open', closed_at = NULL, flipped_at = NULL")
    sql_do("UPDATE flight_cup SET run_id = NULL, mark = NULL")
    sql_do("DELETE FROM score")
    sql_do("DELETE FROM `change` WHERE entity = 'flight' AND action IN ('close', 'flip')")
    before = everything()
    arrived = read_in(copy)
    assert arrived.came == {} and any(f"trial {trial['number']}" in name for name in arrived.stays_out)
    assert everything() == before


def sql_do(statement: str, *values):
    with connection.database.connection_context():
        connection.database.execute_sql(statement, values)


def test_sheets_and_scores_written_into_a_flipped_flights_file_stay_out(small, folder):
    trial = small.get("/trials")["trials"][0]["id"]
    verdict = small.get(f"/trials/{trial}/verdict")
    before = everything()
    stranger = {"id": "stranger0001", "rev": 1, "created_at": "2026-02-01T10:00:00Z", "deleted_at": None, "name": "Nobody"}
    tampered(folder, "person", lambda found: found.append(stranger))
    sheet = rows(folder, "sheet")[0]
    tampered(folder, "sheet", lambda found: found.append(sheet | {"id": "sheet0000001", "person_id": "stranger0001"}))
    score = rows(folder, "score")[0]
    tampered(
        folder, "score", lambda found: found.append(score | {"id": "score0000001", "sheet_id": "sheet0000001", "uuid": "00000000-0000-4000-8000-000000000001"})
    )
    arrived = read_in(folder)
    assert arrived.came == {"person": 1} and arrived.kept == {"sheet": 1, "score": 1}
    assert everything() == before
    assert small.get(f"/trials/{trial}/verdict") == verdict


def test_rows_that_hang_on_something_that_is_not_theirs_are_refused_by_row(small, folder):
    """A trial that comes in as new and points into one that is here."""
    flight = rows(folder, "flight")[0]
    tampered(folder, "trial", lambda found: found.append(found[0] | {"id": "trial0000001", "number": 77}))
    tampered(folder, "flight", lambda found: found.append(flight | {"id": "flight000001", "trial_id": "trial0000001", "number": 9}))
    cup = rows(folder, "flight_cup")[0]
    tampered(folder, "flight_cup", lambda found: found.append(cup | {"id": "cup000000001", "flight_id": "flight000001"}))
    before = everything()
    with pytest.raises(reading.NotABench, match=r"flight_cup.json, row \d+: run_id: it points into something else"):
        read_in(folder)
    assert everything() == before


def test_an_id_of_this_bench_within_something_new_is_refused(small, folder):
    tampered(folder, "trial", lambda found: found[0].update(id="trial0000001"))
    for kind in ("setup", "run", "flight", "stored_verdict", "learnt_scatter", "plan", "change"):
        tampered(folder, kind, lambda found: [r.update(trial_id="trial0000001") for r in found if r.get("trial_id")])
    with pytest.raises(reading.NotABench, match="on this bench already, as part of something else"):
        read_in(folder)


def test_no_file_changed_by_chance_adds_to_what_is_here(small, folder):
    """Beside a flipped flight and a runner's that is open: whatever comes in is new, and points at nothing that was here."""
    parts = {str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*") if p.is_file()}
    rng, before = random.Random(SEED), everything()
    mine = [key for kind in ("trial", "setup", "run", "flight", "sheet", "flight_cup") for (key,) in sql(f"SELECT id FROM `{kind}`")]
    taken = 0
    for _ in range(examples(600)):
        try:
            with connection.database.connection_context():
                arrived = into.write(
                    reading.read(reading.reader_of_zip(io.BytesIO(a_bench(renamed(parts, rng.choice((0.0, 0.02, 0.5, 1.0, 1.0)), rng), rng)))), NOW
                )
        except reading.NotABench:
            continue
        taken += bool(arrived.came)
        after = everything()
        fresh = [row for kind, rows in after.items() for row in set(rows) - set(before[kind])]
        assert all(set(before[kind]) <= set(after[kind]) for kind in before)
        assert not [row for row in fresh if any(key in row for key in mine)]
    assert taken, "none came in: the test says nothing"


def test_stock_of_coffee_that_is_here_under_its_name_is_not_counted_twice(small, tmp_path):
    body = {"kind": "coffee", "name": "Lot 7", "coffee": {}}
    item = small.call("POST", "/kit", body, status=201)["id"]
    small.call("POST", f"/kit/{item}/stock", {"mass_g": 1000, "note": "bought"})
    other = taken_out(tmp_path / "other")
    emptied()
    item = small.call("POST", "/kit", body, status=201)["id"]
    small.call("POST", f"/kit/{item}/stock", {"mass_g": 250, "note": "bought"})
    arrived = read_in(other)
    assert "Lot 7" in arrived.known and arrived.kept["stock_entry"] == 1
    assert [float(mass) for (mass,) in sql("SELECT mass_g FROM stock_entry WHERE kit_item_id = %s", item)] == [250.0]


# --- history and tokens --------------------------------------------------------------------------------------------------------------


def test_history_from_elsewhere_is_read_and_undoes_nothing(small, folder):
    flight = rows(folder, "flight")[0]
    planted = {
        "id": "change000001", "trial_id": flight["trial_id"], "entity": "flight", "entity_id": flight["id"], "action": "update",
        "before": {"status": "open", "closed_at": None, "flipped_at": None, "blinding": "runner"}, "after": {"status": "flipped"},
        "who": None, "at": "2026-02-01T10:00:00Z", "undoes": None,
    }  # fmt: skip
    tampered(folder, "change", lambda found: found.append(planted))
    assert read_in(folder).came == {}, "the trial is here: its history is this bench's own"
    small.call("POST", "/changes/change000001/undo", status=404)
    emptied()
    read_in(folder)
    refused = small.call("POST", "/changes/change000001/undo", status=409)
    assert "another bench" in str(refused)
    history = small.get(f"/trials/{flight['trial_id']}/history")["changes"]
    assert {c["elsewhere"] for c in history} == {True} and not any(c["can_undo"] for c in history)
    assert small.get(f"/trials/{flight['trial_id']}/flights")["flights"][0]["status"] == "flipped"


def test_no_token_goes_out_and_none_comes_in(small, folder):
    assert not [p for p in folder.rglob("*.json") if p.parent.name == "data" and ("token_hash" in p.read_text() or "device_hash" in p.read_text())]
    known = hashlib.sha256(b"a token of one's choice").hexdigest()
    tampered(folder, "sheet", lambda found: found[0].update(token_hash=known))
    with pytest.raises(reading.NotABench, match="token_hash is no field of it"):
        read_in(folder)
    manifest = json.loads((folder / "manifest.json").read_text())
    (folder / "manifest.json").write_text(json.dumps(manifest | {"version": 1}))
    emptied()
    read_in(folder)
    assert known not in str(sql("SELECT token_hash FROM sheet"))


def test_a_script_brings_in_no_bench(small):
    token = small.call("POST", "/script-tokens", {"name": "writer", "may_write": True})["token"]
    refused = small.bring_in(b"A" * 16, status=403, headers={"Authorization": f"Bearer {token}"})
    assert "which bench comes in" in str(refused)


# --- a tasting is one value ----------------------------------------------------------------------------------------------------------


def runner_flight(host):
    trial, _, runs = host.two_setups_brewed()
    people = [host.person(name) for name in ("Odile", "Marek", "Thandi")]
    flight = host.flight(trial["id"], runs, people, blinding="runner")
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=5 + i % 3) for i, c in enumerate(flight["cups"])))
    host.call("POST", f"/flights/{flight['id']}/close", rev=host.get(f"/flights/{flight['id']}")["rev"])
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": []}, rev=host.get(f"/flights/{flight['id']}")["rev"])
    return trial["id"]


def swap_cups(found):
    a, b = (next(c for c in found if c["mark"] == mark) for mark in (1, 2))
    a["mark"], b["mark"] = b["mark"], a["mark"]
    a["run_id"], b["run_id"] = b["run_id"], a["run_id"]


@pytest.mark.parametrize(
    ("kind", "change", "why"),
    [
        ("flight_cup", swap_cups, "do not match its seal"),
        (
            "flight_cup",
            lambda found: found[0].update(run_id=next(c["run_id"] for c in found if c["run_id"] != found[0]["run_id"])),
            "another brew than its mark",
        ),
        ("flight_cup", lambda found: found[0].update(code=found[1]["code"]), "one code"),
        ("flight", lambda found: found[0].update(closed_at=None), "not locked"),
        ("flight", lambda found: found[0].update(blinding="shuffle"), "has a seal"),
        ("seal", lambda found: found.clear(), "has a seal"),
        ("sheet", lambda found: found[0].update(person_id=found[1]["person_id"]), "two sheets"),
        ("score", lambda found: found[0].update(received_at="2027-01-01T10:00:00Z"), "younger than the lock"),
        ("score", lambda found: found[0].update(pass_name="cool"), "a pass that was not asked"),
        ("sheet_cup", lambda found: found.pop(0), "not on its sheet"),
    ],
)
def test_a_tasting_that_cannot_have_been_is_refused(host, made_once, tmp_path, kind, change, why):
    made_once(runner_flight)
    folder = taken_out(tmp_path / "e")
    emptied()
    tampered(folder, kind, change)
    with pytest.raises(reading.NotABench, match=why):
        read_in(folder)
    assert host.get("/trials")["trials"] == []


def test_a_flight_closed_by_a_clock_that_was_set_back_goes_out_and_comes_in(app, host, tmp_path):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, [host.person("Odile"), host.person("Marek")])
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=5) for c in flight["cups"]))
    app.config["CLOCK"].at -= timedelta(days=9)
    host.taste(host.get(f"/flights/{flight['id']}"), lambda mark, taster: 3 + mark)
    folder = taken_out(tmp_path / "e")
    emptied()
    read_in(folder)
    assert host.get(f"/trials/{trial['id']}/flights")["flights"][0]["status"] == "flipped"


def test_what_came_in_says_so_in_the_margin_and_holds_the_grade_back(host, made_once, tmp_path):
    trial = made_once(runner_flight)
    folder = taken_out(tmp_path / "e")
    assert "brought_in" not in {c["code"] for c in host.get(f"/trials/{trial}/progress")["caveats"]}
    emptied()
    read_in(folder)
    (caveat,) = [c for c in host.get(f"/trials/{trial}/progress")["caveats"] if c["code"] == "brought_in"]
    assert "came in by a file" in caveat["text"]
    assert "brought_in" in {r["code"] for r in host.get(f"/trials/{trial}/progress")["grade"]["reasons"]}


# --- every value obeys its room ------------------------------------------------------------------------------------------------------


def test_every_column_that_holds_json_has_a_type():
    by_another_column = {("kit_item", "facts"), ("stored_verdict", "payload")}
    columns = [(kind, f.column_name) for kind, model in kinds.MODELS.items() for f in kinds.fields_of(model) if isinstance(f, JSONField)]
    assert {c for c in columns if values.type_of(*c) is None} == by_another_column


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("trial", {"tags": [1]}), ("trial", {"factor": "zzz"}), ("trial", {"further_factors": ["zzz"]}), ("trial", {"smallest_difference": 1e308}),
        ("trial", {"judged_pass": "lukewarm"}), ("setup_revision", {"recipe": {"steps": "many"}}), ("setup_revision", {"recipe": {"steps": [{"kind": "fly"}]}}),
        ("setup_revision", {"kit": {"spoon": {}}}), ("setup_revision", {"kit": {"brewer": {"id": "brewer000001", "name": "x", "facts": {"count": "two"}}}}),
        ("setup_revision", {"dose_g": -18.0}), ("run", {"observed": {"bed": "flat"}}), ("run", {"observed": []}), ("run", {"marked": [{"index": 1}]}),
        ("run", {"marked": [{"index": 0, "plan_end_s": 1, "ended_s": 2, "colour": "red"}]}), ("run", {"curve": [[1, 2, 3]]}), ("run", {"liked": {"by_pass": {"hot": 99}}}),
        ("run", {"served": {"added_water_g": "much"}}), ("run", {"off_plan": {}}), ("run", {"tags": "x"}), ("run", {"dose_g": 1e-300}), ("run", {"id": "../../etc/pass"}),
        ("reading", {"source": "guessed"}), ("reading", {"as_read": {"kind": "x"}}), ("reading", {"tds_pct": -1.0}), ("flight", {"passes": []}),
        ("flight", {"passes": ["tepid"]}), ("flight", {"opened": {"hot": "soon"}}), ("flight", {"options": {"rounds": 99}}), ("flight", {"options": None}),
        ("flight", {"attributes": ["zzz"]}), ("flight", {"cup_readings": [{"at": "2026-01-01T10:00:00Z", "cup_c": 1e9}]}), ("flight_cup", {"code": "0x1"}),
        ("score", {"value": 1e9}), ("stored_verdict", {"payload": {}}), ("stored_verdict", {"payload": []}), ("change", {"before": []}), ("person", {"name": ""}),
    ],
)  # fmt: skip
def test_a_value_that_no_room_would_take_is_refused_by_kind_row_and_field(small, folder, kind, values):
    emptied()
    tampered(folder, kind, lambda found: found[0].update(values))
    with pytest.raises(reading.NotABench, match=rf"data/{kind}.json, row 1, {next(iter(values))}: "):
        read_in(folder)
    assert small.get("/trials")["trials"] == [] and small.get("/people")["people"] == []


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("palate_session", {"steps": [1e308]}), ("palate_session", {"steps": "zzz"}), ("palate_presentation", {"codes": [1, 2]}), ("palate_drill", {"cups": [{}]}),
        ("palate_drill_round", {"set_out": [1]}), ("matched_setting", {"match_kind": "zzz"}), ("matched_setting", {"rests_on": {"a": 1}}),
        ("recipe_version", {"document": {"dose_g": "much"}}), ("sieve_sample", {"fractions": [[1]]}), ("kit_item", {"facts": {"price": "dear"}}),
        ("run_sheet", {"found": {}}), ("run_sheet", {"asked": {"jobs": 1}}), ("plan", {"design": {"kind": "zzz"}}), ("plan", {"day": {"hands": 1e9}}),
        ("declaration", {"rule": "zzz"}), ("grinder_dose", {"beans_in_g": -1.0}), ("filter_test", {"push": "wind"}), ("instrument_check", {"read_pct": -3.0}),
    ],
)  # fmt: skip
def test_so_is_one_of_the_other_rooms(demo, tmp_path, kind, values):
    folder = taken_out(tmp_path / "e")
    emptied()
    tampered(folder, kind, lambda found: found[0].update(values))
    with pytest.raises(reading.NotABench, match=rf"data/{kind}.json, row 1, {next(iter(values))}: "):
        read_in(folder)
    assert demo.get("/people")["people"] == []
