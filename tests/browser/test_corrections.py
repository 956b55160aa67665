"""Mistakes: shown at their field with nothing lost, corrected with history, deleted with a way back, and two people at once."""

import re

import pytest
from playwright.sync_api import expect

REFUSED = ("the server responded with a status of 4",)  # Chromium prints every refusal; each is looked at below


def test_bad_input_is_answered_at_the_field_and_nothing_typed_is_lost(open_context, api):
    page = open_context(allowed=REFUSED, viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{api.trial_called('How far can the ratio stretch?')}/brew")
    page.get_by_role("button", name="A2 is to be brewed").click()
    page.get_by_label("Beverage mass").fill("999")
    page.get_by_label("TDS readings, %").fill("142")
    expect(page.get_by_role("alert")).to_contain_text("243")
    page.get_by_role("button", name="Log brew").click()
    expect(page.get_by_label("Beverage mass")).to_have_accessible_description(
        "The drink weighs 999 g and all the water only 243 g. Check that the server was tared and that every pour and the bypass are counted."
    )
    page.get_by_label("Beverage mass").fill("210")
    page.get_by_label("Beverage mass").press("Enter")  # a press on the button can slip off it while the live figures above it change
    readings = page.get_by_label("TDS readings, %")
    expect(readings).to_have_accessible_description(re.compile("conductivity pen"))  # the bench's own refusal; the live figures say it sooner
    expect(readings).to_be_enabled()
    expect(readings).to_have_value("142")
    page.get_by_label("TDS readings, %").fill("1.5x")
    page.get_by_label("TDS readings, %").press("Enter")  # a press on the button can slip off it while the live figures above it go away
    expect(page.get_by_text("This is not a number.").first).to_be_visible()
    page.get_by_label("Total time").fill("half past")
    page.get_by_label("Temperature").click()
    expect(page.get_by_text("That is not a time.")).to_be_visible()
    expect(page.get_by_role("heading", name="6 brews logged")).to_be_visible()


@pytest.mark.nightly
def test_a_brew_is_corrected_with_history_deleted_and_brought_back(host, api):
    page = host.page
    page.goto(f"/trials/{api.trial_called('How far can the ratio stretch?')}/brew")
    brew = page.get_by_role("article", name="Brew C1")
    brew.get_by_role("button", name="Correct").click()
    dialog = page.get_by_role("dialog")
    before = dialog.get_by_label("Beverage mass").input_value()
    dialog.get_by_label("Beverage mass").fill("240")
    dialog.get_by_role("button", name="Save the correction").click()
    expect(brew).to_contain_text("240.0 g")
    page.get_by_role("button", name="History").click()
    expect(page.get_by_role("dialog")).to_contain_text(f"beverage: {float(before):g} g → 240 g")
    page.get_by_role("dialog").get_by_role("button", name="Undo").first.click()
    expect(brew).to_contain_text(f"{float(before):.1f} g")
    page.keyboard.press("Escape")
    brew.get_by_role("button", name="Correct").click()
    page.get_by_role("button", name="Delete the brew").click()
    page.get_by_role("dialog", name="Delete brew C1?").get_by_role("button", name="Delete the brew").click()
    expect(page.get_by_role("heading", name="5 brews logged")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name="6 brews logged")).to_be_visible()


def test_two_people_editing_one_brew_choose_between_both_versions(open_context, api):
    first, second = (open_context(allowed=REFUSED, viewport={"width": 1280, "height": 800}).new_page() for _ in range(2))
    for page in (first, second):
        page.goto(f"/trials/{api.trial_called('How far can the ratio stretch?')}/brew")
        page.get_by_role("article", name="Brew D1").get_by_role("button", name="Correct").click()
    first.get_by_role("dialog").get_by_label("Temperature").fill("92")
    first.get_by_role("button", name="Save the correction").click()
    expect(first.get_by_role("dialog")).to_be_hidden()
    second.get_by_role("dialog").get_by_label("Temperature").fill("94")
    second.get_by_role("button", name="Save the correction").click()
    expect(second.get_by_role("alert").filter(has_text="Somebody changed this brew")).to_be_visible()
    expect(second.get_by_role("row", name="temperature c")).to_contain_text("92")
    expect(second.get_by_role("row", name="temperature c")).to_contain_text("94")
    second.get_by_role("button", name="Save yours over theirs").click()
    expect(second.get_by_role("dialog")).to_be_hidden()


@pytest.mark.nightly
def test_an_unknown_link_says_what_to_do(open_context):
    page = open_context(allowed=REFUSED, viewport={"width": 390, "height": 844}).new_page()
    page.goto("/t/nobodyhasthislink")
    expect(page.get_by_role("alert")).to_contain_text("Ask the host for a new link")


@pytest.mark.nightly
def test_calculators_keys_and_a_decimal_comma(host):
    page = host.page
    page.goto("/")
    expect(page.get_by_role("heading", name="Lightship Nine")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("Trials")
    page.keyboard.press("Escape")
    page.keyboard.press("c")
    drawer = page.get_by_role("dialog", name="Calculators")
    for label, value in (("Dose", "18"), ("Brew water", "290"), ("Beverage mass", "248"), ("TDS", "1,42")):
        drawer.get_by_role("tabpanel", name="Extraction").get_by_label(label, exact=True).fill(value)
    expect(drawer).to_contain_text("understood as 1.42")
    expect(drawer).to_contain_text("19.56 %")
    expect(drawer).to_contain_text("2.53 g/g")
    drawer.get_by_role("tab", name="Dilution").click()
    panel = drawer.get_by_role("tabpanel", name="Dilution")
    for label, value in (("Beverage mass", "210"), ("TDS now", "1.52"), ("TDS wanted", "1.38")):
        panel.get_by_label(label).fill(value)
    expect(panel).to_contain_text("21.3 g")
    drawer.get_by_role("tab", name="Solve").click()
    panel = drawer.get_by_role("tabpanel", name="Solve")
    for label, value in (("TDS", "1.30"), ("Extraction yield", "20.5"), ("Brew water", "260")):
        panel.get_by_label(label, exact=True).fill(value)
    expect(panel).to_contain_text("14.72 g")
    page.keyboard.press("Escape")
    page.keyboard.press("g")
    page.keyboard.press("t")
    expect(page.get_by_role("heading", name="Trials")).to_be_visible()
