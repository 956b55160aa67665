"""HTTP shapes of the verdict."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.judging.answer import Kind as AnswerKind
from ..core.vocabulary import AttributeCode, FlightMethod, ScatterFrom
from ..http import Answer
from ..measuring.schemas import Pooled, ServedMean


class SetupJudged(Answer):
    setup: str
    name: str
    n_scores: int
    mean: float | None
    interval: list[float] | None
    probability_best: float | None
    expected_regret: float | None
    brew_ratio: float | None
    tds: Pooled | None
    extraction_yield: Pooled | None
    total_time_s: float | None
    served: ServedMean | None


class DifferenceShown(Answer):
    a: str
    b: str
    estimate: float
    interval: list[float]
    p_value: float
    p_adjusted: float
    p_permutation: float
    probability_practically_equal: float


class VerdictShown(Answer):
    kind: Literal["clear", "tie", "not_enough"]
    choice: str | None
    tied: list[str]
    dropped: list[str]
    headline: str
    text: str


class LeanShown(Answer):
    setup: str | None
    expected_regret: float | None
    text: str


class CaveatShown(Answer):
    code: str
    text: str
    cure: str


class TasterRow(Answer):
    """A taster's mean liking of each setup, by letter."""

    taster: str
    means: dict[str, float]


class JudgedAnswer(Answer):
    """pass_name: "mean" over several passes. differences_note: what each column of the differences speaks of."""

    attribute: str
    pass_name: str
    flights: int
    tasters: int
    brews: int
    smallest_difference: float
    setups: list[SetupJudged]
    differences: list[DifferenceShown]
    differences_note: str
    verdict: VerdictShown
    lean: LeanShown
    caveats: list[CaveatShown]
    evidence_grade: str
    by_taster: list[TasterRow]
    judged_at: datetime


class EarlierVerdict(Answer):
    judged_at: datetime
    sighted: bool
    headline: str


class ToldApartShown(Answer):
    """Whether anybody tells them apart. claim: of whom it speaks."""

    method: FlightMethod
    method_label: str
    sighted: bool
    flights: int
    tasters: int
    correct: int
    n: int
    p_value: float
    distinguishers: float
    distinguishers_interval: list[float]
    d_prime: float | None
    d_prime_interval: list[float | None]
    min_correct: int | None
    text: str
    claim: str


class StrengthShown(Answer):
    setup: str
    wins: float
    judged: int
    log_strength: float
    interval: list[float]


class PairShown(Answer):
    a: str
    b: str
    a_wins: float
    b_wins: float
    preferred: float
    interval: list[float]
    p_value: float | None


class PreferredShown(Answer):
    """Paired preferences; strongest first. widened: by how much for tasters who judged several pairs."""

    strengths: list[StrengthShown]
    pairs: list[PairShown]
    widened: float


class RankedShown(Answer):
    """from_scores: ranks taken from liking, for want of a ranking flight."""

    setups: list[str]
    mean_ranks: list[float]
    rows: int
    left_out: int
    q: float
    agreement: float
    p_value: float
    exact: bool
    text: str
    from_scores: bool


class RepeatShown(Answer):
    """How far apart a taster scores the same brew."""

    taster: str
    duplicates: int
    repeat_sd: float | None
    interval: list[float] | None
    noisy_p: float | None
    chance_p: float | None
    flagged: bool
    text: str


class GuessedShown(Answer):
    """Guesses of which is which, by tasters' matchings, against chance. whole of matchings: tasters whose every cup was right."""

    right: int
    made: int
    whole: int
    matchings: int
    chance: float
    p_value: float
    text: str


class PositionShown(Answer):
    """What a place in the order adds to liking, points, with its 95 % half-width."""

    position: int
    effect: float
    half_width: float
    n: int


class WordCount(Answer):
    word: str
    count: int


class WordsShown(Answer):
    setup: str
    pass_name: str
    words: list[WordCount]


class JustRightShown(Answer):
    setup: str
    attribute: str
    too_little: int
    right: int
    too_much: int
    drop_little: float | None
    drop_much: float | None


class SegmentShown(Answer):
    """favourites: more than one where they are level; probability_best: that `best` is theirs."""

    tasters: list[str]
    means: dict[str, float]
    best: str
    favourites: list[str]
    probability_best: float


class SegmentsShown(Answer):
    """Empty segments: read the panel as one. compromise: null while it is open; least_liked: its mean among those who like it least, and its interval."""

    segments: list[SegmentShown]
    compromise: str | None
    least_liked: list[float] | None
    text: str


class CampShown(Answer):
    """A group of tasters who like alike. favourites: more than one where they are level; probability_best: that `best` is theirs. loses: points it gives up when everybody is served
    that setup."""

    tasters: list[str]
    best: str
    means: dict[str, float]
    loses: dict[str, float]
    favourites: list[str]
    probability_best: float


class AnswerShown(Answer):
    """The answer to the question that was asked: headline, how sure, what to do tomorrow. groups: only where the panel falls into kinds of drinkers. sighted: nothing blind was scored.
    order: letters as every view lists them; empty for best liked first. kept, leans, dropped: letters of the pennies that lead it. chances: along a
    ladder, letter → that it is the best of those tested."""

    kind: AnswerKind
    headline: str
    certainty: str
    action: str
    groups: list[CampShown]
    sighted: bool
    order: list[str]
    kept: list[str]
    leans: str
    dropped: list[str]
    chances: dict[str, float]


class ScatterUsed(Answer):
    """By which scatter it is judged. flights, cups: earlier ones it was learnt from; same: judged by the other scatter it is headed alike."""

    scatter_from: ScatterFrom
    flights: int
    cups: int
    same: bool
    text: str


class VerdictAnswer(Answer):
    """answer: null before anything was tasted and flipped. panel: how many scored what, '' where nothing was. scatter: null where no earlier flight speaks of it. blind and sighted are kept apart; earlier: what was said before a correction. names: letter → what a setup is called."""

    answer: AnswerShown | None
    panel: str
    blind: JudgedAnswer | None
    sighted: JudgedAnswer | None
    flights_open: int
    flights_to_flip: int
    earlier: list[EarlierVerdict]
    scatter: ScatterUsed | None
    names: dict[str, str]
    told_apart: list[ToldApartShown]
    preferred: PreferredShown | None
    ranked: RankedShown | None
    repeats: list[RepeatShown]
    guessed: GuessedShown | None
    positions: list[PositionShown]
    words: list[WordsShown]
    just_right: list[JustRightShown]
    segments: SegmentsShown | None
    attributes: list[AttributeCode]


class AttributeQuery(BaseModel):
    attribute: Annotated[str, Field(pattern="^(liking|aroma|acidity|sweetness|bitterness|body|clarity|finish)$")] = "liking"


class SetupMean(Answer):
    setup: str
    mean: float
    interval: list[float] | None


class PassJudged(Answer):
    """One attribute in one pass (or over several: "mean"). leader: highest mean; agreement: Kendall's W among the tasters with its p."""

    pass_name: str
    setups: list[SetupMean]
    differences: list[DifferenceShown]
    leader: str
    kind: Literal["clear", "tie", "not_enough"]
    agreement: float | None
    agreement_p: float | None


class AttributeJudged(Answer):
    """leaders: who leads as it cools, in words; '' of one pass. changes: the same where the leader changes, else ''. counts: the pass the trial is judged by, as passes names it."""

    attribute: str
    label: str
    low: float
    high: float
    low_word: str
    high_word: str
    passes: list[PassJudged]
    counts: str
    leaders: str
    changes: str


class TraitShown(Answer):
    attribute: str
    more: bool
    points: float
    p_adjusted: float


class ChangeWhileCooling(Answer):
    """The largest change between two passes, points, with its interval over tasters."""

    better: str
    worse: str
    change: float
    interval: list[float]
    p_value: float
    shown: bool


class CharacterShown(Answer):
    """by_pass: mean liking; steady: false where a change while it cools is shown, true where there can be none to speak of, null where neither is known; plain: what it is like beside the
    others."""

    setup: str
    name: str
    traits: list[TraitShown]
    by_pass: dict[str, float]
    cooled: ChangeWhileCooling | None
    steady: bool | None
    text: str
    plain: str
    as_it_cools: str


class CharactersAnswer(Answer):
    characters: list[CharacterShown]


class ScatterAnswer(Answer):
    """SDs in points of the 9-point scale. own: from this bench's blind flights; source says so in words."""

    taster_setup: float
    brew: float
    noise: float
    own: bool
    source: str
