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


ASKED = [
    ("Is the metal filter better than paper?", "filter", ("metal filter", "paper")),
    ("15, 16 or 17?", "ratio", ("1:15", "1:16", "1:17")),
    ("Which ratio, 15, 16 or 17?", "ratio", ("1:15", "1:16", "1:17")),
    ("Which ratio between 1:14 and 1:17?", "ratio", ("1:14", "1:17")),
    ("Should I use 1 to 15 or 1 to 17?", "ratio", ("1:15", "1:17")),
    ("from 1:14 to 1:17 in steps of 1", "ratio", ("1:14", "1:15", "1:16", "1:17")),
    ("1:16 to 1:15 in steps of 0.5", "ratio", ("1:16", "1:15.5", "1:15")),
    ("from 1:10 to 1:20 in steps of 0.5", "ratio", ()),  # more rungs than a trial holds
    ("brew at 92 or 96?", "temperature", ("92", "96")),
    ("Kenya at 92 or 96?", "temperature", ("92", "96")),
    ("93C or 88C?", "temperature", ("93", "88")),
    ("93 °C or 88 °C?", "temperature", ("93", "88")),
    ("90 to 96 degrees in steps of 2", "temperature", ("90", "92", "94", "96")),
    ("200F or 190F?", "temperature", ("93.3", "87.8")),
    ("200 or 190 °F?", "temperature", ("93.3", "87.8")),
    ("hot or cool water?", "temperature", ()),  # by a number, or not at all
    ("94 or 94?", None, ()),
    ("18 g or 20 g?", "ratio", ()),  # a dose: its ratio needs the water too
    ("20 or 24 clicks?", "grind_setting", ("20", "24")),
    ("grind 5, 6 or 7?", "grind_setting", ("5", "6", "7")),
    ("gooseneck or plain kettle?", "other", ("gooseneck", "plain kettle")),
    ("Which coffee: Guatemala, Peru, or Kenya?", "coffee", ("Guatemala", "Peru", "Kenya")),
    ("Which tastes best, Peru or Kenya beans?", "coffee", ("Peru", "Kenya beans")),
    ("Which coffee for this grinder, the Peru or the blend?", "coffee", ("Peru", "blend")),
    ("washed or natural coffee?", "coffee", ("washed", "natural coffee")),
    ("Is tap water worse than bottled?", "water", ("tap water", "bottled")),
    ("Soft, medium or hard water?", "water", ("Soft", "medium", "hard water")),
    ("What is the difference between felt and paper?", "filter", ("felt", "paper")),
    ("Can anyone tell paper from cloth?", "filter", ("paper", "cloth")),
    ("paper vs mesh vs cloth filter", "filter", ("paper", "mesh", "cloth filter")),
    ("at 93, white filter or felt filter?", "filter", ("white filter", "felt filter")),
    ("Does the flat bed brewer make a sweeter cup than the cone?", "brewer", ("flat bed brewer", "cone")),
    ("Does rinsing the filter matter?", "filter", ()),
    ("Is it worth 200 € or 300 €?", None, ()),
    ("Do 2 tasters agree with 3 cups?", None, ()),
]


@pytest.mark.parametrize(("question", "factor", "options"), ASKED, ids=[a[0] for a in ASKED])
def test_all_levels_of_a_question_are_heard_or_none(question, factor, options):
    found = guess(question, {})
    assert (found.factor, found.options) == (factor, options)


@pytest.mark.parametrize(
    ("question", "factors"),
    [
        ("does a better grinder matter more than better beans?", ["grinder", "coffee"]),
        ("two coffees and two doses", ["coffee", "ratio"]),
        ("92 or 90 degrees and 13 or 11 grams?", ["temperature", "ratio"]),
    ],
)
def test_a_question_of_two_factors_takes_no_level_of_either_for_the_other(question, factors):
    found = guess(question, {})
    assert ([found.factor, *found.further], found.options) == (factors, ())


@given(
    st.lists(st.integers(81, 99), min_size=2, max_size=6, unique=True),
    st.sampled_from([" °C", " degrees", "C", ""]),
    st.sampled_from(["{} at {}", "{}: {}?", "{}, {}"]),
)
def test_a_list_of_temperatures_is_heard_whole(values, unit, frame):
    said = ", ".join(map(str, values[:-1])) + f" or {values[-1]}{unit}"
    found = guess(frame.format("Brewed", said), {})
    assert (found.factor, found.options) == ("temperature", tuple(map(str, values)))


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
