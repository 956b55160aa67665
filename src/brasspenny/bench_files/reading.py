"""Read the files of a whole bench, row by row: each is checked against the schema of its kind before the next is looked at."""

from __future__ import annotations

import hashlib
import io
import json
import math
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import IO, Any

from PIL import Image
from pydantic import BaseModel, Field

from ..interchange.workbooks import UNPACKING_ERRORS
from ..progress_stream import TELLS_EVERY, Steps, TrackedSteps
from ..store.models import Photo
from . import kinds as k
from . import older
from .units import Row, Rows
from .values import Invalid, check, from_json

MOST_UNPACKED = 2_000_000_000
MOST_PARTS = 500_000
MOST_PART_BYTES = {"manifest.json": 1_000_000, "photos/": 2_000_000, "data/": 600_000_000}
MOST_ROW_CHARACTERS = 4_000_000
MOST_PIXELS = 2_000_000
"""A bench keeps its pictures small, and without where they were taken."""

Read = Callable[[str], bytes]
"""The bytes of a part by its name."""


class NotABench(Exception):
    """Why it cannot be read in, and what to do."""


class Kind(BaseModel):
    rows: int
    sha256: str | None


class BenchManifest(BaseModel):
    """manifest.json; what else stands in it is for people."""

    version: int = Field(ge=0)
    kinds: dict[str, Kind]


def reader_of(path: Path) -> Read:
    """Of a folder or a ZIP. Raises NotABench."""
    if path.is_dir():
        return lambda name: (path / name).read_bytes()
    try:
        return reader_of_zip(path.open("rb"))
    except OSError as error:
        raise NotABench(f"{path} cannot be read ({error.strerror}).") from None


def reader_of_zip(file: IO[bytes]) -> Read:
    """Of a ZIP, refused before a part of it is unpacked where it would unpack to too much. Raises NotABench."""
    try:
        packed = zipfile.ZipFile(file)
    except UNPACKING_ERRORS:
        raise NotABench("This is neither a folder nor a ZIP of a bench.") from None
    parts = packed.infolist()
    if len(parts) > MOST_PARTS or sum(part.file_size for part in parts) > MOST_UNPACKED:
        raise NotABench("It unpacks to more than a bench can hold.")
    for part in parts:
        most = next((most for start, most in MOST_PART_BYTES.items() if part.filename.startswith(start)), MOST_UNPACKED)
        if part.file_size > most:
            raise NotABench(f"{part.filename[:60]} unpacks to more than a bench can hold.")
    return packed.read


def read(get: Read) -> Rows:
    """Kind → rows, checked against the manifest and the schema. Raises NotABench, before anything is written."""
    return TrackedSteps(read_steps(get)).to_the_end()


def read_steps(get: Read) -> Steps[Rows]:
    """The same, reporting (rows read, rows in all) as it goes: where the client leaves, it stops."""
    manifest = _manifest(get)
    done, of = 0, sum(kind.rows for kind in manifest.kinds.values())
    out: Rows = {}
    for model in k.KINDS:
        name = k.name_of(model)
        stated = manifest.kinds.get(name)
        if stated is None or stated.sha256 is None:  # a kind that came with a later program
            out[name] = []
            continue
        raw = _part(get, f"data/{name}.json")
        if hashlib.sha256(raw).hexdigest() != stated.sha256:
            raise NotABench(f"data/{name}.json is not what the manifest says. Export it again; to change a bench, change it in the program.")
        out[name] = rows = []
        for number, row in enumerate(_objects(raw, name), start=1):
            rows.append(_values(model, older.to_present(name, row, manifest.version), number, get))
            done += 1
            if done % TELLS_EVERY == 0:
                yield done, of
    return out


def _manifest(get: Read) -> BenchManifest:
    try:
        raw = json.loads(_part(get, "manifest.json"))
        known = isinstance(raw, dict) and raw.get("format") == k.FORMAT
        manifest = BenchManifest.model_validate(raw) if known else None
    except (ValueError, RecursionError):  # pydantic's own is a ValueError
        manifest = None
    if manifest is None:
        raise NotABench("There is no bench in it: manifest.json is not ours.")
    if manifest.version > k.VERSION or set(manifest.kinds) - {k.name_of(m) for m in k.KINDS}:
        raise NotABench("It was written by a newer program. Bring this one up to date, then read it in.")
    return manifest


def _part(get: Read, name: str) -> bytes:
    try:
        return get(name)
    except UNPACKING_ERRORS:
        raise NotABench(f"{name} is missing or damaged.") from None


def _number(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text[:20]} is no number")
    return value


DECODER = json.JSONDecoder(parse_float=_number, parse_constant=_number)
BLANK = " \t\r\n"


def _objects(raw: bytes, name: str) -> Iterator[dict[str, Any]]:
    """The rows of an array, one after the other: whatever is wrong is met before what follows it is built. Raises NotABench."""
    try:
        text = raw.decode()
        at = _after(text, 0, "[")
        while text[at : at + 1] != "]":
            row, end = DECODER.raw_decode(text, at)
            if not isinstance(row, dict) or end - at > MOST_ROW_CHARACTERS:
                raise ValueError("a row is an object of ordinary size")
            json.dumps(row, ensure_ascii=False).encode()  # half a character cannot be stored
            yield row
            at = _skip(text, end)
            if text[at : at + 1] != "]":
                at = _after(text, at, ",")
        if _skip(text, at + 1) != len(text):
            raise ValueError("something follows the array")
    except (ValueError, RecursionError):
        raise NotABench(f"data/{name}.json holds no rows.") from None


def _skip(text: str, at: int) -> int:
    while text[at : at + 1] and text[at] in BLANK:
        at += 1
    return at


def _after(text: str, at: int, sign: str) -> int:
    at = _skip(text, at)
    if text[at : at + 1] != sign:
        raise ValueError(f"{sign} is missing")
    return _skip(text, at + 1)


def _values(model: Any, row: Row, number: int, get: Read) -> Row:
    kind = k.name_of(model)
    if unknown := set(row) - {f.column_name for f in k.fields_of(model)}:
        raise NotABench(f"In data/{kind}.json, row {number}: {', '.join(sorted(unknown))[:200]} is no field of it.")
    try:
        out = from_json(model, row)
        if model is Photo:
            out["image"] = _picture(get, out["image"], number)
        check(kind, out)
    except Invalid as error:
        raise NotABench(f"In data/{kind}.json, row {number}, {error.column}: {error}.") from None
    return out


def _picture(get: Read, file: str, number: int) -> bytes:
    raw = _part(get, file) if file.startswith("photos/") and ".." not in file else b""
    try:
        with Image.open(io.BytesIO(raw), formats=("JPEG",)) as image:
            fits = image.width * image.height <= MOST_PIXELS and not image.getexif()
            image.verify()
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError, Image.DecompressionBombWarning):
        fits = False
    if not fits:
        raise NotABench(f"In data/photo.json, row {number}: {file[:60]} is no picture as a bench keeps it.")
    return raw
