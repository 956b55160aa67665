"""What the brews of a trial are called."""

from __future__ import annotations

from ..store import queries
from ..store.models import Run, Setup
from ..trials import service as trials

DELETED_BREW = ("?", "deleted brew")


def run_labels(trial_id: str) -> dict[str, tuple[str, str]]:
    """Run id → (letter, "A2 · Thick crêpe")."""
    rows = queries.setups_with_revisions(trial_id)
    names = trials.display_names(trials.open_trial(trial_id), rows)
    letters = {setup.id: setup.letter for setup, _ in rows}
    runs = Run.select(Run.id, Run.setup, Run.number).join(Setup).where((Run.trial == trial_id) & Setup.deleted_at.is_null())
    return {run.id: (letters[run.setup_id], f"{letters[run.setup_id]}{run.number} · {names[run.setup_id]}") for run in runs}
