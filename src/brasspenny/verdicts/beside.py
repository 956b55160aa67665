"""What stands beside the verdict on liking: differences told, preferences, ranks, repeats, guesses, places, words, groups."""

from __future__ import annotations

from dataclasses import asdict

from ..act import Act
from ..core.errors import BadScores
from ..core.judging.guesses import count_guesses
from ..core.judging.jar import just_right
from ..core.judging.pairs import Preference, prefer
from ..core.judging.position import position_effects
from ..core.judging.ranks import rank_setups
from ..core.judging.reliability import repeats
from ..core.judging.segments import find_segments
from ..core.tasting.flights import METHOD_NAMES
from ..core.tasting.words import count_words
from ..measuring.service import TrialResults
from ..store.models import Flight
from ..tasting.answers import ToldApart, picked_in, tell_apart
from ..tasting.schemas import SIGHTED
from . import schemas as s
from .cache import worked_out
from .tasted import Tasted

MOST_WORDS = 8


def with_more(main: s.VerdictAnswer, results: TrialResults, flights: list[Flight], found: Tasted, act: Act) -> s.VerdictAnswer:
    """found: the blind answers, or the sighted ones where there are no others."""
    rests_on = [[(f.id, f.status, f.blinding, f.method, f.options) for f in flights], [tuple(t) for t in found.touches], sorted(main.names.items())]
    rests_on.append(sorted((run.id, run.setup_id) for run in results.runs))
    more = worked_out(results.trial.id, "beside", rests_on, lambda: _work_out(results, flights, found), act)
    return s.VerdictAnswer.model_validate({**main.model_dump(), **more})


def _work_out(results: TrialResults, flights: list[Flight], found: Tasted) -> dict:
    scores = found.scores()
    preferred, ranked, guessed = _preferred(results, flights), _ranked(found), _guessed(found, len(results.setups))
    return {
        "told_apart": [_told(t).model_dump() for t in tell_apart(flights)],
        "preferred": preferred.model_dump() if preferred else None,
        "ranked": ranked.model_dump() if ranked else None,
        "repeats": [_repeat(r, found).model_dump() for r in repeats(scores)],
        "guessed": guessed.model_dump() if guessed else None,
        "positions": [asdict(p) for p in position_effects(found.placed())] if scores else [],
        "words": [w.model_dump() for w in _words(found)],
        "just_right": [asdict(j) for j in just_right(found.jar())],
        "segments": _segments(found).model_dump() if scores else None,
        "attributes": found.attributes(),
    }


def _told(t: ToldApart) -> s.ToldApartShown:
    repeated = t.n > t.tasters
    claim = "These tasters answered more than once, so it speaks of them, not of everybody." if repeated else "Each taster answered once."
    shown = {k: v for k, v in vars(t.found).items() if k in s.ToldApartShown.model_fields}
    return s.ToldApartShown(
        method=t.method,
        method_label=METHOD_NAMES[t.method],
        sighted=t.sighted,
        flights=t.flights,
        tasters=t.tasters,
        correct=t.correct,
        n=t.n,
        claim=claim,
        **shown,
    )


def _preferred(results: TrialResults, flights: list[Flight]) -> s.PreferredShown | None:
    """Blind paired flights only."""
    letter_of = {run.id: results.letter_of(run) for run in results.runs}
    judgements = []
    for one in picked_in([f for f in flights if f.method == "paired" and f.blinding not in SIGHTED]):
        letters = {code: letter_of.get(run) for code, run in one.runs.items()}
        if None in letters.values() or len(set(letters.values())) < 2:
            continue
        won = next(iter(letters)) if one.tie else one.codes[0]
        lost = next(code for code in letters if code != won)
        judgements.append(Preference(one.person_id, letters[won], letters[lost], tie=one.tie))
    if not judgements:
        return None
    found = prefer(judgements)
    return s.PreferredShown(
        strengths=[s.StrengthShown(**asdict(x)) for x in found.strengths], pairs=[s.PairShown(**asdict(x)) for x in found.pairs], widened=found.widened
    )


def _ranked(found: Tasted) -> s.RankedShown | None:
    """From ranking flights; else from liking."""
    ranks = found.ranks()
    try:
        ranked = rank_setups(ranks, best_is_high=False) if ranks else rank_setups(found.scores())
    except BadScores:
        return None
    return s.RankedShown(**asdict(ranked), from_scores=not ranks)


def _repeat(r, found: Tasted) -> s.RepeatShown:
    return s.RepeatShown(**{**asdict(r), "taster": found.tasters[r.taster]})


def _guessed(found: Tasted, options: int) -> s.GuessedShown | None:
    guesses = found.guesses()
    return s.GuessedShown(**asdict(count_guesses(guesses, options))) if guesses and options > 1 else None


def _words(found: Tasted) -> list[s.WordsShown]:
    out = []
    for (letter, pass_name), texts in sorted(found.words().items()):
        counted = [s.WordCount(word=word, count=n) for word, n in count_words(texts)[:MOST_WORDS]]
        out.append(s.WordsShown(setup=letter, pass_name=pass_name, words=counted))
    return out


def _segments(found: Tasted) -> s.SegmentsShown:
    segments = find_segments(found.scores())
    shown = [s.SegmentShown(tasters=sorted(found.tasters[t] for t in g.tasters), means=g.means, best=g.best) for g in segments.segments]
    return s.SegmentsShown(segments=shown, compromise=segments.compromise, text=segments.text)
