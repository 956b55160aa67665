"""Devices let in by the passphrase or by the key of the start command: seen, ended one by one or all together, and over by themselves."""

from __future__ import annotations

import ipaddress
import secrets
import time
from datetime import datetime, timedelta
from threading import BoundedSemaphore

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError

from ..act import Act
from ..refusals import Locked, NotFound, TooMany
from ..store.connection import database
from ..store.models import Bench
from ..store.seen_devices import LetIn, OpeningKey, PassphraseGuess, hash_of_token
from ..store.writing import spared_when_full, use_case
from . import schemas as s

COOKIE_KEY = "let_in"
LASTS = timedelta(days=30)
LOOK_AGAIN = timedelta(minutes=1)
GUESSES, WITHIN = 5, timedelta(minutes=1)
"""Of one address; the next is not even looked at."""
REMEMBERED = timedelta(minutes=10)
FREE_GUESSES, LONGEST_PAUSE_S, LONGEST_WAIT_S = 20, 4.0, 20.0
"""Wrong ones of all addresses together: beyond the free ones each is looked at after a pause that grows. Nobody who is in waits for it."""
_checking = BoundedSemaphore(1)
"""A check of a passphrase costs 64 MB for its moment, and many addresses guess no quicker than one: one at a time."""


def let_in(passphrase: str, *, address: str, agent: str, act: Act) -> str:
    """The token of a new session. Raises Locked when it is not the bench's passphrase, TooMany after too many that were not."""
    address = _counted_as(address)
    pause_s = _count_guess(address, act.now)
    if not _checking.acquire(timeout=LONGEST_WAIT_S):
        raise TooMany("passphrase", "Many devices are guessing at this bench.", "Try again in a minute, or at the bench's own machine.")
    try:
        time.sleep(pause_s)
        right = _checked(passphrase)
    finally:
        _checking.release()
    token = secrets.token_urlsafe(24)
    _admit(token, right, address=address, agent=agent[:200], act=act)
    return token


def make_key(now: datetime) -> str:
    """A key for the address that the start command prints. Those printed before and never used open nothing any more."""
    key = secrets.token_urlsafe(24)
    with database.atomic():
        OpeningKey.delete().execute()
        OpeningKey.create(token_hash=hash_of_token(key), made_at=now)
    return key


@use_case
def open_by_key(key: str, *, address: str, agent: str, act: Act) -> str:
    """The token of a new session, for whoever holds the key that this machine's start command printed. Raises Locked; a key opens once."""
    if not OpeningKey.delete().where(OpeningKey.token_hash == hash_of_token(key)).execute():
        raise Locked
    return _let_in(secrets.token_urlsafe(24), address=address[:45], agent=agent[:200], act=act)


def _let_in(token: str, *, address: str, agent: str, act: Act) -> str:
    LetIn.create(id=act.new_id(), token_hash=hash_of_token(token), created_at=act.now, seen_at=act.now, agent=agent, address=address)
    return token


@use_case
def _admit(token: str, right: str, *, address: str, agent: str, act: Act) -> None:
    """right: the hash the passphrase was checked against. One that was changed meanwhile lets nobody in."""
    if Bench.get_by_id(1).passphrase_hash != right:
        raise Locked
    _let_in(token, address=address, agent=agent, act=act)
    PassphraseGuess.delete().where(PassphraseGuess.address == address).execute()


def _counted_as(address: str) -> str:
    """A network of IPv6 is one address: whoever has one of its addresses has them all."""
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return address[:45]
    return str(ipaddress.ip_network((found, 64), strict=False)) if found.version == 6 and found.ipv4_mapped is None else str(found)


def pause_after(wrong: int) -> float:
    """How long the next guess waits, s, after so many wrong ones of all addresses in the last minutes.

    >>> [round(pause_after(n), 2) for n in (0, 20, 30, 60, 1000)]
    [0.0, 0.0, 0.1, 0.8, 4.0]
    """
    return 0.0 if wrong <= FREE_GUESSES else min(LONGEST_PAUSE_S, 0.05 * 2 ** ((min(wrong, 200) - FREE_GUESSES) / 10))


def _count_guess(address: str, now: datetime) -> float:
    """Written down before it is looked at, so that many at once count as many; what is over is forgotten. Returns the pause before it is looked at, s."""
    PassphraseGuess.delete().where(PassphraseGuess.at < now - REMEMBERED).execute()
    before = PassphraseGuess.select().count()
    mine = PassphraseGuess.create(address=address, at=now)
    lately = PassphraseGuess.select().where((PassphraseGuess.address == address) & (PassphraseGuess.at > now - WITHIN)).count()
    if lately > GUESSES:
        PassphraseGuess.delete_by_id(mine.id)  # it was not looked at
        raise TooMany("passphrase", f"More than {GUESSES} guesses within a minute.", "Wait a minute, then type the passphrase its host has set.")
    return pause_after(before)


def _checked(passphrase: str) -> str:
    """The hash it fits. Raises Locked when it is not the bench's passphrase; a bench that has none takes as long to say so."""
    stored = Bench.get_by_id(1).passphrase_hash
    try:
        PasswordHasher().verify(stored or PasswordHasher().hash(secrets.token_hex(8)), passphrase)
    except VerificationError:
        raise Locked from None
    if stored is None:
        raise Locked
    return stored


def is_let_in(token: str | None, now: datetime) -> bool:
    row = _live(token, now)
    if row is not None and row.seen_at < now - LOOK_AGAIN:
        with spared_when_full():
            LetIn.update(seen_at=now).where(LetIn.id == row.id).execute()
    return row is not None


def _live(token: str | None, now: datetime) -> LetIn | None:
    if not isinstance(token, str):
        return None
    return LetIn.get_or_none((LetIn.token_hash == hash_of_token(token)) & LetIn.ended_at.is_null() & (LetIn.created_at > now - LASTS))


def end(token: str | None, now: datetime) -> None:
    """Lock this device again."""
    if (row := _live(token, now)) is not None:
        LetIn.update(ended_at=now).where(LetIn.id == row.id).execute()


@use_case
def end_one(session_id: str, act: Act) -> s.SessionsAnswer:
    """Lock another device."""
    if not LetIn.update(ended_at=act.now).where((LetIn.id == session_id) & LetIn.ended_at.is_null()).execute():
        raise NotFound("session")
    return all_live(None, act.now)


def all_live(token: str | None, now: datetime) -> s.SessionsAnswer:
    rows = LetIn.select().where(LetIn.ended_at.is_null() & (LetIn.created_at > now - LASTS)).order_by(LetIn.seen_at.desc(), LetIn.id)
    mine = hash_of_token(token) if isinstance(token, str) else ""
    return s.SessionsAnswer(
        sessions=[
            s.SessionShown(
                id=r.id, agent=r.agent, address=r.address, since=r.created_at, seen_at=r.seen_at, ends_at=r.created_at + LASTS, this_device=r.token_hash == mine
            )
            for r in rows
        ]
    )


def end_all(now: datetime) -> None:
    LetIn.update(ended_at=now).where(LetIn.ended_at.is_null()).execute()
