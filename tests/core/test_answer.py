"""The answer to the question that was asked: by kind of question, for the people it was asked for."""

import numpy as np
import pytest

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.answer import Found, Located, answer
from brasspenny.core.judging.guesses import Guess, count_guesses
from brasspenny.core.judging.peak import find_peak
from brasspenny.core.judging.segments import find_segments
from brasspenny.interchange.scores_csv import answer_of_scores, judgement_json


def panel(rng, likes, *, brews=2, spread=0.6):
    """likes: one dict of setup → mean a taster."""
    return [
        Score("1", f"T{i}", s, f"{s}{b}", "", float(np.clip(round((5.5 + m + rng.normal(0, spread)) * 2) / 2, 1, 9)))
        for i, means in enumerate(likes)
        for s, m in means.items()
        for b in range(brews)
    ]


def camps_panel(seed=1, six=6):
    a, d = {"A": 2.0, "B": -0.5, "C": 0.7, "D": -2.0}, {"A": -2.0, "B": -0.5, "C": 0.7, "D": 2.0}
    return panel(np.random.default_rng(seed), [a] * six + [d] * six)


def test_two_camps_lead_and_the_average_never_has_the_headline():
    scores = camps_panel()
    said = answer_of_scores(judge(scores), scores)
    assert said.kind == "camps" and said.headline == "Six like A best, six like D: choose by guest"
    assert "C is the safest for a mixed table" in said.certainty and "points to those who like A" in said.certainty
    assert [len(g.tasters) for g in said.groups] == [6, 6] and said.groups[0].loses["A"] == 0 and said.groups[0].loses["D"] > 2
    out = judgement_json(judge(scores), said)
    assert next(iter(out)) == "headline" and out["headline"] == said.headline and [g["best"] for g in out["groups"]] == ["A", "D"]


def test_camps_found_name_the_right_setups_in_nine_of_ten():
    found = right = 0
    for seed in range(14):
        scores = camps_panel(seed)
        segments = find_segments(scores)
        if segments.segments:
            found += 1
            right += {g.best for g in segments.segments} == {"A", "D"}
    assert found >= 10 and right >= 0.9 * found


@pytest.mark.parametrize("tasters", [1, 2])
@pytest.mark.parametrize("seed", range(6))
def test_an_anecdote_never_drops_a_setup(tasters, seed):
    scores = panel(np.random.default_rng(seed), [{"A": 3, "B": 0, "C": -4}] * tasters, brews=1, spread=0.2)
    found = judge(scores)
    said = answer_of_scores(found, scores)
    assert found.verdict.dropped == () and "rop" not in said.headline and "liked less" not in said.certainty


def test_with_labels_in_sight_nothing_is_dropped():
    scores = panel(np.random.default_rng(2), [{"A": 2, "B": 2.1, "C": -3}] * 8)
    found = judge(scores)
    assert found.verdict.dropped == ("C",)
    lean, verdict = {"setup": found.lean.setup, "text": found.lean.text}, {"headline": found.verdict.headline, "text": found.verdict.text, "dropped": ("C",)}
    said = answer(Found({"A": "A", "B": "B", "C": "C"}, verdict=verdict, lean=lean, sighted=True))
    assert said.headline.startswith("Labels in sight: lean towards") and said.sighted


VERDICT, LEAN = {"headline": "Lean towards C", "text": "…", "dropped": ()}, {"setup": "C", "text": "Meanwhile brew C."}
RUNGS = {"A": 13.0, "B": 14.0, "C": 15.0, "D": 16.0, "E": 17.0, "F": 18.0}
CURVE = {"kind": "peak", "best": 15.4, "interval": (14.9, 15.9), "tested": (13.0, 18.0), "rising": "", "next_value": None}


def ladder(**peak):
    names = {k: f"1:{v:g}" for k, v in RUNGS.items()}
    return answer(Found(names, verdict=VERDICT, lean=LEAN, peak=Located(**(CURVE | peak)), rungs=RUNGS))


def test_a_ladder_answers_how_far_and_which_rung_to_brew():
    said = ladder(kind="peak")
    assert said.headline == "Liked best near ratio 1:15.4" and "1:14.9 and 1:15.9" in said.certainty and said.action.startswith("Brew 1:15 tomorrow")
    said = ladder(kind="no_peak", rising="high", next_value=19.0)
    assert "towards ratio 1:18.0, the end" in said.headline and said.action == "Try 1:19.0 next; meanwhile brew 1:18."
    said = ladder(kind="not_located")
    assert said.headline == "The best brew ratio is not located" and said.action == "Meanwhile brew C."
    assert ladder(kind="too_few_levels").kind == "setup"


def test_a_factorial_answers_which_matters_more_then_the_best_combination():
    def factor(name, p):
        return {"factor": name, "label": name, "probability_largest": p, "best": "x", "worst": "y", "span": 1.2, "span_interval": (0.4, 2.0)}

    setups = [{"setup": "A", "mean": 6.1}, {"setup": "D", "mean": 7.0}]
    crossed = {
        "factors": [factor("coffee", 0.94), factor("grinder", 0.06)],
        "unit": "points",
        "interactions": [{"p_value": 0.01, "text": "flat rather than conical does 1.0 points more"}],
    }
    said = answer(Found({"A": "A", "D": "Peru, flat"}, verdict=VERDICT, lean=LEAN, setups=setups, factorial=crossed))
    assert said.headline == "Coffee matters more" and "probability 94 %" in said.certainty and "They interact" in said.certainty
    assert said.action == "The best combination so far is Peru, flat: brew it tomorrow."
    crossed["factors"][0]["probability_largest"] = 0.6
    assert answer(Found({}, verdict=VERDICT, lean=LEAN, setups=setups, factorial=crossed)).headline == "Which matters more is open: coffee leads"


def test_differences_ranks_and_pairs_have_the_same_page():
    told = {"method": "triangle", "sighted": False, "p_value": 0.02, "text": "9 of 15 right.", "claim": "Each taster answered once."}
    assert answer(Found({}, told=[told])).headline == "They can be told apart"
    not_shown = answer(Found({}, told=[told | {"p_value": 0.2}]))
    assert not_shown.headline == "Not shown that they can be told apart" and not_shown.action.startswith("16 answers in all would show it 8 times in 10")
    ranked = {"setups": ["B", "A", "E", "F"], "mean_ranks": [1.2, 2.0, 3.4, 3.4], "p_value": 0.01, "text": "Alike.", "from_scores": False}
    said = answer(Found({}, ranked=ranked))
    assert said.headline == "B came first" and said.certainty.endswith("E and F tie.")
    assert answer(Found({}, ranked=ranked | {"p_value": 0.3})).headline == "Lean towards B"
    strengths = [{"setup": "A", "log_strength": 0.8}, {"setup": "B", "log_strength": -0.8}]
    pair = {"a": "B", "b": "A", "preferred": 0.2, "interval": (0.08, 0.4)}
    assert answer(Found({}, preferred={"strengths": strengths, "pairs": [pair]})).headline == "A is preferred"
    level = [{"setup": "A", "log_strength": 0.01}, {"setup": "B", "log_strength": -0.01}]
    assert answer(Found({}, preferred={"strengths": level, "pairs": []})).headline == "A and B tie"
    assert answer(Found({})) is None


def test_guesses_count_tasters_matchings():
    """Six tasters, five right of two cups each: 5 of 6, p = 0.11, and not 10 of 12."""
    five = [Guess(str(i), x, x) for i in range(5) for x in "AB"] + [Guess("5", "A", "B"), Guess("5", "B", "A")]
    found = count_guesses(five, 2)
    assert (found.whole, found.matchings, found.right) == (5, 6, 10) and found.p_value == pytest.approx(7 / 64)
    assert "5 of 6 tasters matched every cup: no more than guessing may give (p = 0.11)" in found.text
    one = count_guesses([Guess("x", "A", "A")], 3)
    assert "proves nothing" in one.text and "3 right ones" in one.text and one.p_value == pytest.approx(1 / 3)
    all_right = count_guesses([Guess(str(i), x, x) for i in range(6) for x in "ABC"], 3)
    assert all_right.p_value == pytest.approx((1 / 6) ** 6) and "more than guessing gives" in all_right.text


def test_blind_matchings_are_right_as_often_as_chance_says():
    rng, small = np.random.default_rng(4), 0
    for _ in range(400):
        guesses = [Guess(str(t), s, w) for t in range(5) for s, w in zip(rng.permutation(list("ABC")), "ABC", strict=True)]
        small += count_guesses(guesses, 3).p_value <= 0.05
    assert small <= 0.05 * 400 + 9


def test_the_pennies_that_lead_are_kept_leaned_to_or_dropped_and_never_the_averages():
    verdict = {"headline": "Keep", "text": "", "choice": "A", "tied": [], "dropped": ["C"]}
    lean = {"setup": "B", "text": "Meanwhile brew B: it risks little."}

    def pennies(**more):
        said = answer(Found({x: x for x in "ABCD"}, **{"verdict": verdict, "lean": lean} | more))
        return said.kept, said.leans, said.dropped

    assert pennies() == (("A",), "", ("C",))
    assert pennies(verdict=verdict | {"choice": None, "tied": ["A", "B"]}) == (("A", "B"), "", ("C",))
    assert pennies(verdict=verdict | {"choice": None}) == ((), "B", ("C",))
    assert pennies(sighted=True) == ((), "B", ())
    scores = camps_panel()
    assert answer_of_scores(judge(scores), scores).kept == ("A", "D"), "each kind of guest has its own"


@pytest.mark.parametrize("setups", [2, 3])
def test_what_is_not_clear_always_leaves_the_leader_a_rival(setups):
    """Dropping the last rival would be winning at a lower bar."""
    open_, near = 0, 0
    for seed in range(80):
        rng = np.random.default_rng(seed)
        lead = {"A": 1.5, "B": 0.0, "C": -0.2}
        scores = panel(rng, [{s: lead[s] for s in "ABC"[:setups]}] * 5, brews=2, spread=1.0)
        found = judge(scores)
        if found.verdict.kind == "not_enough":
            open_ += 1
            near += any(d.p_adjusted <= 0.05 for d in found.differences)
            assert len(found.verdict.dropped) < setups - 1
            assert answer_of_scores(found, scores).headline.count("rop") == (1 if found.verdict.dropped else 0)
    assert open_ > 5 and near > 0, "none of these panels comes near the bar"


def test_favourites_that_are_level_are_called_alike():
    """Seven like A; five give C and D the same: neither is their one favourite."""
    likes = [{"A": 3.0, "B": -0.5, "C": -1.5, "D": -1.5}] * 7 + [{"A": -3.0, "B": -0.5, "C": 1.5, "D": 1.5}] * 5
    scores = panel(np.random.default_rng(4), likes, spread=0.0)
    said = answer_of_scores(judge(scores), scores)
    assert said.headline == "Seven like A best, five like C and D alike: choose by guest"
    assert said.kept == ("A", "C", "D")


def test_groups_that_share_a_favourite_are_served_it():
    likes = [{"A": 3.0, "B": -3.0, "C": 0.0}] * 6 + [{"A": 1.0, "B": 1.0, "C": -3.0}] * 6
    scores = panel(np.random.default_rng(4), likes, spread=0.0)
    assert answer_of_scores(judge(scores), scores).kind != "camps"


def test_a_compromise_has_its_interval_or_is_open():
    near = [{"A": 2.0, "B": -2.0, "C": 0.5, "D": 0.5}] * 6 + [{"A": -2.0, "B": 2.0, "C": 0.5, "D": 0.5}] * 6
    open_ = answer_of_scores(judge(scores := panel(np.random.default_rng(1), near)), scores)
    assert open_.kind == "camps" and "for a mixed table is open" in open_.certainty and "mixed table" not in open_.action
    found = find_segments(camps_panel())
    mean, low, high = found.least_liked
    assert found.compromise == "C" and low < mean < high and mean == min(g.means["C"] for g in found.segments)
    assert f"{mean:.1f} ({low:.1f} to {high:.1f})" in answer_of_scores(judge(camps_panel()), camps_panel()).certainty


def test_a_groups_favourite_has_a_probability_that_falls_as_its_lead_shrinks():
    rng = np.random.default_rng(7)
    sure, near = ([{"A": 2.0, "B": -2.0, "C": 2.0 - lead}] * 6 + [{"A": -2.0, "B": 2.0, "C": -2.0}] * 6 for lead in (2.5, 0.2))
    shares = [
        next(g.probability_best for g in find_segments(panel(rng, likes)).segments if len(g.tasters) == 6 and "T0" in g.tasters) for likes in (sure, near)
    ]
    assert shares[0] > 0.95 > shares[1]


def test_along_a_ladder_chances_and_interval_come_from_one_posterior():
    """Six ratios, a hump near the fourth: the chance of the rungs within a step of the interval is nearly all there is, where the setups' own chances left 40 % outside."""
    rng, rungs = np.random.default_rng(11), {letter: 13.0 + i for i, letter in enumerate("ABCDEF")}
    scores = panel(rng, [{s: -0.35 * (x - 15.6) ** 2 for s, x in rungs.items()}] * 8, brews=2, spread=1.0)
    peak = find_peak(scores, {(s.setup, s.brew): rungs[s.setup] for s in scores})
    assert sum(peak.chances.values()) == pytest.approx(1)
    low, high = peak.interval
    outside = sum(share for s, share in peak.chances.items() if not low - 0.5 <= rungs[s] <= high + 0.5)
    assert outside < 0.05
    said = answer(Found({}, verdict=NOTHING, lean={"setup": "C", "text": "."}, peak=Located(**of(peak)), rungs=rungs))
    assert said.chances == peak.chances


NOTHING = {"headline": "", "text": "", "dropped": (), "choice": None, "tied": ()}


def of(peak):
    return {name: getattr(peak, name) for name in ("kind", "best", "interval", "tested", "rising", "next_value", "chances")}
