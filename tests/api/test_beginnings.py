"""Beginning a trial: the first setups at once, from another trial, from a sample bench beside the bench's own."""

import pytest

from brasspenny.store import connection
from brasspenny.store.connection import database
from brasspenny.store.seen_devices import BenchDevice, DevicePerson

from .host import NEW_KIT

SHARED = {"dose_g": 18, "brew_water_g": 290, "temperature_c": 93}


def first(host, trial_id, setups, *, status=201, **more):
    body = {"variables": SHARED, "setups": setups, "new_kit": NEW_KIT} | more
    return host.call("POST", f"/trials/{trial_id}/setups/first", body, status=status)


def test_two_setups_are_made_at_once_and_everything_else_is_held(host):
    trial = host.ask()
    made = first(host, trial["id"], [{"variables": {"filter": "White weave"}}, {"variables": {"filter": "Grey felt"}}], new_kit=[])
    assert [(x["letter"], x["name"]) for x in made["setups"]] == [("A", "White weave"), ("B", "Grey felt")]
    assert {b["field"]: b["kind"] for b in made["bars"]} == {
        "filter": "tested",
        "temperature_c": "held",
        "brew_ratio": "held",
        "dose_g": "held",
        "brew_water_g": "held",
    }
    assert host.get(f"/trials/{trial['id']}/progress")["next_action"] == "Log the first brew"


def test_a_ratio_brings_its_water(host):
    trial = host.ask("1:15 or 1:17?", "ratio")
    made = first(host, trial["id"], [{"brew_ratio": "1:15"}, {"brew_ratio": "17"}], variables={"dose_g": 18})
    assert [x["variables"]["brew_water_g"] for x in made["setups"]] == [270, 306]


def test_what_is_refused_stands_at_its_field_and_leaves_nothing_half_done(host):
    trial = host.ask()
    cases = (
        ([{"variables": {"filter": "White weave"}}, {"variables": {"filter": "White weave"}}], {}, "setups.1.variables"),
        ([{"brew_ratio": "lots"}], {}, "setups.0.brew_ratio"),
        ([{"variables": {"filter": "White weave"}}], {"variables": {"dose_g": 18}}, "variables.brew_water_g"),
        ([{"brew_ratio": "1:15"}], {"variables": {"brew_water_g": 290}}, "variables.dose_g"),
    )
    for setups, more, field in cases:
        if field:
            errors = first(host, trial["id"], setups, status=422, **more)["errors"]
            assert [e["field"] for e in errors] == [field], errors
            assert host.get(f"/trials/{trial['id']}/setups")["setups"] == []
    first(host, trial["id"], [{"variables": {"filter": "White weave"}}])
    refused = first(host, trial["id"], [{"variables": {"filter": "Grey felt"}}], status=409)
    assert "first setups already" in refused["detail"] or "first setups already" in refused["errors"][0]["reason"]


def test_a_new_trial_can_begin_with_what_the_last_one_held(host):
    before = host.ask()
    first(host, before["id"], [{"variables": {"filter": "White weave"}}, {"variables": {"filter": "Grey felt"}}], variables=SHARED | {"coffee": "Peru washed"})
    host.ask("Asked and never set up", "water")
    trial = host.ask("How hot?", "temperature")
    held = host.get(f"/trials/{trial['id']}/held-before")["before"]
    assert held["number"] == before["number"]
    assert held["variables"] == {"coffee": "Peru washed", "dose_g": 18, "brew_water_g": 290}, "neither what was tested there nor what is tested here"


def test_a_duplicate_asks_the_same_of_the_same_setups_and_has_no_brew(host):
    trial = host.ask(smallest_difference=0.75)
    a, b = first(host, trial["id"], [{"variables": {"filter": "White weave"}}, {"variables": {"filter": "Grey felt", "grind_setting": "6"}}])["setups"]
    host.call("POST", f"/trials/{trial['id']}/declarations", {"field": "grind_setting", "rule": "brew_time", "reason": "to 2:50"})
    host.brew(trial["id"], a)
    copy = host.call("POST", f"/trials/{trial['id']}/duplicate")
    assert (copy["question"], copy["smallest_difference"], copy["number"]) == (trial["question"], 0.75, trial["number"] + 1)
    was, now = host.get(f"/trials/{trial['id']}/setups"), host.get(f"/trials/{copy['id']}/setups")
    assert now["bars"] == was["bars"]
    assert [x["runs"] for x in now["setups"]] == [0, 0] and [x["runs"] for x in was["setups"]] == [1, 0]
    assert not {x["id"] for x in now["setups"]} & {x["id"] for x in was["setups"]}


def test_a_question_is_guessed_from_its_words_and_from_the_kit(host):
    trial = host.ask()
    first(host, trial["id"], [{"variables": {"filter": "White weave"}}, {"variables": {"filter": "Grey felt"}}])
    assert host.get("/trials/guess?question=White weave or grey felt?") == {"factor": "filter", "further_factors": [], "options": ["White weave", "Grey felt"]}
    assert host.get("/trials/guess?question=Is it worth it?") == {"factor": None, "further_factors": [], "options": []}


def test_a_sample_bench_lies_beside_and_is_no_part_of_the_bench(host, sample_of_nothing):
    """Also where an earlier one was begun and its maker was killed: that one is not entered, and made anew."""
    own = host.ask("My own question?")
    host.client.set_cookie("penny_bench", "sample")
    assert host.get("/sample-bench") == {"exists": False, "in_sample": False}
    assert [t["question"] for t in host.get("/trials")["trials"]] == ["My own question?"]
    try:
        assert host.call("POST", "/sample-bench") == {"exists": True, "in_sample": True}
        assert host.get("/session")["in_sample"] is True
        shown = host.get("/trials")["trials"]
        assert len(shown) >= 5 and own["id"] not in {t["id"] for t in shown}
        host.get("/trials", headers={"X-Penny-Person": host.get("/people")["people"][0]["id"]})
        with database.connection_context():
            connection.enter_sample()
            mine = BenchDevice.select(BenchDevice.device)
            assert mine.count() == 1 and DevicePerson.select().where(DevicePerson.device.in_(mine)).count() == 1, "what a device has been is known there"
        host.call("POST", "/trials", {"question": "Asked in the sample", "factor": "filter"})
        tasted = next(t for t in shown if t["next_action"].startswith("Taste the open flight"))
        links = [sheet["link"] for f in host.get(f"/trials/{tasted['id']}/flights")["flights"] for sheet in f["sheets"] if sheet["link"]]
        assert links and all(link.endswith("?bench=sample") for link in links)
        stranger = type(host)(host.client.application.test_client())
        page = stranger.client.get(links[0])  # the page itself is only there where the interface is built
        assert "penny_bench=sample" in ";".join(page.headers.getlist("Set-Cookie"))
        token = links[0].split("/t/")[1].split("?")[0]
        assert stranger.get(f"/taste/{token}"), "the link brought the device to the sample"
        host.call("PATCH", "/sample-bench", {"in_sample": False})
        assert [t["question"] for t in host.get("/trials")["trials"]] == ["My own question?"]
        host.call("PATCH", "/sample-bench", {"in_sample": True})
        assert "Asked in the sample" in {t["question"] for t in host.get("/trials")["trials"]}
    finally:
        assert host.call("DELETE", "/sample-bench") == {"exists": False, "in_sample": False}
    assert [t["question"] for t in host.get("/trials")["trials"]] == ["My own question?"]
    assert stranger.get("/trials")["trials"][0]["id"] == own["id"], "whoever was in it is on the bench's own"


@pytest.fixture
def sample_of_nothing(app):
    """A database that was begun as the sample bench's and not laid out: its maker was killed."""
    with database.connection_context():
        database.execute_sql(f"CREATE DATABASE `{connection.sample_name()}`")
    yield
    with database.connection_context():
        database.execute_sql(f"DROP DATABASE IF EXISTS `{connection.sample_name()}`")


def where() -> str:
    return database.execute_sql("SELECT DATABASE()").fetchone()[0]


def test_a_connection_goes_home_however_it_is_given_back(app, sample_of_nothing):
    """A stream gives its request's connection back early: whoever gets it next must not find themselves on the sample bench."""
    database.connect(reuse_if_open=True)
    own = where()
    connection.turn_to_sample()
    assert where() == connection.sample_name()
    database.close()
    database.connect()
    assert where() == own
    database.close()


def test_a_newer_program_brings_the_sample_up_to_date_with_the_bench(app, sample_of_nothing):
    with database.connection_context():
        connection.enter_sample()
        database.execute_sql("CREATE TABLE laid_out (one INT)")
    assert connection.migrate() == [], "the bench's own is up to date"
    with database.connection_context():
        connection.enter_sample()
        assert "photo" in {row[0] for row in database.execute_sql("SHOW TABLES").fetchall()}
