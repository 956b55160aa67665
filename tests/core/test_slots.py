"""Drafted brews: how many are left, whatever was brewed or deleted meanwhile."""

from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.trial.slots import drafted_left
from brasspenny.core.trial.stations import Counts, next_action

COUNTS = st.dictionaries(st.sampled_from("ABCD"), st.integers(0, 6))


@given(COUNTS, COUNTS)
def test_each_brew_made_leaves_one_less_and_none_below_nought(then, more):
    brews = {i: (then.get(i, 0), then.get(i, 0) + n) for i, n in more.items()}
    brewed = {i: there for i, (there, _) in brews.items()}
    left = sum(more.values())
    assert drafted_left(brews, brewed, "ABCD") == left
    for i, n in more.items():
        for _ in range(n):
            brewed[i] += 1
            left -= 1
            assert drafted_left(brews, brewed, "ABCD") == left
        brewed[i] += 1
        assert drafted_left(brews, brewed, "ABCD") == left  # one more than was drafted fills nothing


def test_a_deleted_setup_asks_for_nothing_and_deleted_old_brews_for_no_more():
    assert drafted_left({"A": (2, 3), "B": (2, 3)}, {"A": 2, "B": 2}, "B") == 1
    assert drafted_left({"A": (2, 3)}, {"A": 1}, "A") == 1


def test_what_was_drafted_comes_before_the_verdict_and_after_what_is_open():
    done = {"setups": 2, "brewed": 2, "runs": 4, "read": 4, "flights_flipped": 1}
    assert next_action(Counts(**done)) == ("verdict", "Read the verdict")
    assert next_action(Counts(**done, drafted=2)) == ("brew", "Make the 2 drafted brews")
    assert next_action(Counts(**done, drafted_unpoured=1)) == ("taste", "Pour the drafted brew")
    assert next_action(Counts(**done, drafted=2, flights_open=1))[0] == "taste"
