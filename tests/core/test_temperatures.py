"""What a thermometer can hardly have read, and what is wrong with the cups."""

import math

from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.tasting.temperatures import FASTEST_TAU_S, SLACK_C, below, cups_said, unlikely
from brasspenny.core.vocabulary import PASSES

CELSIUS = st.floats(25, 95)


@given(CELSIUS, st.floats(FASTEST_TAU_S, 4000), st.floats(0, 3600), st.floats(-SLACK_C, SLACK_C))
def test_no_cup_that_cools_by_the_law_is_doubted(before, tau_s, apart_s, off):
    now = 21 + (before - 21) * math.exp(-apart_s / tau_s) + off * 0.99
    assert unlikely(before, now, apart_s=apart_s, ambient_c=21) == ""


@given(st.floats(50, 95), st.floats(0, 20))
def test_half_the_warmth_gone_in_twenty_seconds_is_asked_again(before, apart_s):
    assert "no cup cools so fast" in unlikely(before, 21 + (before - 21) / 2, apart_s=apart_s, ambient_c=21)
    assert "does not warm up" in unlikely(before - 10, before, apart_s=apart_s, ambient_c=21)


def test_a_reading_below_a_pass_ends_it():
    hot, warm, cool = PASSES
    assert below(hot.to_c - 1, ["hot", "warm"]) == ("hot",) and below(hot.to_c, ["hot"]) == ()
    assert below(10, ["hot", "warm", "cool"]) == ("hot", "warm", "cool") and below(10, []) == ()


def test_cold_and_uneven_cups_are_said_and_even_ones_are_not():
    assert cups_said({"417": 50, "736": 49}, ["warm"]) == () and cups_said({}, ["warm"]) == ()
    uneven, cold, scalding = cups_said({"417": 70, "736": 40}, ["warm"])
    assert "30 °C cooler than cup 417" in uneven and "Cup 736 is at 40 °C, below the 42 °C" in cold and "above 65 °C scalds" in scalding
    assert not any("below" in said for said in cups_said({"417": 41, "736": 40}, ["warm", "cool"]))  # the next pass is still to come
