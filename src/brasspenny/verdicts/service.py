"""Judging a trial's flipped flights. A judgement is stored by a hash of all it rests on, and never overwritten."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..core import figures
from ..core.judging.answer import Found, answer
from ..core.trial.setups import display_names
from ..core.trial.value import OF_DATA, fingerprint
from ..store import queries
from ..store.models import StoredVerdict
from ..store.writing import spared_when_full
from . import schemas as s
from .answering import answer_of
from .judged import Judged, VerdictPart, Which, parts_of, work_out
from .view import View


def judged(view: View) -> Judged:
    return judged_of(view)[0]


def judged_of(view: View) -> tuple[Judged, list[s.EarlierVerdict]]:
    """All judgements, from the store when nothing they rest on has changed, and what was said before a correction."""
    parts = parts_of(view)
    hashes = {which: fingerprint(_data_of(view, part)) for which, part in parts.items()}
    rows = _stored(view.trial.id, sorted(h for which, h in hashes.items() if which != "other"))
    kept = {which: row for which, wanted in hashes.items() for row in rows if row.data_hash == wanted}
    current = {which: _current(view, kept.get(which), part) for which, part in parts.items() if which != "other" or which not in kept}
    found = Judged(current.get("blind"), current.get("sighted"), view.found.pass_missed)
    said = {which: _headline(view, found, which, current[which]) for which in sorted(parts.keys() - kept.keys())}
    for which, headline in said.items():
        _store(view, hashes[which], which == "sighted", current[which], headline)
    if "other" in parts:
        found = replace(found, by_other=said.get("other") or kept["other"].headline)
    same_data = {h[:OF_DATA] for h in hashes.values()}
    earlier = [s.EarlierVerdict(judged_at=r.judged_at, sighted=bool(r.sighted), headline=r.headline) for r in rows if r.data_hash[:OF_DATA] not in same_data]
    return found, earlier


def _data_of(view: View, part: VerdictPart) -> VerdictPart:
    """The part with its setups called as in the usual units: another unit is no correction of the data."""
    with figures.told_in(figures.USUAL):
        called = display_names(view.trial.factors, view.trial.rows)
    names = {setup.letter: called[setup.id] for setup, _ in view.trial.rows}
    measured = {letter: {**found, "name": names[letter]} for letter, found in part.measured.items()}
    return replace(part, liking=replace(part.liking, names=tuple(sorted(names.items()))), measured=measured)


def _current(view: View, row: StoredVerdict | None, part: VerdictPart) -> s.JudgedAnswer:
    payload, at = (row.payload, row.judged_at) if row else (work_out(view, part), view.keeper.act.now)
    return s.JudgedAnswer.model_validate({**payload, "judged_at": at})


def _headline(view: View, found: Judged, which: Which, judged: s.JudgedAnswer) -> str:
    """As every list says it; of the labelled scores beside blind ones, by liking alone."""
    if judged is found.main:
        said = answer_of(view, found)
    elif which == "other":
        said = answer_of(view.by_other(), replace(found, blind=judged))
    else:
        said = answer(Found(view.names, verdict=judged.verdict.model_dump(), lean=judged.lean.model_dump(), sighted=True))
    return said.headline


def _stored(trial_id: str, wanted: Sequence[str]) -> list[StoredVerdict]:
    """Newest first; the payload only of those asked for."""
    payload = queries.payload_if(StoredVerdict, wanted)
    columns = (StoredVerdict.sighted, StoredVerdict.data_hash, StoredVerdict.headline, StoredVerdict.judged_at, payload)
    return list(StoredVerdict.select(*columns).where(StoredVerdict.trial == trial_id).order_by(StoredVerdict.judged_at.desc()))


@spared_when_full()
def _store(view: View, wanted: str, sighted: bool, judged: s.JudgedAnswer, headline: str) -> None:
    """Two processes may judge the same data at once; the first one's row stands."""
    StoredVerdict.insert(
        id=view.keeper.act.new_id(),
        trial=view.trial.id,
        sighted=sighted,
        data_hash=wanted,
        headline=headline,
        payload=judged.model_dump(mode="json", exclude={"judged_at"}),
        judged_at=judged.judged_at,
    ).on_conflict_ignore().execute()
