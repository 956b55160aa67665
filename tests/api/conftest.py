import pytest

from .host import Host


@pytest.fixture
def host(app):
    return Host(app.test_client())
