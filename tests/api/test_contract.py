"""The contract: the OpenAPI document and the types made from it are current; no input gives a 500; the tables are as said."""

import json
import re
import subprocess
import sys
from collections import defaultdict
from pathlib import Path

import peewee
import pytest
from flask import request
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import BaseModel

from brasspenny import openapi
from brasspenny.config import PROJECT
from brasspenny.openapi import lists, words
from brasspenny.request_hooks import GIVEN_TWICE, _lost_to_another, bound_body
from brasspenny.store.connection import database
from brasspenny.store.grinding import GRINDING
from brasspenny.store.models import ALL, Table
from brasspenny.store.palate import PALATE
from brasspenny.store.seen_devices import DOORS

from ..amount import examples
from .driven import Driver, fault
from .host import Host, token

WEB = PROJECT / "web"


def test_the_openapi_document_is_current():
    made = subprocess.run(
        [sys.executable, "-c", "from brasspenny.openapi import document; print(document(), end='')"], capture_output=True, text=True, check=True
    )
    assert (WEB / "openapi.json").read_text() == made.stdout, "run npm run types in web/"


def test_the_interfaces_lists_are_those_of_the_core():
    assert (WEB / "src/api/vocabulary.ts").read_text() == lists(), "run npm run types in web/"
    assert (WEB / "src/api/glossary.ts").read_text() == words(), "run npm run types in web/"


def test_the_types_made_from_it_are_current(tmp_path):
    made = tmp_path / "schema.d.ts"
    node = Path(PROJECT / ".venv/bin/node")
    tool = WEB / "node_modules/openapi-typescript/bin/cli.js"
    subprocess.run([node, tool, WEB / "openapi.json", "-o", made, "--default-non-nullable=false"], check=True, capture_output=True, cwd=WEB)
    assert made.read_text() == (WEB / "src/api/schema.d.ts").read_text(), "run: npm run types in web/"


def test_model_names_are_unique():
    """Two models of one name overwrite each other silently in the document."""
    import importlib

    modules = sorted(p.relative_to(PROJECT / "src").with_suffix("").as_posix().replace("/", ".") for p in (PROJECT / "src/brasspenny").glob("*/*schemas.py"))
    seen = {}
    for room in modules:
        module = importlib.import_module(room)
        for name, value in vars(module).items():
            if isinstance(value, type) and value.__module__ == module.__name__:
                assert name not in seen, f"{name} is in {seen[name]} and {room}"
                seen[name] = room


def test_every_operation_documents_its_answer():
    for path, item in json.loads((WEB / "openapi.json").read_text())["paths"].items():
        for method, operation in item.items():
            has_schema = any("content" in r and r["content"] for code, r in operation["responses"].items() if code.startswith("2"))
            assert has_schema, f"{method} {path}"


anything = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**20), 10**20) | st.floats() | st.text(max_size=30) | st.just("a" * 5000),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)


def writes():
    doc = json.loads((WEB / "openapi.json").read_text())  # held current by the first test here
    for path, item in doc["paths"].items():
        for method, operation in item.items():
            if method in ("post", "put", "patch"):
                ref = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {}).get("$ref", "")
                fields = list(doc["components"]["schemas"].get(ref.rsplit("/", 1)[-1], {}).get("properties", {}))
                yield method.upper(), path, fields


def things_to_write_to(host: Host) -> dict[str, str]:
    trial, (setup, _), runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, [host.person("Bo")])
    reading = host.get(f"/trials/{trial['id']}/results")["runs"][0]["readings"][0]["id"]
    change = host.get(f"/trials/{trial['id']}/history")["changes"][0]["id"]
    ids = {"trials": trial["id"], "setups": setup["id"], "runs": runs[0], "readings": reading, "changes": change, "flights": flight["id"]}
    made = host.call("POST", f"/trials/{trial['id']}/run-sheet", {})["sheet"]["id"]
    ids |= {"kit": host.get("/kit")["items"][0]["id"], "recipes": host.recipe("18 g, pour to 288 g, drips stop")["id"], "run-sheets": made}
    ids["live-brews"] = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"], "instrument": "simulated"})["id"]
    ids["instrument-checks"] = host.call("POST", "/instrument-checks", {"read_pct": 0.01})["checks"][0]["id"]
    return ids | {"sheets": flight["sheets"][0]["id"], "people": flight["sheets"][0]["person_id"], "token": token(flight["sheets"][0])}


WRITES = list(writes())


@settings(max_examples=examples(160), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_no_input_gives_a_500(app, data):
    """Bodies made of the right field names with anything in them, on every write, to things that are really there."""
    if "IDS" not in app.config:
        app.config["IDS"] = things_to_write_to(Host(app.test_client()))
    method, path, fields = data.draw(st.sampled_from(WRITES))
    body = data.draw(anything | st.dictionaries(st.sampled_from(fields), anything, max_size=len(fields)) if fields else anything)
    person = data.draw(st.sampled_from(["", "x", "é", "a" * 12, "nobodyhere12"]))
    headers = {"If-Match": data.draw(st.sampled_from(["1", "x", "", "99999999999999999999", "-1"]))} | ({"X-Penny-Person": person} if person.isascii() else {})
    there = app.config["IDS"].get(path.split("/")[3], "nothinghere1")
    filled = (
        path.replace("{id}", data.draw(st.sampled_from([there, "nothinghere1"]))).replace("{token}", app.config["IDS"]["token"]).replace("{field}", "dose_g")
    )
    try:
        raw = json.dumps(body)
    except ValueError:
        return
    answer = app.test_client().open(filled, method=method, data=raw, content_type="application/json", headers=headers)
    assert answer.status_code < 500, (method, path, raw[:300], answer.get_data(as_text=True))


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("/api/v1/trials/abc/rail", "/api/v1/trials/abc/progress"),
        ("/api/v1/charts?coffee=Peru", None),
        ("/api/v1/chart-room?coffee=Peru%20washed", "/api/v1/charts?coffee=Peru%20washed"),
        ("/api/v1/find?text=weave", "/api/v1/search?text=weave"),
        ("/api/v1/sample", "/api/v1/sample-bench"),
        ("/chart-room", "/charts"),
        ("/along/abc", "/live-brews/abc"),
    ],
)
def test_a_renamed_address_redirects_with_its_query(app, old, new):
    answer = app.test_client().open(old, method="GET")
    assert (answer.status_code == 308 and answer.headers["Location"] == new) if new else answer.status_code == 200


def test_a_method_that_is_not_there_says_which_are(app):
    answer = app.test_client().delete("/api/v1/trials")
    assert answer.status_code == 405 and {"GET", "POST"} <= set(answer.headers["Allow"].replace(" ", "").split(","))


def test_writes_from_another_site_and_other_host_names_are_refused(make_app):
    client = make_app(trusted_hosts=("localhost",)).test_client()
    body = {"question": "?", "factor": "ratio"}
    assert client.post("/api/v1/trials", json=body, headers={"Origin": "http://evil.example"}).status_code == 403
    assert client.post("/api/v1/trials", json=body, headers={"Origin": "http://localhost"}).status_code == 201
    assert client.get("/api/v1/health", headers={"Host": "evil.example"}).status_code == 400


def test_pages_carry_a_strict_policy_and_no_source_maps(app):
    client = app.test_client()
    page = client.get("/trials/x/set-up")
    assert (
        page.status_code == 200
        and "script-src" not in page.headers["Content-Security-Policy"]
        and "default-src 'self'" in page.headers["Content-Security-Policy"]
    )
    assert client.get("/assets/../../pyproject.toml").status_code == 404
    assert not list((WEB / "dist").rglob("*.map"))


def test_the_tables_are_innodb_utf8mb4_and_have_the_models_columns(app):
    with database.connection_context():
        for model in (*ALL, *GRINDING, *PALATE):
            table = model._meta.table_name
            columns = {row[0]: row[1] for row in database.execute_sql(f"SHOW COLUMNS FROM `{table}`").fetchall() if "GENERATED" not in row[5]}
            assert set(columns) == {f.column_name for f in model._meta.sorted_fields}, table
            made = database.execute_sql(f"SHOW CREATE TABLE `{table}`").fetchone()[1]
            assert "ENGINE=InnoDB" in made and "utf8mb4" in made, table
        types = {r[0]: r[1] for r in database.execute_sql("SHOW COLUMNS FROM run").fetchall()}
        assert (types["dose_g"], types["temperature_c"], types["brewed_at"]) == ("decimal(9,3)", "decimal(5,2)", "datetime(6)")
        assert "STRICT_ALL_TABLES" in database.execute_sql("SELECT @@sql_mode").fetchone()[0]
        assert database.execute_sql("SELECT @@time_zone").fetchone()[0] == "+00:00"


SLOW = frozenset({"/api/v1/kit/{id}/learnt", "/api/v1/live-brews/{id}/readings", "/api/v1/flights/{id}/events", "/api/v1/sample-bench"})
"""Seconds each, for a whole bench is made or the simulator taught, or for as long as somebody listens: called by tests of their own."""


def test_made_up_calls_of_every_operation_are_answered_by_the_document(app):
    driver = Driver(things_to_write_to(Host(app.test_client())), seed=20)
    faults = []
    for method, template, how, op in driver.calls(examples(3000), leave_out=SLOW):
        try:
            answer = app.test_client().open(method=method, **how)
        except UnicodeEncodeError:  # the client itself cannot send it
            continue
        except Exception as error:
            faults.append((repr(error)[:300], method, template, {k: str(v)[:400] for k, v in how.items()}))
            continue
        if said := fault(method, how, op, answer):
            faults.append((said, method, template, {k: str(v)[:300] for k, v in how.items()}, answer.get_data(as_text=True)[:200]))
    assert not faults, "\n".join(map(str, faults[:10]))


@pytest.mark.parametrize("when", ["0001-01-01T00:00:00Z", "9999-12-31T23:59:59.999999Z", "1969-12-31T23:59:59-12:00", "2200-01-01T00:00:00Z"])
def test_a_time_at_the_ends_of_time_is_refused_at_its_field(app, when):
    host = Host(app.test_client())
    trial, (setup, _), _ = host.two_setups_brewed(1)
    for path, body, field in (
        (f"/trials/{trial['id']}/runs", {"setup_id": setup["id"], "dose_g": 18, "brew_water_g": 290, "beverage_g": 250, "brewed_at": when}, "brewed_at"),
        (f"/trials/{trial['id']}/run-sheet", {"begins_at": when}, "begins_at"),
    ):
        said = host.call("POST", path, body, status=422)
        assert said["errors"][0]["field"] == field and "from 1970 to 2199" in said["errors"][0]["reason"]


@pytest.mark.parametrize("odd", ["²", "٣", "1e9", "9" * 40, "-1", "x", ""])
def test_an_odd_last_event_id_is_no_500(app, odd):
    host = Host(app.test_client())
    things = things_to_write_to(host)
    answer = host.client.get(f"/api/v1/flights/{things['flights']}/events?for_s=0", headers={"Last-Event-ID": odd.encode().decode("latin-1")})
    assert answer.status_code == 200 and answer.data.startswith(b"retry")


def test_an_unknown_address_is_404_whatever_the_method_and_405_only_where_there_is_one(app):
    client = app.test_client()
    for method in ("GET", "POST", "PUT", "PATCH", "DELETE"):
        answer = client.open("/api/v1/nowhere", method=method)
        assert (answer.status_code, answer.mimetype) == (404, "application/problem+json"), method
    assert client.delete("/api/v1/trials").status_code == 405


def longest(schema: dict, schemas: dict, seen: frozenset = frozenset()) -> int:
    """The longest single text a body of this shape may hold, in characters."""
    name = schema.get("$ref", "").rsplit("/", 1)[-1]
    if name:
        return 0 if name in seen else longest(schemas[name], schemas, seen | {name})
    inner = [*schema.get("properties", {}).values(), *schema.get("anyOf", []), *schema.get("oneOf", []), *([schema["items"]] if "items" in schema else [])]
    return max([schema.get("maxLength", 0), *(longest(s, schemas, seen) for s in inner)])


def test_a_body_may_be_as_long_as_the_document_lets_it_be(app):
    doc = json.loads((WEB / "openapi.json").read_text())
    for path, item in doc["paths"].items():
        for method, operation in item.items():
            schema = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
            if schema:
                with app.test_request_context(re.sub(r"\{\w+\}", "x", path), method=method.upper()):
                    bound_body()
                    assert request.max_content_length > 1.05 * longest(schema, doc["components"]["schemas"]), f"{method} {path}"


def test_what_is_given_twice_is_known_by_its_key(app):
    """As the database itself says it, for each of the keys."""
    host = Host(app.test_client())
    things = things_to_write_to(host)
    with database.connection_context():
        keys = {row[2] for table in ("trial", "setup", "run", "flight", "setup_revision", "recipe_version", "change", "person")
                for row in database.execute_sql(f"SHOW KEYS FROM `{table}` WHERE NOT Non_unique").fetchall()}  # fmt: skip
        assert set(GIVEN_TWICE) <= keys
        with pytest.raises(peewee.IntegrityError) as twice:
            others = ", ".join(f"`{row[0]}`" for row in database.execute_sql("SHOW COLUMNS FROM trial").fetchall() if row[0] != "id")
            database.execute_sql(f"INSERT INTO trial (id, {others}) SELECT 'anotherid123', {others} FROM trial WHERE id = %s", (things["trials"],))
    assert _lost_to_another(twice.value)
    assert not _lost_to_another(peewee.IntegrityError(1062, "Duplicate entry 'x' for key 'kit_item_live_name'"))


def test_no_two_shapes_share_a_name():
    """The document knows shapes by their name alone: of two alike the second silently replaced the first."""
    by_name = defaultdict(set)
    for shape in _all_below(BaseModel):
        if shape.__module__.startswith("brasspenny"):
            by_name[shape.__name__].add(shape.__module__)
    assert not {name: modules for name, modules in by_name.items() if len(modules) > 1}


def _all_below(shape):
    for sub in shape.__subclasses__():
        yield sub
        yield from _all_below(sub)


def test_no_table_is_left_out_when_the_bench_is_wiped():
    """A table nobody listed kept readings of a brew that was gone, for the next brew of that id to find."""
    ours = set(_below(Table))
    assert ours == {*ALL, *DOORS, *GRINDING, *PALATE}, {table.__name__ for table in ours ^ {*ALL, *DOORS, *GRINDING, *PALATE}}


def _below(table):
    for sub in table.__subclasses__():
        yield from _below(sub) if sub.__subclasses__() else (sub,)


def test_two_shapes_of_one_name_are_found_before_one_hides_the_other():
    class Base:
        pass

    for module in ("brasspenny.one.schemas", "brasspenny.two.schemas", "elsewhere"):
        type("Table", (Base,), {"__module__": module})
    type("Row", (Base,), {"__module__": "brasspenny.one.schemas"})
    assert openapi.same_names(Base) == ["Table"]


def test_a_change_gives_no_default_that_a_client_would_send():
    """Two usual generators of clients send what a schema gives as default: changing a note erased the names, the pours and the filter."""
    doc = json.loads((WEB / "openapi.json").read_text())
    shapes = doc["components"]["schemas"]
    bodies = [
        op["patch"]["requestBody"]["content"]["application/json"]["schema"]["$ref"] for op in doc["paths"].values() if "requestBody" in op.get("patch", {})
    ]
    assert len(bodies) >= 10
    for name in {ref.rsplit("/", 1)[-1] for ref in bodies} | {"VariablesPatch"}:
        for field, shape in shapes[name]["properties"].items():
            assert "default" not in shape, f"{name}.{field}"


def test_a_filter_that_is_not_there_is_refused_like_a_field_that_is_not_there(host, app):
    for path, known in (("/brews?cofee=Peru", "text"), ("/trials?text=x&serch=y", "order"), ("/kit?kind=filter", ""), ("/search?text=a&q=b", "text")):
        refused = host.call("GET", path, status=422)
        assert refused["errors"][0]["field"] in path and known in refused["errors"][0]["remedy"]
    host.call("GET", "/brews?text=Peru&limit=5&bench=own")
    assert app.test_client().get("/api/v1/no-such-thing?x=1").status_code == 404
