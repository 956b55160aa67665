"""Cells of a table file that no program runs."""

from __future__ import annotations

import re

NUMBER = re.compile(r"[+-]?\d+(\.\d+)?(e[+-]?\d+)?", re.ASCII | re.IGNORECASE)


def harmless(cell: str) -> str:
    """Quoted off when it begins like a formula and is no lone number.

    >>> [harmless(c) for c in ("-1.5", "-1+cmd|' /C calc'!A0", "=1+1", "Bo")]
    ['-1.5', "'-1+cmd|' /C calc'!A0", "'=1+1", 'Bo']
    """
    return f"'{cell}" if cell[:1] in tuple("=+-@\t\r") and not NUMBER.fullmatch(cell) else cell
