"""Words to find a brew by, and putting it away. Neither is a correction: no result and no caveat depends on it."""

from __future__ import annotations

from ..act import Act
from ..history import service as history
from ..store.writing import use_case
from . import schemas as s
from .runs import open_run


@use_case
def file_run(run_id: str, sent: s.FilingPatch, rev: int, act: Act) -> s.FilingAnswer:
    run = open_run(run_id)
    values = {name: getattr(sent, name) for name in sent.model_fields_set & {"tags"}}
    if "archived" in sent.model_fields_set:
        values["archived_at"] = (run.archived_at or act.now) if sent.archived else None
    history.edit(run, values, rev=rev, act=act, trial_id=run.trial_id)
    return s.FilingAnswer(id=run.id, rev=run.rev, tags=run.tags, archived=run.archived_at is not None)
