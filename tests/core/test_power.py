"""What a panel can see: against the measured table of the judging page, and moving the right way with every knob."""

import pytest

from brasspenny.core import figures
from brasspenny.core.errors import OutOfDomain
from brasspenny.core.planning.power import Scatter, curve, power, seen

LEADS = {  # docs/judging.md §6: lead called clear in 50 % / 80 % of panels, by (tasters, setups, brews)
    (2, 2, 2): (3.1, 4.2), (2, 2, 4): (2.5, 3.4), (2, 4, 2): (3.4, 4.4), (2, 4, 4): (2.8, 3.5),
    (4, 2, 2): (2.2, 2.9), (4, 2, 4): (1.7, 2.3), (4, 4, 2): (2.5, 3.1), (4, 4, 4): (1.9, 2.4),
    (8, 2, 2): (1.6, 2.2), (8, 2, 4): (1.1, 1.6), (8, 4, 2): (1.9, 2.3), (8, 4, 4): (1.4, 1.8),
    (12, 2, 2): (1.5, 1.9), (12, 2, 4): (1.0, 1.4), (12, 4, 2): (1.6, 2.1), (12, 4, 4): (1.1, 1.4),
}  # fmt: skip


@pytest.mark.parametrize(("plan", "leads"), LEADS.items(), ids=str)
def test_leads_agree_with_the_table_of_simulated_verdicts(plan, leads):
    tasters, setups, brews = plan
    here = seen(setups=setups, tasters=tasters, brews=brews)
    assert here.lead_50 == pytest.approx(leads[0], abs=0.35) and here.lead_80 == pytest.approx(leads[1], abs=0.4)


@pytest.mark.parametrize(("tasters", "brews", "width"), [(4, 2, 3.8), (8, 2, 2.8), (12, 2, 2.4), (4, 4, 2.8), (8, 4, 2.0)])
def test_interval_widths_agree_with_the_table(tasters, brews, width):
    assert seen(setups=3, tasters=tasters, brews=brews).width == pytest.approx(width, rel=0.12)


def test_a_second_brew_is_worth_more_than_twice_the_tasters():
    found = power(setups=2, tasters=4, replicates=1)
    assert seen(setups=2, tasters=4, brews=2).lead_80 < seen(setups=2, tasters=8, brews=1).lead_80
    assert found.cheapest.code == "one_more_brew"
    assert found.here.lead_80 == pytest.approx(3.9, abs=0.4)


def test_more_of_anything_never_sees_less_and_more_scatter_never_sees_more():
    leads = [seen(setups=2, tasters=6, brews=r).lead_80 for r in (1, 2, 3, 4, 6)]
    assert leads == sorted(leads, reverse=True)
    tasters = [p.lead_80 for p in curve(setups=2, brews=2, most_tasters=12)][1:]
    assert all(b <= a + 0.15 for a, b in zip(tasters, tasters[1:], strict=False)) and tasters[-1] < tasters[0] / 1.4
    assert seen(setups=2, tasters=6, brews=2, scatter=Scatter(0.6, 0.9, 1.15)).lead_80 > leads[1]


def test_the_sentence_says_it_before_the_coffee_is_spent():
    found = power(setups=2, tasters=8, replicates=4, lead=0.5)
    lead = figures.points(found.here.lead_80)
    assert found.sentence == f"Eight tasters and four brews of each will call a winner 8 times in 10 only when it leads by {lead} points of 9."
    assert found.chance < 0.2
    never = power(setups=2, tasters=2, replicates=1)
    assert "cannot call a winner" in never.sentence and never.here.lead_80 is None and never.chance == 0


def test_a_curve_begins_at_two_tasters_and_never_rises_along_it():
    points = curve(setups=4, brews=3, most_tasters=12)
    assert [p.tasters for p in points] == list(range(2, 13))
    leads = [p.lead_80 for p in points]
    assert all(b <= a + 0.1 for a, b in zip(leads, leads[1:], strict=False))


def test_what_one_taster_finds_is_said_to_hold_for_that_person_alone():
    assert power(setups=2, tasters=1, replicates=4).sentence.endswith("What one taster finds holds for that person alone.")


def test_a_curve_that_runs_out_of_time_is_given_as_far_as_it_goes_and_goes_on_from_there():
    asked = {"setups": 3, "brews": 5, "scatter": Scatter(0.61, 0.31, 1.16), "most_tasters": 8}
    before = seen.cache_info().misses
    turns = iter([True, True, False])
    part = curve(**asked, go_on=lambda: next(turns))
    assert [p.tasters for p in part] == [2, 3, 4]
    assert curve(**asked)[:3] == part
    assert seen.cache_info().misses - before == 7


def test_halving_the_doubt_names_a_plan_that_does():
    found = power(setups=2, tasters=4, replicates=2)
    assert found.halving and found.halving.lead_80 <= found.here.lead_80 / 2
    assert seen(setups=2, tasters=found.halving.tasters, brews=found.halving.brews).lead_80 == found.halving.lead_80


def test_a_plan_that_cannot_be_is_refused():
    with pytest.raises(OutOfDomain):
        power(setups=1, tasters=4, replicates=2)
