"""Somebody's own table as rows of text: CSV and TSV in any usual encoding and separator, XLSX by its first sheet with a table in it."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass

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
