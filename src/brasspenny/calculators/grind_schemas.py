"""HTTP shapes of the grind calculators: a shaken stack of sieves."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..http import Answer, Body
from .schemas import Interval, example


class FractionIn(Body):
    """What lies on a sieve of this aperture; the pan's is 0."""

    aperture_um: Annotated[float, Field(ge=0, le=20_000, description="µm")]
    mass_g: Annotated[float, Field(ge=0, le=5000, description="full less empty vessel, g")]


class BandIn(Body):
    from_um: Annotated[float, Field(gt=0, le=20_000)]
    to_um: Annotated[float, Field(gt=0, le=20_000)]


class SieveBody(Body):
    """fractions: the pan first, then from the finest sieve up. scale_step_g: of the scale all was weighed on."""

    model_config = example(
        {
            "mass_in_g": 25,
            "fractions": [
                {"aperture_um": 0, "mass_g": 2.1},
                {"aperture_um": 300, "mass_g": 4.0},
                {"aperture_um": 500, "mass_g": 11.3},
                {"aperture_um": 800, "mass_g": 6.2},
                {"aperture_um": 1100, "mass_g": 1.2},
            ],
            "band": {"from_um": 300, "to_um": 800},
        }
    )
    mass_in_g: Annotated[float, Field(gt=0, le=5000)]
    fractions: Annotated[list[FractionIn], Field(min_length=2, max_length=20)]
    band: BandIn
    scale_step_g: Annotated[float, Field(gt=0, le=10)] = 0.1


class FigureShown(Answer):
    """With its 95 % interval, by the steps of the scale alone: replicate samples say how far grinds lie apart."""

    value: float
    interval: Interval


class ShareShown(Answer):
    of_recovered_pct: FigureShown
    of_mass_in_pct: FigureShown


class PercentileShown(Answer):
    """at_um: null where only two sizes bound it; between_um: those, null where nothing does."""

    share_pct: float
    at_um: FigureShown | None
    between_um: list[float | None]


class WeibullShown(Answer):
    """Share coarser than x: exp(−(x/size_um)^evenness). misfit_pct: the most it is off at an aperture, points of mass."""

    size_um: float
    evenness: float
    misfit_pct: float


class CumulativeShown(Answer):
    aperture_um: float
    finer_pct: float


class SieveAnswer(Answer):
    """d10, d50, d90: the size below which so many per cent of the mass lie. span: (d90 − d10)/d50. weibull: from four fractions on. said: what to mind."""

    recovery_pct: FigureShown
    lost_g: float
    cumulative: list[CumulativeShown]
    fines: ShareShown
    in_band: ShareShown
    coarse: ShareShown
    d10: PercentileShown
    d50: PercentileShown
    d90: PercentileShown
    span: FigureShown | None
    weibull: WeibullShown | None
    said: list[str]
