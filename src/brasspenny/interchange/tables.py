"""Somebody's own table as rows of text: CSV and TSV in any usual encoding and separator, XLSX by its first sheet with a table in it."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Any

MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 20_000, 60, 2_000
MOST_UNPACKED = 200_000_000
"""Bytes an XLSX may unpack to: a small file can hold a very large one."""


class NotATable(Exception):
    """Why, and what to do."""

    def __init__(self, reason: str, remedy: str) -> None:
        super().__init__(f"{reason} {remedy}")
        self.reason, self.remedy = reason, remedy


@dataclass(frozen=True)
class Table:
    """headers: the first row that is not empty; rows: as (number, cells), numbered as the file counts them; empty ones are left out."""

    headers: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]

    def column(self, i: int, most: int = 200) -> list[str]:
        """Some cells of a column, from the top."""
        return [cells[i] if i < len(cells) else "" for _, cells in self.rows[:most]]


def read_table(raw: bytes) -> Table:
    """Raises NotATable."""
    if not raw.strip():
        raise NotATable("The file is empty.", "Choose a table with a row of headings.")
    lines = _xlsx(raw) if raw[:4] == b"PK\x03\x04" else _separated(raw)
    head: tuple[str, ...] | None = None
    rows = []
    for number, cells in lines:
        if not any(c.strip() for c in cells):
            continue
        if head is None:
            head = tuple(c.strip()[:120] for c in _trimmed(cells))
            if len(head) > MOST_COLUMNS:
                raise NotATable(f"The table has {len(head)} columns.", f"Give at most {MOST_COLUMNS}.")
            continue
        if len(rows) >= MOST_ROWS:
            raise NotATable(f"The table has more than {MOST_ROWS} rows.", "Split it, and bring in one part after the other.")
        rows.append((number, tuple(c.strip()[:LONGEST_CELL] for c in cells[: len(head)])))
    if head is None or not rows:
        raise NotATable("There is no row under the headings.", "Choose a table with a row of headings and a row for each brew.")
    return Table(head, tuple(rows))


def _trimmed(cells: tuple[str, ...]) -> tuple[str, ...]:
    last = max(i for i, c in enumerate(cells) if c.strip())
    return cells[: last + 1]


# --- text ------------------------------------------------------------------------------------------------------------


def _separated(raw: bytes) -> Iterator[tuple[int, tuple[str, ...]]]:
    text = _text(raw)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=_delimiter(text), strict=False)
    try:
        before = 0
        for cells in reader:
            number, before = before + 1, reader.line_num  # a quoted cell may hold line breaks: a row is known by its first line
            yield number, tuple(cells)
    except csv.Error as error:
        raise NotATable(f"Row {reader.line_num} cannot be read: {error}.", "Check its quotes.") from None


def _text(raw: bytes) -> str:
    for start, encoding in ((b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"), (b"\xef\xbb\xbf", "utf-8-sig")):
        if raw.startswith(start):
            return raw.decode(encoding, errors="replace")
    if b"\x00" in raw[:4096]:
        raise NotATable("This is no table.", "Choose a CSV, TSV or XLSX file.")
    try:
        return raw.decode("utf-8")
    except UnicodeDecodeError:
        return raw.decode("cp1252", errors="replace")  # what spreadsheets of this continent write where they do not write UTF-8


def _delimiter(text: str) -> str:
    """The separator that gives the headings most cells; a decimal comma makes no column where a semicolon does."""
    head = next((line for line in text.splitlines() if line.strip()), "")
    if head.lower().startswith("sep="):
        return head[4:5] or ","
    return max(("\t", ";", "|", ","), key=lambda d: (head.count(d) > 0, d != "," and head.count(d) > 0, head.count(d)))


# --- XLSX ------------------------------------------------------------------------------------------------------------


def _xlsx(raw: bytes) -> Iterator[tuple[int, tuple[str, ...]]]:
    import openpyxl  # 0.3 s, and most starts need none of it

    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as packed:
            if sum(part.file_size for part in packed.infolist()) > MOST_UNPACKED:
                raise NotATable("The workbook is too large.", "Save the table alone as CSV.")
        book = openpyxl.load_workbook(io.BytesIO(raw), read_only=True, data_only=True)
    except NotATable:
        raise
    except Exception:
        raise NotATable("The workbook cannot be opened.", "Save it as XLSX without a password, or as CSV.") from None
    try:
        for sheet in book.worksheets:
            rows = [(n, tuple(_cell(v) for v in row)) for n, row in enumerate(sheet.iter_rows(values_only=True, max_col=MOST_COLUMNS + 1), start=1)]
            if sum(any(c.strip() for c in cells) for _, cells in rows[:50]) > 1:
                yield from rows
                return
    finally:
        book.close()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.isoformat(sep=" ", timespec="seconds") if value.time() != time() else value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, time):
        return value.isoformat()
    if isinstance(value, float):
        return f"{value:.6g}" if abs(value) < 1e6 else str(value)
    return str(value)
