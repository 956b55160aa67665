"""Group the rows of a bench into units that come in whole or not at all: a trial with everything of it, a loose brew, a recipe, a piece of kit.

A unit whose root is on the bench already adds nothing to it. So no file reaches into a flight, a trial or a brew that is there.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any, TypeAlias

import peewee as pw

from ..core.errors import PennyError
from ..core.limits import check_tds
from ..core.tasting.seal import holds
from ..core.trial.value import ELSEWHERE
from ..store.models import Bench, KitItem, Person
from . import kinds as k

Row: TypeAlias = dict[str, Any]
Rows: TypeAlias = dict[str, list[Row]]
Root: TypeAlias = tuple[str, str]
"""Kind and id of the row that a unit is named by."""

OWNERS = {
    "stock_entry": ("kit_item_id", "kit_item"),
    "recipe_version": ("recipe_id", "recipe"),
    "declaration": ("trial_id", "trial"),
    "setup": ("trial_id", "trial"),
    "setup_revision": ("setup_id", "setup"),
    "used_kit": ("setup_revision_id", "setup_revision"),
    "run": ("setup_id", "setup"),
    "photo": ("run_id", "run"),
    "reading": ("run_id", "run"),
    "plan": ("trial_id", "trial"),
    "run_sheet": ("trial_id", "trial"),
    "flight": ("trial_id", "trial"),
    "flight_brew": ("flight_id", "flight"),
    "flight_cup": ("flight_id", "flight"),
    "seal": ("flight_id", "flight"),
    "sheet": ("flight_id", "flight"),
    "sheet_cup": ("sheet_id", "sheet"),
    "score": ("sheet_id", "sheet"),
    "late_score": ("sheet_id", "sheet"),
    "stored_verdict": ("trial_id", "trial"),
    "learnt_scatter": ("trial_id", "trial"),
    "palate_seat": ("session_id", "palate_session"),
    "palate_presentation": ("seat_id", "palate_seat"),
    "palate_drill_round": ("drill_id", "palate_drill"),
    "live_brew": ("setup_id", "setup"),
    "live_reading": ("live_brew_id", "live_brew"),
}
"""Kind → the column that says what a row is a part of, and that one's kind. A setup without a trial is a loose brew's, and a root."""
NEWEST = {"setup": ("revision_id", "setup_revision", "setup_id"), "recipe": ("version_id", "recipe_version", "recipe_id")}
"""Kind → the column that names its newest revision or version, the kind of that, and the column that points back."""
SHARED = {Person, KitItem}
"""What a unit may point at outside itself."""
CLOCKS_APART = timedelta(minutes=1)
"""By how much a score that was under way may be younger than the lock."""


class Unfit(Exception):
    """A row that does not fit with the others. kind, number: which; counted from 1."""

    def __init__(self, kind: str, number: int, why: str) -> None:
        super().__init__(f"In data/{kind}.json, row {number}: {why}")
        self.why = why


@dataclass
class Unit:
    """Rows by kind, in file order, each with its number in the file."""

    root: Root
    rows: dict[str, list[tuple[int, Row]]] = field(default_factory=dict)

    def of(self, kind: str) -> list[Row]:
        return [row for _, row in self.rows.get(kind, ())]

    @property
    def name(self) -> str:
        """What a person would call it."""
        kind, row = self.root[0], self.of(self.root[0])[0]
        match kind:
            case "trial":
                return f"trial {row['number']}, “{row['question']}”"
            case "setup":
                return f"the loose brew “{row['name']}”"
            case "person" | "recipe" | "kit_item":
                return row["name"]
        return kind.replace("_", " ")


def group(rows: Rows) -> tuple[dict[Root, Unit], list[tuple[int, Row]]]:
    """Units by root, in an order in which each comes after those it may point at, and the history of what stands in none. Raises Unfit."""
    root_of: dict[tuple[str, Any], Root] = {}
    units: dict[Root, Unit] = {}
    for model in k.KINDS:
        kind = k.name_of(model)
        if model is Bench or kind == "change":
            continue
        for number, row in enumerate(rows[kind], start=1):
            root = _root(kind, number, row, root_of)
            if "id" in row and root_of.setdefault((kind, row["id"]), root) is not root:
                raise Unfit(kind, number, "its id stands there twice")
            if kind == "seal":
                root_of[kind, row["flight_id"]] = root
            units.setdefault(root, Unit(root)).rows.setdefault(kind, []).append((number, row))
    for unit in units.values():
        _check_links(unit, root_of)
    return units, _file_history(rows["change"], units, root_of)


def check_links(unit: Unit) -> None:
    """Check that a unit that stands alone points at nothing but its own rows, people and kit. Raises Unfit."""
    _check_links(unit, {(kind, row["id"]): unit.root for kind in unit.rows for row in unit.of(kind) if "id" in row})


def _check_links(unit: Unit, root_of: dict[tuple[str, Any], Root]) -> None:
    _points_inside(unit, root_of)
    _knows_its_newest(unit)
    _is_of_one_trial(unit)
    _is_as_strong_as_can_be(unit)


def _root(kind: str, number: int, row: Row, root_of: dict[tuple[str, Any], Root]) -> Root:
    column, owner = OWNERS.get(kind, ("", ""))
    if not column or row[column] is None:
        if column and kind != "setup":
            raise Unfit(kind, number, f"{column}: it is part of nothing")
        return kind, row["id"]
    try:
        return root_of[owner, row[column]]
    except KeyError:
        raise Unfit(kind, number, f"{column}: no {owner.replace('_', ' ')} of this id is in the file") from None


def _points_inside(unit: Unit, root_of: dict[tuple[str, Any], Root]) -> None:
    for model in k.KINDS:
        kind = k.name_of(model)
        links = [f for f in k.fields_of(model) if isinstance(f, pw.ForeignKeyField) and f.rel_model not in SHARED]
        for number, row in unit.rows.get(kind, ()):
            for link in links:
                target = row[link.column_name]
                if target is not None and root_of.get((k.name_of(link.rel_model), target)) != unit.root:
                    raise Unfit(kind, number, f"{link.column_name}: it points into something else")


def _knows_its_newest(unit: Unit) -> None:
    for kind, (column, of, back) in NEWEST.items():
        parent = {row["id"]: row[back] for row in unit.of(of)}
        for number, row in unit.rows.get(kind, ()):
            if parent.get(row[column]) != row["id"]:
                raise Unfit(kind, number, f"{column}: it names no {of.replace('_', ' ')} of its own")


def _is_of_one_trial(unit: Unit) -> None:
    """A brew stands in the trial of its setup, and was made to a revision of that setup."""
    trial = unit.root[1] if unit.root[0] == "trial" else None
    setup_of = {row["id"]: row["setup_id"] for row in unit.of("setup_revision")}
    for number, row in unit.rows.get("run", ()):
        if row["trial_id"] != trial:
            raise Unfit("run", number, "trial_id: it is another than its setup's")
        if setup_of[row["setup_revision_id"]] != row["setup_id"]:
            raise Unfit("run", number, "setup_revision_id: it is a revision of another setup")


def _is_as_strong_as_can_be(unit: Unit) -> None:
    concentrate = {row["id"]: bool(row["concentrate"]) for row in unit.of("run")}
    for number, row in unit.rows.get("reading", ()):
        try:
            check_tds("tds_pct", row["tds_pct"], concentrate=concentrate[row["run_id"]])
        except PennyError as error:
            raise Unfit("reading", number, f"tds_pct: {error.reason}") from None


def _file_history(changes: Iterable[Row], units: dict[Root, Unit], root_of: dict[tuple[str, Any], Root]) -> list[tuple[int, Row]]:
    """Put each change into the unit it speaks of; return those that speak of nothing in the file: of a flight that stayed on its own bench, say."""
    left = []
    for number, row in enumerate(changes, start=1):
        root = root_of.get((row["entity"], row["entity_id"]))
        if root is not None and row["trial_id"] in (None, root[1]):
            units[root].rows.setdefault("change", []).append((number, row))
        else:
            left.append((number, row))
    return left


# --- a tasting is one value ------------------------------------------------------------------------------------------------------------


def check_tastings(unit: Unit) -> None:
    """Check that each flight of a trial could have been tasted here: cups against marks, key against seal, scores against sheets and the lock.
    Raises Unfit."""
    for number, flight in unit.rows.get("flight", ()):
        if why := _fault_of(unit, flight):
            raise Unfit("flight", number, why)


def _fault_of(unit: Unit, flight: Row) -> str:
    brews = {(b["round_no"], b["mark"]): b["run_id"] for b in unit.of("flight_brew") if b["flight_id"] == flight["id"]}
    cups = {c["id"]: c for c in unit.of("flight_cup") if c["flight_id"] == flight["id"]}
    sheets = {s["id"]: s for s in unit.of("sheet") if s["flight_id"] == flight["id"]}
    if flight["closed_at"] is None or flight["flipped_at"] is None or flight["flipped_at"] < flight["closed_at"]:
        return "it is flipped, and not locked before that"
    if len({c["code"] for c in cups.values()}) != len(cups):
        return "two cups have one code"
    if any(c["run_id"] not in _poured_under(c, brews) for c in cups.values()):
        return "a cup holds another brew than its mark says"
    if len({s["person_id"] for s in sheets.values()}) != len(sheets):
        return "somebody has two sheets"
    return _fault_of_seal(unit, flight, cups) or _fault_of_scores(unit, flight, cups, sheets)


def _poured_under(cup: Row, brews: dict[tuple[int, int], str]) -> list[str]:
    """The brews that a cup may hold: its mark's, or any of its round where cups have labels and no marks."""
    return [run for (round_no, mark), run in brews.items() if round_no == cup["round_no"] and cup["mark"] in (None, mark)]


def _fault_of_seal(unit: Unit, flight: Row, cups: dict[str, Row]) -> str:
    seals = [s for s in unit.of("seal") if s["flight_id"] == flight["id"]]
    if bool(seals) != (flight["blinding"] in ("runner", "broken")):
        return "a runner's flight has a seal, and no other has"
    key = {c["code"]: c["mark"] for c in cups.values()}
    if seals and not holds(key, seals[0]["nonce"] or "", seals[0]["commitment"]):
        return "its cups do not match its seal"
    return ""


def _fault_of_scores(unit: Unit, flight: Row, cups: dict[str, Row], sheets: dict[str, Row]) -> str:
    poured = {(c["sheet_id"], c["cup_id"]) for c in unit.of("sheet_cup")}
    lock = flight["closed_at"] + CLOCKS_APART
    for score in unit.of("score"):
        if score["sheet_id"] not in sheets:
            continue
        if (score["sheet_id"], score["cup_id"]) not in poured or score["cup_id"] not in cups:
            return "a score is for a cup that was not on its sheet"
        if score["pass_name"] not in ("", *flight["passes"]):
            return "a score is of a pass that was not asked"
        if flight["blinding"] not in ELSEWHERE and score["received_at"] > lock:
            return "a score is younger than the lock"
    return ""
