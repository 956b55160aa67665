"""HTTP shapes of Ask and Set up."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.vocabulary import (
    KIT_KINDS,
    MOST_FURTHER,
    MOST_SETUPS,
    USUAL_JUDGED_PASS,
    USUAL_SCATTER_FROM,
    BrewerType,
    Factor,
    JudgedPass,
    MatchingRule,
    ScatterFrom,
    YieldBasis,
)
from ..http import Answer, Body, Bypass, Celsius, Changes, Mass, Tags, line
from ..recipes.schemas import PourShown

StrengthPolicy = Literal["as_brewed", "matched"]
SmallestDifference = Annotated[float, Field(gt=0, le=8, multiple_of=0.05, description="points of liking, 1 to 9, in steps of 0.05")]

FurtherFactors = Annotated[list[Factor], Field(max_length=MOST_FURTHER, description="other factors varied with the first, in a design of several")]


class TrialBody(Body):
    question: line(200, least=1)
    factor: Factor
    factor_other: line(80) = ""
    further_factors: FurtherFactors = []
    yield_basis: YieldBasis | None = Field(default=None, description="null: the brewer's own")
    strength_policy: StrengthPolicy | None = Field(default=None, description="null: matched for a question about equipment, else as brewed")
    smallest_difference: SmallestDifference = 0.5
    judged_pass: JudgedPass = Field(default=USUAL_JUDGED_PASS, description="the pass people drink it at, by which the verdict is judged")


class TrialPatch(Changes):
    question: line(200, least=1) = ""
    factor: Factor = "other"
    factor_other: line(80) = ""
    further_factors: FurtherFactors = []
    yield_basis: YieldBasis | None = None
    strength_policy: StrengthPolicy | None = None
    smallest_difference: SmallestDifference = 0.5
    judged_pass: JudgedPass = USUAL_JUDGED_PASS
    scatter_from: ScatterFrom = Field(default=USUAL_SCATTER_FROM, description="own: learnt from this bench's earlier panels, where there are any")
    note: line(2000) = ""
    tags: Tags = []
    archived: bool = False


class TrialAnswer(Answer):
    """yield_basis: in force; yield_basis_chosen: as asked, null for the brewer's own."""

    id: str
    number: int
    question: str
    factor: Factor
    factor_label: str
    factor_other: str
    further_factors: list[Factor]
    yield_basis: YieldBasis
    yield_basis_label: str
    yield_basis_chosen: YieldBasis | None
    strength_policy: StrengthPolicy
    smallest_difference: float
    judged_pass: JudgedPass
    scatter_from: ScatterFrom
    note: str
    tags: list[str]
    archived: bool
    rev: int
    created_at: datetime


class VariablesPatch(Changes):
    """What a setup is made of; only what is sent is changed."""

    coffee: line(120) = ""
    grinder: line(120) = ""
    grind_setting: line(40) = ""
    filter: line(120) = ""
    brewer: line(120) = ""
    brewer_type: BrewerType | None = None
    water: line(120) = ""
    temperature_c: Celsius | None = None
    dose_g: Mass | None = None
    brew_water_g: Mass | None = None
    bypass_g: Bypass = 0
    pours: line(300) = ""
    other: line(120) = ""


NewKit = Annotated[
    list[Literal[tuple(k.code for k in KIT_KINDS if k.named)]],
    Field(max_length=5, description="kinds whose name is not in the kit yet and is to be added to it; any other unknown name is refused"),
]


class SetupBody(Body):
    """A new setup: described from nothing (dose_g and brew_water_g needed, or a recipe), or a copy with something changed."""

    name: line(80) = ""
    recipe_version_id: Annotated[str, Field(max_length=40)] | None = None
    copy_of: Annotated[str, Field(max_length=40)] | None = None
    variables: VariablesPatch = VariablesPatch()
    new_kit: NewKit = []


class FirstOfSetup(Body):
    """What a first setup has of its own. brew_ratio: as written, such as 1:16; its water is then worked out from the dose."""

    variables: VariablesPatch = VariablesPatch()
    brew_ratio: line(12) = ""


class FirstSetupsBody(Body):
    """The first setups of a trial at once: what is the same in all, and what each has of its own."""

    recipe_version_id: Annotated[str, Field(max_length=40)] | None = None
    variables: VariablesPatch = VariablesPatch()
    setups: Annotated[list[FirstOfSetup], Field(min_length=1, max_length=MOST_SETUPS)]
    new_kit: NewKit = []


class GuessQuery(BaseModel):
    question: str = Field(default="", max_length=200)


class GuessAnswer(Answer):
    """What a question seems to be about: null where nothing tells. options: what it names to be compared, in order.
    further_factors: what else it sets against the first, in every combination."""

    factor: Factor | None
    further_factors: list[Factor]
    options: list[str]


class BeforeAnswer(Answer):
    """What the newest trial with setups held in all of them, to begin the next one from."""

    trial_id: str
    number: int
    question: str
    variables: dict[str, str | float]


class HeldBeforeAnswer(Answer):
    before: BeforeAnswer | None


class SetupPatch(Changes):
    """recipe_version_id: brew to this version; its dose, water, bypass, temperature and pours become the setup's."""

    name: line(80) = ""
    recipe_version_id: Annotated[str, Field(max_length=40)] | None = None
    variables: VariablesPatch = VariablesPatch()
    new_kit: NewKit = []


class Variables(Answer):
    coffee: str
    grinder: str
    grind_setting: str
    filter: str
    brewer: str
    brewer_type: BrewerType | None
    water: str
    temperature_c: float | None
    dose_g: float
    brew_water_g: float
    bypass_g: float
    pours: str
    other: str


class SetupRecipe(Answer):
    """The recipe a setup brews to. own_amounts: bent to the setup's own dose, water or temperature."""

    version_id: str
    recipe_id: str
    name: str
    version: int
    own_amounts: bool


class SetupAnswer(Answer):
    """name: as given, or the tested value when none was given. next_brew: the number its next brew will be called by.
    concentrate: its recipe makes one, so its brews are; pours: planned, none where it is not said how it is poured."""

    id: str
    letter: str
    name: str
    given_name: str
    revision: int
    variables: Variables
    recipe: SetupRecipe | None
    brew_ratio: float
    runs: int
    next_brew: int
    concentrate: bool
    pours: list[PourShown]
    rev: int


class SegmentAnswer(Answer):
    value: str
    letters: list[str]
    odd: bool


class BarAnswer(Answer):
    field: str
    label: str
    unit: str
    kind: Literal["held", "tested", "untested", "moved", "declared", "crack"]
    segments: list[SegmentAnswer]
    note: str
    hold_letter: str | None


class MatchingRuleAnswer(Answer):
    code: MatchingRule
    label: str


class MadeOnAnswer(Answer):
    """A piece of kit of which the kit says something else today than when these setups were made. text: a sentence; changes: each fact, then and now."""

    kit_item_id: str
    name: str
    letters: list[str]
    text: str
    changes: list[str]


class SetUpAnswer(Answer):
    """made_on: kit that has changed since; what was brewed stays as it was."""

    setups: list[SetupAnswer]
    bars: list[BarAnswer]
    matching_rules: list[MatchingRuleAnswer]
    tested_field: str
    tested_fields: list[str]
    made_on: list[MadeOnAnswer]


class HoldBody(Body):
    """Give every setup the value that `letter` has."""

    field: line(24, least=1)
    letter: Annotated[str, Field(min_length=1, max_length=1)]


class KitOfNowBody(Body):
    """Set up with this piece of kit as the kit has it today."""

    kit_item_id: line(40, least=1)


class DeclareBody(Body):
    """reason: why it differs, in the host's words; shown with the bar and in the margin."""

    field: line(24, least=1)
    rule: MatchingRule
    reason: line(200) = ""


class FieldPath(BaseModel):
    id: str
    field: str
