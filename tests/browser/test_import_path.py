"""A spreadsheet with faults comes in: its mapping is mended, its faults are seen, and its brews are found in the chart room."""

from playwright.sync_api import expect

ROWS = """Day;Stuff;Mill;Dose (g);Water (g);Out (g);TDS
1.3.2019;Old finca;Attic mill;18,0;290;251;1,41
2.3.2019;Old finca;Attic mill;eighteen;291;252;1,44
3.3.2019;Old finca;Attic mill;18,2;289;250;1,39
4.3.2019;Old finca;Attic mill;18,1;290;249;140
"""


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
    page.goto("/chart-room?coffee=Old+finca")
    expect(page.get_by_text("2 brews fit the filter.")).to_be_visible()
    page.goto("/brews?text=attic")
    expect(page.get_by_role("listitem").filter(has_text="3 Mar 2019")).to_have_count(1)
    page.goto("/brews/bring-in")  # the next table with these headings needs no mending
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_text("As a table with these headings was read before.")).to_be_visible()
    expect(page.get_by_label("Stuff is")).to_have_value("coffee")
