import logging
import random
from datetime import datetime
from itertools import count

import pytest

from brasspenny.core import figures

from .. import laid_out
from ..laid_out import folder_of_run, put
from .host import Host


@pytest.fixture
def host(app):
    return Host(app.test_client())


@pytest.fixture
def demo(host, tmp_path_factory):
    """A host on the demo bench."""
    put(folder_of_run(tmp_path_factory), "demo-rows", laid_out.demo)
    return host


@pytest.fixture
def made_once(app, host, tmp_path_factory):
    """What many tests begin with, made by the first of them and given to the others: made_once(make) is what make(host) returns, as JSON. The clock and
    the touches go on from where they stood."""

    def given(make):
        def once():
            came = make(host)
            return {"came": came, "at": app.config["CLOCK"].at.isoformat(), "seq": next(host.seqs)}

        was = put(folder_of_run(tmp_path_factory), f"{make.__module__}.{make.__qualname__}", once)
        app.config["CLOCK"].at, host.seqs = datetime.fromisoformat(was["at"]), count(was["seq"] + 1)
        app.config["RNG"] = random.Random(12)  # what it drew for these rows it must not draw again
        return was["came"]

    return given


@pytest.fixture(autouse=True)
def told_as_usual():
    """Whatever units a test's bench was told in, sentences of the core are told in the usual ones afterwards."""
    yield
    figures.tell_in(lambda: figures.USUAL)


@pytest.fixture(autouse=True)
def nothing_fails_unseen(caplog, request):
    """An error the program logs and swallows fails the test, unless the test is about trouble: whatever a use case leaves half done shows here."""
    yield
    if not request.node.get_closest_marker("troubled"):
        assert [r.getMessage() for r in caplog.get_records("call") if r.levelno >= logging.ERROR and r.name.startswith("brasspenny")] == []
