"""A spreadsheet with faults comes in: its mapping is mended, its faults are seen, and its brews are found in the charts."""

import pytest
from playwright.sync_api import expect

ROWS = """Day;Stuff;Mill;Dose (g);Water (g);Out (g);TDS
1.3.2019;Old finca;Attic mill;18,0;290;251;1,41
2.3.2019;Old finca;Attic mill;eighteen;291;252;1,44
3.3.2019;Old finca;Attic mill;18,2;289;250;1,39
4.3.2019;Old finca;Attic mill;18,1;290;249;140
"""


@pytest.mark.nightly
def test_an_old_spreadsheet_is_mended_brought_in_and_found(open_context, tmp_path):
    file = tmp_path / "old brews.csv"
    file.write_text(ROWS, encoding="cp1252")
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/brews")
    page.get_by_role("link", name="Import a spreadsheet").click()
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_role("heading", name="2 errors in 2 rows")).to_be_visible()
    expect(page.get_by_text("row 3, Dose (g): eighteen")).to_be_visible()
    expect(page.get_by_text("row 5, TDS: 140")).to_be_visible()
    expect(page.get_by_role("button", name="Fix the errors first")).to_be_disabled()
    page.get_by_label("Stuff is").select_option("Coffee")
    expect(page.get_by_role("row").filter(has_text="Old finca")).to_have_count(2)
    expect(page.get_by_text("New in the kit: Attic mill, Old finca.")).to_be_visible()
    page.get_by_label("Skip 2 rows with errors").check()
    page.get_by_role("button", name="Import 2 brews").click()
    expect(page.get_by_text("2 brews and 2 readings are on the bench.")).to_be_visible()
    expect(page.get_by_text("2 rows are already on this bench.")).to_be_visible()
    page.goto("/charts?coffee=Old+finca")
    expect(page.get_by_text("2 brews fit the filter.")).to_be_visible()
    page.goto("/brews?text=attic")
    expect(page.get_by_role("listitem").filter(has_text="3 Mar 2019")).to_have_count(1)
    page.goto("/brews/bring-in")  # the next table with these headings needs no mending
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_text("As a table with these headings was read before.")).to_be_visible()
    expect(page.get_by_label("Stuff is")).to_have_value("coffee")


SCORES = """Date;Session;Taster;Felt or weave;Rating;Acidity
1.3.2018;1;Una;Attic muslin;7;6
1.3.2018;1;Una;Attic felt;5,5;4
1.3.2018;1;Vik;Attic muslin;6,5;5
1.3.2018;1;Vik;Attic felt;60;4
2.3.2018;2;Una;Attic muslin;8;6
2.3.2018;2;Una;Attic felt;6;4
2.3.2018;2;Vik;Attic muslin;7;5
2.3.2018;2;Vik;Attic felt;5;4
"""


def test_a_panels_scores_from_a_spreadsheet_become_a_verdict_that_says_where_they_come_from(open_context, tmp_path):
    file = tmp_path / "old scores.csv"
    file.write_text(SCORES, encoding="utf-8-sig")
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/trials")
    page.get_by_role("link", name="Import scores").click()
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_role("button", name="Choose the column for setup")).to_be_disabled()
    page.get_by_label("Felt or weave is").select_option("Setup, what is compared")
    expect(page.get_by_text("row 5, Rating: 60")).to_be_visible()
    page.get_by_label("Skip 1 row with errors").check()
    expect(page.get_by_role("button", name="Say what was asked")).to_be_disabled()
    page.get_by_label("The question").focus()
    with page.expect_response("**/imports/scores/look"):  # the table is looked at again while the question is typed
        page.keyboard.type("Attic filters")
    page.keyboard.type(": muslin or felt?")
    expect(page.get_by_label("The question")).to_have_value("Attic filters: muslin or felt?")
    expect(page.get_by_role("button", name="Say whether labels were hidden")).to_be_disabled()
    page.get_by_text("Blind", exact=True).click()
    expect(page.get_by_role("button", name="Give the dose and the brew water")).to_be_disabled()
    page.get_by_label("Dose of each brew").fill("18")
    page.get_by_label("Water of each brew").fill("290")
    expect(page.get_by_label("What differs between the setups")).to_have_value("filter")
    expect(page.get_by_text("New in the kit: Attic felt, Attic muslin.")).to_be_visible()
    page.get_by_role("button", name="Import 14 scores").click()
    page.wait_for_url("**/verdict")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Attic muslin")
    expect(page.get_by_text("Tasted elsewhere")).to_be_visible()
    page.goto("/brews/bring-in?of=scores")  # once is enough
    page.locator("input[type=file]").set_input_files(file)
    page.get_by_label("The question").fill("Attic filters: muslin or felt?")
    page.get_by_label("Dose of each brew").fill("18")
    page.get_by_label("Water of each brew").fill("290")
    page.get_by_label("Skip 1 row with errors").check()
    expect(page.get_by_text("2 flights are already on this bench")).to_be_visible()
    expect(page.get_by_role("button", name="All of it is already on this bench")).to_be_disabled()
