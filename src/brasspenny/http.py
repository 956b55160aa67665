"""Shapes and manners all rooms share at the edge: bodies, problems (RFC 9457), the person at the device, revisions."""

from __future__ import annotations

import base64
import io
import json
import logging
import os
import re
from collections.abc import Callable, Iterator
from datetime import UTC, date, datetime
from decimal import Decimal
from threading import BoundedSemaphore
from typing import Annotated, Any, TypeVar

import segno
from flask import Response, current_app, g, has_request_context, request, stream_with_context
from flask_openapi import APIBlueprint
from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, ValidationError, field_validator

from . import config
from .act import Act
from .core.limits import LEAST_SIZE, LIMITS
from .progress_stream import Steps, TrackedSteps
from .refusals import Unprocessable
from .store import seen_devices

log = logging.getLogger("brasspenny")
R = TypeVar("R")
API = "/api/v1"
SAMPLE_COOKIE, IN_SAMPLE = "penny_bench", "sample"
SAMPLE_QUERY = f"?bench={IN_SAMPLE}"
"""How a device says that it looks round the sample bench, and how a link of it is told from the bench's own."""


class Asked(BaseModel):
    """Whatever comes in. Numbers are of a size something can have."""

    @field_validator("*", mode="after")
    @classmethod
    def _of_a_size(cls, value: Any) -> Any:
        refuse_absurd(value)
        return value


def refuse_absurd(value: Any) -> None:
    """Raise ValueError for a number, however deep in lists and tables, that is of no size a quantity of this field can have."""
    for number in _numbers(value):
        if 0 < abs(number) < LEAST_SIZE:
            raise ValueError(f"{number:g} is too near to 0. Give a number of an ordinary size.")


def _numbers(value: Any) -> Iterator[float]:
    """Those of a field, in whatever lists and tables it holds; what is a body of its own looks at its own."""
    if isinstance(value, float):
        yield value
    elif isinstance(value, list | tuple):
        for part in value:
            yield from _numbers(part)
    elif isinstance(value, dict):
        for part in value.values():
            yield from _numbers(part)


class Body(Asked):
    """What is sent in. Strict: `false` is not a number, "1,42" is not 1.42, unknown fields are refused."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False)

    @classmethod
    def model_validate(cls, obj: Any, **kwargs: Any):  # through JSON, where strictness means what the wire means
        return super().model_validate_json(json.dumps(obj), **kwargs)


class Changes(Body):
    """The body of a PATCH request: only the fields that were sent change. Its schema has no defaults, because generated clients send them and would overwrite values."""

    @classmethod
    def __get_pydantic_json_schema__(cls, core_schema: Any, handler: Any) -> Any:
        schema = handler(core_schema)
        for field in handler.resolve_ref_schema(schema).get("properties", {}).values():
            field.pop("default", None)
        return schema


class Answer(BaseModel):
    """What is sent out: every field always present."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True, allow_inf_nan=False)


class FieldProblem(Answer):
    field: str
    reason: str
    remedy: str


class Problem(Answer):
    """RFC 9457 problem, with each field's trouble and remedy. current and yours: both versions of a stale write."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []
    current: dict[str, Any] | None = None
    yours: dict[str, Any] | None = None


class IdPath(BaseModel):
    id: str = Field(min_length=1, max_length=40)


class TokenPath(BaseModel):
    token: str = Field(max_length=200)


ETAG = re.compile(r'(?:W/)?"(\d{1,9})"', re.ASCII)


class RevHeader(BaseModel):
    """The revision the writer saw."""

    if_match: int = Field(alias="If-Match", ge=1, description="rev of the row as it was read, bare or as its ETag")

    @field_validator("if_match", mode="before")
    @classmethod
    def _of_an_etag(cls, value: Any) -> Any:
        found = ETAG.fullmatch(value.strip()) if isinstance(value, str) else None
        return found[1] if found else value


class Done(Answer):
    """A write that has nothing else to say; change: its entry in the history, by which it can be undone."""

    change_id: str | None = None


# --- numbers ---------------------------------------------------------------------------------------------------------


def _at_most(places: int) -> Callable[[float], float]:
    def check(value: float) -> float:
        if -Decimal(repr(value)).as_tuple().exponent > places and round(value, places) != value:
            raise ValueError(f"at most {places} decimals are kept")
        return value

    return check


def quantity(limit_name: str, places: int = 3) -> Any:
    """The type of a stored quantity: its limit as OpenAPI bounds, no more decimals than the column keeps."""
    limit = LIMITS[limit_name]
    low = {"gt": limit.low} if limit.above else {"ge": limit.low}
    return Annotated[float, Field(le=limit.high, description=f"{limit.label}, {limit.unit}".rstrip(", "), **low), AfterValidator(_at_most(places))]


def _no_control(text: str) -> str:
    if any(ord(ch) < 32 and ch not in "\n\t" for ch in text):
        raise ValueError("control characters are not kept")
    return text.strip()


def line(longest: int, *, least: int = 0) -> Any:
    """The type of a short text: trimmed, no control characters. It is stored and shown as text, never run."""

    def long_enough(text: str) -> str:
        if len(text) < least:
            raise ValueError("write something here")
        return text

    return Annotated[str, Field(max_length=longest), AfterValidator(_no_control), AfterValidator(long_enough)]


def _tidy(tags: list[str]) -> list[str]:
    """Each once, however it was written, in the order given."""
    first: dict[str, str] = {}
    for tag in filter(None, tags):
        first.setdefault(tag.casefold(), tag)
    return list(first.values())


Tags = Annotated[list[line(24)], Field(max_length=12, description="words of the host's own to find it by"), AfterValidator(_tidy)]


YEARS = (1970, 2200)


def _in_our_time(when: date) -> Any:
    if not YEARS[0] <= when.year < YEARS[1]:
        raise ValueError(f"no coffee was compared then: give a date from {YEARS[0]} to {YEARS[1] - 1}")
    return when


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]
Day = Annotated[date, AfterValidator(_in_our_time)]
"""Times and days as they are sent: far enough from the ends of time to count with."""

Mass = quantity("dose_g")
Bypass = quantity("bypass_g")
Celsius = Annotated[float, Field(ge=0, le=120, description="°C"), AfterValidator(_at_most(2))]
Seconds = Annotated[float, Field(ge=0, le=100_000, description="s"), AfterValidator(_at_most(1))]


# --- problems --------------------------------------------------------------------------------------------------------

TYPE_WORDS: dict[str, tuple[str, str]] = {
    "missing": ("this is needed.", "Give it."),
    "extra_forbidden": ("this is not a field here.", "Leave it out."),
    "float_type": ("this is not a number.", 'Give a number with a decimal point, such as 1.42 (not "1,42").'),
    "int_type": ("this is not a whole number.", "Give a whole number."),
    "int_parsing": ("this is not a whole number.", "Give a whole number."),
    "string_type": ("this is not text.", "Give text in quotes."),
    "bool_type": ("this is neither true nor false.", "Give true or false."),
    "finite_number": ("this is not a finite number.", "Give an ordinary number."),
    "list_type": ("this is not a list.", "Give a list."),
    "model_type": ("this is not an object.", "Send a JSON object."),
    "json_invalid": ("this is not readable JSON.", "Send a JSON object."),
}
BOUND_TYPES = {"greater_than", "greater_than_equal", "less_than", "less_than_equal"}


def problem(status: int, title: str, detail: str, errors: list[FieldProblem] | None = None, **both: Any) -> Response:
    body = Problem(title=title, status=status, detail=detail, errors=errors or [], **both)
    return Response(body.model_dump_json(), status=status, mimetype="application/problem+json")


def validation_problem(error: ValidationError) -> Response:
    errors = [_field_problem(e) for e in error.errors(include_url=False, include_context=True)]
    first = errors[0]
    return problem(422, "Some of this cannot be right", f"{first.field}: {first.reason} {first.remedy}", errors)


def _field_problem(error: dict) -> FieldProblem:
    field = ".".join(str(part) for part in error["loc"]) or "body"
    kind = error["type"]
    limit = LIMITS.get(str(error["loc"][-1]) if error["loc"] else "") or LIMITS.get(_limit_of_list(error["loc"]))
    if kind in BOUND_TYPES and limit:
        return FieldProblem(field=field, reason=f"{limit.label} is out of range.", remedy=f"Enter {limit.describe()}. {limit.hint}".strip())
    if kind == "value_error":
        return FieldProblem(field=field, reason=f"{error['ctx']['error']}.", remedy="Shorten or correct it.")
    if kind == "literal_error":
        return FieldProblem(field=field, reason="this is not one of the choices.", remedy=f"Give {error['ctx']['expected']}.")
    reason, remedy = TYPE_WORDS.get(kind, (error["msg"][:1].lower() + error["msg"][1:] + ".", "Correct it."))
    return FieldProblem(field=field, reason=reason, remedy=remedy)


def _limit_of_list(loc: tuple) -> str:
    return {"tds_readings_pct": "tds_pct"}.get(str(loc[-2]), "") if len(loc) > 1 else ""


# --- the request -----------------------------------------------------------------------------------------------------

PERSON_HEADER = "X-Penny-Person"


def device() -> str:
    """This device, as the hash of the mark it keeps: the same whoever sits at it, whatever session it has."""
    return g.device


def act() -> Act:
    """Who, when and with which randomness, for one use case. The device says who by the header X-Penny-Person."""
    who = _who()
    if who is not None and not _can_be_a_person(who):
        raise Unprocessable(PERSON_HEADER, "That is not a person of this bench.", "Choose yourself from the list at the top.")
    g.act = Act(who, moment(), current_app.config["RNG"])
    return g.act


def moment() -> datetime:
    """When this request is answered: one moment, however often it is asked for."""
    if "moment" not in g:
        g.moment = current_app.config["CLOCK"]()
    return g.moment


def _who() -> str | None:
    return request.headers.get(PERSON_HEADER, "").strip() or None


def _can_be_a_person(who: str) -> bool:
    return len(who) == 12 and who.isalnum() and who.isascii()


_noted: set[tuple[str, ...]] = set()
MOST_NOTED = 10_000
"""What this process has written down already, so that it is written once and not at every request."""


def _is_noted(*what: str) -> bool:
    """Of the bench's own alone: a sample bench is taken away and laid out anew behind this process's back."""
    return what in _noted and not g.get("in_sample")


def _remember(what: tuple[str, ...]) -> None:
    if len(_noted) >= MOST_NOTED:
        _noted.clear()
    _noted.add(what)


def note_person() -> None:
    """This device was used as somebody."""
    who = _who()
    if who is not None and _can_be_a_person(who) and not _is_noted(g.device, who):
        seen_devices.note_person(g.device, who, moment())
        _remember((g.device, who))


def note_bench_device() -> None:
    """The bench itself was opened on this device."""
    if not _is_noted(g.device):
        seen_devices.note_bench(g.device, moment())
        _remember((g.device,))


def utc_now() -> datetime:
    return datetime.now(UTC)


def reply(answer: BaseModel | list[BaseModel], status: int = 200) -> Response:
    """JSON of one shape or a list of them, checked against the shape by having been built as it."""
    if isinstance(answer, list):
        text = "[" + ",".join(a.model_dump_json() for a in answer) + "]"
    else:
        text = answer.model_dump_json()
    out = Response(text, status=status, mimetype="application/json")
    if isinstance(rev := getattr(answer, "rev", None), int):
        out.headers["ETag"] = f'"{rev}"'  # as If-Match takes it
    return out


LINES = "application/x-ndjson"


def client_left() -> bool:
    """Whether nobody waits for the answer to this request any more; False where the server cannot say."""
    return has_request_context() and request.environ.get("waitress.client_disconnected", bool)()


def told_as_it_goes(steps: Steps[R], shape: Callable[[R], BaseModel], status: int = 200) -> Response:
    """What a long use case comes to, or how far it is as well, a line each, for who asks for lines. What refuses it then comes in the last line, for by then the answer has
    begun. Who goes away meanwhile leaves nothing half done: the steps are closed where they stand."""
    if request.accept_mimetypes.best != LINES:
        return reply(shape(TrackedSteps(steps).to_the_end()), status)

    def lines() -> Iterator[str]:
        try:
            for done, of in (told := TrackedSteps(steps)):
                yield f"{json.dumps({'done': done, 'of': of})}\n"
            yield f'{{"answer":{shape(told.came_to).model_dump_json()}}}\n'
        except Exception as error:
            yield f'{{"problem":{_as_problem(error).get_data(as_text=True)}}}\n'
        finally:
            steps.close()

    return Response(stream_with_context(lines()), status=status, mimetype=LINES, headers={"Cache-Control": "no-store"})


def _as_problem(error: Exception) -> Response:
    try:
        return current_app.make_response(current_app.handle_user_exception(error))
    except Exception:
        log.exception("while it was told")
        return problem(500, "Something went wrong here", "Nothing was saved. Try again; if it stays so, look at the bench's log.")


COME_BACK_MS = 4_000
FULL = f"retry: {COME_BACK_MS}\nevent: full\ndata: {COME_BACK_MS}\n\n"
_slots = BoundedSemaphore(max(1, config.threads() // 2))
"""Streams a process serves at once: each holds a thread, and half of them stay for everything else."""


def streamed(lines: Iterator[str]) -> Response:
    """Server-sent events. Where every place is taken the one event is "full": the listener comes back later, and looks again by itself until then."""

    def held() -> Iterator[str]:
        if not _slots.acquire(blocking=False):
            yield FULL
            return
        try:
            yield from lines
        finally:
            _slots.release()

    return Response(held(), mimetype="text/event-stream", headers={"Cache-Control": "no-store"})


def bytes_of(data: str) -> bytes:
    """A file sent in base64. Raises Unprocessable at `data`, whatever characters it is made of."""
    try:
        return base64.b64decode(data, validate=True)
    except ValueError:  # binascii's own is one, and so is what it says of letters outside ASCII
        raise Unprocessable("data", "This is not base64.", "Send the file's bytes in base64.") from None


def code_of(link: str) -> Response:
    """A link as a QR code; no cache keeps it."""
    out = io.BytesIO()
    segno.make(link, error="m").save(out, kind="svg", scale=5, border=3, dark="#13201C", light="#FFFFFF", xmldecl=False, svgclass=None, lineclass=None)
    return Response(out.getvalue(), mimetype="image/svg+xml", headers={"Cache-Control": "no-store"})


def file_of(mimetype: str, what: str) -> dict[str, Any]:
    """How the document tells of an answer that is no JSON."""
    return {"description": what, "content": {mimetype: {"schema": {"type": "string"}}}}


DESCRIBES = "PENNY_DESCRIBES"
"""Set where the OpenAPI document is worked out. A bench that serves has it as a file: to work it out takes as long as all else a start does."""


def blueprint(name: str, import_name: str) -> APIBlueprint:
    """A room's blueprint: under /api/v1, problems documented, operation ids from the handlers' names."""
    return APIBlueprint(
        name,
        import_name,
        url_prefix=API,
        abp_tags=[{"name": name}],
        abp_responses={422: Problem},
        doc_ui=DESCRIBES in os.environ,
        operation_id_callback=lambda *, name, path, method: name.rsplit(".", 1)[-1],
    )
