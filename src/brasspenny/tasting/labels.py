"""What the brews of a trial are called."""

from __future__ import annotations

from ..core.trial.setups import display_names
from ..store import queries
from ..store.models import Run, Setup, Trial
from ..trials import service as trials

DELETED_BREW = ("?", "deleted brew")


def run_labels(trial_id: str) -> dict[str, tuple[str, str]]:
    """Run id → (letter, "A2 · Thick crêpe")."""
    return labels_of(trials.open_trial(trial_id), runs_of(trial_id))


def runs_of(trial_id: str) -> dict[str, Run]:
    """Every run of live setups, deleted runs too: a flight may hold one."""
    return {run.id: run for run in Run.select().join(Setup).where((Run.trial == trial_id) & Setup.deleted_at.is_null())}


def labels_of(trial: Trial, runs: dict[str, Run]) -> dict[str, tuple[str, str]]:
    rows = queries.setups_with_revisions(trial.id)
    names = display_names(trials.factors_of(trial), rows)
    letters = {setup.id: setup.letter for setup, _ in rows}
    return {run.id: (letters[run.setup_id], f"{letters[run.setup_id]}{run.number} · {names[run.setup_id]}") for run in runs.values()}
