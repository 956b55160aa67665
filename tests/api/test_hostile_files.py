"""Small files that would fill a machine, and malformed ones: a plain refusal, whatever is in them."""

import base64
import hashlib
import io
import json
import zipfile

import openpyxl
import pytest

from brasspenny.interchange import tables, workbooks
from brasspenny.interchange.tables import NotATable, read_table

from ..mutated import zipped
from .test_bench_files import a_small_bench, taken_out


def a_workbook(**parts: bytes) -> bytes:
    """A workbook with a table, of which some parts are others. By the part's name in the file."""
    book = openpyxl.Workbook()
    book.active.append(["Dose", "Water"])
    book.active.append([18, 290])
    whole, out = io.BytesIO(), io.BytesIO()
    book.save(whole)
    with zipfile.ZipFile(whole) as found, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name in found.namelist():
            if parts.get(name) != b"":
                packed.writestr(name, parts.get(name, found.read(name)))
        for name in set(parts) - set(found.namelist()):
            packed.writestr(name, parts[name])
    return out.getvalue()


SHEET = "xl/worksheets/sheet1.xml"
NS = b'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'


def a_sheet(rows: bytes) -> bytes:
    return a_workbook(**{SHEET: b"<worksheet " + NS + b"><sheetData>" + rows + b"</sheetData></worksheet>"})


HEAD = b'<row r="1"><c r="A1"><v>1</v></c><c r="B1"><v>2</v></c></row><row r="2"><c r="A2"><v>1</v></c></row>'
BOMBS = {
    "a cell at row fifty million": a_sheet(HEAD + b'<row r="50000000"><c r="A50000000"><v>1</v></c></row>'),
    "a row number of a thousand digits": a_sheet(HEAD + b'<row r="' + b"9" * 1000 + b'"></row>'),
    "a million cells in one row": a_sheet(HEAD + b'<row r="3">' + b"<c><v>1</v></c>" * 1_000_000 + b"</row>"),
    "a hundred megabytes of blanks": a_sheet(HEAD + b" " * 100_000_000),
    "nested without end": a_sheet(HEAD + b"<x>" * 100_000 + b"</x>" * 100_000),
    "a document type with entities": a_workbook(**{SHEET: b'<!DOCTYPE x [<!ENTITY a "aaaaaaaa"><!ENTITY b "&a;&a;&a;">]><worksheet ' + NS + b"/>"}),
    "a million styles": a_workbook(**{"xl/styles.xml": b"<styleSheet " + NS + b">" + b"<font/>" * 250_000 + b"</styleSheet>"}),
    "many shared strings": a_workbook(**{"xl/sharedStrings.xml": b"<sst " + NS + b">" + b"<si><t>a</t></si>" * 2_100_000 + b"</sst>"}),
}
BROKEN = {
    "no workbook in it": a_workbook(**{"xl/workbook.xml": b""}),
    "no sheet in it": a_workbook(**{SHEET: b""}),
    "a sheet that is no XML": a_workbook(**{SHEET: b"<worksheet><row"}),
    "a sheet that is text": a_workbook(**{SHEET: b"hello"}),
    "no content types": a_workbook(**{"[Content_Types].xml": b""}),
    "no relations": a_workbook(**{"xl/_rels/workbook.xml.rels": b""}),
    "a row with a word for its number": a_sheet(b'<row r="first"><c r="A1"><v>1</v></c></row>'),
    "a cell with a word for its place": a_sheet(b'<row r="1"><c r="??"><v>1</v></c></row>'),
    "a cell whose string is not there": a_sheet(b'<row r="1"><c r="A1" t="s"><v>99</v></c></row>'),
    "a day that is none": a_sheet(b'<row r="1"><c r="A1" t="d"><v>2026-99-99</v></c></row>'),
    "half of a file": a_workbook()[:900],
    "a name and no more": b"PK\x03\x04",
}


@pytest.mark.parametrize("name", [*BOMBS, *BROKEN])
def test_a_workbook_that_would_fill_the_machine_or_is_none_is_refused(host, name):
    raw = (BOMBS | BROKEN)[name]
    problem = host.call("POST", "/imports/look", {"data": base64.b64encode(raw).decode()}, status=422)
    assert problem["errors"][0]["field"] == "data" and problem["errors"][0]["remedy"]


def test_reading_stops_when_its_time_is_up(monkeypatch):
    monkeypatch.setattr(workbooks, "MOST_SECONDS", -1.0)
    with pytest.raises(NotATable, match="too long"):
        read_table(a_workbook(), bool)


def test_a_workbook_of_the_largest_table_that_may_come_in_is_read():
    book = openpyxl.Workbook(write_only=True)
    sheet = book.create_sheet()
    for row in range(tables.MOST_ROWS + 1):
        sheet.append([f"head {i}" if row == 0 else row + i for i in range(8)])
    out = io.BytesIO()
    book.save(out)
    assert len(read_table(out.getvalue(), bool).rows) == tables.MOST_ROWS


# --- benches -----------------------------------------------------------------------------------------------------------------------


@pytest.fixture
def parts(host, made_once, tmp_path):
    made_once(a_small_bench)
    folder = taken_out(tmp_path / "bench")
    return {str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*.json")}


def with_rows(parts, kind: str, raw: bytes) -> bytes:
    manifest = json.loads(parts["manifest.json"])
    manifest["kinds"][kind] = {"rows": 1, "sha256": hashlib.sha256(raw).hexdigest()}
    return zipped(parts | {f"data/{kind}.json": raw, "manifest.json": json.dumps(manifest).encode()})


def manifested(parts, **values) -> bytes:
    return zipped(parts | {"manifest.json": json.dumps(json.loads(parts["manifest.json"]) | values).encode()})


MALFORMED = {
    "kinds that are a list": lambda p: manifested(p, kinds=[]),
    "kinds without hashes": lambda p: manifested(p, kinds={"person": {}}),
    "a kind that is a word": lambda p: manifested(p, kinds={"person": "many"}),
    "a version in words": lambda p: manifested(p, version="two"),
    "a version below zero": lambda p: manifested(p, version=-1),
    "a version without end": lambda p: manifested(p, version=10**400),
    "a kind nobody knows": lambda p: manifested(p, kinds={"spoon": {"rows": 0, "sha256": None}}),
    "no manifest": lambda p: zipped({k: v for k, v in p.items() if k != "manifest.json"}),
    "a manifest that is a list": lambda p: zipped(p | {"manifest.json": b"[]"}),
    "a manifest nested without end": lambda p: zipped(p | {"manifest.json": b"[" * 200_000}),
    "a manifest of other letters": lambda p: zipped(p | {"manifest.json": b"\xff\xfe\x00{"}),
    "rows nested without end": lambda p: with_rows(p, "person", b'[{"id": ' + b"[" * 200_000),
    "rows that are numbers": lambda p: with_rows(p, "person", b"[1, 2]"),
    "rows of other letters": lambda p: with_rows(p, "person", b"[\xff]"),
    "empty rows": lambda p: with_rows(p, "person", b"[" + b"{}," * 20_000_000 + b"{}]"),
    "rows and something after": lambda p: with_rows(p, "person", b"[] []"),
    "half a character": lambda p: with_rows(p, "person", p["data/person.json"].replace(b'"name": "', b'"name": "\\ud800', 1)),
    "a number without end": lambda p: with_rows(p, "person", p["data/person.json"].replace(b'"rev": 1', b'"rev": 1e999', 1)),
    "no number": lambda p: with_rows(p, "person", p["data/person.json"].replace(b'"rev": 1', b'"rev": NaN', 1)),
    "a whole number of four hundred digits": lambda p: with_rows(p, "person", p["data/person.json"].replace(b'"rev": 1', b'"rev": 1' + b"0" * 400, 1)),
    "a moment without a zone": lambda p: with_rows(p, "person", p["data/person.json"].replace(b'Z"', b'"', 1)),
    "a row twice": lambda p: with_rows(
        p, "person", p["data/person.json"].replace(b"\n]", b",\n" + p["data/person.json"].splitlines()[1].rstrip(b",") + b"\n]")
    ),
    "a part that is damaged": lambda p: zipped(p)[:-400] + b"\x00" * 400,
    "a zip of nothing": lambda p: zipped({}),
}


@pytest.mark.parametrize("name", list(MALFORMED))
def test_a_malformed_bench_is_refused_with_a_sentence_and_changes_nothing(host, parts, name):
    before = host.get("/people")
    problem = host.bring_in(MALFORMED[name](parts), status=422)
    assert problem["errors"][0]["field"] == "data" and len(problem["detail"]) > 20
    assert host.get("/people") == before


def test_a_part_that_is_locked_or_packed_in_an_unknown_way_is_refused(host, parts):
    raw = bytearray(zipped(parts))
    for at in (i for i in range(len(raw) - 4) if raw[i : i + 4] == b"PK\x01\x02"):
        raw[at + 8] |= 1  # the flag of a locked part
    host.bring_in(bytes(raw), status=422)
    raw = bytearray(zipped(parts))
    for at in (i for i in range(len(raw) - 4) if raw[i : i + 4] == b"PK\x01\x02"):
        raw[at + 10] = 77
    host.bring_in(bytes(raw), status=422)
