"""A serving process as a copy of this one, which has read the program in already: it stands at once, and shares what is never written to."""

from __future__ import annotations

import ctypes
import gc
import os
import signal
import subprocess
import sys
import tempfile
import time
import traceback
from collections.abc import Callable, Mapping

from . import mariadb

LOOK_EVERY_S = 0.05
CALLED = "penny-serves"
"""What such a process is called in the list of processes; the kernel keeps fifteen letters."""
PR_SET_NAME, M_ARENA_MAX = 15, -8
FEW_ARENAS = 2
"""Else each of many threads keeps memory of its own: nearly twice as much in all."""


class Forked:
    """To be waited for and ended as a subprocess.Popen is. Made while this process has one thread."""

    def __init__(self, run: Callable[[], None], *, env: Mapping[str, str], keeps: int) -> None:
        """run: what the copy does until it ends. env: on top of this process's own. keeps: the one file descriptor it needs."""
        self.returncode: int | None = None
        sys.stdout.flush()
        sys.stderr.flush()
        gc.freeze()  # what is there now is never looked through again, and so never copied
        parent = os.getpid()
        self.pid = os.fork()
        if self.pid == 0:
            _live(run, env, keeps, parent)

    def poll(self) -> int | None:
        if self.returncode is None:
            pid, status = os.waitpid(self.pid, os.WNOHANG)
            if pid:
                self.returncode = os.waitstatus_to_exitcode(status)
        return self.returncode

    def wait(self, timeout: float | None = None) -> int:
        until = None if timeout is None else time.monotonic() + timeout
        while (code := self.poll()) is None:
            if until is not None and time.monotonic() > until:
                raise subprocess.TimeoutExpired("brasspenny.server", timeout or 0)
            time.sleep(LOOK_EVERY_S)
        return code

    def send_signal(self, number: int) -> None:
        if self.poll() is None:
            os.kill(self.pid, number)

    def kill(self) -> None:
        self.send_signal(signal.SIGKILL)


def _live(run: Callable[[], None], env: Mapping[str, str], keeps: int, parent: int) -> None:
    """The whole life of the copy; never returns."""
    code = 1
    try:
        os.setsid()
        mariadb.die_with_parent()
        for number in (signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, signal.SIG_DFL)
        signal.signal(signal.SIGINT, signal.SIG_IGN)  # a Ctrl+C is the parent's to hear
        if os.getppid() == parent:
            mariadb.PRCTL(PR_SET_NAME, CALLED.encode())
            ctypes.CDLL(None).mallopt(M_ARENA_MAX, FEW_ARENAS)
            os.environ.update(env)
            tempfile.tempdir = None
            _let_go(keeps)
            run()
            code = 0
    except BaseException:
        traceback.print_exc()
    finally:
        sys.stdout.flush()
        sys.stderr.flush()
        os._exit(code)


def _let_go(keeps: int) -> None:
    """Of the lock on the data folder and whatever else the parent holds open."""
    for fd in map(int, os.listdir("/proc/self/fd")):
        if fd > 2 and fd != keeps:
            try:
                os.close(fd)
            except OSError:  # the folder that was listed
                continue
