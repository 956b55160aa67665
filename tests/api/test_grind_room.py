"""The Grind room: samples kept and corrected, grinds compared and matched, doses and filters, and all that goes by them."""

import pytest

from brasspenny.live_brews.weighing import simulated_of
from brasspenny.store.connection import database
from brasspenny.store.models import Change, LiveBrew

from .test_kit_room import add

UM = [400, 900]


@pytest.fixture
def mills(host):
    dial, hand = add(host, "grinder", "Windlass", scale="dial", step=0.1, purge_g=1.0, rate_g_s=1.0), add(host, "grinder", "Capstan", scale="clicks")
    return dial["id"], hand["id"]


def sample(dial_id, heaps, *, um=UM, mass_in_g=22, setting=5, **more):
    fractions = [{"aperture_um": a, "mass_g": m} for a, m in zip((0, *um), heaps, strict=True)]
    return {"dial_id": dial_id, "setting": setting, "mass_in_g": mass_in_g, "fractions": fractions, **more}


def grinds(host, band=""):
    return host.get(f"/grind{band}")["grinds"]


def measure(grind, code):
    return next(m for m in grind["measures"] if m["code"] == code)


# --- samples -----------------------------------------------------------------------------------------------------------------------


def test_a_sample_is_told_at_once_comes_off_the_stock_and_goes_back_when_deleted(host, mills):
    coffee, stack = add(host, "coffee", "Lot 3"), add(host, "sieve_stack", "Pair", apertures_um=UM, usual_s=90)
    host.call("POST", f"/kit/{coffee['id']}/stock", {"mass_g": 100})
    made = host.call("POST", "/sieve-samples", sample(mills[0], (6.0, 8.4, 7.4), coffee_id=coffee["id"], stack_id=stack["id"]))
    (grind,) = grinds(host)
    assert measure(grind, "in_band_in")["figure"]["value"] == pytest.approx(100 * 8.4 / 22)
    assert measure(grind, "d50")["figure"] is None and measure(grind, "d50")["between_um"] == [400, 900]
    assert (grind["coffee"], grind["stack"], grind["samples"][0]["replicate"]) == ("Lot 3", "Pair", 1)
    assert host.get("/stock")["stock_g"] == {coffee["id"]: 78}
    host.call("DELETE", f"/kit/{stack['id']}", status=409)
    change = host.call("DELETE", f"/sieve-samples/{made['id']}")["change_id"]
    assert grinds(host) == [] and host.get("/stock")["stock_g"] == {coffee["id"]: 100}
    host.call("POST", f"/changes/{change}/undo")
    assert len(grinds(host)) == 1


def test_replicates_stand_together_and_their_numbers_are_given_once(host, mills):
    first, second = host.sieved(mills[0], 5)
    host.call("DELETE", f"/sieve-samples/{second}")
    (third,) = host.sieved(mills[0], 5, samples=1)
    host.sieved(mills[0], 5.5, samples=1)
    here, there = grinds(host)
    assert [(s["id"], s["replicate"]) for s in here["samples"]] == [(first, 1), (third, 3)] and there["samples"][0]["replicate"] == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"dial_id": "nothing"}, "dial_id"),
        ({"coffee_id": "nothing"}, "coffee_id"),
        ({"stack_id": "nothing"}, "stack_id"),
        ({"mass_in_g": 5}, "fractions.0.mass_g"),
        ({"fractions": [{"aperture_um": 0, "mass_g": 9}, {"aperture_um": 900, "mass_g": 8}, {"aperture_um": 400, "mass_g": 3}]}, "fractions.2.aperture_um"),
        ({"fractions": [{"aperture_um": 0, "mass_g": 9}, {"aperture_um": 400, "mass_g": -1}, {"aperture_um": 900, "mass_g": 3}]}, "fractions.1.mass_g"),
        ({"fractions": [{"aperture_um": 0, "mass_g": 9}, {"aperture_um": 400, "mass_g": 3}]}, "fractions"),
    ],
)
def test_a_sample_that_cannot_be_is_refused_at_its_field(host, mills, change, field):
    said = host.call("POST", "/sieve-samples", sample(mills[0], (6, 8.4, 7)) | change, status=422)
    assert said["errors"][0]["field"] == field and said["errors"][0]["remedy"]
    assert grinds(host) == []


def test_the_stacks_own_apertures_are_kept_to(host, mills):
    stack = add(host, "sieve_stack", "Other", apertures_um=[300, 800])
    said = host.call("POST", "/sieve-samples", sample(mills[0], (6, 8, 7), stack_id=stack["id"]), status=422)
    assert said["errors"][0]["field"] == "fractions" and "Other" in said["errors"][0]["reason"]
    host.call("POST", "/kit", {"kind": "sieve_stack", "name": "Wrong", "sieve_stack": {"apertures_um": [800, 300]}}, status=422)


def test_a_table_is_read_into_a_sample_and_uses_no_coffee(host, mills):
    coffee = add(host, "coffee", "Lot 3")
    host.call("POST", f"/kit/{coffee['id']}/stock", {"mass_g": 50})
    text = "diameter µm;finer %\n300;8.5\n500;24.6\n800;70.2\n1100;95.1\n1600;100"
    made = host.call("POST", "/sieve-tables", {"dial_id": mills[0], "setting": 5, "coffee_id": coffee["id"], "text": text})
    (grind,) = grinds(host)
    assert (grind["samples"][0]["source"], round(measure(grind, "d50")["figure"]["value"])) == ("table", 650)
    assert host.get("/stock")["stock_g"] == {coffee["id"]: 50}
    host.call("PUT", f"/sieve-samples/{made['id']}", sample(mills[0], (6, 8, 7)), rev=1, status=409)
    refused = host.call("POST", "/sieve-tables", {"dial_id": mills[0], "setting": 5, "text": "diameter;number %\n1;2\n3;4\n5;94"}, status=422)
    assert refused["errors"][0]["field"] == "text"


def test_the_band_moves_and_a_wrong_one_is_refused(host, mills):
    host.sieved(mills[0], 5)
    wide, narrow = (measure(grinds(host, f"?from_um={a}&to_um={b}")[0], "in_band")["figure"]["value"] for a, b in ((300, 1100), (500, 800)))
    assert wide > narrow > 20
    assert host.get("/grind?from_um=900&to_um=400", status=422)["errors"][0]["field"] == "to_um"


# --- comparing and matching ----------------------------------------------------------------------------------------------------------


def compare(host, first, second, status=None):
    return host.call("POST", "/sieve-comparisons", {"first_id": first, "second_id": second}, status=status)


def test_unmatched_grinds_propose_the_setting_that_then_matches(host, mills):
    (a, *_), (b, *_) = host.sieved(mills[0], 5.8, 650), host.sieved(mills[1], 17, 600)
    found = compare(host, a, b)
    assert found["matched"] is False and not found["can_match"] and "finer" in found["said"]
    assert (found["to_try"]["dial"], found["to_try"]["setting"]) == ("Capstan", 20) and "not known yet" in found["to_try"]["why"]
    host.call("POST", "/sieve-matches", {"first_id": a, "second_id": b}, status=422)
    c, *_ = host.sieved(mills[1], 20, 650)
    found = compare(host, a, c)
    assert found["matched"] is True and found["can_match"] and found["to_try"] is None
    host.call("POST", "/sieve-matches", {"first_id": a, "second_id": c})
    assert compare(host, a, c)["is_kept"]
    host.call("POST", "/sieve-matches", {"first_id": c, "second_id": a}, status=409)
    (pair,) = host.get("/matched-settings")["pairs"]
    assert (pair["match"], pair["samples"], pair["a_setting"], pair["b_setting"]) == ("sieve_median", 4, 5.8, 20)
    line = host.get("/grind")["lines"][0]
    assert line["dial_id"] == mills[1] and line["per_step_um"]["value"] == pytest.approx(50 / 3, rel=0.2)  # between apertures a stack reads log-linearly


def test_a_match_by_sieve_cannot_be_typed_and_one_with_samples_cannot_be_moved(host, mills):
    typed = {"a_id": mills[0], "a_setting": 5, "b_id": mills[1], "b_setting": 17, "match": "sieve_median"}
    assert host.call("POST", "/matched-settings", typed, status=422)["errors"][0]["field"] == "match"
    host.sieve_match(mills[0], 5, mills[1], 17)
    (pair,) = host.get("/matched-settings")["pairs"]
    host.call("PUT", f"/matched-settings/{pair['id']}", typed | {"b_setting": 18}, rev=pair["rev"], status=409)
    said = host.call("PUT", f"/matched-settings/{pair['id']}", typed | {"note": "lot 3"}, rev=pair["rev"])
    assert said["pairs"][0]["note"] == "lot 3" and said["pairs"][0]["samples"] == 4
    eye = host.call("POST", "/matched-settings", typed | {"match": "by_eye", "a_setting": 6, "b_setting": 21})["pairs"][1]
    host.call("PUT", f"/matched-settings/{eye['id']}", typed | {"a_setting": 6, "b_setting": 21}, rev=eye["rev"], status=422)


def test_a_sample_a_match_rests_on_stays_true_to_it(host, mills):
    """Deleting it, or correcting it so that the medians part, is refused; a small correction moves the spread."""
    host.sieved(mills[1], 26, 760)
    host.sieve_match(mills[0], 5, mills[1], 20)
    held = next(g for g in grinds(host) if g["dial_id"] == mills[1] and g["setting"] == 20)["samples"][0]
    host.call("DELETE", f"/sieve-samples/{held['id']}", status=409)
    body = {"dial_id": mills[1], "setting": 20, "mass_in_g": 25, "fractions": held["fractions"]}
    far = [{**f, "mass_g": m} for f, m in zip(held["fractions"], (0.5, 0.5, 1, 9, 13.5), strict=True)]
    host.call("PUT", f"/sieve-samples/{held['id']}", body | {"fractions": far}, rev=held["rev"], status=409)
    host.call("PUT", f"/sieve-samples/{held['id']}", body | {"setting": 21}, rev=held["rev"], status=409)

    def translated():
        return host.call("POST", "/translate", {"from_id": mills[0], "to_id": mills[1], "setting": 5})

    before = translated()
    near = [{**f, "mass_g": round(f["mass_g"] + d, 1)} for f, d in zip(held["fractions"], (0.3, 0.2, 0, -0.2, -0.3), strict=True)]
    host.call("PUT", f"/sieve-samples/{held['id']}", body | {"fractions": near}, rev=held["rev"])
    after = translated()
    assert after["setting"] == before["setting"] == 20 and after["high"] > before["high"]


def test_an_undone_correction_leaves_the_matchs_spread_true_and_may_not_break_it(host, mills):
    """By undo as by hand: a correction made before there was a match cannot be taken back once the match rests on what it said."""
    host.sieved(mills[0], 15, 760)
    (a,), (b,) = host.sieved(mills[0], 5, samples=1), host.sieved(mills[1], 20, 900, samples=1)

    def held(sample_id):
        return next(x for g in grinds(host) for x in g["samples"] if x["id"] == sample_id)

    right = held(a)["fractions"]
    host.call("PUT", f"/sieve-samples/{b}", {"dial_id": mills[1], "setting": 20, "mass_in_g": 25, "fractions": right}, rev=1)
    (mended,) = [c for c in changes(host, b) if c["action"] == "update"]
    host.call("POST", "/sieve-matches", {"first_id": a, "second_id": b})
    host.call("POST", f"/changes/{mended['id']}/undo", status=409)

    def high():
        return host.call("POST", "/translate", {"from_id": mills[1], "to_id": mills[0], "setting": 20})["high"]

    before = high()
    near = [{**f, "mass_g": round(f["mass_g"] + d, 1)} for f, d in zip(right, (0, 0, 0.1, -0.1, 0), strict=True)]
    host.call("PUT", f"/sieve-samples/{b}", {"dial_id": mills[1], "setting": 20, "mass_in_g": 25, "fractions": near}, rev=2)
    moved, newest = high(), changes(host, b)[0]
    assert moved != before
    host.call("POST", f"/changes/{newest['id']}/undo")
    assert high() == pytest.approx(before)


def changes(host, entity_id):
    """Newest first, as kept."""
    with database.connection_context():
        rows = list(Change.select().where(Change.entity_id == entity_id).order_by(Change.at.desc(), Change.id))
    return [{"id": c.id, "action": c.action} for c in rows]


def test_a_match_comes_back_only_with_the_samples_it_rests_on(host, mills):
    host.sieve_match(mills[0], 5, mills[1], 20)
    (pair,) = host.get("/matched-settings")["pairs"]
    gone = host.call("DELETE", f"/matched-settings/{pair['id']}")["change_id"]
    sample_gone = host.call("DELETE", f"/sieve-samples/{grinds(host)[0]['samples'][0]['id']}")["change_id"]
    assert "Bring the sample back" in host.call("POST", f"/changes/{gone}/undo", status=409)["detail"]
    host.call("POST", f"/changes/{sample_gone}/undo")
    host.call("POST", f"/changes/{gone}/undo")
    assert host.get("/matched-settings")["pairs"][0]["samples"] == 4


def test_a_simulated_sample_is_never_one_of_what_was_weighed(host, mills):
    """Not pooled with it, not in its dial's line, not on its card."""
    host.sieved(mills[0], 5, 600)
    host.sieved(mills[0], 6, 660)

    def real():
        room = host.get("/grind")
        card = host.get(f"/kit/{mills[0]}/card")["lines"]
        return [g["measures"] for g in room["grinds"] if not g["simulated"]], room["lines"], card

    before = real()
    host.sieved(mills[0], 5, 800, simulated=True)
    host.sieved(mills[0], 7, 400, simulated=True)
    assert real() == before and len(grinds(host)) == 4 and [g["samples"][0]["replicate"] for g in grinds(host)] == [1, 1, 1, 1]
    assert next(g for g in grinds(host) if g["simulated"])["name"].endswith(", simulated")


def test_simulated_samples_match_nothing(host, mills):
    real, *_ = host.sieved(mills[0], 5)
    made_up, *_ = host.sieved(mills[1], 20, simulated=True)
    both, *_ = host.sieved(mills[0], 5, simulated=True)
    host.call("POST", "/sieve-matches", {"first_id": both, "second_id": made_up}, status=422)
    assert compare(host, real, made_up)["matched"] and not compare(host, real, made_up)["can_match"]
    assert host.call("POST", "/sieve-matches", {"first_id": real, "second_id": made_up}, status=422)["errors"][0]["field"] == "second_id"
    host.call("POST", "/sieve-comparisons", {"first_id": real, "second_id": real}, status=422)


def test_the_stand_in_sieves_grind_as_this_dials_samples_say(host, mills):
    stack = add(host, "sieve_stack", "Four", apertures_um=[300, 500, 800, 1100])
    asked = {"dial_id": mills[1], "setting": 20, "stack_id": stack["id"]}
    assert "no sample tells" in host.call("POST", "/simulated-sieves", asked)["rests_on"]
    host.sieved(mills[1], 20, 420)
    shaken = host.call("POST", "/simulated-sieves", asked)
    body = {"mass_in_g": shaken["mass_in_g"], "fractions": shaken["fractions"], "band": None}
    assert host.call("POST", "/calc/sieve", body)["d50"]["at_um"]["value"] == pytest.approx(420, rel=0.08) and "own samples" in shaken["rests_on"]


# --- the margin, the plan, the value -----------------------------------------------------------------------------------------------------


def declared_by_sieve(host, mills):
    trial = host.ask("Which mill?", "grinder")
    a = host.setup(trial["id"], grinder="Windlass", grind_setting="5", coffee="Lot 3")
    b = host.copy(a, grinder="Capstan", grind_setting="20")
    host.call("POST", f"/trials/{trial['id']}/declarations", {"field": "grind_setting", "rule": "sieve_median"})
    return trial["id"], a, b


def test_declared_by_sieve_without_samples_is_a_crack_that_two_samples_mend(host, mills):
    trial, _, _ = declared_by_sieve(host, mills)

    def crack():
        return [c for c in host.get(f"/trials/{trial}/progress")["caveats"] if c["code"] == "unsampled"]

    (found,) = crack()
    assert (found["shape"], found["field"]) == ("crack", "grind_setting") and "two samples in the Grind room" in found["cure"]
    host.sieve_match(mills[0], 5, mills[1], 20)
    assert crack() == []


def rule_broken(host, trial):
    return [c["text"] for c in host.get(f"/trials/{trial}/progress")["caveats"] if c["code"] == "rule_broken"]


def test_samples_at_exactly_these_settings_stand_behind_a_match_that_nobody_noted(host, mills):
    trial, _, _ = declared_by_sieve(host, mills)
    host.sieved(mills[0], 5, 650)
    host.sieved(mills[1], 21, 650)
    codes = {c["code"] for c in host.get(f"/trials/{trial}/progress")["caveats"]}
    assert "unsampled" in codes, "a sample of another setting says nothing of this one"
    held = host.sieved(mills[1], 20, 650)
    assert not {"unsampled", "rule_broken"} & {c["code"] for c in host.get(f"/trials/{trial}/progress")["caveats"]}
    for sample_id in held:
        host.call("DELETE", f"/sieve-samples/{sample_id}")
    host.sieved(mills[1], 20, 900)
    (text,) = rule_broken(host, trial)
    assert "B is 2" in text and "coarser than A at the median" in text


@pytest.mark.parametrize(
    ("heaps", "broken"), [((6.0, 10.3, 5.7), True), ((2.6, 8.4, 11.0), False), ((2.6, 13.4, 6.0), False)], ids=["finer at both", "alike", "finer at one"]
)
def test_two_sieves_say_what_they_can(host, mills, heaps, broken):
    trial, a, b = declared_by_sieve(host, mills)
    for dial, setting, mine in ((mills[0], 5, (2.6, 8.4, 11.0)), (mills[1], 20, heaps)):
        for slip in (-0.1, 0.0, 0.1):
            host.call("POST", "/sieve-samples", sample(dial, (mine[0] + slip, mine[1] - slip, mine[2]), setting=setting))
    said = rule_broken(host, trial)
    assert bool(said) is broken and "unsampled" not in {c["code"] for c in host.get(f"/trials/{trial}/progress")["caveats"]}
    (rule,) = host.get(f"/trials/{trial}/plan")["rules"]
    assert rule["holds"] is (False if broken else None), rule["text"]
    runs = [host.brew(trial, s)["id"] for _ in range(2) for s in (a, b)]
    host.taste(host.flight(trial, runs, [host.person(n) for n in ("Ann", "Bo")]), lambda mark, taster: 7 if mark % 2 else 6)
    value = host.get(f"/trials/{trial}/verdict/value")
    assert value["band"] == [400, 900] and all(p["fines_pct"] and p["median_um"] is None for p in value["particles"])
    findings = host.get(f"/trials/{trial}/report")["findings"]
    assert any("by sieve: 11.8 % finer than 400 µm" in text for text in findings)


def test_the_plan_counts_grams_and_minutes_of_samples_and_the_purge_that_was_measured(host, mills):
    trial, _, _ = declared_by_sieve(host, mills)

    def plan(rev, **settings):
        return host.call("PUT", f"/trials/{trial}/plan", {"replicates": 2, "tasters": 2} | settings, rev=rev)

    typed = plan(0, sieve_samples=2, sieve_sample_g=22)
    (need,) = typed["budget"]["coffees"]
    assert (need["sieve_g"], need["purge_g"]) == (2 * 2 * 22, 3 * 1.0)  # three brews on the Windlass, a gram each as its facts say
    host.call("POST", "/grinder-doses", {"dial_id": mills[0], "beans_in_g": 18, "ground_out_g": 17.6, "knocked_out_g": 0.2, "grinding_s": 9})
    weighed = host.get(f"/trials/{trial}/plan")["budget"]
    assert weighed["coffees"][0]["purge_g"] == pytest.approx(3 * 0.2)
    assert weighed["minutes"] < typed["budget"]["minutes"]  # 2 g/s by the clock, where its facts said 1
    sheet = host.call("POST", f"/trials/{trial}/run-sheet", {})["sheet"]
    assert [b["text"] for b in sheet["beforehand"]] == [
        "2 sieve samples of 22 g: Windlass at 5",
        "2 sieve samples of 22 g: Capstan at 20",
        "Time a dose of 18 g: Capstan",
    ]
    calendar = host.client.get(f"/api/v1/trials/{trial}/run-sheet.ics").get_data(as_text=True)
    assert "SUMMARY:Sieve and time" in calendar and "Windlass at 5" in calendar.replace("\r\n ", "")


def test_dearer_kit_is_weighed_by_what_it_buys_over_the_life_it_is_given(host, mills):
    for mill, price in zip(mills, (640, 150), strict=True):
        item = next(i for i in host.get("/kit")["items"] if i["id"] == mill)
        host.call("PATCH", f"/kit/{mill}", {"grinder": {**(item["grinder"] or {}), "price": price, "rate_g_s": 2.0 if price > 500 else 0.5}}, rev=item["rev"])
    add(host, "coffee", "Lot 3", price_per_kg=30)
    trial, a, b = declared_by_sieve(host, mills)
    runs = [host.brew(trial, s)["id"] for _ in range(2) for s in (a, b)]
    flight = host.flight(trial, runs, [host.person(n) for n in ("Ann", "Bo", "Cy")])
    host.taste(flight, lambda mark, taster: 7 if mark % 2 else 6)
    value = host.get(f"/trials/{trial}/verdict/value")
    kit = {s["setup"]: s["kit"] for s in value["setups"]}
    assert kit["A"] == pytest.approx(640 / (5 * 365.25 * 2)) and value["unpriced"] == ["Binnacle"]
    assert value["bought"].startswith("At 4.3 times the price"), "what both share never blocks the sentence"
    brewer = next(i for i in host.get("/kit")["items"] if i["name"] == "Binnacle")
    host.call("PATCH", f"/kit/{brewer['id']}", {"brewer": {**brewer["brewer"], "price": 40}}, rev=brewer["rev"])
    for s in (a, b):
        now = next(x for x in host.get(f"/trials/{trial}/setups")["setups"] if x["id"] == s["id"])
        host.call("PATCH", f"/setups/{s['id']}", {"variables": {"other": "again"}}, rev=now["rev"])
    bench = host.get("/bench")
    host.call("PATCH", "/bench", {"kit_lasts_years": 10, "cups_a_day": 1}, rev=bench["rev"])
    value = host.get(f"/trials/{trial}/verdict/value")
    assert {s["setup"]: round(s["kit"], 4) for s in value["setups"]} == {"A": round(680 / 3652.5, 4), "B": round(190 / 3652.5, 4)}
    assert value["bought"].startswith("At 4.3 times the price") and "27 s a dose saved" in value["bought"]
    assert host.get(f"/kit/{mills[0]}/card")["trials"][0]["said"].startswith("liked 6.5 (")


# --- doses and filters ---------------------------------------------------------------------------------------------------------------------


def test_doses_are_timed_corrected_and_summed_up(host, mills):
    made = host.call("POST", "/grinder-doses", {"dial_id": mills[0], "beans_in_g": 120, "grinding_s": 61, "setting": 5})
    host.call("POST", "/grinder-doses", {"dial_id": mills[1], "beans_in_g": 120, "grinding_s": 14})
    room = host.get("/grind")
    assert {g["dial"]: round(g["rate_g_s"]["value"], 2) for g in room["ground"]} == {"Windlass": 1.97, "Capstan": 8.57}
    host.call("PUT", f"/grinder-doses/{made['id']}", {"dial_id": mills[0], "beans_in_g": 120, "grinding_s": 60}, rev=1)
    host.call("PUT", f"/grinder-doses/{made['id']}", {"dial_id": mills[0], "beans_in_g": 120, "grinding_s": 50}, rev=1, status=409)
    said = host.call("POST", "/grinder-doses", {"dial_id": mills[0], "beans_in_g": 18}, status=422)
    assert said["errors"][0]["field"] == "ground_out_g"
    host.call("DELETE", f"/grinder-doses/{made['id']}")
    assert [g["dial"] for g in host.get("/grind")["ground"]] == ["Capstan"]
    assert host.get("/deleted")["changes"][0]["entity"] == "grinder_dose"


def test_a_simulated_mill_is_as_fast_as_this_one_and_gives_way_to_what_was_measured(host, mills):
    host.call("POST", "/grinder-doses", {"dial_id": mills[0], "beans_in_g": 120, "grinding_s": 61})
    made = host.call("POST", "/simulated-doses", {"dial_id": mills[0], "beans_in_g": 18})
    assert made["grinding_s"] == pytest.approx(18 / (120 / 61), rel=0.15) and made["ground_out_g"] < 18
    host.call("POST", "/grinder-doses", {"dial_id": mills[0], "beans_in_g": 18, "simulated": True, **made})
    host.call("POST", "/grinder-doses", {"dial_id": mills[1], "beans_in_g": 18, "simulated": True, **made})
    ground = {g["dial"]: g for g in host.get("/grind")["ground"]}
    assert ground["Windlass"]["doses"] == 1 and ground["Windlass"]["stays_g"] is None  # the simulated one is not among them
    assert ground["Capstan"]["doses"] == 1 and ground["Capstan"]["stays_g"]


def test_a_corrected_sample_keeps_its_day_and_the_bench_scales_step(host, mills):
    bench = host.get("/bench")
    host.call("PATCH", "/bench", {"scale_resolution_g": 0.01}, rev=bench["rev"])
    body = sample(mills[0], (6.0, 8.4, 7.4), sampled_on="2026-02-03")
    made = host.call("POST", "/sieve-samples", body)
    host.call("PUT", f"/sieve-samples/{made['id']}", sample(mills[0], (6.0, 8.5, 7.3)), rev=1)
    (kept,) = grinds(host)[0]["samples"]
    assert (kept["sampled_on"], kept["scale_step_g"], kept["fractions"][1]["mass_g"]) == ("2026-02-03", 0.01, 8.5)


def test_filters_are_held_to_the_first_one_tested_and_kept_on_their_cards(host, mills):
    paper, mesh = add(host, "filter", "Paper", price_each=0.05), add(host, "filter", "Mesh", reusable=True)
    for item, seconds in ((paper, 20), (mesh, 25)):
        host.call("POST", "/filter-tests", {"filter_id": item["id"], "push": "force", "size": 60, "water_g": 100, "seconds": seconds, "dry_g": 1, "wet_g": 3})
    (found,) = host.get("/grind")["resistances"]
    assert (found["filter"], found["reference"], found["relative"]["value"]) == ("Mesh", "Paper", pytest.approx(1.25))
    lines = {x["label"]: x["said"] for x in host.get(f"/kit/{mesh['id']}/card")["lines"]}
    assert lines["Holds back, against Paper"].startswith("1.25 ×") and lines["Holds, wet"] == "2.0 g of water"
    nobody = {"filter_id": "nothing", "push": "head", "size": 60, "water_g": 100, "seconds": 20}
    assert host.call("POST", "/filter-tests", nobody, status=422)["errors"][0]["field"] == "filter_id"
    wrong = {"filter_id": mills[0], "push": "head", "size": 60, "water_g": 100, "seconds": 20}
    assert host.call("POST", "/filter-tests", wrong, status=422)["errors"][0]["field"] == "filter_id"
    lighter = wrong | {"filter_id": paper["id"], "dry_g": 3, "wet_g": 1}
    assert host.call("POST", "/filter-tests", lighter, status=422)["errors"][0]["field"] == "wet_g"


def test_cards_say_what_is_known_and_what_is_not(host, mills):
    bare = host.get(f"/kit/{mills[1]}/card")
    assert bare["lines"] == [] and any("take sieve samples" in u for u in bare["unknown"])
    host.sieved(mills[0], 6, 700)
    host.sieve_match(mills[0], 5, mills[1], 20)
    lines = {x["label"]: x["said"] for x in host.get(f"/kit/{mills[0]}/card")["lines"]}
    assert "against Capstan" in lines["In band at a matched median"] and lines["One step of the dial"].startswith("5 µm")
    brewer = add(host, "brewer", "Binnacle", brewer_type="flat_bed")
    trial = host.ask()
    a = host.setup(trial["id"])
    for tds, time_s in ((1.40, 170), (1.42, 180)):
        host.brew(trial["id"], a, tds=[tds], total_time_s=time_s, pour_end_s=110)
    lines = {x["label"]: x["said"] for x in host.get(f"/kit/{brewer['id']}/card")["lines"]}
    assert lines["Drawdown"] == "1:05 (1:00 to 1:10)" and "from brew to brew" in lines["From brew to brew"]
    host.get(f"/kit/{add(host, 'water', 'Well')['id']}/card", status=404)


def test_a_simulated_brew_is_ground_to_what_its_dials_samples_say(host, mills):
    """Finer by the sieve runs slower and gives more, on the same recipe and seed."""
    recipe = host.recipe("18 g, 288 g at 93, bloom 45 for 40 s, then to 170 from 0:40 over 20 s, then to 288 from 1:20 over 25 s, drips stop")["versions"][0][
        "id"
    ]
    host.sieved(mills[1], 12, 420)
    host.sieved(mills[1], 28, 900)
    trial = host.ask("How coarse?", "grind_setting")
    gives = {}
    for setting in ("12", "28"):
        setup = host.setup(trial["id"], recipe_version_id=recipe, grinder="Capstan", grind_setting=setting)
        live = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"], "instrument": "simulated", "begins_after_s": 0, "speed": 60})
        gives[setting] = live["id"]
    with database.connection_context():
        fine, coarse = (simulated_of(LiveBrew.get_by_id(gives[x])).outcome for x in ("12", "28"))
    assert fine.total_s > coarse.total_s and fine.tds_pct > coarse.tds_pct


def test_burrs_named_later_keep_what_was_said_of_their_mill(host, mills):
    """Settings of recipes, samples and matches were noted for the mill before its burrs had a name."""
    version = host.recipe("18 g, 288 g, grind 5 on Windlass, pour to 288 over 1:30, done by 2:45")
    recipe = version["id"]
    host.sieve_match(mills[0], 5, mills[1], 20)
    burrs = add(host, "burr_set", "flat steel", grinder_id=mills[0])
    add(host, "burr_set", "ghost teeth", grinder_id=mills[0])
    card = host.get(f"/recipes/{recipe}/card")
    assert [(x["grinder"], x["setting"]) for x in card["settings"]][:2] == [("Windlass · flat steel", "5"), ("Capstan", "20")] and card["not_linked"] == []
    assert host.get(f"/recipes/{recipe}/last-brewed")["grinder"] == "Windlass · flat steel"
    assert {g["dial"] for g in grinds(host)} == {"Windlass · flat steel", "Capstan"}
    trial = host.ask("Which mill?", "grinder")
    a = host.setup(trial["id"], grinder="Windlass · flat steel", grind_setting="5")
    host.copy(a, grinder="Capstan", grind_setting="20")
    host.call("POST", f"/trials/{trial['id']}/declarations", {"field": "grind_setting", "rule": "sieve_median"})
    assert not {"unsampled", "rule_broken"} & {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}
    assert burrs["id"] != mills[0]
