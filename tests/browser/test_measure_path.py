"""From cups brewed to numbers trusted: a check, a reading step by step, both charts, strengths matched, one change, the charts."""

import csv
import re

import pytest
from playwright.sync_api import expect

from .test_corrections import REFUSED


@pytest.fixture
def true_again(api):
    """The bench is shared: whatever a check took off the readings, the next test's are true."""
    yield
    api.call("POST", "/instrument-checks", {"read_pct": 0})


def test_read_match_advise_and_find_it_in_the_chart_room(open_context, api, true_again):
    page = open_context(viewport={"width": 1280, "height": 800}, allowed=REFUSED, accept_downloads=True).new_page()
    trial = api.call("POST", "/trials", {"question": "Which server keeps it?", "factor": "brewer", "strength_policy": "matched"})
    recipe = next(r for r in api.get("/recipes")["recipes"] if r["name"] == "Long watch, three pours")
    setups = [
        api.call(
            "POST",
            f"/trials/{trial['id']}/setups",
            {"recipe_version_id": recipe["version_id"], "variables": {"brewer": b, "brewer_type": "flat_bed"}, "new_kit": ["brewer"]},
        )
        for b in ("One", "Two")
    ]
    for setup, tds in zip(setups, (1.52, 1.38), strict=True):
        body = {"setup_id": setup["id"], "dose_g": 18, "brew_water_g": 288, "beverage_g": 246, "total_time_s": 230, "tds_readings_pct": [tds, tds]}
        api.call("POST", f"/trials/{trial['id']}/runs", body)

    # the refractometer reads 0.01 too much: dated, applied, shown
    page.goto("/kit/instruments")
    page.get_by_role("button", name="Check the refractometer").click()
    page.get_by_label("What the instrument read").fill("0,01")
    page.get_by_role("button", name="Log the check").click()
    expect(page.get_by_text("is taken off every reading since")).to_be_visible()

    page.goto(f"/trials/{trial['id']}/measure")
    page.get_by_text("Step by step").click()
    for step in ("Zero with distilled water", "Stir the drink"):
        page.get_by_label(step).check()
    reading = page.get_by_label("Reading 3 of brew A1, % TDS")
    reading.fill("40")
    page.get_by_role("button", name="Log", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("cannot be")
    reading.fill("1,53")
    page.get_by_role("button", name="Log", exact=True).click()
    expect(page.get_by_role("button", name="Correct reading 1.52 of A1")).to_have_count(3)
    expect(page.get_by_role("complementary")).to_contain_text("not wiped between samples")

    # the chart: whose box it is, a part of it, a wished cup, its table, its file
    chart = page.get_by_role("region", name="Strength and yield")
    expect(chart.locator("[data-window]")).to_have_count(0)
    chart.get_by_role("button", name=re.compile("^Overlays")).click()
    page.get_by_label("classic window").check()
    page.get_by_label("Nordic variant").check()
    page.get_by_label("what cups taste like").check()
    page.keyboard.press("Escape")
    expect(chart.locator("[data-window]")).to_have_count(2)
    chart.get_by_role("img", name=re.compile("^what cups taste like")).focus()
    expect(chart.get_by_text("Guinard et al. 2023")).to_be_visible()
    point = chart.get_by_role("img", name=re.compile("^A1: 1.52 % TDS"))
    point.first.focus()
    expect(chart.get_by_text(re.compile(r"^A1: 1\.52 % TDS \(1\.\d\d to"))).to_be_visible()
    chart.get_by_role("button", name="Target cup").click()
    ghost = chart.get_by_role("slider", name="Wished cup")
    before = ghost.get_attribute("aria-valuetext")
    ghost.focus()
    for key in ("ArrowDown", "ArrowLeft", "Shift+ArrowLeft"):
        ghost.press(key)
    assert ghost.get_attribute("aria-valuetext") != before
    expect(chart.get_by_text("dose, same water")).to_be_visible()
    plot = chart.get_by_role("application")
    box = plot.bounding_box()
    page.mouse.move(box["x"] + 60, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + 220, box["y"] + 200, steps=4)
    page.mouse.up()
    expect(chart.get_by_role("button", name="Whole")).to_be_enabled()
    plot.press("0")
    expect(chart.get_by_role("button", name="Whole")).to_be_disabled()
    chart.get_by_role("button", name="Save").click()
    with page.expect_download() as saved:
        page.get_by_role("menuitem", name="as CSV").click()
    rows = list(csv.reader(saved.value.path().read_text().splitlines()))
    assert rows[0][0] == "brew" and {r[0] for r in rows[1:]} == {"A1", "B1"}
    chart.get_by_role("button", name="Save").click()
    with page.expect_download() as saved:
        page.get_by_role("menuitem", name="as SVG").click()
    assert "<svg" in saved.value.path().read_text()[:200]
    chart.get_by_role("button", name="Table").click()
    expect(chart.get_by_role("row", name=re.compile("^A1 16"))).to_be_visible()

    # different, then brought to one strength, confirmed by a second reading
    page.get_by_role("tab", name="Same or different").click()
    expect(page.get_by_text("A has the higher in-cup yield")).to_be_visible()
    page.get_by_role("tab", name="Match strengths").click()
    expect(page.get_by_text("Dilute to match the weakest before coding")).to_be_visible()
    target = page.get_by_label("Bring all to")
    target.fill("1.6")
    expect(page.get_by_text("water cannot strengthen it")).to_be_visible()
    target.fill("")
    row = page.get_by_role("row", name=re.compile("^Setup A A1"))
    row.get_by_label("Second reading of A1").fill("1.39")
    row.get_by_role("button", name="Diluted").click()
    expect(row).to_contain_text("1.39 % read again")
    expect(row).to_contain_text("1.52 %")

    # one change, kept as a version
    page.get_by_role("tab", name="Next change").click()
    page.get_by_text("bitter", exact=True).click()
    change = page.get_by_role("region", name="One change")
    expect(change).to_contain_text("Grind coarser")
    change.get_by_role("button", name="Keep as the next version").click()
    expect(page.get_by_text("the next version is kept")).to_be_visible()

    page.goto("/charts?brewer=One")
    expect(page.get_by_text("1 brew fit the filter.")).to_be_visible()
    page.get_by_role("link", name=re.compile(f"^Trial {trial['number']}, A1")).click()
    expect(page).to_have_url(re.compile(f"/trials/{trial['id']}/measure"))
