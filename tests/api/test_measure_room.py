"""From the first reading to a number that can be trusted: protocol, °Brix, oven, checks, pairs, matching, advice, a wished cup, loose brews."""

from datetime import timedelta

import pytest

from .host import Host, token

TEXT = "18 g, 288 g at 93, bloom 45 for 40 s, then to 170 by 1:10, then to 288 by 1:50, drips stop, done between 2:20 and 3:10, target 1.25 to 1.45 % TDS, 19 to 21.5 % EY"


@pytest.fixture
def brewed(host):
    trial, setups, runs = host.two_setups_brewed()
    return trial, setups, runs


def results(host, trial):
    return host.get(f"/trials/{trial['id']}/results")


def run_of(host, trial, run_id):
    found = results(host, trial)
    return next(r for r in found["runs"] + found["dial_ins"] if r["id"] == run_id)


def log(host, run_id, body, **how):
    return host.call("POST", f"/runs/{run_id}/readings", body, **how)


# --- readings ------------------------------------------------------------------------------------------------------------------


def test_brix_and_oven_are_readings_with_their_own_doubt(host, brewed):
    trial, _, runs = brewed
    before = run_of(host, trial, runs[0])["tds"]["half_width"]
    assert log(host, runs[0], {"brix": 1.68})["as_read"] == {"kind": "brix", "value": 1.68, "offset_pct": 0}
    wide = run_of(host, trial, runs[0])
    assert wide["readings"][-1]["tds_pct"] == 1.428 and wide["tds"]["half_width"] > 2 * before
    assert log(host, runs[1], {"oven": {"sample_g": 5, "dish_g": 20, "dried_g": 20.071}})["tds_pct"] == 1.42
    for body, field in (
        ({}, "tds_pct"),
        ({"tds_pct": 1.4, "brix": 1.6}, "tds_pct"),
        ({"brix": 40}, "brix"),
        ({"tds_pct": 40}, "tds_pct"),
        ({"oven": {"sample_g": 5, "dish_g": 20, "dried_g": 19}}, "dried_g"),
        ({"tds_pct": "Lo"}, "tds_pct"),
    ):
        assert log(host, runs[0], body, status=422)["errors"][0]["field"] == field, body


def test_a_checks_offset_is_applied_from_then_on_and_shown(host, brewed):
    trial, _, runs = brewed
    got = host.call("POST", "/instrument-checks", {"read_pct": 0.02, "note": "distilled"})
    assert (got["offset_pct"], got["checks"][0]["in_force"]) == (0.02, True)
    reading = log(host, runs[0], {"tds_pct": 1.44})
    assert (reading["tds_pct"], reading["as_read"]["value"], reading["as_read"]["offset_pct"]) == (1.42, 1.44, 0.02)
    old = run_of(host, trial, runs[0])["readings"]
    assert [r["as_read"] is None for r in old] == [True, True, True, False]  # what was read before stays
    host.call("POST", "/instrument-checks", {"read_pct": 0.0})
    kept = host.call("PATCH", f"/readings/{reading['id']}", {"tds_pct": 1.45}, rev=reading["rev"])
    assert (kept["tds_pct"], kept["as_read"]["offset_pct"]) == (1.43, 0.02)  # corrected with the offset it was taken with
    assert log(host, runs[0], {"tds_pct": 1.44})["as_read"] is None
    assert host.call("POST", "/instrument-checks", {"read_pct": 2}, status=422)["errors"][0]["field"] == "read_pct"
    host.call("DELETE", f"/instrument-checks/{got['checks'][0]['id']}")


def test_a_skipped_step_of_the_protocol_is_a_caveat_and_refuses_nothing(host, brewed):
    trial, _, runs = brewed
    log(host, runs[0], {"tds_pct": 1.42, "done": ["zeroed", "mixed", "from_the_server", "cooled"]})
    assert run_of(host, trial, runs[0])["skipped"] == ["not wiped between samples"]
    caveats = {c["code"]: c for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}
    assert "A1: not wiped" in caveats["reading_protocol"]["text"] and caveats["reading_protocol"]["cure"]
    log(host, runs[0], {"tds_pct": 1.42, "done": ["zeroed", "mixed", "from_the_server", "cooled", "wiped"]})
    assert "reading_protocol" not in {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}


# --- what was seen, and off plan ---------------------------------------------------------------------------------------------


def test_what_is_seen_is_kept_and_off_plan_brews_are_a_caveat(host, brewed):
    trial, (a, _), _ = brewed
    seen = {"first_drip_s": 21, "bed": ["flat"], "clouding": "hazy", "mishaps": ["spill"], "ground_min": 2, "sediment_g": 1.5, "slurry_c": 88, "press_kg": 14}
    run = host.brew(trial["id"], a, brew_water_g=295, observed=seen)
    shown = run_of(host, trial, run["id"])
    assert {k: shown["observed"][k] for k in seen} == seen
    assert shown["off_plan"] == ["water 5.0 g over", "spill"]
    assert "A3: water 5.0 g over, spill." in next(c["text"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"] if c["code"] == "off_plan")
    bench = host.get("/bench")
    host.call("PATCH", "/bench", {"tolerance_g": 6}, rev=bench["rev"])
    assert run_of(host, trial, run["id"])["off_plan"] == ["spill"]
    assert host.brew.__self__.call("PATCH", f"/runs/{run['id']}", {"observed": {"bed": ["lumpy"]}}, rev=1, status=422)["errors"][0]["field"] == "observed.bed.0"


def test_a_corrected_stop_keeps_the_first_one(host, brewed):
    trial, (a, _), _ = brewed
    run = host.brew(trial["id"], a, total_time_s=190)
    for total in (178, 176):
        run = host.call("PATCH", f"/runs/{run['id']}", {"total_time_s": total}, rev=run["rev"])
    shown = run_of(host, trial, run["id"])
    assert (shown["total_time_s"], shown["observed"]["stopped_first_s"]) == (176, 190)


# --- pairs, matching -----------------------------------------------------------------------------------------------------------


def test_pairs_are_different_the_same_or_cannot_tell(host):
    trial = host.ask()
    a = host.setup(trial["id"])
    b, c = host.copy(a, filter="Thick crêpe"), host.copy(a, filter="Cloth")
    for setup, readings in ((a, (1.42, 1.43)), (b, (1.22, 1.23)), (c, (1.42, 1.44))):
        for tds in readings:
            host.brew(trial["id"], setup, tds=[tds, tds + 0.01, tds])
    found = host.get(f"/trials/{trial['id']}/comparisons")
    assert {(p["first"], p["second"]): p["verdict"] for p in found["pairs"]} == {("A", "B"): "different", ("A", "C"): "cannot_tell", ("B", "C"): "different"}
    ab = found["pairs"][0]
    assert ab["difference"]["low"] > 0 and "A has the higher" in ab["text"] and not ab["single_brews"]
    setup = results(host, trial)["setups"][0]["extraction_yield"]
    assert setup["shared_half_width"] > setup["readings_half_width"] > 0 and setup["between_half_width"] > 0
    host.copy(a, filter="None")
    assert host.get(f"/trials/{trial['id']}/comparisons")["missing"] == ["D"]


def test_strengths_are_matched_before_coding_and_both_values_stay(host):
    trial = host.ask(strength_policy="matched")
    a = host.setup(trial["id"])
    b = host.copy(a, filter="Thick crêpe")
    strong, weak = host.brew(trial["id"], a, tds=[1.52], beverage_g=210), host.brew(trial["id"], b, tds=[1.38], beverage_g=215)
    plan = host.get(f"/trials/{trial['id']}/matching")
    assert plan["needed"] and [round(x["add_water_g"], 1) for x in plan["servers"]] == [21.3, 0]
    assert "off_strength" in {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}
    refused = host.call("GET", f"/trials/{trial['id']}/matching?target_tds_pct=1.5", status=422)
    assert refused["errors"][0]["field"] == "target_tds_pct" and "B1" in refused["errors"][0]["reason"]
    served = host.call("PUT", f"/runs/{strong['id']}/served", {"added_water_g": 21.3, "water_c": 60}, rev=strong["rev"])
    shown = run_of(host, trial, strong["id"])["served"]
    assert shown["tds_pct"] == pytest.approx(1.38, abs=0.001) and not shown["confirmed"]
    host.call("PUT", f"/runs/{strong['id']}/served", {"added_water_g": 21.3, "tds_pct": 1.39}, rev=served["rev"])
    shown = run_of(host, trial, strong["id"])
    assert (shown["served"]["tds_pct"], shown["served"]["confirmed"], shown["tds"]["value"]) == (1.39, True, 1.52)
    assert "off_strength" not in {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}
    host.call("PUT", f"/runs/{weak['id']}/served", {"added_water_g": -1}, rev=weak["rev"], status=422)


def test_matching_is_a_step_with_its_grams_from_the_kitchen_to_the_report(host):
    trial = host.ask(strength_policy="matched")
    a = host.setup(trial["id"])
    strong = host.brew(trial["id"], a, tds=[1.52], beverage_g=210)
    weak = host.brew(trial["id"], host.copy(a, filter="Thick crêpe"), tds=[1.38], beverage_g=215)
    step = host.get(f"/trials/{trial['id']}/matching")["step"]
    assert step == "Stir in water before any cup gets a code: A1 21.3 g."
    flight = host.flight(trial["id"], [strong["id"], weak["id"]], [host.person("Bo"), host.person("Iwan")], blinding="runner")
    runner = Host(host.client.application.test_client())
    link = token(flight["seal"])
    assert {c["label"].split(" ")[0]: c["add_water_g"] and round(c["add_water_g"], 1) for c in runner.call("POST", f"/pour/{link}")["cups"]} == {
        "A1": 21.3,
        "B1": None,
    }
    shuffled = host.flight(trial["id"], [strong["id"], weak["id"]], [host.person("Ines")])
    assert {m["label"].split(" ")[0]: m["add_water_g"] and round(m["add_water_g"], 1) for m in shuffled["marks"]} == {"A1": 21.3, "B1": None}
    host.call("PUT", f"/runs/{strong['id']}/served", {"added_water_g": 21.3}, rev=strong["rev"])
    assert {c["add_water_g"] for c in runner.get(f"/pour/{link}")["cups"]} == {None}
    assert host.get(f"/trials/{trial['id']}/matching")["step"] == ""
    report = host.get(f"/trials/{trial['id']}/report")
    assert "Cups were matched in strength (1.38 to 1.38 % TDS as served)" in report["method"][0]
    served = next(s for s in host.get(f"/trials/{trial['id']}/results")["setups"] if s["letter"] == "A")["served"]
    assert (round(served["tds_pct"], 2), served["added_water_g"]) == (1.38, 21.3)


def test_a_brew_that_was_thinned_too_little_is_told_what_it_still_takes_and_nothing_is_thinned_to_water(host):
    trial = host.ask(strength_policy="matched")
    a = host.setup(trial["id"])
    strong = host.brew(trial["id"], a, tds=[1.52], beverage_g=210)
    weak = host.brew(trial["id"], host.copy(a, filter="Thick crêpe"), tds=[1.38], beverage_g=215)
    host.call("PUT", f"/runs/{strong['id']}/served", {"added_water_g": 10}, rev=strong["rev"])
    assert host.get(f"/trials/{trial['id']}/matching")["step"] == "Stir in water before any cup gets a code: A1 11.3 g."
    reading = run_of(host, trial, weak["id"])["readings"][0]
    host.call("PATCH", f"/readings/{reading['id']}", {"tds_pct": 0.02}, rev=reading["rev"])
    flight = host.flight(trial["id"], [strong["id"], weak["id"]], [host.person("Bo")], blinding="runner")
    runner = Host(host.client.application.test_client())
    assert {c["add_water_g"] for c in runner.call("POST", f"/pour/{token(flight['seal'])}")["cups"]} == {None}


def test_water_that_cannot_give_the_second_reading_is_asked_about(host):
    trial = host.ask(strength_policy="matched")
    run = host.brew(trial["id"], host.setup(trial["id"]), tds=[1.52], beverage_g=210)
    for water, read, doubt in ((21.3, 1.39, ""), (21.3, 1.2, "56.0 g would"), (5, 1.7, "no water could")):
        rev = run_of(host, trial, run["id"])["rev"]
        host.call("PUT", f"/runs/{run['id']}/served", {"added_water_g": water, "tds_pct": read}, rev=rev)
        said = run_of(host, trial, run["id"])["served"]["doubt"]
        assert doubt in said if doubt else said == ""


# --- advice and a wished cup ---------------------------------------------------------------------------------------------------


def test_one_change_is_advised_drafted_and_kept_as_the_next_version(host):
    recipe = host.recipe(TEXT)
    trial = host.ask()
    mill = {"scale": "dial", "direction": "larger_is_finer", "step": 0.5}
    host.call("POST", "/kit", {"kind": "grinder", "name": "Shop mill", "grinder": mill})
    on = {"grinder": "Shop mill", "grind_setting": "7"}
    setup = host.call("POST", f"/trials/{trial['id']}/setups", {"recipe_version_id": recipe["versions"][0]["id"], "variables": on})
    run = host.brew(trial["id"], setup, brew_water_g=288, beverage_g=250, tds=[1.2], total_time_s=120, pour_end_s=105)
    got = host.get(f"/runs/{run['id']}/advice?words=sour,thin")
    assert {(t["label"], t["state"]) for t in got["targets"]} == {("Strength", "below"), ("Yield", "below"), ("Total time", "below")}
    assert (got["change"]["code"], got["says"], got["recipe_version"]) == ("under_finer", "7 → 8 on the Shop mill", 1)
    kept = host.call("POST", f"/recipes/{got['recipe_id']}/versions", {"document": got["draft"], "note": got["change"]["text"]}, rev=got["recipe_rev"])
    assert len(kept["versions"]) == 2 and [(g["on"], g["setting"]) for g in kept["document"]["grinds"]] == [("Shop mill", "8")]
    assert "pull apart" in host.get(f"/runs/{run['id']}/advice?words=sour,bitter")["disagreement"]
    assert host.get(f"/runs/{run['id']}/advice?words=lovely", status=422)["errors"][0]["field"] == "words.0"


def test_a_ghost_answers_with_dose_water_and_direction(host, brewed):
    _, _, runs = brewed
    got = host.get(f"/runs/{runs[0]}/aim?tds_pct=1.6&ey_pct=21")
    assert got["dose_g"] > 18 and got["brew_water_g"] < 290 and "finer" in got["direction"]
    for nothing in ("0", "5e-324", "1e-12"):
        assert host.get(f"/runs/{runs[0]}/aim?tds_pct={nothing}&ey_pct=21", status=422)["errors"][0]["field"] == "tds_pct"


def test_a_ladder_gets_its_line_and_a_temperature_trial_its_note(host):
    trial = host.ask("Which ratio?", "ratio")
    a = host.setup(trial["id"])
    for water, tds in ((270, 1.55), (290, 1.42), (320, 1.3)):
        setup = a if water == 290 else host.copy(a, brew_water_g=water)
        for more in (0, 0.01):
            host.brew(trial["id"], setup, brew_water_g=water, beverage_g=water - 42, tds=[tds + more])
    got = results(host, trial)
    assert "falls by" in got["tds_ladder"]["said"] and got["tds_ladder"]["ratios"][0] == 15 and got["note"] == ""
    heat = host.ask("How hot?", "temperature")
    host.setup(heat["id"])
    assert "Batali" in results(host, heat)["note"]


# --- loose brews, the charts -------------------------------------------------------------------------------------------


def test_a_loose_brew_is_measured_charted_taken_in_and_never_evidence(host, brewed):
    trial, (a, _), _ = brewed
    version = host.recipe(TEXT, "Morning watch")["versions"][0]["id"]
    body = {
        "recipe_version_id": version,
        "name": "Before breakfast",
        "variables": {"coffee": "Lot 7"},
        "new_kit": ["coffee"],
        "beverage_g": 250,
        "tds_readings_pct": [1.4],
    }
    loose = host.call("POST", "/loose-runs", body)
    assert loose["trial_id"] is None and len(host.get("/trials")["trials"]) == 1
    room = host.charts("?coffee=Lot+7")
    (point,) = room["points"]
    assert (point["label"], point["purpose"], point["name"], point["coffee"], room["matching"]) == ("loose brew", "loose", "Before breakfast", "Lot 7", 1)
    host.call("POST", f"/runs/{loose['id']}/readings", {"tds_pct": 1.41})
    (listed,) = host.get("/loose-runs")["runs"]
    assert (listed["name"], listed["label"], len(listed["readings"]), listed["off_plan"]) == ("Before breakfast", "loose brew", 2, [])
    host.call("PATCH", f"/runs/{loose['id']}", {"purpose": "evidence"}, rev=loose["rev"], status=409)
    taken = host.call("POST", f"/runs/{loose['id']}/take-in", {"setup_id": a["id"]}, rev=loose["rev"])
    dial_in = run_of(host, trial, loose["id"])
    assert (dial_in["purpose"], dial_in["label"], dial_in["off_revision"]) == ("dial_in", "A dial-in 1", True)
    refused = host.call("PATCH", f"/runs/{loose['id']}", {"purpose": "evidence"}, rev=taken["rev"], status=409)
    assert "loose" in refused["errors"][0]["reason"]
    host.call("POST", f"/runs/{loose['id']}/take-in", {"setup_id": a["id"]}, rev=taken["rev"], status=409)
    assert host.call("POST", "/loose-runs", {"variables": {"coffee": "x"}}, status=422)["errors"][0]["field"] == "variables.dose_g"


def test_the_chart_room_filters_by_everything_and_counts_facets(host, brewed):
    trial, _, _ = brewed
    other = host.ask("Another?")
    host.brew(other["id"], host.setup(other["id"], coffee="Lot 9", brewer="Other"), tds=[1.3])
    room = host.charts()
    assert (room["matching"], len(room["points"]), {f["name"]: f["count"] for f in room["brewers"]}) == (5, 5, {"Binnacle": 4, "Other": 1})
    assert {p["trial_id"] for p in host.charts("?brewer=Other")["points"]} == {other["id"]}
    assert host.charts("?until=2020-01-01")["matching"] == 0 and host.charts("?since=2020-01-01")["matching"] == 5
    assert len(host.charts("?limit=2")["points"]) == 2
    host.get("/charts?since=yesterday", status=422)
    host.call("DELETE", f"/trials/{trial['id']}")
    assert host.charts()["matching"] == 1


def test_what_the_charts_keep_of_a_brew_follows_its_recipe_its_trial_and_its_instrument(host, brewed):
    """Each after a look at the charts, so that there is something to be out of date."""
    trial, _, _ = brewed
    made = host.recipe(TEXT, "Morning watch")
    host.call("POST", "/loose-runs", {"recipe_version_id": made["versions"][0]["id"], "beverage_g": 250, "tds_readings_pct": [1.4]})
    assert "Morning watch" in {p["name"] for p in host.charts()["points"]}
    host.call("PATCH", f"/recipes/{made['id']}", {"name": "Evening watch"}, rev=made["rev"])
    room = host.charts()
    assert {"Evening watch"} == {p["name"] for p in room["points"] if p["recipe_id"]} and [r["label"] for r in room["recipes"]] == ["Evening watch"]
    before = {p["run_id"]: p["ey_half_pct"] for p in room["points"]}
    host.call("PATCH", "/bench", {"accuracy_pct": 0.2}, rev=host.get("/bench")["rev"])
    assert all(p["ey_half_pct"] > before[p["run_id"]] for p in host.charts()["points"])
    gone = host.call("DELETE", f"/trials/{trial['id']}")["change_id"]
    assert host.charts()["matching"] == 1
    host.call("POST", f"/changes/{gone}/undo")
    assert host.charts()["matching"] == 5


def test_versions_of_a_recipe_leave_a_trail(host):
    made = host.recipe(TEXT)
    second = host.call("POST", f"/recipes/{made['id']}/versions", {"document": made["document"] | {"temperature_c": 96}}, rev=made["rev"])
    for version, tds in zip(sorted(second["versions"], key=lambda v: v["number"]), (1.3, 1.4), strict=True):
        host.call("POST", "/loose-runs", {"recipe_version_id": version["id"], "beverage_g": 250, "tds_readings_pct": [tds]})
    (trail,) = host.charts(f"?recipe={made['id']}")["trails"]
    assert trail["versions"] == [1, 2] and trail["points"][0][1] < trail["points"][1][1]


# --- instruments of a simulated brew, and a real scale's file ------------------------------------------------------------------


def prepared(host, **how):
    version = host.recipe(TEXT)["versions"][0]["id"]
    return host.call("POST", "/live-brews", {"recipe_version_id": version, "instrument": "simulated", "speed": 20, "name": "Dog watch", **how})


def on(host, live, what, body=None, **how):
    return host.call("POST", f"/live-brews/{live['id']}/{what}", body, rev=live["rev"], **how)


@pytest.mark.parametrize(("mistake", "off"), [("", []), ("late", ["Pour to 288 g"]), ("spill", ["Pour to 288 g"])])
def test_a_loose_brew_along_simulated_instruments_is_marked_and_its_mistake_is_seen(host, app, mistake, off):
    live = on(host, prepared(host, mistake=mistake), "start")
    assert live["trial_id"] is None and host.get("/live-brews")["brews"][0]["id"] == live["id"]
    app.config["CLOCK"].at += timedelta(seconds=8)  # 160 s of the brew
    live = on(host, host.get(f"/live-brews/{live['id']}"), "marks", {"kind": "ended", "at_s": 175})
    said = live["simulated"]
    assert 235 < said["beverage_g"] < 262 and len(said["tds_readings_pct"]) == 3 and 75 < said["slurry_c"] < 93
    body = {"beverage_g": said["beverage_g"], "tds_readings_pct": said["tds_readings_pct"], "total_time_s": 171, "observed": {"bed": ["dome"]}}
    done = on(host, live, "finish", body)
    (point,) = host.charts()["points"]
    assert point["run_id"] == done["run_id"] and point["simulated"] and point["total_time_s"] == 171
    curve = host.get(f"/runs/{done['run_id']}/curve")
    assert curve["points"][-1][0] >= 160 and curve["plan"][-1][1] == 288
    texts = " ".join(d["text"] for d in live["deviations"] if d["outside"])
    assert all(x in texts for x in off) and bool(texts) == bool(off)


LOG = "time,mass\n" + "\n".join(
    f"{t / 5:.1f},{g:.1f}" for t, g in enumerate([0] * 25 + [i * 1.0 for i in range(46)] + [45] * 150 + [45 + i * 1.215 for i in range(201)] + [288] * 100)
)


def test_a_scales_file_is_cut_into_pours_beside_the_plan(host):
    version = host.recipe("18 g, 288 g at 93, bloom 45 for 40 s, then to 288 by 1:20, drips stop")["versions"][0]["id"]
    run = host.call("POST", "/loose-runs", {"recipe_version_id": version, "beverage_g": 250})
    got = host.call("POST", f"/runs/{run['id']}/scale-log", {"text": LOG}, rev=run["rev"])
    assert [round(p["to_g"]) for p in got["pours"]] == [45, 288] and [p["planned_to_g"] for p in got["pours"]] == [45, 288]
    assert got["pours"][0]["start_s"] == 0 and abs(got["pours"][1]["end_s"] - 79) < 2 and got["off_plan"] == []
    assert len(host.get(f"/runs/{run['id']}/curve")["points"]) > 100
    for text, field in (("", "text"), ("time,mass\n0,0\n1,0\n2,0", "text"), ("x" * 100, "text")):
        assert host.call("POST", f"/runs/{run['id']}/scale-log", {"text": text}, rev=got["rev"], status=422)["errors"][0]["field"] == field


def test_a_setup_of_amounts_alone_plans_no_pours_and_none_is_late(host):
    trial = host.ask()
    setup = host.setup(trial["id"], dose_g=18, brew_water_g=288)
    run = host.brew(trial["id"], setup, brew_water_g=288)
    got = host.call("POST", f"/runs/{run['id']}/scale-log", {"text": LOG}, rev=run["rev"])
    assert len(got["pours"]) == 2 and got["off_plan"] == []
    short = host.call("PATCH", f"/runs/{run['id']}", {"brew_water_g": 250}, rev=got["rev"])
    assert short and "water" in host.get(f"/trials/{trial['id']}/results")["runs"][0]["off_plan"][0], "the amount is planned all the same"


def test_the_simulator_is_taught_by_a_brewers_own_brews(host):
    version = host.recipe(TEXT)["versions"][0]["id"]
    for tds, drink, total in ((1.5, 252, 150), (1.51, 251, 152), (1.49, 253, 148)):
        body = {"recipe_version_id": version, "variables": {"brewer": "Binnacle", "brewer_type": "flat_bed"}, "new_kit": ["brewer"], "beverage_g": drink}
        host.call("POST", "/loose-runs", body | {"total_time_s": total, "tds_readings_pct": [tds]})
    brewer = next(k["id"] for k in host.get("/kit")["items"] if k["kind"] == "brewer")
    got = host.get(f"/kit/{brewer}/learnt")
    assert got["brews"] == 3 and got["after"] < 0.5 * got["before"] and len(got["residuals"]) == 3
    assert all(abs(r["tds_pct"]) < 0.06 and abs(r["beverage_g"]) < 5 for r in got["residuals"])
    grinder = host.call("POST", "/kit", {"kind": "grinder", "name": "Mill", "grinder": {}})["id"]
    host.get(f"/kit/{grinder}/learnt", status=422)
    other = host.call("POST", "/kit", {"kind": "brewer", "name": "New", "brewer": {"brewer_type": "cone"}})["id"]
    host.get(f"/kit/{other}/learnt", status=409)


def test_two_readings_of_a_cup_tell_when_each_pass_opens(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    first = host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 70})
    assert [(p["name"], p["known"], p["open"]) for p in first["passes"]] == [("warm", False, True)]
    warmer = host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 71})
    assert not warmer["passes"][0]["known"] and warmer["cooling"] is None  # a cup does not heat up: nothing is foretold from that
    second = host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 70.8})
    assert [p["name"] for p in second["passes"]] == ["hot", "warm", "cool"]
    opens = [p["opens_at"] for p in second["passes"]]
    assert opens == sorted(opens) and all(p["opens_at"] < p["closes_at"] for p in second["passes"])


def test_zero_is_no_reading_of_coffee_whoever_gives_it(host, brewed):
    trial, _, runs = brewed
    masses = {"dose_g": 18, "brew_water_g": 290, "beverage_g": 250}
    setup = host.get(f"/trials/{trial['id']}/setups")["setups"][0]["id"]
    side = {"name": "A", "brews": [masses | {"tds_readings_pct": [1.4, 0]}]}
    for method, path, body, field in (
        ("POST", f"/runs/{runs[0]}/readings", {"tds_pct": 0}, "tds_pct"),
        ("POST", f"/trials/{trial['id']}/runs", masses | {"setup_id": setup, "tds_readings_pct": [1.4, 0]}, "tds_readings_pct.1"),
        ("POST", "/calc/extraction", masses | {"tds_pct": 0}, "tds_pct"),
        ("POST", "/calc/compare-yields", {"first": side, "second": side | {"name": "B"}}, "first.brews.0.tds_readings_pct.1"),
    ):
        (error,) = host.call(method, path, body, status=422)["errors"]
        assert error["field"] == field and "Zero the instrument with distilled water" in error["remedy"]


# --- how well one reading repeats ----------------------------------------------------------------------------------------------


def test_the_benchs_own_double_readings_say_how_well_one_repeats(host):
    """They are offered, not taken: a figure of yesterday never changes by itself; once taken, a brew's page and its trial say the same."""
    trial, _, runs = host.two_setups_brewed(2)
    lone = runs[0]
    for reading in run_of(host, trial, lone)["readings"][1:]:
        host.call("DELETE", f"/readings/{reading['id']}")
    assert host.get("/instruments/repeatability")["sd_pct"] is None  # too few to say more than the usual does
    for run in runs[1:]:
        for tds_pct in (1.35, 1.49, 1.35, 1.49, 1.42):
            log(host, run, {"tds_pct": tds_pct})
    own = host.get("/instruments/repeatability")
    assert own["drinks"] == 3 and own["sd_pct"] > 0.04
    log(host, runs[1], {"oven": {"sample_g": 5, "dish_g": 20, "dried_g": 20.15}})  # another way of reading: 3 % in this drink says nothing of the refractometer
    assert host.get("/instruments/repeatability") == own
    before = run_of(host, trial, lone)
    host.call("PATCH", "/bench", {"repeatability_pct": own["sd_pct"]}, rev=host.get("/bench")["rev"])
    after = run_of(host, trial, lone)
    assert after["tds"]["half_width"] > 2 * before["tds"]["half_width"]
    listed = next(b for b in host.get("/brews")["brews"] if b["run_id"] == lone)
    assert listed["ey_half_pct"] == pytest.approx(after["extraction_yield"]["half_width"], abs=0.005)
    refused = host.call("PATCH", "/bench", {"repeatability_pct": 0}, rev=host.get("/bench")["rev"], status=422)["errors"][0]
    assert refused["field"] == "repeatability_pct"
