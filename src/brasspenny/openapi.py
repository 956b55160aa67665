"""The OpenAPI document as a file, from which the interface's types are made: python -m brasspenny.openapi > web/openapi.json"""

from __future__ import annotations

import json
import sys

from .app import Serving, create_app


def document() -> str:
    app = create_app(Serving(None, b"no secret is needed to describe"))
    return json.dumps(app.api_doc, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    sys.stdout.write(document())
