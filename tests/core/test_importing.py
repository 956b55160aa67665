"""Tables of brews: columns matched by name, unit and content; cells read as people write them; every fault at its cell."""

import math
from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.core.extraction.uncertainty import Instrument
from brasspenny.core.importing.columns import TARGET, TARGETS, Meaning, guess, plain, said_unit
from brasspenny.core.importing.rows import CellReader, Reader, days_come_first, number_of, read_moment, read_quantity, read_ratio, read_time

OWN = Instrument(0.03, 0.01, 0.1)


def meant(headers, *rows):
    columns = [[row[i] for row in rows] for i in range(len(headers))] if rows else [[] for _ in headers]
    return [(m.target, m.unit) for m in guess(headers, columns)]


@pytest.mark.parametrize(
    ("header", "target"),
    [
        ("Coffee", "coffee"), ("Beans", "coffee"), ("Coffee (g)", "coffee"), ("Coffee dose (g)", "dose_g"), ("dose_g", "dose_g"), ("Water temp [°F]", "temperature_c"),
        ("Kettle °C", "temperature_c"), ("Brew time", "total_time_s"), ("TDS 1", "tds_pct"), ("°Brix", "tds_pct"), ("Beverage, g", "beverage_g"), ("Rating /9", "liking"),
        ("Tasting notes", "note"), ("Grind setting", "grind_setting"), ("Grinder", "grinder"), ("Datum", "brewed_at"), ("Ratio", "brew_ratio"), ("mood", ""), ("", ""),
    ],
)  # fmt: skip
def test_a_heading_is_known_by_what_people_call_it(header, target):
    assert meant([header])[0][0] == target


def test_no_two_columns_become_the_same_but_readings():
    assert [t for t, _ in meant(["Dose", "Dose (oz)", "TDS", "TDS 2", "TDS 3"])] == ["dose_g", "", "tds_pct", "tds_pct", "tds_pct"]


def test_the_better_name_wins_wherever_it_stands():
    assert [t for t, _ in meant(["my water", "Water"], ["soft", "290"], ["soft", "300"])] == ["", "brew_water_g"]


def test_what_holds_only_words_is_no_number_whatever_it_is_called():
    assert meant(["Water"], ["soft"], ["hard"])[0][0] != "brew_water_g"


def test_units_come_from_the_heading_else_from_the_size_of_the_numbers():
    assert meant(["Temp (F)"]) == [("temperature_c", "f")] and meant(["Temp"], ["201"], ["199"]) == [("temperature_c", "f")]
    assert meant(["Temp"], ["93"]) == [("temperature_c", "c")] and meant(["Time"], ["2.75"], ["3.1"]) == [("total_time_s", "min")]
    assert meant(["Dose oz"]) == [("dose_g", "oz")] and meant(["Brix"]) == [("tds_pct", "brix")] and meant(["TDS"]) == [("tds_pct", "tds_pct")]


@pytest.mark.parametrize(
    ("header", "kind", "unit"), [("Water (mL)", "mass", "ml"), ("TDS °Bx", "strength", "brix"), ("grams of water", "mass", "g"), ("Dose", "mass", "")]
)
def test_a_heading_says_its_unit(header, kind, unit):
    assert said_unit(header, kind) == unit


@given(st.text(max_size=60))
def test_no_heading_breaks_the_guess(text):
    assert plain(text) == plain(text).strip()
    assert len(guess([text, "Dose"], [[], []])) == 2


def test_every_name_of_a_target_is_known_as_that_target():
    for target in TARGETS:
        for name in target.names:
            assert meant([name])[0][0] == target.code, name


@pytest.mark.parametrize(
    ("cell", "unit", "g"),
    [
        ("18", "g", 18),
        ("18,5", "g", 18.5),
        ("18.5 g", "oz", 18.5),
        ("0.65", "oz", 18.43),
        ("0.65oz", "g", 18.43),
        (" 290 ml ", "g", 289.48),
        ("1 kg", "g", 1000),
        ("1,000", "g", 1000),
        ("1,000 g", "oz", 1000),
        ("1.000,5", "g", 1000.5),
        ("1,000.5", "g", 1000.5),
        ("1 000", "g", 1000),
        ("10 fl oz", "g", 295.2),
        ("10", "us_fl_oz", 295.2),
    ],
)
def test_masses_are_read_in_the_columns_unit_or_their_own(cell, unit, g):
    assert read_quantity(cell, unit, "g") == g


@pytest.mark.parametrize("cell", ["about 18", "18 spoons", "1,234,567", "", "18-19", "²0"])
def test_what_is_no_mass_is_refused_and_never_guessed(cell):
    with pytest.raises(ValueError, match=r"\w"):
        read_quantity(cell, "g", "g")


@pytest.mark.parametrize(
    ("cell", "unit", "s"),
    [
        ("2:45", "s", 165),
        ("2m45", "s", 165),
        ("165", "s", 165),
        ("2.75", "min", 165),
        ("00:02:45", "s", 165),
        ("165s", "min", 165),
        ("02:45:00", "m_ss", 165),
        ("12:00:00", "s", 43200),
    ],
)
def test_times(cell, unit, s):
    assert read_time(cell, unit) == s


@pytest.mark.parametrize(
    ("cells", "unit"),
    [
        (["02:45:00", "03:10:00", ""], "m_ss"),  # typed 2:45 into a cell, taken for a quarter to three
        (["02:45:30", "03:10:00"], "s"),  # hours indeed
        (["00:02:45", "00:03:10"], "s"),
        (["18:00:00", "20:00:00"], "s"),  # steeped cold
        (["2:45", "3:10"], "s"),
    ],
)
def test_a_time_of_day_that_was_minutes_and_seconds_is_shown_as_such(cells, unit):
    assert guess(["Total time"], [cells])[0].unit == unit


@pytest.mark.parametrize(("cell", "ratio"), [("1:16", 16), ("16", 16), ("1 : 15.5", 15.5), ("60 g/L", 16.67), ("6,25 g per 100 g", 16)])
def test_ratios(cell, ratio):
    assert read_ratio(cell) == ratio


@pytest.mark.parametrize(
    ("cell", "day_first", "at"),
    [
        ("2026-03-04", True, datetime(2026, 3, 4, 12)), ("2026-03-04 08:15:30", True, datetime(2026, 3, 4, 8, 15, 30)), ("4.3.26", True, datetime(2026, 3, 4, 12)),
        ("3/4/2026", False, datetime(2026, 3, 4, 12)), ("3/4/2026 8:15 pm", False, datetime(2026, 3, 4, 20, 15)), ("4 Mar 2026", True, datetime(2026, 3, 4, 12)),
        ("March 4, 2026", True, datetime(2026, 3, 4, 12)), ("2026-03-04T08:15Z", True, datetime(2026, 3, 4, 8, 15)),
    ],
)  # fmt: skip
def test_days(cell, day_first, at):
    assert read_moment(cell, day_first=day_first) == at


@pytest.mark.parametrize("cell", ["31.2.2026", "soon", "4/2026", "2026-13-01", "0/0/2026", "5 Foo 2026", "45987"])
def test_what_is_no_day_is_refused(cell):
    with pytest.raises(ValueError, match="Write a day"):
        read_moment(cell, day_first=True)


def test_one_day_above_twelve_settles_all():
    assert days_come_first(["1/2/2026", "25/2/2026"]) and not days_come_first(["1/2/2026", "2/25/2026"]) and days_come_first([])


def reader(*targets, day_first=True):
    return Reader(CellReader(tuple(Meaning(*t) if isinstance(t, tuple) else Meaning(t) for t in targets), TARGET, day_first, 0.85), OWN)


def test_a_row_becomes_a_brew():
    brew, faults = reader("brewed_at", "coffee", ("dose_g", "g"), ("brew_water_g", "g"), ("beverage_g", "g"), ("tds_pct", "tds_pct"), "liking", "tags").read(
        2, ["1.3.2026", "Peru", "18", "290", "251", "1.41 1,43 / 1.42 %", "7", "guests; last"]
    )
    assert faults == [] and brew.brewed_at == datetime(2026, 3, 1, 12) and brew.texts == {"coffee": "Peru"}
    assert (brew.dose_g, brew.brew_water_g, brew.beverage_g, brew.tds_pct, brew.liking, brew.tags) == (18, 290, 251, (1.41, 1.43, 1.42), 7, ("guests", "last"))


def test_brix_is_turned_by_the_benchs_factor_and_kept_beside_it():
    brew, _ = reader(("dose_g", "g"), ("brew_water_g", "g"), ("tds_pct", "brix")).read(2, ["18", "290", "1.6"])
    assert brew.tds_pct == (1.36,) and brew.brix == (1.6,)


def test_ratio_stands_in_for_dose_or_water():
    made = reader(("dose_g", "g"), "brew_ratio", ("brew_water_g", "g"))
    assert made.read(2, ["18", "1:16", ""])[0].brew_water_g == 288 and made.read(2, ["", "16", "288"])[0].dose_g == 18


@pytest.mark.parametrize(
    ("cells", "column", "words"),
    [
        (["", "290", "", ""], 0, "needs its dose"), (["18", "", "", ""], 1, "needs its water"), (["x", "290", "", ""], 0, "cannot be read"), (["18", "290", "400", ""], 2, "drink weighs"),
        (["18", "290", "250", "140"], 3, "cannot be"), (["-3", "290", "", ""], 0, "cannot be"), (["18", "290", "250", "9"], 3, "cannot be"),
    ],
)  # fmt: skip
def test_a_fault_names_its_cell_and_what_to_do(cells, column, words):
    brew, (fault,) = reader(("dose_g", "g"), ("brew_water_g", "g"), ("beverage_g", "g"), ("tds_pct", "tds_pct")).read(7, cells)
    assert brew is None and (fault.row, fault.column, fault.cell) == (7, column, cells[column]) and words in fault.reason and fault.remedy


def test_all_faults_of_a_row_are_told_at_once():
    _, faults = reader(("dose_g", "g"), ("brew_water_g", "g"), "liking").read(3, ["x", "y", "11"])
    assert [f.column for f in faults] == [0, 1, 2]


@given(st.lists(st.text(max_size=24), min_size=8, max_size=8))
def test_no_row_breaks_the_reader(cells):
    targets = (
        "brewed_at",
        ("dose_g", "g"),
        ("brew_water_g", "oz"),
        ("temperature_c", "f"),
        ("total_time_s", "min"),
        ("tds_pct", "brix"),
        "liking",
        "brew_ratio",
    )
    brew, faults = reader(*targets).read(5, cells)
    assert (brew is None) == bool(faults) and all(f.row == 5 and f.reason.endswith(".") for f in faults)
    assert brew is None or all(math.isfinite(v) for v in (brew.dose_g, brew.brew_water_g, *brew.tds_pct))


@given(st.floats(0.01, 9999).map(lambda x: round(x, 2)))
def test_a_number_reads_back_with_point_or_comma(value):
    assert number_of(f"{value:.2f}") == number_of(f"{value:.2f}".replace(".", ",")) == value
