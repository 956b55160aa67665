"""A run sheet as iCalendar (RFC 5545)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from icalendar import Calendar, Event


@dataclass(frozen=True)
class CalendarEntry:
    """Times are aware. uid stays the same when the day is planned again, so that calendars update instead of doubling."""

    uid: str
    title: str
    begins_at: datetime
    ends_at: datetime
    text: str


def calendar(name: str, entries: Sequence[CalendarEntry], *, stamped_at: datetime) -> bytes:
    """The file, UTF-8; valid though empty when there is nothing to do."""
    out = Calendar()
    out.add("prodid", "-//Brass Penny//run sheet//EN")
    out.add("version", "2.0")
    out.add("x-wr-calname", name)
    for entry in entries:
        event = Event()
        event.add("uid", f"{entry.uid}@brasspenny")
        event.add("dtstamp", stamped_at)
        event.add("dtstart", entry.begins_at)
        event.add("dtend", entry.ends_at)
        event.add("summary", entry.title)
        event.add("description", entry.text)
        out.add_component(event)
    return out.to_ical()
