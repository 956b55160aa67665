"""How a piece of kit was liked, blind, beside what it was compared with: from the verdicts as they stand."""

from __future__ import annotations

from ..core import figures
from ..store.models import KitItem, Setup, SetupRevision, StoredVerdict, Trial, UsedKit
from . import schemas as s

MOST_TRIALS = 12
FACTORS = {"grinder": "grinder", "burr_set": "grinder", "brewer": "brewer", "filter": "filter"}


def trials_of(item: KitItem) -> list[s.CardTrial]:
    """Trials that asked about its kind and have a blind verdict, newest first."""
    rows = (
        Trial.select(Trial, Setup.letter)
        .join(Setup, on=(Setup.trial == Trial.id), attr="setup")
        .join(SetupRevision, on=(SetupRevision.id == Setup.revision_id))
        .join(UsedKit, on=(UsedKit.setup_revision == SetupRevision.id))
        .where((UsedKit.kit_item == item.id) & Trial.deleted_at.is_null() & Setup.deleted_at.is_null())
        .order_by(Trial.number.desc())
    )
    letters: dict[str, tuple[Trial, set[str]]] = {}
    for row in rows:
        if FACTORS[item.kind] in (row.factor, *row.further_factors):
            letters.setdefault(row.id, (row, set()))[1].add(row.setup.letter)
    out = []
    for trial, mine in list(letters.values())[:MOST_TRIALS]:
        said = _said(trial.id, mine)
        if said:
            out.append(s.CardTrial(trial_id=trial.id, number=trial.number, question=trial.question, said=said))
    return out


def _said(trial_id: str, mine: set[str]) -> str:
    """Its setups' mean liking beside the best of the others; '' while nothing blind is judged."""
    verdict = (
        StoredVerdict.select(StoredVerdict.payload)
        .where((StoredVerdict.trial == trial_id) & (StoredVerdict.sighted == False))  # noqa: E712 (a column)
        .order_by(StoredVerdict.judged_at.desc())
        .first()
    )
    if verdict is None:
        return ""
    setups = verdict.payload["setups"]
    here, others = [x for x in setups if x["setup"] in mine], [x for x in setups if x["setup"] not in mine]
    if not here or not others:
        return ""
    own, rival = max(here, key=lambda x: x["mean"]), max(others, key=lambda x: x["mean"])
    return f"liked {_liking(own)} as {own['setup']}, the best other {_liking(rival)} as {rival['setup']}"


def _liking(setup: dict) -> str:
    low, high = setup["interval"] or (None, None)
    span = f" ({figures.points(low)} to {figures.points(high)})" if low is not None else ""
    return f"{figures.points(setup['mean'])}{span}"
