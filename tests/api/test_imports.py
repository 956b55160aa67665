"""A spreadsheet of old brews comes in: shown first, all or nothing, once, and then like any other brew."""

import base64
import io
import json
import random
from datetime import datetime

import openpyxl
import pytest

from brasspenny.store import connection

HEAD = "Date;Coffee;Grinder;Dose (g);Water (g);Beverage;TDS 1;TDS 2;Rating;Notes"
ROWS = (
    "1.3.2026 08:10;Peru washed;Windlass;18,0;290;251;1,41;1,43;7;sweet, long",
    "2.3.2026;Peru washed;Windlass;18,1;291;252;1,44;;6;",
    "13.3.2026;Honduras honey;Capstan;18;288;;;;;not read",
)


def sent(*rows, head=HEAD, **more):
    return {"data": base64.b64encode("\n".join((head, *rows)).encode()).decode()} | more


def test_a_table_is_understood_and_shown_before_anything_is_written(host):
    found = host.call("POST", "/imports/look", sent(*ROWS))
    assert [c["target"] for c in found["columns"]] == [
        "brewed_at", "coffee", "grinder", "dose_g", "brew_water_g", "beverage_g", "tds_pct", "tds_pct", "liking", "note",
    ]  # fmt: skip
    assert (found["rows"], found["ready"], found["here"], found["fault_count"], found["missing"]) == (3, 3, 0, 0, [])
    assert found["day_first"] and not found["days_unclear"] and not found["known"]
    assert found["becomes"][0] | {"note": ""} == {
        "row": 2, "brewed_at": "2026-03-01T08:10:00Z", "name": "", "coffee": "Peru washed", "kit": "Windlass", "dose_g": 18.0, "brew_water_g": 290.0,
        "beverage_g": 251.0, "temperature_c": None, "total_time_s": None, "tds_pct": [1.41, 1.43], "liking": 7.0, "note": "",
    }  # fmt: skip
    assert found["new_kit"] == ["Capstan", "Honduras honey", "Peru washed", "Windlass"]
    assert host.get("/brews")["brews"] == [] and host.get("/kit")["items"] == []


def test_what_comes_in_is_measured_liked_and_found_like_any_brew(host):
    assert host.call("POST", "/imports", sent(*ROWS), status=201) == {
        "brews": 3, "readings": 3, "left_out": 0, "here": 0, "new_kit": ["Capstan", "Honduras honey", "Peru washed", "Windlass"],
    }  # fmt: skip
    brews = host.get("/brews?order=oldest")["brews"]
    assert [b["coffee"] for b in brews] == ["Peru washed", "Peru washed", "Honduras honey"] and brews[0]["liking"] == 7
    assert brews[0]["ey_pct"] == pytest.approx(1.42 * 251 / 18, abs=0.01) and brews[2]["ey_pct"] is None
    room = host.charts("?purpose=loose")
    assert len(room["points"]) == 2 and {f["name"] for f in room["grinders"]} == {"Windlass", "Capstan"}
    assert {i["name"] for i in host.get("/kit")["items"]} == {"Windlass", "Capstan", "Peru washed", "Honduras honey"}
    run = next(r for r in host.get("/loose-runs")["runs"] if r["beverage_g"] == 251)
    host.call("PATCH", f"/runs/{run['id']}", {"beverage_g": 250}, rev=run["rev"])  # corrected like any other
    host.call("POST", f"/runs/{run['id']}/readings", {"tds_pct": 1.42})


def test_the_same_table_again_changes_nothing(host):
    host.call("POST", "/imports", sent(*ROWS), status=201)
    again = host.call("POST", "/imports/look", sent(*ROWS))
    assert (again["ready"], again["here"], again["known"]) == (0, 3, True)
    assert "already on this bench" in host.call("POST", "/imports", sent(*ROWS), status=409)["title"]
    longer = host.call("POST", "/imports", sent(*ROWS, "14.3.2026;Peru washed;Windlass;18;290;250;;;;"), status=201)
    assert (longer["brews"], longer["here"]) == (1, 3)
    assert len(host.get("/brews")["brews"]) == 4


def test_two_alike_in_one_table_are_two_brews(host):
    assert host.call("POST", "/imports", sent(ROWS[0], ROWS[0]), status=201)["brews"] == 2


def test_a_workbook_is_read_only_while_somebody_waits_for_it(host):
    book = openpyxl.Workbook()
    for row in (HEAD.split(";"), *(r.split(";") for r in ROWS)):
        book.active.append(row)
    book.save(raw := io.BytesIO())
    body = {"data": base64.b64encode(raw.getvalue()).decode()}
    assert host.call("POST", "/imports/look", body)["rows"] == 3
    left = host.client.post("/api/v1/imports/look", json=body, environ_overrides={"waitress.client_disconnected": lambda: True})
    assert (left.status_code, left.json["errors"][0]["reason"]) == (422, "Nobody waits for the workbook any more.")


def test_a_fault_stops_everything_and_names_row_and_column(host):
    bad = sent(ROWS[0], "2.3.2026;Peru washed;Windlass;eighteen;290;252;140;;6;", "soon;Peru;;18;290;;;;;")
    found = host.call("POST", "/imports/look", bad)
    assert [(f["row"], f["header"], f["cell"]) for f in found["faults"]] == [(3, "Dose (g)", "eighteen"), (4, "Date", "soon")]
    assert found["ready"] == 1 and found["fault_rows"] == 2
    problem = host.call("POST", "/imports", bad, status=422)
    assert "row 3" in problem["title"] and host.get("/brews")["brews"] == []
    assert host.call("POST", "/imports", bad | {"leave_out_faulty": True}, status=201) | {"new_kit": []} == {
        "brews": 1, "readings": 2, "left_out": 2, "here": 0, "new_kit": [],
    }  # fmt: skip


def test_the_mapping_can_be_mended_and_is_remembered_for_the_next_table(host):
    head, row = "day;what;stuff;liquid;result", "2026-03-01;Peru;0.63;10.2;8.8"
    found = host.call("POST", "/imports/look", sent(row, head=head))
    assert found["missing"] == ["dose", "brew water"]
    assert "No column gives" in host.call("POST", "/imports", sent(row, head=head), status=422)["title"]
    meanings = [{"target": t, "unit": u} for t, u in (("brewed_at", ""), ("coffee", ""), ("dose_g", "oz"), ("brew_water_g", "oz"), ("beverage_g", "oz"))]
    mended = host.call("POST", "/imports/look", sent(row, head=head, meanings=meanings))
    assert mended["becomes"][0]["dose_g"] == 17.86 and mended["becomes"][0]["brew_water_g"] == 289.17
    host.call("POST", "/imports", sent(row, head=head, meanings=meanings), status=201)
    later = host.call("POST", "/imports/look", sent("2026-03-02;Peru;0.64;10.3;8.9", head=head))
    assert later["known"] and later["becomes"][0]["dose_g"] == 18.14


@pytest.mark.parametrize(
    ("meanings", "field"),
    [
        ([{"target": "dose_g"}], "meanings"),
        ([{"target": "dose_g"}, {"target": "dose_g"}], "meanings.1.target"),
        ([{"target": "mood"}, {}], "meanings.0.target"),
        ([{"target": "dose_g", "unit": "brix"}, {}], "meanings.0.unit"),
        ([{"target": "coffee", "unit": "g"}, {}], "meanings.0.unit"),
    ],
)
def test_a_mapping_that_cannot_be_is_refused_at_its_field(host, meanings, field):
    assert host.call("POST", "/imports/look", sent("18;290", head="a;b", meanings=meanings), status=422)["errors"][0]["field"] == field


@pytest.mark.parametrize(
    "raw", [b"", b"   \n\n", b"Dose,Water\n", b"\x00\x01\x02\x03binary", b"PK\x03\x04not a workbook", ",".join(f"c{i}" for i in range(61)).encode() + b"\n1\n"]
)
def test_what_is_no_table_says_so(host, raw):
    problem = host.call("POST", "/imports/look", {"data": base64.b64encode(raw).decode() or "===="}, status=422)
    assert problem["errors"][0]["field"] == "data" and problem["errors"][0]["remedy"]


def test_a_day_that_could_be_two_is_asked_about(host):
    found = host.call("POST", "/imports/look", sent("3/4/2026,18,290", head="Date,Dose,Water"))
    assert found["days_unclear"] and found["becomes"][0]["brewed_at"].startswith("2026-04-03")
    other = host.call("POST", "/imports/look", sent("3/4/2026,18,290", head="Date,Dose,Water", day_first=False))
    assert other["becomes"][0]["brewed_at"].startswith("2026-03-04")


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
@pytest.mark.parametrize("separator", [",", ";", "\t"])
def test_usual_encodings_and_separators_are_read(host, encoding, separator):
    text = separator.join(("Date", "Coffee", "Dose", "Water")) + "\r\n" + separator.join(("2026-03-01", "Crêpe Peñón", "18.5", "290")) + "\r\n"
    found = host.call("POST", "/imports/look", {"data": base64.b64encode(text.encode(encoding)).decode()})
    assert found["becomes"][0]["coffee"] == "Crêpe Peñón" and found["becomes"][0]["dose_g"] == 18.5


def test_a_workbook_is_read_with_its_own_days_and_numbers(host):
    book = openpyxl.Workbook()
    sheet = book.active
    sheet.append([])
    sheet.append(["Date", "Coffee", "Dose", "Water", "Temp", "Time"])
    sheet.append([datetime(2026, 3, 1, 8, 15), "Peru", 18.25, 290, 200, 2.75])
    out = io.BytesIO()
    book.save(out)
    found = host.call("POST", "/imports/look", {"data": base64.b64encode(out.getvalue()).decode()})
    brew = found["becomes"][0]
    assert (brew["row"], brew["brewed_at"], brew["dose_g"], brew["temperature_c"], brew["total_time_s"]) == (3, "2026-03-01T08:15:00Z", 18.25, 93.33, 165)


def test_names_of_kit_that_is_there_are_not_made_again(host):
    host.call("POST", "/kit", {"kind": "coffee", "name": "Peru Washed", "coffee": {}}, status=201)
    written = host.call("POST", "/imports", sent(ROWS[0]), status=201)
    assert written["new_kit"] == ["Windlass"] and host.get("/brews")["brews"][0]["coffee"] == "Peru Washed"


def test_what_looks_like_a_formula_comes_in_as_the_text_it_is(host):
    host.call("POST", "/imports", sent("2026-03-01;=HYPERLINK(1);;18;290;;;;;<b>x</b>"), status=201)
    brew = host.get("/brews")["brews"][0]
    assert brew["coffee"] == "=HYPERLINK(1)" and brew["note"] == "<b>x</b>"


def test_thousands_of_rows_come_in_with_a_few_statements(host):
    rng = random.Random(3)
    rows = [
        f"{1 + i % 28}.{1 + i % 12}.{2010 + i // 400};Lot {i % 9};Mill {i % 3};{18 + rng.random():.2f};{280 + rng.random() * 20:.1f};250;1.4{i % 10};;5;"
        for i in range(3000)
    ]
    said, run = [], connection.database.obj.execute_sql
    connection.database.obj.execute_sql = lambda sql, *args, **kwargs: (said.append(sql), run(sql, *args, **kwargs))[1]
    try:
        assert host.call("POST", "/imports", sent(*rows), status=201)["brews"] == 3000
    finally:
        connection.database.obj.execute_sql = run
    assert len(said) < 400


def many(count):
    return sent(*(f"{1 + i % 28}.{1 + i % 12}.2019;Lot 4;Windlass;18;290;250;1.4{i % 10};;5;row {i}" for i in range(count)))


def test_a_long_table_tells_how_far_it_is_and_a_refusal_in_the_last_line(host):
    lines = {"Accept": "application/x-ndjson"}
    told = host.client.post("/api/v1/imports", json=many(700), headers=lines)
    *steps, last = [json.loads(line) for line in told.text.splitlines()]
    assert told.status_code == 201 and last["answer"]["brews"] == 700
    done = [s["done"] for s in steps]
    assert done == sorted(done) and {s["of"] for s in steps} == {1400} and max(done) == 1400
    assert any(d < 700 for d in done) and sum(d >= 700 for d in done) > 1, "read, and written"
    again = host.client.post("/api/v1/imports", json=many(700), headers=lines)
    assert "already on this bench" in json.loads(again.text.splitlines()[-1])["problem"]["errors"][0]["reason"]


def test_a_long_table_left_in_the_middle_has_written_nothing(host):
    told = host.client.post("/api/v1/imports", json=many(1200), headers={"Accept": "application/x-ndjson"}, buffered=False)
    for line in told.response:
        if json.loads(line)["done"] > 1200:  # some of it is written, and the browser goes away
            break
    told.close()
    assert host.get("/brews")["brews"] == []
    assert host.call("POST", "/imports", many(1200), status=201)["here"] == 0


def test_old_brews_of_a_coffee_on_the_shelf_take_nothing_of_todays_bag(host):
    coffee = host.call("POST", "/kit", {"kind": "coffee", "name": "Peru washed", "coffee": {}}, status=201)["id"]
    host.call("POST", f"/kit/{coffee}/stock", {"mass_g": 250}, status=201)
    host.call("POST", "/imports", sent(*(f"{day}.3.2019;Peru washed;Windlass;18;290;251;1,41;;7;" for day in range(1, 20))), status=201)
    assert host.get("/stock")["stock_g"] == {coffee: 250}
    host.call("POST", "/loose-runs", {"variables": {"coffee": "Peru washed", "dose_g": 18, "brew_water_g": 290}})
    assert host.get("/stock")["stock_g"] == {coffee: 232}
