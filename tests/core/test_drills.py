"""Drills: what a guesser gets, counted against every order there is, and intervals against independent ones."""

import random
from collections import Counter
from datetime import date
from itertools import permutations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import beta

from brasspenny.core.errors import PennyError
from brasspenny.core.palate.drills import (
    KINDS,
    MARKS,
    checked_answer,
    checked_cups,
    checked_marks,
    drilled,
    full_score,
    guesses,
    score,
    set_out,
    weeks_in_a_row,
)


def a_guesser(kind, cups):
    """Scores over every way the cups can stand, with one fixed answer."""
    marks = {"odd": "AAB"}.get(kind, MARKS[:cups])
    answer = [0] if kind in ("stronger", "odd") else list(range(cups))
    counts = Counter(score(kind, answer, order) for order in permutations(marks))
    return [counts[s] / sum(counts.values()) for s in range(max(counts) + 1)]


@pytest.mark.parametrize("kind, cups", [("stronger", 2), ("odd", 3), ("order", 3), ("order", 5), ("match", 3), ("match", 6)])
def test_what_a_guesser_gets_is_counted_exactly(kind, cups):
    assert guesses(kind, cups) == pytest.approx(a_guesser(kind, cups))


@pytest.mark.parametrize("right, rounds", [(0, 3), (6, 8), (19, 20)])
def test_a_plain_share_is_the_textbooks(right, rounds):
    """Two cups and three: a uniform prior over the share is a beta distribution afterwards."""
    for kind, cups in (("stronger", 2), ("odd", 2)):
        found = drilled(kind, cups, [1] * right + [0] * (rounds - right))
        low, middle, high = beta(1 + right, 1 + rounds - right).ppf([0.025, 0.5, 0.975])
        assert (*found.interval, found.share) == pytest.approx((low, high, middle), abs=0.003)


def test_intervals_hold_the_truth_as_often_as_they_say():
    """Tasters whose share of the full score is drawn evenly, five cups in order, four rounds."""
    rng, held = np.random.default_rng(3), 0
    chance = np.array(guesses("order", 5))
    at, thetas = np.arange(11), np.linspace(-9, 14, 4001)
    laws = chance * np.exp(np.outer(thetas, at - 10))
    laws /= laws.sum(1, keepdims=True)
    shares = laws @ at / 10
    for _ in range(400):
        truth = rng.uniform(0.02, 0.98)
        law = laws[np.searchsorted(shares, truth)]
        found = drilled("order", 5, list(rng.choice(11, 4, p=law)))
        held += found.interval[0] <= truth <= found.interval[1]
    assert 0.93 <= held / 400 <= 0.975


def test_luck_is_told_and_never_mistaken_for_skill():
    assert drilled("order", 5, []) is None
    once = drilled("match", 4, [4])
    assert once.by_luck == pytest.approx(1 / 24) and "A guesser does as well once in 24 times. In the long run" in once.text
    assert "That could still be luck." in drilled("stronger", 2, [1, 1, 1, 0]).text
    assert "A guesser does as well more often than not." in drilled("stronger", 2, [1, 0, 0]).text
    assert drilled("order", 5, [10, 9, 8]).text.startswith("27 of 30 pairs in order; guessing gives 15.0.")


@given(st.sampled_from(sorted(KINDS)), st.data())
def test_a_whole_right_answer_scores_all_and_luck_never_grows_with_it(kind, data):
    k = KINDS[kind]
    drinks = data.draw(st.integers(k.fewest, k.most))
    cups = set_out(kind, drinks, random.Random(data.draw(st.integers(0, 99))))
    marks = data.draw(st.permutations(cups))
    full = len(guesses(kind, len(cups))) - 1
    right = {
        "stronger": lambda: [marks.index("B")],
        "odd": lambda: [next(i for i, m in enumerate(marks) if marks.count(m) == 1)],
        "order": lambda: sorted(range(len(marks)), key=lambda i: marks[i]),
        "match": lambda: [MARKS.index(m) for m in marks],
    }[kind]()
    assert score(kind, checked_answer(kind, len(cups), right), checked_marks(cups, marks)) == full
    assert full == full_score(kind, drinks)
    less = drilled(kind, drinks, [0, 0])
    more = drilled(kind, drinks, [full, 0])
    assert more.by_luck < less.by_luck == pytest.approx(1) and more.share > less.share


@pytest.mark.parametrize(
    "made",
    [
        lambda: checked_cups("stronger", ["brew"]),
        lambda: checked_cups("order", list("abcdefg")),
        lambda: checked_cups("match", ["Cocoa", "nut", "cocoa"]),
        lambda: checked_answer("odd", 3, [3]),
        lambda: checked_answer("stronger", 2, [0, 1]),
        lambda: checked_answer("order", 3, [0, 1, 1]),
        lambda: checked_marks(["A", "A", "B"], ["A", "B", "B"]),
    ],
)
def test_what_cannot_be_is_refused_with_a_remedy(made):
    with pytest.raises(PennyError) as refused:
        made()
    assert refused.value.remedy


def test_weeks_in_a_row_end_with_a_gap_and_wait_for_this_week():
    practised = [date(2026, 11, 2), date(2026, 11, 11), date(2026, 11, 20), date(2026, 10, 1)]
    assert weeks_in_a_row(practised, date(2026, 11, 22)) == 3  # this week's own
    assert weeks_in_a_row(practised, date(2026, 11, 23)) == 3  # a week that has only begun
    assert weeks_in_a_row(practised, date(2026, 12, 1)) == 0
    assert weeks_in_a_row([], date(2026, 12, 1)) == 0
