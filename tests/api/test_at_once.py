"""Several hands at once, and a database that goes away: nothing acknowledged is lost, nothing is half-stored."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

from brasspenny.store.connection import database

from .host import Host, token


def each_with_own_client(app, jobs):
    """Runs the jobs at the same time, each on a client of its own; their answers' status and JSON."""

    def run(job):
        method, path, body, headers = job
        answer = app.test_client().open(f"/api/v1{path}", method=method, json=body, headers=headers)
        return answer.status_code, answer.get_json()

    with ThreadPoolExecutor(len(jobs)) as pool:
        return list(pool.map(run, jobs))


HANDS = pytest.mark.parametrize("hands", [2, 20])


@HANDS
def test_questions_asked_at_once_are_all_taken_under_numbers_of_their_own(app, hands):
    answers = each_with_own_client(app, [("POST", "/trials", {"question": f"Q{i}", "factor": "ratio"}, {}) for i in range(hands)])
    assert [status for status, _ in answers] == [201] * hands
    assert sorted(said["number"] for _, said in answers) == list(range(1, hands + 1))


@HANDS
def test_setups_added_at_once_get_letters_of_their_own(app, host, hands):
    trial = host.call("POST", "/trials", {"question": "Which?", "factor": "ratio"})["id"]
    jobs = [("POST", f"/trials/{trial}/setups", {"variables": {"dose_g": 18, "brew_water_g": 280 + i}}, {}) for i in range(hands)]
    answers = each_with_own_client(app, jobs)
    assert [status for status, _ in answers] == [201] * hands
    assert sorted(said["letter"] for _, said in answers) == [chr(65 + i) for i in range(hands)]


@HANDS
def test_brews_logged_at_once_get_labels_of_their_own(app, host, hands):
    trial, setups, _ = host.two_setups_brewed(1)
    body = {"setup_id": setups[0]["id"], "dose_g": 18, "brew_water_g": 288, "beverage_g": 250}
    answers = each_with_own_client(app, [("POST", f"/trials/{trial['id']}/runs", body, {}) for _ in range(hands)])
    assert [status for status, _ in answers] == [201] * hands
    labels = [r["label"] for r in host.get(f"/trials/{trial['id']}/results")["runs"]]
    assert len(labels) == hands + 2 == len(set(labels))


@HANDS
def test_of_people_of_one_name_added_at_once_one_is_there(app, host, hands):
    answers = each_with_own_client(app, [("POST", "/people", {"name": "Bo"}, {})] * hands)
    assert sorted(status for status, _ in answers) == [201] + [409] * (hands - 1)
    assert all(said["errors"][0]["field"] == "name" for status, said in answers if status == 409)
    assert len(host.get("/people")["people"]) == 1


def test_a_flight_seats_twelve_however_many_come_at_once(app, host):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person(f"T{i}") for i in range(8)])
    late = [host.person(f"L{i}") for i in range(12)]
    answers = each_with_own_client(app, [("POST", f"/flights/{flight['id']}/tasters", {"person_id": p}, {}) for p in late])
    assert sorted(status for status, _ in answers) == [201] * 4 + [409] * 8
    assert len(host.get(f"/flights/{flight['id']}")["sheets"]) == 12


@HANDS
def test_flights_made_at_once_are_numbered_apart(app, host, hands):
    trial, _, runs = host.two_setups_brewed(1)
    taster = host.person("Bo")
    body = {"run_ids": runs, "taster_ids": [taster], "blinding": "shuffle"}
    answers = each_with_own_client(app, [("POST", f"/trials/{trial['id']}/flights", body, {}) for _ in range(hands)])
    assert [status for status, _ in answers] == [201] * hands
    assert sorted(said["number"] for _, said in answers) == list(range(1, hands + 1))


@HANDS
def test_one_undo_is_done_once(app, host, hands):
    trial, _, (run, *_) = host.two_setups_brewed(1)
    change = host.call("DELETE", f"/runs/{run}")["change_id"]
    answers = each_with_own_client(app, [("POST", f"/changes/{change}/undo", None, {})] * hands)
    assert sorted(status for status, _ in answers) == [200] + [409] * (hands - 1)
    undone = [c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["undoes"] == change]
    assert len(undone) == 1


def test_a_brew_deleted_while_flights_are_made_is_in_none_or_stays(app, host):
    """Whichever came first decides: a deleted brew is poured for nobody, and a poured one is not deleted."""
    trial, _, runs = host.two_setups_brewed(3)
    taster = host.person("Bo")
    for run in runs[:4]:
        body = {"run_ids": [run, runs[5]], "taster_ids": [taster], "blinding": "shuffle"}
        (made, _), (gone, _) = each_with_own_client(app, [("POST", f"/trials/{trial['id']}/flights", body, {}), ("DELETE", f"/runs/{run}", None, {})])
        assert (made, gone) in ((201, 409), (422, 200), (404, 200), (409, 200)), (made, gone)


@HANDS
def test_a_flip_by_many_hands_is_one_flip(app, host, hands):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    for cup in flight["cups"]:
        host.score(flight["sheets"][0], host.touch(cup["code"], value=5))
    host.call("POST", f"/flights/{flight['id']}/close")
    marks = [{"code": c["code"], "mark": i + 1} for i, c in enumerate(flight["cups"])]
    answers = each_with_own_client(app, [("POST", f"/flights/{flight['id']}/flip", {"marks": marks}, {})] * hands)
    assert {status for status, _ in answers} == {200}
    flips = [c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["action"] in ("flip", "correct_marks")]
    assert [c["action"] for c in flips] == ["flip"]


def test_of_eight_edits_of_one_revision_exactly_one_is_taken(app, host):
    trial, _, (run, *_) = host.two_setups_brewed(1)
    answers = each_with_own_client(app, [("PATCH", f"/runs/{run}", {"beverage_g": 230 + i}, {"If-Match": "1"}) for i in range(8)])
    assert sorted(status for status, _ in answers) == [200] + [409] * 7
    taken = next(i for i, (status, _) in enumerate(answers) if status == 200)
    assert host.get(f"/trials/{trial['id']}/results")["runs"][0]["beverage_g"] == 230 + taken
    assert all(said["current"]["beverage_g"] == 230 + taken for status, said in answers if status == 409)
    updates = [c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["action"] == "update"]
    assert len(updates) == 1


def test_one_phone_delivering_the_same_touches_many_times_at_once_leaves_the_newest(app, host):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    sheet, code = flight["sheets"][0], flight["cups"][0]["code"]
    touches = [host.touch(code, value=1 + i % 9, seq=i + 1) for i in range(12)]
    jobs = [("PUT", f"/taste/{token(sheet)}/scores", {"scores": touches[i:] + touches[:i]}, {}) for i in range(8)]
    assert {status for status, _ in each_with_own_client(app, jobs)} == {200}
    kept = {c["code"]: c["scores"] for c in host.get(f"/taste/{token(sheet)}")["cups"]}[code]
    assert kept == [{"attribute": "liking", "pass_name": "warm", "value": touches[-1]["value"], "text": ""}]
    with database.connection_context():
        assert database.execute_sql("SELECT COUNT(*) FROM score").fetchone() == (1,)


def test_closing_and_scoring_at_once_never_loses_an_acknowledged_score(app, host):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo"), host.person("Iwan")])
    codes = [c["code"] for c in flight["cups"]]
    host.score(flight["sheets"][0], host.touch(codes[0], value=5))
    jobs = [("PUT", f"/taste/{token(s)}/scores", {"scores": [host.touch(codes[1], value=6)]}, {}) for s in flight["sheets"]]
    answers = each_with_own_client(app, [*jobs, ("POST", f"/flights/{flight['id']}/close", None, {})])
    acknowledged = sum(status == 200 for status, _ in answers[:2])
    assert all(status in (200, 409) for status, _ in answers)
    assert next(c for c in host.get(f"/flights/{flight['id']}")["cups"] if c["code"] == codes[1])["scored"] == acknowledged


def test_a_verdict_asked_for_many_times_at_once_is_stored_once(app, host):
    trial, _, runs = host.two_setups_brewed()
    host.taste(host.flight(trial["id"], runs, [host.person("Bo"), host.person("Iwan")]), lambda mark, taster: 4 + mark)
    answers = each_with_own_client(app, [("GET", f"/trials/{trial['id']}/verdict", None, {})] * 6)
    assert {status for status, _ in answers} == {200}
    assert len({str(said) for _, said in answers}) == 1
    with database.connection_context():
        assert database.execute_sql("SELECT COUNT(*) FROM stored_verdict").fetchone() == (1,)


def test_a_failure_half_way_through_a_use_case_stores_nothing_of_it(app, host, monkeypatch):
    """Making a flight writes brews, cups and sheets; when the last of them fails, none of it is there."""
    from brasspenny.tasting import making

    trial, _, runs = host.two_setups_brewed(1)
    person = host.person("Bo")

    def fails(*_, **__):
        raise RuntimeError("the power went")

    monkeypatch.setattr(making, "lay_sheet", fails)
    with pytest.raises(RuntimeError):
        host.flight(trial["id"], runs, [person])
    with database.connection_context():
        for table in ("flight", "flight_brew", "flight_cup", "sheet"):
            assert database.execute_sql(f"SELECT COUNT(*) FROM {table}").fetchone() == (0,), table
    assert "flight" not in [c["entity"] for c in host.get(f"/trials/{trial['id']}/history")["changes"]]


def test_without_a_database_the_answer_is_plain_and_comes_back(server, app, monkeypatch):
    host = Host(app.test_client())
    trial = host.ask()
    database.close_all()
    right = database.obj.connect_params["port"]
    monkeypatch.setitem(database.obj.connect_params, "port", 1)
    said = host.get("/trials", status=503)
    assert "not saved yet" in said["detail"]
    assert host.client.get("/api/v1/health").status_code == 503
    monkeypatch.setitem(database.obj.connect_params, "port", right)
    assert host.get("/health") == {"status": "ok"}
    assert host.get("/trials")["trials"][0]["id"] == trial["id"]


def test_migrations_may_run_again_and_keep_what_is_there(app, host):
    from brasspenny.store import connection

    host.two_setups_brewed()
    assert connection.migrate() == []
    with database.connection_context():
        database.execute_sql("DELETE FROM schema_migration")
    assert connection.migrate() == sorted(p.stem for p in Path(connection.MIGRATIONS).glob("0*.py")) != []
    assert len(host.get("/trials")["trials"]) == 1


def test_an_older_bench_keeps_its_yield_basis_under_the_new_name(app, host):
    from brasspenny.store import connection

    trial = host.call("POST", "/trials", {"question": "Does the press brew stronger?", "factor": "grind_setting", "yield_basis": "full_liquor"})
    item = host.call(
        "POST", "/kit", {"kind": "brewer", "name": 'Pot, "school": size', "brewer": {"brewer_type": "press_pot", "yield_basis": "in_cup"}}, status=201
    )
    before = host.get(f"/kit/{item['id']}")
    with database.connection_context():
        database.execute_sql("ALTER TABLE trial RENAME COLUMN yield_basis TO school")
        for table, column in (("kit_item", "facts"), ("`change`", "`after`")):
            database.execute_sql(f"""UPDATE {table} SET {column} = REPLACE({column}, '"yield_basis":', '"school":')""")
        database.execute_sql("DELETE FROM schema_migration WHERE name LIKE '0022%%'")
    assert connection.migrate() == ["0022_yield_basis"]
    assert host.get(f"/trials/{trial['id']}")["yield_basis"] == "full_liquor"
    assert host.get(f"/kit/{item['id']}") == before
