"""Ranks, pairs, repeats, groups: against exact tables, brute force and scipy."""

from itertools import product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.special import expit
from scipy.stats import chi2, friedmanchisquare, norm

from brasspenny.core.errors import BadScores
from brasspenny.core.judging import Score
from brasspenny.core.judging.pairs import Preference, prefer
from brasspenny.core.judging.ranks import friedman, rank_setups
from brasspenny.core.judging.reliability import repeats
from brasspenny.core.judging.segments import find_segments


def sheet(table, flight="F"):
    """table: taster → setup → scores of its brews."""
    return [Score(flight, t, s, str(i), "", x) for t, by in table.items() for s, xs in by.items() for i, x in enumerate(xs)]


# --- ranks -----------------------------------------------------------------------------------------------------------


@given(st.integers(2, 6), st.integers(3, 5), st.randoms(use_true_random=False))
@settings(max_examples=30, deadline=None)
def test_friedmans_q_is_scipys_and_w_is_the_same_statistic(j, k, rng):
    table = np.array([[rng.randint(1, 9) for _ in range(k)] for _ in range(j)], dtype=float)
    q, w, p, _ = friedman(table)
    if all(len(set(row)) == 1 for row in table.tolist()):
        assert (q, w, p) == (0, 0, 1)
        return
    assert q == pytest.approx(friedmanchisquare(*table.T).statistic, abs=1e-9)
    assert w == pytest.approx(q / (j * (k - 1))) and 0 <= w <= 1 + 1e-9 and 0 < p <= 1


@pytest.mark.parametrize(("k", "j", "critical", "size"), [(3, 3, 6.0, 0.028), (3, 4, 6.5, 0.042), (3, 6, 7.0, 0.029), (4, 3, 7.4, 0.033)])
def test_the_exact_size_is_the_published_one(k, j, critical, size):
    """The share of all rankings whose exact p is at most 0.05, and the least Q among them."""
    rankings = [np.array(r) for r in product(*[_permutations(k)] * (j - 1))] if k**j < 300 else None
    rng = np.random.default_rng(1)
    first = np.arange(1, k + 1)
    tables = (
        [np.vstack([first, *r]) for r in rankings] if rankings else [np.vstack([first, *(rng.permutation(k) + 1 for _ in range(j - 1))]) for _ in range(4000)]
    )
    by_table: dict[bytes, tuple[float, float]] = {}
    found = []
    for t in tables:
        key = np.sort(t.sum(0)).tobytes()
        if key not in by_table:
            q, _, p, exact = friedman(t)
            assert exact
            by_table[key] = (q, p)
        found.append(by_table[key])
    hits = [q for q, p in found if p <= 0.05]
    assert min(hits) >= critical - 0.01
    assert len(hits) / len(found) == pytest.approx(size, abs=0.001 if rankings else 0.009)


def _permutations(k):
    from itertools import permutations

    return list(permutations(range(1, k + 1)))


def test_two_tasters_of_three_cups_can_never_be_significant():
    assert friedman(np.array([[1, 2, 3], [1, 2, 3]]))[2] == pytest.approx(1 / 6)


def test_rankings_are_by_sitting_and_say_who_was_left_out():
    found = rank_setups(sheet({f"T{i}": {"A": (8, 9), "B": (6,), "C": (2,)} for i in range(5)}) + sheet({"T9": {"A": (1,), "B": (2,)}}))
    assert (found.setups, found.mean_ranks, found.rows, found.left_out) == (("A", "B", "C"), (1, 2, 3), 5, 1)
    assert found.agreement == 1 and found.p_value == pytest.approx(1 / 6**4)
    with pytest.raises(BadScores, match="no sitting"):
        rank_setups(sheet({"T": {"A": (3,)}}))


# --- pairs -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("wins", "losses", "ties"), [(7, 3, 0), (4, 0, 0), (5, 4, 3), (0, 0, 2)])
def test_two_setups_agree_with_the_posterior_worked_on_a_line(wins, losses, ties):
    """θ_a − θ_b is N(0, 2·1.5²) beforehand; the likelihood is one-dimensional, so a fine line is the oracle."""
    judgements = [Preference(f"T{i}", *(("A", "B") if i < wins else ("B", "A"))) for i in range(wins + losses)]
    judgements += [Preference(f"U{i}", "A", "B", tie=True) for i in range(ties)]
    gap = np.linspace(-15, 15, 60_001)
    post = expit(gap) ** (wins + ties / 2) * expit(-gap) ** (losses + ties / 2) * norm.pdf(gap, 0, 1.5 * np.sqrt(2))
    post /= post.sum()
    ends = np.interp([0.025, 0.975], np.cumsum(post), gap)
    found = prefer(judgements)
    top = next(s for s in found.strengths if s.setup == "A")
    assert 2 * top.log_strength == pytest.approx(post @ gap, abs=0.04)
    assert [2 * x for x in top.interval] == pytest.approx(ends, abs=0.12)
    assert (top.wins, found.pairs[0].preferred) == (wins + ties / 2, pytest.approx(expit(post @ gap), abs=0.01))
    assert found.widened == 1


def test_one_taster_saying_the_same_ten_times_is_not_ten_tasters():
    alike = [Preference(t, "A", "B") for t in ("T1", "T2") for _ in range(5)] + [Preference("T3", "B", "A") for _ in range(5)]
    apart = [Preference(f"T{i}", j.winner, j.loser) for i, j in enumerate(alike)]
    wide, narrow = prefer(alike), prefer(apart)
    assert wide.widened > 1.3 and narrow.widened == 1
    assert wide.pairs[0].interval[1] - wide.pairs[0].interval[0] > narrow.pairs[0].interval[1] - narrow.pairs[0].interval[0]


def test_strengths_come_in_order_and_bad_judgements_are_refused():
    found = prefer([Preference(f"T{i}", a, b) for i in range(4) for a, b in (("A", "B"), ("B", "C"), ("A", "C"))])
    assert [s.setup for s in found.strengths] == ["A", "B", "C"]
    assert sum(s.log_strength for s in found.strengths) == pytest.approx(0, abs=1e-9)
    assert found.pairs[0].p_value == pytest.approx(2 / 16)
    for wrong in ([], [Preference("T", "A", "A")]):
        with pytest.raises(BadScores):
            prefer(wrong)


# --- repeats ---------------------------------------------------------------------------------------------------------


def duplicates(gaps, taster="T", others=(2, 9)):
    """One flight a duplicate: the same brew twice, `gap` apart, beside two other cups."""
    return [
        s
        for f, gap in enumerate(gaps)
        for s in sheet({taster: {"A": (5,), "B": (others[0],), "C": (others[1],)}}, str(f)) + sheet({taster: {"A": (5 + gap,)}}, str(f))
    ]


def test_a_repeat_sd_has_its_chi_square_interval():
    (one,) = repeats(duplicates([1, -1, 2, 0]))
    assert one.repeat_sd == pytest.approx(np.sqrt(6 / 8))
    assert one.interval == pytest.approx([np.sqrt(3 / chi2.ppf(p, 4)) for p in (0.975, 0.025)])
    assert [x / one.repeat_sd for x in one.interval] == pytest.approx([0.60, 2.87], abs=0.01)  # the page's ×0.60…2.9
    assert one.noisy_p is None and not one.flagged


def test_closer_than_chance_is_exact():
    """Two flights; in each the six pairs of four cups are 0, 3, 3, 4, 4, 7 apart: a duplicate at 0 both times is (1/6)²."""
    (one,) = repeats(duplicates([0, 0]))
    assert one.chance_p == pytest.approx((1 / 6) ** 2)


def test_only_the_noisy_taster_is_flagged_and_only_from_four_duplicates_on():
    steady = [s for i in range(5) for s in duplicates([0, 1, 0, 0], f"S{i}")]
    rows = {r.taster: r for r in repeats(steady + duplicates([4, -4, 5, 3], "N"))}
    assert rows["N"].flagged and not any(r.flagged for t, r in rows.items() if t != "N")
    assert not any(r.flagged for r in repeats(steady + duplicates([4, -4, 5], "N")) if r.taster == "N")
    assert repeats(sheet({"T": {"A": (5,), "B": (6,)}})) == ()


# --- groups ----------------------------------------------------------------------------------------------------------


def panel(rng, likes, brews=2, spread=0.7):
    return sheet({f"T{i:02}": {s: tuple(np.clip(np.round(5 + x + rng.normal(0, spread, brews)), 1, 9)) for s, x in by.items()} for i, by in enumerate(likes)})


def test_two_opposed_kinds_of_drinkers_are_found_and_named():
    a, b = {"A": 2, "B": -2, "C": 1, "D": -1}, {"A": -2, "B": 2, "C": 1, "D": -1}
    found = find_segments(panel(np.random.default_rng(3), [a] * 6 + [b] * 5))
    assert [s.best for s in found.segments] == ["A", "B"]
    assert [len(s.tasters) for s in found.segments] == [6, 5] and found.compromise == "C"
    assert found.text.startswith("Two kinds of drinkers: 6 like A best; 5 like B best.")


def test_plain_scatter_is_seldom_split():
    rng = np.random.default_rng(8)
    false = sum(bool(find_segments(panel(rng, [{s: rng.normal(0, 0.6) for s in "ABCD"} for _ in range(10)], spread=1.0)).segments) for _ in range(40))
    assert false <= 3


def test_seven_tasters_are_too_few_for_groups():
    assert find_segments(panel(np.random.default_rng(1), [{"A": 3, "B": -3}] * 4 + [{"A": -3, "B": 3}] * 3)).segments == ()
