"""What the interface is made from: the OpenAPI document, of which its types are made, and the lists of the job.

`python -m brasspenny.openapi web` writes web/openapi.json, web/src/api/vocabulary.ts and glossary.ts; `npm run types` does that and the types."""

from __future__ import annotations

import json
import os
import sys
from dataclasses import asdict, is_dataclass
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from .core import vocabulary
from .core.glossary import GLOSSARY
from .http import DESCRIBES


def document() -> str:
    """Worked out by the rooms as they are imported, so in a process that has not imported them yet."""
    if "brasspenny.app" in sys.modules:
        raise RuntimeError("The rooms are imported already. Run python -m brasspenny.openapi by itself.")
    os.environ[DESCRIBES] = "1"
    from .app import Serving, create_app, described

    app = create_app(Serving(None, b"no secret is needed to describe"))
    if twice := same_names(BaseModel):
        raise RuntimeError(f"Two shapes of one name would become one in the document: {', '.join(twice)}. Rename one.")
    return json.dumps(described(app), indent=1, ensure_ascii=False) + "\n"


def same_names(base: type) -> list[str]:
    """Shapes of ours that share their name with another."""
    found: dict[str, set[str]] = {}
    waiting = [base]
    while waiting:
        for shape in waiting.pop().__subclasses__():
            waiting.append(shape)
            if shape.__module__.startswith(__package__):
                found.setdefault(shape.__name__, set()).add(shape.__module__)
    return sorted(name for name, modules in found.items() if len(modules) > 1)


def lists() -> str:
    """The vocabulary as TypeScript constants, whose types are exactly their values."""
    head = "// Written by `python -m brasspenny.openapi` from core/vocabulary.py; change it there.\n"
    return head + "".join(f"export const {name} = {_typescript(getattr(vocabulary, name))} as const;\n" for name in vocabulary.FOR_INTERFACE)


def words() -> str:
    """The glossary as a TypeScript constant, apart from the lists: it is fetched when somebody asks what a term means."""
    head = "// Written by `python -m brasspenny.openapi` from core/glossary.py; change it there.\n"
    return f"{head}export const GLOSSARY = {_typescript(GLOSSARY)} as const;\n"


def _typescript(value: Any) -> str:
    plain = [asdict(v) for v in value] if isinstance(value, tuple) else asdict(value) if is_dataclass(value) else value
    return json.dumps(plain, indent=1, ensure_ascii=False)


if __name__ == "__main__":
    web = Path(sys.argv[1])
    (web / "openapi.json").write_text(document())
    (web / "src/api/vocabulary.ts").write_text(lists())
    (web / "src/api/glossary.ts").write_text(words())
