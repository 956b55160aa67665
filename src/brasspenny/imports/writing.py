"""Many loose brews written at once: the same rows the guide and the form write, in a few statements instead of dozens each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from itertools import islice
from typing import Any

from ..act import Act
from ..core.importing.rows import ReadBrew
from ..history import service as history
from ..kit import service as kit
from ..store.models import Change, Reading, Run, Setup, SetupRevision, UsedKit
from ..trials.revisions import blank
from ..trials.service import LOOSE

KIT_KINDS = ("coffee", "grinder", "brewer", "filter", "water")
AT_ONCE = 500
"""Rows a statement."""


@dataclass
class Written:
    brews: int = 0
    readings: int = 0
    new_kit: set[str] = field(default_factory=set)


def known_names() -> dict[tuple[str, str], str]:
    """(kind, folded name) → the name as the kit has it; burrs count as a grinder."""
    items = kit.live_items()
    names = kit.full_names(items)
    return {("grinder" if item.kind == "burr_set" else item.kind, names[item.id].casefold()): names[item.id] for item in items}


def write(brews: Sequence[ReadBrew], act: Act) -> Written:
    """Inside the caller's transaction."""
    written, made_of = Written(), _Kit(act)
    setups, revisions, uses, runs, readings = [], [], [], [], []
    for brew in brews:
        names, used, snapshot = made_of.named(brew.texts)
        setup = Setup(id=act.new_id(), trial=None, letter=LOOSE, name=brew.texts.get("name", "")[:80], created_at=act.now)
        variables = blank() | names | {
            "grind_setting": brew.texts.get("grind_setting", ""),
            "dose_g": brew.dose_g,
            "brew_water_g": brew.brew_water_g,
            "bypass_g": brew.bypass_g,
            "temperature_c": brew.temperature_c,
        }  # fmt: skip
        revision = SetupRevision(id=act.new_id(), setup=setup.id, number=1, created_at=act.now, kit=snapshot, **variables)
        setup.revision_id = revision.id
        run = _run(brew, setup, revision, act)
        setups.append(setup)
        revisions.append(revision)
        uses += [{"setup_revision": revision.id, "kit_item": item} for item in used]
        runs.append(run)
        readings += _readings(brew, run, act)
    for model, rows in ((Setup, setups), (SetupRevision, revisions), (Run, runs), (Reading, readings)):
        for some in _parts(rows):
            model.insert_many([row.__data__ for row in some]).execute()
    for some in _parts(uses):
        UsedKit.insert_many(some).execute()
    _told(act, (*setups, *runs, *readings))
    written.brews, written.readings, written.new_kit = len(runs), len(readings), made_of.new
    return written


class _Kit:
    """The kit behind the names of a row, found once for each set of names."""

    def __init__(self, act: Act) -> None:
        self.act, self.known, self.new = act, known_names(), set()
        self._found: dict[tuple, tuple[dict, list[str], dict]] = {}

    def named(self, texts: dict[str, str]) -> tuple[dict[str, Any], list[str], dict]:
        wanted = {kind: self._spelt(kind, texts[kind]) for kind in KIT_KINDS if texts.get(kind)}
        key = tuple(sorted(wanted.items()))
        if key not in self._found:
            variables, used = kit.remember(blank() | wanted, KIT_KINDS, self.act)
            names = {kind: variables[kind] for kind in (*KIT_KINDS, "brewer_type")}
            self._found[key] = (names, sorted({item.id for item in used.values()}), kit.snapshot(used))
        return self._found[key]

    def _spelt(self, kind: str, name: str) -> str:
        """As the kit has it, whatever its capitals; else as the first row wrote it."""
        folded = (kind, name.casefold())
        if folded not in self.known:
            self.known[folded] = name[:120]
            self.new.add(name[:120])
        return self.known[folded]


def _run(brew: ReadBrew, setup: Setup, revision: SetupRevision, act: Act) -> Run:
    liked = {"by_pass": {"": brew.liking}, "words": [], "who": act.who} if brew.liking is not None else None
    return Run(
        id=act.new_id(),
        rev=1,
        trial=None,
        setup=setup.id,
        setup_revision=revision.id,
        number=1,
        brewed_at=_utc(brew.brewed_at) or act.now,
        dose_g=brew.dose_g,
        brew_water_g=brew.brew_water_g,
        bypass_g=brew.bypass_g,
        beverage_g=brew.beverage_g,
        temperature_c=brew.temperature_c,
        pour_end_s=brew.pour_end_s,
        total_time_s=brew.total_time_s,
        moisture_pct=0,
        concentrate=brew.concentrate,
        purpose="loose",
        note=brew.texts.get("note", ""),
        observed={},
        off_plan=[],
        marked=[],
        protocol=None,
        served=None,
        curve=None,
        liked=liked,
        tags=list(brew.tags),
        archived_at=None,
        created_at=act.now,
        deleted_at=None,
        created_by=act.who,
    )


def _utc(at: datetime | None) -> datetime | None:
    return at.replace(tzinfo=UTC) if at else None


def _readings(brew: ReadBrew, run: Run, act: Act) -> Iterator[Reading]:
    """As they were read then: no offset of today's check is taken off."""
    for i, (tds, brix) in enumerate(zip(brew.tds_pct, brew.brix, strict=True)):
        as_read = None if brix is None else {"kind": "brix", "value": brix, "offset_pct": 0.0, "accuracy_pct": None}
        yield Reading(
            id=act.new_id(), rev=1, run=run.id, tds_pct=tds, source="typed", as_read=as_read, taken_at=run.brewed_at + timedelta(microseconds=i),
            created_at=act.now, deleted_at=None, created_by=act.who,
        )  # fmt: skip


def _told(act: Act, rows: Sequence[Any]) -> None:
    """In the history like any other new row, so that each can be taken back."""
    for some in _parts(rows):
        Change.insert_many(
            [
                {
                    "id": act.new_id(),
                    "trial_id": None,
                    "entity": row._meta.table_name,
                    "entity_id": row.id,
                    "action": "create",
                    "before": None,
                    "after": history.snapshot(row),
                    "who": act.who,
                    "at": act.now,
                    "undoes": None,
                }
                for row in some
            ]
        ).execute()


def _parts(rows: Sequence[Any]) -> Iterator[list[Any]]:
    whole = iter(rows)
    while some := list(islice(whole, AT_ONCE)):
        yield some
