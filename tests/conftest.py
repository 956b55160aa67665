"""A real MariaDB on loopback for every test that wants one; nothing of it is mocked."""

from __future__ import annotations

import os
import random
import shutil
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import settings

from brasspenny import mariadb
from brasspenny.app import Serving, create_app
from brasspenny.demo import scenario
from brasspenny.store import connection
from brasspenny.store.models import Bench

from .amount import NIGHTLY
from .let_in import LetInClient

# A busy machine is no failure; speed is measured in benchmarks/. By day the same examples are drawn every time.
settings.register_profile("everyday", deadline=None, max_examples=30, derandomize=True)
settings.register_profile("nightly", deadline=None, max_examples=200)
settings.load_profile("nightly" if NIGHTLY else "everyday")

NOW = datetime(2026, 3, 1, 9, 0, tzinfo=UTC)
SECRET = b"a secret for tests, of 32 bytes!"


@pytest.fixture(scope="session")
def server():
    """Our own instance in a folder of its own, gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="penny-"))
    running = mariadb.start(folder, name="brasspenny_test")
    connection.bind(running.url)
    connection.migrate()
    yield running
    running.stop()
    shutil.rmtree(folder)


@pytest.fixture(scope="session")
def first_day(server):
    """The bench's settings before anybody changed one."""
    with connection.database.connection_context():
        return Bench.select().dicts().get()


class Ticking:
    """A clock that moves on a second at each look, so that nothing rests on two things happening at once."""

    def __init__(self) -> None:
        self.at = NOW

    def __call__(self) -> datetime:
        self.at += timedelta(seconds=1)
        return self.at


@pytest.fixture(scope="session")
def built():
    """Apps by how they serve: building one takes longer than most tests."""
    return {}


@pytest.fixture
def make_app(server, first_day, built):
    """An app on an empty bench with a fresh clock, fresh randomness and no sample beside it; what is passed overrides how it serves."""

    def make(**how):
        key = tuple(sorted(how.items()))
        if key not in built:
            built[key] = create_app(Serving(database_url=server.url, secret=SECRET, **how))
            built[key].testing = True
            built[key].test_client_class = None if how.get("on_network") else LetInClient  # what others can reach is tried from outside
        app = built[key]
        app.config.pop("IDS", None)
        app.config.update(CLOCK=Ticking(), RNG=random.Random(11))
        with connection.database.connection_context():
            scenario.wipe()
            Bench.update(first_day).where(Bench.id == first_day["id"]).execute()
            connection.database.execute_sql(f"DROP DATABASE IF EXISTS `{connection.sample_name()}`")
        return app

    yield make
    assert connection.database.is_closed(), "a request left its connection open"


@pytest.fixture
def app(make_app):
    return make_app()


def pytest_addoption(parser):
    parser.addoption("--shuffle", metavar="SEED", help="run the tests in an order drawn with this seed: none may rest on another")


def pytest_collection_modifyitems(config, items):
    """Leave out by day what is for the night, then share out the rest. The tests that drive a browser are the longest: every worker begins with its share of them, so that none is left alone with them at the end. The first lays out the
    demo; the others do a few small ones meanwhile."""
    if not NIGHTLY:
        left_out = [item for item in items if item.get_closest_marker("nightly")]
        config.hook.pytest_deselected(items=left_out)
        items[:] = [item for item in items if item not in left_out]
    if seed := config.getoption("--shuffle"):
        random.Random(seed).shuffle(items)
    workers = int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1"))
    driven = [item for item in items if "browser" in item.path.parts]
    others = [item for item in items if "browser" not in item.path.parts]
    ends = [len(others) * i // workers for i in range(workers + 1)]
    shares = [(driven[i::workers], others[ends[i] : ends[i + 1]], MEANWHILE if i else 0) for i in range(workers)]
    items[:] = [item for browser, rest, first in shares for item in (*rest[:first], *browser, *rest[first:])]


MEANWHILE = 100
