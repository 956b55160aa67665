"""HTTP shapes of the bench and of being let in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, Field

from ..core.figures import BagUnit, HeatUnit, RatioUnit
from ..devices import wire
from ..http import Answer, Body, Changes, line, quantity


def _a_local_scale(text: str) -> str:
    """Raises ValueError where it is no address of a scale on this network."""
    if text:
        wire.place_of(text)
    return text


class UnitsAnswer(Answer):
    """How this bench has its figures told: core.figures.Units."""

    heat: HeatUnit
    ratio: RatioUnit
    bags: BagUnit
    currency: str


class BenchAnswer(Answer):
    """damaged: how many of its rows cannot be read and were set aside."""

    name: str
    damaged: int
    accuracy_pct: float
    resolution_pct: float
    repeatability_pct: float
    scale_resolution_g: float
    altitude_m: int
    ambient_c: float
    boiling_point_c: float
    tolerance_g: float
    tolerance_pct: float
    tolerance_s: float
    tolerance_c: float
    brix_factor: float
    scale_address: str
    kit_lasts_years: float
    cups_a_day: float
    units: UnitsAnswer
    rev: int


class BenchPatch(Changes):
    name: line(120, least=1) = "Our bench"
    accuracy_pct: quantity("accuracy_pct") = 0.03
    resolution_pct: quantity("resolution_pct") = 0.01
    repeatability_pct: quantity("repeatability_pct") = 0.015
    scale_resolution_g: quantity("scale_resolution_g") = 0.1
    altitude_m: Annotated[int, Field(ge=-430, le=8850, description="m above the sea")] = 0
    ambient_c: quantity("ambient_c", 2) = 21
    tolerance_g: Annotated[float, Field(ge=0, le=100, description="water off plan, g")] = 2
    tolerance_pct: Annotated[float, Field(ge=0, le=20, description="water off plan, % of the target, when that is more")] = 1
    tolerance_s: Annotated[float, Field(ge=0, le=120, description="step times off plan, s")] = 5
    tolerance_c: Annotated[float, Field(ge=0, le=20, description="temperature off plan, °C")] = 1
    brix_factor: Annotated[float, Field(ge=0.5, le=1.2, description="% TDS per °Brix")] = 0.85
    scale_address: Annotated[line(60), AfterValidator(_a_local_scale)] = ""
    kit_lasts_years: Annotated[float, Field(ge=0.5, le=50, description="how long kit that lasts is counted on, years")] = 5
    cups_a_day: Annotated[float, Field(ge=0.1, le=90, description="brewed with it")] = 2


class UnitsPatch(Changes):
    heat: HeatUnit = "C"
    ratio: RatioUnit = "to_one"
    bags: BagUnit = "g"
    currency: Annotated[line(4), Field(description="what stands before a price; empty: nothing")] = ""


class SessionBody(Body):
    """The passphrase; or, at the bench's own machine, the key of the address that its start command printed."""

    passphrase: Annotated[str, Field(max_length=200)] = ""
    key: Annotated[str, Field(max_length=100)] = ""


class SessionAnswer(Answer):
    """locked: this device must be let in before it may see the bench; by_passphrase: there is one to give; in_sample: it looks round the sample bench."""

    locked: bool
    by_passphrase: bool
    in_sample: bool
    units: UnitsAnswer


class ScriptTokenBody(Body):
    name: Annotated[line(80, least=1), Field(description="what uses it")]
    may_write: bool = False


class ScriptTokenShown(Answer):
    id: str
    name: str
    may_write: bool
    created_at: datetime
    used_at: datetime | None


class ScriptTokenMade(ScriptTokenShown):
    """token: shown this once; only its hash is kept."""

    token: str


class ScriptTokensAnswer(Answer):
    tokens: list[ScriptTokenShown]


class SessionShown(Answer):
    """A device that was let in. ends_at: when it must give the passphrase again."""

    id: str
    agent: str
    address: str
    since: datetime
    seen_at: datetime
    ends_at: datetime
    this_device: bool


class SessionsAnswer(Answer):
    sessions: list[SessionShown]


class ReachAnswer(Answer):
    """How other devices come to this bench. link: its address as links carry it; on_network: phones can follow it; may_open: whoever asks may open it to the network."""

    link: str
    on_network: bool
    may_open: bool


class OpenedAnswer(Answer):
    """The bench is being opened to this network. link: what phones can reach in a moment; passphrase: the one that was made for the host's other devices, told this once; "" where the bench has its own."""

    link: str
    passphrase: str


class HealthAnswer(Answer):
    status: str
