"""Fahrenheit at one press: typed, shown, said and printed; and a brew found again by its words."""

import re

import pytest
from playwright.sync_api import expect


@pytest.mark.nightly
def test_a_bench_that_thinks_in_fahrenheit(open_context, api):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    trial = api.trial_called("Which filter for the flat bed?")
    runs = [r["id"] for r in api.get(f"/trials/{trial}/results")["runs"]][:2]
    flight = api.call("POST", f"/trials/{trial}/flights", {"run_ids": runs, "taster_ids": [api.get("/people")["people"][0]["id"]], "sip_temperature": True})
    try:
        page.goto("/kit/instruments")
        expect(page.get_by_text("21 °C")).to_be_visible()
        for choice in ("°F", "6.25 g per 100 g", "250 g (8.8 oz)"):
            page.get_by_text(choice, exact=True).click()
        page.get_by_label("Currency sign").fill("£")
        page.get_by_role("button", name="Save units").click()
        expect(page.get_by_text("69.8 °F")).to_be_visible()
        expect(page.get_by_role("button", name="Save units")).to_be_disabled()  # the page was drawn anew in its units
        page.get_by_role("button", name="Change").click()  # what was kept in °C is typed and shown in °F
        room = page.get_by_role("dialog").get_by_label("Room")
        expect(room).to_have_value("69.8")
        room.fill("72")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_text("72 °F")).to_be_visible()
        assert abs(api.get("/bench")["ambient_c"] - 22.22) < 0.01
        page.goto(f"/trials/{trial}/set-up")
        expect(page.get_by_text("199.4 °F").first).to_be_visible()
        page.goto(f"/trials/{trial}/verdict?view=value")
        expect(page.get_by_text(re.compile(r"£0\.\d\d")).first).to_be_visible()
        page.goto("/kit/coffee")
        expect(page.get_by_text(re.compile(r"\d+ g \(\d+\.\d oz\) left")).first).to_be_visible()
        page.goto(f"/trials/{trial}/measure")
        expect(page.get_by_text("g of coffee per 100 g of water")).to_be_visible()
        shown = api.call("POST", f"/trials/{trial}/verdict-links", {})["link"]  # somebody without the bench, on a device that never heard of it
        other = open_context(viewport={"width": 1280, "height": 800}).new_page()
        other.goto(shown)
        expect(other.get_by_text("199.4 °F", exact=False).first).to_be_visible()
        expect(other.get_by_text("°C")).to_have_count(0)
        page.goto(f"/flights/{flight['id']}/paper")
        expect(page.get_by_text("taste below 149 °F").first).to_be_visible()
        phone = open_context(viewport={"width": 390, "height": 844}).new_page()
        phone.goto(flight["sheets"][0]["link"])
        expect(phone.get_by_text("below 149 °F")).to_be_visible()
        phone.get_by_role("button", name="Start with the first cup").click()
        sip = phone.get_by_label("First sip at").first
        sip.fill("136")
        sip.blur()
        phone.reload()
        phone.get_by_role("button", name="Start with the first cup").click()
        expect(phone.get_by_label("First sip at").first).to_have_value("136")
    finally:
        api.call("PATCH", "/units", {"heat": "C", "ratio": "to_one", "bags": "g", "currency": ""})
        api.call("DELETE", f"/flights/{flight['id']}")
    page.goto("/kit/instruments")
    expect(page.get_by_text("22.2 °C")).to_be_visible()  # the very room that was typed as 72 °F


@pytest.mark.nightly
def test_a_brew_is_found_tagged_put_away_and_brought_back_on_a_phone(open_context):
    page = open_context(viewport={"width": 390, "height": 844}).new_page()
    page.goto("/brews")
    page.get_by_label("Find brews").fill("sumatra cask")
    expect(page.get_by_role("listitem").filter(has_text="Daily cup")).to_have_count(1)
    page.get_by_role("button", name="Tags of").click()
    page.get_by_role("combobox", name="Tags").fill("last of the bag")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Save tags").click()
    page.get_by_label("Find brews").fill("")
    page.get_by_role("button", name="last of the bag").click()
    expect(page.get_by_role("listitem").filter(has_text="Daily cup")).to_have_count(1)
    page.get_by_role("button", name="Tags of").click()
    page.get_by_role("button", name="Archive the brew").click()
    expect(page.get_by_text("No brew matches")).to_be_visible()
    page.get_by_text("Archived", exact=True).click()
    page.get_by_role("button", name="Tags of").click()
    page.get_by_role("button", name="Bring back from the archive").click()
    expect(page.get_by_text("No brew matches")).to_be_visible()
    page.goto("/brews?tag=last+of+the+bag")
    expect(page.get_by_role("listitem").filter(has_text="Cask-rested Sumatra")).to_be_visible()
