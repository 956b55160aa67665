"""HTTP shapes of runs and readings, as logged."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ..core.brewing.observed import BedSign, Clouding, Mishap
from ..core.extraction.readings import ProtocolStep
from ..core.vocabulary import TrialPurpose
from ..http import Answer, Body, Bypass, Celsius, Changes, Mass, Moment, Seconds, Tags, line, quantity
from ..trials.schemas import NewKit, VariablesPatch

Tds = Annotated[quantity("concentrate_tds_pct"), Field(description="one reading, % TDS; above 5 only for a concentrate")]


class Observed(Body):
    """What was seen of a brew. first_drip_s, press_s, stopped_first_s: s; press_kg: on a bathroom scale; ground_min: from grinding to
    the first water; sediment_g: left behind in the server, sediment_left: some was, unweighed; held_level: a pour that held the level; cue: what ended the brew.
    simulated: made with simulated instruments, so it shows the program and no coffee.
    stopped_first_s: when the brew was first said to be over, kept when that is corrected. press_with: what the force was read on; topped_up_g: water added to a jug that ran
    short, part of the brew water."""

    first_drip_s: Seconds | None = None
    stopped_first_s: Seconds | None = None
    slurry_c: Celsius | None = None
    press_s: Seconds | None = None
    press_kg: Annotated[float, Field(ge=0, le=150)] | None = None
    press_with: line(60) = ""
    topped_up_g: Annotated[float, Field(ge=0, le=10_000)] | None = None
    bed: Annotated[list[BedSign], Field(max_length=6)] = []
    clouding: Clouding | None = None
    mishaps: Annotated[list[Mishap], Field(max_length=6)] = []
    ground_min: Annotated[float, Field(ge=0, le=100_000)] | None = None
    sediment_g: Annotated[float, Field(ge=0, le=1000)] | None = None
    sediment_left: bool = False
    held_level: bool = False
    simulated: bool = False
    cue: line(120) = ""


class PourBody(Body):
    """One pour as it was made. index: of the recipe's step; reading_g: all the water poured by its end. A pour without an end was not made."""

    index: Annotated[int, Field(ge=0, le=200)]
    began_s: Seconds | None = None
    ended_s: Seconds | None = None
    reading_g: Annotated[float, Field(ge=0, le=100_000)] | None = None


Pours = Annotated[list[PourBody], Field(max_length=60)]
Readings = Annotated[list[Annotated[float, Field(ge=0)]], Field(max_length=20, description="% TDS, one a sample")]


class RunBody(Body):
    """One brew as it was weighed. pours: each as it was made; the water and the end of pouring are theirs unless given. brewed_at: now when left out. purpose dial_in: to get the setup ready; never evidence."""

    setup_id: Annotated[str, Field(max_length=40)]
    brewed_at: Moment | None = None
    dose_g: Mass
    brew_water_g: Mass | None = None
    bypass_g: Bypass = 0
    beverage_g: Mass | None = None
    temperature_c: Celsius | None = None
    pour_end_s: Seconds | None = None
    total_time_s: Seconds | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    purpose: TrialPurpose = "evidence"
    note: line(500) = ""
    observed: Observed = Observed()
    pours: Pours = []
    tds_readings_pct: Readings = []


class LooseRunBody(Body):
    """A brew of no trial: of a recipe, or of the variables given. Masses as weighed; what is left out is the recipe's."""

    name: line(80) = ""
    recipe_version_id: Annotated[str, Field(max_length=40)] | None = None
    variables: VariablesPatch = VariablesPatch()
    new_kit: NewKit = []
    brewed_at: Moment | None = None
    dose_g: Mass | None = None
    brew_water_g: Mass | None = None
    temperature_c: Celsius | None = None
    beverage_g: Mass | None = None
    pour_end_s: Seconds | None = None
    total_time_s: Seconds | None = None
    bypass_g: Bypass | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    note: line(500) = ""
    observed: Observed = Observed()
    pours: Pours = []
    tds_readings_pct: Readings = []


class TakeInBody(Body):
    """The setup of a trial that a loose brew is to show ready."""

    setup_id: Annotated[str, Field(max_length=40)]


class RunPatch(Changes):
    """Only what is sent is changed; readings are added to those there are."""

    brewed_at: Moment | None = None
    dose_g: Mass | None = None
    brew_water_g: Mass | None = None
    bypass_g: Bypass = 0
    beverage_g: Mass | None = None
    temperature_c: Celsius | None = None
    pour_end_s: Seconds | None = None
    total_time_s: Seconds | None = None
    moisture_pct: quantity("moisture_pct") = 0
    concentrate: bool = False
    purpose: TrialPurpose = "evidence"
    note: line(500) = ""
    observed: Observed = Observed()
    pours: Pours = []
    tds_readings_pct: Readings = []


class FilingPatch(Changes):
    tags: Tags = []
    archived: bool = False


class FilingAnswer(Answer):
    id: str
    rev: int
    tags: list[str]
    archived: bool


class RunAnswer(Answer):
    id: str
    setup_id: str
    trial_id: str | None
    number: int
    rev: int


class OvenReading(Body):
    """Weighed on one scale, g: the sample alone, the empty dish, the dish with its dried residue."""

    sample_g: Mass
    dish_g: Annotated[float, Field(ge=0, le=10_000)]
    dried_g: Annotated[float, Field(ge=0, le=10_000)]


class ReadingBody(Body):
    """Give exactly one: tds_pct as a coffee refractometer shows it, brix in °Brix, or oven. done: of the protocol, null when it was
    not followed step by step. The newest instrument check's offset is taken off refractometer readings, and kept beside them."""

    tds_pct: Annotated[float, Field(ge=0, description="% TDS")] | None = None
    brix: Annotated[float, Field(ge=0, description="°Brix")] | None = None
    oven: OvenReading | None = None
    done: Annotated[list[ProtocolStep], Field(max_length=6)] | None = None


class AsReadShown(Answer):
    """kind tds, brix or oven; value: as shown by the instrument; offset_pct: taken off, % TDS."""

    kind: str
    value: float
    offset_pct: float


class ReadingAnswer(Answer):
    id: str
    run_id: str
    tds_pct: float
    as_read: AsReadShown | None
    rev: int


class ServedBody(Body):
    """After thinning, before coding: water added, its temperature, and the second reading that confirms it."""

    added_water_g: Annotated[float, Field(ge=0, le=100_000)]
    water_c: Celsius | None = None
    tds_pct: Annotated[float, Field(ge=0, description="% TDS, read again")] | None = None


class InstrumentCheckBody(Body):
    """A liquid of known strength and what the instrument read, % TDS. Distilled water is 0."""

    reference_pct: Annotated[float, Field(ge=0, le=25)] = 0
    read_pct: Annotated[float, Field(ge=-1, le=25)]
    note: line(200) = ""


class InstrumentCheckAnswer(Answer):
    """offset_pct: what is taken off readings made after it, until the next check."""

    id: str
    rev: int
    checked_at: datetime
    reference_pct: float
    read_pct: float
    offset_pct: float
    note: str
    in_force: bool


class ProtocolStepAnswer(Answer):
    code: ProtocolStep
    do: str
    why: str
    skipped: str


class Choice(Answer):
    code: str
    label: str


class RepeatabilityAnswer(Answer):
    """sd_pct: SD of one reading of one drink, % TDS, by the bench's own readings; null while they are too few. drinks: how many were read more than once."""

    sd_pct: float | None
    drinks: int


class InstrumentsAnswer(Answer):
    """How readings are taken here: the protocol, checks newest first, and the words of what is seen."""

    protocol: list[ProtocolStepAnswer]
    checks: list[InstrumentCheckAnswer]
    offset_pct: float
    brix_factor: float
    bed: list[Choice]
    clouding: list[Choice]
    mishaps: list[Choice]
