"""A bench's own scatter on the verdict's page: what it was learnt from, what the other scatter says, and the switch between them."""

from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect

from tests.api.test_learnt_scatter import panel

from .remote import host_of


@pytest.mark.nightly
def test_both_scatters_are_in_sight_and_either_can_be_judged_by(open_context, empty_bench):
    host = host_of(empty_bench)
    people = [host.person(name) for name in ("Odile", "Bram", "Ines")]
    first = panel(host, people)
    for _ in range(3):
        panel(host, people)
    new = panel(host, people, lead=0.5)
    page = open_context(viewport={"width": 1280, "height": 800}, base_url=empty_bench, other=urlsplit(empty_bench).netloc).new_page()
    page.goto(f"{empty_bench}/trials/{first}/verdict")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    expect(page.get_by_text("Judged with scatter learnt")).to_have_count(0)
    page.goto(f"{empty_bench}/trials/{new}/verdict")
    expect(page.get_by_role("heading", level=1)).to_have_text("Keep White weave")
    expect(
        page.get_by_text("Judged with scatter learnt from 4 earlier flights, 48 cups. By the usual scatter it would say: Lean towards White weave.")
    ).to_be_visible()
    page.get_by_role("button", name="Judge by the usual scatter").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Lean towards White weave")
    expect(page.get_by_text("With scatter learnt from 4 earlier flights, 48 cups it would say: Keep White weave.")).to_be_visible()
    expect(page.get_by_text("earlier verdict")).to_have_count(0)  # nothing was corrected
    page.reload()
    expect(page.get_by_role("heading", level=1)).to_have_text("Lean towards White weave")
    page.get_by_role("button", name="Judge with the learnt scatter").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Keep White weave")
    expect(page.get_by_text("Spent: 1 flight, 4 brews, 72 g")).to_be_visible()
