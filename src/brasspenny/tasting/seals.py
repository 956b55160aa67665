"""The runner's key: drawn, locked under the token of a one-time link, bound to the first device that opens it, opened at the flip.

Nothing but this module unlocks it. Someone with the database's files and the bench's secret is outside the promise.
"""

from __future__ import annotations

import base64
import hashlib
import json
import random
from collections import defaultdict

from cryptography.fernet import Fernet

from ..act import Act
from ..core.tasting import roles
from ..core.tasting import seal as core
from ..core.tasting.flights import METHOD_NAMES
from ..core.trial.matching import still_to_thin
from ..core.trial.measured import measure_trial
from ..history import service as history
from ..links import LinkMaker
from ..refusals import Conflict, LinkRefused, NotFound
from ..store import blind_keys, seen_devices
from ..store.models import Bench, Flight, FlightBrew, FlightCup, Person, Seal, Sheet, SheetCup, Trial
from ..store.seen_devices import hash_of_token
from ..store.writing import use_case
from ..trials.service import frozen
from . import events
from . import pour_schemas as s
from .labels import DELETED_BREW, run_labels


def draw_key(codes: list[str], marks: list[int], rng: random.Random) -> dict[str, int]:
    """code → mark, at random within one round."""
    shuffled = list(marks)
    rng.shuffle(shuffled)
    return dict(zip(codes, shuffled, strict=True))


def seal(flight: Flight, cups: list[FlightCup], brews: list[FlightBrew], links: LinkMaker, act: Act) -> None:
    """Draw the key, keep it only locked, and commit to it."""
    key: dict[str, int] = {}
    for number in sorted({b.round_no for b in brews}):
        codes = sorted(c.code for c in cups if c.round_no == number)
        key |= draw_key(codes, [b.mark for b in brews if b.round_no == number], act.rng)
    nonce = f"{act.rng.getrandbits(256):064x}"
    token = links.runner_token(flight.id)
    locked = _lock(token).encrypt(json.dumps({"key": key, "nonce": nonce}).encode()).decode()
    Seal.create(flight=flight.id, commitment=core.commitment(key, nonce), token_hash=hash_of_token(token), locked_key=locked)


def _lock(token: str) -> Fernet:
    return Fernet(base64.urlsafe_b64encode(hashlib.sha256(b"key of a flight:" + token.encode()).digest()))


def _unlock(sealed: Seal, token: str) -> tuple[dict[str, int], str]:
    held = json.loads(_lock(token).decrypt(sealed.locked_key.encode()))
    return held["key"], held["nonce"]


def unseal(flight: Flight, links: LinkMaker) -> dict[str, int]:
    """The key of a flight whose scores are locked, checked against its commitment; its nonce is shown from now on."""
    sealed = Seal.get_by_id(flight.id)
    key, nonce = _unlock(sealed, links.runner_token(flight.id))
    if not core.holds(key, nonce, sealed.commitment):
        raise Conflict("", "The key does not match its seal: somebody changed it.", "Delete this flight and pour another.")
    Seal.update(nonce=nonce).where(Seal.flight == flight.id).execute()
    return key


# --- the runner's device -----------------------------------------------------------------------------------------------


def _sealed_by(token: str) -> tuple[Seal, Flight]:
    sealed = Seal.get_or_none((Seal.token_hash == hash_of_token(token)) & Seal.broken_at.is_null())
    live = sealed and Flight.select().join(Trial).where((Flight.id == sealed.flight_id) & Flight.deleted_at.is_null() & Trial.deleted_at.is_null()).first()
    if not live:
        raise LinkRefused
    return sealed, live


@use_case
def open_on_device(token: str, device: str, act: Act) -> s.PourAnswer:
    """Open the pour sheet on this device, which from then on is the only one. On the bench's own device it is before the host's eyes too."""
    sealed, flight = _sealed_by(token)
    been = seen_devices.seen(device, flight.id)
    if not roles.may_see_key(been, table_of(flight)):
        raise Conflict("", "Somebody who tastes in this flight uses this device, so it may not show what is poured.", TO_THE_RUNNER)
    sealed = Seal.select().where(Seal.flight == flight.id).for_update().get()
    if sealed.device_hash is None:
        Seal.update(device_hash=device, opened_at=act.now).where(Seal.flight == flight.id).execute()
        history.record(flight, "open_pour_sheet", act=act, trial_id=flight.trial_id)
        events.note(flight.id, "seat", act)
    elif device != sealed.device_hash:
        raise Conflict("", "This pour sheet was opened on another device, and opens on no other.", "Find that device; else the host breaks the seal.")
    if roles.host_saw(been):
        _seen_by_host(flight, sealed, act)
    seen_devices.note_hat(device, flight.id, roles.KEY, act.now)
    return _sheet(flight, sealed, token)


TO_THE_RUNNER = "Open the link on the device of somebody who does not taste."


def table_of(flight: Flight) -> roles.TableSeated:
    """Who tastes in a flight, as far as a key is concerned."""
    seated = {person for (person,) in Sheet.select(Sheet.person).where(Sheet.flight == flight.id).tuples()}
    return roles.TableSeated(frozenset(seated), flight.created_by, flight.host_tastes)


def _seen_by_host(flight: Flight, sealed: Seal, act: Act) -> None:
    if sealed.seen_by_host_at is None:
        Seal.update(seen_by_host_at=act.now).where(Seal.flight == flight.id).execute()
        history.record(flight, "host_saw_key", act=act, trial_id=flight.trial_id)


def read_on_device(token: str, device: str) -> s.PourAnswer:
    """The sheet again, on the device it was opened on, unless that came to taste since."""
    sealed, flight = _sealed_by(token)
    if device != sealed.device_hash or not roles.may_see_key(seen_devices.seen(device, flight.id), table_of(flight)):
        raise LinkRefused
    return _sheet(flight, sealed, token)


def _sheet(flight: Flight, sealed: Seal, token: str) -> s.PourAnswer:
    key, _ = _unlock(sealed, token)
    labels = run_labels(flight.trial_id)
    brews = {b.mark: b for b in flight.brews}
    cups = {c.code: c for c in flight.cups}
    orders: dict[str, list[str]] = defaultdict(list)
    rows = SheetCup.select(Sheet.id, FlightCup.code).join(Sheet).switch(SheetCup).join(FlightCup).where(Sheet.flight == flight.id).order_by(SheetCup.position)
    for sheet_id, code in rows.tuples():
        orders[sheet_id].append(code)
    seats = Sheet.select(Sheet, Person).join(Person).where((Sheet.flight == flight.id) & Sheet.left_at.is_null()).order_by(Person.name)
    shown, water = [], still_to_thin(measure_trial(frozen(flight.trial_id)))
    for code, mark in key.items():
        letter, label = labels.get(brews[mark].run_id, DELETED_BREW)
        shown.append(s.PourCup(code=code, round=cups[code].round_no, mark=mark, letter=letter, label=label, add_water_g=water.get(brews[mark].run_id)))
    references = flight.options.get("references", {})
    return s.PourAnswer(
        bench=Bench.get_by_id(1).name,
        flight=flight.number,
        status=flight.status,
        method_label=METHOD_NAMES[flight.method],
        commitment=sealed.commitment,
        cups=sorted(shown, key=lambda c: (c.round, c.mark)),
        seats=[s.PourSeat(taster=x.person.name, order=orders[x.id]) for x in seats],
        references=[s.PourReference(round=int(n), label=labels.get(run, DELETED_BREW)[1]) for n, run in sorted(references.items())],
    )


# --- the host --------------------------------------------------------------------------------------------------------------


@use_case
def open_for_host(flight_id: str, links: LinkMaker, device: str, act: Act) -> s.PourAnswer:
    """A host who is not tasting may pour too; that is recorded, in the history and in the grade. Somebody must be known to have asked."""
    flight = _runner_flight(flight_id)
    if act.who is None:
        raise Conflict("", "Nobody has said who opens it.", "Choose yourself first, then open the pour sheet.")
    if flight.host_tastes or not roles.may_see_key(seen_devices.seen(device, flight.id), table_of(flight)):
        raise Conflict("", "You taste in this flight, so you may not see what is poured.", "Let somebody who does not taste pour.")
    sealed = Seal.select().where(Seal.flight == flight.id).for_update().get()
    if sealed.broken_at:
        raise Conflict("", "The seal is broken: the key is in sight.", "Read it on the flight.")
    _seen_by_host(flight, sealed, act)
    seen_devices.note_hat(device, flight.id, roles.KEY, act.now)
    return _sheet(flight, sealed, links.runner_token(flight.id))


def _runner_flight(flight_id: str) -> Flight:
    flight = Flight.select().where((Flight.id == flight_id) & Flight.deleted_at.is_null()).for_update().first()
    if flight is None:
        raise NotFound("flight")
    if flight.blinding != "runner":
        raise Conflict("", "This flight has no pour sheet.", "Its cups are poured by marks, or with labels in sight.")
    return flight


@use_case
def break_seal(flight_id: str, links: LinkMaker, act: Act) -> None:
    """The runner's link is lost: the key comes into sight, and the flight is graded sighted, for good."""
    flight = _runner_flight(flight_id)
    if flight.status != "open":
        raise Conflict("", "Scores are locked; there is nothing to break any more.", "Flip the pennies.")
    key = unseal(flight, links)
    run_of = {b.mark: b.run_id for b in flight.brews}
    blind_keys.write({cup.id: (run_of[key[cup.code]], key[cup.code]) for cup in flight.cups})
    Seal.update(broken_at=act.now).where(Seal.flight == flight.id).execute()
    Flight.update(blinding="broken", rev=flight.rev + 1).where(Flight.id == flight.id).execute()
    history.record(flight, "break_seal", act=act, trial_id=flight.trial_id)
    events.note(flight.id, "flip", act)
