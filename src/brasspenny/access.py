"""Who may come in: whoever has a session, which is a row that can be seen and ended, and ends by itself.

A browser at the bench's own machine gets one by the key in the address that the start command prints; everybody else by the passphrase. That a
request comes over loopback lets nobody in: what a proxy passes on comes over loopback, too, and need not say that there is one.
"""

from __future__ import annotations

import ipaddress
from collections.abc import Callable, Iterable
from typing import Any

from flask import g, request, session

from . import config
from .bench import sessions, tokens
from .http import API, act, moment, note_bench_device, note_person
from .refusals import Locked

OPEN_TO_ALL, BY_LINK = (f"{API}/health", f"{API}/session"), (f"{API}/taste/", f"{API}/pour/", f"{API}/shown/", f"{API}/palate-sheet/", f"{API}/palate-pours/")
"""A sign of life, the door itself, and what a link of its own opens."""
FORWARDING = ("HTTP_X_FORWARDED_FOR", "HTTP_X_FORWARDED_HOST", "HTTP_X_REAL_IP", "HTTP_FORWARDED", "HTTP_VIA")
LOOPBACK_NAMES = ("localhost", "127.0.0.1", "::1", "[::1]")
BETWEEN = "penny.between"


class Asker:
    """Who really asks, before anything looks: the word of a trusted proxy is taken, of any other it is kept in mind that there is one."""

    def __init__(self, app: Callable, trusted: Iterable[config.Network]) -> None:
        self.app, self.trusted = app, tuple(trusted)

    def __call__(self, environ: dict[str, Any], start_response: Callable):
        if config.is_in(environ.get("REMOTE_ADDR", ""), self.trusted):
            environ["REMOTE_ADDR"] = _last(environ, "HTTP_X_FORWARDED_FOR") or environ["REMOTE_ADDR"]
            environ["HTTP_HOST"] = _last(environ, "HTTP_X_FORWARDED_HOST") or environ.get("HTTP_HOST", "")
            environ["wsgi.url_scheme"] = _last(environ, "HTTP_X_FORWARDED_PROTO") or environ["wsgi.url_scheme"]
            environ[BETWEEN] = True
        else:
            environ[BETWEEN] = any(environ.get(name) for name in FORWARDING)
        return self.app(environ, start_response)


def _last(environ: dict[str, Any], name: str) -> str:
    """What the nearest proxy said: the one we trust."""
    return environ.get(name, "").rpartition(",")[2].strip()


def at_this_machine() -> bool:
    """Whether this request was made at the machine itself, by its own name, as far as it says so: never enough to be let in."""
    name = request.host.rsplit(":", 1)[0] if not request.host.endswith("]") else request.host
    return not request.environ.get(BETWEEN) and name in LOOPBACK_NAMES and _is_loopback(request.remote_addr or "")


def _is_loopback(address: str) -> bool:
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return False
    return (getattr(found, "ipv4_mapped", None) or found).is_loopback


def is_locked() -> bool:
    """Whether this device must be let in first."""
    return not sessions.is_let_in(session.get(sessions.COOKIE_KEY), moment())


def refuse_locked() -> None:
    """Every address of the bench but those that are open to all; a device that gets in is remembered as the bench's."""
    if not request.path.startswith("/api/"):
        return
    note_person()
    if request.path in OPEN_TO_ALL or request.path.startswith(BY_LINK):
        return
    if (token := _shown_token()) is not None:
        tokens.admit(token, request.method, request.path, act())
        return
    if is_locked():
        raise Locked
    note_bench_device()


def _shown_token() -> str | None:
    """Of a script: it is let in by nothing else then, not even at this machine."""
    scheme, _, token = request.headers.get("Authorization", "").partition(" ")
    return token.strip() if scheme.lower() == "bearer" else None


def note_on_sample() -> None:
    """What a device is counts on the sample bench as on the bench's own: it is written down there, too."""
    if g.get("in_sample"):
        note_person()
        if not request.path.startswith(BY_LINK):
            note_bench_device()
