"""Sessions on benches that are served: by the address that the start command printed, as a person at the machine would."""

from __future__ import annotations

import json
import re
import urllib.request

PRINTED = re.compile(r"(https?://\S+?)/#open=(\S+)")
cookies: dict[str, str] = {}
"""Address of a bench → the cookie of its host's browser, name=value."""


def come_in(printed: str) -> str:
    """Use the last address with a key in what was printed; the bench's address. Its cookie stands in `cookies` from then on."""
    base, key = PRINTED.findall(printed)[-1]
    cookies[base] = session_of(base, key)
    return base


def session_of(base: str, key: str) -> str:
    """The cookie that a key is good for, once."""
    asked = urllib.request.Request(f"{base}/api/v1/session", json.dumps({"key": key}).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(asked) as answer:
        (cookie,) = [c for c in answer.headers.get_all("Set-Cookie") if c.startswith("penny_") and "device" not in c.split("=")[0]]
    return cookie.partition(";")[0]


def header_of(base: str) -> dict[str, str]:
    return {"Cookie": cookies[base]} if base in cookies else {}


def cookie_of(base: str) -> list[dict[str, str]]:
    """For a browser's context."""
    if base not in cookies:
        return []
    name, _, value = cookies[base].partition("=")
    return [{"name": name, "value": value, "url": base}]
