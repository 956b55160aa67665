"""Conversions, durations, boiling and cooling."""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core import figures, units
from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.kit import heat

PAIRS = [(a, b) for a in units.UNITS for b in units.UNITS if units.UNITS[a].dimension == units.UNITS[b].dimension]


@given(st.sampled_from(PAIRS), st.floats(0.01, 1e6))
def test_units_round_trip(pair, value):
    there = units.convert(value, *pair)
    assert units.convert(there, *reversed(pair)) == pytest.approx(value, rel=1e-9)


@pytest.mark.parametrize(
    ("value", "a", "b", "expected"),
    [
        (212, "f", "c", 100), (1, "oz", "g", 28.349523), (1, "us_fl_oz", "ml", 29.5735), (1, "dh", "mg_l_caco3", 17.848),
        (1, "fh", "mg_l_caco3", 10), (1, "gpg", "mg_l_caco3", 17.118), (1, "mmol_l", "mg_l_caco3", 100.09), (16, "brew_ratio", "g_per_l", 62.5),
        (16, "brew_ratio", "g_per_100g", 6.25), (65, "s", "min", 65 / 60), (1.6, "brix", "tds_pct", 1.36),
    ],
)  # fmt: skip
def test_the_documented_conversions(value, a, b, expected):
    assert units.convert(value, a, b) == pytest.approx(expected, rel=1e-6)


def test_a_millilitre_of_boiling_water_weighs_four_per_cent_less():
    assert units.convert(100, "ml", "g", water_temp_c=20) == pytest.approx(99.82, abs=0.01)
    assert units.convert(100, "ml", "g", water_temp_c=100) == pytest.approx(95.84, abs=0.02)


@pytest.mark.parametrize(
    ("value", "a", "b", "error"),
    [(-300, "c", "f", OutOfDomain), (0, "brew_ratio", "g_per_l", OutOfDomain), (-1, "g", "oz", OutOfDomain), (1, "g", "c", Inconsistent)],
)
def test_impossible_conversions_are_refused(value, a, b, error):
    with pytest.raises(error):
        units.convert(value, a, b)


@pytest.mark.parametrize("text", ["", "abc", "1:75", "-5", "1:2:3:4", "5 apples", "9" * 30])
def test_what_is_not_a_duration_is_refused(text):
    with pytest.raises(OutOfDomain):
        units.read_duration_s(text)


@given(st.integers(0, 35_999))
def test_a_duration_written_is_read_back(seconds):
    assert units.read_duration_s(units.write_duration(seconds)) == seconds


def test_boiling_points_of_the_documents():
    assert [round(heat.boiling_point_c(h), 1) for h in (0, 800, 1600, 2600)] == [100.0, 97.3, 94.7, 91.4]


@given(st.floats(0, 40), st.floats(45, 100), st.floats(300, 6000), st.floats(60, 1500))
def test_two_readings_of_a_cooling_cup_give_back_its_time_constant(ambient, start, tau, later):
    second = heat.temperature_after_c(ambient_c=ambient, start_c=start, tau_s=tau, elapsed_s=later)
    found = heat.fit_cooling(ambient_c=ambient, first=(0, start), second=(later, second), elapsed_s=900)
    assert found.tau_s == pytest.approx(tau, rel=1e-6)
    assert found.temp_c == pytest.approx(heat.temperature_after_c(ambient_c=ambient, start_c=start, tau_s=tau, elapsed_s=900))


@pytest.mark.parametrize(("first", "second"), [((0, 60), (0, 50)), ((0, 60), (60, 61)), ((0, 60), (60, 20)), ((0, 22), (60, 22))])
def test_readings_that_do_not_cool_are_refused(first, second):
    with pytest.raises(Inconsistent):
        heat.fit_cooling(ambient_c=22, first=first, second=second, elapsed_s=0)


ROUNDING = json.loads((Path(__file__).parents[2] / "web/src/tests/rounding.json").read_text())


@pytest.mark.parametrize(("value", "places", "said"), ROUNDING)
def test_halves_are_rounded_as_the_interface_rounds_them(value, places, said):
    assert figures.to_places(value, places).replace("-", "−") == said


@given(st.integers(1, 8), st.lists(st.sampled_from([x / 2 for x in range(2, 19)]), min_size=2, max_size=12))
def test_a_mean_of_half_points_is_told_the_same_however_it_was_gathered(parts, scores):
    """Sums of another order differ in their last bit, and a mean that lies on a half would be told two ways."""
    straight = sum(scores) / len(scores)
    by_parts = sum(s / len(scores) for s in scores[::-1])
    told = {figures.points(x) for x in (straight, by_parts, straight * (1 + parts * 1e-15), straight * (1 - parts * 1e-15))}
    assert len(told) == 1
