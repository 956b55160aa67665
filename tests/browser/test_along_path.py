"""Brewing along with the simulated scale at twenty times the clock: one key, a reload in the middle, a logged brew at the end."""

import json
import re
import urllib.request

from playwright.sync_api import expect


def call(bench, path, body=None):
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(f"{bench}/api/v1{path}", data=data, headers={"Content-Type": "application/json"})
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)


def at(page, elapsed):
    """Wait until the clock on the page has come this far; it shows m:ss."""
    m, s = divmod(elapsed, 60)
    later = "|".join(f"{m + (s + k) // 60}:{(s + k) % 60:02}" for k in range(25))
    expect(page.get_by_label("Elapsed")).to_have_text(re.compile(f"^({later})$"))


def test_a_brew_is_made_along_resumed_and_logged(open_context, bench):
    trial = next(t["id"] for t in call(bench, "/trials")["trials"] if t["question"].startswith("Does the bean"))
    setup = call(bench, f"/trials/{trial}/setups")["setups"][0]
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{trial}/brew")
    expect(page.get_by_role("button", name="Brew A along its recipe")).to_be_visible()
    live = call(bench, f"/trials/{trial}/live-brews", {"setup_id": setup["id"], "instrument": "simulated", "speed": 20})
    page.goto(f"/along/{live['id']}")
    expect(page.get_by_text("simulated scale, 20× speed")).to_be_visible()
    expect(page.get_by_text("topples: steady it")).to_be_visible()
    page.keyboard.press("Space")
    at(page, 12)
    page.keyboard.press("Space")
    page.get_by_role("button", name="First drip").click()
    at(page, 62)
    page.reload()  # a closed lid, another device: the clock is the bench's
    expect(page.get_by_label("Target")).to_contain_text("g")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Space")
    at(page, 108)
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Drips stopped")).to_be_visible()
    page.keyboard.press("Space")
    page.get_by_label("Beverage mass").fill("252")
    page.get_by_label("TDS readings, %").fill("1.40 1.41 1.40")
    page.get_by_role("button", name="Log brew A1").click()
    brew = page.get_by_role("article", name="Brew A1")
    expect(brew).to_contain_text("252.0 g")
    expect(brew).to_contain_text("1.40 ±")
    run = call(bench, f"/trials/{trial}/results")["runs"][0]
    assert 280 < run["brew_water_g"] < 294 and 100 <= run["pour_end_s"] <= 140 <= run["total_time_s"] + 40
    call_delete = urllib.request.Request(f"{bench}/api/v1/runs/{run['id']}", method="DELETE")
    urllib.request.urlopen(call_delete).close()
