"""What was decided arrives: a match to 1.33 % from the target to the printed report, and a mill with its own dial from the setup to the margin."""

from __future__ import annotations

import re

from playwright.sync_api import expect


def test_a_match_to_a_wished_strength_is_seen_from_the_kitchen_to_the_report(open_context, api):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    trial = api.ask("Which paper for the galley?", "filter", strength_policy="matched")
    first = api.setup(trial["id"])
    for setup, tds in ((first, 1.52), (api.copy(first, filter="Thick crêpe"), 1.39)):
        api.brew(trial["id"], setup, tds=[tds, tds], beverage_g=210)
    page.goto(f"/trials/{trial['id']}/taste")
    expect(page.get_by_text("Stir in water before any cup gets a code: A1")).to_be_visible()
    page.get_by_role("link", name="Note it in Measure").click()
    page.get_by_role("tab", name="Match strengths").click()
    page.get_by_label("Bring all to").fill("1,33")
    water = page.get_by_label("Water added to A1")
    expect(water).to_have_value("30.0")  # 210 g × (1.52 / 1.33 − 1)
    page.get_by_label("Second reading of A1").fill("1.2")
    page.get_by_role("row").filter(has_text="A1").get_by_role("button", name="Diluted").click()
    expect(page.get_by_role("status").filter(has_text="56.0 g would")).to_be_visible()
    page.get_by_label("Second reading of A1").fill("1.33")
    page.get_by_role("row").filter(has_text="A1").get_by_role("button", name="Diluted").click()
    expect(page.get_by_text("56.0 g would")).to_have_count(0)
    expect(water).to_have_value("30.0")  # what is on screen stays the target's
    page.get_by_role("row").filter(has_text="B1").get_by_role("button", name="Diluted").click()
    expect(page.get_by_text("One strength already")).to_be_visible()
    page.get_by_role("tab", name="Brews").click()
    expect(page.get_by_role("row").filter(has_text="A1").first).to_contain_text("served 1.33, +30.0 g water")

    runs = [r["id"] for r in api.get(f"/trials/{trial['id']}/results")["runs"]]
    flight = api.flight(trial["id"], runs, [api.person("Taster One"), api.person("Taster Two")], attributes=[])
    for sheet in flight["sheets"]:
        api.score(sheet, *(api.touch(cup["code"], value=6 + i) for i, cup in enumerate(flight["cups"])))
    api.call("POST", f"/flights/{flight['id']}/close")
    api.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c["code"], "mark": i} for i, c in enumerate(flight["cups"], 1)]})
    page.goto(f"/trials/{trial['id']}/verdict")
    expect(page.get_by_role("heading", level=1)).to_contain_text("An anecdote: lean towards")
    expect(page.get_by_label("What each setup measured")).to_contain_text("served 1.33")
    page.goto(f"/trials/{trial['id']}/report")
    expect(page.get_by_role("article")).to_contain_text("Cups were matched in strength (1.33 to 1.33 % TDS as served)")
    expect(page.get_by_role("article")).to_contain_text(re.compile(r"White weave was served at 1.33 % TDS \(1.52 % as brewed\): 30.0 g of water stirred in"))


def test_two_mills_are_asked_for_a_setting_each(open_context, api):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    for name in ("Galley mill", "Deck mill"):
        api.call("POST", "/kit", {"kind": "grinder", "name": name, "grinder": {}})
    trial = api.ask("Which mill for the deck?", "grinder")
    api.setup(trial["id"], grinder="Galley mill", grind_setting="3.5")
    page.goto(f"/trials/{trial['id']}/set-up")
    page.get_by_role("button", name="Copy a setup, change one thing").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Its grinder").and_(dialog.locator("input")).fill("Deck mill")
    dialog.get_by_label("Grind setting").fill("3.5")
    dialog.get_by_role("button", name="Add setup").click()
    expect(dialog).to_be_hidden()
    bar = page.get_by_role("row", name="Grind setting")
    expect(bar).to_contain_text("each on its own dial")
    for setting in ("Galley mill 3.5", "Deck mill 3.5"):
        expect(bar).to_contain_text(setting)
    expect(bar.get_by_role("button", name=re.compile("hold at"))).to_have_count(0)
    expect(page.get_by_role("complementary")).to_contain_text("Declare how the settings were matched.")
    page.get_by_role("button", name="Add a variable").click()
    page.get_by_role("menuitem", name="Bypass water").click()
    page.get_by_label("Bypass water of A").fill("20")
    page.get_by_role("dialog").get_by_role("button", name="Save").click()
    expect(page.get_by_role("row", name="Bypass water")).to_contain_text("20")
