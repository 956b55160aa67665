"""The dial-in adviser: each rule of docs/formulas.md by its signs, one change only, the next version drafted."""

import pytest

from brasspenny.core.brewing.adviser import RULES, TASTE_SIGNS, Limits, Results, advise
from brasspenny.core.errors import OutOfDomain
from brasspenny.core.recipe.changes import differences
from brasspenny.core.recipe.model import Recipe, Step

RECIPE = Recipe(
    dose_g=18,
    temperature_c=93,
    tds_pct=(1.25, 1.45),
    ey_pct=(19, 21.5),
    total_time_s=(150, 190),
    grind="5.8",
    fast="thin and sour",
    slow="drying",
    steps=(Step("bloom", to_g=45, duration_s=40), Step("pour", to_g=288, start_s=40, duration_s=60)),
)
ON = {"tds_pct": 1.35, "ey_pct": 20, "total_time_s": 170}


@pytest.mark.parametrize(
    ("results", "words", "code"),
    [
        ({"tds_pct": 1.15}, ["balanced"], "stronger"),
        ({"tds_pct": 1.55}, ["balanced"], "weaker"),
        ({"ey_pct": 17.5, "total_time_s": 130}, ["thin", "sour"], "under_finer"),
        ({"ey_pct": 17.5}, [], "under_finer"),
        ({}, ["salty"], "under_finer"),
        ({"ey_pct": 23, "total_time_s": 220}, ["drying", "bitter"], "over_coarser"),
        ({}, ["hollow"], "over_coarser"),
        ({"ey_pct": 17.5, "total_time_s": 230}, [], "channelling"),
        ({"ey_pct": 17.5}, ["drying"], "channelling"),
        ({"total_time_s": 130}, ["watery", "woody"], "watery_finer"),
        ({}, ["sharp", "wants_sweetness"], "sharp_hotter"),
        ({}, ["boozy"], "sweet_cooler"),
        ({}, ["wants_brighter"], "brighter"),
        ({}, ["wants_heavier"], "heavier"),
    ],
)
def test_each_rule_of_the_page_by_its_signs(results, words, code):
    found = advise(RECIPE, Results(**(ON | results)), words)
    assert found.change and found.change.code == code
    assert found.change.reason and found.change.size and found.change.explains


def test_on_target_there_is_nothing_to_change():
    found = advise(RECIPE, Results(**ON), ["balanced"])
    assert (found.signs, found.change, found.others, found.draft) == (("balanced",), None, (), None)


@pytest.mark.parametrize("words", [[], ["sour"], ["sharp"], ["very_sweet"], ["wants_brighter"], ["drying"]])
@pytest.mark.parametrize("results", [{}, {"tds_pct": 1.1}, {"ey_pct": 17}, {"ey_pct": 17, "total_time_s": 230}, {"ey_pct": 24}])
def test_a_draft_differs_in_exactly_one_thing(results, words):
    found = advise(RECIPE, Results(**(ON | results)), words)
    if found.draft:
        changes = differences(RECIPE, found.draft)
        assert len({c.what.split(",")[0] for c in changes}) == 1 and len(changes) == 1, changes


def test_the_dose_is_solved_for_the_middle_of_the_window():
    found = advise(RECIPE, Results(1.15, 20.0, 170))
    assert found.draft.dose_g == pytest.approx(1.35 * 288 / (20.0 * (1 - 0.0135) + 1.35 * 2.1), abs=0.05)  # D = cW / (E(1 − c) + cρ)


def test_nothing_is_turned_beyond_its_end():
    at_finest = advise(RECIPE, Results(1.35, 17.5, 170), ["sour"], limits=Limits(at_finest=True))
    assert at_finest.change.code == "under_hotter" and at_finest.draft.temperature_c == 95
    high_up = advise(RECIPE, Results(1.35, 17.5, 170), ["sour"], limits=Limits(at_finest=True, boiling_c=93))
    assert high_up.change.code == "under_hotter" and high_up.draft is None
    shallow = advise(RECIPE, Results(**ON), limits=Limits(least_dose_g=20))
    assert shallow.change.code == "fill_the_brewer" and shallow.draft.dose_g == 20


def test_signs_that_pull_apart_are_said_and_the_recipes_own_signpost_comes_first():
    torn = advise(RECIPE, Results(**ON), ["sour", "drying"])
    assert "pull apart" in torn.disagreement and "sour" in torn.disagreement and "drying" in torn.disagreement
    even = advise(RECIPE, Results(**ON), ["wants_brighter", "boozy"])
    assert even.change and even.others and "would explain as much" in even.disagreement
    assert advise(RECIPE, Results(1.35, 17.5, 130), ["sour"]).disagreement == ""
    quick = advise(RECIPE, Results(1.35, 20, 130), ["sour"])
    assert "thin and sour" in quick.asks


def test_the_rules_hold_together():
    assert len({r.code for r in RULES}) == len(RULES)
    for rule in RULES:
        assert (rule.needs or rule.any_of) and not (rule.needs & rule.never) and rule.reason.endswith(".")
    with pytest.raises(OutOfDomain):
        advise(RECIPE, Results(**ON), ["weak"])
    assert "weak" not in TASTE_SIGNS
