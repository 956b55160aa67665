"""Blindness as a security property: before the flip, nothing that can be fetched depends on which brew stands under which code."""

import json
import random
import re

import pytest

from brasspenny.openapi import document

from .host import Host, token

EVERY_ADDRESS = [path for path, item in json.loads(document())["paths"].items() if "get" in item]
"""Every GET in the OpenAPI document, so that a new endpoint is crawled by default."""


ASKED = {"/api/v1/runs/{id}/aim": {"tds_pct": 1.4, "ey_pct": 20}}
"""What some of them must be asked with."""


def crawl(host: Host, trial, flight) -> dict[str, bytes]:
    """All bodies a host or taster can fetch about this trial and flight."""
    ids = {"/trials/": trial["id"], "/flights/": flight["id"], "/sheets/": flight["sheets"][0]["id"]}
    ids |= {"/kit/": host.get("/kit")["items"][0]["id"], "/recipes/": host.get("/recipes")["recipes"][0]["id"]}
    ids["/live-brews/"] = host.get(f"/trials/{trial['id']}/live-brews")["brews"][0]["id"]
    ids["/runs/"] = host.get(f"/trials/{trial['id']}/results")["runs"][0]["id"]
    ids["/kit/"] = next(k["id"] for k in host.get("/kit")["items"] if k["kind"] == "brewer")
    out = {}
    for template in EVERY_ADDRESS:
        filled = re.sub(r"\{token\}", token(flight["sheets"][0]), template)
        filled = re.sub(r"(/trials/|/runs/|/flights/|/sheets/|/kit/|/recipes/|/live-brews/)\{id\}", lambda m: m.group(1) + ids[m.group(1)], filled)
        assert "{" not in filled, f"{template}: say here how to crawl it"
        answer = host.client.get(filled, query_string=ASKED.get(template))
        assert answer.status_code == 200, (filled, answer.data)
        out[template] = answer.data
    for i, sheet in enumerate(flight["sheets"]):
        out[f"sheet {i}"] = host.client.get(f"/api/v1/taste/{token(sheet)}").data
    return out


def tasted(make_app, order, *, close):
    """One flight, built from the same seed and clock, whose brews are poured in this order under the codes."""
    app = make_app()
    host = Host(app.test_client())
    host.seqs = iter(range(1, 10_000))
    trial = host.ask()
    recipe = host.recipe("18 g, 290 g at 93, bloom 45 for 40 s, then to 290 by 1:50, done by 2:45")
    a = host.setup(trial["id"], recipe_version_id=recipe["versions"][0]["id"])
    b = host.copy(a, filter="Thick crêpe")
    runs = [host.brew(trial["id"], s, tds=t)["id"] for s, t in ((a, [1.31]), (a, [1.34]), (b, [1.42]), (b, [1.45]))]
    host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": a["id"], "instrument": "simulated"})
    people = [host.person(n) for n in ("Bo", "Iwan")]
    flight = host.flight(trial["id"], [runs[i] for i in order], people)
    uuids = random.Random(4)
    for sheet in flight["sheets"]:
        for cup in flight["cups"]:
            uid = f"{uuids.getrandbits(32):08x}-0000-4000-8000-000000000000"
            host.score(sheet, host.touch(cup["code"], value=6, uid=uid))
    if close:
        host.call("POST", f"/flights/{flight['id']}/close")
    return host, trial, flight


@pytest.mark.parametrize("close", [False, True], ids=["while tasting", "closed, not flipped"])
def test_no_byte_depends_on_what_is_poured_under_a_code(make_app, close):
    """In a shuffle the key is made by hands, out of sight. So the same seeded flight is asked for with its brews named in
    every other order: codes, orders, ids, sheets and all that host and tasters fetch must not move by a byte."""
    first = crawl(*tasted(make_app, (0, 1, 2, 3), close=close))
    for order in ((3, 2, 1, 0), (1, 0, 3, 2)):
        assert crawl(*tasted(make_app, order, close=close)) == first


def test_a_tasters_sheet_names_no_setup_before_or_after_the_flip(make_app):
    host, trial, flight = tasted(make_app, (0, 1, 2, 3), close=True)
    before = [host.client.get(f"/api/v1/taste/{token(s)}").data for s in flight["sheets"]]
    codes = [c["code"] for c in flight["cups"]]
    for marks in ((1, 2, 3, 4), (4, 3, 2, 1)):
        host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in zip(codes, marks, strict=True)]})
        assert [host.client.get(f"/api/v1/taste/{token(s)}").data for s in flight["sheets"]] == before
    for word in (b"weave", b"cr\xc3\xaape", b"A1", b"Which filter"):
        assert word not in before[0]


def test_the_database_itself_holds_no_key_before_the_flip(make_app):
    from brasspenny.store.connection import database

    _, _, flight = tasted(make_app, (0, 1, 2, 3), close=True)
    with database.connection_context():
        assert database.execute_sql("SELECT COUNT(*) FROM flight_cup WHERE run_id IS NOT NULL").fetchone() == (0,)
        assert database.execute_sql("SELECT COUNT(*) FROM flight_cup").fetchone() == (len(flight["cups"]),)


def test_a_taster_without_the_passphrase_reaches_their_own_sheet_and_nothing_else(make_app):
    host, _, flight = tasted(make_app, (0, 1, 2, 3), close=False)
    locked = Host(make_locked(make_app).test_client())
    for template in EVERY_ADDRESS:
        filled = re.sub(r"\{[a-z]+\}", "x", template)
        status = locked.client.get(filled).status_code
        open_to_all = template.startswith(("/api/v1/health", "/api/v1/session", "/api/v1/taste/"))
        assert (status != 401) == open_to_all, (template, status)


def make_locked(make_app):
    return make_app(passphrase_needed=True)
