"""A row that cannot be read is set aside and listed; whatever else is on the bench stands."""

from __future__ import annotations

import io
import json
import random
import re
import zipfile
from collections.abc import Iterator
from typing import Any, NamedTuple

import peewee as pw
import pytest
from playhouse.mysql_ext import JSONField

from brasspenny.bench_files import kinds
from brasspenny.damaged_rows import faults
from brasspenny.store.connection import database
from brasspenny.store.fields import UtcField
from brasspenny.store.grinding import GRINDING
from brasspenny.store.models import ALL, DamagedRow
from brasspenny.store.palate import PALATE

from ..amount import NIGHTLY
from .described import DOCUMENT

TABLES = {model._meta.table_name: model for model in (*ALL, *GRINDING, *PALATE) if model is not DamagedRow}
LISTS = [p for p, item in DOCUMENT["paths"].items() if "get" in item and "{" not in p and p not in ("/api/v1/drills", "/api/v1/scale/lines")]
OF_TRIAL = [p for p, item in DOCUMENT["paths"].items() if "get" in item and re.fullmatch(r"/api/v1/trials/\{id\}[^{]*", p)]
ASKED = {"/verdict/attribute": {"attribute": "liking"}}
"""What some pages must be asked with."""


def asked(page: str) -> dict[str, str]:
    return next((query for end, query in ASKED.items() if page.endswith(end)), {})


class Damage(NamedTuple):
    """A value written straight into a column of a table, as a fault of a disk or of an older program would leave it."""

    table: str
    column: str
    value: Any


def damages() -> Iterator[Damage]:
    for name, model in TABLES.items():
        for field in model._meta.sorted_fields:
            if not field.primary_key and not isinstance(field, pw.ForeignKeyField) and field.column_name != "deleted_at":
                yield from (Damage(name, field.column_name, value) for value in values_of(field))


def values_of(field: pw.Field) -> list[Any]:
    if isinstance(field, JSONField):
        return ["[1]", '"zzz"', '{"a": {"b": [1]}}', "null"]
    if isinstance(field, UtcField | pw.DateField):
        return ["1000-01-01", "9999-12-31 23:59:59"]
    if isinstance(field, pw.CharField | pw.TextField):
        return ["zzz"[: getattr(field, "max_length", None)]]
    if isinstance(field, pw.DecimalField):
        most = 10 ** (field.max_digits - field.decimal_places) - 1
        return [most, -most]
    return [-7] if isinstance(field, pw.BooleanField) else [-7, 30_000]


ALL_DAMAGES = list(damages())
CHOSEN = ALL_DAMAGES if NIGHTLY else random.Random(28).sample(ALL_DAMAGES, 8)


class Damaged:
    """One damage on a bench, for as long as the block lasts."""

    def __init__(self, damage: Damage, rng: random.Random) -> None:
        self.damage = damage
        model = TABLES[damage.table]
        keys = kinds.key_of(model)
        self.where = " AND ".join(f"`{c}` = %s" for c in keys)
        with database.connection_context():
            rows = database.execute_sql(f"SELECT {', '.join(f'`{c}`' for c in keys)} FROM `{damage.table}`").fetchall()
            self.row = rng.choice(rows) if rows else None

    def __enter__(self) -> bool:
        """Whether there was a row that takes it."""
        if self.row is None:
            return False
        table, column, value = self.damage
        with database.connection_context():
            (self.old,) = database.execute_sql(f"SELECT `{column}` FROM `{table}` WHERE {self.where}", self.row).fetchone()
            try:
                self._write(value)
            except pw.PeeweeException:
                self.row = None  # a key, or a type that keeps such a value out
            faults.forget()
        return self.row is not None

    def _write(self, value: Any) -> None:
        database.execute_sql(f"UPDATE `{self.damage.table}` SET `{self.damage.column}` = %s WHERE {self.where}", (value, *self.row))

    def __exit__(self, *_: object) -> None:
        if self.row is not None:
            with database.connection_context():
                self._write(self.old)


@pytest.mark.parametrize("part", range(8 if NIGHTLY else 1))
def test_every_page_answers_whatever_is_damaged(demo, part):
    rng = random.Random(part)
    with database.connection_context():
        trials = [id_ for (id_,) in database.execute_sql("SELECT id FROM trial WHERE deleted_at IS NULL ORDER BY number").fetchall()]
    pages = [p for p in LISTS if NIGHTLY or not p.endswith(".zip")] + [p.replace("{id}", t) for p in OF_TRIAL for t in trials[:2]]
    demo.client.application.config["PROPAGATE_EXCEPTIONS"] = False
    found, broken = 0, []
    for damage in CHOSEN[part :: 8 if NIGHTLY else 1]:
        with Damaged(damage, rng) as there:
            if there:
                answered = {page: demo.client.get(page, query_string=asked(page)).status_code for page in pages}
                listed = demo.call("GET", "/damaged-rows")["damaged"]
                broken += [(damage, page, status) for page, status in answered.items() if status != 200 and not (status == 404 and listed)]
                found += bool(listed)
        for row in listed if there else []:
            if row["can_come_back"]:
                demo.call("POST", f"/damaged-rows/{row['id']}/put-back", {})
            else:
                demo.call("DELETE", f"/damaged-rows/{row['id']}")
    assert broken == []
    assert found > 0


# --- what a person does with it -------------------------------------------------------------------------------------------------------


def write(sql: str, *values: Any) -> None:
    with database.connection_context():
        database.execute_sql(sql, values)
    faults.forget()


@pytest.fixture
def two_trials(host):
    """The first has tags that cannot be read."""
    trials = [host.call("POST", "/trials", {"question": f"Which filter, {n}?", "factor": "filter"}) for n in (1, 2)]
    write("UPDATE trial SET tags = '[1]' WHERE id = %s", trials[0]["id"])
    return [t["id"] for t in trials]


def numbers(host) -> list[int]:
    return [t["number"] for t in host.call("GET", "/trials")["trials"]]


def test_the_rest_of_a_list_stands_and_the_damaged_is_named(host, two_trials):
    assert numbers(host) == [2]
    (row,) = host.call("GET", "/damaged-rows")["damaged"]
    assert (row["kind"], row["column"], row["can_lose_the_value"]) == ("trial", "tags", True)
    assert "Which filter, 1?" in row["name"]
    assert host.call("GET", "/bench")["damaged"] == 1


def test_it_comes_back_without_the_value_and_not_with_it(host, two_trials):
    numbers(host)
    (row,) = host.call("GET", "/damaged-rows")["damaged"]
    refused = host.client.post(f"/api/v1/damaged-rows/{row['id']}/put-back", json={})
    assert (refused.status_code, "tags" in refused.json["title"]) == (409, True)
    assert host.call("POST", f"/damaged-rows/{row['id']}/put-back", {"without_value": True})["damaged"] == []
    assert sorted(numbers(host)) == [1, 2]
    assert host.call("GET", f"/trials/{two_trials[0]}")["tags"] == []
    (change,) = [c for c in host.call("GET", f"/trials/{two_trials[0]}/history")["changes"] if c["action"] == "lose_value"]
    assert (change["entity"], change["after"], change["can_undo"]) == ("trial", {"of": "trial", "value": "tags"}, False)


def test_what_was_mended_in_the_database_comes_back_as_it_is(host, two_trials):
    numbers(host)
    write("UPDATE trial SET tags = '[\"kept\"]' WHERE id = %s", two_trials[0])
    (row,) = host.call("GET", "/damaged-rows")["damaged"]
    host.call("POST", f"/damaged-rows/{row['id']}/put-back", {})
    assert host.call("GET", f"/trials/{two_trials[0]}")["tags"] == ["kept"]


def test_what_is_removed_is_gone_with_all_that_was_a_part_of_it(host, two_trials):
    numbers(host)
    (row,) = host.call("GET", "/damaged-rows")["damaged"]
    assert host.call("DELETE", f"/damaged-rows/{row['id']}")["damaged"] == []
    assert numbers(host) == [2]
    with database.connection_context():
        left = [database.execute_sql(f"SELECT COUNT(*) FROM `{table}` WHERE trial_id = %s", (two_trials[0],)).fetchone()[0] for table in ("setup", "change")]
    assert left == [0, 0]


def test_an_export_leaves_it_out_so_that_the_file_can_come_in(host, two_trials):
    numbers(host)
    with zipfile.ZipFile(io.BytesIO(host.client.get("/api/v1/export.zip").data)) as packed:
        assert [t["number"] for t in json.loads(packed.read("data/trial.json"))] == [2]
        whole = packed.fp.getvalue()
    assert host.client.post("/api/v1/bench-import", data=whole, content_type="application/zip").status_code == 200


def test_kit_that_others_point_at_goes_out_without_the_value(demo):
    write("UPDATE kit_item SET facts = '[1]' WHERE kind = 'grinder' LIMIT 1")
    demo.call("GET", "/kit")
    with zipfile.ZipFile(io.BytesIO(demo.client.get("/api/v1/export.zip").data)) as packed:
        whole = packed.fp.getvalue()
    assert demo.client.post("/api/v1/bench-import", data=whole, content_type="application/zip").status_code == 200


@pytest.mark.parametrize("facts", ['"zzz"', "null", '{"price_per_kg": "zzz"}'])
def test_damaged_kit_takes_no_trial_with_it_that_was_brewed_on_it(host, facts):
    host.call("POST", "/kit", {"kind": "coffee", "name": "Lot 1", "coffee": {"price_per_kg": 30}})
    trial = host.ask("Which filter?")
    setup = host.setup(trial["id"], coffee="Lot 1")
    host.brew(trial["id"], setup)
    write("UPDATE kit_item SET facts = %s WHERE name = 'Lot 1'", facts)
    host.client.application.config["PROPAGATE_EXCEPTIONS"] = False
    for page in ("results", "verdict/value", "report"):
        assert host.client.get(f"/api/v1/trials/{trial['id']}/{page}").status_code == 200
    assert [(d["kind"], d["column"]) for d in host.call("GET", "/damaged-rows")["damaged"]] == [("kit_item", "facts")]


def test_a_value_of_the_bench_itself_is_replaced_by_the_usual_one(host):
    write("UPDATE bench SET heat_unit = 'z'")
    assert host.call("GET", "/bench")["units"]["heat"] == "C"
    (row,) = host.call("GET", "/damaged-rows")["damaged"]
    assert (row["kind"], row["column"], row["can_come_back"]) == ("bench", "heat_unit", False)
    assert host.call("GET", f"/damaged-rows/{row['id']}/rows.json") == {"bench": [{"heat_unit": "z"}]}


def test_a_download_tells_nothing_of_a_flight_that_is_tasted(demo):
    with database.connection_context():
        trial, flight = database.execute_sql("SELECT trial_id, id FROM flight WHERE status <> 'flipped' AND deleted_at IS NULL LIMIT 1").fetchone()
    write("UPDATE trial SET tags = '[1]' WHERE id = %s", trial)
    demo.call("GET", "/trials")
    (row,) = demo.call("GET", "/damaged-rows")["damaged"]
    rows = demo.call("GET", f"/damaged-rows/{row['id']}/rows.json")
    assert rows["trial"][0]["id"] == trial
    assert flight not in json.dumps({kind: found for kind, found in rows.items() if kind != "change"})


def test_a_script_has_no_hand_in_it(host, two_trials):
    token = host.call("POST", "/script-tokens", {"name": "a script", "may_write": True})["token"]
    script = host.client.application.test_client()
    for path in ("/api/v1/damaged-rows", "/api/v1/damaged-rows/aaaaaaaaaaaa/rows.json"):
        assert script.get(path, headers={"Authorization": f"Bearer {token}"}).status_code == 403


def test_a_long_look_says_so_and_goes_on_from_there(host, two_trials, monkeypatch):
    monkeypatch.setattr(faults, "LOOK_S", 0.0)
    answers = [host.client.get("/api/v1/trials") for _ in range(60)]
    assert answers[0].status_code == 503
    assert "Looking for it" in answers[0].json["detail"]
    assert answers[-1].status_code == 200


def test_a_refusal_of_the_core_sets_nothing_aside(host):
    trial = host.call("POST", "/trials", {"question": "Which filter?", "factor": "filter"})["id"]
    assert host.client.get(f"/api/v1/trials/{trial}/matching", query_string={"target_tds_pct": 99}).status_code == 422
    assert host.call("GET", "/damaged-rows")["damaged"] == []
