"""HTTP shapes of the planning calculators: recipes, settings, waters, the day's schedule, power. Each body carries an example that works."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..core.grinding.settings import Direction, ScaleType
from ..core.vocabulary import MatchKindCode
from ..http import Answer, Body, Day, line, quantity
from ..recipes.schemas import FindingAnswer, RecipeDocument
from .schemas import example

Name = line(250, least=1)
Span_s = Annotated[float, Field(ge=0, le=100_000, description="s")]
Setting = Annotated[float, Field(ge=-1000, le=10_000)]
MgPerL = Annotated[float, Field(ge=0, le=5000, description="mg/L")]

SOME_RECIPE = {
    "dose_g": 18,
    "brew_water_g": 288,
    "brew_ratio": 16,
    "temperature_c": 93,
    "brewer_type": "flat_bed",
    "ends": "drips_stop",
    "steps": [
        {"kind": "bloom", "to_g": 45, "duration_s": 40},
        {"kind": "pour", "to_g": 170, "start_s": 40, "duration_s": 20},
        {"kind": "pour", "to_g": 288, "start_s": 80, "end_s": 110},
    ],
}


class RecipeLintBody(Body):
    """altitude_m: where it is brewed. dose_range_g and volume_ml: the brewer's. windows: of the chart, compared with the expected cup."""

    model_config = example({"recipe": SOME_RECIPE, "altitude_m": 800, "dose_range_g": [12, 24], "volume_ml": 500, "windows": ["classic"]})

    recipe: RecipeDocument
    altitude_m: Annotated[float, Field(ge=-430, le=8850)] = 0
    dose_range_g: Annotated[list[Annotated[float, Field(gt=0, le=10_000)]], Field(min_length=2, max_length=2)] | None = None
    volume_ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    windows: Annotated[list[Literal["classic", "european", "nordic"]], Field(max_length=3)] = []


class RecipeLintAnswer(Answer):
    findings: list[FindingAnswer]
    blocks_a_run: bool


class RecipeParseBody(Body):
    model_config = example({"text": "18 g, 288 g at 93, bloom 45 for 40 s, then to 170, then to 288 by 1:50, done by 2:45"})

    text: Annotated[str, Field(max_length=200_000, description="plain text; up to 20,000 characters are read, longer is refused")]


class ScaleIn(Body):
    """A grinder with its burrs. direction: larger_is_finer on some."""

    name: Name
    scale: ScaleType = "dial"
    direction: Direction = "larger_is_coarser"
    step: Annotated[float, Field(gt=0, le=100)] | None = None
    finest: Setting | None = None


class PairIn(Body):
    """a at a_setting grinds like b at b_setting."""

    a: Name
    a_setting: Setting
    b: Name
    b_setting: Setting
    match: MatchKindCode
    on: Day | None = None


class SettingTranslateBody(Body):
    model_config = example(
        {
            "setting": 6.5,
            "from": "Tidewheel · flat steel",
            "to": "Capstan hand mill",
            "grinders": [
                {"name": "Tidewheel · flat steel", "scale": "dial", "step": 0.1},
                {"name": "Capstan hand mill", "scale": "clicks", "step": 1},
            ],
            "pairs": [
                {"a": "Tidewheel · flat steel", "a_setting": 5, "b": "Capstan hand mill", "b_setting": 17, "match": "sieve_median", "on": "2026-09-02"},
                {"a": "Tidewheel · flat steel", "a_setting": 7, "b": "Capstan hand mill", "b_setting": 25, "match": "brew_time", "on": "2026-09-03"},
            ],
        }
    )

    setting: Setting
    from_: Name = Field(alias="from")
    to: Name
    grinders: Annotated[list[ScaleIn], Field(min_length=2, max_length=50)]
    pairs: Annotated[list[PairIn], Field(max_length=500)]


class SettingTranslateAnswer(Answer):
    """setting as interpolated; nearest: what the scale can be set to; matches: weakest kind first; through: the grinder between."""

    setting: float
    nearest: float
    low: float
    high: float
    matches: list[MatchKindCode]
    through: str
    evidence: list[str]
    warnings: list[str]


class WaterIn(Body):
    """Hardness and alkalinity as CaCO₃."""

    hardness_mg_l: MgPerL | None = None
    alkalinity_mg_l: MgPerL | None = None
    minerals_mg_l: MgPerL | None = None


class WaterBlendBody(Body):
    model_config = example(
        {"first": {"hardness_mg_l": 220, "alkalinity_mg_l": 160}, "second": {"hardness_mg_l": 15, "alkalinity_mg_l": 12}, "target": {"hardness_mg_l": 90}}
    )

    first: WaterIn
    second: WaterIn
    target: WaterIn


class WaterBlendAnswer(Answer):
    """first_share: of the first water by mass, 0 to 1; off: blend less target."""

    first_share: float
    got: dict[str, float]
    off: dict[str, float]
    reached: bool
    notes: list[str]


class HandsIn(Body):
    label: line(120, least=1)
    start_s: Annotated[float, Field(ge=-3600, le=7200, description="s from the first water")]
    duration_s: Annotated[float, Field(gt=0, le=7200)]


class RunIn(Body):
    """One brew: its recipe, or its hand blocks with total_s. started_s: begun already, then."""

    key: line(40, least=1)
    recipe: RecipeDocument | None = None
    hands: Annotated[list[HandsIn], Field(max_length=60)] = []
    total_s: Annotated[float, Field(gt=0, le=7200)] | None = None
    last_pour_s: Annotated[float, Field(ge=0, le=7200)] | None = None
    brewer: line(120, least=1) = "brewer"
    grinder: line(250) = ""
    grind_s: Annotated[float, Field(ge=0, le=3600)] = 0
    hand_grinder: bool = False
    prep_s: Annotated[float, Field(ge=0, le=1800)] | None = None
    clear_s: Annotated[float, Field(ge=0, le=1800)] = 45
    measure_s: Annotated[float, Field(ge=0, le=1800)] = 60
    dilute_s: Annotated[float, Field(ge=0, le=1800)] = 0
    drink_c: Annotated[float, Field(ge=0, le=100, description="of the drink when the drips stop")] = 78
    server: line(120, least=1) = "server"
    started_s: Span_s | None = None
    measured: bool = False


class ResourcesIn(Body):
    """brewers, grinders: how many of each name; a name not listed: one."""

    hands: Annotated[int, Field(ge=0, le=12)] = 1
    kettles: Annotated[int, Field(ge=0, le=50)] = 1
    heat_s: Span_s = 240
    reheat_s: Span_s = 90
    brewers: Annotated[dict[str, Annotated[int, Field(ge=0, le=50)]], Field(max_length=50)] = {}
    grinders: Annotated[dict[str, Annotated[int, Field(ge=0, le=50)]], Field(max_length=50)] = {}
    ambient_c: quantity("ambient_c", 2) = 22
    cups_each: Annotated[int, Field(ge=1, le=50)] = 1
    pour_cup_s: Annotated[float, Field(ge=0, le=120)] = 5


class VesselsIn(Body):
    """Cooling time constants, s; a server not listed: 2400."""

    servers: Annotated[dict[str, Annotated[float, Field(gt=0, le=1_000_000)]], Field(max_length=50)] = {}
    cup_tau_s: Annotated[float, Field(gt=0, le=1_000_000)] = 900


class WishIn(Body):
    low_c: Annotated[float, Field(ge=0, le=100)] = 42
    high_c: Annotated[float, Field(ge=0, le=100)] = 62
    spread_c: Annotated[float, Field(gt=0, le=50)] = 3
    keep_order: bool = True
    now_s: Span_s = 0


class ScheduleBody(Body):
    model_config = example(
        {
            "runs": [
                {"key": "A1", "recipe": SOME_RECIPE, "brewer": "Binnacle", "grinder": "Tidewheel", "grind_s": 9},
                {"key": "B1", "recipe": SOME_RECIPE, "brewer": "Binnacle", "grinder": "Tidewheel", "grind_s": 9},
            ],
            "resources": {"hands": 1, "kettles": 1, "brewers": {"Binnacle": 2}, "cups_each": 4},
            "vessels": {"servers": {"server": 1653}, "cup_tau_s": 900},
            "wish": {"low_c": 50, "high_c": 62},
        }
    )

    runs: Annotated[list[RunIn], Field(min_length=1, max_length=24)]
    resources: ResourcesIn = ResourcesIn()
    vessels: VesselsIn = VesselsIn()
    wish: WishIn = WishIn()


class ScheduleStep(Answer):
    """One block on one lane: "hands", "kettle", "grinder: …", "brewer: …"; s from the start."""

    run: str
    lane: str
    label: str
    start_s: float
    end_s: float


class ScheduleCup(Answer):
    """T = Ta + (drink − Ta)·e^(−(poured − ready)/τ_server − (tasting − poured)/τ_cup)."""

    run: str
    start_s: float
    ready_s: float
    poured_s: float
    drink_c: float
    server_tau_s: float
    temperature_c: float


class ScheduleRemedy(Answer):
    code: str
    text: str
    spread_c: float


class ScheduleAnswer(Answer):
    steps: list[ScheduleStep]
    cups: list[ScheduleCup]
    tasting_s: float
    spread_c: float
    total_s: float
    proven: bool
    why: str
    remedies: list[ScheduleRemedy]


class ScatterIn(Body):
    """SDs in points of the 9-point scale."""

    taster_setup: Annotated[float, Field(ge=0, le=5)] = 0.6
    brew: Annotated[float, Field(ge=0, le=5)] = 0.3
    noise: Annotated[float, Field(gt=0, le=5)] = 1.15


class PowerBody(Body):
    """Every flight is brewed afresh. lead: points that matter."""

    model_config = example({"setups": 2, "tasters": 8, "replicates": 4, "flights": 1, "lead": 0.5})

    setups: Annotated[int, Field(ge=2, le=24)]
    tasters: Annotated[int, Field(ge=1, le=50)]
    replicates: Annotated[int, Field(ge=1, le=12)]
    flights: Annotated[int, Field(ge=1, le=12)] = 1
    lead: Annotated[float, Field(gt=0, le=8)] = 0.5
    scatter: ScatterIn = ScatterIn()


class SeenAnswer(Answer):
    """lead_50, lead_80: points of 9 a setup must lead by to be called in half, in 8 of 10 panels; null: never."""

    tasters: int
    brews: int
    lead_50: float | None
    lead_80: float | None
    width: float | None


class WayAnswer(Answer):
    code: str
    text: str
    lead_80: float | None
    extra_brews: int
    extra_cups: int
    minutes: float


class PowerAnswer(Answer):
    """chance: how often a true lead of `lead` is called clear. halving: the cheapest plan with half the lead_80, if there is one."""

    here: SeenAnswer
    lead: float
    chance: float
    sentence: str
    chance_sentence: str
    ways: list[WayAnswer]
    cheapest: WayAnswer | None
    halving: SeenAnswer | None


class PowerCurveBody(Body):
    """One curve over the number of tasters, for brews of each setup in all flights."""

    model_config = example({"setups": 4, "brews": 2, "most_tasters": 12})

    setups: Annotated[int, Field(ge=2, le=24)]
    brews: Annotated[int, Field(ge=1, le=48)]
    flights: Annotated[int, Field(ge=1, le=12)] = 1
    most_tasters: Annotated[int, Field(ge=2, le=16)] = 12
    scatter: ScatterIn = ScatterIn()


class PowerCurveAnswer(Answer):
    """points: from two tasters on. complete: false where the time was over before the last; asked again, it goes on from there."""

    points: list[SeenAnswer]
    complete: bool
