"""Peaks, surfaces, factorials, next steps, value and grade: known truths put in, and what comes out."""

import math

import numpy as np
import pytest
import statsmodels.api as sm

from benchmarks.settling_study import said_and_happened
from brasspenny.core.errors import BadScores
from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.character import characters
from brasspenny.core.judging.columns import fit_columns
from brasspenny.core.judging.evidence import CAPS, GRADES, grade
from brasspenny.core.judging.factorial import factorial_effects
from brasspenny.core.judging.next_steps import next_steps, spent
from brasspenny.core.judging.peak import find_peak
from brasspenny.core.judging.scores import cups_of
from brasspenny.core.judging.surface import panel_surface
from brasspenny.core.judging.value import gain_per_money, tie_breaker, values_of

from ..amount import examples


def panel(rng, effects, J=8, R=2, sds=(0.4, 0.2, 0.8), rounded=True):
    """effects: setup → liking; whole points, tasters at their own level."""
    ts, b, e = sds
    out = []
    brews = {(s, r): rng.normal(0, b) for s in effects for r in range(R)}
    for t in range(J):
        level = rng.normal(6, 0.8)
        for s, x in effects.items():
            own = rng.normal(0, ts)
            for r in range(R):
                y = level + x + own + brews[s, r] + rng.normal(0, e)
                out.append(Score("F", f"T{t}", s, f"{s}{r}", "", float(np.clip(round(y) if rounded else y, 1, 9))))
    return out


def ladder(f, values, **how):
    scores = panel(np.random.default_rng(how.pop("seed", 4)), {f"S{i}": f(x) for i, x in enumerate(values)}, **how)
    return scores, {(s.setup, s.brew): values[int(s.setup[1:])] for s in scores}


RATIOS = (13.0, 14.0, 15.0, 16.0, 17.0, 18.0)


def test_a_peak_inside_is_found_with_an_interval_that_holds_it():
    found = find_peak(*ladder(lambda x: -0.45 * (x - 15.4) ** 2, RATIOS, J=10))
    assert found.kind == "peak" and found.interval[0] < 15.4 < found.interval[1]
    assert found.best == pytest.approx(15.4, abs=0.5) and found.inside >= 0.95 and found.next_value is None
    assert (
        found.curve.x[0] == 13
        and found.curve.x[-1] == 18
        and all(a <= y <= b for a, y, b in zip(found.curve.low, found.curve.y, found.curve.high, strict=True))
    )


def test_the_band_is_nowhere_surer_than_the_brews_themselves():
    """It once vanished half way, where the parabola's columns are nought: the level of a curve is no surer there than anywhere."""
    scores, at = ladder(lambda x: -0.45 * (x - 15.4) ** 2, RATIOS, J=6)
    curve = find_peak(scores, at).curve
    by_brew = {}
    for s in scores:
        by_brew.setdefault((s.setup, s.brew), []).append(s.score)
    means = np.array([np.mean(v) for v in by_brew.values()])
    x = np.array([at[k] for k in by_brew])
    left = means - np.polyval(np.polyfit(x, means, 2), x)
    least = 2 * 1.96 * left.std(ddof=3) / np.sqrt(len(means))
    widths = np.array(curve.high) - np.array(curve.low)
    assert widths.min() > 0.8 * least and widths.max() < 4 * widths.min()


def test_a_draws_level_goes_with_its_slope():
    """Against ordinary least squares with taster intercepts, where nothing but noise scatters: the spread of the line half way and at the end."""
    rng = np.random.default_rng(8)
    scores = [Score("F", f"T{t}", f"S{i}", f"S{i}{r}", "", 5 + 0.3 * i + rng.normal(0, 0.7)) for t in range(8) for i in range(5) for r in range(6)]
    cups = cups_of(scores, low=-50, high=50)
    x = np.array([float(cups.brew_keys[b][0][1:]) for b in cups.brew]) / 2
    intercept, b = fit_columns(cups, x[:, None], np.zeros((len(x), 1)), scale=1).draws(20_000, 1)
    design = np.column_stack([np.eye(8)[cups.block], x])
    ols = sm.OLS(cups.y, design).fit()
    for z in (0.0, 1.0, 2.0):
        row = np.array([1 / 8] * 8 + [z])
        sd = float(np.sqrt(row @ ols.cov_params() @ row))
        assert sd * 0.95 < (intercept + z * b[:, 0]).std() < sd * 1.6  # the assumed scatter of brews and tasters comes on top


def test_liking_that_still_rises_has_no_peak_inside_and_the_next_value_lies_beyond():
    found = find_peak(*ladder(lambda x: 0.8 * (x - 15.5), RATIOS, J=10))
    assert (found.kind, found.rising, found.next_value) == ("no_peak", "high", 19)
    assert found.slope_interval[0] < 0.8 < found.slope_interval[1] and found.next_gain[0] > 0
    assert find_peak(*ladder(lambda x: -0.8 * (x - 15.5), RATIOS, J=10)).rising == "low"


def test_flat_liking_is_not_given_a_peak():
    rows = [find_peak(*ladder(lambda x: 0.0, RATIOS, J=6, seed=s)).kind for s in range(12)]
    assert rows.count("not_located") >= 11


def test_three_levels_draw_a_curve_and_no_verdict_two_draw_nothing():
    assert find_peak(*ladder(lambda x: -((x - 14) ** 2), RATIOS[:3], J=10)).kind == "too_few_levels"
    with pytest.raises(BadScores, match="2 tested values"):
        find_peak(*ladder(lambda x: x - 14, RATIOS[:2]))


def test_without_random_parts_the_columns_are_least_squares_with_taster_intercepts():
    """Much noise-free data: the posterior mean of b must be statsmodels' within-taster estimate."""
    scores, at = ladder(lambda x: 0.5 * (x - 15.5) - 0.2 * (x - 15.5) ** 2, RATIOS, J=6, rounded=False)
    cups = cups_of(scores, low=1, high=9)
    x = (np.array([at[k] for k in cups.brew_keys])[cups.brew] - 15.5) / 2.5
    found = fit_columns(cups, np.stack([x, x**2], 1), x[:, None], scale=1)
    dummies = np.eye(len(cups.block_taster))[cups.block]
    oracle = sm.OLS(cups.y, np.column_stack([dummies, x, x**2])).fit().params[-2:]
    assert found.weight @ found.mean == pytest.approx(oracle, abs=0.02)  # complete and balanced: GLS = OLS


def test_a_surface_needs_eight_points_and_guesses_outside_them():
    rng = np.random.default_rng(2)
    points = {f"S{i}": (float(e), float(c)) for i, (e, c) in enumerate((e, c) for e in (18, 20, 22) for c in (1.2, 1.35, 1.5))}
    scores = panel(rng, {s: -0.3 * (e - 20.5) ** 2 - 30 * (c - 1.33) ** 2 for s, (e, c) in points.items()}, J=10)
    found = panel_surface(scores, {(s.setup, s.brew): points[s.setup] for s in scores})
    assert found.points == 9 and found.best == pytest.approx((20.5, 1.33), abs=0.6)
    assert found.guess[0][0] and not found.guess[12][12]
    few = [s for s in scores if s.setup in list(points)[:7]]
    assert panel_surface(few, {(s.setup, s.brew): points[s.setup] for s in few}) is None
    assert panel_surface(scores, {(s.setup, s.brew): (18 + int(s.setup[1:]) / 4, 1.2 + int(s.setup[1:]) / 40) for s in scores}) is None  # on one line


def test_a_factorial_finds_the_larger_factor_and_the_interaction():
    levels = {"coffee": {"A": "lot 3", "B": "lot 3", "C": "lot 4", "D": "lot 4"}, "grinder": {"A": "old", "B": "new", "C": "old", "D": "new"}}
    scores = panel(np.random.default_rng(6), {"A": 0.0, "B": 0.2, "C": 2.0, "D": 2.4}, J=10, R=3)
    found = factorial_effects(scores, levels)
    coffee, grinder = found.factors
    means = {s: np.mean([x.score for x in scores if x.setup == s]) for s in "ABCD"}
    assert (coffee.best, coffee.worst) == ("lot 4", "lot 3")
    assert coffee.span == pytest.approx((means["C"] + means["D"] - means["A"] - means["B"]) / 2, abs=1e-6)
    assert coffee.span_interval[0] > 0 and coffee.probability_largest > 0.95 > grinder.probability_largest
    (both,) = found.interactions
    assert abs(both.estimate) == pytest.approx(abs(means["D"] - means["C"] - means["B"] + means["A"]), abs=1e-6)
    assert both.interval[0] < 0.2 < both.interval[1] or both.interval[0] < -0.2 < both.interval[1]
    assert factorial_effects([s for s in scores if s.setup != "D"], levels) is None
    assert factorial_effects(scores, {"coffee": levels["coffee"]}) is None


def test_more_of_the_same_removes_more_doubt_and_settled_questions_have_none_left():
    rng = np.random.default_rng(5)
    close = panel(rng, {"A": 0.0, "B": 0.3}, J=4, R=2)
    cost = {"dose_g": {"A": 18, "B": 18}, "minutes": {"A": 8, "B": 8}}
    by = {s.code: s for s in next_steps(close, **cost)}
    assert by["one_more_flight"].removes > by["one_more_brew"].removes > 0
    assert by["one_more_flight"].grams == 72 and by["more_tasters"].tasters == 4
    sure = {s.code: s for s in next_steps(panel(rng, {"A": 0.0, "B": 4}, J=8, R=4), **cost)}
    assert sure["one_more_flight"].removes < 0.01 and sure["one_more_flight"].settles > 0.95
    ranked = next_steps(close, **cost)
    assert [s.per_effort for s in ranked] == sorted((s.per_effort for s in ranked), reverse=True)
    assert not ranked[0].level
    rising = find_peak(*ladder(lambda x: 0.8 * (x - 15.5), RATIOS, J=10))
    scores, _ = ladder(lambda x: 0.8 * (x - 15.5), RATIOS, J=10)
    each = {f"S{i}": 18.0 for i in range(6)}
    assert next(s for s in next_steps(scores, dose_g=each, minutes=each, peak=rising) if s.code == "next_value").value == 19


def test_steps_the_simulation_cannot_tell_apart_are_level(monkeypatch):
    """Where another seed would rank them otherwise, they are level; where none would, they are not."""
    close = panel(np.random.default_rng(5), {"A": 0.0, "B": 0.3}, J=4, R=2)

    def firsts_and_level(minutes):
        cost, firsts = {"dose_g": {"A": 18, "B": 18}, "minutes": {"A": minutes, "B": minutes}}, set()
        level = {s.code for s in next_steps(close, **cost) if s.level}
        for seed in range(40, 60):
            monkeypatch.setattr("brasspenny.core.judging.next_steps.SEED", seed)
            firsts.add(next_steps(close, **cost)[0].code)
        monkeypatch.undo()
        return firsts, level

    firsts, level = firsts_and_level(10)
    assert len(firsts) > 1 and len(level) >= 1
    assert firsts_and_level(200) == ({"more_tasters"}, set())


def test_what_a_question_has_cost_is_told_in_plain_words():
    assert spent(flights=1, brews=4, grams=72, minutes=31.4) == "Spent: 1 flight, 4 brews, 72 g, 31 min."


def test_character_names_what_a_setup_is_chosen_for_even_in_a_tie():
    rng = np.random.default_rng(9)
    sweet = judge(panel(rng, {"A": 1.5, "B": -1.0}, J=8, R=2), attribute="sweetness")
    liking = panel(rng, {"A": 0.0, "B": 0.0}, J=8, R=2)
    cooled = [
        Score(s.flight, s.taster, s.setup, s.brew, p, max(1, s.score - (2 if p == "cool" and s.setup == "A" else 0))) for s in liking for p in ("hot", "cool")
    ]
    a, b = characters({"sweetness": sweet}, cooled, {"A": "Weave"}, {"sweetness": ("Sweetness", "low", "high")})
    assert a.text == "Choose Weave if you want more sweetness and drink it hot." and not a.steady
    assert b.text == "Choose B if you want less sweetness." and b.steady


def test_value_frontier_tie_breaker_and_gain():
    found = values_of({"A": 7.1, "B": 7.0, "C": 6.0}, {"A": 0.62, "B": 0.50, "C": 0.55}, {"A": 6, "B": 9, "C": None})
    assert [(w.setup, w.on_price_frontier, w.on_time_frontier) for w in found] == [("A", True, True), ("B", True, False), ("C", False, False)]
    assert tie_breaker(["A", "B"], found, {"A": "Weave", "B": "Crêpe"}) == "Take Crêpe: it is 0.12 a cup cheaper; Weave is 3.0 min faster."
    assert "easier" in tie_breaker(["A", "C"], values_of({"A": 7, "C": 7}, {}, {}), {})
    assert gain_per_money("coffee", "Peru", "Burundi", 0.9, (0.2, 1.6), 0.15).points_per_unit == pytest.approx(6)
    assert gain_per_money("coffee", "Peru", "Burundi", 0.9, (-0.2, 1.6), 0.15).points_per_unit is None


def test_every_cap_lowers_the_grade_to_itself_and_no_further():
    for code, (cap, _) in CAPS.items():
        assert grade([code], tasters=8, fewest_brews=3).step == min(cap, 5)
    both = grade(["unbalanced_order", "confound"], tasters=8, fewest_brews=3)
    assert (both.name, [r.code for r in both.reasons]) == ("weak", ["confound", "unbalanced_order"])
    assert grade([], tasters=7, fewest_brews=3).name == "good" and GRADES[5] == "strong"


def test_a_verdict_carries_its_pass_and_grade():
    scores = panel(np.random.default_rng(1), {"A": 0, "B": 1}, J=8, R=3)
    assert (judge(scores).pass_, judge(scores).evidence_grade) == ("", "strong")
    plain = judge(scores, conditions_known=False)
    assert plain.evidence_grade == "good" and plain.caveats[-1].code == "conditions_unknown"
    two = [Score(s.flight, s.taster, s.setup, s.brew, p, s.score) for s in scores for p in ("hot", "cool")]
    assert judge(two).pass_ == "mean" and judge([s for s in two if s.pass_ == "hot"]).pass_ == "hot"


def test_how_often_a_step_would_settle_is_said_about_as_often_as_it_does():
    """A design of benchmarks/settling_study.py, by the verdict's own rule over the mixture of scatters; judged by its own scatter each draw said 3 to 7 times as much."""
    said, happened = said_and_happened(examples(150, least=24), (4, 2, 2))
    se = math.sqrt(happened.mean() * (1 - happened.mean()) / len(said))
    assert abs(said.mean() - happened.mean()) <= 0.03 + 3 * max(se, 0.03)
    assert said.mean() <= 0.1
