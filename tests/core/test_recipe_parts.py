"""What is worked out from a recipe: its timeline, its two ways of writing water, scaling, differences, cautions, what to expect."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.errors import OutOfDomain
from brasspenny.core.recipe.cautions import cautions
from brasspenny.core.recipe.changes import differences, in_words
from brasspenny.core.recipe.describe import card_lines
from brasspenny.core.recipe.model import ON_COFFEE, Recipe, Step, as_cumulative, as_per_pour, equal_pours, own_water_g, single_pour, sums, timeline
from brasspenny.core.recipe.outlook import History, is_concentrate, outlook
from brasspenny.core.recipe.scaling import scale, to_strength, to_water
from brasspenny.core.recipe.starters import STARTERS
from brasspenny.core.recipe.writing import pattern

THREE = Recipe(
    dose_g=18,
    brew_water_g=288,
    temperature_c=93,
    ends="drips_stop",
    total_time_s=(140, 190),
    steps=(Step("bloom", to_g=45, duration_s=40), Step("pour", to_g=170, start_s=40, duration_s=20), Step("pour", to_g=288, start_s=80, duration_s=25)),
)
BY_CODE = {s.code: s.recipe for s in STARTERS}


# --- timeline ----------------------------------------------------------------------------------------------------------


def test_preparing_ends_at_the_first_water_and_unstated_times_are_marked_assumed():
    recipe = replace(THREE, steps=(Step("rinse"), Step("dose", duration_s=12), *THREE.steps, Step("swirl", count=2)))
    t = timeline(recipe)
    assert (t[0].start_s, t[1].end_s, t[2].start_s) == (-32, 0, 0)
    assert [x.assumed for x in t] == [True, False, False, False, False, True]
    assert (t[5].start_s, t[5].end_s) == (105, 108)


@pytest.mark.parametrize(
    ("step", "start", "end"),
    [
        (Step("wait", duration_s=30), 60, 90),
        (Step("wait", end_s=240), 60, 240),
        (Step("pour", add_g=60), 60, 70),
        (Step("pour", add_g=60, end_s=120), 110, 120),
        (Step("pour", add_g=60, start_s=80, end_s=95), 80, 95),
        (Step("pour", add_g=60, start_s=80), 80, 90),
    ],
)
def test_a_step_takes_its_times_from_what_is_stated(step, start, end):
    got = timeline(Recipe(steps=(Step("bloom", add_g=40, duration_s=60), step)))[1]
    assert (got.start_s, got.end_s) == (start, end)


def test_a_blooms_rate_is_of_its_pour_and_not_of_its_wait():
    assert timeline(THREE)[0].rate_g_s == pytest.approx(5) and timeline(THREE)[0].hands_s == pytest.approx(9)


def test_the_rest_is_what_is_missing_from_the_stated_total():
    recipe = Recipe(dose_g=20, brew_ratio=16, steps=(Step("pour", to_g=220), Step("bypass", rest=True)))
    total = sums(recipe)
    assert (total.poured_g, total.bypass_g, total.brew_ratio) == (220, 100, 16) and total.bypass_share == pytest.approx(100 / 320)


@given(st.lists(st.floats(5, 200).map(lambda x: round(x, 1)), min_size=1, max_size=8))
def test_readings_and_pours_are_two_ways_of_writing_one_recipe(amounts):
    recipe = Recipe(dose_g=18, steps=tuple(Step("pour", add_g=x) for x in amounts))
    there = as_cumulative(recipe)
    assert [s.to_g for s in there.steps] == pytest.approx([sum(amounts[: i + 1]) for i in range(len(amounts))])
    assert [s.add_g for s in as_per_pour(there).steps] == pytest.approx(amounts)
    assert sums(there).poured_g == pytest.approx(sum(amounts)) and single_pour(recipe) == (len(amounts) == 1)


def test_equal_pours_are_seen_however_they_are_written():
    four = Recipe(steps=tuple(Step("pour", to_g=70.0 * (i + 1)) for i in range(4)))
    assert equal_pours(four) and equal_pours(as_per_pour(four)) and not equal_pours(THREE)


# --- scaling -----------------------------------------------------------------------------------------------------------


@given(st.floats(6, 60).map(lambda x: round(x, 1)), st.sampled_from(sorted(BY_CODE)))
def test_scaling_to_a_dose_keeps_the_ratio_and_each_pours_share(dose_g, code):
    recipe = BY_CODE[code]
    out = scale(recipe, dose_g=dose_g).recipe
    before, after = sums(recipe), sums(out)
    assert out.dose_g == dose_g and after.brew_ratio == pytest.approx(before.brew_ratio, abs=0.2 / dose_g + 0.02)
    assert after.bypass_share == pytest.approx(before.bypass_share, abs=0.01)
    assert [t.duration_s for t in out.steps] == [t.duration_s for t in recipe.steps]  # times are kept


def test_scaling_to_cups_and_to_a_vessel_counts_what_the_grounds_keep():
    per_gram = 16 - 2.1
    assert scale(THREE, cups=2, cup_g=200).recipe.dose_g == pytest.approx(400 / per_gram, abs=0.05)
    assert scale(THREE, vessel_ml=500, retained_water_ratio=2.4).recipe.dose_g == pytest.approx(500 / (16 - 2.4), abs=0.05)


@pytest.mark.parametrize(
    ("how", "said"),
    [
        ({"dose_g": 30}, "deeper"),
        ({"dose_g": 10}, "shallower"),
        ({"dose_g": 26, "dose_range_g": (14, 24)}, "working range, 14 to 24 g"),
        ({"dose_g": 60, "volume_ml": 300}, "more than the brewer holds"),
        ({"dose_g": 60}, "g/s: give it longer"),
    ],
)
def test_what_scaling_does_not_keep_is_said(how, said):
    assert any(said in w for w in scale(THREE, **how).warnings)
    assert scale(THREE, dose_g=18.5, dose_range_g=(14, 24), volume_ml=500).warnings == ()


@pytest.mark.parametrize(
    ("recipe", "how"), [(THREE, {}), (THREE, {"dose_g": 20, "cups": 2}), (Recipe(dose_g=18), {"dose_g": 20}), (replace(THREE, dose_g=200), {"cups": 1})]
)
def test_what_cannot_be_scaled_is_refused(recipe, how):
    with pytest.raises(OutOfDomain) as caught:
        scale(recipe, **how)
    assert caught.value.remedy


def test_water_lands_on_its_total_and_a_strength_gives_its_water():
    assert sums(to_water(THREE, 301.3)).poured_g == 301.3
    out = to_strength(THREE, 1.3, ey_pct=20, retained=2.1)
    drink = sums(out).poured_g - 2.1 * 18 + 0.2 * 18  # B = W − ρD + E·D
    assert 100 * 0.2 * 18 / drink == pytest.approx(1.3, abs=0.005)


# --- differences ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("after", "said"),
    [
        (replace(THREE, temperature_c=96), "one change: 93 °C → 96 °C"),
        (THREE, "no change"),
        (THREE.with_step(1, to_g=160), "one change"),
        (replace(THREE, steps=THREE.steps[:2]), "one change"),
        (replace(THREE, dose_g=17, temperature_c=96), "2 changes"),
    ],
)
def test_a_difference_is_said_in_words(after, said):
    assert in_words(differences(THREE, after)).lower().startswith(said.lower()), in_words(differences(THREE, after))


def test_a_step_put_in_is_one_change_and_moves_no_other():
    more = replace(THREE, steps=(*THREE.steps[:1], Step("swirl", count=1), *THREE.steps[1:]))
    (change,) = differences(THREE, more)
    assert change.before == "" and "swirl once" in change.after


def test_recipes_poured_alike_read_alike_at_any_size():
    assert pattern(scale(THREE, dose_g=36).recipe) == pattern(THREE) and pattern(THREE.with_step(0, to_g=60)) != pattern(THREE)


# --- the card ---------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("code", sorted(BY_CODE))
def test_a_card_has_one_line_a_moment_in_order_and_every_step_once(code):
    recipe = BY_CODE[code]
    lines = card_lines(recipe)
    times = [round(line.at_s) for line in lines if line.at_s is not None]
    assert times == sorted(set(times))
    assert sorted(i for line in lines for i in line.steps) == list(range(len(recipe.steps)))
    assert sum("it is over" in line.text.lower() for line in lines) == 1


def test_a_step_that_would_begin_before_the_one_above_begins_with_it():
    steps = (
        Step("bloom", to_g=45, duration_s=40),
        Step("swirl", start_s=40),
        Step("pour", to_g=288, start_s=40, duration_s=60),
        Step("remove_brewer", start_s=150),
    )
    lines = card_lines(Recipe(dose_g=18, steps=steps))
    assert [(line.at_s, line.text) for line in lines] == [
        (0.0, "Bloom: pour to 45 g"), (40.0, "Swirl, then pour to 288 g"), (150.0, "Lift the brewer: it is over")
    ]  # fmt: skip


# --- cautions ---------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("code", "caution", "says"),
    [
        ("piston_inverted", "invert", "throw hot liquid"),
        ("piston_upright", "press", "grind coarser next time"),
        ("press_pot_skimmed", "steam", "face back"),
        ("cone_pulses", "dripper", "topples"),
    ],
)
def test_cautions_stand_at_the_step_they_belong_to(code, caution, says):
    recipe = BY_CODE[code]
    found = {c.code: c for c in cautions(recipe)}
    assert says in found[caution].text and "scald" in found and "cool running water" in found["scald"].text
    assert {recipe.steps[i].kind for i in found[caution].steps} <= {"invert", "press", "break_crust"}
    assert len({c.code for c in cautions(recipe)}) == len(cautions(recipe))


@pytest.mark.parametrize(("material", "cautioned"), [("cloth", True), ("mesh", True), ("metal", True), ("paper", False), (None, False)])
def test_a_filters_caution_goes_by_its_material_not_by_its_name(material, cautioned):
    named = replace(BY_CODE["cone_pulses"], filter="Metal-look mesh paper")
    found = {c.code: c.text for c in cautions(named, material)}
    assert ("reusable_filter" in found) == cautioned and (not cautioned or "does not sanitise" in found["reusable_filter"])


def test_a_press_has_no_dripper_to_topple():
    assert "dripper" not in {c.code for c in cautions(BY_CODE["piston_upright"])}


# --- what to expect -----------------------------------------------------------------------------------------------------------


def test_without_history_mass_is_foretold_and_ranges_are_not():
    found = outlook(THREE, History(), yield_basis="in_cup")
    assert found.beverage_g == pytest.approx(288 - 2.1 * 18 + found.ey_pct / 100 * 18) and found.tds_range_pct is None


def test_a_brewers_own_brews_give_the_ranges():
    found = outlook(THREE, History(ey_pct=(19.0, 20.0, 21.0), retained=(2.2, 2.3, 2.4)), yield_basis="in_cup")
    assert found.ey_range_pct == pytest.approx((18, 22)) and found.retained_water_ratio == 2.3
    line = [100 * e / (16 - 2.3 + e) for e in (0.18, 0.22)]  # c(E) = E/(R − ρ + E), docs/formulas.md §3
    assert found.tds_range_pct == pytest.approx(line)
    assert outlook(THREE, History(ey_pct=(19.0, 20.0)), yield_basis="in_cup").ey_range_pct is None


def test_bypass_thins_the_cup_and_leaves_the_yield():
    with_bypass = replace(THREE, steps=(*THREE.steps, Step("bypass", add_g=60)))
    plain, thinned = (outlook(r, History(), yield_basis="in_cup") for r in (THREE, with_bypass))
    assert thinned.ey_pct == plain.ey_pct and thinned.tds_pct == pytest.approx(plain.tds_pct * plain.beverage_g / thinned.beverage_g)


@pytest.mark.parametrize(("water", "is_one"), [(18, True), (72, True), (75, False), (288, False)])
def test_one_to_one_up_to_one_to_four_is_a_concentrate(water, is_one):
    assert is_concentrate(Recipe(dose_g=18, steps=(Step("pour", to_g=water),))) is is_one


@pytest.mark.parametrize("code", [s.code for s in STARTERS])
@given(dose_g=st.floats(8, 60), to_g=st.sampled_from([1, 5]))
def test_rounded_pours_are_whole_none_vanishes_and_none_moves_far(dose_g, to_g, code):
    starter = next(s for s in STARTERS if s.code == code).recipe
    exact, even = scale(starter, dose_g=dose_g).recipe, scale(starter, dose_g=dose_g, round_to_g=to_g)
    before, after = own_water_g(exact), own_water_g(even.recipe)
    pours = [(b, a) for s, b, a in zip(exact.steps, before, after, strict=True) if s.kind in ON_COFFEE and b]
    assert all(a > 0 and abs(a / to_g - round(a / to_g)) < 1e-9 for _, a in pours)
    so_far = 0.0
    for b, a in pours:
        so_far += b - a
        if min(b for b, _ in pours) >= to_g:  # none too small to be told
            assert abs(so_far) <= to_g / 2 + 0.2, "what the scale reads is off by half a step at most"
    if even.recipe != exact:
        assert even.warnings[0].startswith(f"Rounded to {to_g} g")


def test_scaling_never_makes_a_step_that_no_document_holds():
    """A step with both a reading and an amount: the one that is not counted grew past what can be written."""
    with pytest.raises(OutOfDomain):
        scale(Recipe(dose_g=0.1, steps=(Step("bloom", to_g=18, add_g=100_000),)), dose_g=18)


@pytest.mark.parametrize(
    ("kinds", "at"), [(("invert", "pour", "wait", "invert", "press"), (3,)), (("pour", "invert", "press"), (1,)), (("invert", "pour", "press"), ())]
)
def test_turning_a_press_is_warned_of_when_it_is_full(kinds, at):
    steps = tuple(Step(kind, to_g=200, duration_s=20) if kind == "pour" else Step(kind) for kind in kinds)
    found = {c.code: c.steps for c in cautions(Recipe(dose_g=15, brewer_type="piston_press", steps=steps))}
    assert found.get("invert", ()) == at
