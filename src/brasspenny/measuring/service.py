"""Results of a trial: every brew worked out, setups pooled, what the charts are drawn from. Reads only."""

from __future__ import annotations

from dataclasses import dataclass

from ..brewing import service as brewing
from ..core import chartlines
from ..core.extraction import SCHOOL_LABELS, School
from ..core.measure import Measured, measure
from ..core.results import SetupMeasured, pool_setup, typical_retained
from ..core.uncertainty import Estimate, Instrument, Pooled, t_975
from ..store import queries
from ..store.models import Flight, FlightBrew, Run, Setup, SetupRevision, Trial
from ..trials import service as trials
from . import schemas as s


@dataclass(frozen=True)
class TrialResults:
    """Everything the measured side knows of a trial; rooms after this one read it instead of the tables."""

    trial: Trial
    school: School
    instrument: Instrument
    setups: list[tuple[Setup, SetupRevision]]
    names: dict[str, str]
    runs: list[Run]
    readings: dict[str, list[queries.ReadingRow]]
    measured: dict[str, Measured]
    pooled: dict[str, SetupMeasured]
    dial_ins: list[Run]

    def runs_of(self, setup_id: str) -> list[Run]:
        return [run for run in self.runs if run.setup_id == setup_id]


def results_of(trial_id: str) -> TrialResults:
    trial = trials.open_trial(trial_id)
    setups, runs = queries.setups_with_revisions(trial.id), queries.live_runs(trial.id)
    dial_ins = queries.live_runs(trial.id, purpose="dial_in")
    school, instrument = trials.school_in_force(trial, setups), brewing.instrument()
    readings = queries.readings_of(run.id for run in (*runs, *dial_ins))
    measured = {run.id: measure(brewing.masses_of(run), [r.tds_pct for r in readings[run.id]], instrument) for run in (*runs, *dial_ins)}
    pooled = {
        setup.id: pool_setup(
            [(brewing.masses_of(run), measured[run.id], run.total_time_s) for run in runs if run.setup_id == setup.id],
            school=school,
            instrument=instrument,
        )
        for setup, _ in setups
    }
    return TrialResults(trial, school, instrument, setups, trials.display_names(trial, setups), runs, readings, measured, pooled, dial_ins)


def read_results(trial_id: str) -> s.ResultsAnswer:
    found = results_of(trial_id)
    letters = {setup.id: setup.letter for setup, _ in found.setups}
    current = {setup.id: setup.revision_id for setup, _ in found.setups}
    poured = {row[0] for row in FlightBrew.select(FlightBrew.run).join(Flight).where((Flight.trial == found.trial.id) & Flight.deleted_at.is_null()).tuples()}
    retained = typical_retained([found.measured[run.id] for run in found.runs])
    axes = chartlines.axes(_points(found))
    ratios = chartlines.ratios_to_draw(axes, school=found.school, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(school=found.school, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)
    return s.ResultsAnswer(
        school=found.school,
        school_label=SCHOOL_LABELS[found.school],
        retained_water_ratio=retained,
        runs=[_shape_run(found, run, letters[run.setup_id], run.setup_revision_id != current[run.setup_id], run.id in poured) for run in found.runs],
        dial_ins=[_shape_run(found, run, letters[run.setup_id], run.setup_revision_id != current[run.setup_id], False) for run in found.dial_ins],
        setups=[_shape_setup(found, setup, revision) for setup, revision in found.setups],
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=[
            s.WindowShown(code=w.code, label=w.label, about=w.about, ey_pct=list(w.ey_pct), tds_pct=list(w.tds_pct)) for w in chartlines.windows(found.school)
        ],
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def _points(found: TrialResults) -> list[tuple[float, float]]:
    out = []
    for m in (found.measured[run.id] for run in found.runs):
        got = m.yield_in(found.school)
        if got and m.strength:
            out.append((got.value, m.strength.tds_pct))
    return out


def quantity(estimate: Estimate) -> s.Quantity:
    low, high = estimate.interval
    return s.Quantity(value=estimate.value, low=low, high=high, half_width=estimate.half_width)


def pooled_quantity(pooled: Pooled | None) -> s.Pooled | None:
    if pooled is None:
        return None
    between = None if pooled.between_u is None else t_975(pooled.n_brews - 1) * pooled.between_u
    return s.Pooled(
        **quantity(pooled.estimate).model_dump(),
        n_brews=pooled.n_brews,
        between_half_width=between,
        shared_half_width=t_975(float("inf")) * pooled.shared_u,
    )


def run_label(letter: str, run: Run) -> str:
    """A1, or A dial-in 1."""
    return f"{letter}{run.number}" if run.purpose == "evidence" else f"{letter} dial-in {run.number}"


def _shape_run(found: TrialResults, run: Run, letter: str, off_revision: bool, in_flight: bool) -> s.RunMeasured:
    m = found.measured[run.id]
    got = m.yield_in(found.school)
    both_times = run.total_time_s is not None and run.pour_end_s is not None
    return s.RunMeasured(
        id=run.id,
        rev=run.rev,
        setup_id=run.setup_id,
        letter=letter,
        number=run.number,
        label=run_label(letter, run),
        purpose=run.purpose,
        brewed_at=run.brewed_at,
        dose_g=run.dose_g,
        brew_water_g=run.brew_water_g,
        bypass_g=run.bypass_g,
        beverage_g=run.beverage_g,
        temperature_c=run.temperature_c,
        pour_end_s=run.pour_end_s,
        total_time_s=run.total_time_s,
        drawdown_s=run.total_time_s - run.pour_end_s if both_times else None,
        moisture_pct=run.moisture_pct,
        concentrate=bool(run.concentrate),
        note=run.note,
        readings=[s.ReadingShown(id=r.id, tds_pct=r.tds_pct, source=r.source, rev=r.rev) for r in found.readings[run.id]],
        tds=quantity(m.strength.estimate) if m.strength else None,
        extraction_yield=quantity(got) if got else None,
        brew_ratio=m.brew_ratio,
        beverage_ratio=m.beverage_ratio,
        retained_water_ratio=m.retained_water_ratio,
        off_revision=off_revision,
        in_flight=in_flight,
        warnings=[s.WarningShown(code=w.code, text=w.text) for w in m.warnings],
    )


def _shape_setup(found: TrialResults, setup: Setup, revision: SetupRevision) -> s.SetupMeasured:
    p = found.pooled[setup.id]
    return s.SetupMeasured(
        setup_id=setup.id,
        letter=setup.letter,
        name=found.names[setup.id],
        n_brews=p.n_brews,
        tds=pooled_quantity(p.tds),
        extraction_yield=pooled_quantity(p.extraction_yield),
        brew_ratio=p.brew_ratio,
        planned_ratio=(revision.brew_water_g + revision.bypass_g) / revision.dose_g,
        total_time_s=p.total_time_s,
    )
