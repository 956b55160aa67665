"""What happened at the table in a trial's blind flights, for the margin and the evidence grade."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ..core.tasting.serving import PASSES
from ..core.tasting.sheets import BY_EYE, FIRST_SIP
from ..core.trial.caveats import AtTable
from ..store.models import Flight, LateScore, Person, Score, Seal, Sheet
from .schemas import SIGHTED


def at_table(flights: Sequence[Flight]) -> AtTable:
    """Of closed flights; while one is tasted, nothing of it is said that a taster should not hear."""
    done = [f for f in flights if f.status != "open"]
    blind = [f for f in done if f.blinding not in SIGHTED]
    ids = [f.id for f in blind] or [""]
    seals = list(Seal.select().where(Seal.flight.in_([f.id for f in done] or [""])))
    by_eye = Score.select(Person.name).join(Sheet).join(Person).where(Sheet.flight.in_(ids) & (Score.attribute == BY_EYE) & Score.value.is_null(False))
    left = Sheet.select(Person.name).join(Person).where(Sheet.flight.in_(ids) & Sheet.left_at.is_null(False))
    spread, cold = _first_sips(ids)
    return AtTable(
        by_eye=sorted({name for (name,) in by_eye.tuples()}),
        clear_cups=any(f.options.get("cups") == "clear" for f in blind),
        no_cleanser=any(f.options.get("cleanser") is False for f in blind),
        host_saw_key=any(x.seen_by_host_at for x in seals if x.flight_id in ids),
        broken=any(x.broken_at for x in seals),
        sip_spread_c=spread,
        cold_c=cold,
        late=LateScore.select().join(Sheet).where(Sheet.flight.in_(ids)).count(),
        left=sorted({name for (name,) in left.tuples()}),
    )


def _first_sips(flight_ids: list[str]) -> tuple[float | None, float | None]:
    """The widest spread within one taster's pass, and the coldest sip that was below its pass; °C."""
    rows = Score.select(Score.sheet, Score.pass_name, Score.value).join(Sheet)
    sips: dict[tuple[str, str], list[float]] = defaultdict(list)
    for sheet, pass_name, value in rows.where(Sheet.flight.in_(flight_ids) & (Score.attribute == FIRST_SIP) & Score.value.is_null(False)).tuples():
        sips[sheet, pass_name].append(float(value))
    lowest = {name: to_c for name, _, to_c in PASSES}
    cold = [c for (_, pass_name), found in sips.items() for c in found if c < lowest.get(pass_name, 0)]
    return max((max(x) - min(x) for x in sips.values()), default=None), min(cold, default=None)
