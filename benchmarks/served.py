"""What the benchmarks share: a database of their own in a folder that is gone afterwards, and a bench that serves it."""

from __future__ import annotations

import json
import os
import re
import shutil
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from flask import Flask
from flask.testing import FlaskClient

from brasspenny import mariadb, processes
from brasspenny.bench.sessions import make_key
from brasspenny.http import utc_now
from brasspenny.store import connection, secret


@contextmanager
def database(name: str) -> Iterator[mariadb.Server]:
    """An empty bench's database, to which this process is bound."""
    folder = Path(tempfile.mkdtemp(prefix="penny-", dir="/tmp"))
    try:
        server = mariadb.start(folder, name=name)
        try:
            connection.bind(server.url)
            connection.migrate()
            secret.settle(None)
            yield server
        finally:
            server.stop()
    finally:
        shutil.rmtree(folder, ignore_errors=True)


COOKIE: dict[str, str] = {}
"""Of the session that the benchmarks have; every request of this process carries it."""


def come_in(base: str, key: str) -> None:
    asked = urllib.request.Request(f"{base}/api/v1/session", json.dumps({"key": key}).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(asked) as answer:
        cookies = [c.partition(";")[0] for c in answer.headers.get_all("Set-Cookie")]
    COOKIE["Cookie"] = next(c for c in cookies if re.match(r"penny_[0-9a-f]{10}=", c))
    opener = urllib.request.build_opener()
    opener.addheaders = list(COOKIE.items())
    urllib.request.install_opener(opener)


def come_in_again(port: int) -> None:
    """After the bench was emptied, and its sessions with it."""
    with connection.database.connection_context():
        key = make_key(utc_now())
    come_in(f"http://127.0.0.1:{port}", key)


def client_of(app: Flask) -> FlaskClient:
    """A client without a server in between, let in."""
    with connection.database.connection_context():
        key = make_key(utc_now())
    client = app.test_client()
    assert client.post("/api/v1/session", json={"key": key}).status_code == 200
    return client


@contextmanager
def bench(server: mariadb.Server, port: int, workers: int) -> Iterator[processes.Processes]:
    """Serving processes on loopback, once they answer."""
    serving = processes.Processes(processes.listen("127.0.0.1", port), os.environ | {"PENNY_DATABASE_URL": server.url}, workers)
    serving.start()
    try:
        while True:
            serving.tend()
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/v1/health", timeout=2):
                    break
            except OSError:
                time.sleep(0.1)
        come_in_again(port)
        time.sleep(2)  # until the other one has read the program in, too
        yield serving
    finally:
        serving.stop()
