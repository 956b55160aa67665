"""Blind for real, in four browsers: a host who tastes, a runner, two more phones; triangle and scores; the flip, the report."""

import re

import pytest
from playwright.sync_api import expect

from .people import Host, Taster, follow

PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}
OFFLINE = ("ERR_INTERNET_DISCONNECTED",)
REFUSED = ("409", "404")


def two_setups(api, page, question: str) -> None:
    """Two filters, two brews each, and the page they are brewed on."""
    trial = api.ask(question)["id"]
    a = api.setup(trial)
    for setup in (a, api.copy(a, filter="Thick crêpe")) * 2:
        api.brew(trial, setup)
    page.goto(f"/trials/{trial}/brew")


def pours(runner) -> dict[str, str]:
    """code → label, as the runner's sheet says."""
    rows = runner.get_by_role("listitem").filter(has_text="→").all()
    return {code: re.search(r"[AB]\d", row.inner_text()).group() for row in rows for code in re.findall(r"\b[1-9]\d\d\b", row.inner_text())}


def test_a_runner_pours_three_taste_and_the_seal_holds(host, api, open_context):
    page = host.page
    two_setups(api, page, "Which filter, poured by a runner?")
    host.make_flight(["Bo", "Iwan", "Saskia"], ["A1", "A2", "B1", "B2"], runner=True)
    seal = page.get_by_text(re.compile(r"^[0-9a-f]{64}$")).inner_text()

    # the link is handed over; the runner's phone binds it, another phone is turned away
    page.get_by_role("button", name="Link for the runner").click()
    link = page.get_by_role("dialog").get_by_text("/p/").inner_text()
    page.keyboard.press("Escape")
    # from the moment the host says they taste, only the runner's camera gets the code
    page.get_by_role("button", name="I am tasting too").click()
    page.get_by_role("dialog").get_by_role("button", name="I am tasting too").click()
    expect(page.get_by_text("on the runner's phone only; you are tasting too")).to_be_visible()
    expect(page.get_by_role("button", name="Pour it myself")).to_have_count(0)
    page.get_by_role("button", name="Code for the runner").click()
    expect(page.get_by_role("dialog").get_by_role("img", name="QR code of the runner's link")).to_be_visible()
    expect(page.get_by_role("dialog").get_by_text("/p/")).to_have_count(0)
    page.keyboard.press("Escape")
    runner = open_context(**PHONE).new_page()
    runner.goto(link)
    runner.get_by_role("button", name="Open the pour sheet").click()
    expect(runner.get_by_role("heading", name="Pour each into its codes")).to_be_visible()
    key = pours(runner)
    assert sorted(key.values()) == ["A1", "A2", "B1", "B2"]
    late = open_context(allowed=REFUSED, **PHONE).new_page()
    late.goto(link)
    late.get_by_role("button", name="Open the pour sheet").click()
    expect(late.get_by_role("alert")).to_contain_text("another device")
    expect(page.get_by_text("The runner opened the pour sheet")).to_be_visible()

    # the host tastes on the same machine; nothing there says which is which, and the pour link does not open there either
    me = Taster(page.context.new_page())
    bo, iwan = Taster(open_context(**PHONE).new_page()), Taster(open_context(allowed=OFFLINE, **PHONE).new_page())
    for taster, name in ((me, "Saskia"), (bo, "Bo"), (iwan, "Iwan")):
        taster.open(host.link_of(name))
        assert not re.search("weave|crêpe", taster.page.content(), re.I)
        taster.start()
    liked = {code: 8 if label[0] == "B" else 4 for code, label in key.items()}
    for _ in key:
        me.like(liked[me.code()])
        me.next()
    me.expect_delivered()
    page.bring_to_front()  # a tab in the background draws one frame a second

    # Bo reloads in the middle and resumes; Iwan drops off mid-flight and delivers later
    for i in range(4):
        bo.like(liked[bo.code()])
        if i == 1:
            bo.expect_delivered()
            bo.page.reload()
            bo.page.get_by_role("button", name="Go on with cup").click()
        else:
            bo.next()
    iwan.like(liked[iwan.code()])
    iwan.next()
    iwan.page.context.set_offline(True)
    for _ in range(2):
        iwan.like(liked[iwan.code()])
        iwan.next()
    iwan.expect_kept()
    expect(page.get_by_role("region", name="Tasters").get_by_role("listitem").filter(has_text="Bo")).to_contain_text("4 of 4")
    iwan.page.context.set_offline(False)
    iwan.expect_delivered()
    iwan.like(liked[iwan.code()])
    iwan.page.get_by_text("Pick words").click()
    iwan.page.get_by_label("Search the shelf").fill("lim")
    iwan.page.get_by_role("button", name="lime").click()
    iwan.page.get_by_label("I recognised this cup by sight").check()
    iwan.next()
    iwan.expect_delivered()
    expect(page.get_by_text("12 of 12 done")).to_be_visible()

    # closed and flipped: pennies turn one by one, the seal opens, the margin knows of the eye
    page.get_by_role("button", name="Close the flight").click()
    page.get_by_role("button", name="Close and lock").click()
    page.get_by_role("button", name="Flip the pennies").click()
    tray = page.get_by_role("list", name="Cups of the flight")
    for code, label in key.items():
        expect(tray.get_by_role("img", name=f"Cup {code} was {label}")).to_be_visible()
    page.get_by_text("The seal holds: check it yourself").click()
    assert page.get_by_text(re.compile(r"^[0-9a-f]{64}$")).inner_text() == seal
    expect(page.get_by_role("complementary")).to_contain_text("could tell by eye")

    # verdict, what is for whom, next, report
    follow(page.get_by_role("link", name="Read the verdict"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("Thick crêpe")
    expect(page.get_by_role("complementary")).to_contain_text("Design")
    page.get_by_role("tab", name="For whom").click()
    expect(page.get_by_text("lime")).to_be_visible()
    page.get_by_role("tab", name="Panel").click()
    expect(page.get_by_role("heading", name="Does the place in the order matter?")).to_be_visible()
    follow(page.get_by_role("link", name="Report"))
    expect(page.get_by_role("article")).to_contain_text(seal)
    with page.expect_download() as pdf:
        page.get_by_role("link", name="PDF").click()
    assert pdf.value.path().read_bytes().startswith(b"%PDF")


def test_a_triangle_on_one_tablet_shuffled_by_hand(host, api, open_context):
    page = host.page
    two_setups(api, page, "Can we tell the filters apart?")
    host.station("Taste")
    expect(page.get_by_role("button", name="Triangle suggested")).to_have_attribute("aria-pressed", "true")
    host.make_flight(["Bo", "Iwan"], ["A1", "A2", "B1", "B2"], method="Triangle")
    flight = page.url.split("/trials/")[1].split("/")[0]
    marks = page.request.get(f"/api/v1/trials/{flight}/flights").json()["flights"][0]
    key = {c["code"]: m["mark"] for c, m in zip(marks["cups"], marks["marks"], strict=True)}
    letters = {code: next(m["letter"] for m in marks["marks"] if m["mark"] == mark) for code, mark in key.items()}
    odd = next(code for code, letter in letters.items() if list(letters.values()).count(letter) == 1)
    follow(page.get_by_role("link", name="Paper sheets and labels"))
    expect(page.get_by_role("region", name="Score sheet of Bo")).to_contain_text("circle the odd one")
    follow(page.get_by_role("link", name="Back to the flight"))
    follow(page.get_by_role("link", name="Share one tablet"))
    for name in ("Bo", "Iwan"):
        page.get_by_role("button", name=name).click()
        expect(page.get_by_role("heading", name=f"Hand the tablet to {name}")).to_be_visible()
        page.get_by_role("button", name=f"I am {name}").click()
        taster = Taster(page)
        page.get_by_role("button", name="Start", exact=True).click()
        expect(page.get_by_role("heading", name="Which is the odd one?")).to_be_visible()
        taster.pick(odd)
        taster.next()
        expect(page.get_by_role("heading", name="All is answered")).to_be_visible()
        taster.expect_delivered()
        page.get_by_role("button", name="Hand the tablet on").click()
    expect(page.get_by_text("1 of 1 done")).to_have_count(2)
    follow(page.get_by_role("link", name="Back to the flight"))
    host.close_flight()
    host.flip(key)
    follow(page.get_by_role("link", name="Read the verdict"))
    expect(page.get_by_role("heading", name="Triangle: 2 of 2 right")).to_be_visible()
    expect(page.get_by_text("too few: even all right could be luck").first).to_be_visible()


@pytest.mark.nightly
def test_a_ranking_by_keys_and_hand_and_a_pass_opened_early(host, api, open_context):
    page = host.page
    two_setups(api, page, "Which filter first?")
    host.make_flight(["Bo"], ["A1", "A2", "B1", "B2"], method="Ranking")
    bo = open_context(**PHONE).new_page()
    bo.goto(host.link_of("Bo"))
    first = bo.get_by_role("button", name="number 1 of 4").first
    code = re.search(r"\d{3}", first.get_attribute("aria-label")).group()
    first.focus()
    bo.keyboard.press("ArrowDown")
    bo.get_by_role("button", name="Keep this order").click()
    expect(bo.get_by_role("status").filter(has_text="saved")).to_be_visible()
    expect(bo.get_by_role("button", name=f"Cup {code}, number 2 of 4")).to_be_visible()
    bo.reload()
    expect(bo.get_by_role("button", name=f"Cup {code}, number 2 of 4")).to_be_visible()
    expect(page.get_by_role("region", name="Tasters").get_by_role("listitem").filter(has_text="Bo")).to_contain_text("4 of 4")

    page.get_by_role("button", name="+ New flight").click()
    page.get_by_role("button", name="Scores").click()
    page.get_by_text("Iwan", exact=True).click()
    Host(page).open_how_it_is_tasted()
    page.get_by_text("cool", exact=True).click()
    page.get_by_role("button", name="Make the flight").click()
    page.get_by_role("button", name="They are shuffled").click()
    expect(page.get_by_role("heading", name="Flight 2 is being tasted")).to_be_visible()
    expect(page.get_by_text(re.compile(r"Shuffled at \d\d:\d\d: nobody here knows which cup is which\."))).to_be_visible()
    iwan = Taster(open_context(**PHONE).new_page())
    iwan.open(host.link_of("Iwan"))
    expect(iwan.page.get_by_role("region", name="cool pass").get_by_role("button").first).to_be_disabled()
    page.get_by_role("button", name="Open the cool pass now").click()
    expect(iwan.page.get_by_role("region", name="cool pass").get_by_role("button").first).to_be_enabled(timeout=20_000)
