"""What a process that has just started does before it is asked: the first pages then answer as fast as later ones."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from functools import cache
from threading import Event, Thread

from .act import Act
from .core import figures
from .core.planning.schedule.solver import load_solver
from .grinding import service as grinding
from .grinding.schemas import BandQuery
from .palate import known, shapes
from .progress import service as progress
from .progress.schemas import PageQuery
from .store.connection import database
from .store.models import units_of_bench

log = logging.getLogger("brasspenny")
BETWEEN_S = 0.2
"""Between two looks at what is being judged."""
SOLVER_AFTER_S = 5.0
"""Its libraries take half a second, in which this process does little else: not in the moments after the start, when the first pages are opened."""
AT_MOST_S = 3.0
"""A bench that is large or slow serves all the same."""


def before_serving(act: Callable[[], Act]) -> None:
    """Compute what the rooms show first, for at most AT_MOST_S; then judge what is out of date since an update and load the solver, in the same background thread."""
    ready = Event()
    Thread(target=_warm_up, args=(act, ready), daemon=True).start()
    ready.wait(AT_MOST_S)


def _warm_up(act: Callable[[], Act], ready: Event) -> None:
    first = (lambda: shapes.tasters(known.all_answers()), lambda: grinding.read_room(BandQuery(), act()), lambda: progress.read_trials(PageQuery(), act()))
    for part in first:
        _do(part)
    ready.set()
    _do(lambda: _judge(act()))
    time.sleep(SOLVER_AFTER_S)
    load_solver()


def _do(part: Callable[[], object]) -> None:
    try:
        with database.connection_context():
            figures.tell_in(cache(units_of_bench))
            part()
    except Exception as error:
        log.info("warming up: %s", error)


def _judge(act: Act) -> None:
    while any(t.judging for t in progress.read_trials(PageQuery(), act).trials):
        time.sleep(BETWEEN_S)
