"""The recipes room: versions, drafts kept out of runs, text read, cards, and setups that keep what they were made with."""

import pytest
from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st

from brasspenny.core.recipe.model import STEP_KINDS

from ..amount import examples

TEXT = "18 g, 288 g at 93, bloom 45 for 40 s, then to 170, then to 288 by 1:50, done by 2:45"


def codes(checked):
    return {f["code"] for f in checked["findings"]}


def test_text_becomes_a_recipe_is_changed_and_every_version_says_what_changed(host):
    made = host.recipe(TEXT)
    assert made["version"] == 1 and not made["checked"]["draft"] and made["checked"]["poured_g"] == 288
    hotter = made["document"] | {"temperature_c": 96}
    second = host.call("POST", f"/recipes/{made['id']}/versions", {"document": hotter, "note": "light roast"}, rev=made["rev"])
    assert [v["changes"] for v in second["versions"]] == ["one change: 93 °C → 96 °C", "first version"]
    assert host.get(f"/recipes/{made['id']}?version=1")["document"]["temperature_c"] == 93
    stale = host.call("POST", f"/recipes/{made['id']}/versions", {"document": made["document"]}, rev=made["rev"], status=409)
    assert stale["current"]["rev"] == second["rev"]
    same = host.call("POST", f"/recipes/{made['id']}/versions", {"document": hotter}, rev=second["rev"])
    assert len(same["versions"]) == 2


def test_a_recipe_with_errors_is_kept_as_a_draft_and_cannot_be_put_in_a_run(host):
    made = host.recipe("18 g, 300 g, bloom 45 for 40 s, to 288, drips stop")
    assert made["checked"]["draft"] and codes(made["checked"]) == {"pours_do_not_add_up"}
    assert host.get("/recipes")["recipes"][0]["draft"]
    trial = host.ask()
    body = {"recipe_version_id": made["versions"][0]["id"]}
    refused = host.call("POST", f"/trials/{trial['id']}/setups", body, status=422)
    assert refused["errors"][0]["field"] == "version_id" and "draft" in refused["errors"][0]["reason"]
    mended = made["checked"]["findings"][0]["mends"][0]["document"]
    second = host.call("POST", f"/recipes/{made['id']}/versions", {"document": mended}, rev=made["rev"])
    assert not second["checked"]["draft"]
    setup = host.call("POST", f"/trials/{trial['id']}/setups", {"recipe_version_id": second["versions"][0]["id"]})
    assert (setup["variables"]["dose_g"], setup["variables"]["brew_water_g"], setup["recipe"]["version"]) == (18, 288, 2)


def test_a_setup_keeps_its_recipes_steps_when_the_recipe_moves_on_or_goes(host):
    made = host.recipe(TEXT)
    trial = host.ask()
    a = host.setup(trial["id"], recipe_version_id=made["versions"][0]["id"], dose_g=20)
    assert a["recipe"]["own_amounts"] and a["variables"]["dose_g"] == 20
    host.call("POST", f"/recipes/{made['id']}/versions", {"document": made["document"] | {"temperature_c": 90}}, rev=made["rev"])
    host.call("DELETE", f"/recipes/{made['id']}")
    again = host.get(f"/trials/{trial['id']}/setups")["setups"][0]
    assert again["variables"] == a["variables"] and again["recipe"]["version"] == 1
    assert host.get(f"/trials/{trial['id']}/plan")["setups"][0]["has_recipe"]
    assert host.get("/recipes")["recipes"] == []


def test_what_is_not_understood_is_handed_back_and_nothing_is_guessed(host):
    got = host.call("POST", "/calc/recipe-parse", {"text": "18 g, 288 g, sing to it, to 288"})
    assert [s["text"] for s in got["not_understood"]] == ["sing to it"]
    text = "18 g, 288 g, sing to it, to 288"
    for span in got["understood"] + got["not_understood"]:
        assert text[span["start"] : span["end"]] == span["text"]


@pytest.mark.parametrize(
    "text",
    [
        "",
        "🫖" * 5000,
        "<script>alert(1)</script>",
        "قهوة ١٨ جرام",
        "\x00\x01",
        "18 g\n" * 4000,
        "x" * 200_000,
        "0 F",
        "1:5000",
        "stir 0",
        "target 300 % TDS",
        "18 g, bloom 99999x",
        'grind "' + "y" * 150 + '"',
    ],
)
def test_pasted_text_of_any_size_or_script_is_safe(host, text):
    answer = host.client.post("/api/v1/calc/recipe-parse", json={"text": text})
    assert answer.status_code in (200, 422), answer.data
    if answer.status_code == 422:
        assert answer.get_json()["errors"][0]["field"] == "text"


def test_a_brewers_range_and_the_places_boiling_point_are_checked(host):
    host.call("POST", "/kit", {"kind": "brewer", "name": "Small", "brewer": {"dose_low_g": 8, "dose_high_g": 14, "volume_ml": 200}})
    bench = host.get("/bench")
    host.call("PATCH", "/bench", {"altitude_m": 2600}, rev=bench["rev"])
    made = host.recipe(TEXT)
    found = codes(host.call("POST", "/recipe-check", {"document": made["document"], "brewer": "Small", "windows": ["nordic"]}))
    assert {"dose_outside_brewer", "above_boiling"} <= found
    bench = host.get("/bench")
    host.call("PATCH", "/bench", {"altitude_m": 0}, rev=bench["rev"])
    assert "above_boiling" not in codes(host.call("POST", "/recipe-check", {"document": made["document"]}))


def test_scaling_keeps_the_ratio_and_says_what_it_costs(host):
    made = host.recipe(TEXT)
    got = host.call("POST", "/recipe-scale", {"document": made["document"], "cups": 3, "cup_g": 200})
    assert got["document"]["dose_g"] > 40 and any("bed" in w for w in got["warnings"])
    pours = [s["to_g"] for s in got["document"]["steps"]]
    assert pours[0] / pours[-1] == pytest.approx(45 / 288, abs=0.005)
    assert pours[-1] / got["document"]["dose_g"] == pytest.approx(16, abs=0.05)
    host.call("POST", "/recipe-scale", {"document": made["document"]}, status=422)


def test_the_card_gives_settings_only_where_a_match_vouches_for_them(host):
    def grinder(name):
        return host.call("POST", "/kit", {"kind": "grinder", "name": name, "grinder": {"scale": "clicks"}})["id"]

    a, b, c = grinder("Windlass"), grinder("Capstan"), grinder("Spindle")
    for x, y in ((5, 17), (7, 25)):
        host.call("POST", "/matched-settings", {"a_id": a, "a_setting": x, "b_id": b, "b_setting": y, "match": "by_eye"})
    assert c
    made = host.recipe(TEXT + ", grind 6 on the windlass")
    assert made["document"]["grinds"] == [{"on": "windlass", "setting": "6", "dial_id": a}], "a name the kit knows is linked, its words kept"
    card = host.get(f"/recipes/{made['id']}/card")
    assert {s["grinder"]: s["setting"] for s in card["settings"]} == {"Windlass": "6", "Capstan": "21"}
    assert card["settings"][1]["matches"] == ["by eye"] and card["not_vouched"] == ["Spindle"]
    other = host.get(f"/recipes/{made['id']}/card?dial_id={b}&setting=25")
    assert {s["grinder"]: s["setting"] for s in other["settings"]} == {"Capstan": "25", "Windlass": "7"}


def test_a_recipe_with_several_settings_leads_from_one_grinder_to_the_other_until_somebody_measures(host):
    def grinder(name):
        return host.call("POST", "/kit", {"kind": "grinder", "name": name, "grinder": {"scale": "clicks"}})["id"]

    a, b = grinder("Tide"), grinder("Tidewheel")
    made = host.recipe(TEXT + ", grind 12 on Tide, 30 on Tidewheel, 5 on the mill ashore")
    assert [g.get("dial_id", "") for g in made["document"]["grinds"]] == [a, b, ""]
    card = host.get(f"/recipes/{made['id']}/card")
    assert {s["dial_id"]: s["setting"] for s in card["settings"]} == {a: "12", b: "30"}
    assert card["not_linked"][0]["on"] == "mill ashore"
    translated = host.call("POST", "/translate", {"from_id": a, "to_id": b, "setting": 12})
    assert translated["nearest"] == 30 and translated["matches"] == ["as the recipe says"]
    assert host.get("/matched-settings")["said"][0]["recipe"] == made["name"]
    host.call("POST", "/matched-settings", {"a_id": a, "a_setting": 12, "b_id": b, "b_setting": 26, "match": "brew_time"})
    assert host.call("POST", "/translate", {"from_id": a, "to_id": b, "setting": 12})["nearest"] == 26
    last = host.get(f"/recipes/{made['id']}/last-brewed")
    assert (last["grinder"], last["grind_setting"]) == ("Tide", "12"), "never brewed: its own first setting"
    moved = {**made["document"], "grinds": [{"on": "mill ashore", "setting": "5", "dial_id": "gone"}]}
    newer = host.call("POST", f"/recipes/{made['id']}/versions", {"document": moved}, rev=made["rev"])
    assert newer["document"]["grinds"] == [{"on": "mill ashore", "setting": "5", "dial_id": ""}], "a link nobody has is none"


def test_every_starter_can_be_brewed_and_a_concentrate_is_marked(host):
    starters = host.get("/recipe-starters")["starters"]
    assert len(starters) == 8
    for s in starters:
        checked = host.call("POST", "/recipe-check", {"document": s["document"]})
        assert not checked["draft"] and checked["concentrate"] == (s["code"] == "piston_inverted"), s["code"]
        again = host.call("POST", "/calc/recipe-parse", {"text": checked["text"]})
        assert not again["not_understood"]
        assert host.call("POST", "/recipe-diff", {"before": s["document"], "after": again["document"]})["changes"] == []


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"dose_g": -1}, "document.dose_g"),
        ({"dose_g": 1e-313}, "document.dose_g"),
        ({"steps": [{"kind": "hover"}]}, "document.steps.0.kind"),
        ({"steps": [{"kind": "pour", "to_g": "much"}]}, "document.steps.0.to_g"),
        ({"total_time_s": [1]}, "document.total_time_s"),
        ({"steps": [{"kind": "pour"}] * 61}, "document.steps"),
        ({"beans": 7}, "document.beans"),
    ],
)
def test_a_document_of_the_wrong_shape_is_refused_at_its_field(host, change, field):
    refused = host.call("POST", "/recipes", {"name": "R", "document": change}, status=422)
    assert refused["errors"][0]["field"] == field and host.get("/recipes")["recipes"] == []


# --- nothing a document can hold gives a 500 -------------------------------------------------------------------------------

grams = st.one_of(st.none(), st.sampled_from([0, 0.001, 18, 100_000]), st.floats(0, 100_000, allow_nan=False))
doses = st.one_of(st.none(), st.sampled_from([0.1, 18, 100_000]), st.floats(0.1, 100_000))
seconds = st.one_of(st.none(), st.sampled_from([0, 100_000]), st.floats(0, 400).map(lambda x: round(x, 1)))
celsius = st.one_of(st.none(), st.sampled_from([0, 93, 201, 300]))
any_step = st.fixed_dictionaries(
    {"kind": st.sampled_from(STEP_KINDS)},
    optional={
        "to_g": grams, "add_g": grams, "rest": st.booleans(), "start_s": seconds, "end_s": seconds, "duration_s": seconds, "temperature_c": celsius,
        "count": st.sampled_from([None, 1, 99]), "reading_g": grams, "zeroed": st.sampled_from(["", "empty", "with_coffee"]),
    },
)  # fmt: skip
any_document = st.fixed_dictionaries(
    {"steps": st.lists(any_step, max_size=6)},
    optional={
        "dose_g": doses, "brew_water_g": grams, "brew_ratio": st.sampled_from([None, 0.001, 16, 1000]), "temperature_c": celsius, "beverage_g": grams, "out_g": grams,
        "brewer_type": st.sampled_from([None, "cone", "press_pot", "steep_and_release"]), "ends": st.sampled_from(["", "drips_stop", "time"]),
        "out_means": st.sampled_from(["", "water", "drink"]), "total_time_s": st.tuples(seconds, seconds).map(list), "pour_end_s": seconds,
        "tds_pct": st.sampled_from([[None, None], [0, 100], [1.2, 1.4]]), "ey_pct": st.sampled_from([[None, None], [0, 0], [100, 100]]),
    },
)  # fmt: skip


@example({"dose_g": 18, "steps": [{"kind": "pour", "add_g": 100_000}] * 2}, 18)
@example({"dose_g": 18, "steps": [{"kind": "pour", "to_g": 100_000}]}, 10_000)
@example({"dose_g": 100_000, "brew_ratio": 1000, "steps": [{"kind": "pour", "to_g": 100_000}]}, 18)
@example({"dose_g": 2.2e-313, "brew_water_g": 18, "steps": [{"kind": "pour", "to_g": 18}]}, 18)
@settings(max_examples=examples(150), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(document=any_document, dose=st.sampled_from([0.1, 18, 10_000]))
def test_no_document_gives_a_500_and_every_mend_is_a_document_again(app, document, dose):
    client = app.test_client()
    bodies = {
        "recipe-check": {"document": document, "windows": ["classic"]},
        "recipe-scale": {"document": document, "dose_g": dose},
        "recipe-diff": {"before": document, "after": {}},
        "calc/recipe-lint": {"recipe": document, "altitude_m": 4000, "dose_range_g": [1, 20], "volume_ml": 300},
        "calc/dial-in": {"recipe": document, "tds_pct": 1.1, "ey_pct": 15, "total_time_s": 100, "words": ["sharp"]},
        "calc/simulate": {"recipe": document},
    }
    for path, body in bodies.items():
        answer = client.post(f"/api/v1/{path}", json=body)
        assert answer.status_code in (200, 422), (path, document, answer.get_data(as_text=True))
        for finding in answer.get_json().get("findings", []):
            for mend in finding["mends"]:
                assert client.post("/api/v1/recipe-check", json={"document": mend["document"]}).status_code == 200, (finding["code"], mend["label"])


def test_a_recipe_for_a_concentrate_makes_its_setups_and_brews_concentrates(host):
    strong = next(s for s in host.get("/recipe-starters")["starters"] if s["code"] == "piston_inverted")
    made = host.call("POST", "/recipes", {"name": "Strong and short", "document": strong["document"]})
    trial = host.ask("Which concentrate?", "filter")["id"]
    body = {"recipe_version_id": made["versions"][0]["id"]}
    setup = host.call("POST", f"/trials/{trial}/setups", body)
    assert setup["concentrate"] and not host.setup(host.ask("And a filter brew?", "filter")["id"])["concentrate"]
    amounts = {name: setup["variables"][name] for name in ("dose_g", "brew_water_g")}
    host.brew(trial, setup, tds=[9.5, 9.6], beverage_g=0.6 * amounts["brew_water_g"], **amounts)
    assert host.get(f"/trials/{trial}/results")["runs"][0]["concentrate"]
