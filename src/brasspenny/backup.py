"""A bench in one file, taken while it runs, and put back.

A backup is a ZIP: `manifest.json` (what it is, which tables, how many rows, their SHA-256), `schema/<table>.sql` and `tables/<table>.jsonl`.
It is done only when it was put back into a scratch database and every row compared. It holds the bench's secret and its passphrase's hash:
whoever has it has the bench.
"""

from __future__ import annotations

import io
import json
import os
import re
import secrets
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Annotated, Any, Literal

import pymysql
from pydantic import BaseModel, Field

from . import __version__
from .store import dump
from .store.connection import MIGRATIONS, own_name

FORMAT, VERSION = "brass-penny-backup", 1
KEPT = 14
"""Nightly backups; the oldest goes."""
NAME = re.compile(r"brass-penny-\d{8}-\d{6}\.zip")
TABLE = re.compile(r"[a-z_]{1,64}")
MADE = re.compile(r"CREATE TABLE `[a-z_]+` \(")


ALWAYS_THERE = {
    "bench", "person", "kit_item", "recipe", "recipe_version", "trial", "setup", "setup_revision", "run", "reading", "flight", "flight_brew", "flight_cup",
    "sheet", "sheet_cup", "score", "change", dump.MIGRATIONS_TABLE,
}  # fmt: skip
"""Tables that a bench of every version has, whatever it holds."""


class DumpedTable(BaseModel):
    """rows and sha256: of its lines. columns: name → the database's type."""

    rows: int = Field(ge=0)
    sha256: str = Field(pattern=r"^[0-9a-f]{64}$")
    columns: dict[str, str] = Field(min_length=1)


class BackupManifest(BaseModel):
    """manifest.json of a backup."""

    format: Literal["brass-penny-backup"]
    version: int = Field(ge=1)
    program: str
    migrations: list[str] = Field(min_length=1)
    tables: dict[Annotated[str, Field(pattern=f"^{TABLE.pattern}$")], DumpedTable]


class Broken(Exception):
    """Why a backup could not be made or put back, and what to do."""


@dataclass(frozen=True)
class Done:
    """rows: of all tables; compared: put back into a scratch database and every row compared, or why not."""

    tables: int
    rows: int
    compared: bool
    why_not: str = ""


def make(path: Path, now: datetime) -> Done:
    """Write the bench that the store is bound to into `path`, which must not be there yet. Raises Broken."""
    if path.exists():
        raise Broken(f"{path} is there already. Give another name: a backup is never written over.")
    half = path.with_name(f".{path.name}.being-made")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with open(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out, dump.picture() as conn:
            manifest = _write(out, conn, now)
        done = _compared(half, manifest)
        half.rename(path)
    except pymysql.err.MySQLError as error:
        raise Broken(f"The database went away while the backup was made ({error.args[-1]}). No file was written; try again once it runs.") from None
    except OSError as error:
        raise Broken(f"{path} cannot be written ({error.strerror}).") from None
    finally:
        half.unlink(missing_ok=True)
    return done


def _write(out: Any, conn: pymysql.connections.Connection, now: datetime) -> dict[str, Any]:
    schema, found = own_name(), {}
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as packed:
        for table in dump.tables(conn, schema):
            packed.writestr(f"schema/{table}.sql", dump.made_by(conn, schema, table))
            told = dump.DigestedLines(dump.lines(conn, schema, table))
            with packed.open(f"tables/{table}.jsonl", "w", force_zip64=True) as part:
                for line in told:
                    part.write(line.encode() + b"\n")
            found[table] = {"rows": told.count, "sha256": told.sha256, "columns": dump.columns(conn, schema, table)}
        manifest = {
            "format": FORMAT,
            "version": VERSION,
            "program": __version__,
            "made_at": now.isoformat(),
            "migrations": _migrations(conn, schema),
            "tables": found,
        }
        packed.writestr("manifest.json", json.dumps(manifest, indent=1))
    return manifest


def _migrations(conn: pymysql.connections.Connection, schema: str) -> list[str]:
    with conn.cursor() as cursor:
        cursor.execute(f"SELECT name FROM `{schema}`.`{dump.MIGRATIONS_TABLE}` ORDER BY name")
        return [name for (name,) in cursor.fetchall()]


# --- proving it ------------------------------------------------------------------------------------------------------


def _compared(path: Path, manifest: dict[str, Any]) -> Done:
    rows = sum(t["rows"] for t in manifest["tables"].values())
    with dump.picture() as conn:
        scratch = f"{own_name()}_scratch_{secrets.token_hex(4)}"
        try:
            _fill(conn, scratch, path, manifest)
            _compare(conn, scratch, manifest)
        except pymysql.err.OperationalError as error:
            if error.args[0] not in NO_SUCH_RIGHT:
                raise Broken(f"The backup could not be put back to compare it: {error.args[1]}.") from None
            return Done(len(manifest["tables"]), rows, False, "this database's account may not make a scratch database")
        finally:
            _drop(conn, scratch)
    return Done(len(manifest["tables"]), rows, True)


NO_SUCH_RIGHT = (1044, 1227)


def _fill(conn: pymysql.connections.Connection, schema: str, path: Path, manifest: dict[str, Any]) -> None:
    """A database of that name with what the file holds. Raises Broken where the file is not what its manifest says."""
    with conn.cursor() as cursor:
        cursor.execute(f"CREATE DATABASE `{schema}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0, UNIQUE_CHECKS = 0")
        with zipfile.ZipFile(path) as packed:
            for table, told in manifest["tables"].items():
                made = packed.read(f"schema/{table}.sql").decode()
                if not MADE.match(made):
                    raise Broken(f"The table {table} of this file is none of ours.")
                cursor.execute(made.replace("CREATE TABLE `", f"CREATE TABLE `{schema}`.`", 1))
                _refuse_damaged(packed, table, told)
                conn.begin()
                dump.put(conn, schema, table, told["columns"], map(json.loads, _lines(packed, table)))
                conn.commit()
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1, UNIQUE_CHECKS = 1")


def _refuse_damaged(packed: zipfile.ZipFile, table: str, told: dict[str, Any]) -> None:
    """Before a line of it is believed."""
    lines = dump.DigestedLines(_lines(packed, table))
    try:
        for _ in lines:
            pass
    except (zipfile.BadZipFile, UnicodeDecodeError, OSError):
        raise Broken(f"The table {table} of this file cannot be read: the file is damaged.") from None
    if (lines.count, lines.sha256) != (told["rows"], told["sha256"]):
        raise Broken(f"The table {table} of this file is not what its manifest says: the file is damaged.")


def _lines(packed: zipfile.ZipFile, table: str) -> Iterator[str]:
    with packed.open(f"tables/{table}.jsonl") as part:
        for line in io.TextIOWrapper(part, encoding="utf-8", newline="\n"):
            yield line.rstrip("\n")


def _compare(conn: pymysql.connections.Connection, schema: str, manifest: dict[str, Any]) -> None:
    for table, told in manifest["tables"].items():
        found = dump.DigestedLines(dump.lines(conn, schema, table))
        for _ in found:
            pass
        if found.sha256 != told["sha256"]:
            raise Broken(f"The table {table} came back differently from how it was read. The backup was not kept; tell us.")


def _drop(conn: pymysql.connections.Connection, schema: str) -> None:
    """Whatever becomes of it: where the database is away, a scratch database is left behind, and nothing else."""
    try:
        with conn.cursor() as cursor:
            cursor.execute("SET FOREIGN_KEY_CHECKS = 1, UNIQUE_CHECKS = 1")
            cursor.execute(f"DROP DATABASE IF EXISTS `{schema}`")
    except pymysql.err.MySQLError:
        return


# --- putting it back -------------------------------------------------------------------------------------------------


def read_manifest(path: Path) -> dict[str, Any]:
    """Raises Broken for what is no backup, or one of a newer program."""
    try:
        with zipfile.ZipFile(path) as packed:
            manifest = BackupManifest.model_validate_json(packed.read("manifest.json"))
    except OSError as error:
        raise Broken(f"{path} cannot be read ({error.strerror or error}).") from None
    except (zipfile.BadZipFile, zlib.error, RuntimeError, KeyError, ValueError):  # RuntimeError: a part that is locked
        raise Broken(f"{path} is no backup of a bench.") from None
    if manifest.version > VERSION or set(manifest.migrations) - {p.stem for p in Path(MIGRATIONS).glob("0*.py")}:
        raise Broken(f"{path} was made by a newer program ({manifest.program}) than this ({__version__}). Bring the program up to date, then restore.")
    if missing := sorted(ALWAYS_THERE - set(manifest.tables)):
        raise Broken(f"{path} is no whole bench: it lacks {', '.join(missing)}. Take another backup.")
    if manifest.tables["bench"].rows != 1 or manifest.tables[dump.MIGRATIONS_TABLE].rows != len(manifest.migrations):
        raise Broken(f"{path} is no whole bench: its settings or its history of versions are missing. Take another backup.")
    return manifest.model_dump()


def restore(path: Path, now: datetime) -> tuple[Done, str]:
    """Put a backup in the place of the bench that the store is bound to; nobody may work on it meanwhile. What it held lies in another database
    afterwards, whose name is the second value. Raises Broken, and has changed nothing then."""
    manifest = read_manifest(path)
    own = own_name()
    fresh, aside = f"{own}_restored_{secrets.token_hex(4)}", f"{own}_before_{now:%Y%m%d_%H%M%S}"
    with dump.picture() as conn:
        try:
            _fill(conn, fresh, path, manifest)
            _compare(conn, fresh, manifest)
        except BaseException as error:
            _drop(conn, fresh)
            if isinstance(error, (pymysql.err.Error, KeyError, TypeError, ValueError, zipfile.BadZipFile, zlib.error)):
                raise Broken(f"The backup could not be put back: {error.args[-1] if error.args else error}. Nothing was changed.") from None
            raise
        conn.commit()
        with conn.cursor() as cursor:
            cursor.execute(f"CREATE DATABASE `{aside}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
            moves = [f"`{own}`.`{t}` TO `{aside}`.`{t}`" for t in dump.tables(conn, own)] + [f"`{fresh}`.`{t}` TO `{own}`.`{t}`" for t in manifest["tables"]]
            cursor.execute(f"RENAME TABLE {', '.join(moves)}")  # one statement: all of it or nothing
        _drop(conn, fresh)
    return Done(len(manifest["tables"]), sum(t["rows"] for t in manifest["tables"].values()), True), aside


def drop_oldest(folder: Path, keep: int = KEPT) -> list[Path]:
    """Of the nightly ones alone, known by their names."""
    nightly = sorted(p for p in folder.glob("brass-penny-*.zip") if NAME.fullmatch(p.name))
    gone = nightly[: max(0, len(nightly) - keep)]
    for path in gone:
        path.unlink()
    return gone
