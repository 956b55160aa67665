"""Clients of the tests that are let in: what a test is not about is done without a key or a passphrase."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from threading import Lock

from flask.testing import FlaskClient

from brasspenny.bench.sessions import COOKIE_KEY
from brasspenny.demo import scenario
from brasspenny.store import connection
from brasspenny.store.seen_devices import LetIn, hash_of_token

LONG = timedelta(days=36500)
ONE_BY_ONE = Lock()


class LetInClient(FlaskClient):
    """Has a session of its own from the first request on, with an id and a token that are the same in every run."""

    def __init__(self, app, *args, **kwargs) -> None:
        super().__init__(app, *args, **kwargs)
        self.come_in()

    def come_in(self) -> None:
        """Again, after a logout."""
        app = self.application
        with ONE_BY_ONE, connection.database.connection_context():
            number = LetIn.select().count()
            token = f"a client of the tests, number {number}"
            at = app.config["CLOCK"].at + LONG
            LetIn.create(id=f"client{number:06d}", token_hash=hash_of_token(token), created_at=at, seen_at=at, agent="tests", address="127.0.0.1")
        with self.session_transaction() as session:
            session[COOKIE_KEY] = token


@contextmanager
def still_let_in() -> Iterator[None]:
    """Whoever was let in still is, whatever becomes of the bench meanwhile."""
    inside = list(LetIn.select().dicts())
    yield
    LetIn.delete().execute()
    if inside:
        LetIn.insert_many(inside).execute()


def empty_bench() -> None:
    """Nothing is on the bench any more, and who was let in still is."""
    with connection.database.connection_context(), still_let_in():
        scenario.wipe()
