"""Every edit and delete goes through here: the revision is checked, the change is written down, deletes are soft."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from ..act import Act
from ..refusals import Conflict, NotFound, Stale
from ..store import charted
from ..store.grinding import GRINDING
from ..store.models import (
    Bench,
    Change,
    Editable,
    Flight,
    InstrumentCheck,
    KitItem,
    LiveBrew,
    MatchedSetting,
    Person,
    Photo,
    Plan,
    Reading,
    Recipe,
    Run,
    RunSheet,
    Setup,
    StockEntry,
    Trial,
    VerdictLink,
)
from ..store.palate import PalateDrill, PalateSession
from ..store.writing import batched, insert, use_case
from . import schemas as s

ENTITIES: dict[str, type[Editable]] = {
    m._meta.table_name: m
    for m in (
        Trial,
        Setup,
        Run,
        Reading,
        Flight,
        Person,
        Bench,
        KitItem,
        StockEntry,
        MatchedSetting,
        Recipe,
        Plan,
        RunSheet,
        LiveBrew,
        InstrumentCheck,
        Photo,
        VerdictLink,
        PalateSession,
        PalateDrill,
        *GRINDING,
    )
}
UNDOABLE = ("create", "update", "delete")
REWRITES = (*UNDOABLE, "restore")
HIDDEN = {"id", "rev", "created_at", "passphrase_hash", "secret", "brews_given", "dial_ins_given", "image", "token_hash", "helper_hash", "device_hash"}


@dataclass(frozen=True)
class Guards:
    """What a room asks before one of its rows is taken away, comes back, or gets earlier values again by an undo. Each raises a Refusal
    or a PennyError; edit is handed the values about to be set. edited is called after every edit, by hand or by undo, with the values before,
    and records what follows from it, so that no way round an edit is a way round its consequences."""

    remove: Callable[[Any], None] = lambda row: None
    restore: Callable[[Any], None] = lambda row: None
    edit: Callable[[Any, dict[str, Any]], None] = lambda row, values: None
    edited: Callable[[Any, dict[str, Any], Act, str | None], None] = lambda row, before, act, undoes: None


_guards: dict[str, Guards] = {}


def guard(entity: str, **asks: Callable[..., None]) -> None:
    """A room registers its guards once: its own commands and every undo go through them."""
    _guards[entity] = Guards(**asks)


def _guards_of(row: Any) -> Guards:
    return _guards.get(row._meta.table_name, Guards())


def snapshot(row: Any) -> dict[str, Any]:
    """A row's own values as plain JSON values."""
    return {name: _plain(row.__data__[name]) for name in row.__data__ if name not in HIDDEN}


def _plain(value: Any) -> Any:
    if isinstance(value, datetime):
        return value.isoformat().replace("+00:00", "Z")
    return value.isoformat() if isinstance(value, date) else value


def record(row: Any, action: str, *, act: Act, trial_id: str | None, before: dict | None = None, after: dict | None = None, undoes: str | None = None) -> str:
    """Write one change down; its id."""
    change = Change.create(**_change(row, action, act, trial_id) | {"before": before, "after": after, "undoes": undoes})
    if action in REWRITES:
        charted.written(change.entity, [change.entity_id])
    if trial_id is not None:
        act.touched.add((trial_id, change.entity, action))
    return change.id


def _change(row: Any, action: str, act: Act, trial_id: str | None) -> dict[str, Any]:
    return {
        "id": act.new_id(),
        "trial_id": trial_id,
        "entity": row._meta.table_name,
        "entity_id": str(row.id),
        "action": action,
        "before": None,
        "after": None,
        "who": act.who,
        "at": act.now,
        "undoes": None,
    }


def add(row: Any, *, act: Act, trial_id: str | None) -> str:
    """Insert a new row and record it."""
    row.save(force_insert=True)
    return record(row, "create", act=act, trial_id=trial_id, after=snapshot(row))


def add_many(rows: Sequence[Any], *, act: Act, trial_id: str | None = None) -> None:
    """The same of many rows of one table, in a few statements instead of two each."""
    for some in batched(rows):
        insert(type(some[0]), (row.__data__ for row in some))
        insert(Change, (_change(row, "create", act, trial_id) | {"after": snapshot(row)} for row in some))
        charted.written(some[0]._meta.table_name, [row.id for row in some])
        if trial_id is not None:
            act.touched.add((trial_id, some[0]._meta.table_name, "create"))


def edit(row: Any, values: dict[str, Any], *, rev: int, act: Act, trial_id: str | None, undoes: str | None = None) -> str | None:
    """Set `values` if nobody wrote since `rev`; the change's id, or None when nothing differs. Raises Stale with both versions."""
    model = type(row)
    newest = model.select().where(model.id == row.id).for_update().get()  # a plain read would see this transaction's snapshot
    before_all = snapshot(newest)
    if newest.rev != rev:
        raise Stale({**before_all, "rev": newest.rev}, {k: _plain(v) for k, v in values.items()})
    changed = {k: v for k, v in values.items() if newest.__data__.get(k) != v}
    if not changed:
        return None
    _guards_of(row).edit(newest, changed)
    model.update(**changed, rev=rev + 1).where(model.id == row.id).execute()
    for name, value in changed.items():
        setattr(row, name, value)
    row.rev = rev + 1
    before = {k: before_all[k] for k in changed}
    change = record(row, "update", act=act, trial_id=trial_id, before=before, after={k: _plain(v) for k, v in changed.items()}, undoes=undoes)
    _guards_of(row).edited(row, before, act, undoes)
    return change


def remove(row: Any, *, act: Act, trial_id: str | None, undoes: str | None = None) -> str:
    """Soft delete, once its room's guards let it go; the change's id, by which it can be undone."""
    _guards_of(row).remove(row)
    model = type(row)
    gone = model.update(deleted_at=act.now, rev=model.rev + 1).where((model.id == row.id) & model.deleted_at.is_null()).execute()
    if not gone:
        raise Conflict("", "That was deleted already.", "Look at what is there now.")
    return record(row, "delete", act=act, trial_id=trial_id, before=snapshot(row), undoes=undoes)


@use_case
def undo(change_id: str, act: Act) -> str:
    """Take back a create, update or delete by the room's own guards; the undoing is a change of its own. An update is taken back only
    where nothing was written to the same fields since. Raises NotFound, Conflict, Stale (with both), and what the guards raise."""
    change = Change.select().where(Change.id == change_id).for_update().first()
    if change is None:
        raise NotFound("change")
    if change.elsewhere:
        raise Conflict("", "That was done on another bench, and came in to be read.", "Change it here by hand.")
    if change.action not in UNDOABLE or Change.select().where(Change.undoes == change.id).exists():
        raise Conflict("", "That was undone already, or cannot be undone.", "Look at the history for what stands now.")
    model = ENTITIES[change.entity]
    key = int(change.entity_id) if change.entity == "bench" else change.entity_id
    row = model.select().where(model.id == key).for_update().get()
    if change.action == "update":
        return _undo_update(row, change, act)
    if change.action == "create":
        return remove(row, act=act, trial_id=change.trial_id, undoes=change.id)
    if row.deleted_at is None:
        raise Conflict("", "That is back already.", "Look at the history for what stands now.")
    _guards_of(row).restore(row)
    model.update(deleted_at=None, rev=model.rev + 1).where(model.id == row.id).execute()
    return record(row, "restore", act=act, trial_id=change.trial_id, undoes=change.id)


def _undo_update(row: Any, change: Change, act: Act) -> str:
    if getattr(row, "deleted_at", None) is not None:
        raise Conflict("", "What was changed there has been deleted since.", "Bring it back first.")
    now = snapshot(row)
    moved_on = [name for name, value in change.after.items() if now.get(name) != value]
    if moved_on:
        raise Stale({name: now.get(name) for name in moved_on} | {"rev": row.rev}, {name: change.before.get(name) for name in moved_on})
    return edit(row, _revived(row, change.before), rev=row.rev, act=act, trial_id=change.trial_id, undoes=change.id) or change.id


def _revived(row: Any, values: dict[str, Any]) -> dict[str, Any]:
    """Stored JSON values back as the column's own Python values."""
    times = {f.name for f in row._meta.sorted_fields if type(f).__name__ == "UtcField"}
    return {k: datetime.fromisoformat(v) if k in times and v else v for k, v in values.items()}


def of_trial(trial_id: str, *, limit: int = 200) -> s.HistoryAnswer:
    """Newest first."""
    return _shape(list(Change.select().where(Change.trial_id == trial_id).order_by(Change.at.desc(), Change.id).limit(limit)))


def deleted_lately(*, limit: int = 10) -> s.HistoryAnswer:
    """Trials and people whose delete still stands, newest first: what no other history leads to any more."""
    undone = Change.select(Change.undoes).where(Change.undoes.is_null(False))
    rows = Change.select().where(
        (Change.action == "delete")
        & Change.entity.in_(
            ("trial", "person", "kit_item", "recipe", "matched_setting", "palate_session", "palate_drill", *(t._meta.table_name for t in GRINDING))
        )
        & Change.id.not_in(undone)
        & (Change.elsewhere == False)  # noqa: E712 (a column)
    )
    return _shape(list(rows.order_by(Change.at.desc(), Change.id).limit(limit)))


def _shape(rows: list[Change]) -> s.HistoryAnswer:
    undone = {r.undoes for r in rows if r.undoes}
    names = dict(Person.select(Person.id, Person.name).tuples())
    return s.HistoryAnswer(
        changes=[
            s.ChangeAnswer(
                id=r.id,
                entity=r.entity,
                entity_id=r.entity_id,
                action=r.action,
                before=r.before,
                after=r.after,
                who=names.get(r.who),
                at=r.at,
                undoes=r.undoes,
                can_undo=r.action in ("update", "delete") and r.id not in undone and not r.elsewhere,
                elsewhere=bool(r.elsewhere),
            )
            for r in rows
        ]
    )
