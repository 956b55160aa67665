"""Bringing in a table of brews, or of scores."""

from __future__ import annotations

from ..http import act, blueprint, reply, told_as_it_goes
from . import schemas as s
from . import scores, service

bp = blueprint("imports", __name__)


@bp.post("/imports/look", responses={200: s.BrewTableAnswer})
def look_at_table(body: s.OwnTableBody):
    """What a table's columns mean and what each row becomes, with every fault; nothing is written."""
    return reply(service.look_at(body))


@bp.post("/imports", responses={201: s.BroughtInAnswer})
def bring_in_table(body: s.BrewTableWrite):
    """Write the brews of a table, all of them or none. Asked for as application/x-ndjson it tells how far it is: lines of {"done", "of"}, the last one {"answer"} or
    {"problem"}."""
    return told_as_it_goes(service.bring_in(body, act()), lambda brought: brought, 201)


@bp.post("/imports/scores/look", responses={200: s.ScoreTableAnswer})
def look_at_scores(body: s.ScoreTableBody):
    """What the columns of a table of scores mean and which flights it becomes, with every fault; nothing is written."""
    return reply(scores.look_at(body))


@bp.post("/imports/scores", responses={201: s.BroughtInScoresAnswer})
def bring_in_scores(body: s.ScoreTableWrite):
    """Write a panel's scores, tasted elsewhere, as flights of a trial: all at once or nothing."""
    return reply(scores.bring_in(body, act()), 201)
