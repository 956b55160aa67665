"""Results that take a moment to work out, kept by a hash of all they rest on and of the core's version."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from typing import Any

from ..act import Act
from ..core import CORE_VERSION
from ..store.models import WorkedOut


def fingerprint(rests_on: Any) -> str:
    return hashlib.sha256(json.dumps([CORE_VERSION, rests_on], sort_keys=True, default=str).encode()).hexdigest()


def worked_out(trial_id: str, kind: str, rests_on: Any, work: Callable[[], dict], act: Act) -> dict:
    """The stored result, or `work()` stored in its place. Two processes may work at once; both come to the same."""
    wanted = fingerprint(rests_on)
    stored = WorkedOut.get_or_none((WorkedOut.trial == trial_id) & (WorkedOut.kind == kind))
    if stored is not None and stored.data_hash == wanted:
        return stored.payload
    payload = work()
    WorkedOut.replace(trial=trial_id, kind=kind, data_hash=wanted, payload=payload, at=act.now).execute()
    return payload
