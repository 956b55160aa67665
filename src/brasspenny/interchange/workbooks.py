"""Read the first table of an XLSX workbook, whoever made it: every part is counted while it is unpacked, before anything builds it in memory."""

from __future__ import annotations

import io
import time
import zipfile
import zlib
from collections.abc import Callable, Iterator
from datetime import date, datetime
from datetime import time as clock_time
from itertools import islice
from typing import Any
from xml.parsers import expat

Line = tuple[int, tuple[str, ...]]
MOST_PARTS = 400
MOST_PART_BYTES = {"xl/worksheets/": 80_000_000, "xl/sharedStrings.xml": 30_000_000}
MOST_OTHER_BYTES = 2_000_000
MOST_ELEMENTS = {"xl/worksheets/": 6_000_000, "xl/sharedStrings.xml": 2_000_000}
MOST_OTHER_ELEMENTS = 60_000
MOST_DEPTH = 24
MOST_CELLS_A_ROW = 20_000
LAST_ROW = 200_000
"""Rows are numbered in the file: a cell far below the table stands for as many empty rows in between."""
MOST_SECONDS = 8.0
CHUNK_BYTES = 1 << 18
LOOKED_AT = 50
"""Rows from the top that tell whether a sheet holds a table."""


class NotAWorkbook(Exception):
    """Why, and what to do."""

    def __init__(self, reason: str, remedy: str) -> None:
        super().__init__(f"{reason} {remedy}")
        self.reason, self.remedy = reason, remedy


CANNOT_BE_OPENED = ("The workbook cannot be opened.", "Save it as XLSX without a password, or as CSV.")
TOO_LARGE = ("The workbook is too large.", "Save the table alone as CSV.")
TOO_FAR_DOWN = (f"The workbook has cells below row {LAST_ROW}.", "Delete what is below the table, or save the table alone as CSV.")


class Patience:
    """How long a workbook is read: MOST_SECONDS, and only while somebody waits for it."""

    def __init__(self, is_unwanted: Callable[[], bool]) -> None:
        self._until, self._is_unwanted = time.monotonic() + MOST_SECONDS, is_unwanted

    def check(self) -> None:
        """Raises NotAWorkbook when it is at an end."""
        if time.monotonic() > self._until:
            raise NotAWorkbook("The workbook takes too long to read.", "Save the table alone as CSV.")
        if self._is_unwanted():
            raise NotAWorkbook("Nobody waits for the workbook any more.", "Send it again.")


def lines_of(raw: bytes, *, most_columns: int, is_unwanted: Callable[[], bool]) -> Iterator[Line]:
    """Yield (row number, cells as text) of the first sheet with a table, at most `most_columns` + 1 cells each. is_unwanted: whether nobody waits for them any
    more. Raises NotAWorkbook."""
    patience = Patience(is_unwanted)
    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as packed:
            _check(packed, patience)
        yield from _lines(raw, most_columns, patience)
    except NotAWorkbook:
        raise
    except Exception as error:  # a library meets what no format foresees; whatever it is, the file is at fault
        raise NotAWorkbook(*CANNOT_BE_OPENED) from error


def _lines(raw: bytes, most_columns: int, patience: Patience) -> Iterator[Line]:
    import openpyxl  # 0.3 s, and most starts need none of it

    book = openpyxl.load_workbook(io.BytesIO(raw), read_only=True, data_only=True)
    try:
        for sheet in book.worksheets:
            if not hasattr(sheet, "iter_rows"):  # a chart's
                continue
            rows = _rows(sheet, most_columns, patience)
            top = list(islice(rows, LOOKED_AT))
            if sum(any(c.strip() for c in cells) for _, cells in top) > 1:
                yield from top
                yield from rows
                return
    finally:
        book.close()


def _rows(sheet: Any, most_columns: int, patience: Patience) -> Iterator[Line]:
    for number, row in enumerate(sheet.iter_rows(max_col=most_columns + 1), start=1):
        if number > LAST_ROW:
            raise NotAWorkbook(*TOO_FAR_DOWN)
        if number % 200 == 0:
            patience.check()
        yield number, tuple(_cell(cell) for cell in row)


def _cell(cell: Any) -> str:
    """As it is shown: 0.0142 in the format of a percentage is 1.42."""
    value = cell.value
    if value is None:
        return ""
    if isinstance(value, int | float) and not isinstance(value, bool) and "%" in (cell.number_format or ""):
        return f"{100 * value:.6g}"
    if isinstance(value, datetime):
        return value.isoformat(sep=" ", timespec="seconds") if value.time() != clock_time() else value.date().isoformat()
    if isinstance(value, date | clock_time):
        return value.isoformat()
    if isinstance(value, float):
        return f"{value:.6g}" if abs(value) < 1e6 else str(value)
    return str(value)


# --- counting before building ------------------------------------------------------------------------------------------------------------


def _check(packed: zipfile.ZipFile, patience: Patience) -> None:
    """Go once through every part that a reader would build. Raises NotAWorkbook, expat's and zip's errors."""
    parts = packed.infolist()
    if len(parts) > MOST_PARTS:
        raise NotAWorkbook(*TOO_LARGE)
    for part in parts:
        if part.filename.endswith((".xml", ".rels", ".vml")):
            if part.file_size > _of(part.filename, MOST_PART_BYTES, MOST_OTHER_BYTES):
                raise NotAWorkbook(*TOO_LARGE)
            _Counted(_of(part.filename, MOST_ELEMENTS, MOST_OTHER_ELEMENTS), patience).go_through(packed, part)


def _of(name: str, by_part: dict[str, int], other: int) -> int:
    return next((most for start, most in by_part.items() if name.lstrip("/").startswith(start)), other)


class _Counted:
    """Elements, depth and cells of one part, as it streams by."""

    def __init__(self, most_elements: int, patience: Patience) -> None:
        self.left, self.patience, self.depth, self.cells = most_elements, patience, 0, 0

    def go_through(self, packed: zipfile.ZipFile, part: zipfile.ZipInfo) -> None:
        parser = expat.ParserCreate()
        parser.StartElementHandler, parser.EndElementHandler, parser.StartDoctypeDeclHandler = self._start, self._end, self._doctype
        with packed.open(part) as unpacked:
            while some := unpacked.read(CHUNK_BYTES):
                parser.Parse(some, False)
                self.patience.check()
        parser.Parse(b"", True)

    def _start(self, name: str, attributes: dict[str, str]) -> None:
        self.left -= 1
        self.depth += 1
        tag = name.rpartition(":")[2]
        if tag == "row":
            self.cells = 0
            if attributes.get("r", "0").isdigit() and int(attributes.get("r", "0")[:12]) > LAST_ROW:
                raise NotAWorkbook(*TOO_FAR_DOWN)
        elif tag == "c":
            self.cells += 1
        if self.left < 0 or self.depth > MOST_DEPTH or self.cells > MOST_CELLS_A_ROW:
            raise NotAWorkbook(*TOO_LARGE)

    def _end(self, name: str) -> None:
        self.depth -= 1

    def _doctype(self, *_: Any) -> None:
        raise NotAWorkbook(*CANNOT_BE_OPENED)


UNPACKING_ERRORS = (OSError, KeyError, EOFError, RuntimeError, NotImplementedError, zipfile.BadZipFile, zlib.error)
"""What reading a part of somebody's ZIP can raise: missing, damaged, encrypted, packed in a way that is not known."""
