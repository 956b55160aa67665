"""One look at a trial: the frozen value, and what is worked out from it, each at most once a request."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ..act import Act
from ..core.trial.measured import MeasuredTrial, measure_trial
from ..core.trial.tasted import Tasted, tasted
from ..core.trial.value import Trial
from ..trials import service as trials
from .kept import Keeper


@dataclass
class View:
    """found: blind answers, the sighted ones only where nothing blind was tasted. names: letter → what a setup is called."""

    trial: Trial
    keeper: Keeper

    @cached_property
    def measured(self) -> MeasuredTrial:
        return measure_trial(self.trial)

    @cached_property
    def blind(self) -> Tasted:
        return tasted(self.trial, sighted=False)

    @cached_property
    def sighted(self) -> Tasted:
        return tasted(self.trial, sighted=True)

    @property
    def found(self) -> Tasted:
        return self.blind if self.blind.touches else self.sighted

    @property
    def names(self) -> dict[str, str]:
        return self.measured.names_by_letter


def look(trial_id: str, act: Act, ahead: tuple[str, ...] = ()) -> View:
    return View(trials.frozen(trial_id), Keeper(trial_id, act, ahead))
