"""Ways to ask and to be blind: rounds, rankings, passes, the runner's seal, leavers, late scores, events."""

import hashlib
from datetime import timedelta

import pytest

from .host import Host, token


@pytest.fixture
def brewed(made_once):
    return made_once(two_setups_brewed)


def two_setups_brewed(host):
    return host.two_setups_brewed()


def seats(host, count=3, name="Taster"):
    return [host.person(f"{name} {i}") for i in range(count)]


def pick_all(host, flight, choose):
    """Every taster answers every round by choose(sheet, round): codes or "none"."""
    for sheet in flight["sheets"]:
        shown = host.get(f"/taste/{token(sheet)}")
        host.score(sheet, *(host.touch(r["cell"], "pick", text=choose(sheet, r)) for r in shown["rounds"]))


def by_hand(host, flight, key):
    host.call("POST", f"/flights/{flight['id']}/close")
    return host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})


def other_browser(host) -> Host:
    return Host(host.client.application.test_client())


# --- methods -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("method", "cups_a_round", "picked"),
    [("triangle", 3, "odd"), ("duo_trio", 2, "reference"), ("two_afc", 2, "stronger"), ("tetrad", 4, "pair")],
)
def test_right_answers_are_counted_once_the_key_is_known(host, brewed, method, cups_a_round, picked):
    trial, _, runs = brewed
    asked = {"named_attribute": "body", "stronger_run_id": runs[3]} if method == "two_afc" else {}
    flight = host.flight(trial["id"], runs, seats(host), method=method, rounds=2, **asked)
    assert len(flight["cups"]) == 2 * cups_a_round and {c["round"] for c in flight["cups"]} == {1, 2}
    marks = {m["mark"]: m for m in flight["marks"]}
    rounds = {n: [c["code"] for c in flight["cups"] if c["round"] == n] for n in (1, 2)}
    key = {code: mark for n, codes in rounds.items() for code, mark in zip(codes, (m["mark"] for m in flight["marks"] if m["round"] == n), strict=True)}

    def truth(_, r):
        letters = {code: marks[key[code]]["letter"] for code in r["codes"]}
        alike = {letter: [c for c in letters if letters[c] == letter] for letter in "AB"}
        reference = next((x["letter"] for x in flight["references"] if x["round"] == r["number"]), None)
        right = {"odd": min(alike.values(), key=len), "pair": alike["A"], "reference": alike[reference] if reference else [], "stronger": alike["B"]}
        return ",".join(right[picked])

    pick_all(host, flight, truth)
    assert [c["scored"] for c in host.get(f"/flights/{flight['id']}")["cups"]] == [3] * len(key)
    flipped = by_hand(host, flight, key)
    assert {c["code"]: c["letter"] for c in flipped["cups"]} == {code: marks[m]["letter"] for code, m in key.items()}
    told = host.get(f"/trials/{trial['id']}/verdict")["told_apart"]
    assert [(t["method"], t["correct"], t["n"], t["tasters"], t["sighted"]) for t in told] == [(method, 6, 6, 3, False)]
    assert told[0]["p_value"] < 0.05 and "These tasters" in told[0]["claim"]


def test_a_mark_of_another_round_is_refused_at_the_flip(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, seats(host), method="triangle", rounds=2)
    pick_all(host, flight, lambda _, r: r["codes"][0])
    host.call("POST", f"/flights/{flight['id']}/close")
    codes = [c["code"] for c in flight["cups"]]
    crossed = [{"code": c, "mark": m} for c, m in zip(codes, (4, 2, 3, 1, 5, 6), strict=True)]
    said = host.call("POST", f"/flights/{flight['id']}/flip", {"marks": crossed}, status=422)
    assert "not of the round" in said["errors"][0]["reason"]


@pytest.mark.parametrize(
    ("attribute", "text", "value", "field"),
    [
        ("pick", "999", None, "text"),
        ("pick", "none", None, "text"),
        ("pick", "both", 1, "value"),
        ("liking", "", 5, "attribute"),
    ],
)
def test_an_answer_that_cannot_be_is_refused_at_its_field(host, brewed, attribute, text, value, field):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, seats(host), method="triangle")
    sheet = flight["sheets"][0]
    cell = host.get(f"/taste/{token(sheet)}")["rounds"][0]["cell"]
    said = host.score(sheet, host.touch(cell, attribute, value=value, text=text), status=422)
    assert said["errors"][0]["field"] == f"scores.0.{field}"


def test_paired_preferences_and_ties_become_strengths(host, brewed):
    trial, (a, _), _ = brewed
    c = host.copy(a, filter="Steel mesh")
    runs = [host.brew(trial["id"], s)["id"] for s in (a, c)] + [brewed[2][2]]
    flight = host.flight(trial["id"], runs, seats(host, 4), method="paired")
    letters = {m["mark"]: m["letter"] for m in flight["marks"]}
    codes = {n: [x["code"] for x in flight["cups"] if x["round"] == n] for n in (1, 2, 3)}
    key = {code: m["mark"] for n in codes for code, m in zip(codes[n], [m for m in flight["marks"] if m["round"] == n], strict=True)}
    better = {"A": 1, "B": 3, "C": 2}
    pick_all(host, flight, lambda s, r: "none" if s["name"] == "Taster 0" else max(r["codes"], key=lambda c: better[letters[key[c]]]))
    by_hand(host, flight, key)
    preferred = host.get(f"/trials/{trial['id']}/verdict")["preferred"]
    assert [s["setup"] for s in preferred["strengths"]] == ["B", "C", "A"]
    pair = next(p for p in preferred["pairs"] if (p["a"], p["b"]) == ("A", "B"))
    assert (pair["a_wins"], pair["b_wins"]) == (0.5, 3.5) and pair["preferred"] < 0.5


def test_rankings_are_judged_by_friedman(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 5), method="ranking")
    codes = [c["code"] for c in flight["cups"]]
    for sheet in flight["sheets"]:
        host.score(sheet, host.touch(codes[0], "rank", value=2), host.touch(codes[1], "rank", value=1))
    assert host.get(f"/flights/{flight['id']}")["sheets"][0]["scored"] == 2
    by_hand(host, flight, {codes[0]: 1, codes[1]: 2})
    ranked = host.get(f"/trials/{trial['id']}/verdict")["ranked"]
    assert (ranked["setups"], ranked["agreement"], ranked["p_value"]) == (["B", "A"], 1, 0.0625)


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"method": "triangle", "rounds": 6}, "rounds"),
        ({"method": "triangle", "duplicate_run_ids": [0]}, "duplicate_run_ids"),
        ({"method": "two_afc"}, "named_attribute"),
        ({"method": "two_afc", "named_attribute": "body"}, "stronger_run_id"),
        ({"duplicate_run_ids": ["nothere"]}, "duplicate_run_ids"),
        ({"method": "ranking", "duplicate_run_ids": [0]}, "duplicate_run_ids"),
        ({"passes": []}, "passes"),
        ({"passes": ["tepid"]}, "passes.0"),
        ({"rest_s": 999}, "rest_s"),
    ],
)
def test_a_flight_that_cannot_be_asked_is_refused_at_its_field(host, brewed, asked, field):
    trial, _, runs = brewed
    asked = asked | ({"duplicate_run_ids": [runs[i] if i == 0 else i for i in asked["duplicate_run_ids"]]} if "duplicate_run_ids" in asked else {})
    body = {"run_ids": runs, "taster_ids": seats(host, 1), **asked}
    for path in ("flights", "flight-outlook"):
        assert host.call("POST", f"/trials/{trial['id']}/{path}", body, status=422)["errors"][0]["field"] == field
    assert host.get(f"/trials/{trial['id']}/flights")["flights"] == []


def test_the_outlook_counts_touches_and_makes_nothing(host, brewed):
    trial, _, runs = brewed
    people = seats(host, 4)

    def look(**asked):
        return host.call("POST", f"/trials/{trial['id']}/flight-outlook", {"run_ids": runs, "taster_ids": people, **asked})

    plain = look()
    assert (plain["cups"], plain["touches"]) == (4, 4 * 5) and plain["caffeine_mg"][0] > 0
    assert look(passes=["hot", "cool"])["touches"] == 2 * plain["touches"]
    assert "balance" not in " ".join(plain["notes"]) and "balance" in " ".join(look(taster_ids=people[:3])["notes"])
    assert any("lidded" in n for n in look(cups="clear")["notes"]) and not any("lidded" in n for n in look(cups="dark")["notes"])
    assert host.get(f"/trials/{trial['id']}/flights")["flights"] == []


def test_the_method_proposed_fits_the_question(host, brewed):
    trial, _, _ = brewed  # both setups measure alike
    assert host.get(f"/trials/{trial['id']}/flight-method")["proposed"] == "triangle"
    ladder = host.ask(question="How far?", factor="ratio")
    first = host.setup(ladder["id"])
    for water in (270, 310):
        host.copy(first, brew_water_g=water)
    assert host.get(f"/trials/{ladder['id']}/flight-method")["proposed"] == "scores"


# --- passes ------------------------------------------------------------------------------------------------------------


def test_passes_open_by_two_readings_or_by_hand_and_are_scored_apart(make_app):
    app = make_app()
    host = Host(app.test_client())
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, seats(host, 1), passes=["cool", "hot"])
    sheet, code = flight["sheets"][0], flight["cups"][0]["code"]

    def open_ones():
        return [p["name"] for p in host.get(f"/taste/{token(sheet)}")["passes"] if p["open"]]

    assert [p["name"] for p in host.get(f"/taste/{token(sheet)}")["passes"]] == ["hot", "cool"] and open_ones() == ["hot"]
    clock = app.config["CLOCK"]
    for reading in (80, 70):
        host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": reading})
        clock.at += timedelta(minutes=5)
    clock.at += timedelta(minutes=1)
    later = host.get(f"/flights/{flight['id']}")
    assert open_ones() == ["hot"] and later["cooling"]["now_c"] == pytest.approx(61, abs=1)
    cool = next(p for p in later["passes"] if p["name"] == "cool")
    assert cool["read_again_at"] < cool["opens_at"]
    host.call("POST", f"/flights/{flight['id']}/passes", {"name": "cool"})
    assert open_ones() == ["hot", "cool"]
    host.call("POST", f"/flights/{flight['id']}/passes", {"name": "warm"}, status=422)
    host.score(sheet, host.touch(code, value=7) | {"pass_name": "hot"}, host.touch(code, value=4) | {"pass_name": "cool"})
    kept = {c["code"]: c["scores"] for c in host.get(f"/taste/{token(sheet)}")["cups"]}[code]
    assert {(s["pass_name"], s["value"]) for s in kept} == {("hot", 7), ("cool", 4)}
    assert host.get(f"/flights/{flight['id']}")["sheets"][0]["of"] == 4
    assert host.score(sheet, host.touch(code, value=4) | {"pass_name": "warm"}, status=422)["errors"][0]["field"] == "scores.0.pass_name"


def test_triangles_of_their_own_differ_over_the_table_and_are_right_or_wrong_by_each_set(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 8), method="triangle", own_sets=True)
    codes = [c["code"] for c in flight["cups"]]
    assert [m["letter"] for m in flight["marks"]] == ["A", "A", "B", "B"] and len(codes) == 4
    key = dict(zip(codes, (3, 1, 4, 2), strict=True))
    odd_letters = []
    for i, seat in enumerate(flight["sheets"]):
        shown = host.get(f"/taste/{token(seat)}")["rounds"][0]
        theirs = [c["code"] for c in host.get(f"/taste/{token(seat)}")["cups"]]
        assert len(theirs) == 3 and sorted(shown["codes"]) == sorted(theirs) == sorted(seat["order"])
        letters = {c: "AABB"[key[c] - 1] for c in theirs}
        odd = next(c for c in theirs if list(letters.values()).count(letters[c]) == 1)
        odd_letters.append(odd)
        left_out = next(c for c in codes if c not in theirs)
        host.score(seat, host.touch(shown["cell"], "pick", text=left_out), status=422)
        host.score(seat, host.touch(shown["cell"], "pick", text=odd if i < 6 else next(c for c in theirs if c != odd)))
    assert {odd_letters.count(c) for c in codes} == {2}  # every cup is the odd one for two of eight
    by_hand(host, flight, key)
    told = host.get(f"/trials/{trial['id']}/verdict")["told_apart"][0]
    assert (told["correct"], told["n"]) == (6, 8)
    late = host.flight(trial["id"], [runs[1], runs[3]], seats(host, 2, "Second"), method="triangle", own_sets=True)
    joined = host.call("POST", f"/flights/{late['id']}/tasters", {"person_id": host.person("Latecomer")})
    assert {len(sheet["order"]) for sheet in joined["sheets"]} == {3}
    host.call(
        "POST",
        f"/trials/{trial['id']}/flights",
        {"run_ids": [runs[0], runs[2]], "taster_ids": seats(host, 1, "Other"), "method": "tetrad", "own_sets": True},
        status=422,
    )


def test_sets_of_their_own_are_suggested_where_every_cup_can_be_odd_and_there_is_drink_enough(host):
    trial, (a, b), runs = host.two_setups_brewed(1)
    small = [host.brew(trial["id"], x, dose_g=6, brew_water_g=96, beverage_g=80)["id"] for x in (a, b)]
    people = seats(host, 12)

    def suggested(brews, tasters, method="triangle", **more):
        body = {"run_ids": brews, "taster_ids": people[:tasters], "method": method, **more}
        return host.call("POST", f"/trials/{trial['id']}/flight-outlook", body)["own_sets"]

    assert suggested(runs, 4) and suggested(runs, 4, own_sets=True) and not suggested(runs, 3)
    assert not suggested(small, 4)  # 80 g do not fill eight sips twice over
    assert not suggested(runs, 4, method="tetrad") and not suggested(runs, 4, rounds=4)  # sixteen cups are more than a flight holds


def test_a_reading_below_a_pass_closes_it_on_the_phones_until_it_is_opened_again(make_app):
    app = make_app()
    host = Host(app.test_client())
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, seats(host, 1), passes=["hot", "cool"])
    at, sheet = f"/flights/{flight['id']}/temperatures", flight["sheets"][0]

    def passes():
        return {p["name"]: (p["open"], p["closed"]) for p in host.get(f"/taste/{token(sheet)}")["passes"]}

    host.call("POST", at, {"cup_c": 60})
    assert passes()["hot"] == (True, False)
    app.config["CLOCK"].at += timedelta(minutes=8)
    host.call("POST", at, {"cup_c": 50})
    assert passes()["hot"] == (False, True)
    host.score(sheet, host.touch(flight["cups"][0]["code"], value=7) | {"pass_name": "hot"})  # touched before, delivered after: kept
    host.call("POST", f"/flights/{flight['id']}/passes", {"name": "hot"})
    assert passes()["hot"] == (True, False)
    host.call("DELETE", at)
    assert passes()["hot"] == (True, False)


def test_a_reading_that_can_hardly_be_is_asked_for_again_at_its_field(make_app):
    app = make_app()
    host = Host(app.test_client())
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, seats(host, 1))
    at, codes = f"/flights/{flight['id']}/temperatures", [c["code"] for c in flight["cups"]]
    host.call("POST", at, {"cup_c": 58})
    refused = host.call("POST", at, {"cup_c": 31}, status=422)["errors"][0]
    assert refused["field"] == "cup_c" and "58 °C, then 31 °C" in refused["reason"]
    assert host.get(f"/flights/{flight['id']}")["cup_temperature_c"] == 58
    assert host.call("POST", at, {"cup_c": 31, "sure": True})["cup_temperature_c"] == 31
    host.call("DELETE", at)
    host.call("POST", at, {"cups": [{"code": c, "cup_c": 57} for c in codes]})
    second = [{"code": codes[0], "cup_c": 56.5}, {"code": codes[1], "cup_c": 30}]
    assert host.call("POST", at, {"cups": second}, status=422)["errors"][0]["field"] == "cups.1.cup_c"
    host.call("POST", at, {"cups": [{"code": "999", "cup_c": 50}]}, status=422)


def test_cups_read_one_by_one_say_at_once_what_is_wrong_and_give_nothing_away(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 3))
    at, sheet, codes = f"/flights/{flight['id']}/temperatures", flight["sheets"][0], [c["code"] for c in flight["cups"]]
    before = host.get(f"/taste/{token(sheet)}")
    read = host.call("POST", at, {"cups": [{"code": codes[0], "cup_c": 52}, {"code": codes[1], "cup_c": 46}]})
    assert read["cup_temperature_c"] == 49 and {c["code"]: c["cup_c"] for c in read["cup_temperatures"]} == {codes[0]: 52, codes[1]: 46}
    assert [f"Cup {codes[1]} is 6 °C cooler" in said for said in read["cups_said"]] == [True]
    after = host.get(f"/taste/{token(sheet)}")
    assert {k: v for k, v in after.items() if v != before[k]} == {"cup_temperature_c": 49}  # a taster learns nothing of single cups
    for seat in flight["sheets"]:
        host.score(seat, *(host.touch(c, value=6) for c in codes))
    by_hand(host, flight, dict(zip(codes, (1, 2), strict=True)))
    assert "unequal_first_sip" in {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}


def test_a_hidden_duplicate_measures_the_taster_and_counts_once(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 2), duplicate_run_ids=[runs[2]])
    codes = [c["code"] for c in flight["cups"]]
    assert [m["letter"] for m in flight["marks"]] == ["A", "B", "B"]
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c, value=v) for c, v in zip(codes, (4, 6, 8), strict=True)))
    by_hand(host, flight, dict(zip(codes, (1, 2, 3), strict=True)))
    verdict = host.get(f"/trials/{trial['id']}/verdict")
    found = sorted((r["taster"], r["duplicates"], round(r["repeat_sd"], 2)) for r in verdict["repeats"])
    assert found == [("Taster 0", 1, 1.41), ("Taster 1", 1, 1.41)]
    assert next(s for s in verdict["blind"]["setups"] if s["setup"] == "B")["mean"] == pytest.approx(7)


# --- the runner --------------------------------------------------------------------------------------------------------


def sealed(host, brewed, **asked):
    trial, _, runs = brewed
    people = seats(host, 2)
    return trial, people, host.flight(trial["id"], runs, people, blinding="runner", **asked)


def test_the_pour_sheet_opens_on_one_device_and_the_seal_holds_at_the_flip(host, brewed):
    trial, _, flight = sealed(host, brewed)
    link = token(flight["seal"])
    runner, stranger = other_browser(host), other_browser(host)
    runner.get(f"/pour/{link}", status=404)  # not opened yet: a look alone binds nothing
    poured = runner.call("POST", f"/pour/{link}")
    assert runner.get(f"/pour/{link}") == poured == runner.call("POST", f"/pour/{link}")
    assert "another device" in stranger.call("POST", f"/pour/{link}", status=409)["title"]
    stranger.get(f"/pour/{link}", status=404)
    assert host.get(f"/flights/{flight['id']}")["seal"]["link"] is None
    assert [s["order"] for s in poured["seats"]] == [s["order"] for s in flight["sheets"]]
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=5) for c in flight["cups"]))
    host.call("POST", f"/flights/{flight['id']}/close")
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": flight["cups"][0]["code"], "mark": 1}]}, status=409)
    flipped = host.call("POST", f"/flights/{flight['id']}/flip", {})
    assert {c["code"]: c["label"] for c in flipped["cups"]} == {c["code"]: c["label"] for c in poured["cups"]}
    seal = flipped["seal"]
    assert seal["holds"] and hashlib.sha256(seal["key_text"].encode()).hexdigest() == seal["commitment"] == flight["seal"]["commitment"]
    assert seal["key_text"].split("|")[0] == seal["nonce"] and len(seal["nonce"]) == 64


def test_whoever_tastes_may_not_open_the_pour_sheet(host, brewed):
    _, people, flight = sealed(host, brewed)
    link = token(flight["seal"])
    taster = other_browser(host)
    taster.get(f"/taste/{token(flight['sheets'][0])}")  # this browser tastes
    assert "who tastes" in taster.call("POST", f"/pour/{link}", status=409)["title"]
    assert "who tastes" in other_browser(host).call("POST", f"/pour/{link}", headers={"X-Penny-Person": people[0]}, status=409)["title"]
    host.call("POST", f"/flights/{flight['id']}/pour-sheet", headers={"X-Penny-Person": people[0]}, status=409)
    assert host.get(f"/flights/{flight['id']}")["seal"]["opened_at"] is None


def test_a_host_who_says_they_taste_stays_blind_and_one_who_looked_cannot_taste(host, brewed):
    trial, _, flight = sealed(host, brewed)
    said = host.call("PATCH", f"/flights/{flight['id']}", {"host_tastes": True}, rev=1)
    assert said["host_tastes"]
    host.call("POST", f"/flights/{flight['id']}/pour-sheet", status=409)
    host.call("PATCH", f"/flights/{flight['id']}", {"host_tastes": False}, rev=2, status=422)
    written = host.get(f"/trials/{trial['id']}/history")["changes"][0]
    assert written["action"] == "host_tastes" and not written["can_undo"]
    host.call("POST", f"/changes/{written['id']}/undo", status=409)
    other = host.flight(trial["id"], brewed[2], [host.person("Late one")], blinding="runner")
    assert "who opens it" in host.call("POST", f"/flights/{other['id']}/pour-sheet", status=409)["title"]
    keeper = {"X-Penny-Person": host.person("Keeper")}
    assert len(host.call("POST", f"/flights/{other['id']}/pour-sheet", headers=keeper)["cups"]) == 4
    host.call("PATCH", f"/flights/{other['id']}", {"host_tastes": True}, rev=1, status=409)
    host.score(other["sheets"][0], host.touch(other["cups"][0]["code"], value=5))
    host.call("POST", f"/flights/{other['id']}/close")
    assert "host_saw_key" in [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]


def test_a_broken_seal_shows_the_key_and_grades_the_flight_sighted(host, brewed):
    trial, _, flight = sealed(host, brewed)
    link = token(flight["seal"])
    broken = host.call("POST", f"/flights/{flight['id']}/break-seal")
    assert broken["blinding"] == "broken" and all(c["label"] for c in broken["cups"]) and broken["seal"]["holds"]
    other_browser(host).call("POST", f"/pour/{link}", status=404)
    host.call("POST", f"/flights/{flight['id']}/break-seal", status=409)
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=5) for c in flight["cups"]))
    assert host.call("POST", f"/flights/{flight['id']}/close")["status"] == "flipped"
    verdict = host.get(f"/trials/{trial['id']}/verdict")
    assert verdict["blind"] is None and verdict["sighted"]["flights"] == 1
    assert "blindness_broken" in [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]


def test_a_changed_key_does_not_pass_its_seal(host, brewed):
    from brasspenny.store.connection import database

    _, _, flight = sealed(host, brewed)
    host.score(flight["sheets"][0], host.touch(flight["cups"][0]["code"], value=5))
    host.call("POST", f"/flights/{flight['id']}/close")
    with database.connection_context():
        database.execute_sql("UPDATE seal SET commitment = REPEAT('0', 64)")
    assert "does not match its seal" in host.call("POST", f"/flights/{flight['id']}/flip", {}, status=409)["title"]
    assert host.get(f"/flights/{flight['id']}")["status"] == "closed"


# --- the table ---------------------------------------------------------------------------------------------------------


def test_late_scores_are_kept_apart_and_never_judged(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 2))
    sheet, codes = flight["sheets"][0], [c["code"] for c in flight["cups"]]
    late = host.touch(codes[0], value=9)
    host.call("PUT", f"/taste/{token(sheet)}/late-scores", {"scores": [late]}, status=409)  # nothing is late yet
    host.score(sheet, host.touch(codes[0], value=3), host.touch(codes[1], value=7))
    host.call("POST", f"/flights/{flight['id']}/close")
    host.score(sheet, late, status=409)
    for _ in range(2):  # a repeat changes nothing
        assert host.call("PUT", f"/taste/{token(sheet)}/late-scores", {"scores": [late]})["delivered"] == [late["uuid"]]
    closed = host.get(f"/flights/{flight['id']}")
    assert (closed["late_count"], closed["late"]) == (1, []) and "shown apart" in closed["costs"][0]
    flipped = host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": i} for i, c in enumerate(codes, 1)]})
    assert [(x["taster"], x["code"], x["value"]) for x in flipped["late"]] == [("Taster 0", codes[0], 9)]
    assert next(s for s in host.get(f"/trials/{trial['id']}/verdict")["blind"]["setups"] if s["setup"] == "A")["mean"] == pytest.approx(3)


def test_leavers_and_late_joiners_are_said_with_what_they_cost(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, seats(host, 4))
    assert flight["balanced"] and flight["costs"] == []
    sheet = flight["sheets"][1]
    host.score(sheet, host.touch(flight["cups"][0]["code"], value=5))
    left = host.call("POST", f"/sheets/{sheet['id']}/left", {"left": True})
    assert not left["balanced"] and "left after 1 of 4 cups" in left["costs"][0] and "not fully balanced" in left["costs"][-1]
    joined = host.call("POST", f"/flights/{flight['id']}/tasters", {"person_id": host.person("Late")})
    assert joined["balanced"] and any("Late joined late" in c for c in joined["costs"])
    back = host.call("POST", f"/sheets/{sheet['id']}/left", {"left": False})
    assert next(s for s in back["sheets"] if s["id"] == sheet["id"])["left_at"] is None


def test_what_tasters_say_of_eye_and_first_sip_reaches_the_margin_after_the_close(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 1), sip_temperature=True, cleanser=False)
    sheet, codes = flight["sheets"][0], [c["code"] for c in flight["cups"]]
    host.score(
        sheet,
        *(host.touch(c, value=5) for c in codes),
        host.touch(codes[0], "told_by_eye", value=1),
        *(host.touch(c, "sip_c", value=v) for c, v in zip(codes, (48, 39.5), strict=True)),
    )

    def margin():
        return {c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]}

    assert not margin() & {"told_by_eye", "unequal_first_sip", "cold_cups", "no_cleanser"}
    host.call("POST", f"/flights/{flight['id']}/close")
    assert {"told_by_eye", "unequal_first_sip", "cold_cups", "no_cleanser"} <= margin()


def test_events_say_that_something_happened_never_what(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, seats(host, 1))
    start = host.client.get(f"/api/v1/flights/{flight['id']}/events?for_s=0")
    assert start.mimetype == "text/event-stream" and b"event:" not in start.data  # nothing since now
    host.score(flight["sheets"][0], host.touch(flight["cups"][0]["code"], value=9, text=""))
    host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 50})
    lines = host.client.get(f"/api/v1/flights/{flight['id']}/events?for_s=0", headers={"Last-Event-ID": "0"}).data.decode().splitlines()
    assert [line for line in lines if line.startswith("event:")] == ["event: score", "event: temperature"]
    last = [line for line in lines if line.startswith("id:")][-1].split()[1]
    assert b"event:" not in host.client.get(f"/api/v1/flights/{flight['id']}/events?for_s=0", headers={"Last-Event-ID": last}).data


def test_guesses_are_asked_with_names_but_never_where(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 2), guess=True)
    sheet = host.get(f"/taste/{token(flight['sheets'][0])}")
    assert [g["letter"] for g in sheet["guesses"]] == ["A", "B"] and all(c["label"] is None for c in sheet["cups"])
    codes = [c["code"] for c in flight["cups"]]
    for s in flight["sheets"]:
        host.score(s, *(host.touch(c, value=6) for c in codes), host.touch(codes[0], "guess", text="A"), host.touch(codes[1], "guess", text="A"))
    host.score(flight["sheets"][0], host.touch(codes[0], "guess", text="both"), status=422)
    by_hand(host, flight, dict(zip(codes, (1, 2), strict=True)))
    guessed = host.get(f"/trials/{trial['id']}/verdict")["guessed"]
    assert (guessed["right"], guessed["made"], guessed["chance"]) == (2, 4, 0.5) and guessed["p_value"] > 0.05


def test_marks_entered_again_and_a_flipped_flight_deleted_stand_in_margin_grade_report_and_history_with_the_verdict_before(host, brewed):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], runs, seats(host, 4))
    codes = [c["code"] for c in flight["cups"]]
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c, value=v) for c, v in zip(codes, (3, 3, 8, 8), strict=True)))
    host.call("POST", f"/flights/{flight['id']}/close")

    def turn(marks):
        return host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in zip(codes, marks, strict=True)]})

    turn((1, 2, 3, 4))
    first = host.get(f"/trials/{trial['id']}/verdict")["blind"]["verdict"]["headline"]
    assert "known to nobody" in str(host.get(f"/trials/{trial['id']}/report")["method"])
    turn((1, 2, 3, 4))  # the same again is nothing
    assert "marks_corrected" not in [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]
    turn((3, 4, 1, 2))
    second = host.get(f"/trials/{trial['id']}/verdict")["blind"]["verdict"]["headline"]
    progress = host.get(f"/trials/{trial['id']}/progress")
    caveat = next(c for c in progress["caveats"] if c["code"] == "marks_corrected")
    assert first.rstrip(".") in caveat["text"] and first != second
    assert "marks_corrected" in [r["code"] for r in progress["grade"]["reasons"]]
    report = host.get(f"/trials/{trial['id']}/report")
    assert "known to nobody" not in str(report) and "entered again" in str(report["method"]) and caveat["text"] in str(report["caveats"])
    assert [c["action"] for c in host.get(f"/trials/{trial['id']}/history")["changes"]].count("correct_marks") == 1
    host.call("DELETE", f"/flights/{flight['id']}")
    progress = host.get(f"/trials/{trial['id']}/progress")
    gone = next(c for c in progress["caveats"] if c["code"] == "flipped_flight_deleted")
    assert second.rstrip(".") in gone["text"] and progress["grade"] is None, "nothing is left to be graded"
    undo = next(c for c in host.get(f"/trials/{trial['id']}/history")["changes"] if c["action"] == "delete")
    host.call("POST", f"/changes/{undo['id']}/undo")
    assert "flipped_flight_deleted" not in [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]


@pytest.mark.parametrize("method", ["triangle", "duo_trio", "paired"])
def test_a_tasting_host_sees_no_more_of_a_round_than_the_others(host, brewed, method):
    trial, _, runs = brewed
    flight = host.flight(trial["id"], [runs[0], runs[2]], seats(host, 2), method=method, rounds=2, blinding="runner", host_tastes=True)
    assert flight["marks"] == [] and flight["references"] == []
    pouring = host.flight(trial["id"], [runs[0], runs[2]], [host.person("Alone")], method=method, rounds=2, blinding="runner")
    assert pouring["marks"] != []
