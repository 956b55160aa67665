"""The processes that serve one listening socket: started, put back when one falls, ended together."""

from __future__ import annotations

import signal
import socket
import subprocess
import sys
import time
from collections.abc import Mapping
from dataclasses import dataclass, field

from . import mariadb

SHORT_LIFE_S = 3.0
"""A process that ends sooner than this after its start would end again."""
STOP_S = 8


class Fell(Exception):
    """A serving process ends as soon as it is started."""


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
    """env: what they read their settings from."""

    listening: socket.socket
    env: Mapping[str, str]
    count: int
    running: list[tuple[subprocess.Popen, float]] = field(default_factory=list)

    def start(self) -> None:
        while len(self.running) < self.count:
            self.running.append((self._one(), time.monotonic()))

    def _one(self) -> subprocess.Popen:
        command = [sys.executable, "-m", "brasspenny.server", str(self.listening.fileno())]
        return subprocess.Popen(command, env=dict(self.env), pass_fds=[self.listening.fileno()], start_new_session=True, preexec_fn=mariadb.die_with_parent)

    def tend(self) -> None:
        """Put back what fell. Raises Fell for one that never stood."""
        for process, since in list(self.running):
            if process.poll() is not None:
                self.running.remove((process, since))
                if time.monotonic() - since < SHORT_LIFE_S:
                    raise Fell
        self.start()

    def stop(self) -> None:
        for process, _ in self.running:
            process.send_signal(signal.SIGTERM)
        until = time.monotonic() + STOP_S
        for process, _ in self.running:
            try:
                process.wait(timeout=max(0.1, until - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        self.running.clear()
        self.listening.close()
