"""One device, many hats, in every order: whoever tastes a flight never received its key before the flip."""

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from brasspenny.core.tasting.roles import DeviceSeen, TableSeated, may_see_key, may_taste, tastes
from brasspenny.links import runner_token_of
from brasspenny.request_hooks import DEVICE_COOKIE
from brasspenny.store import connection

from ..amount import examples
from ..conftest import SECRET
from .host import Host, token

DEVICES, PEOPLE = range(4), range(5)
device, person = st.sampled_from(DEVICES), st.sampled_from(PEOPLE)


def a_table(make_app):
    """(host, flight, runner token, people): three of five seated in a runner's flight, made by the fourth on device 0."""
    app = make_app()
    first = Host(app.test_client())
    trial, _, runs = first.two_setups_brewed(1)
    people = [first.person(f"P{i}") for i in PEOPLE]
    flight = first.call(
        "POST",
        f"/trials/{trial['id']}/flights",
        {"run_ids": runs, "taster_ids": people[:2], "blinding": "runner"},
        headers={"X-Penny-Person": people[3]},
    )
    return app, first, flight, runner_token_of(SECRET, flight["id"]), people


def another_flight(first, flight, people):
    """One without a key in which everybody sits: its links say whose phone it is that opens them."""
    return first.call("POST", f"/trials/{flight['trial_id']}/flights", {"run_ids": [b["run_id"] for b in flight["marks"]], "taster_ids": people})


class Hats(RuleBasedStateMachine):
    make_app = None

    @initialize()
    def lay_the_table(self):
        app, first, self.flight, self.runner, self.people = a_table(type(self).make_app)
        self.hosts = [first, *(Host(app.test_client()) for _ in DEVICES[1:])]
        self.other = another_flight(first, self.flight, self.people)
        self.had_key, self.tasted, self.bench = set(), set(), {0}
        self.theirs = {at: set() for at in DEVICES}  # whose links a device opened while it was not the bench's
        self.seated = {0, 1}
        self.you = {}

    def _call(self, at, method, path, body=None):
        headers = {"X-Penny-Person": self.people[self.you[at]]} if at in self.you else {}
        answer = self.hosts[at].client.open(f"/api/v1{path}", method=method, json=body, headers=headers)
        assert answer.status_code < 500, answer.data
        return answer

    def _key(self, at, answer):
        if answer.status_code == 200:
            assert not self.theirs[at] & self.seated, "a taster's phone was given the key"
            self.had_key.add(at)

    def _tasted(self, at, seat, answer):
        if answer.status_code == 200:
            shown = [d for d in self.had_key - self.bench if seat in self.theirs[d]]
            assert at in self.bench or not shown, "somebody tastes whose phone was given the key"
            self.tasted.add(at)
            if at not in self.bench:
                self.theirs[at].add(seat)

    @rule(at=device, who=st.none() | person)
    def say_who_you_are(self, at, who):
        self.you.pop(at, None)
        if who is not None:
            self.you[at] = who

    @rule(at=device)
    def open_the_bench(self, at):
        assert self._call(at, "GET", "/trials").status_code == 200
        self.bench.add(at)

    @rule(at=device)
    def log_out(self, at):
        """And come back: the device is who it was."""
        self._call(at, "DELETE", "/session")
        self.hosts[at].client.come_in()

    @rule(at=device, seat=st.sampled_from([0, 1]))
    def open_a_tasters_link(self, at, seat):
        self._tasted(at, seat, self._call(at, "GET", f"/taste/{token(self.flight['sheets'][seat])}"))

    @rule(at=device, who=person)
    def open_somebodys_link_of_another_flight(self, at, who):
        sheet = next(x for x in self.other["sheets"] if x["person_id"] == self.people[who])
        if self._call(at, "GET", f"/taste/{token(sheet)}").status_code == 200 and at not in self.bench:
            self.theirs[at].add(who)

    @rule(at=device, seat=st.sampled_from([0, 1]))
    def score(self, at, seat):
        touch = self.hosts[at].touch(self.flight["cups"][0]["code"], value=5)
        self._tasted(at, seat, self._call(at, "PUT", f"/taste/{token(self.flight['sheets'][seat])}/scores", {"scores": [touch]}))

    @rule(at=device)
    def open_the_runners_link(self, at):
        self._key(at, self._call(at, "POST", f"/pour/{self.runner}"))

    @rule(at=device)
    def look_at_the_pour_sheet_again(self, at):
        self._key(at, self._call(at, "GET", f"/pour/{self.runner}"))

    @rule(at=device)
    def pour_it_myself(self, at):
        self.bench.add(at)
        self._key(at, self._call(at, "POST", f"/flights/{self.flight['id']}/pour-sheet"))

    @rule(at=device, who=person)
    def seat_one_more(self, at, who):
        self.bench.add(at)
        if self._call(at, "POST", f"/flights/{self.flight['id']}/tasters", {"person_id": self.people[who]}).status_code < 300:
            assert not any(who in self.theirs[d] for d in self.had_key), "somebody is seated whose phone was given the key"
            self.seated.add(who)

    @rule(at=device)
    def say_the_host_tastes(self, at):
        self.bench.add(at)
        rev = self._call(at, "GET", f"/flights/{self.flight['id']}").get_json()["rev"]
        headers = {"If-Match": str(rev)} | ({"X-Penny-Person": self.people[self.you[at]]} if at in self.you else {})
        self.hosts[at].client.patch(f"/api/v1/flights/{self.flight['id']}", json={"host_tastes": True}, headers=headers)

    @invariant()
    def no_taster_ever_had_the_key(self):
        if hasattr(self, "had_key"):
            assert not (self.had_key & self.tasted) - self.bench  # the bench's own types in what stands on paper; what it saw is recorded

    @invariant()
    def what_the_bench_saw_is_recorded(self):
        if hasattr(self, "had_key") and self.had_key & self.bench:
            shown = self.hosts[0].get(f"/flights/{self.flight['id']}")
            assert shown["seal"]["seen_by_host_at"] is not None

    @invariant()
    def a_tasting_host_is_never_shown_the_link(self):
        if hasattr(self, "flight"):
            shown = self.hosts[0].get(f"/flights/{self.flight['id']}")
            assert not (shown["host_tastes"] and shown["seal"]["link"])


def test_whatever_a_device_was_in_whatever_order(make_app):
    Hats.make_app = staticmethod(make_app)
    machine = settings(max_examples=examples(20), stateful_step_count=14, deadline=None, suppress_health_check=list(HealthCheck))
    from hypothesis.stateful import run_state_machine_as_test

    run_state_machine_as_test(Hats, settings=machine)


@pytest.mark.parametrize(
    ("been", "table", "tasting", "sees", "may"),
    [
        (DeviceSeen(), TableSeated(frozenset("t")), False, True, True),
        (DeviceSeen(tasted=True), TableSeated(frozenset("t")), True, False, True),
        (DeviceSeen(people=frozenset("xt")), TableSeated(frozenset("t")), True, False, True),
        (DeviceSeen(bench=True), TableSeated(frozenset("t"), "h", True), True, False, True),
        (DeviceSeen(people=frozenset("h")), TableSeated(frozenset("t"), "h", True), True, False, True),
        (DeviceSeen(people=frozenset("h")), TableSeated(frozenset("t"), "h", False), False, True, True),
        (DeviceSeen(saw_key=True), TableSeated(frozenset("t")), False, True, False),
        (DeviceSeen(saw_key=True, bench=True), TableSeated(frozenset("t")), False, True, True),
    ],
)
def test_who_counts_as_tasting(been, table, tasting, sees, may):
    assert (tastes(been, table), may_see_key(been, table), may_taste(been)) == (tasting, sees, may)


def test_a_person_behind_a_link_counts_as_the_devices_own(make_app):
    """A phone opens a taster's link of another flight, then the pour sheet; or the other way round, and its owner tastes elsewhere."""
    app, host, flight, runner, people = a_table(make_app)
    links = {x["person_id"]: token(x) for x in another_flight(host, flight, people)["sheets"]}
    phone, clean = Host(app.test_client()), Host(app.test_client())
    phone.get(f"/taste/{links[people[0]]}")
    assert "uses this device" in phone.call("POST", f"/pour/{runner}", status=409)["title"]
    helper = Host(app.test_client())
    helper.call("POST", f"/pour/{runner}")
    helper.get(f"/taste/{links[people[1]]}")  # the helper's phone is in the hand of somebody who tastes
    assert "has shown what is poured" in clean.get(f"/taste/{token(flight['sheets'][1])}", status=409)["title"]
    clean.get(f"/taste/{token(flight['sheets'][0])}")
    helper.get(f"/pour/{runner}", status=404)
    helper.get(f"/taste/{links[people[4]]}")
    refused = host.call("POST", f"/flights/{flight['id']}/tasters", {"person_id": people[4]}, status=409)
    assert "shown what is poured" in refused["title"]


def test_a_taster_already_tasting_is_stopped_once_a_phone_of_theirs_was_shown_the_key(make_app):
    app, host, flight, runner, people = a_table(make_app)
    links = {x["person_id"]: token(x) for x in another_flight(host, flight, people)["sheets"]}
    mine, helper = Host(app.test_client()), Host(app.test_client())
    sheet, touch = token(flight["sheets"][0]), host.touch(flight["cups"][0]["code"], value=5)
    mine.call("PUT", f"/taste/{sheet}/scores", {"scores": [touch]})
    helper.call("POST", f"/pour/{runner}")
    helper.get(f"/taste/{links[people[0]]}")
    mine.call("PUT", f"/taste/{sheet}/scores", {"scores": [host.touch(flight["cups"][0]["code"], value=9)]}, status=409)


def test_a_sheet_and_the_key_asked_for_at_one_moment_are_never_both_given(make_app):
    app, host, flight, runner, _ = a_table(make_app)
    both = 0
    for _ in range(6):
        phones = [app.test_client(), app.test_client()]
        phones[0].get("/api/v1/health")
        cookie = phones[0].get_cookie(DEVICE_COOKIE)
        phones[1].set_cookie(DEVICE_COOKIE, cookie.value)
        asks = [("GET", f"/taste/{token(flight['sheets'][0])}"), ("POST", f"/pour/{runner}")]
        start = threading.Barrier(2)

        def ask(i, phones=phones, asks=asks, start=start):
            start.wait()
            return phones[i].open(f"/api/v1{asks[i][1]}", method=asks[i][0]).status_code

        with ThreadPoolExecutor(2) as pool:
            both += list(pool.map(ask, (0, 1))) == [200, 200]
        with connection.database.connection_context():
            connection.database.execute_sql("UPDATE seal SET device_hash = NULL")
    assert both == 0


def test_logging_out_and_calling_oneself_another_changes_nothing(make_app):
    app, host, flight, runner, people = a_table(make_app)
    phone = Host(app.test_client())
    phone.get("/people", headers={"X-Penny-Person": people[0]})  # used as a taster once
    phone.call("DELETE", "/session")
    phone.call("POST", f"/pour/{runner}", status=409, headers={"X-Penny-Person": people[4]})
    phone.call("POST", f"/pour/{runner}", status=409)
    taster = Host(app.test_client())
    taster.get(f"/taste/{token(flight['sheets'][1])}")
    taster.call("DELETE", "/session")
    taster.call("POST", f"/pour/{runner}", status=409)


def test_the_runners_phone_cannot_taste_and_its_owner_is_not_seated(make_app):
    app, host, flight, runner, people = a_table(make_app)
    phone = Host(app.test_client())
    phone.call("POST", f"/pour/{runner}", headers={"X-Penny-Person": people[4]})
    assert "blind" in phone.get(f"/taste/{token(flight['sheets'][0])}", status=409)["title"]
    phone.call("PUT", f"/taste/{token(flight['sheets'][0])}/scores", {"scores": [host.touch(flight["cups"][0]["code"], value=5)]}, status=409)
    assert "shown what is poured" in host.call("POST", f"/flights/{flight['id']}/tasters", {"person_id": people[4]}, status=409)["title"]


def test_a_runners_link_opened_on_the_benchs_own_device_is_before_the_hosts_eyes(make_app):
    app, host, flight, runner, _ = a_table(make_app)
    host.call("POST", f"/pour/{runner}")
    assert host.get(f"/flights/{flight['id']}")["seal"]["seen_by_host_at"] is not None
    host.call("PATCH", f"/flights/{flight['id']}", {"host_tastes": True}, rev=flight["rev"], status=409)


def test_a_runners_phone_that_later_opens_the_bench_is_recorded_too(make_app):
    app, host, flight, runner, _ = a_table(make_app)
    phone = Host(app.test_client())
    phone.call("POST", f"/pour/{runner}")
    assert host.get(f"/flights/{flight['id']}")["seal"]["seen_by_host_at"] is None
    phone.get("/trials")
    assert host.get(f"/flights/{flight['id']}")["seal"]["seen_by_host_at"] is not None
