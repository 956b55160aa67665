"""Every lint code: one recipe that trips it, one that does not, and a mend that puts it right."""

from dataclasses import replace

import pytest
from hypothesis import given

from brasspenny.core.recipe.lint import CODES, Surroundings, blocks_a_run, lint
from brasspenny.core.recipe.model import Recipe, Step, sums, timeline
from brasspenny.core.recipe.outlook import History, Window, expected_drink_g, outlook
from brasspenny.core.recipe.reading import read
from brasspenny.core.recipe.starters import STARTERS

from .test_recipe_text import recipes

SOUND = Recipe(
    dose_g=18,
    brew_water_g=288,
    brew_ratio=16,
    temperature_c=93,
    brewer_type="flat_bed",
    ends="drips_stop",
    total_time_s=(150, 190),
    steps=(Step("bloom", to_g=45, duration_s=40), Step("pour", to_g=170, start_s=40, duration_s=20), Step("pour", to_g=288, start_s=80, end_s=110)),
)
DECANTED = Recipe(
    dose_g=18,
    temperature_c=93,
    brewer_type="jug_steep",
    ends="drips_stop",
    steps=(Step("pour", to_g=120, end_s=30), Step("transfer", zeroed="empty"), Step("pour", to_g=288)),
)
STEEPED = replace(
    SOUND, brewer_type="jug_steep", steps=(Step("pour", to_g=288, duration_s=40), Step("wait", duration_s=90), Step("transfer", reading_g=306, zeroed="empty"))
)
CLASSIC = (Window("classic window", (18, 22), (1.15, 1.35)),)


def windowed(recipe):
    return Surroundings(windows=CLASSIC, outlook=outlook(recipe, History(), yield_basis="in_cup"))


def step(i, **changes):
    return SOUND.with_step(i, **changes)


PLACE = Surroundings(boiling_c=97.3, dose_range_g=(12, 24), volume_ml=400)

TRIPS = {
    "no_dose": (replace(SOUND, dose_g=None), SOUND, PLACE),
    "no_water": (
        replace(SOUND, steps=(Step("wait", duration_s=30),)),
        replace(SOUND, steps=(Step("wait"),), brew_water_g=None, brew_ratio=None, beverage_g=60),
        PLACE,
    ),
    "pours_do_not_add_up": (replace(SOUND, brew_water_g=300, brew_ratio=None), SOUND, PLACE),
    "total_as_brew_water": (
        replace(SOUND, brew_ratio=None, brew_water_g=360, steps=(*SOUND.steps, Step("bypass", add_g=72))),
        replace(SOUND, brew_ratio=None, steps=(*SOUND.steps, Step("bypass", add_g=72))),
        PLACE,
    ),
    "ratio_disagrees": (replace(SOUND, brew_ratio=16.3), replace(SOUND, brew_ratio=16.1), PLACE),
    "out_ambiguous": (replace(SOUND, out_g=250), replace(SOUND, out_g=250, out_means="drink", beverage_g=250), PLACE),
    "water_as_beverage": (replace(SOUND, beverage_g=288), replace(SOUND, beverage_g=250), PLACE),
    "dose_outside_brewer": (replace(SOUND, dose_g=30, brew_ratio=None), SOUND, PLACE),
    "slurry_over_volume": (replace(STEEPED, steps=(Step("pour", to_g=400),), brew_water_g=400, brew_ratio=None), STEEPED, PLACE),
    "above_boiling": (replace(SOUND, temperature_c=98), replace(SOUND, temperature_c=97.3), PLACE),
    "fahrenheit_typed": (replace(SOUND, temperature_c=200), SOUND, PLACE),
    "steps_out_of_order": (step(2, start_s=20, end_s=30), SOUND, PLACE),
    "steps_overlap": (step(2, start_s=50, end_s=110), SOUND, PLACE),
    "reading_goes_down": (step(2, to_g=118), SOUND, PLACE),
    "pour_rate": (step(2, start_s=105, end_s=110), SOUND, PLACE),
    "bloom_mass": (step(0, to_g=20), SOUND, PLACE),
    "bloom_time": (SOUND.with_step(0, duration_s=12).with_step(1, start_s=None), SOUND, PLACE),
    "bypass_over_half": (
        replace(SOUND, brew_ratio=None, steps=(*SOUND.steps, Step("bypass", add_g=300))),
        replace(SOUND, brew_ratio=None, steps=(*SOUND.steps, Step("bypass", add_g=100))),
        PLACE,
    ),
    "outside_windows": (replace(SOUND, dose_g=26, brew_ratio=None), replace(SOUND, dose_g=17, brew_ratio=None), None),
    "no_end": (replace(SOUND, ends="", total_time_s=(None, None)), SOUND, PLACE),
    "total_time_impossible": (replace(SOUND, total_time_s=(None, 100)), SOUND, PLACE),
    "first_water_late": (step(0, start_s=30), step(0, start_s=0), PLACE),
    "target_too_strong": (replace(SOUND, tds_pct=(12.0, 14.0)), replace(SOUND, tds_pct=(1.25, 1.45)), PLACE),
    "slurry_read_as_water": (replace(STEEPED, steps=(Step("pour", to_g=288), Step("transfer", reading_g=288, zeroed="empty"))), STEEPED, PLACE),
    "reading_after_transfer": (DECANTED, replace(DECANTED, steps=(*DECANTED.steps[:2], Step("pour", to_g=288, reading_g=306))), PLACE),
    "zeroing_unsaid": (DECANTED.with_step(1, zeroed=""), replace(DECANTED, steps=(*DECANTED.steps[:2], Step("pour", to_g=288, reading_g=306))), PLACE),
}


def found(recipe, around):
    return {f.code: f for f in lint(recipe, around or windowed(recipe))}


@pytest.mark.parametrize("code", CODES)
def test_each_code_trips_is_silent_when_it_should_be_and_its_mends_work(code):
    bad, good, around = TRIPS[code]
    assert code not in found(good, around)
    finding = found(bad, around)[code]
    assert finding.text and finding.why and finding.place
    for mend in finding.mends:
        assert code not in found(mend.recipe, around), mend.label
    assert finding.mends, "every finding of these examples has a one-click mend"


def test_a_sound_recipe_has_no_findings_and_errors_block_a_run():
    assert lint(SOUND, PLACE) == ()
    assert blocks_a_run(lint(TRIPS["no_end"][0], PLACE))
    assert not blocks_a_run(lint(TRIPS["bloom_mass"][0], PLACE)), "advice does not block"


def test_bloom_advice_is_silent_for_equal_and_single_pours():
    equal = replace(SOUND, steps=(Step("bloom", add_g=96, duration_s=90), Step("pour", add_g=96), Step("pour", add_g=96)))
    single = replace(SOUND, steps=(Step("bloom", add_g=288, duration_s=100),))
    for recipe in (equal, single):
        assert not {"bloom_mass", "bloom_time"} & set(found(recipe, PLACE))


def test_the_documented_slurry_reading():
    """263 g with 17 g of dose, read over an empty zeroed dripper, is 246 g of water."""
    recipe = Recipe(dose_g=17, brew_water_g=263, ends="drips_stop", steps=(Step("pour", to_g=263), Step("transfer", reading_g=263, zeroed="empty")))
    mends = found(recipe, PLACE)["slurry_read_as_water"].mends
    assert mends[0].label == "Water is 246 g" and sums(mends[0].recipe).poured_g == pytest.approx(246)


def test_sixteen_times_seventeen_is_water_not_drink():
    recipe = Recipe(dose_g=17, brew_ratio=16, beverage_g=272, ends="drips_stop", steps=(Step("pour", to_g=272),))
    mended = found(recipe, PLACE)["water_as_beverage"].mends
    assert [m.recipe.beverage_g for m in mended] == [None, round(expected_drink_g(dose_g=17, brew_water_g=272, bypass_g=0))]


@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.code)
def test_starters_are_sound(starter):
    assert lint(starter.recipe, Surroundings()) == ()


def chased(recipe, around=PLACE, most=25):
    """The codes met while the first mend offered is taken again and again, and whether a state came back."""
    seen, codes = [recipe], []
    for _ in range(most):
        offered = [f for f in lint(recipe, around) if f.mends]
        if not offered:
            return codes, False
        recipe = offered[0].mends[0].recipe
        codes.append(offered[0].code)
        if recipe in seen:
            return codes, True
        seen.append(recipe)
    return codes, False


@given(recipes)
def test_no_mends_chase_each_other(recipe):
    codes, came_back = chased(recipe)
    assert not came_back, codes


@pytest.mark.parametrize("inside", ["swirl 3 times", "stir 2", "swirl from 0:10", "stir from 0:38, tap"])
def test_a_bloom_runs_to_the_next_water_and_may_hold_a_swirl_or_a_stir(inside):
    recipe = read(f"18 g, 288 g at 93, bloom 45 for 40 s, {inside}, to 170 from 0:40 over 20 s, to 288 from 1:20 over 25 s, drips stop, done by 2:45").recipe
    assert lint(recipe, PLACE) == ()
    timed = timeline(recipe)
    held = [t for t in timed if t.within]
    assert held and all(timed[0].start_s < t.start_s <= t.end_s <= timed[0].end_s for t in held)
    assert next(t for t in timed if t.step.kind == "pour").start_s == 40


def test_a_drain_at_the_end_says_when_the_brew_is_over():
    told = read("18 g coffee, 288 g water at 93, bloom 45 for 40 s, to 288 by 1:50, drain by 4:20").recipe
    assert "no_end" not in {f.code for f in lint(told, PLACE)}
    cut = replace(told, steps=(Step("drain", end_s=30), *told.steps[:-1]))
    assert "no_end" in {f.code for f in lint(cut, PLACE)}
