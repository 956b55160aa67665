"""Pours typed in a line: their shape outlives scaling, their spans end on the dial, and what cannot be followed is refused."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.errors import Inconsistent, OutOfDomain
from brasspenny.core.grinding.settings import GrinderScale
from brasspenny.core.recipe.document import from_document, to_document
from brasspenny.core.recipe.fitting import fitted, plain_pour
from brasspenny.core.recipe.model import sums
from brasspenny.core.recipe.pours import pours_as_recipe
from brasspenny.core.recipe.writing import same_pours

GIVEN = {"dose_g": 18, "brew_water_g": 290, "bypass_g": 0, "temperature_c": 93, "brewer_type": "flat_bed"}
TYPED = "bloom 45 for 40 s, to 170, to 290 by 1:40"


@given(water_g=st.integers(180, 420), dose_g=st.integers(12, 30))
def test_the_same_pours_keep_their_shape_at_any_amount(water_g, dose_g):
    """What the control bars hold against each other: else every ladder of ratios would crack."""
    typed = pours_as_recipe(TYPED, GIVEN)
    scaled = fitted(typed, dose_g=dose_g, brew_water_g=water_g, bypass_g=0, temperature_c=93)
    assert same_pours(scaled, typed) and same_pours(typed, scaled)
    assert sums(scaled).poured_g == pytest.approx(water_g, abs=0.2)


@given(bloom_g=st.integers(30, 80))
def test_another_bloom_is_other_pours_beyond_half_a_part_in_a_hundred(bloom_g):
    a, b = (pours_as_recipe(f"bloom {g} for 40 s, to 290 by 1:40", GIVEN) for g in (45, bloom_g))
    assert same_pours(a, b) == (abs(bloom_g - 45) / 290 <= 0.005)


@pytest.mark.parametrize(
    "other", ["bloom 45 for 45 s, to 170, to 290 by 1:40", "bloom 45 for 40 s, to 290 by 1:40", "bloom 45 for 40 s, to 170, to 290 by 1:50"]
)
def test_other_times_or_steps_are_other_pours(other):
    assert not same_pours(pours_as_recipe(TYPED, GIVEN), pours_as_recipe(other, GIVEN))


def test_what_the_setup_says_comes_along_and_it_ends_when_the_drips_stop():
    got = pours_as_recipe(TYPED, GIVEN | {"bypass_g": 40})
    assert (got.dose_g, got.temperature_c, got.brewer_type, got.ends) == (18, 93, "flat_bed", "drips_stop")
    assert (got.steps[-1].kind, sums(got).bypass_g, sums(got).poured_g) == ("bypass", 40, 290)
    assert pours_as_recipe("", GIVEN) is None
    assert from_document(to_document(got)) == got


@pytest.mark.parametrize("text", ["swirl it somehow", "to the brim", "for 40 s"])
def test_what_is_not_understood_is_named_with_an_example_to_type(text):
    with pytest.raises(OutOfDomain) as refused:
        pours_as_recipe(text, GIVEN)
    assert refused.value.field == "pours" and "bloom 45 for 40 s" in refused.value.remedy


@pytest.mark.parametrize("text", ["bloom 45 for 40 s, to 300 by 1:40", "to 170 by 1:00, to 290 by 0:50"])
def test_pours_that_cannot_be_true_together_are_refused_with_the_reason(text):
    with pytest.raises(Inconsistent) as refused:
        pours_as_recipe(text, GIVEN)
    assert refused.value.field == "pours" and refused.value.reason and refused.value.remedy


@given(dose_g=st.floats(10, 40), ratio=st.floats(10, 18), bypass_g=st.sampled_from([0, 30.0]))
def test_without_pours_one_pour_of_all_the_water_and_no_bloom(dose_g, ratio, bypass_g):
    plain = plain_pour(dose_g, dose_g * ratio, bypass_g, None)
    assert [s.kind for s in plain.steps] == ["pour"] + ["bypass"] * bool(bypass_g)
    assert sums(plain).poured_g == pytest.approx(dose_g * ratio, abs=0.06)


@given(low=st.floats(0, 40), width=st.floats(0, 6), kind=st.sampled_from(["clicks", "dial", "stepless", "marks", "letters"]), marks=st.integers(2, 10))
def test_a_span_ends_on_settings_the_dial_has_and_leaves_nothing_out(low, width, kind, marks):
    dial = GrinderScale("x", kind, marks=marks)
    first, last = dial.around(low, low + width)
    assert first <= low + 1e-3 and last >= low + width - 1e-3
    assert low - first <= dial.grain + 1e-3 and last - (low + width) <= dial.grain + 1e-3
    for end in (first, last):
        assert end / dial.grain == pytest.approx(round(end / dial.grain), abs=1e-2)
