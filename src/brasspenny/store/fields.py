"""Column types of the bench: exact decimals, UTC times to the microsecond, random ids."""

from __future__ import annotations

from datetime import UTC, datetime
from decimal import Decimal

import peewee


class UtcField(peewee.DateTimeField):
    """Aware UTC in Python, DATETIME(6) in the database."""

    field_type = "DATETIME(6)"

    def db_value(self, value: datetime | None):
        return None if value is None else value.astimezone(UTC).replace(tzinfo=None)

    def python_value(self, value):
        return value.replace(tzinfo=UTC) if isinstance(value, datetime) else value


class IdField(peewee.FixedCharField):
    """A random wire id. What is no id at all is nobody's: it is compared as an empty one, whatever characters it is made of."""

    def __init__(self, **kwargs) -> None:
        super().__init__(max_length=12, **kwargs)

    def db_value(self, value):
        return "" if isinstance(value, str) and not (value.isascii() and value.isprintable() and len(value) <= 40) else value


class _Exact(peewee.DecimalField):
    """A float in Python, an exact decimal in the database. The edge has already refused more decimals than fit."""

    digits, places = 9, 3

    def __init__(self, **kwargs) -> None:
        super().__init__(max_digits=self.digits, decimal_places=self.places, auto_round=True, **kwargs)

    def db_value(self, value):
        return None if value is None else super().db_value(Decimal(repr(value)))

    def python_value(self, value):
        return None if value is None else float(value)


class MassField(_Exact):
    """g, DECIMAL(9,3)."""


class PercentField(_Exact):
    """TDS and yield in %, DECIMAL(6,3)."""

    digits = 6


class ScoreField(_Exact):
    """DECIMAL(4,2)."""

    digits, places = 4, 2


class CelsiusField(_Exact):
    """°C, DECIMAL(5,2)."""

    digits, places = 5, 2


class SecondsField(_Exact):
    """s, DECIMAL(7,1)."""

    digits, places = 7, 1
