"""A trial as it stands, as one immutable value: what every result, caveat, verdict and headline is worked out from.

Everything about a trial that a screen can say is a function of this value and of nothing else; what takes a moment is kept by the
hash of the part of it that it rests on. The key of a blind flight is in it only once the pennies are flipped, so nothing that is
worked out from it can give a cup away. Nobody writes to it: documents (recipes, facts of the kit) are read, never changed.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from dataclasses import dataclass, field, fields, is_dataclass
from datetime import date, datetime
from functools import cached_property
from typing import Any, Literal, NamedTuple

from .. import CORE_VERSION, figures
from ..brewing.observed import Tolerances
from ..extraction.uncertainty import Instrument
from ..grinding.dials import Dials
from ..grinding.doses import Ground
from ..grinding.samples import Sample
from ..vocabulary import BLINDINGS, USUAL_SCATTER_FROM, BrewerType, Factor, FlightMethod, JudgedPass, MatchingRule, Purpose, ScatterFrom, YieldBasis

Document = Mapping[str, Any]
SIGHTED: tuple[str, ...] = tuple(b.code for b in BLINDINGS if b.sighted)
"""Ways of tasting that are graded sighted: labels in sight, or the seal broken while it was tasted."""
ELSEWHERE: tuple[str, ...] = tuple(b.code for b in BLINDINGS if b.elsewhere)
"""Tasted before it came here: how it was done is known by word only, so nothing is learnt from it for other trials."""
WITNESSED: tuple[str, ...] = tuple(b.code for b in BLINDINGS if not b.sighted and not b.elsewhere)
"""Blind by what was done here."""


@dataclass(frozen=True)
class BenchSettings:
    """The bench the trial stands on: its instruments, tolerances, room (°C), how long it counts on kit that lasts, and the step of
    strength its panel tells apart (%, None: not measured), and that its best taster may (the low end of the interval)."""

    name: str
    instrument: Instrument
    tolerances: Tolerances
    ambient_c: float
    altitude_m: int
    kit_lasts_years: float = 5.0
    cups_a_day: float = 2.0
    tells_pct: float | None = None
    best_tells_pct: float | None = None


@dataclass(frozen=True)
class SetupRevision:
    """What a brew was made to, as it was then: variables, recipe steps and facts of the kit. Immutable in the store as well."""

    id: str
    setup_id: str
    number: int
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
    recipe_version_id: str | None
    recipe: Document | None
    kit: Document | None


@dataclass(frozen=True)
class Setup:
    """A live setup. name: as given, '' when it is called by what it tests; brews_given: the highest number ever on a brew's label."""

    id: str
    letter: str
    name: str
    revision_id: str
    rev: int
    brews_given: int = 0


class Reading(NamedTuple):
    """One reading, % TDS. as_read: how it was taken, where that says more."""

    id: str
    tds_pct: float
    source: str
    rev: int
    as_read: Document | None = None


@dataclass(frozen=True)
class Brew:
    """A live brew of a live setup, with its readings in order of taking. observed, protocol, served, marked: as logged. after_tasting: logged when a flight of
    the trial had begun."""

    id: str
    rev: int
    setup_id: str
    setup_revision_id: str
    number: int
    purpose: Purpose
    brewed_at: datetime
    dose_g: float
    brew_water_g: float | None
    bypass_g: float
    beverage_g: float | None
    temperature_c: float | None
    pour_end_s: float | None
    total_time_s: float | None
    moisture_pct: float
    concentrate: bool
    note: str
    observed: Document
    off_plan: tuple[str, ...]
    marked: tuple[Document, ...]
    protocol: Document | None
    served: Document | None
    has_curve: bool
    after_tasting: bool
    readings: tuple[Reading, ...] = ()


class Cup(NamedTuple):
    """A code of a flight. run_id and mark: None while the key is not known."""

    id: str
    code: str
    round_no: int
    run_id: str | None
    mark: int | None


class Poured(NamedTuple):
    """A brew in a round of a flight, and the mark on its server: says nothing of codes."""

    run_id: str
    mark: int
    round_no: int


class Seat(NamedTuple):
    """A taster's sheet. late_scores: how many arrived after the lock; own_set: the codes it holds, () where it holds all of the flight's."""

    id: str
    person_id: str
    person: str
    late: bool
    left: bool
    late_scores: int
    own_set: tuple[str, ...] = ()


class Answer(NamedTuple):
    """One touch on one cup by one taster. position: of the cup in the taster's own order, 0 when unknown."""

    sheet_id: str
    cup_id: str
    pass_name: str
    attribute: str
    value: float | None
    text: str
    position: int


@dataclass(frozen=True)
class SealState:
    """A runner's seal: its hash, and whether the host saw the key or broke it. nonce: once the key is known, for checking."""

    commitment: str
    seen_by_host: bool
    broken: bool
    nonce: str | None


@dataclass(frozen=True)
class Flight:
    """answers: of closed flights only; while one is tasted nothing of what was said leaves it. order: by number.
    cup_spread_c: the most its cups were ever read apart, °C; None where they were not read one by one."""

    id: str
    number: int
    blinding: str
    status: Literal["open", "closed", "flipped"]
    method: FlightMethod
    attributes: tuple[str, ...]
    passes: tuple[str, ...]
    options: Document
    host_tastes: bool
    seal: SealState | None = None
    cups: tuple[Cup, ...] = ()
    brews: tuple[Poured, ...] = ()
    seats: tuple[Seat, ...] = ()
    answers: tuple[Answer, ...] = ()
    cup_spread_c: float | None = None

    @property
    def sighted(self) -> bool:
        return self.blinding in SIGHTED

    @property
    def elsewhere(self) -> bool:
        return self.blinding in ELSEWHERE

    @property
    def key(self) -> dict[str, str]:
        """Cup id → run id, as far as it is known."""
        return {c.id: c.run_id for c in self.cups if c.run_id}


class Declared(NamedTuple):
    """A difference that is known and meant: the rule it follows, and why, in the host's words."""

    rule: MatchingRule
    reason: str = ""


class SecondThought(NamedTuple):
    """Something done to a flight once its scores were known. kind: correct_marks (marks entered again) or delete; before: what the verdict
    said until then, '' when none had been asked for."""

    kind: str
    flight: int
    before: str = ""


class LearntScatter(NamedTuple):
    """What earlier panels said of the scatter of likings in these passes when the trial was first judged (core/judging/learnt.py). No flights: there were none."""

    passes: str
    flights: int
    cups: int
    log_likelihood: str


class RuleBefore(NamedTuple):
    """A rule of the verdict as it stood when the scores became known, before it was changed, and what the verdict said then."""

    rule: Literal["judged_pass", "smallest_difference"]
    value: str | float
    verdict: str = ""


@dataclass(frozen=True)
class Plan:
    """The stored plan's settings by column name, its design, and its revision. drafted: brews a verdict proposed and the host took up: setup id → [there then, wanted]."""

    rev: int
    settings: Document
    design: Document | None
    drafted: Document | None = None


@dataclass(frozen=True)
class Trial:
    """declarations: by field, in order. revisions: by id, every one a live setup or a live brew points at.
    dials, samples: of the kit, and the newest sieve samples of the dials in use, where a setting was declared as matched by sieve. sheet_spread_c: between the warmest and the coolest cup by the newest run sheet, °C; None without one.
    ground: by dial of a setup, what doses through it say, where any were timed or weighed."""

    id: str
    number: int
    rev: int
    question: str
    factor: Factor
    factor_other: str
    further_factors: tuple[Factor, ...]
    yield_basis_chosen: YieldBasis | None
    strength_policy: Literal["as_brewed", "matched"]
    smallest_difference: float
    judged_pass: JudgedPass
    created_at: datetime
    bench: BenchSettings
    scatter_from: ScatterFrom = USUAL_SCATTER_FROM
    brought_in_from: str | None = None
    learnt_scatter: tuple[LearntScatter, ...] = ()
    setups: tuple[Setup, ...] = ()
    revisions: Mapping[str, SetupRevision] = field(default_factory=dict)
    declarations: Mapping[str, Declared] = field(default_factory=dict)
    brews: tuple[Brew, ...] = ()
    flights: tuple[Flight, ...] = ()
    plan: Plan | None = None
    sheet_spread_c: float | None = None
    second_thoughts: tuple[SecondThought, ...] = ()
    rules_before: tuple[RuleBefore, ...] = ()
    dials: Dials | None = None
    samples: tuple[Sample, ...] = ()
    ground: Mapping[str, Ground] = field(default_factory=dict)

    @property
    def factors(self) -> tuple[Factor, ...]:
        """All that is asked about, the first one first."""
        return (self.factor, *self.further_factors)

    @cached_property
    def rows(self) -> tuple[tuple[Setup, SetupRevision], ...]:
        """Setups by letter, each with its current revision."""
        return tuple((s, self.revisions[s.revision_id]) for s in self.setups)

    @cached_property
    def letters(self) -> dict[str, str]:
        """Setup id → letter."""
        return {s.id: s.letter for s in self.setups}


# --- what is kept, is kept by this ------------------------------------------------------------------------------------------


def fingerprint(part: Any) -> str:
    """SHA-256 of a value and of the core's version, marked with the units it is told in: the only key by which anything worked out is kept.

    part: frozen dataclasses, tuples, mappings, numbers, text, dates. Equal values have equal fingerprints, whatever order their
    mappings were filled in.

    >>> fingerprint({"a": 1, "b": (2, None)}) == fingerprint({"b": [2, None], "a": 1}), fingerprint(1) == fingerprint(2)
    (True, False)
    """
    text = json.dumps([CORE_VERSION, part], sort_keys=True, default=_plain, separators=(",", ":"))
    digest, mark = hashlib.sha256(text.encode()).hexdigest(), figures.units().mark
    return digest[:OF_DATA] + mark if mark else digest


OF_DATA = 56
"""So much of a fingerprint is the data's own; the rest tells the units its sentences are told in."""


def _plain(value: Any) -> Any:
    if is_dataclass(value):
        return [type(value).__name__, *(getattr(value, f.name) for f in fields(value))]
    if isinstance(value, Mapping):
        return dict(value)
    if isinstance(value, (frozenset, set)):
        return sorted(value)
    if isinstance(value, (date, datetime)):
        return value.isoformat()
    raise TypeError(f"{type(value).__name__} has no place in a frozen value")
