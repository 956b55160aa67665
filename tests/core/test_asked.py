"""What a question is about, guessed from its words."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.trial.asked import LONGEST_OPTION, guess
from brasspenny.core.units import read_ratio
from brasspenny.core.vocabulary import FACTOR_KINDS

KIT = {"White weave": "filter", "White weave, thick": "filter", "Capstan hand mill": "grinder", "Quay blend": "water"}


@pytest.mark.parametrize(
    "question, factor, options",
    [
        ("White weave or White weave, thick?", "filter", ("White weave", "White weave, thick")),
        ("Is the Capstan hand mill worth it?", "grinder", ()),
        ("Which is better, the old burrs or the new ones?", "grinder", ("old burrs", "new ones")),
        ("1 : 15 against 1:17.5", "ratio", ("1:15", "1:17.5")),
        ("93 or 96 °C?", "temperature", ("93", "96")),
        ("Bean or filter?", "coffee", ()),
        ("Tap or bottled water?", "water", ("Tap", "bottled water")),
        ("Should we brew hotter?", "temperature", ()),
        ("What shall we do on Sunday?", None, ()),
        ("", None, ()),
    ],
)
def test_a_guess_follows_the_words(question, factor, options):
    found = guess(question, KIT)
    assert (found.factor, found.options) == (factor, options)


@pytest.mark.parametrize(
    "question, factors",
    [
        ("What matters more, the bean or the grinder?", ["coffee", "grinder"]),
        ("Coffee or water for this one?", ["coffee", "water"]),
        ("Which water and which filter?", ["water", "filter"]),
        ("Temperature, ratio or grind?", ["temperature", "ratio", "grind_setting"]),
        ("Finer grind or hotter water?", ["grind_setting", "temperature"]),
        ("Is a new grinder or a new filter worth it?", ["grinder"]),  # things of two kinds: which, nobody can tell
        ("Tap or bottled water?", ["water"]),
        ("Which coffee for this grinder, the Peru or the blend?", ["coffee"]),
    ],
)
def test_kinds_set_against_one_another_are_several_factors(question, factors):
    found = guess(question, KIT)
    assert [found.factor, *found.further] == factors


@given(st.text(max_size=200))
def test_whatever_is_asked_a_guess_is_a_factor_or_none_and_its_options_fit_their_fields(question):
    found = guess(question, KIT)
    assert found.factor is None or found.factor in {f.code for f in FACTOR_KINDS}
    assert all(0 < len(o) <= LONGEST_OPTION for o in found.options) and len(set(found.options)) == len(found.options)
    assert found.factor is not None or not found.options


@given(st.floats(1, 40))
def test_a_ratio_reads_back(ratio):
    assert read_ratio(f"1:{ratio:.1f}") == round(ratio, 1)


@pytest.mark.parametrize("text", ["", "1:", "0.5", "1:41", "a lot", "1:-3", "15:1"])
def test_what_is_no_ratio_is_refused_with_an_example(text):
    with pytest.raises(Exception, match="such as 1:16"):
        read_ratio(text)
