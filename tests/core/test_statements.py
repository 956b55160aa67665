"""Two statements that exclude each other are found, whatever they are: each row of the table by what it is there to catch, and what may stand together."""

import pytest

from brasspenny.core.statements import EXCLUSIONS, Statement, contradictions

CAMPS = Statement("answer", "headline", "camps", text="Six like A best, six like D: choose by guest")
SETUP = Statement("answer", "headline", "setup", text="Lean towards White weave")
MATCHED, RATIO = Statement("strength", "policy", "matched"), Statement("question", "ladder", "ratio")
ANECDOTE = Statement("design/anecdote", "reason", 1, text="Two tasters with one brew each is an anecdote.")

CLASHES = {
    "no average of groups that like opposite things": [CAMPS, Statement("setup/A/liking", "mean", 5.3)],
    "level cups have no leader": [Statement("answer/lead", "leads", 0.0, text="Not enough evidence for a winner: A leads B by 0.0 points.")],
    "an open question leaves something to brew": [SETUP, Statement("answer", "open"), Statement("next", "nothing")],
    "a step that settles nothing is not urged": [Statement("next/one_more_brew", "urged", probability=0.01, text="It would almost never settle it.")],
    "what is dropped is neither kept nor the best value": [Statement("setup/B", "dropped"), Statement("setup/B", "best_value")],
    "a thing with a price is not without one": [Statement("kit/Old mill", "unpriced"), Statement("kit/Old mill", "price", 90.0)],
    "a range too narrow for a curve holds no best point": [Statement("curve/all/ey_pct", "none"), Statement("surface", "best", ("20.2", "1.43"))],
    "a best point lies only along what was varied on purpose": [Statement("varied/ratio", "on_purpose"), Statement("curve/all/ey_pct", "peak", 20.2)],
    "a question of strength is never matched in strength": [MATCHED, RATIO],
    "the design is not faulted for what the headline splits, nor for tasters there are": [
        Statement("count/tasters", "count", 12),
        Statement("design/too_few_tasters", "reason", 3, text="Fewer than four tasters."),
    ],
    "an anecdote reads as one": [SETUP, ANECDOTE],
    "the safest for everybody is nobody's least liked": [
        Statement("setup/D", "safest"),
        Statement("group/Ada/D/liking", "mean", 3.0),
        Statement("group/Ada/A/liking", "mean", 8.0),
    ],
    "a setup is dialled in or not": [Statement("setup/A", "dialled_in"), Statement("setup/A", "not_dialled_in")],
}


@pytest.mark.parametrize("name", [x.name for x in EXCLUSIONS])
def test_each_row_of_the_table_finds_its_clash_and_nothing_in_its_halves(name):
    together = CLASHES[name]
    assert any(found.startswith(f"{name}: ") for found in contradictions(together))
    if len(together) > 1 and name != "a best point lies only along what was varied on purpose":
        assert not any(found.startswith(name) for found in contradictions(together[:-1]))


def test_a_claim_has_one_value_and_one_sentence():
    first = Statement("setup/A/liking", "mean", 7.3, "points")
    assert contradictions([first, first]) == []
    for other in (Statement("setup/A/liking", "mean", 7.2, "points"), Statement("setup/A/liking", "mean", 7.3, "points", text="A is liked.")):
        (found,) = contradictions([first, other])
        assert found.startswith("setup/A/liking: mean is said in 2 ways")


def test_what_may_stand_together_does():
    assert (
        contradictions(
            [
                Statement("answer", "headline", "setup", text="An anecdote: lean towards White weave"),
                ANECDOTE,
                Statement("setup/A", "leaned"),
                Statement("setup/A", "best_value"),
                Statement("varied/tds_pct", "on_purpose"),
                Statement("curve/all/tds_pct", "peak", 1.35),
                MATCHED,
            ]
        )
        == []
    )
