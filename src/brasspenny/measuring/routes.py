"""Results of a trial, and what follows from them."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from ..http import Asked, IdPath, blueprint, reply
from . import detail, learning, loose, service
from . import schemas as s

bp = blueprint("measuring", __name__)


class TargetQuery(Asked):
    target_tds_pct: Annotated[float, Field(gt=0, le=25)] | None = None


class WordsQuery(BaseModel):
    words: Annotated[str, Field(max_length=400, description="taste words, separated by commas")] = ""


class WishQuery(Asked):
    tds_pct: Annotated[float, Field(gt=0, le=25)]
    ey_pct: Annotated[float, Field(gt=0, le=60)]


@bp.get("/trials/<id>/results", responses={200: s.ResultsAnswer})
def read_results(path: IdPath):
    """Every brew worked out, setups pooled, and the charts' lines."""
    return reply(service.read_results(path.id))


@bp.get("/kit/<id>/learnt", responses={200: s.LearntAnswer})
def read_learnt(path: IdPath):
    """The simulator fitted to a brewer's own brews, with what is left over."""
    return reply(learning.learn(path.id))


@bp.get("/loose-runs", responses={200: s.LooseRunsAnswer})
def read_loose_runs():
    """Brews of no trial, newest first."""
    return reply(loose.read_loose())


@bp.get("/trials/<id>/comparisons", responses={200: s.ComparisonsAnswer})
def read_comparisons(path: IdPath):
    """Every pair of setups: different, the same, or cannot tell."""
    return reply(detail.compare(path.id))


@bp.get("/trials/<id>/matching", responses={200: s.MatchingAnswer})
def read_matching(path: IdPath, query: TargetQuery):
    """Which servers to thin, by how much, before coding."""
    return reply(detail.match(path.id, query.target_tds_pct))


@bp.get("/runs/<id>/advice", responses={200: s.AdvisedAnswer})
def read_advice(path: IdPath, query: WordsQuery):
    """One change for the next brew, with the recipe version that makes it."""
    return reply(detail.advise(path.id, [w.strip() for w in query.words.split(",") if w.strip()]))


@bp.get("/runs/<id>/aim", responses={200: s.AimAnswer})
def read_aim(path: IdPath, query: WishQuery):
    """From this brew to a wished cup on the chart."""
    return reply(detail.aim_at(path.id, query.tds_pct, query.ey_pct))


@bp.get("/runs/<id>/curve", responses={200: s.CurveAnswer})
def read_curve(path: IdPath):
    """The scale's curve of a brew, beside its plan."""
    return reply(detail.curve(path.id))
