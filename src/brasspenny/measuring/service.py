"""Results of a trial: every brew worked out, setups pooled, what the charts are drawn from. Reads only."""

from __future__ import annotations

from collections.abc import Sequence

from ..brewing.readings import shown_as_read
from ..brewing.schemas import Observed
from ..core.extraction import chartlines, readings
from ..core.extraction.ladder import Ladder, fit_ladder, said
from ..core.extraction.measure import Measured
from ..core.extraction.results import typical_retained
from ..core.extraction.uncertainty import Estimate, Pooled, t_975, why_wide
from ..core.extraction.yields import YIELD_BASIS_LABELS
from ..core.trial.matching import doubt_of_served, served_of
from ..core.trial.measured import MeasuredTrial, asked_of, measure_trial, run_label, served_strength
from ..core.trial.value import Brew, Reading, Setup, SetupRevision
from ..core.vocabulary import YieldBasis
from ..recipes.pours import pours_of
from ..trials import service as trials
from . import schemas as s


def results_of(trial_id: str) -> MeasuredTrial:
    """The trial as it stands, with every brew worked out."""
    return measure_trial(trials.frozen(trial_id))


def read_results(trial_id: str) -> s.ResultsAnswer:
    return shape_results(results_of(trial_id))


def shape_results(found: MeasuredTrial) -> s.ResultsAnswer:
    letters = {setup.id: setup.letter for setup, _ in found.setups}
    current = {setup.id: setup.revision_id for setup, _ in found.setups}
    poured = {p.run_id for flight in found.trial.flights for p in flight.brews}
    retained = typical_retained(found.measured[run.id].retained_water_ratio for run in found.runs)
    axes = chartlines.axes(_points(found))
    ratios = chartlines.ratios_to_draw(axes, yield_basis=found.yield_basis, retained_water_ratio=retained)
    lines = chartlines.ratio_lines(yield_basis=found.yield_basis, retained_water_ratio=retained, ey_range_pct=axes.ey_pct, ratios=ratios)

    def shaped(run: Brew) -> s.RunMeasured:
        return shape_run(
            run,
            found.measured[run.id],
            run.readings,
            found.revision_of(run),
            yield_basis=found.yield_basis,
            letter=letters[run.setup_id],
            off_revision=run.setup_revision_id != current[run.setup_id],
            in_flight=run.id in poured,
            off_plan=found.off_plan(run),
            skipped=found.skipped(run),
            asked=asked_of(found.revision_of(run)),
        )

    asks_heat = "temperature" in found.trial.factors
    return s.ResultsAnswer(
        yield_basis=found.yield_basis,
        yield_basis_label=YIELD_BASIS_LABELS[found.yield_basis],
        retained_water_ratio=retained,
        runs=[shaped(run) for run in found.runs],
        dial_ins=[shaped(run) for run in found.dial_ins],
        setups=[_shape_setup(found, setup, revision) for setup, revision in found.setups],
        ratio_lines=[s.RatioLineShown(brew_ratio=line.brew_ratio, points=[list(p) for p in line.points]) for line in lines],
        windows=shape_windows(found.yield_basis),
        overlays=shape_overlays(found.yield_basis),
        tds_ladder=_ladder(found, lambda m: m.strength.tds_pct if m.strength else None, "Strength", "% TDS", 2),
        ey_ladder=_ladder(
            found, lambda m: y.value if (y := m.yield_in(found.yield_basis)) else None, YIELD_BASIS_LABELS[found.yield_basis].capitalize(), "points", 1
        ),
        note=chartlines.TEMPERATURE_NOTE if asks_heat else "",
        ey_axis_pct=[float(x) for x in axes.ey_pct],
        tds_axis_pct=[float(x) for x in axes.tds_pct],
    )


def shape_windows(yield_basis: YieldBasis) -> list[s.WindowShown]:
    return [s.WindowShown(code=w.code, label=w.label, about=w.about, ey_pct=list(w.ey_pct), tds_pct=list(w.tds_pct)) for w in chartlines.windows(yield_basis)]


def shape_overlays(yield_basis: YieldBasis) -> list[s.OverlayShown]:
    return [
        s.OverlayShown(code=o.code, label=o.label, about=o.about, places=[s.PlaceShown(**vars(p)) for p in o.places]) for o in chartlines.overlays(yield_basis)
    ]


def _points(found: MeasuredTrial) -> list[tuple[float, float]]:
    out = []
    for m in (found.measured[run.id] for run in found.runs):
        got = m.yield_in(found.yield_basis)
        if got and m.strength:
            out.append((got.value, m.strength.tds_pct))
    return out


def _ladder(found: MeasuredTrial, pick, what: str, unit: str, places: int) -> s.LadderShown | None:
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
        note=why_wide(pooled.n_brews, between, normal * pooled.shared_u),
    )


def shape_run(
    run: Brew,
    m: Measured,
    taken: Sequence[Reading],
    revision: SetupRevision,
    *,
    yield_basis: YieldBasis,
    letter: str,
    off_revision: bool = False,
    in_flight: bool = False,
    off_plan: tuple[str, ...] = (),
    skipped: tuple[str, ...] = (),
    asked: Sequence[readings.ProtocolStep] = (),
) -> s.RunMeasured:
    got = m.yield_in(yield_basis)
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
        pours=pours_of(run, revision),
        off_plan=list(off_plan),
        skipped=list(skipped),
        asked=list(asked),
        undiluted_tds_pct=m.tds_undiluted_pct if run.bypass_g else None,
        served=shape_served(run, m),
        has_curve=run.has_curve,
        warnings=[s.WarningShown(code=w.code, text=w.text) for w in m.warnings],
    )


def shape_served(run: Brew, m: Measured) -> s.ServedShown | None:
    if not run.served:
        return None
    return s.ServedShown(
        added_water_g=run.served["added_water_g"],
        water_c=run.served["water_c"],
        tds_pct=served_strength(run, m),
        confirmed=run.served["tds_pct"] is not None,
        doubt=doubt_of_served(run, as_brewed_pct=m.strength.tds_pct if m.strength else None),
    )


def shape_served_mean(found: MeasuredTrial, setup_id: str) -> s.ServedMean | None:
    mean = served_of(found, setup_id)
    return None if mean is None else s.ServedMean(**vars(mean))


def _shape_setup(found: MeasuredTrial, setup: Setup, revision: SetupRevision) -> s.SetupMeasured:
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
        served=shape_served_mean(found, setup.id),
    )
