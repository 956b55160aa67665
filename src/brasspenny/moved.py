"""Redirect addresses that were renamed, so that bookmarks, printed codes and scripts still arrive."""

from __future__ import annotations

import re

from flask import redirect, request
from werkzeug.wrappers import Response

MOVED = tuple(
    (re.compile(f"^{old}$"), new)
    for old, new in (
        (r"/api/v1/trials/([^/]+)/rail", r"/api/v1/trials/\1/progress"),
        (r"/api/v1/chart-room", "/api/v1/charts"),
        (r"/api/v1/find", "/api/v1/search"),
        (r"/api/v1/sample", "/api/v1/sample-bench"),
        (r"/chart-room", "/charts"),
        (r"/along/([^/]+)", r"/live-brews/\1"),
    )
)


def redirect_moved() -> Response | None:
    """Answer a renamed address with its new one, query and all; 308 keeps method and body."""
    for old, new in MOVED:
        if found := old.match(request.path):
            query = request.query_string.decode("latin-1")
            return redirect(found.expand(new) + (f"?{query}" if query else ""), code=308)
    return None
