"""Server-sent events of a flight: that something happened, read from the event table, resumed by Last-Event-ID. Never what was scored."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import nullcontext

from ..act import Act
from ..store.connection import database, opened
from ..store.models import Event

LOOK_EVERY_S = 0.7
RETRY_MS = 1_500


def note(flight_id: str, kind: str, act: Act) -> None:
    """kind: score, late, seat, pass, temperature, close, flip."""
    Event.insert(flight=flight_id, kind=kind, at=act.now).execute()


def newest(flight_id: str) -> int:
    row = Event.select(Event.id).where(Event.flight == flight_id).order_by(Event.id.desc()).first()
    return row.id if row else 0


def stream(flight_id: str, after: int, for_s: int, *, in_sample: bool = False) -> Iterator[str]:
    """Lines of text/event-stream. `after`: the last event the listener has. Ends after for_s; the browser comes back by itself."""
    yield f"retry: {RETRY_MS}\n\n"
    until = time.monotonic() + for_s
    while True:
        for event_id, kind in _since(flight_id, after, in_sample):
            after = event_id
            yield f"id: {event_id}\nevent: {kind}\ndata: {event_id}\n\n"
        if time.monotonic() >= until:
            return
        time.sleep(LOOK_EVERY_S)
        yield ": still here\n\n"  # a write is how a closed listener is noticed


def _since(flight_id: str, after: int, in_sample: bool) -> list[tuple[int, str]]:
    """Outside a request's own connection: the stream outlives it and must not hold one while it waits."""
    with opened(in_sample=in_sample) if database.is_closed() else nullcontext():
        return list(Event.select(Event.id, Event.kind).where((Event.flight == flight_id) & (Event.id > after)).order_by(Event.id).tuples())
