"""Control bars, cup codes and orders, margin, progress, chart lines."""

import random
from collections import Counter

import pytest

from brasspenny.core.brewing.dial_in import check_rule
from brasspenny.core.errors import OutOfDomain
from brasspenny.core.extraction import chartlines
from brasspenny.core.planning.control import MATCHING_LABELS, control_bars
from brasspenny.core.tasting.codes import POOL, draw_codes, order_is_balanced, taster_orders, williams_square
from brasspenny.core.trial.caveats import SetupFacts, TrialFacts, margin, setup_changed, sighted_favourite
from brasspenny.core.trial.stations import Counts, next_action, progress

BASE = {"coffee": "lot 31", "filter": "weave", "temperature_c": "93", "dose_g": "18", "brew_water_g": "290", "brew_ratio": "1:16.1"}


def bars(*changes, factor="filter", declared=None):
    setups = [BASE | c for c in changes]
    return {b.field: b for b in control_bars("ABCDEF"[: len(setups)], setups, factors=[factor], declared=declared or {})}


def test_an_undeclared_difference_is_a_crack_with_its_mend():
    found = bars({}, {"filter": "crêpe"}, {"filter": "mesh", "temperature_c": "96"})
    assert found["filter"].kind == "tested"
    assert found["coffee"].kind == "held"
    crack = found["temperature_c"]
    assert (crack.kind, crack.hold_letter) == ("crack", "A")
    assert [(s.value, s.letters, s.odd) for s in crack.segments] == [("93", ("A", "B"), False), ("96", ("C",), True)]


def test_a_declared_difference_is_no_crack_and_keeps_its_rule():
    found = bars({}, {"filter": "crêpe", "temperature_c": "96"}, declared={"temperature_c": "differs, and accepted"})
    assert (found["temperature_c"].kind, found["temperature_c"].note) == ("declared", "differs, and accepted")


def test_a_ratio_moves_water_or_dose_but_not_both():
    water = bars({}, {"brew_water_g": "306", "brew_ratio": "1:17"}, factor="ratio")
    assert (water["brew_ratio"].kind, water["brew_water_g"].kind, water["dose_g"].kind) == ("tested", "moved", "held")
    both = bars({}, {"brew_water_g": "306", "dose_g": "17", "brew_ratio": "1:18"}, factor="ratio")
    assert (both["brew_water_g"].kind, both["dose_g"].kind) == ("crack", "crack")


def test_the_tested_variable_that_does_not_differ_is_said():
    assert bars({}, {})["filter"].kind == "untested"


def test_codes_are_plain_different_and_never_used_before():
    codes = draw_codes(12, random.Random(3), used=POOL[:600])
    assert len(set(codes)) == 12 and not set(codes) & set(POOL[:600])
    assert not {"111", "123", "321", "012", "200"} & set(POOL)
    with pytest.raises(OutOfDomain):
        draw_codes(2, random.Random(3), used=POOL[:-1])


@pytest.mark.parametrize("n", range(2, 9))
def test_williams_squares_balance_position_and_carry_over(n):
    square = williams_square(n)
    for position in range(n):
        assert len(set(Counter(row[position] for row in square).values())) == 1
    follows = Counter((a, b) for row in square for a, b in zip(row, row[1:], strict=False))
    assert len(follows) == n * (n - 1) and len(set(follows.values())) == 1


def test_every_taster_gets_all_cups_and_whole_squares_are_balanced():
    orders = taster_orders(["214", "356", "781"], 6, random.Random(1))
    assert all(sorted(o) == ["214", "356", "781"] for o in orders)
    assert len({tuple(o) for o in orders}) == 6
    assert order_is_balanced(3, 6) and not order_is_balanced(3, 5)


def facts(**changes):
    setups = [SetupFacts("A", "weave", "flat_bed", 2, 0, (("A1", 1.40),)), SetupFacts("B", "crêpe", "flat_bed", 2, 0, (("B1", 1.42),))]
    plain = {"factors": ["filter"], "yield_basis": "in_cup", "strength_policy": "matched", "bars": (), "setups": setups, "blind_flights": 1, "blind_tasters": 8}
    return TrialFacts(**plain | changes)


def codes_of(**changes):
    return [c.code for c in margin(facts(**changes))]


def test_a_sound_trial_has_an_empty_margin():
    assert codes_of() == []


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"blind_tasters": 2}, "too_few_tasters"),
        ({"setups": [SetupFacts("A", "", None, 1, 0, (("A1", 1.4),)), SetupFacts("B", "", None, 2, 0, (("B1", 1.4),))]}, "single_brews"),
        ({"setups": [SetupFacts("A", "", None, 2, 1, (("A1", 1.4),)), SetupFacts("B", "", None, 2, 0, (("B1", 1.4),))]}, "no_readings"),
        ({"setups": [SetupFacts("A", "", None, 2, 0, (("A1", 1.40),)), SetupFacts("B", "", None, 2, 0, (("B1", 1.46),))]}, "off_strength"),
        (
            {"strength_policy": "as_brewed", "setups": [SetupFacts("A", "", None, 2, 0, (("A1", 1.40),)), SetupFacts("B", "", None, 2, 0, (("B1", 1.46),))]},
            "propose_matching",
        ),
        ({"setups": [SetupFacts("A", "", "cone", 2, 0, (("A1", 1.4),)), SetupFacts("B", "", "press_pot", 2, 0, (("B1", 1.4),))]}, "mixed_yield_bases"),
        ({"sighted_flights": 1}, "sighted"),
        ({"most_cups": 9}, "many_cups"),
        ({"balanced": False}, "unbalanced_order"),
        ({"setups": [SetupFacts("A", "", None, 2, 0, (("A1", 1.4),), ("A1",)), SetupFacts("B", "", None, 2, 0, (("B1", 1.4),))]}, "doubtful_brews"),
        ({"bars": tuple(bars({}, {"filter": "x", "temperature_c": "96"}).values())}, "confound"),
    ],
)
def test_each_weakness_is_in_the_margin_with_a_cure(changes, code):
    (found,) = [c for c in margin(facts(**changes)) if c.code == code]
    assert found.text and found.cure


def test_cracks_come_first():
    found = margin(facts(sighted_flights=1, blind_tasters=2, bars=tuple(bars({}, {"filter": "x", "temperature_c": "96"}).values())))
    assert [c.shape for c in found] == ["crack", "doubt", "note"]


@pytest.mark.parametrize(
    ("counts", "station"),
    [
        (Counts(), "set_up"),
        (Counts(setups=1), "set_up"),
        (Counts(setups=2), "brew"),
        (Counts(setups=2, brewed=2, runs=2, read=1), "measure"),
        (Counts(setups=2, brewed=2, runs=2, read=2), "taste"),
        (Counts(setups=2, brewed=2, runs=2, read=2, flights_closed=1), "taste"),
        (Counts(setups=2, brewed=2, runs=2, read=2, flights_flipped=1), "verdict"),
    ],
)
def test_the_next_action_and_one_current_station(counts, station):
    assert next_action(counts)[0] == station
    stops = progress(counts)
    assert sum(s.state == "current" for s in stops) == (0 if counts.flights_flipped else 1)


def test_a_crack_makes_set_up_stuck():
    assert progress(Counts(setups=2, cracks=1))[1].state == "stuck"


def test_windows_speak_of_in_cup_yield_only_and_the_axes_hold_every_point():
    assert chartlines.windows("full_liquor") == () and chartlines.windows("in_cup")[0].label == "classic window"
    axes = chartlines.axes([(15.2, 1.9), (26, 0.8)])
    assert axes.ey_pct[0] < 15.2 and axes.ey_pct[1] > 26 and axes.tds_pct[0] < 0.8 and axes.tds_pct[1] > 1.9
    assert len(chartlines.ratios_to_draw(axes, yield_basis="in_cup", retained_water_ratio=2.1)) <= 24


@pytest.mark.parametrize(("order", "said"), [("BAC", "came last"), ("BCA", "came number 2"), ("BA", "(8.0).")])
def test_a_sighted_favourite_that_blind_cups_do_not_bear_out_is_said(order, said):
    (found,) = sighted_favourite("C", "Steel mesh", 8.0, list(order))
    assert said in found.text and sighted_favourite("B", "Thick crêpe", 8.0, list(order)) == ()


def test_brews_made_before_a_change_are_named():
    assert setup_changed([]) == ()
    assert setup_changed(["A1"])[0].text.startswith("A1 was") and setup_changed(["A1", "B2"])[0].text.startswith("A1, B2 were")


def test_a_setting_belongs_to_its_dial():
    """The same number on two dials is not held equal, and no click can make it so."""
    values = [{"grinder": "Old mill", "grind_setting": "Old mill 3.5"}, {"grinder": "New mill", "grind_setting": "New mill 3.5"}]
    apart = {"grind_setting": "each on its own dial"}
    found = {b.field: b for b in control_bars("AB", values, factors=["grinder"], declared={}, apart=apart)}
    assert (found["grind_setting"].kind, found["grind_setting"].hold_letter, found["grind_setting"].note) == ("crack", None, "each on its own dial")
    declared = control_bars("AB", values, factors=["grinder"], declared={"grind_setting": "matched by sieve median"}, apart=apart)
    assert next(b for b in declared if b.field == "grind_setting").note == "matched by sieve median"
    (confound,) = [c for c in margin(facts(factors=["grinder"], bars=tuple(found.values()))) if c.code == "confound"]
    assert confound.cure == "Declare how the settings were matched."


@pytest.mark.parametrize(
    ("rule", "cure"), [("brew_time", "Check the match"), ("sieve_median", "Check the match"), ("by_eye", "Taken on trust"), ("recipe", "Taken on trust")]
)
def test_the_margin_says_of_a_declared_match_what_the_plan_says(rule, cure):
    bars = control_bars("AB", [{"grind_setting": "5"}, {"grind_setting": "6"}], factors=["filter"], declared={"grind_setting": MATCHING_LABELS[rule]})
    (declared,) = [c for c in margin(facts(bars=bars)) if c.code == "declared"]
    assert declared.cure.startswith(cure)
    assert ("Taken on trust" in check_rule("grind_setting", rule, []).text) == (cure == "Taken on trust")
