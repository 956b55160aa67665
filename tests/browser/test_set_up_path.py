"""Setting up, where a hand slips: a name that is not in the kit, a grinder whose dial reads otherwise, two setups alike."""

import re

import pytest
from playwright.sync_api import expect

from .people import SETUP_A, Host
from .test_corrections import REFUSED


@pytest.mark.nightly
def test_a_slip_of_the_pen_makes_no_kit_and_another_grinder_no_equal_number(open_context):
    page = open_context(viewport={"width": 1280, "height": 800}, allowed=REFUSED).new_page()
    host = Host(page)
    host.ask("Which mill for the Peru?", "Grinder")
    host.open_the_same_in_all()

    # a filter nobody has: named at its field, everything typed stays, one press links it
    for label, value in (SETUP_A | {"Filter": "White weeve"}).items():
        host.first_field(label).fill(value)
    page.get_by_role("heading", name="What is compared?").click()
    page.get_by_role("button", name="Add setup A").click()
    filter_field = page.get_by_label("Filter", exact=True).and_(page.locator("input"))
    expect(filter_field).to_have_accessible_description(
        re.compile("There is no filter called “White weeve” in the kit. Link it to White weave.*, or add it to the kit.")
    )
    expect(page.get_by_label("Coffee", exact=True).and_(page.locator("input"))).to_have_value(SETUP_A["Coffee"])
    page.get_by_role("button", name="Link to White weave").click()
    expect(filter_field).to_have_value("White weave")
    page.get_by_role("button", name="Add setup A").click()
    expect(page.get_by_role("heading", name="One setup so far")).to_be_visible()

    # a copy that differs in nothing is refused where it is made
    page.get_by_role("button", name="Copy a setup, change one thing").click()
    dialog = page.get_by_role("dialog")
    mill = dialog.get_by_label("Its grinder").and_(dialog.locator("input"))
    mill.fill(SETUP_A["Grinder and burrs"])
    dialog.get_by_text("Copy of", exact=True).click()
    dialog.get_by_role("button", name="Add setup").click()
    expect(dialog).to_contain_text("differ in nothing from A")

    # on another mill the number is the one that grinds alike, and says what vouches for it
    mill.fill("Capstan hand mill")
    dialog.get_by_text("Copy of", exact=True).click()
    dialog.get_by_role("button", name="Add setup").click()
    expect(dialog).to_be_hidden()
    bar = page.get_by_role("row", name="Grind setting")
    expect(bar).to_contain_text("5.5")
    expect(bar).to_contain_text("19")
    expect(bar).to_contain_text("matched by sieve median: By the kit's matches, 19 grinds like 5.5")
    expect(page.get_by_role("heading", name="A fair comparison")).to_have_count(0)
