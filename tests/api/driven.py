"""Calls made up from the OpenAPI document: every operation, its paths, queries, headers and bodies, right, odd and at the limits."""

from __future__ import annotations

import json
import random
from collections.abc import Iterator
from typing import Any

from .described import DOCUMENT

ODD_TEXT = (
    "", " ", "é", "ß" * 256, "x" * 256, "x" * 131_072, "a\nb", "a\tb", "\u2028", "\u202eevil", "'; DROP TABLE run; --", "=1+1", "-1+cmd|' /C'!A0", "<b>", "٣", "²", "null",
    "18 g, 288 g", "bloom 45, to 288 by 1:50", "🫖", "\ud800", "%", "_", "\\", '"', "0" * 40,
)  # fmt: skip
ODD_NUMBERS = (0, -0.0, 5e-324, 1e-9, -1, 1e308, -1e308, 2**63, 2**31, 10**40, 0.1 + 0.2, 1.0000001, 99_999.9999, True)
ODD_DATES = (
    "0001-01-01T00:00:00Z",
    "9999-12-31T23:59:59.999999Z",
    "2026-02-30T10:00:00Z",
    "2026-03-01T09:00:00+14:00",
    "1969-12-31T23:59:59-12:00",
    "2026-03-01",
    "yesterday",
)
ODD_IDS = ("nothinghere1", "é" * 12, "x" * 256, "%00", "..", "²", "a b", "'", "{id}", "🫖", "0")
ODD_HEADERS = ("1", "0", "-1", "²", "1e3", "9" * 40, "", "W/\"1\"", "٣", "1, 2")  # fmt: skip


class Driver:
    """things: kind of thing (the path's part before its id) → an id that is there; token: of a taster's link."""

    def __init__(self, things: dict[str, str], seed: int) -> None:
        self.document = DOCUMENT
        self.things, self.rng = things, random.Random(seed)
        self.operations = [(method, path, op) for path, item in sorted(self.document["paths"].items()) for method, op in sorted(item.items())]

    def calls(self, count: int, *, leave_out: frozenset[str] = frozenset()) -> Iterator[tuple[str, str, dict[str, Any], dict[str, Any]]]:
        """(method, template, how to call it for a Flask client, its operation), each operation in turn."""
        wanted = [o for o in self.operations if o[1] not in leave_out]
        for i in range(count):
            method, path, op = wanted[i % len(wanted)]
            yield method.upper(), path, self._call(path, op), op

    def _call(self, path: str, op: dict[str, Any]) -> dict[str, Any]:
        how: dict[str, Any] = {"path": self._filled(path), "headers": {}, "query_string": {}}
        for parameter in op.get("parameters", []):
            name, place = parameter["name"], parameter["in"]
            if place == "query" and (parameter.get("required") or self.rng.random() < 0.7):
                how["query_string"][name] = self._as_text(self.value(parameter["schema"]))
            if place == "header":
                how["headers"][name] = self.rng.choice(ODD_HEADERS) if self.rng.random() < 0.5 else "1"
        if self.rng.random() < 0.1:
            how["headers"]["Last-Event-ID"] = self.rng.choice(ODD_HEADERS)
        if self.rng.random() < 0.2:
            how["headers"]["X-Penny-Person"] = self.rng.choice(["x", "a" * 12, self.things["people"]])
        how["headers"] = {k: v.encode("latin-1", "replace").decode("latin-1") for k, v in how["headers"].items()}
        body = op.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
        if body:
            sent = self.value(body) if self.rng.random() < 0.97 else self.rng.choice([None, [], 7, "x"])
            how |= {"data": json.dumps(sent).encode("utf-8", "replace"), "content_type": "application/json"}
        return how

    def _filled(self, path: str) -> str:
        kind = path.split("/")[3]
        there = self.things.get(kind, "nothinghere1")
        odd = self.rng.random() < 0.25
        for name in ("id", "token", "field"):
            right = {"id": there, "token": self.things["token"], "field": "dose_g"}[name]
            path = path.replace(f"{{{name}}}", self.rng.choice(ODD_IDS) if odd else right)
        return path

    def _as_text(self, value: Any) -> str:
        return value.encode("utf-8", "replace").decode() if isinstance(value, str) else json.dumps(value)

    def value(self, schema: dict[str, Any], depth: int = 0) -> Any:
        """Mostly what the schema asks for, with now and then something odd in it."""
        rng = self.rng
        if "$ref" in schema:
            return self.value(self.document["components"]["schemas"][schema["$ref"].rsplit("/", 1)[-1]], depth + 1)
        if any(k in schema for k in ("anyOf", "oneOf")):
            return self.value(rng.choice(schema.get("anyOf") or schema["oneOf"]), depth)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return rng.choice(schema["enum"]) if rng.random() < 0.95 else rng.choice(ODD_TEXT)
        kind = schema.get("type")
        if kind == "object" or "properties" in schema:
            return self._object(schema, depth)
        if kind == "array":
            if depth > 6:
                return []
            low, high = schema.get("minItems", 0), schema.get("maxItems", 4)
            return [self.value(schema.get("items", {}), depth + 1) for _ in range(rng.randint(low, max(low, min(high, low + 3))))]
        if kind in ("number", "integer"):
            return self._number(schema, whole=kind == "integer")
        if kind == "boolean":
            return rng.random() < 0.5
        if kind == "null":
            return None
        if kind == "string":
            return self._text(schema)
        return rng.choice([None, 1, "x", [], {}])

    def _object(self, schema: dict[str, Any], depth: int) -> dict[str, Any]:
        out = {}
        for name, inner in schema.get("properties", {}).items():
            if name in schema.get("required", []) or (depth < 6 and self.rng.random() < 0.5):
                out[name] = self.value(inner, depth + 1)
        if isinstance(schema.get("additionalProperties"), dict):
            out |= {f"k{i}": self.value(schema["additionalProperties"], depth + 1) for i in range(self.rng.randint(0, 2))}
        if self.rng.random() < 0.02:
            out["unknown"] = 1
        return out

    def _number(self, schema: dict[str, Any], *, whole: bool) -> Any:
        low = schema.get("minimum", schema.get("exclusiveMinimum", -10))
        high = schema.get("maximum", schema.get("exclusiveMaximum", 1000))
        if self.rng.random() < 0.1:
            return self.rng.choice(ODD_NUMBERS)
        value = self.rng.choice([low, high]) if self.rng.random() < 0.2 else self.rng.uniform(low, min(high, low + 100))
        return int(value) if whole else round(value, 2)

    def _text(self, schema: dict[str, Any]) -> str:
        if schema.get("format") in ("date-time", "date"):
            return self.rng.choice([*ODD_DATES, "2026-03-01T09:00:00Z", "2026-03-01"])
        if self.rng.random() < 0.3:
            return self.rng.choice(ODD_TEXT)
        if "pattern" in schema or self.rng.random() < 0.5:
            return self.rng.choice([*self.things.values(), "11111111-2222-4333-8444-555555555555"])
        return self.rng.choice(["dose_g", "Bo", "A", "ratio", "filter", "1:16", "5.5", "18 g, 288 g, bloom 45 for 40 s, to 288 by 1:50"])


def fault(method: str, how: dict[str, Any], op: dict[str, Any], answer) -> str:
    """What is wrong with an answer, by the document; '' when nothing is."""
    code, kind = answer.status_code, answer.mimetype
    if code >= 500:
        return f"{code}"
    if code >= 400 and kind != "application/problem+json":
        return f"{code} as {kind}"
    if code >= 400 and not answer.get_json(silent=True)["detail"]:
        return f"{code} without a word"
    if code >= 400 and str(code) not in op["responses"] and f"{str(code)[0]}XX" not in op["responses"]:
        return f"{code} is not in the document"
    if code < 400 and str(code) not in op["responses"]:
        return f"{code} is not in the document"
    if code < 400 and kind == "application/json" and answer.get_json(silent=True) is None:
        return "not JSON"
    return ""
