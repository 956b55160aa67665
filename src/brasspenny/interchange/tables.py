"""Somebody's own table as rows of text: CSV and TSV in any usual encoding and separator, XLSX by its first sheet with a table in it."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import islice

from .workbooks import Line, NotAWorkbook, lines_of

MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 20_000, 60, 2_000


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


def read_table(raw: bytes, is_unwanted: Callable[[], bool]) -> Table:
    """is_unwanted: asked while a workbook is read, which then ends. Raises NotATable."""
    if not raw.strip():
        raise NotATable("The file is empty.", "Choose a table with a row of headings.")
    try:
        return _table(lines_of(raw, most_columns=MOST_COLUMNS, is_unwanted=is_unwanted) if raw[:4] == b"PK\x03\x04" else _separated(raw))
    except NotAWorkbook as error:
        raise NotATable(error.reason, error.remedy) from None


def _table(lines: Iterator[Line]) -> Table:
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
            if number > 1 or not SEPARATOR_SAID.match(text):
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


SEPARATOR_SAID = re.compile(r"\s*sep=(.)[^\S\n]*(?:\r?\n|\r)", re.IGNORECASE)
"""A first line by which a spreadsheet program is told the separator; no heading."""
LOOKED_AT_CHARACTERS, LOOKED_AT_ROWS = 40_000, 30


def _delimiter(text: str) -> str:
    """The separator by which most rows have as many cells as the headings: a decimal comma, or a semicolon within a heading, makes no columns."""
    if said := SEPARATOR_SAID.match(text):
        return said[1]
    return max(("\t", ";", "|", ","), key=lambda d: _fits(text[:LOOKED_AT_CHARACTERS], d))


def _fits(text: str, delimiter: str) -> tuple[bool, float, bool, int]:
    """(whether there are columns at all, the share of rows that fit the headings, whether no decimal comma can be meant, how many columns)."""
    try:
        rows = [r for r in islice(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter), LOOKED_AT_ROWS) if any(c.strip() for c in r)]
    except csv.Error:
        return False, 0.0, False, 0
    columns = len(rows[0]) if rows else 0
    return columns > 1, sum(len(r) == columns for r in rows[1:]) / max(1, len(rows) - 1), delimiter != ",", columns
