"""What a taster learns once the pennies are flipped: what each cup was, how they liked it beside the panel, and what they had guessed. Nothing of it before."""

from __future__ import annotations

from collections import defaultdict
from statistics import fmean

from ..core.tasting.sheets import GUESS, LIKING, RANK
from ..core.trial.tasted import panel_right, picks
from ..store import blind_keys
from ..store.models import FlightCup, Score, Sheet, SheetCup
from ..trials import service as trials
from . import reveal_schemas as s
from .labels import run_labels
from .sheets import open_by_token


def read_reveal(token: str) -> s.RevealAnswer:
    """Their own answers and the panel's means; no other taster's. Before the flip no cup."""
    sheet = open_by_token(token)
    flight = sheet.flight
    if flight.status != "flipped":
        return s.RevealAnswer(flight=flight.number, taster=sheet.person.name, flipped=False, tasters=_seats(flight.id), cups=[], picks=[], panel_right="")
    labels, cups = run_labels(flight.trial_id), blind_keys.cups_of_flights([flight.id]).get(flight.id, ())
    mine, panel, places = _answers(sheet.id), _panel(flight.id, LIKING), _panel(flight.id, RANK)
    picked = [p for p in picks(trials.frozen(flight.trial_id)) if p.flight == flight.id]
    order = {c: i for i, c in SheetCup.select(SheetCup.position, SheetCup.cup).where(SheetCup.sheet == sheet.id).tuples()}
    shown = [
        s.RevealedCup(
            code=cup.code,
            letter=labels[cup.run_id][0],
            setup=labels[cup.run_id][1],
            liking=mine.get((cup.id, LIKING), (None, ""))[0],
            panel=round(panel[cup.id], 2) if cup.id in panel else None,
            place=mine.get((cup.id, RANK), (None, ""))[0],
            panel_place=round(places[cup.id], 1) if cup.id in places else None,
            guessed=mine.get((cup.id, GUESS), (None, ""))[1],
            right=_right(mine.get((cup.id, GUESS)), labels[cup.run_id][0]),
        )
        for cup in sorted(cups, key=lambda c: order.get(c.id, 0))
        if cup.run_id in labels and (not order or cup.id in order)
    ]
    return s.RevealAnswer(
        flight=flight.number,
        taster=sheet.person.name,
        flipped=True,
        tasters=_seats(flight.id),
        cups=shown,
        picks=[p.said for p in picked if p.taster == sheet.person_id],
        panel_right=panel_right(picked),
    )


def _seats(flight_id: str) -> int:
    return Sheet.select().where(Sheet.flight == flight_id).count()


def _right(said: tuple[float | None, str] | None, letter: str) -> bool | None:
    return None if said is None or not said[1] else letter == said[1]


def _answers(sheet_id: str) -> dict[tuple[str, str], tuple[float | None, str]]:
    """(cup, item) → value (the mean over the passes) and text."""
    values, texts = defaultdict(list), {}
    for cup, attribute, value, text in Score.select(Score.cup, Score.attribute, Score.value, Score.text).where(Score.sheet == sheet_id).tuples():
        if value is not None:
            values[cup, attribute].append(value)
        texts[cup, attribute] = text
    return {key: (round(fmean(values[key]), 2) if values.get(key) else None, text) for key, text in texts.items()}


def _panel(flight_id: str, attribute: str) -> dict[str, float]:
    rows = (
        Score.select(Score.cup, Score.value)
        .join(FlightCup, on=(FlightCup.id == Score.cup))
        .where((FlightCup.flight == flight_id) & (Score.attribute == attribute) & Score.value.is_null(False))
    )
    found = defaultdict(list)
    for cup, value in rows.tuples():
        found[cup].append(value)
    return {cup: fmean(values) for cup, values in found.items()}
