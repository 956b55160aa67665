"""Sixty live streams, of which as many are served as there are places, and forty connections that drip, while the bench is asked for its health. Prints figures; serves itself on loopback."""

from __future__ import annotations

import json
import socket
import statistics
import threading
import time
import urllib.request

import served
from api_load import fill

from brasspenny.store import connection, models

PORT, SECONDS, STREAMS, DRIPS = 18_791, 40, 60, 40


def stream(flight: str, events: list[float]) -> None:
    until = time.monotonic() + SECONDS
    while time.monotonic() < until:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/v1/flights/{flight}/events?for_s=30", timeout=40) as answer:
                for line in answer:
                    events.append(-1 if line == b"event: full\n" else time.monotonic())
                    if time.monotonic() > until:
                        return
        except OSError:
            events.append(-1)
        time.sleep(4)


def drip(cut: list[float]) -> None:
    until = time.monotonic() + SECONDS
    while time.monotonic() < until:
        with socket.create_connection(("127.0.0.1", PORT)) as phone:
            began = time.monotonic()
            phone.sendall(b"POST /api/v1/trials HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n")
            try:
                while time.monotonic() < until:
                    phone.sendall(b"x")
                    time.sleep(0.5)
            except OSError:
                cut.append(time.monotonic() - began)


def main() -> None:
    with served.database("brasspenny_rude") as server:
        with connection.database.connection_context():
            fill()
            flight = models.Flight.select(models.Flight.id).first().id
        with served.bench(server, PORT, 2):
            measure(flight)


def measure(flight: str) -> None:
    events: list[float] = []
    cut: list[float] = []
    rude = [threading.Thread(target=stream, args=(flight, events), daemon=True) for _ in range(STREAMS)]
    rude += [threading.Thread(target=drip, args=(cut,), daemon=True) for _ in range(DRIPS)]
    for each in rude:
        each.start()
    took = []
    until = time.monotonic() + SECONDS
    while time.monotonic() < until:
        began = time.perf_counter()
        with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/v1/health", timeout=30) as answer:
            json.load(answer)
        took.append(1000 * (time.perf_counter() - began))
        time.sleep(0.1)
    print(f"health, {len(took)} times: median {statistics.median(took):.0f} ms, worst {max(took):.0f} ms")
    read, refused = sum(e > 0 for e in events), sum(e < 0 for e in events)
    print(f"streams: {read} lines read, {refused} refused (asked again every 4 s); dripping connections cut after {statistics.median(cut):.0f} s")


if __name__ == "__main__":
    main()
