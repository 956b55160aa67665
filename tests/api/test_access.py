"""Who may come in: the passphrase whatever the address, sessions that end, guesses that are counted."""

import ipaddress
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest

from brasspenny import cli
from brasspenny.bench import sessions
from brasspenny.bench.service import set_passphrase
from brasspenny.store import connection
from brasspenny.store.models import Bench

from ..conftest import NOW
from .host import Host

RIGHT = "correct horse"


@pytest.fixture
def locked(make_app):
    """A bench that asks everybody for its passphrase."""
    app = make_app(on_network=True)
    with connection.database.connection_context():
        set_passphrase(RIGHT, NOW)
    return app


def let_in(app, **client) -> Host:
    host = Host(app.test_client(**client))
    host.call("POST", "/session", {"passphrase": RIGHT})
    return host


def test_a_locked_bench_opens_with_its_passphrase_only(locked):
    host = Host(locked.test_client())
    assert host.get("/session")["locked"]
    host.get("/trials", status=401)
    host.call("POST", "/calc/brew-ratio", {}, status=401)
    host.call("POST", "/session", {"passphrase": "wrong horse"}, status=401)
    host.call("POST", "/session", {"passphrase": RIGHT})
    assert not host.get("/session")["locked"]
    host.get("/trials")
    cookie = host.client.get_cookie(locked.config["SESSION_COOKIE_NAME"])
    assert cookie.http_only and cookie.same_site == "Strict" and cookie.expires is not None
    kept = cookie.value
    host.call("DELETE", "/session")
    host.get("/trials", status=401)
    host.client.set_cookie(locked.config["SESSION_COOKIE_NAME"], kept)
    host.get("/trials", status=401)  # a cookie kept aside opens nothing once its session is ended


OVER_LOOPBACK = [
    ("127.0.0.1", {"Host": "localhost:8765"}),
    ("::1", {"Host": "[::1]:8765"}),
    ("127.0.0.1", {"Host": "127.0.0.1:8765"}),  # just as a proxy that rewrites the name and adds nothing passes it on
]
FROM_ELSEWHERE = [
    ("192.168.1.20", {"Host": "192.168.1.5:8765"}),
    ("127.0.0.1", {"Host": "bench.example"}),
    ("127.0.0.1", {"Host": "localhost", "X-Forwarded-For": "203.0.113.9"}),
    ("127.0.0.1", {"Host": "127.0.0.1:8765", "Forwarded": "for=203.0.113.9"}),
    ("127.0.0.1", {"Host": "127.0.0.1:8765", "Via": "1.1 door"}),
    ("192.168.1.20", {"Host": "localhost", "X-Forwarded-For": "127.0.0.1"}),
]


@pytest.mark.parametrize(("address", "headers"), [*OVER_LOOPBACK, *FROM_ELSEWHERE])
def test_where_a_request_comes_from_lets_nobody_in(locked, address, headers):
    answer = locked.test_client().get("/api/v1/trials", headers=headers, environ_base={"REMOTE_ADDR": address})
    assert answer.status_code == 401, answer.data


def a_key() -> str:
    with connection.database.connection_context():
        return sessions.make_key(NOW)


@pytest.mark.parametrize(("address", "headers"), OVER_LOOPBACK)
def test_the_key_that_the_start_command_prints_lets_one_browser_of_this_machine_in(locked, address, headers):
    first, second, key = locked.test_client(), locked.test_client(), a_key()
    give = {"json": {"key": key}, "headers": headers, "environ_base": {"REMOTE_ADDR": address}}
    assert first.post("/api/v1/session", **give).get_json()["locked"] is False
    assert first.get("/api/v1/trials", headers=headers).status_code == 200
    assert second.post("/api/v1/session", **give).status_code == 401, "it opens once"
    assert second.get("/api/v1/trials", headers=headers).status_code == 401


@pytest.mark.parametrize(("address", "headers"), FROM_ELSEWHERE)
def test_from_elsewhere_the_key_opens_nothing(locked, address, headers):
    answer = locked.test_client().post("/api/v1/session", json={"key": a_key()}, headers=headers, environ_base={"REMOTE_ADDR": address})
    assert answer.status_code == 401


def test_a_key_of_an_earlier_start_and_an_empty_one_open_nothing(locked):
    old = a_key()
    a_key()
    for body in ({"key": old}, {"key": "x" * 32}, {"key": ""}, {}):
        assert locked.test_client().post("/api/v1/session", json=body).status_code == 401


def test_a_trusted_proxy_is_believed_and_no_other_is(make_app):
    """Through it the asker's own address counts: asked for the passphrase, and guesses counted for them and not for the proxy."""
    app = make_app(trusted_proxies=(ipaddress.ip_network("127.0.0.1"),), on_network=True)
    with connection.database.connection_context():
        set_passphrase(RIGHT, NOW)
    through = {"X-Forwarded-For": "198.51.100.7, 203.0.113.9", "X-Forwarded-Host": "bench.example", "X-Forwarded-Proto": "https"}
    assert app.test_client().get("/api/v1/trials", headers=through).status_code == 401
    host = Host(app.test_client())
    assert host.client.post("/api/v1/session", json={"passphrase": RIGHT}, headers=through).status_code == 200
    shown = host.client.get("/api/v1/sessions", headers=through).get_json()["sessions"]
    assert [(s["address"], s["this_device"]) for s in shown] == [("203.0.113.9", True)]


def test_guesses_are_counted_for_an_address_however_many_come_at_once(locked):
    def guess(i):
        return locked.test_client().post("/api/v1/session", json={"passphrase": f"wrong {i}"}, environ_base={"REMOTE_ADDR": "192.0.2.7"}).status_code

    with ThreadPoolExecutor(12) as pool:
        answers = list(pool.map(guess, range(24)))
    assert set(answers) == {401, 429} and answers.count(401) <= sessions.GUESSES
    assert locked.test_client().post("/api/v1/session", json={"passphrase": RIGHT}, environ_base={"REMOTE_ADDR": "192.0.2.7"}).status_code == 429
    let_in(locked)  # another address is not held up by them
    locked.config["CLOCK"].at += timedelta(minutes=2)
    assert locked.test_client().post("/api/v1/session", json={"passphrase": RIGHT}, environ_base={"REMOTE_ADDR": "192.0.2.7"}).status_code == 200


def test_guesses_of_many_addresses_together_are_slowed_and_nobody_who_is_in_notices(locked, monkeypatch):
    inside = let_in(locked)
    waited = []
    monkeypatch.setattr(sessions.time, "sleep", waited.append)
    for i in range(sessions.FREE_GUESSES + 20):
        if i in range(3, sessions.FREE_GUESSES + 17):  # as many again of other addresses, without the work of a check
            with connection.database.connection_context():
                sessions.PassphraseGuess.create(address=f"198.51.100.{i}", at=locked.config["CLOCK"]())
            continue
        asker = {"REMOTE_ADDR": f"198.51.100.{i}"}
        assert locked.test_client().post("/api/v1/session", json={"passphrase": "wrong"}, environ_base=asker).status_code == 401
    inside.get("/trials")
    assert waited[:3] == [0] * 3 and waited == sorted(waited) and waited[3] > 0.1
    assert locked.test_client().post("/api/v1/session", json={"passphrase": RIGHT}, environ_base={"REMOTE_ADDR": "203.0.113.1"}).status_code == 200


def test_a_network_of_the_long_addresses_is_one_asker(locked):
    ask = lambda i: locked.test_client().post("/api/v1/session", json={"passphrase": "x"}, environ_base={"REMOTE_ADDR": f"2001:db8:1:2::{i}"})  # noqa: E731
    assert [ask(i).status_code for i in range(1, 8)] == [401] * sessions.GUESSES + [429] * 2


def test_only_at_the_bench_itself_a_scale_of_its_own_machine_is_named(locked):
    far = let_in(locked)
    far.client.environ_base["REMOTE_ADDR"] = "192.168.1.20"
    body = {"scale_address": "127.0.0.1:7070"}
    refused = far.call("PATCH", "/bench", body, rev=far.get("/bench")["rev"], status=422)
    assert refused["errors"][0]["field"] == "scale_address"
    far.call("PATCH", "/bench", {"scale_address": "192.168.77.200:7070"}, rev=far.get("/bench")["rev"])


def test_sessions_are_seen_and_ended_and_end_by_themselves(locked):
    here, there = let_in(locked), let_in(locked)
    shown = here.get("/sessions")["sessions"]
    assert [s["this_device"] for s in sorted(shown, key=lambda s: s["since"])] == [True, False]
    other = next(s["id"] for s in shown if not s["this_device"])
    here.call("DELETE", f"/sessions/{other}")
    there.get("/trials", status=401)
    here.call("DELETE", f"/sessions/{other}", status=404)
    here.get("/trials")
    locked.config["CLOCK"].at += sessions.LASTS
    here.get("/trials", status=401)


def test_a_new_passphrase_locks_every_device(locked):
    here, there = let_in(locked), let_in(locked)
    with connection.database.connection_context():
        set_passphrase("another horse", NOW)
    here.get("/trials", status=401)
    there.get("/trials", status=401)
    Host(locked.test_client()).call("POST", "/session", {"passphrase": RIGHT}, status=401)


def test_a_cookie_made_up_or_of_another_kind_opens_nothing(locked):
    with locked.test_client() as client:
        for made_up in (True, 1, {"host": True}, "x" * 32, ["a"]):
            with client.session_transaction() as held:
                held.clear()
                held["let_in"], held["host"] = made_up, True
            assert client.get("/api/v1/trials").status_code == 401


@pytest.mark.parametrize("path", ["/..%2fpyproject.toml", "/..%2f..%2fetc%2fpasswd", "/..%2fnot-there.toml", "/%2e%2e/package.json", "/..%5cx"])
def test_an_address_says_nothing_of_which_files_exist(app, path):
    assert app.test_client().get(path).status_code == 404
    assert app.test_client().get("/..%2fpackage").data == app.test_client().get("/..%2fnowhere").data


def test_a_passphrase_changed_while_the_old_one_is_looked_at_lets_nobody_in(locked, monkeypatch):
    real = sessions._checked

    def changed_meanwhile(passphrase):
        right = real(passphrase)
        set_passphrase("another horse", NOW)
        return right

    monkeypatch.setattr(sessions, "_checked", changed_meanwhile)
    host = Host(locked.test_client())
    host.call("POST", "/session", {"passphrase": RIGHT}, status=401)
    host.get("/trials", status=401)


def test_strangers_fill_no_table(locked):
    """Guesses are forgotten after some minutes, and people an asker makes up are not written down."""
    for i in range(8):
        locked.test_client().get("/api/v1/trials", headers={"X-Penny-Person": f"madeup{i:06d}"})
        locked.test_client().post("/api/v1/session", json={"passphrase": "wrong"}, environ_base={"REMOTE_ADDR": f"192.0.2.{i}"})
        locked.config["CLOCK"].at += sessions.REMEMBERED
    with connection.database.connection_context():
        counts = {
            table: connection.database.execute_sql(f"SELECT COUNT(*) FROM {table}").fetchone()[0]
            for table in ("device_person", "passphrase_guess", "bench_device")
        }
    assert counts == {"device_person": 0, "passphrase_guess": 1, "bench_device": 0}


def test_a_proxy_that_is_no_address_is_said_before_anything_starts(monkeypatch, capsys):
    monkeypatch.setenv("PENNY_TRUSTED_PROXIES", "127.0.0.1 front-door")
    assert cli.main(["serve"]) == 2
    said = capsys.readouterr().err
    assert "front-door" in said and "10.0.0.0/24" in said


def test_only_a_start_command_at_this_machine_can_open_a_bench_to_the_network(host, app, monkeypatch):
    """Nobody can where none stands behind it; where one does, nobody from elsewhere, no proxy, and no script. It has a passphrase from then on, told once, and the host stays let in."""
    asked = []
    assert host.get("/reach")["may_open"] is False
    host.call("POST", "/open-to-network", {}, status=403)
    monkeypatch.setenv("PENNY_OPENS_AT", "http://192.0.2.7:8765")
    monkeypatch.setattr("brasspenny.bench.routes.opening.ask", lambda: asked.append(True))
    away = {"environ_overrides": {"REMOTE_ADDR": "192.0.2.9"}}
    client = host.client
    assert client.post("/api/v1/open-to-network", json={}, **away).status_code in (401, 403)
    assert client.post("/api/v1/open-to-network", json={}, headers={"X-Forwarded-For": "192.0.2.9"}).status_code in (401, 403)
    token = host.call("POST", "/script-tokens", {"name": "a script", "may_write": True}, status=201)["token"]
    assert app.test_client().post("/api/v1/open-to-network", json={}, headers={"Authorization": f"Bearer {token}"}).status_code == 403
    assert not asked and Bench.get_by_id(1).passphrase_hash is None
    made = host.call("POST", "/open-to-network", {}, status=202)
    assert made["link"] == "http://192.0.2.7:8765/" and len(made["passphrase"].split("-")) == 5 and asked == [True]
    assert host.get("/bench")["name"]
    assert host.call("POST", "/open-to-network", {}, status=202)["passphrase"] == ""
