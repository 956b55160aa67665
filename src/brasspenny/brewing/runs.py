"""A logged brew, and the bench's instruments it was measured with."""

from __future__ import annotations

from ..core.brewing.observed import Tolerances
from ..core.extraction.uncertainty import Instrument
from ..refusals import NotFound
from ..store.models import Bench, Run, instrument_of, tolerances_of
from ..trials import service as trials


def open_run(run_id: str) -> Run:
    run = Run.get_or_none((Run.id == run_id) & Run.deleted_at.is_null())
    if run is None:
        raise NotFound("brew")
    if run.trial_id is not None:
        trials.open_trial(run.trial_id)
    return run


def instrument() -> Instrument:
    """The bench's refractometer and scale."""
    return instrument_of(Bench.get_by_id(1))


def tolerances() -> Tolerances:
    return tolerances_of(Bench.get_by_id(1))
