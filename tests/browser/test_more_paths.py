"""Other ways through: sighted flights, marks put right, a link withdrawn or a flight closed on a taster who is away, a locked bench, text that
would like to run, the keyboard alone, and where things are drawn."""

import os
import re
import subprocess
import sys
import time
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from brasspenny.config import PROJECT

from .conftest import free_port
from .people import Taster, follow
from .test_whole_path import OFFLINE, PHONE

REFUSED = ("the server responded with a status of 4",)


@pytest.fixture
def brewed(api):
    """A trial of two filters, one brew each, made through the API: (trial id, run ids)."""
    trial = api.ask(f"Filter again? {time.time_ns()}")["id"]
    a = api.setup(trial)
    b = api.copy(a, filter="Thick crêpe")
    return trial, [api.brew(trial, s, beverage_g=g, tds=[t, t])["id"] for s, g, t in ((a, 248, 1.42), (b, 252, 1.30))]


def people(api, count):
    return [p["id"] for p in api.call("GET", "/people")["people"]][:count]


def flight(api, brewed, tasters=1, **more):
    trial, runs = brewed
    return api.call("POST", f"/trials/{trial}/flights", {"run_ids": runs, "taster_ids": people(api, tasters), **more})


@pytest.mark.nightly
def test_a_sighted_flight_names_the_cups_and_is_kept_apart(host, brewed, open_context):
    page = host.page
    page.goto(f"/trials/{brewed[0]}/taste")
    host.make_flight(["Odile"], sighted=True)
    taster = Taster(open_context(**PHONE).new_page())
    taster.open(host.link_of("Odile"))
    expect(taster.page.get_by_text("A1 · White weave")).to_be_visible()
    taster.start()
    for _ in range(2):
        taster.like(9)
        taster.next()
    taster.expect_delivered()
    page.get_by_role("button", name="Close the flight").click()
    page.get_by_role("button", name="Close and lock").click()
    follow(page.get_by_role("link", name="Read the verdict"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("Labels in sight")
    expect(page.get_by_role("complementary")).to_contain_text("Tasted with labels in sight")
    follow(page.get_by_role("link", name="Pour a blind flight").first)
    expect(page.get_by_role("heading", name="Flight 1 is flipped")).to_be_visible()


@pytest.mark.nightly
def test_marks_typed_wrongly_are_put_right(host, api, brewed):
    made = flight(api, brewed)
    codes = [c["code"] for c in made["cups"]]
    token = made["sheets"][0]["link"].rsplit("/", 1)[-1]
    scores = [{"uuid": f"00000000-0000-4000-8000-00000000000{i}", "seq": i + 1, "code": c, "attribute": "liking", "value": 5} for i, c in enumerate(codes)]
    api.call("PUT", f"/taste/{token}/scores", {"scores": scores})
    page = host.page
    page.goto(f"/trials/{brewed[0]}/taste")
    host.close_flight()
    flip = page.get_by_role("button", name="Flip the pennies")
    expect(flip).to_be_disabled()
    under = [page.get_by_role("radiogroup", name=f"Mark under code {code}") for code in codes]
    under[0].get_by_role("radio", name="mark 1").click()
    expect(under[1].get_by_role("radio", name="mark 1")).to_be_disabled()
    host.flip({codes[0]: 1, codes[1]: 2})
    expect(page.get_by_role("img", name=f"Cup {codes[0]} was A1")).to_be_visible()
    page.get_by_role("button", name="Correct the marks").click()
    host.flip({codes[1]: 1, codes[0]: 2})
    expect(page.get_by_role("img", name=f"Cup {codes[0]} was B1")).to_be_visible()
    page.get_by_role("button", name="History").click()
    expect(page.get_by_role("dialog")).to_contain_text("entered the marks again in the flight")


def test_a_taster_who_is_away_when_the_flight_closes_is_told_and_keeps_the_touches(api, brewed, open_context):
    made = flight(api, brewed, tasters=2)
    taster = Taster(open_context(allowed=(*OFFLINE, *REFUSED), **PHONE).new_page())
    taster.open(made["sheets"][0]["link"])
    taster.start()
    taster.like(6)
    taster.expect_delivered()
    taster.next()
    taster.page.context.set_offline(True)
    taster.like(8)
    taster.expect_kept()
    api.call("POST", f"/flights/{made['id']}/close")
    taster.page.context.set_offline(False)
    expect(taster.page.get_by_role("alert")).to_contain_text("closed before your last scores arrived")
    expect(taster.page.get_by_role("heading", name="The flight is closed")).to_be_visible()
    taster.page.get_by_text("What you scored").click()
    taster.page.get_by_role("button", name="liking 8").click()
    expect(taster.page.get_by_role("radio", name="8", exact=True)).to_be_checked()
    expect(taster.page.get_by_role("radio", name="7", exact=True)).to_be_disabled()


@pytest.mark.nightly
def test_a_withdrawn_link_stops_taking_scores_and_says_so(host, api, brewed, open_context):
    made = flight(api, brewed)
    taster = Taster(open_context(allowed=REFUSED, **PHONE).new_page())
    taster.open(made["sheets"][0]["link"])
    taster.start()
    host.page.goto(f"/trials/{brewed[0]}/taste")
    host.page.get_by_role("button", name=re.compile("More for")).click()
    host.page.get_by_role("menuitem", name="Withdraw the link").click()
    expect(host.page.get_by_role("button", name="Withdrawn")).to_be_disabled()
    taster.like(6)
    expect(taster.page.get_by_role("alert")).to_contain_text("withdrawn this link")
    host.page.get_by_role("button", name=re.compile("More for")).click()
    host.page.get_by_role("menuitem", name="Make a new link").click()
    expect(host.page.get_by_role("button", name="Link and code")).to_be_enabled()


def test_an_untouched_slider_is_not_scored_and_its_middle_can_be(api, brewed, open_context):
    made = flight(api, brewed)
    taster = Taster(open_context(**PHONE).new_page())
    taster.open(made["sheets"][0]["link"])
    taster.start()
    slider = taster.page.get_by_role("slider", name="Sweetness")
    expect(slider).to_have_attribute("aria-valuetext", "not scored")
    box = slider.bounding_box()
    taster.page.touchscreen.tap(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(slider).to_have_attribute("aria-valuetext", "5 of 10")
    taster.expect_delivered()
    token = made["sheets"][0]["link"].rsplit("/", 1)[-1]
    stored = [s for c in api.call("GET", f"/taste/{token}")["cups"] for s in c["scores"]]
    assert stored == [{"attribute": "sweetness", "pass_name": "warm", "value": 5, "text": ""}]
    taster.page.get_by_role("button", name="Clear sweetness").click()
    expect(slider).to_have_attribute("aria-valuetext", "not scored")
    taster.expect_delivered()
    assert [s["value"] for c in api.call("GET", f"/taste/{token}")["cups"] for s in c["scores"]] == [None]


def test_text_is_shown_as_text_and_never_run(host, api):
    nasty = '<img src=x onerror="window.run=1"><script>window.run=1</script>'
    trial = api.call("POST", "/trials", {"question": nasty, "factor": "filter"})["id"]
    api.call(
        "POST",
        f"/trials/{trial}/setups",
        {"name": nasty[:80], "variables": {"filter": nasty[:110], "dose_g": 18, "brew_water_g": 290}, "new_kit": ["filter"]},
    )
    page = host.page
    for path in ("/", "/trials", f"/trials/{trial}/set-up", f"/trials/{trial}/brew"):
        page.goto(path)
        expect(page.get_by_text("<img src=x").first).to_be_visible()
        assert page.evaluate("window.run") is None
    page.goto("about:blank")  # nothing of it is asked for any more
    api.call("DELETE", f"/trials/{trial}")


def test_a_point_is_drawn_where_its_numbers_are(host, api, brewed):
    """The ticks say where the axes are; each penny must stand at its strength and yield between them."""
    page = host.page
    page.goto(f"/trials/{brewed[0]}/measure")
    chart = page.get_by_role("group", name="Strength against in-cup yield, 2 brews")
    places = chart.evaluate(
        """svg => {
            const box = e => { const b = e.getBoundingClientRect(); return {x: b.x + b.width / 2, y: b.y + b.height / 2}; };
            const ticks = [...svg.querySelectorAll('text')].filter(t => /^[0-9.]+$/.test(t.textContent)).map(t => ({text: t.textContent, ...box(t)}));
            const points = [...svg.querySelectorAll('g[tabindex]')].filter(g => g.querySelector(':scope > circle')).map(g => ({label: g.getAttribute('aria-label'), ...box(g.querySelector('circle'))}));
            return {ticks, points};
        }"""
    )
    foot = max(t["y"] for t in places["ticks"])
    across = sorted((float(t["text"]), t["x"]) for t in places["ticks"] if t["y"] > foot - 3)
    up = sorted((float(t["text"]), t["y"]) for t in places["ticks"] if t["y"] <= foot - 3)

    def on(axis, value):
        (v0, p0), (v1, p1) = axis[0], axis[-1]
        return p0 + (value - v0) / (v1 - v0) * (p1 - p0)

    results = api.call("GET", f"/trials/{brewed[0]}/results")["runs"]
    for run in results:
        point = next(p for p in places["points"] if p["label"].startswith(run["label"]))
        assert point["x"] == pytest.approx(on(across, run["extraction_yield"]["value"]), abs=2)
        assert point["y"] == pytest.approx(on(up, run["tds"]["value"]), abs=2)
    expect(chart.get_by_text("classic window")).to_have_count(0)  # nobody's window before it is asked for
    page.get_by_role("button", name="Overlays").click()
    page.get_by_label("classic window", exact=True).check()
    expect(chart.get_by_text("classic window")).to_be_visible()
    page.get_by_label("classic window", exact=True).uncheck()
    expect(chart.get_by_text("classic window")).to_have_count(0)


@pytest.mark.nightly
def test_set_up_by_keyboard_alone(host):
    page = host.page
    page.goto("/")
    expect(page.get_by_role("heading", name="Verdicts")).to_be_visible()
    page.keyboard.press("g")
    page.keyboard.press("n")
    expect(page.get_by_label("Your question")).to_be_focused()
    page.keyboard.type("By keys?")
    expect(page.get_by_role("radio", name="Brew ratio")).to_be_visible()  # nothing in it tells what differs
    page.keyboard.press("Tab")
    page.keyboard.press("Space")
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_role("radio", name="Filter")).to_be_checked()
    page.get_by_role("button", name="Create trial").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What is compared?")).to_be_visible()
    host.describe_first_setup()
    page.get_by_role("button", name="Copy a setup, change one thing").focus()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("Its filter").and_(dialog.locator("input"))).to_be_focused()
    page.keyboard.type("Steel mesh")
    page.keyboard.press("Escape")  # closes the suggestions, not the dialog
    dialog.get_by_role("button", name="Add setup").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Not fair yet. Not dialled in: A, B")).to_be_visible()


@pytest.mark.nightly
def test_a_difference_is_declared_and_taken_back(host, brewed):
    page = host.page
    page.goto(f"/trials/{brewed[0]}/set-up")
    page.get_by_role("button", name="Dose").click()
    page.get_by_label("Dose of B").fill("18,5")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", name="One crack: dose")).to_be_visible()
    page.get_by_role("button", name="declare", exact=True).click()
    page.get_by_role("menuitem", name="matched by strength").click()
    page.get_by_label("Reason it differs").fill("B drains slower")
    page.get_by_role("button", name="Declare the difference").click()
    expect(page.get_by_role("heading", name="Not fair yet.")).to_be_visible()
    expect(page.get_by_role("complementary")).to_contain_text("Dose: matched by strength")
    expect(page.get_by_role("complementary")).to_contain_text("B drains slower. Declared, not equal")
    page.get_by_role("button", name="take back").click()
    expect(page.get_by_role("heading", name="One crack: dose")).to_be_visible()


@pytest.mark.nightly
def test_a_deleted_trial_is_brought_back_from_the_list(host, api, brewed):
    page = host.page
    question = api.call("GET", f"/trials/{brewed[0]}")["question"]
    page.goto(f"/trials/{brewed[0]}/ask")
    page.get_by_role("button", name="Delete the trial").click()
    page.get_by_role("dialog").get_by_role("button", name="Delete the trial").click()
    expect(page.get_by_role("heading", name="Verdicts")).to_be_visible()
    page.goto("/trials")
    expect(page.get_by_role("main").get_by_role("link", name=question)).to_have_count(0)
    page.get_by_text("Deleted lately").click()
    page.get_by_role("listitem").filter(has_text=question).get_by_role("button", name="Bring back").click()
    expect(page.get_by_role("link", name=question)).to_be_visible()


@pytest.mark.nightly
def test_changes_carry_the_name_chosen_on_this_device(host, brewed):
    page = host.page
    page.goto("/")
    page.get_by_role("button", name="Say who you are").click()
    page.get_by_role("menuitem", name="Thandi").click()
    page.goto(f"/trials/{brewed[0]}/ask")
    page.get_by_text("How it is judged").click()
    page.get_by_label("Smallest difference that matters").fill("0,75")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("button", name="History").click()
    expect(page.get_by_role("dialog")).to_contain_text("Thandi changed the trial")
    expect(page.get_by_role("dialog")).to_contain_text("smallest difference: 0.5 → 0.75")


@pytest.mark.nightly
def test_a_bench_open_to_the_network_asks_for_its_passphrase(open_context, started, tmp_path):
    """Started as a person would: passphrase, then serve on every address. The host's page is locked, the door opens it."""
    data = tmp_path / "data"
    data.mkdir()
    env = os.environ | {"PENNY_DATA": str(data), "PYTHONPATH": str(PROJECT / "src")}
    command = [sys.executable, "-m", "brasspenny.cli"]
    done = subprocess.run([*command, "passphrase"], env=env, input="mind the anchor chain\n", capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    base = started(data, "serve", None, "--host", "0.0.0.0")
    second = subprocess.run([*command, "serve", "--port", str(free_port())], env=env, capture_output=True, text=True)  # the folder is what is taken
    assert second.returncode == 2 and "running already" in second.stderr
    page = open_context(allowed=REFUSED, base_url=base, other=urlsplit(base).netloc).new_page()
    page.goto("/trials")
    expect(page.get_by_role("heading", name="This bench is locked")).to_be_visible()
    page.get_by_role("textbox", name="Passphrase").fill("a guess of mine")
    page.get_by_role("button", name="Open the bench").click()
    expect(page.get_by_text("That is not the passphrase")).to_be_visible()
    page.get_by_role("textbox", name="Passphrase").fill("mind the anchor chain")
    page.get_by_role("button", name="Open the bench").click()
    expect(page.get_by_text("No trial yet.")).to_be_visible()
