"""What a panel could have shown of groups: said against what happens, and never more than was measured."""

import numpy as np
import pytest

from benchmarks.camps_study import panel
from brasspenny.core.judging import Score
from brasspenny.core.judging.segments import find_segments
from brasspenny.core.judging.segments_seen import FIFTH, HALF, TASTERS, could_have_shown


def shown(tasters, setups, brews, turned, panels=40):
    rng = np.random.default_rng(tasters + 100 * setups + 1000 * brews + turned)
    return np.mean([bool(find_segments(panel(rng, tasters, setups, brews, turned)).segments) for _ in range(panels)])


@pytest.mark.parametrize(("tasters", "setups", "brews"), [(8, 2, 2), (12, 2, 2), (12, 2, 1), (10, 4, 2)])
def test_how_often_a_group_shows_is_what_is_said(tasters, setups, brews):
    kind, at = (setups >= 3, brews >= 2), TASTERS.index(tasters)
    assert shown(tasters, setups, brews, tasters // 2) == pytest.approx(HALF[kind][at], abs=0.22)
    assert shown(tasters, setups, brews, round(tasters / 5)) <= FIFTH[kind][at] + 0.12


@pytest.mark.parametrize(("setups", "brews"), [(2, 1), (2, 2), (4, 2)])
def test_where_there_is_one_kind_of_drinker_groups_show_in_one_panel_of_twenty(setups, brews):
    assert shown(12, setups, brews, 0, panels=120) <= 0.05 + 0.045


def test_a_panel_without_groups_says_what_it_could_not_have_seen():
    text = find_segments(panel(np.random.default_rng(3), 12, 2, 2, 0)).text
    assert text == (
        "No groups of tasters show. Half of these 12 who like the opposite (1.5 points up and down) would be seen 8 times in 10; a fifth hardly ever. "
        "It takes about 24 tasters to see them 7 times in 10."
    )


def test_more_tasters_and_more_brews_show_no_less():
    for kind, by in (*HALF.items(), *FIFTH.items()):
        assert max(earlier - later for earlier, later in zip(by, by[1:], strict=False)) <= 0.05, kind
    assert "More than 24 tasters" in could_have_shown(tasters=9, setups=4, brews=1)
    assert "takes" not in could_have_shown(tasters=24, setups=2, brews=2)


def test_two_camps_whose_scores_repeat_to_the_point_are_two():
    """Where every taster of a camp scores alike there are two differences only: the steps of the scale, and not the gap between camps, are what clumps."""
    rows = [Score("", f"T{t}", s, s, "", (8.0, 4.0)[(s == "A") != (t < 5)]) for t in range(10) for s in "AB"]
    assert [len(g.tasters) for g in find_segments(rows).segments] == [5, 5]
