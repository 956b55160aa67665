"""A brewer lifted while it drips: what stays in the bed is lost to the cup, counted, and no mistake."""

from dataclasses import replace

import pytest

from brasspenny.core.extraction.measure import Brew, counts_for_forecasts, measure
from brasspenny.core.extraction.uncertainty import Instrument
from brasspenny.core.recipe.cautions import cautions
from brasspenny.core.recipe.lint import lint
from brasspenny.core.recipe.outlook import History, expected_drink_g, outlook
from brasspenny.core.recipe.reading import read


def warned(**how):
    return {w.code: w.text for w in measure(Brew(dose_g=18, brew_water_g=290, beverage_g=205, **how), [1.5], Instrument()).warnings}


def test_what_stays_in_the_bed_of_a_lifted_brew_is_counted_and_is_no_mistake():
    assert "retained_water" in warned() and "lifted_early" not in warned()
    told = warned(lifted=True)
    assert "retained_water" not in told and told["lifted_early"].startswith("88 g of water stayed in the bed")
    few = {w.code for w in measure(Brew(dose_g=18, brew_water_g=290, beverage_g=286, lifted=True), [1.3], Instrument()).warnings}
    assert "retained_water" in few  # too little kept is a wrong mass, however it ended
    m = measure(Brew(dose_g=18, brew_water_g=290, beverage_g=205, lifted=True), [1.5, 1.5, 1.5], Instrument())
    assert not counts_for_forecasts(m, simulated=False, off_plan=False)


def test_a_short_strong_brew_is_not_held_to_the_rules_of_a_filter_brew():
    def codes(readings, **how):
        return {w.code for w in measure(Brew(dose_g=18, brew_water_g=54, beverage_g=40, **how), readings, Instrument()).warnings}

    assert codes([9.00, 9.10, 9.02], concentrate=True) == set()
    assert codes([9.00, 9.40, 9.02], concentrate=True) == {"outlier_reading"}
    assert "retained_water" in codes([4.9, 4.9, 4.9])
    short = read("18 g, 54 g, bloom 20 over 0:05 for 0:12, pour to 54 over 0:20, done by 1:00").recipe
    assert not {"bloom_mass", "bloom_time"} & {f.code for f in lint(short)}


def test_sediment_that_stayed_behind_is_not_kept_by_the_grounds():
    press = {"dose_g": 30, "brew_water_g": 480, "beverage_g": 350}
    whole, less = (measure(Brew(**press, sediment_g=g), [1.4, 1.4, 1.4], Instrument()) for g in (0.0, 30.0))
    assert whole.retained_water_ratio - less.retained_water_ratio == pytest.approx(1.0)
    assert {w.code for w in whole.warnings} == {"retained_water"} and less.warnings == ()


def test_a_mend_forecasts_the_drink_as_every_other_page_does():
    said = "13 g, 230 g, drink 230 g, pour to 230 over 1:20, drips stop, done by 2:30"
    recipe = replace(read(said).recipe, beverage_g=230.0)
    (found,) = [f for f in lint(recipe) if f.code == "water_as_beverage"]
    expected = expected_drink_g(dose_g=13, brew_water_g=230, bypass_g=0)
    assert found.mends[1].label == f"Expect {round(expected)} g of drink"


def test_a_brew_that_is_lifted_is_said_to_give_less_than_forecast():
    told = {
        text: outlook(read(f"18 g, 290 g, in a flat-bed dripper, pour to 290 over 1:30, {text}").recipe, History(), yield_basis="in_cup").text
        for text in ("remove the brewer at 2:00", "drips stop")
    }
    assert "expect less drink" in told["remove the brewer at 2:00"] and "lifted" not in told["drips stop"]


def test_cautions_stand_at_every_step_where_they_bite():
    def at(text):
        recipe = read(text).recipe
        return {c.code: [recipe.steps[i].kind for i in c.steps] for c in cautions(recipe) if c.steps}

    assert at("30 g, 480 g, in a press-pot, pour to 480 over 0:40, wait by 4:00, press gently, serve")["glass"] == ["press", "serve"]
    assert at("30 g, 480 g, in a press-pot, pour to 480 over 0:40, wait by 4:00, serve")["glass"] == ["serve"]
    piston = at("15 g, 225 g, in a piston press, pour to 225 over 0:20, wait by 1:40, invert, press gently")
    assert piston["invert"] == ["invert"] and piston["press"] == ["press"] and "glass" not in piston
    twice = at("15 g, 225 g, in a piston press, pour to 100 over 0:20, press gently, pour to 225 over 0:20, wait by 1:40, press gently")
    assert twice["press"] == ["press", "press"]
