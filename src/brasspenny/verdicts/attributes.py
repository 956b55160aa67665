"""Every attribute in every pass, and which setup is for whom. Each attribute is worked out when it is asked for, and kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict

from ..act import Act
from ..core.errors import BadScores
from ..core.judging import Judgement, judge
from ..core.judging import Score as CoreScore
from ..core.judging.character import characters
from ..core.judging.passes import PASS_ORDER, leaders_by_pass
from ..core.judging.ranks import rank_setups
from ..core.tasting.sheets import SCALES
from ..measuring.service import TrialResults, results_of
from ..store import queries
from . import schemas as s
from .cache import worked_out
from .tasted import Tasted, scale_of, tasted


def gathered(trial_id: str) -> tuple[TrialResults, Tasted]:
    """Blind answers; sighted ones only where there are no others."""
    results, flights = results_of(trial_id), queries.live_flights(trial_id)
    blind = tasted(results, flights, sighted=False)
    return results, blind if blind.scores() else tasted(results, flights, sighted=True)


def names_of(results: TrialResults) -> dict[str, str]:
    return {setup.letter: results.names[setup.id] for setup, _ in results.setups}


def read_attribute(trial_id: str, attribute: str, act: Act) -> s.AttributeJudged:
    results, found = gathered(trial_id)
    return s.AttributeJudged.model_validate(_attribute(results, found, attribute, act))


def _attribute(results: TrialResults, found: Tasted, attribute: str, act: Act) -> dict:
    scores = found.scores(attribute)
    rests_on = [results.trial.smallest_difference, sorted(tuple(vars(x).values()) for x in scores), sorted(names_of(results).items())]
    return worked_out(results.trial.id, f"attribute {attribute}", rests_on, lambda: _work_out(results, scores, attribute), act)


def _work_out(results: TrialResults, scores: Sequence[CoreScore], attribute: str) -> dict:
    scale, names = SCALES[attribute], names_of(results)
    passes = sorted({x.pass_ for x in scores}, key=lambda p: (PASS_ORDER.index(p) if p in PASS_ORDER else 9, p))
    sets = [("mean" if len(passes) > 1 else passes[0], scores)] if passes else []
    if len(passes) > 1:
        sets += [(p, [x for x in scores if x.pass_ == p]) for p in passes]
    judged = [_pass(name, rows, attribute, results.trial.smallest_difference) for name, rows in sets]
    shown = {k: v for k, v in vars(scale).items() if k in s.AttributeJudged.model_fields}
    return {**shown, "attribute": attribute, "passes": judged, "changes": _changes(scores, names)}


def _pass(name: str, rows: Sequence[CoreScore], attribute: str, delta: float) -> dict:
    low, high = scale_of(attribute)
    found = judge(rows, attribute=attribute, low=low, high=high, smallest_difference=delta * (high - low) / 8)
    try:
        ranked = rank_setups(rows)
        agreement, p = ranked.agreement, ranked.p_value
    except BadScores:
        agreement = p = None
    setups = [{"setup": x.setup, "mean": x.mean, "interval": x.interval} for x in sorted(found.setups, key=lambda x: -x.mean)]
    return {
        "pass_name": name,
        "setups": setups,
        "differences": [asdict(d) for d in found.differences],
        "leader": setups[0]["setup"],
        "kind": found.verdict.kind,
        "agreement": agreement,
        "agreement_p": p,
    }


def _changes(scores: Sequence[CoreScore], names: dict[str, str]) -> str:
    """ "White weave leads hot; Thick crêpe leads cool." """
    leaders = {p: x for p, x in leaders_by_pass(scores).items() if p}
    if len(set(leaders.values())) < 2:
        return ""
    said: dict[str, list[str]] = {}
    for p, letter in leaders.items():
        said.setdefault(letter, []).append(p)
    return "; ".join(f"{names.get(letter, letter)} leads {' and '.join(ps)}" for letter, ps in said.items()) + "."


def read_characters(trial_id: str, act: Act) -> s.CharactersAnswer:
    results, found = gathered(trial_id)
    liking, attributes = found.scores(), found.attributes()
    if not liking:
        return s.CharactersAnswer(characters=[])
    names = names_of(results)
    rests_on = [sorted((t.letter, t.attribute, t.pass_name, t.flight, t.person_id, t.run, t.value or 0) for t in found.touches), sorted(names.items())]

    def work() -> dict:
        judged = {a: _judged_whole(found, a) for a in attributes}
        words = {a: (SCALES[a].label, SCALES[a].low_word, SCALES[a].high_word) for a in attributes}
        return {"characters": [{**asdict(c), "name": names[c.setup]} for c in characters(judged, liking, names, words)]}

    return s.CharactersAnswer.model_validate(worked_out(trial_id, "characters", rests_on, work, act))


def _judged_whole(found: Tasted, attribute: str) -> Judgement:
    low, high = scale_of(attribute)
    return judge(found.scores(attribute), attribute=attribute, low=low, high=high)
