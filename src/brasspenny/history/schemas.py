"""HTTP shapes of the history."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from ..http import Answer


class ChangeAnswer(Answer):
    """before and after hold only the fields that changed, in the API's own names. elsewhere: done on another bench, whose file it came in by."""

    id: str
    entity: str
    entity_id: str
    action: str
    before: dict[str, Any] | None
    after: dict[str, Any] | None
    who: str | None
    at: datetime
    undoes: str | None
    can_undo: bool
    elsewhere: bool


class HistoryAnswer(Answer):
    changes: list[ChangeAnswer]
