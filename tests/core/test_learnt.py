"""Scatter learnt from earlier panels: what the mixture is, which way it moves a verdict, and that it never binds one."""

import json
import math
import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brasspenny.config import PROJECT
from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.learnt import MOST_PANELS, SHARE, Earlier, Learnt, clear_each, learn, nearest_in_kind, told
from brasspenny.core.judging.posterior import reference_grid
from brasspenny.core.judging.scatter_prior import scale_used
from brasspenny.core.judging.scores import cups_of


def panel(seed, sds, *, tasters=5, setups=3, brews=2, lead=0.0):
    rng = np.random.default_rng(seed)
    taster_setup, brew, noise = sds
    y = 6 + np.r_[lead, np.zeros(setups - 1)][None, :, None] + rng.normal(0, taster_setup, (tasters, setups, 1))
    y = np.clip(y + rng.normal(0, brew, (1, setups, brews)) + rng.normal(0, noise, (tasters, setups, brews)), 1, 9)
    return [Score("", f"T{t}", f"S{s}", f"{s}.{b}", "", round(2 * float(y[t, s, b])) / 2) for t in range(tasters) for s in range(setups) for b in range(brews)]


def past(sds, count=6, seed=0):
    return learn([cups_of(panel(seed + i, sds), low=1, high=9) for i in range(count)], scale=1)


def test_panels_that_say_nothing_leave_the_default_prior_as_it_is():
    flat = Learnt(np.zeros(len(reference_grid().noise)), 1, 1)
    grid = reference_grid()
    assert flat.log_ratio(grid.noise, grid.taster_setup, grid.brew, scale=1) == pytest.approx(0, abs=1e-12)
    scores = panel(3, (0.5, 0.3, 1.3), lead=1)
    assert scale_used(cups_of(scores, low=1, high=9), low=1, high=9) == 1
    assert [d.interval for d in judge(scores, learnt=flat).differences] == [pytest.approx(d.interval) for d in judge(scores).differences]


@settings(max_examples=15, deadline=None)
@given(st.floats(0.3, 2.5), st.floats(0, 3), st.floats(0, 1.8), st.floats(0.5, 3))
def test_the_default_prior_keeps_its_share_everywhere(noise, taster_setup, brew, scale):
    """And the mixture is still a density: over the default prior it averages to one."""
    learnt = past((0.3, 0.2, 0.7), count=3)
    at = learnt.log_ratio(*(np.array([x * scale]) for x in (noise, taster_setup, brew)), scale=scale)
    assert at[0] >= np.log(1 - SHARE) - 1e-12
    grid = reference_grid()
    prior = np.exp(grid.log_prior)
    assert prior @ np.exp(learnt.log_ratio(grid.noise, grid.taster_setup, grid.brew, scale=1)) / prior.sum() == pytest.approx(1)


def width(scores, learnt):
    low, high = judge(scores, learnt=learnt).differences[0].interval
    return high - low


def test_a_steady_past_narrows_an_interval_and_a_noisy_one_widens_it():
    scores = panel(5, (0.5, 0.3, 1.0), tasters=3, setups=2, lead=1)
    assert width(scores, past((0.2, 0.1, 0.7))) < width(scores, None) < width(scores, past((1.4, 0.9, 1.8)))


def test_a_panel_far_noisier_than_its_past_is_not_held_to_it():
    scores = panel(7, (1.8, 0.8, 2.0), tasters=6, setups=2, brews=3)
    assert width(scores, past((0.1, 0.05, 0.5))) > 0.7 * width(scores, None)


def test_another_scale_learns_the_same():
    """Scores out of 10 on a scale a fifth longer, in every figure."""
    rows, earlier = panel(5, (0.5, 0.3, 1.0), lead=1), [panel(i, (0.3, 0.2, 0.8)) for i in range(3)]
    longer = lambda scores: [s._replace(score=(s.score - 1) * 1.25) for s in scores]  # noqa: E731
    one = judge(rows, learnt=learn([cups_of(p, low=1, high=9) for p in earlier], scale=1)).differences[0]
    other = judge(
        longer(rows), low=0, high=10, smallest_difference=0.625, learnt=learn([cups_of(longer(p), low=0, high=10) for p in earlier], scale=1.25)
    ).differences[0]
    assert other.interval == pytest.approx(np.array(one.interval) * 1.25, abs=1e-6) and other.p_value == pytest.approx(one.p_value, abs=1e-6)


def test_one_taster_alone_and_one_setup_teach_nothing():
    assert learn([cups_of(panel(1, (0.5, 0.3, 1), tasters=1), low=1, high=9)], scale=1) is None
    scores = panel(2, (0.5, 0.3, 1), tasters=1)
    assert judge(scores, learnt=past((0.2, 0.1, 0.6))) == judge(scores)


def test_what_is_kept_of_it_judges_alike():
    scores, learnt = panel(5, (0.5, 0.3, 1.0), lead=1), past((0.2, 0.1, 0.7))
    kept = Learnt.of_text(learnt.text, learnt.flights, learnt.cups)
    for was, now in zip(judge(scores, learnt=learnt).differences, judge(scores, learnt=kept).differences, strict=True):
        assert now.interval == pytest.approx(was.interval, abs=0.002)


def test_the_nearest_in_kind_come_first_and_no_more_than_twenty():
    strangers = [Earlier(frozenset("X"), frozenset({"cone"}), (i,)) for i in range(30)]
    known = [Earlier(frozenset("XA"), frozenset({"press"}), (100 + i,)) for i in range(3)]
    alike = [Earlier(frozenset("X"), frozenset({"press"}), (200,))]
    found = nearest_in_kind([*alike, *known, *strangers], tasters=frozenset("AB"), brewers=frozenset({"press"}))
    assert len(found) == MOST_PANELS and {*known, *alike} <= set(found)
    assert {e.scores[0] for e in found if e in strangers} == set(range(14, 30))  # the newest of the rest


def test_an_earlier_panel_counts_in_the_passes_it_shares_or_not_at_all():
    rows = [Score("", "A", "S", "1", p, 6.0) for p in ("hot", "warm", "cool")]
    assert [s.pass_ for s in Earlier.of(rows, ["press"], {"hot", "cool"}).scores] == ["hot", "cool"]
    assert Earlier.of(rows[:1], ["press"], {"hot", "cool"}) is None and Earlier.of(rows, ["press"], {""}) is None


def test_both_scatters_are_told_whichever_counts():
    assert (
        told(1, 12, own=True, same=True, by_other="Keep A")
        == "Judged with scatter learnt from 1 earlier flight, 12 cups. By the usual scatter it says the same."
    )
    assert told(7, 212, own=False, same=False, by_other="Keep A").endswith("With scatter learnt from 7 earlier flights, 212 cups it would say: Keep A.")


def test_the_bar_rises_with_flights_and_the_verdict_says_so(monkeypatch):
    """A lead that is 98.5 % sure after three flights is not enough, though at the bar of one flight it would be."""
    rng = np.random.default_rng(14)
    leans = rng.normal(0, 0.6, (4, 2, 1)) + np.array([1.0, 0.0])[None, :, None]
    scores = []
    for flight in range(3):
        y = 5.5 + leans + rng.normal(0, 0.3, (1, 2, 2)) + rng.normal(0, 1.1, (4, 2, 2))
        y = np.round(2 * np.clip(y, 1, 9)) / 2
        scores += [Score(f"F{flight}", f"T{t}", f"S{s}", f"{flight}.{s}.{b}", "", float(y[t, s, b])) for t in range(4) for s in range(2) for b in range(2)]
    learnt = past((0.6, 0.3, 1.1))
    found = judge(scores, learnt=learnt)
    assert 0.98 < 1 - found.differences[0].p_value / 2 < clear_each(3) and found.verdict.kind == "not_enough"
    assert "After 3 flights a winner must be 98.8 % sure" in found.verdict.text
    monkeypatch.setattr("brasspenny.core.judging.verdict.clear_each", lambda flights: 0.98)
    assert judge(scores, learnt=learnt).verdict.kind == "clear"
    assert "After 3 flights a winner must be 98.8 % sure" in told(4, 48, own=True, same=True, by_other="", looks=3)
    assert "After" not in told(4, 48, own=False, same=True, by_other="", looks=1)


def test_the_command_learns_from_earlier_files_and_says_so(tmp_path):
    def written(name, scores):
        rows = "\n".join(f"{s.taster},{s.setup},{s.brew},liking,{s.score:g}" for s in scores)
        (tmp_path / name).write_text(f"taster,setup,brew,attribute,score\n{rows}\n")
        return str(tmp_path / name)

    new, earlier = written("new.csv", panel(5, (0.4, 0.2, 0.8), lead=1.5)), [written(f"{i}.csv", panel(i, (0.3, 0.2, 0.7))) for i in range(2)]
    run = lambda *more: subprocess.run([sys.executable, "-m", "brasspenny.cli", "judge", new, *more], cwd=PROJECT / "src", capture_output=True, text=True)  # noqa: E731
    assert "scatter learnt from 2 earlier flights, 60 cups" in run("--history", *earlier).stdout
    assert json.loads(run("--json", "--history", *earlier).stdout)["scatter"].startswith("scatter learnt from 2")
    assert "Judged with" not in run().stdout and "scatter" not in json.loads(run("--json").stdout)
    missing = run("--history", str(tmp_path / "none.csv"))
    assert missing.returncode == 2 and "none.csv cannot be read" in missing.stderr


def test_only_a_number_for_each_node_can_be_read_as_a_likelihood():
    nodes = math.prod(reference_grid().shape)
    assert Learnt.is_text(" ".join(["-1.25"] * nodes))
    for text in ("", "zzz", " ".join(["-1.25"] * (nodes - 1)), " ".join(["nan"] * nodes)):
        assert not Learnt.is_text(text)
