"""What was decided arrives on every page: a turned dial from a complaint to the next cup, prices entered late, and two kinds of drinkers on paper."""

from __future__ import annotations

import re

from playwright.sync_api import expect

TEXT = "18 g, 288 g at 93, in a cone dripper, bloom 45 for 40 s, to 288 from 0:40 over 40 s, drips stop, done between 2:20 and 3:10, target 1.25 to 1.45 % TDS, 19 to 21.5 % EY"


def test_a_complaint_turns_a_backward_dial_in_the_version_the_card_the_guide_and_the_next_cup(open_context, api):
    mill = {"scale": "dial", "direction": "larger_is_finer", "step": 1, "finest": 12}
    api.call("POST", "/kit", {"kind": "grinder", "name": "Backward mill", "grinder": mill})
    recipe = api.recipe(TEXT, name="Complaint cup")
    cup = {"grinder": "Backward mill", "grind_setting": "7"}
    api.call("POST", "/loose-runs", {"recipe_version_id": recipe["versions"][0]["id"], "name": "Sour watch", "variables": cup, "beverage_g": 250})
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/brew")
    row = page.get_by_role("article").filter(has_text="Sour watch").first
    row.get_by_role("button", name=re.compile("How was it")).click()
    page.get_by_text("sour", exact=True).click()
    change = page.get_by_text("Grind finer: 7 → 9 on the Backward mill")
    expect(change).to_be_visible()
    page.get_by_role("button", name="Brew it again so").click()
    expect(page).to_have_url(re.compile("/live-brews/"))
    expect(page.get_by_text("Backward mill 9")).to_be_visible()
    page.goto(f"/recipes/{recipe['id']}/card")
    expect(page.get_by_role("article", name="Card of Complaint cup")).to_contain_text(re.compile(r"version 2.*Backward mill\s*9", re.DOTALL))
    page.goto(f"/recipes/{recipe['id']}")
    expect(page.get_by_text("Grind finer: 7 → 9 on the Backward mill")).to_be_visible()


def test_two_mills_whose_prices_are_entered_after_the_verdict(open_context, api):
    mills = [
        api.call("POST", "/kit", {"kind": "grinder", "name": name, "grinder": {"rate_g_s": rate}}) for name, rate in (("Long mill", 0.5), ("Quick mill", 4.0))
    ]
    trial = api.ask("Is the quick mill worth it?", "grinder")
    first = api.setup(trial["id"], grinder="Long mill", grind_setting="20")
    setups = (first, api.copy(first, grinder="Quick mill", grind_setting="5"))
    runs = [api.brew(trial["id"], s)["id"] for s in setups for _ in range(2)]
    flight = api.flight(trial["id"], runs, [api.person("Mill taster one"), api.person("Mill taster two")], attributes=[])
    api.taste(flight, lambda mark, _: 6 if mark <= 2 else 7)
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{trial['id']}/verdict?view=value")
    expect(page.get_by_text("Liking against price")).to_be_visible()
    expect(page.get_by_text("times the price")).to_have_count(0)
    for mill, price in zip(mills, ("60", "600"), strict=True):
        page.goto(f"/kit/grinder/{mill['id']}")
        page.get_by_role("button", name="Change the facts").click()
        page.get_by_label("Price", exact=True).fill(price)
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name="Save")).to_have_count(0)
    page.goto(f"/trials/{trial['id']}/verdict?view=value")
    said = page.get_by_text(re.compile("At 10 times the price, Quick mill.* buys .* points over Long mill"))
    expect(said).to_be_visible()
    sentence = said.inner_text()
    page.goto(f"/trials/{trial['id']}/report")
    expect(page.get_by_role("article")).to_contain_text(sentence.split("(")[0])


def test_two_kinds_of_drinkers_are_two_on_the_verdict_and_on_paper(open_context, api):
    trial = api.ask("Which of two roasts?", "coffee")
    first = api.setup(trial["id"], coffee="Light lot")
    second = api.copy(first, coffee="Dark lot")
    runs = [api.brew(trial["id"], s)["id"] for s in (first, second) for _ in range(2)]
    tasters = [api.person(f"Camp taster {i}") for i in range(10)]
    for _ in range(2):
        flight = api.flight(trial["id"], runs, tasters, attributes=[])
        api.taste(flight, lambda mark, i: (8 if (mark <= 2) == (i < 5) else 3) - (i + mark) % 2)
    page = open_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"/trials/{trial['id']}/verdict")
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text("Five like Light lot best, five like Dark lot")
    headline = heading.inner_text()
    page.goto(f"/trials/{trial['id']}/report")
    follow_print = page.get_by_role("article")
    expect(follow_print).to_contain_text(headline)
    page.emulate_media(media="print")
    paper = follow_print.inner_text()
    assert headline in paper and len(re.findall(r"Camp taster 0, .*?: A \d\.\d", paper)) == 1
    assert "Best value" not in paper and not re.search(r"^Mean", paper, re.MULTILINE)
    assert page.pdf()[:4] == b"%PDF"
