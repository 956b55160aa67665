"""The host's hands on a running bench: tests/api/host.py over the wire."""

from __future__ import annotations

import json
import urllib.error
import urllib.request
from dataclasses import dataclass
from typing import Any

from tests.api.host import Host
from tests.opened import header_of


@dataclass
class Answer:
    status_code: int
    body: bytes
    mimetype: str

    def get_json(self, silent: bool = False) -> Any:
        try:
            return json.loads(self.body)
        except ValueError:
            if silent:
                return None
            raise


@dataclass
class Wire:
    base: str

    def open(self, path: str, method: str = "GET", json: Any = None, headers: dict[str, str] | None = None) -> Answer:
        asked = urllib.request.Request(
            self.base + path, data=_bytes(json), headers=(headers or {}) | header_of(self.base) | {"Content-Type": "application/json"}, method=method
        )
        try:
            with urllib.request.urlopen(asked) as answer:
                return Answer(answer.status, answer.read(), answer.headers.get_content_type())
        except urllib.error.HTTPError as refused:
            return Answer(refused.code, refused.read(), refused.headers.get_content_type())


def _bytes(body: Any) -> bytes | None:
    return None if body is None else json.dumps(body).encode()


def host_of(base: str) -> Host:
    return Host(Wire(base))
