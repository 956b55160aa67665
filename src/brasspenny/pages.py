"""The built interface: files with hashes in their names may be kept for ever, the page itself never."""

from __future__ import annotations

import os
from pathlib import Path

from flask import Blueprint, Flask, Response, abort, request, send_from_directory
from werkzeug.routing import PathConverter
from werkzeug.utils import safe_join

POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self'; connect-src 'self'; "
    "object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'"
)


class _Room(PathConverter):
    """Every address but the API's: there what is unknown is unknown for every method."""

    regex = "(?!api/)[^/].*?"


def serve(app: Flask, web: Path) -> None:
    """Register the files and the page on a plain blueprint: they are no part of the documented API."""
    bp = Blueprint("pages", __name__)
    app.url_map.converters["room"] = _Room

    @bp.get("/assets/<path:name>")
    def asset(name: str):
        found = _packed(web / "assets", name) or send_from_directory(web / "assets", name)
        found.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return found

    @bp.get("/authority.pem")
    def authority():
        """What a phone has to trust, once: there only where the bench is served over https by a certificate of its own."""
        folder = os.environ.get("PENNY_TLS", "")
        if not folder:
            abort(404)
        return send_from_directory(folder, "authority.pem", mimetype="application/x-x509-ca-cert")

    @bp.get("/t/<token>")
    @bp.get("/p/<token>")
    @bp.get("/s/<token>")
    @bp.get("/h/<token>")
    def phone(token: str):
        """A taster's, a runner's or a helper's own page, which has nothing of the bench in it."""
        return _page(web, "taster.html")

    @bp.get("/")
    @bp.get("/<room:name>")
    def page(name: str = ""):
        """Any other address is a room of the interface."""
        here = safe_join(str(web), name)
        if here is None or "\\" in name:
            abort(404)
        if name and Path(here).is_file():
            found = send_from_directory(web, name)
            found.headers["Cache-Control"] = "no-cache"
            return found
        if "." in name.rsplit("/", 1)[-1]:
            abort(404)
        return _page(web, "index.html")

    app.register_blueprint(bp)

    @app.after_request
    def guard(answer: Response) -> Response:
        answer.headers.setdefault("Content-Security-Policy", POLICY)
        answer.headers.setdefault("X-Content-Type-Options", "nosniff")
        answer.headers.setdefault("Referrer-Policy", "no-referrer")
        if answer.mimetype in ("application/json", "application/problem+json"):
            answer.headers.setdefault("Cache-Control", "no-store")
        return answer


def _page(web: Path, name: str) -> Response:
    answer = send_from_directory(web, name)
    answer.headers["Cache-Control"] = "no-cache"
    return answer


CODINGS = {"br": "br", "gzip": "gz"}
"""What a browser calls them, smallest first, and how their files end."""


def _packed(folder: Path, name: str) -> Response | None:
    """The smallest copy made when the interface was built that the browser takes."""
    kind = {"js": "text/javascript", "css": "text/css"}.get(name.rsplit(".", 1)[-1])
    taken = {part.split(";")[0].strip() for part in request.headers.get("Accept-Encoding", "").split(",")}
    coding = next((c for c, end in CODINGS.items() if c in taken and (folder / f"{name}.{end}").is_file()), None)
    if kind is None or coding is None:
        return None
    answer = send_from_directory(folder, f"{name}.{CODINGS[coding]}", mimetype=kind)
    answer.headers["Content-Encoding"] = coding
    answer.headers["Vary"] = "Accept-Encoding"
    return answer
