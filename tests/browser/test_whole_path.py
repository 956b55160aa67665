"""From question to verdict in one sitting: a host and two tasters in three browsers, one of which loses its network; and one person alone."""

import pytest
from playwright.sync_api import expect

from .people import Taster, follow

PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}
OFFLINE = ("ERR_INTERNET_DISCONNECTED",)


def test_a_host_and_two_tasters_find_a_filter(host, open_context):
    page = host.page
    host.ask("Which filter for the Peru?", "Filter")
    host.describe_first_setup()
    host.copy_setup("Thick crêpe")
    expect(page.get_by_role("heading", name="Not fair yet. Not dialled in: A, B")).to_be_visible()

    # a copy with another temperature cracks the bar; one click holds it
    page.get_by_role("button", name="Temperature").click()
    page.get_by_label("Temperature of B").fill("96")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", name="One crack: temperature")).to_be_visible()
    expect(page.get_by_role("complementary")).to_contain_text("Temperature differs")
    page.get_by_role("button", name="hold at 93 °C").click()
    expect(page.get_by_role("heading", name="Not fair yet. Not dialled in: A, B")).to_be_visible()

    # two brews of each, worked out while typing
    follow(page.get_by_role("link", name="Start brewing"))
    page.get_by_label("Beverage mass").fill("248")
    page.get_by_label("TDS readings, %").fill("1,41 1.43 1.42")
    expect(page.get_by_text("Yield 19.6 ± 0.5 %")).to_be_visible()
    host.log_brew("A", beverage="248", readings="1.41 1.43 1.42", Total_time="2:45")
    host.log_brew("B", beverage="247", readings="1.44 1.45 1.43", Total_time="3m05")
    host.log_brew("A", beverage="249", readings="1.40 1.42 1.41")
    host.log_brew("B", beverage="248")
    expect(page.get_by_role("heading", name="4 brews logged")).to_be_visible()
    expect(page.get_by_text("No TDS reading, so no yield.")).to_be_visible()

    # the missing readings, one sample at a time, on the measuring bench
    host.station("Measure")
    expect(page.get_by_role("heading", name="3 of 4 brews read")).to_be_visible()
    for reading in ("1.44", "1,45", "1.46"):
        page.get_by_label("of brew B2").fill(reading)
        page.get_by_role("button", name="Log", exact=True).click()
        expect(page.get_by_label("of brew B2").or_(page.get_by_label("of brew"))).to_have_value("")
    expect(page.get_by_role("heading", name="Every brew is read")).to_be_visible()
    expect(page.get_by_role("img", name="B2: 1.45 % TDS")).to_be_visible()
    expect(page.get_by_role("group", name="Strength and yield against brew ratio")).to_be_visible()

    # a blind flight for two
    host.make_flight(["Bo", "Iwan"], ["A1", "A2", "B1", "B2"])
    codes = host.codes()
    key = dict(zip(codes, (2, 4, 1, 3), strict=True))  # what hands did out of sight
    liked = {code: 4 if mark <= 2 else 8 for code, mark in key.items()}
    bo, iwan = Taster(open_context(**PHONE).new_page()), Taster(open_context(allowed=OFFLINE, **PHONE).new_page())
    bo.open(host.link_of("Bo"))
    iwan.open(host.link_of("Iwan"))

    bo.start()
    for _ in codes:
        bo.like(liked[bo.code()])
        bo.touch("Acidity", 2)
        bo.next()
    expect(bo.page.get_by_role("heading", name="All cups are scored")).to_be_visible()
    bo.expect_delivered()

    # Iwan's phone drops off after the first cup, keeps what it is told, survives a reload, delivers once
    iwan.start()
    iwan.like(liked[iwan.code()])
    iwan.expect_delivered()
    iwan.next()
    iwan.page.context.set_offline(True)
    for _ in codes[1:-1]:
        iwan.like(1)  # a slip, put right at once
        iwan.like(liked[iwan.code()])
        iwan.next()
    iwan.expect_kept()
    iwan.page.reload()  # without network: the page and what was scored are still there
    expect(iwan.page.get_by_text("liking 8").or_(iwan.page.get_by_text("liking 4"))).to_have_count(3)
    iwan.expect_kept()
    expect(page.get_by_role("region", name="Tasters").get_by_role("listitem").filter(has_text="Iwan")).to_contain_text("1 of 4")
    iwan.page.context.set_offline(False)
    iwan.expect_delivered()
    iwan.page.reload()
    expect(iwan.page.get_by_text("liking 8").or_(iwan.page.get_by_text("liking 4"))).to_have_count(3)
    iwan.page.get_by_role("button", name="not scored").click()
    iwan.like(liked[iwan.code()])
    iwan.page.get_by_label("Tasting notes").fill("lime, then <i>honey</i>")
    iwan.next()
    iwan.expect_delivered()

    # the host saw progress and nothing else; the flip makes the key known
    expect(page.get_by_text("8 of 8 done")).to_be_visible()
    expect(page.get_by_role("list", name="Cups of the flight").get_by_role("img", name="Setup")).to_have_count(0)
    host.close_flight()
    iwan.page.reload()
    expect(iwan.page.get_by_role("alert")).to_contain_text("locked")
    host.flip(key)
    tray = page.get_by_role("list", name="Cups of the flight")
    for code, mark in key.items():
        expect(tray.get_by_role("img", name=f"Cup {code} was {'A1' if mark == 1 else 'A2' if mark == 2 else 'B1' if mark == 3 else 'B2'}")).to_be_visible()
    follow(page.get_by_role("link", name="Read the verdict"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("Thick crêpe")
    expect(page.get_by_role("rowheader").first).to_contain_text("Thick crêpe")
    expect(page.get_by_role("complementary")).to_contain_text("2 tasters")


@pytest.mark.nightly
def test_one_person_alone(host, open_context):
    """Host and taster are one: shuffled with eyes shut, scored on the same machine, judged as that person's own liking."""
    host.ask("Is my slower pour worth it?", "Something else", named="pour speed")
    page = host.page
    host.describe_first_setup(**{"pour speed": "fast pour"})
    host.copy_setup("slow pour")
    follow(page.get_by_role("link", name="Start brewing"))
    for letter in "ABAB":
        host.log_brew(letter, beverage="250", readings="1.40 1.41 1.40")
        expect(page.get_by_text(f"Brew {letter}").last).to_be_visible()
    expect(page.get_by_role("heading", name="4 brews logged")).to_be_visible()
    host.make_flight(["Saskia"], ["A1", "A2", "B1", "B2"])
    key = dict(zip(host.codes(), (3, 1, 4, 2), strict=True))
    me = Taster(page.context.new_page())
    me.open(host.link_of("Saskia"))
    me.start()
    for _ in key:
        me.like(8 if key[me.code()] <= 2 else 3)
        me.next()
    me.expect_delivered()
    host.close_flight()
    host.flip(key)
    follow(page.get_by_role("link", name="Read the verdict"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("fast pour")
    expect(page.get_by_role("complementary")).to_contain_text("that person's own liking only")
