"""The scores of a trial's flipped flights as the core takes them: letters for setups, run ids for brews, blind and sighted apart."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field

from ..core.judging import Score as CoreScore
from ..core.sheets import ATTRIBUTE_CODES, GUESS, JAR_PREFIX, LIKING, RANK, SCALES, WORDS
from ..measuring.service import TrialResults
from ..store.models import Flight, FlightCup, Person, Run, Score, Sheet, SheetCup
from ..tasting.schemas import SIGHTED


@dataclass(frozen=True)
class Touch:
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


def tasted(results: TrialResults, flights: Sequence[Flight], *, sighted: bool) -> Tasted:
    """Answers of flipped flights on brews that are not deleted, in a fixed order, in two queries."""
    ids = [f.id for f in flights if f.status == "flipped" and (f.blinding in SIGHTED) == sighted]
    if not ids:
        return Tasted()
    letters = {setup.id: setup.letter for setup, _ in results.setups}
    rows = (
        Score.select(
            Sheet.flight, Sheet.id, Sheet.person, Person.name, Run.setup, Run.id, FlightCup.id, Score.pass_name, Score.attribute, Score.value, Score.text
        )
        .join(Sheet)
        .join(Person)
        .switch(Score)
        .join(FlightCup)
        .join(Run)
        .where(Sheet.flight.in_(ids))
        .order_by(Sheet.flight, Sheet.person, Run.id, FlightCup.id, Score.pass_name, Score.attribute)
        .tuples()
    )
    places = {
        (sheet, cup): p for sheet, cup, p in SheetCup.select(SheetCup.sheet, SheetCup.cup, SheetCup.position).join(Sheet).where(Sheet.flight.in_(ids)).tuples()
    }
    touches = [
        Touch(flight, person, name, letters[setup], run, cup, pass_name, attribute, None if value is None else float(value), text, places.get((sheet, cup), 0))
        for flight, sheet, person, name, setup, run, cup, pass_name, attribute, value, text in rows
        if setup in letters
    ]
    return Tasted(touches, {t.person_id: t.person for t in touches})


def scale_of(attribute: str) -> tuple[float, float]:
    return SCALES[attribute].low, SCALES[attribute].high
