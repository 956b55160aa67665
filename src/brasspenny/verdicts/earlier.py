"""What this bench's earlier blind panels say of its scatter, for a trial's own verdict: learnt once, when the trial is first judged, and kept with it, so that nothing done to
another trial afterwards changes what this one says. docs/judging.md §13."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ..act import Act
from ..core.errors import BadScores
from ..core.judging.learnt import LOOKED_AT, Earlier, learn, nearest_in_kind
from ..core.judging.scores import Cups, Score, cups_of
from ..core.tasting.sheets import LIKING
from ..core.trial.tasted import scale_of
from ..core.trial.value import LearntScatter, Trial
from ..store import blind_keys
from ..store.models import LearntScatter as KeptScatter
from ..store.writing import spared_when_full


def learnt_scatter(trial: Trial, scores: Sequence[Score], act: Act) -> LearntScatter | None:
    """scores: the blind likings it is judged by. None where no earlier panel speaks of such passes."""
    passes = ",".join(sorted({s.pass_ for s in scores}))
    kept = next((x for x in trial.learnt_scatter if x.passes == passes), None)
    if kept is None:
        kept = _learn(trial, scores, passes)
        with spared_when_full():
            KeptScatter.insert(trial=trial.id, at=act.now, **kept._asdict()).on_conflict_ignore().execute()
    return kept if kept.flights else None


def _learn(trial: Trial, scores: Sequence[Score], passes: str) -> LearntScatter:
    earlier = _earlier(trial.id, frozenset(passes.split(",")))
    brewers = {revision.brewer_type or "" for _, revision in trial.rows}
    nearest = nearest_in_kind(earlier, tasters=frozenset(s.taster for s in scores), brewers=frozenset(brewers))
    low, high = scale_of(LIKING)
    found = learn([cups for e in nearest if (cups := _cups(e, low, high))], scale=(high - low) / 8)
    return LearntScatter(passes, found.flights, found.cups, found.text) if found else LearntScatter(passes, 0, 0, "")


def _cups(earlier: Earlier, low: float, high: float) -> Cups | None:
    try:
        return cups_of(earlier.scores, low=low, high=high)
    except BadScores:  # more than can be judged
        return None


def _earlier(trial_id: str, passes: frozenset[str]) -> list[Earlier]:
    """Panels that were asked in the same passes, the oldest first."""
    rows: dict[str, list[Score]] = defaultdict(list)
    brewers: dict[str, set[str]] = defaultdict(set)
    for of_trial, *score, brewer in blind_keys.earlier_likings(trial_id, most=LOOKED_AT):
        rows[of_trial].append(Score(*score))
        brewers[of_trial].add(brewer)
    return [e for t, found in rows.items() if (e := Earlier.of(found, brewers[t], passes))]
