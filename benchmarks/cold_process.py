"""First answers of a bench that was just started, beside the same pages warm.

    PYTHONPATH=src:. .venv/bin/python benchmarks/cold_process.py [STARTS]

Lays out the demo bench once in a folder that is thrown away, then starts it STARTS times (default 3). At each start every page is asked once, in this
order, from the moment the address is printed; then five times more, whose median counts as warm.
"""

import statistics
import sys
import tempfile
import time
import urllib.request
from collections import defaultdict
from pathlib import Path

from tests.browser.conftest import demo
from tests.opened import header_of

PAGES = ("/palate", "/grind", "/trials", "/bench", "/charts", "/kit", "/recipes", "/brews")
COOKIE: dict[str, str] = {}
MOST = 3


def main(starts: int) -> None:
    cold, warm = defaultdict(list), defaultdict(list)
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        with demo(data, "demo"):
            pass
        for _ in range(starts):
            began = time.monotonic()
            with demo(data, "demo") as base:
                stood_s = time.monotonic() - began
                COOKIE.update(header_of(base))
                for page in PAGES:
                    cold[page].append(_ms(base, page))
                time.sleep(3)
                for page in PAGES:
                    warm[page].append(statistics.median(_ms(base, page) for _ in range(5)))
            print(f"stood after {stood_s:.1f} s")
    print(f"{'page':14}{'first, ms':>11}{'warm, ms':>11}{'times':>8}")
    for page in PAGES:
        first, then = statistics.median(cold[page]), statistics.median(warm[page])
        print(f"{page:14}{first:>11.0f}{then:>11.0f}{first / then:>8.1f}{'' if first <= MOST * then else '  over'}")


def _ms(base: str, page: str) -> float:
    began = time.perf_counter()
    with urllib.request.urlopen(urllib.request.Request(f"{base}/api/v1{page}", headers=COOKIE)) as answer:
        answer.read()
    return 1000 * (time.perf_counter() - began)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 3)
