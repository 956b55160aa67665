"""Two setups' yields compared, and cups brought to one strength."""

import math
from dataclasses import replace

import numpy as np
import pytest

from benchmarks.false_different import share_false, side
from brasspenny.core.errors import Inconsistent, NotEnoughKnowns, OutOfDomain
from brasspenny.core.extraction.comparing import compare_yields
from brasspenny.core.extraction.dilution import Server, match_strengths
from brasspenny.core.extraction.measure import Brew
from brasspenny.core.extraction.uncertainty import Instrument

TOOL = Instrument()


def brews(*strengths, beverage=248.0, water=290.0):
    return [(Brew(18, water, beverage), [c - 0.01, c, c + 0.01]) for c in strengths]


def compare(first, second, **how):
    return compare_yields(("A", first), ("B", second), **({"yield_basis": "in_cup", "instrument": TOOL} | how))


def test_19_6_and_19_9_are_one_yield():
    found = compare(brews(1.42), brews(1.44))
    assert (round(found.first.ey.estimate.value, 2), round(found.first.ey.estimate.half_width, 1)) == (19.56, 0.5)
    assert found.verdict == "same" and found.single and "single brew" in found.text


def test_the_shared_instrument_error_cancels_but_for_the_ratio_of_the_drinks():
    one_ratio = compare(brews(1.42, 1.43), brews(1.42, 1.43))
    other_ratio = compare(brews(1.42, 1.43), [(Brew(18, 360, 318), r) for _, r in brews(1.10, 1.11)])
    rest = TOOL.u_accuracy_pct * abs(248 / 18 - 318 / 18)
    between = [((13.78 * 0.01) / math.sqrt(2) / math.sqrt(2), k) for k in (1, 1)]
    assert one_ratio.difference.u == pytest.approx(math.hypot(*(b for b, _ in between)), rel=0.01)
    assert other_ratio.difference.u > math.hypot(rest, one_ratio.difference.u / math.sqrt(2))
    assert compare(brews(1.42), brews(1.42), instrument=Instrument(accuracy_pct=0.5)).difference.u < 0.2


def test_brew_to_brew_scatter_carries_the_interval_and_can_leave_it_open():
    steady, wild = brews(1.41, 1.42, 1.43), brews(1.30, 1.45, 1.60)
    assert compare(steady, brews(1.60, 1.61, 1.62)).verdict == "different"
    assert compare(steady, wild).verdict == "cannot_tell" and "Cannot tell" in compare(steady, wild).text
    alone = compare(brews(1.42), wild)  # one brew borrows the scatter known from the other side
    assert alone.single and alone.difference.half_width > compare(brews(1.42), brews(1.42)).difference.half_width


def test_yield_bases_are_not_mixed_and_what_is_missing_is_named():
    full = compare(brews(1.42), brews(1.42), yield_basis="full_liquor")
    assert full.first.ey.estimate.value > compare(brews(1.42), brews(1.42)).first.ey.estimate.value
    with pytest.raises(NotEnoughKnowns) as caught:
        compare([(Brew(18, None, 248), [1.42])], brews(1.42), yield_basis="full_liquor")
    assert caught.value.field == "first.brews.0.brew_water_g"
    with pytest.raises(NotEnoughKnowns) as caught:
        compare(brews(1.42), [(Brew(18, 290, 248), [])])
    assert caught.value.field == "second.brews.0.tds_readings_pct"
    with pytest.raises(OutOfDomain) as caught:
        compare([(Brew(18, 290, 248), [1.42, 9])], brews(1.42))
    assert caught.value.field == "first.brews.0.tds_readings_pct.1"


def test_cups_are_thinned_to_the_weakest_and_keep_their_solids():
    found = match_strengths([Server("A", 210, 1.52, 70), Server("B", 215, 1.38, 71), Server("C", 205, 1.44, 69)], water_c=60)
    assert found.target_tds_pct == 1.38 and found.needed and found.apart_tds_pct == pytest.approx(0.14)
    assert [round(s.add_water_g, 1) for s in found.servers] == [21.3, 0.0, 8.9]
    for s, (grams, tds) in zip(found.servers, ((210, 1.52), (215, 1.38), (205, 1.44)), strict=True):
        assert s.final_beverage_g * s.final_tds_pct == pytest.approx(grams * tds)
    assert found.servers[0].mixed_c == pytest.approx((210 * 70 + 21.304 * 60) / 231.304, abs=0.01) and found.servers[1].mixed_c == 71
    assert not match_strengths([Server("A", 210, 1.42), Server("B", 210, 1.38)]).needed
    with pytest.raises(Inconsistent, match="water cannot strengthen it"):
        match_strengths([Server("A", 210, 1.52), Server("B", 215, 1.38)], target_tds_pct=1.4)


@pytest.mark.parametrize(("brews", "readings", "step_g"), [((1, 1), 1, 1.0), ((1, 1), 3, 0.5), ((2, 2), 1, 1.0), ((3, 3), 1, 0.1), ((1, 3), 2, 0.01)])
def test_equal_yields_are_seldom_called_different(brews, readings, step_g):
    """A cell of benchmarks/false_different.py: 5 % and three standard errors."""
    pairs = 300
    assert share_false(pairs, brews, readings, step_g) <= 0.05 + 3 * math.sqrt(0.05 * 0.95 / pairs)


def test_yields_that_differ_are_still_told_apart():
    """Two points of yield, three brews each at a good scale: eight times in ten and more."""
    rng, told = np.random.default_rng(5), 0
    for _ in range(100):
        first, second = side(rng, 3, 3, 0.1, 0.0, 0.3), side(rng, 3, 3, 0.1, 0.0, 0.3)
        second = [(replace(b, dose_g=round(b.dose_g * 20 / 22, 1)), read) for b, read in second]
        told += compare_yields(("A", first), ("B", second), yield_basis="in_cup", instrument=Instrument()).verdict == "different"
    assert told >= 80
