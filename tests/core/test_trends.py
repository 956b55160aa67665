"""Along a ladder: what falls and rises, how often a level attribute is said to, and the ladder of a trial."""

import numpy as np
import pytest
import statsmodels.api as sm

from brasspenny.core.errors import BadScores
from brasspenny.core.judging.measures import MEASURE
from brasspenny.core.judging.trends import find_trend, say_trends

from .test_judging_curves import RATIOS, ladder


def trend(f, *, low=0, high=10, **how):
    scores, at = ladder(f, RATIOS, **how)
    return find_trend("acidity", scores, {brew: x for (_, brew), x in at.items()}, low=low, high=high)


def test_a_fall_is_told_with_an_interval_that_holds_it():
    found = trend(lambda x: -0.6 * (x - 15.5), J=8)
    assert found.shown and found.interval[0] < -3.0 < found.interval[1] and found.tested == (13, 18)
    assert trend(lambda x: 0.6 * (x - 15.5), J=8).change > 0


def test_the_change_is_that_of_a_line_through_the_brews():
    scores, at = ladder(lambda x: 0.4 * (x - 15.5), RATIOS, J=10, rounded=False)
    found = find_trend("acidity", scores, {brew: x for (_, brew), x in at.items()}, low=0, high=10)
    x = np.array([at[s.setup, s.brew] for s in scores])
    line = sm.OLS([s.score for s in scores], sm.add_constant(x)).fit()
    assert found.change == pytest.approx(5 * line.params[1], abs=0.25)


def test_what_does_not_change_is_seldom_said_to():
    assert sum(trend(lambda x: 0, J=6, seed=seed).shown for seed in range(30)) <= 3


def test_a_hump_has_no_trend():
    assert not trend(lambda x: -0.5 * (x - 15.5) ** 2, J=8).shown


def test_two_values_show_no_trend():
    scores, at = ladder(lambda x: x, (13.0, 14.0))
    with pytest.raises(BadScores):
        find_trend("acidity", scores, {brew: x for (_, brew), x in at.items()}, low=0, high=10)


def test_the_largest_change_is_said_first_and_the_level_ones_together():
    rise, fall = trend(lambda x: 0.3 * (x - 15.5), J=10), trend(lambda x: -0.8 * (x - 15.5), J=10)
    level = trend(lambda x: 0, J=6, seed=1)
    assert not level.shown
    named = [t.__class__(**{**vars(t), "attribute": a}) for a, t in (("body", rise), ("acidity", fall), ("finish", level), ("aroma", level))]
    said = say_trends(named, {"body": "Body", "acidity": "Acidity", "finish": "Finish", "aroma": "Aroma"}, MEASURE["temperature_c"])
    assert [s.split()[0] for s in said] == ["Acidity", "Body", "No"] and "falls from 13 °C to 18 °C" in said[0]
    assert said[2] == "No steady change is shown in finish or aroma." and say_trends([], {}, MEASURE["ratio"]) == ()
