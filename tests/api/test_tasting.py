"""Flights, sheets, links, the flip and the verdict."""

import pytest

from .host import token


@pytest.fixture
def poured(made_once):
    return made_once(a_flight_poured)


def a_flight_poured(host):
    """A blind flight of four cups for two tasters."""
    trial, setups, runs = host.two_setups_brewed()
    people = [host.person(n) for n in ("Bo", "Iwan")]
    return trial, setups, runs, host.flight(trial["id"], runs, people)


def test_a_flight_has_plain_codes_marks_in_sight_and_no_key(host, poured):
    *_, flight = poured
    codes = [c["code"] for c in flight["cups"]]
    assert codes == sorted(codes) and len(set(codes)) == 4
    assert all(c["letter"] is None for c in flight["cups"])
    assert [m["label"] for m in flight["marks"]] == ["A1 · White weave", "A2 · White weave", "B1 · Thick crêpe", "B2 · Thick crêpe"]
    sheets = [host.get(f"/taste/{token(s)}") for s in flight["sheets"]]
    assert {c["code"] for c in sheets[0]["cups"]} == set(codes)
    assert [c["code"] for c in sheets[0]["cups"]] != [c["code"] for c in sheets[1]["cups"]]
    assert [a["code"] for a in sheets[0]["attributes"]] == ["acidity", "sweetness", "body", "liking"]
    later = host.flight(poured[0]["id"], poured[2], [host.person("Odile")])
    assert not set(codes) & {c["code"] for c in later["cups"]}


def test_the_highest_sequence_wins_and_replays_change_nothing(host, poured):
    *_, flight = poured
    sheet, code = flight["sheets"][0], flight["cups"][0]["code"]
    newer, older = host.touch(code, value=8, seq=10), host.touch(code, value=3, seq=4)
    assert host.score(sheet, newer)["delivered"] == [newer["uuid"]]
    assert host.score(sheet, older)["delivered"] == [older["uuid"]]
    host.score(sheet, newer)
    cups = {c["code"]: c for c in host.get(f"/taste/{token(sheet)}")["cups"]}
    assert cups[code]["scores"] == [{"attribute": "liking", "pass_name": "warm", "value": 8, "text": ""}]
    host.score(sheet, host.touch(code, value=None, seq=11), host.touch(code, "words", text="lime <b>", seq=12))
    kept = {s["attribute"]: s for s in {c["code"]: c for c in host.get(f"/taste/{token(sheet)}")["cups"]}[code]["scores"]}
    assert kept["liking"]["value"] is None and kept["words"]["text"] == "lime <b>"


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"value": 10}, "scores.0.value"),
        ({"value": 5.3}, "scores.0.value"),
        ({"value": "7"}, "scores.0.value"),
        ({"code": "999"}, "scores.0.code"),
        ({"attribute": "aroma"}, "scores.0.attribute"),
        ({"attribute": "words", "value": 3}, "scores.0.value"),
        ({"uuid": "x"}, "scores.0.uuid"),
        ({"seq": 0}, "scores.0.seq"),
    ],
)
def test_a_bad_score_is_refused_and_its_batch_with_it(host, poured, changes, field):
    *_, flight = poured
    sheet, code = flight["sheets"][0], flight["cups"][0]["code"]
    code = next(c["code"] for c in flight["cups"]) if "code" not in changes else code
    said = host.score(sheet, host.touch(code, value=7) | changes, host.touch(flight["cups"][1]["code"], value=7), status=422)
    assert said["errors"][0]["field"] == field
    assert all(c["scores"] == [] for c in host.get(f"/taste/{token(sheet)}")["cups"])


def test_links_are_known_by_hash_only_renewed_and_withdrawn(host, poured):
    *_, flight = poured
    old = flight["sheets"][0]
    renewed = next(s for s in host.call("POST", f"/sheets/{old['id']}/link")["sheets"] if s["id"] == old["id"])
    assert renewed["link"] != old["link"]
    host.get(f"/taste/{token(old)}", status=404)
    host.get(f"/taste/{token(renewed)}")
    host.call("DELETE", f"/sheets/{old['id']}/link")
    for dead in (token(renewed), "", "x" * 100, "%ff", "' OR 1=1"):
        assert host.client.get(f"/api/v1/taste/{dead}").status_code in (404, 422)
    host.score(renewed, host.touch(flight["cups"][0]["code"], value=5), status=404)
    from brasspenny.store.connection import database

    with database.connection_context():
        stored = str(database.execute_sql("SELECT * FROM sheet").fetchall())
    assert token(flight["sheets"][1]) not in stored


def test_a_qr_code_is_a_picture_of_the_link(host, poured):
    answer = host.client.get(f"/api/v1/sheets/{poured[-1]['sheets'][0]['id']}/qr.svg")
    assert answer.mimetype == "image/svg+xml" and b"<path" in answer.data


def test_closing_locks_scores_and_the_host_saw_only_counts(host, poured):
    *_, flight = poured
    sheet, code = flight["sheets"][0], flight["cups"][0]["code"]
    host.call("POST", f"/flights/{flight['id']}/close", status=409)  # nobody has scored
    host.score(sheet, host.touch(code, value=8))
    watched = host.get(f"/flights/{flight['id']}")
    assert [c["scored"] for c in watched["cups"]] == [1, 0, 0, 0] and watched["sheets"][0]["scored"] == 1
    assert '"value"' not in str(watched)
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": code, "mark": 1}]}, status=409)
    host.call("POST", f"/flights/{flight['id']}/close")
    host.score(sheet, host.touch(code, value=1), status=409)
    host.call("POST", f"/flights/{flight['id']}/close", status=409)


def test_the_flip_wants_each_code_and_each_mark_once(host, poured):
    *_, flight = poured
    codes = [c["code"] for c in flight["cups"]]
    host.score(flight["sheets"][0], *(host.touch(c, value=5) for c in codes))
    host.call("POST", f"/flights/{flight['id']}/close")

    def flip(marks, **how):
        return host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in marks]}, **how)

    for wrong in ([(codes[0], 1)], [(c, 1) for c in codes], [*zip(codes, (1, 2, 3, 9), strict=True)], [*zip(["111", *codes[1:]], (1, 2, 3, 4), strict=True)]):
        assert flip(wrong, status=422)["errors"][0]["field"] == "marks"
        assert host.get(f"/flights/{flight['id']}")["status"] == "closed"
    flipped = flip(zip(codes, (3, 1, 4, 2), strict=True))
    assert [c["letter"] for c in flipped["cups"]] == ["B", "A", "B", "A"]
    assert [c["letter"] for c in flip(zip(codes, (1, 2, 3, 4), strict=True))["cups"]] == ["A", "A", "B", "B"]
    corrected = host.get(f"/trials/{poured[0]['id']}/history")["changes"][0]
    assert corrected["action"] == "correct_marks" and corrected["before"][codes[0]] == "mark 3"


def test_a_verdict_names_the_setup_truly_liked_whatever_code_it_had(host, poured):
    trial, _, runs, flight = poured
    people = [s["person_id"] for s in flight["sheets"]] + [host.person(f"P{i}") for i in range(6)]
    big = host.flight(trial["id"], runs, people)
    codes = [c["code"] for c in big["cups"]]
    key = dict(zip(codes, (3, 1, 4, 2), strict=True))
    host.taste(big, lambda mark, taster: (4 if mark <= 2 else 8) + taster % 2, key=key)
    verdict = host.get(f"/trials/{trial['id']}/verdict")
    blind = verdict["blind"]
    assert blind["verdict"]["kind"] == "clear" and blind["verdict"]["choice"] == "B"
    assert blind["verdict"]["headline"] == "Keep Thick crêpe"
    assert [s["setup"] for s in blind["setups"]] == ["B", "A"]
    assert round(blind["setups"][0]["extraction_yield"]["value"], 2) == 19.56 and round(blind["setups"][0]["brew_ratio"], 1) == 16.1
    assert blind["by_taster"][0]["means"]["B"] - blind["by_taster"][0]["means"]["A"] == 4
    assert (verdict["sighted"], verdict["flights_open"]) == (None, 1)
    assert host.get(f"/trials/{trial['id']}/verdict") == verdict  # stored, not judged again


def test_a_correction_judges_again_and_keeps_the_earlier_verdict(host, poured):
    trial, _, (run_id, *_), flight = poured
    host.taste(flight, lambda mark, taster: 4 if mark <= 2 else 8)
    before = host.get(f"/trials/{trial['id']}/verdict")
    host.call("PATCH", f"/runs/{run_id}", {"beverage_g": 240}, rev=1)
    after = host.get(f"/trials/{trial['id']}/verdict")
    assert after["blind"]["setups"][1]["extraction_yield"] != before["blind"]["setups"][1]["extraction_yield"]
    assert [e["headline"] for e in after["earlier"]] == [before["blind"]["verdict"]["headline"]]


def test_sighted_and_blind_are_never_pooled(host, poured):
    trial, _, runs, flight = poured
    host.taste(flight, lambda mark, taster: 4 if mark <= 2 else 8)
    seen = host.flight(trial["id"], [runs[0], runs[2]], [host.person("Odile"), host.person("Saskia")], blinding="open")
    sheet = host.get(f"/taste/{token(seen['sheets'][0])}")
    assert {c["label"] for c in sheet["cups"]} == {"A1 · White weave", "B1 · Thick crêpe"}
    for s in seen["sheets"]:
        host.score(s, *(host.touch(c["code"], value=9 if c["label"].startswith("A") else 2) for c in host.get(f"/taste/{token(s)}")["cups"]))
    host.call("POST", f"/flights/{seen['id']}/close")
    verdict = host.get(f"/trials/{trial['id']}/verdict")
    assert verdict["blind"]["setups"][0]["setup"] == "B" and verdict["sighted"]["setups"][0]["setup"] == "A"
    assert (verdict["blind"]["flights"], verdict["sighted"]["flights"]) == (1, 1)
    codes = [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]
    assert "sighted" in codes and "sighted_favourite" in codes


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (lambda runs, people: ([runs[0]], people), "run_ids"),
        (lambda runs, people: (runs[:2], people), "run_ids"),
        (lambda runs, people: (runs + runs[:1], people), "run_ids"),
        (lambda runs, people: (runs, people + people), "taster_ids"),
        (lambda runs, people: (runs, []), "taster_ids"),
    ],
)
def test_a_flight_that_compares_nothing_is_refused(host, change, field):
    trial, _, runs = host.two_setups_brewed()
    run_ids, taster_ids = change(runs, [host.person("Bo")])
    said = host.call("POST", f"/trials/{trial['id']}/flights", {"run_ids": run_ids, "taster_ids": taster_ids}, status=422)
    assert said["errors"][0]["field"] == field
    assert host.get(f"/trials/{trial['id']}/flights")["flights"] == []


def test_what_stands_in_a_flight_cannot_be_deleted_under_it(host, poured):
    trial, (a, _), (run_id, *_), flight = poured
    host.call("DELETE", f"/runs/{run_id}", status=409)
    host.call("DELETE", f"/setups/{a['id']}", status=409)
    change = host.call("DELETE", f"/flights/{flight['id']}")["change_id"]
    host.get(f"/taste/{token(flight['sheets'][0])}", status=404)
    host.call("POST", f"/changes/{change}/undo")
    host.get(f"/taste/{token(flight['sheets'][0])}")


def test_a_late_joiner_gets_an_order_of_their_own(host, poured):
    flight = host.call("POST", f"/flights/{poured[-1]['id']}/tasters", {"person_id": host.person("Late")})
    sheet = next(s for s in flight["sheets"] if s["name"] == "Late")
    assert len(host.get(f"/taste/{token(sheet)}")["cups"]) == 4
    host.call("POST", f"/flights/{flight['id']}/tasters", {"person_id": sheet["person_id"]}, status=409)


def test_two_tasters_and_single_brews_are_called_an_anecdote(host):
    trial, _, runs = host.two_setups_brewed(1)
    flight = host.flight(trial["id"], runs, [host.person("Bo"), host.person("Iwan")])
    host.taste(flight, lambda mark, taster: 1 if mark == 1 else 9)
    blind = host.get(f"/trials/{trial['id']}/verdict")["blind"]
    assert blind["verdict"]["kind"] == "not_enough" and blind["lean"]["setup"] == "B"
    assert "anecdote" in [c["code"] for c in blind["caveats"]]
    margin = [c["code"] for c in host.get(f"/trials/{trial['id']}/progress")["caveats"]]
    assert {"anecdote", "single_brews"} <= set(margin) and "too_few_tasters" not in margin


def test_a_taster_sees_their_own_reveal_and_only_after_the_flip(host):
    _, _, runs = host.two_setups_brewed()
    trial = host.get("/trials")["trials"][0]
    people = [host.person(n) for n in ("Ann", "Bo")]
    flight = host.flight(trial["id"], runs, people, guess=True)
    first = token(flight["sheets"][0])
    assert host.get(f"/taste/{first}/reveal") == {"flight": 1, "taster": "Ann", "flipped": False, "tasters": 2, "cups": [], "picks": [], "panel_right": ""}
    for sheet, value in zip(flight["sheets"], (8, 4), strict=True):
        touches = [host.touch(c["code"], value=value) for c in flight["cups"]]
        host.score(sheet, *touches, *(host.touch(c["code"], "guess", text="A") for c in flight["cups"]))
    host.call("POST", f"/flights/{flight['id']}/close")
    assert host.get(f"/taste/{first}/reveal")["cups"] == []
    marks = [{"code": c["code"], "mark": i} for i, c in enumerate(flight["cups"], 1)]
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": marks})
    cups = host.get(f"/taste/{first}/reveal")["cups"]
    assert len(cups) == len(flight["cups"]) and {c["liking"] for c in cups} == {8} and {c["panel"] for c in cups} == {6}
    assert all(c["right"] == c["setup"].startswith("A") for c in cups) and {c["guessed"] for c in cups} == {"A"}
    host.get("/taste/nobody/reveal", status=404)


def test_nobody_is_said_to_know_nothing_before_somebody_has_said_that_the_servers_are_shuffled(host):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, [host.person("Odile")])
    assert flight["shuffled_at"] is None
    first = host.call("POST", f"/flights/{flight['id']}/shuffled")
    again = host.call("POST", f"/flights/{flight['id']}/shuffled")
    assert again["shuffled_at"] == first["shuffled_at"] is not None and again["rev"] == first["rev"]
    assert [c["action"] for c in host.get(f"/trials/{trial['id']}/history")["changes"]].count("shuffled") == 1
    host.taste(flight, lambda mark, i: 6)
    host.call("POST", f"/flights/{flight['id']}/shuffled", status=409)
    sealed = host.flight(trial["id"], runs, [host.person("Bram")], blinding="runner")
    host.call("POST", f"/flights/{sealed['id']}/shuffled", status=409)


def test_a_new_flight_never_offers_what_was_drunk(host):
    trial, (a, b), runs = host.two_setups_brewed(brews=1)
    offered = lambda: host.get(f"/trials/{trial['id']}/flight-method")["run_ids"]  # noqa: E731
    assert offered() == runs
    host.flight(trial["id"], runs, [host.person("Odile")])
    assert offered() == []
    fresh = host.brew(trial["id"], a)["id"]
    assert offered() == []  # of one setup alone nothing is compared
    assert offered() == [] and host.brew(trial["id"], b)["id"] in offered() and fresh in offered()
