"""Every dialog and folded part, opened: no serious fault by axe, at a desk and on a phone, light and dark; nothing wider than the screen."""

import json

from ..amount import share
from .test_screens import ALL_BUT_COLOURS, COLOURS_ONLY, DESK, PHONE, faults, settled, too_wide

FILTERS, WATERS, PLANNED = "Which filter for the flat bed?", "Can anybody tell the two waters apart?", "Does the bean or the grinder matter more?"


def button(name):
    return lambda page: page.get_by_role("button", name=name).first.click()


def tab(name):
    return lambda page: page.get_by_role("tab", name=name).click()


def key(name):
    return lambda page: page.keyboard.press(name)


STATES = (
    ("/", key("Control+k")),
    ("/", key("?")),
    ("/", key("c")),
    ("/kit/instruments", button("Check the refractometer")),
    ("/kit/instruments", lambda page: page.get_by_role("button", name="Change", exact=True).click()),
    ("/kit", button("Add")),
    ("/people", button("Rename")),
    ("/brews", button("Tags of")),
    ("/brew", button("How was it?")),
    (f"{FILTERS}/brew", button("Correct")),
    (f"{FILTERS}/brew", button("Add a photo")),
    (f"{FILTERS}/set-up", button("Apply a recipe")),
    (f"{FILTERS}/set-up", button("Copy a setup")),
    (f"{PLANNED}/set-up/run-sheet", button("Hands, kettles, cups")),
    (f"{PLANNED}/set-up/run-sheet", button("Calendar for on")),
    (f"{FILTERS}/measure", tab("Brews")),
    (f"{FILTERS}/measure", tab("Same or different")),
    (f"{FILTERS}/measure", tab("Match strengths")),
    (f"{FILTERS}/measure", tab("Next change")),
    (f"{WATERS}/taste", button("Link and code")),
    (f"{WATERS}/taste", button("Close the flight")),
    (f"{FILTERS}/report", button("Share")),
    (f"{FILTERS}/verdict", button("History")),
)


def test_dialogs_and_states_are_sound(open_context, api):
    trials = {t["question"]: t["id"] for t in api.get("/trials")["trials"]}
    page = open_context(viewport=DESK, reduced_motion="reduce").new_page()
    trouble = {}
    for place, enter in share(STATES):
        question, _, station = place.partition("/")
        page.set_viewport_size(DESK)
        page.emulate_media(color_scheme="light", reduced_motion="reduce")
        page.goto(f"/trials/{trials[question]}/{station}" if question else place)
        settled(page)
        enter(page)
        page.wait_for_timeout(250)
        found = faults(page, whole=False)
        page.emulate_media(color_scheme="dark", reduced_motion="reduce")
        found += faults(page, COLOURS_ONLY, whole=False)
        page.set_viewport_size(PHONE)
        page.wait_for_timeout(250)
        found += too_wide(page) + faults(page, ALL_BUT_COLOURS, whole=False)
        if found:
            trouble[place] = found
    assert trouble == {}, json.dumps(trouble, indent=1)
