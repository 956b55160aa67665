"""The scores of a trial's flipped flights as the core takes them: letters for setups, run ids for brews, blind and sighted apart."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from ..core.judging import Score as CoreScore
from ..core.tasting.sheets import ATTRIBUTE_CODES, GUESS, JAR_PREFIX, LIKING, RANK, SCALES, WORDS
from ..measuring.service import TrialResults
from ..store.models import Flight, FlightCup, Person, Run, Score, Sheet, SheetCup
from ..tasting.schemas import SIGHTED


class Touch(NamedTuple):
    """One answer on one cup whose brew is known."""

    flight: str
    person_id: str
    person: str
    letter: str
    run: str
    cup: str
    pass_name: str
    attribute: str
    value: float | None
    text: str
    position: int


@dataclass
class Tasted:
    """By attribute. tasters: names by id."""

    touches: list[Touch] = field(default_factory=list)
    tasters: dict[str, str] = field(default_factory=dict)

    def scores(self, attribute: str = LIKING) -> list[CoreScore]:
        return [_core(t) for t in self.touches if t.attribute == attribute and t.value is not None]

    def attributes(self) -> list[str]:
        """Scored attributes beside liking, in the order of the sheet."""
        there = {t.attribute for t in self.touches if t.value is not None}
        return [a for a in ATTRIBUTE_CODES if a in there]

    def ranks(self) -> list[CoreScore]:
        return self.scores(RANK)

    def placed(self) -> list[tuple[CoreScore, int]]:
        return [(_core(t), t.position) for t in self.touches if t.attribute == LIKING and t.value is not None]

    def words(self) -> dict[tuple[str, str], list[str]]:
        """(letter, pass) → what was written."""
        out: dict[tuple[str, str], list[str]] = defaultdict(list)
        for t in self.touches:
            if t.attribute == WORDS and t.text:
                out[t.letter, t.pass_name].append(t.text)
        return out

    def jar(self) -> list[tuple[str, str, float, float | None]]:
        """(letter, attribute, step, liking of the same tasting)."""
        liking = {(t.cup, t.person_id, t.pass_name): t.value for t in self.touches if t.attribute == LIKING}
        return [
            (t.letter, t.attribute.removeprefix(JAR_PREFIX), t.value, liking.get((t.cup, t.person_id, t.pass_name)))
            for t in self.touches
            if t.attribute.startswith(JAR_PREFIX) and t.value is not None
        ]

    def guesses(self) -> list[tuple[str, str]]:
        """(what was guessed, what it was), letters."""
        return [(t.text, t.letter) for t in self.touches if t.attribute == GUESS and t.text]


def _core(t: Touch) -> CoreScore:
    return CoreScore(t.flight, t.person_id, t.letter, t.run, t.pass_name, float(t.value))


ANSWERS = """
SELECT s.sheet_id, s.cup_id, s.pass_name, s.attribute, s.value + 0e0, s.text FROM score s JOIN sheet h ON h.id = s.sheet_id WHERE h.flight_id IN ({marks})
"""
"""Six narrow columns: a panel has thousands of answers, and what they belong to is looked up beside them."""


def tasted(results: TrialResults, flights: Sequence[Flight], *, sighted: bool) -> Tasted:
    """Answers of flipped flights on brews that are not deleted, in a fixed order."""
    ids = [f.id for f in flights if f.status == "flipped" and (f.blinding in SIGHTED) == sighted]
    if not ids:
        return Tasted()
    letters = {setup.id: setup.letter for setup, _ in results.setups}
    seats = {
        sheet: (flight, person, name)
        for sheet, flight, person, name in Sheet.select(Sheet.id, Sheet.flight, Sheet.person, Person.name).join(Person).where(Sheet.flight.in_(ids)).tuples()
    }
    cups = {
        cup: (run, letters[setup])
        for cup, run, setup in FlightCup.select(FlightCup.id, Run.id, Run.setup).join(Run).where(FlightCup.flight.in_(ids)).tuples()
        if setup in letters
    }
    places = {
        (sheet, cup): p for sheet, cup, p in SheetCup.select(SheetCup.sheet, SheetCup.cup, SheetCup.position).where(SheetCup.sheet.in_(list(seats))).tuples()
    }
    rows = Score._meta.database.execute_sql(ANSWERS.format(marks=",".join(["%s"] * len(ids))), tuple(ids)).fetchall()
    touches = []
    for sheet, cup, pass_name, attribute, value, text in rows:
        if cup in cups:
            (flight, person, name), (run, letter) = seats[sheet], cups[cup]
            touches.append(Touch(flight, person, name, letter, run, cup, pass_name, attribute, value, text, places.get((sheet, cup), 0)))
    touches.sort(key=lambda t: (t.flight, t.person_id, t.run, t.cup, t.pass_name, t.attribute))
    return Tasted(touches, {t.person_id: t.person for t in touches})


def scale_of(attribute: str) -> tuple[float, float]:
    return SCALES[attribute].low, SCALES[attribute].high
