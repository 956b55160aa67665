"""What the columns of a file of scores hold: for whoever reads it with a statistics program."""

from __future__ import annotations

from collections.abc import Iterator

from ..core.tasting.sheets import SCALES
from ..core.vocabulary import PASSES

HEAD = ("kind", "name", "type", "low", "high", "meaning")
COLUMNS: dict[str, tuple[str, str]] = {
    "flight": ("whole number", "cups tasted together, numbered within the trial"),
    "taster": ("text", "who tasted; a taster within a flight is a block"),
    "setup": ("text", "letter of the setup that was compared"),
    "brew": ("whole number", "which brew it was poured from, numbered within the file: brews of one setup are replicates"),
    "pass": ("text", "how cool the cup was when it was scored; empty where passes were not asked for"),
    "cup": ("whole number", "a code on the table, numbered within the file: two cups of one brew in one flight are a hidden duplicate"),
    "attribute": ("text", "what was scored; its scale is below"),
    "score": ("number", "on the attribute's scale, in half points"),
}


def rows() -> Iterator[tuple[str, ...]]:
    yield HEAD
    for name, (kind, meaning) in COLUMNS.items():
        yield "column", name, kind, "", "", meaning
    for p in PASSES:
        yield "pass", p.code, "", f"{p.to_c:g}", f"{p.from_c:g}", f"{p.label}, °C of the cup"
    for code, scale in SCALES.items():
        yield "attribute", code, "number", f"{scale.low:g}", f"{scale.high:g}", f"{scale.label}: {scale.low_word} to {scale.high_word}"
