"""A setting copied to another grinder: as the kit's matches say, declared with its span; else empty, and a crack. Never the same number, held."""

import pytest


@pytest.fixture
def trial(host):
    """A grinder trial whose A is on the Windlass, matched with the Capstan at 5 and 7; nothing matches the Spindle."""
    ids = {
        name: host.call("POST", "/kit", {"kind": "grinder", "name": name, "grinder": {"scale": "clicks"}})["id"] for name in ("Windlass", "Capstan", "Spindle")
    }
    for here, there in ((5, 17), (7, 25)):
        pair = {"a_id": ids["Windlass"], "a_setting": here, "b_id": ids["Capstan"], "b_setting": there, "match": "brew_time"}
        host.call("POST", "/matched-settings", pair)
    made = host.ask("Which mill?", "grinder")
    host.setup(made["id"], grinder="Windlass", grind_setting="6")
    return made["id"]


def copy(host, trial, grinder):
    a = host.get(f"/trials/{trial}/setups")["setups"][0]
    return host.copy(a, grinder=grinder)


def grind_bar(host, trial):
    return next(b for b in host.get(f"/trials/{trial}/setups")["bars"] if b["field"] == "grind_setting")


def test_a_matched_grinder_brings_the_setting_its_rule_and_its_span(host, trial):
    assert copy(host, trial, "Capstan")["variables"]["grind_setting"] == "21"
    bar = grind_bar(host, trial)
    assert bar["kind"] == "declared" and "matched by brew time: By the kit's matches, 21 grinds like 6 (range " in bar["note"]
    note = next(c for c in host.get(f"/trials/{trial}/progress")["caveats"] if c["field"] == "grind_setting")
    assert note["shape"] == "note" and note["title"].endswith("matched by brew time") and note["text"].startswith("By the kit's matches, 21 grinds like 6")


def test_without_a_match_it_is_empty_and_cracked(host, trial):
    assert copy(host, trial, "Spindle")["variables"]["grind_setting"] == ""
    assert grind_bar(host, trial)["kind"] == "crack"


def test_a_setting_given_by_hand_is_taken_and_nothing_is_declared_for_it(host, trial):
    a = host.get(f"/trials/{trial}/setups")["setups"][0]
    assert host.copy(a, grinder="Capstan", grind_setting="19")["variables"]["grind_setting"] == "19"
    assert grind_bar(host, trial)["kind"] == "crack"


def test_a_copy_that_differs_in_nothing_is_refused(host, trial):
    a = host.get(f"/trials/{trial}/setups")["setups"][0]
    refused = host.call("POST", f"/trials/{trial}/setups", {"copy_of": a["id"], "variables": {}}, status=422)
    assert "differ in nothing from A" in refused["detail"] + refused["title"]
