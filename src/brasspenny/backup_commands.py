"""The commands that carry a bench: backup, restore, export, import."""

from __future__ import annotations

from pathlib import Path

from . import backup
from .bench_files import into, out, reading
from .http import utc_now
from .preflight import Stop, bench_at_hand, data_folder, database, only_one
from .store import connection


def make_backup(file: Path, name: str) -> int:
    with bench_at_hand(data_folder(), name) as url:
        connection.bind(url, patience_s=None)
        try:
            done = backup.make(file, utc_now())
        except backup.Broken as error:
            raise Stop(str(error)) from None
    proof = "put back into a scratch database and every row compared" if done.compared else f"not put back to compare: {done.why_not}"
    print(f"{file}: {done.rows} rows of {done.tables} tables, {file.stat().st_size / 1e6:.1f} MB; {proof}.")
    print("Whoever has this file has the bench: it holds its secret.")
    return 0


def restore(file: Path, name: str) -> int:
    data = data_folder()
    with only_one(data), database(data, name) as (url, _):
        connection.bind(url, patience_s=None)
        connection.migrate()
        connection.database.close_all()
        try:
            done, aside = backup.restore(file, utc_now())
        except backup.Broken as error:
            raise Stop(str(error)) from None
        connection.migrate()
        connection.database.close_all()
    print(f"The bench is as in {file}: {done.rows} rows. What it held before is kept in the database {aside}.")
    return 0


def export(folder: Path, name: str) -> int:
    with bench_at_hand(data_folder(), name) as url:
        connection.bind(url, patience_s=None)
        try:
            with connection.database.connection_context():
                counts = out.to_folder(folder, utc_now())
                stay = out.flights_that_stay()
        except FileExistsError:
            raise Stop(f"{folder} is not empty. Give another folder: nothing is written over.") from None
        except OSError as error:
            raise Stop(f"{folder} cannot be written to ({error.strerror}).") from None
    print(f"{folder}: {sum(counts.values())} rows of {len(counts)} kinds, with a manifest and what each field means.")
    if stay:
        print(f"Flights not flipped yet stay here ({stay}): flip them, then export again.")
    return 0


def bring_in(path: Path, name: str) -> int:
    with bench_at_hand(data_folder(), name) as url:
        connection.bind(url, patience_s=None)
        try:
            with connection.database.connection_context():
                arrived = into.write(reading.read(reading.reader_of(path)), utc_now())
        except reading.NotABench as error:
            raise Stop(f"{path}: {error}") from None
    print("\n".join(into.said(arrived)))
    return 0
