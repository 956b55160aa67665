"""The Grind room: two grinders sampled, found unmatched, the proposed third sample taken, the match made, and seen wherever settings and money are spoken of."""

import re

import pytest
from playwright.sync_api import expect

from brasspenny.core.grinding.sieve import Weibull
from brasspenny.devices.sieves import shake

from .people import follow
from .remote import host_of
from .test_answers import flown, liked

UM = (300.0, 500.0, 800.0, 1100.0, 1400.0)
RIDGED, SPINDLE = "Windlass mill · ridged plates", "Spindle single-dose"


def heaps(d50_um, seed=5):
    """From the coarsest sieve down to the pan, as the stack is taken apart."""
    grind = Weibull(d50_um / Weibull(1.0, 2.3, 0.0).median_um, 2.3, 0.0)
    return [f.mass_g for f in shake(grind, UM, 25.0, seed)][::-1]


def choose(page, label, option):
    field = page.get_by_label(label, exact=True).and_(page.locator("input"))
    field.click()
    page.get_by_role("option", name=option).click()
    expect(field).to_have_value(option if isinstance(option, re.Pattern) else re.compile(option))


def weigh(page, masses):
    """One key moves on; the last one keeps the sample. The first heap as full less empty vessel."""
    page.get_by_label("Went in").click()
    page.keyboard.press("Enter")
    first, *rest = masses
    page.keyboard.type(f"{80.1 + first:.1f}-80,1")
    expect(page.get_by_text(f"= {first:.1f} g")).to_be_visible()
    for mass in rest:
        page.keyboard.press("Enter")
        page.keyboard.type(f"{mass}")
    expect(page.get_by_role("region", name="What it says")).to_contain_text("Median, d50")
    left = page.url
    page.keyboard.press("Enter")
    page.wait_for_url(lambda url: url != left)
    expect(page.get_by_role("heading", name="Grind room")).to_be_visible()


def sample(page, grinder, setting, d50_um, seed=5):
    page.goto("/grind")
    follow(page.get_by_role("link", name="Sample a grind"))
    choose(page, "Grinder and burrs", grinder)
    page.get_by_label("Setting", exact=True).fill(setting)
    weigh(page, heaps(d50_um, seed))


def test_from_two_grinders_to_a_match_that_everything_goes_by(host, bench):
    page, api = host.page, host_of(bench)
    sample(page, RIDGED, "6.2", 680)
    sample(page, SPINDLE, "55", 610)

    two = page.get_by_role("region", name="Two grinds")
    choose(page, "First", re.compile(f"^{re.escape(RIDGED)} at 6.2"))
    choose(page, "Second", re.compile(f"^{SPINDLE} at 55"))
    expect(two).to_contain_text("Not matched: the second is")
    expect(two).to_contain_text("say nothing of evenness")
    expect(two.get_by_role("button", name="Keep as a matched setting")).to_have_count(0)

    # the band is moved by its ends, and the share follows
    page.get_by_role("slider", name="Band to").focus()
    before = two.get_by_role("row", name="In band, of mass in").inner_text()
    page.keyboard.press("PageUp")
    expect(page.get_by_role("slider", name="Band to")).to_have_attribute("aria-valuenow", "850")
    expect(two.get_by_role("row", name="In band, of mass in")).not_to_have_text(before)

    # what is proposed is one press away, filled in, and then it matches
    follow(two.get_by_role("link", name=f"Sample {SPINDLE} at 53.5"))
    expect(page.get_by_label("Setting", exact=True)).to_have_value("53.5")
    weigh(page, heaps(680, seed=6))
    expect(two).to_contain_text("Matched: the medians agree within their interval")
    two.get_by_role("button", name="Keep as a matched setting").click()
    expect(two).to_contain_text("Kept as a matched setting")
    expect(page.get_by_role("region", name="Dials on one scale of sizes")).to_contain_text(re.compile(f"{SPINDLE}: one step of 0.5 is worth \\d+ µm"))

    # the translator
    follow(two.get_by_role("link", name="the translator"))
    matches = page.get_by_role("region", name="Matched settings")
    expect(matches.get_by_role("row", name=re.compile("6.2.*53.5"))).to_contain_text("sieve median of 2 samples")

    # a setup copied to the other grinder
    host.ask("Is the single-doser worth it?", "Grinder")
    host.describe_first_setup(**{"Grind setting": "6.2"})
    host.copy_setup(SPINDLE)
    bar = page.get_by_role("row", name="Grind setting")
    expect(bar).to_contain_text("53.5")
    expect(bar).to_contain_text("matched by sieve median")
    trial = page.url.split("/trials/")[1].split("/")[0]
    assert "unsampled" not in [c["code"] for c in api.get(f"/trials/{trial}/progress")["caveats"]]

    # grams in the plan
    page.goto(f"/trials/{trial}/set-up/plan")
    page.get_by_text("Share swallowed, dial-in brews, sieve samples").click()
    page.get_by_role("button", name="More: Sieve samples of each").click()
    page.get_by_role("button", name="More: Grams a sieve sample").click()
    expect(page.get_by_role("row", name="Peru washed, lot 7")).to_contain_text("30 sieve")

    # and what the dearer one buys
    a, b = api.get(f"/trials/{trial}/setups")["setups"]
    names = {p["name"]: p["id"] for p in api.get("/people")["people"]}
    tasters = [names.get(f"Hand {i}") or api.person(f"Hand {i}") for i in range(6)]
    runs = [api.brew(trial, s)["id"] for _ in range(2) for s in (a, b)]
    flown(api, trial, runs, tasters, liked(api, lambda letter, i: 6.4 if letter == "A" else 6.6), attributes=[])
    page.goto(f"/trials/{trial}/verdict?view=value")
    expect(page.get_by_text(re.compile(r"At 1\.4 times the price, Spindle single-dose buys .* 3 s a dose saved"))).to_be_visible()
    page.get_by_label("Kit lasts, years").fill("10")
    page.get_by_role("button", name="Count again").click()
    costs = page.get_by_role("region", name="What a cup costs")
    expect(costs.get_by_role("row").filter(has=page.get_by_role("img", name=re.compile("^B"))).get_by_role("cell").nth(1)).to_have_text("0.13")


@pytest.mark.nightly
@pytest.mark.parametrize("width", [1280, 390])
def test_a_dose_is_timed_by_one_key_and_a_wrong_one_keeps_what_was_typed(open_context, width):
    page = open_context(viewport={"width": width, "height": 844}, allowed=("422",)).new_page()
    page.goto("/grind")
    page.wait_for_load_state("networkidle")  # two grinds are compared above the button, and move it when they are
    page.get_by_role("button", name="Grind a dose").click()
    dialog = page.get_by_role("dialog")
    choose(page, "Grinder and burrs", SPINDLE)
    dialog.get_by_label("Beans in").fill("120")
    dialog.get_by_label("Ground in").fill("14")
    expect(dialog.get_by_role("status")).to_have_text("Speed: 8.57 g/s")
    dialog.get_by_role("button", name="Start the clock").click()
    expect(dialog.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    page.wait_for_timeout(900)
    dialog.get_by_role("button", name=re.compile("^Stop")).click()
    assert 0.5 < float(dialog.get_by_label("Ground in").input_value()) < 30
    dialog.get_by_label("Ground in").fill("61")
    dialog.get_by_label("Ground out").fill("160")
    dialog.get_by_role("button", name="Log the dose").click()
    expect(dialog.get_by_label("Ground out")).to_have_accessible_description(re.compile("160 g came out of 120 g"))
    expect(dialog.get_by_label("Beans in")).to_have_value("120")
    dialog.get_by_label("Ground out").fill("119.2")
    dialog.get_by_role("button", name="Log the dose").click()
    expect(dialog).to_be_hidden()
    expect(page.get_by_role("region", name="Speed and what stays inside")).to_contain_text("2.0 g/s")
