"""A table of particle sizes, as laser and image instruments export it, read into fractions. docs/formulas.md §5.

Two columns are needed: a diameter in µm and a share by volume or mass. A share by number says little of mass and is refused: one boulder outweighs
a thousand fines. Grounds are taken to be equally dense at every size, so that volume and mass are one.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from ..errors import Inconsistent, OutOfDomain
from ..vocabulary import TableKind
from .sieve import MOST_UM, Fraction

MOST_ROWS, MOST_CHARACTERS = 500, 100_000
WHOLE_G = 100.0
"""A table has no mass: its shares are told of so much."""
BY_NUMBER = re.compile(r"\b(number|count|frequency \(n\)|n %)\b", re.IGNORECASE)
DIAMETER = re.compile(r"diam|size|µm|um\b|micron|aperture|x \[", re.IGNORECASE)
FINER = re.compile(r"finer|under|pass|cumul|Q3|below|<", re.IGNORECASE)
COARSER = re.compile(r"coarser|over|retain|above|>", re.IGNORECASE)


@dataclass(frozen=True)
class Table:
    """fractions: the pan first, of 100 g; kind: how its shares were taken; rows read; skipped: lines without two numbers, by number."""

    fractions: tuple[Fraction, ...]
    kind: TableKind
    rows: int
    skipped: tuple[int, ...]


def read_table(text: str, *, kind: TableKind | None = None) -> Table:
    """text: lines of a diameter and a share, with or without a head, split by tab, semicolon or comma; a decimal comma where they are split otherwise. kind: how shares are
    meant; None: as the head and the numbers show. A share of each size lies between the diameter before it and its own.

    Raises OutOfDomain and Inconsistent at `text`, naming the line.

    >>> read_table("diameter;finer than %\\n300;8,5\\n500;24,6\\n800;70,2\\n1100;100").fractions[1]
    Fraction(aperture_um=300.0, mass_g=16.1)
    """
    if len(text) > MOST_CHARACTERS:
        raise OutOfDomain("text", "that is far more than a table of sizes.", f"Send up to {MOST_CHARACTERS} characters.", len(text))
    head, rows, skipped = _rows(text)
    if BY_NUMBER.search(head):
        raise Inconsistent("text", "its shares are by number, which says little of mass.", "Export by volume or by mass.", head.strip()[:60])
    if not 3 <= len(rows) <= MOST_ROWS:
        raise OutOfDomain("text", f"{len(rows)} lines with a diameter and a share.", f"Send 3 to {MOST_ROWS}, as µm and per cent.", len(rows))
    rows = sorted(rows, key=lambda r: r[1])
    for (_, low, _), (line, high, _) in zip(rows, rows[1:], strict=False):
        if high <= low:
            raise Inconsistent("text", f"line {line}: {high:g} µm stands there twice.", "Give every diameter once.", high)
    line, size, _ = next((r for r in rows if not 0 < r[1] <= MOST_UM), (0, 0.0, 0.0))
    if line:
        raise OutOfDomain("text", f"line {line}: {size:g} µm is no size of ground coffee.", f"Give above 0 and up to {MOST_UM:g} µm.", size)
    line, _, wrong = next((r for r in rows if r[2] < 0), (0, 0.0, 0.0))
    if line:
        raise OutOfDomain("text", f"line {line}: a share is 0 or more.", "Export shares in per cent.", wrong)
    found = kind or _kind(head, rows)
    finer = _finer(rows, found)
    return Table(_fractions([size for _, size, _ in rows], finer), found, len(rows), tuple(skipped))


def _rows(text: str) -> tuple[str, list[tuple[int, float, float]], list[int]]:
    """(head, [(line, diameter, share)], lines left out)."""
    lines = text.lstrip("\ufeff").splitlines()
    split = next((mark for mark in ("\t", ";") if any(mark in row for row in lines)), ",")
    at: tuple[int, int] = (0, 1)
    head, rows, skipped = "", [], []
    for number, row in enumerate(lines, 1):
        cells = [c.strip().strip('"') for c in row.split(split)]
        values = [_number(c, comma=split != ",") for c in cells]
        if len(cells) > max(at) and None not in (values[at[0]], values[at[1]]):
            rows.append((number, values[at[0]], values[at[1]]))
        elif row.strip() and not rows:
            head += " " + row
            at = _columns(cells) or at
        elif row.strip():
            skipped.append(number)
    return head, rows, skipped


def _columns(cells: Sequence[str]) -> tuple[int, int] | None:
    """Where diameter and share stand, by their heads: the first diameter, then the first column after it."""
    sizes = [i for i, c in enumerate(cells) if DIAMETER.search(c)]
    return (sizes[0], sizes[0] + 1) if sizes and sizes[0] + 1 < len(cells) else None


def _number(cell: str, *, comma: bool) -> float | None:
    try:
        return float(cell.rstrip("%").strip().replace(",", ".") if comma else cell.rstrip("%").strip())
    except ValueError:
        return None


def _kind(head: str, rows: Sequence[tuple[int, float, float]]) -> TableKind:
    shares = [share for _, _, share in rows]
    if all(a <= b for a, b in zip(shares, shares[1:], strict=False)) and _whole(shares[-1]):
        return "finer"
    if all(a >= b for a, b in zip(shares, shares[1:], strict=False)) and _whole(shares[0]) and COARSER.search(head):
        return "coarser"
    if COARSER.search(head) and not FINER.search(head) and all(a >= b for a, b in zip(shares, shares[1:], strict=False)):
        return "coarser"
    return "each"


def _whole(share: float) -> bool:
    return 0.95 <= share <= 1.001 or 95 <= share <= 100.1


def _finer(rows: Sequence[tuple[int, float, float]], kind: TableKind) -> list[float]:
    """Share finer than each diameter, 0 to 1."""
    shares = [share for _, _, share in rows]
    if kind == "each":
        total = sum(shares)
        if not (0.9 <= total <= 1.1 or 90 <= total <= 110):
            raise Inconsistent("text", f"its shares add up to {total:g}, neither 1 nor 100 %.", "Export all sizes, or say that shares are cumulative.", total)
        out, below = [], 0.0
        for share in shares:
            below += share / total
            out.append(min(1.0, below))
        return out
    top = 1.0 if max(shares) <= 1.001 else 100.0
    out = [share / top if kind == "finer" else 1 - share / top for share in shares]
    worse = next((line for (line, _, _), a, b in zip(rows[1:], out, out[1:], strict=False) if b < a - 1e-9), None)
    if worse is not None or not out[0] >= -1e-3 or out[-1] > 1.002:
        where = f"line {worse}: " if worse else ""
        raise Inconsistent("text", f"{where}a cumulative share only goes one way, within 0 and 100 %.", "Say how its shares are taken.", shares[-1])
    return [min(1.0, max(0.0, x)) for x in out]


def _fractions(sizes: Sequence[float], finer: Sequence[float]) -> tuple[Fraction, ...]:
    """Heaps of 100 g between the diameters; what is finer than the first lies in the pan."""
    edges = [0.0, *finer, 1.0]
    heaps = [round(WHOLE_G * (high - low), 6) for low, high in zip(edges, edges[1:], strict=False)]
    return tuple(Fraction(size, heap) for size, heap in zip([0.0, *sizes], heaps, strict=True))
