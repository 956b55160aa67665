"""Bring rows written by earlier versions of the open format to the present one."""

from __future__ import annotations

from typing import Any

from .kinds import OWN_TO_A_BENCH

_RENAMED_IN_2 = {"trial", "kit_item", "setup_revision", "change"}


def to_present(kind: str, row: dict[str, Any], version: int) -> dict[str, Any]:
    """Return the row of `kind` under the present names. version: of the file it stands in."""
    if version >= 2:
        return row
    if kind in _RENAMED_IN_2:
        row = _renamed(row, "school", "yield_basis")
    return {column: value for column, value in row.items() if column not in OWN_TO_A_BENCH.get(kind, ())}


def _renamed(value: Any, old: str, new: str) -> Any:
    """`value` with the key `old` called `new` at every depth."""
    if isinstance(value, dict):
        return {new if key == old else key: _renamed(item, old, new) for key, item in value.items()}
    if isinstance(value, list):
        return [_renamed(item, old, new) for item in value]
    return value
