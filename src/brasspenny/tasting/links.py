"""Links of tasters and runners: 128 bits made from the bench's secret, of which the database keeps only a hash."""

from __future__ import annotations

import base64
import hashlib
import hmac
from dataclasses import dataclass

from ..store.models import Sheet


def _token(secret: bytes, what: str) -> str:
    digest = hmac.new(secret, what.encode(), hashlib.sha256).digest()[:16]
    return base64.urlsafe_b64encode(digest).decode().rstrip("=")


def token_of(secret: bytes, sheet_id: str, issue: int) -> str:
    """The token of the sheet's nth link. A new issue makes a new token and leaves the old one worthless."""
    return _token(secret, f"sheet:{sheet_id}:{issue}")


def runner_token_of(secret: bytes, flight_id: str) -> str:
    """The token of a flight's one pour sheet; the key is locked under it."""
    return _token(secret, f"pour:{flight_id}")


def hash_of(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).hexdigest()


@dataclass(frozen=True)
class LinkMaker:
    """The bench's secret, the address its links begin with, and what they end with."""

    secret: bytes
    base: str
    query: str = ""

    def link(self, sheet: Sheet) -> str | None:
        return None if sheet.revoked_at else f"{self.base}/t/{token_of(self.secret, sheet.id, sheet.issue)}{self.query}"

    def runner_token(self, flight_id: str) -> str:
        return runner_token_of(self.secret, flight_id)

    def runner_link(self, flight_id: str) -> str:
        return f"{self.base}/p/{self.runner_token(flight_id)}{self.query}"
