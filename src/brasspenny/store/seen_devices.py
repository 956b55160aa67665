"""What a device has ever been, who was let in, and how often somebody guessed.

A device is known by the hash of a mark it keeps (a cookie that logging in or out does not change). What is noted of it is never taken
back: a host's laptop stays the bench's, whoever sits at it and whatever they call themselves.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from datetime import datetime

import peewee as pw

from ..core.tasting.roles import KEY, TASTER, DeviceSeen, Hat
from .fields import IdField, UtcField
from .models import Person, Seal, Table


class LetIn(Table):
    """A device that gave the passphrase, by the hash of what its cookie holds."""

    id = IdField(primary_key=True)
    token_hash = pw.FixedCharField(64, unique=True)
    created_at = UtcField()
    seen_at = UtcField()
    ended_at = UtcField(null=True)
    agent = pw.CharField(200)
    address = pw.CharField(45)


class OpeningKey(Table):
    """Of an address that the start command printed, as a hash; gone once it was used."""

    token_hash = pw.FixedCharField(64, primary_key=True)
    made_at = UtcField()


class PassphraseGuess(Table):
    address = pw.CharField(45)
    at = UtcField()


class BenchDevice(Table):
    """A device on which the bench itself was opened."""

    device = pw.FixedCharField(64, primary_key=True)
    at = UtcField()


class DevicePerson(Table):
    """Somebody a device was used as."""

    device = pw.FixedCharField(64)
    person_id = IdField()
    at = UtcField()

    class Meta:
        primary_key = pw.CompositeKey("device", "person_id")


class DeviceHat(Table):
    """What a device was in one flight, or in one session of the palate room (flight_id is then its id): at a taster's sheet, or before the key."""

    device = pw.FixedCharField(64)
    flight_id = IdField()
    hat = pw.CharField(8)
    at = UtcField()

    class Meta:
        primary_key = pw.CompositeKey("device", "flight_id", "hat")


class ScriptToken(Table):
    """What a script shows instead of a passphrase, as a hash."""

    id = IdField(primary_key=True)
    name = pw.CharField(80)
    token_hash = pw.FixedCharField(64, unique=True)
    may_write = pw.BooleanField(default=False)
    created_at = UtcField()
    used_at = UtcField(null=True)
    revoked_at = UtcField(null=True)


def hash_of_token(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).hexdigest()


DOORS = (ScriptToken, LetIn, OpeningKey, PassphraseGuess, BenchDevice, DevicePerson, DeviceHat)


def note_bench(device: str, now: datetime) -> None:
    """From now on it is the bench's. Keys it has shown before are before the host's eyes with that."""
    BenchDevice.insert(device=device, at=now).on_conflict_ignore().execute()
    shown = DeviceHat.select(DeviceHat.flight_id).where((DeviceHat.device == device) & (DeviceHat.hat == KEY))
    Seal.update(seen_by_host_at=now).where(Seal.flight.in_(shown) & Seal.seen_by_host_at.is_null() & Seal.nonce.is_null()).execute()


def note_person(device: str, person_id: str, now: datetime) -> None:
    """Somebody the bench knows; what an asker makes up is not worth a row."""
    if not Person.select().where(Person.id == person_id).exists():
        return
    DevicePerson.insert(device=device, person_id=person_id, at=now).on_conflict_ignore().execute()


def note_hat(device: str, flight_id: str, hat: Hat, now: datetime) -> None:
    DeviceHat.insert(device=device, flight_id=flight_id, hat=hat, at=now).on_conflict_ignore().execute()


def seen(device: str, flight_id: str) -> DeviceSeen:
    """Everything this device has ever been that matters to a flight."""
    hats = {h for (h,) in DeviceHat.select(DeviceHat.hat).where((DeviceHat.device == device) & (DeviceHat.flight_id == flight_id)).tuples()}
    people = {p for (p,) in DevicePerson.select(DevicePerson.person_id).where(DevicePerson.device == device).tuples()}
    bench = BenchDevice.select().where(BenchDevice.device == device).exists()
    return DeviceSeen(bench=bench, tasted=TASTER in hats, saw_key=KEY in hats, people=frozenset(people))


def note_taster(device: DeviceSeen, mark: str, flight_id: str, person_id: str, now: datetime) -> None:
    """It tastes in this flight from now on, and is used by whoever the link is for. On the bench's own device somebody else may type what was written on paper."""
    note_hat(mark, flight_id, TASTER, now)
    if not device.bench:
        note_person(mark, person_id, now)


def was_shown_key(flight_id: str, person_id: str) -> bool:
    """Whether the key of this flight was before a device that this person ever used, the bench's own aside: that a host saw it is recorded with the flight."""
    rows = DeviceHat.select().join(DevicePerson, on=(DevicePerson.device == DeviceHat.device))
    theirs = (DeviceHat.flight_id == flight_id) & (DeviceHat.hat == KEY) & (DevicePerson.person_id == person_id)
    return rows.where(theirs & DeviceHat.device.not_in(BenchDevice.select(BenchDevice.device))).exists()


def saw_key(flight_id: str, people: Iterable[str]) -> bool:
    """Whether the key of this flight was before a device that one of these people ever used."""
    rows = DeviceHat.select().join(DevicePerson, on=(DevicePerson.device == DeviceHat.device))
    wanted = (DeviceHat.flight_id == flight_id) & (DeviceHat.hat == KEY) & DevicePerson.person_id.in_(list(people) or [""])
    return rows.where(wanted).exists()
