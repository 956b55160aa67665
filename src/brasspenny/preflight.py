"""What a command needs at hand: the data folder, one start at a time, a database that answers; and the sentence when there is none."""

from __future__ import annotations

import fcntl
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from . import config, mariadb

OWN_DATABASE, DEMO_DATABASE = "brasspenny", "brasspenny_demo"


class Stop(Exception):
    """A plain sentence for the person at the terminal; exit code 2."""


@contextmanager
def only_one(data: Path) -> Iterator[None]:
    """One start at a time per data folder."""
    with (data / "running.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Stop(f"This bench is running already (data folder {data}). Stop it first, or set PENNY_DATA to another folder.") from None
        yield


@contextmanager
def database(data: Path, name: str) -> Iterator[tuple[str, Callable[[], bool]]]:
    """The URL of a database that answers, and whether it still runs: the one set, or our own for as long as this lasts.
    The demo has a database of its own, so that emptying it cannot touch real brews."""
    elsewhere = config.get("PENNY_DATABASE_URL")
    if elsewhere:
        yield elsewhere, lambda: True
        return
    server = mariadb.start(data, name=name)
    try:
        yield server.url, lambda: server.process.poll() is None
    finally:
        server.stop()


def data_folder() -> Path:
    data = config.data_dir()
    try:
        data.mkdir(parents=True, exist_ok=True, mode=0o700)
        (data / ".writable").touch()
    except OSError as error:
        raise Stop(f"The data folder {data} cannot be written to ({error.strerror}). Set PENNY_DATA to one that can.") from None
    return data


def settle_secret(data: Path) -> None:
    """The secret is the database's. The file of an earlier version hands its own over, to the demo's and to the bench's own: so it stays."""
    from .store import secret

    path = data / "secret"
    secret.settle(path.read_text(errors="replace").strip() if path.exists() else None)


@contextmanager
def bench_at_hand(data: Path, name: str) -> Iterator[str]:
    """The URL of the bench's database: as it runs already, else started for as long as this lasts."""
    running = config.get("PENNY_DATABASE_URL") or mariadb.running_url(data, name=name)
    if running:
        yield running
        return
    with only_one(data), database(data, name) as (url, _):
        from .store import connection

        connection.bind(url, patience_s=None)
        connection.migrate()
        connection.database.close_all()
        yield url
