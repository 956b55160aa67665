"""Check every value of an imported row against the schema that the room asks of a person who types it.

A column that a room's body has a field for obeys that field's type and limits. JSON columns, and columns nobody types, have their type here.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import fields
from functools import cache
from typing import Annotated, Any, Literal, TypeAlias

import peewee as pw
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, TypeAdapter, ValidationError, create_model

from ..bench.schemas import BenchPatch
from ..brewing.liking_schemas import PassOrWhole
from ..brewing.schemas import FilingPatch, InstrumentCheckBody, Observed, ReadingBody, RunPatch, ServedBody
from ..core.brewing.along import MarkedStep
from ..core.judging.learnt import Learnt
from ..core.tasting.sheets import refuse_value
from ..core.vocabulary import KITS, AttributeCode, Blinding, BrewerType, Purpose
from ..devices.scale import Mistake
from ..grinding.schemas import DoseBody, FilterTestBody, SampleBody, Source
from ..http import TYPE_WORDS, Body, line, quantity, refuse_absurd
from ..kit.facts import FACTS
from ..kit.schemas import KitPatch, PairBody, StockBody
from ..live_brews.schemas import Instrument, MarkKind
from ..palate.drill_schemas import CupBody, DrillBody
from ..palate.schemas import SeriesBody
from ..people.schemas import PersonBody
from ..planning.run_sheet import shape
from ..planning.schemas import DayBody, DesignBody, PlanBody
from ..recipes.schemas import RecipeDocument, RecipePatch, VersionBody
from ..store.fields import UtcField
from ..store.models import RunSheet, Table
from ..tasting.schemas import FlightBody, FlightOptions
from ..tasting.sheet_schemas import ScoreBody
from ..trials.schemas import DeclareBody, SetupPatch, TrialPatch, VariablesPatch
from ..verdicts.schemas import JudgedAnswer
from . import kinds as k

Row: TypeAlias = dict[str, Any]
Id = Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Pair = Annotated[list[Finite], Field(min_length=2, max_length=2)]
Code = Annotated[str, Field(pattern=r"^[1-9]\d\d$")]
Letter = Annotated[str, Field(pattern=r"^[A-Z•]$")]


class Invalid(ValueError):
    """A value that no room would take. column: the one it stands in."""

    def __init__(self, column: str, reason: str) -> None:
        super().__init__(reason)
        self.column = column


# --- what JSON columns hold ----------------------------------------------------------------------------------------------------------


class RestsOn(Body):
    """The sieve samples a match was made from, and the half-widths they leave."""

    a: list[Id]
    b: list[Id]
    a_spread: Finite | None
    b_spread: Finite | None


class KitSnapshot(Body):
    """A piece of kit as it was when a setup was made of it; its facts are checked by its kind."""

    id: Id
    name: line(120)
    facts: dict[str, Any]


class StoredDesign(DesignBody):
    notes: list[str] = []


class Drafted(Body):
    brews: dict[str, Annotated[list[int], Field(min_length=2, max_length=2)]]
    text: str


class Liked(Body):
    by_pass: dict[PassOrWhole, Annotated[float, Field(ge=0, le=10)]] = {}
    words: list[line(40)] = []


class Protocol(Body):
    done: list[str]


class AsRead(Body):
    kind: Literal["tds", "brix", "oven"]
    value: Finite
    offset_pct: Finite
    accuracy_pct: Finite | None


class CupReading(Body):
    at: AwareDatetime
    cup_c: Annotated[float, Field(ge=-20, le=120)]


class StoredOptions(FlightOptions):
    references: dict[Annotated[str, Field(pattern=r"^\d{1,2}$")], Id] = {}


class LiveMark(Body):
    """What was pressed while a brew was made."""

    kind: MarkKind
    index: int | None
    at_s: Finite
    reading_g: Finite | None
    text: str


class GroundTo(Body):
    median_um: Finite
    log_sd: Finite


Steps = Annotated[list[Annotated[float, Field(ge=-1000, le=100_000)]], Field(min_length=1, max_length=24)]
KIT_CODES = tuple(KITS)
JSON_COLUMNS: dict[tuple[str, str], Any] = {
    ("matched_setting", "rests_on"): RestsOn | None,
    ("setup_revision", "recipe"): RecipeDocument | None,
    ("setup_revision", "kit"): dict[Literal[KIT_CODES], KitSnapshot] | None,
    ("plan", "design"): StoredDesign | None,
    ("plan", "day"): DayBody,
    ("plan", "drafted"): Drafted | None,
    ("run_sheet", "asked"): dict[str, Any],
    ("run_sheet", "found"): dict[str, Any],
    ("run_sheet", "begun"): dict[str, dict[str, Any]],
    ("run", "observed"): Observed,
    ("run", "off_plan"): list[str],
    ("run", "marked"): list[dict[str, Any]],
    ("run", "protocol"): Protocol | None,
    ("run", "served"): ServedBody | None,
    ("run", "curve"): list[Pair] | None,
    ("run", "liked"): Liked | None,
    ("reading", "as_read"): AsRead | None,
    ("live_brew", "document"): RecipeDocument,
    ("live_brew", "marks"): list[LiveMark],
    ("live_brew", "grind"): GroundTo | None,
    ("live_reading", "points"): list[Pair],
    ("flight", "cup_readings"): list[CupReading],
    ("flight", "passes"): Annotated[list[PassOrWhole], Field(min_length=1, max_length=3)],
    ("flight", "opened"): dict[PassOrWhole, AwareDatetime],
    ("flight", "options"): StoredOptions,
    ("sieve_sample", "fractions"): Annotated[list[Pair], Field(max_length=40)],
    ("palate_session", "steps"): Steps,
    ("palate_presentation", "codes"): Annotated[list[str], Field(min_length=2, max_length=3)],
    ("palate_drill", "cups"): list[CupBody],
    ("palate_drill_round", "set_out"): list[str],
    ("palate_drill_round", "answer"): list[int] | None,
    ("palate_drill_round", "marks"): list[str] | None,
    ("change", "before"): dict[str, Any] | None,
    ("change", "after"): dict[str, Any] | None,
}
OTHER_COLUMNS: dict[tuple[str, str], Any] = {
    ("setup", "letter"): Letter,
    ("reading", "tds_pct"): quantity("concentrate_tds_pct"),
    ("reading", "source"): Literal["typed", "simulated", "meter"],
    ("flight", "blinding"): Blinding,
    ("flight", "attributes"): list[AttributeCode],
    ("flight", "number"): Annotated[int, Field(ge=1, le=9999)],
    ("flight_cup", "code"): Code,
    ("flight_cup", "mark"): Annotated[int, Field(ge=1, le=99)] | None,
    ("flight_brew", "mark"): Annotated[int, Field(ge=1, le=99)],
    ("flight_brew", "round_no"): Annotated[int, Field(ge=1, le=9)],
    ("flight_cup", "round_no"): Annotated[int, Field(ge=1, le=9)],
    ("sheet_cup", "position"): Annotated[int, Field(ge=0, le=99)],
    **{(kind, "source"): Source for kind in ("sieve_sample", "grinder_dose", "filter_test")},
    ("palate_presentation", "step"): Annotated[float, Field(gt=0, le=1000)],
    ("live_brew", "instrument"): Instrument,
    ("live_brew", "mistake"): Mistake,
    ("run", "purpose"): Purpose,
    ("run", "number"): Annotated[int, Field(ge=1, le=99_999)],
    ("trial", "number"): Annotated[int, Field(ge=1, le=9_999_999)],
    ("bench", "currency"): line(4),
    ("kit_item", "brewer_type"): BrewerType | None,
    ("setup_revision", "number"): Annotated[int, Field(ge=1)],
}
BODIES: dict[str, tuple[type[BaseModel], ...]] = {
    "bench": (BenchPatch,),
    "person": (PersonBody,),
    "kit_item": (KitPatch,),
    "stock_entry": (StockBody,),
    "matched_setting": (PairBody,),
    "recipe": (RecipePatch,),
    "recipe_version": (VersionBody,),
    "trial": (TrialPatch,),
    "declaration": (DeclareBody,),
    "setup": (SetupPatch,),
    "setup_revision": (VariablesPatch,),
    "run": (RunPatch, FilingPatch),
    "plan": (PlanBody,),
    "reading": (ReadingBody,),
    "instrument_check": (InstrumentCheckBody,),
    "flight": (FlightBody,),
    "score": (ScoreBody,),
    "late_score": (ScoreBody,),
    "sieve_sample": (SampleBody,),
    "grinder_dose": (DoseBody,),
    "filter_test": (FilterTestBody,),
    "palate_session": (SeriesBody,),
    "palate_drill": (DrillBody,),
}
RENAMED = {("matched_setting", "match_kind"): "match"}
"""Columns that the body calls otherwise."""


def from_json(model: type[Table], row: Row) -> Row:
    """The columns of a row as peewee holds them; one that is missing has its default. Raises Invalid for what is no value of its column."""
    out: Row = {}
    for field in k.fields_of(model):
        column = field.column_name
        if column not in row and field.default is not None:
            out[column] = field.default() if callable(field.default) else field.default
            continue
        try:
            out[column] = k.from_json(field, row.get(column))
        except (ValueError, OverflowError) as error:
            raise Invalid(column, str(error)) from None
    return out


def check(kind: str, row: Row) -> None:
    """Raise Invalid for the first value that the rooms of this bench would not take. row: columns with values as peewee holds them."""
    model, columns = _model(kind)
    try:
        model.__pydantic_validator__.validate_json(json.dumps({column: row[column] for column in columns}), strict=True)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        column, *inside = first["loc"]
        raise Invalid(str(column), _reason(first, inside)) from None
    for column in columns:
        _refuse_absurd(column, row[column])
    if kind == "kit_item":
        _hold(_facts(row["kind"]), "facts", row["facts"])
    elif kind == "setup_revision":
        for part, snapshot in (row["kit"] or {}).items():
            _hold(_facts(part), "kit", snapshot["facts"])
    elif kind == "run":
        _check_marked(row["marked"])
    elif kind in ("score", "late_score"):
        _check_score(row)
    elif kind == "run_sheet":
        _check_run_sheet(row)
    elif kind == "learnt_scatter":
        _check_learnt(row)
    elif kind == "stored_verdict":
        if not isinstance(row["payload"], dict):
            raise Invalid("payload", "it is no object")
        _hold(_VERDICT, "payload", row["payload"] | {"judged_at": row["judged_at"].isoformat()})


_VERDICT = TypeAdapter(JudgedAnswer)
CHECKED_ELSEWHERE = (UtcField, pw.DateField, pw.BlobField)
"""Fields whose values are moments, days and pictures by now: kinds.from_json and reading.py have read them."""


@cache
def _model(kind: str) -> tuple[type[BaseModel], tuple[str, ...]]:
    """The model of a row of this kind, and the columns that it has."""
    names = [f.column_name for f in k.fields_of(k.MODELS[kind]) if not isinstance(f, CHECKED_ELSEWHERE)]
    types = {name: found for name in names if (found := type_of(kind, name)) is not None}
    made = create_model(f"Row of {kind}", __config__=ConfigDict(strict=True, allow_inf_nan=False), **{name: (found, ...) for name, found in types.items()})
    return made, tuple(types)


def type_of(kind: str, column: str) -> Any:
    """The type of a column with its limits; None where any value of the table's own type will do."""
    if (own := JSON_COLUMNS.get((kind, column), OTHER_COLUMNS.get((kind, column)))) is not None:
        return own
    name = RENAMED.get((kind, column), column)
    for body in BODIES.get(kind, ()):
        if found := body.model_fields.get(name):
            return Annotated[(found.annotation, *found.metadata)] if found.metadata else found.annotation
    return Id if column == "id" and kind != "bench" else None


@cache
def _facts(kind: str) -> TypeAdapter[Any]:
    return TypeAdapter(FACTS[kind])


def _hold(adapter: TypeAdapter[Any], column: str, value: Any) -> None:
    """For what rests on another column."""
    try:
        adapter.validate_json(json.dumps(value), strict=True)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        raise Invalid(column, _reason(first, first["loc"])) from None
    _refuse_absurd(column, value)


def _reason(error: Mapping[str, Any], inside: Iterable[int | str]) -> str:
    where = ".".join(map(str, inside))
    message = TYPE_WORDS[error["type"]][0].rstrip(".") if error["type"] in TYPE_WORDS else error["msg"]
    return f"{where}: {message}" if where else message


def _refuse_absurd(column: str, value: Any) -> None:
    try:
        refuse_absurd(value)
    except (ValueError, RecursionError) as error:
        raise Invalid(column, str(error)[:200]) from None


_MARKED = {f.name: f for f in fields(MarkedStep)}
_STEP = TypeAdapter(MarkedStep)


def _check_marked(steps: Iterable[Row]) -> None:
    for step in steps:
        if unknown := set(step) - set(_MARKED):
            raise Invalid("marked", f"{', '.join(sorted(unknown))}: no such field")
        _hold(_STEP, "marked", step)


def _check_score(row: Row) -> None:
    """As a sheet does; only half points are not asked for, since tables of other people have other steps."""
    value = row["value"]
    wrong = refuse_value(row["attribute"], value if value is None else round(2 * value) / 2)
    if wrong:
        raise Invalid("value", wrong[0])


def _check_learnt(row: Row) -> None:
    if row["flights"] and not Learnt.is_text(row["log_likelihood"]):
        raise Invalid("log_likelihood", "it is no likelihood over the grid of scatters")


def _check_run_sheet(row: Row) -> None:
    try:
        shape(RunSheet(**row))
    except (LookupError, TypeError, ValueError, AttributeError) as error:
        readable = isinstance(row["found"].get("schedule"), dict)
        raise Invalid("asked" if readable else "found", f"it is no run sheet ({type(error).__name__}: {str(error)[:80]})") from None
