"""Calls made up from the OpenAPI document, over every operation, paths and queries included: how many answers were a 5xx or not as documented.

Give a number of calls (50,000 by default) and, to go on from an earlier run, which lot of 400 to begin with. Streams are left out: they last as long as somebody listens.
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from pathlib import Path

import served

from brasspenny.app import Serving, create_app
from brasspenny.demo import scenario
from brasspenny.store import connection
from brasspenny.store.models import Bench

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.api.driven import Driver, fault
from tests.api.host import Host
from tests.api.test_contract import things_to_write_to

EACH = 400
"""Calls before everything is laid out anew: what is deleted would be called in vain."""
STREAMS = frozenset({"/api/v1/live-brews/{id}/readings", "/api/v1/flights/{id}/events"})
LONG = frozenset({"/api/v1/sample-bench"})
"""Lays the whole sample bench out: in one lot of ten, or half an hour would go into little else."""


def main() -> None:
    wanted = int(sys.argv[1]) if len(sys.argv) > 1 else 50_000
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    with served.database("brasspenny_calls") as running:
        app = create_app(Serving(database_url=running.url, secret=b"x" * 32, rng=random.Random(3)))
        call(app, wanted, first)


def call(app, wanted: int, first: int) -> None:
    faults, codes, slow = Counter(), Counter(), []
    began = time.monotonic()
    with connection.database.connection_context():
        bench = Bench.select().dicts().get()
    for lot in range(-(-wanted // EACH)):
        with connection.database.connection_context():
            scenario.wipe()
            Bench.update(bench).where(Bench.id == bench["id"]).execute()  # settings are written to as well
        driver = Driver(things_to_write_to(Host(served.client_of(app))), first + lot)
        for method, template, how, op in driver.calls(min(EACH, wanted - lot * EACH), leave_out=STREAMS if lot % 10 == 0 else STREAMS | LONG):
            at = time.monotonic()
            try:
                answer = served.client_of(app).open(method=method, **how)
            except UnicodeEncodeError:
                continue
            slow.append((time.monotonic() - at, method, template))
            codes[answer.status_code] += 1
            if said := fault(method, how, op, answer):
                faults[said, method, template] += 1
                if faults[said, method, template] == 1:
                    print(said, method, template, {k: str(v)[:300] for k, v in how.items()}, flush=True)
        if lot % 10 == 9:  # so that a run that is cut off has said something
            print(f"{sum(codes.values())} calls so far, to lot {first + lot}: {sum(faults.values())} faults", flush=True)
    print(f"{sum(codes.values())} calls of {len(driver.operations)} operations in {time.monotonic() - began:.0f} s: {dict(sorted(codes.items()))}")
    print(f"5xx: {sum(n for code, n in codes.items() if code >= 500)}, other faults: {sum(n for (said, *_), n in faults.items() if not said.startswith('5'))}")
    for took, method, template in sorted(slow, reverse=True)[:5]:
        print(f"slow: {took:.1f} s {method} {template}")


if __name__ == "__main__":
    main()
