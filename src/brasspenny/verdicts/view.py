"""One look at a trial: the frozen value, and what is worked out from it, each at most once a request."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from ..act import Act
from ..core.judging.learnt import Learnt
from ..core.trial.measured import MeasuredTrial, measure_trial
from ..core.trial.tasted import Tasted, tasted
from ..core.trial.value import LearntScatter, Trial
from ..trials import service as trials
from .earlier import learnt_scatter
from .verdict_cache import Keeper


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

    @cached_property
    def learnt(self) -> LearntScatter | None:
        """What earlier panels say of the scatter of the blind likings it is judged by, whichever scatter counts; None where there is nothing of either."""
        scores = self.blind.counting()
        return learnt_scatter(self.trial, scores, self.keeper.act) if scores else None

    @property
    def own_scatter(self) -> bool:
        return self.trial.scatter_from == "own"

    @property
    def scatter(self) -> LearntScatter | None:
        """By which what counts is judged; None: the usual."""
        return self.learnt if self.own_scatter else None

    def by_other(self) -> View:
        """The same, judged by the other scatter."""
        other = View(replace(self.trial, scatter_from="usual" if self.own_scatter else "own"), self.keeper)
        other.__dict__ |= {name: getattr(self, name) for name in ("measured", "blind", "sighted", "learnt")}
        return other

    @property
    def names(self) -> dict[str, str]:
        return self.measured.names_by_letter


def prior_of(found: LearntScatter | None) -> Learnt | None:
    return Learnt.of_text(found.log_likelihood, found.flights, found.cups) if found else None


def look(trial_id: str, act: Act, ahead: tuple[str, ...] = ()) -> View:
    return View(trials.frozen(trial_id), Keeper(trial_id, act, ahead))
