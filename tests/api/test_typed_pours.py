"""Pours typed into a setup are steps from then on: followed, scaled, compared by their shape; or refused at the field."""

import pytest

TYPED = "bloom 45 for 40 s, to 144, to 243 by 1:50"


def setup(host, **variables):
    trial = host.ask("How far can the ratio stretch?", "ratio")
    return trial["id"], host.setup(trial["id"], **({"brew_water_g": 243, "pours": TYPED} | variables))


def bar(host, trial_id, field):
    return next(b for b in host.get(f"/trials/{trial_id}/setups")["bars"] if b["field"] == field)


@pytest.mark.parametrize("water_g", [261, 251.3, 199, 333])
def test_the_same_pours_at_another_water_are_the_same_pours(host, water_g):
    trial_id, first = setup(host)
    second = host.copy(first, brew_water_g=water_g)
    assert second["variables"]["pours"] != TYPED, "its grams would be false"
    assert bar(host, trial_id, "pours")["kind"] == "held"
    assert "confound" not in {c["code"] for c in host.get(f"/trials/{trial_id}/progress")["caveats"]}


def test_other_pours_break_the_bar(host):
    trial_id, first = setup(host)
    host.copy(first, pours="bloom 60 for 40 s, to 243 by 1:50")
    assert bar(host, trial_id, "pours")["kind"] == "crack"
    assert "confound" in {c["code"] for c in host.get(f"/trials/{trial_id}/progress")["caveats"]}


def test_pours_typed_are_followed_in_a_brew_along(host):
    trial_id, made = setup(host)
    live = host.call("POST", f"/trials/{trial_id}/live-brews", {"setup_id": made["id"]})
    assert [step["to_g"] for step in live["steps"] if step["to_g"]] == [45, 144, 243]


@pytest.mark.parametrize("pours, says", [("swirl it somehow", "Not understood"), ("bloom 45, to 300 by 1:50", "add up to 300 g")])
def test_what_cannot_be_followed_is_refused_at_the_field(host, pours, says):
    trial = host.ask("How far can the ratio stretch?", "ratio")
    body = {"variables": {"dose_g": 18, "brew_water_g": 243, "pours": pours}}
    refused = host.call("POST", f"/trials/{trial['id']}/setups", body, status=422)
    assert [e["field"] for e in refused["errors"]] == ["variables.pours"] and says in refused["detail"] + str(refused["errors"])
