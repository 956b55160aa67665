"""A made-up scale that speaks over the network, as docs/scale-wire.md §5 tells: to try the wire without a scale."""

from __future__ import annotations

import random
import socketserver
import time
from collections.abc import Callable

from .scale import PlannedPour, SimulatedScale
from .wire import write_line

POURS = (PlannedPour(0, 9, 45), PlannedPour(40, 60, 125), PlannedPour(80, 105, 118))
BEGINS_S, LIFTED_S, PAUSE_S = 6.0, 168.0, 12.0
EVERY_S = 0.125


def readings(seed: int, clock: Callable[[], float] = time.monotonic, sleep: Callable[[float], None] = time.sleep):
    """Lines of brew after brew: the pan waits at nought, a hand pours, the brewer is lifted."""
    while True:
        scale, begun = SimulatedScale(POURS, seed, lifted_s=LIFTED_S), clock()
        while (at := clock() - begun - BEGINS_S) < LIFTED_S + PAUSE_S:
            yield write_line(scale.reading_g(at) if at > 0 else 0.0)
            sleep(EVERY_S)
        seed += 1


class Listener(socketserver.StreamRequestHandler):
    def handle(self) -> None:
        try:
            for line in readings(random.SystemRandom().randrange(1_000_000)):
                self.wfile.write(line.encode("ascii") + b"\r\n")
        except OSError:
            return  # whoever listened has gone


class Speaking(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


def serve(port: int, said: Callable[[str], None]) -> None:
    """Until it is interrupted. Raises OSError where the port cannot be had."""
    with Speaking(("127.0.0.1", port), Listener) as server:
        said(
            f"A made-up scale speaks on 127.0.0.1:{server.server_address[1]}: give that as the scale's address under Kit, Accuracy, place, units. Ctrl+C ends it."
        )
        server.serve_forever(poll_interval=0.2)
