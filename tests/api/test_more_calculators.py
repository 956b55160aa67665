"""The planning and brewing calculators: every documented example works, and no value anywhere in a body gives a 500."""

import random

import pytest

PLANNERS = ("recipe-lint", "recipe-parse", "setting-translate", "water-blend", "schedule", "power", "power-curve")
BREWED = ("compare-yields", "strength-match", "dial-in", "pour-segments", "simulate")
TASTED = ("discrimination", "discrimination-plan")


def example(host, name):
    doc = host.get("/openapi.json")
    ref = doc["paths"][f"/api/v1/calc/{name}"]["post"]["requestBody"]["content"]["application/json"]["schema"]["$ref"]
    return doc["components"]["schemas"][ref.rsplit("/", 1)[-1]]["examples"][0]


@pytest.mark.parametrize("name", PLANNERS + BREWED + TASTED)
def test_the_documented_example_of_each_calculator_works(host, name):
    assert host.call("POST", f"/calc/{name}", example(host, name))


def test_planning_calculators_say_what_they_found(host):
    lint = example(host, "recipe-lint")
    lint["recipe"]["brew_water_g"] = 300
    found = host.call("POST", "/calc/recipe-lint", lint)
    assert found["blocks_a_run"] and "pours_do_not_add_up" in {f["code"] for f in found["findings"]}
    assert host.call("POST", "/calc/setting-translate", example(host, "setting-translate"))["setting"] == 23
    schedule = host.call("POST", "/calc/schedule", example(host, "schedule"))
    assert schedule["spread_c"] <= 3 and {s["run"] for s in schedule["steps"]} == {"A1", "B1"}
    assert "points of 9" in host.call("POST", "/calc/power", example(host, "power"))["sentence"]


def test_calculators_about_brews_made_say_what_they_found(host):
    compared = host.call("POST", "/calc/compare-yields", example(host, "compare-yields"))
    assert compared["verdict"] == "different" and "Steel mesh has the higher in-cup yield" in compared["text"]
    low, high = compared["difference_interval_pct"]
    assert low < compared["difference_pct"] < high < 0 and compared["first"]["between_brews_u_pct"] > 0
    matched = host.call("POST", "/calc/strength-match", example(host, "strength-match"))
    assert [round(s["add_water_g"], 1) for s in matched["servers"]] == [21.3, 0.0] and matched["needed"]
    advised = host.call("POST", "/calc/dial-in", example(host, "dial-in"))
    assert (advised["change"]["code"], advised["draft"]) == ("under_finer", None) and "grinder" in advised["proposal"]["unknown"]
    (pour,) = host.call("POST", "/calc/pour-segments", example(host, "pour-segments"))["pours"]
    assert pour["start_s"] == pytest.approx(0.75, abs=0.5) and pour["added_g"] == pytest.approx(15, abs=0.5)
    brewed = host.call("POST", "/calc/simulate", example(host, "simulate") | {"course": True})
    assert brewed["simulated"] and brewed["course"]["server_g"][-1] == pytest.approx(brewed["beverage_g"], abs=0.1)
    assert pytest.approx(brewed["beverage_g"] - brewed["ey_in_cup_pct"] * 0.18 + brewed["kept_water_g"], abs=1e-9) == 288
    missing = example(host, "compare-yields") | {"yield_basis": "full_liquor"}
    del missing["second"]["brews"][1]["brew_water_g"]
    assert host.call("POST", "/calc/compare-yields", missing, status=422)["errors"][0]["field"] == "second.brews.1.brew_water_g"


def leaves(value, path=()):
    if isinstance(value, dict):
        for k, v in value.items():
            yield from leaves(v, (*path, k))
    elif isinstance(value, list):
        for i, v in enumerate(value):
            yield from leaves(v, (*path, i))
    else:
        yield path


def changed(body, path, value):
    if not path:
        return value
    out = dict(body) if isinstance(body, dict) else list(body)
    out[path[0]] = changed(body[path[0]], path[1:], value)
    return out


NASTY = (None, "", "é" * 300, -1, 0, 1e308, -1e-300, [], {}, True, "1:16")


@pytest.mark.parametrize("name", [n for n in PLANNERS + BREWED if n not in ("power", "power-curve")])
def test_no_value_anywhere_in_a_body_gives_a_500(host, name):
    body, rng = example(host, name), random.Random(name)
    tries = [(path, value) for path in leaves(body) for value in NASTY]
    for path, value in rng.sample(tries, min(len(tries), 120 if name != "schedule" else 40)):
        answer = host.client.post(f"/api/v1/calc/{name}", json=changed(body, path, value))
        assert answer.status_code in (200, 422), (path, value, answer.data)
        if answer.status_code == 422:
            assert answer.get_json()["errors"][0]["field"], (path, value)


def test_discrimination_answers_in_the_agreed_shape_and_refuses_at_its_field(host):
    got = host.call("POST", "/calc/discrimination", {"method": "triangle", "n": 15, "correct": 9})
    assert (round(got["p_value"], 3), got["min_correct"], round(got["distinguishers"], 2)) == (0.031, 9, 0.4)
    assert got["d_prime_interval"][0] <= got["d_prime"] <= got["d_prime_interval"][1]
    all_right = host.call("POST", "/calc/discrimination", {"method": "tetrad", "n": 5, "correct": 5})
    assert all_right["d_prime"] is None and all_right["d_prime_interval"][1] is None
    for change, field in (
        ({"correct": 16}, "correct"),
        ({"n": 0}, "n"),
        ({"method": "guess"}, "method"),
        ({"alpha": 0.5}, "alpha"),
        ({"correct": 1.5}, "correct"),
    ):
        refused = host.call("POST", "/calc/discrimination", {"method": "triangle", "n": 15, "correct": 9} | change, status=422)
        assert refused["errors"][0]["field"] == field, change


def test_a_sieve_is_worked_out_and_refused_at_its_field(host):
    heaps = [{"aperture_um": a, "mass_g": m} for a, m in ((0, 5.0), (400, 8.4), (900, 8.3))]
    body = {"mass_in_g": 22, "fractions": heaps, "band": {"from_um": 400, "to_um": 900}}
    found = host.call("POST", "/calc/sieve", body)
    assert round(found["in_band"]["of_mass_in_pct"]["value"], 1) == 38.2 and found["d50"] == {"share_pct": 50, "at_um": None, "between_um": [400, 900]}
    heaps[1]["mass_g"] = 23
    assert host.call("POST", "/calc/sieve", body, status=422)["errors"][0]["field"] == "fractions.1.mass_g"
    heaps[1] = {"aperture_um": 950, "mass_g": 8.4}
    assert host.call("POST", "/calc/sieve", body, status=422)["errors"][0]["field"] == "fractions.2.aperture_um"
