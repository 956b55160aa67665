"""Plain means of a panel: by pass, by taster, and what a too-little or too-much costs."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.brewing.liked import Liked, LikedBrew, liked_most
from brasspenny.core.judging.just_about_right import FEWEST_FOR_DROP, just_right
from brasspenny.core.judging.passes import leaders_by_pass, means_by_pass
from brasspenny.core.judging.scores import Score
from brasspenny.core.judging.tasters import taster_means

scores = st.lists(
    st.builds(
        Score,
        st.just(""),
        st.sampled_from(["Ada", "Bo", "Cy"]),
        st.sampled_from("ABC"),
        st.just("1"),
        st.sampled_from(["cool", "hot", "warm"]),
        st.integers(1, 9).map(float),
    ),
    min_size=1,
    max_size=40,
)


@given(scores)
def test_means_by_pass_are_those_counted_by_hand_in_the_order_of_cooling(rows):
    found = means_by_pass(rows)
    for setup, passes in found.items():
        assert list(passes) == [p for p in ("hot", "warm", "cool") if p in passes]
        for name, mean in passes.items():
            own = [s.score for s in rows if (s.setup, s.pass_) == (setup, name)]
            assert mean == pytest.approx(sum(own) / len(own))
    assert {(s.setup, s.pass_) for s in rows} == {(k, p) for k, by in found.items() for p in by}


@given(scores)
def test_the_leader_of_a_pass_has_no_lower_mean_than_anybody_there(rows):
    means = means_by_pass(rows)
    for name, leader in leaders_by_pass(rows).items():
        assert all(means[leader][name] >= by[name] for by in means.values() if name in by)


def test_of_equal_means_none_leads():
    assert leaders_by_pass([Score("", "Ada", s, "1", "hot", 7) for s in "CAB"]) == {}


@given(scores)
def test_every_taster_keeps_their_own_mean(rows):
    found = taster_means(rows)
    assert set(found) == {s.taster for s in rows}
    for taster, by in found.items():
        for setup, mean in by.items():
            own = [s.score for s in rows if (s.taster, s.setup) == (taster, setup)]
            assert mean == pytest.approx(sum(own) / len(own))


def test_a_drop_needs_three_likings_on_either_side():
    right, much = [("A", "body", 0, 8.0)] * 3, [("A", "body", 2, 5.0)] * FEWEST_FOR_DROP
    (found,) = just_right([*right, *much])
    assert (found.right, found.too_much, found.drop_much, found.drop_little) == (3, 3, 3.0, None)
    (few,) = just_right([*right, *much[:-1]])
    assert (few.too_much, few.drop_much) == (2, None)


def test_a_tasting_without_a_liking_counts_and_costs_nothing():
    (found,) = just_right([("A", "body", 0, 8.0)] * 3 + [("A", "body", -1, None)] * 5)
    assert (found.too_little, found.drop_little) == (5, None)


def test_setups_and_attributes_are_kept_apart():
    found = just_right([("B", "body", 1, None), ("A", "sweetness", 0, None), ("A", "body", -2, None)])
    assert [(j.setup, j.attribute, j.too_little, j.right, j.too_much) for j in found] == [
        ("A", "body", 1, 0, 0),
        ("A", "sweetness", 0, 1, 0),
        ("B", "body", 0, 0, 1),
    ]


def test_a_brew_is_liked_as_a_whole_before_its_passes():
    assert Liked({"hot": 9, "cool": 3}).liking == 6 and Liked({"": 4, "hot": 9}).liking == 4


def test_recipes_are_listed_by_liking_then_by_how_often_and_leaned_on_from_three_brews_of_two_people():
    brews = [LikedBrew("a", "Rocket", 7, who) for who in ("x", "y", "x")] + [LikedBrew("b", "Bell", 7, "x"), LikedBrew("c", "Anchor", 8, "")]
    found = liked_most(brews)
    assert [r.recipe for r in found] == ["Anchor", "Rocket", "Bell"]
    assert "Too few" not in found[1].text and "Too few" in found[0].text and found[0].people == 1
