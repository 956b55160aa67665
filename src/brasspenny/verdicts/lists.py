"""What the lists say of trials: each one's headline, worked out when something it rests on changed, and kept."""

from __future__ import annotations

import time
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ..act import Act
from ..core import CORE_VERSION, figures
from ..core.errors import PennyError
from ..refusals import NotFound
from ..store import queries
from ..store.models import Headline
from ..store.writing import spared_when_full
from .answering import answer_of
from .service import judged
from .view import View, look

SETTLED_BY: frozenset[str] = frozenset({"trial", "flight", "setup", "run", "reading"})
"""Kinds of row after a correction of which another verdict stands."""


def settles(touched: Iterable[tuple[str, str, str]]) -> list[str]:
    """Trials to judge again after these changes (trial, kind of row, action). A newly logged brew or reading corrects nothing yet."""
    return sorted({t for t, entity, action in touched if entity in SETTLED_BY and not (action == "create" and entity in ("run", "reading"))})


@dataclass(frozen=True)
class Listed:
    """text: what was found, None where nothing could be; kept, leans: the pennies that lead it, as
    core.judging.answer says. judging: it is not known yet; the list is to be asked for again."""

    text: str | None
    kept: tuple[str, ...] = ()
    leans: str = ""
    judging: bool = False


def settle(trial_id: str, act: Act) -> Listed:
    """Judge a trial as it stands and keep its headline, looked at or not: so every verdict there ever was is kept. Nothing for a deleted one."""
    stamp = stamps([trial_id]).get(trial_id)
    if stamp is None or not queries.any_flipped(trial_id):
        return Listed(None)
    try:
        view = look(trial_id, act)
        found = _listed(view)
    except NotFound:  # deleted since it was listed
        return Listed(None)
    except PennyError:  # more than can be judged; the verdict's own page says so
        found = Listed(None)
    with spared_when_full():
        Headline.replace(trial=trial_id, stamp=stamp, text=found.text, kept="".join(found.kept), leans=found.leans).execute()
    return found


def _listed(view: View) -> Listed:
    found = answer_of(view, judged(view))
    return Listed(None) if found is None else Listed(found.headline, found.kept, found.leans)


def stamps(trial_ids: Sequence[str]) -> dict[str, str]:
    """Trial → what its headline was last worked out by: the core's version, how many changes its history counts, and the units it is told in."""
    return {trial_id: f"{CORE_VERSION}.{changes}{figures.units().mark}" for trial_id, changes in queries.change_counts(trial_ids).items()}


LIST_S = 1.5
"""How long a list judges before it says that the rest is being judged: after an update every headline is out of date."""


def headlines(trial_ids: Sequence[str], act: Act) -> dict[str, Listed]:
    """Of trials with a flipped flight; what changed since it was kept is judged now, as far as LIST_S goes, and at least one of them."""
    wanted = stamps(trial_ids)
    kept = {row.trial_id: row for row in Headline.select().where(Headline.trial.in_(list(trial_ids) or [""]))}
    out = {t: Listed(row.text, tuple(row.kept), row.leans) for t, row in kept.items() if row.stamp == wanted.get(t)}
    until = time.monotonic() + LIST_S
    for trial_id in trial_ids:
        if trial_id not in out:
            out[trial_id] = settle(trial_id, act) if time.monotonic() < until else Listed(None, judging=True)
    return out
