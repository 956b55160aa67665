"""Main views (all of them at night), light and dark, desk and phone: no serious fault by axe (contrast measured), nothing wider than the screen."""

import json
import re

import pytest
from playwright.sync_api import expect

from brasspenny.config import PROJECT

from ..amount import share

WAITING = re.compile("^Fetching$|Checking…|Simulating|[Bb]eing worked out")
AXE = (PROJECT / "web/node_modules/axe-core/axe.min.js").read_text()
STATIONS = ("ask", "set-up", "brew", "measure", "taste", "verdict")


def faults(page, options="{}", *, whole=True):
    """whole: with the frame around the room, which is the same in all and looked at once; else the dialog that is open, or the room."""
    if not page.evaluate("'axe' in window"):  # half a megabyte, read once a page
        page.evaluate(AXE)
    where = "document" if whole else "[...document.querySelectorAll('[role=dialog]')].at(-1) ?? document.querySelector('main') ?? document"
    found = page.evaluate(f"axe.run({where}, Object.assign({{resultTypes: ['violations']}}, {options}))")["violations"]
    return [(v["id"], [n["html"][:160] for n in v["nodes"][:3]]) for v in found if v["impact"] in ("serious", "critical")]


def views(api):
    trials = {t["question"]: t["id"] for t in api.get("/trials")["trials"]}
    questions = (
        "Which filter for the flat bed?",
        "How far can the ratio stretch?",
        "Does the Peru want hotter water?",
        "Does the bean or the grinder matter more?",
        "Which ratio for the Peru?",
        "Can anybody tell the two waters apart?",
    )
    filters, ladder, asked, planned, ratios, waters = (trials[q] for q in questions)
    yield from ("/", "/trials", "/trials/new", f"/trials/{asked}/set-up", f"/trials/{asked}/verdict", f"/trials/{ladder}/taste")
    yield from (f"/trials/{filters}/{s}" for s in STATIONS)
    yield f"/trials/{ladder}/measure"
    yield from (f"/trials/{filters}/verdict?view={v}" for v in ("for-whom", "value", "panel"))
    yield from (f"/trials/{ratios}/verdict?view=against", f"/trials/{ratios}/report", f"/trials/{waters}/taste")
    flight = api.get(f"/trials/{waters}/flights")["flights"][0]
    yield from (
        f"/flights/{flight['id']}/paper",
        f"/flights/{flight['id']}/tablet",
        f"/flights/{flight['id']}/links",
        flight["sheets"][0]["link"],
        "/p/not-a-link",
    )
    yield from (f"/trials/{planned}/{s}" for s in ("set-up", "set-up/plan", "set-up/run-sheet", "brew"))
    recipes = {r["name"]: r["id"] for r in api.get("/recipes")["recipes"]}
    watch, draft = recipes["Long watch, three pours"], recipes["Sketch from the pilot boat"]
    yield from ("/recipes", "/recipes/new", f"/recipes/{watch}", f"/recipes/{draft}", f"/recipes/{watch}/card", f"/recipes/compare?ids={watch},{draft}")
    yield from ("/brews/bring-in", "/in-and-out", "/recipes/handed")
    yield from ("/brew", "/brews", "/charts", "/charts?by=coffee", "/people", "/words", "/kit/instruments")
    yield from ("/kit", "/kit/grinder", "/kit/vessel", "/kit/translator", "/kit/blend", "/grind", "/grind/sample")
    kit = {i["full_name"]: i["id"] for i in api.get("/kit")["items"]}
    series = next(s for s in api.get("/palate")["sessions"] if s["closed_at"] is None)
    yield from ("/palate", f"/palate/{series['id']}", series["seats"][0]["link"], "/h/not-a-link")
    yield from (f"/kit/card/{kit[name]}" for name in ("Windlass mill · ridged plates", "White weave"))


COLOURS_ONLY = "{runOnly: ['color-contrast']}"  # in the dark nothing else differs
ALL_BUT_COLOURS = "{rules: {'color-contrast': {enabled: false}}}"  # on a phone they are the desk's
LIKE_ANOTHER = re.compile("^/kit/(grinder|vessel|blend|translator|card)|^/recipes|by=coffee|/ask$|/new$|^/trials$|/tablet$|^/p/|set-up/plan|^/brew$")
"""Views in the colours and parts of others: looked at in the light at a desk, and for their width on a phone."""
HELD_IN_HAND = re.compile("^/$|/taste$|/verdict$|/tablet$|^/p/|/t/|^/brew$|/measure$|/report$")
"""What a phone is for: axe looks at these there, and at the width of all."""


DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


def test_views_are_sound(open_context, api):
    """Each view is opened once at a desk, then darkened, then made as narrow as a phone."""
    page = open_context(viewport=DESK, reduced_motion="reduce").new_page()
    trouble = {}
    for path in share(list(views(api))):
        page.emulate_media(color_scheme="light", reduced_motion="reduce")
        page.set_viewport_size(DESK)
        page.goto(path)
        settled(page)
        found = faults(page, whole=path == "/") + too_wide(page)
        if not LIKE_ANOTHER.search(path):
            page.emulate_media(color_scheme="dark", reduced_motion="reduce")
            found += faults(page, COLOURS_ONLY, whole=path == "/")
        page.set_viewport_size(PHONE)
        settled(page)
        found += too_wide(page)
        if HELD_IN_HAND.search(path):
            found += faults(page, ALL_BUT_COLOURS, whole=path == "/")
        if found:
            trouble[path] = found
    assert trouble == {}, json.dumps(trouble, indent=1)


def settled(page):
    page.get_by_role("heading").first.wait_for()
    expect(page.get_by_text(WAITING)).to_have_count(0)  # power and verdicts are worked out on a busy machine
    page.evaluate(AT_ONCE)


AT_ONCE = """() => {
  const sheet = new CSSStyleSheet()
  sheet.replaceSync('*, *::before, *::after { transition: none !important; animation: none !important }')
  document.adoptedStyleSheets = [sheet]
}"""
"""Colours measured half way from light to dark are nobody's."""


def too_wide(page):
    wide = page.evaluate("document.documentElement.scrollWidth > innerWidth && document.documentElement.scrollWidth")
    return [("wider than the screen", wide)] if wide else []


@pytest.mark.nightly
def test_every_part_of_measure_fits_a_phone(open_context, api):
    trial = api.trial_called("Which filter for the flat bed?")
    page = open_context(viewport={"width": 390, "height": 844}).new_page()
    page.goto(f"/trials/{trial}/measure")
    for name, shown in (
        ("Brews", "readings, % TDS"),
        ("Same or different", "What each ± is made of"),
        ("Match strengths", "Bring all to"),
        ("Next change", "What it tasted of"),
    ):
        page.get_by_role("tab", name=name).click()
        expect(page.get_by_text(shown, exact=True)).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, name
        assert faults(page, ALL_BUT_COLOURS) == [], name


@pytest.mark.nightly
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_the_tasters_sheet_is_sound(open_context, api, scheme):
    trial = api.trial_called("Which filter for the flat bed?")
    runs = [r["id"] for r in api.get(f"/trials/{trial}/results")["runs"]][:3]
    flight = api.call("POST", f"/trials/{trial}/flights", {"run_ids": runs, "taster_ids": [api.get("/people")["people"][0]["id"]]})
    page = open_context(viewport={"width": 390, "height": 844}, color_scheme=scheme).new_page()
    page.goto(flight["sheets"][0]["link"])
    page.get_by_role("button", name="Start with the first cup").wait_for()
    assert faults(page) == []
    page.get_by_role("button", name="Start with the first cup").click()
    page.get_by_role("radio", name="7").check(force=True)
    assert faults(page) == []
    for target in page.locator("button, input:not([type=checkbox]), label:has(input[type=checkbox]), .step, textarea").all():
        if target.is_visible():
            assert target.bounding_box()["height"] >= 43.5, target.evaluate("e => e.outerHTML")
    api.call("DELETE", f"/flights/{flight['id']}")
