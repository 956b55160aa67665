"""What a use case refuses, beyond the core's own refusals. app.py alone maps these to status codes."""

from __future__ import annotations


class Refusal(Exception):
    """status: HTTP status the edge answers with; field may be ''; reason and remedy are shown as they stand."""

    status = 409

    def __init__(self, field: str, reason: str, remedy: str) -> None:
        super().__init__(f"{reason} {remedy}")
        self.field, self.reason, self.remedy = field, reason, remedy


class NotFound(Refusal):
    status = 404

    def __init__(self, what: str) -> None:
        super().__init__("", f"There is no such {what}, or it was deleted.", "Go back and open it from its list.")


class Conflict(Refusal):
    """The thing is in a state that does not allow this (a closed flight, a letter used up)."""


class Unprocessable(Refusal):
    status = 422


class LinkRefused(Refusal):
    status = 404

    def __init__(self) -> None:
        super().__init__("", "This link is not known, or it was withdrawn.", "Ask the host for a new link.")


class Locked(Refusal):
    status = 401

    def __init__(self) -> None:
        super().__init__("passphrase", "This bench is locked.", "Give its passphrase, or open the address that it printed when it was started.")


class NoToken(Refusal):
    status = 401

    def __init__(self) -> None:
        super().__init__("", "This token is not known here, or was withdrawn.", "Make a new one under People and phones.")


class NotForScripts(Refusal):
    status = 403


class NotHere(Refusal):
    """Asked from a device that may not ask it."""

    status = 403


class TooMany(Refusal):
    status = 429


class Stale(Refusal):
    """Somebody else wrote first. Carries both versions so that the person can choose."""

    def __init__(self, current: dict, yours: dict) -> None:
        super().__init__("rev", "Somebody changed this while you were editing.", "Look at both versions; keep theirs, or save yours over it.")
        self.current, self.yours = current, yours
