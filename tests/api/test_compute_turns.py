"""Long reckonings take turns: what several ask for at once is worked out once, and one that fails lets the next one work."""

import random
import threading
import time
from datetime import UTC, datetime

import pytest

from brasspenny.act import Act
from brasspenny.compute_turns import turn
from brasspenny.store import connection
from brasspenny.verdicts.verdict_cache import BENCH, Keeper, Layer


def at_once(work, many):
    """Each in a thread of its own, with a connection of its own; what they came to."""
    found, ready = [], threading.Barrier(many)

    def one():
        ready.wait()
        with connection.database.connection_context():
            found.append(work())

    threads = [threading.Thread(target=one) for _ in range(many)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    return found


def test_what_several_ask_for_at_once_is_worked_out_once(app):
    worked = []

    def slowly(part):
        worked.append(part)
        time.sleep(0.2)
        return {"doubled": 2 * part}

    ask = lambda: Keeper(BENCH, Act(None, datetime.now(UTC), random.Random(1))).of(Layer("a test's", slowly), 21)  # noqa: E731
    assert at_once(ask, 5) == [{"doubled": 42}] * 5 and worked == [21]


def test_never_two_at_once_and_one_that_fails_lets_the_next_one_work(app):
    inside, most = [], []

    def reckon():
        try:
            with turn():
                inside.append(1)
                most.append(len(inside))
                time.sleep(0.05)
                inside.pop()
                raise ValueError
        except ValueError:
            return "told"

    assert at_once(reckon, 4) == ["told"] * 4 and max(most) == 1
    with pytest.raises(ValueError, match="of its own"), turn(), turn():  # a part of a reckoning may be one itself
        raise ValueError("of its own")
