"""The application, on one screen: settings, database, rooms, refusals, pages."""

from __future__ import annotations

import hashlib
import os
import random
from collections.abc import Callable
from copy import deepcopy
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from flask import Flask, Response, g, request, send_file
from flask_compress import Compress
from flask_openapi import APIBlueprint, Info, OpenAPI

from . import __version__, access, config, moved, pages, request_hooks, warm_up
from .act import Act
from .bench import sessions
from .bench.routes import bp as bench
from .bench_files.routes import bp as bench_files
from .brewing.routes import bp as brewing
from .calculators.routes import bp as calculators
from .cards.routes import bp as cards
from .charts.routes import bp as charts
from .config import PROJECT
from .damaged_rows.routes import bp as damaged_rows
from .grinding.routes import bp as grinding
from .history.routes import bp as history
from .http import API, Problem, utc_now, validation_problem
from .imports.routes import bp as imports
from .kit.routes import bp as kit
from .live_brews.routes import bp as live_brews
from .measuring.routes import bp as measuring
from .palate.routes import bp as palate
from .people.routes import bp as people
from .photos.routes import bp as photos
from .planning.routes import bp as planning
from .progress.routes import bp as progress
from .recipes.routes import bp as recipes
from .reports.routes import bp as reports
from .sample_bench.routes import bp as sample_bench
from .search.routes import bp as search
from .store import connection, secret
from .tasting.routes import bp as tasting
from .trials.routes import bp as trials
from .verdicts import lists
from .verdicts.routes import bp as verdicts

ROOMS = (
    bench,
    people,
    kit,
    grinding,
    recipes,
    trials,
    brewing,
    live_brews,
    measuring,
    charts,
    palate,
    imports,
    bench_files,
    damaged_rows,
    planning,
    tasting,
    verdicts,
    progress,
    reports,
    cards,
    history,
    calculators,
    photos,
    search,
    sample_bench,
)


@dataclass(frozen=True)
class Serving:
    """How this process serves. database_url None leaves the store unbound: enough to describe the API. clock and rng are replaced in tests; link_base '' means the address asked for;
    trusted_hosts are the only names this bench answers to (none: any), which keeps other sites' names off loopback. on_network: other
    devices can come to it. trusted_proxies: addresses whose word about who asked is taken."""

    database_url: str | None
    secret: bytes
    link_base: str = ""
    on_network: bool = False
    trusted_proxies: tuple[config.Network, ...] = ()
    trusted_hosts: tuple[str, ...] = ()
    web: Path = PROJECT / "web" / "dist"
    clock: Callable[[], datetime] = utc_now
    rng: random.Random = random.SystemRandom()


def create_app(serving: Serving) -> Flask:
    app = OpenAPI(
        __name__,
        info=Info(title="Brass Penny", version=__version__),
        doc_ui=False,
        static_folder=None,
        validation_error_model=Problem,
        validation_error_callback=validation_problem,
    )
    app.openapi_version = "3.1.0"
    app.config.update(
        CLOCK=serving.clock,
        RNG=serving.rng,
        TRUSTED_HOSTS=list(serving.trusted_hosts) or None,
        SECRET=serving.secret,
        SECRET_KEY=serving.secret,
        LINK_BASE=lambda: serving.link_base or request.url_root.rstrip("/"),
        ON_NETWORK=serving.on_network,
        LOCKED=access.is_locked,
        AT_THIS_MACHINE=access.at_this_machine,
        MAX_CONTENT_LENGTH=max(request_hooks.LARGEST.values()),
        SESSION_COOKIE_NAME=f"penny_{hashlib.sha256(b'cookie of a bench:' + serving.secret).hexdigest()[:10]}",  # a browser keeps one for each bench of a machine
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Strict",
        PERMANENT_SESSION_LIFETIME=sessions.LASTS,
        COMPRESS_MIMETYPES=["application/json", "image/svg+xml"],
        COMPRESS_ALGORITHM=["br", "gzip"],
    )
    if serving.database_url:
        connection.bind(serving.database_url)
    app.before_request(request_hooks.refuse_foreign)
    app.before_request(moved.redirect_moved)
    app.before_request(request_hooks.refuse_what_is_no_id)
    app.before_request(request_hooks.bound_body)
    app.before_request(request_hooks.refuse_what_is_not_json)
    request_hooks.know_device(app)
    request_hooks.keep_connection(app)
    app.before_request(access.refuse_locked)
    request_hooks.refuse_unknown_queries(app, DOCUMENT)
    request_hooks.choose_bench(app)
    app.before_request(access.note_on_sample)
    app.wsgi_app = access.Asker(app.wsgi_app, serving.trusted_proxies)
    for room in ROOMS:
        _register(app, room)
    app.add_url_rule(f"{API}/openapi.json", view_func=lambda: send_file(DOCUMENT, mimetype="application/json"), endpoint="openapi")
    request_hooks.try_again(app)
    request_hooks.set_damage_aside(app)
    request_hooks.answer_refusals(app)
    pages.serve(app, serving.web)
    app.after_request(_settle)
    Compress(app)
    return app


REFUSED = {
    "description": "refused, with each field's reason and remedy",
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
}


DOCUMENT = PROJECT / "web" / "openapi.json"
"""As `python -m brasspenny.openapi` wrote it last; a test holds it current."""


def described(app: OpenAPI) -> dict[str, Any]:
    """The OpenAPI document as the bench really answers: every refusal is a problem, and a database that is away is one, too. Of an app made where http.DESCRIBES is set."""
    doc = deepcopy(app.api_doc)
    for item in doc["paths"].values():
        for operation in item.values():
            operation["responses"] = {code: said for code, said in operation["responses"].items() if code not in ("422", "429")} | {
                "4XX": REFUSED,
                "503": REFUSED,
            }
    return doc


def _settle(answer: Response) -> Response:
    """After what may change a verdict is written: judge it, looked at or not, so that a correction leaves its verdict behind. What was
    asked for is done by then: judging that fails is told to the log, never to whoever wrote, and is tried again at the next look."""
    done = g.get("act")
    if done is not None and answer.status_code < 300:
        for trial_id in lists.settles(done.touched):
            try:
                lists.settle(trial_id, done)
            except Exception:
                request_hooks.log.exception("judging trial %s after a write", trial_id)
    return answer


def _register(app: OpenAPI, room: APIBlueprint) -> None:
    """Two rooms may serve one address by different methods; the document must keep both."""
    before = dict(app.paths)
    app.register_api(room)
    for path, item in before.items():  # none where nothing is described
        app.paths[path] = app.paths[path].model_copy(update={m: op for m, op in item if op is not None})


def from_environment() -> Flask:
    """What each serving process calls; the command line has set these."""
    connection.bind(os.environ["PENNY_DATABASE_URL"])
    app = create_app(
        Serving(
            database_url=os.environ["PENNY_DATABASE_URL"],
            secret=secret.of_bench(),
            link_base=os.environ.get("PENNY_LINK_BASE", ""),
            on_network=os.environ.get("PENNY_ON_NETWORK") == "1",
            trusted_hosts=tuple(os.environ.get("PENNY_TRUSTED_HOSTS", "").split()),
            trusted_proxies=config.trusted_proxies(),
        )
    )
    warm_up.before_serving(lambda: Act(None, utc_now(), random.SystemRandom()))
    return app
