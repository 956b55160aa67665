"""The list of trials, and a trial's progress and margin."""

from __future__ import annotations

from ..http import IdPath, act, blueprint, reply
from ..store import queries
from . import schemas as s
from . import service

bp = blueprint("progress", __name__)


@bp.get("/trials", responses={200: s.TrialsAnswer})
def read_trials(query: s.PageQuery):
    """A page of trials, newest first, with where they stand and what to do next."""
    return reply(service.read_trials(query, act()))


@bp.get("/trials/tags", responses={200: s.TagsAnswer})
def read_tags():
    """The tags that trials have."""
    return reply(s.TagsAnswer(tags=queries.trial_tags()))


@bp.get("/trials/<id>/progress", responses={200: s.ProgressAnswer})
def read_progress(path: IdPath):
    """Stations and caveats of a trial."""
    return reply(service.read_progress(path.id, act()))
