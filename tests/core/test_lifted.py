"""A brewer lifted while it drips: what stays in the bed is lost to the cup, counted, and no mistake."""

from brasspenny.core.extraction.measure import Brew, counts_for_forecasts, measure
from brasspenny.core.extraction.uncertainty import Instrument
from brasspenny.core.recipe.cautions import cautions
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
