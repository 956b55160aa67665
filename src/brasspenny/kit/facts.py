"""The facts of each kind of kit, as they are sent, stored and shown. Handbook §5. All may be left unknown."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from ..core.extraction.yields import BrewerType, School
from ..core.grinding.settings import Direction, ScaleType
from ..core.kit.heat import fit_cooling
from ..http import Body, Celsius, line, quantity
from ..refusals import Unprocessable

Grams = quantity("beverage_g")
Price = Annotated[float, Field(ge=0, le=1_000_000, description="in the bench's own currency")]
Minerals = Annotated[float, Field(ge=0, le=5_000, description="mg/L")]
Setting = Annotated[float, Field(ge=-1000, le=10_000, description="on the grinder's own scale")]
Species = Literal["arabica", "robusta", "blend"]
Roast = Literal["light", "medium_light", "medium", "medium_dark", "dark"]


class CoffeeFacts(Body):
    """One lot. robusta_share: of a blend, 0 to 1. may_hold_alcohol: barrel-aged lots."""

    lot: line(60) = ""
    origin: line(80) = ""
    variety: line(80) = ""
    process: line(60) = ""
    species: Species = "arabica"
    robusta_share: Annotated[float, Field(ge=0, le=1)] = 0.3
    roast: Roast | None = None
    roasted_on: date | None = None
    solubility_note: line(120) = ""
    price_per_kg: Price | None = None
    published_score: Annotated[float, Field(ge=0, le=100)] | None = None
    may_hold_alcohol: bool = False


class GrinderFacts(Body):
    """The body: its scale, and what every burr set in it shares."""

    drive: Literal["electric", "hand"] = "electric"
    scale: ScaleType = "dial"
    direction: Direction = "larger_is_coarser"
    step: Annotated[float, Field(gt=0, le=100, description="smallest change of setting")] | None = None
    zero: Setting | None = None
    finest: Setting | None = Field(default=None, description="finest usable setting; advice never goes beyond it")
    rate_g_s: Annotated[float, Field(gt=0, le=200, description="g/s")] | None = None
    retention_g: Annotated[float, Field(ge=0, le=100)] | None = None
    purge_g: Annotated[float, Field(ge=0, le=100, description="thrown away before a dose, g")] | None = None
    price: Price | None = None
    note: line(200) = ""


class BurrSetFacts(Body):
    """Burrs as their own part. grinder_id: the body they sit in. What is left unknown is the body's."""

    grinder_id: Annotated[str, Field(min_length=1, max_length=40)]
    geometry: line(80) = ""
    zero: Setting | None = None
    finest: Setting | None = None
    rate_g_s: Annotated[float, Field(gt=0, le=200, description="g/s")] | None = None
    price: Price | None = None
    note: line(200) = ""


class FilterFacts(Body):
    material: Literal["paper", "mesh", "metal", "cloth"] = "paper"
    thickness: line(60) = ""
    pores: line(60) = ""
    size: line(40) = ""
    rinsed: bool = True
    reusable: bool = False
    price_each: Price | None = None
    care: line(200) = ""


class BrewerFacts(Body):
    """count: how many there are; school: null for the type's own."""

    brewer_type: BrewerType | None = None
    school: School | None = None
    dose_low_g: Grams | None = None
    dose_high_g: Grams | None = None
    volume_ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    count: Annotated[int, Field(ge=1, le=50)] = 1
    outlet: line(80) = ""
    material: line(60) = ""
    price: Price | None = None
    note: line(200) = ""


class WaterFacts(Body):
    """mg/L, hardness and alkalinity as CaCO₃. Water's own minerals are not the TDS of a drink."""

    hardness_mg_l: Minerals | None = None
    alkalinity_mg_l: Minerals | None = None
    minerals_mg_l: Minerals | None = None
    note: line(200) = ""


class KettleFacts(Body):
    """heat_s: from cold to the set temperature; reheat_s: between two brews."""

    volume_ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    set_c: Celsius | None = None
    heat_s: Annotated[float, Field(gt=0, le=3600)] | None = None
    reheat_s: Annotated[float, Field(ge=0, le=3600)] | None = None
    note: line(200) = ""


class VesselFacts(Body):
    """A cup or server. τ is fitted from two readings of something cooling in it: at 0 s and after_s later."""

    use: Literal["cup", "server"] = "server"
    insulated: bool = False
    volume_ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    room_c: Celsius | None = None
    first_c: Celsius | None = None
    second_c: Celsius | None = None
    after_s: Annotated[float, Field(gt=0, le=100_000)] | None = None
    note: line(200) = ""


class InstrumentFacts(Body):
    """resolution and accuracy in the unit given."""

    measures: Literal["mass", "temperature", "strength", "particle_size", "water"] = "mass"
    unit: line(20) = "g"
    resolution: Annotated[float, Field(gt=0, le=1000)] | None = None
    accuracy: Annotated[float, Field(ge=0, le=1000)] | None = None
    checked_on: date | None = None
    checked_against: line(120) = ""
    note: line(200) = ""


FACTS: dict[str, type[Body]] = {
    "coffee": CoffeeFacts,
    "grinder": GrinderFacts,
    "burr_set": BurrSetFacts,
    "filter": FilterFacts,
    "brewer": BrewerFacts,
    "water": WaterFacts,
    "kettle": KettleFacts,
    "vessel": VesselFacts,
    "instrument": InstrumentFacts,
}


def fitted_tau_s(facts: VesselFacts) -> float | None:
    """τ from the two readings, s; None while they are incomplete. Raises Unprocessable when they do not cool."""
    given = (facts.room_c, facts.first_c, facts.second_c, facts.after_s)
    if None in given:
        return None
    room_c, first_c, second_c, after_s = given
    if not room_c < second_c < first_c:
        raise Unprocessable("vessel.second_c", "These readings do not cool towards the room.", "Check the room and both readings.")
    return fit_cooling(ambient_c=room_c, first=(0.0, first_c), second=(after_s, second_c), elapsed_s=0.0).tau_s
