"""Long reckonings take turns, one at a time in a process. They share one interpreter, so two at once are done no sooner; they only hold their memory at the same time."""

from __future__ import annotations

import ctypes
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

LONG_S = 0.05
_turn = threading.RLock()
_libc = ctypes.CDLL(None)


@contextmanager
def turn() -> Iterator[bool]:
    """Whether another one was waited for: it may have worked out the same. What a long one held is given back to the machine, which the allocator alone puts off."""
    waited = not _turn.acquire(blocking=False)
    if waited:
        _turn.acquire()
    began = time.monotonic()
    try:
        yield waited
    finally:
        if time.monotonic() - began > LONG_S and hasattr(_libc, "malloc_trim"):
            _libc.malloc_trim(0)
        _turn.release()
