"""The processes that serve one listening socket: started, put back when one falls, ended together."""

from __future__ import annotations

import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from . import mariadb, prefork
from .prefork import Forked

FEW_ARENAS = {"MALLOC_ARENA_MAX": str(prefork.FEW_ARENAS)}
MOST_FALLS, WITHIN_S = 6, 60.0
"""So many falls within so many seconds, and putting back mends nothing."""
STOP_S = 8


class Fell(Exception):
    """The serving processes do not stand."""


def listen(host: str, port: int) -> socket.socket:
    """A socket at this address which several processes accept from. Raises OSError."""
    family, _, _, _, address = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE)[0]
    listening = socket.socket(family)
    try:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listening.bind(address)
        listening.listen(512)
        listening.setblocking(False)
        listening.set_inheritable(True)
    except BaseException:
        listening.close()
        raise
    return listening


@dataclass
class Processes:
    """env: what they read their settings from. serve: what a copy of this process does with the socket, where it has read the
    program in and has one thread; None: each is a program of its own. stood: they have answered; before that a fall is no accident. falls: when, by the monotonic clock."""

    listening: socket.socket
    env: Mapping[str, str]
    count: int
    serve: Callable[[int], None] | None = None
    stood: bool = False
    running: list[subprocess.Popen | Forked] = field(default_factory=list)
    falls: list[float] = field(default_factory=list)

    def start(self) -> None:
        while len(self.running) < self.count:
            self.running.append(self._one())

    def _one(self) -> subprocess.Popen | Forked:
        if serve := self.serve:
            fd = self.listening.fileno()
            return Forked(lambda: serve(fd), env=self.env, keeps=fd)
        command = [sys.executable, "-m", "brasspenny.server", str(self.listening.fileno())]
        return subprocess.Popen(
            command, env=FEW_ARENAS | dict(self.env), pass_fds=[self.listening.fileno()], start_new_session=True, preexec_fn=mariadb.die_with_parent
        )

    def tend(self) -> None:
        """Put back what fell. Raises Fell where that cannot help."""
        now = time.monotonic()
        fallen = [process for process in self.running if process.poll() is not None]
        self.running = [process for process in self.running if process not in fallen]
        self.falls = [at for at in self.falls if at > now - WITHIN_S] + [now] * len(fallen)
        if fallen and (not self.stood or len(self.falls) >= MOST_FALLS):
            raise Fell
        self.start()

    def stop(self) -> None:
        for process in self.running:
            process.send_signal(signal.SIGTERM)
        until = time.monotonic() + STOP_S
        for process in self.running:
            try:
                process.wait(timeout=max(0.1, until - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        self.running.clear()
        self.listening.close()
