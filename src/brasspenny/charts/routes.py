"""The charts."""

from __future__ import annotations

from ..http import blueprint, reply
from . import listing, service
from . import schemas as s

bp = blueprint("charts", __name__)


@bp.get("/charts", responses={200: s.ChartsAnswer})
def read_charts(query: s.ChartQuery):
    """Every brew ever, of trials and loose: filtered, worked out, with what the charts are drawn from."""
    return reply(service.read_charts(query))


@bp.get("/brews", responses={200: s.BrewsAnswer})
def read_brews(query: s.BrewsQuery):
    """Every brew as a line: found by its words, tags and kind."""
    return reply(listing.read_brews(query))


@bp.get("/brews/tags", responses={200: s.BrewTagsAnswer})
def read_brew_tags():
    """The tags that brews have."""
    return reply(s.BrewTagsAnswer(tags=listing.read_tags()))
