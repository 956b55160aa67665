"""A plain CSV of scores in, a verdict as JSON out.

Columns `flight,taster,setup,brew,pass,attribute,score` in any order; flight, brew and pass may be empty or missing.
UTF-8. Every fault names its row (the header is row 1) and column, and nothing is dropped silently.
"""

from __future__ import annotations

import csv
import difflib
import io
from collections.abc import Iterator, Sequence
from dataclasses import asdict

from ..core.errors import BadScores
from ..core.judging import Judgement, Score
from ..core.judging.answer import Answer, Found, answer
from ..core.judging.segments import find_segments
from ..core.tasting.sheets import LIKING, SCALES

NEEDED = ("taster", "setup", "attribute", "score")
OPTIONAL = ("flight", "brew", "pass")


def read_scores(raw: bytes, *, attribute: str) -> list[Score]:
    """Scores of one attribute. Raises BadScores naming row and column."""
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadScores("file", f"byte {error.start + 1} is not UTF-8.", "Save the file as UTF-8.") from error
    reader = csv.DictReader(io.StringIO(text, newline=""), strict=True)
    try:
        _check_columns(reader.fieldnames)
        scores = list(_rows(reader, attribute))
    except csv.Error as error:
        raise BadScores(f"row {reader.line_num}", f"the row cannot be read: {error}.", "Check its quotes and commas.") from error
    if not scores:
        raise BadScores("attribute", f"no row scores {attribute}.", "Choose another with --attribute.")
    return scores


def scale_of(attribute: str) -> tuple[float, float]:
    """Liking runs from 1 to 9, every other attribute from 0 to 10."""
    return (SCALES[LIKING].low, SCALES[LIKING].high) if attribute == LIKING else (0, 10)


def _check_columns(names: list[str] | None) -> None:
    have = [n.strip().lower() for n in names or []]
    for column in NEEDED:
        if column not in have:
            near = difflib.get_close_matches(column, have, n=1)
            hint = f' Did you mean "{near[0]}"?' if near else ""
            raise BadScores(f"row 1, column {column}", f"the column is missing.{hint}", f"Give the columns {', '.join((*OPTIONAL[:1], *NEEDED))}.")


def _rows(reader: csv.DictReader, attribute: str) -> Iterator[Score]:
    seen: dict[tuple, int] = {}
    low, high = scale_of(attribute)
    for raw in reader:
        row = reader.line_num
        cells = {(k or "").strip().lower(): v for k, v in raw.items()}
        if "" in cells:
            raise BadScores(f"row {row}", "there are more cells than columns.", 'A score takes a decimal point ("6.5"), or quotes around it.')
        cells = {k: (v or "").strip() for k, v in cells.items()}
        if cells["attribute"] != attribute:
            continue
        for column in ("taster", "setup"):
            if not cells[column]:
                raise BadScores(f"row {row}, column {column}", "it is empty.", "Name it.")
        score = Score(
            cells.get("flight", ""), cells["taster"], cells["setup"], cells.get("brew", ""), cells.get("pass", ""), _number(cells["score"], row, low, high)
        )
        place = (score.flight, score.taster, score.setup, score.brew, score.pass_, cells.get("cup", ""))
        if place in seen:
            raise BadScores(f"row {row}", f"row {seen[place]} scores the same cup.", "Delete one, or tell a blind duplicate apart by a column cup.")
        seen[place] = row
        yield score


def _number(text: str, row: int, low: float, high: float) -> float:
    try:
        value = float(text)
    except ValueError:
        raise BadScores(f"row {row}, column score", f'"{text[:20]}" is not a number.', f"Give a number from {low:g} to {high:g}.") from None
    if not low <= value <= high:
        raise BadScores(f"row {row}, column score", f"{value:g} is off the scale.", f"Give a number from {low:g} to {high:g}.")
    return value


def answer_of_scores(j: Judgement, scores: Sequence[Score]) -> Answer:
    """What a plain file of scores answers: which setup, or which for whom."""
    found = asdict(j)
    segments = asdict(find_segments(scores)) if j.attribute == "liking" else None
    return answer(Found({s.setup: s.setup for s in j.setups}, verdict=found["verdict"], lean=found["lean"], setups=found["setups"], segments=segments))


def judgement_json(j: Judgement, said: Answer) -> dict:
    """The verdict as plain values, in the published shape: the answer first; groups only where the panel falls into kinds of drinkers."""
    out = asdict(j)
    del out["verdict"]["headline"]
    out["pass"] = out.pop("pass_")
    groups = {"groups": [asdict(camp) for camp in said.groups]} if said.groups else {}
    first = {"headline": said.headline, "certainty": said.certainty, "action": said.action, **groups}
    return first | {name: out[name] for name in ("attribute", "pass", "setups", "differences", "verdict", "caveats", "evidence_grade", "lean")}
