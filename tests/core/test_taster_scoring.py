"""How tasters use the scale and go with the others: against scipy, and never told from too little."""

import numpy as np
import pytest
from scipy.stats import pearsonr

from brasspenny.core.judging.scores import Score
from brasspenny.core.palate.scoring import scoring


def trial(liked, name="t"):
    """taster → their scores of setups A, B, …"""
    return [Score(f"{name}1", t, "ABCDEFGHIJ"[i], f"{name}{i}", "", y) for t, row in liked.items() for i, y in enumerate(row)]


def by_name(by_trial):
    return {s.taster: s for s in scoring(by_trial)}


def test_agreement_with_the_others_is_the_textbooks_correlation():
    rng = np.random.default_rng(2)
    setups = rng.normal(0, 1.5, 10)
    liked = {t: np.clip(np.round(6 + setups + rng.normal(0, 1, 10)), 1, 9) for t in "VWX"} | {"Z": np.clip(np.round(5 - setups), 1, 9)}
    found = by_name({"t": trial(liked)})
    for taster, row in liked.items():
        others = np.mean([r for t, r in liked.items() if t != taster], axis=0)
        theirs = pearsonr(row, others)
        assert found[taster].agreement == pytest.approx(theirs.statistic)
        assert found[taster].agreement_interval == pytest.approx(tuple(theirs.confidence_interval()), abs=1e-6)
    assert "Likes what the others like" in found["W"].text and "Likes what the others do not" in found["Z"].text


def test_trials_are_compared_each_by_itself():
    """One trial scored high by all, another low: that alone is no agreement."""
    high = {"V": (8, 9, 8, 9), "W": (9, 8, 9, 8)}
    low = {"V": (2, 1, 2, 1), "W": (1, 2, 1, 2)}
    found = by_name({"a": trial(high, "a"), "b": trial(low, "b")})["V"]
    assert found.agreement == pytest.approx(-1) and found.setups == 8


def test_use_of_the_scale_is_where_eight_scores_in_ten_lie():
    found = by_name({"t": trial({"V": (1, 4, 4, 5, 5, 5, 6, 6, 6, 9), "W": (1, 2, 3, 4, 5, 6, 7, 8, 9, 9)})})["V"]
    assert found.used == (1, 6) or found.used == (4, 6)
    assert found.panel_used == (1, 9) and found.text.startswith("Eight scores in ten lie between")


def test_too_little_is_said_to_be_too_little():
    found = by_name({"t": trial({"V": (5, 6), "W": (6, 5)})})["V"]
    assert (found.used, found.agreement, found.repeat) == (None, None, None)
    assert found.text == "2 scores: too few to say how the scale is used. Too few setups tasted with others to compare."
    level = by_name({"t": trial({"V": (5,) * 8, "W": (1, 2, 3, 4, 5, 6, 7, 8)})})["V"]
    assert level.agreement is None  # who scores all alike agrees with nobody and contradicts nobody


def test_a_hidden_duplicate_is_told_beside_it():
    rows = trial({"V": (5, 6, 7), "W": (6, 5, 7)})
    found = by_name({"t": [*rows, rows[0]._replace(score=8.0)]})["V"]
    assert found.repeat.duplicates == 1 and found.repeat.repeat_sd == pytest.approx(3 / np.sqrt(2))
