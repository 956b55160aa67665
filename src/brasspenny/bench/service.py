"""The bench's own settings and its passphrase."""

from __future__ import annotations

from datetime import datetime

from argon2 import PasswordHasher

from ..act import Act
from ..core.kit.heat import boiling_point_c
from ..devices import wire
from ..history import service as history
from ..refusals import Unprocessable
from ..store.models import Bench, DamagedRow, units_of_bench
from ..store.writing import use_case
from . import schemas as s
from . import sessions

SHORTEST_PASSPHRASE = 10


def read_bench() -> s.BenchAnswer:
    return _shape(Bench.get_by_id(1))


@use_case
def edit_bench(sent: s.BenchPatch, rev: int, act: Act, *, at_the_bench: bool) -> s.BenchAnswer:
    """at_the_bench: asked for at its own machine, where alone a scale of that machine may be named."""
    bench = Bench.get_by_id(1)
    if sent.scale_address and not at_the_bench and wire.is_this_machine(sent.scale_address):
        raise Unprocessable("scale_address", "That is an address of the bench's own machine.", "Set it there, or give the scale's own address.")
    history.edit(bench, {n: getattr(sent, n) for n in sent.model_fields_set}, rev=rev, act=act, trial_id=None)
    return _shape(bench)


def read_units() -> s.UnitsAnswer:
    return s.UnitsAnswer(**vars(units_of_bench()))


COLUMN_OF_UNIT = {"heat": "heat_unit", "ratio": "ratio_unit", "bags": "bag_unit", "currency": "currency"}


@use_case
def edit_units(sent: s.UnitsPatch, act: Act) -> s.UnitsAnswer:
    """Of no consequence to any result, so that the last one to choose is right; in the history all the same."""
    bench = Bench.get_by_id(1)
    history.edit(bench, {COLUMN_OF_UNIT[n]: getattr(sent, n) for n in sent.model_fields_set}, rev=bench.rev, act=act, trial_id=None)
    return read_units()


def has_passphrase() -> bool:
    return Bench.get_by_id(1).passphrase_hash is not None


@use_case
def set_passphrase(passphrase: str, now: datetime) -> None:
    """A new one locks every device that was let in by the old one."""
    sessions.end_all(now)
    Bench.update(passphrase_hash=PasswordHasher().hash(passphrase)).where(Bench.id == 1).execute()


@use_case
def set_first_passphrase(passphrase: str) -> bool:
    """Where the bench has none yet; whether it had none. It ends no session: nobody was let in by another."""
    hashed = PasswordHasher().hash(passphrase)
    return bool(Bench.update(passphrase_hash=hashed).where(Bench.id == 1, Bench.passphrase_hash.is_null()).execute())


def _shape(bench: Bench) -> s.BenchAnswer:
    return s.BenchAnswer(
        name=bench.name,
        damaged=DamagedRow.select().count(),
        accuracy_pct=bench.accuracy_pct,
        resolution_pct=bench.resolution_pct,
        repeatability_pct=bench.repeatability_pct,
        scale_resolution_g=bench.scale_resolution_g,
        altitude_m=bench.altitude_m,
        ambient_c=bench.ambient_c,
        boiling_point_c=round(boiling_point_c(bench.altitude_m), 2),
        tolerance_g=bench.tolerance_g,
        tolerance_pct=bench.tolerance_pct,
        tolerance_s=bench.tolerance_s,
        tolerance_c=bench.tolerance_c,
        brix_factor=bench.brix_factor,
        scale_address=bench.scale_address,
        kit_lasts_years=bench.kit_lasts_years,
        cups_a_day=bench.cups_a_day,
        units=read_units(),
        rev=bench.rev,
    )
