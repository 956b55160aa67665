"""Tokens for scripts: made once, shown once, kept as a hash, taken back at a press."""

from __future__ import annotations

import secrets
from datetime import timedelta

from ..act import Act
from ..refusals import NotForScripts, NotFound, NoToken
from ..store.seen_devices import ScriptToken, hash_of_token
from ..store.writing import use_case
from . import schemas as s

MARK = "bp_"
READS = ("GET", "HEAD")
NOT_FOR_SCRIPTS = ("/damaged-rows", "/open-to-network", "/script-tokens", "/sessions", "/session", "/sample-bench", "/bench-import")
"""Who may come in is decided by people, and so is which bench."""
LOOK_AGAIN = timedelta(minutes=1)


@use_case
def make(sent: s.ScriptTokenBody, act: Act) -> s.ScriptTokenMade:
    token = MARK + secrets.token_urlsafe(24)
    row = ScriptToken.create(id=act.new_id(), name=sent.name, token_hash=hash_of_token(token), may_write=sent.may_write, created_at=act.now)
    return s.ScriptTokenMade(token=token, **_shape(row).model_dump())


def all_live() -> s.ScriptTokensAnswer:
    rows = ScriptToken.select().where(ScriptToken.revoked_at.is_null()).order_by(ScriptToken.created_at.desc())
    return s.ScriptTokensAnswer(tokens=[_shape(row) for row in rows])


@use_case
def revoke(token_id: str, act: Act) -> s.ScriptTokensAnswer:
    done = ScriptToken.update(revoked_at=act.now).where((ScriptToken.id == token_id) & ScriptToken.revoked_at.is_null()).execute()
    if not done:
        raise NotFound("token")
    return all_live()


def admit(token: str, method: str, path: str, act: Act) -> None:
    """Raises NoToken for one that is none, NotForScripts for what this one may not do."""
    row = ScriptToken.get_or_none((ScriptToken.token_hash == hash_of_token(token)) & ScriptToken.revoked_at.is_null())
    if row is None:
        raise NoToken
    if path.split("/api/v1", 1)[-1].startswith(NOT_FOR_SCRIPTS):
        raise NotForScripts("", "A script may not decide who or which bench comes in.", "Do it on the bench itself.")
    if method not in READS and not row.may_write:
        raise NotForScripts("", "This token may read and not write.", "Make one that may write, under People and phones.")
    if row.used_at is None or act.now - row.used_at > LOOK_AGAIN:
        ScriptToken.update(used_at=act.now).where(ScriptToken.id == row.id).execute()


def _shape(row: ScriptToken) -> s.ScriptTokenShown:
    return s.ScriptTokenShown(id=row.id, name=row.name, may_write=bool(row.may_write), created_at=row.created_at, used_at=row.used_at)
