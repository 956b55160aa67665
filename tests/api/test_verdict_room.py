"""The verdict room and the report: what is put in comes out, worked out once, in every form, and nothing before the flip."""

import csv
import io
import json

import pytest
from pyarrow import parquet

from brasspenny import cli

from .host import Host, token


def tasted(host: Host, trial, runs, people, truth, key=None, **asked):
    """One flight scored by truth(letter, attribute, pass, taster number); flipped."""
    flight = host.flight(trial["id"], runs, people, **asked)
    letters = {m["mark"]: m["letter"] for m in flight["marks"]}
    key = key or {c["code"]: i for i, c in enumerate(flight["cups"], 1)}
    for i, sheet in enumerate(flight["sheets"]):
        shown = host.get(f"/taste/{token(sheet)}")
        touches = []
        for code, mark in key.items():
            for p in [x["name"] for x in shown["passes"]]:
                for a in [x["code"] for x in shown["attributes"]]:
                    touches.append(host.touch(code, a, value=truth(letters[mark], a, p, i)) | {"pass_name": p})
        host.score(sheet, *touches)
    host.call("POST", f"/flights/{flight['id']}/close")
    return host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})


@pytest.fixture
def people(host):
    return [host.person(f"Taster {i}") for i in range(8)]


@pytest.fixture
def judged(made_once):
    return made_once(sweet_against_steady)


def sweet_against_steady(host):
    """A is sweet and best hot, B steady; liked alike over all; two brews each, tasted by eight."""
    people = [host.person(f"Taster {i}") for i in range(8)]
    trial, setups, runs = host.two_setups_brewed()

    def truth(letter, attribute, pass_name, taster):
        if attribute == "liking":
            return {"A": {"hot": 8, "cool": 6}, "B": {"hot": 7, "cool": 7}}[letter][pass_name]
        return {"A": 8, "B": 3}[letter] + taster % 2

    tasted(host, trial, runs, people, truth, attributes=["sweetness"], passes=["hot", "cool"])
    return trial


def test_each_attribute_is_judged_over_all_passes_and_in_each(host, judged):
    sweet = host.get(f"/trials/{judged['id']}/verdict/attribute?attribute=sweetness")
    assert [p["pass_name"] for p in sweet["passes"]] == ["mean", "hot", "cool"] and sweet["changes"] == ""
    assert sweet["passes"][0]["setups"][0] == {"setup": "A", "mean": pytest.approx(8.5), "interval": sweet["passes"][0]["setups"][0]["interval"]}
    assert (sweet["passes"][1]["leader"], sweet["passes"][1]["kind"], sweet["passes"][1]["agreement"]) == ("A", "clear", 1)
    liking = host.get(f"/trials/{judged['id']}/verdict/attribute?attribute=liking")
    assert liking["changes"] == "White weave leads hot; Thick crêpe leads cool."
    assert "leader_changes" in [c["code"] for c in host.get(f"/trials/{judged['id']}/verdict")["blind"]["caveats"]]
    assert host.get(f"/trials/{judged['id']}/verdict/attribute?attribute=aroma")["passes"] == []
    host.get(f"/trials/{judged['id']}/verdict/attribute?attribute=luck", status=422)


def test_which_for_whom_is_said_even_in_a_tie(host, judged):
    assert host.get(f"/trials/{judged['id']}/verdict")["blind"]["verdict"]["kind"] == "tie"
    a, b = host.get(f"/trials/{judged['id']}/verdict/characters")["characters"]
    assert a["text"] == "Choose White weave if you want more sweetness and drink it hot." and not a["steady"]
    assert (a["cooled"]["better"], a["cooled"]["change"], a["cooled"]["interval"], a["cooled"]["shown"]) == ("hot", 2, [2, 2], True)
    assert (b["text"], b["cooled"]["change"], b["steady"]) == ("Choose Thick crêpe if you want less sweetness.", 0, True)


def test_results_are_worked_out_once_and_again_when_what_they_rest_on_changes(host, judged, monkeypatch):
    from brasspenny.verdicts import attributes, pairing

    first = host.get(f"/trials/{judged['id']}/verdict/pairing")
    host.get(f"/trials/{judged['id']}/verdict/characters")

    def fails(*_, **__):
        raise AssertionError("worked out again")

    monkeypatch.setattr(pairing, "find_peak", fails)
    monkeypatch.setattr(attributes, "judge", fails)
    assert host.get(f"/trials/{judged['id']}/verdict/pairing") == first
    host.get(f"/trials/{judged['id']}/verdict/characters")
    run = host.get(f"/trials/{judged['id']}/results")["runs"][0]
    host.call("PATCH", f"/runs/{run['id']}", {"beverage_g": 200}, rev=run["rev"])
    monkeypatch.undo()
    assert host.get(f"/trials/{judged['id']}/verdict/pairing") != first


def ladder(host, people, likings):
    """Five ratios, 1:13 to 1:17, brewed once each, liked like this."""
    trial = host.ask(question="Which ratio?", factor="ratio")
    waters = (234, 252, 270, 288, 306)
    first = host.setup(trial["id"], brew_water_g=waters[0])
    setups = [first, *(host.copy(first, brew_water_g=w) for w in waters[1:])]
    runs = [
        host.brew(trial["id"], s, brew_water_g=w, beverage_g=w - 36, tds=[round(1.9 - w / 600 + k / 100, 2) for k in (0, 1)])["id"]
        for s, w in zip(setups, waters, strict=True)
    ]
    truth = dict(zip("ABCDE", likings, strict=True))
    tasted(host, trial, runs, people, lambda letter, a, p, i: truth[letter] + (i % 3 == 0), attributes=[])
    return trial


def test_a_sweet_spot_inside_is_found_with_its_interval(host, people):
    found = host.get(f"/trials/{ladder(host, people, (4, 6, 7, 6, 4))['id']}/verdict/pairing")
    ratio = found["curves"][0]
    assert ratio["kind"] == "peak" and ratio["interval"][0] < ratio["best"] < ratio["interval"][1] and ratio["best"] == pytest.approx(15, abs=0.2)
    assert ratio["text"].startswith("Liked best at ratio 1:15.0")
    assert found["surface"] is None and "5 of 8 distinct points" in found["surface_text"]


def test_without_a_peak_inside_the_next_value_is_drafted(host, people):
    trial = ladder(host, people, (3, 4, 5, 6, 7))
    ratio = host.get(f"/trials/{trial['id']}/verdict/pairing")["curves"][0]
    assert (ratio["measure"], ratio["kind"], ratio["next_value"]) == ("ratio", "no_peak", pytest.approx(18, abs=0.1))
    assert "No peak inside the tested range" in ratio["text"] and len(ratio["points"]) == 5
    steps = host.get(f"/trials/{trial['id']}/verdict/next")["steps"]
    assert {s["code"] for s in steps} == {"one_more_brew", "one_more_flight", "more_tasters", "next_value"}
    drafted = host.call("POST", f"/trials/{trial['id']}/verdict/next", {"code": "next_value"})
    assert drafted["station"] == "brew" and drafted["text"] == "Setup F is added at 1:18.0 (324 g of water): brew it twice beside E."
    assert host.get(f"/trials/{trial['id']}/setups")["setups"][-1]["variables"]["brew_water_g"] == 324
    assert [x["label"] for x in host.get(f"/trials/{trial['id']}/slots")["slots"]] == ["E2", "F1", "E3", "F2"]


def test_a_drafted_brew_is_there_until_it_is_brewed_and_poured_and_the_bench_says_so(host, judged):
    trial = judged["id"]
    planned = host.get(f"/trials/{trial}/slots")["slots"]
    assert sorted(x["label"] for x in planned) == ["A1", "A2", "B1", "B2"] and all(x["run_id"] for x in planned)
    host.call("POST", f"/trials/{trial}/verdict/next", {"code": "one_more_brew"})

    def asked():
        listed, progress = host.get("/trials")["trials"][0], host.get(f"/trials/{trial}/progress")
        assert listed["next_action"] == progress["next_action"]
        return listed["next_action"]

    slots = host.get(f"/trials/{trial}/slots")
    assert [x["label"] for x in slots["slots"]] == ["A3", "B3"] and slots["drafted"].startswith("One more brew of White weave and Thick crêpe")
    assert asked() == "Make the 2 drafted brews"
    setups = host.get(f"/trials/{trial}/setups")["setups"]
    host.brew(trial, setups[0])
    assert asked() == "Make the drafted brew" and [bool(x["run_id"]) for x in host.get(f"/trials/{trial}/slots")["slots"]] == [True, False]
    new = host.brew(trial, setups[1])
    assert asked() == "Pour the 2 drafted brews"
    runs = [r["id"] for r in host.get(f"/trials/{trial}/results")["runs"] if r["label"] in ("A3", "B3")]
    tasted(host, {"id": trial}, runs, [p["id"] for p in host.get("/people")["people"]], lambda x, a, p, i: 6, attributes=[])
    assert asked() == "Read the verdict" and new["id"] in runs
    plan = host.get(f"/trials/{trial}/plan")
    host.call("PUT", f"/trials/{trial}/plan", plan["settings"], rev=plan["rev"])  # a plan saved anew takes the draft's place
    assert host.get(f"/trials/{trial}/slots")["drafted"] == ""


def test_a_draft_that_is_not_open_is_refused(host, judged):
    host.call("POST", f"/trials/{judged['id']}/verdict/next", {"code": "next_value"}, status=409)
    host.call("POST", f"/trials/{judged['id']}/verdict/next", {"code": "give up"}, status=422)


def test_price_time_and_factors_are_weighed(host, people):
    kit = {}
    for kind, name, facts in (
        ("coffee", "Lot 3", {"price_per_kg": 30}),
        ("coffee", "Lot 4", {"price_per_kg": 50}),
        ("filter", "White weave", {"price_each": 0.05}),
        ("grinder", "Old", {"rate_g_s": 2.0}),
        ("grinder", "New", {"rate_g_s": 0.5}),
    ):
        kit[name] = host.call("POST", "/kit", {"kind": kind, "name": name, kind: facts})
    trial = host.ask(question="Bean or grinder?", factor="coffee", further_factors=["grinder"])
    a = host.setup(trial["id"], coffee="Lot 3", grinder="Old")
    setups = [a, host.copy(a, grinder="New"), host.copy(a, coffee="Lot 4"), host.copy(a, coffee="Lot 4", grinder="New")]
    runs = [host.brew(trial["id"], s, total_time_s=150)["id"] for _ in range(2) for s in setups]
    truth = dict(zip("ABCD", (4, 4, 7, 8), strict=True))
    tasted(host, trial, runs, people, lambda letter, x, p, i: truth[letter] + i % 2, attributes=[])
    value = host.get(f"/trials/{trial['id']}/verdict/value")
    by = {s["setup"]: s for s in value["setups"]}
    assert by["A"]["price"] == pytest.approx(0.59) and by["C"]["price"] == pytest.approx(0.95)
    assert by["B"]["minutes"] - by["A"]["minutes"] == pytest.approx(0.45)  # 18 g at 0.5 g/s rather than 2
    assert by["D"]["on_price_frontier"] and by["C"]["on_time_frontier"] and not by["A"]["on_time_frontier"]
    coffee, grinder = value["factorial"]["factors"]
    assert (coffee["best"], coffee["span"]) == ("Lot 4", pytest.approx(3.5)) and coffee["probability_largest"] > 0.95 > grinder["probability_largest"]
    assert value["factorial"]["text"].startswith("Coffee matters more")
    gain = next(g for g in value["factorial"]["gains"] if g["factor"] == coffee["label"])
    assert gain["price"] == pytest.approx(0.36) and gain["points_per_unit"] == pytest.approx(3.5 / 0.36, rel=0.01)


def test_a_price_by_the_bag_is_a_price(host, people):
    for name, facts in (("Lot 1", {"bag_price": 20, "bag_size": 12, "bag_unit": "oz"}), ("Lot 2", {"price_per_kg": 30, "bag_price": 99, "bag_size": 250})):
        host.call("POST", "/kit", {"kind": "coffee", "name": name, "coffee": facts})
    trial = host.ask("Which lot?", "coffee")
    runs = [host.brew(trial["id"], host.setup(trial["id"], coffee=f"Lot {n}"))["id"] for n in (1, 2)]
    tasted(host, trial, runs, people, lambda letter, a, p, i: 6, attributes=[])
    prices = {s["setup"]: s["used_up"] for s in host.get(f"/trials/{trial['id']}/verdict/value")["setups"]}
    assert prices == {"A": pytest.approx(18 * 20 / (12 * 28.3495), abs=1e-4), "B": pytest.approx(0.54)}
    assert host.call("POST", "/kit", {"kind": "coffee", "name": "Lot 3", "coffee": {"bag_size": 0}}, status=422)["errors"][0]["field"] == "coffee.bag_size"


def test_an_open_flight_and_a_verdictless_trial_give_the_verdict_room_nothing(host, people):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people)
    host.score(flight["sheets"][0], host.touch(flight["cups"][0]["code"], value=9))
    assert host.get(f"/trials/{trial['id']}/verdict/characters") == {"characters": []}
    assert host.get(f"/trials/{trial['id']}/verdict/next") == {"steps": [], "regret": None, "untasted": [], "note": "", "spent": ""}
    assert host.get(f"/trials/{trial['id']}/verdict/value")["setups"] == []
    assert host.client.get(f"/api/v1/trials/{trial['id']}/scores.csv").data.decode().splitlines() == ["flight,taster,setup,brew,pass,cup,attribute,score"]
    report = host.get(f"/trials/{trial['id']}/report")
    assert report["headline"] is None and report["grade"]["so_far"]


def test_the_grade_names_the_rules_that_hold_it(host, judged):
    grade = host.get(f"/trials/{judged['id']}/progress")["grade"]
    assert not grade["so_far"] and grade["step"] == min(r["cap"] for r in grade["reasons"])
    assert {"small_panel", "leader_changes"} <= {r["code"] for r in grade["reasons"]}


# --- the report --------------------------------------------------------------------------------------------------------


def test_the_report_says_the_same_in_every_form(host, judged):
    report = host.get(f"/trials/{judged['id']}/report")
    said = host.get(f"/trials/{judged['id']}/verdict")["answer"]
    headline = said["headline"]
    assert report["headline"] == headline and report["judged"][0]["interval"]
    assert (report["text"], report["lean"]) == (said["certainty"], said["action"])
    assert next(t for t in host.get("/trials")["trials"] if t["id"] == judged["id"])["headline"] == headline
    assert any("blind by shuffling" in line for line in report["method"]) and any("As it cools" in line for line in report["findings"])
    assert report["setups"][0]["variables"] == ["Filter White weave"] and "Dose 18 g" in report["shared"]
    markdown = host.client.get(f"/api/v1/trials/{judged['id']}/report.md")
    assert markdown.mimetype == "text/markdown" and f"## {headline}" in markdown.data.decode()
    pdf = host.client.get(f"/api/v1/trials/{judged['id']}/report.pdf")
    assert pdf.mimetype == "application/pdf" and pdf.data.startswith(b"%PDF") and 1 <= pdf.data.count(b"/Type /Page\n") <= 2


def test_what_people_typed_stays_text_in_every_form(host, people):
    trial = host.ask(question="<b>Which</b> *filter* | & why?")
    a = host.setup(trial["id"], filter="=cmd|' /C calc'!A0")
    b = host.copy(a, filter="漢字 <img src=x>")
    runs = [host.brew(trial["id"], s)["id"] for s in (a, b) for _ in range(2)]
    odd = [host.person("=HYPERLINK(1)"), *people[:2]]
    tasted(host, trial, runs, odd, lambda letter, x, p, i: 4 + (letter == "B"), attributes=[])
    assert host.client.get(f"/api/v1/trials/{trial['id']}/report.pdf").status_code == 200
    assert "\\<b\\>Which" in host.client.get(f"/api/v1/trials/{trial['id']}/report.md").data.decode()
    assert "'=HYPERLINK(1)" in host.client.get(f"/api/v1/trials/{trial['id']}/scores.csv").data.decode()


def test_exported_scores_judge_to_the_same_verdict(host, judged, tmp_path, capsys):
    file = tmp_path / "scores.csv"
    file.write_bytes(host.client.get(f"/api/v1/trials/{judged['id']}/scores.csv").data)
    rows = list(csv.DictReader(io.StringIO(file.read_text())))
    assert {r["attribute"] for r in rows} == {"liking", "sweetness"} and len(rows) == 8 * 4 * 2 * 2
    assert cli.main(["judge", str(file), "--json"]) == 0
    plain, blind = json.loads(capsys.readouterr().out), host.get(f"/trials/{judged['id']}/verdict")["blind"]
    assert plain["differences"][0]["interval"] == pytest.approx(blind["differences"][0]["interval"], abs=1e-9)
    assert plain["verdict"]["kind"] == blind["verdict"]["kind"] and plain["pass"] == blind["pass_name"]


def test_a_sealed_flights_commitment_is_in_the_report(host, people):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people, blinding="runner")
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=5) for c in flight["cups"]))
    host.call("POST", f"/flights/{flight['id']}/close")
    before = host.get(f"/trials/{trial['id']}/report")["flights"][0]
    assert before["commitment"] == flight["seal"]["commitment"] and before["key_text"] is None
    host.call("POST", f"/flights/{flight['id']}/flip", {})
    after = host.get(f"/trials/{trial['id']}/report")["flights"][0]
    assert after["holds"] and after["key_text"] and f"`{after['commitment']}`" in host.client.get(f"/api/v1/trials/{trial['id']}/report.md").data.decode()


# --- the answer first --------------------------------------------------------------------------------------------------


def twelve(host):
    return [host.person(f"Hand {i}") for i in range(12)]


def answered(host, trial):
    """The same words on page, list and report."""
    said = host.get(f"/trials/{trial['id']}/verdict")["answer"]
    report = host.get(f"/trials/{trial['id']}/report")
    listed = next(t for t in host.get("/trials")["trials"] if t["id"] == trial["id"])
    assert report["headline"] == listed["headline"] == said["headline"]
    return said


def test_two_camps_lead_everywhere(host):
    trial = host.ask("Which filter?", "filter")
    first = host.setup(trial["id"])
    setups = [first, *(host.copy(first, filter=f"Weave {i}") for i in "BCD")]
    runs = [host.brew(trial["id"], s)["id"] for s in setups for _ in range(2)]
    likes = ({"A": 8, "B": 5, "C": 6, "D": 3}, {"A": 3, "B": 5, "C": 6, "D": 8})
    tasted(host, trial, runs, twelve(host), lambda letter, a, p, i: likes[i % 2][letter] + 0.5 * (i // 2 % 2), attributes=[])
    said = answered(host, trial)
    assert said["kind"] == "camps" and said["headline"].startswith("Six like") and said["headline"].endswith("choose by guest")
    assert {g["best"] for g in said["groups"]} == {"A", "D"} and all(g["loses"][g["best"]] == 0 for g in said["groups"])


def test_a_ladder_answers_how_far(host, people):
    trial = host.ask("How far can the ratio stretch?", "ratio")
    first = host.setup(trial["id"], brew_water_g=234)
    setups = [first, *(host.copy(first, brew_water_g=18 * r) for r in (14, 15, 16, 17, 18))]
    runs = [host.brew(trial["id"], s, brew_water_g=18 * r, beverage_g=18 * r - 38)["id"] for s, r in zip(setups, range(13, 19), strict=True) for _ in range(2)]
    likes = dict(zip("ABCDEF", (4, 6, 7.5, 7, 5.5, 4), strict=True))
    tasted(host, trial, runs, people, lambda letter, a, p, i: likes[letter] + 0.5 * (i % 2), attributes=[])
    said = answered(host, trial)
    assert said["kind"] == "ladder" and said["headline"].startswith("Liked best near ratio 1:15") and "tomorrow" in said["action"]


def test_a_rank_flight_has_the_same_page(host, people):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people, method="ranking")
    for sheet in flight["sheets"]:
        order = sorted(flight["cups"], key=lambda c: c["code"])
        host.score(sheet, *(host.touch(c["code"], attribute="rank", value=i + 1) for i, c in enumerate(order)))
    host.call("POST", f"/flights/{flight['id']}/close")
    marks = [{"code": c["code"], "mark": i} for i, c in enumerate(flight["cups"], 1)]
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": marks})
    assert answered(host, trial)["kind"] == "ranks"


def test_what_is_brewed_and_not_tasted_comes_before_more_brewing(host, judged):
    assert host.get(f"/trials/{judged['id']}/verdict/next")["untasted"] == []
    setup = host.get(f"/trials/{judged['id']}/setups")["setups"][0]
    host.brew(judged["id"], setup)
    assert host.get(f"/trials/{judged['id']}/verdict/next")["untasted"] == ["A3"]


# --- the answer has the shape of the question --------------------------------------------------------------------------------------


def climbed(host, people, factor, setups, likings, *, brews=1, attributes=(), more=lambda letter, a: 5, **asked):
    """A ladder of setups A, B, … that differ in `factor`, liked like this."""
    trial = host.ask(question="How far?", factor=factor, **asked)
    first = host.setup(trial["id"], **setups[0])
    made = [first, *(host.copy(first, **change) for change in setups[1:])]
    runs = [host.brew(trial["id"], s, **brewed(change))["id"] for s, change in zip(made, setups, strict=True) for _ in range(brews)]
    liked = dict(zip("ABCDEF", likings, strict=False))
    tasted(host, trial, runs, people, lambda letter, a, p, i: liked[letter] + (i % 3 == 0) if a == "liking" else more(letter, a), attributes=list(attributes))
    return trial["id"]


def brewed(change):
    """As it is brewed to that setup: bypass water thins one and the same brew."""
    if "bypass_g" not in change:
        return {k: v for k, v in change.items() if k in ("brew_water_g", "temperature_c")}
    drink = 248 + change["bypass_g"]
    return {"bypass_g": change["bypass_g"], "beverage_g": drink, "tds": [round(1.8 * 248 / drink, 2)] * 2}


HEATS = [{"temperature_c": t} for t in (86, 88, 90, 92, 94)]


@pytest.mark.parametrize(
    ("likings", "kind", "headline"),
    [
        ((3, 4, 5, 6, 7), "no_peak", "Liked more towards 94 °C, the end of what was tested"),
        ((3, 5, 7, 5, 3), "peak", "Liked best near 90 °C"),
        ((5, 5, 5, 5, 5), "not_located", "The best temperature is not located"),
    ],
)
def test_a_ladder_of_any_number_leads_with_how_far(host, people, likings, kind, headline):
    trial = climbed(host, people, "temperature", HEATS, likings, brews=2)
    curve = host.get(f"/trials/{trial}/verdict/pairing")["curves"][0]
    assert (curve["measure"], curve["kind"]) == ("temperature_c", kind)
    said = host.get(f"/trials/{trial}/verdict")["answer"]
    assert (said["kind"], said["headline"], said["order"]) == ("ladder", headline, list("ABCDE"))
    assert [t["headline"] for t in host.get("/trials")["trials"]] == [headline]
    report = host.get(f"/trials/{trial}/report")
    assert report["headline"] == headline and [x["setup"] for x in report["judged"]] == list("ABCDE")


@pytest.mark.parametrize(
    ("factor", "setups", "measure", "drafted"),
    [
        ("temperature", HEATS, "temperature_c", ("temperature_c", 96)),
        ("grind_setting", [{"grind_setting": s} for s in ("5", "5.5", "6", "6.5", "7")], "grind_setting", ("grind_setting", "7.5")),
        ("strength", [{"bypass_g": b} for b in (0, 20, 40, 60, 80)], "tds_pct", ("bypass_g", 109)),
    ],
)
def test_the_next_rung_of_any_ladder_is_drafted_where_something_leads_there(host, people, factor, setups, measure, drafted):
    trial = climbed(host, people, factor, [{"grinder": "Windlass", **s} for s in setups], (3, 4, 5, 6, 7), brews=2)
    assert host.get(f"/trials/{trial}/verdict/pairing")["curves"][0]["measure"] == measure
    assert "next_value" in {s["code"] for s in host.get(f"/trials/{trial}/verdict/next")["steps"]}
    host.call("POST", f"/trials/{trial}/verdict/next", {"code": "next_value"})
    field, value = drafted
    assert len(host.get(f"/trials/{trial}/slots")["slots"]) == 4
    assert host.get(f"/trials/{trial}/setups")["setups"][-1]["variables"][field] == value


def test_a_number_on_another_grinders_dial_makes_no_ladder(host, people):
    trial = climbed(
        host, people, "grind_setting", [{"grinder": "Windlass" if i < 3 else "Capstan", "grind_setting": str(5 + i)} for i in range(5)], (3, 4, 5, 6, 7)
    )
    assert host.get(f"/trials/{trial}/verdict")["answer"]["kind"] == "setup"


def test_what_changes_along_a_ladder_is_said_of_each_attribute(host, people):
    trial = climbed(
        host,
        people,
        "temperature",
        HEATS,
        (5, 6, 7, 6, 5),
        attributes=["acidity", "body"],
        more=lambda letter, a: 8 - 1.0 * "ABCDE".index(letter) if a == "acidity" else 5,
    )
    found = host.get(f"/trials/{trial}/verdict/trends")
    assert found["text"] == ["Acidity falls from 86 °C to 94 °C, by 4.0 points (" + found["text"][0].split("(")[1], "No steady change is shown in body."]
    assert found["text"][0] in host.get(f"/trials/{trial}/report")["findings"]
    assert host.get(f"/trials/{host.ask()['id']}/verdict/trends") == {"trends": [], "text": []}


# --- the pass people drink it at -----------------------------------------------------------------------------------------------------


@pytest.fixture
def cooling(host, people):
    """A is liked hot, B cool, by far; asked about the cool cup."""
    trial = host.ask(judged_pass="cool")
    a = host.setup(trial["id"])
    b = host.copy(a, filter="Thick crêpe")
    runs = [host.brew(trial["id"], s)["id"] for s in (a, b) for _ in range(2)]
    liked = {"A": {"hot": 9, "cool": 4}, "B": {"hot": 2, "cool": 8}}
    tasted(host, trial, runs, people, lambda x, a, p, i: liked[x][p] - (i % 2) * 0.5, attributes=[], passes=["hot", "cool"])
    return trial["id"]


def codes(host, trial):
    return {c["code"] for c in host.get(f"/trials/{trial}/progress")["caveats"]}


def test_a_trial_is_judged_by_the_pass_it_asks_about(host, cooling):
    found = host.get(f"/trials/{cooling}/verdict")
    assert found["blind"]["pass_name"] == "cool" and found["answer"]["headline"] == "Keep Thick crêpe"
    assert [t["headline"] for t in host.get("/trials")["trials"]] == ["Keep Thick crêpe"]
    assert host.get(f"/trials/{cooling}/verdict/attribute?attribute=liking")["counts"] == "cool"
    assert not {"leader_changes", "pass_chosen_after"} & codes(host, cooling)


def test_another_pass_chosen_after_the_flip_is_obeyed_and_said(host, cooling):
    trial = host.get(f"/trials/{cooling}")
    host.call("PATCH", f"/trials/{cooling}", {"judged_pass": "hot"}, rev=trial["rev"])
    assert host.get(f"/trials/{cooling}/verdict")["answer"]["headline"] == "Keep White weave"
    said = next(c for c in host.get(f"/trials/{cooling}/progress")["caveats"] if c["code"] == "pass_chosen_after")
    assert "the hot pass" in said["text"] and "Until then the verdict was: Keep Thick crêpe." in said["text"]
    assert [e["headline"] for e in host.get(f"/trials/{cooling}/verdict")["earlier"]] == ["Keep Thick crêpe"]
    host.call("PATCH", f"/trials/{cooling}", {"judged_pass": "cool"}, rev=trial["rev"] + 1)
    assert "pass_chosen_after" not in codes(host, cooling)


def test_undo_goes_round_no_consequence_of_choosing_the_pass_late(host, people):
    """Asked about the cool cup, changed to hot before anything is tasted, and changed back by Undo once the scores are known."""
    trial, _, runs = host.two_setups_brewed()
    host.call("PATCH", f"/trials/{trial['id']}", {"judged_pass": "hot"}, rev=trial["rev"])
    change = next(c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["action"] == "update" and "judged_pass" in c["after"])
    tasted(host, trial, runs, people, lambda x, a, p, i: 5 + (x == "B") - i % 2, attributes=[], passes=["hot", "cool"])
    assert "pass_chosen_after" not in codes(host, trial["id"])
    host.call("POST", f"/changes/{change['id']}/undo")
    assert host.get(f"/trials/{trial['id']}")["judged_pass"] == "mean" and "pass_chosen_after" in codes(host, trial["id"])


def test_a_smaller_difference_set_after_the_flip_is_said_and_held_against_the_design(host, cooling):
    trial = host.get(f"/trials/{cooling}")
    host.call("PATCH", f"/trials/{cooling}", {"smallest_difference": 0.2}, rev=trial["rev"])
    said = next(c for c in host.get(f"/trials/{cooling}/progress")["caveats"] if c["code"] == "difference_chosen_after")
    assert "Leads under 0.2 count as ties" in said["text"] and "until then leads under 0.5" in said["text"]
    host.call("PATCH", f"/trials/{cooling}", {"smallest_difference": 0.5}, rev=trial["rev"] + 1)
    assert "difference_chosen_after" not in codes(host, cooling)


def test_an_unfinished_flights_hot_pass_is_no_mean_over_the_passes(host, people):
    trial, _, runs = host.two_setups_brewed()
    tasted(host, trial, runs, people, lambda x, a, p, i: 5 + (x == "B") - i % 2, attributes=[], passes=["hot", "cool"])
    before = host.get(f"/trials/{trial['id']}/verdict")["blind"]
    assert "unfinished_flight" not in codes(host, trial["id"])
    flight = host.flight(trial["id"], runs, people, attributes=[], passes=["hot", "cool"])
    key = {cup["code"]: i + 1 for i, cup in enumerate(flight["cups"])}
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(code, value=9 if mark <= 2 else 1) | {"pass_name": "hot"} for code, mark in key.items()))
    host.call("POST", f"/flights/{flight['id']}/close")
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})
    after = host.get(f"/trials/{trial['id']}/verdict")["blind"]
    assert [x["mean"] for x in after["setups"]] == [x["mean"] for x in before["setups"]] and after["flights"] == 1
    (said,) = [c for c in host.get(f"/trials/{trial['id']}/progress")["caveats"] if c["code"] == "unfinished_flight"]
    assert said["text"].startswith("Flight 2 was not scored in every pass")


def test_a_pass_nobody_tasted_judges_all_and_says_so(host, cooling):
    host.call("PATCH", f"/trials/{cooling}", {"judged_pass": "warm"}, rev=host.get(f"/trials/{cooling}")["rev"])
    assert host.get(f"/trials/{cooling}/verdict")["blind"]["pass_name"] == "mean" and "pass_missed" in codes(host, cooling)
    host.call("PATCH", f"/trials/{cooling}", {"judged_pass": "lukewarm"}, rev=host.get(f"/trials/{cooling}")["rev"], status=422)


# --- two kinds of drinkers -------------------------------------------------------------------------------------------------------------


def test_two_kinds_of_drinkers_are_averaged_nowhere(host, people):
    trial = host.ask("Which lot?", "coffee")
    first = host.setup(trial["id"], coffee="Lot 1")
    made = [first, *(host.copy(first, coffee=f"Lot {n}") for n in (2, 3, 4))]
    runs = [host.brew(trial["id"], s, tds=[1.3 + i / 20, 1.31 + i / 20])["id"] for i, s in enumerate(made) for _ in range(2)]
    likes = [{"A": 8, "B": 5, "C": 6, "D": 3}, {"A": 3, "B": 5, "C": 6, "D": 8}]
    tasted(host, trial, runs, people, lambda x, a, p, i: likes[i % 2][x] + (i % 3 == 0) * 0.5, attributes=[])
    found = host.get(f"/trials/{trial['id']}/verdict")["answer"]
    assert (found["kind"], found["headline"]) == ("camps", "Four like Lot 1 best, four like Lot 4: choose by guest")
    assert [g["best"] for g in found["groups"]] == ["A", "D"] and found["groups"][0]["loses"]["D"] > 4
    pairing = host.get(f"/trials/{trial['id']}/verdict/pairing")
    assert pairing["surface"] is None and {c["group"] for c in pairing["curves"]} == {", ".join(g["tasters"]) for g in found["groups"]}
    assert host.get(f"/trials/{trial['id']}/verdict/next")["steps"] == []
    assert host.get("/trials")["trials"][0]["headline"] == host.get(f"/trials/{trial['id']}/report")["headline"] == found["headline"]


# --- only an order, a preference or a difference was asked for ------------------------------------------------------------------------


def ranked(host, trial, runs, people, order):
    """One flight ranked by order(taster number): letters, best first; flipped."""
    flight = host.flight(trial["id"], runs, people, method="ranking")
    key = {c["code"]: i for i, c in enumerate(flight["cups"], 1)}
    letters = {m["mark"]: m["letter"] for m in flight["marks"]}
    codes = {letters[mark]: code for code, mark in key.items()}
    for i, sheet in enumerate(flight["sheets"]):
        host.score(sheet, *(host.touch(codes[letter], "rank", value=place) for place, letter in enumerate(order(i), 1)))
    host.call("POST", f"/flights/{flight['id']}/close")
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})
    return flight


def test_a_ranked_factorial_says_which_factor_matters_more_in_places(host, people):
    trial = host.ask("Bean or water?", "coffee", further_factors=["water"])
    made = [host.setup(trial["id"], coffee=c, water=w) for c in ("Lot 1", "Lot 2") for w in ("Soft", "Hard")]
    runs = [host.brew(trial["id"], s)["id"] for s in made]
    ranked(host, trial, runs, people, lambda i: "ABCD" if i % 2 else "BADC")
    said = host.get(f"/trials/{trial['id']}/verdict")["answer"]
    assert (said["kind"], said["headline"]) == ("factors", "Coffee matters more") and "Lot 1 over Lot 2 by 2.0 places" in said["certainty"]
    value = host.get(f"/trials/{trial['id']}/verdict/value")
    assert value["factorial"]["unit"] == "places" and value["factorial"]["gains"] == []


def test_ranks_weigh_price_and_time_break_their_ties_and_say_what_they_leave_open(host, people):
    for name, price in (("Lot 1", 30), ("Lot 2", 50), ("Lot 3", 40)):
        host.call("POST", "/kit", {"kind": "coffee", "name": name, "coffee": {"price_per_kg": price}})
    trial = host.ask("Which lot?", "coffee")
    made = [host.setup(trial["id"], coffee=f"Lot {n}") for n in (1, 2, 3)]
    runs = [host.brew(trial["id"], s)["id"] for s in made]
    flight = ranked(host, trial, runs, people, lambda i: "ABC" if i % 2 else "BAC")
    said = host.get(f"/trials/{trial['id']}/verdict")["answer"]
    assert said["headline"] == "Lot 1 and Lot 2 tie" and "A and B came first together" in said["certainty"]
    assert not host.get(f"/trials/{trial['id']}/progress")["grade"]["so_far"]
    value = host.get(f"/trials/{trial['id']}/verdict/value")
    assert value["tie"] == "Take Lot 1: it is 0.36 a cup cheaper." and value["same_price"] is None
    assert [(x["setup"], x["liking"], x["on_price_frontier"]) for x in value["setups"]] == [("A", None, True), ("B", None, False), ("C", None, False)]
    assert host.get(f"/trials/{trial['id']}/verdict/next") == {
        "steps": [],
        "regret": None,
        "untasted": [],
        "note": value_note(host, trial),
        "spent": "Spent: 1 flight, 3 brews, 54 g, 17 min.",
    }
    reveal = host.get(f"/taste/{token(flight['sheets'][1])}/reveal")
    assert {c["setup"][0]: (c["place"], c["panel_place"]) for c in reveal["cups"]} == {"A": (1, 1.5), "B": (2, 1.5), "C": (3, 3)}


def value_note(host, trial):
    note = host.get(f"/trials/{trial['id']}/verdict/next")["note"]
    assert note == "An order does not say by how much: score the first ones in a blind flight to learn that."
    return note


def test_after_the_flip_a_taster_learns_what_they_chose_and_how_the_panel_did(host, people):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, people[:4], method="triangle")
    key = {c["code"]: i for i, c in enumerate(flight["cups"], 1)}
    letters = {code: next(m["letter"] for m in flight["marks"] if m["mark"] == mark) for code, mark in key.items()}
    odd = next(c for c, letter in letters.items() if list(letters.values()).count(letter) == 1)
    other = next(c for c in letters if c != odd)
    cell = min(letters)
    for i, sheet in enumerate(flight["sheets"]):
        host.score(sheet, host.touch(cell, "pick", text=odd if i else other))
    host.call("POST", f"/flights/{flight['id']}/close")
    shut = host.get(f"/taste/{token(flight['sheets'][0])}/reveal")
    assert (shut["flipped"], shut["cups"], shut["picks"], shut["panel_right"]) == (False, [], [], "")
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})
    mine, theirs = (host.get(f"/taste/{token(flight['sheets'][i])}/reveal") for i in (0, 1))
    assert mine["picks"] == [f"You chose cup {other}: wrong."] and theirs["picks"] == [f"You chose cup {odd}: right."]
    assert mine["panel_right"] == "3 of the panel's 4 answers were right."
    said, ahead = host.get(f"/trials/{trial['id']}/verdict")["answer"], host.get(f"/trials/{trial['id']}/verdict/next")
    assert said["kind"] == "apart" and ahead["note"] == said["action"]  # never "nothing more is worth brewing" beside it


def test_the_report_as_one_page_needs_nothing_else_and_runs_nothing_somebody_typed(host):
    trial, _, runs = host.two_setups_brewed()
    hostile = "</script><script>alert(1)</script><img src=x onerror=alert(2)>"
    person = host.call("POST", "/people", {"name": hostile})["id"]
    host.call("PATCH", f"/trials/{trial['id']}", {"question": f"Which? {hostile}"}, rev=host.get(f"/trials/{trial['id']}")["rev"])
    host.taste(host.flight(trial["id"], runs, [person, host.person("Bo")]), lambda mark, taster: 4 if mark <= 2 else 8)
    got = host.client.get(f"/api/v1/trials/{trial['id']}/report.html")
    page = got.data.decode()
    assert "attachment" in got.headers["Content-Disposition"] and got.mimetype == "text/html"
    assert page.count("<script") == 1 and "<img" not in page and "http://" not in page and "https://" not in page
    data = json.loads(page.split('<script type="application/json" id="data">')[1].split("</script>")[0])
    assert data["report"]["question"] == f"Which? {hostile}" and hostile in {row[1] for row in data["scores"]["rows"]}
    rows = host.client.get(f"/api/v1/trials/{trial['id']}/scores.csv").data.decode().splitlines()
    assert len(data["scores"]["rows"]) == len(rows) - 1 and ",".join(data["scores"]["columns"]) == rows[0]
    assert page.count("<circle") == 2 * len(data["report"]["judged"])


def test_a_file_of_scores_has_a_dictionary_that_knows_all_in_it(host, judged):
    read = lambda path: list(csv.DictReader(io.StringIO(host.client.get(f"/api/v1{path}").data.decode())))  # noqa: E731
    told = {(row["kind"], row["name"]): row for row in read("/scores-dictionary.csv")}
    scores = read(f"/trials/{judged['id']}/scores.csv")
    assert {("column", name) for name in scores[0]} == {key for key in told if key[0] == "column"}
    for row in scores:
        scale = told["attribute", row["attribute"]]
        assert float(scale["low"]) <= float(row["score"]) <= float(scale["high"]) and ("pass", row["pass"]) in told


def test_scores_as_parquet_are_those_of_the_csv_with_numbers_as_numbers(host, judged):
    got = host.client.get(f"/api/v1/trials/{judged['id']}/scores.parquet")
    table = parquet.read_table(io.BytesIO(got.data))
    rows = list(csv.DictReader(io.StringIO(host.client.get(f"/api/v1/trials/{judged['id']}/scores.csv").data.decode())))
    assert table.column_names == list(rows[0]) and table.num_rows == len(rows)
    assert [str(table.schema.field(n).type) for n in ("flight", "taster", "score")] == ["int32", "string", "double"]
    assert table.to_pylist() == [r | {k: int(r[k]) for k in ("flight", "brew", "cup")} | {"score": float(r["score"])} for r in rows]
    assert all(table.schema.field(n).metadata[b"meaning"] for n in table.column_names)
    assert "attachment" in got.headers["Content-Disposition"]


def test_a_price_and_a_speed_that_are_entered_late_count_at_once_everywhere(host, people):
    coffee = host.call("POST", "/kit", {"kind": "coffee", "name": "Lot 1", "coffee": {"roast": "light"}})
    other = host.call("POST", "/kit", {"kind": "coffee", "name": "Lot 2", "coffee": {}})
    trial = host.ask("Which lot?", "coffee")
    first = host.setup(trial["id"], coffee="Lot 1")
    made = [first, host.copy(first, coffee="Lot 2")]
    runs = [host.brew(trial["id"], s)["id"] for s in made for _ in range(2)]
    tasted(host, trial, runs, people, lambda letter, *_: {"A": 8, "B": 5}[letter], attributes=[])

    def prices():
        value = {x["setup"]: x["price"] for x in host.get(f"/trials/{trial['id']}/verdict/value")["setups"]}
        report = {x["letter"]: x["price"] for x in host.get(f"/trials/{trial['id']}/report")["setups"]}
        assert value == report
        return value

    assert prices() == {"A": None, "B": None}
    for item, price in ((coffee, 30), (other, 50)):
        now = next(k for k in host.get("/kit")["items"] if k["id"] == item["id"])
        host.call("PATCH", f"/kit/{item['id']}", {"coffee": now["coffee"] | {"price_per_kg": price, "roast": "dark"}}, rev=now["rev"])
    assert prices() == {"A": pytest.approx(0.54), "B": pytest.approx(0.9)}
