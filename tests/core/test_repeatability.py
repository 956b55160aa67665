"""A bench's own repeatability: near the truth, and honest for a drink that is read once."""

import numpy as np
import pytest

from brasspenny.core.extraction.uncertainty import USUAL_REPEATABILITY_PCT, Instrument, repeatability_of, strength_of


@pytest.mark.parametrize("true_sd", [0.006, 0.015, 0.04, 0.08])
@pytest.mark.parametrize(("drinks", "readings"), [(20, 2), (10, 3), (100, 3)])
def test_the_intervals_of_single_readings_hold_on_an_instrument_unlike_the_usual(true_sd, drinks, readings):
    """400 benches each: with its own repeatability a lone reading's interval holds in 92 % or more; with the usual one it fails on a poor instrument."""
    draws = np.random.default_rng(7)
    own_holds = usual_holds = 0
    for _ in range(400):
        past = draws.normal(1.4, true_sd, (drinks, readings))
        squares = float(((past - past.mean(axis=1, keepdims=True)) ** 2).sum())
        own = repeatability_of(squares, drinks, drinks * (readings - 1))
        assert own is not None
        read = float(draws.normal(1.4, true_sd))
        # an instrument that is off by nothing but this, so that nothing else widens the interval
        own_holds += _holds(read, own.sd_pct)
        usual_holds += _holds(read, USUAL_REPEATABILITY_PCT)
    assert own_holds >= 0.92 * 400 - 2 * np.sqrt(400 * 0.92 * 0.08), own_holds
    if true_sd >= 0.04:
        assert usual_holds < 0.6 * 400


def _holds(read_pct: float, sd_pct: float) -> bool:
    low, high = strength_of([read_pct], Instrument(accuracy_pct=0, resolution_pct=0, repeatability_pct=sd_pct)).estimate.interval
    return low <= 1.4 <= high


def test_few_readings_say_no_more_than_the_usual_and_like_ones_do_not_make_it_exact():
    assert repeatability_of(0.5, 19, 19) is None
    assert repeatability_of(0.0, 1000, 5000).sd_pct == 0.005
