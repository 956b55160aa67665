"""Every main view, light and dark, desk and phone: no serious fault by axe (contrast measured), nothing wider than the screen."""

import json
import urllib.request

import pytest

from brasspenny.config import PROJECT

AXE = (PROJECT / "web/node_modules/axe-core/axe.min.js").read_text()
STATIONS = ("ask", "set-up", "brew", "measure", "taste", "verdict")


def faults(page):
    page.evaluate(AXE)
    found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")["violations"]
    return [(v["id"], [n["html"][:160] for n in v["nodes"][:3]]) for v in found if v["impact"] in ("serious", "critical")]


def views(bench):
    with urllib.request.urlopen(f"{bench}/api/v1/trials") as answer:
        trials = {t["question"]: t["id"] for t in json.load(answer)["trials"]}
    filters, ladder, asked = (trials[q] for q in ("Which filter for the flat bed?", "How far can the ratio stretch?", "Does the Peru want hotter water?"))
    yield from ("/", "/trials", "/trials/new", f"/trials/{asked}/set-up", f"/trials/{asked}/verdict", f"/trials/{ladder}/taste")
    yield from (f"/trials/{filters}/{s}" for s in STATIONS)
    yield f"/trials/{ladder}/measure"


@pytest.mark.parametrize(("scheme", "size"), [("light", (1280, 800)), ("dark", (1280, 800)), ("light", (390, 844))], ids=["desk", "desk dark", "phone"])
def test_every_view_is_sound(open_context, bench, scheme, size):
    page = open_context(viewport={"width": size[0], "height": size[1]}, color_scheme=scheme, reduced_motion="reduce").new_page()
    trouble = {}
    for path in views(bench):
        page.goto(path)
        page.wait_for_load_state("networkidle")
        page.get_by_role("heading").first.wait_for()
        found = faults(page)
        if page.evaluate("document.documentElement.scrollWidth > innerWidth"):
            found.append(("wider than the screen", page.evaluate("document.documentElement.scrollWidth")))
        if found:
            trouble[path] = found
    assert trouble == {}, json.dumps(trouble, indent=1)


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_the_tasters_sheet_is_sound(open_context, bench, scheme):
    def call(path, body=None):
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(f"{bench}/api/v1{path}", data=data, headers={"Content-Type": "application/json"})
        with urllib.request.urlopen(request) as answer:
            return json.load(answer)

    trial = next(t["id"] for t in call("/trials")["trials"] if t["question"].startswith("Which filter for the flat"))
    runs = [r["id"] for r in call(f"/trials/{trial}/results")["runs"]][:3]
    flight = call(f"/trials/{trial}/flights", {"run_ids": runs, "taster_ids": [call("/people")["people"][0]["id"]]})
    page = open_context(viewport={"width": 390, "height": 844}, color_scheme=scheme).new_page()
    page.goto(flight["sheets"][0]["link"])
    page.get_by_role("button", name="Start with the first cup").wait_for()
    assert faults(page) == []
    page.get_by_role("button", name="Start with the first cup").click()
    page.get_by_role("radio", name="7").check(force=True)
    assert faults(page) == []
    for target in page.locator("button, input, .step, textarea").all():
        if target.is_visible():
            assert target.bounding_box()["height"] >= 43.5, target.evaluate("e => e.outerHTML")
    page.request.delete(f"{bench}/api/v1/flights/{flight['id']}")
