"""The bench, its health, and the door."""

from __future__ import annotations

from flask import current_app, request, session

from ..http import IdPath, Problem, RevHeader, act, blueprint, problem, reply
from ..store.connection import answers
from . import schemas as s
from . import service, sessions

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
    return reply(s.SessionAnswer(locked=current_app.config["LOCKED"]()))


@bp.post("/session", responses={200: s.SessionAnswer, 429: Problem})
def open_session(body: s.SessionBody):
    """Give the passphrase."""
    token = sessions.let_in(body.passphrase, address=request.remote_addr or "", agent=str(request.user_agent), act=act())
    session.clear()
    session[sessions.COOKIE_KEY] = token
    session.permanent = True
    return reply(s.SessionAnswer(locked=False))


@bp.delete("/session", responses={200: s.SessionAnswer})
def close_session():
    """Lock this device again."""
    sessions.end(session.get(sessions.COOKIE_KEY), act().now)
    session.clear()
    return reply(s.SessionAnswer(locked=current_app.config["LOCKED"]()))


@bp.get("/sessions", responses={200: s.SessionsAnswer})
def read_sessions():
    """The devices that were let in by the passphrase."""
    return reply(sessions.all_live(session.get(sessions.COOKIE_KEY), act().now))


@bp.delete("/sessions/<id>", responses={200: s.SessionsAnswer})
def end_session(path: IdPath):
    """Lock another device."""
    return reply(sessions.end_one(path.id, act()))


@bp.get("/bench", responses={200: s.BenchAnswer})
def read_bench():
    """The bench's name and instruments."""
    return reply(service.read_bench())


@bp.patch("/bench", responses={200: s.BenchAnswer})
def edit_bench(header: RevHeader, body: s.BenchPatch):
    """Change the bench's name or what its instruments are good for."""
    return reply(service.edit_bench(body, header.if_match, act()))
