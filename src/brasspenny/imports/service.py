"""Reading a table of brews, showing what each row becomes, and writing all of it or nothing."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import UTC, datetime

from ..act import Act
from ..core.importing.columns import TARGET, TARGETS, Meaning, guess
from ..core.importing.rows import Fault, ReadBrew, Reader
from ..progress_stream import TELLS_EVERY, Steps, TrackedSteps
from ..refusals import Conflict, Unprocessable
from ..store.models import Bench, Run, Setup, SetupRevision, instrument_of
from ..store.writing import held
from . import schemas as s
from .understanding import SHOWN, Columns, refuse_faulty, remember, shape, understand
from .writing import KIT_KINDS, known_names, write

NEEDED = (("dose_g", "brew_ratio"), ("brew_water_g", "brew_ratio"))


def look_at(sent: s.OwnTableBody) -> s.BrewTableAnswer:
    found, brews, faults = TrackedSteps(_read(sent)).to_the_end()
    fresh, here = _fresh(brews)
    return s.BrewTableAnswer(
        **shape(found, faults),
        ready=len(fresh),
        here=here,
        becomes=[_becomes(b) for b in fresh[:SHOWN]],
        new_kit=_new_kit(fresh),
        missing=_missing(found.meanings),
    )


def bring_in(sent: s.BrewTableWrite, act: Act) -> Steps[s.BroughtInAnswer]:
    """The table is read before anything is held: reading ten thousand rows takes seconds. Every row is gone through twice, read and written."""
    found, brews, faults = yield from _read(sent)
    if missing := _missing(found.meanings):
        raise Unprocessable("meanings", f"No column gives {' or '.join(missing)}.", "Choose the column.")
    refuse_faulty(faults, leave_out=sent.leave_out_faulty)
    with held():
        return (yield from _write(found, brews, faults, act))


def _write(found: Columns, brews: Sequence[ReadBrew], faults: Sequence[Fault], act: Act) -> Steps[s.BroughtInAnswer]:
    fresh, here = _fresh(brews)
    if not fresh:
        raise Conflict("data", "There is nothing to import: every row that can be read is already on this bench.", "Choose another table.")
    rows, writing = len(found.table.rows), TrackedSteps(write(fresh, act))
    for done, _ in writing:
        yield rows + done, 2 * rows
    written = writing.came_to
    remember(found, act)
    return s.BroughtInAnswer(brews=written.brews, readings=written.readings, left_out=len({f.row for f in faults}), here=here, new_kit=sorted(written.new_kit))


def _read(sent: s.OwnTableBody) -> Steps[tuple[Columns, list[ReadBrew], list[Fault]]]:
    found = understand(sent, "brews", TARGETS, guess)
    reader = Reader(found.cells, instrument_of(Bench.get_by_id(1)))
    brews, faults = [], []
    for done, (number, cells) in enumerate(found.table.rows):
        if done % TELLS_EVERY == 0:
            yield done, 2 * len(found.table.rows)
        brew, wrong = reader.read(number, cells)
        faults += wrong
        if brew:
            brews.append(brew)
    return found, brews, faults


def _missing(meanings: Iterable[Meaning]) -> list[str]:
    there = {m.target for m in meanings}
    needs = [TARGET[first].label.lower() for first, other in NEEDED if first not in there and other not in there]
    return needs or ([] if {"dose_g", "brew_water_g"} & there else ["dose", "brew water"])


# --- what is here already --------------------------------------------------------------------------------------------


def _fresh(brews: Sequence[ReadBrew]) -> tuple[list[ReadBrew], int]:
    """Those that are not on the bench yet, and how many are: the same table brought in twice is brought in once. A brew without a day is always new."""
    dated = [b.brewed_at for b in brews if b.brewed_at]
    if not dated:
        return list(brews), 0
    rows = (
        Run.select(Run.brewed_at, Run.dose_g, Run.brew_water_g, Run.beverage_g, SetupRevision.coffee, Setup.name)
        .join(Setup)
        .switch(Run)
        .join(SetupRevision)
        .where(Run.deleted_at.is_null() & Run.trial.is_null() & Run.brewed_at.between(min(dated).replace(tzinfo=UTC), max(dated).replace(tzinfo=UTC)))
    )
    there: dict[tuple, int] = {}
    for at, dose, water, beverage, coffee, name in rows.tuples():
        key = _key(at, dose, water, beverage, coffee, name)
        there[key] = there.get(key, 0) + 1
    fresh, here = [], 0
    for b in brews:
        key = _key(b.brewed_at, b.dose_g, b.brew_water_g, b.beverage_g, b.texts.get("coffee", ""), b.texts.get("name", "")) if b.brewed_at else None
        if key and there.get(key, 0) > 0:
            there[key] -= 1
            here += 1
        else:
            fresh.append(b)
    return fresh, here


def _key(at: datetime, dose: float, water: float | None, beverage: float | None, coffee: str, name: str) -> tuple:
    masses = tuple(None if m is None else round(float(m), 2) for m in (dose, water, beverage))
    return (at.replace(tzinfo=None, microsecond=0), *masses, coffee.casefold(), name.casefold())


def _new_kit(brews: Iterable[ReadBrew]) -> list[str]:
    known = known_names()
    found = {(kind, b.texts[kind].casefold()): b.texts[kind] for b in brews for kind in KIT_KINDS if b.texts.get(kind)}
    return sorted(name for (kind, folded), name in found.items() if (kind, folded) not in known)


# --- shapes ----------------------------------------------------------------------------------------------------------


def _becomes(b: ReadBrew) -> s.ImportBecomes:
    kit = " · ".join(filter(None, (b.texts.get("grinder", ""), b.texts.get("grind_setting", ""), b.texts.get("brewer", ""), b.texts.get("filter", ""))))
    return s.ImportBecomes(
        row=b.row,
        brewed_at=b.brewed_at.replace(tzinfo=UTC) if b.brewed_at else None,
        name=b.texts.get("name", ""),
        coffee=b.texts.get("coffee", ""),
        kit=kit,
        dose_g=b.dose_g,
        brew_water_g=b.brew_water_g,
        beverage_g=b.beverage_g,
        temperature_c=b.temperature_c,
        total_time_s=b.total_time_s,
        tds_pct=list(b.tds_pct),
        liking=b.liking,
        note=b.texts.get("note", ""),
    )
