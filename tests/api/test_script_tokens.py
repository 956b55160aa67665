"""A script shows a token: it reads, or writes, and never decides who comes in; what was taken back is refused at once."""

import pytest

from brasspenny.act import Act
from brasspenny.bench import schemas as s
from brasspenny.bench import tokens
from brasspenny.store import connection
from brasspenny.store.seen_devices import ScriptToken

from .host import Host


def bearer(token):
    return {"Authorization": f"Bearer {token}"}


def made(host, **how):
    return host.call("POST", "/script-tokens", {"name": "my notebook"} | how, status=201)


def test_a_token_is_shown_once_and_kept_as_a_hash(host):
    token = made(host)
    assert token["token"].startswith("bp_") and len(token["token"]) > 30
    listed = host.get("/script-tokens")["tokens"]
    assert [t["name"] for t in listed] == ["my notebook"] and "token" not in listed[0] and listed[0]["used_at"] is None
    with connection.database.connection_context():
        assert token["token"] not in str([row.__data__ for row in ScriptToken.select()])


def test_a_reading_token_reads_and_never_writes(host):
    token = made(host)["token"]
    assert host.client.get("/api/v1/brews", headers=bearer(token)).status_code == 200
    assert host.client.get("/api/v1/openapi.json", headers=bearer(token)).status_code == 200
    answer = host.client.post("/api/v1/people", json={"name": "Bo"}, headers=bearer(token))
    assert answer.status_code == 403 and "may read and not write" in answer.get_json()["title"]
    assert host.get("/people")["people"] == [] and host.get("/script-tokens")["tokens"][0]["used_at"] is not None


def test_a_writing_token_posts_readings(host):
    _, _, runs = host.two_setups_brewed()
    token = made(host, may_write=True)["token"]
    assert host.client.post(f"/api/v1/runs/{runs[0]}/readings", json={"tds_pct": 1.42}, headers=bearer(token)).status_code == 201


@pytest.mark.parametrize("token", ["", "bp_", "bp_" + "x" * 32, "é" * 10, "x" * 5000])
def test_a_token_that_is_none_opens_nothing_not_even_at_this_machine(host, token):
    made(host)
    assert host.client.get("/api/v1/brews", headers={"Authorization": f"Bearer {token}".encode().decode("latin-1")}).status_code == 401


def test_one_that_was_taken_back_is_refused_at_once(host):
    token = made(host)
    host.call("DELETE", f"/script-tokens/{token['id']}")
    assert host.client.get("/api/v1/brews", headers=bearer(token["token"])).status_code == 401
    assert host.get("/script-tokens")["tokens"] == []
    host.call("DELETE", f"/script-tokens/{token['id']}", status=404)


@pytest.mark.parametrize(
    ("method", "path"), [("GET", "/script-tokens"), ("POST", "/script-tokens"), ("GET", "/sessions"), ("DELETE", "/sessions/x"), ("POST", "/sample-bench")]
)
def test_no_script_decides_who_comes_in(host, method, path):
    token = made(host, may_write=True)["token"]
    got = host.client.open(f"/api/v1{path}", method=method, json={"name": "x"} if method == "POST" else None, headers=bearer(token))
    assert got.status_code == 403


def test_it_lets_a_script_in_where_a_passphrase_is_asked_for(make_app):
    app = make_app(on_network=True)
    host = Host(app.test_client())
    assert host.client.get("/api/v1/brews").status_code == 401
    with connection.database.connection_context():
        token = tokens.make(s.ScriptTokenBody(name="notebook"), Act(None, app.config["CLOCK"](), app.config["RNG"])).token
    assert host.client.get("/api/v1/brews", headers=bearer(token)).status_code == 200
    assert host.client.get("/api/v1/brews").status_code == 401


@pytest.mark.parametrize("name", ["", "  ", "x" * 81])
def test_a_token_needs_a_name(host, name):
    assert host.call("POST", "/script-tokens", {"name": name}, status=422)["errors"][0]["field"] == "name"


def test_a_scripts_answer_sets_no_cookie_and_a_token_that_is_none_says_so(host):
    token = made(host)["token"]
    fresh = host.client.application.test_client()
    answer = fresh.get("/api/v1/brews", headers=bearer(token))
    assert answer.status_code == 200 and "Set-Cookie" not in answer.headers
    refused = fresh.get("/api/v1/brews", headers=bearer(token + "x"))
    assert (refused.status_code, refused.headers["WWW-Authenticate"]) == (401, 'Bearer realm="bench"')
    assert "not known here, or was withdrawn" in refused.get_json()["title"] and "Set-Cookie" not in refused.headers


@pytest.mark.parametrize("shape", ["{}", '"{}"', 'W/"{}"'])
def test_a_revision_goes_out_as_an_etag_and_comes_back_in_any_usual_shape(host, shape):
    answer = host.client.get("/api/v1/bench")
    rev = answer.get_json()["rev"]
    assert answer.headers["ETag"] == f'"{rev}"'
    changed = host.client.patch("/api/v1/bench", json={"name": "Lightship"}, headers={"If-Match": shape.format(rev)})
    assert changed.status_code == 200, changed.get_json()
    assert host.client.patch("/api/v1/bench", json={"name": "x"}, headers={"If-Match": '"one"'}).status_code == 422
