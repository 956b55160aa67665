"""Links of tasters, runners and helpers: 128 bits made from the bench's secret, of which the database keeps only a hash."""

from __future__ import annotations

import base64
import hashlib
import hmac
from dataclasses import dataclass

from .store.models import Sheet


def _token(secret: bytes, what: str) -> str:
    digest = hmac.new(secret, what.encode(), hashlib.sha256).digest()[:16]
    return base64.urlsafe_b64encode(digest).decode().rstrip("=")


def token_of(secret: bytes, sheet_id: str, issue: int) -> str:
    """The token of the sheet's nth link. A new issue makes a new token and leaves the old one worthless."""
    return _token(secret, f"sheet:{sheet_id}:{issue}")


def runner_token_of(secret: bytes, flight_id: str) -> str:
    """The token of a flight's one pour sheet; the key is locked under it."""
    return _token(secret, f"pour:{flight_id}")


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

    def palate_token(self, seat_id: str) -> str:
        return _token(self.secret, f"palate:{seat_id}")

    def palate_link(self, seat_id: str) -> str:
        return f"{self.base}/s/{self.palate_token(seat_id)}{self.query}"

    def helper_token(self, session_id: str) -> str:
        return _token(self.secret, f"helper:{session_id}")

    def helper_link(self, session_id: str) -> str:
        return f"{self.base}/h/{self.helper_token(session_id)}{self.query}"
