"""Files mixed with hands: whatever comes in between, what is on the bench is what hands made of it."""

import io
import random
import zipfile
from typing import ClassVar

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import Bundle, RuleBasedStateMachine, consumes, initialize, rule, run_state_machine_as_test

from brasspenny.store.connection import database

from ..amount import examples
from ..mutated import a_bench, renamed
from .host import Host

seed = st.integers(0, 2**32)
TABLES = (
    "trial",
    "setup",
    "setup_revision",
    "run",
    "reading",
    "flight",
    "flight_brew",
    "flight_cup",
    "seal",
    "sheet",
    "sheet_cup",
    "score",
    "change",
    "recipe_version",
)


class FilesAndHands(RuleBasedStateMachine):
    """by_hand: every row that a hand has written, as it stood after the last hand. Files may add whole units and touch none of these."""

    app: ClassVar = None
    copies = Bundle("copies")

    @initialize()
    def lay_the_table(self):
        self.host = Host(self.app.test_client())
        self.trial, _, self.runs = self.host.two_setups_brewed(1)
        self.people = [self.host.person(f"{name} {self.trial['id']}") for name in ("Odile", "Marek")]
        self.flights, self.closed = [], []

    def rows(self) -> dict[tuple, tuple]:
        with database.connection_context():
            return {(table, row[0]): row for table in TABLES for row in database.execute_sql(f"SELECT * FROM `{table}`").fetchall()}

    @rule()
    def pour_a_flight(self):
        self.flights.append(self.host.flight(self.trial["id"], self.runs, self.people))

    @rule(likes=st.integers(1, 9))
    def score_and_close(self, likes):
        if self.flights:
            flight = self.flights.pop()
            for sheet in flight["sheets"]:
                self.host.score(sheet, *(self.host.touch(c["code"], value=likes) for c in flight["cups"]))
            self.host.call("POST", f"/flights/{flight['id']}/close")
            self.closed.append(flight)

    @rule()
    def flip(self):
        if self.closed:
            flight = self.closed.pop()
            marks = [{"code": c["code"], "mark": i + 1} for i, c in enumerate(flight["cups"])]
            self.host.call("POST", f"/flights/{flight['id']}/flip", {"marks": marks})

    @rule()
    def brew_again(self):
        setups = self.host.get(f"/trials/{self.trial['id']}/setups")["setups"]
        self.runs = [self.host.brew(self.trial["id"], setup)["id"] for setup in setups]

    @rule(target=copies)
    def take_a_copy(self):
        return self.host.client.get("/api/v1/export.zip").data

    @rule(copy=consumes(copies), by=seed, share=st.sampled_from([0.0, 0.3, 1.0]), changed=st.booleans())
    def bring_a_copy_in(self, copy, by, share, changed):
        """As it is, or with rows that are new to this bench, or with a value that is another."""
        rng = random.Random(by)
        with zipfile.ZipFile(io.BytesIO(copy)) as packed:
            parts = renamed({name: packed.read(name) for name in packed.namelist()}, share, rng)
        before = self.rows()
        answer = self.host.client.post("/api/v1/bench-import", data=a_bench(parts, rng) if changed else zip_of(parts), content_type="application/zip")
        assert answer.status_code in (200, 422), answer.data
        after = self.rows()
        assert {key: after.get(key) for key in before} == before
        self._nothing_hangs_on_what_was_here(before, after)

    def _nothing_hangs_on_what_was_here(self, before, after):
        fresh = {key for key in after if key not in before}
        assert not [
            1 for table, id_ in fresh if table != "change" and table in TIED and self._owner(table, id_) in {i for t, i in before if t == TIED[table][0]}
        ]
        with database.connection_context():
            ours = [i for t, i in fresh if t == "change"]
            for (elsewhere,) in database.execute_sql("SELECT elsewhere FROM `change` WHERE id IN %s", (ours or [""],)).fetchall():
                assert elsewhere, "history that can be undone came by a file"
            opened = [i for t, i in fresh if t == "flight"]
            for (status,) in database.execute_sql("SELECT status FROM flight WHERE id IN %s", (opened or [""],)).fetchall():
                assert status == "flipped", "a flight that can be tasted came by a file"

    def _owner(self, table, id_):
        with database.connection_context():
            return database.execute_sql(f"SELECT {TIED[table][1]} FROM `{table}` WHERE id = %s", (id_,)).fetchone()[0]


TIED = {
    "setup": ("trial", "trial_id"),
    "setup_revision": ("setup", "setup_id"),
    "run": ("setup", "setup_id"),
    "reading": ("run", "run_id"),
    "flight": ("trial", "trial_id"),
    "flight_cup": ("flight", "flight_id"),
    "sheet": ("flight", "flight_id"),
    "score": ("sheet", "sheet_id"),
}
"""Table → the one that its rows are a part of, and the column that says of which."""


def zip_of(parts):
    whole = io.BytesIO()
    with zipfile.ZipFile(whole, "w") as packed:
        for name, raw in parts.items():
            packed.writestr(name, raw)
    return whole.getvalue()


def test_whatever_files_come_in_between_hands_alone_change_what_is_here(app):
    FilesAndHands.app = app
    run_state_machine_as_test(FilesAndHands, settings=settings(max_examples=examples(30), stateful_step_count=12, deadline=None))
