"""The units a bench has its figures told in: one switch, honoured by every sentence, and of no consequence to any result."""

import re

import pytest

from brasspenny.core.recipe.reading import read

from ..amount import NIGHTLY, share

OTHER = {"heat": "F", "ratio": "per_100", "bags": "oz", "currency": "€"}
USUAL = {"heat": "C", "ratio": "to_one", "bags": "g", "currency": ""}
NOT_OURS_TO_TURN = {"note", "name", "unit", "question", "cue", "earlier"}
"""Words that are somebody's own, the language of recipes, which always writes °C, and what was said before a correction: it stands as it was said."""


def sentences(value, key=""):
    """Every text in an answer that the program says, with where it stands."""
    if isinstance(value, dict):
        for k, v in value.items():
            if k not in NOT_OURS_TO_TURN and not (k == "text" and "timeline" in value):
                yield from sentences(v, k)
    elif isinstance(value, list):
        for v in value:
            yield from sentences(v, key)
    elif isinstance(value, str):
        yield key, value


def told_everywhere(host):
    trials, recipes = host.get("/trials")["trials"], host.get("/recipes")["recipes"]
    for trial in share(trials):
        base = f"/trials/{trial['id']}"
        yield from (
            f"{base}/setups",
            f"{base}/results",
            f"{base}/verdict",
            f"{base}/flights",
            f"{base}/plan",
            f"{base}/verdict/value",
            f"{base}/progress",
            f"{base}/report",
        )
    for recipe in share(recipes, least=2):
        yield from (f"/recipes/{recipe['id']}", f"/recipes/{recipe['id']}/card")
    yield from ("/trials", "/recipes", "/kit", "/brews", *(f"/trials/{t['id']}/verdict/value" for t in trials if t["question"].startswith("Is the motor")))
    yield from (f"/cards/{item['id']}" for item in share(host.get("/kit")["items"], least=2))


def answers(host):
    out = {}
    for path in told_everywhere(host):
        got = host.client.get(f"/api/v1{path}")
        if got.status_code == 200:
            out[path] = got.get_json()
    return out


def test_no_sentence_tells_celsius_on_a_bench_that_thinks_in_fahrenheit_and_back_again_all_is_as_before(demo):
    before = answers(demo)
    assert len(before) > (60 if NIGHTLY else 12)
    said = [text for answer in before.values() for _, text in sentences(answer)]
    assert any("°C" in text for text in said) and any(re.search(r"\b1:1\d\.\d", text) for text in said), "nothing here could fail"
    assert demo.call("PATCH", "/units", OTHER) == OTHER
    told = answers(demo)
    wrong = {
        (path, key, text)
        for path, answer in told.items()
        for key, text in sentences(answer)
        if ("°C" in text and "cannot be" not in text) or re.search(r"\b1:1\d\.\d", text)
    }
    assert wrong == set(), "\n".join(sorted(map(str, wrong)))
    heard = [text for answer in told.values() for _, text in sentences(answer)]
    for sign in ("°F", "g per 100 g", " oz)", *(["€"] if NIGHTLY else [])):
        assert any(sign in text for text in heard), f"no sentence tells {sign}: the switch would do nothing"
    demo.call("PATCH", "/units", USUAL)
    after = answers(demo)
    assert {path: after[path] for path in before if "/verdict" in path} == {path: before[path] for path in before if "/verdict" in path}


def test_another_unit_is_no_other_verdict(demo):
    trial = next(t["id"] for t in demo.get("/trials")["trials"] if t["question"].startswith("Which ratio"))
    before = demo.get(f"/trials/{trial}/verdict")
    demo.call("PATCH", "/units", OTHER)
    told = demo.get(f"/trials/{trial}/verdict")
    assert told["earlier"] == before["earlier"] == []
    assert [(x["setup"], x["mean"], x["interval"]) for x in told["blind"]["setups"]] == [
        (x["setup"], x["mean"], x["interval"]) for x in before["blind"]["setups"]
    ]


def test_a_card_may_be_handed_out_in_the_other_unit(demo):
    recipe = next(r["id"] for r in demo.get("/recipes")["recipes"] if r["name"].startswith("Long watch"))
    assert demo.get(f"/recipes/{recipe}/card")["heat"] == "94 °C"
    assert demo.get(f"/recipes/{recipe}/card?heat=F")["heat"] == "201.2 °F"
    demo.call("PATCH", "/units", OTHER)
    assert demo.get(f"/recipes/{recipe}/card")["heat"] == "201.2 °F"
    assert demo.get(f"/recipes/{recipe}/card?heat=C")["heat"] == "94 °C"


def test_the_language_of_recipes_stays_one(demo):
    """A text is handed from bench to bench: it writes °C and reads both, whatever either bench tells in."""
    demo.call("PATCH", "/units", OTHER)
    recipe = next(r for r in demo.get("/recipes")["recipes"] if r["name"].startswith("Long watch"))
    text = demo.get(f"/recipes/{recipe['id']}")["checked"]["text"]
    assert "°C" in text and read(text).recipe.temperature_c == 94


def test_the_choice_is_told_to_every_device_and_stands_in_the_history(host):
    assert host.get("/session")["units"] == USUAL
    host.call("PATCH", "/units", {"heat": "F"})
    assert host.get("/session")["units"] == USUAL | {"heat": "F"} == host.get("/bench")["units"]


@pytest.mark.parametrize(("field", "value"), [("heat", "K"), ("ratio", "1:16"), ("bags", "lb"), ("currency", "kroner"), ("currency", 5), ("colour", "red")])
def test_what_is_no_unit_is_refused_at_its_field(host, field, value):
    assert host.call("PATCH", "/units", {field: value}, status=422)["errors"][0]["field"] == field
