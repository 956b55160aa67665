"""Takes the pictures in docs/screenshots from a fresh demo bench: start `./penny demo --fresh`, then run this with the address it printed."""

from __future__ import annotations

import base64
import json
import re
import sys
import urllib.request
from pathlib import Path

from playwright.sync_api import sync_playwright

BASE, _, KEY = sys.argv[1].partition("/#open=")
OUT = Path(__file__).parent / "screenshots"
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


def come_in() -> dict[str, str]:
    """The cookie that the printed address is good for, once."""
    asked = urllib.request.Request(f"{BASE}/api/v1/session", json.dumps({"key": KEY}).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(asked) as answer:
        found = [c.partition(";")[0].partition("=") for c in answer.headers.get_all("Set-Cookie")]
    name, _, value = next(c for c in found if re.fullmatch(r"penny_[0-9a-f]{10}", c[0]))
    return {"name": name, "value": value, "url": BASE}


COOKIE = come_in()
INSIDE = {"Cookie": f"{COOKIE['name']}={COOKIE['value']}"}


def call(path: str, body: dict | None = None, rev: int | None = None) -> dict:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(
        f"{BASE}/api/v1{path}", data=data, headers=INSIDE | {"Content-Type": "application/json"} | ({"If-Match": str(rev)} if rev else {})
    )
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)


def inside(page):
    page.context.add_cookies([COOKIE])
    return page


def main() -> None:
    trials = {t["question"]: t["id"] for t in call("/trials")["trials"]}
    filters, ladder, planned = (
        trials["Which filter for the flat bed?"],
        trials["How far can the ratio stretch?"],
        trials["Does the bean or the grinder matter more?"],
    )
    tasted, waters = trials["Which ratio for the Peru?"], trials["Can anybody tell the two waters apart?"]
    recipes = {r["name"]: r["id"] for r in call("/recipes")["recipes"]}
    views = {
        "bench": "/",
        "set-up": f"/trials/{filters}/set-up",
        "brew": f"/trials/{ladder}/brew",
        "taste": f"/trials/{waters}/taste",
        "verdict": f"/trials/{filters}/verdict",
        "pairing": f"/trials/{tasted}/verdict?view=against",
        "report": f"/trials/{tasted}/report",
        "charts": "/charts",
        "kit": "/kit/coffee",
        "grind-room": "/grind",
        "plan": f"/trials/{planned}/set-up/plan",
        "run-sheet": f"/trials/{planned}/set-up/run-sheet",
    }
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        page = inside(browser.new_page(viewport=DESK))
        for name, path in views.items():
            shoot(page, name, path)
        answers(page, [tasted, trials["Which coffee for the wardroom?"], trials["Is it the bean or the water?"], filters])
        kit = {i["full_name"]: i["id"] for i in call("/kit")["items"]}
        pair(page, "cards", [f"/kit/card/{kit[name]}" for name in ("Windlass mill · ridged plates", "Thick crêpe")])
        pair(page, "recipes", [f"/recipes/{recipes['Sketch from the pilot boat']}", f"/recipes/{recipes['Long watch, three pours']}/card"])
        palate(page)
        measure(page, ladder)
        brew_along(page, planned)
        runs = [r["id"] for r in call(f"/trials/{ladder}/results")["runs"]]
        people = [p["id"] for p in call("/people")["people"]]
        flight = call(f"/trials/{ladder}/flights", {"run_ids": runs, "taster_ids": people[:4], "rest_s": 0, "cup_temperature_c": 52})
        taste(inside(browser.new_page(viewport=PHONE)), flight)
        sealed = call(f"/trials/{ladder}/flights", {"run_ids": runs, "taster_ids": people[:4], "blinding": "runner"})
        runner(inside(browser.new_page(viewport=PHONE)), sealed)
        side_by_side(browser.new_page(viewport={"width": 800, "height": 844}), "phones", PHONES, width=390)
        browser.close()
    for phone in PHONES:
        phone.unlink()
    for one in (flight, sealed):
        urllib.request.urlopen(urllib.request.Request(f"{BASE}/api/v1/flights/{one['id']}", headers=INSIDE, method="DELETE"))


def shoot(page, name: str, path: str) -> None:
    page.goto(BASE + path)
    page.wait_for_timeout(3000)  # a flight's events keep the network busy, so stillness cannot be waited for
    page.screenshot(path=OUT / f"{name}.png")


def answers(page, ids: list[str]) -> None:
    """The verdicts of four kinds of question, half as large, side by side."""
    shots = []
    for trial in ids:
        page.goto(f"{BASE}/trials/{trial}/verdict")
        page.wait_for_timeout(5000)
        shots.append(page.screenshot())
    sheet = page.context.browser.new_page(viewport={"width": 1920, "height": 1200})
    put_together(sheet, "answers", shots, width=956)


def pair(page, name: str, paths: list[str]) -> None:
    """Two views side by side."""
    shots = []
    for path in paths:
        page.goto(BASE + path)
        page.wait_for_timeout(2500)
        shots.append(page.screenshot())
    put_together(page.context.browser.new_page(viewport={"width": 1920, "height": 600}), name, shots, width=956)


def palate(page) -> None:
    """What the panel and each taster can tell; and a taster's phone in a series."""
    page.goto(f"{BASE}/palate")
    page.get_by_label("Show each taster by name").check()
    page.wait_for_timeout(1500)
    host = page.screenshot()
    room = page.request.get(f"{BASE}/api/v1/palate").json()
    link = next(seat["link"] for session in room["sessions"] if not session["closed_at"] for seat in session["seats"])
    phone = inside(page.context.browser.new_page(viewport={"width": 390, "height": 800}))
    phone.goto(link)
    phone.get_by_role("button", name="Start").click()
    phone.wait_for_timeout(1500)
    shots = [host, phone.screenshot()]
    phone.close()
    sheet = page.context.browser.new_page(viewport={"width": 1674, "height": 800})
    images = "".join(f'<img height="800" src="data:image/png;base64,{base64.b64encode(shot).decode()}">' for shot in shots)
    sheet.set_content(f'<body style="margin:0;display:flex;gap:4px;background:#fff">{images}')
    sheet.wait_for_timeout(500)
    sheet.screenshot(path=OUT / "palate.png")
    sheet.close()


PHONES = [OUT / "taste-phone.png", OUT / "runner-phone.png"]


def side_by_side(sheet, name: str, pictures: list[Path], *, width: int) -> None:
    put_together(sheet, name, [p.read_bytes() for p in pictures], width=width)


def put_together(sheet, name: str, shots: list[bytes], *, width: int) -> None:
    """Two in a row."""
    images = "".join(f'<img width="{width}" src="data:image/png;base64,{base64.b64encode(shot).decode()}">' for shot in shots)
    sheet.set_content(f'<body style="margin:0;display:grid;grid-template-columns:1fr 1fr;gap:4px">{images}')
    sheet.wait_for_timeout(500)
    sheet.screenshot(path=OUT / f"{name}.png")
    sheet.close()


def measure(page, trial: str) -> None:
    """Both charts, with two schools laid over the first and a wished cup."""
    shoot(page, "measure", f"/trials/{trial}/measure")
    page.get_by_role("button", name="Target cup").click()
    page.get_by_role("button", name="Overlays").click()
    page.get_by_label("what cups taste like").check()
    page.keyboard.press("Escape")
    page.get_by_text("dose, same water").wait_for()
    page.mouse.move(640, 110)
    page.wait_for_timeout(500)
    page.screenshot(path=OUT / "measure.png")


def brew_along(page, trial: str) -> None:
    """Half way up the second stair, by the simulated scale."""
    setup = call(f"/trials/{trial}/setups")["setups"][1]["id"]
    recipe = next(r["version_id"] for r in call("/recipes")["recipes"] if r["name"].startswith("Dog watch"))
    other = call("/live-brews", {"recipe_version_id": recipe, "name": "Dog watch", "instrument": "simulated"})
    call(f"/live-brews/{other['id']}/start", {}, rev=other["rev"])
    asked = {"setup_id": setup, "instrument": "simulated", "speed": 5, "begins_after_s": 0}
    live = call(f"/trials/{trial}/live-brews", asked)
    page.goto(f"{BASE}/live-brews/{live['id']}")
    page.wait_for_function("() => /, [2-5]\\d g left/.test(document.querySelector('svg[role=img][aria-label*=\"to 1\"]')?.getAttribute('aria-label') ?? '')")
    page.screenshot(path=OUT / "brew-along.png")
    for one in (live, other):
        urllib.request.urlopen(urllib.request.Request(f"{BASE}/api/v1/live-brews/{one['id']}", headers=INSIDE, method="DELETE"))


def runner(page, flight: dict) -> None:
    page.goto(flight["seal"]["link"])
    page.get_by_role("button", name="Open the pour sheet").click()
    page.get_by_role("heading", name="Pour each into its codes").wait_for()
    page.screenshot(path=OUT / "runner-phone.png")


def taste(page, flight: dict) -> None:
    page.goto(flight["sheets"][0]["link"])
    page.get_by_role("button", name="Start with the first cup").click()
    for liking in ("6", "8"):
        page.get_by_role("radio", name=liking, exact=True).check(force=True)
        page.get_by_role("button", name="Next cup").click()
    slider = page.get_by_role("slider", name="Acidity")
    slider.focus()
    page.keyboard.press("ArrowRight")
    page.get_by_role("radio", name="7", exact=True).check(force=True)
    page.get_by_role("status").filter(has_text="saved").wait_for()
    page.screenshot(path=OUT / "taste-phone.png")


if __name__ == "__main__":
    main()
