"""Undo keeps the rules of the rooms; labels are given once; a form saved unchanged writes nothing; names are free again once deleted."""

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from brasspenny.demo import scenario
from brasspenny.store.connection import database

from ..amount import examples
from .host import Host
from .test_frozen_trial import _timeless, answers, forget


def brew_of(host, trial, label):
    found = host.get(f"/trials/{trial['id']}/results")
    return next(r for r in (*found["runs"], *found["dial_ins"]) if r["label"] == label)


def newest_change(host, trial, action, entity):
    return next(c["id"] for c in host.get(f"/trials/{trial['id']}/history")["changes"] if (c["action"], c["entity"]) == (action, entity))


# --- labels -----------------------------------------------------------------------------------------------------------------------


def test_a_label_is_never_given_twice(host):
    trial, (a, b), _ = host.two_setups_brewed(brews=1)
    first = brew_of(host, trial, "A1")
    host.call("PATCH", f"/runs/{first['id']}", {"purpose": "dial_in"}, rev=first["rev"])
    assert host.brew(trial["id"], a)["number"] == 2 and host.brew(trial["id"], a)["number"] == 3
    back = brew_of(host, trial, "A dial-in 1")
    host.call("PATCH", f"/runs/{back['id']}", {"purpose": "evidence"}, rev=back["rev"])
    labels = [r["label"] for r in host.get(f"/trials/{trial['id']}/results")["runs"]]
    assert len(labels) == len(set(labels)) and "A1" not in labels


def test_the_screen_and_the_store_agree_on_the_next_label(host):
    trial, (_, b), _ = host.two_setups_brewed(brews=1)
    host.call("DELETE", f"/runs/{brew_of(host, trial, 'B1')['id']}")
    shown = next(s for s in host.get(f"/trials/{trial['id']}/setups")["setups"] if s["letter"] == "B")["next_brew"]
    live = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": b["id"]})
    assert shown == live["number"] == host.brew(trial["id"], b)["number"] == 2


def test_the_letter_of_a_brewed_setup_is_not_given_to_another(host):
    trial, (a, b), _ = host.two_setups_brewed(brews=1)
    host.call("DELETE", f"/setups/{b['id']}")
    assert host.copy(a, filter="Steel mesh")["letter"] == "C"
    unbrewed = host.copy(a, filter="Cloth")
    host.call("DELETE", f"/setups/{unbrewed['id']}")
    assert host.copy(a, filter="Felt")["letter"] == unbrewed["letter"]


# --- undo -------------------------------------------------------------------------------------------------------------------------


def test_undo_over_a_later_edit_of_the_same_field_is_refused_with_both(host):
    trial = host.ask("First wording?")
    host.call("PATCH", f"/trials/{trial['id']}", {"question": "Second?", "smallest_difference": 1}, rev=1)
    change = newest_change(host, trial, "update", "trial")
    host.call("PATCH", f"/trials/{trial['id']}", {"question": "Third?"}, rev=2)
    refused = host.call("POST", f"/changes/{change}/undo", status=409)
    assert (refused["current"]["question"], refused["yours"]["question"]) == ("Third?", "First wording?")
    assert host.get(f"/trials/{trial['id']}")["question"] == "Third?"


def test_undo_over_a_later_edit_of_another_field_keeps_that_edit(host):
    trial = host.ask("First wording?")
    host.call("PATCH", f"/trials/{trial['id']}", {"question": "Second?"}, rev=1)
    change = newest_change(host, trial, "update", "trial")
    host.call("PATCH", f"/trials/{trial['id']}", {"smallest_difference": 2}, rev=2)
    host.call("POST", f"/changes/{change}/undo")
    after = host.get(f"/trials/{trial['id']}")
    assert (after["question"], after["smallest_difference"]) == ("First wording?", 2)


def test_undo_cannot_do_what_the_room_would_refuse(host):
    trial, (a, _), runs = host.two_setups_brewed(brews=1)
    made = {kind: newest_change(host, trial, "create", kind) for kind in ("run", "setup")}
    dial_in = host.brew(trial["id"], a, purpose="dial_in")
    host.call("PATCH", f"/runs/{dial_in['id']}", {"purpose": "evidence"}, rev=1)
    to_evidence = newest_change(host, trial, "update", "run")
    host.flight(trial["id"], [*runs, dial_in["id"]], [host.person("Ada")])
    for change in (*made.values(), to_evidence):  # a brew in a flight stays, its setup stays, and it stays evidence
        assert "flight" in host.call("POST", f"/changes/{change}/undo", status=409)["title"]


def test_a_brew_comes_back_only_with_its_setup(host):
    trial, (_, b), (_, run) = host.two_setups_brewed(brews=1)
    gone = host.call("DELETE", f"/runs/{run}")["change_id"]
    setup_gone = host.call("DELETE", f"/setups/{b['id']}")["change_id"]
    host.call("POST", f"/changes/{gone}/undo", status=404)
    host.call("POST", f"/changes/{setup_gone}/undo")
    host.call("POST", f"/changes/{gone}/undo")
    assert brew_of(host, trial, "B1")["id"] == run


def test_a_flight_comes_back_only_with_its_brews(host):
    trial, _, runs = host.two_setups_brewed(brews=1)
    flight = host.flight(trial["id"], runs, [host.person("Ada")])
    gone = host.call("DELETE", f"/flights/{flight['id']}")["change_id"]
    brew_gone = host.call("DELETE", f"/runs/{runs[0]}")["change_id"]
    assert "brews were deleted" in host.call("POST", f"/changes/{gone}/undo", status=409)["title"]
    host.call("POST", f"/changes/{brew_gone}/undo")
    host.call("POST", f"/changes/{gone}/undo")
    assert len(host.get(f"/trials/{trial['id']}/flights")["flights"]) == 1


def test_one_change_is_undone_once_and_what_is_deleted_is_deleted_once(host):
    trial, _, runs = host.two_setups_brewed(brews=1)
    gone = host.call("DELETE", f"/runs/{runs[0]}")["change_id"]
    host.call("DELETE", f"/runs/{runs[0]}", status=404)
    host.call("POST", f"/changes/{gone}/undo")
    host.call("POST", f"/changes/{gone}/undo", status=409)


def test_what_was_changed_of_something_deleted_is_not_undone_behind_its_back(host):
    trial, _, runs = host.two_setups_brewed(brews=1)
    host.call("PATCH", f"/runs/{runs[0]}", {"note": "slow"}, rev=1)
    change = newest_change(host, trial, "update", "run")
    host.call("DELETE", f"/runs/{runs[0]}")
    assert "deleted since" in host.call("POST", f"/changes/{change}/undo", status=409)["title"]


# --- unchanged --------------------------------------------------------------------------------------------------------------------


def test_saving_what_was_shown_writes_nothing(host):
    trial, (a, _), runs = host.two_setups_brewed(brews=1)
    host.call("PATCH", f"/runs/{runs[0]}", {"total_time_s": 165.4, "pour_end_s": 99.9, "observed": {"bed": ["flat"]}}, rev=1)
    run = brew_of(host, trial, "A1")
    shown = {
        n: run[n] for n in ("dose_g", "brew_water_g", "bypass_g", "beverage_g", "pour_end_s", "total_time_s", "moisture_pct", "note", "concentrate", "observed")
    }
    item = next(k for k in host.get("/kit")["items"] if k["kind"] == "filter")
    asked = {n: trial[n] for n in ("question", "factor", "factor_other", "further_factors", "strength_policy", "smallest_difference")}
    before = len(host.get(f"/trials/{trial['id']}/history")["changes"])
    host.call("PATCH", f"/runs/{runs[0]}", shown, rev=run["rev"])
    host.call("PATCH", f"/trials/{trial['id']}", asked, rev=trial["rev"])
    host.call("PATCH", f"/setups/{a['id']}", {"variables": a["variables"]}, rev=a["rev"])
    assert len(host.get(f"/trials/{trial['id']}/history")["changes"]) == before
    assert brew_of(host, trial, "A1")["total_time_s"] == 165.4 and brew_of(host, trial, "A1")["observed"]["stopped_first_s"] is None
    again = host.call("PATCH", f"/kit/{item['id']}", {"name": item["name"], "filter": item["filter"]}, rev=item["rev"])
    assert again["rev"] == item["rev"]


# --- names --------------------------------------------------------------------------------------------------------------------------


def test_a_name_freed_by_deletion_is_free(host):
    old = host.call("POST", "/kit", {"kind": "filter", "name": "Crêpe", "filter": {"price_each": 9}})
    other = host.call("POST", "/kit", {"kind": "filter", "name": "Weave"})
    gone = host.call("DELETE", f"/kit/{old['id']}")["change_id"]
    host.call("PATCH", f"/kit/{other['id']}", {"name": "Crêpe"}, rev=1)
    assert "already" in host.call("POST", f"/changes/{gone}/undo", status=409)["title"]
    new = host.call("POST", "/kit", {"kind": "filter", "name": "Weave"})
    assert new["id"] not in (old["id"], other["id"]) and new["filter"]["price_each"] is None


def test_two_grinders_may_each_have_burrs_of_one_name(host):
    mills = [host.call("POST", "/kit", {"kind": "grinder", "name": name})["id"] for name in ("Windlass", "Capstan")]
    for mill in mills:
        host.call("POST", "/kit", {"kind": "burr_set", "name": "flat", "burr_set": {"grinder_id": mill}})
    refused = host.call("POST", "/kit", {"kind": "burr_set", "name": "flat", "burr_set": {"grinder_id": mills[0]}}, status=409)
    assert refused["errors"][0]["field"] == "name"


def test_an_integrity_error_says_which_thing_is_taken(app):
    """Straight at the keys, as when two write at once and no check sees the other."""
    import peewee

    from brasspenny import request_hooks

    answer = app.error_handler_spec[None][None][peewee.IntegrityError]
    with app.test_request_context("/api/v1/kit"):
        taken = answer(peewee.IntegrityError(1062, "Duplicate entry 'filter//Crêpe' for key 'kit_item_live_name'")).get_json()
        same = answer(peewee.IntegrityError(1062, "Duplicate entry 'x' for key 'setup_revision_number'")).get_json()
        gone = answer(peewee.IntegrityError(1452, "a foreign key constraint fails")).get_json()
        with pytest.raises(peewee.IntegrityError):
            answer(peewee.IntegrityError(1048, "Column 'name' cannot be null"))
    assert taken["errors"][0]["field"] == "name" and same["title"] == request_hooks.SAME_MOMENT[1] and "not there any more" in gone["title"]


# --- also found ---------------------------------------------------------------------------------------------------------------------


def test_a_flight_takes_no_brew_of_a_deleted_setup(host):
    trial, (a, b), runs = host.two_setups_brewed(brews=1)
    c = host.copy(a, filter="Steel mesh")
    third = host.brew(trial["id"], c)["id"]
    host.call("DELETE", f"/setups/{b['id']}")
    body = {"run_ids": [*runs, third], "taster_ids": [host.person("Ada")]}
    assert host.call("POST", f"/trials/{trial['id']}/flights", body, status=422)["errors"][0]["field"] == "run_ids"


@pytest.mark.parametrize("begun", ["loose brew", "recipe", "kit", "setting"])
def test_the_demo_is_never_laid_over_what_somebody_has_begun(host, begun):
    with database.connection_context():
        assert scenario.bench_is_empty()
    match begun:
        case "loose brew":
            host.call("POST", "/loose-runs", {"variables": {"dose_g": 18, "brew_water_g": 290}, "beverage_g": 250})
        case "recipe":
            host.recipe("dose 18\npour to 290 by 1:30\ndrips stop")
        case "kit":
            host.call("POST", "/kit", {"kind": "coffee", "name": "Lot 3"})
        case "setting":
            host.call("PATCH", "/bench", {"altitude_m": 400}, rev=1)
    with database.connection_context():
        assert not scenario.bench_is_empty()


# --- all of it together ------------------------------------------------------------------------------------------------------------------


class OneTrial(RuleBasedStateMachine):
    """Log, correct, delete, undo, change purpose, pour and taste in any order: labels stay unique, a brew in a flight stays, and what is
    kept stays true."""

    app = None  # given by the test below

    def __init__(self):
        super().__init__()
        self.host = Host(self.app().test_client())
        self.trial = self.host.ask()
        first = self.host.setup(self.trial["id"])
        self.setups = [first, self.host.copy(first, filter="Thick crêpe")]
        self.people = [self.host.person(name) for name in ("Ada", "Bo")]
        self.given: set[tuple[str, str]] = set()
        self.flown: set[str] = set()

    def tried(self, method, path, body=None, rev=None) -> int:
        """Whatever is asked, it is done or refused in words; never a 500."""
        headers = {"If-Match": str(rev)} if rev is not None else {}
        answer = self.host.client.open(f"/api/v1{path}", method=method, json=body, headers=headers)
        assert answer.status_code in (200, 201, 404, 409, 422), answer.get_data(as_text=True)
        return answer.status_code

    def results(self):
        found = self.host.get(f"/trials/{self.trial['id']}/results")
        return [*found["runs"], *found["dial_ins"]]

    def one(self, pick):
        brews = self.results()
        return brews[pick % len(brews)] if brews else None

    @rule(which=st.integers(0, 1), purpose=st.sampled_from(["evidence", "dial_in"]), beverage=st.integers(230, 260))
    def log(self, which, purpose, beverage):
        setup = self.setups[which]
        if self.tried("POST", f"/trials/{self.trial['id']}/runs", {"setup_id": setup["id"], "dose_g": 18, "brew_water_g": 290, "beverage_g": beverage, "purpose": purpose, "tds_readings_pct": [1.4]}) == 201:  # fmt: skip
            newest = max((r for r in self.results() if r["letter"] == setup["letter"] and r["purpose"] == purpose), key=lambda r: r["number"])
            assert (newest["label"], purpose) not in self.given, "a label was given twice"
            self.given.add((newest["label"], purpose))

    @rule(
        pick=st.integers(0, 50),
        change=st.sampled_from([{"note": "slow"}, {"beverage_g": 240}, {"beverage_g": 900}, {"purpose": "dial_in"}, {"purpose": "evidence"}]),
    )
    def correct(self, pick, change):
        if run := self.one(pick):
            done = self.tried("PATCH", f"/runs/{run['id']}", change, rev=run["rev"])
            assert done == 200 or "beverage_g" in change or run["id"] in self.flown

    @rule(pick=st.integers(0, 50))
    def delete_a_brew(self, pick):
        if run := self.one(pick):
            done = self.tried("DELETE", f"/runs/{run['id']}")
            assert (done == 409) == (run["id"] in self.flown)

    @rule(pick=st.integers(0, 300))
    def undo_something(self, pick):
        changes = [c for c in self.host.get(f"/trials/{self.trial['id']}/history")["changes"] if c["entity"] != "trial"]
        self.tried("POST", f"/changes/{changes[pick % len(changes)]['id']}/undo")

    @precondition(lambda self: not self.flown)
    @rule(flip=st.booleans())
    def pour_and_taste(self, flip):
        runs = [r["id"] for r in self.results() if r["purpose"] == "evidence"][:6]
        body = {"run_ids": runs, "taster_ids": self.people, "attributes": []}
        if len(runs) < 2 or self.tried("POST", f"/trials/{self.trial['id']}/flights", body) != 201:
            return
        flight = self.host.get(f"/trials/{self.trial['id']}/flights")["flights"][-1]
        if flip:
            self.host.taste(flight, lambda mark, taster: 4 + mark % 4)

    @rule(pick=st.integers(0, 5))
    def delete_a_flight(self, pick):
        flights = self.host.get(f"/trials/{self.trial['id']}/flights")["flights"]
        if flights:
            self.tried("DELETE", f"/flights/{flights[pick % len(flights)]['id']}")

    @invariant()
    def labels_are_unique_and_flown_brews_are_there(self):
        brews = self.results()
        labels = [r["label"] for r in brews]
        assert len(labels) == len(set(labels))
        flights = self.host.get(f"/trials/{self.trial['id']}/flights")["flights"]
        self.flown = {m["run_id"] for f in flights for m in f["marks"]}
        assert self.flown <= {r["id"] for r in brews if r["purpose"] == "evidence"}
        self.given |= {(r["label"], r["purpose"]) for r in brews}

    def teardown(self):
        kept = answers(self.host, self.trial["id"])
        forget()
        assert _timeless(answers(self.host, self.trial["id"])) == kept


def test_holding_equal_writes_down_the_declaration_it_ends_and_undo_brings_it_back(host):
    trial = host.ask()
    a = host.setup(trial["id"], grind_setting="5.5")
    host.copy(a, filter="Thick crêpe", grind_setting="6")
    host.call("POST", f"/trials/{trial['id']}/declarations", {"field": "grind_setting", "rule": "brew_time", "reason": "to 2:50"})
    held = host.call("POST", f"/trials/{trial['id']}/hold", {"field": "grind_setting", "letter": "A"}, status=200)
    assert next(b for b in held["bars"] if b["field"] == "grind_setting")["kind"] == "held"
    changes = host.get(f"/trials/{trial['id']}/history")["changes"]
    ended = next(c for c in changes if c["action"] == "hold")
    assert ended["before"] == {"field": "grind_setting", "rule": "brew_time", "reason": "to 2:50"}
    made_equal = next(c for c in changes if c["entity"] == "setup" and c["action"] == "update")
    host.call("POST", f"/changes/{made_equal['id']}/undo")
    bar = next(b for b in host.get(f"/trials/{trial['id']}/setups")["bars"] if b["field"] == "grind_setting")
    assert bar["kind"] == "declared", bar


def test_whatever_is_done_in_whatever_order_the_rules_hold(make_app):
    OneTrial.app = staticmethod(make_app)
    case = OneTrial.TestCase
    case.settings = settings(max_examples=examples(20), stateful_step_count=14, deadline=None, suppress_health_check=list(HealthCheck))
    case().runTest()
