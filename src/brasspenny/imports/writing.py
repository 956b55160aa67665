"""Many loose brews written at once: the same rows the guide and the form write, in a few statements instead of dozens each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from ..act import Act
from ..core.importing.rows import ReadBrew
from ..history import service as history
from ..kit import service as kit
from ..progress_stream import Steps
from ..store.models import Reading, Run, Setup, SetupRevision, UsedKit
from ..store.writing import batched, insert
from ..trials.revisions import blank
from ..trials.service import LOOSE

KIT_KINDS = ("coffee", "grinder", "brewer", "filter", "water")


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


def write(brews: Sequence[ReadBrew], act: Act) -> Steps[Written]:
    """Inside the caller's transaction."""
    written, made_of = Written(), KitOfTable(act)
    for some in batched(brews):
        written.readings += _write(some, made_of, act)
        written.brews += len(some)
        yield written.brews, len(brews)
    written.new_kit = made_of.new
    return written


def _write(brews: Sequence[ReadBrew], made_of: KitOfTable, act: Act) -> int:
    """How many readings they have."""
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
        run = run_of(brew, setup, revision.id, act)
        setups.append(setup)
        revisions.append(revision)
        uses += [{"setup_revision": revision.id, "kit_item": item} for item in used]
        runs.append(run)
        readings += readings_of(brew, run, act)
    history.add_many(setups, act=act)
    insert(SetupRevision, (row.__data__ for row in revisions))
    insert(UsedKit, uses)
    history.add_many(runs, act=act)
    history.add_many(readings, act=act)
    return len(readings)


class KitOfTable:
    """The kit behind the names in a table, found once for each set of names. new: names that are not in the kit yet."""

    def __init__(self, act: Act) -> None:
        self.act, self.known, self.new = act, known_names(), set()
        self._found: dict[tuple, tuple[dict, list[str], dict]] = {}

    def named(self, texts: dict[str, str]) -> tuple[dict[str, Any], list[str], dict]:
        wanted = {kind: self.spelt(kind, texts[kind]) for kind in KIT_KINDS if texts.get(kind)}
        key = tuple(sorted(wanted.items()))
        if key not in self._found:
            variables, used = kit.remember(blank() | wanted, KIT_KINDS, self.act)
            names = {kind: variables[kind] for kind in (*KIT_KINDS, "brewer_type")}
            self._found[key] = (names, sorted({item.id for item in used.values()}), kit.snapshot(used))
        return self._found[key]

    def spelt(self, kind: str, name: str) -> str:
        """As the kit has it, whatever its capitals; else as the first row wrote it."""
        folded = (kind, name.casefold())
        if folded not in self.known:
            self.known[folded] = name[:120]
            self.new.add(name[:120])
        return self.known[folded]


def run_of(brew: ReadBrew, setup: Setup, revision_id: str, act: Act, *, number: int = 1, purpose: str = "loose") -> Run:
    liked = {"by_pass": {"": brew.liking}, "words": [], "who": act.who} if brew.liking is not None else None
    return Run(
        id=act.new_id(),
        rev=1,
        trial=setup.trial_id,
        setup=setup.id,
        setup_revision=revision_id,
        number=number,
        brewed_at=utc(brew.brewed_at) or act.now,
        dose_g=brew.dose_g,
        brew_water_g=brew.brew_water_g,
        bypass_g=brew.bypass_g,
        beverage_g=brew.beverage_g,
        temperature_c=brew.temperature_c,
        pour_end_s=brew.pour_end_s,
        total_time_s=brew.total_time_s,
        moisture_pct=0,
        concentrate=brew.concentrate,
        purpose=purpose,
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


def utc(at: datetime | None) -> datetime | None:
    """A table's days and times say no zone: they are taken as they stand."""
    return at.replace(tzinfo=UTC) if at else None


def readings_of(brew: ReadBrew, run: Run, act: Act) -> Iterator[Reading]:
    """As they were read then: no offset of today's check is taken off."""
    for i, (tds, brix) in enumerate(zip(brew.tds_pct, brew.brix, strict=True)):
        as_read = None if brix is None else {"kind": "brix", "value": brix, "offset_pct": 0.0, "accuracy_pct": None}
        yield Reading(
            id=act.new_id(), rev=1, run=run.id, tds_pct=tds, source="typed", as_read=as_read, taken_at=run.brewed_at + timedelta(microseconds=i),
            created_at=act.now, deleted_at=None, created_by=act.who,
        )  # fmt: skip
