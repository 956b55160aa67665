"""HTTP shapes of the grind calculators: a shaken stack of sieves, two of them, a table of sizes."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..core.vocabulary import TableKind
from ..grinding.schemas import BandIn, FractionIn, GrindChange, SieveAnswer
from ..http import Answer, Body
from .schemas import example

FRACTIONS = [
    {"aperture_um": 0, "mass_g": 2.1},
    {"aperture_um": 300, "mass_g": 4.0},
    {"aperture_um": 500, "mass_g": 11.3},
    {"aperture_um": 800, "mass_g": 6.2},
    {"aperture_um": 1100, "mass_g": 1.2},
]


class StackIn(Body):
    """fractions: the pan first, then from the finest sieve up. scale_step_g: of the scale all was weighed on."""

    mass_in_g: Annotated[float, Field(gt=0, le=5000)]
    fractions: Annotated[list[FractionIn], Field(min_length=2, max_length=20)]
    scale_step_g: Annotated[float, Field(gt=0, le=10)] = 0.1


class SieveBody(StackIn):
    """band: null for the usual one of this stack."""

    model_config = example({"mass_in_g": 25, "fractions": FRACTIONS, "band": {"from_um": 300, "to_um": 800}})
    band: BandIn | None = None


class TwoSievesBody(Body):
    """The second against the first, with one band."""

    model_config = example(
        {
            "first": {"mass_in_g": 22, "fractions": [{"aperture_um": a, "mass_g": m} for a, m in ((0, 6.1), (400, 8.4), (900, 7.3))]},
            "second": {"mass_in_g": 22, "fractions": [{"aperture_um": a, "mass_g": m} for a, m in ((0, 5.2), (400, 10.3), (900, 6.4))]},
            "band": {"from_um": 400, "to_um": 900},
        }
    )
    first: StackIn
    second: StackIn
    band: BandIn


class TwoSievesAnswer(Answer):
    """matched: whether the medians agree; null where a stack only bounds one."""

    first: SieveAnswer
    second: SieveAnswer
    matched: bool | None
    said: str
    changes: list[GrindChange]


class ParticleTableBody(Body):
    """Lines of a diameter in µm and a share by volume or mass. kind: how shares are meant; null: as the table shows itself."""

    model_config = example({"text": "diameter µm;finer %\n300;8.5\n500;24.6\n800;70.2\n1100;100"})
    text: Annotated[str, Field(min_length=1, max_length=100_000)]
    kind: TableKind | None = None
    band: BandIn | None = None


class ParticleTableAnswer(Answer):
    """kind_label: how its shares were taken; skipped: numbers of lines left out."""

    kind: TableKind
    kind_label: str
    rows: int
    skipped: list[int]
    sieved: SieveAnswer
