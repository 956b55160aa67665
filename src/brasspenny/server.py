"""One process that serves the bench: waitress, told when to lose patience.

Requests are gathered beside the threads that answer them, so a phone that drips holds a socket and nothing else. Beyond what waitress
does itself: a request that is not there after ARRIVE_S is cut off however busily it drips, and one address holds so many sockets.
"""

from __future__ import annotations

import ipaddress
import json
import logging
import os
import signal
import socket
import ssl
import sys
import threading
import time
from collections.abc import Callable, Iterable
from copy import copy

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.task import ErrorTask, ThreadedTaskDispatcher

from . import config
from .app import from_environment

ARRIVE_S, IDLE_S, LOOK_EVERY_S = 20, 30, 2
LARGEST_REQUEST, LARGEST_HEAD = 9_000_000, 32_768
LARGEST_BENCH, BENCH_PATH = 310_000_000, "/api/v1/bench-import"
"""A whole bench with its pictures comes in at the bench's own machine only: a body is stored before anybody is asked who they are."""
MOST_SOCKETS, MOST_OF_ADDRESS = 600, 48
STOP_S = 2
LOOPBACK = (ipaddress.ip_network("127.0.0.0/8"), ipaddress.ip_network("::1"))
WHAT_TO_DO = {
    413: "Send less of it at once.",
    431: "Shorten the address, or clear this bench's cookies.",
    400: "Reload the page; if it stays so, look what stands between.",
}
"""What the server refuses by itself is mended like this."""


class _Refusal(ErrorTask):
    """What the server itself refuses (too long, unreadable), as every other refusal of the bench is told."""

    def execute(self) -> None:
        error = self.request.error
        body = json.dumps(
            {
                "type": "about:blank",
                "title": error.reason,
                "status": error.code,
                "detail": WHAT_TO_DO.get(error.code, f"{error.body}. Try again."),
                "errors": [],
            }
        ).encode()
        self.status = f"{error.code} {error.reason}"
        self.response_headers.append(("Content-Type", "application/problem+json"))
        self.set_close_on_finish()
        self.content_length = len(body)
        self.write(body)


class _Parser(HTTPRequestParser):
    """near: whether the request comes over loopback."""

    near = False

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        if self.near and self.path == BENCH_PATH:
            self.adj = copy(self.adj)
            self.adj.max_request_body_size = LARGEST_BENCH


class _NearParser(_Parser):
    near = True


class _Channel(HTTPChannel):
    """since: when the request now arriving began to."""

    error_task_class = _Refusal
    since: float | None = None

    def __init__(self, server, sock, addr, adj, map=None) -> None:
        self.parser_class = _NearParser if config.is_in(addr[0], LOOPBACK) else _Parser
        super().__init__(server, sock, addr, adj, map)

    def received(self, data: bytes):
        taken = super().received(data)
        self.since = None if self.request is None else self.since or time.time()
        return taken


class _TlsChannel(_Channel):
    """The same over TLS. What is read and what is sent go through one lock: two threads at one session at once is one too many."""

    def __init__(self, *args, **kwargs) -> None:
        self._tls = threading.Lock()
        super().__init__(*args, **kwargs)

    def handle_read(self) -> None:
        try:
            with self._tls:
                data = self.socket.recv(self.adj.recv_bytes)
                while waits := self.socket.pending():  # already here, so no poll will tell of it
                    data += self.socket.recv(waits)
        except (ssl.SSLWantReadError, ssl.SSLWantWriteError):
            return  # a part of a record, or of the greeting
        except OSError:
            data = b""
        if data:
            self.last_activity = time.time()
            self.received(data)
        else:
            self.handle_close()

    def send(self, data: bytes, do_close: bool = True) -> int:
        try:
            with self._tls:
                return self.socket.send(data)
        except (ssl.SSLWantReadError, ssl.SSLWantWriteError):
            return 0
        except OSError:
            if do_close:
                self.handle_close()
            return 0


class _Server(TcpWSGIServer):
    channel_class = _Channel
    exempt: tuple[config.Network, ...] = ()
    ends = False
    tls: ssl.SSLContext | None = None

    def accept(self):
        """Over TLS the greeting is left to the channel: whoever is slow at it holds nobody up."""
        taken = super().accept()
        if taken is None or self.tls is None:
            return taken
        conn, addr = taken
        conn.setblocking(False)
        return self.tls.wrap_socket(conn, server_side=True, do_handshake_on_connect=False), addr

    def run(self) -> None:
        """Until `end`. A signal only leaves word: an exception thrown into whatever runs just then may be lost there."""
        while not self.ends:
            self.asyncore.loop(timeout=0.5, map=self._map, use_poll=True, count=1)
        self.socket.close()  # the port is free from here on, whatever still is on its way out
        self.task_dispatcher.shutdown()

    def end(self) -> None:
        self.ends = True

    def maintenance(self, now: float) -> None:
        super().maintenance(now)
        for channel in list(self.active_channels.values()):
            if channel.since is not None and channel.since < now - ARRIVE_S:
                channel.will_close = True

    def set_socket_options(self, conn: socket.socket) -> None:
        """Called for each socket that comes in; to raise OSError is how it is turned away."""
        super().set_socket_options(conn)
        address = conn.getpeername()[0]
        of_it = sum(channel.addr[0] == address for channel in list(self.active_channels.values()))
        if of_it >= MOST_OF_ADDRESS and not config.is_in(address, self.exempt):
            conn.close()
            raise OSError("too many sockets of one address")


class _Threads(ThreadedTaskDispatcher):
    def shutdown(self, cancel_pending: bool = True, timeout: float = STOP_S) -> bool:
        return super().shutdown(cancel_pending, timeout)


def made(app: Callable, listening: socket.socket, *, threads: int, exempt: Iterable[config.Network] = (), tls: ssl.SSLContext | None = None) -> _Server:
    """The server of an app at a listening socket. It reads on while a request is answered, so that a client that leaves is noticed (http.client_left). exempt: where addresses lie that may hold any number of sockets; tls: it speaks nothing else then."""
    settings = Adjustments(
        sockets=[listening], threads=threads, connection_limit=MOST_SOCKETS, channel_timeout=IDLE_S, cleanup_interval=LOOK_EVERY_S, asyncore_use_poll=True,
        ident=None, max_request_body_size=LARGEST_REQUEST, max_request_header_size=LARGEST_HEAD, channel_request_lookahead=1, log_socket_errors=False, clear_untrusted_proxy_headers=False,
        url_scheme="https" if tls else "http",
    )  # fmt: skip
    pool = _Threads()
    pool.queue_logger.setLevel("ERROR")
    pool.set_thread_count(threads)
    place = (listening.family, listening.type, listening.proto, listening.getsockname())
    server = _Server(app, {}, True, listening, dispatcher=pool, adj=settings, sockinfo=place, bind_socket=False)
    server.exempt = tuple(exempt)
    if tls:
        server.tls, server.channel_class = tls, _TlsChannel
    return server


def _tls() -> ssl.SSLContext | None:
    """With the certificate the command line has settled, if it has."""
    folder = os.environ.get("PENNY_TLS", "")
    if not folder:
        return None
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.minimum_version = ssl.TLSVersion.TLSv1_2
    context.load_cert_chain(f"{folder}/certificate.pem", f"{folder}/key.pem")
    return context


def serve(fd: int) -> None:
    """Serve the bench at this listening socket until SIGTERM."""
    logging.getLogger("waitress").setLevel(logging.ERROR)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # a Ctrl+C is the parent's to hear
    exempt = (*LOOPBACK, *config.trusted_proxies())
    running = made(from_environment(), socket.socket(fileno=fd), threads=config.threads(), exempt=exempt, tls=_tls())
    signal.signal(signal.SIGTERM, lambda *_: running.end())
    running.run()


if __name__ == "__main__":
    serve(int(sys.argv[1]))
