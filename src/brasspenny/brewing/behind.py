"""What stands behind a logged brew when the adviser is asked about it: its recipe, its figures and what its kit can do."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..core.brewing import adviser
from ..core.brewing.proposals import Brewed, Proposal, propose
from ..core.extraction.results import typical_retained
from ..core.extraction.yields import yield_basis_of
from ..core.grinding.dials import dial_id
from ..core.kit.heat import boiling_point_c
from ..core.trial.measured import measure_run
from ..core.trial.setups import recipe_of
from ..core.vocabulary import BREWERS
from ..store import queries
from ..store.load_trial import load_dials
from ..store.models import Bench, Recipe, RecipeVersion, Run, SetupRevision
from .runs import instrument


class Behind:
    """Of one brew, as it stands now. kept_water: g of water held per g of dose. kept: the recipe and version it was brewed by, None where it has none or that was deleted."""

    def __init__(self, run: Run) -> None:
        self.run = run
        self.revision = SetupRevision.get_by_id(run.setup_revision_id)
        self.recipe = recipe_of(self.revision)
        self.measured = measure_run(run, queries.readings_of([run.id])[run.id], instrument(), self.revision)
        self.yield_basis = yield_basis_of(self.revision.brewer_type) if self.revision.brewer_type else "in_cup"
        self.ey = self.measured.yield_in(self.yield_basis)
        strength = self.measured.strength
        self.results = adviser.Results(strength.tds_pct if strength else None, self.ey.value if self.ey else None, run.total_time_s)
        self.kept_water = typical_retained([self.measured.retained_water_ratio])
        self.dials = load_dials()
        self.brewed = Brewed(self.dials.current(dial_id(self.revision.kit) or ""), self.revision.grind_setting)
        self.limits = adviser.Limits(
            at_finest=self._is_at_finest(),
            boiling_c=boiling_point_c(Bench.get_by_id(1).altitude_m),
            least_dose_g=self._facts_of("brewer").get("dose_low_g"),
            paper=self._is_paper(),
        )

    def _facts_of(self, kind: str) -> dict[str, Any]:
        return ((self.revision.kit or {}).get(kind) or {}).get("facts", {})

    def _is_paper(self) -> bool:
        """By the filter's material; of a filter that is no piece of the kit, by whether the brewer throws its filters away."""
        if material := self._facts_of("filter").get("material"):
            return material == "paper"
        return not (self.revision.brewer_type and BREWERS[self.revision.brewer_type].lasting)

    def _is_at_finest(self) -> bool:
        if self.brewed.dial_id not in self.dials.sides:
            return False
        scale, setting = self.dials.scales[self.dials.names[self.brewed.dial_id]], self.dials.read(self.brewed.dial_id, self.brewed.setting)
        return setting is not None and scale.finest is not None and scale.coarseness(setting) <= scale.coarseness(scale.finest)

    def advise(self, words: Sequence[str]) -> adviser.Advised:
        return adviser.advise(self.recipe, self.results, words, limits=self.limits)

    def propose(self, change: adviser.Advice) -> Proposal:
        return propose(
            self.recipe,
            change,
            self.results,
            yield_basis=self.yield_basis,
            retained_water_ratio=self.kept_water,
            limits=self.limits,
            dials=self.dials,
            brewed=self.brewed,
        )

    @property
    def kept(self) -> tuple[Recipe, RecipeVersion] | None:
        version = RecipeVersion.get_or_none(RecipeVersion.id == self.revision.recipe_version_id) if self.revision.recipe_version_id else None
        kept = Recipe.get_or_none((Recipe.id == version.recipe_id) & Recipe.deleted_at.is_null()) if version else None
        return (kept, version) if kept else None
