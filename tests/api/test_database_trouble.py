"""A full disk, a frozen or vanished database, a row that is held: pages still come, the sentence names the cause, and it comes soon. Two instances on one database."""

import json
import os
import signal
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import pymysql
import pytest

from brasspenny import processes
from brasspenny.config import PROJECT
from brasspenny.store.connection import LOCK_S, MIGRATIONS, database

from ..amount import share
from ..opened import session_of
from .host import Host
from .test_damaged_rows import LISTS, OF_TRIAL, asked


@pytest.fixture
def impatient(app, monkeypatch):
    """The app with a store that waits a second at most."""
    params = database.obj.connect_params
    monkeypatch.setitem(params, "read_timeout", 2)
    monkeypatch.setitem(params, "connect_timeout", 2)
    monkeypatch.setitem(params, "init_command", params["init_command"].replace(f"innodb_lock_wait_timeout = {LOCK_S}", "innodb_lock_wait_timeout = 1"))
    database.close_all()
    yield Host(app.test_client())
    database.close_all()


@contextmanager
def link(server, name="brasspenny_test"):
    password, _, place = server.url.removeprefix("mysql://penny:").partition("@")
    host, _, rest = place.partition(":")
    with pymysql.connect(host=host, port=int(rest.partition("/")[0]), user="penny", password=password, database=name or None) as held:
        yield held


def still_serves_pages(host: Host) -> None:
    assert host.client.get("/").status_code == 200 and host.client.get("/trials/x/verdict").status_code == 200


def test_a_frozen_database_is_said_and_pages_still_come(server, impatient):
    impatient.get("/trials")
    server.process.send_signal(signal.SIGSTOP)
    try:
        still_serves_pages(impatient)
        assert impatient.get("/trials", status=503)["title"] == "The database does not answer"
        impatient.get("/health", status=503)
    finally:
        server.process.send_signal(signal.SIGCONT)
    impatient.get("/trials")


def test_a_row_held_by_somebody_is_said_and_nothing_is_written(server, impatient):
    with link(server) as held, held.cursor() as cursor:
        cursor.execute("SELECT id FROM bench WHERE id = 1 FOR UPDATE")
        assert impatient.call("POST", "/people", {"name": "Bo"}, status=503)["title"] == "Another change is taking long"
        assert impatient.get("/people")["people"] == []
        held.rollback()
    impatient.call("POST", "/people", {"name": "Bo"})


@pytest.mark.parametrize(("number", "title"), [(1021, "The disk is full"), (1114, "The disk is full"), (1040, "The database does not answer")])
def test_what_the_database_refuses_is_said_by_its_cause(server, impatient, number, title):
    with link(server) as held, held.cursor() as cursor:
        cursor.execute(f"CREATE TRIGGER full BEFORE INSERT ON person FOR EACH ROW SIGNAL SQLSTATE 'HY000' SET MYSQL_ERRNO = {number}, MESSAGE_TEXT = 'x'")
        try:
            said = impatient.call("POST", "/people", {"name": "Bo"}, status=503)
            assert said["title"] == title and "saved" in said["detail"]
            still_serves_pages(impatient)
        finally:
            cursor.execute("DROP TRIGGER full")
    assert impatient.get("/people")["people"] == []


def test_a_deadlock_is_done_again_and_never_shown(server, impatient):
    """The first try is told of a deadlock by the database itself; the second goes through."""
    with link(server) as held, held.cursor() as cursor:
        cursor.execute("CREATE TABLE IF NOT EXISTS tried (n INT) ENGINE=MyISAM")  # outlives the transaction that is taken back
        cursor.execute(
            "CREATE TRIGGER once BEFORE INSERT ON person FOR EACH ROW IF (SELECT COUNT(*) FROM tried) < 2 THEN"
            " INSERT INTO tried VALUES (1); SIGNAL SQLSTATE '40001' SET MYSQL_ERRNO = 1213, MESSAGE_TEXT = 'Deadlock found'; END IF"
        )
        try:
            impatient.call("POST", "/people", {"name": "Bo"})
            cursor.execute("SELECT COUNT(*) FROM tried")
            assert cursor.fetchone() == (2,)
        finally:
            cursor.execute("DROP TRIGGER once")
            cursor.execute("DROP TABLE tried")
    assert len(impatient.get("/people")["people"]) == 1


MIGRATE = "import sys; from brasspenny.store import connection; connection.bind(sys.argv[1], patience_s=None); print(len(connection.migrate()))"


@pytest.fixture
def empty(server):
    """The address of an empty database beside the tests' own."""
    name = "brasspenny_two"
    with link(server) as held, held.cursor() as cursor:
        cursor.execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
    yield server.url.rsplit("/", 1)[0] + f"/{name}"
    with link(server) as held, held.cursor() as cursor:
        cursor.execute(f"DROP DATABASE {name}")


def test_of_two_first_starts_on_one_empty_database_one_migrates_and_the_other_waits(empty):
    env = os.environ | {"PYTHONPATH": str(PROJECT / "src")}
    both = [subprocess.Popen([sys.executable, "-c", MIGRATE, empty], env=env, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) for _ in range(2)]
    said = [p.communicate(timeout=120) for p in both]
    assert sorted(int(out or -1) for out, _ in said) == [0, len(list(Path(MIGRATIONS).glob("0*.py")))], said


def test_two_instances_on_one_database_are_one_bench(empty):
    """Letters and labels are given once between them, and a link or a seal made by one opens at the other."""
    env = os.environ | {"PYTHONPATH": str(PROJECT / "src"), "PENNY_DATABASE_URL": empty}
    key = "from brasspenny.bench.sessions import make_key; from brasspenny.http import utc_now; print(make_key(utc_now()))"
    setup = f"{MIGRATE}; from brasspenny.store import secret; secret.settle(None); {key}"
    printed = subprocess.run([sys.executable, "-c", setup, empty], env=env, check=True, capture_output=True, text=True, timeout=120).stdout
    cookie: dict[str, str] = {}
    instances = [processes.Processes(processes.listen("127.0.0.1", 0), env, 1) for _ in range(2)]
    ports = [i.listening.getsockname()[1] for i in instances]

    def call(at, method, path, body=None, who=None):
        headers = {"Content-Type": "application/json"} | cookie | ({"X-Penny-Person": who} if who else {})
        data = json.dumps(body).encode() if body is not None else None
        asked = urllib.request.Request(f"http://127.0.0.1:{ports[at % 2]}/api/v1{path}", data, headers, method=method)
        with urllib.request.urlopen(asked, timeout=60) as answer:
            return json.load(answer)

    try:
        for each in instances:
            each.start()
        for at in (0, 1):
            for _ in range(600):
                try:
                    call(at, "GET", "/health")
                    break
                except OSError:
                    time.sleep(0.1)
        cookie["Cookie"] = session_of(f"http://127.0.0.1:{ports[0]}", printed.split()[-1])  # of one instance, and good at the other
        trial = call(0, "POST", "/trials", {"question": "Which?", "factor": "ratio"})["id"]
        with ThreadPoolExecutor(12) as pool:
            setups = list(pool.map(lambda i: call(i, "POST", f"/trials/{trial}/setups", {"variables": {"dose_g": 18, "brew_water_g": 280 + i}}), range(12)))
            assert sorted(s["letter"] for s in setups) == list("ABCDEFGHIJKL")
            body = {"dose_g": 18, "brew_water_g": 288, "beverage_g": 250}
            runs = list(pool.map(lambda i: call(i, "POST", f"/trials/{trial}/runs", body | {"setup_id": setups[i % 2]["id"]}), range(12)))
        assert len({r["label"] for r in call(1, "GET", f"/trials/{trial}/results")["runs"]}) == 12
        bo = call(0, "POST", "/people", {"name": "Bo"})["id"]
        asked = {"run_ids": [r["id"] for r in runs[:2]], "taster_ids": [bo], "blinding": "runner"}
        flight = call(0, "POST", f"/trials/{trial}/flights", asked)
        token = flight["sheets"][0]["link"].rsplit("/", 1)[-1]
        touches = [
            {"uuid": f"00000000-0000-4000-8000-00000000000{i}", "seq": i + 1, "code": c["code"], "attribute": "liking", "value": 5, "text": ""}
            for i, c in enumerate(flight["cups"])
        ]
        call(1, "PUT", f"/taste/{token}/scores", {"scores": touches})
        call(0, "POST", f"/flights/{flight['id']}/close")
        assert call(1, "POST", f"/flights/{flight['id']}/flip", {"marks": []})["seal"]["holds"]
    finally:
        for each in instances:
            each.stop()


@contextmanager
def full_disk(server) -> Iterator[None]:
    """Nothing can be written any more, in any table."""
    with link(server) as held, held.cursor() as cursor:
        cursor.execute("SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'")
        tables = [name for (name,) in cursor.fetchall()]
        for name in tables:
            for when in ("INSERT", "UPDATE"):
                cursor.execute(
                    f"CREATE TRIGGER full_{name}_{when} BEFORE {when} ON `{name}` FOR EACH ROW SIGNAL SQLSTATE 'HY000' SET MYSQL_ERRNO = 1021, MESSAGE_TEXT = 'x'"
                )
        try:
            yield
        finally:
            for name in tables:
                for when in ("INSERT", "UPDATE"):
                    cursor.execute(f"DROP TRIGGER full_{name}_{when}")


def test_on_a_full_disk_everything_can_be_read_though_nothing_is_stored(server, demo):
    with database.connection_context():
        (trial,) = database.execute_sql("SELECT trial_id FROM flight WHERE status = 'flipped' LIMIT 1").fetchone()
    pages = [*share(LISTS, least=12), *(p.replace("{id}", trial) for p in share(OF_TRIAL, least=12))]
    demo.get("/trials")  # this device is known; an unknown one is not let in before it is written down
    demo.get("/charts")  # read from stored points alone: a brew whose point is out of date waits for room
    with database.connection_context():
        for table in ("kept", "headline", "learnt_scatter", "stored_verdict"):
            database.execute_sql(f"DELETE FROM `{table}`")
    with full_disk(server):
        broken = {p: s for p in pages if (s := demo.client.get(p, query_string=asked(p)).status_code) != 200}
        assert demo.call("POST", "/people", {"name": "Nobody yet"}, status=503)["title"] == "The disk is full"
    assert broken == {}
