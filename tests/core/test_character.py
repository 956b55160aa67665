"""What is said of character and of temperature: at most one in twenty panels to which all cups are alike hears any of it. Cells of benchmarks/character_study.py."""

import math

import numpy as np
import pytest

from benchmarks.character_study import of_character, of_temperature, panel, share
from brasspenny.core.judging import Score
from brasspenny.core.judging.passes import changing_leaders, cooling, leaders_by_pass

from ..amount import examples


def few(panels: int) -> float:
    return 0.05 + 3 * math.sqrt(0.05 * 0.95 / panels)


@pytest.mark.parametrize("cell", [(4, 2, 2), (8, 4, 1), (12, 6, 1)])
def test_of_temperature_nothing_is_said_from_noise(cell):
    assert share(250, of_temperature, cell) <= few(250)


def test_of_character_nothing_is_said_from_noise():
    assert share(examples(100, least=10), of_character, (8, 2, 2)) <= few(10)


def test_a_real_change_and_a_real_trait_are_still_said():
    assert share(60, of_temperature, (8, 2, 2), cools=1.0) >= 0.6
    assert share(5, of_character, (12, 3, 2), leads={0: 3.0}) >= 0.6


def test_a_change_has_the_interval_of_tasters_own_changes():
    """Three tasters who lose 1, 2 and 3 points: 2 ± t(0.975, 2)·1/√3."""
    scores = [Score("1", t, "A", "1", p, x) for t, hot, cool in (("a", 8, 7), ("b", 8, 6), ("c", 8, 5)) for p, x in (("hot", hot), ("cool", cool))]
    (change,) = cooling(scores)["A"]
    assert (change.better, change.worse, change.change) == ("hot", "cool", 2)
    assert change.interval == pytest.approx((2 - 4.3027 / math.sqrt(3), 2 + 4.3027 / math.sqrt(3)), abs=1e-3)


def test_level_cups_have_no_leader():
    scores = [Score("1", t, s, s, p, x) for t in "ab" for s, by in (("A", (7, 8)), ("B", (7, 6))) for p, x in zip(("warm", "cool"), by, strict=True)]
    assert leaders_by_pass(scores) == {"cool": "A"} and changing_leaders(scores) == {}


def test_leaders_that_change_places_in_every_tasters_cups_are_named():
    rng = np.random.default_rng(3)
    scores = [
        Score(s.flight, s.taster, s.setup, s.brew, s.pass_, s.score + {("A", "hot"): 2.5, ("B", "cool"): 2.5}.get((s.setup, s.pass_), 0.0))
        for s in panel(rng, 8, 2, 2, passes=("hot", "cool"))
    ]
    assert changing_leaders(scores) == {"hot": "A", "cool": "B"}
