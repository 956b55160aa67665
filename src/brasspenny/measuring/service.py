"""Results of a trial: every brew worked out, setups pooled, what the charts are drawn from. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..brewing import service as brewing
from ..brewing.readings import shown_as_read
from ..brewing.schemas import Observed
from ..core.brewing.observed import Tolerances
from ..core.extraction import chartlines, readings
from ..core.extraction.ladder import Ladder, fit_ladder, said
from ..core.extraction.measure import Measured, measure
from ..core.extraction.results import SetupMeasured, pool_setup, served_tds_pct, typical_retained
from ..core.extraction.uncertainty import Estimate, Instrument, Pooled, t_975
from ..core.extraction.yields import SCHOOL_LABELS, BrewerType, School
from ..store import queries
from ..store.models import Flight, FlightBrew, Run, Setup, SetupRevision, Trial
from ..trials import service as trials
from . import schemas as s

UNFILTERED: frozenset[BrewerType] = frozenset({"press_pot", "piston_press"})


@dataclass(frozen=True)
class TrialResults:
    """Everything the measured side knows of a trial; rooms after this one read it instead of the tables."""

    trial: Trial
    school: School
    instrument: Instrument
    tolerances: Tolerances
    setups: list[tuple[Setup, SetupRevision]]
    names: dict[str, str]
    runs: list[Run]
    readings: dict[str, list[queries.ReadingRow]]
    measured: dict[str, Measured]
    pooled: dict[str, SetupMeasured]
    dial_ins: list[Run]
    revisions: dict[str, SetupRevision]

    def runs_of(self, setup_id: str) -> list[Run]:
        return [run for run in self.runs if run.setup_id == setup_id]

    def letter_of(self, run: Run) -> str:
        return next(setup.letter for setup, _ in self.setups if setup.id == run.setup_id)

    def off_plan(self, run: Run) -> tuple[str, ...]:
        return brewing.off_plan_of(run, self.revisions[run.setup_revision_id], self.tolerances)

    def skipped(self, run: Run) -> tuple[str, ...]:
        return skipped_of(run, self.revisions[run.setup_revision_id].brewer_type)


def results_of(trial_id: str) -> TrialResults:
    trial = trials.open_trial(trial_id)
    setups, runs = queries.setups_with_revisions(trial.id), queries.live_runs(trial.id)
    dial_ins = queries.live_runs(trial.id, purpose="dial_in")
    school, own = trials.school_in_force(trial, setups), brewing.instrument()
    taken = queries.readings_of(run.id for run in (*runs, *dial_ins))
    measured = {run.id: measure_run(run, taken[run.id], own) for run in (*runs, *dial_ins)}
    widest = brewing.instrument_for(own, [r for run in runs for r in taken[run.id]])
    pooled = {
        setup.id: pool_setup(
            [(brewing.masses_of(run), measured[run.id], run.total_time_s) for run in runs if run.setup_id == setup.id],
            school=school,
            instrument=widest,
        )
        for setup, _ in setups
    }
    revisions = {revision.id: revision for _, revision in setups}
    older = {run.setup_revision_id for run in (*runs, *dial_ins)} - revisions.keys()
    revisions |= {r.id: r for r in SetupRevision.select().where(SetupRevision.id.in_(older))} if older else {}
    return TrialResults(
        trial, school, widest, brewing.tolerances(), setups, trials.display_names(trial, setups), runs, taken, measured, pooled, dial_ins, revisions
    )


def measure_run(run: Run, taken: list[queries.ReadingRow], own: Instrument) -> Measured:
    return measure(brewing.masses_of(run), [r.tds_pct for r in taken], brewing.instrument_for(own, taken))


def skipped_of(run: Run, brewer_type: str | None) -> tuple[str, ...]:
    """Steps of the protocol left out, where it was followed at all; filtering is asked of unfiltered brews only."""
    return readings.skipped_said(run.protocol["done"], asked=asked_of(brewer_type)) if run.protocol else ()


def asked_of(brewer_type: str | None) -> list[readings.ProtocolStep]:
    """The protocol's steps for a brewer."""
    return [r.code for r in readings.PROTOCOL if r.code != "filtered" or brewer_type in UNFILTERED]


def read_results(trial_id: str) -> s.ResultsAnswer:
    found = results_of(trial_id)
    letters = {setup.id: setup.letter for setup, _ in found.setups}
    current = {setup.id: setup.revision_id for setup, _ in found.setups}
    poured = {row[0] for row in FlightBrew.select(FlightBrew.run).join(Flight).where((Flight.trial == found.trial.id) & Flight.deleted_at.is_null()).tuples()}
    retained = typical_retained([found.measured[run.id] for run in found.runs])
    axes = chartlines.axes(_points(found))
    ratios = chartlines.ratios_to_draw(axes, school=found.school, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(school=found.school, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)

    def shaped(run: Run) -> s.RunMeasured:
        return shape_run(
            run,
            found.measured[run.id],
            found.readings[run.id],
            school=found.school,
            letter=letters[run.setup_id],
            off_revision=run.setup_revision_id != current[run.setup_id],
            in_flight=run.id in poured,
            off_plan=found.off_plan(run),
            skipped=found.skipped(run),
            asked=asked_of(found.revisions[run.setup_revision_id].brewer_type),
        )

    asks_heat = "temperature" in trials.factors_of(found.trial)
    return s.ResultsAnswer(
        school=found.school,
        school_label=SCHOOL_LABELS[found.school],
        retained_water_ratio=retained,
        runs=[shaped(run) for run in found.runs],
        dial_ins=[shaped(run) for run in found.dial_ins],
        setups=[_shape_setup(found, setup, revision) for setup, revision in found.setups],
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=shape_windows(found.school),
        overlays=shape_overlays(found.school),
        tds_ladder=_ladder(found, lambda m: m.strength.tds_pct if m.strength else None, "Strength", "% TDS", 2),
        ey_ladder=_ladder(found, lambda m: y.value if (y := m.yield_in(found.school)) else None, SCHOOL_LABELS[found.school].capitalize(), "points", 1),
        note=chartlines.TEMPERATURE_NOTE if asks_heat else "",
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def shape_windows(school: School) -> list[s.WindowShown]:
    return [s.WindowShown(code=w.code, label=w.label, about=w.about, ey_pct=list(w.ey_pct), tds_pct=list(w.tds_pct)) for w in chartlines.windows(school)]


def shape_overlays(school: School) -> list[s.OverlayShown]:
    return [s.OverlayShown(code=o.code, label=o.label, about=o.about, places=[s.PlaceShown(**vars(p)) for p in o.places]) for o in chartlines.overlays(school)]


def _points(found: TrialResults) -> list[tuple[float, float]]:
    out = []
    for m in (found.measured[run.id] for run in found.runs):
        got = m.yield_in(found.school)
        if got and m.strength:
            out.append((got.value, m.strength.tds_pct))
    return out


def _ladder(found: TrialResults, pick, what: str, unit: str, places: int) -> s.LadderShown | None:
    measured = [found.measured[run.id] for run in found.runs]
    points = [(m.brew_ratio, value) for m in measured if m.brew_ratio is not None and (value := pick(m)) is not None]
    fitted = fit_ladder(points, curved=True) if points else None
    return shape_ladder(fitted, what, unit, places) if fitted else None


def shape_ladder(fitted: Ladder, what: str, unit: str, places: int) -> s.LadderShown:
    return s.LadderShown(
        ratios=list(fitted.ratios),
        values=list(fitted.values),
        lows=list(fitted.lows),
        highs=list(fitted.highs),
        said=said(fitted, what=what, unit=unit, places=places),
    )


def quantity(estimate: Estimate) -> s.Quantity:
    low, high = estimate.interval
    return s.Quantity(value=estimate.value, low=low, high=high, half_width=estimate.half_width)


def pooled_quantity(pooled: Pooled | None, readings_u: float = 0.0) -> s.Pooled | None:
    if pooled is None:
        return None
    between = None if pooled.between_u is None else t_975(pooled.n_brews - 1) * pooled.between_u
    normal = t_975(float("inf"))
    return s.Pooled(
        **quantity(pooled.estimate).model_dump(),
        n_brews=pooled.n_brews,
        between_half_width=between,
        shared_half_width=normal * pooled.shared_u,
        readings_half_width=normal * readings_u,
    )


def run_label(letter: str, run: Run) -> str:
    """A1, or A dial-in 1."""
    return f"{letter}{run.number}" if run.purpose == "evidence" else f"{letter} dial-in {run.number}" if run.purpose == "dial_in" else "loose brew"


def shape_run(
    run: Run,
    m: Measured,
    taken: list[queries.ReadingRow],
    *,
    school: School,
    letter: str,
    off_revision: bool = False,
    in_flight: bool = False,
    off_plan: tuple[str, ...] = (),
    skipped: tuple[str, ...] = (),
    asked: Sequence[readings.ProtocolStep] = (),
) -> s.RunMeasured:
    got = m.yield_in(school)
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
        readings=[s.ReadingShown(id=r.id, tds_pct=r.tds_pct, source=r.source, as_read=shown_as_read(r.as_read), rev=r.rev) for r in taken],
        tds=quantity(m.strength.estimate) if m.strength else None,
        extraction_yield=quantity(got) if got else None,
        brew_ratio=m.brew_ratio,
        beverage_ratio=m.beverage_ratio,
        retained_water_ratio=m.retained_water_ratio,
        off_revision=off_revision,
        in_flight=in_flight,
        observed=Observed.model_validate(run.observed),
        off_plan=list(off_plan),
        skipped=list(skipped),
        asked=list(asked),
        served=shape_served(run, m),
        has_curve=run.curve is not None,
        warnings=[s.WarningShown(code=w.code, text=w.text) for w in m.warnings],
    )


def shape_served(run: Run, m: Measured) -> s.ServedShown | None:
    if not run.served:
        return None
    return s.ServedShown(
        added_water_g=run.served["added_water_g"],
        water_c=run.served["water_c"],
        tds_pct=served_strength(run, m),
        confirmed=run.served["tds_pct"] is not None,
    )


def served_strength(run: Run, m: Measured) -> float | None:
    """% TDS of the cups poured from this brew: as served where it was thinned, else as brewed."""
    if m.strength is None:
        return None
    if not run.served or run.beverage_g is None:
        return m.strength.tds_pct
    return served_tds_pct(
        tds_pct=m.strength.tds_pct, beverage_g=run.beverage_g, added_water_g=run.served["added_water_g"], read_again_pct=run.served["tds_pct"]
    )


def _shape_setup(found: TrialResults, setup: Setup, revision: SetupRevision) -> s.SetupMeasured:
    p = found.pooled[setup.id]
    return s.SetupMeasured(
        setup_id=setup.id,
        letter=setup.letter,
        name=found.names[setup.id],
        n_brews=p.n_brews,
        tds=pooled_quantity(p.tds),
        extraction_yield=pooled_quantity(p.extraction_yield, p.readings_u),
        brew_ratio=p.brew_ratio,
        planned_ratio=(revision.brew_water_g + revision.bypass_g) / revision.dose_g,
        total_time_s=p.total_time_s,
    )
