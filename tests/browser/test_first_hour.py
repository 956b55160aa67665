"""A bench nobody has worked on: what it promises, the ways in, how tabs are called, and where the keyboard stands."""

import re
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from .conftest import demo, free_port
from .people import follow, go_back
from .shortest import (
    LIKING,
    MOST_CLICKS,
    MOST_KEYS,
    MOST_KEYS_A_BREW,
    MOST_TAPS,
    MOST_WORDS,
    MOST_WORDS_A_PHONE,
    MOST_WORDS_AROUND,
    Hands,
    ask_and_set_up,
    codes_of,
    first_hour,
    log_brews,
    taste,
)

FOCUS = "e => { const s = getComputedStyle(e); return [s.outlineStyle, parseFloat(s.outlineWidth)]; }"


@pytest.mark.nightly
def test_an_empty_bench_says_what_it_is_for_and_where_to_begin(empty_bench, open_context):
    page = open_context(viewport={"width": 1280, "height": 800}, base_url=empty_bench, other=urlsplit(empty_bench).netloc).new_page()
    page.goto("/")
    promise = page.get_by_role("region", name="Which of two ways makes the better cup?")
    expect(promise).to_contain_text("read which one to keep, how sure that is, and what to brew next")
    expect(promise.get_by_role("link", name="Brew a cup")).to_be_visible()
    expect(page).to_have_title("Bench · Brass Penny")
    follow(promise.get_by_role("link", name="Ask your first question"))
    expect(page).to_have_title("A new question · Brass Penny")
    page.get_by_label("Your question").fill("Which filter for the flat bed?")
    expect(page.get_by_text("What differs: Filter")).to_be_visible()
    page.get_by_role("button", name="Create trial").click()
    expect(page).to_have_title("Which filter for the flat bed? · Set up · Brass Penny")
    page.goto("/")
    expect(page.get_by_role("article", name="Which filter for the flat bed?")).to_be_visible()
    expect(promise).to_have_count(0)


@pytest.mark.nightly
def test_a_text_field_shows_where_the_keyboard_is_in_both_schemes(open_context):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    for scheme in ("light", "dark"):
        page.emulate_media(color_scheme=scheme)
        page.goto("/trials/new")
        field = page.get_by_label("Your question")
        field.focus()
        style, width = field.evaluate(FOCUS)
        assert style == "solid" and width >= 2, (scheme, style, width)


@pytest.mark.nightly
def test_a_link_that_no_phone_can_follow_says_so_and_what_to_do(open_context):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/trials")
    follow(page.get_by_role("link", name=re.compile("Can anybody tell the two waters apart")).first)
    page.goto(re.sub(r"(/trials/\w+).*", r"\1/taste", page.url))
    page.get_by_role("button", name="Link and code").first.click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("note")).to_contain_text("Phones cannot reach this bench.")
    expect(dialog.get_by_role("img", name=re.compile("QR code"))).to_have_count(0)
    follow(dialog.get_by_role("link", name="print the sheets"))
    assert page.url.endswith("/paper")
    go_back(page)
    follow(page.get_by_role("link", name="All links on one page"))
    expect(page.get_by_role("note")).to_contain_text("Phones cannot reach this bench.")
    expect(page.get_by_role("listitem").filter(has=page.get_by_role("img"))).to_have_count(0)


PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


def test_a_first_verdict_takes_few_clicks_keys_and_words(empty_bench, open_context):
    """The targets of the first hour, counted on the shortest honest path; benchmarks/first_hour.py prints the figures."""
    here = {"base_url": empty_bench, "other": urlsplit(empty_bench).netloc}
    desk = open_context(viewport={"width": 1280, "height": 800}, **here).new_page()
    phones = {name: open_context(**PHONE, **here).new_page() for name in ("Bo", "Iwan")}
    done = first_hour(desk, phones)
    host = done.host
    assert host.clicks <= MOST_CLICKS and host.keys <= MOST_KEYS, (host.clicks, host.keys)
    assert host.words <= MOST_WORDS and host.words_around <= MOST_WORDS_AROUND, (host.words, host.words_around)
    assert max(t.words for t in done.tasters) <= MOST_WORDS_A_PHONE, [t.words for t in done.tasters]
    assert max(done.keys_a_brew) <= MOST_KEYS_A_BREW, done.keys_a_brew
    assert max(done.taps_to_a_score) <= MOST_TAPS, done.taps_to_a_score
    expect(desk.get_by_role("complementary", name="Margin: what weakens this trial")).to_contain_text("Design: ")


def tab_to(page, what, most=120):
    """To something by the Tab key alone."""
    for _ in range(most):
        if what.evaluate("e => e === document.activeElement"):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"the keyboard does not come to {what}")


def test_the_first_hour_by_keyboard_alone(empty_bench, open_context):
    here = {"base_url": empty_bench, "other": urlsplit(empty_bench).netloc}
    page = open_context(viewport={"width": 1280, "height": 800}, **here).new_page()
    hands = Hands(page)
    page.goto("/")
    tab_to(page, page.get_by_role("link", name="Ask your first question"))
    page.keyboard.press("Enter")
    expect(page.get_by_label("Your question")).to_be_focused()
    page.goto("/")
    hands.click = lambda link: (tab_to(page, link), page.keyboard.press("Enter"))
    ask_and_set_up(hands)
    log_brews(hands)
    page.get_by_label("Beverage mass").focus()
    page.keyboard.press("5")  # it stands in a field: no station by its number there
    expect(page).to_have_url(re.compile("/brew$"))
    page.keyboard.press("Backspace")
    tab_to(page, page.get_by_role("link", name="Pour them blind"))
    page.keyboard.press("5")
    expect(page).to_have_url(re.compile("/taste$"))
    scores = page.get_by_role("group", name="Test method").get_by_role("button", name="Scores")
    tab_to(page, scores)
    page.keyboard.press("Enter")
    tab_to(page, page.get_by_label("Name of somebody new"))
    page.keyboard.type("Bo")
    page.keyboard.press("Enter")
    expect(page.get_by_role("checkbox", name="Bo")).to_be_checked()
    tab_to(page, page.get_by_role("button", name="Make the flight"))
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Pour flight 1")).to_be_visible()
    tab_to(page, page.get_by_role("button", name="They are shuffled"))
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="is being tasted")).to_be_visible()
    key = dict(zip(codes_of(page), LIKING, strict=True))
    link = page.request.get(page.url.replace("/trials/", "/api/v1/trials/").replace("/taste", "/flights")).json()["flights"][0]["sheets"][0]["link"]
    taste(open_context(**PHONE, **here).new_page(), link, key)
    tab_to(page, page.get_by_role("button", name="Close the flight"))
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Close and lock")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Close the flight")).to_be_focused()  # back where it came from
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Close and lock")).to_be_focused()
    page.keyboard.press("Enter")
    for code, mark in list(key.items())[:-1]:
        tab_to(page, page.get_by_role("radiogroup", name=f"Mark under code {code}").get_by_role("radio", name=f"mark {mark}", exact=True))
        page.keyboard.press("Space")
    tab_to(page, page.get_by_role("button", name="Flip the pennies"))
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Read the verdict")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Blind liking, 1 to 9")).to_be_visible()
    page.keyboard.press("Control+k")
    expect(page.get_by_role("combobox", name="Find")).to_be_focused()
    page.keyboard.type("glossary")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Glossary")).to_be_visible()


@pytest.mark.nightly
def test_a_host_with_a_phone_needs_no_desk(empty_bench, open_context):
    here = {"base_url": empty_bench, "other": urlsplit(empty_bench).netloc}
    page = open_context(**PHONE, **here).new_page()

    def fits(*acts):
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, page.url
        for act in acts:
            assert act.bounding_box()["height"] >= 43.5, act

    page.goto("/")
    ask = page.get_by_role("link", name="Ask your first question")
    expect(ask).to_be_visible()
    fits(ask)
    ask.tap()
    page.get_by_label("Your question").fill("1:15 or 1:17?")
    expect(page.get_by_text("What differs: Brew ratio")).to_be_visible()
    fits(page.get_by_role("button", name="Create trial"))
    page.get_by_role("button", name="Create trial").tap()
    page.get_by_label("Dose").fill("18")
    fits(page.get_by_role("button", name="Add setups A and B"))
    page.get_by_role("button", name="Add setups A and B").tap()
    bar = page.get_by_role("row", name="Brew water")
    expect(bar).to_contain_text("270 g")
    for shown in bar.get_by_text(re.compile("^(270|306) g$")).all():
        box = shown.bounding_box()
        assert box["x"] >= 0 and box["x"] + box["width"] <= 390, "the bars show their values without scrolling"
    fits(page.get_by_role("link", name="Start brewing"))
    page.get_by_role("link", name="Start brewing").tap()
    expect(page.get_by_label("Beverage mass")).not_to_be_focused()  # no keyboard rises unasked
    page.get_by_label("Beverage mass").fill("236")
    page.get_by_role("button", name="Log brew A1").tap()
    expect(page.get_by_role("heading", name="1 brew logged")).to_be_visible()
    fits()
    page.get_by_role("button", name="More").tap()
    page.get_by_role("menuitem", name="Dark screen").tap()
    assert page.evaluate("document.documentElement.dataset.mantineColorScheme") == "dark"


AWAY = ("ERR_CONNECTION_REFUSED", "ERR_INCOMPLETE_CHUNKED_ENCODING", "ERR_EMPTY_RESPONSE", "ERR_CONNECTION_RESET")


@pytest.mark.nightly
def test_nothing_typed_is_lost_while_the_bench_is_away(open_context, tmp_path):
    """Stopped in the middle of a brew, reloaded into nothing, started again: the page comes back by itself, with what was typed."""
    data, port = tmp_path / "data", free_port()
    here = f"127.0.0.1:{port}"
    page = open_context(viewport={"width": 1280, "height": 800}, base_url=f"http://{here}", other=here, allowed=AWAY).new_page()
    with demo(data, "serve", port):
        hands = Hands(page)
        ask_and_set_up(hands)
        page.keyboard.press("Enter")
        page.get_by_label("Beverage mass").fill("251")
        page.get_by_label("TDS readings, %").fill("1.42")
        page.wait_for_timeout(300)
    page.get_by_role("button", name="Log brew A1").click()
    expect(page.get_by_role("alert").filter(has_text="does not answer").first).to_be_visible()
    expect(page.get_by_label("Beverage mass")).to_have_value("251")
    page.get_by_role("navigation", name="Stations of this trial").get_by_role("link", name="Verdict").click()  # a page that was never fetched
    expect(page.get_by_text("This page broke")).to_have_count(0)
    expect(page.get_by_text("comes back by itself").or_(page.get_by_text("asked again by itself")).first).to_be_visible()
    with demo(data, "serve", port):
        expect(page.get_by_role("heading", name="No verdict yet")).to_be_visible()
        page.get_by_role("navigation", name="Stations of this trial").get_by_role("link", name="Brew").click()
        expect(page.get_by_text("What you typed here before is back.")).to_be_visible()
        expect(page.get_by_label("Beverage mass")).to_have_value("251")
        page.get_by_role("button", name="Log brew A1").click()
        expect(page.get_by_role("heading", name="1 brew logged")).to_be_visible()
        page.reload()
        expect(page.get_by_role("heading", name="1 brew logged")).to_be_visible()
        expect(page.get_by_text("What you typed here before is back.")).to_have_count(0)
        page.goto("about:blank")


LAID_OUT_MS = 180_000
"""A whole bench is made: ten seconds by itself, a minute or two beside two other benches and their browsers."""


@pytest.mark.nightly
def test_a_sample_bench_is_looked_round_left_and_removed(empty_bench, open_context):
    page = open_context(viewport={"width": 1280, "height": 800}, base_url=empty_bench, other=urlsplit(empty_bench).netloc).new_page()
    page.goto("/")
    page.get_by_role("button", name="Look round a sample bench").click()
    expect(page.get_by_role("status").filter(has_text="Setting up the sample trials")).to_be_visible()
    band = page.get_by_role("complementary", name="Sample bench")
    expect(band).to_contain_text("None of it counts on your bench.", timeout=LAID_OUT_MS)
    expect(page.get_by_role("heading", name="Lightship Nine, tasting bench")).to_be_visible()
    follow(page.get_by_role("link", name="Drop Steel mesh; lean towards White weave"))
    expect(page.get_by_role("heading", name="Drop Steel mesh; lean towards White weave")).to_be_visible()
    band.get_by_role("button", name="Back to your bench").click()
    expect(page.get_by_role("heading", name="Which of two ways makes the better cup?")).to_be_visible()
    page.get_by_role("button", name="Look round a sample bench").click()
    band.get_by_role("button", name="Remove the sample").click()
    expect(page.get_by_role("heading", name="Which of two ways makes the better cup?")).to_be_visible()
    assert page.request.get("/api/v1/sample-bench").json() == {"exists": False, "in_sample": False}
