"""What the core refuses, as a family tree. The HTTP edge maps these to status codes; nothing here knows HTTP.

PennyError
├── OutOfDomain      one field has a value that cannot be
├── Inconsistent     fields that are fine alone and cannot be true together
├── NotEnoughKnowns  a solve was asked with too little
└── BadScores        a score table cannot be judged (row and column named)
"""

from __future__ import annotations


class PennyError(Exception):
    """Root of all refusals. `field` names the input, `reason` says what is wrong, `remedy` what to do."""

    def __init__(self, field: str, reason: str, remedy: str, value: object = None) -> None:
        super().__init__(f"{field}: {reason} {remedy}")
        self.field, self.reason, self.remedy, self.value = field, reason, remedy, value

    def at(self, field: str) -> PennyError:
        """The same refusal named by the field the caller knows it as."""
        return type(self)(field, self.reason, self.remedy, self.value)


class OutOfDomain(PennyError):
    pass


class Inconsistent(PennyError):
    pass


class NotEnoughKnowns(PennyError):
    pass


class BadScores(PennyError):
    pass
