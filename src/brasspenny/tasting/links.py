"""A taster's link: 128 bits made from the bench's secret, of which the database keeps only a hash."""

from __future__ import annotations

import base64
import hashlib
import hmac


def token_of(secret: bytes, sheet_id: str, issue: int) -> str:
    """The token of the sheet's nth link. A new issue makes a new token and leaves the old one worthless."""
    digest = hmac.new(secret, f"sheet:{sheet_id}:{issue}".encode(), hashlib.sha256).digest()[:16]
    return base64.urlsafe_b64encode(digest).decode().rstrip("=")


def hash_of(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).hexdigest()
