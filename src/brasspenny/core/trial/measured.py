"""The measured side of a trial: every brew worked out, setups pooled, what each brew was called, and how far it was off plan."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from statistics import fmean

from ..brewing.along import MarkedStep, off_plan_steps
from ..brewing.observed import Tolerances, off_plan
from ..extraction.measure import Brew as Masses
from ..extraction.measure import Measured, measure
from ..extraction.readings import PROTOCOL, ProtocolStep, skipped_said
from ..extraction.results import SetupMeasured, pool_setup, served_tds_pct
from ..extraction.uncertainty import Instrument
from ..palate.use import matched_within_tds_pct
from ..planning.minutes import cup_minutes
from ..recipe.model import ending_of, sums
from ..vocabulary import BREWERS, YieldBasis
from .setups import display_names, facts_of, grind_rate_of, recipe_of, yield_basis_in_force
from .value import Brew, Reading, Setup, SetupRevision, Trial

OPEN_FILTERS = frozenset({"mesh", "metal"})
"""Filters that let fines through."""

USUAL_TDS_PCT = 1.35
"""Of a cup nobody has read yet."""


@dataclass(frozen=True)
class MeasuredTrial:
    """Everything the measured side knows of a trial. names: by setup id; measured: by brew id, dial-in brews too; pooled: by setup id;
    runs: brews that count, in order of brewing; instrument: with the least sure way any of them was read in."""

    trial: Trial
    yield_basis: YieldBasis
    instrument: Instrument
    names: dict[str, str]
    runs: tuple[Brew, ...]
    dial_ins: tuple[Brew, ...]
    measured: dict[str, Measured]
    pooled: dict[str, SetupMeasured]

    @property
    def setups(self) -> tuple[tuple[Setup, SetupRevision], ...]:
        return self.trial.rows

    @property
    def tolerances(self) -> Tolerances:
        return self.trial.bench.tolerances

    def runs_of(self, setup_id: str) -> list[Brew]:
        return [run for run in self.runs if run.setup_id == setup_id]

    def letter_of(self, run: Brew) -> str:
        return self.trial.letters[run.setup_id]

    def label_of(self, run: Brew) -> str:
        return run_label(self.letter_of(run), run)

    def revision_of(self, run: Brew) -> SetupRevision:
        return self.trial.revisions[run.setup_revision_id]

    def off_plan(self, run: Brew) -> tuple[str, ...]:
        return off_plan_of(run, self.revision_of(run), self.tolerances)

    def skipped(self, run: Brew) -> tuple[str, ...]:
        return skipped_of(run, self.revision_of(run))

    def served_pct(self, run: Brew) -> float | None:
        return served_strength(run, self.measured[run.id])

    @property
    def matched_within_tds_pct(self) -> float:
        """How far apart strengths may lie here and still be one: 0.05, or less where somebody of this panel may tell less."""
        read = [x for run in self.runs if (x := self.served_pct(run)) is not None]
        return matched_within_tds_pct(self.trial.bench.best_tells_pct, fmean(read) if read else USUAL_TDS_PCT)

    @property
    def names_by_letter(self) -> dict[str, str]:
        return {setup.letter: self.names[setup.id] for setup, _ in self.setups}


def measure_trial(trial: Trial) -> MeasuredTrial:
    """Work out all brews of a trial with the bench's instruments. Shapes: one Measured a brew, one SetupMeasured a setup."""
    own, rows = trial.bench.instrument, trial.rows
    yield_basis = yield_basis_in_force(trial.yield_basis_chosen, rows)
    runs = tuple(b for b in trial.brews if b.purpose == "evidence")
    measured = {b.id: measure_run(b, b.readings, own, trial.revisions[b.setup_revision_id]) for b in trial.brews}
    widest = instrument_for(own, [r for run in runs for r in run.readings])
    pooled = {
        setup.id: pool_setup(
            [(masses_of(run), measured[run.id], run.total_time_s) for run in runs if run.setup_id == setup.id], yield_basis=yield_basis, instrument=widest
        )
        for setup, _ in rows
    }
    dial_ins = tuple(b for b in trial.brews if b.purpose == "dial_in")
    return MeasuredTrial(trial, yield_basis, widest, display_names(trial.factors, rows), runs, dial_ins, measured, pooled)


def cup_minutes_of(m: MeasuredTrial) -> dict[str, float]:
    """Letter → grind, brew and clean. The brew as it was measured, else as its recipe says."""
    out = {}
    for setup, revision in m.setups:
        took_s = m.pooled[setup.id].total_time_s
        out[setup.letter] = cup_minutes(
            dose_g=revision.dose_g,
            grind_g_s=grind_rate_of(m.trial, revision),
            brew_s=took_s if took_s is not None else sums(recipe_of(revision)).total_s,
            lasting=bool(facts_of(revision, "filter").get("reusable")) or (revision.brewer_type is not None and BREWERS[revision.brewer_type].lasting),
        )
    return out


# --- one brew ------------------------------------------------------------------------------------------------------------------


def masses_of(run: Brew) -> Masses:
    """A brew's masses as they are measured with."""
    return Masses(
        dose_g=run.dose_g,
        brew_water_g=run.brew_water_g,
        beverage_g=run.beverage_g,
        bypass_g=run.bypass_g,
        moisture_pct=run.moisture_pct,
        concentrate=bool(run.concentrate),
        sediment_g=(run.observed or {}).get("sediment_g") or 0.0,
    )


def instrument_for(own: Instrument, readings: Sequence[Reading]) -> Instrument:
    """The bench's, or the least sure way one of these was read in."""
    said = [r.as_read["accuracy_pct"] for r in readings if r.as_read and r.as_read.get("accuracy_pct") is not None]
    return no_better_than(own, max(said, default=None))


def no_better_than(own: Instrument, accuracy_pct: float | None) -> Instrument:
    """The bench's, with its accuracy widened to that of how it was read."""
    if accuracy_pct is None or accuracy_pct <= own.accuracy_pct:
        return own
    return replace(own, accuracy_pct=accuracy_pct)


def measure_run(run: Brew, taken: Sequence[Reading], own: Instrument, revision: SetupRevision) -> Measured:
    masses = replace(masses_of(run), lifted=revision.recipe is not None and ending_of(recipe_of(revision)).kind == "lifted")
    return measure(masses, [r.tds_pct for r in taken], instrument_for(own, taken))


def off_plan_of(run: Brew, revision: SetupRevision, allowed: Tolerances) -> tuple[str, ...]:
    """Everything about a brew that is outside the tolerances: its steps as marked and since corrected, and totals against its setup.
    A setup without a recipe plans its amounts and nothing of how they are poured: the one plain pour it is guided by is no promise."""
    marked = [MarkedStep(**step) for step in run.marked] if revision.recipe else []
    return (
        *(run.off_plan if revision.recipe else ()),
        *off_plan_steps(marked, allowed, pour_end_s=run.pour_end_s, total_time_s=run.total_time_s, poured_g=run.brew_water_g),
        *off_plan(
            tolerances=allowed,
            poured_g=run.brew_water_g,
            planned_water_g=revision.brew_water_g,
            temperature_c=run.temperature_c,
            planned_c=revision.temperature_c,
            dose_g=run.dose_g,
            planned_dose_g=revision.dose_g,
            mishaps=run.observed.get("mishaps", ()),
            ground_min=run.observed.get("ground_min"),
        ),
    )


def unfiltered(revision: SetupRevision) -> bool:
    """Whether fines pass into the drink: a press, a mesh, or a metal filter. They read with more scatter."""
    return (revision.brewer_type is not None and BREWERS[revision.brewer_type].fines_pass) or facts_of(revision, "filter").get("material") in OPEN_FILTERS


def skipped_of(run: Brew, revision: SetupRevision) -> tuple[str, ...]:
    """Steps of the reading protocol left out, where it was followed at all."""
    return skipped_said(run.protocol["done"], asked=asked_of(revision)) if run.protocol else ()


def asked_of(revision: SetupRevision) -> list[ProtocolStep]:
    """The protocol's steps for a setup: filtering the sample is asked of unfiltered brews only."""
    return [r.code for r in PROTOCOL if r.code != "filtered" or unfiltered(revision)]


def served_strength(run: Brew, m: Measured) -> float | None:
    """% TDS of the cups poured from this brew: as served where it was thinned, else as brewed."""
    if m.strength is None:
        return None
    if not run.served or run.beverage_g is None:
        return m.strength.tds_pct
    return served_tds_pct(
        tds_pct=m.strength.tds_pct, beverage_g=run.beverage_g, added_water_g=run.served["added_water_g"], read_again_pct=run.served["tds_pct"]
    )


def run_label(letter: str, run: Brew) -> str:
    """A1, or A dial-in 1."""
    return f"{letter}{run.number}" if run.purpose == "evidence" else f"{letter} dial-in {run.number}" if run.purpose == "dial_in" else "loose brew"


def served_apart(strengths: Collection[float]) -> float:
    """Strongest less weakest, % TDS; 0 for fewer than two."""
    return max(strengths) - min(strengths) if len(strengths) > 1 else 0.0
