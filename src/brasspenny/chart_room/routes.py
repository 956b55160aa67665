"""The chart room."""

from __future__ import annotations

from ..http import blueprint, reply
from . import schemas as s
from . import service

bp = blueprint("chart_room", __name__)


@bp.get("/chart-room", responses={200: s.ChartRoomAnswer})
def read_chart_room(query: s.ChartQuery):
    """Every brew ever, of trials and loose: filtered, worked out, with what the charts are drawn from."""
    return reply(service.read_chart_room(query))
