"""What stands beside the verdict on liking: differences told, preferences, ranks, repeats, guesses, places, words, groups."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass

from ..core.errors import BadScores
from ..core.judging.answer import camps_of
from ..core.judging.guesses import count_guesses
from ..core.judging.just_about_right import just_right
from ..core.judging.pairs import Preference, prefer
from ..core.judging.position import position_effects
from ..core.judging.ranks import rank_setups
from ..core.judging.reliability import repeats
from ..core.judging.segments import find_segments
from ..core.tasting.flights import METHOD_NAMES
from ..core.tasting.words import count_words
from ..core.trial.tasted import Picked, Tasted, ToldApart, picks, tell_apart
from . import schemas as s
from .verdict_cache import Layer
from .view import View

MOST_WORDS = 8


@dataclass(frozen=True)
class BesidePart:
    """All that stands beside liking rests on: every answer on cups, the answers in rounds, and what the setups are called."""

    found: Tasted
    picked: tuple[Picked, ...]
    names: tuple[tuple[str, str], ...]


def beside_of(view: View) -> dict:
    """Of the blind answers, or of the sighted ones where there are no others."""
    return view.keeper.of(BESIDE, BesidePart(view.found, picks(view.trial), tuple(sorted(view.names.items()))))


def groups_of(view: View) -> tuple[tuple[str, ...], ...]:
    """Ids of tasters who like alike, where groups with different favourites were found: nothing of them is averaged."""
    ids = {name: i for i, name in view.found.names.items()}
    camps = camps_of(beside_of(view)["segments"])
    return tuple(tuple(ids[name] for name in camp.tasters) for camp in camps) if len({camp.best for camp in camps}) > 1 else ()


def _work_out(part: BesidePart) -> dict:
    found = part.found
    scores = found.scores()
    preferred, ranked, guessed = _preferred(part.picked), _ranked(found), _guessed(found, len(part.names))
    return {
        "told_apart": [_told(t).model_dump() for t in tell_apart(part.picked)],
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


BESIDE = Layer("beside", _work_out)


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


def _preferred(picked: Sequence[Picked]) -> s.PreferredShown | None:
    """Blind paired flights only."""
    judgements = []
    for one in picked:
        letters = dict(one.letters)
        if one.method != "paired" or one.sighted or "" in letters.values() or len(set(letters.values())) < 2:
            continue
        won = next(iter(letters)) if one.tie else one.codes[0]
        lost = next(code for code in letters if code != won)
        judgements.append(Preference(one.taster, letters[won], letters[lost], tie=one.tie))
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
        ranked = rank_setups(ranks, best_is_high=False) if ranks else rank_setups(found.counting())
    except BadScores:
        return None
    return s.RankedShown(**asdict(ranked), from_scores=not ranks)


def _repeat(r, found: Tasted) -> s.RepeatShown:
    return s.RepeatShown(**{**asdict(r), "taster": found.names[r.taster]})


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
    segments = find_segments(found.counting())
    shown = [
        s.SegmentShown(
            tasters=sorted(found.names[t] for t in g.tasters), means=g.means, best=g.best, favourites=list(g.favourites), probability_best=g.probability_best
        )
        for g in segments.segments
    ]
    least = list(segments.least_liked) if segments.least_liked else None
    return s.SegmentsShown(segments=shown, compromise=segments.compromise, least_liked=least, text=segments.text)
