"""How flights are laid out and asked, the seal, the shelf, the table's caveats: properties and plain facts."""

import random
from collections import Counter
from itertools import combinations, permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.judging.discrimination import GUESS_RATE
from brasspenny.core.judging.evidence import CAPS
from brasspenny.core.judging.position import position_effects
from brasspenny.core.judging.scores import Score
from brasspenny.core.tasting.flights import DISCRIMINATION, METHOD_ABOUT, METHOD_NAMES, balanced_by, costs, is_right, lay_rounds, load, picks_wanted, propose
from brasspenny.core.tasting.seal import commitment, holds, key_text
from brasspenny.core.tasting.sheets import ITEMS, refuse_value
from brasspenny.core.tasting.words import SHELF, count_words, words_of
from brasspenny.core.trial.caveats import AtTable, at_table, uneven_cups

TWO = {"A": ["a1", "a2"], "B": ["b1"]}


@given(st.sampled_from(sorted(DISCRIMINATION)), st.integers(1, 3), st.integers(0, 999))
def test_every_round_holds_both_setups_as_its_method_wants(method, rounds, seed):
    laid = lay_rounds(method, TWO, rounds=rounds, duplicates=(), rng=random.Random(seed))
    assert len(laid) == rounds
    for i, r in enumerate(laid):
        counts = sorted(Counter(b[0] for b in r.brews).values())
        assert counts == {"triangle": [1, 2], "tetrad": [2, 2]}.get(method, [1, 1])
        assert {b for b in r.brews if b[0] == "a"} == {f"a{1 + i % 2}"}  # replicate brews take their turn
        assert (r.reference is not None) == (method == "duo_trio") and (r.reference is None or r.reference in r.brews)


def test_two_triangles_double_each_setup_once():
    laid = lay_rounds("triangle", TWO, rounds=2, duplicates=(), rng=random.Random(1))
    assert sorted(Counter(b[0] for b in r.brews)["a"] for r in laid) == [1, 2]


@pytest.mark.parametrize("method", sorted(DISCRIMINATION))
def test_guessing_is_right_at_the_methods_guess_rate(method):
    """Over every way the cups may stand and every answer there is."""
    laid = lay_rounds(method, TWO, rounds=1, duplicates=(), rng=random.Random(3))[0]
    answers = list(combinations("1234"[: len(laid.brews)], picks_wanted(method)))
    rights = [
        is_right(method, answer, dict(zip("1234", order, strict=False)), reference=laid.reference, stronger="b1")
        for order in permutations(laid.brews)
        for answer in answers
    ]
    assert sum(rights) / len(rights) == pytest.approx(GUESS_RATE[method])


def test_scores_hide_duplicates_and_paired_meets_every_pair():
    assert lay_rounds("scores", TWO, rounds=1, duplicates={"b1"}, rng=random.Random(1))[0].brews == ("a1", "a2", "b1", "b1")
    pairs = lay_rounds("paired", TWO | {"C": ["c1"]}, rounds=1, duplicates=(), rng=random.Random(1))
    assert [{b[0] for b in r.brews} for r in pairs] == [{"a", "b"}, {"a", "c"}, {"b", "c"}]


@pytest.mark.parametrize(
    ("method", "brews", "rounds", "duplicates", "error"),
    [
        ("triangle", TWO | {"C": ["c"]}, 1, (), Inconsistent),
        ("triangle", TWO, 5, (), OutOfDomain),
        ("triangle", TWO, 1, {"b1"}, Inconsistent),
        ("ranking", TWO, 1, {"b1"}, Inconsistent),
        ("scores", {s: [s + str(i) for i in range(7)] for s in "ab"}, 1, (), OutOfDomain),
    ],
)
def test_what_cannot_be_laid_out_is_refused(method, brews, rounds, duplicates, error):
    with pytest.raises(error):
        lay_rounds(method, brews, rounds=rounds, duplicates=duplicates, rng=random.Random(1))


def test_the_load_grows_with_what_is_asked_and_warns():
    base = load("scores", cups=4, rounds=1, tasters=4, attributes=3, balanced_by=4)
    assert load("scores", cups=4, rounds=1, tasters=4, attributes=3, passes=2, jar=1, guess=True, sip_temperature=True).touches == 4 * 7 * 2 + 4
    assert load("ranking", cups=4, rounds=1, tasters=4, guess=True).touches == load("ranking", cups=4, rounds=1, tasters=4).touches + 4
    assert base.minutes < load("scores", cups=4, rounds=1, tasters=4, attributes=3, rest_s=60, balanced_by=4).minutes
    assert not base.notes and any("tire" in n for n in load("scores", cups=9, rounds=1, tasters=9, balanced_by=9).notes)
    strong = load("scores", cups=8, rounds=1, tasters=8, doses=[(30, 30)] * 8, balanced_by=8)
    assert strong.caffeine_mg[1] > 200 and "spit" in strong.notes[-1]
    assert "prove nothing" in load("triangle", cups=3, rounds=1, tasters=2).notes[0]
    assert "not independent" in load("triangle", cups=6, rounds=2, tasters=4).notes[0]


def test_the_method_proposed_follows_the_question():
    def proposed(**more):
        return propose(**({"setups": 2, "ladder": False, "tds_gap_pct": None, "ey_gap_pct": None, "told_apart": None} | more)).method

    assert proposed() == "scores" and proposed(setups=5, ladder=True) == "scores"
    assert proposed(tds_gap_pct=0.01, ey_gap_pct=0.2) == "triangle" and proposed(tds_gap_pct=0.2, ey_gap_pct=0.2) == "scores"
    assert proposed(tds_gap_pct=0.01, ey_gap_pct=0.2, told_apart=True) == "scores" and proposed(told_apart=False) == "paired"
    assert proposed(setups=7) == "ranking" and set(METHOD_NAMES) == set(METHOD_ABOUT)


def test_what_leavers_and_joiners_cost_is_said():
    said = costs(cups=4, finished=3, joined_late=["Bo"], left={"Iwan": 2, "Marek": 0}, late_scores=1)
    assert (
        "Bo joined late" in said[0]
        and "after 2 of 4" in said[1]
        and "nothing of theirs" in said[2]
        and "3 whole sheets" in said[3]
        and "1 score came" in said[4]
    )
    assert costs(cups=4, finished=4, joined_late=[], left={}, late_scores=0) == () and [balanced_by(n) for n in (1, 2, 3, 4)] == [1, 2, 6, 4]


# --- seal, sheet, shelf -------------------------------------------------------------------------------------------------


@given(st.dictionaries(st.from_regex(r"[1-9]\d\d", fullmatch=True), st.integers(1, 12), min_size=2, max_size=12), st.integers(0, 2**256 - 1))
def test_a_seal_holds_for_its_own_key_and_no_other(key, bits):
    nonce = f"{bits:064x}"
    committed = commitment(key, nonce)
    assert holds(key, nonce, committed) and holds(dict(reversed(key.items())), nonce, committed)
    code = min(key)
    assert not holds(key | {code: key[code] + 1}, nonce, committed) and not holds(key, f"{(bits + 1) % 2**256:064x}", committed)
    assert key_text(key, nonce).startswith(nonce + "|")


def test_touches_are_refused_off_their_scale_and_clearing_never_is():
    good = {"liking": 5.5, "rank": 3, "told_by_eye": 1, "sip_c": 48.5, "jar_body": -2, "words": None, "pick": None, "guess": None}
    bad = {"liking": 9.5, "rank": 2.5, "told_by_eye": 2, "sip_c": 120, "jar_body": 0.5, "words": 1, "pick": 1, "guess": 1}
    assert all(refuse_value(item, value) is None for item, value in good.items())
    assert all(refuse_value(item, value) for item, value in bad.items())
    assert all(refuse_value(item, None) is None for item in ITEMS)


def test_the_shelf_has_fifteen_groups_and_no_word_twice():
    words = [w for group in SHELF.values() for w in group]
    assert len(SHELF) == 15 and len(words) == len(set(words)) and all(words_of(w) == [w] for w in words)
    assert count_words(["Lime; black  tea", "lime, LIME", ""]) == [("lime", 2), ("black tea", 1)]


# --- the margin --------------------------------------------------------------------------------------------------------


def test_each_thing_at_the_table_is_a_caveat_that_the_grade_knows():
    assert at_table(AtTable()) == () and uneven_cups(2.9) == ()
    everything = AtTable(by_eye=["Bo"], no_cleanser=True, host_saw_key=True, broken=True, sip_spread_c=6.2, cold_c=33, late=2)
    codes = [c.code for c in (*at_table(everything), *uneven_cups(4.2))]
    assert codes == ["blindness_broken", "told_by_eye", "host_saw_key", "unequal_first_sip", "cold_cups", "no_cleanser", "late_scores", "spread_temperature"]
    assert set(codes) <= set(CAPS)
    assert [c.code for c in at_table(AtTable(clear_cups=True, left=["Iwan"], sip_spread_c=2))] == ["clear_cups", "taster_left"]


def test_a_place_in_the_order_that_moves_liking_is_found():
    """Williams-like: every cup at every place; the first place lifts by one."""
    orders = ("ABC", "BCA", "CAB", "ACB", "BAC", "CBA")
    liking = {"A": 6, "B": 5, "C": 4}
    placed = [(Score("F", f"T{t}", s, s, "", liking[s] + t % 3 + (i == 0)), i + 1) for t, order in enumerate(orders) for i, s in enumerate(order)]
    found = position_effects(placed)
    assert [round(p.effect, 3) for p in found] == [0.667, -0.333, -0.333] and all(p.half_width < 1e-6 for p in found)
    assert position_effects(placed[:1]) == ()
