"""Files that begin as ones a bench takes, and have something changed in them by chance."""

from __future__ import annotations

import hashlib
import io
import json
import random
import zipfile
from pathlib import Path

ODD = [
    None,
    True,
    -1,
    0,
    1,
    1e308,
    -1e308,
    1e-300,
    2**63,
    "",
    "x",
    "\u0000",
    "\ud800",
    "∞",
    "x" * 5000,
    [],
    {},
    [1],
    {"a": 1},
    [[[[]]]],
    "2026-01-01",
    "../../x",
    "NaN",
]


def mutated_bytes(raw: bytes, rng: random.Random) -> bytes:
    at = bytearray(raw)
    for _ in range(rng.choice((1, 3, 30))):
        match rng.randrange(3):
            case 0:
                at[rng.randrange(len(at))] = rng.randrange(256)
            case 1:
                del at[rng.randrange(len(at)) :][: rng.randrange(1, 200)]
            case _:
                where = rng.randrange(len(at))
                at[where:where] = rng.randbytes(rng.randrange(1, 50))
    return bytes(at) or b"x"


def zipped(parts: dict[str, bytes]) -> bytes:
    whole = io.BytesIO()
    with zipfile.ZipFile(whole, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, raw in parts.items():
            packed.writestr(name, raw)
    return whole.getvalue()


def renamed(parts: dict[str, bytes], share: float, rng: random.Random) -> dict[str, bytes]:
    """Some of its rows have other ids, wherever they are named: to a bench that holds the rest, they are new."""
    rows = [row for name, raw in parts.items() if name.startswith("data/") for row in json.loads(raw)]
    ids = {row["id"]: f"{rng.getrandbits(60):012x}"[-12:] for row in rows if isinstance(row.get("id"), str) and rng.random() < share}
    out, manifest = dict(parts), json.loads(parts["manifest.json"])
    for name in (n for n in parts if n.startswith("data/")):
        text = parts[name].decode()
        for old, new in ids.items():
            text = text.replace(old, new)
        out[name] = text.encode()
        manifest["kinds"][Path(name).stem]["sha256"] = hashlib.sha256(out[name]).hexdigest()
    return out | {"manifest.json": json.dumps(manifest).encode()}


def a_bench(parts: dict[str, bytes], rng: random.Random) -> bytes:
    """One value, row or column of it is another, and the manifest agrees; or its bytes are."""
    if rng.random() < 0.15:
        return mutated_bytes(zipped(parts), rng)
    changed, manifest = dict(parts), json.loads(parts["manifest.json"])
    name = rng.choice([n for n in parts if n.startswith("data/") and len(parts[n]) > 10])
    rows = json.loads(parts[name])
    row = rng.choice(rows)
    match rng.randrange(6):
        case 0:
            del row[rng.choice(list(row))]
        case 1:
            rows.append(dict(row))
        case 2:
            row[rng.choice(list(row))] = rng.choice(rows)[rng.choice(list(rows[0]))] if rows[0] else None
        case 3:
            deep = [c for c, v in row.items() if isinstance(v, dict | list) and v]
            inner = row[rng.choice(deep)] if deep else row
            key = rng.choice(list(inner)) if isinstance(inner, dict) else rng.randrange(len(inner))
            inner[key] = rng.choice(ODD)
        case _:
            row[rng.choice(list(row))] = rng.choice(ODD)
    raw = json.dumps(rows).encode()
    manifest["kinds"][Path(name).stem] = {"rows": len(rows), "sha256": hashlib.sha256(raw).hexdigest()}
    return zipped(changed | {name: raw, "manifest.json": json.dumps(manifest).encode()})
