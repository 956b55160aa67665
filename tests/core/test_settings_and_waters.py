"""Grinder settings translated, pairs that contradict each other, two waters blended."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.errors import Inconsistent, NotEnoughKnowns, OutOfDomain
from brasspenny.core.grinding.settings import Contradiction, GrinderScale, MatchedPair, contradictions, translate
from brasspenny.core.kit.waters import blend

DIAL = GrinderScale("dial", "dial", step=0.1)
MILL = GrinderScale("mill", "clicks")
BACK = GrinderScale("back", "dial", "larger_is_finer", step=0.5, finest=64)
SCALES = {s.name: s for s in (DIAL, MILL, BACK)}


def pair(a, x, b, y, match="sieve_median", pid=""):
    return MatchedPair(a, x, b, y, match, "2026-09-02", pid)


PAIRS = [pair("dial", 5, "mill", 17), pair("dial", 6, "mill", 20), pair("dial", 7, "mill", 25, "brew_time")]
TURNED = [pair("dial", 5, "back", 62), pair("dial", 7, "back", 50)]


def test_between_two_matches_it_is_a_straight_line_on_the_other_scale_both_ways():
    there = translate(5.5, DIAL, MILL, PAIRS, SCALES)
    assert (there.setting, there.nearest, there.matches) == (18.5, 18, ("sieve_median",))
    assert there.low < 18.5 < there.high and len(there.evidence) == 2
    assert translate(18.5, MILL, DIAL, PAIRS, SCALES).setting == pytest.approx(5.5)


def test_a_scale_where_larger_is_finer_runs_the_other_way():
    assert translate(6, DIAL, BACK, TURNED, SCALES).setting == 56
    assert translate(53, BACK, DIAL, TURNED, SCALES).setting == pytest.approx(6.5)


@pytest.mark.parametrize("setting", [4.9, 7.1])
def test_nothing_is_extrapolated(setting):
    with pytest.raises(OutOfDomain, match="outside"):
        translate(setting, DIAL, MILL, PAIRS, SCALES)


def test_a_weaker_kind_of_match_answers_with_a_wider_spread():
    def width(kind):
        found = translate(5.5, DIAL, MILL, [pair("dial", 5, "mill", 17, kind), pair("dial", 6, "mill", 20, kind)], SCALES)
        return found.high - found.low

    assert width("sieve_median") < width("brew_time") < width("by_eye")


def test_repeats_of_one_match_widen_it_by_how_far_they_lie_apart():
    found = translate(5, DIAL, MILL, [*PAIRS, pair("dial", 5, "mill", 11)], SCALES)
    assert found.setting == 14 and found.high - found.low >= 6 > 2 * (translate(5, DIAL, MILL, PAIRS, SCALES).high - 17)


def test_one_grinder_between_is_allowed_said_and_wider():
    found = translate(20, MILL, BACK, [*PAIRS, *TURNED], SCALES)
    assert (found.through, found.setting) == ("dial", 56) and len(found.evidence) == 3
    direct = translate(6, DIAL, BACK, TURNED, SCALES)
    assert found.high - found.low > direct.high - direct.low
    with pytest.raises(NotEnoughKnowns, match="no matched setting leads"):
        translate(20, MILL, BACK, PAIRS, SCALES)


def test_finer_than_usable_is_said():
    pairs = [pair("dial", 5, "back", 70), pair("dial", 7, "back", 60)]
    assert any("Finer than back is usable" in w for w in translate(5.2, DIAL, BACK, pairs, SCALES).warnings)
    assert not translate(6.8, DIAL, BACK, pairs, SCALES).warnings


def test_pairs_that_turn_back_are_refused_with_the_pairs_at_fault():
    bad = [pair("dial", 5, "mill", 17, pid="one"), pair("dial", 6, "mill", 15, pid="two"), pair("dial", 7, "mill", 25, pid="three")]
    with pytest.raises(Contradiction) as caught:
        translate(5.5, DIAL, MILL, bad, SCALES)
    assert {p.id for p in caught.value.pairs} == {"one", "two"} and "dial 6 = mill 15" in str(caught.value)
    assert not contradictions(PAIRS, SCALES)


def test_a_ring_that_does_not_close_is_named_and_one_that_does_is_not():
    closing = [*PAIRS, *TURNED, pair("mill", 20, "back", 56, pid="ring")]
    assert not contradictions(closing, SCALES)
    found = contradictions([*PAIRS, *TURNED, pair("mill", 20, "back", 70, pid="ring")], SCALES)
    assert found and any(p.id == "ring" for p in found[0].pairs)


@given(st.floats(5, 7), st.floats(5, 7))
def test_a_coarser_setting_never_translates_to_a_finer_one(x, y):
    a, b = sorted((x, y))
    assert translate(a, DIAL, MILL, PAIRS, SCALES).setting <= translate(b, DIAL, MILL, PAIRS, SCALES).setting + 1e-9
    assert translate(a, DIAL, BACK, TURNED, SCALES).setting >= translate(b, DIAL, BACK, TURNED, SCALES).setting - 1e-9


HARD, SOFT = {"hardness_mg_l": 220, "alkalinity_mg_l": 160}, {"hardness_mg_l": 20, "alkalinity_mg_l": 12}


def test_two_waters_meet_one_target_exactly():
    found = blend(HARD, SOFT, {"hardness_mg_l": 80})
    assert found.first_share == pytest.approx(0.3) and found.reached
    assert found.got["alkalinity_mg_l"] == pytest.approx(0.3 * 160 + 0.7 * 12)


def test_two_targets_that_do_not_go_together_are_met_as_well_as_they_can():
    found = blend(HARD, SOFT, {"hardness_mg_l": 120, "alkalinity_mg_l": 40})
    assert not found.reached and found.off["hardness_mg_l"] < 0 < found.off["alkalinity_mg_l"] and found.notes
    miss = sum((found.off[q] / t) ** 2 for q, t in (("hardness_mg_l", 120), ("alkalinity_mg_l", 40)))
    for other in (found.first_share - 0.01, found.first_share + 0.01):
        off = {q: other * HARD[q] + (1 - other) * SOFT[q] - t for q, t in (("hardness_mg_l", 120), ("alkalinity_mg_l", 40))}
        assert sum((off[q] / t) ** 2 for q, t in (("hardness_mg_l", 120), ("alkalinity_mg_l", 40))) > miss


def test_a_target_outside_both_waters_or_of_an_unknown_quality_is_refused():
    with pytest.raises(Inconsistent, match="20 to 220"):
        blend(HARD, SOFT, {"hardness_mg_l": 300})
    with pytest.raises(NotEnoughKnowns, match="not known"):
        blend(HARD, SOFT, {"minerals_mg_l": 100})
    with pytest.raises(NotEnoughKnowns, match="no target"):
        blend(HARD, SOFT, {})
