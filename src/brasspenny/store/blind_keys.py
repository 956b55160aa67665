"""The one reader and writer of which brew is under which code.

Whoever asks, the key of a blind flight is not here before its flip: the statement itself leaves it out.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence

from ..core.trial.value import SIGHTED, WITNESSED, Cup
from .models import FlightCup

LABELLED, BLIND_HERE = (", ".join(repr(b) for b in codes) for codes in (SIGHTED, WITNESSED))
KNOWN = f"(f.status = 'flipped' OR f.blinding IN ({LABELLED}))"
CUPS = f"""
SELECT c.flight_id, c.id, c.code, c.round_no, IF({KNOWN}, c.run_id, NULL), IF({KNOWN}, c.mark, NULL)
FROM flight_cup c JOIN flight f ON f.id = c.flight_id WHERE {{which}} ORDER BY c.flight_id, c.round_no, c.code
"""


def cups_of_flights(flight_ids: Sequence[str]) -> dict[str, tuple[Cup, ...]]:
    """Flight → its cups by round and code; the key in them as far as it is known."""
    marks = ",".join(["%s"] * len(flight_ids))
    return _cups(f"f.id IN ({marks})", flight_ids) if flight_ids else {}


def cups_of_trial(trial_id: str) -> dict[str, tuple[Cup, ...]]:
    """The same for all live flights of a trial."""
    return _cups("f.trial_id = %s AND f.deleted_at IS NULL", (trial_id,))


def _cups(which: str, values: Sequence[str]) -> dict[str, tuple[Cup, ...]]:
    out: dict[str, list[Cup]] = defaultdict(list)
    for flight_id, *cup in FlightCup._meta.database.execute_sql(CUPS.format(which=which), tuple(values)).fetchall():
        out[flight_id].append(Cup(*cup))
    return {flight: tuple(cups) for flight, cups in out.items()}


OWN = """
SELECT o.sheet_id, c.code FROM sheet_cup o JOIN flight_cup c ON c.id = o.cup_id JOIN flight f ON f.id = c.flight_id
WHERE f.trial_id = %s AND f.deleted_at IS NULL AND JSON_VALUE(f.options, '$.own_sets') ORDER BY o.sheet_id, c.code
"""


def own_sets(trial_id: str) -> dict[str, tuple[str, ...]]:
    """Sheet → the codes on it, of flights in which each taster has a set of their own; nothing of the key."""
    out: dict[str, list[str]] = defaultdict(list)
    for sheet_id, code in FlightCup._meta.database.execute_sql(OWN, (trial_id,)).fetchall():
        out[sheet_id].append(code)
    return {sheet: tuple(codes) for sheet, codes in out.items()}


def write(key: Mapping[str, tuple[str, int | None]]) -> None:
    """Make a key known: cup id → (run id, mark); an open flight has no marks."""
    for cup_id, (run_id, mark) in key.items():
        FlightCup.update(run=run_id, mark=mark).where(FlightCup.id == cup_id).execute()


LIKINGS = f"""
SELECT f.trial_id, f.id, h.person_id, r.setup_id, r.id, s.pass_name, s.value + 0e0
FROM score s JOIN sheet h ON h.id = s.sheet_id JOIN flight f ON f.id = h.flight_id JOIN flight_cup c ON c.id = s.cup_id JOIN run r ON r.id = c.run_id
WHERE f.trial_id IN ({{marks}}) AND f.status = 'flipped' AND f.blinding IN ({BLIND_HERE}) AND f.deleted_at IS NULL
  AND s.attribute = 'liking' AND s.value IS NOT NULL ORDER BY f.trial_id, f.id, h.person_id, r.id, c.code, s.pass_name
"""


def blind_likings(trial_ids: Sequence[str]) -> list[tuple[str, str, str, str, str, str, float]]:
    """(trial, flight, person, setup, run, pass, liking) of flipped blind flights, in a fixed order: what a bench's own scatter is learnt from."""
    if not trial_ids:
        return []
    return list(FlightCup._meta.database.execute_sql(LIKINGS.format(marks=",".join(["%s"] * len(trial_ids))), tuple(trial_ids)).fetchall())


EARLIER = f"""
SELECT f.trial_id, f.id, h.person_id, r.setup_id, r.id, s.pass_name, s.value + 0e0, COALESCE(v.brewer_type, '')
FROM (SELECT e.trial_id, MAX(e.flipped_at) AS last FROM flight e JOIN trial t ON t.id = e.trial_id WHERE e.trial_id <> %s AND e.status = 'flipped' AND e.deleted_at IS NULL
    AND t.deleted_at IS NULL AND e.flipped_at < {{before}} AND NOT (SELECT made_up FROM bench WHERE id = 1) GROUP BY e.trial_id ORDER BY last DESC, e.trial_id LIMIT {{most}}) o
  JOIN flight f ON f.trial_id = o.trial_id JOIN sheet h ON h.flight_id = f.id JOIN score s ON s.sheet_id = h.id JOIN flight_cup c ON c.id = s.cup_id JOIN run r ON r.id = c.run_id
  JOIN setup_revision v ON v.id = r.setup_revision_id
WHERE f.status = 'flipped' AND f.flipped_at < {{before}} AND f.blinding IN ({BLIND_HERE}) AND f.deleted_at IS NULL AND r.deleted_at IS NULL
  AND s.attribute = 'liking' AND s.value IS NOT NULL AND NOT COALESCE(JSON_VALUE(r.observed, '$.simulated'), 0)
ORDER BY o.last, f.trial_id, f.id, h.person_id, r.id, c.code, s.pass_name
"""
FIRST_CLOSED = (
    f"(SELECT MIN(m.closed_at) FROM flight m WHERE m.trial_id = %s AND m.status = 'flipped' AND m.deleted_at IS NULL AND m.blinding NOT IN ({LABELLED}))"
)


def earlier_likings(trial_id: str, *, most: int) -> list[tuple[str, str, str, str, str, str, float, str]]:
    """(trial, flight, person, setup, run, pass, liking, kind of brewer) of blind flights of other trials that were flipped before this one's first blind flight was closed,
    the last `most` trials, the oldest first. Nothing simulated, nothing of a demo."""
    asked = EARLIER.format(before=FIRST_CLOSED, most=int(most))
    return list(FlightCup._meta.database.execute_sql(asked, (trial_id,) * 3).fetchall())
