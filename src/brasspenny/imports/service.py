"""Reading a table of brews, showing what each row becomes, and writing all of it or nothing."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime

from ..act import Act
from ..core.importing.columns import TARGET, TARGETS, UNITS, Meaning, guess
from ..core.importing.rows import Fault, ReadBrew, Reader, days_come_first
from ..http import bytes_of
from ..interchange.tables import NotATable, Table, read_table
from ..refusals import Conflict, Unprocessable
from ..store.models import Bench, ImportMapping, Run, Setup, SetupRevision, instrument_of
from ..store.writing import use_case
from . import schemas as s
from .writing import KIT_KINDS, Written, known_names, write

MOST_FAULTS, SHOWN = 200, 12
NEEDED = (("dose_g", "brew_ratio"), ("brew_water_g", "brew_ratio"))


@dataclass(frozen=True)
class Understood:
    """A table with what its columns mean; brews: of the rows that can be read."""

    table: Table
    meanings: tuple[Meaning, ...]
    day_first: bool
    days_unclear: bool
    known: bool
    brews: tuple[ReadBrew, ...]
    faults: tuple[Fault, ...]


def look_at(sent: s.BrewTableBody) -> s.BrewTableAnswer:
    found = _understand(sent)
    fresh, here = _fresh(found.brews)
    return s.BrewTableAnswer(
        columns=[_column(found, i) for i in range(len(found.table.headers))],
        targets=[s.ImportTarget(code=t.code, label=t.label, kind=t.kind, many=t.many) for t in TARGETS],
        rows=len(found.table.rows),
        ready=len(fresh),
        here=here,
        fault_rows=len({f.row for f in found.faults}),
        fault_count=len(found.faults),
        faults=[_fault(found, f) for f in found.faults[:MOST_FAULTS]],
        becomes=[_becomes(b) for b in fresh[:SHOWN]],
        new_kit=_new_kit(fresh),
        day_first=found.day_first,
        days_unclear=found.days_unclear,
        known=found.known,
        missing=_missing(found.meanings),
    )


@use_case
def bring_in(sent: s.BrewTableWrite, act: Act) -> s.BroughtInAnswer:
    found = _understand(sent)
    if missing := _missing(found.meanings):
        raise Unprocessable("meanings", f"No column gives {' or '.join(missing)}.", "Choose the column.")
    if found.faults and not sent.leave_out_faulty:
        first = found.faults[0]
        raise Unprocessable("data", f"{len(found.faults)} cells cannot be read; the first stands in row {first.row}.", "Fix them, or skip those rows.")
    fresh, here = _fresh(found.brews)
    if not fresh:
        raise Conflict("data", "There is nothing to import: every row that can be read is already on this bench.", "Choose another table.")
    written: Written = write(fresh, act)
    _remember(found, act)
    return s.BroughtInAnswer(
        brews=written.brews, readings=written.readings, left_out=len({f.row for f in found.faults}), here=here, new_kit=sorted(written.new_kit)
    )


# --- understanding ---------------------------------------------------------------------------------------------------


def _understand(sent: s.BrewTableBody) -> Understood:
    table = _table(sent.data)
    kept = ImportMapping.get_or_none(ImportMapping.headers_hash == _headers_hash(table))
    samples = [table.column(i) for i in range(len(table.headers))]
    known = sent.meanings is None and kept is not None
    if sent.meanings is not None:
        meanings = _given(sent.meanings, table)
    elif kept is not None:
        meanings = tuple(Meaning(**m) for m in kept.meanings)
    else:
        meanings = guess(table.headers, samples)
    days = [c for i, m in enumerate(meanings) if m.target == "brewed_at" for c in table.column(i, len(table.rows))]
    day_first = days_come_first(days) if sent.day_first is None else sent.day_first
    bench = Bench.get_by_id(1)
    reader = Reader(meanings, day_first, bench.brix_factor, instrument_of(bench))
    brews, faults = [], []
    for number, cells in table.rows:
        brew, wrong = reader.read(number, cells)
        faults += wrong
        if brew:
            brews.append(brew)
    return Understood(table, meanings, day_first, _unclear(days), known, tuple(brews), tuple(faults))


def _table(data: str) -> Table:
    raw = bytes_of(data)
    try:
        return read_table(raw)
    except NotATable as error:
        raise Unprocessable("data", error.reason, error.remedy) from None


def _given(sent: list[s.ColumnMeaning], table: Table) -> tuple[Meaning, ...]:
    if len(sent) != len(table.headers):
        raise Unprocessable("meanings", f"The table has {len(table.headers)} columns.", "Give one meaning for each.")
    taken: set[str] = set()
    for i, m in enumerate(sent):
        if m.target and m.target not in TARGET:
            raise Unprocessable(f"meanings.{i}.target", f"“{m.target}” is nothing a brew has.", f"Give one of {', '.join(TARGET)}, or leave it empty.")
        if m.target in taken and not TARGET[m.target].many:
            raise Unprocessable(f"meanings.{i}.target", f"Two columns are {TARGET[m.target].label.lower()}.", "Leave one of them out.")
        units = UNITS.get(TARGET[m.target].kind, ()) if m.target else ()
        if m.unit and m.unit not in units:
            raise Unprocessable(f"meanings.{i}.unit", f"“{m.unit}” is no unit of it.", f"Give one of {', '.join(units)}." if units else "Leave it empty.")
        taken.add(m.target)
    return tuple(Meaning(m.target, m.unit) for m in sent)


def _missing(meanings: Iterable[Meaning]) -> list[str]:
    there = {m.target for m in meanings}
    needs = [TARGET[first].label.lower() for first, other in NEEDED if first not in there and other not in there]
    return needs or ([] if {"dose_g", "brew_water_g"} & there else ["dose", "brew water"])


AMBIGUOUS = re.compile(r"\d{1,2}/\d{1,2}/\d{2,4}")


def _unclear(days: list[str]) -> bool:
    """Whether nothing in them tells 3 April from 4 March."""
    parted = [d.strip() for d in days if AMBIGUOUS.match(d.strip())]
    return bool(parted) and all(max(int(n) for n in d.split("/")[:2]) <= 12 for d in parted)


def _headers_hash(table: Table) -> str:
    return hashlib.sha256("\n".join(h.lower() for h in table.headers).encode()).hexdigest()


def _remember(found: Understood, act: Act) -> None:
    """The next table with these headings is read the same way."""
    meanings = [{"target": m.target, "unit": m.unit} for m in found.meanings]
    ImportMapping.replace(headers_hash=_headers_hash(found.table), meanings=meanings, at=act.now).execute()


# --- what is here already --------------------------------------------------------------------------------------------


def _fresh(brews: tuple[ReadBrew, ...]) -> tuple[list[ReadBrew], int]:
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


def _column(found: Understood, i: int) -> s.ImportColumn:
    m = found.meanings[i]
    units = UNITS.get(TARGET[m.target].kind, ()) if m.target else ()
    samples = [c for c in found.table.column(i) if c.strip()][:3]
    return s.ImportColumn(header=found.table.headers[i], target=m.target, unit=m.unit or (units[0] if units else ""), units=list(units), samples=samples)


def _fault(found: Understood, f: Fault) -> s.ImportFault:
    header = found.table.headers[f.column] if f.column is not None else ""
    return s.ImportFault(row=f.row, header=header, cell=f.cell[:60], reason=f.reason, remedy=f.remedy)


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
