"""Whatever is deleted, no list of anything else breaks."""

import re

import pytest

from ..amount import share
from .described import DOCUMENT
from .host import Host
from .test_contract import things_to_write_to

LISTS = [p for p, item in DOCUMENT["paths"].items() if "get" in item and "{" not in p and p not in ("/api/v1/kit/facts", "/api/v1/drills")]
OF_TRIAL = [p for p, item in DOCUMENT["paths"].items() if "get" in item and re.fullmatch(r"/api/v1/trials/\{id\}[^{]*", p)]


def deletable(host: Host) -> dict[str, str]:
    """Kind of row → the address that deletes one which other things stand on."""
    things = things_to_write_to(host)
    run = host.call("POST", "/loose-runs", {"name": "loose", "variables": {"dose_g": 18, "brew_water_g": 290}, "beverage_g": 250})
    return {
        "setup": f"/setups/{things['setups']}",
        "trial": f"/trials/{things['trials']}",
        "recipe": f"/recipes/{things['recipes']}",
        "person": f"/people/{things['people']}",
        "flight": f"/flights/{things['flights']}",
        "live brew": f"/live-brews/{things['live-brews']}",
        "loose brew": f"/runs/{run['id']}",
        "run": f"/runs/{things['runs']}",
    }


KINDS = ["setup", "trial", "recipe", "person", "flight", "live brew", "loose brew", "run"]


@pytest.mark.parametrize("kind", share(KINDS, least=3))
def test_a_deleted_thing_breaks_no_list(app, kind):
    host = Host(app.test_client())
    places = deletable(host)
    trial = places["trial"].rsplit("/", 1)[-1]
    if kind in ("setup", "run"):
        host.call("DELETE", places["flight"])  # what stands in a flight stays
    host.call("DELETE", places[kind])
    for path in (*LISTS, f"/api/v1/drills?person_id={places['person'].rsplit('/', 1)[-1]}"):
        assert host.client.get(path).status_code == 200, (kind, path)
    for path in OF_TRIAL:
        status = host.client.get(path.replace("{id}", trial)).status_code
        gone = kind == "trial" and not path.endswith("/history")  # by which it can be brought back
        assert status == (404 if gone else 200), (kind, path, status)


def test_every_kind_is_tried(app):
    assert set(deletable(Host(app.test_client()))) == set(KINDS)
