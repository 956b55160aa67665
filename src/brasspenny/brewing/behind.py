"""What stands behind a logged brew when the adviser is asked about it: its recipe, its figures and what its kit can do."""

from __future__ import annotations

from collections.abc import Sequence

from ..core.brewing import adviser
from ..core.extraction.results import typical_retained
from ..core.extraction.yields import yield_basis_of
from ..core.kit.heat import boiling_point_c
from ..core.recipe.model import Recipe as CoreRecipe
from ..core.trial.measured import measure_run
from ..core.trial.setups import recipe_of
from ..store import queries
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
        facts = ((self.revision.kit or {}).get("brewer") or {}).get("facts", {})
        self.limits = adviser.Limits(boiling_c=boiling_point_c(Bench.get_by_id(1).altitude_m), least_dose_g=facts.get("dose_low_g"))

    def advise(self, words: Sequence[str]) -> adviser.Advised:
        return adviser.advise(self.recipe, self.results, words, yield_basis=self.yield_basis, retained_water_ratio=self.kept_water, limits=self.limits)

    def draft(self, change: adviser.Advice) -> CoreRecipe | None:
        return adviser.draft_of(self.recipe, change, self.results, yield_basis=self.yield_basis, retained_water_ratio=self.kept_water, limits=self.limits)

    @property
    def kept(self) -> tuple[Recipe, RecipeVersion] | None:
        version = RecipeVersion.get_or_none(RecipeVersion.id == self.revision.recipe_version_id) if self.revision.recipe_version_id else None
        kept = Recipe.get_or_none((Recipe.id == version.recipe_id) & Recipe.deleted_at.is_null()) if version else None
        return (kept, version) if kept else None
