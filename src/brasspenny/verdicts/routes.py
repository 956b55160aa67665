"""The verdict of a trial: liking first, the rest at addresses of its own."""

from __future__ import annotations

from ..http import IdPath, act, blueprint, reply
from . import attributes, page, pairing, scatter, steps, trends
from . import schemas as s
from . import value_schemas as w

bp = blueprint("verdicts", __name__)


@bp.get("/trials/<id>/verdict", responses={200: s.VerdictAnswer})
def read_verdict(path: IdPath):
    """Blind and sighted judgements of the flipped flights, kept apart, and what stands beside them."""
    return reply(page.read_verdict(path.id, act()))


@bp.get("/trials/<id>/verdict/attribute", responses={200: s.AttributeJudged})
def read_attribute(path: IdPath, query: s.AttributeQuery):
    """One attribute (or liking), over all passes and in each."""
    return reply(attributes.read_attribute(path.id, query.attribute, act()))


@bp.get("/trials/<id>/verdict/characters", responses={200: s.CharactersAnswer})
def read_characters(path: IdPath):
    """Which setup is for whom."""
    return reply(attributes.read_characters(path.id, act()))


@bp.get("/trials/<id>/verdict/pairing", responses={200: w.PairingAnswer})
def read_pairing(path: IdPath, query: s.AttributeQuery):
    """One attribute against ratio, strength and yield."""
    return reply(pairing.read_pairing(path.id, query.attribute, act()))


@bp.get("/trials/<id>/verdict/trends", responses={200: w.TrendsAnswer})
def read_trends(path: IdPath):
    """What becomes of each attribute along a ladder."""
    return reply(trends.read_trends(path.id, act()))


@bp.get("/trials/<id>/verdict/value", responses={200: w.ValueAnswer})
def read_value(path: IdPath):
    """Liking against price and minutes; factors against one another."""
    return reply(page.read_value(path.id, act()))


@bp.get("/trials/<id>/verdict/next", responses={200: w.NextAnswer})
def read_next(path: IdPath):
    """What would remove most doubt for its coffee and minutes."""
    return reply(steps.read_next(path.id, act()))


@bp.post("/trials/<id>/verdict/next", responses={200: w.DraftAnswer})
def draft_next(path: IdPath, body: w.DraftBody):
    """Put a next step into the plan."""
    return reply(steps.draft(path.id, body, act()))


@bp.get("/scatter", responses={200: s.ScatterAnswer})
def read_scatter():
    """How far scores lie apart on this bench, for planning."""
    return reply(scatter.read_scatter(act()))
