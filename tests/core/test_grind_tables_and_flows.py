"""Tables of particle sizes as instruments write them; doses timed and weighed; filters tested for flow; what brews teach of kit."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from brasspenny.core.errors import PennyError
from brasspenny.core.grinding import doses, flow
from brasspenny.core.grinding.doses import Dose, of_doses
from brasspenny.core.grinding.sieve import sieve
from brasspenny.core.grinding.tables import read_table
from brasspenny.core.judging.value import bought, kit_a_cup
from brasspenny.core.kit.learnt import scatter_within, times_of

FINER = [(300, 8.5), (500, 24.6), (800, 70.2), (1100, 95.1), (1600, 100.0)]
EACH = [(300, 8.5), (500, 16.1), (800, 45.6), (1100, 24.9), (1600, 4.9)]


def text(rows, head="", split=";", comma=False):
    return "\n".join([head, *(split.join(f"{x}".replace(".", ",") if comma else f"{x}" for x in row) for row in rows)])


@pytest.mark.parametrize(
    ("table", "kind"),
    [
        (text(FINER, "diameter µm;finer %"), "finer"),
        (text(FINER, "Size,Cumulative", split=","), "finer"),
        (text(FINER, "Korngröße;Q3", comma=True), "finer"),
        (text([(d, s / 100) for d, s in FINER], "x\ty", split="\t"), "finer"),
        (text([(d, round(100 - s, 6)) for d, s in FINER], "diameter;retained above %"), "coarser"),
        (text(EACH, "diameter;volume %"), "each"),
        ("Instrument export\nSample: lot 7\n" + text([(1, d, s) for d, s in EACH], "n;Diameter (µm);Volume (%)"), "each"),
        ("\ufeff" + text(FINER[::-1], "diameter;finer"), "finer"),
    ],
)
def test_the_same_grind_is_read_from_every_way_it_is_written(table, kind):
    read = read_table(table)
    assert read.kind == kind and read.rows == 5
    assert [f.mass_g for f in read.fractions] == pytest.approx([8.5, 16.1, 45.6, 24.9, 4.9, 0.0])
    assert sieve(100, read.fractions, (300, 800), scale_step_g=1e-6).percentiles[1].at_um.value == pytest.approx(500 * 1.6 ** (25.4 / 45.6))


@pytest.mark.parametrize(
    ("table", "said"),
    [
        ("diameter;number %\n300;50\n500;30\n800;20", "by number"),
        ("300;10\n500;90", "2 lines"),
        ("300;10\n300;20\n500;70", "line 2: 300 µm stands there twice"),
        ("300;10\n500;20\n800;30", "add up to 60"),
        ("0;10\n500;20\n800;70", "line 1: 0 µm is no size"),
        ("300;-10\n500;40\n800;70", "line 1: a share is 0 or more"),
        ("nothing here", "0 lines"),
        ("1;" * 60_000, "far more than a table"),
    ],
)
def test_a_table_that_cannot_be_is_refused_with_its_line(table, said):
    with pytest.raises(PennyError) as caught:
        read_table(table)
    assert caught.value.field == "text" and said in caught.value.reason and caught.value.remedy


def test_what_somebody_says_of_the_shares_comes_before_their_looks_and_a_wrong_word_is_refused():
    with pytest.raises(PennyError, match="only goes one way"):
        read_table(text(EACH), kind="finer")
    assert read_table(text(FINER), kind="finer").kind == "finer"


def test_lines_that_are_no_numbers_are_left_out_and_named():
    assert read_table(text(FINER[:3], "diameter;finer") + "\nend of data\n" + text(FINER[3:]).strip()).skipped == (5,)


# --- doses -------------------------------------------------------------------------------------------------------------------------


def test_the_two_grinders_of_the_time_trial():
    slow, fast = (of_doses([Dose(120, grinding_s=s)]).rate_g_s for s in (61, 14))
    assert (round(slow.value, 2), round(fast.value, 2)) == (1.97, 8.57)
    assert fast.interval[1] - fast.interval[0] > slow.interval[1] - slow.interval[0]  # a short time is known worse by hand
    assert round(doses.saved_s(120, slow.value, fast.value)) == 47


def test_what_stays_is_knocked_out_of_single_doses_and_not_of_a_hopper():
    single, hopper = Dose(18, 17.4, knocked_out_g=0.4), Dose(18, 17.4, knocked_out_g=0.4, feeding="hopper")
    assert of_doses([single]).remains_g.value == pytest.approx(0.2) and of_doses([single]).purge_g == 0.2
    assert of_doses([hopper]).remains_g.value == pytest.approx(0.6) and of_doses([hopper]).purge_g == 0.6
    carried = Dose(18, 17.9, next_in_g=18, next_out_g=18.5)
    assert of_doses([carried]).exchange_g.value == pytest.approx(0.5) and of_doses([carried]).purge_g == 0.5
    assert of_doses([Dose(18, 18.1)]).purge_g == 0.0


@pytest.mark.parametrize(
    ("dose", "field"),
    [
        (Dose(0, 1), "beans_in_g"),
        (Dose(18), "ground_out_g"),
        (Dose(18, 25), "ground_out_g"),
        (Dose(18, grinding_s=0), "grinding_s"),
        (Dose(400, grinding_s=0.5), "grinding_s"),
        (Dose(18, grinding_s=9, knocked_out_g=0.2), "knocked_out_g"),
        (Dose(18, 17.8, knocked_out_g=3), "knocked_out_g"),
        (Dose(18, 17.8, next_in_g=18), "next_out_g"),
        (Dose(18, 17.8, next_in_g=18, next_out_g=60), "next_out_g"),
    ],
)
def test_a_dose_that_cannot_be_is_refused_at_its_field(dose, field):
    with pytest.raises(PennyError) as caught:
        doses.checked(dose)
    assert caught.value.field == field and caught.value.remedy


@given(st.lists(st.floats(0.5, 9.0), min_size=3, max_size=8))
def test_the_interval_of_several_doses_is_students(rates):
    found = of_doses([Dose(20, grinding_s=20 / r) for r in rates]).rate_g_s
    own = np.sqrt(np.mean([(r * np.hypot(np.sqrt(2) * doses.HAND_S * r / 20, doses.SCALE_STEP_G / np.sqrt(12) / 20)) ** 2 for r in rates]))
    half = stats.t.ppf(0.975, len(rates) - 1) * max(np.std(rates, ddof=1), own) / np.sqrt(len(rates))
    assert found.value == pytest.approx(np.mean(rates)) and found.interval[1] - found.value == pytest.approx(half)


# --- filters -----------------------------------------------------------------------------------------------------------------------


def test_two_filters_in_a_press_and_proportion_where_they_were_pushed_unequally():
    (found,) = flow.relative([flow.FlowTest("paper", "force", 60, 100, 20), flow.FlowTest("mesh", "force", 60, 100, 25)], "paper")
    assert found.relative.value == pytest.approx(1.25) and found.same_size and found.relative.interval[0] < 1.25 < found.relative.interval[1]
    (scaled,) = flow.relative([flow.FlowTest("paper", "force", 60, 100, 20), flow.FlowTest("mesh", "force", 30, 200, 100)], "paper")
    assert scaled.relative.value == pytest.approx(1.25) and not scaled.same_size
    assert flow.relative([flow.FlowTest("paper", "force", 60, 100, 20), flow.FlowTest("mesh", "head", 60, 100, 25)], "paper") == ()


@pytest.mark.parametrize(("size", "water_g", "seconds", "field"), [(0, 1, 1, "size"), (1, 0, 1, "water_g"), (1, 1, 9999, "seconds")])
def test_a_test_of_nothing_is_refused(size, water_g, seconds, field):
    with pytest.raises(PennyError) as caught:
        flow.checked(flow.FlowTest("f", "head", size, water_g, seconds))
    assert caught.value.field == field


# --- what it is worth ----------------------------------------------------------------------------------------------------------------


def test_dearer_kit_is_told_by_what_it_buys_and_saves():
    assert kit_a_cup(730.5, years=1, cups_a_day=2) == pytest.approx(1.0)
    assert bought("A", "B", 4.3, 1.2, (0.3, 2.1), -4.0) == "At 4.3 times the price, A buys +1.2 points over B (+0.3 to +2.1), 4 s a dose lost."
    assert bought("A", "B", 2.0, -0.4, (-1.0, 0.2), None).endswith("It is not shown to be liked more.")


def test_scatter_is_pooled_within_setups_and_times_are_medians():
    found = scatter_within([("a", 19.0), ("a", 19.4), ("b", 22.0), ("b", 22.6), ("c", 30.0)])
    assert found.sd == pytest.approx(np.sqrt((0.08 + 0.18) / 2)) and (found.brews, found.setups) == (4, 2)
    assert scatter_within([("a", 1.0), ("b", 2.0)]) is None and times_of([None]) is None
    assert times_of([30.0, None, 10.0, 20.0]).median_s == 20.0
