"""Scores as Parquet: what a notebook opens with its types and meanings in place."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any

KINDS = {"whole number": "int32", "number": "float64", "text": "string"}


def parquet_of(rows: Sequence[tuple[str, ...]], columns: Mapping[str, tuple[str, str]]) -> bytes:
    """rows: one cell a column, as text; columns: name → (kind, meaning). An empty cell of a number is missing."""
    import pyarrow as pa  # 50 MB that only who asks for this needs
    from pyarrow import parquet

    fields, arrays = [], []
    for i, (name, (kind, meaning)) in enumerate(columns.items()):
        of_type = getattr(pa, KINDS[kind])()
        fields.append(pa.field(name, of_type, metadata={"meaning": meaning}))
        arrays.append(pa.array([_value(row[i], kind) for row in rows], of_type))
    out = io.BytesIO()
    parquet.write_table(pa.table(arrays, schema=pa.schema(fields)), out, compression="zstd")
    return out.getvalue()


def _value(cell: str, kind: str) -> Any:
    if kind == "text":
        return cell
    return None if cell == "" else int(cell) if kind == "whole number" else float(cell)
