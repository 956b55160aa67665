"""HTTP shapes of recipes. Times s from the first water, masses g, temperatures °C."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.brewing.along import By
from ..core.figures import HeatUnit
from ..core.recipe import model
from ..core.recipe.lint import Code, Severity
from ..core.recipe.model import Ends, OutMeans, Spout, Where, Zeroed
from ..core.vocabulary import BrewerType, Ending, StepKind
from ..http import Answer, Body, Changes, Seconds, line


def _within(ends: tuple[float, float], said: str) -> type[float]:
    return Annotated[float, Field(ge=ends[0], le=ends[1], description=said)]


Grams = _within(model.GRAMS, "g")
Dose = _within(model.DOSE, "g")
TypedCelsius = _within(model.CELSIUS, "°C; the check finds what was typed in °F")
Ratio = _within(model.RATIO, "the R of 1:R, all water")
Percent = _within(model.PERCENT, "%")
Tds = _within(model.FIELD_LIMITS["tds_pct"], "% TDS, as a reading may be")
TimeWindow = Annotated[list[Seconds | None], Field(min_length=2, max_length=2, description="[earliest, latest], s; null: open")]
PercentWindow = Annotated[list[Percent | None], Field(min_length=2, max_length=2, description="[low, high], %; null: open")]
TdsWindow = Annotated[list[Tds | None], Field(min_length=2, max_length=2, description="[low, high], % TDS; null: open")]
OPEN: list = [None, None]


class StepDocument(Body):
    """One step. to_g: cumulative reading when it ends; add_g: what it adds; give either. rest: bypass of total minus poured."""

    kind: StepKind
    to_g: Grams | None = None
    add_g: Grams | None = None
    rest: bool = False
    start_s: Seconds | None = None
    end_s: Seconds | None = None
    duration_s: Seconds | None = None
    where: Where = ""
    spout: Spout = ""
    count: Annotated[int, Field(ge=model.COUNT[0], le=model.COUNT[1])] | None = None
    temperature_c: TypedCelsius | None = None
    start_cue: line(model.LONGEST["start_cue"]) = ""
    cue: line(model.LONGEST["cue"]) = ""
    reading_g: Grams | None = None
    zeroed: Zeroed = ""
    note: line(model.LONGEST["note"]) = ""


class GrindSettingDocument(Body):
    """on: the grinder or burrs as the recipe calls them; setting: as it stands on that dial; dial_id: of the kit, '' while not linked."""

    on: line(model.LONGEST["on"], least=1)
    setting: line(model.LONGEST["setting"], least=1)
    dial_id: line(40) = ""


class RecipeDocument(Body):
    """A recipe as it is stored and exchanged."""

    steps: Annotated[list[StepDocument], Field(max_length=model.MOST_STEPS)] = []
    dose_g: Dose | None = None
    brew_water_g: Grams | None = None
    brew_ratio: Ratio | None = None
    temperature_c: TypedCelsius | None = None
    brewer_type: BrewerType | None = None
    filter: line(model.LONGEST["filter"]) = ""
    grind: line(model.LONGEST["grind"]) = ""
    grinds: Annotated[list[GrindSettingDocument], Field(max_length=model.MOST_GRINDS)] = []
    water: line(model.LONGEST["water"]) = ""
    ends: Ends = ""
    total_time_s: TimeWindow = OPEN
    pour_end_s: Seconds | None = None
    tds_pct: TdsWindow = OPEN
    ey_pct: PercentWindow = OPEN
    beverage_g: Grams | None = None
    out_g: Grams | None = None
    out_means: OutMeans = ""
    fast: line(model.LONGEST["fast"]) = ""
    on_time: line(model.LONGEST["on_time"]) = ""
    slow: line(model.LONGEST["slow"]) = ""
    note: line(model.LONGEST["recipe_note"]) = ""


class MendAnswer(Answer):
    """label: what one click does; document: the whole recipe after it."""

    label: str
    document: RecipeDocument


class FindingAnswer(Answer):
    """where: the field, or "steps.3.to_g" (from 0); place: the same in words."""

    code: Code
    severity: Severity
    where: str
    place: str
    text: str
    why: str
    mends: list[MendAnswer]


class TimedStep(Answer):
    """A step as worked out. text: in a plain sentence; assumed: its time was not stated and a usual one is shown; poured_s: when its water is in; after: it hangs on the end of the brew."""

    index: int
    kind: StepKind
    label: str
    text: str
    start_s: float
    end_s: float
    water_g: float
    to_g: float | None
    rate_g_s: float | None
    on_coffee: bool
    assumed: bool
    poured_s: float
    after: bool


class PourShown(Answer):
    """A pour of the recipe, planned and made, s and g of water on the coffee. by: who says how it was made, null when it was not."""

    index: int
    text: str
    plan_start_s: float
    plan_end_s: float
    plan_to_g: float
    began_s: float | None
    ended_s: float | None
    reading_g: float | None
    by: By | None


class EndShown(Answer):
    """How and when the brew is over by its recipe: what is asked, and what the key then says. by: the step that ends it, null when none does."""

    kind: Ending
    by: int | None
    at_s: float
    ask: str
    done: str
    text: str


class CautionAnswer(Answer):
    """steps: indexes of all the steps at which it can hurt; none for the recipe as a whole."""

    code: str
    steps: list[int]
    text: str


class OutlookAnswer(Answer):
    """What to expect. Ranges (95 % of earlier brews) once this brewer has three brews or more; text: what it rests on."""

    beverage_g: float
    tds_pct: float
    ey_pct: float
    tds_range_pct: list[float] | None
    ey_range_pct: list[float] | None
    retained_water_ratio: float
    brews: int
    text: str
    yield_basis_label: str


class CheckBody(Body):
    """brewer: its name in the kit, for its range, volume and history. windows: which of the chart's windows to compare with."""

    document: RecipeDocument
    brewer: line(120) = ""
    windows: Annotated[list[Literal["classic", "european", "nordic"]], Field(max_length=3)] = []


class CheckedAnswer(Answer):
    """Everything the editor shows, worked out from the document."""

    findings: list[FindingAnswer]
    draft: bool = Field(description="has errors: it is kept, and cannot be put in a run")
    timeline: list[TimedStep]
    poured_g: float
    bypass_g: float
    bypass_share: float
    brew_ratio: float | None
    g_per_l: float | None
    g_per_100g: float | None
    last_pour_end_s: float
    total_s: float
    end: EndShown
    pours: list[PourShown]
    concentrate: bool
    outlook: OutlookAnswer | None
    cautions: list[CautionAnswer]
    text: str
    cumulative: RecipeDocument
    per_pour: RecipeDocument


class ReadBody(Body):
    text: Annotated[str, Field(max_length=200_000, description="a recipe in plain text; the reader takes up to 20,000 characters")]


class SpanAnswer(Answer):
    """Characters start to end (end excluded)."""

    start: int
    end: int
    text: str
    meaning: str


class ReadAnswer(Answer):
    document: RecipeDocument
    understood: list[SpanAnswer]
    not_understood: list[SpanAnswer]


class ScaleBody(Body):
    """To one of: a dose, a number of cups of cup_g of drink, the drink a vessel holds."""

    document: RecipeDocument
    brewer: line(120) = ""
    dose_g: Annotated[float, Field(ge=model.DOSE[0], le=10_000)] | None = None
    cups: Annotated[float, Field(gt=0, le=200)] | None = None
    cup_g: Annotated[float, Field(gt=0, le=2000)] = 200
    vessel_ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    round_to_g: Literal[1, 5] | None = None


class ScaledAnswer(Answer):
    document: RecipeDocument
    warnings: list[str]


class StarterAnswer(Answer):
    code: str
    name: str
    about: str
    text: str
    document: RecipeDocument


class StartersAnswer(Answer):
    """step_labels: what each kind of step is called."""

    starters: list[StarterAnswer]
    step_labels: dict[str, str]


class RecipeBody(Body):
    name: line(120, least=1)
    document: RecipeDocument
    note: line(200) = ""


MOST_HANDED = 500


class HandedBody(Body):
    """text: of a file of recipes, or a recipe's link."""

    text: Annotated[str, Field(min_length=1, max_length=250_000)]


class HandedShown(Answer):
    """text: the recipe in the language of recipes; here: it is on this bench already."""

    name: str
    text: str
    here: bool


class HandedAnswer(Answer):
    recipes: list[HandedShown]


class HandedLink(Answer):
    link: str


class ExportQuery(BaseModel):
    """ids: with commas between; none for all."""

    ids: Annotated[str, Field(max_length=8_000)] = ""


class VersionBody(Body):
    document: RecipeDocument
    note: line(200) = ""


class RecipePatch(Changes):
    name: line(120, least=1)


class VersionListed(Answer):
    """changes: against the version before, in words."""

    id: str
    number: int
    note: str
    errors: int
    created_at: datetime
    changes: str
    setups: int


class OlderVersion(Answer):
    id: str
    number: int


class RecipeListed(Answer):
    """older: earlier versions that can be brewed, newest first."""

    id: str
    name: str
    rev: int
    version_id: str
    version: int
    draft: bool
    dose_g: float | None
    water_g: float
    brew_ratio: float | None
    temperature_c: float | None
    total_s: float
    brewer_type: BrewerType | None
    brewer_label: str
    concentrate: bool
    pours: list[float]
    older: list[OlderVersion]


class LastBrewedAnswer(Answer):
    """What a recipe was brewed with last, in any version: names as they stand in the kit. All empty when it never was."""

    coffee: str = ""
    grinder: str = ""
    grind_setting: str = ""
    filter: str = ""
    brewer: str = ""
    water: str = ""


class RecipesAnswer(Answer):
    recipes: list[RecipeListed]


class RecipeAnswer(Answer):
    """document: of the version asked for, the newest unless said otherwise; versions newest first."""

    id: str
    name: str
    rev: int
    version: int
    document: RecipeDocument
    checked: CheckedAnswer
    versions: list[VersionListed]


class ChangeShown(Answer):
    what: str
    before: str
    after: str


class DiffAnswer(Answer):
    headline: str
    changes: list[ChangeShown]


class DiffBody(Body):
    before: RecipeDocument
    after: RecipeDocument


class CardSetting(Answer):
    """A dial's setting for this recipe. matches: the kinds of match it rests on, empty where the recipe itself or the reader gave it."""

    dial_id: str
    grinder: str
    setting: str
    spread: str
    matches: list[str]


class CardLineShown(Answer):
    """One moment of a recipe. at_s: from the first water, null for what prepares; steps: indexes of the steps it tells."""

    at_s: float | None
    text: str
    steps: list[int]


class CardAnswer(Answer):
    """One page to hand to someone else. lines: what is done, each later than the one before. not_linked: settings of grinders this kit does not have; heat: of the water, in the unit
    chosen; coffee_words: what is known of it."""

    name: str
    version: int
    brewer: str
    document: RecipeDocument
    checked: CheckedAnswer
    lines: list[CardLineShown]
    settings: list[CardSetting]
    not_vouched: list[str]
    not_linked: list[GrindSettingDocument]
    water: str
    heat: str
    coffee: str
    coffee_words: str


class CardQuery(BaseModel):
    """dial_id and setting: one whose setting is known; the translator answers for the others. Left out: the recipe's own settings. coffee: of the kit, whom the card is for; heat: °C or °F."""

    version: int | None = Field(default=None, ge=1)
    dial_id: str = Field(default="", max_length=40)
    setting: str = Field(default="", max_length=model.LONGEST["setting"])
    coffee: str = Field(default="", max_length=40)
    heat: HeatUnit | None = None


class VersionQuery(BaseModel):
    version: int | None = Field(default=None, ge=1)
