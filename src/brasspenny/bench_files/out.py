"""A whole bench written as open files: JSON a kind, the same as CSV, pictures, and a manifest that says what there is."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import peewee as pw

from .. import __version__
from ..interchange.cells import harmless
from ..store.connection import database
from ..store.models import Flight, FlightBrew, FlightCup, LateScore, Photo, Score, Seal, Sheet, SheetCup
from ..store.palate import PalatePresentation, PalateSeat, PalateSession
from . import kinds as k
from .here import SetAside

Put = Callable[[str, bytes], None]
README = """This is a bench of Brass Penny, in the open.

manifest.json   what there is: how many rows of each kind, and the SHA-256 of each file
schema.json     what each field of each kind means (JSON Schema)
data/           one JSON file a kind
csv/            the same for spreadsheets; a cell that begins like a formula is quoted off
photos/         pictures of brews

./penny import FOLDER reads it into another bench.
"""


def write(put: Put, now: datetime) -> dict[str, int]:
    """All files through `put`, of one moment; rows of each kind."""
    told: dict[str, Any] = {}
    counts: dict[str, int] = {}
    put("README.txt", README.encode())
    put("schema.json", json.dumps(k.schema(), indent=1, ensure_ascii=False).encode())
    with database.atomic():  # its first look fixes the picture for all that follow
        aside = SetAside()
        for model in k.KINDS:
            name = k.name_of(model)
            rows = [aside.mended(name, row) for row in _rows(model, put) if not aside.stays(name, row)]
            raw = _json(rows)
            put(f"data/{name}.json", raw)
            put(f"csv/{name}.csv", _csv([f.column_name for f in k.fields_of(model)], rows))
            counts[name] = len(rows)
            told[name] = {"rows": len(rows), "sha256": hashlib.sha256(raw).hexdigest()}
        stay = flights_that_stay()
    manifest = {"format": k.FORMAT, "version": k.VERSION, "program": __version__, "made_at": now.isoformat(), "flights_not_flipped": stay, "kinds": told}
    put("manifest.json", json.dumps(manifest, indent=1).encode())
    return counts


def to_folder(folder: Path, now: datetime) -> dict[str, int]:
    """Into a folder that is empty or not there. Raises FileExistsError otherwise."""
    if folder.exists() and any(folder.iterdir()):
        raise FileExistsError(folder)

    def put(name: str, raw: bytes) -> None:
        path = folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(raw)

    return write(put, now)


def to_zip(now: datetime) -> bytes:
    """The same as one ZIP."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:

        def put(name: str, raw: bytes) -> None:
            part = zipfile.ZipInfo(name, now.timetuple()[:6])  # by the bench's clock: equal benches give equal files
            part.compress_type = zipfile.ZIP_DEFLATED
            packed.writestr(part, raw)

        write(put, now)
    return out.getvalue()


def _rows(model: Any, put: Put) -> Iterator[dict[str, Any]]:
    fields = k.fields_of(model)
    order = [model._meta.columns[c] for c in k.key_of(model)]
    for row in _that_go(model, fields).order_by(*order).tuples().iterator():
        out = {f.column_name: k.to_json(f, value) for f, value in zip(fields, row, strict=True)}
        if model is Photo:
            file = f"photos/{out['id']}.jpg"
            put(file, bytes(out["image"]))
            out["image"] = file
        yield out


def _that_go(model: Any, fields: list[pw.Field]) -> pw.ModelSelect:
    """A flight goes once it is flipped, a series once it is closed. Until then its links and its seal open on this bench alone, and nothing that depends on its key leaves."""
    found = model.select(*fields)
    flipped = Flight.select(Flight.id).where(Flight.status == "flipped")
    if model is Flight:
        return found.where(Flight.id.in_(flipped))
    if model in (FlightBrew, FlightCup, Seal, Sheet):
        return found.where(model.flight.in_(flipped))
    if model is PalateSession:
        return found.where(PalateSession.closed_at.is_null(False))
    if model in (PalateSeat, PalatePresentation):
        closed = PalateSeat.select(PalateSeat.id).join(PalateSession).where(PalateSession.closed_at.is_null(False))
        return found.where((PalateSeat.id if model is PalateSeat else PalatePresentation.seat).in_(closed))
    if model in (SheetCup, Score, LateScore):
        return found.where(model.sheet.in_(Sheet.select(Sheet.id).where(Sheet.flight.in_(flipped))))
    return found


def flights_that_stay() -> int:
    """Not flipped yet."""
    return Flight.select().where(Flight.status != "flipped", Flight.deleted_at.is_null()).count()


def _json(rows: list[dict[str, Any]]) -> bytes:
    """A row a line, so that two exports can be compared by eye."""
    lines = ",\n".join(json.dumps(row, ensure_ascii=False, sort_keys=True) for row in rows)
    return f"[\n{lines}\n]\n".encode() if rows else b"[]\n"


def _csv(columns: list[str], rows: list[dict[str, Any]]) -> bytes:
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_cell(row[c]) for c in columns])
    return ("\ufeff" + out.getvalue()).encode()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    return harmless(value if isinstance(value, str) else json.dumps(value, ensure_ascii=False, sort_keys=True))
