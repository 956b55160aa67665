"""Tables of scores: three ways of laying them out, other scales, contradictions between rows, and amounts the rows do not tell."""

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.extraction.uncertainty import Instrument
from brasspenny.core.importing.columns import SCORE_TARGET, Meaning, guess_scores
from brasspenny.core.importing.rows import CellReader, on_scale
from brasspenny.core.importing.scores import ScoreReader, TableFacts, gather

OWN = Instrument(0.03, 0.01, 0.1)
LONG = ("Taster", "Setup", "Attribute", "Score")


def understood(text, sep=","):
    """A table as it is read from its headings alone."""
    head, *rows = [line.split(sep) for line in text.strip().splitlines()]
    meanings = guess_scores(head, [[row[i] for row in rows] for i in range(len(head))])
    reader = ScoreReader(CellReader(meanings, SCORE_TARGET, True, 0.85), head)
    tastings, faults = [], []
    for number, row in enumerate(rows, start=2):
        some, wrong = reader.read(number, row)
        tastings += some
        faults += wrong
    return [m.target for m in meanings], tastings, faults


def gathered(text, told=None, **more):
    _, tastings, faults = understood(text)
    assert faults == []
    return gather(tastings, told or TableFacts("other", 18, 290, **more), OWN)


def said(tastings):
    return {(t.taster, t.setup, a): v for t in tastings for a, v in t.scores.items()}


def test_one_table_three_ways_tells_the_same():
    long = understood("Taster,Setup,Attribute,Score\nAda,Weave,liking,7\nAda,Felt,Liking,5\nBen,Weave,liking,6\nBen,Felt,liking,4")
    cups = understood("Taster,Sample,Overall\nAda,Weave,7\nAda,Felt,5\nBen,Weave,6\nBen,Felt,4")
    wide = understood("Taster,Weave,Felt\nAda,7,5\nBen,6,4")
    assert long[0] == ["taster", "setup", "attribute", "score"] and cups[0] == ["taster", "setup", "liking"] and wide[0] == ["taster", "liking_of", "liking_of"]
    assert said(long[1]) == said(cups[1]) == said(wide[1]) == {
        ("Ada", "Weave", "liking"): 7, ("Ada", "Felt", "liking"): 5, ("Ben", "Weave", "liking"): 6, ("Ben", "Felt", "liking"): 4,
    }  # fmt: skip


def test_what_this_bench_exports_is_read_back_by_its_own_headings():
    targets, tastings, faults = understood("flight,taster,setup,brew,pass,cup,attribute,score\n1,Ada,A,1,warm,1,liking,6.5\n1,Ada,B,2,warm,2,acidity,3")
    assert targets == ["flight", "taster", "setup", "brew", "pass_name", "cup", "attribute", "score"] and faults == []
    assert [(t.flight, t.brew, t.cup, t.pass_name) for t in tastings] == [("1", "1", "1", "warm"), ("1", "2", "2", "warm")]
    assert tastings[1].scores == {"acidity": 3}


@pytest.mark.parametrize(
    ("column", "unit"), [(["7", "9", "1"], "own"), (["0", "7"], "0_10"), (["10", "7"], "1_10"), (["72,5", "88"], "0_100"), (["3", "5"], "own")]
)
def test_the_scale_is_told_by_its_ends_where_they_tell_it(column, unit):
    assert guess_scores(("Taster", "Setup", "Rating"), (["Ada"], ["A"], column))[2] == Meaning("liking", unit)


def test_the_one_thing_that_differs_is_what_was_compared():
    head = ("Taster", "Coffee", "Filter tried", "Rating")
    assert [m.target for m in guess_scores(head, (["x", "y"], ["Peru", "peru"], ["Weave", "Felt"], ["7", "8"]))] == ["taster", "coffee", "setup", "liking"]
    both = guess_scores(head, (["x", "y"], ["Peru", "Congo"], ["Weave", "Felt"], ["7", "8"]))
    assert [m.target for m in both] == ["taster", "coffee", "filter", "liking"]  # two things differ: which was meant is for people to say


def test_setups_named_after_a_piece_of_kit_head_their_own_scores():
    found = guess_scores(("Taster", "White paper", "Brass dripper", "Grind"), (["x", "y"], ["7", "8"], ["5", ""], ["5.8", "5.8"]))
    assert [m.target for m in found] == ["taster", "liking_of", "liking_of", "grind_setting"]


def test_a_wide_table_has_one_scale_for_all_its_columns():
    found = guess_scores(("Taster", "A", "B"), (["x"], ["3", "8"], ["80", "60"]))
    assert [m.unit for m in found[1:]] == ["0_100", "0_100"]


@given(st.floats(0, 1), st.sampled_from(["1_5", "1_7", "1_10", "0_10", "0_100"]), st.sampled_from(["liking", "body"]))
def test_ends_stay_ends_and_middles_middles_on_any_scale(share, unit, attribute):
    low, high = (float(x) for x in unit.split("_"))
    own_low, own_high = (1, 9) if attribute == "liking" else (0, 10)
    shown = f"{low + share * (high - low):.6f}"
    assert on_scale(shown, unit, attribute) == pytest.approx(own_low + share * (own_high - own_low), abs=0.006)


@pytest.mark.parametrize(("cell", "unit"), [("10", "own"), ("0", "own"), ("6", "1_5"), ("101", "0_100"), ("good", "own")])
def test_what_is_off_its_scale_is_refused(cell, unit):
    with pytest.raises(ValueError, match="from|Write a number"):
        on_scale(cell, unit, "liking")


def test_faults_stand_at_their_cells():
    _, tastings, faults = understood("Taster,Setup,Attribute,Score\nAda,Weave,liking,12\nAda,Felt,crema,5\n,Felt,liking,5\nBen,,liking,5")
    assert tastings == []
    assert [(f.row, f.column) for f in faults] == [(2, 3), (3, 2), (4, None), (5, None)]
    assert "from 1 to 9" in faults[0].remedy and "crema" in faults[1].remedy and "taster" in faults[2].reason and "setup" in faults[3].reason


def test_rows_of_one_name_and_one_day_are_tasted_together():
    found = gathered(
        "Date,Session,Taster,Setup,Liking\n1.3.2026,1,Ada,A,7\n1.3.2026,1,Ada,B,6\n2.3.2026,1,Ada,A,7\n2.3.2026,1,Ada,B,5\n2.3.2026,2,Ada,A,8\n2.3.2026,2,Ada,B,5"
    )
    assert [(f.name, f.day.day, f.scores) for f in found.flights] == [("1", 1, 2), ("1", 2, 2), ("2", 2, 2)] and found.faults == ()


def test_one_setup_alone_is_no_comparison():
    found = gathered("Session,Taster,Setup,Liking\n1,Ada,A,7\n1,Ada,B,6\n2,Ada,A,7")
    assert [(f.row, f.reason) for f in found.faults] == [(4, "Only one setup was tasted here.")]


def test_the_same_cup_twice_is_a_fault_unless_a_column_tells_two_apart():
    assert [f.row for f in gathered("Taster,Setup,Liking\nAda,A,7\nAda,B,6\nada , a,5").faults] == [4]  # names are the same whatever their capitals
    two = gathered("Taster,Setup,Cup,Liking\nAda,A,1,7\nAda,B,2,6\nAda,A,3,5")
    assert two.faults == () and [p.cups for p in two.flights[0].poured] == [("1", "3"), ("2",)]
    brews = gathered("Taster,Setup,Brew,Liking\nAda,A,1,7\nAda,B,1,6\nAda,A,2,5")
    assert [(p.setup, p.label) for p in brews.flights[0].poured] == [("A", "1"), ("B", "1"), ("A", "2")]


def test_facts_of_a_brew_come_from_any_of_its_rows_and_must_agree():
    found = gathered(
        "Taster,Setup,Liking,Dose (g),Water (g),TDS,Filter\nAda,A,7,18,290,1.4,Weave\nAda,B,6,18,290,1.42,Felt\nBen,A,5,,,,weave\nBen,B,5,18,290,1.42,"
    )
    assert found.faults == () and [p.brew.tds_pct for p in found.flights[0].poured] == [(1.4,), (1.42,)]
    assert [s.values["filter"] for s in found.setups] == ["Weave", "Felt"]
    wrong = gathered("Taster,Setup,Liking,Dose (g)\nAda,A,7,18\nAda,B,6,18\nBen,A,5,19")
    assert [(f.row, f.reason) for f in wrong.faults] == [(4, "Row 2 tells another dose of the same brew.")]


def test_what_the_rows_do_not_tell_is_told_of_all_or_is_missing():
    text = "Taster,Setup,Liking\nAda,A,7\nAda,B,6"
    assert gathered(text, TableFacts("other")).missing == ("dose_g", "brew_water_g") and gathered(text, TableFacts("other", 18)).missing == ("brew_water_g",)
    full = gathered(text, TableFacts("other", 18, 290))
    assert full.missing == () and [(p.brew.dose_g, p.brew.brew_water_g) for p in full.flights[0].poured] == [(18, 290)] * 2


def test_a_ratio_or_a_heat_is_read_from_the_setups_name():
    ratios = gathered("Taster,1:15,1:17\nAda,7,6", TableFacts("ratio", 20))
    assert [p.brew.brew_water_g for p in ratios.flights[0].poured] == [300, 340] and ratios.missing == ()
    heats = gathered("Taster,Setup,Liking\nAda,92 °C,7\nAda,200 F,6", TableFacts("temperature", 18, 290))
    assert [p.brew.temperature_c for p in heats.flights[0].poured] == [92, pytest.approx(93.33)]


def test_setups_named_by_a_letter_keep_it_and_others_get_theirs_in_order():
    assert [(s.letter, s.name) for s in gathered("Taster,Setup,Liking\nAda,C,7\nAda,A,6").setups] == [("C", "C"), ("A", "A")]
    assert [(s.letter, s.name) for s in gathered("Taster,Setup,Liking\nAda,Weave,7\nAda,Felt,6").setups] == [("A", "Weave"), ("B", "Felt")]


@pytest.mark.parametrize(
    ("factor", "variable"), [("filter", "filter"), ("grinder", "grinder"), ("coffee", "coffee"), ("other", "other"), ("grind_setting", "grind_setting")]
)
def test_a_setup_is_called_by_what_it_tests(factor, variable):
    found = gathered("Taster,Setup,Liking\nAda,Weave,7\nAda,Felt,6", TableFacts(factor, 18, 290))
    assert [s.values for s in found.setups] == [{variable: "Weave"}, {variable: "Felt"}]


def test_more_setups_than_a_trial_holds_are_refused():
    rows = "\n".join(f"Ada,S{i},5" for i in range(30))
    found = gathered(f"Taster,Setup,Liking\n{rows}")
    assert found.flights == () and "30 setups" in found.faults[-1].reason and found.faults[-1].row == 26


def test_impossible_amounts_are_faults_not_brews():
    found = gathered("Taster,Setup,Liking,Dose (g),Beverage\nAda,A,7,18,900\nAda,B,6,18,250")
    assert [f.row for f in found.faults] == [2] and [p.setup for p in found.flights[0].poured] == ["B"]


def test_a_brew_that_cannot_be_takes_all_its_rows_with_it():
    """TableFacts by its first row only; without that row the others would seem to lack it."""
    found = gathered("Taster,Setup,Liking,Beverage\nAda,A,7,900\nAda,B,6,250\nBen,A,5,\nBen,B,5,")
    assert [f.row for f in found.faults] == [2, 4]
    alone = gathered("Session,Taster,Setup,Liking\n1,Ada,A,7\n1,Ada,B,6\n2,Ada,A,7\n2,Ben,A,5")
    assert [f.row for f in alone.faults] == [4, 5]


def test_a_row_without_a_score_is_no_fault():
    _, tastings, faults = understood("Taster,Setup,Liking,Notes\nAda,A,,\nAda,B,-,bright\nAda,C,7,")
    assert faults == [] and [(t.setup, t.words, dict(t.scores)) for t in tastings] == [("B", "bright", {}), ("C", "", {"liking": 7})]


def test_days_keep_their_time_and_flights_their_first():
    found = gathered("When,Taster,Setup,Liking\n1.3.2026 09:10,Ada,A,7\n1.3.2026 09:05,Ada,B,6")
    assert [f.day for f in found.flights] == [datetime(2026, 3, 1, 9, 5)]


panels = st.dictionaries(
    st.tuples(st.sampled_from(["Ada", "Ben", "Cleo"]), st.sampled_from(["Weave", "Felt", "Mesh"])), st.integers(2, 18).map(lambda n: n / 2), min_size=4
)


@given(panels)
def test_however_a_panel_is_laid_out_it_becomes_the_same_flight(panel):
    setups = list(dict.fromkeys(setup for _, setup in panel))
    tasters = list(dict.fromkeys(taster for taster, _ in panel))
    if len(setups) < 2:
        return
    long = "Taster,Setup,Attribute,Score\n" + "\n".join(f"{t},{s},liking,{v}" for (t, s), v in panel.items())
    cups = "Taster,Setup,Liking\n" + "\n".join(f"{t},{s},{v}".replace(".0", "") for (t, s), v in panel.items())
    wide = f"Taster,{','.join(setups)}\n" + "\n".join(f"{t},{','.join(str(panel.get((t, s), '')) for s in setups)}" for t in tasters)
    found = [gathered(text) for text in (long, cups, wide)]
    for one in found:
        assert one.faults == () and [x.name for x in one.setups] == (setups if one is not found[2] else [x.name for x in found[2].setups])
        (flight,) = one.flights
        assert {(t.taster, t.setup): t.scores["liking"] for t in flight.tastings} == panel
        assert sum(len(p.cups) for p in flight.poured) == len(setups) and flight.scores == len(panel)
