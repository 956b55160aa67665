"""How long a verdict page takes to be worked out: liking first, then 8 attributes in 3 passes, pairing, characters' share, next steps.

Targets: liking ≤ 1 s after the flip; the 8 × 3 others ≤ 15 s in all. With an address (a running demo bench) the answers are also
asked for over HTTP, once worked out: ≤ 100 ms. Run: PYTHONPATH=src python benchmarks/verdict_speed.py [ADDRESS THAT ./penny demo PRINTED]"""

from __future__ import annotations

import json
import resource
import statistics
import sys
import time
import urllib.request

import numpy as np
import served

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.next_steps import next_steps
from brasspenny.core.judging.peak import find_peak
from brasspenny.core.judging.surface import panel_surface

TASTERS, SETUPS, BREWS = 12, 6, 4
ATTRIBUTES, PASSES = 8, ("hot", "warm", "cool")


def panel(rng) -> list[Score]:
    return [
        Score("F", f"T{t}", f"S{s}", f"{s}.{b}", p, float(np.clip(round(6 + 0.3 * s + rng.normal(0, 1.2)), 1, 9)))
        for t in range(TASTERS)
        for s in range(SETUPS)
        for b in range(BREWS)
        for p in PASSES
    ]


def timed(what: str, work) -> None:
    started = time.perf_counter()
    work()
    print(f"{what:58} {time.perf_counter() - started:7.2f} s")


def main() -> None:
    rng = np.random.default_rng(3)
    panels = [panel(rng) for _ in range(ATTRIBUTES)]
    judge(panels[0][:200])  # imports and first-call costs are paid once
    idle_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    liking = panels[0]
    at = {(s.setup, s.brew): 13 + int(s.setup[1:]) + float(rng.normal(0, 0.05)) for s in liking}
    print(f"{SETUPS} setups × {TASTERS} tasters × {BREWS} brews, {len(PASSES)} passes, {ATTRIBUTES} attributes")
    timed("liking, mean over the passes", lambda: judge(liking))
    timed("8 attributes × 3 passes", lambda: [judge([s for s in rows if s.pass_ == p]) for rows in panels for p in PASSES])
    timed("liking against one number", lambda: find_peak(liking, at))
    timed("the panel's surface", lambda: panel_surface(liking, {k: (x, 1.3 + 0.02 * float(rng.normal())) for k, x in at.items()}))
    cost = {f"S{i}": 18.0 for i in range(SETUPS)}
    timed("next steps", lambda: next_steps(liking, dose_g=cost, minutes=cost))
    print(f"peak memory above idle {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024 - idle_mb:.0f} MB")
    if len(sys.argv) > 1:
        over_http(sys.argv[1])


def over_http(printed: str) -> None:
    """printed: the address that the start command printed, with its key."""
    base, _, key = printed.partition("/#open=")
    served.come_in(base, key)

    def ask(path: str) -> float:
        started = time.perf_counter()
        with urllib.request.urlopen(f"{base}/api/v1{path}") as answer:
            answer.read()
        return 1000 * (time.perf_counter() - started)

    with urllib.request.urlopen(f"{base}/api/v1/trials") as answer:
        trial = next(t["id"] for t in json.load(answer)["trials"] if t["question"].startswith("Which filter"))
    paths = ("", "/attribute?attribute=liking", "/characters", "/pairing?attribute=liking", "/value", "/next")
    for path in paths:
        ask(f"/trials/{trial}/verdict{path}")
        print(f"GET verdict{path:36} once worked out, median {statistics.median(ask(f'/trials/{trial}/verdict{path}') for _ in range(15)):6.0f} ms")


if __name__ == "__main__":
    main()
