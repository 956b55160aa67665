"""What a first verdict takes from an empty bench: clicks, keys and words on screen along the shortest path, on every device, and its minutes by machine.

    PYTHONPATH=src:. .venv/bin/python benchmarks/first_hour.py

Starts a bench of its own in a folder that is thrown away. The path itself is the one the browser test walks (tests/browser/shortest.py).
"""

import tempfile
import time
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.browser.conftest import FLAGS, demo
from tests.browser.shortest import LIKING, MOST_CLICKS, MOST_KEYS, MOST_KEYS_A_BREW, MOST_TAPS, MOST_WORDS, MOST_WORDS_A_PHONE, MOST_WORDS_AROUND, first_hour
from tests.opened import cookie_of

PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


def main() -> None:
    with tempfile.TemporaryDirectory() as folder, demo(Path(folder) / "data", "serve") as base, sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        host = browser.new_context(base_url=base, viewport={"width": 1280, "height": 800})
        host.add_cookies(cookie_of(base))
        desk = host.new_page()
        phones = {name: browser.new_context(base_url=base, **PHONE).new_page() for name in ("Bo", "Iwan")}
        began = time.monotonic()
        done = first_hour(desk, phones)
        host = done.host
        for what, figure, most in (
            ("clicks at the desk", host.clicks, MOST_CLICKS),
            ("keys at the desk", host.keys, MOST_KEYS),
            ("words on the pages", host.words, MOST_WORDS),
            ("words around them (rooms, margin, notices)", host.words_around, MOST_WORDS_AROUND),
            ("words on a taster's phone, at most", max(t.words for t in done.tasters), MOST_WORDS_A_PHONE),
            ("taps of a taster, at most", max(t.clicks for t in done.tasters), 2 * len(LIKING) + 6),
            ("keys a brew, at most", max(done.keys_a_brew), MOST_KEYS_A_BREW),
            ("taps to a taster's first score, at most", max(done.taps_to_a_score), MOST_TAPS),
        ):
            print(f"{what:<42}{figure:>6}  of {most}")
        print(f"{'seconds, by machine':<42}{time.monotonic() - began:>6.0f}")
        browser.close()


if __name__ == "__main__":
    main()
