"""This bench's own scatter, from its blind flights, for planning: how far tasters, brews and single scores lie apart."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from ..act import Act
from ..core.judging.posterior import pooled_scatter
from ..core.judging.scores import Score as CoreScore
from ..core.judging.scores import cups_of
from ..core.planning.power import FEWEST_CUPS, FEWEST_FLIGHTS, USUAL
from ..core.trial.value import WITNESSED
from ..store import blind_keys
from ..store.models import Flight, Trial
from . import schemas as s
from .verdict_cache import BENCH, Keeper, Layer

MOST_TRIALS = 6


@dataclass(frozen=True)
class ScatterPart:
    """The panels a bench's own scatter is learnt from."""

    panels: tuple[tuple[CoreScore, ...], ...]


def _learn(part: ScatterPart) -> dict:
    taster_setup, brew, noise = pooled_scatter([cups_of(rows, low=1, high=9) for rows in part.panels])
    return {"taster_setup": round(taster_setup, 2), "brew": round(brew, 2), "noise": round(noise, 2)}


SCATTER = Layer("scatter", _learn)


def read_scatter(act: Act) -> s.ScatterAnswer:
    """Own scatter once there are three flipped blind flights and sixty scored cups; the usual one before."""
    panels = _panels(_lately_judged())
    cups, flights = sum(len(rows) for rows in panels), len({row.flight for rows in panels for row in rows})
    if flights < FEWEST_FLIGHTS or cups < FEWEST_CUPS:
        said = f"usual small panels; this bench has {flights} of {FEWEST_FLIGHTS} blind flights and {cups} of {FEWEST_CUPS} scored cups it takes to use its own"
        return s.ScatterAnswer(taster_setup=USUAL.taster_setup, brew=USUAL.brew, noise=USUAL.noise, own=False, source=said)
    own = Keeper(BENCH, act).of(SCATTER, ScatterPart(tuple(tuple(rows) for rows in panels)))
    return s.ScatterAnswer(
        **own,
        own=True,
        source=f"this bench's last {flights} blind flights, {cups} cups",
    )


def _lately_judged() -> list[str]:
    rows = (
        Trial.select(Trial.id)
        .join(Flight)
        .where((Flight.status == "flipped") & Flight.blinding.in_(WITNESSED) & Flight.deleted_at.is_null() & Trial.deleted_at.is_null())
        .group_by(Trial.id)
        .order_by(Trial.number.desc())
        .limit(MOST_TRIALS)
    )
    return [trial.id for trial in rows]


def _panels(trial_ids: list[str]) -> list[list[CoreScore]]:
    """Likings by trial, each with at least two setups and two tasters."""
    by_trial: dict[str, list[CoreScore]] = defaultdict(list)
    for trial_id, *row in blind_keys.blind_likings(trial_ids):
        by_trial[trial_id].append(CoreScore(*row))
    return [rows for rows in by_trial.values() if len({r.setup for r in rows}) > 1 and len({r.taster for r in rows}) > 1]
