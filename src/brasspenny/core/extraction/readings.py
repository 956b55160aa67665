"""How a strength was read: refractometer in % TDS, plain °Brix, or drying in an oven; offsets from checks; the protocol. docs/formulas.md §2, §3."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .. import figures
from ..errors import Inconsistent, OutOfDomain
from ..limits import check

ReadAs = Literal["tds", "brix", "oven"]
BRIX_FACTOR = 0.85
BRIX_ACCURACY_TDS_PCT = 0.15
"""A plain Brix instrument knows sugar, not coffee: its strength is good to this, whatever its own scale says."""
REFERENCE_LIQUIDS: tuple[tuple[str, float], ...] = (("distilled water", 0.0),)


@dataclass(frozen=True)
class AsRead:
    """One reading as the instrument gave it. value: % TDS, °Brix, or % by drying; offset_pct: taken off after a check, % TDS;
    accuracy_pct: half-width, % TDS, None when the bench's own instrument speaks for it."""

    kind: ReadAs
    value: float
    tds_pct: float
    offset_pct: float = 0.0
    accuracy_pct: float | None = None


def read_tds(value_pct: float, *, offset_pct: float = 0.0) -> AsRead:
    """A coffee refractometer's own number, less what the last check found it off by. Never below 0.

    >>> read_tds(1.44, offset_pct=0.02).tds_pct
    1.42
    """
    return AsRead("tds", value_pct, max(0.0, round(value_pct - offset_pct, 3)), offset_pct)


def read_brix(brix: float, *, factor: float = BRIX_FACTOR, offset_pct: float = 0.0) -> AsRead:
    """c ≈ factor × °Brix. brix 0 to 30; factor 0.5 to 1.2. Source: docs/formulas.md §2.

    >>> read_brix(1.7).tds_pct
    1.445
    """
    if not 0 <= brix <= 30 or not math.isfinite(brix):
        raise OutOfDomain("brix", f"{brix:g} °Brix is not a brew.", "Give 0 to 30 °Brix, as the instrument shows it.", brix)
    return AsRead("brix", brix, max(0.0, round(factor * brix - offset_pct, 3)), offset_pct, BRIX_ACCURACY_TDS_PCT)


def read_oven(*, sample_g: float, dish_g: float, dried_g: float, scale_resolution_g: float = 0.01) -> AsRead:
    """By drying: c = (dried − dish) / sample. Masses g; dried is dish with residue. What two weighings can be off by is its accuracy.

    Raises Inconsistent when the residue is negative or more than the sample. Source: docs/formulas.md §2.

    >>> read_oven(sample_g=5.0, dish_g=21.4, dried_g=21.47, scale_resolution_g=0.001).tds_pct
    1.4
    """
    check(beverage_g=sample_g)
    residue = dried_g - dish_g
    if residue < 0:
        raise Inconsistent("dried_g", "the dried dish weighs less than the empty one.", "Weigh both on the same scale, cold.", dried_g)
    if residue > sample_g:
        raise Inconsistent("dried_g", "the residue weighs more than the sample.", "Give the dish with its residue, and the sample alone.", dried_g)
    accuracy = 100 * scale_resolution_g / sample_g
    return AsRead("oven", round(100 * residue / sample_g, 3), round(100 * residue / sample_g, 3), 0.0, round(accuracy, 3))


def offset_of(*, reference_pct: float, read_pct: float) -> float:
    """What an instrument reads too much, % TDS: to be taken off. Refused beyond 1 %: that is no offset but a fault.

    >>> offset_of(reference_pct=0, read_pct=0.02)
    0.02
    """
    off = round(read_pct - reference_pct, 3)
    if abs(off) > 1:
        raise OutOfDomain(
            "read_pct",
            f"{'+' if off >= 0 else ''}{figures.tds(off)} % from the reference is no offset but a fault.",
            "Clean the prism, zero it, and read again.",
            read_pct,
        )
    return off


# --- the protocol ----------------------------------------------------------------------------------------------------------

ProtocolStep = Literal["zeroed", "mixed", "from_the_server", "cooled", "wiped", "filtered"]


@dataclass(frozen=True)
class ProtocolRule:
    """One thing done before reading: what to do, why, and what its omission leaves in doubt."""

    code: ProtocolStep
    do: str
    why: str
    skipped: str


PROTOCOL: tuple[ProtocolRule, ...] = (
    ProtocolRule("zeroed", "Zero with distilled water", "And again after any change of temperature.", "not zeroed"),
    ProtocolRule("mixed", "Stir the drink", "Layers of different strength lie in an unstirred server.", "drink not stirred"),
    ProtocolRule("from_the_server", "Sample from the mixed server", "The last drips are far weaker than the cup.", "sampled from the drips"),
    ProtocolRule("cooled", "Let the sample cool to the instrument", "A warm sample reads low.", "sample not cooled"),
    ProtocolRule("wiped", "Wipe between samples", "What is left of the last one is read again.", "not wiped between samples"),
    ProtocolRule("filtered", "Filter an unfiltered brew's sample", "Fines of mesh, metal or press read as strength.", "unfiltered, reads with more scatter"),
)


def skipped_said(done: Sequence[ProtocolStep], *, asked: Sequence[ProtocolStep]) -> tuple[str, ...]:
    """What was left out of the steps that were asked for, in words.

    >>> skipped_said(["zeroed", "mixed"], asked=["zeroed", "mixed", "wiped"])
    ('not wiped between samples',)
    """
    return tuple(r.skipped for r in PROTOCOL if r.code in asked and r.code not in done)
