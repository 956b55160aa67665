"""A bench that only its own machine can open is opened to the network by one press, while it is served."""

import json
import re
import urllib.request
from urllib.error import HTTPError
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from brasspenny.addresses import own_address

from .people import follow
from .remote import host_of

AWAY = (
    "ERR_CONNECTION_REFUSED",
    "ERR_INCOMPLETE_CHUNKED_ENCODING",
    "ERR_EMPTY_RESPONSE",
    "ERR_CONNECTION_RESET",
    "ERR_SOCKET_NOT_CONNECTED",
    "403 (FORBIDDEN)",
)


@pytest.mark.skipif(own_address().startswith("127."), reason="this machine is on no network")
def test_one_press_lets_phones_in_and_links_then_lead_to_this_machine(started, open_context, tmp_path):
    base = started(tmp_path / "data", "serve")
    host, port = host_of(base), urlsplit(base).port
    outside = f"http://{own_address()}:{port}"
    with pytest.raises(OSError):
        urllib.request.urlopen(f"{outside}/api/v1/health", timeout=2)
    people = [host.person(name) for name in ("Odile", "Bram")]
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people)
    page = open_context(viewport={"width": 1280, "height": 800}, base_url=base, other=urlsplit(base).netloc, allowed=AWAY).new_page()
    page.goto(f"/trials/{trial['id']}/taste")
    page.get_by_role("button", name="Link and code").first.click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("note")).to_contain_text("Phones cannot reach this bench.")
    expect(sheet.get_by_role("img", name=re.compile("QR code"))).to_have_count(0)  # no code that cannot work
    expect(sheet.get_by_role("link", name="print the sheets")).to_be_visible()
    sheet.get_by_role("button", name="Let phones in").click()
    expect(sheet.get_by_role("img", name=re.compile("QR code"))).to_be_visible()
    expect(sheet.get_by_role("note")).to_have_count(0)
    link = sheet.locator("code").inner_text()
    assert link.startswith(f"{outside}/t/")
    note = page.get_by_role("alert").filter(has_text="Note it now")
    passphrase = re.search("“(.+)”", note.inner_text())[1]
    token = link.rsplit("/", 1)[1].split("?")[0]
    with urllib.request.urlopen(f"{outside}/api/v1/taste/{token}") as answer:  # as a phone: by the link alone
        assert answer.status == 200
    with pytest.raises(HTTPError) as refused:
        urllib.request.urlopen(f"{outside}/api/v1/trials")
    assert refused.value.code == 401
    asked = urllib.request.Request(f"{outside}/api/v1/session", json.dumps({"passphrase": passphrase}).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(asked) as answer:  # as another computer
        assert json.load(answer)["locked"] is False
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Tasters", exact=True)).to_be_visible()  # this browser is still let in
    follow(page.get_by_role("link", name="All links on one page"))
    expect(page.get_by_role("img", name=re.compile("QR code"))).to_have_count(len(flight["sheets"]))
    assert host.get("/reach") == {"link": f"{outside}/", "on_network": True, "may_open": False}
    host.call("POST", "/open-to-network", {}, status=403)
