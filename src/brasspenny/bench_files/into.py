"""A whole bench read in: into an empty one as it was, into a living one beside what is there. The same bench twice changes nothing."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import peewee as pw
from PIL import Image

from ..progress_stream import TELLS_EVERY, Steps, TrackedSteps
from ..store import charted
from ..store.models import Bench, KitItem, Person, Photo, Trial
from ..store.writing import held, insert
from . import kinds as k
from . import older

MOST_UNPACKED = 2_000_000_000
MOST_PIXELS = 2_000_000
"""A bench keeps its pictures small, and without where they were taken."""


class NotABench(Exception):
    """Why it cannot be read in, and what to do."""


@dataclass
class Arrived:
    """By kind: rows that came in, and rows that were here already. kept: rows that are here with other values; the bench's own stand.
    renumbered: trials that took another number; known: people and kit that are here under the same name."""

    came: dict[str, int] = field(default_factory=dict)
    here: dict[str, int] = field(default_factory=dict)
    kept: dict[str, int] = field(default_factory=dict)
    renumbered: dict[int, int] = field(default_factory=dict)
    known: list[str] = field(default_factory=list)

    def count(self, of: str, kind: str) -> None:
        by_kind = getattr(self, of)
        by_kind[kind] = by_kind.get(kind, 0) + 1


Read = Callable[[str], bytes]


def reader_of(path: Path) -> Read:
    """Of a folder or a ZIP. Raises NotABench."""
    if path.is_dir():
        return lambda name: (path / name).read_bytes()
    try:
        return reader_of_zip(path.read_bytes())
    except OSError as error:
        raise NotABench(f"{path} cannot be read ({error.strerror}).") from None


def reader_of_zip(raw: bytes) -> Read:
    try:
        packed = zipfile.ZipFile(io.BytesIO(raw))
    except zipfile.BadZipFile:
        raise NotABench("This is neither a folder nor a ZIP of a bench.") from None
    if sum(part.file_size for part in packed.infolist()) > MOST_UNPACKED:
        raise NotABench("It unpacks to more than a bench can hold.")
    return packed.read


def read(get: Read) -> dict[str, list[dict[str, Any]]]:
    """Kind → rows, checked against the manifest and the schema. Raises NotABench, before anything is written."""
    manifest = _manifest(get)
    out = {}
    for model in k.KINDS:
        name = k.name_of(model)
        told = manifest["kinds"].get(name, {"rows": 0, "sha256": None})
        if told["sha256"] is None:  # a kind that came with a later program
            out[name] = []
            continue
        raw = _part(get, f"data/{name}.json")
        if hashlib.sha256(raw).hexdigest() != told["sha256"]:
            raise NotABench(f"data/{name}.json is not what the manifest says. Export it again; to change a bench, change it in the program.")
        rows = (older.to_present(name, row, manifest.get("version", 1)) for row in _array(raw, name))
        out[name] = [_values(model, row, i, get) for i, row in enumerate(rows, start=1)]
    return out


def _manifest(get: Read) -> dict[str, Any]:
    try:
        manifest = json.loads(_part(get, "manifest.json"))
        known = isinstance(manifest, dict) and manifest.get("format") == k.FORMAT and isinstance(manifest.get("kinds"), dict)
    except ValueError:
        known = False
    if not known:
        raise NotABench("There is no bench in it: manifest.json is not ours.")
    if manifest.get("version", 0) > k.VERSION or set(manifest["kinds"]) - {k.name_of(m) for m in k.KINDS}:
        raise NotABench("It was written by a newer program. Bring this one up to date, then read it in.")
    return manifest


def _part(get: Read, name: str) -> bytes:
    try:
        return get(name)
    except (OSError, KeyError, zipfile.BadZipFile):
        raise NotABench(f"{name} is missing or damaged.") from None


def _array(raw: bytes, name: str) -> list[Any]:
    try:
        rows = json.loads(raw)
    except ValueError:
        rows = None
    if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
        raise NotABench(f"data/{name}.json holds no rows.")
    return rows


def _values(model: Any, row: dict[str, Any], number: int, get: Read) -> dict[str, Any]:
    out = {}
    fields = {f.column_name: f for f in k.fields_of(model)}
    if unknown := set(row) - set(fields):
        raise NotABench(f"data/{k.name_of(model)}.json, row {number}: {', '.join(sorted(unknown))} is no field of it.")
    for column, f in fields.items():
        if column not in row and f.default is not None:
            continue
        try:
            out[column] = k.from_json(f, row.get(column))
        except ValueError as error:
            raise NotABench(f"data/{k.name_of(model)}.json, row {number}, {column}: {error}.") from None
    if model is Photo:
        out["image"] = _picture(get, out["image"], number)
    return out


def _picture(get: Read, file: str, number: int) -> bytes:
    raw = _part(get, file) if file.startswith("photos/") and ".." not in file else b""
    try:
        with Image.open(io.BytesIO(raw), formats=("JPEG",)) as image:
            fits = image.width * image.height <= MOST_PIXELS and not image.getexif()
            image.verify()
    except (OSError, SyntaxError, ValueError):
        fits = False
    if not fits:
        raise NotABench(f"data/photo.json, row {number}: {file[:60]} is no picture as a bench keeps it.")
    return raw


def said(arrived: Arrived) -> list[str]:
    """In sentences: what came in, what was here, and what took another number."""
    came, here = sum(arrived.came.values()), sum(arrived.here.values())
    out = [f"{came} rows imported; {here} were already here." if came else f"Nothing new: all {here} rows are already here."]
    if arrived.kept:
        out.append(f"{sum(arrived.kept.values())} rows differ from the ones here; this bench keeps its versions.")
    if arrived.known:
        out.append(f"Matched by name: {', '.join(sorted(set(arrived.known)))}.")
    if arrived.renumbered:
        out.append("Trials renumbered: " + ", ".join(f"{a} → {b}" for a, b in sorted(arrived.renumbered.items())) + ".")
    return out


# --- writing ---------------------------------------------------------------------------------------------------------


def write(rows: dict[str, list[dict[str, Any]]]) -> Arrived:
    """All of it or nothing. Raises NotABench where its rows do not fit together."""
    return TrackedSteps(write_steps(rows)).to_the_end()


def write_steps(rows: dict[str, list[dict[str, Any]]]) -> Steps[Arrived]:
    """The same, telling (rows gone through, rows in all) as it goes. Left before its end, it has written nothing."""
    try:
        return (yield from _write(rows))
    except (pw.IntegrityError, pw.DataError) as error:
        raise NotABench("Its rows do not fit together: one points at another that is missing, or holds what cannot be. Export it again, whole.") from error


def _write(rows: dict[str, list[dict[str, Any]]]) -> Steps[Arrived]:
    arrived, same = Arrived(), _Same(max((row["number"] for row in rows["trial"]), default=0))
    done, of = 0, sum(map(len, rows.values()))
    with held():
        if not any(model.select().exists() for model in (Person, KitItem, Trial)):
            _take_settings(rows["bench"])
        for model in k.KINDS:
            fresh = []
            for raw in rows[k.name_of(model)]:
                if model is not Bench and (row := _place(model, same.mapped(raw), same, arrived)) is not None:
                    fresh.append(row)
                done += 1
                if done % TELLS_EVERY == 0:
                    yield done, of
            insert(model, fresh)
        charted.all_written()
    return arrived


def _take_settings(rows: list[dict[str, Any]]) -> None:
    """An empty bench becomes the one that arrives: its name, its instruments, its place, its units."""
    for row in rows:
        values = {c: v for c, v in row.items() if c not in ("id", "rev")}
        Bench.update({Bench._meta.columns[c]: v for c, v in values.items()}).where(Bench.id == 1).execute()


class _Same:
    """Ids of what is here under the same name, in place of those they arrive with. highest: number of a trial that arrives."""

    def __init__(self, highest: int) -> None:
        self.ids: dict[str, str] = {}
        self.highest = highest

    def mapped(self, value: Any) -> Any:
        if not self.ids:
            return value
        if isinstance(value, dict):
            return {self.ids.get(key, key): self.mapped(v) for key, v in value.items()}
        if isinstance(value, list):
            return [self.mapped(v) for v in value]
        return self.ids.get(value, value) if isinstance(value, str) else value


def _place(model: Any, row: dict[str, Any], same: _Same, arrived: Arrived) -> dict[str, Any] | None:
    """The row as it is to be inserted; None for what is here already."""
    name = k.name_of(model)
    there = _found(model, row)
    if there is not None:
        arrived.count("here" if _alike(model, row, there) else "kept", name)
        return None
    if (twin := _twin(model, row)) is not None:
        same.ids[row["id"]] = twin.id
        arrived.known.append(row["name"])
        arrived.count("here", name)
        return None
    if model is Trial and Trial.select().where(Trial.number == row["number"]).exists():
        free = max(Trial.select(pw.fn.MAX(Trial.number)).scalar(), same.highest) + 1 + len(arrived.renumbered)
        arrived.renumbered[row["number"]] = free
        row = row | {"number": free}
    arrived.count("came", name)
    return row


def _found(model: Any, row: dict[str, Any]) -> Any:
    wanted = None
    for column in k.key_of(model):
        this = model._meta.columns[column] == row[column]
        wanted = this if wanted is None else wanted & this
    found = model.get_or_none(wanted)
    if found is None and not isinstance(model._meta.primary_key, pw.CompositeKey):
        return None
    return found


def _alike(model: Any, row: dict[str, Any], there: Any) -> bool:
    """But for a trial's number, which another bench may have given away."""
    kept = {f.column_name: there.__data__[f.name] for f in k.fields_of(model)}
    return all(kept[c] == v for c, v in row.items() if c != "image" and not (model is Trial and c == "number"))


def _twin(model: Any, row: dict[str, Any]) -> Any:
    """Somebody or something that is here under this name, and lives as this does."""
    if model not in (Person, KitItem) or row.get("deleted_at") is not None:
        return None
    wanted = (model.name == row["name"]) & model.deleted_at.is_null()
    return model.get_or_none(wanted & (KitItem.kind == row["kind"]) if model is KitItem else wanted)
