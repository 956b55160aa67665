"""How warm the cups of a flight are: one reading for all, or one of each by its code; when each pass opens, by two readings or by hand, and when it is over."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from statistics import fmean

from ..act import Act
from ..core.errors import PennyError
from ..core.tasting.serving import PassTime, Serving, serving
from ..core.tasting.temperatures import below, unlikely
from ..core.vocabulary import PASSES
from ..refusals import Unprocessable
from ..store.models import Flight
from . import schemas as s

MOST_READINGS = 400


def with_reading(before: list[dict], cup_c: float | None, act: Act) -> list[dict]:
    """The readings with one more of the whole flight, as it is taken now."""
    return before if cup_c is None else [*before, {"at": act.now.isoformat(), "cup_c": cup_c}][-MOST_READINGS:]


def with_cups(before: list[dict], cups: Mapping[str, float], act: Act) -> list[dict]:
    """With one of each cup, and their mean for the flight."""
    at = act.now.isoformat()
    each = [{"at": at, "cup_c": cup_c, "code": code} for code, cup_c in sorted(cups.items())]
    return [*before, *each, {"at": at, "cup_c": round(fmean(cups.values()), 1)}][-MOST_READINGS:]


def without_newest(before: list[dict]) -> list[dict]:
    """All but those taken at the newest moment."""
    newest = before[-1]["at"] if before else ""
    return [r for r in before if r["at"] != newest]


def whole(flight: Flight) -> list[dict]:
    """Readings of the whole flight, oldest first."""
    return [r for r in flight.cup_readings if "code" not in r]


def newest_c(readings: Sequence[dict]) -> float | None:
    return next((r["cup_c"] for r in reversed(readings) if "code" not in r), None)


def of_cups(flight: Flight) -> dict[str, float]:
    """Code → its newest reading, where the newest reading was of cups one by one."""
    at = flight.cup_readings[-1]["at"] if flight.cup_readings else ""
    return {r["code"]: r["cup_c"] for r in flight.cup_readings if "code" in r and r["at"] == at}


def refuse_unlikely(flight: Flight, cups: Mapping[str, float], ambient_c: float, act: Act) -> None:
    """cups: code → °C, '' for the whole flight. Raises Unprocessable at the field for what a thermometer can hardly have read since the reading before."""
    for i, (code, cup_c) in enumerate(cups.items()):
        before = next((r for r in reversed(flight.cup_readings) if r.get("code", "") == code), None)
        if before is None:
            continue
        apart_s = (act.now - datetime.fromisoformat(before["at"])).total_seconds()
        why = unlikely(before["cup_c"], cup_c, apart_s=max(0.0, apart_s), ambient_c=ambient_c)
        if why:
            raise Unprocessable(f"cups.{i}.cup_c" if code else "cup_c", why, "Read it again, or keep it anyway.")


def passes(flight: Flight, ambient_c: float, now: datetime) -> list[s.PassShown]:
    """All three with their times once two readings show how it cools; before that, those asked. A pass is open when the host says so,
    when its time has come, or when there is nothing to go by and it is the first (or the only) one asked."""
    found = _cooling(flight, ambient_c)
    over = _over(flight)
    times = {} if found is None else {p.name: _times(found[0], p) for p in found[1].passes}
    asked = [name for name in flight.passes if name]
    out = []
    for name, from_c, to_c in ((p.code, p.from_c, p.to_c) for p in PASSES):
        if name not in asked and name not in times:
            continue
        opens, closes, again = times.get(name, (None, None, None))
        by_hand = name in flight.opened
        due = opens is not None and opens <= now
        first = name == (asked or [""])[0] and (found is None or len(asked) == 1)
        out.append(
            s.PassShown(
                name=name, from_c=from_c, to_c=to_c, asked=name in asked, open=name in asked and name not in over and (by_hand or due or first), by_hand=by_hand,
                closed=name in over,
                known=found is not None, opens_at=opens, closes_at=closes, read_again_at=again if name in asked and again is not None and again > now else None,
            )
        )  # fmt: skip
    return out


def _over(flight: Flight) -> tuple[str, ...]:
    """Passes the cups were read below, and that were not opened by hand since."""
    last = next((r for r in reversed(flight.cup_readings) if "code" not in r), None)
    if last is None:
        return ()
    return tuple(name for name in below(last["cup_c"], flight.passes) if flight.opened.get(name, "") <= last["at"])


CURVE_POINTS, CURVE_S = 41, 3000.0


def curve(flight: Flight, ambient_c: float, now: datetime) -> s.CoolingShown | None:
    """The cooling law through the newest two readings; None without them."""
    found = _cooling(flight, ambient_c)
    if found is None:
        return None
    at, served = found

    def cup_at(moment: datetime) -> float:
        return served.cup.after(served.now_c, (moment - at).total_seconds())

    taken = [s.CupAt(at=datetime.fromisoformat(r["at"]), cup_c=r["cup_c"]) for r in whole(flight)]
    first = max((r.at for r in taken if r.at < at), default=at)
    moments = [first + timedelta(seconds=CURVE_S * i / (CURVE_POINTS - 1)) for i in range(CURVE_POINTS)]
    return s.CoolingShown(now_c=round(cup_at(now), 1), readings=taken, curve=[s.CupAt(at=m, cup_c=round(cup_at(m), 1)) for m in moments])


def _times(at: datetime, p: PassTime) -> tuple[datetime | None, datetime | None, datetime | None]:
    def moment(seconds: float | None) -> datetime | None:
        return None if seconds is None else at + timedelta(seconds=seconds)

    return moment(p.opens_s), moment(p.closes_s), moment(p.read_again_s)


MOST_FITTED = 6
"""Readings that the law is laid through, the newest of them."""


def _cooling(flight: Flight, ambient_c: float) -> tuple[datetime, Serving] | None:
    """By the newest readings that show the cups cooling one after the other."""
    taken = [(datetime.fromisoformat(r["at"]), r["cup_c"]) for r in whole(flight)]
    for end in range(len(taken), 1, -1):
        chain = [taken[end - 1]]
        while len(chain) < min(end, MOST_FITTED) and taken[end - 1 - len(chain)][1] > chain[0][1]:
            chain.insert(0, taken[end - 1 - len(chain)])
        at, first = chain[-1][0], chain[0][0]
        try:
            return at, serving([((moment - first).total_seconds(), cup_c) for moment, cup_c in chain], ambient_c=ambient_c)
        except PennyError:
            continue
    return None
