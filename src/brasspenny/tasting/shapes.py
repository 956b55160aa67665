"""A trial's flights as the API shows them, in a handful of queries; codes and brews joined as far as store/keys.py lets the key be known."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ..core.tasting import seal as core
from ..core.tasting.flights import IN_ROUNDS, METHOD_NAMES, balanced_by, costs
from ..core.tasting.temperatures import cups_said
from ..core.trial.matching import still_to_thin
from ..core.trial.measured import measure_trial
from ..core.trial.value import Cup
from ..links import LinkMaker
from ..store import blind_keys, queries
from ..store.models import Bench, Flight, FlightBrew, FlightCup, LateScore, Person, Run, Seal, Sheet, SheetCup, Trial
from ..trials.service import frozen
from . import cooling
from . import schemas as s
from .labels import DELETED_BREW, labels_of, runs_of
from .making import load_of


def seals_by_flight(flight_ids: list[str]) -> dict[str, Seal]:
    return {x.flight_id: x for x in Seal.select().where(Seal.flight.in_(flight_ids or [""]))}


@dataclass
class _Table:
    """All rows of the flights asked for, by flight (or sheet)."""

    cups: dict[str, tuple[Cup, ...]] = field(default_factory=dict)
    sheets: dict[str, list[Sheet]] = field(default_factory=lambda: defaultdict(list))
    brews: dict[str, list[FlightBrew]] = field(default_factory=lambda: defaultdict(list))
    orders: dict[str, list[str]] = field(default_factory=lambda: defaultdict(list))
    late: dict[str, list[LateScore]] = field(default_factory=lambda: defaultdict(list))
    seals: dict[str, Seal] = field(default_factory=dict)
    runs: dict[str, Run] = field(default_factory=dict)
    labels: dict[str, tuple[str, str]] = field(default_factory=dict)
    by_cup: Counter = field(default_factory=Counter)
    by_sheet: Counter = field(default_factory=Counter)
    ambient_c: float = 21.0
    water_g: dict[str, float] = field(default_factory=dict)


def shape_flights(flights: list[Flight], trial: Trial, links: LinkMaker, now: datetime) -> list[s.FlightAnswer]:
    """Cups by code, sheets by name: nothing in an order that could tell."""
    if not flights:
        return []
    table = _read([f.id for f in flights], trial)
    if any(f.status == "open" and f.blinding != "runner" for f in flights):  # a runner's sheet carries its own
        table.water_g = still_to_thin(measure_trial(frozen(trial.id)))
    return [_shape(flight, table, links, now) for flight in flights]


def _read(ids: list[str], trial: Trial) -> _Table:
    t = _Table(seals=seals_by_flight(ids), runs=runs_of(trial.id), ambient_c=Bench.get_by_id(1).ambient_c)
    t.labels = labels_of(trial, t.runs)
    t.by_cup, t.by_sheet = queries.done_counts(trial.id)
    t.cups = blind_keys.cups_of_flights(ids)
    for sheet in Sheet.select(Sheet, Person).join(Person).where(Sheet.flight.in_(ids)).order_by(Person.name):
        t.sheets[sheet.flight_id].append(sheet)
    for brew in FlightBrew.select().where(FlightBrew.flight.in_(ids)).order_by(FlightBrew.mark):
        t.brews[brew.flight_id].append(brew)
    rows = SheetCup.select(SheetCup.sheet, FlightCup.code).join(Sheet).switch(SheetCup).join(FlightCup).where(Sheet.flight.in_(ids))
    for sheet_id, code in rows.order_by(SheetCup.position).tuples():
        t.orders[sheet_id].append(code)
    late = LateScore.select(LateScore, Sheet, Person, FlightCup).join(Sheet).join(Person).switch(LateScore).join(FlightCup).where(Sheet.flight.in_(ids))
    for row in late.order_by(Person.name, LateScore.seq, LateScore.uuid):
        t.late[row.sheet.flight_id].append(row)
    return t


def _shape(flight: Flight, t: _Table, links: LinkMaker, now: datetime) -> s.FlightAnswer:
    cups, sheets, brews = t.cups[flight.id], t.sheets[flight.id], t.brews[flight.id]
    in_rounds = flight.method in IN_ROUNDS
    rounds = len({c.round_no for c in cups})
    passes = 1 if in_rounds or flight.method == "ranking" else len(flight.passes)
    of = rounds if in_rounds else len(cups) * passes
    seats = [_seat(x, t, of, links) for x in sheets]
    per_round = len(cups) // max(1, rounds)
    present = [x for x in sheets if x.left_at is None]
    options = s.FlightOptions(**{name: value for name, value in flight.options.items() if name in s.FlightOptions.model_fields})
    runs = [t.runs[b.run_id] for b in brews if b.run_id in t.runs]
    late = t.late[flight.id]
    kept_from_host = in_rounds and flight.blinding == "runner" and flight.host_tastes and flight.status != "flipped"  # what a round holds tells the odd one
    return s.FlightAnswer(
        id=flight.id,
        trial_id=flight.trial_id,
        number=flight.number,
        blinding=flight.blinding,
        status=flight.status,
        method=flight.method,
        method_label=METHOD_NAMES[flight.method],
        attributes=flight.attributes,
        options=options,
        host_tastes=bool(flight.host_tastes),
        cup_temperature_c=flight.cup_temperature_c,
        cup_temperatures=[s.CupReadShown(code=code, cup_c=cup_c) for code, cup_c in cooling.of_cups(flight).items()],
        cups_said=list(_cups_said(flight)),
        passes=cooling.passes(flight, t.ambient_c, now),
        cooling=cooling.curve(flight, t.ambient_c, now),
        cups=_cups(flight, cups, len(sheets) * passes, in_rounds, t),
        marks=[
            s.MarkShown(mark=b.mark, round=b.round_no, run_id=b.run_id, letter=at[0], label=at[1], add_water_g=t.water_g.get(b.run_id))
            for b in brews
            for at in [t.labels.get(b.run_id, DELETED_BREW)]
            if not kept_from_host
        ],
        references=[
            s.ReferenceShown(round=int(n), letter=at[0], label=at[1])
            for n, run in sorted(flight.options.get("references", {}).items())
            for at in [t.labels.get(run, DELETED_BREW)]
            if not kept_from_host
        ],
        sheets=seats,
        seal=_seal(flight, t.seals.get(flight.id), cups, links),
        costs=list(_costs(flight, sheets, seats, len(cups), len(late))),
        late_count=len(late),
        late=[_late(x) for x in late] if flight.status == "flipped" else [],
        touches=load_of(options, flight.method, runs, rounds, len(sheets), len(flight.attributes), passes).touches,
        balanced=in_rounds or len(present) % balanced_by(per_round) == 0,
        created_at=flight.created_at,
        shuffled_at=flight.shuffled_at,
        closed_at=flight.closed_at,
        flipped_at=flight.flipped_at,
        rev=flight.rev,
    )


def _cups_said(flight: Flight) -> tuple[str, ...]:
    return cups_said(cooling.of_cups(flight), flight.passes) if flight.status == "open" else ()


def _cups(flight: Flight, cups: Sequence[Cup], of: int, in_rounds: bool, t: _Table) -> list[s.CupShown]:
    key = {c.id: c.run_id for c in cups if c.run_id}
    by_round: Counter = Counter()
    for cup in cups:
        by_round[cup.round_no] += t.by_cup[cup.id]
    out = []
    for cup in cups:
        letter, label = t.labels.get(key[cup.id], DELETED_BREW) if cup.id in key else (None, None)
        scored = by_round[cup.round_no] if in_rounds else t.by_cup[cup.id]
        out.append(s.CupShown(code=cup.code, round=cup.round_no, scored=scored, of=of, letter=letter, label=label))
    return out


def _seat(sheet: Sheet, t: _Table, of: int, links: LinkMaker) -> s.SheetShown:
    return s.SheetShown(
        id=sheet.id,
        person_id=sheet.person_id,
        name=sheet.person.name,
        scored=t.by_sheet[sheet.id],
        of=of,
        order=t.orders[sheet.id],
        late=bool(sheet.late),
        left_at=sheet.left_at,
        link=links.link(sheet),
    )


def _costs(flight: Flight, sheets: list[Sheet], seats: list[s.SheetShown], cups: int, late_scores: int):
    left = {x.person.name: seat.scored for x, seat in zip(sheets, seats, strict=True) if x.left_at}
    return costs(
        cups=cups,
        finished=len(sheets) - len(left),
        joined_late=[x.person.name for x in sheets if x.late],
        left=left,
        late_scores=late_scores,
    )


def _seal(flight: Flight, sealed: Seal | None, cups: Sequence[Cup], links: LinkMaker) -> s.SealShown | None:
    if sealed is None:
        return None
    text = holds = None
    if sealed.nonce and all(c.run_id for c in cups):
        key = {c.code: c.mark for c in cups}
        text, holds = core.key_text(key, sealed.nonce), core.holds(key, sealed.nonce, sealed.commitment)
    unopened = sealed.device_hash is None and sealed.broken_at is None and flight.status == "open"
    return s.SealShown(
        commitment=sealed.commitment,
        waits=unopened,
        link=links.runner_link(flight.id) if unopened and not flight.host_tastes else None,
        opened_at=sealed.opened_at,
        seen_by_host_at=sealed.seen_by_host_at,
        broken_at=sealed.broken_at,
        nonce=sealed.nonce if text else None,
        key_text=text,
        holds=holds,
    )


def _late(row: LateScore) -> s.LateShown:
    return s.LateShown(taster=row.sheet.person.name, code=row.cup.code, attribute=row.attribute, value=row.value, text=row.text, received_at=row.received_at)
