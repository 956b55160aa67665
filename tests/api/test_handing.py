"""Recipes from bench to bench: a link or a file holds them whole, comes in once, and is refused whole when it is not."""

import json

import pytest

from brasspenny.core.recipe.reading import read
from brasspenny.core.recipe.writing import write

TEXT = '18 g coffee, 288 g water, 1:16, at 94 °C, in a flat bed, grind "5.8", bloom 45 g for 0:40, pour to 170 g from 0:40 over 0:20, pour to 288 g by 1:45, drips stop'


@pytest.fixture
def recipe(host):
    document = host.call("POST", "/calc/recipe-parse", {"text": TEXT}, status=200)["document"]
    return host.call("POST", "/recipes", {"name": "Nøtt watch ☕", "document": document}, status=201)


def link_of(host, recipe):
    return host.get(f"/recipes/{recipe['id']}/link")["link"]


def test_a_link_holds_the_recipe_after_its_mark_and_opens_on_an_empty_bench(host, recipe):
    link = link_of(host, recipe)
    assert link.split("#")[0].endswith("/recipes/handed") and len(link) < 1200
    host.call("DELETE", f"/recipes/{recipe['id']}")
    (shown,) = host.call("POST", "/recipes-handed", {"text": link}, status=200)["recipes"]
    assert shown["name"] == "Nøtt watch ☕" and not shown["here"] and shown["text"] == recipe["checked"]["text"]
    assert host.get("/recipes")["recipes"] == []
    host.call("POST", "/recipes-import", {"text": link}, status=200)
    (kept,) = host.get("/recipes")["recipes"]
    again = host.get(f"/recipes/{kept['id']}")
    assert again["checked"]["text"] == recipe["checked"]["text"] == write(read(recipe["checked"]["text"]).recipe)


def test_what_is_here_is_not_made_again(host, recipe):
    link = link_of(host, recipe)
    for _ in range(2):
        assert [r["here"] for r in host.call("POST", "/recipes-import", {"text": link}, status=200)["recipes"]] == [True]
    assert len(host.get("/recipes")["recipes"]) == 1


def test_a_file_holds_all_or_those_chosen(host, recipe):
    other = host.call("POST", "/recipes", {"name": "Other", "document": {"dose_g": 20.0}}, status=201)
    whole = host.client.get("/api/v1/recipes-export.json")
    assert [r["name"] for r in json.loads(whole.data)["recipes"]] == ["Nøtt watch ☕", "Other"] and "attachment" in whole.headers["Content-Disposition"]
    one = host.client.get(f"/api/v1/recipes-export.json?ids={other['id']}").get_data(as_text=True)
    host.call("DELETE", f"/recipes/{other['id']}")
    assert [r["here"] for r in host.call("POST", "/recipes-import", {"text": one}, status=200)["recipes"]] == [False]
    assert [r["here"] for r in host.call("POST", "/recipes-import", {"text": whole.get_data(as_text=True)}, status=200)["recipes"]] == [True, True]


def test_the_code_for_the_camera_is_drawn(host, recipe):
    got = host.client.get(f"/api/v1/recipes/{recipe['id']}/link.svg")
    assert got.mimetype == "image/svg+xml" and b"<path" in got.data


@pytest.mark.parametrize(
    "text",
    [
        "hello", "#r=", "#r=AAAA", "#r=" + "x" * 1000, "[]", "{}", '{"format": "brass-penny-recipes", "version": 9, "recipes": []}',
        '{"format": "brass-penny-recipes", "version": 1, "recipes": [{"name": "x"}]}', '{"format": "brass-penny-recipes", "version": 1, "recipes": [5]}',
        '{"format": "brass-penny-recipes", "version": 1, "recipes": [{"name": "", "document": {}}]}',
        '{"format": "brass-penny-recipes", "version": 1, "recipes": [{"name": "x", "document": {"dose_g": "much"}}]}', "[" * 100_000,
    ],
)  # fmt: skip
def test_what_holds_no_recipe_says_so(host, text):
    problem = host.call("POST", "/recipes-handed", {"text": text}, status=422)
    assert problem["errors"][0]["field"] == "text" and problem["errors"][0]["remedy"]


def test_a_link_cut_short_anywhere_is_refused_and_never_half_read(host, recipe):
    link = link_of(host, recipe)
    start = link.index("#r=") + 3
    for end in range(start, len(link), 17):
        host.call("POST", "/recipes-handed", {"text": link[:end]}, status=422)


def test_a_small_link_that_unpacks_to_a_flood_is_refused(host):
    import base64
    import zlib

    flood = base64.urlsafe_b64encode(zlib.compress(b"[" * 50_000_000, 9)).decode()
    assert len(flood) < 250_000
    host.call("POST", "/recipes-handed", {"text": "#r=" + flood}, status=422)


def test_one_bad_recipe_in_a_file_keeps_all_out(host):
    good = {"name": "good", "document": {"dose_g": 18.0}}
    text = json.dumps({"format": "brass-penny-recipes", "version": 1, "recipes": [good, {"name": "bad", "document": {"dose_g": -1}}]})
    assert "Recipe 2" in host.call("POST", "/recipes-import", {"text": text}, status=422)["title"]
    assert host.get("/recipes")["recipes"] == []
