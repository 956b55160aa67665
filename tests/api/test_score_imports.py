"""A panel's scores from somebody's own table: shown first, all or nothing, once, judged like any flight and never called more than they are."""

import base64
import random
from datetime import UTC, datetime

import pytest

from brasspenny.act import Act
from brasspenny.bench_files import into, out, reading
from brasspenny.store import blind_keys, connection
from brasspenny.verdicts.scatter import read_scatter

from ..let_in import empty_bench

NOW = datetime(2026, 3, 1, 9, tzinfo=UTC)
HEAD = "Date,Session,Taster,Setup,Liking,Acidity,Notes"
ASKED = {"question": "Which filter?", "factor": "filter", "dose_g": 18, "brew_water_g": 290}


def sent(*rows, head=HEAD, **more):
    return {"data": base64.b64encode("\n".join((head, *rows)).encode()).decode()} | ASKED | more


def written(*rows, **more):
    return sent(*rows, **{"tasted": "blind"} | more)


def panel(sessions=2, tasters=("Ada", "Ben", "Cleo", "Dov"), better=1.5, seed=1):
    rng = random.Random(seed)
    rows = []
    for session in range(1, sessions + 1):
        for taster in tasters:
            for setup, ahead in (("White weave", better), ("Grey felt", 0.0)):
                rows.append(f"{session}.3.2024,{session},{taster},{setup},{max(1, min(9, round(5.5 + ahead + rng.gauss(0, 0.5), 1)))},{rng.randint(3, 7)},")
    return rows


def test_a_table_is_understood_and_shown_before_anything_is_written(host):
    found = host.call("POST", "/imports/scores/look", sent(*panel()))
    assert [c["target"] for c in found["columns"]] == ["brewed_at", "flight", "taster", "setup", "liking", "acidity", "words"]
    assert (found["ready"], found["fault_count"], found["missing"], found["amounts_needed"], found["here"]) == (32, 0, [], [], 0)
    assert found["setups"] == [
        {"letter": "A", "name": "White weave", "dose_g": 18, "brew_water_g": 290, "brews": 2, "scores": 16},
        {"letter": "B", "name": "Grey felt", "dose_g": 18, "brew_water_g": 290, "brews": 2, "scores": 16},
    ]
    assert found["flights"][0] == {"name": "1", "day": "2024-03-01", "tasters": 4, "setups": 2, "cups": 2, "scores": 16}
    assert found["new_people"] == ["Ada", "Ben", "Cleo", "Dov"] and found["new_kit"] == ["Grey felt", "White weave"]
    assert host.get("/trials")["trials"] == [] and host.get("/people")["people"] == []


def test_it_is_judged_like_any_flight_and_says_that_nobody_here_saw_it(host):
    made = host.call("POST", "/imports/scores", written(*panel()), status=201)
    assert (made["flights"], made["brews"], made["scores"], made["left_out"]) == (2, 4, 32, 0)
    trial = made["trial_id"]
    verdict = host.get(f"/trials/{trial}/verdict")
    assert "White weave" in verdict["answer"]["headline"] and not verdict["answer"]["sighted"]
    likings = host.client.get(f"/api/v1/trials/{trial}/scores.csv").data.decode()
    assert likings.count(",liking,") == 16 and likings.count(",acidity,") == 16
    flight = host.get(f"/trials/{trial}/flights")["flights"][0]
    assert (flight["blinding"], flight["status"]) == ("told_blind", "flipped") and {c["label"][:2] for c in flight["cups"]} == {"A1", "B1"}
    assert all(s["link"] is None for s in flight["sheets"])
    margin = host.get(f"/trials/{trial}/progress")["caveats"]
    assert "told_blind" in {c["code"] for c in margin} and "unbalanced_order" not in {c["code"] for c in margin}
    report = host.get(f"/trials/{trial}/report")
    assert any(m.startswith("Flight 1:") and m.endswith("elsewhere, blind by word.") for m in report["method"])
    assert not any("Williams" in m for m in report["method"])
    assert host.get("/trials")["trials"][0]["headline"]


def test_labels_in_sight_stay_apart(host):
    made = host.call("POST", "/imports/scores", written(*panel(), tasted="labelled"), status=201)
    verdict = host.get(f"/trials/{made['trial_id']}/verdict")
    assert verdict["answer"]["sighted"] and verdict["answer"]["headline"].startswith("Labels in sight")


def test_nothing_is_learnt_from_it_for_other_trials(host):
    made = host.call("POST", "/imports/scores", written(*panel(sessions=4)), status=201)
    other = host.call("POST", "/imports/scores", written(*panel(sessions=2, seed=2), question="Which filter, later?"), status=201)
    with connection.database.connection_context():
        assert blind_keys.blind_likings([made["trial_id"]]) == [] and blind_keys.earlier_likings(other["trial_id"], most=20) == []
        found = read_scatter(Act(None, NOW, random.Random(1)))
    assert not found.own and "0 of 3" in found.source


def test_the_same_table_again_changes_nothing_and_a_longer_one_adds_its_new_flights(host):
    first = host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=201)
    again = host.call("POST", "/imports/scores/look", sent(*panel(sessions=1)))
    assert (again["ready"], again["here"], again["known"], again["adds_to"]) == (0, 1, True, first["trial_number"])
    assert "already on this bench" in host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=409)["title"]
    longer = [*panel(sessions=1), *(r.replace("1.3.2024,1", "9.3.2024,9") for r in panel(sessions=1, seed=5))]
    more = host.call("POST", "/imports/scores", written(*longer), status=201)
    assert (more["trial_id"], more["flights"], more["here"]) == (first["trial_id"], 1, 1)
    assert [s["letter"] for s in host.get(f"/trials/{first['trial_id']}/setups")["setups"]] == ["A", "B"]
    assert len(host.get("/trials")["trials"]) == 1 and {r["number"] for r in host.get(f"/trials/{first['trial_id']}/results")["runs"]} == {1, 2}
    assert len(host.get("/people")["people"]) == 4


def test_a_deleted_trial_can_come_in_again(host):
    first = host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=201)
    host.call("DELETE", f"/trials/{first['trial_id']}")
    assert host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=201)["trial_id"] != first["trial_id"]


def test_a_flight_that_came_before_with_other_scores_is_a_contradiction(host):
    rows = panel(sessions=1)
    host.call("POST", "/imports/scores", written(*rows), status=201)
    mended = [rows[0].rsplit(",", 3)[0] + ",1,1,", *rows[1:]]
    found = host.call("POST", "/imports/scores/look", sent(*mended))
    assert found["ready"] == 0 and "already on the bench" in found["faults"][0]["reason"]
    assert host.call("POST", "/imports/scores", written(*mended), status=422)


def test_a_fault_stops_everything_and_rows_with_faults_can_be_left_out(host):
    rows = [*panel(), "3.3.2024,3,Ada,White weave,11,5,", "3.3.2024,3,Ada,Grey felt,5,5,", "3.3.2024,3,Ben,White weave,5,5,"]
    found = host.call("POST", "/imports/scores/look", sent(*rows))
    assert [(f["row"], f["header"], f["cell"]) for f in found["faults"]] == [(18, "Liking", "11")]
    assert "row 18" in host.call("POST", "/imports/scores", written(*rows), status=422)["title"] and host.get("/trials")["trials"] == []
    made = host.call("POST", "/imports/scores", written(*rows, leave_out_faulty=True), status=201)
    assert (made["left_out"], made["flights"], made["scores"]) == (1, 3, 36)


@pytest.mark.parametrize(
    ("change", "field"),
    [({"question": " "}, "question"), ({"dose_g": None}, "dose_g"), ({"brew_water_g": None}, "brew_water_g"), ({"tasted": "maybe"}, "tasted"), ({"factor": "other"}, "factor_other"), ({"dose_g": -1}, "dose_g")],
)  # fmt: skip
def test_what_is_not_said_is_asked_for_at_its_field(host, change, field):
    problem = host.call("POST", "/imports/scores", written(*panel()) | change, status=422)
    assert [e["field"] for e in problem["errors"]] == [field]
    assert host.get("/trials")["trials"] == []


def test_columns_that_are_missing_are_named(host):
    found = host.call("POST", "/imports/scores/look", sent("1.3.2024,7", head="Date,Mood"))
    assert found["missing"] == ["taster", "setup", "a score"]
    assert "taster or setup or a score" in host.call("POST", "/imports/scores", written("1.3.2024,7", head="Date,Mood"), status=422)["title"]


def test_a_wide_table_on_another_scale_says_so_in_the_trials_note(host):
    body = written("Ada,4,2", "Ben,5,3", head="Taster,White weave,Grey felt")
    read = host.call("POST", "/imports/scores/look", {k: v for k, v in body.items() if k != "tasted"})
    meanings = [{"target": c["target"], "unit": "1_5" if c["units"] else ""} for c in read["columns"]]
    made = host.call("POST", "/imports/scores", body | {"meanings": meanings}, status=201)
    trial = host.get(f"/trials/{made['trial_id']}")
    assert "given from 1 to 5" in trial["note"]
    scores = host.client.get(f"/api/v1/trials/{made['trial_id']}/scores.csv").data.decode()
    assert sorted(line.rsplit(",", 1)[1] for line in scores.split() if ",liking," in line) == ["3", "5", "7", "9"]


def test_kit_and_people_of_the_same_name_are_the_same(host):
    host.call("POST", "/people", {"name": "Ada"}, status=201)
    host.call("POST", "/kit", {"kind": "filter", "name": "White Weave"}, status=201)
    made = host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=201)
    assert sorted(p["name"] for p in host.get("/people")["people"]) == ["Ada", "Ben", "Cleo", "Dov"]
    setups = host.get(f"/trials/{made['trial_id']}/setups")["setups"]
    assert setups[0]["variables"]["filter"] == "White Weave" and {i["name"] for i in host.get("/kit")["items"]} == {"White Weave", "Grey felt"}


def test_brews_of_the_table_are_measured_and_codes_kept(host):
    rows = ("Ada,White weave,418,7,18,290,251,1.41", "Ada,Grey felt,753,6,18,290,250,1.35", "Ben,White weave,418,6,,,,", "Ben,Grey felt,753,5,,,,")
    made = host.call(
        "POST", "/imports/scores", written(*rows, head="Taster,Setup,Code,Liking,Dose,Water,Beverage,TDS", dose_g=None, brew_water_g=None), status=201
    )
    runs = host.get(f"/trials/{made['trial_id']}/results")["runs"]
    assert sorted(r["readings"][0]["tds_pct"] for r in runs) == [1.35, 1.41] and all(r["purpose"] == "evidence" for r in runs)
    flight = host.get(f"/trials/{made['trial_id']}/flights")["flights"][0]
    assert {(c["code"], c["letter"]) for c in flight["cups"]} == {("418", "A"), ("753", "B")}


def test_its_marks_cannot_be_entered_again_and_its_history_can_be_read(host):
    made = host.call("POST", "/imports/scores", written(*panel(sessions=1)), status=201)
    flight = host.get(f"/trials/{made['trial_id']}/flights")["flights"][0]
    marks = [{"code": c["code"], "mark": m} for c, m in zip(flight["cups"], (2, 1), strict=True)]
    assert "elsewhere" in host.call("POST", f"/flights/{flight['id']}/flip", {"marks": marks}, status=409)["title"]
    changes = host.get(f"/trials/{made['trial_id']}/history")["changes"]
    assert {c["entity"] for c in changes} >= {"trial", "setup", "run", "flight"}


def test_it_goes_out_with_the_bench_and_comes_in_the_same(host, tmp_path):
    made = host.call("POST", "/imports/scores", written(*panel()), status=201)
    before = host.get(f"/trials/{made['trial_id']}/verdict")
    with connection.database.connection_context():
        out.to_folder(tmp_path, NOW)
    empty_bench()
    with connection.database.connection_context():
        into.write(reading.read(reading.reader_of(tmp_path)), NOW)
    assert host.get(f"/trials/{made['trial_id']}/verdict") == before
    again = host.call("POST", "/imports/scores/look", sent(*panel()))
    assert (again["here"], again["ready"]) == (2, 0)


def test_years_of_tastings_in_one_table_leave_codes_for_the_next_flight(host):
    """Two hundred evenings hold more cups than a trial has codes; those stand on no table here."""
    rows = [f"{1 + d % 28}.{1 + d // 28}.2020,{d},{who},{setup},{5 + (d + len(who)) % 4},," for d in range(200) for who in ("Ada", "Ben") for setup in "ABCD"]
    made = host.call("POST", "/imports/scores", written(*rows), status=201)
    assert (made["flights"], made["scores"]) == (200, 1600)
    runs = list({r["setup_id"]: r["id"] for r in host.get(f"/trials/{made['trial_id']}/results")["runs"]}.values())[:2]
    people = [p["id"] for p in host.get("/people")["people"]]
    flight = host.call("POST", f"/trials/{made['trial_id']}/flights", {"run_ids": runs, "taster_ids": people})
    assert (flight["number"], len({c["code"] for c in flight["cups"]})) == (201, 2)
