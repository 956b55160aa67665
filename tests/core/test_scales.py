"""Several scales: what a reading means after a transfer, what is asked, and what the sentences say."""

import pytest

from brasspenny.core.recipe.describe import sentences
from brasspenny.core.recipe.lint import lint
from brasspenny.core.recipe.model import sums
from brasspenny.core.recipe.reading import read
from brasspenny.core.recipe.readings import stands
from brasspenny.core.recipe.writing import write

DECANTED = "15.5 g, in a jug steep, at 94 °C, pour to 105 g, wait by 1:00, transfer zeroed empty, pour to 245 g, drips stop, done by 3:00"


def found(text):
    return {f.code: f for f in lint(read(text).recipe)}


def test_coffee_in_an_empty_zeroed_dripper_counts():
    transfer = read(DECANTED).recipe.steps[2]
    assert transfer.kind == "transfer"
    assert [s.slurry_g for s in stands(read(DECANTED).recipe)][2] == pytest.approx(120.5)
    assert sentences(read(DECANTED).recipe)[2] == "Pour into the dripper; zeroed empty, the scale should read 120.5 g"


def test_a_target_after_the_transfer_is_asked_and_both_answers_stand():
    asked = found(DECANTED)["reading_after_transfer"]
    assert asked.severity == "error" and "229.5 g of water" in asked.text
    reading, water = (m.recipe for m in asked.mends)
    assert sums(reading).poured_g == pytest.approx(229.5) and sums(water).poured_g == pytest.approx(245)
    assert [s.reads_g for s in stands(reading)][3] == pytest.approx(245) and [s.reads_g for s in stands(water)][3] == pytest.approx(260.5)
    for answered in (reading, water):
        assert "reading_after_transfer" not in {f.code for f in lint(answered)}
        assert read(write(answered)).recipe == answered
    assert sentences(reading)[3].startswith("Pour to 245 g on the scale (229.5 g of water)")


def test_an_unsaid_zeroing_is_asked():
    asked = found("15.5 g, in a jug steep, pour to 105 g, wait by 1:00, transfer, pour to 245 g, drips stop")["zeroing_unsaid"]
    assert [m.recipe.steps[2].zeroed for m in asked.mends] == ["empty", "with_coffee"]
    assert sums(asked.mends[0].recipe).poured_g == pytest.approx(229.5) and sums(asked.mends[1].recipe).poured_g == pytest.approx(245)
    assert "zeroing_unsaid" not in found("15.5 g, in a jug steep, pour to 245 g, wait by 1:00, transfer, drips stop")


@pytest.mark.parametrize(
    ("said", "sentence"),
    [
        ("swirl once", "Swirl once"),
        ("stir 5 times", "Stir 5 times"),
        ("wait by 1:40", "Wait until 1:40"),
        ("wait 30 s", "Wait 30 s"),
        ("pour to 170 g in a spiral outwards", "Pour to 170 g, in a spiral outwards"),
        ("pour to 170 g from the edge to the centre", "Pour to 170 g, from the edge to the centre"),
        ("pour to 170 g as one steady stream", "Pour to 170 g, in one steady stream"),
        ("stir when the level has dropped", "Stir, once the level has dropped"),
        ("wait until the bed is dry", "Wait, until the bed is dry"),
        ("press for 30 s", "Press gently for 30 s"),
    ],
)
def test_cards_and_guide_speak_plain_sentences(said, sentence):
    result = read(f"18 g, bloom 45 for 40 s, {said}, drips stop")
    assert not result.not_understood and sentences(result.recipe)[1] == sentence


def test_a_cue_begins_a_stir_and_ends_a_wait_and_a_note_stays_a_note():
    steps = read('18 g, pour to 288, stir when the level has dropped, wait until "grounds have sunk", swirl note "when the bed is dry"').recipe.steps
    assert [(s.start_cue, s.cue, s.note) for s in steps[1:]] == [
        ("the level has dropped", "", ""),
        ("", "grounds have sunk", ""),
        ("", "", "when the bed is dry"),
    ]
