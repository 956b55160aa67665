import logging

import pytest

from brasspenny.core import figures

from ..laid_out import folder_of_run, put_demo
from .host import Host


@pytest.fixture
def host(app):
    return Host(app.test_client())


@pytest.fixture
def demo(host, tmp_path_factory):
    """A host on the demo bench."""
    put_demo(folder_of_run(tmp_path_factory))
    return host


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
