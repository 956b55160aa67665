"""From the posterior to an answer: estimates, the rule of four steps, the words. docs/judging.md §3 (outputs) and §4."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

import numpy as np

from .. import figures
from .bars import CLEAR_BEST, DROP_P, LEVEL_POINTS, TIE_SLACK
from .effects import Flat, WithTau
from .evidence import GRADES, grade
from .learnt import CLEAR_EACH, Learnt, clear_each, said_risen
from .mixtures import below, quantile
from .multiplicity import holm
from .passes import changing_leaders
from .permutation import sign_flip_p
from .posterior import Nodes, integrate
from .scores import Cups, Score, cups_of
from .segments import find_segments

DIFFERENCES_NOTE = (
    "The interval and p are what these scores say by themselves. The chance that two setups are equivalent also counts how far apart setups usually lie, "
    "so it can be sizeable where the interval alone is wide."
)
"""Two columns of one table rest on two priors (docs/judging.md §2): the table says so."""

Kind = Literal["clear", "tie", "not_enough"]


@dataclass(frozen=True)
class SetupResult:
    """Mean and 95 % interval on the scale; probability of being the best; expected regret of choosing it, points."""

    setup: str
    n_scores: int
    mean: float | None
    interval: tuple[float, float] | None
    probability_best: float | None
    expected_regret: float | None


@dataclass(frozen=True)
class Difference:
    """a − b in points. p_value is the model's; p_permutation answers only "did they tell these very cups apart"."""

    a: str
    b: str
    estimate: float
    interval: tuple[float, float]
    p_value: float
    p_adjusted: float
    p_permutation: float
    probability_practically_equal: float


@dataclass(frozen=True)
class Verdict:
    kind: Kind
    choice: str | None
    tied: tuple[str, ...]
    dropped: tuple[str, ...]
    headline: str
    text: str


@dataclass(frozen=True)
class Lean:
    setup: str | None
    expected_regret: float | None
    text: str


@dataclass(frozen=True)
class Caveat:
    code: str
    text: str
    cure: str


@dataclass(frozen=True)
class Judgement:
    """pass_: the pass judged, "mean" over several, "" when none is named. evidence_grade: of core/evidence.py, by these scores and caveats alone."""

    attribute: str
    pass_: str
    setups: tuple[SetupResult, ...]
    differences: tuple[Difference, ...]
    verdict: Verdict
    lean: Lean
    caveats: tuple[Caveat, ...]
    evidence_grade: str


def judge(
    scores: Sequence[Score],
    *,
    attribute: str = "liking",
    low: float = 1,
    high: float = 9,
    smallest_difference: float = 0.5,
    these_cups: bool = False,
    conditions_known: bool = True,
    names: Mapping[str, str] | None = None,
    learnt: Learnt | None = None,
) -> Judgement:
    """The verdict of one attribute's scores, deterministic.

    scores: rows on the scale [low, high], blind only or sighted only, never mixed. smallest_difference: δ, points, > 0.
    these_cups: speak of these very cups, not of another brew (σ_b = 0). conditions_known: False for a plain file, which says nothing of
    blindness, strength or temperature. names: what to call a setup in sentences. learnt: what this bench's scatter was before. Raises BadScores. Method and thresholds: docs/judging.md §1–§4,
    segments §11; Gutmann & Maymin 1987, Ann. Stat.; Holm 1979, Scand. J. Stat.; Gelman 2006, Bayesian Analysis.
    """
    cups = cups_of(scores, low=low, high=high)
    words = _Words({name: (names or {}).get(name, name) for name in cups.setups}, smallest_difference)
    pass_ = _pass_of(scores)
    if len(cups.setups) < 2:
        return _one_setup(cups, attribute, pass_, low, high, words)
    nodes = integrate(cups, low=low, high=high, these_cups=these_cups, learnt=learnt)
    flat, with_tau = Flat(nodes), WithTau(nodes)
    best, regret = with_tau.best_and_regret()
    setups = tuple(_setup_result(cups, nodes, k, low, high, best[k], regret[k]) for k in range(len(cups.setups)))
    differences = _differences(cups, flat, with_tau, smallest_difference)
    caveats = _caveats(cups, scores, nodes, these_cups, words) + (() if conditions_known else (CONDITIONS_UNKNOWN,))
    verdict = _rule(cups, nodes, setups, differences, flat, with_tau, words)
    graded = grade([c.code for c in caveats], tasters=len(cups.tasters), fewest_brews=cups.fewest_brews)
    return Judgement(attribute, pass_, setups, differences, verdict, _lean(setups, verdict, cups, words), caveats, graded.name)


CONDITIONS_UNKNOWN = Caveat(
    "conditions_unknown",
    "A plain file says nothing of blindness, strength, temperature or order.",
    "Plan and taste it as a trial, where these are recorded.",
)


def _pass_of(scores: Sequence[Score]) -> str:
    passes = {s.pass_ for s in scores}
    return passes.pop() if len(passes) == 1 else "mean"


def _one_setup(cups: Cups, attribute: str, pass_: str, low: float, high: float, words: _Words) -> Judgement:
    code, name = cups.setups[0], words.call(cups.setups[0])
    result = SetupResult(code, cups.n_scores[0], float(np.clip(cups.grand_mean, low, high)), None, None, None)
    text = f"Only {name} was scored: there is nothing to compare it with."
    caveat = Caveat("one_setup", text, "Score at least two setups in one flight.")
    verdict = Verdict("not_enough", None, (), (), "Not enough evidence: one setup", text)
    lean = Lean(code, None, f"Keep {name} until something else is tasted.")
    return Judgement(attribute, pass_, (result,), (), verdict, lean, (caveat,), GRADES[0])


def _setup_result(cups: Cups, nodes: Nodes, k: int, low: float, high: float, best: float, regret: float) -> SetupResult:
    weight = nodes.weight[:, None] * nodes.taster_weight
    mean = np.broadcast_to(nodes.mean[:, k : k + 1], weight.shape) + cups.grand_mean
    sd = np.sqrt(nodes.mean_var[:, k : k + 1] + nodes.taster_var)
    ends = tuple(float(np.clip(quantile(p, weight, mean, sd), low, high)) for p in (0.025, 0.975))
    centre = float(np.clip((weight * mean).sum(), low, high))
    return SetupResult(cups.setups[k], cups.n_scores[k], centre, ends, float(best), float(regret))


def _differences(cups: Cups, flat: Flat, with_tau: WithTau, delta: float) -> tuple[Difference, ...]:
    pairs = list(combinations(range(len(cups.setups)), 2))
    raw = []
    for a, b in pairs:
        weight, mean, sd = flat.difference(a, b)
        under = below(0, weight, mean, sd)
        interval = (quantile(0.025, weight, mean, sd), quantile(0.975, weight, mean, sd))
        equal = below(delta, *with_tau.difference(a, b)) - below(-delta, *with_tau.difference(a, b))
        raw.append((float((weight * mean).sum()), interval, 2 * min(under, 1 - under), equal))
    adjusted = holm([r[2] for r in raw])
    return tuple(
        Difference(cups.setups[a], cups.setups[b], est, interval, p, p_adj, sign_flip_p(cups, a, b), equal)
        for (a, b), (est, interval, p, equal), p_adj in zip(pairs, raw, adjusted, strict=True)
    )


# --- the rule --------------------------------------------------------------------------------------------------------


def _rule(cups, nodes, setups, differences, flat, with_tau, words: _Words) -> Verdict:
    k, delta = len(setups), words.delta
    leader = max(range(k), key=lambda i: setups[i].mean)
    name = setups[leader].setup
    dropped = _all_but_one_rival(_dropped(name, setups, differences), name, setups)
    others = [i for i in range(k) if i != leader]
    single = cups.most_brews == 1
    if not nodes.linked or (len(cups.tasters) <= 2 and single):
        anecdote = len(cups.tasters) <= 2 and single  # what cannot win cannot lose either: it drops nothing
        return words.not_enough(setups, leader, (), differences, anecdote=anecdote)
    ahead = min(1 - below(0, *flat.difference(leader, i)) for i in others)
    surely_best = setups[leader].probability_best >= CLEAR_BEST
    if ahead >= clear_each(cups.flights) and surely_best:
        return words.clear(setups[leader], _dropped(name, setups, differences))
    level = 1 - TIE_SLACK / k
    equal = [i for i in others if below(delta, *with_tau.difference(leader, i)) - below(-delta, *with_tau.difference(leader, i)) >= level]
    if equal:
        tied = tuple(setups[i].setup for i in sorted([leader, *equal]))
        return words.tie(setups[leader], tied, tuple(d for d in dropped if d not in tied))
    looked_often = said_risen(cups.flights) if ahead >= CLEAR_EACH and surely_best else ""
    return words.not_enough(setups, leader, dropped, differences, why=looked_often)


def _all_but_one_rival(dropped: tuple[str, ...], leader: str, setups) -> tuple[str, ...]:
    """Dropping is winning at a lower bar: whatever is not clear leaves the leader a rival, the nearest of those that would go."""
    rivals = [s for s in setups if s.setup != leader]
    if len(dropped) < len(rivals):
        return dropped
    nearest = max(rivals, key=lambda s: s.mean).setup
    return tuple(d for d in dropped if d != nearest)


def _dropped(leader: str, setups, differences) -> tuple[str, ...]:
    out = []
    for d in differences:
        if leader in (d.a, d.b) and d.p_adjusted <= DROP_P:
            other, lead = (d.b, d.estimate) if d.a == leader else (d.a, -d.estimate)
            if lead > 0:
                out.append(other)
    return tuple(out)


# --- the words -------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Words:
    """Sentences for a verdict. names: setup → what to call it; delta: the smallest difference that matters, points."""

    names: Mapping[str, str]
    delta: float

    def call(self, *setups: str) -> str:
        return figures.joined([self.names[setup] for setup in setups])

    def clear(self, top: SetupResult, dropped: tuple[str, ...]) -> Verdict:
        name = self.call(top.setup)
        text = f"{name} is liked best: ahead of every other setup, and best with probability {figures.chance(top.probability_best)}."
        return Verdict("clear", top.setup, (), dropped, f"Keep {name}", text)

    def tie(self, top: SetupResult, tied: tuple[str, ...], dropped: tuple[str, ...]) -> Verdict:
        names = self.call(*tied)
        text = f"{names} are within {self.delta:g} points of one another as far as this panel can tell. Take the cheapest, fastest or easiest."
        return Verdict("tie", None, tied, dropped, self._headline(dropped, f"{names}: a practical tie"), text + self._shown_less(top, dropped))

    def not_enough(
        self, setups: Sequence[SetupResult], leader: int, dropped: tuple[str, ...], differences: Sequence[Difference], *, anecdote: bool = False, why: str = ""
    ) -> Verdict:
        top, lean = setups[leader], min(setups, key=lambda s: s.expected_regret)
        text = f"Not enough evidence for a winner{self._how_close(top.setup, dropped, differences)}."
        headline = self._headline(dropped, f"{'an anecdote: ' if anecdote else ''}lean towards {self.call(lean.setup)}")
        return Verdict("not_enough", None, (), dropped, headline, text + (f" {why}" if why else "") + self._shown_less(top, dropped))

    def _headline(self, dropped: tuple[str, ...], then: str) -> str:
        whole = f"drop {self.call(*dropped)}; {then}" if dropped else then
        return whole[:1].upper() + whole[1:]

    def _shown_less(self, top: SetupResult, dropped: tuple[str, ...]) -> str:
        return f" {self.call(*dropped)} {'are' if len(dropped) > 1 else 'is'} shown to be liked less than {self.call(top.setup)}." if dropped else ""

    def _how_close(self, leader: str, dropped: tuple[str, ...], differences: Sequence[Difference]) -> str:
        """The leader's lead over its nearest rival that is not dropped, with its interval."""
        leads = [
            (d.estimate, *d.interval, d.b) if d.a == leader else (-d.estimate, -d.interval[1], -d.interval[0], d.a) for d in differences if leader in (d.a, d.b)
        ]
        rivals = [lead for lead in leads if lead[3] not in dropped]
        if not rivals:
            return ""
        lead, low, high, rival = min(rivals)
        interval = f"({figures.points(low)} to {figures.points(high)})".replace("-", "−")
        if lead < LEVEL_POINTS:
            return f": {self.call(leader, rival)} are level {interval}"
        return f": {self.call(leader)} leads {self.call(rival)} by {figures.points(lead)} points {interval}"


def _lean(setups: Sequence[SetupResult], verdict: Verdict, cups: Cups, words: _Words) -> Lean:
    chosen = next(s for s in setups if s.setup == verdict.choice) if verdict.choice else min(setups, key=lambda s: s.expected_regret)
    gives = f"choosing it risks {figures.regret(chosen.expected_regret)} points on average."
    if verdict.choice:
        return Lean(chosen.setup, chosen.expected_regret, f"Keep {words.call(chosen.setup)}: {gives}")
    return Lean(chosen.setup, chosen.expected_regret, f"Meanwhile brew {words.call(chosen.setup)}: {gives} {_what_would_settle(setups, verdict, cups, words)}")


def _what_would_settle(setups: Sequence[SetupResult], verdict: Verdict, cups: Cups, words: _Words) -> str:
    open_names = words.call(*(s.setup for s in setups if s.setup not in verdict.dropped))
    if verdict.kind == "tie":
        return "Nothing needs settling: choose by price and time."
    if cups.fewest_brews < 2:
        return f"A second brew of {open_names} would settle most."
    if len(cups.tasters) < 6:
        return f"Two more brews of {open_names}, tasted by at least six people, would settle most."
    return f"Two more brews of {open_names} in one more flight would settle most; more tasters alone would not."


# --- caveats ---------------------------------------------------------------------------------------------------------


def _caveats(cups: Cups, scores: Sequence[Score], nodes: Nodes, these_cups: bool, words: _Words) -> tuple[Caveat, ...]:
    found = []
    tasters, single = len(cups.tasters), cups.fewest_brews < 2
    if tasters <= 2 and cups.most_brews == 1:
        people = "Two tasters" if tasters == 2 else "One taster"
        found.append(Caveat("anecdote", f"{people} and one brew each is an anecdote.", "Brew each setup again and ask more people."))
    elif tasters == 1:
        found.append(
            Caveat("one_taster", "One taster: this is about that person's own liking only.", "Ask more people to taste, or keep it as your own choice.")
        )
    elif tasters <= 3:
        found.append(Caveat("few_tasters", f"{tasters} tasters: the interval leans on assumed scatter between people.", "Ask at least six people to taste."))
    if single and not these_cups:
        found.append(
            Caveat(
                "single_brews",
                "One brew of a setup: the setup cannot be told from the pour, and the interval leans on assumed scatter.",
                "Brew each setup at least twice.",
            )
        )
    if these_cups:
        found.append(
            Caveat("these_cups", "This speaks of these very cups; it does not carry over to the next brew.", "Judge as equipment, with replicate brews.")
        )
    if not nodes.linked:
        found.append(Caveat("unlinked", "No taster scored setups of both groups in one flight, so they cannot be compared.", "Pour all setups in one flight."))
    found.extend(_pass_caveat(scores))
    segments = find_segments(scores)
    if segments.segments and set.intersection(*(set(g.favourites) for g in segments.segments)):  # opposite favourites are the headline, not a caveat
        groups = "; ".join(f"{len(g.tasters)} like {words.call(*g.favourites)} {'best' if len(g.favourites) == 1 else 'alike'}" for g in segments.segments)
        middle = f"the best compromise is {words.call(segments.compromise)}" if segments.compromise else "which is the best compromise is open"
        cure = f"Choose by group; {middle}."
        found.append(Caveat("segments", f"Different kinds of drinkers: {groups}. One average hides them.", cure))
    return tuple(found)


def _pass_caveat(scores: Sequence[Score]):
    leaders = changing_leaders(scores)
    if leaders:
        said = ", ".join(f"{name} leads {p or 'without a pass'}" for p, name in leaders.items())
        yield Caveat("leader_changes", f"The leader changes by pass: {said}.", "Judge the pass at which people will drink it.")
