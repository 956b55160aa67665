"""The door: what is turned away before any room sees it, and how refusals are answered (RFC 9457)."""

from __future__ import annotations

import hashlib
import json
import logging
import random
import re
import secrets
import time
from datetime import timedelta
from functools import cache
from pathlib import Path

import peewee
from flask import Flask, Response, g, request
from flask.typing import ResponseReturnValue
from playhouse.pool import MaxConnectionsExceeded
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from .core import figures
from .core.errors import PennyError
from .damaged_rows import service as damaged_rows
from .damaged_rows.faults import Looking
from .http import API, IN_SAMPLE, SAMPLE_COOKIE, FieldProblem, act, problem
from .refusals import Refusal, Stale
from .store import connection
from .store.connection import database
from .store.models import units_of_bench
from .store.writing import FULL

log = logging.getLogger("brasspenny")

HTTP_WORDS: dict[int, tuple[str, str]] = {
    400: ("This cannot be read", "Send a JSON object."),
    404: ("There is nothing here", "Check the address."),
    405: ("This cannot be done here", "See the Allow header for what can."),
    413: ("This is too large", "Send less of it at once."),
    415: ("This is not JSON", "Send Content-Type: application/json."),
}

DUPLICATE, GONE = 1062, (1451, 1452)
SAME_MOMENT = ("", "Somebody did the same at the same moment.", "Nothing was lost. Look at what is there now, and try again if it is still needed.")
TAKEN: dict[str, tuple[str, str, str]] = {
    "kit_item_live_name": ("name", "There is already one of that name.", "Give this one another name."),
    "sheet_person": ("person_id", "That person has a sheet in this flight.", "Give them a new link instead."),
    "declaration_trial_field": ("field", "That difference is declared already.", "Take the declaration back first."),
}
"""What a unique key stands for, in words; any other is two people doing one thing at once."""

DEADLOCK, WAITED = 1213, 1205
GIVEN_TWICE = (
    "number",
    "setup_live_letter",
    "run_label",
    "flight_number",
    "setup_revision_number",
    "recipe_version_number",
    "change_undoes",
    "person_live_name",
)
"""Keys of what is numbered, seated or done once: against one of them the whole use case is tried again, and then sees what is there. The
first is the trials', which MariaDB calls by its column."""
KEY_NAME = re.compile(r"for key '(?:[^']*\.)?([^'.]+)'")
MOST_TRIES = 5
NO_NAME = 1267
"""An id compared with letters that no id is made of."""
AWAY = (DEADLOCK, 0, 1040, 1053, 2002, 2003, 2006, 2013, 2055)
NOT_NOW: dict[int, tuple[str, str]] = (
    dict.fromkeys(AWAY, ("The database does not answer", "What you wrote is still here and not saved yet. Try again in a moment."))
    | dict.fromkeys(FULL, ("The disk is full", "Nothing was saved. Free some space on the machine that runs this bench, then try again."))
    | {WAITED: ("Another change is taking long", "Nothing was saved. Try again in a moment.")}
)
"""MariaDB's and its client's numbers for what passes, in words."""


def refuse_foreign() -> Response | None:
    """Writes from another site's page are refused: a browser names its origin, and it must be ours (CSRF)."""
    origin = request.headers.get("Origin")
    if request.method in ("GET", "HEAD", "OPTIONS") or origin is None:
        return None
    if origin.split("://", 1)[-1] != request.host:
        return problem(403, "This came from another site", "Open the bench itself and do it there.")
    return None


CALCULATORS = f"{API}/calc/"
LARGEST: dict[str, int] = {
    "/session": 4_000,
    "/scale-log": 8_500_000,
    "/calc/pour-segments": 1_000_000,
    "/photos": 4_300_000,
    "/imports": 8_900_000,
    "/bench-import": 310_000_000,
    "/imports/look": 8_900_000,
    "/imports/scores": 8_900_000,
    "/imports/scores/look": 8_900_000,
    "": 300_000,
}
"""Bytes of a body by the end of its address: a passphrase is short, a scale's log of an hour is not. No less than the document lets it be."""


def bound_body() -> None:
    """No more is read than this kind of thing can be."""
    request.max_content_length = next(most for end, most in LARGEST.items() if request.path.endswith(end))


WIRE = re.compile(r"[A-Za-z0-9_-]{1,64}", re.ASCII)
"""What ids, tokens and names of fields in an address are made of."""


def refuse_what_is_no_id() -> Response | None:
    """An address that names something by what cannot be a name leads nowhere."""
    if request.path.startswith("/api/") and any(isinstance(part, str) and not WIRE.fullmatch(part) for part in (request.view_args or {}).values()):
        return problem(404, *HTTP_WORDS[404])
    return None


def refuse_what_is_not_json() -> Response | None:
    """A body must be JSON and say so; which also keeps plain HTML forms of other sites out."""
    if request.method not in ("POST", "PUT", "PATCH") or not request.path.startswith("/api/"):
        return None
    if not request.content_length and not request.headers.get("Transfer-Encoding"):
        return None
    if request.path.endswith("/bench-import") and request.mimetype == "application/zip":
        return None  # no plain HTML form sends this either
    if not request.is_json:
        return problem(415, *HTTP_WORDS[415])
    try:
        request.get_json()
    except RecursionError:
        return problem(400, "This cannot be read", "The JSON is nested too deep.")
    except HTTPException as error:
        if error.code == 413:
            raise
        return problem(400, "This is not readable JSON", "Check its quotes, commas and brackets.")
    return None


OF_EVERY_ADDRESS = frozenset({"bench"})
"""What any address may carry: whether the sample bench is meant."""


def refuse_unknown_queries(app: Flask, document: Path) -> None:
    """document: what each address takes, as OpenAPI tells it (a test holds it current). A filter that is not there is refused like a field that is not there: `?cofee=Peru` would answer with every coffee."""

    @cache
    def asked() -> dict[tuple[str, str], frozenset[str]]:
        return {
            (path, method): frozenset(p["name"] for p in operation.get("parameters", ()) if p["in"] == "query")
            for path, item in json.loads(document.read_text())["paths"].items()
            for method, operation in item.items()
        }

    @app.before_request
    def _refuse() -> Response | None:
        if request.url_rule is None or not request.args or not request.path.startswith(API):
            return None
        known = asked().get((re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", request.url_rule.rule), request.method.lower()))
        unknown = [name for name in request.args if known is not None and name not in known | OF_EVERY_ADDRESS]
        if not unknown:
            return None
        remedy = f"Use {', '.join(sorted(known))}." if known else "Leave it out."
        said = [FieldProblem(field=name[:60], reason="There is no filter of this name.", remedy=remedy) for name in unknown[:20]]
        return problem(422, "Some of this cannot be right", f"{said[0].reason} {remedy}", said)


DEVICE_COOKIE, DEVICE_DAYS, LEAST_MARK = "penny_device", 400, 20


def know_device(app: Flask) -> None:
    """Every device keeps a mark of its own, given with the first page or answer; logging in or out does not change it."""

    @app.before_request
    def _know() -> None:
        mark = request.cookies.get(DEVICE_COOKIE, "")
        g.given_mark = None if LEAST_MARK <= len(mark) <= 64 else secrets.token_urlsafe(24)
        g.device = hashlib.sha256((g.given_mark or mark).encode()).hexdigest()

    @app.after_request
    def _give(answer: Response) -> Response:
        shows_token = "Authorization" in request.headers  # a script keeps no cookies
        if g.get("given_mark") and not shows_token and not request.path.startswith("/assets/"):
            days = timedelta(days=DEVICE_DAYS)
            answer.set_cookie(DEVICE_COOKIE, g.given_mark, max_age=days, httponly=True, samesite="Strict", secure=request.is_secure)
        return answer


def keep_connection(app: Flask) -> None:
    """One database connection per request, opened on first use and closed whatever happens."""

    @app.before_request
    def _open() -> None:
        if request.path.startswith("/api/") and not request.path.endswith(("/health", "/openapi.json")):
            database.connect(reuse_if_open=True)

    @app.teardown_request
    def _close(_: BaseException | None) -> None:
        if not database.is_closed():
            database.close()


def choose_bench(app: Flask) -> None:
    """A device that looks round the sample bench works there; who may come in was asked at the bench's own door before."""

    @app.before_request
    def _choose() -> None:
        wants = request.cookies.get(SAMPLE_COOKIE) == IN_SAMPLE or request.args.get("bench") == IN_SAMPLE
        apart = not request.path.startswith("/api/") or request.path.endswith(("/health", "/openapi.json", "/session", "/sample-bench", "/units"))
        g.in_sample = wants and not apart and connection.enter_sample()
        figures.tell_in(cache(units_of_bench))

    @app.after_request
    def _remember(answer: Response) -> Response:
        """A link of the sample bench brings the device there."""
        if request.args.get("bench") == IN_SAMPLE and not request.path.startswith("/api/"):
            answer.set_cookie(SAMPLE_COOKIE, IN_SAMPLE, samesite="Lax", secure=request.is_secure)
        return answer


def try_again(app: Flask) -> None:
    """What two hands undid for one another is done again: a use case is one transaction, so a lost one has left nothing behind."""
    handle = app.dispatch_request

    def again() -> ResponseReturnValue:
        for tried in range(1, MOST_TRIES + 1):
            try:
                return handle()
            except (peewee.OperationalError, peewee.IntegrityError) as error:
                if tried == MOST_TRIES or not _lost_to_another(error):
                    raise
                log.info("tried again, %s of %s: %s", tried, MOST_TRIES, error)
                time.sleep(random.uniform(0.01, 0.05) * tried)
        raise AssertionError

    app.dispatch_request = again


NOT_OF_DAMAGE = (HTTPException, Refusal, peewee.OperationalError, peewee.InterfaceError, peewee.IntegrityError, MaxConnectionsExceeded)
"""What a request may end in on a bench whose rows can all be read."""


def set_damage_aside(app: Flask) -> None:
    """Whatever fails without a cause of its own may have met a row that cannot be read: such rows are set aside, and it is done again. A read that the core refuses is such a failure,
    too, where nothing was asked with it: what the core was given then came from the tables."""
    handle = app.dispatch_request

    def without_damage() -> ResponseReturnValue:
        try:
            return handle()
        except NOT_OF_DAMAGE:
            raise
        except Exception as error:
            by_itself = request.method == "GET" and not request.args
            expected = NOT_OF_DAMAGE if by_itself else (*NOT_OF_DAMAGE, PennyError)
            if isinstance(error, expected) or not request.path.startswith(API):
                raise
            try:
                return damaged_rows.answer_without(handle, error, expected, act())
            except Looking as looking:
                log.warning("%s: looking for damaged rows, %s tables", error, looking)
                return problem(503, "Something on this bench cannot be read", f"Looking for it: {looking} tables so far. Ask again in a moment.")

    app.dispatch_request = without_damage


def _lost_to_another(error: peewee.PeeweeException) -> bool:
    number, text = (*error.args, "", "")[:2]
    key = KEY_NAME.search(str(text))
    return number == DEADLOCK or (number == DUPLICATE and key is not None and key[1] in GIVEN_TWICE)


def answer_refusals(app: Flask) -> None:
    """The one table from refusals to status codes."""

    @app.errorhandler(PennyError)
    def _core(error: PennyError):
        return problem(422, "Some of this cannot be right", str(error), [FieldProblem(field=error.field, reason=error.reason, remedy=error.remedy)])

    @app.errorhandler(Stale)
    def _stale(error: Stale):
        return problem(409, error.reason, error.remedy, current=error.current, yours=error.yours)

    @app.errorhandler(Refusal)
    def _refusal(error: Refusal):
        answer = problem(error.status, error.reason, error.remedy, [FieldProblem(field=error.field, reason=error.reason, remedy=error.remedy)])
        if error.status == 401:
            answer.headers["WWW-Authenticate"] = 'Bearer realm="bench"'
        return answer

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException):
        if error.response is not None:
            return error.response
        title, detail = HTTP_WORDS.get(error.code or 500, (error.name, error.description or ""))
        answer = problem(error.code or 500, title, detail)
        for name, value in error.get_headers():
            if name == "Allow":
                answer.headers[name] = value
        return answer

    @app.errorhandler(peewee.OperationalError)
    @app.errorhandler(peewee.InterfaceError)
    def _database_away(error: peewee.PeeweeException):
        log.warning("database: %s", error)
        number = error.args[0] if error.args and isinstance(error.args[0], int) else 0
        if number == NO_NAME:
            return problem(422, "This names nothing that is here", "Choose it from its list.")
        if number not in NOT_NOW:
            raise error
        return problem(503, *NOT_NOW[number])

    @app.errorhandler(MaxConnectionsExceeded)
    def _many_at_once(error: MaxConnectionsExceeded):
        log.warning("database: %s", error)
        return problem(503, "Too many things at once", "Nothing was saved. Try again in a moment.")

    @app.errorhandler(peewee.IntegrityError)
    def _against_a_key(error: peewee.IntegrityError):
        log.info("against a key: %s", error)
        number, text = (*error.args, "", "")[:2]
        if number == DUPLICATE:
            field, reason, remedy = next((said for key, said in TAKEN.items() if key in str(text)), SAME_MOMENT)
            return problem(409, reason, remedy, [FieldProblem(field=field, reason=reason, remedy=remedy)])
        if number in GONE:
            return problem(409, "Something this refers to is not there any more", "Look at what is there now, and choose again.")
        raise error

    @app.errorhandler(OverflowError)
    @app.errorhandler(ZeroDivisionError)
    @app.errorhandler(ValidationError)
    def _not_finite(error: Exception):
        if not request.path.startswith(CALCULATORS):
            raise error
        return problem(422, "Some of this cannot be right", "These values have no finite answer. Give values of an ordinary size.", [])
