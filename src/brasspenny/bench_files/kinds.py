"""What of a bench goes into the open: each kind of row, its fields, and how a value stands in JSON.

Left out: who was let in on which device, the bench's passphrase and secret, links by which a verdict was shown, brews on their way, flights
that are not flipped and sessions that are not closed yet, and all that is worked out from the rest.
"""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any, get_args

import peewee as pw
from playhouse.mysql_ext import JSONField

from ..core.figures import BagUnit, HeatUnit, RatioUnit
from ..core.palate.drills import DrillKind
from ..core.palate.series import PalateAxis, SeriesMethod, StepChoice
from ..core.vocabulary import KITS, Blinding, FlightMethod, PhotoKind, Purpose, ScatterFrom
from ..store.fields import UtcField
from ..store.grinding import GRINDING
from ..store.models import ALL, Charted, DamagedRow, Event, Headline, ImportMapping, Kept, LiveBrew, LiveReading, Photo, Table, VerdictLink
from ..store.palate import PALATE

FORMAT, VERSION = "brass-penny-bench", 2
LEFT_OUT = {Charted, DamagedRow, Event, Headline, ImportMapping, Kept, LiveBrew, LiveReading, VerdictLink}
CHOICES: dict[tuple[str, str], tuple[str, ...]] = {
    ("bench", "heat_unit"): get_args(HeatUnit),
    ("bench", "ratio_unit"): get_args(RatioUnit),
    ("bench", "bag_unit"): get_args(BagUnit),
    ("kit_item", "kind"): tuple(KITS),
    ("trial", "scatter_from"): get_args(ScatterFrom),
    ("run", "purpose"): get_args(Purpose),
    ("photo", "kind"): get_args(PhotoKind),
    ("photo", "media_type"): ("image/jpeg",),
    ("flight", "blinding"): get_args(Blinding),
    ("flight", "method"): get_args(FlightMethod),
    ("flight", "status"): ("flipped",),
    ("palate_session", "axis"): get_args(PalateAxis),
    ("palate_session", "method"): get_args(SeriesMethod),
    ("palate_session", "choice"): get_args(StepChoice),
    ("palate_session", "way"): ("helper", "shuffled"),
    ("palate_drill", "kind"): get_args(DrillKind),
}
"""Columns that hold one of these: anything else would be served, judged or shown as what it is not."""
OWN_TO_A_BENCH: dict[str, set[str]] = {
    "bench": {"passphrase_hash", "secret", "scale_address"},
    "trial": {"brought_in_at", "brought_in_from"},
    "seal": {"token_hash", "locked_key", "device_hash"},
    "sheet": {"token_hash"},
    "palate_session": {"helper_hash", "device_hash"},
    "palate_seat": {"token_hash"},
    "change": {"elsewhere"},
}
"""Columns that neither go out nor come in: who is let in by what, and what this bench knows of where a row came from."""
KINDS: tuple[type[Table], ...] = tuple(model for model in (*ALL[:5], *GRINDING, *PALATE, *ALL[5:]) if model not in LEFT_OUT)
"""In an order in which each kind comes after those it points at."""


def name_of(model: type[Table]) -> str:
    return model._meta.table_name


UNDER_WAY: tuple[type[Table], ...] = (LiveBrew, LiveReading)
"""Of brews that are being made: they are in no file, and obey a schema all the same."""
MODELS: dict[str, type[Table]] = {name_of(model): model for model in (*KINDS, *UNDER_WAY)}


def fields_of(model: type[Table]) -> list[pw.Field]:
    """By their columns' names."""
    own = OWN_TO_A_BENCH.get(name_of(model), set())
    return [f for f in model._meta.sorted_fields if f.name not in own]


def key_of(model: type[Table]) -> list[str]:
    """The columns that tell its rows apart."""
    key = model._meta.primary_key
    return [model._meta.fields[n].column_name for n in key.field_names] if isinstance(key, pw.CompositeKey) else [key.column_name]


def to_json(field: pw.Field, value: Any) -> Any:
    """A value as peewee has it, as it stands in the file: moments as ISO 8601 in UTC, masses and the like as numbers."""
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat().replace("+00:00", "Z")
    if isinstance(value, date):
        return value.isoformat()
    return value


def from_json(field: pw.Field, value: Any) -> Any:
    """The other way. Raises ValueError for what cannot be a value of this field."""
    if value is None:
        if field.null or isinstance(field, JSONField):
            return None
        raise ValueError("it is empty")
    if isinstance(field, JSONField):
        return value
    wanted = _json_type(field)
    if not isinstance(value, TYPES[wanted]) or (isinstance(value, bool) and wanted in ("integer", "number")):
        raise ValueError(f"it is no {wanted}")
    if isinstance(field, UtcField):
        moment = datetime.fromisoformat(value.replace("Z", "+00:00"))
        if moment.tzinfo is None:
            raise ValueError("it has no time zone")
        return moment
    if isinstance(field, pw.DateField):
        return date.fromisoformat(value)
    if (allowed := choices_of(field)) and value not in allowed:
        raise ValueError(f"it is none of {', '.join(allowed)}")
    if isinstance(value, str) and (longest := getattr(field, "max_length", None)) and len(value) > longest:
        raise ValueError(f"it has more than {longest} characters")
    if wanted == "integer" and abs(value) > MOST_INTEGER:
        raise ValueError("it is too large")
    if isinstance(field, pw.DecimalField) and abs(value) >= 10 ** (field.max_digits - field.decimal_places):
        raise ValueError("it is too large")
    return float(value) if wanted == "number" else value


MOST_INTEGER = 2**31 - 1


def choices_of(field: pw.Field) -> tuple[str, ...]:
    return CHOICES.get((name_of(field.model), field.column_name), ())


TYPES: dict[str, Any] = {"string": str, "integer": int, "number": (int, float), "boolean": bool}


def _json_type(field: pw.Field) -> str:
    if isinstance(field, pw.BooleanField):
        return "boolean"
    if isinstance(field, pw.IntegerField):
        return "integer"
    if isinstance(field, (pw.DecimalField, pw.FloatField)):
        return "number"
    return "string"


def schema() -> dict[str, Any]:
    """The published JSON Schema of the files (2020-12)."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Brass Penny bench, version {VERSION}",
        "description": "data/<kind>.json holds an array of rows of that kind. Masses g, times s, temperatures °C, strengths and yields %.",
        "$defs": {name_of(model): _row_schema(model) for model in KINDS},
    }


def _row_schema(model: type[Table]) -> dict[str, Any]:
    shown = {f.column_name: _field_schema(model, f) for f in fields_of(model)}
    told = {"description": " ".join((model.__doc__ or "").split())} if model.__doc__ and model.__doc__ != Table.__doc__ else {}
    return told | {"type": "object", "properties": shown, "required": list(shown), "additionalProperties": False}


def _field_schema(model: type[Table], field: pw.Field) -> dict[str, Any]:
    if isinstance(field, JSONField):
        return {}
    kind = _json_type(field)
    out: dict[str, Any] = {"type": [kind, "null"] if field.null else kind}
    if isinstance(field, UtcField):
        out["format"] = "date-time"
    elif isinstance(field, pw.DateField):
        out["format"] = "date"
    elif isinstance(field, pw.ForeignKeyField):
        out["description"] = f"of {name_of(field.rel_model)}"
    elif model is Photo and field.name == "image":
        out["description"] = "the picture's file in photos/"
    if allowed := choices_of(field):
        out["enum"] = list(allowed)
    elif (longest := getattr(field, "max_length", None)) and not isinstance(field, UtcField):
        out["maxLength"] = longest
    return out
