"""One truth per fact: whatever is corrected, every answer about a trial equals itself after all that is kept was thrown away, and
no address of a trial asks the database for more than a handful of things."""

import contextlib
import re
from collections import Counter
from pathlib import Path

import pytest

from brasspenny.core.trial.value import fingerprint
from brasspenny.store import load_trial
from brasspenny.store.connection import database
from brasspenny.store.models import Charted, Headline, Kept, StoredVerdict
from brasspenny.verdicts import lists

from ..amount import share
from .host import Host

ADDRESSES = (
    "", "/setups", "/progress", "/results", "/comparisons", "/matching", "/plan", "/flights", "/flight-method", "/run-sheet", "/history", "/verdict",
    "/verdict/attribute?attribute=liking", "/verdict/attribute?attribute=body", "/verdict/characters", "/verdict/pairing", "/verdict/value", "/verdict/next", "/report",
)  # fmt: skip
MOST_QUERIES = 14
"""The twelve a page of a trial may need, and the units of the bench."""


def answers(host: Host, trial_id: str) -> dict:
    """Everything that is said of a trial, without when it was said and what was said before."""
    out = {path: host.get(f"/trials/{trial_id}{path}") for path in ADDRESSES}
    out["charts"] = [host.get(f"/charts?yield_basis={yield_basis}") for yield_basis in ("in_cup", "full_liquor")]
    out["list"] = next((t for t in host.get("/trials")["trials"] if t["id"] == trial_id), None)
    return _timeless(out)


def _timeless(value):
    if isinstance(value, dict):
        return {k: _timeless(v) for k, v in value.items() if k not in ("judged_at", "made_at", "earlier")}
    return [_timeless(v) for v in value] if isinstance(value, list) else value


def forget() -> None:
    with database.connection_context():
        for table in (Kept, Headline, StoredVerdict, Charted):
            table.delete().execute()
        database.execute_sql("INSERT INTO charted (run_id) SELECT id FROM run")


def holds_true(host: Host, trial_id: str) -> dict:
    kept = answers(host, trial_id)
    forget()
    assert answers(host, trial_id) == kept
    return kept


@pytest.fixture
def judged(made_once):
    return made_once(two_filters_judged)


def two_filters_judged(host):
    """Two filters, two brews each, tasted by three in two passes with a cup told by eye; its flight; its runs."""
    trial, setups, runs = host.two_setups_brewed()
    people = [host.person(name) for name in ("Ada", "Bo", "Cy")]
    flight = host.flight(trial["id"], runs, people, attributes=["body"], passes=["hot", "warm"], guess=True, cups="clear", sip_temperature=True)
    key = {c["code"]: i + 1 for i, c in enumerate(flight["cups"])}
    for i, sheet in enumerate(flight["sheets"]):
        for code, mark in key.items():
            for name in ("hot", "warm"):
                liking, body = 4 + (mark > 2) * 3 + (i + mark) % 2, 3 + mark
                touches = [host.touch(code, a, v) | {"pass_name": name} for a, v in (("liking", liking), ("body", body), ("sip_c", 40 + mark))]
                host.score(sheet, *touches, host.touch(code, "guess", text="AB"[mark > 2]))
    host.call("POST", f"/flights/{flight['id']}/close")
    flight = host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})
    return {"trial": trial, "setups": setups, "runs": runs, "flight": flight, "key": key, "people": people}


def brew_of(host, j, n=0):
    return host.get(f"/trials/{j['trial']['id']}/results")["runs"][n]


def marks(key: dict) -> dict:
    return {"marks": [{"code": c, "mark": m} for c, m in key.items()]}


def turned(key: dict) -> dict:
    return dict(zip(key, reversed(list(key.values())), strict=True))


def correct_marks(host, j):
    host.call("POST", f"/flights/{j['flight']['id']}/flip", marks(turned(j["key"])))


def correct_marks_and_back(host, j):
    correct_marks(host, j)
    host.call("POST", f"/flights/{j['flight']['id']}/flip", marks(j["key"]))


def correct_masses(host, j):
    run = brew_of(host, j)
    host.call("PATCH", f"/runs/{run['id']}", {"beverage_g": 236, "brew_water_g": 284}, rev=run["rev"])


def correct_times(host, j):
    run = brew_of(host, j, 1)
    host.call("PATCH", f"/runs/{run['id']}", {"pour_end_s": 100, "total_time_s": 150}, rev=run["rev"])


def correct_a_note(host, j):
    run = brew_of(host, j, 1)
    host.call("PATCH", f"/runs/{run['id']}", {"note": "a slow one"}, rev=run["rev"])


def correct_a_reading(host, j):
    reading = brew_of(host, j)["readings"][0]
    host.call("PATCH", f"/readings/{reading['id']}", {"tds_pct": 1.2}, rev=reading["rev"])


def take_away_a_reading(host, j):
    host.call("DELETE", f"/readings/{brew_of(host, j)['readings'][0]['id']}")


def correct_the_smallest_difference(host, j):
    host.call("PATCH", f"/trials/{j['trial']['id']}", {"smallest_difference": 2}, rev=host.get(f"/trials/{j['trial']['id']}")["rev"])


def change_the_question(host, j):
    host.call("PATCH", f"/trials/{j['trial']['id']}", {"strength_policy": "matched", "factor": "coffee"}, rev=host.get(f"/trials/{j['trial']['id']}")["rev"])


def rename_a_setup(host, j):
    host.call("PATCH", f"/setups/{j['setups'][0]['id']}", {"name": "Plain"}, rev=j["setups"][0]["rev"])


def change_a_setup(host, j):
    host.call("PATCH", f"/setups/{j['setups'][1]['id']}", {"variables": {"temperature_c": 90, "brew_water_g": 300}}, rev=j["setups"][1]["rev"])


def rename_a_taster(host, j):
    host.call("PATCH", f"/people/{j['people'][0]}", {"name": "Adela"}, rev=1)


def change_the_bench(host, j):
    host.call("PATCH", "/bench", {"accuracy_pct": 0.1, "tolerance_g": 50}, rev=host.get("/bench")["rev"])


def brew_once_more(host, j):
    host.brew(j["trial"]["id"], j["setups"][0], tds=(1.5,))


def delete_the_flight(host, j):
    host.call("DELETE", f"/flights/{j['flight']['id']}")


def delete_the_flight_and_bring_it_back(host, j):
    gone = host.call("DELETE", f"/flights/{j['flight']['id']}")["change_id"]
    host.call("POST", f"/changes/{gone}/undo")


def add_a_sighted_flight(host, j):
    flight = host.flight(j["trial"]["id"], [j["runs"][0], j["runs"][2]], j["people"], blinding="open", attributes=[])
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=9 if c["letter"] == "A" else 2) for c in flight["cups"]))
    host.call("POST", f"/flights/{flight['id']}/close")


def change_the_question_itself(host, j):
    host.call("PATCH", f"/trials/{j['trial']['id']}", {"question": "Which mesh?"}, rev=host.get(f"/trials/{j['trial']['id']}")["rev"])


def log_a_brew_that_counts_for_nothing_and_delete_it(host, j):
    run = host.brew(j["trial"]["id"], j["setups"][0], tds=(1.5,))
    host.call("DELETE", f"/runs/{run['id']}")


def delete_a_brew_and_bring_it_back(host, j):
    run = host.brew(j["trial"]["id"], j["setups"][0], tds=(1.5,))
    gone = host.call("DELETE", f"/runs/{run['id']}")["change_id"]
    host.charts()  # in which it has no place
    host.call("POST", f"/changes/{gone}/undo")


def delete_a_setup_and_bring_it_back(host, j):
    delete_the_flight(host, j)
    gone = host.call("DELETE", f"/setups/{j['setups'][0]['id']}")["change_id"]
    host.charts()
    host.call("POST", f"/changes/{gone}/undo")


def add_a_reading(host, j):
    host.call("POST", f"/runs/{brew_of(host, j)['id']}/readings", {"tds_pct": 1.9})


CORRECTIONS = (
    change_the_question_itself, log_a_brew_that_counts_for_nothing_and_delete_it, delete_a_brew_and_bring_it_back, delete_a_setup_and_bring_it_back, add_a_reading,
    correct_marks, correct_marks_and_back, correct_masses, correct_times, correct_a_note, correct_a_reading, take_away_a_reading, correct_the_smallest_difference,
    change_the_question, rename_a_setup, change_a_setup, rename_a_taster, change_the_bench, brew_once_more, delete_the_flight,
    delete_the_flight_and_bring_it_back, add_a_sighted_flight,
)  # fmt: skip


@pytest.mark.parametrize("correct", share(CORRECTIONS, least=10), ids=lambda c: c.__name__)
def test_every_answer_is_the_same_after_what_is_kept_is_thrown_away(host, judged, correct):
    answers(host, judged["trial"]["id"])  # so that there is something to be stale
    correct(host, judged)
    holds_true(host, judged["trial"]["id"])


def test_a_discrimination_is_counted_anew_when_a_mark_is_corrected(host):
    trial, _, runs = host.two_setups_brewed(brews=1)
    people = [host.person(name) for name in ("Ada", "Bo", "Cy")]
    flight = host.flight(trial["id"], runs, people, method="triangle", rounds=2)
    marks_of = {m["mark"]: m for m in flight["marks"]}
    codes = {n: [c["code"] for c in flight["cups"] if c["round"] == n] for n in (1, 2)}
    key = {}
    for n, in_round in codes.items():
        key |= dict(zip(in_round, sorted(m for m, at in marks_of.items() if at["round"] == n), strict=True))
    odd = {n: _odd(in_round, key, marks_of) for n, in_round in codes.items()}
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(min(codes[n]), "pick", text=odd[n]) for n in codes))
    host.call("POST", f"/flights/{flight['id']}/close")
    wrong = {c: m for n, in_round in codes.items() for c, m in _rotated(in_round, key, odd[n]).items()}
    host.call("POST", f"/flights/{flight['id']}/flip", marks(wrong))
    assert [(t["correct"], t["n"]) for t in host.get(f"/trials/{trial['id']}/verdict")["told_apart"]] == [(0, 6)]
    host.call("POST", f"/flights/{flight['id']}/flip", marks(key))
    assert [(t["correct"], t["n"]) for t in host.get(f"/trials/{trial['id']}/verdict")["told_apart"]] == [(6, 6)]


def _odd(codes, key, marks_of):
    letters = Counter(marks_of[key[c]]["letter"] for c in codes)
    return next(c for c in codes if letters[marks_of[key[c]]["letter"]] == 1)


def _rotated(codes, key, odd):
    other = next(c for c in codes if c != odd)
    return {c: key[c] for c in codes} | {odd: key[other], other: key[odd]}


def test_the_list_says_what_the_verdict_says_after_there_and_back(host, judged):
    trial = judged["trial"]["id"]
    said = lambda: (host.get("/trials")["trials"][0]["headline"], host.get(f"/trials/{trial}/verdict")["blind"]["verdict"]["headline"])  # noqa: E731
    first = said()
    correct_marks(host, judged)
    assert len(set(said())) == 1 and said() != first
    correct_marks_and_back(host, judged)
    assert said() == first
    delete_the_flight(host, judged)
    assert host.get("/trials")["trials"][0]["headline"] is None


def test_a_verdict_nobody_looked_at_is_kept_all_the_same(host, judged):
    trial = judged["trial"]["id"]
    headline = host.get(f"/trials/{trial}/verdict")["blind"]["verdict"]["headline"]
    correct_marks_and_back(host, judged)  # the one between was never asked for
    after = host.get(f"/trials/{trial}/verdict")
    assert after["blind"]["verdict"]["headline"] == headline
    assert [e["headline"] for e in after["earlier"]] and after["earlier"][0]["headline"] != headline


def test_a_corrected_note_judges_nothing_again(host, judged, monkeypatch):
    from brasspenny.verdicts import attributes
    from brasspenny.verdicts import judged as judging

    answers(host, judged["trial"]["id"])
    for module, name in ((judging, "judge"), (attributes, "judge")):
        monkeypatch.setattr(module, name, lambda *_, **__: pytest.fail("judged again"))
    correct_a_note(host, judged)
    correct_masses(host, judged)  # the strengths beside the verdict move, the liking does not
    host.get(f"/trials/{judged['trial']['id']}/report")


def test_times_that_were_mended_are_off_plan_no_more(host):
    trial = host.ask()
    recipe = host.recipe("dose 18\nbloom to 45 until 0:40\npour to 290 by 1:45\ndrips stop")
    setup = host.setup(trial["id"], recipe_version_id=recipe["versions"][0]["id"])
    live = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"], "instrument": "none"})
    live = host.call("POST", f"/live-brews/{live['id']}/start", rev=live["rev"])
    poured = [step["index"] for step in live["steps"] if step["to_g"]]
    for index, at_s, reading in ((poured[0], 10, 45), (poured[1], 208, 290), (poured[1], 208, 290)):
        live = host.call("POST", f"/live-brews/{live['id']}/marks", {"kind": "step_done", "index": index, "at_s": at_s, "reading_g": reading}, rev=live["rev"])
    live = host.call("POST", f"/live-brews/{live['id']}/finish", {"total_time_s": 260, "beverage_g": 248}, rev=live["rev"])
    run = host.get(f"/trials/{trial['id']}/results")["runs"][0]
    assert len([x for x in run["off_plan"] if "late" in x]) == 1, "a step marked twice is off plan once"
    host.call("PATCH", f"/runs/{run['id']}", {"pour_end_s": 105, "total_time_s": 170}, rev=run["rev"])
    assert not [c for c in host.get(f"/trials/{trial['id']}/progress")["caveats"] if c["code"] == "off_plan"]


# --- few queries ---------------------------------------------------------------------------------------------------------------


@contextlib.contextmanager
def counted():
    """SQL statements sent meanwhile."""
    said, run = [], database.obj.execute_sql
    database.obj.execute_sql = lambda sql, *args, **kwargs: (said.append(sql), run(sql, *args, **kwargs))[1]
    try:
        yield said
    finally:
        database.obj.execute_sql = run


@pytest.mark.parametrize("path", ADDRESSES)
def test_no_address_of_a_trial_asks_for_more_than_a_handful_of_things(host, judged, path):
    address = f"/trials/{judged['trial']['id']}{path}"
    host.get(address)
    with counted() as said:
        host.get(address)
    assert len(said) <= MOST_QUERIES, "\n".join(said)


def test_more_brews_and_flights_are_no_more_queries(host, judged):
    trial = judged["trial"]["id"]
    host.get(f"/trials/{trial}/results")  # a device's first look is noted
    with counted() as few:
        host.get(f"/trials/{trial}/results")
    for _ in range(3):
        brew_once_more(host, judged)
        add_a_sighted_flight(host, judged)
    with counted() as many:
        host.get(f"/trials/{trial}/results")
    assert len(many) == len(few)


def test_one_module_reads_and_writes_which_brew_is_under_which_code():
    """Besides the tables themselves, only store/blind_keys.py joins a code to a brew. Whole benches go by their tables, and hold no flight that is not flipped."""
    package = Path(load_trial.__file__).parents[1]
    suspects = re.compile(r"FlightCup\.(run|mark)\b|flight_cup\b|cup\.run\b|FlightCup\.(create|update|insert)\([^)]*\b(run|mark)=")
    found = {
        str(p.relative_to(package))
        for p in package.rglob("*.py")
        if not {"migrations", "bench_files", "models.py", "backup.py"} & set(p.parts) and suspects.search(p.read_text())
    }
    assert found == {"store/blind_keys.py"}


# --- the value itself -------------------------------------------------------------------------------------------------------------


def test_the_value_holds_no_key_before_the_flip_and_no_answer_while_it_is_tasted(host):
    trial, _, runs = host.two_setups_brewed(brews=1)
    flight = host.flight(trial["id"], runs, [host.person("Ada"), host.person("Bo")], blinding="runner")
    host.score(flight["sheets"][0], host.touch(flight["cups"][0]["code"], value=7))

    def look():
        with database.connection_context():
            return load_trial.load(trial["id"]).flights[0]

    assert not look().answers and not look().key and look().seal.nonce is None
    host.call("POST", f"/flights/{flight['id']}/close")
    assert look().answers and not look().key and look().seal.nonce is None
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": []})
    assert set(look().key.values()) == set(runs) and look().seal.nonce


def test_equal_trials_have_equal_hashes_and_any_change_another(host, judged):
    def look():
        with database.connection_context():
            return fingerprint(load_trial.load(judged["trial"]["id"]))

    seen = [look()]
    assert look() == seen[0]
    for correct in (correct_a_note, rename_a_taster, change_the_bench, correct_marks):
        correct(host, judged)
        seen.append(look())
    assert len(set(seen)) == len(seen)


@pytest.mark.troubled
def test_judging_that_fails_after_a_write_never_fails_the_write(host, judged, monkeypatch, caplog):
    """A correction that was saved must not be answered as a failure: a phone would send it again, a person would type it again."""

    def fails(trial_id, act):
        raise RuntimeError("no memory")

    with monkeypatch.context() as broken:
        broken.setattr(lists, "settle", fails)
        correct_masses(host, judged)
    assert "judging trial" in caplog.text
    holds_true(host, judged["trial"]["id"])
