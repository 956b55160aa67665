"""People, kit names, the bench's own settings, paging, and the history's finer points."""

import pytest


def test_people_are_added_renamed_removed_and_brought_back(host):
    bo = host.call("POST", "/people", {"name": "  Bo "})
    assert bo["name"] == "Bo"
    host.call("POST", "/people", {"name": "Bo"}, status=409)
    renamed = host.call("PATCH", f"/people/{bo['id']}", {"name": "Boudewijn"}, rev=bo["rev"])
    assert renamed == {"id": bo["id"], "name": "Boudewijn", "rev": 2}
    host.person("Bo")
    host.call("PATCH", f"/people/{bo['id']}", {"name": "Bo"}, rev=2, status=409)
    change = host.call("DELETE", f"/people/{bo['id']}")["change_id"]
    assert [p["name"] for p in host.get("/people")["people"]] == ["Bo"]
    host.call("POST", f"/changes/{change}/undo")
    assert [p["name"] for p in host.get("/people")["people"]] == ["Bo", "Boudewijn"]


@pytest.mark.parametrize("name", ["", "   ", "x" * 81, "a\u0007b", 5, None])
def test_a_person_needs_a_plain_name(host, name):
    assert host.call("POST", "/people", {"name": name}, status=422)["errors"][0]["field"] == "name"


def test_a_removed_tasters_scores_still_count(host):
    trial, _, runs = host.two_setups_brewed()
    people = [host.person(f"P{i}") for i in range(4)]
    host.taste(host.flight(trial["id"], runs, people), lambda mark, taster: 4 if mark <= 2 else 8)
    before = host.get(f"/trials/{trial['id']}/verdict")["blind"]
    host.call("DELETE", f"/people/{people[0]}")
    assert host.get(f"/trials/{trial['id']}/verdict")["blind"] == before


def test_kit_is_remembered_by_name_and_a_known_brewer_brings_its_kind(host):
    trial = host.ask()
    host.setup(trial["id"], coffee="Lot 31", brewer="Galley pot", brewer_type="press_pot")
    again = host.setup(trial["id"], brewer="Galley pot", brewer_type=None)
    assert again["variables"]["brewer_type"] == "press_pot"
    kit = host.get("/kit")
    assert [(i["kind"], i["name"]) for i in kit["items"]] == [("brewer", "Galley pot"), ("coffee", "Lot 31"), ("filter", "White weave")]
    assert {t["code"] for t in kit["brewer_types"]} >= {"cone", "press_pot"}


def test_another_brewer_does_not_keep_the_old_ones_kind(host):
    trial = host.ask(factor="brewer")
    a = host.setup(trial["id"])
    b = host.copy(a, brewer="Something unknown")
    assert (a["variables"]["brewer_type"], b["variables"]["brewer_type"]) == ("flat_bed", None)


def test_mixed_yield_bases_are_in_the_margin_and_all_yields_on_one_basis(host):
    trial = host.ask(factor="brewer")
    a = host.setup(trial["id"])
    b = host.copy(a, brewer="Galley pot", brewer_type="press_pot")
    for s in (a, b):
        host.brew(trial["id"], s)
    assert "mixed_yield_bases" in [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]
    results = host.get(f"/trials/{trial['id']}/results")
    assert results["yield_basis"] == "in_cup"
    assert results["runs"][0]["extraction_yield"]["value"] == results["runs"][1]["extraction_yield"]["value"]
    chosen = host.call("PATCH", f"/trials/{trial['id']}", {"yield_basis": "full_liquor"}, rev=trial["rev"])
    assert chosen["yield_basis"] == "full_liquor"
    assert host.get(f"/trials/{trial['id']}/results")["runs"][0]["extraction_yield"]["value"] > results["runs"][0]["extraction_yield"]["value"]


def test_only_what_is_sent_is_changed(host):
    trial = host.ask(strength_policy="matched", smallest_difference=1.0)
    after = host.call("PATCH", f"/trials/{trial['id']}", {"question": "Another?"}, rev=1)
    assert (after["question"], after["strength_policy"], after["smallest_difference"], after["factor"]) == ("Another?", "matched", 1.0, "filter")
    same = host.call("PATCH", f"/trials/{trial['id']}", {"question": "Another?"}, rev=after["rev"])
    assert same["rev"] == after["rev"]  # nothing differs, so nothing is written


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"question": " "}, "question"),
        ({"question": "x" * 201}, "question"),
        ({"factor": "moon"}, "factor"),
        ({"smallest_difference": 0}, "smallest_difference"),
        ({"smallest_difference": 0.123}, "smallest_difference"),
        ({"yield_basis": "nordic"}, "yield_basis"),
        ({"strength_policy": "strong"}, "strength_policy"),
    ],
)
def test_a_bad_question_is_refused_at_its_field(host, changes, field):
    said = host.call("POST", "/trials", {"question": "Which?", "factor": "filter"} | changes, status=422)
    assert said["errors"][0]["field"] == field and said["errors"][0]["remedy"]
    assert host.get("/trials")["trials"] == []


def test_trials_come_in_pages_newest_first(host):
    for i in range(7):
        host.ask(question=f"Q{i}")
    first = host.get("/trials?limit=3")
    assert ([t["number"] for t in first["trials"]], first["more"]) == ([7, 6, 5], True)
    rest = host.get("/trials?limit=10&before=5")
    assert ([t["number"] for t in rest["trials"]], rest["more"]) == ([4, 3, 2, 1], False)
    for bad in ("limit=0", "limit=x", "before=-1", "limit=9999"):
        host.get(f"/trials?{bad}", status=422)


def test_every_thing_that_is_not_there_is_said_to_be_not_there(host):
    for method, path, body in (
        ("GET", "/trials/none", None), ("GET", "/trials/none/setups", None), ("GET", "/trials/none/results", None), ("GET", "/trials/none/progress", None),
        ("GET", "/trials/none/flights", None), ("GET", "/trials/none/verdict", None), ("GET", "/flights/none", None), ("DELETE", "/runs/none", None),
        ("DELETE", "/readings/none", None), ("DELETE", "/setups/none", None), ("DELETE", "/people/none", None), ("POST", "/changes/none/undo", None),
        ("POST", "/sheets/none/link", None), ("GET", "/sheets/none/qr.svg", None), ("POST", "/runs/none/readings", {"tds_pct": 1.4}),
        ("DELETE", "/trials/none/declarations/coffee", None), ("POST", "/flights/none/close", None), ("GET", "/nothing", None),
    ):  # fmt: skip
        assert host.call(method, path, body, status=404)["status"] == 404, path


def test_a_deleted_trial_takes_everything_of_it_along(host):
    trial, (a, _), runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    host.call("DELETE", f"/trials/{trial['id']}")
    for path in (f"/trials/{trial['id']}/results", f"/flights/{flight['id']}"):
        host.get(path, status=404)
    host.call("PATCH", f"/setups/{a['id']}", {"name": "x"}, rev=1, status=404)
    host.call("POST", f"/runs/{runs[0]}/readings", {"tds_pct": 1.4}, status=404)


def test_creating_can_be_undone_too_and_an_undo_is_itself_history(host):
    trial, (a, _), _ = host.two_setups_brewed(1)
    made = next(c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["entity"] == "setup" and c["entity_id"] == a["id"])
    host.call("POST", f"/changes/{made['id']}/undo")
    assert [s["letter"] for s in host.get(f"/trials/{trial['id']}/setups")["setups"]] == ["B"]
    newest = host.get(f"/trials/{trial['id']}/history")["changes"][0]
    assert (newest["action"], newest["undoes"]) == ("delete", made["id"])


def test_undoing_an_edit_over_a_later_one_puts_back_only_its_own_field(host):
    trial, _, (run, *_) = host.two_setups_brewed(1)
    host.call("PATCH", f"/runs/{run}", {"beverage_g": 240}, rev=1)
    first = host.get(f"/trials/{trial['id']}/history")["changes"][0]["id"]
    host.call("PATCH", f"/runs/{run}", {"temperature_c": 91}, rev=2)
    host.call("POST", f"/changes/{first}/undo")
    shown = host.get(f"/trials/{trial['id']}/results")["runs"][0]
    assert (shown["beverage_g"], shown["temperature_c"]) == (248, 91)


def test_a_reading_is_corrected_and_refused_like_a_new_one(host):
    trial, _, (run, *_) = host.two_setups_brewed(1)
    added = host.call("POST", f"/runs/{run}/readings", {"tds_pct": 1.48})
    host.call("PATCH", f"/readings/{added['id']}", {"tds_pct": 1.45}, rev=1)
    for bad in (142, -1, "1,45", None):
        assert host.call("PATCH", f"/readings/{added['id']}", {"tds_pct": bad}, rev=2, status=422)["errors"][0]["field"] == "tds_pct"
    shown = host.get(f"/trials/{trial['id']}/results")["runs"][0]
    assert [r["tds_pct"] for r in shown["readings"]] == [1.41, 1.43, 1.42, 1.45]


def test_a_concentrate_takes_strong_readings_and_cannot_be_unmarked_over_them(host):
    trial = host.ask()
    a = host.setup(trial["id"])
    run = host.brew(trial["id"], a, tds=[9.5], concentrate=True, brew_water_g=60, beverage_g=36)
    said = host.call("PATCH", f"/runs/{run['id']}", {"concentrate": False}, rev=1, status=422)
    assert "concentrate" in said["errors"][0]["remedy"]


def test_a_name_said_for_this_device_must_be_a_persons(host):
    assert host.call("POST", "/people", {"name": "Bo"}, headers={"X-Penny-Person": "not a person"}, status=422)["errors"][0]["field"] == "X-Penny-Person"


def test_the_flights_one_temperature_is_read_and_taken_back(host):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    at = f"/flights/{flight['id']}/temperatures"
    assert host.call("POST", at, {"cup_c": 54.5})["cup_temperature_c"] == 54.5
    host.call("POST", at, {"cup_c": 400}, status=422)
    host.call("POST", at, {}, status=422)
    host.call("POST", at, {"cup_c": 54, "cups": [{"code": flight["cups"][0]["code"], "cup_c": 54}]}, status=422)
    assert host.call("POST", at, {"cup_c": 54.0})["cup_temperature_c"] == 54.0
    assert host.call("DELETE", at)["cup_temperature_c"] == 54.5
    assert host.call("DELETE", at)["cup_temperature_c"] is None
    host.call("DELETE", at, status=409)


def test_links_begin_with_the_address_asked_for_or_the_one_set(make_app):
    from .host import Host

    for how, start in (({}, "http://localhost/t/"), ({"link_base": "https://bench.example"}, "https://bench.example/t/")):
        host = Host(make_app(**how).test_client())
        trial, _, runs = host.two_setups_brewed(1)
        link = host.flight(trial["id"], runs, [host.person("Bo")])["sheets"][0]["link"]
        assert link.startswith(start) and len(link.removeprefix(start)) == 22  # 128 bits


def test_what_a_setup_was_made_on_is_said_once_kit_changes_and_taken_anew_with_one_press(host):
    trial = host.ask()
    a = host.setup(trial["id"], coffee="Lot 31")
    host.copy(a, filter="Mesh")
    first = host.brew(trial["id"], a)
    coffee = next(i["id"] for i in host.get("/kit")["items"] if i["kind"] == "coffee")

    def change(**facts):
        item = host.get(f"/kit/{coffee}")["item"]
        host.call("PATCH", f"/kit/{coffee}", {"coffee": (item["coffee"] or {}) | facts}, rev=item["rev"])

    def made_on():
        return host.get(f"/trials/{trial['id']}/setups")["made_on"]

    change(price_per_kg=30)
    assert made_on() == [], "a price is a fact of now"
    change(roast="dark")
    (said,) = made_on()
    assert said["text"] == "Lot 31 was changed in Kit after A and B were set up." and said["changes"] == ["Roast: not given, now Dark"]
    host.call("POST", f"/trials/{trial['id']}/kit-of-now", {"kit_item_id": "no such"}, status=422)
    paper = next(i for i in host.get("/kit")["items"] if i["name"] == "Mesh")
    host.call("PATCH", f"/kit/{paper['id']}", {"name": "Mesh, renamed", "filter": {"thickness": "0.2 mm"}}, rev=paper["rev"])
    after = host.call("POST", f"/trials/{trial['id']}/kit-of-now", {"kit_item_id": coffee})
    assert [m["name"] for m in after["made_on"]] == ["Mesh, renamed"], "the other piece stays as it was"
    after = host.call("POST", f"/trials/{trial['id']}/kit-of-now", {"kit_item_id": paper["id"]})
    assert after["made_on"] == [] and [s["revision"] for s in after["setups"]] == [2, 3]
    runs = host.get(f"/trials/{trial['id']}/results")["runs"]
    assert [r["off_revision"] for r in runs if r["id"] == first["id"]] == [True], "a brew keeps what it was brewed on"
