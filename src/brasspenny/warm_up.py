"""What a process that has just started does before it is asked: the first pages then answer as fast as later ones."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from functools import cache
from threading import Thread

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
"""Between two parts, so that whoever comes meanwhile does not wait for all of them."""


def in_background(act: Callable[[], Act]) -> None:
    """Judge what is out of date since an update, compute what the rooms show of the palate and the grind, and load the solver, in a thread of its own."""
    Thread(target=_warm_up, args=(act,), daemon=True).start()


def _warm_up(act: Callable[[], Act]) -> None:
    parts = (lambda: _judge(act()), lambda: shapes.tasters(known.all_answers()), lambda: grinding.read_room(BandQuery(), act()), load_solver)
    for part in parts:
        try:
            with database.connection_context():
                figures.tell_in(cache(units_of_bench))
                part()
        except Exception as error:
            log.info("warming up: %s", error)
        time.sleep(BETWEEN_S)


def _judge(act: Act) -> None:
    while any(t.judging for t in progress.read_trials(PageQuery(), act).trials):
        time.sleep(BETWEEN_S)
