"""Which brews are to be worked out again for the charts: whatever is written down of a brew, its readings, its setup, its trial or its recipe passes here, in the same
transaction. So what is kept is either true or known to be out of date."""

from __future__ import annotations

from collections.abc import Sequence

from .connection import database

RESTS_ON = {
    "run": "id IN ({marks})",
    "reading": "id IN (SELECT run_id FROM reading WHERE id IN ({marks}))",
    "setup": "setup_id IN ({marks})",
    "trial": "trial_id IN ({marks})",
    "recipe": "setup_revision_id IN (SELECT v.id FROM setup_revision v JOIN recipe_version n ON n.id = v.recipe_version_id WHERE n.recipe_id IN ({marks}))",
}
"""Kind of row → the brews whose place on the charts rests on it."""
OUT_OF_DATE = "INSERT INTO charted (run_id) SELECT id FROM run WHERE {which} ON DUPLICATE KEY UPDATE worked_out_by = ''"


def written(entity: str, ids: Sequence[str]) -> None:
    """Inside the caller's transaction."""
    if ids and (which := RESTS_ON.get(entity)):
        database.execute_sql(OUT_OF_DATE.format(which=which.format(marks=",".join(["%s"] * len(ids)))), tuple(ids))


def all_written() -> None:
    """Of every brew: many came in at once, past the history."""
    database.execute_sql(OUT_OF_DATE.format(which="1"))
