"""What a bench holds goes out and comes in: a whole bench beside another, a recipe in a link, readings by a script."""

import re
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from .remote import Wire, host_of

DESK = {"width": 1280, "height": 800}


@pytest.mark.nightly
def test_a_whole_bench_goes_out_and_comes_in_beside_another_once(open_context, bench, empty_bench, tmp_path):
    there = open_context(viewport=DESK).new_page()
    there.goto("/in-and-out")
    with there.expect_download() as going:
        there.get_by_role("link", name="Download the whole bench").click()
    going.value.save_as(file := tmp_path / "bench.zip")

    allowed = ("status of 422",)
    here = open_context(viewport=DESK, base_url=empty_bench, other=urlsplit(empty_bench).netloc, allowed=allowed).new_page()
    here.goto("/in-and-out")
    wrong = tmp_path / "no bench.zip"
    wrong.write_bytes(b"PK\x03\x04 and nothing else")
    here.locator("input[type=file]").set_input_files(wrong)
    expect(here.get_by_role("alert")).to_contain_text("neither a folder nor a ZIP of a bench")
    here.locator("input[type=file]").set_input_files(file)
    expect(here.get_by_role("status").get_by_text(re.compile(r"\d+ rows imported; 0 were already here\."))).to_be_visible()
    expect(here.get_by_role("alert")).to_have_count(0)
    here.locator("input[type=file]").set_input_files(file)
    expect(here.get_by_role("status").get_by_text(re.compile(r"Nothing new: all \d+ rows are already here\."))).to_be_visible()

    told = {t["question"]: t["headline"] for t in host_of(bench).get("/trials")["trials"]}
    question = "Which filter for the flat bed?"
    here.goto("/trials")
    expect(here.get_by_role("link", name=question)).to_be_visible()
    expect(here.get_by_text(told[question]).first).to_be_visible()  # the verdict is the same


def test_a_recipe_goes_to_another_bench_in_a_link_that_needs_no_network(open_context, bench, empty_bench):
    recipe = host_of(bench).get("/recipes")["recipes"][0]
    there = open_context(viewport=DESK).new_page()
    there.context.grant_permissions(["clipboard-read", "clipboard-write"])
    there.goto(f"/recipes/{recipe['id']}")
    there.get_by_role("button", name="More", exact=True).click()
    there.get_by_role("menuitem", name="Share").click()
    expect(there.get_by_role("img", name="The recipe’s link as a code for the camera")).to_be_visible()
    there.get_by_role("button", name="Copy the link").click()
    link = there.evaluate("navigator.clipboard.readText()")
    assert "#r=" in link, "the recipe is in the part of the address that no server sees"

    here = open_context(viewport=DESK, base_url=empty_bench, other=urlsplit(empty_bench).netloc).new_page()
    here.goto("/recipes/handed")
    here.get_by_label("A recipe’s link").fill(link)
    expect(here.get_by_role("heading", name=recipe["name"])).to_be_visible()
    here.get_by_role("button", name="Keep 1 recipe").click()
    expect(here.get_by_role("button", name="All of it is already on this bench")).to_be_disabled()
    here.get_by_role("link", name="To the recipes").click()
    expect(here.get_by_role("link", name=re.compile(re.escape(recipe["name"])))).to_be_visible()


@pytest.mark.nightly
def test_a_script_reads_by_a_token_that_is_shown_once_and_can_be_revoked(open_context, empty_bench):
    page = open_context(viewport=DESK, base_url=empty_bench, other=urlsplit(empty_bench).netloc).new_page()
    page.goto("/people")
    card = page.get_by_role("region", name="Scripts")
    card.get_by_label("Token name").fill("my notebook")
    card.get_by_role("button", name="Create token").click()
    token = card.get_by_role("status").locator("code").inner_text()

    def asked(path, method="GET", body=None):
        return Wire(empty_bench).open(f"/api/v1{path}", method, body, {"Authorization": f"Bearer {token}"}).status_code

    assert asked("/brews") == 200
    assert asked("/people", "POST", {"name": "Bo"}) == 403, "it may read, not write"
    page.reload()
    expect(card.get_by_text(re.compile("reads, made .*, used "))).to_be_visible()
    assert token not in page.content()
    card.get_by_role("button", name="Revoke").click()
    page.get_by_role("dialog").get_by_role("button", name="Revoke it").click()
    expect(card.get_by_text("my notebook")).to_have_count(0)
    assert asked("/brews") == 401
