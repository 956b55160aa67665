"""Take a bench that was read in: into an empty bench as it was, into a living one beside what is there. The same bench twice changes nothing.

What is here already is never added to: a trial, a brew, a recipe or a piece of kit comes in whole, as new, or stays out and is named. Links and
tokens never come in, and history comes in to be read and not to be undone.
"""

from __future__ import annotations

import secrets
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

import peewee as pw

from ..progress_stream import TELLS_EVERY, Steps, TrackedSteps
from ..store import charted
from ..store.models import Bench, KitItem, Person, Table, Trial
from ..store.writing import batched, held, insert
from . import kinds as k
from .reading import NotABench
from .units import Row, Rows, Unfit, Unit, check_tastings, group


@dataclass
class Arrived:
    """By kind: rows that came in, and rows that were here already. kept: rows that are here with other values, or would have been added to what is
    here; the bench's own stand. stays_out: what of the file differs from what is here, by name; renumbered: trials that took another number;
    known: people and kit that are here under the same name."""

    came: dict[str, int] = field(default_factory=dict)
    here: dict[str, int] = field(default_factory=dict)
    kept: dict[str, int] = field(default_factory=dict)
    renumbered: dict[int, int] = field(default_factory=dict)
    known: list[str] = field(default_factory=list)
    stays_out: list[str] = field(default_factory=list)

    def count(self, of: str, kind: str, rows: int = 1) -> None:
        by_kind = getattr(self, of)
        by_kind[kind] = by_kind.get(kind, 0) + rows


def said(arrived: Arrived) -> list[str]:
    """In sentences: what came in, what was here, what stayed out, and what took another number."""
    came, here = sum(arrived.came.values()), sum(arrived.here.values())
    out = [f"{came} rows imported; {here} were already here." if came else f"Nothing new: all {here} rows are already here."]
    if arrived.stays_out:
        out.append(f"Here already, with other contents; this bench keeps its versions and nothing was added to them: {_listed(arrived.stays_out)}.")
    if arrived.known:
        out.append(f"Matched by name: {', '.join(sorted(set(arrived.known)))}.")
    if arrived.renumbered:
        out.append("Trials renumbered: " + ", ".join(f"{a} → {b}" for a, b in sorted(arrived.renumbered.items())) + ".")
    return out


def _listed(names: list[str]) -> str:
    shown = sorted(set(names))
    more = f" and {len(shown) - NAMED_AT_MOST} more" if len(shown) > NAMED_AT_MOST else ""
    return ", ".join(shown[:NAMED_AT_MOST]) + more


NAMED_AT_MOST = 12


# --- writing ---------------------------------------------------------------------------------------------------------


def write(rows: Rows, now: datetime) -> Arrived:
    """All of it or nothing. Raises NotABench where its rows do not fit together."""
    return TrackedSteps(write_steps(rows, now)).to_the_end()


def write_steps(rows: Rows, now: datetime) -> Steps[Arrived]:
    """The same, reporting (rows gone through, rows in all) as it goes. Left before its end, it has written nothing."""
    try:
        return (yield from _write(rows, now))
    except Unfit as error:
        raise NotABench(str(error) + ". Export it again, whole.") from None
    except (pw.IntegrityError, pw.DataError) as error:
        raise NotABench("Its rows do not fit together: one points at another that is missing, or holds what cannot be. Export it again, whole.") from error


def _write(rows: Rows, now: datetime) -> Steps[Arrived]:
    arrived, (units, history) = Arrived(), group(rows)
    done, of = 0, sum(map(len, rows.values()))
    with held():
        empty = not any(model.select().exists() for model in (Person, KitItem, Trial))
        if empty:
            _take_settings(rows["bench"])
        coming = _Coming(rows, arrived, now)
        for unit in units.values():
            if not coming.takes(unit):
                before, done = done, done + sum(map(len, unit.rows.values()))
                if done // TELLS_EVERY > before // TELLS_EVERY:
                    yield done, of
        if empty:
            coming.rows["change"] += [row for _, row in history]
            arrived.count("came", "change", len(history))
        for model in k.KINDS:
            fresh = coming.rows[k.name_of(model)]
            for some in batched(fresh):
                insert(model, (_completed(model, coming.mapped(row)) for row in some))
                done += len(some)
                yield done, of
        charted.all_written()
    return arrived


def _take_settings(rows: list[Row]) -> None:
    """An empty bench becomes the one that arrives: its name, its instruments, its place, its units."""
    for row in rows:
        values = {c: v for c, v in row.items() if c not in ("id", "rev")}
        Bench.update({Bench._meta.columns[c]: v for c, v in values.items()}).where(Bench.id == 1).execute()


def _completed(model: type[Table], row: Row) -> Row:
    """The row with what a file never brings: tokens that nobody has, and the mark of history from elsewhere."""
    kind = k.name_of(model)
    unknown = {column: secrets.token_hex(32) for column in ("token_hash",) if column in k.OWN_TO_A_BENCH.get(kind, ())}
    if kind == "seal":
        unknown["locked_key"] = ""
    elif kind == "change":
        unknown["elsewhere"] = True
    return row | unknown


class _Coming:
    """What is to be inserted, by kind, as unit after unit is held against what is here."""

    def __init__(self, rows: Rows, arrived: Arrived, now: datetime) -> None:
        self.rows: Rows = {k.name_of(model): [] for model in k.KINDS}
        self.arrived, self.now = arrived, now
        self.bench = next((row["name"] for row in rows["bench"]), "")
        self.here = {k.name_of(model): _here(model, rows[k.name_of(model)]) for model in k.KINDS}
        self.numbers = {number for (number,) in Trial.select(Trial.number).tuples()}
        self.highest = max([*self.numbers, *(row["number"] for row in rows["trial"])], default=0)
        self.twins = {key: there for model in (Person, KitItem) for key, there in _by_name(model).items()}
        self.same: dict[str, str] = {}

    def takes(self, unit: Unit) -> bool:
        """Take it in whole, or leave it out and count why. Raises Unfit."""
        kind, key = unit.root
        (root,) = unit.of(kind)
        if key in self.here[kind]:
            self._leave_out(unit)
            return False
        if kind in ("person", "kit_item") and root["deleted_at"] is None and (twin := self.twins.get((kind, root.get("kind"), root["name"].casefold()))):
            self.same[key] = twin
            self.arrived.known.append(root["name"])
            self.arrived.count("here", kind)
            for other, rows in unit.rows.items():
                if other != kind:
                    self.arrived.count("kept", other, len(rows))
            return False
        self._take_in(unit)
        return True

    def _leave_out(self, unit: Unit) -> None:
        differs = False
        for kind, rows in unit.rows.items():
            model = k.MODELS[kind]
            for _, row in rows:
                there = self.here[kind].get(_key(model, row))
                alike = there is not None and _alike(model, self.mapped(row), there)
                self.arrived.count("here" if alike else "kept", kind)
                differs = differs or not alike
        if differs:
            self.arrived.stays_out.append(unit.name)

    def _take_in(self, unit: Unit) -> None:
        check_tastings(unit)
        for kind, rows in unit.rows.items():
            for number, row in rows:
                if _key(k.MODELS[kind], row) in self.here[kind]:
                    raise Unfit(kind, number, "it is on this bench already, as part of something else")
                if kind == "trial":
                    row = row | {"number": self._number(row["number"]), "brought_in_at": self.now, "brought_in_from": self.bench}
                self.rows[kind].append(row)
            self.arrived.count("came", kind, len(rows))

    def _number(self, wanted: int) -> int:
        if wanted not in self.numbers:
            return wanted
        self.highest += 1
        self.arrived.renumbered[wanted] = self.highest
        return self.highest

    def mapped(self, value: Any) -> Any:
        """With the ids of what is here under the same name in place of those that arrive."""
        if not self.same:
            return value
        if isinstance(value, dict):
            return {self.same.get(key, key): self.mapped(v) for key, v in value.items()}
        if isinstance(value, list):
            return [self.mapped(v) for v in value]
        return self.same.get(value, value) if isinstance(value, str) else value


def _key(model: type[Table], row: Row) -> Any:
    columns = k.key_of(model)
    return row[columns[0]] if len(columns) == 1 else tuple(row[c] for c in columns)


def _here(model: type[Table], rows: list[Row]) -> dict[Any, Row]:
    """Of the rows that arrive, those whose key is on this bench, as they are here; pictures aside."""
    if model is Bench:
        return {}
    fields = [f for f in k.fields_of(model) if f.name != "image"]
    first = model._meta.columns[k.key_of(model)[0]]
    wanted = dict.fromkeys(row[first.column_name] for row in rows)
    found: dict[Any, Row] = {}
    for some in batched(wanted):
        for values in model.select(*fields).where(first.in_(some)).tuples():
            row = {f.column_name: value for f, value in zip(fields, values, strict=True)}
            found[_key(model, row)] = row
    return found


def _by_name(model: type[Table]) -> dict[tuple[str, str | None, str], str]:
    """(kind of row, kind of kit, name) → id, of people and kit that live here."""
    of = KitItem.kind if model is KitItem else pw.Value(None)
    living = model.select(model.id, of, model.name).where(model.deleted_at.is_null()).tuples()
    return {(k.name_of(model), kind, name.casefold()): key for key, kind, name in living}


def _alike(model: type[Table], row: Row, there: Row) -> bool:
    """But for a trial's number, which another bench may have given away, and pictures, which never change."""
    return all(there[c] == v for c, v in row.items() if c != "image" and not (model is Trial and c == "number"))
