"""How a serving process has the start command open the bench to this network."""

from __future__ import annotations

import os
import signal

OPENS_UP, OPENS_AT = "PENNY_OPENS_UP", "PENNY_OPENS_AT"
"""Set by the start command where it can: which process it is, and the address phones would then use."""


def opens_at() -> str:
    """The address phones would use; "" where the bench cannot be opened: it is open already, stands behind another name, or its machine is on no network."""
    return os.environ.get(OPENS_AT, "")


def ask() -> None:
    os.kill(int(os.environ[OPENS_UP]), signal.SIGUSR1)
