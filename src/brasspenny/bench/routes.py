"""The bench, its health, and the door."""

from __future__ import annotations

from flask import current_app, session

from ..http import RevHeader, act, blueprint, problem, reply
from ..store.connection import answers
from . import schemas as s
from . import service

bp = blueprint("bench", __name__)


@bp.get("/health", responses={200: s.HealthAnswer})
def read_health():
    """Whether the database answers."""
    if not answers():
        return problem(503, "The database does not answer", "Wait a moment; if it stays so, run ./penny doctor.")
    return reply(s.HealthAnswer(status="ok"))


@bp.get("/session", responses={200: s.SessionAnswer})
def read_session():
    """Whether this device must give the passphrase."""
    return reply(s.SessionAnswer(locked=current_app.config["PASSPHRASE_NEEDED"] and not session.get("host")))


@bp.post("/session", responses={200: s.SessionAnswer})
def open_session(body: s.SessionBody):
    """Give the passphrase."""
    service.check_passphrase(body.passphrase)
    session.clear()
    session["host"] = True
    session.permanent = True
    return reply(s.SessionAnswer(locked=False))


@bp.delete("/session", responses={200: s.SessionAnswer})
def close_session():
    """Lock this device again."""
    session.clear()
    return reply(s.SessionAnswer(locked=current_app.config["PASSPHRASE_NEEDED"]))


@bp.get("/bench", responses={200: s.BenchAnswer})
def read_bench():
    """The bench's name and instruments."""
    return reply(service.read_bench())


@bp.patch("/bench", responses={200: s.BenchAnswer})
def edit_bench(header: RevHeader, body: s.BenchPatch):
    """Change the bench's name or what its instruments are good for."""
    return reply(service.edit_bench(body, header.if_match, act()))
