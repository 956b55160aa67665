"""The Palate room: a series on phones and alone, what it tells, and that its key is told to nobody before the answer."""

import random
import re

import pytest

from brasspenny.core.palate.threshold import FIRST_ANSWER
from brasspenny.palate import service

from .described import DOCUMENT
from .host import Host


@pytest.fixture
def people(host):
    return [host.person(name) for name in ("Bo", "Imke")]


def session(host, people, **more):
    return host.call("POST", "/palate-sessions", {"served": "Long watch", "tds_pct": 1.4, "taster_ids": people} | more, status=201)


def link(seat) -> str:
    return seat["link"].rsplit("/", 1)[-1]


def phone(app) -> Host:
    return Host(app.test_client())


def helper(app, made) -> tuple[Host, str]:
    return phone(app), made["helper_link"].rsplit("/", 1)[-1]


def stronger(pours, name) -> int:
    waits = next(w for w in pours["waiting"] if w["name"] == name)
    return next(i for i, cup in enumerate(waits["cups"]) if cup["server"] == "Brew")


def test_two_tasters_on_phones_and_a_helper_who_pours(app, host, people):
    made = session(host, people)
    assert [(p["name"], p["water_g"]) for p in made["prepared"]][:2] == [("Brew", 0), ("Step 1", 6)] and made["prepared"][1]["tds_pct"] == pytest.approx(1.372)
    pourer, token = helper(app, made)
    pourer.call("POST", f"/palate-pours/{token}")
    assert host.get("/palate")["sessions"][0]["helper_link"] is None  # one device, from now on
    rng = random.Random(5)
    for seat, keen in zip(made["seats"], (4.0, 12.0), strict=True):
        mine, at = phone(app), link(seat)
        for _ in range(14):
            sheet = mine.call("POST", f"/palate-sheet/{at}/next")
            found = stronger(pourer.get(f"/palate-pours/{token}"), seat["name"])
            poured = next(w for w in pourer.get(f"/palate-pours/{token}")["waiting"] if w["name"] == seat["name"])
            step = next(p["step"] for p in made["prepared"] if p["name"] == next(c["server"] for c in poured["cups"] if c["server"] != "Brew"))
            picked = found if step >= keen or rng.random() < 0.5 else 1 - found
            body = {"number": sheet["now"]["number"], "picked": picked}
            assert mine.call("PUT", f"/palate-sheet/{at}/answer", body)["now"] is None
            mine.call("PUT", f"/palate-sheet/{at}/answer", body)  # delivered twice: harmless
    room = host.get("/palate")
    told = {t["name"]: t for t in room["tasters"]}
    assert told["Bo"]["answers"] == told["Imke"]["answers"] == 14 and told["Bo"]["told"] < told["Imke"]["told"]
    assert told["Bo"]["interval"][0] < told["Bo"]["told"] < told["Bo"]["interval"][1] and told["Bo"]["tds"][0] == pytest.approx(told["Bo"]["told"] * 0.014)
    assert room["panels"][0]["tasters"] == 2 and sum(x["of"] for x in told["Bo"]["at_steps"]) == 14
    mine = phone(app)
    assert mine.get(f"/palate-sheet/{link(made['seats'][0])}")["told"] is None
    host.call("POST", f"/palate-sessions/{made['id']}/close")
    assert pourer.get(f"/palate-pours/{token}")["over"]
    over = mine.get(f"/palate-sheet/{link(made['seats'][0])}")
    assert over["over"] and "apart" in over["told"]["text"] and over["told"]["of"] == 14
    assert mine.call("POST", f"/palate-sheet/{link(made['seats'][0])}/next", status=409)["title"] == "This session is closed."


def test_alone_with_shuffled_cups(app, host, people):
    made = session(host, people[:1], way="shuffled", choice="fixed")
    assert made["helper_link"] is None and not made["helper_waits"]
    mine, at = phone(app), link(made["seats"][0])
    served = []
    for n in range(1, FIRST_ANSWER + 1):
        sheet = mine.call("POST", f"/palate-sheet/{at}/next")
        served.append(sheet["now"]["pour"])
        assert mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": n, "place": 0}, status=409)["errors"][0]["field"] == "place"
        assert mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": n, "picked": 1})["now"]["picked"] == 1
        assert mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": n, "place": 1})["answered"] == n
    assert sorted(served) == sorted(f"Brew and Step {i}" for i in range(1, 9))  # every step once a block
    assert host.get("/palate")["tasters"][0]["standing"] == "wide"


def test_too_few_answers_tell_nothing_and_say_how_many_more(app, host, people):
    made = session(host, people[:1], way="shuffled")
    mine, at = phone(app), link(made["seats"][0])
    mine.call("POST", f"/palate-sheet/{at}/next")
    mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 0})
    mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": 1, "place": 1})
    taster = host.get("/palate")["tasters"][0]
    assert taster["told"] is None and "1 of 8" in taster["text"] and taster["more"].startswith("7 more would narrow it")


def test_a_deleted_session_counts_for_nothing_and_comes_back(app, host, people):
    made = session(host, people[:1], way="shuffled")
    mine, at = phone(app), link(made["seats"][0])
    mine.call("POST", f"/palate-sheet/{at}/next")
    mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 0})
    mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": 1, "place": 0})
    change = host.call("DELETE", f"/palate-sessions/{made['id']}")["change_id"]
    assert host.get("/palate")["tasters"] == [] == host.get("/palate")["sessions"]
    mine.get(f"/palate-sheet/{at}", status=404)
    host.call("POST", f"/changes/{change}/undo")
    assert host.get("/palate")["tasters"][0]["answers"] == 1


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"steps": [1, 2]}, "steps"),
        ({"steps": [1, 1, 2]}, "steps"),
        ({"steps": [1, 2, 95]}, "steps"),
        ({"taster_ids": ["x" * 12]}, "taster_ids"),
        ({"tds_pct": 30}, "tds_pct"),
        ({"served": " "}, "served"),
        ({"axis": "bitterness"}, "axis"),
        ({"way": "on trust"}, "way"),
    ],
)
def test_what_is_no_series_is_refused_at_its_field(host, people, more, field):
    refused = host.call("POST", "/palate-sessions", {"served": "Long watch", "taster_ids": people} | more, status=422)
    assert refused["errors"][0]["field"] == field


def test_an_answer_stands_and_what_was_never_served_is_refused(app, host, people):
    made = session(host, people[:1])
    mine, at = phone(app), link(made["seats"][0])
    assert mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 0}, status=422)["errors"][0]["field"] == "number"
    mine.call("POST", f"/palate-sheet/{at}/next")
    assert mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 2}, status=422)["errors"][0]["field"] == "picked"
    mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 0})
    assert mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": 1, "picked": 1}, status=409)["errors"][0]["field"] == "picked"


# --- the key -----------------------------------------------------------------------------------------------------------


def crawl(app, host, made) -> dict[str, bytes]:
    """Everything a host or a taster can fetch that knows of the session, and their tries at the helper's sheet."""
    ids, out = {"palate-sessions": made["id"], "palate-seats": made["seats"][0]["id"]}, {}
    mine = phone(app)
    for template, item in DOCUMENT["paths"].items():
        tokens = [made["token"]] if "{token}" in template else [""]
        filled = re.sub(r"/(palate-sessions|palate-seats)/\{id\}", lambda m: f"/{m.group(1)}/{ids[m.group(1)]}", template)
        if "get" not in item or "{id}" in filled:
            continue
        for asker, who in ((host, "host"), (mine, "taster")):
            for token in tokens:
                out[who, template] = asker.client.get(filled.replace("{token}", token)).data
    for asker, who in ((host, "host"), (mine, "taster")):
        for method in ("POST", "GET"):
            tried = asker.client.open(f"/api/v1/palate-pours/{made['helper']}", method=method)
            assert tried.status_code in (404, 409), tried.data
            out[who, method] = tried.data
    for page in (f"/s/{made['token']}", f"/h/{made['helper']}", "/palate"):
        out["page", page] = host.client.get(page).data
    return out


def waiting(make_app, monkeypatch, place, method):
    """One session with a presentation before a taster, its cup to be found standing there."""
    app = make_app()
    host = Host(app.test_client())
    bo = host.person("Bo")
    host.client.environ_base["HTTP_X_PENNY_PERSON"] = bo  # the host tastes too
    monkeypatch.setattr(service, "draw_place", lambda session, act: (act.rng.random(), place)[1])
    made = session(host, [bo], method=method)
    assert made["helper_link"] is None and made["helper_waits"]
    made["token"] = link(made["seats"][0])
    mine = phone(app)
    mine.call("POST", f"/palate-sheet/{made['token']}/next")
    made["helper"] = service_helper_token(app, made["id"])
    phone(app).call("POST", f"/palate-pours/{made['helper']}")
    return crawl(app, host, made)


def service_helper_token(app, session_id: str) -> str:
    from brasspenny.links import LinkMaker

    return LinkMaker(app.config["SECRET"], "").helper_token(session_id)


@pytest.mark.parametrize("method", ["two_afc", "triangle"])
def test_nothing_a_taster_or_tasting_host_fetches_depends_on_where_the_cup_stands(make_app, monkeypatch, method):
    one, other = (waiting(make_app, monkeypatch, place, method) for place in (0, 1))
    assert one.keys() == other.keys() and len(one) > 60
    assert [k for k in one if one[k] != other[k]] == []


def test_the_helpers_sheet_opens_on_one_device_which_tastes_nothing(app, host, people):
    made = session(host, people)
    pourer, token = helper(app, made)
    pourer.call("POST", f"/palate-pours/{token}")
    phone(app).call("POST", f"/palate-pours/{token}", status=409)
    phone(app).get(f"/palate-pours/{token}", status=404)
    assert "shown on this device" in pourer.get(f"/palate-sheet/{link(made['seats'][0])}", status=409)["title"]
    second = session(host, people)
    taster, token = helper(app, second)
    taster.get(f"/palate-sheet/{link(second['seats'][0])}")
    assert "tastes" in taster.call("POST", f"/palate-pours/{token}", status=409)["title"]


# --- used elsewhere ----------------------------------------------------------------------------------------------------


def answer_all(app, made, right) -> None:
    """Shuffled cups, as often as it takes for an answer; right: of a step."""
    for seat in made["seats"]:
        mine, at = phone(app), link(seat)
        for n in range(1, 13):
            step = int(mine.call("POST", f"/palate-sheet/{at}/next")["now"]["pour"].split()[-1])
            mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": n, "picked": 0})
            mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": n, "place": 0 if right(made["steps"][step - 1], n) else 1})


def test_a_ladder_whose_steps_nobody_here_tells_is_said_in_plan_and_margin_and_strengths_match_by_the_panel(app, host, people):
    trial = host.ask("Which ratio?", factor="ratio", strength_policy="as_brewed")
    first = host.setup(trial["id"], brew_water_g=270)
    host.copy(first, brew_water_g=279)

    def told():
        return host.get(f"/trials/{trial['id']}/plan")["step_told"]

    def margin():
        return [c["title"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]

    def within():
        return host.get(f"/trials/{trial['id']}/matching")["within_tds_pct"]

    assert told() == "" and within() == 0.05
    coarse = session(host, people, way="shuffled", choice="fixed")
    answer_all(app, coarse, lambda step, n: step >= 9 or n % 2 == 0)
    assert "1:15.0 to 1:15.5 changes strength by" in told() and "Steps too small to taste" in margin() and within() <= 0.05  # a dull panel does not loosen it
    host.call("DELETE", f"/palate-sessions/{coarse['id']}")
    assert told() == "" and "Steps too small to taste" not in margin() and within() == 0.05
    answer_all(app, session(host, people, way="shuffled", choice="fixed"), lambda step, n: True)
    assert told() == "" and within() < 0.05  # who tells everything tells this, too


@pytest.mark.parametrize(("axis", "unit"), [("temperature", "°C"), ("acidity", "g/L of the acid"), ("sweetness", "g/L of sugar")])
def test_other_axes_have_steps_of_their_own_and_no_say_in_strength(app, host, people, axis, unit):
    made = session(host, people[:1], way="shuffled", axis=axis, tds_pct=None, steps=[1, 2, 4, 8])
    assert made["unit"] == unit and [p["name"] for p in made["prepared"]] == ["Plain", "Step 1", "Step 2", "Step 3", "Step 4"]
    answer_all(app, made, lambda step, n: step >= 4 or n % 2 == 0)
    taster = host.get("/palate")["tasters"][0]
    assert taster["axis"] == axis and taster["tds"] is None and 1 < taster["told"] < 8


def test_three_shuffled_cups_say_how_many_of_each_and_nothing_of_where(app, host, people):
    made = session(host, people[:1], way="shuffled", method="triangle", choice="fixed")
    mine, at = phone(app), link(made["seats"][0])
    seen = set()
    for n in range(1, 13):
        now = mine.call("POST", f"/palate-sheet/{at}/next")["now"]
        odd, others = re.fullmatch(r"one cup of (Brew|Step \d) and two of (Brew|Step \d)", now["pour"]).groups()
        assert (odd == "Brew") != (others == "Brew") and len(now["codes"]) == 3
        seen.add(odd == "Brew")
        mine.call("PUT", f"/palate-sheet/{at}/answer", {"number": n, "picked": 2})
        mine.call("PUT", f"/palate-sheet/{at}/turned", {"number": n, "place": 2})
    assert seen == {True, False}  # the odd one is the stronger or the weaker, by the draw
    assert host.get("/palate")["tasters"][0]["at_steps"][0]["right"] > 0


def test_steps_of_temperature_are_told_in_the_benchs_unit(app, host, people):
    answer_all(app, session(host, people[:1], way="shuffled", axis="temperature", tds_pct=None, steps=[2, 4, 8]), lambda step, n: step >= 4 or n % 2 == 0)
    told = lambda: host.get("/palate")["tasters"][0]["text"]  # noqa: E731
    assert "°C apart" in told()
    host.call("PATCH", "/units", {"heat": "F"})
    assert "°F apart" in told() and "°C" not in told()


def test_a_person_behind_a_link_counts_in_the_palate_room_too(app, host, people):
    """A phone on which a taster's link of any series was opened shows no pours of a series that they sit in, and the other way round."""
    other = session(host, people)
    made = session(host, people)
    theirs = phone(app)
    theirs.get(f"/palate-sheet/{link(other['seats'][0])}")
    _, token = helper(app, made)
    assert "uses this device" in theirs.call("POST", f"/palate-pours/{token}", status=409)["title"]
    pourer, clean = phone(app), phone(app)
    pourer.call("POST", f"/palate-pours/{token}")
    clean.get(f"/palate-sheet/{link(made['seats'][1])}")
    pourer.get(f"/palate-sheet/{link(other['seats'][1])}")
    assert "on a device that Imke used" in clean.call("POST", f"/palate-sheet/{link(made['seats'][1])}/next", status=409)["title"]
    pourer.get(f"/palate-pours/{token}", status=404)
