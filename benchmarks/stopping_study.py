"""Flights one after another, stopped when the verdict says "clear" (or "equivalent"), eight at most: how often a winner is called where none is, and what stopping saves.

Give how many trials of each kind (200 by default). The same tasters come back; every flight has new brews. Half of the benches judge with scatter learnt from six
earlier panels of their own, half by the usual one; both are printed.
"""

from __future__ import annotations

import sys
from collections import defaultdict

import numpy as np
from learnt_scatter_study import USUAL, a_past_panel

from brasspenny.core.judging import Score, judge
from brasspenny.core.judging.learnt import learn

MOST_FLIGHTS, LEAD = 8, 1.0
SIZES = ((3, 2, 1), (4, 2, 2), (4, 3, 2), (6, 5, 1))
"""Tasters, setups, brews of each setup in one flight."""
KINDS = {"equal": 1.0, "equal, twice": 2.0, "one better": 1.0}
"""What the scatter of these flights is multiplied by: "twice" that of the bench's past."""


def main() -> None:
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    rng = np.random.default_rng(17)
    found: dict[tuple, list[tuple[str, int]]] = defaultdict(list)
    for _ in range(trials):
        own = USUAL * np.exp(rng.normal(0, 0.35, 3))
        learnt = learn([a_past_panel(rng, own * np.exp(rng.normal(0, 0.2, 3))) for _ in range(6)], scale=1)
        for size in SIZES:
            for kind, times in KINDS.items():
                flights = tasted(rng, size, own * times * np.exp(rng.normal(0, 0.2, 3)), LEAD if kind == "one better" else 0.0)
                for prior, name in ((None, "usual"), (learnt, "learnt")):
                    found[size, kind, name].append(stopped(flights, prior))
    print(f"{trials} trials of each kind, up to {MOST_FLIGHTS} flights; one setup {LEAD} better, or none")
    print("tasters setups brews  setups      scatter   called wrong: after 1, ≤2, … ≤8 flights        called right  tie  flights")
    for (size, kind, name), outcomes in found.items():
        tell(f"{size[0]:7} {size[1]:6} {size[2]:5}  {kind:12} {name:8}", outcomes)
    for kind in KINDS:
        for name in ("usual", "learnt"):
            tell(f"{'all sizes':20}  {kind:12} {name:8}", [x for (_, k, n), o in found.items() if (k, n) == (kind, name) for x in o])


def tasted(rng, size, sds, lead: float) -> list[list[Score]]:
    """Flights of one panel: how tasters lean to setups stays, brews and single scores are new each time."""
    tasters, setups, brews = size
    leans = rng.normal(0, sds[0], (tasters, setups, 1)) + np.r_[lead, np.zeros(setups - 1)][None, :, None]
    out = []
    for flight in range(MOST_FLIGHTS):
        y = 5.5 + leans + rng.normal(0, sds[1], (1, setups, brews)) + rng.normal(0, sds[2], (tasters, setups, brews))
        y = np.round(2 * np.clip(y, 1, 9)) / 2
        out.append(
            [
                Score(f"F{flight}", f"T{t}", f"S{s}", f"{flight}.{s}.{b}", "", float(y[t, s, b]))
                for t in range(tasters)
                for s in range(setups)
                for b in range(brews)
            ]
        )
    return out


def stopped(flights: list[list[Score]], prior) -> tuple[str, int]:
    """What was said when it was stopped, and after how many flights: "right", "wrong" (a winner that is none), "tie" or "open"."""
    scores: list[Score] = []
    for number, flight in enumerate(flights, 1):
        scores += flight
        verdict = judge(scores, learnt=prior).verdict
        if verdict.kind == "clear":
            return ("S0" if verdict.choice == "S0" else "wrong"), number
        if verdict.kind == "tie":
            return "tie", number
    return "open", MOST_FLIGHTS


def tell(head: str, outcomes: list[tuple[str, int]]) -> None:
    n, equal = len(outcomes), "equal" in head
    wrong = [said in ("wrong", "S0") if equal else said == "wrong" for said, _ in outcomes]
    by = "  ".join(f"{sum(w and k <= look for w, (_, k) in zip(wrong, outcomes, strict=True)) / n:.3f}" for look in range(1, MOST_FLIGHTS + 1))
    right = 0.0 if equal else sum(said == "S0" for said, _ in outcomes) / n
    print(f"{head} {by}            {right:.3f}         {sum(said == 'tie' for said, _ in outcomes) / n:.3f}  {sum(k for _, k in outcomes) / n:.2f}")


if __name__ == "__main__":
    main()
