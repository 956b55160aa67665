"""The shortest honest path from an empty bench to a first verdict, with everything a person does for it counted."""

from __future__ import annotations

from dataclasses import dataclass, field

from playwright.sync_api import Locator, Page, expect

MOST_CLICKS, MOST_KEYS, MOST_WORDS = 16, 110, 720
MOST_WORDS_AROUND, MOST_WORDS_A_PHONE = 260, 160
"""Words of the frame around the pages (rooms, stations, margin, notices), and on each taster's phone."""
MOST_TAPS, MOST_KEYS_A_BREW = 3, 12
QUESTION = "Which filter: weave or felt?"
BREWS = (("A", "250", "1.41"), ("B", "248", "1.44"), ("A", "251", "1.40"), ("B", "247", "1.45"))
LIKING = {1: 7, 2: 7, 3: 5, 4: 4}
"""Points by the mark under the server."""


VISIBLE = """() => {
  const out = [], walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let n = walk.nextNode(); n; n = walk.nextNode()) {
    const said = n.textContent.trim(), at = n.parentElement;
    if (!said || !at.checkVisibility({ opacityProperty: true, visibilityProperty: true }) || at.closest('.sr-only')) continue;
    const around = Boolean(at.closest('nav, aside, .mantine-Notifications-root'));
    const range = document.createRange();
    range.selectNodeContents(n);
    const box = range.getBoundingClientRect();
    if (box.width > 1 && box.height > 1 && box.right > 0 && box.bottom > 0 && box.top < innerHeight) out.push([said, around]);
  }
  return out;
}"""


@dataclass
class Hands:
    """One person's hands and eyes. A click or a tap is a click, a key is a key (a letter is one, a correction would be another); what stands on
    the screen is read once, wherever it stands: more than anybody reads. words: of the page and its dialogs; words_around: of the frame
    around it (rooms, stations, margin, what is said in passing)."""

    page: Page
    clicks: int = 0
    keys: int = 0
    words: int = 0
    words_around: int = 0
    seen: set[str] = field(default_factory=set)

    def look(self) -> None:
        """What stands on the screen now and was not read before: text that can be seen, in the window, with a letter in it."""
        for said, around in self.page.evaluate(VISIBLE):
            if said in self.seen:
                continue
            self.seen.add(said)
            words = sum(any(ch.isalpha() for ch in word) for word in said.split())
            if around:
                self.words_around += words
            else:
                self.words += words

    def click(self, what: Locator) -> None:
        what.click()
        self.clicks += 1

    def tap(self, what: Locator) -> None:
        what.tap()
        self.clicks += 1

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.keys += 1

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.keys += len(text)


def ask_and_set_up(hands: Hands) -> None:
    page = hands.page
    page.goto("/")
    expect(page.get_by_role("link", name="Ask your first question")).to_be_visible()
    hands.look()
    hands.click(page.get_by_role("link", name="Ask your first question"))
    expect(page.get_by_label("Your question")).to_be_focused()
    hands.type(QUESTION)
    expect(page.get_by_text("What differs: Filter")).to_be_visible()
    hands.look()
    hands.press("Enter")
    expect(page.get_by_label("Dose")).to_be_focused()
    expect(page.get_by_role("combobox", name="Filter of B")).to_have_value("felt")
    hands.look()
    hands.type("18")
    hands.press("Tab")
    hands.type("290")
    hands.press("Enter")
    expect(page.get_by_role("link", name="Start brewing")).to_be_focused()
    hands.look()


def log_brews(hands: Hands) -> list[int]:
    """The keys each brew took."""
    page, took = hands.page, []
    hands.press("Enter")
    for n, (letter, beverage, tds) in enumerate(BREWS, start=1):
        expect(page.get_by_label("Beverage mass")).to_be_focused()
        expect(page.get_by_role("button", name=f"Log brew {letter}")).to_be_visible()
        expect(page.get_by_label("Beverage mass")).to_have_value("")
        before = hands.keys
        hands.type(beverage)
        hands.press("Tab")
        hands.press("Tab")
        hands.type(tds)
        hands.press("Enter")
        took.append(hands.keys - before)
        expect(page.get_by_role("heading", name=f"{n} brew{'s' if n > 1 else ''} logged")).to_be_visible()
        hands.look()
    return took


def make_flight(hands: Hands, tasters: tuple[str, ...]) -> dict[str, str]:
    """Taster → the link to hand over. Handing links over is no work of the bench's."""
    page = hands.page
    hands.click(page.get_by_role("link", name="Pour them blind"))
    hands.click(page.get_by_role("group", name="Test method").get_by_role("button", name="Scores"))
    for name in tasters:
        field_ = page.get_by_label("Name of somebody new")
        if not field_.evaluate("e => e === document.activeElement"):
            hands.click(field_)
        hands.type(name)
        hands.press("Enter")
        expect(page.get_by_role("checkbox", name=name)).to_be_checked()
    hands.look()
    hands.click(page.get_by_role("button", name="Make the flight"))
    shuffled = page.get_by_role("button", name="They are shuffled")
    expect(shuffled).to_be_visible()
    hands.look()
    hands.click(shuffled)
    expect(page.get_by_role("heading", name="is being tasted")).to_be_visible()
    hands.look()
    answer = page.request.get(page.url.replace("/trials/", "/api/v1/trials/").replace("/taste", "/flights"))
    return {sheet["name"]: sheet["link"] for sheet in answer.json()["flights"][0]["sheets"]}


def taste(page: Page, link: str, key: dict[str, int]) -> tuple[Hands, int]:
    """Every cup scored by the mark under it; what the taster did, and how many taps to the first score."""
    hands, taps = Hands(page), 0
    page.goto(link)
    start = page.get_by_role("button", name="Start with the first cup")
    expect(start).to_be_visible()
    hands.look()
    hands.tap(start)
    for n in range(len(key)):
        code = page.get_by_role("heading", level=1).inner_text().removeprefix("Cup ")
        hands.look()
        hands.tap(page.locator("label").filter(has=page.get_by_role("radio", name=str(LIKING[key[code]]), exact=True)))
        taps = taps or hands.clicks
        hands.tap(page.get_by_role("button", name="Done" if n == len(key) - 1 else "Next cup"))
        skip = page.get_by_role("button", name="Skip the rest")
        expect(skip.or_(page.get_by_role("heading", level=1)).first).to_be_visible()
        if skip.is_visible():
            hands.look()
            hands.tap(skip)
    expect(page.get_by_role("status").filter(has_text="saved")).to_be_visible()
    hands.look()
    return hands, taps


def close_and_flip(hands: Hands, key: dict[str, int]) -> None:
    page = hands.page
    hands.click(page.get_by_role("button", name="Close the flight"))
    expect(page.get_by_role("button", name="Close and lock")).to_be_focused()
    hands.look()
    hands.press("Enter")
    expect(page.get_by_role("heading", name="Which mark was under which card?")).to_be_visible()
    hands.look()
    for code, mark in key.items():
        found = page.get_by_role("radiogroup", name=f"Mark under code {code}").get_by_role("radio", name=f"mark {mark}", exact=True)
        if found.get_attribute("aria-checked") == "false":
            hands.click(found)
    hands.click(page.get_by_role("button", name="Flip the pennies"))
    expect(page.get_by_role("link", name="Read the verdict")).to_be_focused()
    hands.look()
    hands.press("Enter")
    expect(page.get_by_role("heading", name="Blind liking, 1 to 9")).to_be_visible()
    page.wait_for_timeout(300)
    hands.look()


def codes_of(page: Page) -> list[str]:
    tray = page.get_by_role("list", name="Cups of the flight")
    return [img.get_attribute("aria-label").removeprefix("Cup ") for img in tray.get_by_role("img").all()]


@dataclass(frozen=True)
class FirstHour:
    """host: what was done at the desk; tasters: on each phone; keys_a_brew, taps_to_a_score: of each brew, of each taster."""

    host: Hands
    tasters: list[Hands]
    keys_a_brew: list[int]
    taps_to_a_score: list[int]


def first_hour(desk: Page, phones: dict[str, Page]) -> FirstHour:
    """From nothing to a verdict."""
    hands = Hands(desk)
    ask_and_set_up(hands)
    keys_a_brew = log_brews(hands)
    links = make_flight(hands, tuple(phones))
    key = dict(zip(codes_of(desk), LIKING, strict=True))
    tasted = [taste(phone, links[name], key) for name, phone in phones.items()]
    close_and_flip(hands, key)
    return FirstHour(hands, [t for t, _ in tasted], keys_a_brew, [taps for _, taps in tasted])
