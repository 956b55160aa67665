"""A table with what its columns mean: as guessed, as said, or as one with these headings was read before."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..act import Act
from ..core.importing.columns import Meaning, Target, units_of
from ..core.importing.rows import CellReader, Fault, days_come_first
from ..http import bytes_of, client_left
from ..interchange.tables import NotATable, Table, read_table
from ..refusals import Unprocessable
from ..store.models import Bench, ImportMapping
from . import schemas as s

MOST_FAULTS, SHOWN = 200, 12
Guess = Callable[[Sequence[str], Sequence[Sequence[str]]], tuple[Meaning, ...]]


@dataclass(frozen=True)
class Columns:
    """targets: what a column may be, by code; known: read as a table of this kind with these headings was read before."""

    kind: str
    table: Table
    targets: Mapping[str, Target]
    cells: CellReader
    days_unclear: bool
    known: bool

    @property
    def meanings(self) -> tuple[Meaning, ...]:
        return self.cells.meanings


def understand(sent: s.OwnTableBody, kind: str, targets: Sequence[Target], guess: Guess) -> Columns:
    """kind: of table; one with the same headings may be read as another."""
    by_code = {t.code: t for t in targets}
    table = _table(sent.data)
    kept = ImportMapping.get_or_none(ImportMapping.headers_hash == _headers_hash(kind, table))
    if sent.meanings is not None:
        meanings = _given(sent.meanings, table, by_code)
    elif kept is not None:
        meanings = tuple(Meaning(**m) for m in kept.meanings)
    else:
        meanings = guess(table.headers, [table.column(i) for i in range(len(table.headers))])
    days = [c for i, m in enumerate(meanings) if m.target == "brewed_at" for c in table.column(i, len(table.rows))]
    day_first = days_come_first(days) if sent.day_first is None else sent.day_first
    cells = CellReader(meanings, by_code, day_first, Bench.get_by_id(1).brix_factor)
    return Columns(kind, table, by_code, cells, _unclear(days), sent.meanings is None and kept is not None)


def _table(data: str) -> Table:
    raw = bytes_of(data)
    try:
        return read_table(raw, client_left)
    except NotATable as error:
        raise Unprocessable("data", error.reason, error.remedy) from None


def _given(sent: list[s.ColumnMeaning], table: Table, targets: Mapping[str, Target]) -> tuple[Meaning, ...]:
    if len(sent) != len(table.headers):
        raise Unprocessable("meanings", f"The table has {len(table.headers)} columns.", "Give one meaning for each.")
    taken: set[str] = set()
    for i, m in enumerate(sent):
        if m.target and m.target not in targets:
            raise Unprocessable(f"meanings.{i}.target", f"“{m.target}” is nothing a column can be.", f"Give one of {', '.join(targets)}, or leave it empty.")
        if m.target in taken and not targets[m.target].many:
            raise Unprocessable(f"meanings.{i}.target", f"Two columns are {targets[m.target].label.lower()}.", "Leave one of them out.")
        units = units_of(targets.get(m.target))
        if m.unit and m.unit not in units:
            raise Unprocessable(f"meanings.{i}.unit", f"“{m.unit}” is no unit of it.", f"Give one of {', '.join(units)}." if units else "Leave it empty.")
        taken.add(m.target)
    return tuple(Meaning(m.target, m.unit) for m in sent)


AMBIGUOUS = re.compile(r"\d{1,2}/\d{1,2}/\d{2,4}")


def _unclear(days: list[str]) -> bool:
    """Whether nothing in them tells 3 April from 4 March."""
    parted = [d.strip() for d in days if AMBIGUOUS.match(d.strip())]
    return bool(parted) and all(max(int(n) for n in d.split("/")[:2]) <= 12 for d in parted)


def _headers_hash(kind: str, table: Table) -> str:
    named = "\n".join(h.lower() for h in table.headers)
    return hashlib.sha256((named if kind == "brews" else f"{kind}\n{named}").encode()).hexdigest()


def remember(found: Columns, act: Act) -> None:
    """The next table of this kind with these headings is read the same way."""
    meanings = [{"target": m.target, "unit": m.unit} for m in found.meanings]
    ImportMapping.replace(headers_hash=_headers_hash(found.kind, found.table), meanings=meanings, at=act.now).execute()


def refuse_faulty(faults: Sequence[Fault], *, leave_out: bool) -> None:
    """Nothing is written while a fault stands, unless its row is to be left out."""
    if faults and not leave_out:
        raise Unprocessable("data", f"{len(faults)} cells cannot be read; the first stands in row {faults[0].row}.", "Fix them, or skip those rows.")


# --- shapes ----------------------------------------------------------------------------------------------------------


def shape(found: Columns, faults: Sequence[Fault]) -> dict:
    """What every look at a table tells, whatever its kind."""
    return {
        "columns": [_column(found, i) for i in range(len(found.table.headers))],
        "targets": [s.ImportTarget(code=t.code, label=t.label, kind=t.kind, many=t.many) for t in found.targets.values()],
        "rows": len(found.table.rows),
        "fault_rows": len({f.row for f in faults}),
        "fault_count": len(faults),
        "faults": [_fault(found, f) for f in faults[:MOST_FAULTS]],
        "day_first": found.cells.day_first,
        "days_unclear": found.days_unclear,
        "known": found.known,
    }


def _column(found: Columns, i: int) -> s.ImportColumn:
    m = found.meanings[i]
    units = units_of(found.targets.get(m.target))
    samples = [c for c in found.table.column(i) if c.strip()][:3]
    return s.ImportColumn(header=found.table.headers[i], target=m.target, unit=m.unit or (units[0] if units else ""), units=list(units), samples=samples)


def _fault(found: Columns, f: Fault) -> s.ImportFault:
    header = found.table.headers[f.column] if f.column is not None else ""
    return s.ImportFault(row=f.row, header=header, cell=f.cell[:60], reason=f.reason, remedy=f.remedy)
