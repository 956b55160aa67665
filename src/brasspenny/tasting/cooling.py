"""One temperature for all cups of a flight, never one a code: when each pass opens, by two readings."""

from __future__ import annotations

from datetime import datetime, timedelta

from ..act import Act
from ..core.errors import PennyError
from ..core.serving import Serving, serving
from ..store.models import Bench, Flight
from . import schemas as s

MOST_READINGS = 20


def with_reading(before: list[dict], cup_c: float | None, act: Act) -> list[dict]:
    """The readings with one more, as it is taken now."""
    return before if cup_c is None else [*before, {"at": act.now.isoformat(), "cup_c": cup_c}][-MOST_READINGS:]


def passes(flight: Flight) -> list[s.PassShown]:
    """From the newest two readings that show cooling; empty while there are none."""
    found = _cooling(flight)
    if found is None:
        return []
    at, served = found

    def moment(seconds: float | None) -> datetime | None:
        return None if seconds is None else at + timedelta(seconds=seconds)

    return [s.PassShown(name=p.name, from_c=p.from_c, to_c=p.to_c, opens_at=moment(p.opens_s), closes_at=moment(p.closes_s)) for p in served.passes]


def _cooling(flight: Flight) -> tuple[datetime, Serving] | None:
    if len(flight.cup_readings) < 2:
        return None
    ambient_c = Bench.get_by_id(1).ambient_c
    taken = [(datetime.fromisoformat(r["at"]), r["cup_c"]) for r in flight.cup_readings]
    for (before, hotter_c), (at, cup_c) in reversed(list(zip(taken, taken[1:], strict=False))):
        try:
            return at, serving(ambient_c=ambient_c, first_c=hotter_c, second_c=cup_c, apart_s=(at - before).total_seconds())
        except PennyError:
            continue
    return None
