"""A bench nobody has worked on: what it promises, the ways in, how tabs are called, and where the keyboard stands."""

import re
from urllib.parse import urlsplit

from playwright.sync_api import expect

from .people import follow
from .shortest import MOST_CLICKS, MOST_KEYS, MOST_KEYS_A_BREW, MOST_TAPS, MOST_WORDS, first_hour

FOCUS = "e => { const s = getComputedStyle(e); return [s.outlineStyle, parseFloat(s.outlineWidth)]; }"


def test_an_empty_bench_says_what_it_is_for_and_where_to_begin(open_context, empty_bench):
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
    expect(page.get_by_role("heading", name="Next on the bench")).to_be_visible()
    expect(promise).to_have_count(0)


def test_a_text_field_shows_where_the_keyboard_is_in_both_schemes(open_context):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    for scheme in ("light", "dark"):
        page.emulate_media(color_scheme=scheme)
        page.goto("/trials/new")
        field = page.get_by_label("Your question")
        field.focus()
        style, width = field.evaluate(FOCUS)
        assert style == "solid" and width >= 2, (scheme, style, width)


def test_a_link_that_no_phone_can_follow_says_so_and_what_to_do(open_context):
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/trials")
    follow(page.get_by_role("link", name=re.compile("Can anybody tell the two waters apart")).first)
    page.goto(re.sub(r"(/trials/\w+).*", r"\1/taste", page.url))
    page.get_by_role("button", name="Link and code").first.click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("note")).to_contain_text("This link works on this machine alone")
    expect(dialog.get_by_role("note")).to_contain_text("./penny serve --phones")
    follow(dialog.get_by_role("link", name="print the sheets"))
    assert page.url.endswith("/paper")


PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


def test_a_first_verdict_takes_few_clicks_keys_and_words(open_context, empty_bench):
    """The targets of the first hour, counted on the shortest honest path; benchmarks/first_hour.py prints the figures."""
    here = {"base_url": empty_bench, "other": urlsplit(empty_bench).netloc}
    desk = open_context(viewport={"width": 1280, "height": 800}, **here).new_page()
    phones = {name: open_context(**PHONE, **here).new_page() for name in ("Bo", "Iwan")}
    hands, keys_a_brew, taps = first_hour(desk, phones)
    assert hands.clicks <= MOST_CLICKS and hands.keys <= MOST_KEYS, (hands.clicks, hands.keys)
    assert hands.words <= MOST_WORDS, hands.words
    assert max(keys_a_brew) <= MOST_KEYS_A_BREW, keys_a_brew
    assert max(taps) <= MOST_TAPS, taps
    expect(desk.get_by_role("complementary", name="Margin: what weakens this trial")).to_contain_text("Design: ")
