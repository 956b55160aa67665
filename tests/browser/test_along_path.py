"""Brewing along with the simulated scale at twenty times the clock: one key, a reload in the middle, a logged brew at the end."""

import json
import re
import urllib.request

from playwright.sync_api import expect

from .test_corrections import REFUSED


def call(bench, path, body=None):
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(f"{bench}/api/v1{path}", data=data, headers={"Content-Type": "application/json"})
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)


def at(page, elapsed):
    """Wait until the clock on the page has come this far; it shows m:ss."""
    m, s = divmod(elapsed, 60)
    later = "|".join(f"{m + (s + k) // 60}:{(s + k) % 60:02}" for k in range(25))
    expect(page.get_by_label("Elapsed")).to_have_text(re.compile(f"^({later})$"))


def test_a_brew_is_made_along_resumed_and_logged(open_context, bench):
    trial = next(t["id"] for t in call(bench, "/trials")["trials"] if t["question"].startswith("Does the bean"))
    setup = call(bench, f"/trials/{trial}/setups")["setups"][0]
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{trial}/brew")
    expect(page.get_by_role("button", name="Brew A along its recipe")).to_be_visible()
    live = call(bench, f"/trials/{trial}/live-brews", {"setup_id": setup["id"], "instrument": "simulated", "speed": 20})
    page.goto(f"/along/{live['id']}")
    expect(page.get_by_text("simulated instruments, 20× speed")).to_be_visible()
    expect(page.get_by_text(re.compile("scald"))).to_be_visible()
    page.keyboard.press("Space")
    at(page, 12)
    page.keyboard.press("Space")
    page.get_by_role("button", name="First drip").click()
    at(page, 62)
    page.reload()  # a closed lid, another device: the clock is the bench's
    expect(page.get_by_label("Target")).to_contain_text("g")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("Space")
    at(page, 108)
    drips = page.get_by_role("button", name="Drips stopped")
    for _ in range(3):  # a press can fall between two steps while a busy machine draws the next
        page.keyboard.press("Space")
        page.wait_for_timeout(700)
        if drips.is_visible():
            break
    expect(drips).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("row", name=re.compile("^bloom 45 g"))).to_contain_text(
        re.compile(r"0:09 · 45 g\s*0:[1-3]\d · 4\d g")
    )  # at 20× a busy machine slips seconds
    page.get_by_role("button", name="Take the simulated readings").click()
    page.get_by_label("Beverage mass").fill("252")
    page.get_by_label("Drips really stopped at").fill("2:50")
    page.get_by_text("channels", exact=True).click()
    page.get_by_role("button", name="Log brew A1").click()
    brew = page.get_by_role("article", name="Brew A1")
    expect(brew).to_contain_text("252.0 g")
    expect(brew).to_contain_text("simulated")
    expect(brew).to_contain_text("bed channels")
    expect(brew).to_contain_text("first stopped at")
    expect(page.get_by_role("complementary")).to_contain_text("Simulated: A1")
    run = call(bench, f"/trials/{trial}/results")["runs"][0]
    assert run["total_time_s"] == 170 and len(run["readings"]) == 3 and run["has_curve"]
    assert 280 < run["brew_water_g"] < 294 and 100 <= run["pour_end_s"] <= 140
    call_delete = urllib.request.Request(f"{bench}/api/v1/runs/{run['id']}", method="DELETE")
    urllib.request.urlopen(call_delete).close()


LOG = "time;mass\n" + "".join(f"{t / 4:.2f};{g:.1f}\n".replace(".", ",") for t, g in enumerate([0.0] * 20 + [1.2 * i for i in range(241)] + [288.0] * 60))


def test_a_loose_brew_is_pressed_along_and_a_scales_file_is_laid_over_another(open_context, bench, tmp_path):
    page = open_context(viewport={"width": 820, "height": 1180}, allowed=REFUSED).new_page()  # a tablet held upright
    page.goto("/recipes")
    page.get_by_role("link", name="Signal rocket, concentrate").click()
    page.get_by_role("link", name="Brew it").click()
    page.get_by_label("Called").fill("Rocket at noon")
    page.get_by_role("button", name="with simulated instruments").click()
    page.get_by_text("20×").click()
    page.get_by_role("button", name="Begin a simulated brew").click()
    expect(page.get_by_role("heading", name="Rocket at noon")).to_be_visible()
    page.get_by_role("button", name="Start pour").click()
    for step in ("stir", "wait", "lid on", "invert", "press"):  # each after what came before it is done
        page.get_by_role("button", name="space").click()
        expect(page.locator(f"svg[aria-label^='{step}']")).to_be_visible()
    expect(page.get_by_role("meter", name="Force, kg")).to_be_visible()
    expect(page.get_by_role("note")).to_contain_text("steady force")
    page.get_by_role("link", name="Leave (the timer keeps running)").click()
    page.get_by_role("link", name="Rocket at noon is being brewed").click()
    page.get_by_role("button", name="Discard this brew").click()
    page.get_by_role("button", name="Give it up").click()
    expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()

    card = page.get_by_role("article").filter(has_text="Daily cup").first
    card.get_by_role("button", name="Correct").click()
    file = tmp_path / "scale.csv"
    file.write_bytes(b"\xff\xfe" + LOG.encode("utf-16le"))  # as some scales write it: UTF-16, semicolons, decimal commas
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Add a scale’s file").click()
    chosen.value.set_files(file)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("to 288 g, 4.8 g/s")).to_be_visible()
    expect(dialog.get_by_text("1 pours in the scale's file, 3 in the recipe")).to_be_visible()
    expect(dialog.get_by_role("img", name="The scale over time, beside the plan")).to_be_visible()
    file.write_text("Lo\nLo\n")
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Add a scale’s file").click()
    chosen.value.set_files(file)
    expect(dialog.get_by_role("alert")).to_contain_text("two columns")
