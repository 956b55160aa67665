"""Thresholds and series: what the belief is against a plain integration, which way an answer moves it, and what is said of ladders."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import norm

from brasspenny.core.errors import PennyError
from brasspenny.core.palate import series, threshold, use
from brasspenny.core.palate.threshold import Belief, Presented, next_step

STEPS = series.AXES["strength"].ready


def test_a_belief_is_the_plain_integral_over_threshold_slope_and_lapse():
    """Worked out again without the program's grid: a finer one, the normal law for 2-AFC, the product of the answers."""
    answers = [
        Presented(9, True),
        Presented(6.5, True),
        Presented(4.5, False),
        Presented(13, True),
        Presented(3, False),
        Presented(6.5, True),
        Presented(9, True),
        Presented(4.5, True),
    ]
    u, v = np.linspace(-4.5, 4.5, 400), np.linspace(-3.5, 3.5, 101)
    x1, slope = 8 * np.exp(0.8 * u)[:, None, None], 1.2 * np.exp(0.35 * v)[None, :, None]
    lapse = threshold.LAPSES[None, None, :]
    weight = norm.pdf(u)[:, None, None] * norm.pdf(v)[None, :, None] * threshold.LAPSE_WEIGHTS[None, None, :]
    for a in answers:
        p = (1 - lapse) * norm.cdf((a.step / x1) ** slope / np.sqrt(2)) + lapse / 2
        weight = weight * (p if a.right else 1 - p)
    at = np.log(x1 * threshold.D_75 ** (1 / slope)) + 0 * lapse
    order = np.argsort(at.ravel())
    mass = np.cumsum(weight.ravel()[order]) / weight.sum()
    wanted = np.exp(np.interp((0.5, 0.025, 0.975), mass, at.ravel()[order]))
    assert threshold.belief_of("strength", STEPS, answers).threshold() == pytest.approx(tuple(wanted), rel=0.01)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.sampled_from(STEPS), st.booleans()), max_size=10), st.sampled_from(STEPS), st.sampled_from(["two_afc", "triangle"]))
def test_a_right_answer_never_raises_a_threshold_and_the_order_of_answers_does_not_matter(given_, step, method):
    answers = [Presented(x, right, method) for x, right in given_]
    told = {right: threshold.belief_of("strength", STEPS, [*answers, Presented(step, right, method)]).threshold()[0] for right in (True, False)}
    before = threshold.belief_of("strength", STEPS, answers).threshold()[0]
    assert told[True] <= before * (1 + 1e-9) and told[False] >= before * (1 - 1e-9)
    assert threshold.belief_of("strength", STEPS, answers[::-1]).threshold() == pytest.approx(threshold.belief_of("strength", STEPS, answers).threshold())


@given(st.sampled_from(["two_afc", "triangle"]))
def test_the_next_step_is_the_one_that_tells_most(method):
    belief = Belief(8.0)
    chosen = next_step(belief, STEPS, method)
    assert belief.expected_gain(chosen, method) == pytest.approx(max(belief.expected_gain(s, method) for s in STEPS))
    assert chosen not in (STEPS[0], STEPS[-1])  # neither a guess nor a gift


@given(st.integers(1, 60), st.text(max_size=6))
def test_the_fixed_series_serves_every_step_once_a_block(blocks, seed):
    served = [series.fixed_order(STEPS, n, seed) for n in range(1, blocks * len(STEPS) + 1)]
    for i in range(blocks):
        assert sorted(served[i * len(STEPS) : (i + 1) * len(STEPS)]) == list(STEPS)


@given(st.lists(st.floats(0.1, 89), min_size=3, max_size=12, unique=True), st.floats(30, 5000), st.floats(0.5, 4))
def test_a_dilution_is_weaker_by_its_step_and_fills_its_server(steps, serve_g, tds_pct):
    for p in series.prepared(series.checked_steps("strength", steps), serve_g=serve_g, tds_pct=tds_pct):
        assert p.coffee_g + p.water_g == pytest.approx(serve_g)
        assert p.coffee_g * tds_pct / serve_g == pytest.approx(p.tds_pct) == pytest.approx(tds_pct * (1 - p.step / 100))


@pytest.mark.parametrize("steps", [[1, 2], list(range(1, 14)), [1, 1, 2], [0, 1, 2], [1, 2, 91]])
def test_what_is_no_series_is_refused(steps):
    with pytest.raises(PennyError) as refused:
        series.checked_steps("strength", steps)
    assert refused.value.field == "steps"


def test_setups_of_one_ratio_are_one_rung():
    """Two filters at each of two ratios: the strengths of 1:15 by one filter and 1:16 by the other may meet, and no step is too small for it."""
    rungs = [(15, 1.42), (15, 1.32), (16, 1.31), (16, 1.21)]
    assert use.step_not_told(rungs, 6.0) == ""
    assert use.step_not_told(rungs, 10.0).startswith("1:15.0 to 1:16.0 changes strength by 0.11 %; this panel tells 0.13 % apart")
    assert use.step_not_told([(15, 1.4), (15, 1.3)], 50.0) == use.step_not_told([], 5.0) == use.step_not_told(rungs, None) == ""


@pytest.mark.parametrize(("tells", "tds", "within"), [(None, 1.4, 0.05), (5.0, 1.4, 0.05), (2.0, 1.4, 0.03), (0.1, 1.4, 0.01)])
def test_strengths_match_within_what_is_told(tells, tds, within):
    assert use.matched_within_tds_pct(tells, tds) == within


def test_two_alike_may_stand_in_for_each_other_and_two_apart_may_not():
    def keen(at):
        return threshold.belief_of("strength", STEPS, [Presented(s, s >= at) for s in STEPS for _ in range(8)])

    pairs = threshold.stand_ins({"Bo": keen(6), "Imke": keen(6), "Wessel": keen(20)})
    assert [(a, b) for a, b, _ in pairs] == [("Bo", "Imke")]


def answered(rng, tells: float | None, count: int):
    """Answers of one who tells `tells` apart three times in four (None: guesses), each step chosen as a series chooses it."""
    steps = (2.0, 4.0, 8.0, 16.0, 32.0)
    belief, out = threshold.belief_of("strength", steps, []), []
    for _ in range(count):
        step = next_step(belief, steps, "two_afc")
        right = rng.random() < (0.5 if tells is None else 0.5 + 0.5 * (1 - 0.5 ** (step / tells)))
        out.append(Presented(step, bool(right)))
        belief.tell(out[-1])
    return steps, out


def test_one_who_guesses_is_told_that_nothing_was_measured_and_one_who_tells_is_not():
    rng = np.random.default_rng(6)
    standings = {
        who: [threshold.threshold("strength", *answered(rng, tells, 24), outlook=False).standing for _ in range(40)]
        for who, tells in (("guesses", None), ("tells", 5.0))
    }
    assert standings["guesses"].count("guessing") >= 32
    assert standings["tells"].count("guessing") <= 4
    found = threshold.threshold("strength", (2.0, 4.0), [Presented(4.0, i % 2 == 0) for i in range(12)], outlook=False)
    assert found.text == "Not measured: 6 of 12 right, as a guess may have. Begin again with larger steps." and threshold.panel("strength", [found]) is None


def test_a_dull_panel_never_loosens_one_strength_and_a_keen_taster_tightens_it():
    rng = np.random.default_rng(2)
    dull = {f"T{i}": answered(rng, 14.0, 30)[1] for i in range(4)}
    best = threshold.best_tells("strength", (), dull)
    assert best is None or use.matched_within_tds_pct(best, 1.4) <= 0.05
    keen = dull | {"K": [Presented(2.0, True) for _ in range(14)] + [Presented(1.0, i % 4 != 0) for i in range(12)]}
    assert threshold.best_tells("strength", (), keen) < 1.5 and use.matched_within_tds_pct(threshold.best_tells("strength", (), keen), 1.4) < 0.03
