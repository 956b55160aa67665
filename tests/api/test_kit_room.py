"""The kit room: facts, burrs, stock, what may be deleted, settings translated, waters blended; the past stays as it was."""

import pytest


def add(host, kind, name, **facts):
    return host.call("POST", "/kit", {"kind": kind, "name": name, kind: facts})


def worked(host, item):
    return {w["label"]: w["value"] for w in host.get(f"/kit/{item['id']}")["worked_out"]}


@pytest.fixture
def mills(host):
    dial, mill = add(host, "grinder", "Windlass", scale="dial", step=0.1), add(host, "grinder", "Capstan", scale="clicks")
    burrs = add(host, "burr_set", "ridged", grinder_id=dial["id"])
    return burrs, mill


def match(host, a, x, b, y, kind="brew_time", **how):
    return host.call("POST", "/matched-settings", {"a_id": a["id"], "a_setting": x, "b_id": b["id"], "b_setting": y, "match": kind}, **how)


def test_every_kind_keeps_its_facts_and_says_them_in_a_line(host):
    coffee = add(host, "coffee", "Lot 31", process="washed", roasted_on="2026-02-15", price_per_kg=34)
    assert coffee["summary"] == "washed · 14 days off roast" and worked(host, coffee)["Off roast today"] == 14
    server = add(host, "vessel", "Server", room_c=22, first_c=68, second_c=54, after_s=600)
    assert worked(host, server)["Cooling time constant"] == pytest.approx(27.6, abs=0.05)  # docs/formulas.md §8.6
    water = add(host, "water", "Shore main", hardness_mg_l=214, alkalinity_mg_l=60)
    assert worked(host, water) == {"Total hardness": 214}
    grinder = add(host, "grinder", "Windlass", direction="larger_is_finer", rate_g_s=1.8)
    assert grinder["summary"] == "larger is finer · 1.8 g/s" and grinder["grinder"]["direction"] == "larger_is_finer"
    assert "Unplug" in host.get(f"/kit/{grinder['id']}")["cautions"][0]


def test_burrs_are_parts_of_their_own_and_setups_call_them_with_their_grinder(host, mills):
    burrs, mill = mills
    assert burrs["full_name"] == "Windlass · ridged" and host.get("/kit")["grinders"] == ["Capstan", "Windlass · ridged"]
    setup = host.setup(host.ask(factor="grinder")["id"], grinder="Windlass · ridged")
    assert setup["variables"]["grinder"] == "Windlass · ridged"
    assert host.get(f"/kit/{burrs['id']}")["used_by_setups"] == 1
    assert [i["name"] for i in host.get("/kit")["items"] if i["kind"] == "grinder"] == ["Capstan", "Windlass"]


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"kind": "vessel", "name": "V", "vessel": {"room_c": 22, "first_c": 50, "second_c": 60, "after_s": 60}}, "vessel.second_c"),
        ({"kind": "brewer", "name": "B", "brewer": {"dose_low_g": 20, "dose_high_g": 10}}, "brewer.dose_high_g"),
        ({"kind": "burr_set", "name": "B"}, "burr_set.grinder_id"),
        ({"kind": "burr_set", "name": "B", "burr_set": {"grinder_id": "nothing"}}, "burr_set.grinder_id"),
        ({"kind": "coffee", "name": "C", "water": {}}, "water"),
        ({"kind": "coffee", "name": "C", "coffee": {"roasted_on": "yesterday"}}, "coffee.roasted_on"),
        ({"kind": "kettle", "name": "K", "kettle": {"set_c": 300}}, "kettle.set_c"),
        ({"kind": "coffee", "name": " "}, "name"),
    ],
)
def test_facts_that_cannot_be_are_refused_at_their_field(host, body, field):
    assert host.call("POST", "/kit", body, status=422)["errors"][0]["field"] == field


def test_what_a_run_used_is_retired_never_deleted_and_the_past_keeps_its_name_and_facts(host):
    coffee = add(host, "coffee", "Lot 31", species="arabica")
    trial = host.ask()
    a = host.setup(trial["id"], coffee="Lot 31")
    host.brew(trial["id"], a)
    assert "Retire it" in host.call("DELETE", f"/kit/{coffee['id']}", status=409)["errors"][0]["remedy"]
    budget = host.get(f"/trials/{trial['id']}/plan")["budget"]["caffeine_flight_mg"]
    changed = host.call("PATCH", f"/kit/{coffee['id']}", {"name": "Lot 31, renamed", "coffee": {"species": "robusta"}}, rev=coffee["rev"])
    assert host.get(f"/trials/{trial['id']}/setups")["setups"][0]["variables"]["coffee"] == "Lot 31"
    assert host.get(f"/trials/{trial['id']}/plan")["budget"]["caffeine_flight_mg"] == budget
    retired = host.call("POST", f"/kit/{coffee['id']}/retire", rev=changed["rev"])
    assert retired["retired"] and not host.call("DELETE", f"/kit/{coffee['id']}/retire", rev=retired["rev"])["retired"]
    spare = add(host, "coffee", "Lot 9")
    change = host.call("DELETE", f"/kit/{spare['id']}")["change_id"]
    host.call("POST", f"/changes/{change}/undo")
    assert host.get(f"/kit/{spare['id']}")["item"]["name"] == "Lot 9"


def test_runs_draw_the_stock_down_and_a_corrected_or_deleted_one_gives_it_back(host):
    coffee = add(host, "coffee", "Lot 31")
    host.call("POST", f"/kit/{coffee['id']}/stock", {"mass_g": 250, "note": "bought"})
    trial = host.ask()
    a = host.setup(trial["id"], coffee="Lot 31")
    first = host.brew(trial["id"], a)
    host.brew(trial["id"], a, purpose="dial_in", dose_g=20)

    def left():
        return host.get("/stock")["stock_g"][coffee["id"]]

    assert left() == 250 - 18 - 20
    host.call("PATCH", f"/runs/{first['id']}", {"dose_g": 19}, rev=first["rev"])
    assert left() == 250 - 19 - 20
    host.call("DELETE", f"/runs/{first['id']}")
    assert left() == 230
    grinder = add(host, "grinder", "Windlass")
    host.call("POST", f"/kit/{grinder['id']}/stock", {"mass_g": 1}, status=422)


def test_a_brewer_learns_what_its_grounds_keep_and_foretells_with_it(host):
    brewer = add(host, "brewer", "Binnacle", brewer_type="flat_bed")
    trial = host.ask()
    a = host.setup(trial["id"])
    check = {"document": {"dose_g": 18, "ends": "drips_stop", "steps": [{"kind": "pour", "to_g": 290}]}, "brewer": "Binnacle"}
    assert worked(host, brewer)["Water retained by the grounds"] == 2.1  # the usual value until it is known
    assert host.call("POST", "/recipe-check", check)["outlook"]["tds_range_pct"] is None
    for tds in (1.40, 1.42, 1.44):
        host.brew(trial["id"], a, tds=[tds])
    assert worked(host, brewer)["Water retained by the grounds"] == pytest.approx(2.53, abs=0.01)  # docs/formulas.md §3's example brew
    outlook = host.call("POST", "/recipe-check", check)["outlook"]
    assert outlook["brews"] == 3 and outlook["tds_range_pct"][0] < 1.42 < outlook["tds_range_pct"][1]
    assert outlook["beverage_g"] == pytest.approx(248, abs=1)


def test_a_setting_is_translated_both_ways_with_its_evidence(host, mills):
    burrs, mill = mills
    host.sieve_match(burrs["id"], 5, mill["id"], 17)
    said = match(host, burrs, 7, mill, 25, "brew_time")
    assert {s["name"] for s in said["scales"]} == {"Capstan", "Windlass · ridged"}
    got = host.call("POST", "/translate", {"from_id": burrs["id"], "to_id": mill["id"], "setting": 6.5})
    assert (got["setting"], got["nearest"], got["matches"]) == (23, 23, ["brew time", "sieve median"]) and len(got["evidence"]) == 2
    back = host.call("POST", "/translate", {"from_id": mill["id"], "to_id": burrs["id"], "setting": 23})
    assert back["setting"] == 6.5
    outside = host.call("POST", "/translate", {"from_id": burrs["id"], "to_id": mill["id"], "setting": 9}, status=422)
    assert outside["errors"][0]["field"] == "setting" and "never extrapolated" in outside["errors"][0]["remedy"]


def test_contradictory_matches_are_named_and_stop_the_translator_until_one_is_taken_out(host, mills):
    burrs, mill = mills
    match(host, burrs, 5, mill, 17)
    said = match(host, burrs, 6, mill, 14)
    assert "Capstan 14 = Windlass · ridged 6" in said["faults"][0] and all(p["at_fault"] for p in said["pairs"])
    refused = host.call("POST", "/translate", {"from_id": burrs["id"], "to_id": mill["id"], "setting": 5.5}, status=422)
    assert "Capstan 17 = Windlass · ridged 5" in refused["errors"][0]["reason"]
    wrong = next(p for p in said["pairs"] if p["b_setting"] == 14)
    mended = {"a_id": burrs["id"], "a_setting": 6, "b_id": mill["id"], "b_setting": 20, "match": "by_eye"}
    assert not host.call("PUT", f"/matched-settings/{wrong['id']}", mended, rev=wrong["rev"])["faults"]
    change = host.call("DELETE", f"/matched-settings/{wrong['id']}")["change_id"]
    assert len(host.get("/matched-settings")["pairs"]) == 1
    host.call("POST", f"/changes/{change}/undo")
    assert len(host.get("/matched-settings")["pairs"]) == 2
    assert "Retire it" in host.call("DELETE", f"/kit/{mill['id']}", status=409)["errors"][0]["remedy"]


def test_a_match_needs_two_different_sides_that_hold_a_setting(host, mills):
    burrs, mill = mills
    body = {"a_id": burrs["id"], "a_setting": 5, "b_id": burrs["id"], "b_setting": 5, "match": "by_eye"}
    assert host.call("POST", "/matched-settings", body, status=422)["errors"][0]["field"] == "b_id"
    body["b_id"] = burrs["burr_set"]["grinder_id"]  # a body with burrs of its own: the setting belongs to the burrs
    assert host.call("POST", "/matched-settings", body, status=422)["errors"][0]["field"] == "b_id"


def test_two_waters_of_the_kit_are_blended(host):
    hard, soft = add(host, "water", "Shore", hardness_mg_l=220), add(host, "water", "Rain", hardness_mg_l=20)
    got = host.call("POST", "/blend", {"first_id": hard["id"], "second_id": soft["id"], "hardness_mg_l": 80})
    assert got["first_share"] == pytest.approx(0.3) and got["got"]["hardness_mg_l"] == pytest.approx(80)
    refused = host.call("POST", "/blend", {"first_id": hard["id"], "second_id": soft["id"], "alkalinity_mg_l": 40}, status=422)
    assert "not known" in refused["errors"][0]["reason"] and refused["errors"][0]["field"] == "first_id"
    for target, field in (({"hardness_mg_l": 400}, "hardness_mg_l"), ({}, "hardness_mg_l")):
        refused = host.call("POST", "/blend", {"first_id": hard["id"], "second_id": soft["id"], **target}, status=422)
        assert refused["errors"][0]["field"] == field, target
