"""The bench, its health, and the door."""

from __future__ import annotations

import io

import segno
from flask import Response, current_app, request, session

from .. import opening
from ..http import IN_SAMPLE, SAMPLE_COOKIE, IdPath, Problem, RevHeader, act, blueprint, file_of, problem, reply
from ..refusals import Locked, NotHere
from ..store.connection import answers, sample_exists
from . import phones, service, sessions, tokens
from . import schemas as s

bp = blueprint("bench", __name__)


@bp.get("/health", responses={200: s.HealthAnswer})
def read_health():
    """Whether the database answers."""
    if not answers():
        return problem(503, "The database does not answer", "Wait a moment; if it stays so, run ./penny doctor.")
    return reply(s.HealthAnswer(status="ok"))


@bp.get("/session", responses={200: s.SessionAnswer})
def read_session():
    """Whether this device must be let in first, and whether it looks round the sample bench."""
    return reply(_session(current_app.config["LOCKED"]()))


def _session(locked: bool) -> s.SessionAnswer:
    return s.SessionAnswer(locked=locked, by_passphrase=service.has_passphrase(), in_sample=in_sample(), units=service.read_units())


@bp.post("/session", responses={200: s.SessionAnswer, 429: Problem})
def open_session(body: s.SessionBody):
    """Give the passphrase, or the key that the start command printed."""
    who = {"address": request.remote_addr or "", "agent": str(request.user_agent), "act": act()}
    if body.key and not current_app.config["AT_THIS_MACHINE"]():
        raise Locked
    token = sessions.open_by_key(body.key, **who) if body.key else sessions.let_in(body.passphrase, **who)
    session.clear()
    session[sessions.COOKIE_KEY] = token
    session.permanent = True
    return reply(_session(locked=False))


@bp.get("/reach", responses={200: s.ReachAnswer})
def read_reach():
    """The bench's address for other devices, and whether they can follow it."""
    return reply(s.ReachAnswer(link=_link(), on_network=current_app.config["ON_NETWORK"], may_open=_may_open()))


@bp.post("/open-to-network", responses={202: s.OpenedAnswer, 403: Problem})
def open_to_network():
    """Open the bench to this network, asked at its own machine. The answer comes first; a moment later the bench listens anew, and every link it makes carries an address that phones can reach."""
    if not _may_open():
        raise NotHere("", "Only the bench's own machine can open it to the network.", "Ask there, or start it with ./penny serve --phones.")
    passphrase = phones.let_in_others()
    opening.ask()
    return reply(s.OpenedAnswer(link=f"{opening.opens_at()}/", passphrase=passphrase), 202)


def _may_open() -> bool:
    return bool(opening.opens_at()) and current_app.config["AT_THIS_MACHINE"]()


@bp.get("/reach/qr.svg", responses={200: file_of("image/svg+xml", "the address as a code for the camera")})
def read_reach_qr():
    """The bench's address as a QR code."""
    out = io.BytesIO()
    segno.make(_link(), error="m").save(out, kind="svg", scale=6, border=2)
    return Response(out.getvalue(), mimetype="image/svg+xml")


def _link() -> str:
    return current_app.config["LINK_BASE"]() + "/"


def in_sample() -> bool:
    return request.cookies.get(SAMPLE_COOKIE) == IN_SAMPLE and sample_exists()


@bp.delete("/session", responses={200: s.SessionAnswer})
def close_session():
    """Lock this device again."""
    sessions.end(session.get(sessions.COOKIE_KEY), act().now)
    session.clear()
    return reply(_session(current_app.config["LOCKED"]()))


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


@bp.patch("/units", responses={200: s.UnitsAnswer})
def edit_units(body: s.UnitsPatch):
    """Have figures told in other units from now on, in every sentence and on paper; what is stored stays as it is."""
    return reply(service.edit_units(body, act()))


@bp.patch("/bench", responses={200: s.BenchAnswer})
def edit_bench(header: RevHeader, body: s.BenchPatch):
    """Change the bench's name or what its instruments are good for."""
    return reply(service.edit_bench(body, header.if_match, act(), at_the_bench=current_app.config["AT_THIS_MACHINE"]()))


@bp.get("/script-tokens", responses={200: s.ScriptTokensAnswer})
def read_script_tokens():
    """The tokens that scripts use."""
    return reply(tokens.all_live())


@bp.post("/script-tokens", responses={201: s.ScriptTokenMade})
def make_script_token(body: s.ScriptTokenBody):
    """A token for a script, to read or to write with; it is shown this once."""
    return reply(tokens.make(body, act()), 201)


@bp.delete("/script-tokens/<id>", responses={200: s.ScriptTokensAnswer})
def revoke_script_token(path: IdPath):
    """Take a token back."""
    return reply(tokens.revoke(path.id, act()))
