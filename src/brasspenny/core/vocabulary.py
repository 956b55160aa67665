"""The lists of the job, each entry once: Python reads them here, and the interface has them written out of here with its types.

A new brewer kind, test method, pass, attribute, step or match kind is one record below and, where it computes, one function at the
place its docstring names. Nothing else in either language may list them, label them or limit them.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Literal, Protocol, TypeVar

from .kit.heat import SCALDS_C as SCALDS_C
from .limits import LIMITS
from .palate.drills import DRILL_KINDS as DRILL_KINDS
from .palate.series import PALATE_AXES as PALATE_AXES


class Coded(Protocol):
    @property
    def code(self) -> str: ...


R = TypeVar("R", bound=Coded)


def by_code(records: Iterable[R]) -> dict[str, R]:
    return {r.code: r for r in records}


@dataclass(frozen=True)
class Word:
    """A code and what it is called."""

    code: str
    label: str


# --- yield bases and brewers -----------------------------------------------------------------------------------------------------

YIELD_BASES = (Word("in_cup", "in-cup yield"), Word("full_liquor", "full-liquor yield"))
YieldBasis = Literal["in_cup", "full_liquor"]


@dataclass(frozen=True)
class EndingRecord:
    """How a brew is over. label: as a fact of a brewer; ask: what the guide asks a hand to do or to watch for; done: what its key then says; passive: it happens by itself and is
    waited for."""

    code: str
    label: str
    ask: str
    done: str
    passive: bool = False


ENDINGS = (
    EndingRecord("drips_stop", "when the drips stop", "Watch for the last drip", "Drips stopped", passive=True),
    EndingRecord("lifted", "lifted at a time", "Lift the brewer", "Lifted"),
    EndingRecord("pressed", "when it is pressed", "Press until it hisses", "Pressed"),
    EndingRecord("valve_opened", "when the valve is opened", "Open the valve", "Opened"),
    EndingRecord("poured_off", "when it is poured off", "Pour it off", "Poured off"),
)
"""What computes: core.recipe.ending."""
Ending = Literal["drips_stop", "lifted", "pressed", "valve_opened", "poured_off"]

POUR_PATTERNS = (
    Word("centre", "in the centre"),
    Word("spiral", "in a spiral"),
    Word("spiral_out", "in a spiral outwards"),
    Word("spiral_in", "in a spiral inwards"),
    Word("edge", "at the edge"),
    Word("edge_to_centre", "from the edge to the centre"),
    Word("steady", "in one steady stream"),
)
"""How the stream is led; the label is how a recipe's text says it."""
PourPattern = Literal["centre", "spiral", "spiral_out", "spiral_in", "edge", "edge_to_centre", "steady"]


@dataclass(frozen=True)
class BrewerKind:
    """A kind of brewer. yield_basis: how its yield is usually quoted; ends: how a brew in it is over, the usual way first; retained_g_g:
    water the grounds usually retain per gram of dose; steeped: all the water stands on all the coffee; valved: closed until it is opened;
    fines_pass: they get into the drink, so samples are filtered before reading; lasting: rinsed, nothing thrown away; topples: stands on a
    server, so it is steadied."""

    code: str
    label: str
    yield_basis: str = "in_cup"
    ends: tuple[Ending, ...] = ("drips_stop", "lifted")
    retained_g_g: float = 2.1
    steeped: bool = False
    valved: bool = False
    fines_pass: bool = False
    lasting: bool = False
    topples: bool = True


BREWER_KINDS = (
    BrewerKind("cone", "cone dripper"),
    BrewerKind("flat_bed", "flat bed"),
    BrewerKind("mesh_cylinder", "mesh cylinder", fines_pass=True, lasting=True),
    BrewerKind("press_pot", "press-pot", "full_liquor", ("poured_off", "pressed"), steeped=True, fines_pass=True, lasting=True, topples=False),
    BrewerKind("piston_press", "piston press", ends=("pressed",), steeped=True, fines_pass=True, lasting=True, topples=False),
    BrewerKind("steep_and_release", "steep and release", ends=("valve_opened", "drips_stop"), valved=True),
    BrewerKind("jug_steep", "jug steep, then drip", ends=("drips_stop",), valved=True),
)
"""What computes: core.simulator.brews (how water meets the coffee), core.recipe.starters (a recipe to begin with)."""
BrewerType = Literal["cone", "flat_bed", "mesh_cylinder", "press_pot", "piston_press", "steep_and_release", "jug_steep"]
BREWERS = by_code(BREWER_KINDS)

# --- asking ----------------------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Variable:
    """One thing a setup is made of. field: its name everywhere; unit: shown after the value, may be empty."""

    field: str
    label: str
    unit: str = ""


VARIABLES = (
    Variable("coffee", "Coffee"),
    Variable("grinder", "Grinder and burrs"),
    Variable("grind_setting", "Grind setting"),
    Variable("filter", "Filter"),
    Variable("brewer", "Brewer"),
    Variable("water", "Water"),
    Variable("temperature_c", "Temperature", "°C"),
    Variable("dose_g", "Dose", "g"),
    Variable("brew_water_g", "Brew water", "g"),
    Variable("bypass_g", "Bypass water", "g"),
    Variable("pours", "Pours"),
    Variable("other", "Something else"),
)


@dataclass(frozen=True)
class FactorKind:
    """What a question may be about. label: in a sentence; asked: on the form; tests: the variable that then differs; equipment: flavour
    is compared at equal strength; ladder: the number its levels are read as (core.judging.measures), so that three or more setups make a ladder, ''
    where they are no numbers; dialled: each setup deserves its own dial-in; own_strength: its cups differ in strength by what is asked, so they are never
    matched in it; words: what a question about it says, with spaces between."""

    code: str
    label: str
    asked: str
    tests: str
    equipment: bool = False
    ladder: str = ""
    dialled: bool = False
    own_strength: bool = False
    words: str = ""


FACTOR_KINDS = (
    FactorKind("ratio", "brew ratio", "Brew ratio", "brew_ratio", ladder="ratio", own_strength=True, words="ratio ratios dose doses"),
    FactorKind("grind_setting", "grind setting", "Grind setting", "grind_setting", equipment=True, ladder="grind_setting", words="grind setting coarser finer coarse fine grinds clicks"),
    FactorKind("grinder", "grinder", "Grinder or burrs", "grinder", equipment=True, dialled=True, words="grinder grinders mill mills burr burrs plates conical"),
    FactorKind("filter", "filter", "Filter", "filter", equipment=True, dialled=True, words="filter filters paper papers cloth mesh felt"),
    FactorKind("brewer", "brewer", "Brewer", "brewer", equipment=True, dialled=True, words="brewer brewers dripper drippers cone cones press pot bed"),
    FactorKind("temperature", "temperature", "Temperature", "temperature_c", ladder="temperature_c", words="temperature temperatures hot hotter cooler colder degrees boiling °c °f"),
    FactorKind("coffee", "coffee", "Coffee", "coffee", dialled=True, words="coffee coffees bean beans lot lots roast roasts roaster origin blend"),
    FactorKind("water", "water", "Water", "water", dialled=True, words="water waters mineral tap hardness"),
    FactorKind("strength", "strength", "Strength, by bypass water", "bypass_g", ladder="tds_pct", own_strength=True, words="strength stronger weaker bypass dilute"),
    FactorKind("extraction", "extraction", "Extraction, by the grind", "grind_setting", equipment=True, ladder="ey_pct", words="extraction yield extract"),
    FactorKind("pours", "pours", "Pour pattern", "pours", words="pour pours pouring bloom pulse pulses"),
    FactorKind("other", "something else", "Something else", "other", words="kettle kettles gooseneck spout"),
)  # fmt: skip
Factor = Literal["ratio", "grind_setting", "grinder", "filter", "brewer", "temperature", "coffee", "water", "strength", "extraction", "pours", "other"]

MOST_FURTHER = 4
"""Factors beside the first that a trial may have."""
SETUP_LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWX"
MOST_SETUPS = round(LIMITS["setups"].high)

MATCHING_RULES = (
    Word("sieve_median", "matched by sieve median"),
    Word("brew_time", "matched by brew time"),
    Word("yield", "matched by extraction yield"),
    Word("strength", "matched by strength"),
    Word("recipe", "set as the recipe says"),
    Word("makers_table", "matched by the maker's table"),
    Word("by_eye", "matched by eye"),
    Word("accepted", "differs, and accepted"),
)
"""How a declared difference was made fair. What computes: core.brewing.dial_in.check_rule."""
MatchingRule = Literal["sieve_median", "brew_time", "yield", "strength", "recipe", "makers_table", "by_eye", "accepted"]


@dataclass(frozen=True)
class MatchKind:
    """How a pair of settings was matched, strongest first. least_steps: the least half-width such a match can have, in steps of the dial
    answered for. measured: by something weighed, timed or read, not by opinion; sampled: made from sieve samples, never typed."""

    code: str
    label: str
    least_steps: float
    measured: bool = True
    sampled: bool = False


MATCH_KINDS = (
    MatchKind("sieve_median", "sieve median", 1.0, sampled=True),
    MatchKind("brew_time", "brew time", 1.5),
    MatchKind("yield", "extraction yield", 1.5),
    MatchKind("recipe", "as the recipe says", 3.0, measured=False),
    MatchKind("by_eye", "by eye", 4.0, measured=False),
)
MatchKindCode = Literal["sieve_median", "brew_time", "yield", "recipe", "by_eye"]
USUAL_MATCH = "by_eye"
"""What a typed match is until somebody says more."""

PHOTO_KINDS = (Word("bed", "Bed"), Word("cup", "Cup"), Word("other", "Something else"))
"""What a picture of a brew shows."""
PhotoKind = Literal["bed", "cup", "other"]

# --- grinding ----------------------------------------------------------------------------------------------------------------------------

FEEDINGS = (Word("single_dose", "Single dose"), Word("hopper", "Hopper"))
"""How beans come to the burrs. What computes: core.grinding.doses (what stays inside for the next dose)."""
Feeding = Literal["single_dose", "hopper"]


@dataclass(frozen=True)
class PushRecord:
    """What presses water through a filter. asked: on the form; size: what is entered, in unit; how: in a sentence."""

    code: str
    label: str
    asked: str
    size: str
    unit: str
    how: str


PUSHES = (
    PushRecord("head", "Dripping, under a head", "A head of water", "Height of the water", "mm", "under a head"),
    PushRecord("force", "Pressed, at a force", "A press", "Force, by the scale under it", "N", "pressed"),
)
"""What computes: core.grinding.flow."""
Push = Literal["head", "force"]

TABLE_KINDS = (Word("finer", "cumulative, finer than"), Word("coarser", "cumulative, coarser than"), Word("each", "share of each size"))
"""How a table of particle sizes tells its shares. What computes: core.grinding.tables."""
TableKind = Literal["finer", "coarser", "each"]

PURPOSES = (Word("evidence", "counts for the comparison"), Word("dial_in", "dial-in"), Word("loose", "loose brew"))
Purpose = Literal["evidence", "dial_in", "loose"]
TrialPurpose = Literal["evidence", "dial_in"]

# --- brewing -----------------------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class StepRecord:
    """A step of a recipe. verb: how a recipe's text says it; takes: what can be said of it beside its times; usual_s: how long it takes unless said (None: pours, by their mass); on_coffee: its water meets the coffee;
    prepares: done before the first water; hands_free: nobody is needed; after: belongs to the drink, not to the bed; hot: its water can scald."""

    code: str
    label: str
    verb: str
    usual_s: float | None = None
    takes: tuple[Literal["water", "where", "count", "heat", "reading"], ...] = ()
    on_coffee: bool = False
    prepares: bool = False
    hands_free: bool = False
    after: bool = False
    hot: bool = False


STEPS = (
    StepRecord("rinse", "Rinse the filter", "rinse the filter", 20, prepares=True, hot=True, takes=("heat",)),
    StepRecord("preheat", "Preheat", "preheat", 20, prepares=True, hot=True, takes=("heat",)),
    StepRecord("dose", "Put in the coffee", "put in the coffee", 10, prepares=True),
    StepRecord("level", "Level the bed", "level the bed", 5, prepares=True),
    StepRecord("well", "Make a well", "make a well", 5, prepares=True),
    StepRecord("bloom", "Bloom", "bloom", 40, on_coffee=True, hot=True, takes=("water", "where", "heat")),
    StepRecord("pour", "Pour", "pour", on_coffee=True, hot=True, takes=("water", "where", "heat")),
    StepRecord("hold_level", "Pour to hold the level", "hold the level", on_coffee=True, hot=True, takes=("water", "where", "heat")),
    StepRecord("wait", "Wait", "wait", 30, hands_free=True),
    StepRecord("swirl", "Swirl", "swirl", 5, takes=("count",)),
    StepRecord("stir", "Stir", "stir", 10, takes=("count",)),
    StepRecord("lid", "Lid on", "lid on", 3),
    StepRecord("break_crust", "Break the crust", "break the crust", 15),
    StepRecord("skim", "Skim", "skim", 30),
    StepRecord("transfer", "Transfer to the dripper", "transfer to the dripper", 15, takes=("reading",)),
    StepRecord("tap", "Tap", "tap", 3, takes=("count",)),
    StepRecord("press", "Press", "press gently", 30),
    StepRecord("invert", "Invert", "invert", 5),
    StepRecord("remove_brewer", "Remove the brewer", "remove the brewer", 5),
    StepRecord("open_valve", "Open the valve", "open the valve", 3),
    StepRecord("drain", "Let it drain", "drain", hands_free=True),
    StepRecord("bypass", "Add bypass water", "bypass", 10, after=True, hot=True, takes=("water", "heat")),
    StepRecord("settle", "Let it settle", "settle", 60, hands_free=True, after=True),
    StepRecord("stir_server", "Stir the server", "stir the server", 5, after=True),
    StepRecord("serve", "Serve", "serve", 10, after=True),
)
"""What computes: core.recipe.grammar (how people say it), core.recipe.writing, core.recipe.cautions (what can hurt)."""
StepKind = Literal[
    "rinse",
    "preheat",
    "dose",
    "level",
    "well",
    "bloom",
    "pour",
    "hold_level",
    "wait",
    "swirl",
    "stir",
    "lid",
    "break_crust",
    "skim",
    "transfer",
    "tap",
    "press",
    "invert",
    "remove_brewer",
    "open_valve",
    "drain",
    "bypass",
    "settle",
    "stir_server",
    "serve",
]

# --- tasting -------------------------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class TestMethod:
    """A way of asking. layout: one round of every cup, or rounds of few; guess_rate: right answers by guessing, where there is right and
    wrong; picks: how many codes an answer names; in_flights: offered at the table, else in the calculators only; posed, how: what a round asks on the taster's sheet, {more}
    being the named attribute."""

    __test__ = False  # no test case, whatever its name begins with

    code: str
    label: str
    about: str
    layout: Literal["one_round", "rounds"] = "one_round"
    guess_rate: float | None = None
    picks: int = 0
    in_flights: bool = True
    posed: str = ""
    how: str = ""


TEST_METHODS = (
    TestMethod("scores", "Scores", "Liking and attributes of every cup: how much better, and in what."),
    TestMethod("ranking", "Ranking", "Put all cups in order, best first: quick, says nothing of how much."),
    TestMethod(
        "paired", "Paired preference", "Two cups at a time: which do you prefer?", "rounds", picks=1,
        posed="Which do you prefer?", how="Taste both. Saying that you do not mind is an answer, too.",
    ),
    TestMethod(
        "triangle", "Triangle", "Three cups, two alike: which is the odd one?", "rounds", 1 / 3, 1,
        posed="Which is the odd one?", how="Two of the three are alike. Guess if you cannot tell.",
    ),
    TestMethod(
        "duo_trio", "Duo-trio", "A reference and two cups: which is the reference?", "rounds", 1 / 2, 1,
        posed="Which is the reference?", how="Taste the reference R first. One of the two is the same. Guess if you cannot tell.",
    ),
    TestMethod("two_afc", "2-AFC", "Two cups: which has more of one named attribute?", "rounds", 1 / 2, 1, posed="Which has more {more}?", how="Guess if you cannot tell."),
    TestMethod(
        "tetrad", "Tetrad", "Four cups, two and two alike: which two belong together?", "rounds", 1 / 3, 2,
        posed="Which two belong together?", how="Two and two are alike. Choose one pair. Guess if you cannot tell.",
    ),
    TestMethod("three_afc", "3-AFC", "Three cups: which has most of one named attribute?", "rounds", 1 / 3, 1, in_flights=False),
)  # fmt: skip
"""What computes: core.judging.discrimination.proportion_correct (its psychometric function), core.tasting.flights (rounds, right or wrong)."""
METHODS = by_code(TEST_METHODS)
FlightMethod = Literal["scores", "ranking", "paired", "triangle", "duo_trio", "two_afc", "tetrad"]
DiscriminationMethod = Literal["triangle", "duo_trio", "two_afc", "tetrad", "three_afc"]
RoundMethod = Literal["triangle", "duo_trio", "two_afc", "tetrad"]
"""Discrimination methods that flights pour, in rounds with a right answer."""
FilterMaterial = Literal["paper", "mesh", "metal", "cloth"]


@dataclass(frozen=True)
class PassRecord:
    """A tasting while the cups cool: opens at from_c, closes at to_c, °C. docs/formulas.md §9."""

    code: str
    label: str
    from_c: float
    to_c: float


PASSES = (PassRecord("hot", "Hot", 62.0, 55.0), PassRecord("warm", "Warm", 50.0, 42.0), PassRecord("cool", "Cool", 35.0, 25.0))
"""In the order of cooling."""
PassName = Literal["hot", "warm", "cool"]
USUAL_PASS = "warm"

JUDGED_PASSES = (Word("mean", "the mean of the passes"), *(Word(p.code, f"the {p.code} pass") for p in PASSES))
"""By which tasting a trial is judged: the pass people drink it at, or all of them alike. What computes: core.trial.tasted.Tasted.counting."""
JudgedPass = Literal["mean", "hot", "warm", "cool"]
ScatterFrom = Literal["own", "usual"]
"""What a verdict takes the scatter of tasters, brews and scores to be before it looks: what this bench's earlier panels showed, or the usual."""
USUAL_SCATTER_FROM: ScatterFrom = "own"
JUDGED_AS = {p.code: p.label for p in JUDGED_PASSES}
USUAL_JUDGED_PASS = "mean"


@dataclass(frozen=True)
class Attribute:
    """A scale from low to high in steps, with the words at its ends. usual: on the sheet unless told otherwise."""

    code: str
    label: str
    low: float = 0
    high: float = 10
    step: float = 1
    low_word: str = "low"
    high_word: str = "high"
    usual: bool = False


ATTRIBUTES = (
    Attribute("aroma", "Aroma", low_word="faint", high_word="strong"),
    Attribute("acidity", "Acidity", usual=True),
    Attribute("sweetness", "Sweetness", usual=True),
    Attribute("bitterness", "Bitterness"),
    Attribute("body", "Body", low_word="light", high_word="heavy", usual=True),
    Attribute("clarity", "Clarity", low_word="blurred", high_word="clear"),
    Attribute("finish", "Finish", low_word="short", high_word="long"),
    Attribute("cleanness", "Cleanness", low_word="dirty finish", high_word="clean finish"),
)
"""What computes: core.judging.character names the extremes by low_word and high_word."""
LIKING = Attribute("liking", "Liking", 1, 9, 1, "dislike extremely", "like extremely")
AttributeCode = Literal["aroma", "acidity", "sweetness", "bitterness", "body", "clarity", "finish", "cleanness"]
Judged = Literal["liking", "aroma", "acidity", "sweetness", "bitterness", "body", "clarity", "finish", "cleanness"]


@dataclass(frozen=True)
class BlindingRecord:
    """How labels are hidden. sighted: graded as tasted with labels in sight; asked: may be chosen; reported: in a report's words; elsewhere: tasted
    before it came here, so how it was done is known by word only."""

    code: str
    label: str
    about: str
    reported: str
    sighted: bool = False
    asked: bool = True
    elsewhere: bool = False


BLINDINGS = (
    BlindingRecord(
        "shuffle", "Shuffle",
        "Brews stand in identical servers, marked underneath. Somebody shuffles them out of sight and code cards go in front. The marks are entered after all "
        "scores are locked, so nothing here can give a cup away. It works alone, too.",
        "blind by shuffling",
    ),
    BlindingRecord(
        "runner", "Runner",
        "A helper who does not taste pours by a sheet only their phone opens. The key is sealed before tasting, and its seal can be checked after the flip.",
        "blind by a runner (the key was sealed before tasting)",
    ),
    BlindingRecord(
        "open", "Open (labelled)",
        "Everybody sees which is which. People often guess wrong once the labels are gone, so these scores are kept apart from blind ones.",
        "with labels in sight", sighted=True,
    ),
    BlindingRecord("broken", "Seal broken", "The key came into sight while it was tasted.", "with the seal broken, so graded sighted", sighted=True, asked=False),
    BlindingRecord(
        "told_blind", "Blind, elsewhere", "Tasted elsewhere: that labels were hidden is known by word only, and the order of the cups was not set here.",
        "elsewhere, blind by word", asked=False, elsewhere=True,
    ),
    BlindingRecord(
        "told_open", "Labelled, elsewhere", "Tasted elsewhere with labels in sight: these scores are kept apart from blind ones.",
        "elsewhere, with labels in sight", sighted=True, asked=False, elsewhere=True,
    ),
)  # fmt: skip
Blinding = Literal["shuffle", "runner", "open", "broken", "told_blind", "told_open"]
AskedBlinding = Literal["shuffle", "runner", "open"]

# --- kit -------------------------------------------------------------------------------------------------------------------------------------

FactForm = Literal["number", "whole", "text", "date", "choice", "yes", "duration", "hardness", "brewer_type", "grinder", "apertures"]


@dataclass(frozen=True)
class KitFact:
    """One thing that can be known of a piece of kit. unit: after the field; low, high: limits of a number (above: low itself is out);
    longest: of a text; options: of a choice, (code, label); default: what holds until it is said, None when it stays unknown; needed:
    cannot stay unknown."""

    name: str
    label: str
    form: FactForm = "text"
    unit: str = ""
    hint: str = ""
    low: float | None = None
    high: float | None = None
    above: bool = False
    longest: int = 0
    options: tuple[tuple[str, str], ...] = ()
    default: object = None
    needed: bool = False


@dataclass(frozen=True)
class KitKind:
    """named: setups name it; used: it may be part of a setup."""

    code: str
    label: str
    plural: str
    facts: tuple[KitFact, ...] = field(default_factory=tuple)
    named: bool = False


def _text(name: str, label: str, longest: int, hint: str = "") -> KitFact:
    return KitFact(name, label, "text", hint=hint, longest=longest, default="")


def _number(name: str, label: str, unit: str, low: float, high: float, *, above: bool = False, hint: str = "", form: FactForm = "number", **more) -> KitFact:
    return KitFact(name, label, form, unit, hint, low, high, above, **more)


def _choice(name: str, label: str, *options: tuple[str, str], default: str | None = None) -> KitFact:
    return KitFact(name, label, "choice", options=options, default=default)


def _yes(name: str, label: str, default: bool = False) -> KitFact:
    return KitFact(name, label, "yes", default=default)


def _price(unit: str, name: str = "price") -> KitFact:
    return _number(name, "Price", unit, 0, 1_000_000)


def _setting(name: str, label: str) -> KitFact:
    return _number(name, label, "on its dial", -1000, 10_000)


def _volume() -> KitFact:
    return _number("volume_ml", "Holds", "mL", 0, 100_000, above=True)


def _heat(name: str, label: str) -> KitFact:
    return _number(name, label, "°C", 0, 120)


NOTE = _text("note", "Note", 200)
KIT_KINDS = (
    KitKind(
        "coffee", "Coffee", "Coffees", named=True,
        facts=(
            _text("lot", "Lot", 60),
            _text("origin", "Origin", 80),
            _text("variety", "Variety", 80),
            _text("process", "Process", 60, "washed, natural, honey…"),
            _choice("species", "Species", ("arabica", "Arabica"), ("robusta", "Robusta type"), ("blend", "A blend of both"), default="arabica"),
            _number("robusta_share", "Robusta share, of a blend", "0–1", 0, 1, default=0.3),
            _choice("roast", "Roast", ("light", "Light"), ("medium_light", "Medium light"), ("medium", "Medium"), ("medium_dark", "Medium dark"), ("dark", "Dark")),
            KitFact("roasted_on", "Roasted on", "date"),
            _text("solubility_note", "Density, solubility", 120, "dense, high grown"),
            _price("per kg", "price_per_kg"),
            _number("bag_price", "Or price of a bag", "", 0, 1_000_000, hint="used where no price per kg is given"),
            _number("bag_size", "A bag holds", "", 0, 100_000, above=True),
            _choice("bag_unit", "Bag size is in", ("g", "grams"), ("oz", "ounces")),
            _number("published_score", "Published score", "of 100", 0, 100),
            _yes("may_hold_alcohol", "Barrel-aged: may carry alcohol"),
        ),
    ),
    KitKind(
        "grinder", "Grinder", "Grinders", named=True,
        facts=(
            _choice("drive", "Driven by", ("electric", "A motor"), ("hand", "Hand"), default="electric"),
            _choice(
                "scale", "Dial", ("dial", "Numbers"), ("clicks", "Clicks from zero"), ("marks", "Numbers with marks between"), ("letters", "Letters with numbers"),
                ("stepless", "Stepless"), default="dial",
            ),
            _number("marks", "Marks from one number to the next", "", 2, 20, hint="3: the marks are thirds", form="whole"),
            _choice("direction", "A larger number is", ("larger_is_coarser", "Coarser"), ("larger_is_finer", "Finer"), default="larger_is_coarser"),
            _number("step", "Smallest step", "on its dial", 0, 100, above=True),
            _setting("zero", "Zero point"),
            _setting("finest", "Finest usable setting"),
            _number("rate_g_s", "Speed", "g/s", 0, 200, above=True),
            _number("retention_g", "Retention", "g", 0, 100),
            _number("purge_g", "Purged before a dose", "g", 0, 100),
            _price(""),
            _text("note", "Note", 200, "popcorning, mess, how it cleans"),
        ),
    ),
    KitKind(
        "burr_set", "Burr set", "Burr sets",
        facts=(
            KitFact("grinder_id", "Sits in", "grinder", longest=40, needed=True),
            _text("geometry", "Geometry", 80, "flat, 64 mm"),
            _setting("zero", "Zero point"),
            _setting("finest", "Finest usable setting"),
            _number("rate_g_s", "Speed", "g/s", 0, 200, above=True),
            _price(""),
            NOTE,
        ),
    ),
    KitKind(
        "filter", "Filter", "Filters", named=True,
        facts=(
            _choice("material", "Material", ("paper", "Paper"), ("mesh", "Mesh"), ("metal", "Metal"), ("cloth", "Cloth"), default="paper"),
            _text("thickness", "Thickness", 60, "0.21 mm"),
            _text("pores", "Pores", 60, "200 µm"),
            _text("size", "Size", 40),
            _price("each", "price_each"),
            _yes("rinsed", "Rinsed before use", True),
            _yes("reusable", "Reusable"),
            _text("care", "Care", 200, "hot rinse, weekly soak"),
        ),
    ),
    KitKind(
        "brewer", "Brewer", "Brewers", named=True,
        facts=(
            KitFact("brewer_type", "Type", "brewer_type"),
            KitFact("yield_basis", "Yield method", "choice", options=tuple((m.code, m.label.capitalize()) for m in YIELD_BASES)),
            _number("dose_low_g", "Works from", "g", 0, 100_000, above=True),
            _number("dose_high_g", "up to", "g", 0, 100_000, above=True),
            _volume(),
            _number("count", "How many there are", "", 1, 50, form="whole", default=1),
            _text("outlet", "Outlet", 80),
            _text("material", "Material", 60),
            _price(""),
            _text("note", "Note", 200, "forgiving, runs slow"),
        ),
    ),
    KitKind(
        "water", "Water", "Waters", named=True,
        facts=(
            _number("hardness_mg_l", "Total hardness", "mg/L", 0, 5_000, form="hardness"),
            _number("alkalinity_mg_l", "Alkalinity", "mg/L", 0, 5_000, form="hardness"),
            _number("minerals_mg_l", "Minerals, all", "mg/L", 0, 5_000, hint="a conductivity pen; not the TDS of a drink"),
            NOTE,
        ),
    ),
    KitKind(
        "kettle", "Kettle", "Kettles",
        facts=(
            _volume(),
            _heat("set_c", "Set to"),
            _number("heat_s", "Heats from cold in", "s", 0, 3600, above=True, form="duration"),
            _number("reheat_s", "Reheats between brews in", "s", 0, 3600, form="duration"),
            NOTE,
        ),
    ),
    KitKind(
        "vessel", "Cup or server", "Cups, servers",
        facts=(
            _choice("use", "It is a", ("server", "Server"), ("cup", "Cup"), default="server"),
            _volume(),
            _heat("room_c", "Room"),
            _heat("first_c", "First reading"),
            _heat("second_c", "Second reading"),
            _number("after_s", "Time between them", "s", 0, 100_000, above=True, form="duration"),
            _yes("insulated", "Insulated"),
            NOTE,
        ),
    ),
    KitKind(
        "sieve_stack", "Sieve stack", "Sieve stacks",
        facts=(
            KitFact("apertures_um", "Apertures, finest first", "apertures", "µm", "300, 500, 800, 1100", 10, 20_000, needed=True),
            _choice("shaking", "Shaken by", ("hand", "Hand"), ("machine", "A machine"), default="hand"),
            _number("usual_s", "For so long", "s", 0, 3600, above=True, form="duration"),
            NOTE,
        ),
    ),
    KitKind(
        "instrument", "Instrument", "Instruments",
        facts=(
            _choice(
                "measures", "Measures", ("mass", "Mass"), ("temperature", "Temperature"), ("strength", "Strength of a drink"), ("particle_size", "Particle size"),
                ("water", "Water"), default="mass",
            ),
            KitFact("unit", "Unit", "text", hint="g, °C, % TDS", longest=20, default="g"),
            _number("resolution", "Resolution", "", 0, 1000, above=True),
            _number("accuracy", "Accuracy, half-width", "", 0, 1000),
            KitFact("checked_on", "Last checked", "date"),
            _text("checked_against", "Against", 120, "distilled water, a 100 g weight"),
            NOTE,
        ),
    ),
)  # fmt: skip
KITS = by_code(KIT_KINDS)
FACTS_OF_NOW = frozenset(
    {
        "price",
        "price_per_kg",
        "bag_price",
        "bag_size",
        "bag_unit",
        "price_each",
        "rate_g_s",
        "retention_g",
        "purge_g",
        "count",
        "heat_s",
        "reheat_s",
        "note",
        "published_score",
    }
)
"""What is true of kit whenever it was used: entered late, it counts for what was brewed before."""

# --- for the interface -------------------------------------------------------------------------------------------------------------------------

FOR_INTERFACE = (
    "YIELD_BASES", "BREWER_KINDS", "VARIABLES", "FACTOR_KINDS", "MATCHING_RULES", "MATCH_KINDS", "USUAL_MATCH", "FEEDINGS", "PUSHES", "TABLE_KINDS", "PURPOSES", "ENDINGS", "POUR_PATTERNS", "STEPS", "TEST_METHODS", "PASSES",
    "USUAL_PASS", "JUDGED_PASSES", "USUAL_JUDGED_PASS", "ATTRIBUTES", "LIKING", "BLINDINGS", "KIT_KINDS", "PHOTO_KINDS", "SCALDS_C", "MOST_FURTHER", "MOST_SETUPS",
    "PALATE_AXES",
    "DRILL_KINDS",
)  # fmt: skip
"""What the interface is given, under the same names."""
