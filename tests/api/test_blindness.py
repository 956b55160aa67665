"""Blindness as a security property: before the flip, nothing that can be fetched depends on which brew stands under which code."""

import random
import re
from contextlib import contextmanager, nullcontext
from datetime import UTC, datetime

import pytest

from brasspenny.links import runner_token_of
from brasspenny.store.connection import database
from brasspenny.store.models import DamagedRow
from brasspenny.tasting import seals

from ..amount import NIGHTLY, share
from ..conftest import SECRET
from .described import DOCUMENT
from .host import Host, token
from .test_attachments import picture

EVERY_ADDRESS = [path for path, item in DOCUMENT["paths"].items() if "get" in item]
"""Every GET in the OpenAPI document, so that a new endpoint is crawled by default."""

ASKED = {"/api/v1/runs/{id}/aim": {"tds_pct": 1.4, "ey_pct": 20}, "/api/v1/flights/{id}/events": {"for_s": 0}, "/api/v1/drills": {"person_id": "nobody"}}
"""What some of them must be asked with."""
SLOW = {"/api/v1/kit/{id}/learnt"}
"""Seconds each, and nothing of a flight in them: crawled with the plain flights only."""
NOT_FOR_THEM = {"/api/v1/pour/{token}": 404, "/api/v1/shown/{token}": 404, "/api/v1/flights/{id}/runner-qr.svg": 404}
NOT_FOR_THEM |= dict.fromkeys(
    (
        "/api/v1/palate-sheet/{token}",
        "/api/v1/palate-pours/{token}",
        "/api/v1/palate-sessions/{id}/helper-qr.svg",
        "/api/v1/palate-seats/{id}/qr.svg",
        "/api/v1/drills/{id}",
    ),
    404,
)
"""What a taster or blind host is turned away from (the runner's code: once it is opened, and in other flights)."""


def crawl(host: Host, trial, flight, runner_token: str | None) -> dict[str, bytes]:
    """All bodies a blind host or taster can fetch about this trial and flight, with what they might try on the pour sheet."""
    ids = {"/trials/": trial["id"], "/flights/": flight["id"], "/sheets/": flight["sheets"][0]["id"]}
    ids |= {
        "/palate-sessions/": "nothing",
        "/palate-seats/": "nothing",
        "/drills/": "nothing",
        "/damaged-rows/": "damagedtrial",
        "/kit/": host.get("/kit")["items"][0]["id"],
        "/recipes/": host.get("/recipes")["recipes"][0]["id"],
    }
    ids["/live-brews/"] = host.get(f"/trials/{trial['id']}/live-brews")["brews"][0]["id"]
    ids["/photos/"] = host.get(f"/trials/{trial['id']}/photos")["photos"][0]["id"]
    ids["/runs/"] = host.get(f"/trials/{trial['id']}/results")["runs"][0]["id"]
    ids["/kit/"] = next(k["id"] for k in host.get("/kit")["items"] if k["kind"] == "brewer")
    out = {}
    plain = flight["method"] == "scores" and not flight["options"]["guess"] and len(flight["cups"]) == 4
    for template in EVERY_ADDRESS:
        if template in SLOW and not (NIGHTLY and plain and flight["status"] == "open"):
            continue
        filled = re.sub(r"\{token\}", token(flight["sheets"][0]), template)
        filled = re.sub(
            r"(/trials/|/runs/|/flights/|/sheets/|/kit/|/recipes/|/live-brews/|/photos/|/palate-sessions/|/palate-seats/|/drills/|/damaged-rows/)\{id\}",
            lambda m: m.group(1) + ids[m.group(1)],
            filled,
        )
        assert "{" not in filled, f"{template}: say here how to crawl it"
        listed = listed_as_damaged(trial["id"], ids["/damaged-rows/"]) if "damaged-rows" in template else nullcontext()
        with listed, counted() as statements:
            answer = host.client.get(filled, query_string=ASKED.get(template), headers={"Last-Event-ID": "0"})
        assert answer.status_code == NOT_FOR_THEM.get(template, 200), (filled, answer.data)
        out[template] = answer.data
        out[f"{template}, what it costs"] = b"%d statements" % len(statements)
    for i, sheet in enumerate(flight["sheets"]):
        out[f"sheet {i}"] = host.client.get(f"/api/v1/taste/{token(sheet)}").data
    for attempt in ("GET", "POST"):
        if runner_token:
            tried = host.client.open(f"/api/v1/pour/{runner_token}", method=attempt, headers={"X-Penny-Person": flight["sheets"][0]["person_id"]})
            assert tried.status_code in (404, 409), tried.data
            out[f"{attempt} the runner's link"] = tried.data
    out["pour sheet for the host"] = host.client.post(
        f"/api/v1/flights/{flight['id']}/pour-sheet", headers={"X-Penny-Person": flight["sheets"][0]["person_id"]}
    ).data
    for page in ("/", f"/trials/{trial['id']}/taste", f"/t/{token(flight['sheets'][0])}"):
        out[page] = host.client.get(page).data
    out["/api/v1/flights/{id}/events"] = _counted_from_one(out["/api/v1/flights/{id}/events"])
    return out


@contextmanager
def listed_as_damaged(trial_id: str, row_id: str):
    """As if the trial was set aside: what can be downloaded of it then."""
    with database.connection_context():
        DamagedRow.create(
            id=row_id,
            unit_kind="trial",
            unit_id=trial_id,
            name="it",
            kind="trial",
            row_key=trial_id,
            column="tags",
            why="it is odd",
            set_aside_at=datetime(2026, 1, 1, tzinfo=UTC),
        )
    yield
    with database.connection_context():
        DamagedRow.delete_by_id(row_id)


@contextmanager
def counted():
    """The statements asked of the database meanwhile: how long an answer takes goes by them, and can tell no more than they do."""
    asked, real = [], database.obj.execute_sql
    database.obj.execute_sql = lambda sql, *a, **k: (asked.append(sql), real(sql, *a, **k))[1]
    try:
        yield asked
    finally:
        del database.obj.execute_sql


def _counted_from_one(events: bytes) -> bytes:
    """The bench counts its events on from flight to flight."""
    first = int(re.search(rb"id: (\d+)", events).group(1))
    return re.sub(rb"\d+", lambda m: str(int(m.group()) - first).encode(), events.removeprefix(b"retry: 1500\n\n"))


HOWS = {
    "scores": {},
    "everything on the sheet": {"passes": ["hot", "warm"], "guess": True, "jar": ["body"], "sip_temperature": True, "cups": "clear", "attributes": ["aroma"]},
    "duplicate": {"twice": 1},
    "ranking": {"method": "ranking"},
    "triangle": {"method": "triangle", "rounds": 2},
    "duo-trio": {"method": "duo_trio", "rounds": 2},
    "tetrad": {"method": "tetrad"},
    "paired": {"method": "paired"},
}


CLOSED = [("scores", True), ("triangle", True)]
WHEN = CLOSED + share([(how, False) for how in HOWS], least=4)
"""Asked in every way while it is tasted (some of them by day); closed, not flipped, for the two kinds of answers."""


def tasted(make_app, order, *, close, blinding="shuffle", how="scores"):
    """One flight, built from the same seed and clock, whose brews are named in this order."""
    app = make_app()
    host = Host(app.test_client())
    host.seqs = iter(range(1, 10_000))
    trial = host.ask()
    recipe = host.recipe("18 g, 290 g at 93, bloom 45 for 40 s, then to 290 by 1:50, done by 2:45")
    a = host.setup(trial["id"], recipe_version_id=recipe["versions"][0]["id"])
    b = host.copy(a, filter="Thick crêpe")
    runs = [host.brew(trial["id"], s, tds=t)["id"] for s, t in ((a, [1.31]), (a, [1.34]), (b, [1.42]), (b, [1.45]))]
    host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": a["id"], "instrument": "simulated"})
    host.call("POST", f"/runs/{runs[0]}/photos", {"kind": "bed", "data": picture(8, 8)})
    people = [host.person(n) for n in ("Bo", "Iwan")]
    asked = dict(HOWS[how])
    if twice := asked.pop("twice", None):
        asked["duplicate_run_ids"] = [runs[twice]]
    flight = host.flight(trial["id"], [runs[i] for i in order], people, blinding=blinding, host_tastes=True, **asked)
    host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 61})
    host.call("POST", f"/flights/{flight['id']}/temperatures", {"cup_c": 55, "sure": True})
    uuids = random.Random(4)
    for sheet in flight["sheets"]:
        shown = host.get(f"/taste/{token(sheet)}")
        touches = [host.touch(r["cell"], "pick", text=",".join(r["codes"][: 2 if flight["method"] == "tetrad" else 1])) for r in shown["rounds"]]
        if not touches:
            attribute = "rank" if flight["method"] == "ranking" else "liking"
            touches = [host.touch(c["code"], attribute, value=1 + i) for i, c in enumerate(flight["cups"])]
        for touch in touches:
            touch["uuid"] = f"{uuids.getrandbits(32):08x}-0000-4000-8000-000000000000"
        host.score(sheet, *touches)
    if close:
        host.call("POST", f"/flights/{flight['id']}/close")
    return host, trial, flight


@pytest.mark.parametrize(("how", "close"), share([("duo-trio", False), ("everything on the sheet", False), ("duplicate", False), ("ranking", True)], least=2))
def test_no_byte_depends_on_what_is_poured_under_a_code(make_app, close, how):
    """In a shuffle the key is made by hands, out of sight. So the same seeded flight is asked for with its brews named in
    another order: codes, orders, ids, sheets and all that host and tasters fetch must not move by a byte."""
    first = crawl(*tasted(make_app, (0, 1, 2, 3), close=close, how=how), None)
    assert crawl(*tasted(make_app, (3, 2, 0, 1), close=close, how=how), None) == first


@pytest.mark.parametrize(("how", "close"), WHEN)
def test_no_byte_depends_on_a_runners_key_but_the_seals_hash(make_app, monkeypatch, close, how):
    """The same flight sealed twice, the key turned round: one runner opens it, and everybody else fetches the same bytes. The seal's
    hash is the one exception, and stands in compressed pages too, so here both flights are given the same one."""
    committed = []
    real = seals.core.commitment
    monkeypatch.setattr(seals.core, "commitment", lambda key, nonce: committed.append(real(key, nonce)) or "5ea1" * 16)

    def built(turn):
        monkeypatch.setattr(seals, "draw_key", lambda codes, marks, rng: dict(zip(codes, turn(marks), strict=True)))
        host, trial, flight = tasted(make_app, (0, 1, 2, 3), close=False, blinding="runner", how=how)
        runner_token = runner_token_of(SECRET, flight["id"])
        runner = Host(make_app_again(host))
        poured = runner.call("POST", f"/pour/{runner_token}")
        if close:
            host.call("POST", f"/flights/{flight['id']}/close")
        return crawl(host, trial, flight, runner_token), {c["code"]: c["label"] for c in poured["cups"]}

    first, key = built(lambda marks: marks)
    other, turned = built(lambda marks: marks[::-1])
    assert key != turned and len(set(committed)) == 2
    assert other == first


def make_app_again(host: Host):
    """Another browser on the same bench."""
    return host.client.application.test_client()


def test_a_tasters_sheet_names_no_setup_before_or_after_the_flip(make_app):
    host, _, flight = tasted(make_app, (0, 1, 2, 3), close=True)
    before = [host.client.get(f"/api/v1/taste/{token(s)}").data for s in flight["sheets"]]
    codes = [c["code"] for c in flight["cups"]]
    for marks in ((1, 2, 3, 4), (4, 3, 2, 1)):
        host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in zip(codes, marks, strict=True)]})
        assert [host.client.get(f"/api/v1/taste/{token(s)}").data for s in flight["sheets"]] == before
    for word in (b"weave", b"cr\xc3\xaape", b"A1", b"Which filter"):
        assert word not in before[0]


@pytest.mark.parametrize("blinding", ["shuffle", "runner"])
def test_the_database_itself_holds_no_readable_key_before_the_flip(make_app, blinding):
    _, _, flight = tasted(make_app, (0, 1, 2, 3), close=True, blinding=blinding)
    with database.connection_context():
        assert database.execute_sql("SELECT COUNT(*) FROM flight_cup WHERE run_id IS NOT NULL OR mark IS NOT NULL").fetchone() == (0,)
        assert database.execute_sql("SELECT COUNT(*) FROM flight_cup").fetchone() == (len(flight["cups"]),)
        for locked, nonce, code in database.execute_sql("SELECT locked_key, nonce, token_hash FROM seal").fetchall():
            assert nonce is None and flight["cups"][0]["code"] not in locked and runner_token_of(SECRET, flight["id"]) not in code


def test_a_taster_without_the_passphrase_reaches_their_own_sheet_and_nothing_else(make_app):
    tasted(make_app, (0, 1, 2, 3), close=False)
    locked = Host(make_app(on_network=True).test_client())
    for template in EVERY_ADDRESS:
        filled = re.sub(r"\{[a-z]+\}", "x", template)
        status = locked.client.get(filled).status_code
        open_to_all = template in ("/api/v1/health", "/api/v1/session") or template.startswith(
            ("/api/v1/taste/", "/api/v1/pour/", "/api/v1/shown/", "/api/v1/palate-sheet/", "/api/v1/palate-pours/")
        )
        assert (status != 401) == open_to_all, (template, status)
