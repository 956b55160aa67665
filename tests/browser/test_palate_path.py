"""Palate from an empty bench: a host prepares a series, a helper pours, two tasters answer on phones, thresholds appear and Plan takes note."""

import re
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from .remote import host_of
from .test_corrections import REFUSED

PHONE = {"width": 390, "height": 844}
PAIRS = 9


def a_ladder(api):
    """Two rungs half a step of ratio apart; its id."""
    trial = api.ask("Which ratio?", "ratio")["id"]
    api.copy(api.setup(trial, brew_water_g=270), brew_water_g=279)
    return trial


@pytest.mark.nightly
def test_two_tasters_tell_strengths_apart_and_plan_takes_note(open_context, empty_bench):
    api = host_of(empty_bench)
    trial = a_ladder(api)
    for name in ("Bo", "Imke", "Saskia"):
        api.person(name)
    here = {"base_url": empty_bench, "other": urlsplit(empty_bench).netloc}
    host = open_context(viewport={"width": 1280, "height": 800}, allowed=REFUSED, **here).new_page()
    host.goto(f"{empty_bench}/trials/{trial}/set-up/plan")
    expect(host.get_by_role("button", name="Reshuffle")).to_be_visible()
    expect(host.get_by_text("Steps too small to taste")).to_have_count(0)
    host.goto(f"{empty_bench}/palate")
    expect(host.get_by_role("heading", name="No series yet")).to_be_visible()
    host.get_by_role("button", name="New series").click()
    form = host.get_by_role("dialog")
    form.get_by_label("What is served").fill("Long watch")
    form.get_by_label("Strength of the brew").fill("1,4")
    form.get_by_label("Steps").fill("2, x")
    form.get_by_role("combobox", name="Tasters").click()
    for name in ("Bo", "Imke"):
        host.get_by_role("option", name=name).click()
    host.keyboard.press("Escape")
    form.get_by_text("Every step equally often").click()
    form.get_by_role("button", name="Prepare the series").click()
    expect(form.get_by_text("One of these steps is no number.")).to_be_visible()
    form.get_by_label("Steps").fill("3, 9, 25")
    form.get_by_role("button", name="Prepare the series").click()
    expect(host.get_by_role("heading", name="Which cup is stronger?")).to_be_visible()
    expect(host.get_by_role("row", name="Step 2 273.0 g 27.0 g 9 % 1.27 %")).to_be_visible()

    helper = open_context(viewport=PHONE, **here).new_page()
    helper.goto(host.get_by_role("link", name="Open it here: you do not taste").get_attribute("href"))
    helper.get_by_role("button", name="Open the sheet on this phone").click()
    expect(helper.get_by_role("heading", name="Nobody waits")).to_be_visible()
    links = [link.get_attribute("href") for link in host.get_by_role("link", name="Open it here", exact=True).all()]
    for link in links:
        answer_on_a_phone(open_context(viewport=PHONE, **here).new_page(), link, helper)

    expect(host.get_by_text("9 answers")).to_have_count(2)
    host.get_by_role("button", name="Close the series").click()
    expect(host.get_by_text("closed")).to_be_visible()
    host.get_by_role("link", name="All of Palate").click()
    expect(host.get_by_text("Half of the 2 tasters here tell")).to_be_visible()
    expect(host.get_by_text("Tells", exact=False)).to_have_count(0)  # nobody by name unless asked
    host.get_by_label("Show each taster by name").click()
    expect(host.get_by_text("apart three times in four (")).to_have_count(2)
    host.goto(f"{empty_bench}/trials/{trial}/set-up/plan")
    expect(host.get_by_role("note").filter(has_text="1:15.0 to 1:15.5 changes strength by")).to_be_visible()
    host.goto(links[0])
    expect(host.get_by_role("heading", name="The series is over")).to_be_visible()


def answer_on_a_phone(phone, link, helper):
    """They tell a quarter less and nothing finer; the helper's phone says which cup is the brew."""
    phone.goto(link)
    phone.get_by_role("button", name="Start").click()
    for n in range(1, PAIRS + 1):
        expect(phone.get_by_role("button", name="Choose a cup")).to_be_visible()
        pour = helper.get_by_role("listitem").filter(has_text=f"number {n}")
        expect(pour).to_have_count(1)
        cups = dict(re.findall(r"(Brew|Step \d)\s*→\s*(\d{3})", pour.inner_text()))
        step = next(server for server in cups if server != "Brew")
        phone.get_by_role("button", name=cups["Brew"] if step == "Step 3" or n % 2 else cups[step]).click()
        phone.get_by_role("button", name="It is the").click()
        if n < PAIRS:
            phone.get_by_role("button", name="Next").click()
    expect(phone.get_by_text("9 answered: each one narrows it")).to_be_visible()


def test_a_drill_on_a_phone_from_declared_cups_to_a_count_against_a_guesser(open_context, empty_bench):
    host_of(empty_bench).person("Bo")
    phone = open_context(viewport=PHONE, base_url=empty_bench, other=urlsplit(empty_bench).netloc, allowed=REFUSED).new_page()
    phone.goto(f"{empty_bench}/palate")
    phone.get_by_role("combobox", name="Taster").click()
    phone.get_by_role("option", name="Bo").click()
    expect(phone.get_by_text("No sitting yet.")).to_be_visible()
    phone.get_by_role("button", name="New drill").click()
    form = phone.get_by_role("dialog")
    form.get_by_role("combobox", name="Exercise").click()
    phone.get_by_role("option", name="Put cups in order").click()
    for n, cup in enumerate(("water", "water", "2 g/L", "4 g/L", "8 g/L"), start=1):
        form.get_by_role("combobox", name=f"Cup {n}").fill(cup)
    form.get_by_role("button", name="Start the drill").click()
    expect(form.get_by_text("Two cups have the same name.")).to_be_visible()
    form.get_by_role("combobox", name="Cup 2").fill("1 g/L")
    form.get_by_role("button", name="Start the drill").click()
    phone.get_by_role("button", name="Set out the first round").click()
    expect(phone.get_by_text("A, B, C, D and E")).to_be_visible()
    for cup in (3, 1, 2, 5, 4):
        phone.get_by_role("button", name=f"Cup {cup}").click()
    phone.reload()  # a dropped phone: the round stays
    for cup in (3, 1, 2, 5, 4):
        phone.get_by_role("button", name=f"Cup {cup}").click()
    phone.get_by_role("button", name="That is my answer").click()
    expect(phone.get_by_role("heading", name="Turn the cups over")).to_be_visible()
    for cup, mark in ((1, "C"), (2, "B"), (3, "A"), (4, "E")):
        phone.get_by_role("button", name=f"Cup {cup} is {mark}").click()
    expect(phone.get_by_role("button", name="Cup 5 is D")).to_have_attribute("aria-pressed", "true")
    phone.get_by_role("button", name="That is what they say").click()
    expect(phone.get_by_role("heading", name="Round 1: 9 of 10")).to_be_visible()
    expect(phone.get_by_text("9 of 10 pairs in order; guessing gives 5.0. A guesser does as well once in 24 times.")).to_be_visible()
    expect(phone.get_by_role("button", name="Another round")).to_be_visible()
