"""Settings on the dials people have: marks between numbers, letters, clicks; a matched setting comes back exactly; carried to another dial or left empty."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.grinding.dials import Match, Part, RecipeSettings, dial_id, dials_of
from brasspenny.core.grinding.settings import GrinderScale

TIDE, WHEEL = Part("t", "grinder", "Tide", {"scale": "marks", "marks": 3}), Part("w", "grinder", "Tidewheel", {"scale": "clicks"})
FLAT = Part("f", "burr_set", "flat steel", {"grinder_id": "w"})


def dials(*matches, parts=(TIDE, WHEEL, FLAT)):
    return dials_of(parts, [Match(f"m{i}", *m) for i, m in enumerate(matches)])


@given(whole=st.integers(0, 40), marks=st.integers(2, 20), part=st.integers(0, 19))
def test_a_place_on_a_marked_dial_reads_back_as_itself(whole, marks, part):
    scale = GrinderScale("x", "marks", marks=marks)
    place = whole + (part % marks) / marks
    assert scale.read(scale.write(place)) == pytest.approx(place)
    assert scale.read(scale.write(round(place, 3))) == pytest.approx(place, abs=1e-3)  # as the store keeps it
    assert scale.nearest(place) == pytest.approx(place, abs=1e-5)


@given(letter=st.integers(0, 25), number=st.integers(0, 9))
def test_a_place_on_a_lettered_dial_reads_back_as_itself(letter, number):
    scale = GrinderScale("x", "letters")
    text = f"{chr(65 + letter)}{number}"
    assert scale.write(scale.read(text)) == text and scale.read(text.lower()) == scale.read(text)


@pytest.mark.parametrize("text", ["", "medium", "B2", "4/3", "1 2 3", "9" * 9])
def test_what_is_no_setting_on_a_numbered_dial_is_none(text):
    assert GrinderScale("x").read(text) is None


def test_a_matched_setting_comes_back_as_it_was_matched():
    d = dials(("t", 4.0, "f", 3.0, "by_eye"), ("t", 6.0, "f", 9.0, "by_eye"))
    assert d.translate(4.0, "t", "f").nearest == 3.0 and d.translate(3.0, "f", "t").nearest == 4.0
    coarse = dials(("t", 4.0, "f", 2.97, "brew_time"), ("t", 6.0, "f", 9.0, "brew_time"))  # not on a click, and still what was matched
    assert coarse.translate(4.0, "t", "f").nearest == 2.97


def test_a_setting_belongs_to_burrs_where_there_are_any():
    d = dials()
    assert set(d.sides) == {"t", "f"} and d.names["f"] == "Tidewheel · flat steel" and d.id_of("Tide") == "t" and d.id_of("Tidewheel") is None
    assert dial_id({"grinder": {"id": "w"}, "burr_set": {"id": "f"}}) == "f" and dial_id({"grinder": {"id": "t"}}) == "t" and dial_id(None) is None


def test_a_setting_is_carried_with_what_it_rests_on_or_left_empty():
    d = dials(("t", 4.0, "f", 20.0, "brew_time"), ("t", 5.0, "f", 26.0, "sieve_median"))
    found = d.carried("4 1/3", "t", "f")
    assert (found.setting, found.rule) == ("22", "brew_time") and "to" in found.span
    for text, a, b in (("coarse", "t", "f"), ("4", "t", None), ("9", "t", "f"), ("4", "t", "gone")):
        assert d.carried(text, a, b).setting == "" and d.carried(text, a, b).rule is None


SPINDLE = Part("s", "grinder", "Spindle", {})


def test_what_a_recipe_says_leads_to_another_dial_but_never_beside_a_measured_match():
    parts, said = (TIDE, WHEEL, FLAT, SPINDLE), [RecipeSettings("Long watch", (("t", "4 1/3"), ("f", "21"), ("s", "medium")))]
    opinion = dials_of(parts, [], said)
    found = opinion.carried("4 1/3", "t", "f")
    assert (found.setting, found.rule) == ("21", "recipe") and opinion.carried("4", "t", "f").setting == "", "one setting, and no other"
    assert opinion.carried("4 1/3", "t", "s").setting == "", "a setting that is only a word joins nothing"
    assert "what a recipe says" in opinion.translate(4 + 1 / 3, "t", "f").warnings[-1]
    measured = dials_of(parts, [Match("m", "t", 4.0, "f", 30.0, "brew_time"), Match("n", "t", 5.0, "f", 40.0, "brew_time")], said)
    assert measured.carried("4 1/3", "t", "f").setting == "33" and measured.carried("4 1/3", "t", "f").matches == ("brew_time",)
    by_eye = dials_of(parts, [Match("m", "t", 4.0, "f", 20.0, "by_eye")], said)
    assert by_eye.carried("4 1/3", "t", "f").matches == ("recipe",) and by_eye.carried("4", "t", "f").matches == ("by_eye",)


def test_a_recipe_that_says_two_settings_of_one_dial_is_no_match_with_itself():
    assert dials_of((TIDE,), [], [RecipeSettings("r", (("t", "4"), ("t", "5")))]).pairs == ()
