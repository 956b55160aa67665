"""Brewing along: led by a made-up scale, by the clock, on two scales, pressed; corrected afterwards; liked and brewed again on a phone."""

import re
import threading

import pytest
from playwright.sync_api import expect

from brasspenny.devices.speaking import Listener, Speaking

from .people import follow
from .test_corrections import REFUSED


def recipe(api, name, text):
    read = api.call("POST", "/calc/recipe-parse", {"text": text})
    assert read["not_understood"] == []
    return api.call("POST", "/recipes", {"name": name, "document": read["document"], "note": ""})


def loose(api, recipe_version_id, name, **how):
    return api.call("POST", "/live-brews", {"recipe_version_id": recipe_version_id, "name": name, **how})


def test_a_brew_is_guided_without_a_single_press(open_context, api):
    """The hand begins by itself; the guide follows the scale to the end, through a reload; the form holds what the scale said."""
    trial = api.trial_called("Does the bean or the grinder matter more?")
    setup = api.get(f"/trials/{trial}/setups")["setups"][0]
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{trial}/brew")
    page.get_by_role("button", name="A1 is to be brewed").click()
    expect(page.get_by_role("button", name="Brew A, guided")).to_be_visible()
    asked = {"setup_id": setup["id"], "instrument": "simulated", "speed": 20, "begins_after_s": 4}
    live = api.call("POST", f"/trials/{trial}/live-brews", asked)
    page.goto(f"/along/{live['id']}")
    expect(page.get_by_text("simulated instruments, 20× speed")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Pour to 170 g.* g left"))).to_be_visible()
    page.reload()  # a closed lid, another device: the clock is the bench's
    expect(page.get_by_role("img", name=re.compile("Pour to 288 g.* g left"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Watch for the last drip"))).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("It was over at"))).to_be_visible()
    expect(page.get_by_text("by the scale")).to_have_count(3)
    expect(page.get_by_role("textbox", name="Brew water")).to_have_value(re.compile(r"^2(8[4-9]|9[0-2])"))
    page.get_by_role("button", name="Take the simulated readings").click()
    expect(page.get_by_role("status")).to_contain_text("Yield")  # worked out while it is typed
    page.get_by_label("Drips stopped, really, at").fill("2:50")
    page.get_by_text("channels", exact=True).click()
    page.get_by_role("button", name="Log brew A1").click()
    brew = page.get_by_role("article", name="Brew A1")
    expect(brew).to_contain_text("simulated")
    expect(brew).to_contain_text("bed channels")
    expect(brew).to_contain_text("first said to be over at")
    expect(page.get_by_role("complementary")).to_contain_text("Simulated: A1")
    run = api.get(f"/trials/{trial}/results")["runs"][0]
    assert run["total_time_s"] == 170 and len(run["readings"]) == 3 and run["has_curve"] and {p["by"] for p in run["pours"]} == {"scale"}
    api.call("DELETE", f"/runs/{run['id']}")


@pytest.mark.nightly
def test_every_press_forgotten_and_no_scale(open_context, api):
    """The clock asks, one press takes the forgotten ones along, the last press is taken back, and the form mends the times."""
    made = recipe(
        api,
        "Ten seconds",
        "12 g, 60 g at 93, in a cone dripper, pour to 20 from 0:00 over 2 s, pour to 40 from 0:04 over 2 s, to 60 from 0:08 over 2 s, drips stop, done by 0:14",
    )
    live = loose(api, made["versions"][0]["id"], "Ten seconds")
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/along/{live['id']}")
    expect(page.get_by_role("button", name="Start pour")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("img", name=re.compile("Pour to 60 g"))).to_be_visible()  # nobody pressed: the clock went on
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Drips stopped")).to_be_visible()
    page.keyboard.press("Backspace")
    expect(page.get_by_role("button", name="Poured")).to_be_visible()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Drips stopped").click()
    expect(page.get_by_text("2 pours were not pressed")).to_be_visible()
    expect(page.get_by_text("not pressed: the recipe’s time")).to_have_count(2)
    page.get_by_label("Pour 2 ended").fill("0:07")
    page.get_by_label("Beverage mass").fill("38")
    page.get_by_role("button", name="Log this brew").click()
    expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()
    run = next(r for r in api.get("/loose-runs")["runs"] if r["name"] == "Ten seconds")
    assert [p["by"] for p in run["pours"]] == ["plan", "typed", "press"] and run["pours"][1]["ended_s"] == 7
    api.call("DELETE", f"/runs/{run['id']}")


@pytest.mark.nightly
def test_a_recipe_is_steeped_decanted_and_dripped_on_two_scales(open_context, api):
    text = "15.5 g, in a jug steep, at 94 °C, pour to 105 g over 0:20, wait by 1:00, transfer zeroed empty, pour to 229.5 g reads 245 g from 1:30 over 0:25, drips stop, done by 3:00"
    made = recipe(api, "Decanted", text)
    live = loose(api, made["versions"][0]["id"], "Decanted", instrument="simulated", speed=10, begins_after_s=12)
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/along/{live['id']}")
    expect(page.get_by_text("Pour into the dripper; zeroed empty, the scale should read 120.5 g").first).to_be_visible()
    expect(page.get_by_text(re.compile("After the transfer the scale read"))).to_be_visible()
    expect(page.get_by_text("Pour to 245 g on the scale (229.5 g of water)").first).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("It was over at"))).to_be_visible()
    expect(page.get_by_role("textbox", name="Brew water")).to_have_value(re.compile(r"^2(2[6-9]|3[0-3])"))  # the slurry is no water
    page.get_by_role("button", name="Discard").click()
    page.get_by_role("button", name="Discard it").click()
    expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()


LOG = "time;mass\n" + "".join(f"{t / 4:.2f};{g:.1f}\n".replace(".", ",") for t, g in enumerate([0.0] * 20 + [1.2 * i for i in range(241)] + [288.0] * 60))


@pytest.mark.nightly
def test_a_press_is_over_when_it_is_pressed(open_context):
    page = open_context(viewport={"width": 820, "height": 1180}).new_page()  # a tablet held upright
    page.goto("/recipes")
    follow(page.get_by_role("link", name="Signal rocket, concentrate"))
    follow(page.get_by_role("link", name="Brew it"))
    page.get_by_label("Called").fill("Rocket at noon")
    page.get_by_role("button", name="Brew along", exact=True).click()
    expect(page.get_by_role("heading", name="Rocket at noon")).to_be_visible()
    page.get_by_role("button", name="Start pour").click()
    for step in ("Stir", "Wait", "Put the lid on", "Turn it over", "Press gently"):  # each after what came before it is done
        page.get_by_role("button", name="space").click()
        expect(page.locator(f"svg[aria-label^='{step}']")).to_be_visible()
    expect(page.get_by_role("meter", name="Force, kg")).to_be_visible()
    expect(page.get_by_role("note")).to_contain_text("steady force")
    page.get_by_role("button", name="Pressed").click()
    page.get_by_role("button", name="Weigh and log").click()
    expect(page.get_by_label("Pressed, really, at")).to_have_value(re.compile(r"^0:"))  # and nobody watched for a drip
    expect(page.get_by_label("Force read on")).to_be_visible()
    follow(page.get_by_role("link", name="Leave, timer on"))
    follow(page.get_by_role("link", name="Rocket at noon is being brewed"))
    page.get_by_role("button", name="More to note").click()
    page.get_by_role("menuitem", name="Discard this brew").click()
    page.get_by_role("button", name="Discard it").click()
    expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()


@pytest.mark.nightly
def test_a_scales_file_is_laid_over_a_brew_and_a_correction_clears_its_doubt(open_context, api, tmp_path):
    page = open_context(viewport={"width": 1280, "height": 900}, allowed=REFUSED).new_page()
    page.goto("/brew")
    card = page.get_by_role("article").filter(has_text="Daily cup").first
    card.get_by_role("button", name="Correct").click()
    file = tmp_path / "scale.csv"
    file.write_bytes(b"\xff\xfe" + LOG.encode("utf-16le"))  # as some scales write it: UTF-16, semicolons, decimal commas
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Add a scale’s file").click()
    chosen.value.set_files(file)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("to 288 g, 4.8 g/s")).to_be_visible()
    expect(dialog.get_by_text(re.compile("Off plan: .*4[56] s early"))).to_be_visible()
    expect(dialog.get_by_role("img", name="The scale over time, beside the plan")).to_be_visible()
    file.write_text("Lo\nLo\n")
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Add a scale’s file").click()
    chosen.value.set_files(file)
    expect(dialog.get_by_role("alert")).to_contain_text("two columns")
    dialog.get_by_role("button", name="Close").or_(page.locator(".mantine-Modal-close")).first.click()
    expect(card).to_contain_text("Off plan")
    card.get_by_role("button", name="Correct").click()
    plan = api.get("/loose-runs")["runs"][0]["pours"]
    for i, p in enumerate(plan, 1):
        dialog.get_by_label(f"Pour {i} began").fill(str(round(p["plan_start_s"])))
        dialog.get_by_label(f"Pour {i} ended").fill(str(round(p["plan_end_s"])))
        dialog.get_by_label("Water by then").nth(i - 1).fill(str(p["plan_to_g"]))
    dialog.get_by_label("Brew water").fill(str(plan[-1]["plan_to_g"]))
    dialog.get_by_role("button", name="Save the correction").click()
    expect(card).not_to_contain_text("Off plan")


@pytest.mark.nightly
def test_a_cup_is_liked_on_a_phone_and_brewed_again_with_one_change(open_context, api):
    page = open_context(viewport={"width": 390, "height": 844}, has_touch=True).new_page()
    page.goto("/brew")
    card = page.get_by_role("article").filter(has_text="Daily cup").first
    card.get_by_role("button", name="How was it?").click()
    card.get_by_role("button", name="4", exact=True).click()
    card.get_by_text("bitter", exact=True).click()  # at once: the second touch rests on the first
    expect(card.get_by_role("button", name="4", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(card).to_contain_text("never evidence")
    expect(card).to_contain_text(re.compile(r"Grind coarser: [\d ./]+ → [\d ./]+ on the "))
    card.get_by_role("button", name="Brew it again so").click()
    expect(page.get_by_role("button", name="Start pour")).to_be_visible()
    live = api.get("/live-brews")["brews"][0]
    page.get_by_role("button", name="More to note").click()
    page.get_by_role("menuitem", name="Discard this brew").click()
    page.get_by_role("button", name="Discard it").click()
    expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()
    assert live["trial_id"] is None
    expect(page.get_by_role("region", name="How was it, this week?").or_(page.get_by_text("How was it, this week?")).first).to_be_visible()


@pytest.mark.nightly
def test_a_real_scale_on_the_network_starts_the_clock_and_leads(open_context, api):
    """The made-up scale of docs/scale-wire.md §5, listened to as a real one."""
    with Speaking(("127.0.0.1", 0), Listener) as scale:
        threading.Thread(target=scale.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True).start()
        api.call("PATCH", "/bench", {"scale_address": f"127.0.0.1:{scale.server_address[1]}"}, rev=api.get("/bench")["rev"])
        made = recipe(
            api,
            "On a wire",
            "18 g, 288 g at 93, in a cone dripper, bloom 45 for 40 s, to 170 from 0:40 over 20 s, to 288 from 1:20 over 25 s, drips stop, done by 2:45",
        )
        live = loose(api, made["versions"][0]["id"], "On a wire", instrument="wire")
        page = open_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(f"/along/{live['id']}")
        page.get_by_role("button", name=re.compile("Connect the scale at 127")).click()
        expect(page.get_by_text("Listening to the scale")).to_be_visible()
        expect(page.get_by_role("img", name=re.compile(r"Bloom: pour to 45 g, ([1-3]\d|\d) g left"))).to_be_visible()  # nobody pressed Start
        expect(page.get_by_role("img", name=re.compile("Pour to 170 g, 1[23]. g left"))).to_be_visible()
        assert [p["by"] for p in api.get(f"/live-brews/{live['id']}")["pours"]][0] == "scale"
        page.get_by_role("button", name="More to note").click()
        page.get_by_role("menuitem", name="Discard this brew").click()
        page.get_by_role("button", name="Discard it").click()
        expect(page.get_by_role("heading", name="Brew without a trial")).to_be_visible()
        scale.shutdown()


@pytest.mark.nightly
def test_the_ratio_moves_with_every_keystroke(open_context, api):
    """Before the field is left: whoever scales by head sees where it leads."""
    made = recipe(api, "Keystrokes", "18 g, 288 g at 93, in a cone dripper, bloom 45 for 40 s, to 288 by 1:50, drips stop, done by 2:45")
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/recipes/{made['id']}")
    expect(page.get_by_text("1:16.0")).to_be_visible()
    dose = page.get_by_label("Dose", exact=True)
    dose.click()
    dose.press("End")
    dose.press("Backspace")
    dose.press("5")
    expect(page.get_by_text("1:19.2")).to_be_visible()
    expect(dose).to_be_focused()
