"""Planning a trial: designs into setups, orders, budgets, dial-in, the run sheet and its calendar."""

import random
from datetime import datetime

import pytest
from icalendar import Calendar

from .host import NEW_KIT

TEXT = "18 g, 288 g at 93, bloom 45 for 40 s, then to 170 from 0:40 over 20 s, then to 288 from 1:20 over 25 s, drips stop, done between 2:20 and 3:00"


def letters(host, trial):
    return {s["letter"]: s["variables"] for s in host.get(f"/trials/{trial['id']}/setups")["setups"]}


def lay_out(host, trial, kind, rev=0, status=None, **factors):
    body = {"kind": kind, "factors": [{"factor": f, "levels": levels} for f, levels in factors.items()], "new_kit": NEW_KIT}
    return host.call("POST", f"/trials/{trial['id']}/design", body, rev=rev, status=status)


@pytest.fixture
def mills(host):
    ids = [host.call("POST", "/kit", {"kind": "grinder", "name": n, "grinder": {"scale": "clicks"}})["id"] for n in ("Windlass", "Capstan")]
    for x, y, d50_um in ((5, 17, 600.0), (7, 25, 740.0)):
        host.sieve_match(ids[0], x, ids[1], y, d50_um)


@pytest.fixture
def planned(host, mills):
    """A 2 × 2 factorial of coffees and grinders, from a setup with a recipe."""
    trial = host.ask("Bean or grinder?", "coffee", further_factors=["grinder"], strength_policy="as_brewed")
    recipe = host.recipe(TEXT)["versions"][0]["id"]
    host.call(
        "POST",
        f"/trials/{trial['id']}/setups",
        {
            "recipe_version_id": recipe,
            "new_kit": NEW_KIT,
            "variables": {"coffee": "Lot 3", "grinder": "Windlass", "grind_setting": "6", "filter": "White weave", "brewer": "Binnacle"},
        },
    )
    plan = lay_out(host, trial, "factorial", coffee=["Lot 3", "Lot 4"], grinder=["Windlass", "Capstan"])
    return trial, plan


def test_a_factorial_becomes_setups_with_settings_where_the_matches_lead(host, planned):
    trial, plan = planned
    rows = letters(host, trial)
    assert {(v["coffee"], v["grinder"], v["grind_setting"]) for v in rows.values()} == {
        (c, g, s) for c in ("Lot 3", "Lot 4") for g, s in (("Windlass", "6"), ("Capstan", "21"))
    }
    assert {(v["dose_g"], v["brew_water_g"]) for v in rows.values()} == {(18, 288)}
    assert any("Capstan set to 21" in note for note in plan["design"]["notes"])
    bars = {b["field"]: b["kind"] for b in host.get(f"/trials/{trial['id']}/setups")["bars"]}
    assert (bars["coffee"], bars["grinder"], bars["grind_setting"]) == ("tested", "tested", "declared") and "crack" not in bars.values()
    assert [(r["rule"], r["holds"]) for r in plan["rules"]] == [("sieve_median", True)]


def test_a_ladder_moves_the_water_or_the_dose_and_keeps_what_was_brewed(host):
    trial = host.ask("How far?", "ratio")
    a = host.setup(trial["id"])
    plan = lay_out(host, trial, "ladder", ratio=["15", "16", "17", "18"])
    assert sorted(v["brew_water_g"] for v in letters(host, trial).values()) == [270, 288, 306, 324]
    brewed = host.get(f"/trials/{trial['id']}/setups")["setups"][1]
    host.brew(trial["id"], brewed)
    body = {"kind": "ladder", "factors": [{"factor": "ratio", "levels": ["14", "16", "18"]}], "ratio_moves": "dose"}
    refused = host.call("POST", f"/trials/{trial['id']}/design", body, rev=plan["rev"], status=409)
    assert f"Setup {brewed['letter']} has brews" in refused["errors"][0]["reason"] and len(letters(host, trial)) == 4
    host.call("DELETE", f"/setups/{brewed['id']}")
    host.call("POST", f"/trials/{trial['id']}/design", body, rev=plan["rev"])
    assert len({v["brew_water_g"] for v in letters(host, trial).values()}) == 1 and len({v["dose_g"] for v in letters(host, trial).values()}) == 3
    assert a["letter"] == "A"


def test_three_filters_are_a_design_of_one_factor_and_each_kind_says_what_it_takes(host):
    trial = host.ask("Which of three?", "filter")
    host.setup(trial["id"])
    plan = lay_out(host, trial, "factorial", filter=["White weave", "Thick crêpe", "Steel mesh"])
    assert sorted(v["filter"] for v in letters(host, trial).values()) == ["Steel mesh", "Thick crêpe", "White weave"]
    kinds = {k["code"]: k for k in plan["design_kinds"]}
    for code, k in kinds.items():  # what the form is told is what is refused beyond
        many = [{"factor": f, "levels": ["1", "2", "3", "4"][: max(2, k["fewest_levels"])]} for f in ("ratio", "temperature", "filter", "grinder", "coffee")]
        body = {"kind": code, "factors": many[: k["most_factors"] + 1]}
        assert (
            k["most_factors"] == 5 or host.call("POST", f"/trials/{trial['id']}/design", body, rev=plan["rev"], status=422)["errors"][0]["field"] == "factors"
        )


@pytest.mark.parametrize(
    ("kind", "factors", "field"),
    [
        ("ladder", {"ratio": ["15", "x", "17"]}, "factors.0.levels"),
        ("ladder", {"temperature": ["90", "93", "400"]}, "factors.0.levels"),
        ("pair", {"filter": ["a"]}, "factors.0.levels"),
        ("screening", {"filter": ["a", "b"]}, "factors"),
        ("surface", {"ratio": ["15", "17"], "coffee": ["a", "b"]}, "factors.1.levels"),
    ],
)
def test_a_design_that_cannot_be_is_refused_at_its_field_and_changes_nothing(host, kind, factors, field):
    trial = host.ask("How far?", "ratio")
    host.setup(trial["id"])
    assert lay_out(host, trial, kind, status=422, **factors)["errors"][0]["field"] == field
    assert len(letters(host, trial)) == 1 and host.get(f"/trials/{trial['id']}/plan")["rev"] == 0


def test_a_design_without_a_first_setup_says_what_is_missing(host):
    assert "first setup" in lay_out(host, host.ask(), "pair", status=422, filter=["a", "b"])["errors"][0]["remedy"]


def test_the_plan_keeps_what_was_set_and_its_order_can_be_drawn_again(host, planned):
    trial, plan = planned
    path = f"/trials/{trial['id']}/plan"
    saved = host.call("PUT", path, plan["settings"] | {"replicates": 3, "seed": 7}, rev=plan["rev"])
    order = [b["label"] for b in saved["order"]]
    assert len(order) == 12 and host.get(path)["order"] == saved["order"]
    assert sorted(order[:4]) == ["A1", "B1", "C1", "D1"]  # a round holds every setup once
    other = host.call("PUT", path, saved["settings"] | {"seed": 8}, rev=saved["rev"])
    assert [b["label"] for b in other["order"]] != order
    grouped = host.call("PUT", path, other["settings"] | {"blocking": "factor", "block_factor": "grinder"}, rev=other["rev"])
    by_grinder = [letters(host, trial)[b["letter"]]["grinder"] for b in grouped["order"]]
    assert sum(x != y for x, y in zip(by_grinder, by_grinder[1:], strict=False)) == 1 and "trust its difference less" in grouped["order_cost"]
    host.call("PUT", path, plan["settings"], rev=plan["rev"], status=409)
    bad = host.call("PUT", path, grouped["settings"] | {"block_factor": "filter"}, rev=grouped["rev"], status=422)
    assert bad["errors"][0]["field"] == "block_factor"


def test_the_budget_counts_coffee_against_the_shelf(host, planned):
    trial, plan = planned
    lot = next(i for i in host.get("/kit")["items"] if i["name"] == "Lot 3")
    host.call("POST", f"/kit/{lot['id']}/stock", {"mass_g": 100})
    budget = host.call("PUT", f"/trials/{trial['id']}/plan", plan["settings"] | {"replicates": 2, "tasters": 6}, rev=plan["rev"])["budget"]
    need = {c["coffee"]: c for c in budget["coffees"]}
    assert (need["Lot 3"]["brews_g"], need["Lot 3"]["dial_in_g"], need["Lot 3"]["short_g"], need["Lot 4"]["stock_g"]) == (72, 36, 8, None)
    assert (budget["brews"], budget["cups_per_taster"]) == (8, 8) and any("8 g short" in w for w in budget["warnings"])
    assert 0 < budget["caffeine_flight_mg"][0] < budget["caffeine_flight_mg"][1]


def test_a_dial_in_brew_makes_a_setup_ready_and_never_counts_as_evidence(host, planned):
    trial, _ = planned
    setups = host.get(f"/trials/{trial['id']}/setups")["setups"]
    host.brew(trial["id"], setups[0], purpose="dial_in", total_time_s=165)
    host.brew(trial["id"], setups[1], purpose="dial_in", total_time_s=240)
    states = {s["letter"]: (s["dial_in"], s["text"]) for s in host.get(f"/trials/{trial['id']}/plan")["setups"]}
    assert [states[x][0] for x in "ABCD"] == ["dialled_in", "off", "none", "none"] and "over 3:00" in states["B"][1]
    results = host.get(f"/trials/{trial['id']}/results")
    assert results["runs"] == [] and len(results["dial_ins"]) == 2
    caveat = next(c for c in host.get(f"/trials/{trial['id']}/progress")["caveats"] if c["code"] == "not_dialled_in")
    assert "B, C, D" in caveat["title"] and "A" not in caveat["title"].split(":")[1]
    dial_in = results["dial_ins"][0]["id"]
    host.call("POST", f"/trials/{trial['id']}/flights", {"run_ids": [dial_in], "taster_ids": [host.person("Bo")]}, status=422)


def test_a_dial_in_typed_after_the_tasting_removes_no_doubt(host, planned):
    trial, _ = planned
    setups = host.get(f"/trials/{trial['id']}/setups")["setups"]
    runs = [host.brew(trial["id"], s, total_time_s=240)["id"] for s in setups]
    flight = host.flight(trial["id"], runs, [host.person("Bo"), host.person("Iwan")])
    host.taste(flight, lambda mark, taster: 5 + mark)
    for setup in setups:
        host.brew(trial["id"], setup, purpose="dial_in", total_time_s=165)
    assert "not_dialled_in" in {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}
    assert "had begun" in host.get(f"/trials/{trial['id']}/plan")["setups"][0]["text"]


def test_the_run_sheet_times_the_day_and_is_kept(host, planned):
    trial, _ = planned
    path = f"/trials/{trial['id']}/run-sheet"
    assert host.get(path)["sheet"] is None
    sheet = host.call("POST", path, {"begins_at": "2026-03-02T08:00:00Z"})["sheet"]
    assert host.get(path)["sheet"] == sheet and len(sheet["cups"]) == 8
    if not sheet["why"]:
        assert sheet["spread_c"] <= 3.05
    hands = sorted((b["start_s"], b["end_s"]) for b in sheet["blocks"] if b["lane"] == "hands")
    assert all(a[1] <= b[0] for a, b in zip(hands, hands[1:], strict=False))
    for cup in sheet["cups"]:
        near = min(cup["curve"], key=lambda p: abs(p[0] - sheet["tasting_s"]))
        assert near[1] == pytest.approx(cup["temperature_c"], abs=2)
    calendar = Calendar.from_ical(host.client.get(f"/api/v1{path}.ics").data)
    events = calendar.walk("VEVENT")
    assert len(events) == 9 and events[-1]["SUMMARY"] == "Taste"
    begins = min(e["DTSTART"].dt for e in events)
    assert datetime.fromisoformat("2026-03-02T08:00:00+00:00") <= begins < datetime.fromisoformat("2026-03-02T09:30:00+00:00")


def test_when_the_day_slips_the_rest_is_planned_from_now(host, planned):
    trial, plan = planned
    host.call("PUT", f"/trials/{trial['id']}/plan", plan["settings"] | {"replicates": 1}, rev=plan["rev"])
    sheet = host.call("POST", f"/trials/{trial['id']}/run-sheet", {"begins_at": "2026-03-01T08:50:00Z"})["sheet"]  # the clock of tests: 9:00
    first = sheet["cups"][0]
    begun = host.call("POST", f"/run-sheets/{sheet['id']}/begin", {"brew": first["brew"], "at": "2026-03-01T08:58:00Z"}, rev=sheet["rev"])["sheet"]
    assert begun["begun"][first["brew"]] == {"started_s": 480, "measured": False}
    again = host.call("POST", f"/run-sheets/{sheet['id']}/again", rev=begun["rev"])["sheet"]
    starts = {c["brew"]: c["start_s"] for c in again["cups"]}
    assert starts.pop(first["brew"]) == 480 and min(starts.values()) >= 600
    host.call("POST", f"/run-sheets/{sheet['id']}/begin", {"brew": "Z9"}, rev=again["rev"], status=422)
    host.call("POST", f"/run-sheets/{sheet['id']}/again", rev=begun["rev"], status=409)


def test_a_day_that_cannot_be_says_why(host, planned):
    trial, plan = planned
    day = plan["settings"]["day"] | {"low_c": 79, "high_c": 90}
    saved = host.call("PUT", f"/trials/{trial['id']}/plan", plan["settings"] | {"day": day}, rev=plan["rev"])
    refused = host.call("POST", f"/trials/{trial['id']}/run-sheet", {}, status=422)
    assert "colder than the 79 °C wanted" in refused["errors"][0]["reason"]
    many = host.call("PUT", f"/trials/{trial['id']}/plan", plan["settings"] | {"replicates": 7}, rev=saved["rev"])
    refused = host.call("POST", f"/trials/{trial['id']}/run-sheet", {}, status=422)
    assert (refused["errors"][0]["field"], many["budget"]["brews"]) == ("replicates", 28)


def test_own_scatter_is_used_once_there_are_blind_flights_enough(host):
    assert not host.get("/scatter")["own"]
    trial, _, runs = host.two_setups_brewed(4)
    people = [host.person(f"P{i}") for i in range(6)]
    rng = random.Random(3)
    for _ in range(3):
        host.taste(host.flight(trial["id"], runs, people), lambda mark, taster: rng.choice((5, 6, 7)))
    own = host.get("/scatter")
    assert own["own"] and "3 blind flights" in own["source"] and 0.5 < own["noise"] < 1.2


def test_a_run_sheet_names_dose_and_setting_and_leaves_out_what_is_brewed(host):
    host.call("POST", "/kit", {"kind": "grinder", "name": "Shop mill", "grinder": {"scale": "dial", "direction": "larger_is_finer", "step": 0.5}})
    trial = host.ask()
    a = host.setup(trial["id"], grinder="Shop mill", grind_setting="8")
    host.copy(a, filter="Thick crêpe", dose_g=17)
    host.brew(trial["id"], a)
    sheet = host.call("POST", f"/trials/{trial['id']}/run-sheet", {})["sheet"]
    assert "A1" not in {c["brew"] for c in sheet["cups"]} and "B1" in {c["brew"] for c in sheet["cups"]}
    labels = {block["label"] for block in sheet["blocks"] if block["brew"] == "B1"}
    assert {"Prepare: rinse, preheat, weigh in 17 g", "Grind 17 g: Shop mill 8"} <= labels
    assert "Shop mill 8" in host.client.get(f"/api/v1/trials/{trial['id']}/run-sheet.ics").text.replace("\r\n ", "")
    slots = host.get(f"/trials/{trial['id']}/slots")["slots"]
    assert {(x["letter"], x["dose_g"], x["ground_on"]) for x in slots} == {("A", 18, "Shop mill 8"), ("B", 17, "Shop mill 8")}
