"""A host and a taster with verbs: what a person does, in the words on the screen."""

from __future__ import annotations

import time
from dataclasses import dataclass

from playwright.sync_api import Locator, Page, expect

SETUP_A = {
    "Coffee": "Peru washed, lot 7",
    "Grinder and burrs": "Windlass mill · ridged plates",
    "Grind setting": "5.5",
    "Filter": "White weave",
    "Brewer": "Binnacle flat bed, three-hole",
    "Temperature": "93",
    "Dose": "18",
    "Brew water": "290",
}


def follow(link: Locator) -> None:
    """To the page a link leads to, once it stands there: a press right after must not land on the page that is left."""
    left = link.page.url
    link.click()
    stand_elsewhere(link.page, left)


def go_back(page: Page) -> None:
    left = page.url
    page.go_back()
    stand_elsewhere(page, left)


def stand_elsewhere(page: Page, left: str) -> None:
    """The address has changed, and what stands is the page of that address: it is fetched while the page left is still shown."""
    page.wait_for_url(lambda url: url != left)
    until = time.monotonic() + 30
    while (of := page.evaluate("document.documentElement.dataset.page")) != (at := page.evaluate("location.href.slice(location.origin.length)")):
        assert time.monotonic() < until, f"{of} still stands, at {at}"
        page.wait_for_timeout(20)


@dataclass
class Host:
    page: Page

    def ask(self, question: str, factor: str, *, named: str = "") -> None:
        self.page.goto("/")
        follow(self.page.get_by_role("link", name="Ask a question"))
        self.page.get_by_label("Your question").fill(question)
        self.choose_factor(factor)
        if named:
            self.page.get_by_label("In a word or two, what?").fill(named)
        self.page.get_by_role("button", name="Create trial").click()
        expect(self.page.get_by_role("heading", name="What is compared?")).to_be_visible()

    def choose_factor(self, factor: str) -> None:
        """Whether or not the question told it."""
        radio, change = self.page.get_by_role("radio", name=factor), self.page.get_by_role("button", name="Change")
        expect(radio.or_(change)).to_be_visible()
        if change.is_visible():
            change.click()
        radio.check()

    def open_the_same_in_all(self) -> None:
        fold = self.page.locator("details").filter(has_text="The same in all")
        if fold.get_attribute("open") is None:
            fold.locator("summary").click()

    def first_field(self, label: str) -> Locator:
        """A field of the first setups: its own of A where it is what is tested, else the one for all."""
        named = self.page.get_by_label(label, exact=True).or_(self.page.get_by_label(f"{label} of A", exact=True))
        return named.and_(self.page.locator("input"))

    def describe_first_setup(self, **changes: str) -> None:
        self.open_the_same_in_all()
        for label, value in (SETUP_A | changes).items():
            self.first_field(label).fill(value)
        self.page.get_by_role("heading", name="What is compared?").click()  # closes the list of suggestions
        self.add_new_names()
        self.page.get_by_role("button", name="Add setup A").click()
        expect(self.page.get_by_role("heading", name="One setup so far")).to_be_visible()

    def add_new_names(self) -> None:
        """What is typed and not in the kit yet is added to it, on purpose."""
        for tick in self.page.get_by_label("Not in the kit yet").all():
            tick.check()

    def copy_setup(self, value: str, *, variable: str | None = None) -> None:
        self.page.get_by_role("button", name="Copy a setup, change one thing").click()
        dialog = self.page.get_by_role("dialog")
        if variable:
            dialog.get_by_label("The one thing that changes").click()
            self.page.get_by_role("option", name=variable).click()
        field = dialog.get_by_label("Its ").and_(dialog.locator("input"))
        field.fill(value)
        dialog.get_by_text("Copy of", exact=True).click()
        self.add_new_names()
        dialog.get_by_role("button", name="Add setup").click()
        expect(dialog).to_be_hidden()

    def station(self, name: str) -> None:
        link = self.page.get_by_role("navigation", name="Stations of this trial").get_by_role("link", name=name)
        link.click()
        expect(link).to_have_attribute("aria-current", "page")

    def log_brew(self, letter: str, *, beverage: str, readings: str = "", **more: str) -> None:
        self.page.get_by_role("radiogroup", name="Setup brewed").get_by_role("radio").filter(has=self.page.get_by_label(f"Setup {letter}", exact=True)).click()
        self.page.get_by_label("Beverage mass").fill(beverage)
        self.page.get_by_label("TDS readings, %").fill(readings)
        for label, value in more.items():
            self.page.get_by_label(label.replace("_", " ").capitalize()).fill(value)
        self.page.get_by_role("button", name=f"Log brew {letter}").click()

    def make_flight(self, tasters: list[str], brews: list[str] = (), *, sighted: bool = False, runner: bool = False, method: str = "Scores") -> None:
        self.station("Taste")
        self.open_how_it_is_tasted()
        self.page.get_by_role("group", name="Test method").get_by_role("button", name=method).click()
        for name in tasters:
            self.page.get_by_text(name, exact=True).click()
        for label in brews:
            chip = self.page.get_by_role("checkbox", name=label, exact=True)
            if not chip.is_checked():
                self.page.get_by_text(label, exact=True).click()
        if sighted:
            self.page.get_by_text("Open (labelled)", exact=True).click()
        if runner:
            self.page.get_by_text("Runner", exact=True).click()
        self.page.get_by_role("button", name="Seal the flight" if runner else "Make the flight").click()
        if not (runner or sighted):
            self.page.get_by_role("button", name="They are shuffled").click()
        expect(self.page.get_by_role("heading", name="is being tasted")).to_be_visible()

    def open_how_it_is_tasted(self) -> None:
        fold = self.page.locator("details").filter(has_text="How it is tasted")
        fold.wait_for()
        if fold.get_attribute("open") is None:
            fold.locator("summary").first.click()

    def link_of(self, taster: str) -> str:
        row = self.page.get_by_role("listitem").filter(has_text=taster)
        row.get_by_role("button", name="Link and code").click()
        dialog = self.page.get_by_role("dialog")
        link = dialog.get_by_role("link", name="Open it here").get_attribute("href")
        self.page.keyboard.press("Escape")
        expect(dialog).to_be_hidden()
        return link

    def codes(self) -> list[str]:
        tray = self.page.get_by_role("list", name="Cups of the flight")
        return [img.get_attribute("aria-label").removeprefix("Cup ") for img in tray.get_by_role("img").all()]

    def close_flight(self) -> None:
        self.page.get_by_role("button", name="Close the flight").click()
        self.page.get_by_role("button", name="Close and lock").click()
        expect(self.page.get_by_role("heading", name="Turn over the servers")).to_be_visible()

    def flip(self, key: dict[str, int]) -> None:
        for code, mark in key.items():
            under = self.page.get_by_role("radiogroup", name=f"Mark under code {code}").get_by_role("radio", name=f"mark {mark}", exact=True)
            if under.get_attribute("aria-checked") == "false":  # the last one follows from the others
                under.click()
        self.page.get_by_role("button", name="Flip the pennies").click()
        expect(self.page.get_by_role("heading", name="is flipped")).to_be_visible()


@dataclass
class Taster:
    page: Page

    def open(self, link: str) -> None:
        self.page.goto(link)
        expect(self.page.get_by_role("heading", name="Welcome")).to_be_visible()

    def start(self) -> None:
        self.page.get_by_role("button", name="Start with the first cup").click()

    def code(self) -> str:
        return self.page.get_by_role("heading", level=1).inner_text().removeprefix("Cup ")

    def like(self, points: int) -> None:
        self.page.get_by_role("radio", name=str(points), exact=True).check(force=True)

    def touch(self, attribute: str, times: int) -> None:
        """Moves a slider by keyboard from its middle."""
        slider = self.page.get_by_role("slider", name=attribute)
        slider.focus()
        for _ in range(times):
            self.page.keyboard.press("ArrowRight")

    def next(self) -> None:
        """On to the next cup or round, without sitting out the rest."""
        self.page.get_by_role("button", name="Next cup").or_(self.page.get_by_role("button", name="Next round")).or_(
            self.page.get_by_role("button", name="Done")
        ).click()
        self.page.wait_for_timeout(60)
        if self.page.get_by_role("button", name="Skip the rest").is_visible():
            self.page.get_by_role("button", name="Skip the rest").click()

    def pick(self, code: str) -> None:
        self.page.get_by_role("group").get_by_role("button", name=code).click()

    def expect_delivered(self) -> None:
        expect(self.page.get_by_role("status").filter(has_text="saved")).to_be_visible()

    def expect_kept(self) -> None:
        expect(self.page.get_by_role("status").filter(has_text="kept on this phone")).to_be_visible()
