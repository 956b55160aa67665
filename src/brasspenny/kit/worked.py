"""What is worked out about a piece of kit: days off roast, stock, τ, the retained ratio learnt from own brews. Reads only."""

from __future__ import annotations

import statistics
from collections.abc import Iterator, Sequence

from ..act import Act
from ..core import figures
from ..core.brewing.observed import Tolerances
from ..core.extraction.measure import counts_for_forecasts
from ..core.extraction.uncertainty import Instrument
from ..core.extraction.yields import YIELD_BASIS_LABELS, yield_basis_of
from ..core.kit.advice import kit_cautions, resting
from ..core.kit.waters import ADVISED, QUALITIES
from ..core.recipe.outlook import History
from ..core.trial.measured import measure_run, off_plan_of
from ..core.vocabulary import YieldBasis
from ..store import queries
from ..store.models import Bench, KitItem, StockEntry, instrument_of, tolerances_of
from . import schemas as s
from . import service
from .facts import VesselFacts, fitted_tau_s
from .summaries import days_off_roast

MOST_BREWS = 200


def read_item(item_id: str, act: Act) -> s.KitDetail:
    item = service.open_item(item_id)
    setups, runs = queries.uses_of(item.id)
    entries = list(StockEntry.select().where((StockEntry.kit_item == item.id) & StockEntry.deleted_at.is_null()).order_by(StockEntry.at.desc()))
    return s.KitDetail(
        item=service.shape_alone(item, act),
        used_by_setups=setups,
        used_by_runs=runs,
        worked_out=list(_worked_out(item, act)),
        stock=[s.StockLine(id=e.id, mass_g=e.mass_g, note=e.note, at=e.at) for e in entries],
        stock_g=queries.stock_by_coffee().get(item.id) if item.kind == "coffee" else None,
        cautions=list(kit_cautions(item.kind, item.facts)),
    )


def _worked_out(item: KitItem, act: Act) -> Iterator[s.Worked]:
    facts = item.facts
    if item.kind == "coffee" and (days := days_off_roast(facts, act.now.date())) is not None:
        yield s.Worked(label="Off roast today", value=days, unit="days", text=resting(days))
    if item.kind == "brewer":
        history = history_of(item)
        learnt = len(history.retained)
        yield s.Worked(
            label="Water retained by the grounds",
            value=history.retained_water_ratio,
            unit="g/g",
            text=f"Median of {learnt} brews: real, on plan and plausible ones." if learnt else "No such brew yet: the usual 2.1 is assumed.",
        )
        if len(history.ey_pct) >= 2:
            spread = statistics.stdev(history.ey_pct)
            yield s.Worked(
                label="Yield, own brews",
                value=statistics.fmean(history.ey_pct),
                unit="%",
                text=f"± {figures.ey(2 * spread)} from brew to brew, all coffees.",
            )
        if item.brewer_type:
            yield s.Worked(label="Yield is quoted as", value=None, unit="", text=YIELD_BASIS_LABELS[brewer_yield_basis(item)])
    if item.kind == "vessel" and (tau := fitted_tau_s(VesselFacts.model_validate(facts))) is not None:
        yield s.Worked(label="Cooling time constant", value=tau / 60, unit="min", text="Fitted from the two readings.")
    if item.kind == "water":
        for quality, (low, high) in ADVISED.items():
            value = facts.get(quality)
            if value is not None and not low <= value <= high:
                yield s.Worked(label=QUALITIES[quality].split(",")[0].capitalize(), value=value, unit="mg/L", text=f"Common advice is {low:g} to {high:g}.")
    if item.kind == "instrument" and not facts.get("checked_on"):
        yield s.Worked(label="Last check", value=None, unit="", text="Never checked against anything known.")


def brewer_yield_basis(item: KitItem) -> YieldBasis:
    return item.facts.get("yield_basis") or (yield_basis_of(item.brewer_type) if item.brewer_type else "in_cup")


def history_of(item: KitItem | None) -> History:
    """What earlier brews with this brewer gave, for predictions."""
    if item is None:
        return History()
    bench = Bench.get_by_id(1)
    return histories([item], instrument_of(bench), tolerances_of(bench))[item.id]


def histories(brewers: Sequence[KitItem], own: Instrument, allowed: Tolerances) -> dict[str, History]:
    """Brewer → yields and retained ratios of its newest brews. Made-up, off-plan and doubtful brews teach nothing."""
    found = queries.brews_with([b.id for b in brewers], limit=MOST_BREWS)
    return {b.id: _history(found[b.id], brewer_yield_basis(b), own, allowed) for b in brewers}


def _history(brews, yield_basis: YieldBasis, own: Instrument, allowed: Tolerances) -> History:
    yields, retained = [], []
    for run, readings in brews:
        m = measure_run(run, readings, own, run.setup_revision)
        off_plan = bool(off_plan_of(run, run.setup_revision, allowed))
        if not counts_for_forecasts(m, simulated=bool(run.observed.get("simulated")), off_plan=off_plan):
            continue
        if (got := m.yield_in(yield_basis)) is not None:
            yields.append(got.value)
        if m.retained_water_ratio is not None:
            retained.append(m.retained_water_ratio)
    return History(tuple(yields), tuple(retained))
