"""The real bench in a real headless Chromium: started by its own command, with its demo data, on loopback only."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from contextlib import ExitStack, contextmanager
from urllib.parse import urlsplit

import pymysql
import pytest
from playwright.sync_api import expect

from brasspenny import mariadb
from brasspenny.cli import OWN_DATABASE
from brasspenny.config import PROJECT
from brasspenny.store.dump import MIGRATIONS_TABLE

from ..laid_out import folder_of_run, locked
from ..opened import PRINTED, come_in, cookie_of
from .people import Host
from .remote import host_of

expect.set_options(timeout=30_000)  # a busy machine must not turn a test red

FLAGS = [
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update",
    "--disable-sync",
    "--proxy-server=127.0.0.1:9", "--proxy-bypass-list=127.0.0.1",
]  # fmt: skip


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {"executable_path": "/usr/bin/chromium", "args": FLAGS}


@pytest.fixture(scope="session")
def bench(tmp_path_factory):
    """The address of a demo bench started as a person would start it, in a copy of the one folder that was laid out."""
    assert (PROJECT / "web/dist/index.html").exists(), "the interface is not built: run the tests through ./penny test"
    data = tmp_path_factory.mktemp("penny") / "data"
    shutil.copytree(laid_out(folder_of_run(tmp_path_factory)), data)
    with demo(data) as base:
        yield base


def laid_out(shared):
    """A data folder with the demo in it, made by whichever worker comes first; a bench moved or copied starts as it is."""
    folder = shared / "demo-laid-out"
    with locked(shared / "demo.lock"):
        if not folder.exists():
            with demo(shared / "demo-being-laid-out"):
                pass
            (shared / "demo-being-laid-out").rename(folder)
    return folder


def free_port() -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return free.getsockname()[1]


@contextmanager
def demo(data, command="demo", port=None, *options):
    """Started, answering, and ended without a complaint and with nothing left running."""
    port = port or free_port()
    env = os.environ | {"PENNY_DATA": str(data), "PYTHONPATH": str(PROJECT / "src"), "PYTHONUNBUFFERED": "1"}
    data.mkdir(exist_ok=True)
    log = data.with_suffix(".log")
    with log.open("w") as out:
        started = subprocess.Popen([sys.executable, "-m", "brasspenny.cli", command, "--port", str(port), *options], env=env, stdout=out, stderr=out)
    base = f"http://127.0.0.1:{port}"
    for _ in range(900):
        try:
            with urllib.request.urlopen(f"{base}/api/v1/health", timeout=1):
                break
        except OSError:
            assert started.poll() is None, log.read_text()
            time.sleep(0.1)
    for _ in range(300):  # the address is printed once it answers
        if PRINTED.search(log.read_text()):
            break
        time.sleep(0.1)
    come_in(log.read_text())
    yield base
    started.terminate()
    assert started.wait(timeout=30) == 0, log.read_text()
    for _ in range(300):
        if not (left := subprocess.run(["pgrep", "-af", f"{data}/"], capture_output=True, text=True).stdout):
            break
        time.sleep(0.1)
    assert not left, "something it started is still running"


@pytest.fixture
def started():
    """Starts a bench for one test, as `demo` does, and stops it once the test's pages are closed: a page still asking while its bench goes away has
    every right to complain, and whether it does is a matter of milliseconds."""
    with ExitStack() as running:
        yield lambda *how: running.enter_context(demo(*how))


@pytest.fixture(scope="session")
def own_bench(tmp_path_factory):
    """A bench without the demo, started once, its data folder, and its settings as they are on the first day."""
    data = tmp_path_factory.mktemp("own") / "data"
    with demo(data, "serve") as base:
        with database_of(data) as cursor:
            cursor.execute("SELECT * FROM bench")
            settings = cursor.fetchone()
        yield base, data, settings


@contextmanager
def database_of(data):
    url = urlsplit(mariadb.running_url(data, name=OWN_DATABASE))
    conn = pymysql.connect(host=url.hostname, port=url.port, user=url.username, password=url.password, database=OWN_DATABASE, autocommit=True)
    with conn, conn.cursor() as cursor:
        yield cursor


@pytest.fixture
def empty_bench(own_bench):
    """The address of a bench nobody has worked on yet: whatever an earlier test did there is gone."""
    base, data, settings = own_bench
    with database_of(data) as cursor:
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        cursor.execute("SHOW TABLES")
        for (table,) in cursor.fetchall():
            if table not in ("bench", "let_in", MIGRATIONS_TABLE):
                cursor.execute(f"DELETE FROM `{table}`")
        cursor.execute("DELETE FROM bench")
        cursor.execute(f"INSERT INTO bench VALUES ({', '.join(['%s'] * len(settings))})", settings)
        cursor.execute(f"DROP DATABASE IF EXISTS `{OWN_DATABASE}_sample`")
    return base


@pytest.fixture
def open_context(browser, bench, started):
    """Makes browser contexts, one a person. Fails the test on any uncaught error, any console error not listed in
    `allowed`, and any request that is not to this bench (or `other`, on loopback too): the proof that it works offline. Built on `started`, so that
    pages are closed before the benches they look at are stopped."""
    contexts, trouble = [], []

    def make(*, allowed: tuple[str, ...] = (), other: str = "", **how):
        context = browser.new_context(**{"base_url": bench, "reduced_motion": "reduce"} | how)
        context.set_default_timeout(30_000)

        def watch(page):
            page.on("pageerror", lambda error: trouble.append(f"uncaught: {error}"))
            page.on("console", lambda m: m.type == "error" and not any(a in m.text for a in allowed) and trouble.append(f"console: {m.text} {m.location}"))

        def only_here(request):
            if urlsplit(request.url).netloc not in (urlsplit(bench).netloc, other):
                trouble.append(f"request to {request.url}")

        context.on("page", watch)
        context.on("request", only_here)
        if "ERR_INTERNET_DISCONNECTED" in allowed:  # held at a gate, so that a page reloaded without network cannot be quicker than its network is taken away
            context.route("**/*", lambda route: route.continue_())
        context.add_cookies([c for at in (how.get("base_url", bench), f"http://{other}") for c in cookie_of(at)])
        contexts.append(context)
        return context

    yield make
    for context in contexts:
        context.close()
    assert trouble == []


@pytest.fixture
def api(bench):
    """The host's hands on the bench's API: what a test is not about is made there, in a tenth of the time."""
    return host_of(bench)


@pytest.fixture
def host(open_context):
    return Host(open_context(viewport={"width": 1280, "height": 800}).new_page())
