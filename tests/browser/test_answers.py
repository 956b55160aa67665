"""Each kind of question from Ask to report: the page leads with the answer to it, and every list and the report say the same."""

from __future__ import annotations

import random
import re

import pytest
from playwright.sync_api import expect

from ..api.host import token
from .people import follow


@pytest.fixture
def people(api):
    names = {p["name"]: p["id"] for p in api.get("/people")["people"]}
    return [names.get(f"Hand {i}") or api.person(f"Hand {i}") for i in range(12)]


def asked(host, question: str, factor: str) -> str:
    """By the form, as a person asks; the id of the trial."""
    host.ask(question, factor)
    return host.page.url.split("/trials/")[1].split("/")[0]


def brewed(api, trial: str, setups: list[dict], brews: int = 2) -> list[str]:
    first = api.setup(trial, **setups[0])
    made = [
        first,
        *(api.call("POST", f"/trials/{trial}/setups", {"copy_of": first["id"], "variables": change, "new_kit": ["coffee", "water"]}) for change in setups[1:]),
    ]
    heat = [{"temperature_c": s["temperature_c"]} if "temperature_c" in s else {} for s in setups]
    return [api.brew(trial, s, tds=[1.3 + i / 25, 1.31 + i / 25], **heat[i])["id"] for i, s in enumerate(made) for _ in range(brews)]


def flown(api, trial: str, runs: list[str], people: list[str], answers, **how) -> None:
    """answers: sheet as read, letter of each code, number of the taster → touches."""
    flight = api.flight(trial, runs, people, **how)
    key = {c["code"]: i for i, c in enumerate(flight["cups"], 1)}
    letters = {m["mark"]: m["letter"] for m in flight["marks"]}
    for i, sheet in enumerate(flight["sheets"]):
        api.score(sheet, *answers(api.get(f"/taste/{token(sheet)}"), {code: letters[mark] for code, mark in key.items()}, i))
    api.call("POST", f"/flights/{flight['id']}/close")
    api.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})


def liked(api, likes, more=None):
    """Scores by truth: likes(letter, taster) of liking, more(letter, attribute) of the rest."""
    rng = random.Random(3)

    def answers(sheet, letters, i):
        for code, letter in letters.items():
            for a in sheet["attributes"]:
                value = likes(letter, i) + rng.choice((-0.5, 0, 0.5)) if a["code"] == "liking" else more(letter, a["code"])
                yield api.touch(code, a["code"], value=max(a["low"], min(a["high"], round(value * 2) / 2)))

    return answers


COMBINED = ("Lot 1 · Soft", "Lot 1 · Hard", "Lot 2 · Soft", "Lot 2 · Hard")


def says_everywhere(page, headline: str) -> None:
    """The verdict's first line, the report, and the list of trials."""
    expect(page.get_by_role("heading", level=1)).to_have_text(headline)
    follow(page.get_by_role("link", name="Report"))
    expect(page.get_by_role("article")).to_contain_text(headline)
    page.goto("/trials")
    expect(page.get_by_text(headline).first).to_be_visible()


def test_a_ladder_says_how_far_and_what_changes_along_it(host, api, people):
    page, trial = host.page, asked(host, "How hot for this one?", "Temperature")
    runs = brewed(api, trial, [{"temperature_c": t} for t in (86, 88, 90, 92, 94, 96)])
    steps = dict(zip("ABCDEF", range(6), strict=True))
    likes = liked(api, lambda x, i: 7.5 - 0.45 * (steps[x] - 2.5) ** 2, lambda x, a: 8 - steps[x] if a == "acidity" else 5)
    flown(api, trial, runs, people[:8], likes, attributes=["acidity", "body"])
    page.goto(f"/trials/{trial}/verdict")
    expect(page.get_by_role("region", name="Liking against temperature")).to_be_visible()
    expect(page.get_by_role("region", name="What changes along it")).to_contain_text("Acidity falls from 86 °C to 96 °C")
    rows = page.get_by_role("table", name="Liking by setup").get_by_role("rowheader")
    assert [row.inner_text().split("\n")[-2] for row in rows.all()] == [f"{t} °C" for t in (86, 88, 90, 92, 94, 96)]
    expect(page.get_by_text("Every pair, 15 in all")).to_be_visible()
    says_everywhere(page, "Liked best near 91 °C")


@pytest.mark.nightly
def test_a_factorial_says_which_factor_matters_more(host, api, people):
    page = host.page
    page.goto("/trials/new")
    page.get_by_label("Your question").fill("What matters more, the bean or the water?")
    expect(page.get_by_text("× Water")).to_be_visible()  # the question names both, and both are asked about
    page.get_by_role("button", name="Create trial").click()
    for label, level in (("Coffee 1", "Lot 1"), ("Coffee 2", "Lot 2"), ("Water 1", "Soft"), ("Water 2", "Hard")):
        page.get_by_label(label, exact=True).and_(page.locator("input")).fill(level)
    page.get_by_label("Dose").fill("18")
    page.get_by_label("Brew water").fill("290")
    page.get_by_role("heading", name="What is compared?").click()  # closes the list of suggestions
    host.add_new_names()
    expect(page.get_by_role("list", name="Every combination").get_by_role("listitem")).to_have_text([re.compile(x) for x in COMBINED])
    page.get_by_role("button", name="Add setups A, B, C and D").click()
    expect(page.get_by_role("heading", name="Not fair yet. Not dialled in: A, B, C, D")).to_be_visible()
    trial = page.url.split("/trials/")[1].split("/")[0]
    setups = api.get(f"/trials/{trial}/setups")["setups"]
    runs = [api.brew(trial, s, tds=[1.3 + i / 25, 1.31 + i / 25])["id"] for i, s in enumerate(setups) for _ in range(2)]
    flown(api, trial, runs, people[:6], liked(api, lambda x, i: {"A": 8, "B": 7, "C": 4, "D": 3.5}[x]), attributes=[])
    page.goto(f"/trials/{trial}/verdict")
    expect(page.get_by_role("region", name="Which matters more?")).to_contain_text("Lot 1 over Lot 2")
    says_everywhere(page, "Coffee matters more")


@pytest.mark.nightly
def test_two_kinds_of_drinkers_lead_and_each_groups_favourite_is_on_the_chart(host, api, people):
    page, trial = host.page, asked(host, "Which lot for this table?", "Coffee")
    runs = brewed(api, trial, [{"coffee": f"Lot {n}"} for n in (1, 2, 3, 4)])
    camps = ({"A": 8, "B": 5, "C": 6, "D": 3}, {"A": 3, "B": 5, "C": 6, "D": 8})
    flown(api, trial, runs, people, liked(api, lambda x, i: camps[i % 2][x]), attributes=[])
    page.goto(f"/trials/{trial}/verdict")
    groups = page.get_by_role("region", name="Liking by group")
    expect(groups.get_by_role("rowgroup")).to_have_count(3)
    expect(groups).to_contain_text("liked best")
    expect(page.get_by_role("heading", name="The average, which suits neither group")).to_be_visible()
    chart = page.get_by_role("region", name="Where each group's favourite lies")
    expect(chart.get_by_text("6 tasters")).to_have_count(2)
    chart.get_by_role("button", name="Table").click()
    expect(chart.get_by_role("row").filter(has_text="6 tasters")).to_have_count(2)
    page.get_by_role("tab", name="Panel").click()
    expect(page.get_by_role("row", name="Hand 0")).to_contain_text("liked best")
    says_everywhere(page, "Six like Lot 1 best, six like Lot 4: choose by guest")


@pytest.mark.nightly
def test_a_ranking_says_who_came_first_and_who_ties(host, api, people):
    page, trial = host.page, asked(host, "In which order, these lots?", "Coffee")
    runs = brewed(api, trial, [{"coffee": f"Lot {n}"} for n in (1, 2, 3)], brews=1)

    def ranks(sheet, letters, i):
        first, *rest = sorted(letters, key=letters.get)
        for place, code in enumerate([first, *(rest if i % 2 else reversed(rest))], start=1):
            yield api.touch(code, "rank", value=place)

    flown(api, trial, runs, people[:6], ranks, method="ranking")
    page.goto(f"/trials/{trial}/verdict")
    expect(page.get_by_text("Lot 2 and Lot 3 tie").first).to_be_visible()
    expect(page.get_by_role("region", name="Ranked").get_by_role("listitem")).to_have_count(3)
    says_everywhere(page, "Lot 1 came first")


@pytest.mark.nightly
def test_triangles_of_their_own_say_whether_they_can_be_told_apart(host, api, people):
    page, trial = host.page, asked(host, "Can anybody tell these two lots apart?", "Coffee")
    runs = brewed(api, trial, [{"coffee": f"Lot {n}"} for n in (1, 2)], brews=1)

    def odd(sheet, letters, i):
        codes = sheet["rounds"][0]["codes"]
        theirs = [letters[c] for c in codes]
        yield api.touch(sheet["rounds"][0]["cell"], "pick", text=next(c for c in codes if theirs.count(letters[c]) == 1))

    flown(api, trial, runs, people[:8], odd, method="triangle", own_sets=True)
    page.goto(f"/trials/{trial}/verdict")
    expect(page.get_by_role("heading", name="Triangle: 8 of 8 right")).to_be_visible()
    says_everywhere(page, "They can be told apart")
